"""Cover over HTTP: views and targets, a view standing up, who sees a spot, what is kept, best places."""

import pytest

from .conftest import replied
from .test_api import edit


def test_every_view_comes_with_bands_that_lie_in_each_other(http, works):
    found = http.get(f"/api/projects/{works}/cover").json()
    assert found["revision"] == 0 and len(found["views"]) == 10
    for view in found["views"]:
        areas = [band["area_m2"] for band in view["bands"]]
        assert areas == sorted(areas, reverse=True) and view["bands"][0]["detail"] == "detect"
    ground = http.get(f"/api/projects/{works}/cover", params={"height_m": 0}).json()
    assert ground["views"][0]["looked_at_m"] == 0


def test_every_view_of_the_demo_stands_up(http, works, house):
    for project in (works, house):
        for view in http.get(f"/api/projects/{project}/cover").json()["views"]:
            asked = {"drop_id": view["drop_id"]}
            section = http.get(f"/api/projects/{project}/cover/section", params=asked)
            assert section.status_code == 200, view["name"]
            assert section.json()["lower_deg"] > section.json()["upper_deg"]
    nothing = http.get(f"/api/projects/{works}/cover/section", params={"drop_id": 1})
    assert nothing.status_code == 404 and "no camera" in nothing.json()["detail"]


def test_who_sees_a_spot_is_told_the_best_first(http, works):
    project = http.get(f"/api/projects/{works}").json()["project"]
    ground = next(floor["id"] for floor in project["floors"] if floor["name"] == "Ground floor")
    seen = http.get(f"/api/projects/{works}/cover/spot", params={"floor_id": ground, "x_m": 17, "y_m": 11}).json()
    assert (seen[0]["name"], seen[0]["seen"]) == ("Camera, Shop", True)
    assert [one["seen"] for one in seen] == sorted((one["seen"] for one in seen), reverse=True)
    missing = http.get(f"/api/projects/{works}/cover/spot", params={"floor_id": 999, "x_m": 1, "y_m": 1})
    assert missing.status_code == 404


def test_the_low_sun_is_told_for_every_view_and_not_without_a_place(http, works):
    suns = http.get(f"/api/projects/{works}/cover/sun").json()
    assert len(suns) == 10 and any(one["sun"]["days"] > 0 for one in suns)
    assert edit(http, works, 0, {"type": "change_settings", "changes": {"north_deg": None}}).status_code == 200
    assert all(one["sun"] is None for one in http.get(f"/api/projects/{works}/cover/sun").json())


def test_what_is_kept_comes_with_the_least_price_that_keeps_it(http, works):
    found = http.get(f"/api/projects/{works}/footage").json()
    assert found["goals"][0]["met"] is False and 22 < found["goals"][0]["least_days"] < 25
    assert found["least"]["proven"] and found["least"]["boxes"]
    assert all(found["names"][box["disk"]] for box in found["least"]["boxes"])


def test_best_places_are_found_on_the_queue_and_taken_by_their_edits(http, works):
    reply = replied(http, f"/api/projects/{works}/cover/best")["reply"]
    fewest = next(answer for answer in reply["answers"] if answer["aim"] == "fewest")
    assert fewest["proven"] and reply["unmet"] == []
    assert edit(http, works, 0, *fewest["edits"]).status_code == 200
    assert all(target["met"] for target in http.get(f"/api/projects/{works}/cover").json()["targets"])


@pytest.mark.parametrize(("list", "values", "sentence"), [
    ("views", {"field_deg": 0}, "field_deg"), ("views", {"field_deg": 361}, "field_deg"),
    ("targets", {"name": "x", "shape": "line", "points": [[1, 1], [1, 1]]}, "the line has no length"),
    ("openings", {"x_m": 1, "y_m": 1, "width_m": 0}, "width_m"),
    ("plots", {"outline": [[0, 0], [1, 1], [1, 0], [0, 1]]}, "must not cross itself"),
])  # fmt: skip
def test_what_cannot_be_is_refused_with_a_sentence_and_changes_nothing(http, works, list, values, sentence):
    project = http.get(f"/api/projects/{works}").json()["project"]
    camera = next(drop["id"] for drop in project["drops"] if drop["kind"] == "camera")
    of = {"views": {"drop_id": camera}, "plots": {}}.get(list, {"floor_id": project["floors"][0]["id"]})
    answer = edit(http, works, 0, {"type": "add_entry", "list": list, "values": {**of, **values}})
    assert answer.status_code == 422 and sentence in answer.json()["detail"]
    assert http.get(f"/api/projects/{works}").json()["revision"] == 0
