"""Walls as pieces between nodes: shared sides once, doubled ones merged, whatever meets a wall divides it."""

import math
import random

import pytest
from shapely import LineString, MultiLineString, Point, Polygon, unary_union

from baugrund.core.edits import (
    AddEntry,
    AddRooms,
    ChangeEntry,
    ChangeRoom,
    NewRoom,
    RemoveEntry,
    RemoveRoom,
    RoomChanges,
    apply_edits,
)
from baugrund.core.errors import InvalidInput
from baugrund.core.facts.project import empty_project
from baugrund.core.places.walls import DOUBLED_M, wall_pieces
from baugrund.core.standards.walls import MATERIALS, USUAL_THICKNESS_MM


def box(x, y, width, depth):
    return ((x, y), (x + width, y), (x + width, y + depth), (x, y + depth))


def rooms(*outlines, materials=()):
    new = tuple(NewRoom(name=f"Room {n}", outline=outline) for n, outline in enumerate(outlines))
    project = apply_edits(empty_project("Walls", 2026), [AddRooms(rooms=new)])
    changes = [
        ChangeRoom(id=room.id, changes=RoomChanges(wall=wall))
        for room, wall in zip(project.rooms, materials, strict=False)
    ]
    return apply_edits(project, changes) if changes else project


def wall(project, start, end, **more):
    values = {
        "floor_id": project.floors[0].id,
        "x_m": start[0],
        "y_m": start[1],
        "to_x_m": end[0],
        "to_y_m": end[1],
        **more,
    }
    return apply_edits(project, [AddEntry(list="walls", values=values)])


def between(project):
    """Pieces by their ends, the lesser first."""
    return {(min(p.start, p.end), max(p.start, p.end)): p for p in wall_pieces(project)}


def test_a_room_alone_has_a_piece_a_side_of_the_usual_thickness():
    found = between(rooms(box(0, 0, 4, 3), materials=["brick"]))
    assert set(found) == {((0, 0), (4, 0)), ((4, 0), (4, 3)), ((0, 3), (4, 3)), ((0, 0), (0, 3))}
    told = {(p.material, p.thickness_mm, p.thickness_known, len(p.room_ids)) for p in found.values()}
    assert told == {("brick", 240, False, 1)}


def test_a_wall_between_two_rooms_is_one_and_of_the_heavier_material():
    project = rooms(box(0, 0, 4, 3), box(4, 0, 2, 3), materials=["concrete", "plasterboard"])
    found = between(project)
    assert len(found) == 7
    shared = found[(4, 0), (4, 3)]
    assert (shared.room_ids, shared.material, shared.thickness_mm) == (
        tuple(room.id for room in project.rooms),
        "concrete",
        200,
    )
    assert found[(4, 0), (6, 0)].material == "plasterboard"


def test_a_room_that_ends_on_the_side_of_another_divides_it():
    found = between(rooms(box(0, 0, 6, 3), box(0, 3, 2, 2)))
    assert {((0, 3), (2, 3)), ((2, 3), (6, 3))} <= set(found)
    assert len(found[(0, 3), (2, 3)].room_ids) == 2 and len(found[(2, 3), (6, 3)].room_ids) == 1


@pytest.mark.parametrize(("gap", "merged"), [(0.1, True), (DOUBLED_M, True), (DOUBLED_M + 0.01, False)])
def test_rooms_drawn_by_their_clear_sizes_have_one_wall_between_as_thick_as_their_gap(gap, merged):
    found = wall_pieces(rooms(box(0, 0, 4, 3), box(4 + gap, 0, 2, 3)))
    assert len(found) == (7 if merged else 8)
    if merged:
        (shared,) = [piece for piece in found if len(piece.room_ids) == 2]
        assert (shared.thickness_mm, shared.thickness_known) == (round(gap * 1000), True)
        assert {shared.start[0], shared.end[0]} == {round(4 + gap / 2, 3)}


def test_four_rooms_with_walls_between_meet_in_one_node():
    outlines = [box(x, y, 4, 3) for x in (0, 4.24) for y in (0, 3.24)]
    found = wall_pieces(rooms(*outlines))
    assert len(found) == 12
    assert sum((4.12, 3.12) in (piece.start, piece.end) for piece in found) == 4


def test_a_narrow_shaft_keeps_its_sides():
    assert len(wall_pieces(rooms(box(0, 0, 0.5, 0.6)))) == 4
    assert len(wall_pieces(rooms(box(0, 0, 4, 3), box(4, 0, 0.3, 3)))) == 7


def test_open_ground_and_rooms_that_nobody_has_drawn_have_no_walls():
    project = apply_edits(
        empty_project("Walls", 2026),
        [AddRooms(rooms=(NewRoom(name="Laid"), NewRoom(name="Yard", outside=True, outline=box(0, 0, 9, 9))))],
    )
    assert wall_pieces(project) == ()


def test_a_wall_along_a_side_says_what_it_is_there_and_divides_it():
    project = rooms(box(0, 0, 6, 3))
    said = wall(project, (1, 0.05), (3, 0), material="metal", thickness_mm=80)
    found = between(said)
    assert set(found) >= {((0, 0), (1, 0)), ((1, 0), (3, 0)), ((3, 0), (6, 0))}
    piece = found[(1, 0), (3, 0)]
    assert (piece.material, piece.thickness_mm, piece.wall_id) == ("metal", 80, said.walls[0].id)
    assert (found[(0, 0), (1, 0)].material, found[(0, 0), (1, 0)].wall_id) == ("plasterboard", None)
    back = apply_edits(
        said, [ChangeEntry(list="walls", id=said.walls[0].id, changes={"material": "glass", "thickness_mm": None})]
    )
    assert (between(back)[(1, 0), (3, 0)].material, between(back)[(1, 0), (3, 0)].thickness_mm) == ("glass", 10)


def test_what_the_piece_between_two_rooms_apart_is_can_be_said_of_the_piece_itself():
    project = rooms(box(0, 0, 4, 3), box(4.3, 0, 2, 3))
    (shared,) = [piece for piece in wall_pieces(project) if len(piece.room_ids) == 2]
    found = between(wall(project, shared.start, shared.end, material="block"))
    assert len(found) == 7
    again = found[min(shared.start, shared.end), max(shared.start, shared.end)]
    assert (again.material, again.thickness_mm, len(again.room_ids)) == ("block", 300, 2)


def test_walls_that_cross_divide_each_other_and_the_sides_that_they_meet():
    project = wall(wall(rooms(box(0, 0, 6, 4)), (2, -1), (2, 5)), (-1, 2), (7, 2))
    found = between(project)
    assert {((2, 0), (2, 2)), ((2, 2), (2, 4)), ((0, 2), (2, 2)), ((0, 0), (2, 0)), ((2, -1), (2, 0))} <= set(found)
    assert len(found) == 8 + 4 + 4


def test_a_wall_of_no_length_is_refused():
    with pytest.raises(InvalidInput, match=r"the wall is 0\.000 m long"):
        wall(rooms(box(0, 0, 6, 4)), (1, 1), (1, 1))


def test_walls_of_a_floor_go_with_it():
    project = wall(rooms(box(0, 0, 6, 4)), (1, 1), (3, 1))
    gone = apply_edits(
        project, [RemoveRoom(id=project.rooms[0].id), RemoveEntry(list="floors", id=project.floors[0].id)]
    )
    assert gone.walls == ()


def test_every_material_has_a_usual_thickness():
    assert set(USUAL_THICKNESS_MM) == set(MATERIALS)


@pytest.mark.parametrize("seed", range(12))
def test_pieces_cover_every_side_and_wall_and_cross_nowhere(seed):
    """Rooms on a grid without gaps and walls over them: the same lines as Shapely's union of all of them, noded."""
    draw = random.Random(seed)
    cells = draw.sample([(x, y) for x in range(4) for y in range(3)], 7)
    project = rooms(*(box(x * 3, y * 2, 3, 2) for x, y in cells))
    lines = [Polygon(room.outline).exterior for room in project.rooms]
    for _ in range(3):
        start, end = [(draw.randint(0, 24) / 2, draw.randint(0, 12) / 2) for _ in range(2)]
        if math.dist(start, end) > 0.5:
            project = wall(project, start, end)
            lines.append(LineString([start, end]))
    found = MultiLineString([[piece.start, piece.end] for piece in wall_pieces(project)])
    assert abs(found.length - unary_union(lines).length) < 0.02 * found.length
    assert found.hausdorff_distance(unary_union(lines)) < 0.11
    pieces = [*found.geoms]
    for one in pieces:
        for other in pieces:
            met = one.intersection(other)
            assert (
                one is other
                or met.is_empty
                or (isinstance(met, Point) and min(map(met.distance, one.boundary.geoms)) < 0.01)
            )
