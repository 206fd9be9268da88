"""Setting out: where a device goes, from two walls and from a landmark that is seen on both sides of the ceiling.

Distances are at right angles to the walls of the room's outline, in metres.  A wall is named by the side of the plan on
which it lies: top, right, bottom or left.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Annotated, Literal

from ..errors import InvalidInput
from ..facts.building import Landmark, Point
from ..facts.drop import Drop
from ..facts.fact import numbers
from ..facts.kept import kept
from ..facts.project import Project
from .layout import PlacedDrop, layout

SQUARE = math.radians(30)
"""The second wall stands across the first, by at least so much."""
ON_WALL_M = 0.45
"""A device no further from a wall than this, and not under the ceiling, hangs on it."""
SET_OUT = ("access_point", "camera", "door_station", "reader")
"""Kinds that are set out wherever they are; jacks and screens are, where somebody has placed them."""
ON_WALLS = ("desk", "jack", "screen", "printer", "console", "spare", "phone")

Side = Literal["top", "right", "bottom", "left"]


@dataclass(frozen=True)
class RoomSide:
    """A wall of a room: its ends, and the side of the plan on which it lies."""

    side: Side
    start: Point
    end: Point

    @property
    def along(self) -> Point:
        """Direction from start to end, of length 1."""
        length = math.dist(self.start, self.end)
        return ((self.end[0] - self.start[0]) / length, (self.end[1] - self.start[1]) / length)

    def away(self, spot: Point) -> float:
        """Distance of a spot from the line of the wall [m]."""
        ux, uy = self.along
        return abs((spot[0] - self.start[0]) * uy - (spot[1] - self.start[1]) * ux)


@dataclass(frozen=True)
class Offset:
    """A distance from a wall [m]."""

    wall: RoomSide
    m: float


@dataclass(frozen=True)
class FromLandmark:
    """The way from a landmark: along the plan to the right and down (negative: left, up), and straight [m]."""

    landmark: Landmark
    right_m: float
    down_m: float
    straight_m: float


@dataclass(frozen=True)
class SetOut:
    """A device to set out: planned, and as built where that is known."""

    drop_id: int
    floor_id: int
    room_id: int
    spot: Point
    height_m: float
    mount: Literal["ceiling", "wall", "free"]
    first: Offset
    second: Offset
    landmark: FromLandmark | None
    placed: bool
    """Somebody has put it there; else it was only laid out evenly in its room."""
    built: Point | None
    built_offsets: Annotated[tuple[float, float], numbers(2)] | None
    """From the first and second wall to where it stands [m]."""
    built_why: str
    moved_m: float
    """From the planned spot to the one as built [m]."""


def walls(outline: Sequence[Point]) -> tuple[RoomSide, ...]:
    """The walls of a room, each with the side of the plan on which it lies."""
    middle = (sum(x for x, _ in outline) / len(outline), sum(y for _, y in outline) / len(outline))
    found = []
    for start, end in pairwise([*outline, outline[0]]):
        if math.dist(start, end) > 1e-9:
            found.append(RoomSide(_side(start, end, middle), start, end))
    return tuple(found)


def _side(start: Point, end: Point, middle: Point) -> Side:
    off_x, off_y = (start[0] + end[0]) / 2 - middle[0], (start[1] + end[1]) / 2 - middle[1]
    if abs(end[0] - start[0]) >= abs(end[1] - start[1]):
        return "top" if off_y < 0 else "bottom"
    return "left" if off_x < 0 else "right"


def offsets(outline: Sequence[Point], spot: Point) -> tuple[Offset, Offset]:
    """Distances from the nearest wall and from the nearest one across it.

    Raises InvalidInput for an outline with no two walls across each other.
    """
    some = sorted((wall for wall in walls(outline)), key=lambda wall: (round(_to_segment(wall, spot), 3), wall.side))
    first = some[0]
    for second in some[1:]:
        turn = abs(first.along[0] * second.along[1] - first.along[1] * second.along[0])
        if turn >= math.sin(SQUARE):
            return Offset(first, round(first.away(spot), 3)), Offset(second, round(second.away(spot), 3))
    raise InvalidInput("The room has no two walls that stand across each other.")


def _to_segment(wall: RoomSide, spot: Point) -> float:
    ux, uy = wall.along
    length = math.dist(wall.start, wall.end)
    at = min(length, max(0.0, (spot[0] - wall.start[0]) * ux + (spot[1] - wall.start[1]) * uy))
    return math.dist(spot, (wall.start[0] + ux * at, wall.start[1] + uy * at))


def spot_at(first: RoomSide, first_m: float, second: RoomSide, second_m: float, near: Point) -> Point:
    """The spot at these distances from two walls, on the side of each on which ``near`` lies."""
    lines = []
    for wall, metres in ((first, first_m), (second, second_m)):
        ux, uy = wall.along
        # a normal towards the side of the spot
        nx, ny = -uy, ux
        if (near[0] - wall.start[0]) * nx + (near[1] - wall.start[1]) * ny < 0:
            nx, ny = -nx, -ny
        lines.append((nx, ny, nx * wall.start[0] + ny * wall.start[1] + metres))
    (a, b, c), (d, e, f) = lines
    turn = a * e - b * d
    return (round((c * e - b * f) / turn, 3), round((a * f - c * d) / turn, 3))


def planned_spot(drop: Drop, placed: PlacedDrop) -> Point:
    """Where a drop was meant to go, whatever was built."""
    if drop.x_m is not None and drop.y_m is not None:
        return (drop.x_m, drop.y_m)
    return (placed.x_m, placed.y_m)


@kept
def set_out(project: Project) -> tuple[SetOut, ...]:
    """Every device on ceiling and wall that is to be set out, floor by floor and room by room."""
    return tuple(_all(project))


def _all(project: Project) -> Iterator[SetOut]:
    placed = layout(project)
    outlines = {room.id: room.outline for room in placed.rooms}
    order = {room.id: number for number, room in enumerate(project.rooms)}
    spots = sorted(placed.drops, key=lambda s: (order[project.drops_by_id[s.id].room_id], s.id))
    for at in spots:
        drop = project.drops_by_id[at.id]
        if drop.existing or not (drop.kind in SET_OUT or (at.placed and drop.kind in ON_WALLS)):
            continue
        yield _one(project, drop, at, outlines[drop.room_id])


def _one(project: Project, drop: Drop, at: PlacedDrop, outline: Sequence[Point]) -> SetOut:
    spot = planned_spot(drop, at)
    first, second = offsets(outline, spot)
    floor = project.floors_by_id[at.floor_id]
    built = None if drop.built_x_m is None or drop.built_y_m is None else (drop.built_x_m, drop.built_y_m)
    mount: Literal["ceiling", "wall", "free"] = "free"
    if at.height_m >= floor.height_m - 1e-9:
        mount = "ceiling"
    elif first.m <= ON_WALL_M:
        mount = "wall"
    return SetOut(
        drop.id, at.floor_id, drop.room_id, spot, at.height_m, mount, first, second, _nearest(project, at, spot),
        drop.x_m is not None, built,
        None if built is None else (round(first.wall.away(built), 3), round(second.wall.away(built), 3)),
        drop.built_why, 0.0 if built is None else round(math.dist(spot, built), 3),
    )  # fmt: skip


def _nearest(project: Project, at: PlacedDrop, spot: Point) -> FromLandmark | None:
    """The nearest landmark of the floor."""
    here = [mark for mark in project.landmarks if mark.floor_id == at.floor_id]
    if not here:
        return None
    mark = min(here, key=lambda one: (math.dist((one.x_m, one.y_m), spot), one.id))
    right, down = spot[0] - mark.x_m, spot[1] - mark.y_m
    return FromLandmark(mark, round(right, 3), round(down, 3), round(math.hypot(right, down), 3))
