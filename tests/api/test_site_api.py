"""Closets, links, pulls, setting out and drawings over HTTP."""

import pytest

from .conftest import picked, replied
from .test_api import edit


def test_siting_is_found_on_the_queue_and_an_answer_is_taken_and_undone(http, works):
    told = replied(http, f"/api/projects/{works}/siting")
    assert (told["revision"], told["recommended"]) == (0, 2)
    siting = told["reply"]
    best = siting["best"][1]
    places = siting["places"]
    taken = [
        {**{key: places[site["place"]][key] for key in ("room_id", "x_m", "y_m")}, "drop_ids": site["drop_ids"]}
        for site in best["closets"]
    ]
    assert edit(http, works, 0, {"type": "place_closets", "sites": taken}).status_code == 200
    project = http.get(f"/api/projects/{works}").json()["project"]
    assert len(project["closets"]) == 2
    again = replied(http, f"/api/projects/{works}/siting")
    assert again["reply"]["now"]["total_minor"] == best["total_minor"], "what was promised stands"
    links = http.get(f"/api/projects/{works}/links").json()["links"]
    assert [link["options"][link["chosen"]]["medium"] for link in links] == ["fibre"]
    assert http.post(f"/api/projects/{works}/undo", headers={"X-Account": "ann"}).status_code == 200
    after = http.get(f"/api/projects/{works}").json()["project"]
    assert (len(after["closets"]), {d["closet_id"] for d in after["drops"]}) == (1, {1})


def test_siting_of_a_project_that_is_not_there_is_told(http):
    assert http.get("/api/projects/999/siting").status_code == 404


def test_a_cable_is_ticked_off_as_pulled(http, works):
    bundles = http.get(f"/api/projects/{works}/pulls").json()["bundles"]
    cable = next(cable for cable in bundles[0]["cables"] if not cable["pulled"])
    change = {"type": "change_drops", "ids": [cable["drop_id"]], "changes": {"pulled": True}}
    assert edit(http, works, 0, change).status_code == 200
    after = http.get(f"/api/projects/{works}/pulls").json()["bundles"][0]["cables"]
    assert next(one for one in after if one["drop_id"] == cable["drop_id"])["pulled"]


def test_where_a_device_stands_is_recorded_over_http(http, works):
    devices = http.get(f"/api/projects/{works}/setting-out").json()["devices"]
    device = next(one for one in devices if one["built"] is None)
    record = {"type": "record_built", "drop_id": device["drop_id"], "first_m": 1.0, "second_m": 1.25, "why": "pipe"}
    assert edit(http, works, 0, record).status_code == 200
    after = http.get(f"/api/projects/{works}/setting-out").json()
    built = next(one for one in after["devices"] if one["drop_id"] == device["drop_id"])
    assert built["built_offsets"] == [1.0, 1.25] and built["built_why"] == "pipe"
    assert set(after["labels"]) == {str(one["drop_id"]) for one in after["devices"]}
    record["first_m"] = -1
    refused = edit(http, works, 1, record)
    assert refused.status_code == 422 and "first_m" in refused.json()["detail"]


@pytest.mark.parametrize(
    ("address", "media_type", "start"),
    [
        ("sheets/pulls/pdf", "application/pdf", b"%PDF"),
        ("sheets/setting-out/pdf", "application/pdf", b"%PDF"),
        ("section.svg?axis=across", "image/svg+xml", b"<svg"),
        ("section.dxf", "image/vnd.dxf", b"  0\nSECTION"),
        ("cable-parts.csv", "text/csv; charset=utf-8", b"\xef\xbb\xbfGroup"),
    ],
)
def test_drawings_and_sheets_are_had_as_files(http, works, address, media_type, start):
    answer = http.get(f"/api/projects/{works}/{address}")
    assert answer.status_code == 200
    assert answer.headers["content-type"] == media_type
    assert "attachment" in answer.headers["content-disposition"]
    assert answer.content.startswith(start)


def test_a_sheet_is_made_once_a_state_and_day(http, works, database):
    path = f"/api/projects/{works}/sheets/pulls"
    assert http.get(path).json()["ready"] is False
    first = http.get(f"{path}/pdf").content
    assert http.get(path).json() == {"revision": 0, "ready": True, "underway": None}
    assert http.get(f"{path}/pdf").content == first, "it is not made again"
    with database.connection() as connection:
        connection.execute(
            "UPDATE questions SET reply = jsonb_set(reply, '{made}', '\"2020-02-29\"') WHERE project_id = %s", (works,)
        )
    assert http.get(path).json()["ready"] is False, "it bears another day's date"
    assert http.get(f"{path}/pdf").content.startswith(b"%PDF")
    assert edit(http, works, 0, {"type": "change_settings", "changes": {"units": "imperial"}}).status_code == 200
    assert http.get(path).json()["ready"] is False
    assert http.get(f"{path}/pdf").content != first


def test_a_sheet_that_there_is_not_is_refused(http, works):
    assert http.get(f"/api/projects/{works}/sheets/walls").status_code == 422


def test_the_plan_of_a_floor_is_had_and_one_that_is_not_there_is_told(http, works):
    floor = http.get(f"/api/projects/{works}").json()["project"]["floors"][0]["id"]
    assert http.get(f"/api/projects/{works}/floors/{floor}/plan.dxf").status_code == 200
    assert b"Plant room" in http.get(f"/api/projects/{works}/floors/{floor}/plan.svg").content
    missing = http.get(f"/api/projects/{works}/floors/9999/plan.svg")
    assert missing.status_code == 404 and "no floor 9999" in missing.json()["detail"]
    assert http.get(f"/api/projects/{works}/floors/{floor}/plan.png").status_code == 422


def test_load_adds_up_per_closet_and_per_box_once_boxes_are_picked(http, house):
    before = http.get(f"/api/projects/{house}/load").json()
    assert before["boxes"] == [] and len(before["runs"]) == 5
    assert before["closets"][0]["powered"]["class_w"] == sum(run["class_w"] for run in before["runs"])
    assert picked(http, house)["answer"]
    after = http.get(f"/api/projects/{house}/load").json()
    seated = {int(drop_id): box for drop_id, box in after["box_of"].items()}
    assert sum(box["powered"]["drops"] for box in after["boxes"]) == len(seated) <= 5
    for number, box in enumerate(after["boxes"]):
        mine = [run["counted_w"] for run in after["runs"] if seated.get(run["drop_id"]) == number]
        assert abs(sum(mine) - box["powered"]["counted_w"]) < 1e-6
        assert box["mains_w"] >= box["own_w"] + sum(mine)
        assert box["counted_w"] <= box["budget_w"] + 1e-6
