"""Reach over HTTP: kinds of path, runs with their pieces, cable to buy."""

from baugrund.core.facts.path_kinds import PATH_KINDS

from .test_api import edit


def test_the_kinds_of_path_come_with_their_cautions_and_an_air_duct_is_none_of_them(http):
    kinds = {kind["key"]: kind for kind in http.get("/api/path-kinds").json()}
    assert set(kinds) == set(PATH_KINDS)
    assert "joists or boards only" in kinds["loft"]["caution"]
    assert not any("air" in kind["name"] for kind in kinds.values())


def test_every_run_comes_with_pieces_that_add_up(http, works):
    found = http.get(f"/api/projects/{works}/reach").json()
    assert found["revision"] == 0
    for run in found["runs"]:
        assert abs(sum(piece["length_m"] for piece in run["stretches"]) - run["computed_m"]) < 0.06
    assert round(sum(run["length_m"] for run in found["runs"]), 1) == found["total_m"]
    ways = http.get(f"/api/projects/{works}/layout").json()["ways"]
    assert all(len(way["floor_ids"]) == len(way["corners"]) - 1 >= 1 for way in ways)
    names = {path["path_id"]: path["drop_ids"] for path in found["paths"]}
    assert any(len(drops) > 40 for drops in names.values())


def test_a_path_added_over_http_changes_the_runs_at_once_and_undo_brings_them_back(http, house):
    before = http.get(f"/api/projects/{house}/reach").json()
    project = http.get(f"/api/projects/{house}").json()["project"]
    ground = next(floor["id"] for floor in project["floors"] if floor["name"] == "Ground floor")
    values = {"name": "Short cut", "kind": "tray", "floor_id": ground, "points": [[3.6, 4.7], [0.4, 4.7], [0.4, 0.4]]}
    added = edit(http, house, 0, {"type": "add_entry", "list": "paths", "values": values})
    assert added.status_code == 200
    after = http.get(f"/api/projects/{house}/reach").json()
    assert after["runs"] != before["runs"]
    assert http.post(f"/api/projects/{house}/undo", headers={"X-Account": "ann"}).status_code == 200
    assert http.get(f"/api/projects/{house}/reach").json()["runs"] == before["runs"]


def test_a_path_that_cannot_be_is_told_with_its_place(http, house):
    project = http.get(f"/api/projects/{house}").json()["project"]
    values = {"name": "Point", "floor_id": project["floors"][0]["id"], "points": [[1, 1]]}
    answer = edit(http, house, 0, {"type": "add_entry", "list": "paths", "values": values})
    assert answer.status_code == 422
    assert "must go on to another floor" in answer.json()["detail"]


def test_cable_is_told_in_whole_boxes_with_marks_that_follow_on(http, works):
    for line in http.get(f"/api/projects/{works}/cable").json():
        assert line["total_minor"] == line["price_minor"] * len(line["boxes"])
        assert line["proven"]
        for box in line["boxes"]:
            ends = [0.0, *(cut["to_m"] for cut in box["cuts"])]
            assert [cut["from_m"] for cut in box["cuts"]] == ends[:-1]
            assert round(ends[-1] + box["rest_m"], 2) == line["box_m"]
