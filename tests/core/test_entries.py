"""Every list of entries comes, changes and goes alike; what an entry names must be there; limits from both sides."""

from datetime import date

import pytest
from pydantic import TypeAdapter

from baugrund.core.edits import (
    AddDrops,
    AddEntry,
    AddRooms,
    ChangeEntry,
    Edit,
    NewRoom,
    RemoveEntry,
    apply_edits,
    as_sent,
)
from baugrund.core.edits.entries import LISTS, ListName
from baugrund.core.errors import InvalidInput, NotFound
from baugrund.core.facts.project import NUMBERED, REFERENCES, Project, empty_project

ROOM, CAMERA, ACCESS_POINT, NETWORK, ANNEXE = 4, 5, 6, 7, 8
"""Number of the room in the project below: after the closet, its building and its floor."""

FLOOR = 3
OF_ACCESS_POINTS = ("radios", "neighbours", "readings")
ONCE = ("permissions", "patches", "reserved", "printed", "cable_networks")
"""Lists whose rows are told apart by what they name."""

EXAMPLES = {
    "lines": ({"name": "Line", "down_mbit": 100, "up_mbit": 10}, {"box": "routing"}, "add the line Line"),
    "goals": ({"kind": "battery", "level": 10.0}, {"level": 20.0}, "add the goal"),
    "clients": ({"name": "Phones", "count": 3}, {"band_6": True}, "add the clients Phones"),
    "services": ({"kind": "alarm"}, {"must_survive": False}, "add the service"),
    "kit": ({"name": "Switch"}, {"fate": "later"}, "add the kit Switch"),
    "measures": ({"name": "Cord"}, {"ended": True}, "add the temporary measure Cord"),
    "declined": ({"advice": "Fibre"}, {"day": "2026-02-03"}, "add the declined advice Fibre"),
    "duties": ({"task": "Holes"}, {"who": "owner"}, "add the duty Holes"),
    "additions": ({"kind": "desk", "count": 2, "years": 3}, {"years": 4}, "add the planned addition of 2 desks"),
    "buildings": ({"name": "Barn"}, {"state": "open"}, "add the building Barn"),
    "floors": ({"name": "Loft"}, {"height_m": 2.1}, "add the floor Loft"),
    "paths": (
        {"name": "Tray", "floor_id": FLOOR, "points": [[0, 0], [4, 0]]},
        {"inner_mm": 25.0},
        "add the path Tray",
    ),
    "path_rates": ({"kind": "loft"}, {"hours_per_m": 0.5}, "add the rate of a path"),
    "task_rates": ({"task": "plate", "hours": 0.4}, {"hours": 0.3}, "add the hours of a task plate"),
    "cables": ({"category": "6"}, {"box_m": 500.0}, "add the cable"),
    "colours": ({"kind": "camera", "colour": "green"}, {"colour": "blue"}, "add the colour of cameras"),
    "fibres": ({"grade": "OM3", "minor_per_m": 90}, {"strands": 12}, "add the fibre"),
    "candidates": ({"room_id": ROOM}, {"cool": True, "ruled_out": True}, "add the place for a closet"),
    "landmarks": ({"name": "Flue", "floor_id": FLOOR, "x_m": 1.0, "y_m": 2.0}, {"x_m": 3.0}, "add the landmark Flue"),
    "walls": (
        {"floor_id": FLOOR, "x_m": 1.0, "y_m": 2.0, "to_x_m": 4.0, "to_y_m": 2.0},
        {"material": "brick", "thickness_mm": 115},
        "add the wall",
    ),
    "openings": ({"kind": "window", "floor_id": FLOOR, "x_m": 1.0, "y_m": 2.0}, {"sill_m": 0.5}, "add the opening"),
    "plots": (
        {"name": "Own ground", "outline": [[0, 0], [9, 0], [9, 9]]},
        {"name": "Ours"},
        "add the boundary Own ground",
    ),
    "views": ({"drop_id": CAMERA}, {"bearing_deg": 90.0, "tilt_deg": 15.0}, "add the view"),
    "targets": ({"name": "Gate", "floor_id": FLOOR, "points": [[1, 2]]}, {"detail": "identify"}, "add the target Gate"),
    "radios": ({"drop_id": ACCESS_POINT, "band": "5"}, {"channel": 36}, "add the radio"),
    "obstacles": (
        {"name": "Racks", "floor_id": FLOOR, "outline": [[0, 0], [2, 0], [2, 1]]},
        {"height_m": 3.0},
        "add the obstacle Racks",
    ),
    "neighbours": (
        {"drop_id": ACCESS_POINT, "band": "5", "channel": 36, "dbm": -70.0},
        {"busy_percent": 40.0},
        "add the neighbour",
    ),
    "readings": (
        {"floor_id": FLOOR, "x_m": 1.0, "y_m": 2.0, "band": "5", "dbm": -61.0},
        {"drop_id": ACCESS_POINT, "device": "tablet"},
        "add the reading",
    ),
    "gear": ({"closet_id": 1, "kind": "ups", "name": "UPS"}, {"ah": 12.0, "units": 3}, "add the thing UPS"),
    "placings": ({"closet_id": 1, "thing": "panel/1"}, {"unit": 4, "fixed": True}, "add the place of a thing"),
    "panel_blocks": (
        {"closet_id": 1, "name": "Pipe", "x_mm": 10, "y_mm": 20, "width_mm": 60, "height_mm": 80},
        {"x_mm": 30},
        "add the block of a panel Pipe",
    ),
    "lifelines": ({"name": "Phone", "drop_id": CAMERA}, {"minutes": 30.0}, "add the service on battery Phone"),
    "losses": ({"make": "brick", "band": "5", "db": 9.5}, {"make": "floor-concrete"}, "add the loss"),
    "offsets": ({"device": "tablet", "db": -3.0}, {"db": 2.0}, "add the offset of a device"),
    "closets": ({"name": "Shed"}, {"units": 4, "link": "fibre"}, "add the closet Shed"),
    "entries": ({"name": "Street", "room_id": ROOM}, {"x_m": 1.0, "y_m": 2.0}, "add the entry Street"),
    "networks": ({"name": "Lab", "number": 70}, {"prefix": "10.20.70.0/24", "internet": False}, "add the network Lab"),
    "wifi_names": ({"name": "Works"}, {"network_id": NETWORK}, "add the Wi-Fi name Works"),
    "permissions": (
        {"from_id": NETWORK, "to_id": NETWORK, "access": "nothing"},
        {"access": "all", "reason": "One household."},
        "add the permission",
    ),
    "patches": ({"closet_id": 1, "drop_id": CAMERA, "box": "box/s/1", "port": 3}, {"port": 4}, "add the patch"),
    "cable_networks": ({"closet_id": 1, "cable": 2, "network_ids": []}, {"cable": 3}, "add the networks of a cable"),
    "reserved": ({"address": "10.20.1.9", "name": "Door"}, {"drop_id": CAMERA}, "add the reserved address Door"),
    "tunnels": ({"name": "Depot", "prefix": "10.9.0.0/16"}, {"prefix": "10.8.0.0/16"}, "add the tunnel Depot"),
    "printed": ({"drop_id": CAMERA, "text": "001"}, {"day": "2026-05-06"}, "add the printed label"),
    "stocks": (
        {"name": "Wraps", "width_mm": 25, "height_mm": 38},
        {"columns": 7, "rows": 7},
        "add the stock of labels Wraps",
    ),
    "cord_colours": ({"use": "camera", "colour": "green"}, {"colour": "blue"}, "add the colour of cords"),
    "discovered": (
        {"closet_id": 1, "box": "box/s/1", "port": 3},
        {"up": False, "watts": 4.5},
        "add the discovered port",
    ),
    "price_lists": ({"catalogue_id": 1, "edition": 3}, {"edition": 4}, "add the price list"),
    "phases": ({"name": "Roof"}, {"begins": "2026-04-01"}, "add the phase Roof"),
    "part_terms": ({"part": "part/jack"}, {"bought": 4.0, "by": "client"}, "add the terms of a part"),
    "task_terms": ({"task": "test", "who": "owner"}, {"who": "electrician"}, "add the terms of a task test"),
    "extra_work": ({"count": 2.0, "task": "move_plate"}, {"count": 3.0}, "add the work move_plate"),
    "worked": ({"task": "test", "hours": 1.5}, {"count": 9.0, "day": "2026-02-03"}, "add the hours worked test"),
    "crews": ({"name": "Van"}, {"people": 2}, "add the crew Van"),
    "waits": ({"name": "Socket"}, {"who": "electrician", "from_day": "2026-02-03"}, "add the wait Socket"),
    "stage_orders": ({"first": "test", "second": "close"}, {"second": "clear_away"}, "add the order of stages"),
    "own_tools": ({"tool": "ladder"}, {"there": True, "hire_minor": 900}, "add the tool"),
    "running": (
        {"name": "Till", "kind": "wired"},
        {"most_min": 10.0, "must_stay": False},
        "add the thing that runs Till",
    ),
    "move_terms": ({"step": "networks"}, {"minutes": 12.0}, "add the terms of a step"),
    "run_tests": ({"drop_id": CAMERA, "speed_mbit": 100}, {"length_m": 20.5}, "add the test of a run"),
    "trace_sheets": (
        {"closet_id": 1, "positions": 48},
        {"panel": "Old panel", "people": 2},
        "add the panel that is traced",
    ),
    "traced_jacks": ({"closet_id": ANNEXE, "name": "07"}, {"service": "phone"}, "add the jack to trace 07"),
    "trace_steps": ({"closet_id": ANNEXE, "kind": "cords"}, {"by": "Ada"}, "add the step of tracing"),
    "acceptance": ({"key": "failover", "value": 4.0}, {"met": True}, "add the result"),
    "sign_offs": ({"name": "Ada"}, {"passed": 3}, "add the acceptance Ada"),
    "ticks": ({"stage": "pull", "subjects": ["drop/9"]}, {"by": "Ada"}, "add the tick"),
    "benched": ({"subject": "drop/9"}, {"serial": "X1", "powered": True}, "add the device at the bench"),
    "offers": ({"number": "7"}, {"discount_percent": 2.0}, "add the offer"),
    "paid": ({"part": "part/jack"}, {"paid_minor": 900, "final": True}, "add the payment"),
    "own_kinds": ({"name": "Motor", "base": "hub"}, {"draw_w": 4.0}, "add the own kind Motor"),
}


@pytest.fixture
def project():
    rooms = AddRooms(rooms=(NewRoom(name="Hall"),))
    drops = (AddDrops(room="Hall", kind=kind) for kind in ("camera", "access_point"))
    network = AddEntry(list="networks", values={"name": "All", "number": 1})
    closet = AddEntry(list="closets", values={"name": "Annexe"})
    sheet = AddEntry(list="trace_sheets", values={"closet_id": ANNEXE, "positions": 24})
    made = apply_edits(empty_project("P", 2026), [rooms, *drops, network, closet, sheet])
    assert (made.rooms[0].id, *(drop.id for drop in made.drops)) == (ROOM, CAMERA, ACCESS_POINT)
    assert (made.networks[0].id, made.closets[1].id) == (NETWORK, ANNEXE)
    return made


def test_every_list_has_an_example_here():
    assert set(EXAMPLES) == set(LISTS) == set(ListName.__args__)
    assert set(LISTS) <= set(NUMBERED)


@pytest.mark.parametrize("name", EXAMPLES)
def test_an_entry_comes_changes_and_goes(project, name):
    values, changes, told = EXAMPLES[name]
    add = AddEntry(list=name, values=values)
    assert add.summary(project) == told
    assert TypeAdapter(Edit).validate_python(as_sent(add)) == add
    there = apply_edits(project, [add])
    entry = getattr(there, name)[-1]
    assert entry.id == project.next_id
    change = ChangeEntry(list=name, id=entry.id, changes=changes)
    changed = getattr(apply_edits(there, [change]), name)[-1]
    for field, value in changes.items():
        now = getattr(changed, field)
        assert (now.isoformat() if isinstance(now, date) else now) == value
    assert change.summary(there).startswith(f"change the {LISTS[name][1]}")
    gone = apply_edits(there, [RemoveEntry(list=name, id=entry.id)])
    assert getattr(gone, name) == getattr(project, name)
    assert gone.next_id == there.next_id, "a number is given once"


@pytest.mark.parametrize("name", EXAMPLES)
def test_an_entry_that_cannot_be_is_refused_with_its_place(project, name):
    values = EXAMPLES[name][0]
    with pytest.raises(InvalidInput, match="nonsense"):
        apply_edits(project, [AddEntry(list=name, values={**values, "nonsense": 1})])
    required = next(
        field for field, info in LISTS[name][0].model_fields.items() if info.is_required() and field != "id"
    )
    with pytest.raises(InvalidInput, match=f"{required}: Field required"):
        apply_edits(project, [AddEntry(list=name, values={k: v for k, v in values.items() if k != required})])
    with pytest.raises(NotFound, match="There is no"):
        apply_edits(project, [ChangeEntry(list=name, id=999, changes={})])


def test_the_number_of_an_entry_cannot_be_changed(project):
    there = apply_edits(project, [AddEntry(list="duties", values={"task": "T"})])
    number = there.duties[0].id
    after = apply_edits(there, [ChangeEntry(list="duties", id=number, changes={"id": 77, "task": "U"})])
    assert [(duty.id, duty.task) for duty in after.duties] == [(number, "U")]


@pytest.mark.parametrize(
    ("name", "field", "least", "most"),
    [
        ("lines", "down_mbit", 1, 100_000), ("lines", "yearly_minor", 0, 1_000_000_000), ("clients", "count", 1, 10_000),
        ("kit", "count", 1, 500), ("additions", "count", 1, 500), ("additions", "years", 1, 10),
        ("floors", "level", -9, 99), ("paths", "pull_points", 0, 50), ("path_rates", "difficulty", 1, 5),
        ("cables", "diameter_mm", 2, 20), ("own_kinds", "draw_w", 0, 100),
    ],
)  # fmt: skip
def test_every_figure_of_an_entry_has_its_limits(project, name, field, least, most):
    there = apply_edits(project, [AddEntry(list=name, values=EXAMPLES[name][0])])
    number = getattr(there, name)[-1].id
    for value in (least, most):
        changed = apply_edits(there, [ChangeEntry(list=name, id=number, changes={field: value})])
        assert getattr(getattr(changed, name)[-1], field) == value
    for value in (least - 1, most + 1):
        with pytest.raises(InvalidInput, match=field):
            apply_edits(there, [ChangeEntry(list=name, id=number, changes={field: value})])


HELD = {"closet_id": 1, "model": "switch-8", "count": 1}


def _example(name, project):
    """The example of a list with the numbers of a project in it."""
    station = next(drop.id for drop in project.drops if drop.kind == "access_point")
    own = {"floor_id": project.floors[0].id, "room_id": project.rooms[0].id, "drop_id": station}
    own |= {field: one.id for one in project.networks[:1] for field in ("from_id", "to_id", "network_id")}
    values = HELD if name == "holdings" else EXAMPLES[name][0]
    return {field: own.get(field, value) for field, value in values.items()}


@pytest.mark.parametrize(("rows", "field", "target"), REFERENCES, ids=str)
def test_what_is_named_must_be_there(dye_works, rows, field, target):
    data = dye_works.model_dump(mode="json")
    if not data[rows]:
        data[rows] = [{"id": 5000, **_example(rows, dye_works)}]
        data["next_id"] = 5001
    whole = Project.model_validate(data)
    row = next((one for one in data[rows] if one.get(field)), data[rows][0])
    row[field] = [4999] if field.endswith("s") else 4999
    with pytest.raises(ValueError, match=rf"{rows}\[\d+\] names \w+ 4999, which is not there"):
        Project.model_validate(data)
    named = getattr(whole, target)[-1].id if getattr(whole, target) else None
    is_any = field not in ("behind_id", "fed_by_id", "recorder_id") and rows not in (*OF_ACCESS_POINTS, *ONCE)
    if named is not None and is_any:
        row[field] = [named] if field.endswith("s") else named
        assert Project.model_validate(data)


@pytest.mark.parametrize("name", [name for name in NUMBERED if name != "closets"])
def test_a_number_is_given_once_in_every_list(dye_works, name):
    data = dye_works.model_dump(mode="json")
    if not data[name]:
        data[name] = [{"id": 5000, **_example(name, dye_works)}]
        data["next_id"] = 5001
    data[name].append(data[name][0])
    with pytest.raises(ValueError, match=f"{name} holds {data[name][0]['id']} twice"):
        Project.model_validate(data)
