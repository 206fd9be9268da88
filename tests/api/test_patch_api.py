"""Patch over HTTP: the port list, a pin, networks, and the files that are taken along."""

import csv
import io
import json

from openpyxl import load_workbook

from baugrund.exchange.box_settings import BoxSettings

from .conftest import picked
from .test_api import edit


def test_a_port_list_is_plugged_pinned_and_taken_along(http, works):
    picked(http, works)
    found = http.get(f"/api/projects/{works}/patch").json()
    (here,) = found["closets"]
    assert found["revision"] == 0 and here["proven"]
    assert edit(http, works, 0, here["edit"]).status_code == 200
    again = http.get(f"/api/projects/{works}/patch").json()["closets"][0]
    assert again["moves"] == 0 and [one["at_port"] for one in again["lines"]] == [
        one["at_port"] for one in here["lines"]
    ]
    free = next(
        port for face in here["faces"] for port in face["ports"] if face["kind"] != "panel" and not port["line"]
    )
    assert free["number"] or free["name"][0] in "SW"
    desk = next(one for one in again["lines"] if one["kind"] == "desk" and one["port"])
    pin = {"type": "pin_cord", "drop_id": desk["drop_id"], "box": "box/none/1", "port": 1}
    assert edit(http, works, 1, pin).status_code == 200
    told = http.get(f"/api/projects/{works}/patch").json()["closets"][0]
    assert told["unheld"] == [desk["drop_id"]] and told["moves"] == 1, "a pin to a box that is not there"
    rows = list(csv.DictReader(io.StringIO(http.get(f"/api/projects/{works}/patch/ports.csv").text.lstrip("\ufeff"))))
    assert len(rows) == len(told["lines"])
    row = next(one for one in rows if one["Label"] == desk["label"])
    assert (row["Position"], row["Pinned"], row["Moved from"].split()[-1]) == (desk["at_panel"], "yes", "?/1")
    book = load_workbook(io.BytesIO(http.get(f"/api/projects/{works}/patch/ports.xlsx").content))
    assert book.active.max_row == len(rows) + 1


def test_networks_are_set_up_told_on_findings_and_written_for_boxes(http, works):
    picked(http, works)
    bare = edit(http, works, 0, {"type": "use_networks", "template": "workshop"}).json()
    networks = {one["name"]: one["id"] for one in bare["project"]["networks"]}
    opens = {"type": "set_permission", "from_id": networks["Guests"], "to_id": networks["Office"], "access": "all"}
    told = edit(http, works, 1, opens).json()["balance"]["findings"]
    (finding,) = [one for one in told if one["verb"] == "patch" and one["weight"] != "note"]
    assert finding["settle"]["edit"]["access"] == "nothing"
    found = http.get(f"/api/projects/{works}/patch").json()
    assert len(found["homes"]) == len(bare["project"]["drops"])
    settings = BoxSettings.model_validate(json.loads(http.get(f"/api/projects/{works}/patch/settings.json").text))
    assert {one.number for one in settings.networks} >= {10, 30, 40, 99}
    numbers = {one for box in settings.boxes for port in box.ports for one in (port.native, *port.tagged) if one}
    assert numbers <= {one.number for one in settings.networks} and len(settings.boxes) == len(found["trunks"]["boxes"])
    powered = [port for box in settings.boxes for port in box.ports if port.power]
    assert powered and all(port.priority for port in powered)
    wrong = {"type": "set_permission", "from_id": networks["Guests"], "to_id": 999_999, "access": "all"}
    assert edit(http, works, 2, wrong).status_code == 404
    odd = {**opens, "access": "services", "services": ["mail"]}
    answer = edit(http, works, 2, odd)
    assert answer.status_code == 422 and "there is no service" in answer.text
