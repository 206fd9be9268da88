"""Patch over HTTP: addresses, labels, what switches tell, questions; files that are damaged, and rooms that are gone."""

import csv
import io
import json

import pytest
from openpyxl import Workbook

from baugrund.core.patch.networks import network_of

from .conftest import picked
from .test_api import edit


def rows_of(answer):
    assert answer.status_code == 200 and "attachment" in answer.headers["content-disposition"]
    return list(csv.DictReader(io.StringIO(answer.text.lstrip("\ufeff"))))


def asked(http, project, text):
    answer = http.post(f"/api/projects/{project}/quick-line", json={"text": text})
    assert answer.status_code == 200
    return answer.json()


def test_addresses_are_kept_listed_and_refused_at_their_cell(http, works, projects):
    picked(http, works)
    plan = http.get(f"/api/projects/{works}/patch").json()["addresses"]
    assert plan["wrong"] == [] and plan["edit"]["type"] == "keep_addresses"
    assert edit(http, works, 0, plan["edit"]).status_code == 200
    kept = http.get(f"/api/projects/{works}/patch").json()["addresses"]
    assert kept["edit"] is None and [one["address"] for one in kept["kept"]] == [one["address"] for one in plan["kept"]]
    rows = rows_of(http.get(f"/api/projects/{works}/patch/addresses.csv"))
    networks = projects.load(works).project.networks
    assert [row["Address"] for row in rows if row["What"] == "prefix"] == [one.prefix for one in networks]
    assert sum(row["What"] == "kept" for row in rows) == len(kept["kept"])
    guests = next(one for one in networks if one.name == "Guests")
    for prefix, why in (("10.20.30.1/24", "is no prefix"), ("8.8.8.0/24", "RFC 1918"), ("10.20.30.0/31", "no room")):
        change = {"type": "change_entry", "list": "networks", "id": guests.id, "changes": {"prefix": prefix}}
        answer = edit(http, works, 1, change)
        assert answer.status_code == 422 and why in answer.json()["detail"]
    narrow = {"type": "change_entry", "list": "networks", "id": guests.id, "changes": {"hosts": 500}}
    told = edit(http, works, 1, narrow).json()["balance"]["findings"]
    assert any("Guests wants 753 addresses with growth" in one["text"] for one in told)


def test_labels_go_to_a_printer_once_and_again_when_they_change(http, works, projects):
    assert rows_of(http.get(f"/api/projects/{works}/patch/labels.csv")) == [], (
        "all of the demo's labels are on their cables"
    )
    drop = projects.load(works).project.drops[0]
    change = {"type": "change_drops", "ids": [drop.id], "changes": {"label": "=1+1"}}
    assert edit(http, works, 0, change).status_code == 200
    (row,) = rows_of(http.get(f"/api/projects/{works}/patch/labels.csv"))
    assert (row["Text"], row["Copies"], row["Replaces"]) == ("'=1+1", "2", f"{drop.id:03d}"), "no cell is executed"
    put = edit(http, works, 1, {"type": "put_labels", "drop_ids": [drop.id], "day": "2026-12-01"})
    assert put.status_code == 200 and rows_of(http.get(f"/api/projects/{works}/patch/labels.csv")) == []
    assert edit(http, works, 2, {"type": "put_labels", "day": "1066-10-14"}).status_code == 422


def test_the_simulated_switch_tells_the_same_for_one_seed_and_comes_in_by_the_door_of_tables(http, works):
    picked(http, works)
    address = f"/api/projects/{works}/patch/simulated-switch"
    told = http.get(address, params={"seed": 5})
    assert told.json() == http.get(address, params={"seed": 5}).json() != http.get(address, params={"seed": 6}).json()
    read = http.post(f"/api/projects/{works}/patch/discovered/read", content=told.content)
    assert read.status_code == 200
    (kept,) = read.json()["edits"]
    assert edit(http, works, 0, kept).status_code == 200
    compared = http.get(f"/api/projects/{works}/patch").json()["compared"]
    kinds = {one["kind"] for one in compared["differences"]}
    assert kinds == {"swapped", "dead", "slow", "network", "unknown"}
    first = next(one for one in compared["differences"] if one["kind"] == "slow")
    assert edit(http, works, 1, *first["take"]).status_code == 200
    after = http.get(f"/api/projects/{works}/patch").json()["compared"]
    assert first["row_id"] not in {one["row_id"] for one in after["differences"]}
    assert http.get(address, params={"seed": -1}).status_code == 422
    assert http.get("/api/projects/999999/patch/simulated-switch").status_code == 404


def test_a_neighbour_table_comes_as_csv_xlsx_or_json_and_damaged_ones_are_one_sentence(http, works):
    picked(http, works)
    door = f"/api/projects/{works}/patch/discovered/read"
    book = Workbook()
    for row in (["Port", "MAC", "VLAN"], ["2/1", "02:00:5e:00:00:01", 10], ["2/2", "", None]):
        book.active.append(row)
    file = io.BytesIO()
    book.save(file)
    text = b"Port,MAC,VLAN\n2/1,0200.5e00.0001,10\n2/2,,\n"
    told = [{"port": "2/1", "mac": "02-00-5e-00-00-01", "vlan": 10}, {"port": "2/2", "mac": None, "vlan": None}]
    read = [
        http.post(door, content=content).json()["edits"]
        for content in (file.getvalue(), text, json.dumps(told).encode())
    ]
    assert read[0] == read[1] == read[2] and len(read[0][0]["ports"]) == 2
    for content, why in (
        (b"", "no table"), (b"[1, 2]", "no list of objects"), (b"{\"ports\": []}", "no list of objects"), (b"[", "no JSON"),
        (b"[" * 5000, "no JSON"), (b"Port\n99/1\n", "there is no box"), (b"Name\nx\n", "no column Port"),
    ):  # fmt: skip
        answer = http.post(door, content=content)
        assert answer.status_code == 422 and why in answer.json()["detail"], content[:20]
    many = json.dumps([{"port": "2/1"}] * 10_001).encode()
    assert "10,000 are the most" in http.post(door, content=many).json()["detail"]
    wide = json.dumps([{f"c{n}": n for n in range(201)}]).encode()
    assert "200 are the most" in http.post(door, content=wide).json()["detail"]


def test_the_quick_line_answers_and_an_answer_changes_nothing(http, works, projects):
    picked(http, works)
    here = http.get(f"/api/projects/{works}/patch").json()["closets"][0]
    camera = next(one for one in here["lines"] if one["kind"] == "camera" and one["port"])
    told = asked(http, works, f"port {camera['at_port']}")
    assert told["edits"] == [] and told["drop_ids"] == [camera["drop_id"]] and camera["label"] in told["answer"][0]
    more = asked(http, works, "can i add 2 desk shop")
    assert more["answer"][0].startswith("2 desks, Shop") and len(more["edits"]) == 1
    assert len(projects.load(works).project.drops) == 46
    assert edit(http, works, 0, *more["edits"]).status_code == 200
    assert len(projects.load(works).project.drops) == 48
    plain = asked(http, works, "2 desk shop")
    assert plain["answer"] == [] and plain["told"] == "2 desks, Shop"
    assert asked(http, works, "free positions")["answer"][0].startswith("Plant room closet: ")


def test_a_network_that_goes_takes_its_row_and_its_permissions_along_and_comes_back_with_an_undo(http, works, projects):
    before = projects.load(works).project
    guests = next(one for one in before.networks if one.name == "Guests")
    gone = edit(http, works, 0, {"type": "remove_entry", "list": "networks", "id": guests.id}).json()["project"]
    assert guests.id not in {one["id"] for one in gone["networks"]}
    assert not any(guests.id in (one["from_id"], one["to_id"]) for one in gone["permissions"])
    assert [one["network_id"] for one in gone["wifi_names"] if one["name"] == "dye works guests"] == [None]
    assert http.post(f"/api/projects/{works}/undo", headers={"X-Account": "ann"}).status_code == 200
    assert projects.load(works).project.networks == before.networks
    assert projects.load(works).project.permissions == before.permissions


@pytest.mark.parametrize("edits", [
    {"type": "move_to_network", "drop_ids": [1], "network_id": None}, {"type": "cameras_into", "network_id": 999_999},
    {"type": "pin_cord", "drop_id": 999_999, "box": "b", "port": 1}, {"type": "patch_cords", "closet_id": 77, "cords": []},
    {"type": "tell_discovered", "ports": [{"closet_id": 77, "box": "b", "port": 1}]},
])  # fmt: skip
def test_edits_of_what_is_not_there_are_404_and_change_nothing(http, works, projects, edits):
    before = projects.load(works)
    assert edit(http, works, 0, edits).status_code == 404
    assert projects.load(works).project == before.project


def test_every_drop_of_the_demo_has_its_network_in_the_plan(http, works, projects):
    homes = http.get(f"/api/projects/{works}/patch").json()["homes"]
    project = projects.load(works).project
    assert homes == {str(number): network.id for number, network in network_of(project).items()}


def test_cords_are_taken_along_by_length_and_colour(http, works):
    picked(http, works)
    told = http.get(f"/api/projects/{works}/patch").json()["cords"]
    rows = rows_of(http.get(f"/api/projects/{works}/patch/cords.csv"))
    assert sum(int(row["Count"]) for row in rows) == told["count"] > 40
    assert {row["Colour"] for row in rows} >= {"green", "blue", "red"} and {row["Category"] for row in rows} == {"6"}
    assert sum(int(row["Count"]) for row in rows if not row["Length m"]) == told["unknown"]
    terms = {"type": "change_settings", "changes": {"cords_from": "home_made", "cord_category": "6A"}}
    assert edit(http, works, 0, terms).status_code == 200
    made = rows_of(http.get(f"/api/projects/{works}/patch/cords.csv"))
    assert {(row["Category"], row["From"]) for row in made} == {("6A", "home-made")}


@pytest.mark.parametrize(("stock", "why"), [
    ({"width_mm": 3}, "greater than or equal to 4"), ({"width_mm": 60, "height_mm": 20, "columns": 4}, "the page is 210"),
    ({"width_mm": 40, "height_mm": 12, "print_mm": 13}, "13 mm are printed on"),
])  # fmt: skip
def test_a_stock_that_cannot_be_is_refused_with_its_reason(http, works, stock, why):
    values = {"name": "Odd", "height_mm": 12, **stock}
    answer = edit(http, works, 0, {"type": "add_entry", "list": "stocks", "values": values})
    assert answer.status_code == 422 and why in answer.json()["detail"]
