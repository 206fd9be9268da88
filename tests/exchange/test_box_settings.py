"""Settings of boxes as a file that names no maker: complete, by its schema, and the port list as rows."""

import csv
import io
import json

import pytest

from baugrund.core.answers.picker import standing_boxes
from baugrund.core.edits import (
    AddEntry,
    ChangeDrops,
    ChangeEntry,
    Held,
    Hold,
    MoveToNetwork,
    PinCord,
    SetPermission,
    apply_edits,
)
from baugrund.core.patch.networks import port_networks
from baugrund.core.patch.told import patch_of
from baugrund.core.stack.told import stack_of
from baugrund.core.standing.ground import grounds_of
from baugrund.exchange.box_settings import BoxSettings, schema, write_box_settings
from baugrund.exchange.port_list import HEAD, write_ports_csv

from ..conftest import ROOT


@pytest.fixture(scope="module")
def held(dye_works):
    models = {"router-2wan-8-sfp": 1, "switch-48m-24at": 1, "switch-8m-25at": 2}
    hold = Hold(models=[Held(closet_id=1, model=key, count=count) for key, count in models.items()])
    return apply_edits(dye_works.changed(patches=()), [hold])


def told_of(project, catalogue):
    grounds = grounds_of(project, catalogue, standing_boxes(project, catalogue, None))
    return patch_of(project, grounds, stack_of(project, catalogue, grounds), better=False)


def settings_of(project, catalogue):
    return json.loads(write_box_settings(project, told_of(project, catalogue).trunks))


def test_the_published_schema_is_that_of_the_program_and_names_what_is_written(held, catalogue):
    published = json.loads((ROOT / "docs" / "formats" / "box-settings.schema.json").read_text("utf-8"))
    assert published == schema()
    written = settings_of(held, catalogue)
    assert set(written) == set(published["properties"]) and (written["format"], written["version"]) == (
        "baugrund-box-settings", 1,
    )  # fmt: skip
    assert BoxSettings.model_validate(written).project == held.name


def test_every_port_of_a_drop_says_its_network_its_power_and_its_priority(held, catalogue):
    project = apply_edits(held, [ChangeDrops(ids=[held.drops[1].id], changes={"priority": "critical"})])
    written, told = settings_of(project, catalogue), told_of(project, catalogue)
    number = {one.id: one.number for one in project.networks}
    lines = {
        (line.box, line.at_port.partition("/")[2]): line for here in told.closets for line in here.lines if line.box
    }
    seen = set()
    for box in written["boxes"]:
        for port in box["ports"]:
            line = lines[box["thing"], port["port"]]
            if line.drop_id is None:
                assert port["use"] in ("link", "uplink", "feed") and not port["power"]
                continue
            carries = port_networks(project)[line.drop_id]
            assert (port["native"], port["tagged"]) == (
                number[carries.native], sorted(number[one] for one in carries.tagged),
            )  # fmt: skip
            assert port["power"] is (line.watts > 0)
            assert port["priority"] == project.drops_by_id[line.drop_id].priority
            seen.add(line.drop_id)
    assert seen == {line.drop_id for line in lines.values() if line.drop_id is not None}
    assert "critical" in {port["priority"] for box in written["boxes"] for port in box["ports"]}


def test_only_what_differs_from_the_usual_is_said_of_who_may_open_what(held, catalogue):
    written = settings_of(held, catalogue)["may_open"]
    said = {(one["source"], one["target"]): (one["access"], one["services"]) for one in written}
    assert said[30, 30] == ("nothing", []) and said[30, 10] == ("services", ["printing"]) and (10, 10) not in said
    office, guests = (next(one.id for one in held.networks if one.name == name) for name in ("Office", "Guests"))
    shut = apply_edits(held, [SetPermission(from_id=guests, to_id=office, access="nothing")])
    assert (30, 10) not in {(one["source"], one["target"]) for one in settings_of(shut, catalogue)["may_open"]}


def test_names_devices_and_links_follow_an_edit(held, catalogue):
    first = settings_of(held, catalogue)
    assert {one["name"]: one["network"] for one in first["wifi_names"]} == {
        "dye works": 10, "dye works guests": 30, "kilns": 20,
    }  # fmt: skip
    assert all(one["native"] == 99 for one in first["links"]) and len(first["links"]) == len(first["boxes"]) - 1
    lonely = AddEntry(list="wifi_names", values={"name": "Spare"})
    assert settings_of(apply_edits(held, [lonely]), catalogue)["wifi_names"][-1] == {"name": "Spare", "network": None}
    points = [one.id for one in held.drops if one.kind == "access_point"]
    kilns = next(one for one in held.wifi_names if one.name == "kilns")
    only = ChangeEntry(list="wifi_names", id=kilns.id, changes={"drop_ids": points[-1:]})
    devices = {one["drop_id"]: one["tagged"] for one in settings_of(apply_edits(held, [only]), catalogue)["devices"]}
    assert devices[points[-1]] == [10, 20, 30] and devices[points[0]] == [10, 30]


def test_without_networks_the_file_has_boxes_of_none(held, catalogue):
    clients = tuple(one.model_copy(update={"wifi_name_id": None}) for one in held.clients)
    bare = held.changed(networks=(), wifi_names=(), permissions=(), clients=clients)
    written = settings_of(bare, catalogue)
    assert (written["networks"], written["boxes"], written["links"]) == ([], [], [])


def test_the_port_list_as_rows_names_every_line_once_with_its_network_and_moves(held, catalogue):
    desk = next(one for one in held.drops if one.kind == "desk")
    things = next(one.id for one in held.networks if one.name == "Things")
    pinned = apply_edits(held, [PinCord(drop_id=desk.id, box="box/gone/1", port=3),
                                MoveToNetwork(drop_ids=[desk.id], network_id=things)])  # fmt: skip
    told = told_of(pinned, catalogue)
    rows = list(csv.DictReader(io.StringIO(write_ports_csv(pinned, told))))
    assert list(rows[0]) == HEAD and len(rows) == sum(len(here.lines) for here in told.closets)
    row = next(one for one in rows if one["Label"] == f"{desk.id:03d}")
    assert (row["Network"], row["Pinned"], row["Moved from"], row["Room"]) == (
        "25", "yes", "?/3", pinned.rooms_by_id[desk.room_id].name,
    )  # fmt: skip
    ports = [one["Port"] for one in rows if one["Port"]]
    assert len(ports) == len(set(ports))
    access = next(one for one in rows if one["What"].startswith("Access point"))
    assert access["Network"] == "99" and access["Tagged"].split() == ["10", "20", "30"] and float(access["Takes W"]) > 0
