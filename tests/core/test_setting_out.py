"""Setting out: offsets from two walls and a landmark, found again to the millimetre, and where things came to stand."""

from __future__ import annotations

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from baugrund.core.edits import (
    AddDrops,
    AddEntry,
    AddRooms,
    ChangeDrops,
    DropChanges,
    NewRoom,
    RecordBuilt,
    RemoveEntry,
    apply_edits,
)
from baugrund.core.facts.project import empty_project
from baugrund.core.places.setting_out import offsets, set_out, spot_at, walls
from baugrund.core.reach.runs import runs

SQUARE = ((0.0, 0.0), (6.0, 0.0), (6.0, 4.0), (0.0, 4.0))
SLANTED = ((0.0, 0.0), (6.0, 1.0), (7.0, 5.0), (1.0, 4.0))


def room(outline=SQUARE, *edits):
    project = apply_edits(empty_project("P", 2026), [AddRooms(rooms=(NewRoom(name="Room", outline=outline),))])
    return apply_edits(project, edits)


def with_device(kind="access_point", project=None, **changes):
    project = project or room()
    return apply_edits(project, [AddDrops(room=project.rooms[0].id, kind=kind, changes=DropChanges(**changes))])


def test_walls_are_named_by_the_side_of_the_plan_on_which_they_lie():
    assert [wall.side for wall in walls(SQUARE)] == ["top", "right", "bottom", "left"]


def test_a_ceiling_device_is_set_out_from_the_two_nearest_walls_across_each_other():
    found = set_out(with_device(x_m=1.5, y_m=3.2, place="ceiling"))[0]
    assert (found.mount, found.height_m) == ("ceiling", 2.6)
    assert (found.first.wall.side, found.first.m) == ("bottom", 0.8)
    assert (found.second.wall.side, found.second.m) == ("left", 1.5)
    assert found.placed


def test_a_wall_device_is_set_out_along_its_wall_and_by_its_height():
    found = set_out(with_device("camera", x_m=4.0, y_m=0.1, height_m=2.2))[0]
    assert (found.mount, found.first.wall.side, found.height_m) == ("wall", "top", 2.2)
    assert (found.second.wall.side, found.second.m) == ("right", 2.0)


def test_what_nobody_placed_says_so_and_jacks_are_set_out_only_where_placed():
    assert not set_out(with_device())[0].placed
    assert set_out(with_device("desk")) == ()
    assert set_out(with_device("desk", x_m=1, y_m=0.1))[0].placed
    assert set_out(with_device(existing=True)) == ()


def test_the_nearest_landmark_of_the_floor_is_taken():
    project = room()
    floor = project.floors[0].id
    marks = [
        AddEntry(list="landmarks", values={"name": name, "floor_id": floor, "x_m": x, "y_m": y})
        for name, x, y in (("Flue", 2.0, 1.0), ("Pipe", 5.5, 3.5))
    ]
    project = with_device(project=apply_edits(project, marks), x_m=3.0, y_m=3.0)
    far = set_out(project)[0].landmark
    assert (far.landmark.name, far.right_m, far.down_m) == ("Flue", 1.0, 2.0)
    assert far.straight_m == pytest.approx(math.sqrt(5), abs=1e-3)
    gone = apply_edits(project, [RemoveEntry(list="landmarks", id=far.landmark.id)])
    assert set_out(gone)[0].landmark.landmark.name == "Pipe"


@settings(max_examples=60, deadline=None)
@given(x=st.floats(0.1, 0.9), y=st.floats(0.1, 0.9), outline=st.sampled_from([SQUARE, SLANTED]))
def test_the_spot_is_found_again_from_its_offsets(x, y, outline):
    """From inside the room, wherever: two distances from two walls give the spot back."""
    (ax, ay), (bx, by), (cx, cy), (dx, dy) = outline
    spot = (
        (1 - y) * ((1 - x) * ax + x * bx) + y * ((1 - x) * dx + x * cx),
        (1 - y) * ((1 - x) * ay + x * by) + y * ((1 - x) * dy + x * cy),
    )
    first, second = offsets(outline, spot)
    again = spot_at(first.wall, first.m, second.wall, second.m, spot)
    assert math.dist(again, spot) < 0.003


def test_what_was_built_elsewhere_is_recorded_and_its_run_follows():
    project = with_device(x_m=1.5, y_m=3.2, place="ceiling")
    closet = project.closets[0].model_copy(update={"room_id": project.rooms[0].id, "x_m": 5.0, "y_m": 1.0})
    project = project.changed(closets=(closet,))
    drop = project.drops[0]
    record = RecordBuilt(drop_id=drop.id, first_m=1.3, second_m=2.0, why="joist")
    built = apply_edits(project, [record])
    found = set_out(built)[0]
    assert found.built == (2.0, 2.7)
    assert found.spot == (1.5, 3.2), "what was planned stays"
    assert (found.built_why, found.moved_m) == ("joist", pytest.approx(math.hypot(0.5, 0.5), abs=1e-3))
    # 0.5 m nearer on each axis
    assert runs(project)[drop.id].length_m - runs(built)[drop.id].length_m == pytest.approx(1.0)
    assert record.summary(project).startswith("record where Access point")
    back = apply_edits(built, [RecordBuilt(drop_id=drop.id, first_m=None, second_m=None)])
    assert set_out(back)[0].built is None and back.drops[0].built_why == ""


def test_one_distance_alone_leaves_the_other_as_planned():
    project = with_device(x_m=1.5, y_m=3.2)
    built = apply_edits(project, [RecordBuilt(drop_id=project.drops[0].id, first_m=1.0, second_m=None)])
    assert set_out(built)[0].built == (1.5, 3.0)


def test_what_was_only_laid_out_is_planned_once_it_is_built():
    project = with_device()
    before = set_out(project)[0]
    built = apply_edits(project, [RecordBuilt(drop_id=project.drops[0].id, first_m=1.0, second_m=1.0)])
    after = set_out(built)[0]
    assert after.spot == before.spot and after.placed
    assert (after.first, after.second) == (before.first, before.second), "measured from the same walls"


def test_a_copy_is_neither_pulled_nor_built_by_its_first():
    project = with_device(x_m=1.0, y_m=1.0)
    pulled = apply_edits(project, [ChangeDrops(ids=(project.drops[0].id,), changes=DropChanges(pulled=True))])
    from baugrund.core.edits import DuplicateDrops

    copy = apply_edits(pulled, [DuplicateDrops(ids=(project.drops[0].id,))]).drops[-1]
    assert not copy.pulled
