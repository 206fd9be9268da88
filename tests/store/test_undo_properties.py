"""Any sequence of edits undone gives the first state, redone the last: against the real database."""

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from baugrund.core.edits import AddRooms, NewRoom, apply_edits
from baugrund.core.errors import BaugrundError
from baugrund.core.facts.project import empty_project

from ..core.test_edits import any_edit
from .test_projects import by_content


def without_counter(project):
    """Content but for the number from which ids are given, which never falls."""
    return by_content(project) | {"next_id": None}


@given(st.lists(any_edit, min_size=1, max_size=12))
@settings(
    max_examples=25, deadline=None, derandomize=True, suppress_health_check=[HealthCheck.function_scoped_fixture]
)  # fmt: skip
def test_undone_is_the_first_state_and_redone_the_last(projects, edits):
    start = apply_edits(empty_project("P", 2026), [AddRooms(rooms=(NewRoom(name="R"),))])
    number = projects.create(start)
    revision, done = 0, 0
    for edit in edits:
        try:
            stored = projects.edit(number, [edit], revision, "ann")
        except BaugrundError:
            continue
        done += stored.revision - revision
        revision = stored.revision
    last = projects.load(number).project
    for _ in range(done):
        projects.undo(number, "ann")
    assert without_counter(projects.load(number).project) == without_counter(start)
    assert projects.steps(number, "ann").undo is None
    for _ in range(done):
        projects.redo(number, "ann")
    assert without_counter(projects.load(number).project) == without_counter(last)
    assert projects.steps(number, "ann").redo is None
    assert len(projects.history(number)) == 3 * done


def test_history_tells_who_did_what(projects, row_house):
    number = projects.create(row_house)
    room = row_house.rooms[0].id
    from baugrund.core.edits import SetTally

    projects.edit(number, [SetTally(room_id=room, kind="desk", count=1)], 0, "ann")
    projects.edit(number, [SetTally(room_id=room, kind="phone", count=2)], 1, "ben")
    projects.undo(number, "ann")
    lines = [(entry.account, entry.act, entry.told, entry.state) for entry in projects.history(number)]
    assert lines == [
        ("ann", "undo", "set Living room to 1 desk", "done"),
        ("ben", "edit", "set Living room to 2 phones", "done"),
        ("ann", "edit", "set Living room to 1 desk", "undone"),
    ]
