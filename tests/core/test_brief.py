"""What the brief finds wanting, each with what settles it; small parts, nameplates, camera rates."""

import pytest

from baugrund.core.edits import (
    AddDrops,
    AddEntry,
    AddRooms,
    ChangeDrops,
    ChangeEntry,
    ChangeSettings,
    DropChanges,
    NewRoom,
    apply_edits,
)
from baugrund.core.facts.drop import camera_mbit
from baugrund.core.facts.project import empty_project
from baugrund.core.findings import SiteState, findings
from baugrund.core.places.mounting import parts_of, small_parts
from baugrund.core.walk.nameplate import doubts, read_nameplate

from .small import changed, line

ROOMS = AddRooms(rooms=(NewRoom(name="Hall", use="way"), NewRoom(name="Study", use="work"),
                        NewRoom(name="Bedroom", use="sleeping")))  # fmt: skip


def site(*edits):
    return apply_edits(empty_project("B", 2026), [ROOMS, *edits])


def found(project, key):
    return next((f for f in findings(SiteState(project, {}, {})) if f.key.startswith(key)), None)


def room(name):
    return next(room.id for room in site().rooms if room.name == name)


AP = AddDrops(room="Study", kind="access_point")


@pytest.mark.parametrize(
    ("more", "key", "weight"),
    [
        ({"box": "routing"}, "series", "strains"), ({"box": "routing", "series_kept": True}, "series", "note"),
        ({"box": "bridged"}, "series", None), ({"down": 1000}, "handoff", None), ({"down": 1001}, "handoff", "strains"),
        ({"box": "routing", "box_wifi": True}, "wifi", "strains"), ({"box": "modem", "box_wifi": True}, "wifi", None),
        ({"box": "bridged", "television": True}, "television", "strains"),
        ({"box": "routing", "television": True}, "television", None),
        ({"way_planned": True}, "entry", None), ({}, "entry", "note"),
    ],
)  # fmt: skip
def test_a_line_is_held_against_its_box_its_port_and_its_way(more, key, weight):
    more = {"down": 100, **more}
    finding = found(site(line("L", more.pop("down"), **more), AP), key)
    assert (finding and finding.weight) == weight
    if finding and finding.settle and finding.settle.edit:
        settled = apply_edits(site(line("L", 100, **more), AP), [finding.settle.edit])
        after = found(settled, key)
        assert after is None or after.weight == "note"


def test_a_line_that_ends_in_another_room_wants_a_way_to_the_head_end():
    entry = AddEntry(list="entries", values={"name": "Street", "room_id": room("Hall")})
    project = site(entry)
    project = apply_edits(project, [line("L", 100, entry_id=project.entries[0].id)])
    finding = found(project, "way")
    assert "ends at Street in Hall" in finding.text
    assert found(apply_edits(project, [finding.settle.edit]), "way") is None
    here = ChangeEntry(list="closets", id=1, changes={"room_id": room("Hall")})
    assert found(apply_edits(project, [here]), "way") is None


def test_the_place_of_the_closet_is_judged():
    wrong = {"room_id": room("Bedroom"), "cool": False, "dry": True, "both_sides": True}
    finding = found(site(ChangeEntry(list="closets", id=1, changes=wrong)), "siting-1")
    assert finding.text == "may get warmer than 30 °C and is a sleeping room."
    good = {"room_id": room("Hall"), "cool": True, "dry": True, "both_sides": True, "room_to_grow": True}
    judged = site(ChangeEntry(list="closets", id=1, changes=good), AP)
    assert found(judged, "siting-1") is None
    assert found(site(AP), "siting-open-1").weight == "note"


@pytest.mark.parametrize(("there", "weight"), [(None, "note"), (4, None), (3, "strains")])
def test_plug_bricks_cover_two_sockets_beside_the_boxes(there, weight):
    # a hub is a brick, a recorder is not, a modem is: three plugs, five sockets
    closet = {"room_id": room("Hall"), "other_sockets": None if there is None else there + 1}
    project = site(
        AddDrops(room="Hall", kind="hub"), AddDrops(room="Hall", kind="recorder"), line("L", 100),
        ChangeEntry(list="closets", id=1, changes=closet),
    )  # fmt: skip
    finding = found(project, "plugs-1")
    assert (finding and finding.weight) == weight


def test_a_temporary_measure_is_open_until_it_has_ended():
    project = site(AddEntry(list="measures", values={"name": "Router on a chair"}))
    finding = found(project, "temporary")
    assert (finding.weight, "nobody answers for it" in finding.text) == ("strains", True)
    owned = changed("measures", project.measures[0].id, owner="Ann", phase="second")
    assert found(apply_edits(project, [owned]), "temporary").weight == "note"
    assert found(apply_edits(project, [finding.settle.edit]), "temporary") is None


def test_an_access_point_in_the_wall_may_cost_an_outlet_that_must_survive():
    in_wall = AddDrops(room="Study", kind="access_point", changes=DropChanges(variant="in_wall"))
    values = {"kind": "television", "room_ids": [room("Study")]}
    assert "outlet in Study" in found(site(in_wall, AddEntry(list="services", values=values)), "outlet").text
    gone = AddEntry(list="services", values={**values, "must_survive": False})
    assert found(site(in_wall, gone), "outlet") is None
    assert found(site(AP, AddEntry(list="services", values=values)), "outlet") is None


def test_goals_that_the_list_cannot_meet_are_said():
    coverage = AddEntry(list="goals", values={"kind": "coverage"})
    assert "no access point is listed" in found(site(coverage, AddDrops(room="Hall", kind="desk")), "goal").text
    assert found(site(coverage, AP), "goal") is None
    fast = AddEntry(list="goals", values={"kind": "line_speed", "level": 96})
    assert found(site(fast, line("L", 100)), "goal").weight == "strains"
    assert (
        found(site(AddEntry(list="goals", values={"kind": "line_speed", "level": 95}), line("L", 100)), "goal") is None
    )


def test_a_room_switch_feeds_what_hangs_behind_it_and_not_more():
    switch = AddDrops(room="Study", kind="room_switch")
    project = site(switch, AddDrops(room="Study", kind="desk", count=5))
    feeder, *desks = project.drops
    four = ChangeDrops(ids=tuple(d.id for d in desks[:4]), changes=DropChanges(behind_id=feeder.id))
    assert found(apply_edits(project, [four]), "behind") is None
    five = ChangeDrops(ids=tuple(d.id for d in desks), changes=DropChanges(behind_id=feeder.id))
    assert "feeds 5 drops; it has 4 ports" in found(apply_edits(project, [five]), "behind").text


@pytest.mark.parametrize(("budget", "said"), [(None, None), (50_000, None), (49_999, "€ 500, € 0.01 over")])
def test_yearly_cost_stands_against_its_own_budget(budget, said):
    terms = ChangeSettings(changes={"yearly_budget_minor": budget})
    finding = found(site(terms, line("A", 100, yearly_minor=30_000), line("B", 100, yearly_minor=20_000)), "yearly")
    assert said in finding.text if said else finding is None


@pytest.mark.parametrize(
    ("text", "read"),
    [("16 V 10 VA", {"V": 16, "VA": 10}), ("24V 1.5A", {"V": 24, "A": 1.5}), ("12 V, 500 mA", {"V": 12, "A": 0.5}),
     ("0,2 kVA 230 V", {"VA": 200, "V": 230}), ("16VAC 10VA", {"V": 16, "VA": 10}), ("24 VDC", {"V": 24}), ("none", {})],
)  # fmt: skip
def test_a_nameplate_is_read_in_base_units(text, read):
    assert read_nameplate(text) == pytest.approx(read)


@pytest.mark.parametrize(
    ("text", "doubt"),
    [("", ""), ("16 V 10 VA", ""), ("12 V 8 VA", ""), ("11.9 V 8 VA", "too little"), ("230 V 10 VA", "output side"),
     ("10 VA", "no volts"), ("16 V 10 kVA", "check the unit"), ("24 V 1 A 100 VA", "check the units"),
     ("24 V 1 A 24 VA", "")],
)  # fmt: skip
def test_a_nameplate_that_cannot_be_right_is_doubted(text, doubt):
    assert (doubt in doubts(text)) if doubt else doubts(text) == ""


@pytest.mark.parametrize(("pixels", "rate"), [(2, 4), (4, 6), (5, 8), (8, 12), (1, 2), (3, 5), (12, 18)])
def test_a_camera_streams_by_its_pixels(pixels, rate):
    assert camera_mbit(pixels) == pytest.approx(rate)


@pytest.mark.parametrize(
    ("frames_s", "codec", "rate"), [(15, "h264", 6), (15, "h265", 3.6), (30, "h264", 9.09), (5, "h264", 3.10)]
)
def test_a_camera_streams_by_its_frames_and_codec(frames_s, codec, rate):
    assert camera_mbit(4, frames_s, codec) == pytest.approx(rate, abs=0.01)


def test_small_parts_follow_from_the_surface():
    def device(**more):
        return site(AddDrops(room="Hall", kind=more.pop("kind"), changes=DropChanges(**more))).drops[0]

    assert parts_of(device(kind="camera")) is None
    outside = parts_of(device(kind="camera", surface="masonry", environment="outdoor"))
    assert outside == {"plugs and screws, pair": 1, "junction box for a camera": 1, "field plug": 1, "gasket": 1}
    assert parts_of(device(kind="access_point", surface="suspended")) == {"ceiling-grid clip": 1, "field plug": 1}
    assert "jack" not in parts_of(device(kind="jack", existing=True))
    assert "converter from bell transformer" in parts_of(
        device(kind="door_station", surface="timber", supply="transformer", poe_class=None)
    )


@pytest.mark.parametrize(("jacks", "plates"), [(1, 1), (2, 1), (3, 2), (4, 2)])
def test_two_jacks_share_a_double_plate(jacks, plates):
    double = DropChanges(variant="double")
    parts = small_parts(site(AddDrops(room="Hall", kind="jack", count=jacks, changes=double)).drops)
    assert (parts["plate, 2 jacks, with back box"], parts["jack"]) == (plates, jacks)


@pytest.mark.parametrize(
    ("surface", "fixing"),
    [("plasterboard", "hollow-wall anchors, pair"), ("masonry", "plugs and screws, pair"), ("timber", "wood screws, pair"),
     ("tile", "tile-drilled plugs and screws, pair"), ("suspended", "ceiling-grid clip"), ("mast", "mast clamp"),
     ("furniture", "adhesive pads, pair"), ("concrete", "plugs and screws, pair"), ("eaves", "wood screws, pair")],
)  # fmt: skip
@pytest.mark.parametrize("kind", ["access_point", "camera", "door_station", "reader"])
def test_every_device_gets_its_fixing_by_the_surface(surface, fixing, kind):
    drop = site(AddDrops(room="Hall", kind=kind, changes=DropChanges(surface=surface))).drops[0]
    parts = parts_of(drop)
    assert parts[fixing] == 1
    assert parts["field plug"] == 1
    assert ("gasket" in parts) == (surface in ("tile", "mast", "eaves"))
    assert ("back box" in parts) == (kind in ("door_station", "reader"))
