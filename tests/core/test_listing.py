"""Edits of the list beyond the tally: own kinds, what hangs behind, places, doubles, whole lists."""

import pytest

from baugrund.core.demand.needs import need_of
from baugrund.core.edits import (
    AddDrops,
    AddEntry,
    AddList,
    AddRooms,
    ChangeDrops,
    ChangeRoom,
    DropChanges,
    DuplicateDrops,
    NewDrop,
    NewRoom,
    Placed,
    PlaceDrops,
    RemoveDrops,
    RemoveEntry,
    RemoveRoom,
    RoomChanges,
    SetTally,
    apply_edits,
)
from baugrund.core.errors import InvalidInput
from baugrund.core.facts.project import empty_project
from baugrund.core.walk.room_starters import STARTERS

from .small import changed


@pytest.fixture
def project():
    rooms = (NewRoom(name="Hall", floor="Ground floor"), NewRoom(name="Study", floor="First floor"))
    return apply_edits(empty_project("P", 2026), [AddRooms(rooms=rooms)])


def test_a_kind_of_ones_own_is_counted_apart_and_takes_its_figures(project):
    values = {"name": "Kiln logger", "base": "hub", "speed_mbit": 100, "poe_class": 2, "draw_w": 3.5, "place": "wall"}
    own = apply_edits(project, [AddEntry(list="own_kinds", values=values)])
    number, hall = own.own_kinds[0].id, own.rooms[0].id
    listed = apply_edits(own, [SetTally(room_id=hall, kind="hub", own_kind_id=number, count=2),
                               SetTally(room_id=hall, kind="hub", count=1)])  # fmt: skip
    loggers = [drop for drop in listed.drops if drop.own_kind_id == number]
    assert [(d.kind, d.poe_class, d.draw_w, d.place) for d in loggers] == [("hub", 2, 3.5, "wall")] * 2
    assert len(listed.drops) == 3
    fewer = apply_edits(listed, [SetTally(room_id=hall, kind="hub", own_kind_id=number, count=0)])
    assert [drop.own_kind_id for drop in fewer.drops] == [None]
    gone = apply_edits(listed, [RemoveEntry(list="own_kinds", id=number)])
    assert [drop.own_kind_id for drop in gone.drops] == [None] * 3
    with pytest.raises(InvalidInput, match="no form 'dome'"):
        apply_edits(own, [changed("own_kinds", number, variant="dome")])


def test_watts_and_traffic_behind_a_room_switch_count_at_its_port(project):
    switch = AddDrops(room="Study", kind="room_switch", changes=DropChanges(poe_class=5, draw_w=6))
    listed = apply_edits(project, [switch, AddDrops(room="Study", kind="camera", count=2),
                                   AddDrops(room="Study", kind="desk")])  # fmt: skip
    feeder, first, second, desk = listed.drops
    behind = DropChanges(behind_id=feeder.id)
    fed = apply_edits(listed, [ChangeDrops(ids=(first.id, second.id, desk.id), changes=behind)])
    assert [fed.is_live(drop) for drop in fed.drops] == [True, False, False, False]
    alone, together = need_of(listed, feeder), need_of(fed, fed.drops[0])
    assert together.traffic_kbit - alone.traffic_kbit == 2 * 6_000 + 12_500
    assert fed.draw_w(fed.drops[0]) == pytest.approx(6 + 2 * 7.4)
    assert together.power_mw - alone.power_mw >= 14_500
    freed = apply_edits(fed, [RemoveDrops(ids=(feeder.id,))])
    assert [drop.behind_id for drop in freed.drops] == [None] * 3


def test_nothing_hangs_behind_a_desk_or_behind_itself(project):
    listed = apply_edits(
        project, [AddDrops(room="Hall", kind="desk"), AddDrops(room="Hall", kind="room_switch", count=2)]
    )
    desk, one, two = (drop.id for drop in listed.drops)
    with pytest.raises(InvalidInput, match="gives no ports on"):
        apply_edits(listed, [ChangeDrops(ids=(one,), changes=DropChanges(behind_id=desk))])
    with pytest.raises(InvalidInput, match="hangs behind itself"):
        apply_edits(listed, [ChangeDrops(ids=(one,), changes=DropChanges(behind_id=two)),
                             ChangeDrops(ids=(two,), changes=DropChanges(behind_id=one))])  # fmt: skip
    with pytest.raises(InvalidInput, match="cannot hang behind itself"):
        apply_edits(listed, [ChangeDrops(ids=(one,), changes=DropChanges(behind_id=one))])


def test_drops_are_placed_and_doubled_and_lose_their_place_in_another_room(project):
    listed = apply_edits(project, [AddDrops(room="Hall", kind="desk", changes=DropChanges(label="A"))])
    drop, hall, study = listed.drops[0].id, listed.rooms[0].id, listed.rooms[1].id
    placed = apply_edits(listed, [PlaceDrops(places=(Placed(id=drop, room_id=hall, x_m=1, y_m=2),))])
    assert (placed.drops[0].x_m, placed.drops[0].y_m) == (1, 2)
    double = apply_edits(placed, [DuplicateDrops(ids=(drop,), aside_m=0.5)]).drops[1]
    assert (double.x_m, double.y_m, double.label) == (1.5, 2, "")
    moved = apply_edits(placed, [ChangeDrops(ids=(drop,), changes=DropChanges(room_id=study))])
    assert (moved.drops[0].x_m, moved.drops[0].room_id) == (None, study)
    with pytest.raises(InvalidInput, match="both x and y"):
        apply_edits(placed, [ChangeDrops(ids=(drop,), changes=DropChanges(x_m=None))])


def test_a_list_makes_the_rooms_and_floors_that_it_names(project):
    drops = (NewDrop(room="hall", kind="desk", count=2), NewDrop(room="Loft", floor="Attic", kind="camera"),
             NewDrop(room="Loft", floor="Attic", kind="jack"),
             NewDrop(room="Gate", floor="Outside", outside=True, kind="camera"))  # fmt: skip
    listed = apply_edits(project, [AddList(name="list.csv", drops=drops)])
    assert [room.name for room in listed.rooms] == ["Hall", "Study", "Loft", "Gate"]
    assert [(floor.name, floor.level, floor.building_id is None) for floor in listed.floors] == [
        ("Ground floor", 0, False), ("First floor", 1, False), ("Attic", 2, False), ("Outside", 0, True),
    ]  # fmt: skip
    assert listed.drops[-1].outdoor_jacket
    assert AddList(name="list.csv", drops=drops).summary(project) == "add 5 drops from list.csv"


def test_a_room_goes_with_all_that_names_it(project):
    hall = project.rooms[0].id
    entry = AddEntry(list="entries", values={"name": "Street", "room_id": hall})
    goal = AddEntry(list="goals", values={"kind": "coverage", "room_ids": [hall, project.rooms[1].id]})
    full = apply_edits(project, [entry, goal])
    full = apply_edits(full, [AddEntry(list="lines", values={"name": "L", "down_mbit": 1, "up_mbit": 1,
                                                              "entry_id": full.entries[0].id})])  # fmt: skip
    bare = apply_edits(full, [RemoveRoom(id=hall)])
    assert (bare.entries, bare.lines[0].entry_id, bare.goals[0].room_ids) == ((), None, (project.rooms[1].id,))


def test_a_floor_with_rooms_stays_and_a_room_moves_to_a_new_one(project):
    ground = project.floors[0].id
    with pytest.raises(InvalidInput, match="Ground floor still has rooms"):
        apply_edits(project, [RemoveEntry(list="floors", id=ground)])
    moved = apply_edits(project, [ChangeRoom(id=project.rooms[0].id, changes=RoomChanges(floor="Cellar"))])
    assert moved.floor_name(moved.rooms[0]) == "Cellar"
    assert apply_edits(moved, [RemoveEntry(list="floors", id=ground)]).floors[0].name == "First floor"


@pytest.mark.parametrize("starter", STARTERS, ids=lambda starter: starter.key)
def test_a_template_fills_a_first_list(starter):
    project = apply_edits(empty_project("T", 2026), [AddRooms(rooms=starter.rooms), AddList(drops=starter.drops)])
    assert len(project.rooms) == len(starter.rooms)
    assert len(project.drops) == sum(drop.count for drop in starter.drops) >= 12


def test_cameras_of_an_own_kind_are_recorded_as_it_says(project):
    said = {"name": "Yard eye", "base": "camera", "codec": "h265", "frames_s": 8.0, "record_night_percent": 20.0,
            "keep_days": 14.0}  # fmt: skip
    own = apply_edits(project, [AddEntry(list="own_kinds", values=said)])
    hall = own.rooms[0].id
    listed = apply_edits(own, [AddDrops(room=hall, kind="camera", own_kind_id=own.own_kinds[0].id)])
    eye = listed.drops[-1]
    assert (eye.codec, eye.frames_s, eye.record_night_percent, eye.keep_days) == ("h265", 8.0, 20.0, 14.0)
