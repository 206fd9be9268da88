"""Stack over HTTP: what stands in closets, arrangements on the queue taken by their edits, elevations and lists."""

import ezdxf

from baugrund.core.standards.stack import UNIT_MM

from .conftest import picked, replied
from .test_api import edit


def test_what_stands_follows_an_edit_and_pits_open(http, works):
    picked(http, works)
    found = http.get(f"/api/projects/{works}/stack").json()
    (here,) = found["closets"]
    assert found["revision"] == 0 and {line["kind"] for line in found["lines"]} >= {"ups", "shelf", "panel"}
    assert {one["rule"] for one in here["broken"]} == {"place", "depth", "air"}
    assert [life["met"] for life in found["power_cut"]["lives"]] == [False, False, True]
    ups = next(one for one in here["things"] if one["kind"] == "ups")
    more = {"type": "add_entry", "list": "gear", "values": {"closet_id": 1, "kind": "fan", "free_m3_h": 300}}
    assert edit(http, works, 0, more).status_code == 200
    after = http.get(f"/api/projects/{works}/stack").json()["closets"][0]
    assert after["warmth"]["top_c"] < here["warmth"]["top_c"] and ups["outlets"] == 4
    for key, unit in (("battery", "min"), ("heat", "°C")):
        opened = http.get(f"/api/projects/{works}/closets/1/capacities/{key}").json()
        assert opened["capacity"]["unit"] == unit and opened["shares"] and opened["formula"]
    assert http.get(f"/api/projects/{works}/closets/1/capacities/nothing").status_code == 404


def test_an_arrangement_is_found_on_the_queue_and_breaks_nothing_once_taken(http, works):
    picked(http, works)
    best = replied(http, f"/api/projects/{works}/stack/proposals")["reply"]["closets"][0]
    steady = best["rack"]["steady"]
    assert steady["proven"] and len(steady["left_out"]) == 4
    assert best["housing"]["housing"]["model"] == "rack-floor-24" and best["ups"]["best"]
    assert edit(http, works, 0, *best["edits"]).status_code == 200
    here = http.get(f"/api/projects/{works}/stack").json()["closets"][0]
    wrong = [one for one in here["broken"] if one["rule"] not in ("place", "depth")]
    assert wrong == [], "the recorder is too deep for this rack, wherever it stands"
    assert {one["thing"] for one in steady["puts"]} >= {"panel/1", "box/router-2wan-8-sfp/1"}


def test_a_wall_panel_is_laid_out_around_its_pipe_clamp(http, school):
    picked(http, school)
    barn = replied(http, f"/api/projects/{school}/stack/proposals")["reply"]["closets"][1]
    assert barn["rack"] is None and len(barn["flat"]["left_out"]) == 1, "the clamp leaves no room for all"
    assert edit(http, school, 0, *barn["edits"]).status_code == 200
    here = http.get(f"/api/projects/{school}/stack").json()["closets"][1]
    assert {one["rule"] for one in here["broken"]} == {"place"}


def test_elevations_and_the_loading_list_are_taken_along(http, works, tmp_path):
    picked(http, works)
    svg = http.get(f"/api/projects/{works}/closets/1/elevation.svg").text
    assert "UPS, 600 W" in svg and "1:20" in svg
    file = tmp_path / "elevation.dxf"
    file.write_bytes(http.get(f"/api/projects/{works}/closets/1/elevation.dxf").content)
    shapes = [shape for shape in ezdxf.readfile(file).modelspace() if shape.dxf.layer == "CLOSETS"]
    highs = {round(max(y for _, y in shape.get_points("xy")) - min(y for _, y in shape.get_points("xy")), 4)
             for shape in shapes}  # fmt: skip
    assert highs == {round(12 * UNIT_MM / 1000, 4)}, "true to scale in metres"
    rows = http.get(f"/api/projects/{works}/stack/loading.csv").text.splitlines()
    assert rows[1].split(",")[2].startswith('"UPS') or "UPS" in rows[1]
    assert http.get(f"/api/projects/{works}/closets/99/elevation.svg").status_code == 404
    replied(http, f"/api/projects/{works}/sheets/stack")
    assert http.get(f"/api/projects/{works}/sheets/stack/pdf").content.startswith(b"%PDF")
