"""Layout: where every room, drop, closet and entry is, drawn or not.

What nobody has drawn is laid out: rooms by their size in rows beside those drawn, drops along the walls or under the
ceiling of their room.  So plan and section are complete from the first room on.  Metres; heights above the floor,
elevations above the ground.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterable, Sequence
from functools import lru_cache

from shapely import Point as Spot
from shapely import Polygon

from ..facts.building import Floor, Point, Room
from ..facts.drop import Drop
from ..facts.fact import Fact
from ..facts.kept import kept
from ..facts.project import Project
from .openings import PlacedOpening, openings_in
from .walls import WallPiece, wall_pieces

USUAL_SIDES_M = (4.0, 3.5)
USUAL_SIDES_OUTSIDE_M = (8.0, 4.0)
"""Sides of a room that nobody has measured, *default*."""
OFF_THE_WALL_M = 0.2
DRAWING_RATIO = 1.5
"""Rooms are laid out to a plan about this much wider than deep."""

HEIGHTS_M = {
    "desk": 0.8, "shelf": 0.8, "bench": 0.9, "floor": 0.1, "low": 0.1, "door": 1.4, "window": 1.0, "mast": 4.0,
    "post": 1.5,
}  # fmt: skip
WALL_HEIGHTS_M = {"screen": 1.2, "door_station": 1.4, "reader": 1.1}
"""Height of a drop above the floor [m] by a word of its place, or on the wall by its kind, *default*."""
JACK_HEIGHT_M = 0.3
UNDER_CEILING_M = 0.3
HIGH_KINDS = ("camera", "access_point")


class PlacedRoom(Fact):
    """A room on its floor; ``drawn``: by somebody, not laid out."""

    id: int
    floor_id: int
    outline: tuple[Point, ...]
    drawn: bool
    area_m2: float


class PlacedDrop(Fact):
    """A drop on its floor; ``placed``: by somebody, not laid out."""

    id: int
    floor_id: int
    x_m: float
    y_m: float
    height_m: float
    placed: bool


class PlacedPoint(Fact):
    """A closet or an entry on its floor."""

    id: int
    floor_id: int
    x_m: float
    y_m: float


class Storey(Fact):
    """A floor and how high it lies."""

    id: int
    elevation_m: float


class Layout(Fact):
    """Everything on its place."""

    rooms: tuple[PlacedRoom, ...]
    drops: tuple[PlacedDrop, ...]
    closets: tuple[PlacedPoint, ...]
    entries: tuple[PlacedPoint, ...]
    walls: tuple[WallPiece, ...]
    openings: tuple[PlacedOpening, ...]
    storeys: tuple[Storey, ...]


CLOSET_HEIGHT_M = 1.0
"""Height at which runs leave the closet [m], *default*."""


@kept
def layout(project: Project) -> Layout:
    """Where everything of a project is."""
    rooms = placed_rooms(project)
    outlines = {room.id: room.outline for room in rooms}
    floors = {room.id: room.floor_id for room in rooms}
    by_room: dict[int, list[Drop]] = defaultdict(list)
    for drop in project.drops:
        by_room[drop.room_id].append(drop)
    drops: list[PlacedDrop] = []
    for room_id, some in by_room.items():
        floor = project.floors_by_id[floors[room_id]]
        drops += _placed_in(outlines[room_id], tuple(some), floor)

    def point(number: int, room_id: int, x: float | None, y: float | None) -> PlacedPoint:
        here = (x, y) if x is not None and y is not None else corner_of(outlines[room_id])
        return PlacedPoint(id=number, floor_id=floors[room_id], x_m=here[0], y_m=here[1])

    pieces, raised = wall_pieces(project), elevations(project.floors)
    return Layout(
        rooms=rooms,
        drops=tuple(sorted(drops, key=lambda drop: drop.id)),
        closets=tuple(point(c.id, c.room_id, c.x_m, c.y_m) for c in project.closets if c.room_id is not None),
        entries=tuple(point(e.id, e.room_id, e.x_m, e.y_m) for e in project.entries),
        walls=pieces,
        openings=openings_in(pieces, project.openings, tuple(raised.items()))[0],
        storeys=tuple(Storey(id=number, elevation_m=at) for number, at in raised.items()),
    )


def corner_of(outline: Iterable[Point]) -> Point:
    """The corner of a room in which a closet or entry is as long as nobody has placed it."""
    first = _inset(Polygon(outline)).exterior.coords[0]
    return (first[0], first[1])


def placed_rooms(project: Project) -> tuple[PlacedRoom, ...]:
    """Every room with an outline: its own, or one in rows under those that are drawn on its floor."""
    placed: list[PlacedRoom] = []
    for floor in project.floors:
        here = [room for room in project.rooms if room.floor_id == floor.id]
        drawn = [(room, room.outline) for room in here if room.outline]
        start = max((y for _, outline in drawn for _, y in outline), default=0.0)
        laid = _in_rows([room for room in here if not room.outline], start)
        for room, outline in [*drawn, *laid]:
            placed.append(
                PlacedRoom(
                    id=room.id,
                    floor_id=floor.id,
                    outline=outline,
                    drawn=room.outline is not None,
                    area_m2=round(Polygon(outline).area, 2),
                )
            )
    return tuple(placed)


def sides_m(room: Room) -> tuple[float, float]:
    """Width and depth of a room that is not drawn [m]."""
    width, depth = USUAL_SIDES_OUTSIDE_M if room.outside else USUAL_SIDES_M
    return room.width_m or width, room.depth_m or depth


def _in_rows(rooms: Sequence[Room], top: float) -> list[tuple[Room, tuple[Point, ...]]]:
    """Rooms side by side in rows, so that the whole comes out a little wider than deep."""
    sides = [sides_m(room) for room in rooms]
    widest = max((width for width, _ in sides), default=0.0)
    limit = max(widest, math.sqrt(sum(w * d for w, d in sides) * DRAWING_RATIO))
    laid: list[tuple[Room, tuple[Point, ...]]] = []
    x = row_depth = 0.0
    for room, (width, depth) in zip(rooms, sides, strict=True):
        if x > 0 and x + width > limit + 1e-9:
            top, x, row_depth = top + row_depth, 0.0, 0.0
        laid.append((room, ((x, top), (x + width, top), (x + width, top + depth), (x, top + depth))))
        x, row_depth = x + width, max(row_depth, depth)
    return laid


def elevations(floors: Iterable[Floor]) -> dict[int, float]:
    """How high each floor lies above the ground [m], building by building; storeys stack with what is between."""
    by_building: dict[int | None, dict[int, list[Floor]]] = defaultdict(lambda: defaultdict(list))
    for floor in floors:
        by_building[floor.building_id][floor.level].append(floor)
    found: dict[int, float] = {}
    for levels in by_building.values():
        rise = 0.0
        for level in sorted(number for number in levels if number >= 0):
            found |= {floor.id: round(rise, 3) for floor in levels[level]}
            rise += max(floor.height_m + floor.slab_m for floor in levels[level])
        fall = 0.0
        for level in sorted((number for number in levels if number < 0), reverse=True):
            fall -= max(floor.height_m + floor.slab_m for floor in levels[level])
            found |= {floor.id: round(fall, 3) for floor in levels[level]}
    return found


def place_of(drop: Drop) -> Point:
    """Where a drop that was put somewhere is: as built where that is known, else as planned [m]."""
    if drop.built_x_m is not None and drop.built_y_m is not None:
        return (drop.built_x_m, drop.built_y_m)
    return (drop.x_m or 0.0, drop.y_m or 0.0)


def usual_height_m(drop: Drop, floor: Floor) -> float:
    """Height of a drop above its floor [m]: as typed, or what its place and kind usually have."""
    if drop.height_m is not None:
        return drop.height_m
    words = drop.place.casefold().split()
    if "ceiling" in words:
        return floor.height_m
    if "eaves" in words or "high" in words:
        return floor.height_m - UNDER_CEILING_M
    for word in words:
        if word in HEIGHTS_M:
            return HEIGHTS_M[word]
    if drop.kind in WALL_HEIGHTS_M:
        return WALL_HEIGHTS_M[drop.kind]
    return floor.height_m - UNDER_CEILING_M if drop.kind in HIGH_KINDS and drop.variant != "in_wall" else JACK_HEIGHT_M


@lru_cache(maxsize=4096)
def _placed_in(outline: tuple[Point, ...], drops: tuple[Drop, ...], floor: Floor) -> list[PlacedDrop]:
    """Drops of one room: those placed where they are, the rest spread under the ceiling or along the walls."""
    shape = Polygon(outline)
    loose = [drop for drop in drops if drop.x_m is None and drop.built_x_m is None]
    above = [drop for drop in loose if "ceiling" in drop.place.casefold()]
    along = [drop for drop in loose if "ceiling" not in drop.place.casefold()]
    spots = dict(zip((d.id for d in above), _under_ceiling(shape, len(above)), strict=True))
    spots |= dict(zip((d.id for d in along), _along_walls(shape, len(along)), strict=True))
    placed = []
    for drop in drops:
        at = spots.get(drop.id) or place_of(drop)
        placed.append(
            PlacedDrop(
                id=drop.id,
                floor_id=floor.id,
                x_m=round(at[0], 3),
                y_m=round(at[1], 3),
                height_m=round(usual_height_m(drop, floor), 2),
                placed=drop.id not in spots,
            )
        )
    return placed


def _inset(shape: Polygon) -> Polygon:
    inner = shape.buffer(-OFF_THE_WALL_M, join_style="mitre")
    return inner if isinstance(inner, Polygon) and not inner.is_empty else shape


def _along_walls(shape: Polygon, count: int) -> list[Point]:
    ring = _inset(shape).exterior
    spots = (ring.interpolate((n + 0.5) / count, normalized=True) for n in range(count))
    return [(spot.x, spot.y) for spot in spots]


def _under_ceiling(shape: Polygon, count: int) -> list[Point]:
    """Evenly along the longer side, through the middle; where that leaves the room, its innermost point."""
    west, north, east, south = shape.bounds
    inside = shape.representative_point()
    spots: list[Point] = []
    for n in range(count):
        part = (n + 0.5) / count
        wide = east - west >= south - north
        x = west + (east - west) * (part if wide else 0.5)
        y = north + (south - north) * (0.5 if wide else part)
        here = shape.buffer(-OFF_THE_WALL_M).covers(Spot(x, y))
        spots.append((x, y) if here else (inside.x, inside.y))
    return spots
