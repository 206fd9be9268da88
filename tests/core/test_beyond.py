"""Ports beyond the closet: a cable each against one cable and a switch in the room; and what thin cords cost."""

import math

import pytest

from baugrund.core.answers.picker import Picker
from baugrund.core.edits import (
    AddDrops,
    AddRooms,
    ChangeDrops,
    ChangeSettings,
    DropChanges,
    NewRoom,
    RemoveDrops,
    UseRoomSwitch,
    apply_edits,
)
from baugrund.core.errors import InvalidInput
from baugrund.core.facts.project import empty_project
from baugrund.core.physics.poe import feed, loop_resistance_ohm
from baugrund.core.pick.best import least_price
from baugrund.core.power.load import fed
from baugrund.core.standards.cabling import THIN_CORD_OHM_PER_M

from .small import catalogue, ports, router, switch

HOME = router("home", ports(4), price=100)
EIGHT = switch("eight", ports(8), price=200)
FIVE = switch("five", ports(5), price=50)


def office(count, run_m=20.0, **settings):
    project = apply_edits(empty_project("office", 2026), [AddRooms(rooms=(NewRoom(name="Room"),))])
    terms = {"growth_percent": 0.0, "separate_networks": False, "hour_minor": 0, **settings}
    drops = AddDrops(room="Room", kind="jack", count=count, changes=DropChanges(run_m=run_m))
    return apply_edits(project, [ChangeSettings(changes=terms), drops])


def beyond(project, *models):
    picker = Picker(project, catalogue(*models))
    return picker.beyond(picker.answer("least_price")).rooms


def test_both_ways_are_priced_with_cable_pick_and_switch():
    project = office(6)
    (room,) = beyond(project, HOME, EIGHT)
    # six cables and an eight in the closet, or one cable and an eight in the room with the router alone
    assert (room.model, room.switch_minor, room.pick_minor) == ("eight", 200, -200)
    assert room.more_minor == room.one_cable_minor + 200 - 200 - room.cables_minor


def test_the_way_that_is_offered_costs_what_it_says():
    """Taken by hand: the project with the switch, picked anew."""
    project = office(6)
    picker = Picker(project, catalogue(HOME, EIGHT, FIVE))
    (room,) = picker.beyond(picker.answer("least_price")).rooms
    taken = apply_edits(project, [room.edit])
    after = least_price(Picker(taken, catalogue(HOME, EIGHT, FIVE)).outlook.site(5)[0])
    assert after.price_minor - picker.answer("least_price").price_minor == room.pick_minor


def test_cable_that_is_there_already_costs_nothing():
    project = office(3)
    there = ChangeDrops(ids=tuple(drop.id for drop in project.drops), changes=DropChanges(existing=True))
    (room,) = beyond(apply_edits(project, [there]), HOME, FIVE)
    assert room.cables_minor == 0 and room.more_minor == room.one_cable_minor + 50


@pytest.mark.parametrize(
    ("model", "does"),
    [
        (FIVE, True),
        (switch("four", ports(4)), False),
        (switch("fan", ports(5), fanless=False), False),
        (switch("gone", ports(5), in_stock=False), False),
        (switch("slow", ports(5, speed=100)), False),
        (switch("plain", ports(5), managed=False), True),
    ],
)
def test_a_room_switch_has_a_port_more_than_drops_no_fan_and_is_fast_enough(model, does):
    # four jacks of 1 G and the link
    assert bool(beyond(office(4), HOME, model)) is does


def test_separate_networks_want_a_managed_switch_in_the_room_too():
    assert beyond(office(4, separate_networks=True), HOME, switch("plain", ports(5), managed=False)) == ()


def test_one_port_is_not_several_and_powered_ones_are_left_out():
    project = office(1)
    cameras = AddDrops(room="Room", kind="camera", count=3)
    powered = switch("powered", ports(8, poe=4), watts=100)
    assert beyond(apply_edits(project, [cameras]), HOME, FIVE, powered) == ()


def test_the_switch_goes_again_and_the_cables_are_back():
    project = office(3)
    taken = apply_edits(project, [UseRoomSwitch(drop_ids=tuple(drop.id for drop in project.drops))])
    (made,) = [drop for drop in taken.drops if drop.kind == "room_switch"]
    assert [drop.behind_id for drop in taken.drops if drop is not made] == [made.id] * 3
    back = apply_edits(taken, [RemoveDrops(ids=(made.id,))])
    assert back.drops == project.drops


FED = switch("fed", ports(5), price=60, fed_class=3, own_draw_w=4)
POWERED = switch("powered", ports(8, poe=3), watts=60, price=260, fanless=False)


def test_a_switch_that_its_cable_feeds_takes_a_powered_port_and_no_socket():
    project = office(4)
    (room,) = beyond(project, HOME, POWERED, FED)
    taken = apply_edits(project, [room.edit])
    (made,) = [drop for drop in taken.drops if drop.kind == "room_switch"]
    assert (made.poe_class, made.draw_w, made.socket) == (3, 4.0, False)
    # its draw and what the line loses, up to the next half watt, are asked of the closet
    assert (room.edit.fed_class, room.closet_w) == (3, math.ceil(2 * fed(taken)[made.id].counted_w) / 2)
    assert f"{room.closet_w:g} W of the closet's budget" in room.sentence


def test_of_both_ways_to_feed_a_switch_the_cheaper_stands_and_the_other_is_told():
    # no powered port is there: the router and a switch with a socket cost less than one that feeds it
    (room,) = beyond(office(4), HOME, POWERED, FIVE, FED)
    assert (room.model, room.edit.fed_class, room.closet_w) == ("five", None, 0)
    assert "a socket and 5 W in the room" in room.sentence
    # the dearer switch, and a powered one beside the router in the closet
    assert "Fed over its cable, fed costs € 2.70 more." in room.sentence


def test_a_switch_that_its_cable_feeds_never_stands_in_a_closet():
    project = office(6)
    picker = Picker(project, catalogue(HOME, EIGHT, FED))
    assert [box.model for box in picker.answer("least_price").boxes] == ["home", "eight"]
    (reason,) = [why.sentence for why in picker.reasons(picker.answer("least_price")) if why.model == "fed"]
    assert reason == "It is fed over its cable: for a room, not for a closet."


def rooms_of(counts):
    """An office of rooms with so many jacks each."""
    rooms = AddRooms(rooms=tuple(NewRoom(name=f"Room {n}") for n in range(1, len(counts))))
    jacks = [
        AddDrops(room=f"Room {n}" if n else "Room", kind="jack", count=count, changes=DropChanges(run_m=20.0))
        for n, count in enumerate(counts)
    ]
    return apply_edits(office(1), [RemoveDrops(ids=(office(1).drops[0].id,)), rooms, *jacks])


def test_rooms_together_are_priced_as_one_project():
    project = rooms_of([4, 4, 4])
    picker = Picker(project, catalogue(HOME, EIGHT, FIVE))
    before = picker.answer("least_price")
    found = picker.beyond(before)
    together = found.together
    assert together is not None and len(together.room_ids) >= 2
    taken = [room for room in found.rooms if room.room_id in together.room_ids]
    after = least_price(
        Picker(apply_edits(project, [room.edit for room in taken]), picker.catalogue).outlook.site(5)[0]
    )
    own = sum(room.one_cable_minor + room.switch_minor - room.cables_minor for room in taken)
    assert together.more_minor == own + after.price_minor - before.price_minor
    assert together.more_minor < min(room.more_minor for room in found.rooms)


def test_one_room_that_gains_is_not_several_together():
    picker = Picker(office(4), catalogue(HOME, EIGHT, FIVE))
    assert picker.beyond(picker.answer("least_price")).together is None


def test_drops_of_two_rooms_have_no_switch_in_common():
    project = apply_edits(
        office(1), [AddRooms(rooms=(NewRoom(name="Other"),)), AddDrops(room="Other", kind="jack", count=1)]
    )
    with pytest.raises(InvalidInput, match="one room"):
        UseRoomSwitch(drop_ids=tuple(drop.id for drop in project.drops)).apply(project)


def test_a_thin_cord_has_the_resistance_of_its_stranded_copper():
    # 28 AWG: 0.127 mm · 92^((36 − 28) / 39) thick; annealed copper has 0.017241 Ω·mm²/m at 20 °C (IEC 60028), and the lay
    # of seven strands takes some 4 % more
    area = math.pi * (0.127 * 92 ** (8 / 39) / 2) ** 2
    assert pytest.approx(1.04 * 0.017241 / area, rel=5e-3) == THIN_CORD_OHM_PER_M


def test_thin_cords_add_what_their_resistance_takes():
    project = office(1)
    camera = AddDrops(room="Room", kind="camera", changes=DropChanges(run_m=30.0, draw_w=12.0))
    (usual,) = fed(apply_edits(project, [camera])).values()
    (thin,) = fed(apply_edits(project, [camera, ChangeSettings(changes={"cords": "thin"})])).values()
    # 4 m of cords, 0.082 Ω/m more in the loop of two pairs
    assert thin.loop_ohm - usual.loop_ohm == pytest.approx(4 * (0.222 - 0.14))
    by_hand = feed(12.0, loop_resistance_ohm(30.0, temperature_c=usual.warm_c, cord_ohm_per_m=0.222))
    assert thin.rated_w == pytest.approx(by_hand.port_w)
    assert usual.thin_w == thin.thin_w == pytest.approx(thin.rated_w - usual.rated_w)
    assert thin.counted_w > usual.counted_w
