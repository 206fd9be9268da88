"""A list that is added hands out numbers: each row its own, in the order of the list, whatever comes between."""

import pytest

from baugrund.core.edits import AddList, AddRooms, NewDrop, NewRoom, apply_edits
from baugrund.core.edits.listing import NewAim
from baugrund.core.facts.project import empty_project


def rows_of(project):
    kinds = ("drops", "rooms", "floors", "buildings", "closets", "views")
    return [row.id for name in kinds for row in getattr(project, name)]


@pytest.fixture
def house():
    return apply_edits(empty_project("House", 2026), [AddRooms(rooms=(NewRoom(name="Hall", floor="Ground floor"),))])


def test_rooms_and_floors_that_come_between_take_none_that_is_given(house):
    drops = [NewDrop(room=f"Room {n}", floor=f"Floor {n // 2}", kind="desk", count=1 + n % 3) for n in range(6)]
    after = apply_edits(house, [AddList(drops=tuple(drops))])
    numbers = rows_of(after)
    assert len(numbers) == len(set(numbers)) and max(numbers) < after.next_id
    assert len(after.drops) == 12 and [one.id for one in after.drops] == sorted(one.id for one in after.drops)
    rooms = {room.id: room.name for room in after.rooms}
    assert [rooms[drop.room_id] for drop in after.drops] == [f"Room {n}" for n in range(6) for _ in range(1 + n % 3)]


def test_views_of_cameras_take_none_that_is_given(house):
    aim = NewAim(bearing_deg=90.0)
    drops = [
        NewDrop(room="Hall", kind="camera", count=2, view=aim),
        NewDrop(room="Yard", floor="Outside", outside=True, kind="camera", view=aim),
        NewDrop(room="Hall", kind="desk", view=aim),
    ]
    after = apply_edits(house, [AddList(drops=tuple(drops))])
    numbers = rows_of(after)
    assert len(numbers) == len(set(numbers)) and max(numbers) < after.next_id
    cameras = [drop.id for drop in after.drops if drop.kind == "camera"]
    assert [view.drop_id for view in after.views] == cameras and len(cameras) == 3


@pytest.mark.parametrize("times", [1, 2, 3])
def test_lists_one_after_the_other_go_on_counting(house, times):
    one = AddList(drops=(NewDrop(room="Hall", kind="jack", count=4), NewDrop(room="Attic", kind="jack", count=2)))
    after = house
    for _ in range(times):
        after = apply_edits(after, [one])
    assert len(after.drops) == 6 * times and len(after.rooms) == 2, "the attic came once"
    numbers = rows_of(after)
    assert len(numbers) == len(set(numbers)) and max(numbers) < after.next_id


def test_at_once_or_row_by_row_the_same_drops_stand_in_the_same_rooms(house):
    drops = [NewDrop(room=f"Room {n % 4}", kind="desk", count=1 + n % 2) for n in range(8)]
    at_once = apply_edits(house, [AddList(drops=tuple(drops))])
    bit_by_bit = house
    for drop in drops:
        bit_by_bit = apply_edits(bit_by_bit, [AddList(drops=(drop,))])

    def told(project):
        return sorted((project.rooms_by_id[drop.room_id].name, drop.kind) for drop in project.drops)

    assert told(at_once) == told(bit_by_bit) and len(at_once.rooms) == len(bit_by_bit.rooms)
