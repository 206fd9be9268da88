"""What stands in closets is found once a state: an edit begins from the last one, and views of a state share it."""

import pytest

from baugrund.api import standing


@pytest.fixture
def found(monkeypatch):
    """How often grounds were found, and from how many closets that were known."""
    calls, find = [], standing.grounds_of

    def counted(project, catalogue, boxes, known=()):
        calls.append(len(known))
        return find(project, catalogue, boxes, known)

    monkeypatch.setattr(standing, "grounds_of", counted)
    return calls


def an_edit(http, number, metres):
    state = http.get(f"/api/projects/{number}/state").json()
    drop = state["project"]["drops"][0]["id"]
    change = {"type": "change_drops", "ids": [drop], "changes": {"run_m": metres}}
    sent = {"seen_revision": state["revision"], "edits": [change]}
    return http.post(f"/api/projects/{number}/edits", json=sent).json()


def test_an_edit_begins_from_the_grounds_of_the_state_before(http, house, found):
    an_edit(http, house, 21.0)
    found.clear()
    first = an_edit(http, house, 22.0)
    assert found and all(found), "something was known"
    again = http.get(f"/api/projects/{house}/state").json()
    assert again["balance"] == first["balance"]


def test_views_of_one_state_share_what_stands(http, house, found):
    an_edit(http, house, 23.0)
    found.clear()
    for view in ("state", "load", "stack", "patch", "price"):
        assert http.get(f"/api/projects/{house}/{view}").status_code == 200, view
    assert found == []
