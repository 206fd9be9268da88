"""Layout: every room has a place, drawn or not; storeys stack; drops stand in their room; runs go at right angles."""

from itertools import pairwise

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import Point, Polygon, unary_union

from baugrund.core.edits import (
    AddDrops,
    AddEntry,
    AddRooms,
    ChangeDrops,
    ChangeEntry,
    ChangeRoom,
    DropChanges,
    NewRoom,
    RoomChanges,
    apply_edits,
)
from baugrund.core.errors import InvalidInput
from baugrund.core.facts.building import Floor, guessed_level
from baugrund.core.facts.project import empty_project
from baugrund.core.places.layout import elevations, layout, placed_rooms
from baugrund.core.reach.runs import runs


def drawn_runs(project):
    return [run for run in runs(project).values() if run.line.corners]


def site(*rooms, edits=()):
    return apply_edits(empty_project("L", 2026), [AddRooms(rooms=rooms), *edits])


sides = st.floats(0.3, 30).map(lambda value: round(value, 2))


@given(st.lists(st.tuples(sides, sides), min_size=1, max_size=14))
@settings(max_examples=60, deadline=None)
def test_rooms_that_are_not_drawn_lie_side_by_side_in_their_size(sizes):
    rooms = placed_rooms(site(*(NewRoom(name=f"R{n}", width_m=w, depth_m=d) for n, (w, d) in enumerate(sizes))))
    shapes = [Polygon(room.outline) for room in rooms]
    for shape, (width, depth) in zip(shapes, sizes, strict=True):
        assert shape.area == pytest.approx(width * depth, rel=1e-6)
    assert unary_union(shapes).area == pytest.approx(sum(shape.area for shape in shapes), rel=1e-6)


def test_a_room_to_lay_out_goes_under_those_that_are_drawn():
    drawn = NewRoom(name="A", floor="G", outline=((0, 0), (5, 0), (5, 4), (0, 4)))
    first, second = placed_rooms(site(drawn, NewRoom(name="B", floor="G", width_m=2, depth_m=3)))
    assert (first.drawn, second.drawn) == (True, False)
    assert second.outline == ((0, 4), (2, 4), (2, 7), (0, 7))


def test_storeys_stack_with_what_is_between_and_buildings_stand_apart():
    floors = [
        Floor(id=1, building_id=9, name="Cellar", level=-1, height_m=2.4, slab_m=0.3),
        Floor(id=2, building_id=9, name="Ground", level=0, height_m=3.0, slab_m=0.4),
        Floor(id=3, building_id=9, name="First", level=1, height_m=2.5, slab_m=0.3),
        Floor(id=4, building_id=8, name="Shed", level=0, height_m=2.0),
        Floor(id=5, name="Yard"),
    ]
    assert elevations(floors) == {1: -2.7, 2: 0.0, 3: 3.4, 4: 0.0, 5: 0.0}


@pytest.mark.parametrize(
    ("name", "taken", "level"),
    [("Cellar", [], -1), ("Ground floor", [3], 0), ("First floor", [], 1), ("2nd floor", [], 2), ("Loft", [0, 1], 2),
     ("Mezzanine", [], 0)],
)  # fmt: skip
def test_the_level_is_told_by_the_name_or_is_the_next(name, taken, level):
    assert guessed_level(name, taken) == level


kinds = st.sampled_from(["desk", "access_point", "camera", "hub", "screen"])
L_SHAPE = ((0.0, 0.0), (6.0, 0.0), (6.0, 2.0), (2.0, 2.0), (2.0, 5.0), (0.0, 5.0))


@given(st.lists(kinds, max_size=12), st.booleans())
@settings(max_examples=60, deadline=None)
def test_every_drop_stands_within_its_room_and_under_its_ceiling(listed, angled):
    room = NewRoom(name="R", outline=L_SHAPE) if angled else NewRoom(name="R", width_m=4, depth_m=3)
    project = site(room, edits=[AddDrops(room="R", kind=kind) for kind in listed])
    placed = layout(project)
    shape = Polygon(placed.rooms[0].outline)
    height = project.floors[0].height_m
    for drop in placed.drops:
        assert shape.covers(Point(drop.x_m, drop.y_m))
        assert 0 <= drop.height_m <= height


def test_a_drop_that_is_placed_stays_there_and_heights_follow_from_the_place():
    project = site(
        NewRoom(name="R"),
        edits=[
            AddDrops(room="R", kind="jack", changes=DropChanges(x_m=1.25, y_m=2.5)),
            AddDrops(room="R", kind="access_point"),
            AddDrops(room="R", kind="door_station"),
            AddDrops(room="R", kind="desk", changes=DropChanges(height_m=0.9)),
            AddDrops(room="R", kind="camera"),
        ],
    )
    jack, ceiling, door, desk, camera = layout(project).drops
    assert (jack.x_m, jack.y_m, jack.placed, jack.height_m) == (1.25, 2.5, True, 0.3)
    assert (ceiling.height_m, door.height_m, desk.height_m, camera.height_m) == (2.6, 1.4, 0.9, 2.3)


def test_a_run_goes_up_through_floors_along_and_down_at_right_angles():
    project = site(
        NewRoom(name="Closet", floor="Ground floor", outline=((0, 0), (2, 0), (2, 2), (0, 2))),
        NewRoom(name="Office", floor="First floor", outline=((0, 0), (8, 0), (8, 6), (0, 6))),
        edits=[AddDrops(room="Office", kind="desk", changes=DropChanges(x_m=7, y_m=5))],
    )
    here = {"room_id": project.rooms[0].id, "x_m": 1, "y_m": 1}
    project = apply_edits(project, [ChangeEntry(list="closets", id=1, changes=here)])
    (way,) = drawn_runs(project)
    assert way.line.corners == (
        (1, 1, 1.0), (1, 1, 2.6), (1, 1, 2.9 + 2.6), (7, 1, 5.5), (7, 5, 5.5), (7, 5, 3.2),
    )  # fmt: skip
    assert drawn_runs(site(NewRoom(name="R"))) == []


def test_a_room_that_would_cover_another_is_refused_and_one_that_touches_is_not():
    project = site(NewRoom(name="A", floor="G", outline=((0, 0), (4, 0), (4, 4), (0, 4))), NewRoom(name="B", floor="G"))
    beside = ChangeRoom(id=project.rooms[1].id, changes=RoomChanges(outline=((4, 0), (8, 0), (8, 4), (4, 4))))
    assert apply_edits(project, [beside]).rooms[1].outline is not None
    over = ChangeRoom(id=project.rooms[1].id, changes=RoomChanges(outline=((3, 0), (8, 0), (8, 4), (3, 4))))
    with pytest.raises(InvalidInput, match=r"B would cover 4\.0 m² of A\."):
        apply_edits(project, [over])


@pytest.mark.parametrize(
    ("outline", "said"),
    [(((0, 0), (4, 4), (4, 0), (0, 4)), "must not cross itself"), (((0, 0), (0.1, 0), (0.1, 0.1)), "is the least")],
)
def test_an_outline_that_is_no_room_is_refused(outline, said):
    with pytest.raises(InvalidInput, match=said):
        site(NewRoom(name="X", outline=outline))


def test_the_closet_and_entries_stand_where_they_are_put_or_in_a_corner_of_their_room():
    project = site(NewRoom(name="Hall", outline=((2, 2), (6, 2), (6, 5), (2, 5))))
    hall = project.rooms[0].id
    entry = AddEntry(list="entries", values={"name": "Street", "room_id": hall})
    project = apply_edits(project, [entry, ChangeEntry(list="closets", id=1, changes={"room_id": hall})])
    placed = layout(project)
    shape = Polygon(placed.rooms[0].outline)
    for point in (*placed.closets, *placed.entries):
        assert shape.covers(Point(point.x_m, point.y_m))
    put = {"x_m": 3.5, "y_m": 4.25}
    moved = layout(apply_edits(project, [ChangeEntry(list="closets", id=1, changes=put)]))
    assert (moved.closets[0].x_m, moved.closets[0].y_m) == (3.5, 4.25)


def test_what_hangs_behind_another_has_no_way_of_its_own():
    project = site(
        NewRoom(name="Hall"),
        edits=[AddDrops(room="Hall", kind="room_switch"), AddDrops(room="Hall", kind="desk", count=2)],
    )
    switch, first, _ = project.drops
    fed = ChangeDrops(ids=(first.id,), changes=DropChanges(behind_id=switch.id))
    here = ChangeEntry(list="closets", id=1, changes={"room_id": project.rooms[0].id})
    project = apply_edits(project, [fed, here])
    assert {way.drop_id for way in drawn_runs(project)} == {drop.id for drop in project.drops} - {first.id}


@given(st.lists(st.tuples(kinds, st.integers(0, 2)), max_size=10))
@settings(max_examples=40, deadline=None)
def test_every_way_leads_from_the_closet_to_its_drop_and_never_slants(listed):
    names = ("Cellar", "Ground floor", "Loft")
    project = site(
        *(NewRoom(name=name, floor=name) for name in names),
        edits=[AddDrops(room=names[floor], kind=kind) for kind, floor in listed],
    )
    project = apply_edits(project, [ChangeEntry(list="closets", id=1, changes={"room_id": project.rooms[0].id})])
    placed = layout(project)
    level = {storey.id: storey.elevation_m for storey in placed.storeys}
    spots = {drop.id: (drop.x_m, drop.y_m, level[drop.floor_id] + drop.height_m) for drop in placed.drops}
    for way in drawn_runs(project):
        assert way.line.corners[0][:2] == (placed.closets[0].x_m, placed.closets[0].y_m)
        assert way.line.corners[-1] == pytest.approx(spots[way.drop_id])
        for a, b in pairwise(way.line.corners):
            assert sum(abs(p - q) > 1e-9 for p, q in zip(a, b, strict=True)) <= 1
