"""Signal over HTTP: levels drawn, spots asked, goals, channels and places on the queue, the survey."""

from .conftest import replied
from .test_api import edit


def floor_of(http, project, name="Ground floor"):
    floors = http.get(f"/api/projects/{project}").json()["project"]["floors"]
    return next(floor["id"] for floor in floors if floor["name"] == name)


def test_what_wifi_reaches_is_told_and_follows_an_edit(http, works):
    found = http.get(f"/api/projects/{works}/signal").json()
    assert found["revision"] == 0 and found["bands"] == ["2.4", "5"] and len(found["stations"]) == 7
    assert [line["met"] for line in found["goals"]] == [True, False]
    assert found["goals"][1]["worst"]["hidden_by"] == "Kiln racks"
    hall = found["stations"][0]
    change = {"type": "change_drops", "ids": [hall["drop_id"]], "changes": {"x_m": 1.0, "y_m": 1.0}}
    assert edit(http, works, 0, change).status_code == 200
    after = http.get(f"/api/projects/{works}/signal").json()
    assert (after["revision"], after["stations"][0]["x_m"]) == (1, 1.0)


def test_a_floor_is_drawn_and_a_grid_that_is_too_fine_is_refused(http, works):
    at = {"floor_id": floor_of(http, works), "band": "5"}
    for shown in ("strongest", "second", "answers", "unheard"):
        drawn = http.get(f"/api/projects/{works}/signal/picture", params={**at, "shown": shown})
        assert drawn.status_code == 200 and drawn.json()["shown"] == shown
    rows = http.get(f"/api/projects/{works}/signal/grid.csv", params=at).text.splitlines()
    assert len(rows) == 1569 and rows[0].startswith("\ufeffx m,y m,Room,Strongest dBm")
    fine = http.get(f"/api/projects/{works}/signal/picture", params={**at, "step_m": 0.05})
    assert fine.status_code == 422
    refused = http.get(f"/api/projects/{works}/signal/picture", params={**at, "step_m": 0.1})
    assert refused.status_code == 200
    bare = http.get(f"/api/projects/{works}/signal/picture", params={**at, "floor_id": 999})
    assert bare.status_code == 404


def test_it_is_cut_open_and_moves_for_looks_are_told(http, works):
    cut = http.get(f"/api/projects/{works}/signal/cut", params={"band": "5", "axis": "x", "at_m": 4.0}).json()
    assert len({room["low_m"] for room in cut["rooms"]}) == 3 and cut["picture"]["contours"]
    beside = http.get(f"/api/projects/{works}/signal/cut", params={"band": "5", "axis": "y", "at_m": 900}).json()
    assert beside["rooms"] == [] and beside["picture"] is None
    first = http.get(f"/api/projects/{works}/signal").json()["stations"][0]["drop_id"]
    (look,) = http.get(f"/api/projects/{works}/signal/moved", params={"drop_id": first}).json()
    assert look["look"] == "in_line" and [goal["now"] for goal in look["goals"]]
    spot = http.get(f"/api/projects/{works}/signal/moved", params={"drop_id": first, "x_m": 1, "y_m": 1}).json()
    assert (spot[0]["look"], spot[0]["x_m"]) == ("spot", 1)
    assert http.get(f"/api/projects/{works}/signal/moved", params={"drop_id": 9999}).status_code == 404


def test_what_is_heard_at_a_spot_adds_up(http, works):
    at = {"floor_id": floor_of(http, works), "x_m": 25, "y_m": 12}
    heard = http.get(f"/api/projects/{works}/signal/spot", params=at).json()
    assert [one["dbm"] for one in heard] == sorted((one["dbm"] for one in heard), reverse=True)
    for one in heard:
        assert abs(one["eirp_dbm"] - one["dbm"] - sum(part["db"] for part in one["parts"])) < 0.05
    assert any(part["what"] == "metal wall" for one in heard for part in one["parts"])


def test_channels_are_found_on_the_queue_and_taken_by_their_edits(http, works):
    reply = replied(http, f"/api/projects/{works}/signal/channels")["reply"]
    low = next(band for band in reply["bands"] if band["band"] == "2.4")
    plan = next(plan for plan in low["plans"] if plan["width_mhz"] == low["best_width"])
    assert plan["proven"] and plan["shared"] < low["now_shared"]
    assert edit(http, works, 0, *plan["edits"]).status_code == 200
    told = http.get(f"/api/projects/{works}/signal").json()["stations"]
    radios = [radio for station in told for radio in station["radios"] if radio["band"] == "2.4"]
    assert abs(sum(radio["shared"] for radio in radios) - plan["shared"]) < 0.01


def test_places_are_found_on_the_queue_and_meet_their_goals(http, works):
    reply = replied(http, f"/api/projects/{works}/signal/best")["reply"]
    fewest = next(answer for answer in reply["answers"] if answer["aim"] == "fewest")
    assert fewest["proven"] and reply["unmet"] == []
    assert edit(http, works, 0, *fewest["edits"]).status_code == 200
    told = http.get(f"/api/projects/{works}/signal").json()
    assert all(line["met"] for line in told["goals"]) and len(told["stations"]) == len(fewest["stations"])


def test_a_survey_comes_in_as_a_list_and_is_laid_beside_the_prediction(http, works):
    before = http.get(f"/api/projects/{works}/signal/survey").json()
    assert {walk["name"] for walk in before["walks"]} == {"before", "after"}
    assert before["correction"]["after_db"] < before["correction"]["before_db"]
    content = http.get(f"/api/projects/{works}/signal/readings.csv").content
    read = http.post(f"/api/projects/{works}/signal/readings/read", content=content)
    assert read.status_code == 200 and len(read.json()["edits"]) == len(before["readings"])
    wrong = http.post(f"/api/projects/{works}/signal/readings/read", content=b"Floor,Band,dBm\nAttic,5,-60\n")
    assert wrong.status_code == 422 and "line 2: Floor" in wrong.json()["detail"]


def test_what_is_on_screen_can_be_taken_along(http, works):
    at = {"floor_id": floor_of(http, works), "band": "5"}
    svg = http.get(f"/api/projects/{works}/signal/plan.svg", params=at).text
    assert 'id="SIGNAL"' in svg and "-67 dBm" in svg and "Access point, Shop: 100/40" in svg
    assert "SIGNAL" in http.get(f"/api/projects/{works}/signal/plan.dxf", params=at).text
    rows = http.get(f"/api/projects/{works}/signal/channels.csv").text.splitlines()
    assert len(rows) == 15 and rows[1].split(",")[-8:-5] == ["1", "20", "16.5"]
    replied(http, f"/api/projects/{works}/sheets/signal")
    assert http.get(f"/api/projects/{works}/sheets/signal/pdf").content.startswith(b"%PDF")


def test_a_walk_with_a_phone_is_told_and_odd_corners_are_refused(http, works):
    at = {"floor_id": floor_of(http, works), "band": "5"}
    walk = http.get(f"/api/projects/{works}/signal/walk", params={**at, "corners": "2 4,18 4"}).json()
    assert walk["moves"] == 1 and walk["clings_m"] > 0
    assert abs(sum(one["length_m"] for one in walk["stretches"]) - 16) < 0.1
    for corners, status in (("1 2", 422), ("1 2,x 4", 422), ("1 2,1.2.3 4", 422), ("0 0,0 3000", 422)):
        told = http.get(f"/api/projects/{works}/signal/walk", params={**at, "corners": corners})
        assert told.status_code == status, corners
    silent = http.get(f"/api/projects/{works}/signal/walk", params={**at, "band": "6", "corners": "2 4,18 4"})
    assert silent.status_code == 404
