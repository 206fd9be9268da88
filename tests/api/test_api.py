"""HTTP: problems told as RFC 9457, edits and picks over the wire, and a fuzzed description."""

import json
import threading

import psycopg
import pytest

from baugrund.exchange.project_file import write_project

from .conftest import picked, replied


def edit(http, number, seen, *edits, account="ann"):
    body = {"seen_revision": seen, "edits": edits}
    return http.post(f"/api/projects/{number}/edits", json=body, headers={"X-Account": account})


def test_export_gives_what_import_took(http, house, row_house):
    # the number of its price list is one more than the file has given
    took = row_house.changed(next_id=row_house.next_id + 1)
    assert http.get(f"/api/projects/{house}/export").text == write_project(took)


def test_a_bad_import_leaves_the_database_unchanged(http):
    before = http.get("/api/projects").json()
    for content in (b"{", b'{"format": "baugrund-project", "version": 9}', b"x" * 9_000_000):
        answer = http.post("/api/projects/import", content=content)
        assert answer.status_code == 422
        assert answer.headers["content-type"] == "application/problem+json"
        assert answer.json()["detail"].endswith(".")
    assert http.get("/api/projects").json() == before


def test_an_edit_answers_with_the_balance_and_the_way_back(http, house):
    picked(http, house)
    room = http.get(f"/api/projects/{house}").json()["project"]["rooms"][0]["id"]
    answer = edit(http, house, 0, {"type": "set_tally", "room_id": room, "kind": "camera", "count": 9}).json()
    assert answer["revision"] == 1
    assert answer["undo"] == "set Living room to 9 cameras"
    powered = next(c for c in answer["balance"]["closets"][0]["capacities"] if c["key"] == "powered")
    assert powered["verdict"] == "over"
    assert any(f["key"] == "not-borne" for f in answer["balance"]["findings"])
    back = http.post(f"/api/projects/{house}/undo", headers={"X-Account": "ann"}).json()
    assert not any(f["key"] == "not-borne" for f in back["balance"]["findings"])


def test_a_clash_answers_409_with_both_values(http, house):
    drop = http.get(f"/api/projects/{house}").json()["project"]["drops"][0]["id"]
    change = {"type": "change_drops", "ids": [drop]}
    assert edit(http, house, 0, change | {"changes": {"run_m": 5}}).status_code == 200
    answer = edit(http, house, 0, change | {"changes": {"run_m": 6}}, account="ben")
    assert answer.status_code == 409
    assert answer.json()["clashes"][0]["yours"] == 6
    assert answer.json()["clashes"][0]["theirs"] == 5


@pytest.mark.parametrize(
    ("wrong", "said"),
    [
        ({"type": "change_drops", "ids": [1], "changes": {"run_m": -1}}, "run_m"),
        ({"type": "change_drops", "ids": [], "changes": {}}, "ids"),
        ({"type": "fly"}, "type"),
        ({"type": "set_tally", "room_id": 1, "kind": "camera", "count": 501}, "count"),
        ({"type": "rename", "name": " "}, "name"),
    ],
)
def test_a_wrong_edit_is_one_sentence(http, house, wrong, said):
    answer = edit(http, house, 0, wrong)
    assert answer.status_code == 422
    assert said in answer.json()["detail"]
    assert http.get(f"/api/projects/{house}").json()["revision"] == 0


def test_all_four_answers_and_their_reasons(http, house):
    for aim in ("least_price", "fewest_boxes", "most_room", "least_power"):
        found = picked(http, house, aim)
        assert found["answer"]["proven"] is True
    models = http.get(f"/api/projects/{house}/catalogue").json()["models"]
    taken = {part["model"] for part in found["answer"]["parts"]}
    reasons = replied(http, f"/api/projects/{house}/picks/least_power/reasons")["reply"]["models"]
    in_picks = {kind["key"] for kind in http.get("/api/line-kinds").json() if kind["in_picks"]}
    asked = {model["key"] for model in models if model["kind"] in in_picks}
    assert {reason["model"] for reason in reasons} == asked - taken
    assert all(reason["sentence"].endswith(".") for reason in reasons)


def test_why_not_forces_the_model_in(http, house):
    told = replied(http, f"/api/projects/{house}/picks/least_price/why-not/switch-48")["reply"]
    assert told["more_minor"] > 0
    assert "The least pick with it costs €" in told["sentence"]
    fan = replied(http, f"/api/projects/{house}/picks/least_price/why-not/switch-48m-4f")["reply"]
    assert fan["sentence"] == "The closet is a living space; this one has a fan."


def test_a_capacity_opens_into_its_drops_formula_and_source(http, house):
    picked(http, house)
    opened = http.get(f"/api/projects/{house}/closets/1/capacities/watts").json()
    assert sum(share["amount"] for share in opened["shares"]) >= opened["capacity"]["used"]
    assert "× 1.2 =" in opened["formula"]
    assert "802.3" in opened["source"]
    assert http.get(f"/api/projects/{house}/closets/1/capacities/nothing").status_code == 404


def test_the_quick_line_marks_the_word_that_it_does_not_know(http, house):
    heard = http.post(f"/api/projects/{house}/quick-line", json={"text": "2 cam blorp garden"}).json()
    assert [t["text"] for t in heard["tokens"] if t["role"] == "unknown"] == ["blorp"]
    assert heard["edits"] == []
    assert "blorp" in heard["complaint"]


def test_others_hear_of_an_edit(http, house, database_url):
    heard = []

    def listen():
        with psycopg.connect(database_url, autocommit=True) as connection:
            connection.execute("LISTEN baugrund_edits")
            ready.set()
            heard.extend(json.loads(n.payload) for n in connection.notifies(timeout=10, stop_after=1))

    ready = threading.Event()
    listener = threading.Thread(target=listen)
    listener.start()
    ready.wait(5)
    edit(http, house, 0, {"type": "rename", "name": "Renamed", "site": ""})
    listener.join(12)
    assert heard[0]["project"] == house
    assert heard[0]["told"] == "rename the project to Renamed"


def test_unknown_addresses_are_told(http):
    assert http.get("/api/projects/999999").json()["detail"] == "There is no project 999999."
    assert http.get("/api/projects/999999/state").status_code == 404


def test_a_new_project_starts_empty_and_asks_for_drops(http):
    number = http.post("/api/projects", json={"name": "Fresh", "start_year": 2030}).json()["id"]
    state = http.get(f"/api/projects/{number}/state").json()
    assert state["project"]["settings"]["start_year"] == 2030
    (closet,) = state["balance"]["closets"]
    assert (closet["capacities"], state["balance"]["findings"]) == ([], [])
    assert (state["undo"], state["redo"]) == (None, None)
    found = picked(http, number)
    assert len(found["answer"]["boxes"]) == 1, "a router alone bears nothing"
    assert http.get(f"/api/projects/{number}/closets/1/capacities/ports").status_code == 200
    assert http.delete(f"/api/projects/{number}").status_code == 204
    assert http.get(f"/api/projects/{number}").status_code == 404


def test_the_parts_list_is_had_as_csv(http, house):
    parts = http.get(f"/api/projects/{house}/picks/least_price/parts.csv")
    assert parts.headers["content-type"].startswith("text/csv")
    answer = picked(http, house)["answer"]
    assert f"Total,,,,{answer['price_minor'] / 100:.2f},EUR" in parts.text


def test_a_pick_is_found_once_for_a_revision(http, house, monkeypatch):
    from baugrund.core.answers.picker import Picker

    first = picked(http, house)
    monkeypatch.setattr(Picker, "answer", lambda *_: pytest.fail("found again"))
    assert picked(http, house) == first


def test_a_following_ground_takes_the_boxes_of_the_last_pick_and_held_ones_stay(http, house):
    answer = picked(http, house)["answer"]
    models = [{"closet_id": 1, "model": part["model"], "count": part["quantity"]} for part in answer["parts"]]
    assert edit(http, house, 0, {"type": "hold", "models": models}).json()["balance"]["held"] is True
    dearer = {"type": "set_stance", "model": answer["boxes"][1]["model"], "excluded": True}
    after = edit(http, house, 1, dearer).json()["balance"]
    assert after["closets"][0]["boxes"] == [box["name"] for box in answer["boxes"]]


def test_nothing_fits_answers_with_what_to_relax(http, house):
    closet = {"type": "change_entry", "list": "closets", "id": 1, "changes": {"sockets": 1}}
    assert edit(http, house, 0, closet).status_code == 200
    found = picked(http, house)
    assert found["answer"] is None
    assert [limit["limit"] for limit in found["relax"]] == ["sockets"]
    assert http.get(f"/api/projects/{house}/picks/least_price/parts.csv").status_code == 404
    why = replied(http, f"/api/projects/{house}/picks/least_price/reasons")
    assert (why["reply"], why["underway"]["state"]) == (None, "failed")
    assert why["underway"]["told"] == "Nothing fits yet, so there is no answer to ask about."


def test_undo_with_nothing_to_undo_is_told(http, house):
    answer = http.post(f"/api/projects/{house}/undo")
    assert (answer.status_code, answer.json()["detail"]) == (409, "There is nothing to undo.")


def test_history_and_kinds_and_starters(http, house):
    edit(http, house, 0, {"type": "rename", "name": "N", "site": ""})
    assert [line["told"] for line in http.get(f"/api/projects/{house}/history").json()] == ["rename the project to N"]
    assert len(http.get("/api/kinds").json()) == 17
    starters = http.get("/api/room-starters").json()
    assert [starter["name"] for starter in starters] == ["House", "Office", "Shop", "Workshop", "Clinic"]
    for starter in starters:
        assert edit(http, house, 99, {"type": "add_rooms", "rooms": starter["rooms"]}).status_code == 200
        listed = {"type": "add_list", "name": starter["name"], "drops": starter["drops"]}
        assert edit(http, house, 99, listed).status_code == 200


@pytest.mark.parametrize("account", ["x" * 61, "a\tb", "<b>"])
def test_an_account_has_a_plain_name(http, house, account):
    answer = http.post(f"/api/projects/{house}/undo", headers={"X-Account": account})
    assert answer.status_code == 422


def test_ten_thousand_drops_are_taken_and_edited(http):
    drop = {"room_id": 2, "closet_id": 1, "kind": "jack", "speed_mbit": 1000}
    project = {
        "name": "Big", "settings": {"start_year": 2026}, "next_id": 20_001, "closets": [{"id": 1, "name": "C"}],
        "floors": [{"id": 20_000, "name": "F"}],
        "rooms": [{"id": 2, "name": "R", "floor_id": 20_000}], "drops": [{"id": 3 + n, **drop} for n in range(10_000)],
    }  # fmt: skip
    content = json.dumps({"format": "baugrund-project", "version": 1, "project": project})
    number = http.post("/api/projects/import", content=content).json()["id"]
    change = {"type": "change_drops", "ids": [3], "changes": {"label": "first"}}
    assert edit(http, number, 0, change).json()["balance"]["live"] == 10_000
    over = edit(http, number, 1, {"type": "add_drops", "room": 2, "kind": "jack", "count": 1, "changes": {}})
    assert (over.status_code, "a project holds 10,000 at most" in over.json()["detail"]) == (422, True)


def test_several_closets_are_picked_told_and_held_each_by_itself(http, works):
    added = edit(http, works, 0, {"type": "add_entry", "list": "closets", "values": {"name": "Kiln closet"}}).json()
    far = added["project"]["closets"][-1]["id"]
    kiln = next(room["id"] for room in added["project"]["rooms"] if room["name"] == "Kiln room")
    there = [drop["id"] for drop in added["project"]["drops"] if drop["room_id"] == kiln]
    assert (
        edit(http, works, 1, {"type": "change_drops", "ids": there, "changes": {"closet_id": far}}).status_code == 200
    )
    answer = picked(http, works)["answer"]
    assert [closet["name"] for closet in answer["closets"]] == ["Plant room closet", "Kiln closet"]
    models = [
        {"closet_id": closet["closet_id"], "model": model, "count": count}
        for closet in answer["closets"]
        for model, count in closet["models"].items()
    ]
    held = edit(http, works, 2, {"type": "hold", "models": models}).json()["balance"]
    assert [closet["borne"] for closet in held["closets"]] == [True, True]
    assert [len(closet["boxes"]) for closet in held["closets"]] == [
        sum(box["closet_id"] == closet["closet_id"] for box in answer["boxes"]) for closet in answer["closets"]
    ]
    opened = http.get(f"/api/projects/{works}/closets/{far}/capacities/ports").json()
    assert {share["drop_id"] for share in opened["shares"]} - {None} == set(there)
    flows = http.get(f"/api/projects/{works}/traffic").json()["flows"]
    assert [link["closet_id"] for link in flows["links"] if link["between_closets"]] == [far]
    let_go = edit(http, works, 3, {"type": "hold", "models": []}).json()["balance"]
    assert let_go["held"] is False


def test_what_is_held_twice_for_one_closet_is_refused_with_its_place(http, works):
    twice = [{"closet_id": 1, "model": "switch-8", "count": 1}] * 2
    refused = edit(http, works, 0, {"type": "hold", "models": twice})
    assert refused.status_code == 422
    assert "holdings holds (1, 'switch-8') twice" in refused.json()["detail"]
    nowhere = edit(http, works, 0, {"type": "hold", "models": [{"closet_id": 99, "model": "switch-8", "count": 1}]})
    assert nowhere.status_code == 422
    assert "names closet 99, which is not there" in nowhere.json()["detail"]


def test_the_drill_takes_growth_and_another_budget_and_refuses_what_is_no_budget(http, works):
    assert http.get(f"/api/projects/{works}/drill").json()["drills"] == []
    picked(http, works)
    box = http.get(f"/api/projects/{works}/drill").json()["drills"][0]
    assert all(step["fed"] for step in box["steps"])
    small = http.get(f"/api/projects/{works}/drill", params={"budget_w": 40}).json()["drills"][0]
    assert [step["fed"] for step in small["steps"]].count(False) > 0
    assert all(step["given_w"] <= 40 for step in small["steps"])
    grown = http.get(f"/api/projects/{works}/drill", params={"with_reserve": True}).json()["drills"][0]
    assert len(grown["steps"]) >= len(box["steps"])
    assert http.get(f"/api/projects/{works}/drill", params={"budget_w": -1}).status_code == 422
    assert http.get(f"/api/projects/{works}/drill", params={"budget_w": 5001}).status_code == 422
