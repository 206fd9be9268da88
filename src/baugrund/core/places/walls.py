"""Walls as pieces between nodes: the sides of rooms that are drawn, and the walls that somebody put there.

A wall between two rooms is one piece, whether their outlines share a side or stand up to `DOUBLED_M` apart, as rooms
do that are drawn by their clear sizes: corners that belong together become one node, half-way, and so does a corner
beside the side of another room.  Whatever ends on a wall or crosses it divides it.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from functools import lru_cache
from itertools import pairwise, product

from shapely import LineString, STRtree
from shapely import Point as Spot

from ..facts.building import Point, Room
from ..facts.fact import Fact
from ..facts.kept import kept
from ..facts.project import Project
from ..facts.walls import Wall
from ..standards.walls import MATERIALS, USUAL_THICKNESS_MM, Material

DOUBLED_M = 0.35
"""Sides of two rooms that are no further apart are the two faces of one wall [m], *default*."""
JOINED_M = 0.1
"""A wall that ends so close to another one, or to a corner, ends there [m]."""
LEAST_GAP_M = 0.02
"""Rooms that are closer share a side: what is between them is no thickness of a wall [m]."""
ON_M = 0.02
"""A node that is no further from a wall lies on it [m]."""
SQUARE_M = 4.0
"""Side of the squares by which stretches that are close are found [m]."""


class WallPiece(Fact):
    """A straight piece of wall from node to node; no other wall meets it in between."""

    floor_id: int
    start: Point
    end: Point
    material: Material
    thickness_mm: int
    thickness_known: bool
    """Whether somebody typed it, or drew its two faces; else it is what the material usually has."""
    height_m: float | None
    """Above its floor; None: up to the ceiling."""
    room_ids: tuple[int, ...]
    """Rooms that it bounds: none, one or two."""
    wall_id: int | None
    """The wall that says what it is; None: its rooms do."""

    @property
    def length_m(self) -> float:
        return math.dist(self.start, self.end)

    def along(self, spot: Point) -> float:
        """How far along it a spot is [m]; under 0 or over its length: beyond its ends."""
        (x, y), (to_x, to_y) = self.start, self.end
        return ((spot[0] - x) * (to_x - x) + (spot[1] - y) * (to_y - y)) / self.length_m

    def off(self, spot: Point) -> float:
        """How far a spot is from its line [m]."""
        (x, y), (to_x, to_y) = self.start, self.end
        return abs((spot[0] - x) * (to_y - y) - (spot[1] - y) * (to_x - x)) / self.length_m

    def at(self, along: float) -> Point:
        """The spot so far along it."""
        share = along / self.length_m
        (x, y), (to_x, to_y) = self.start, self.end
        return (x + share * (to_x - x), y + share * (to_y - y))

    def nearest(self, spot: Point) -> Point:
        """The spot of it that is nearest to a spot."""
        return self.at(min(max(self.along(spot), 0.0), self.length_m))


@dataclass(eq=False)
class _Side:
    """A side of a room."""

    room: Room
    start: Point
    end: Point
    ends: tuple[int, int]
    """Numbers of its corners."""


@dataclass(eq=False)
class _Stretch:
    """A straight stretch from node to node, the sides of rooms that lie on it, and the walls that say what it is."""

    start: Point
    end: Point
    sides: list[_Side] = field(default_factory=list)
    walls: list[Wall] = field(default_factory=list)


@kept
def wall_pieces(project: Project) -> tuple[WallPiece, ...]:
    """The walls of every floor as pieces between nodes; rooms that nobody has drawn have none, nor has open ground."""
    drawn = tuple(room for room in project.rooms if room.outline and not room.outside)
    return _pieces(tuple(floor.id for floor in project.floors), drawn, project.walls)


@lru_cache(maxsize=8)
def _pieces(floor_ids: tuple[int, ...], drawn: tuple[Room, ...], walls: tuple[Wall, ...]) -> tuple[WallPiece, ...]:
    """The pieces, kept from one state of a project to the next while no wall and no room is another."""
    return tuple(
        _piece(floor_id, stretch)
        for floor_id in floor_ids
        for stretch in _with_walls(
            _around([room for room in drawn if room.floor_id == floor_id]),
            [wall for wall in walls if wall.floor_id == floor_id],
        )
    )


def _piece(floor_id: int, stretch: _Stretch) -> WallPiece:
    said = max(stretch.walls, key=lambda wall: wall.id, default=None)
    material = said.material if said else max((side.room.wall for side in stretch.sides), key=MATERIALS.index)
    known_mm = (said.thickness_mm if said else None) or _gap_mm(stretch)
    return WallPiece(
        floor_id=floor_id,
        start=stretch.start,
        end=stretch.end,
        material=material,
        thickness_mm=known_mm or USUAL_THICKNESS_MM[material],
        thickness_known=known_mm is not None,
        height_m=said.height_m if said else None,
        room_ids=tuple(sorted({side.room.id for side in stretch.sides})),
        wall_id=said.id if said else None,
    )


def _gap_mm(stretch: _Stretch) -> int | None:
    """What is between two rooms that stand apart, in the middle of a stretch [mm]; None: they share it."""
    if len(stretch.sides) != 2:
        return None
    middle = Spot(_middle((stretch.start, stretch.end)))
    gap = sum(LineString([side.start, side.end]).distance(middle) for side in stretch.sides)
    return round(gap * 1000) if gap >= LEAST_GAP_M else None


def _around(rooms: Sequence[Room]) -> list[_Stretch]:
    """The sides of rooms from node to node, a side that two of them have once."""
    corners: list[tuple[Room, Point]] = []
    sides: list[_Side] = []
    for room in rooms:
        outline = [spot for spot, next_spot in pairwise([*(room.outline or ()), (room.outline or ())[0]])
                   if math.dist(spot, next_spot) > 1e-6]  # fmt: skip
        first, count = len(corners), len(outline)
        corners += [(room, spot) for spot in outline]
        for n in range(count):
            ends = first + n, first + (n + 1) % count
            sides.append(_Side(room, outline[n], outline[(n + 1) % count], ends))
    if not sides:
        return []
    node_of = _joined(corners)
    lines = STRtree([LineString([side.start, side.end]) for side in sides])
    on: dict[int, set[int]] = {number: {node_of[end] for end in side.ends} for number, side in enumerate(sides)}
    places: dict[int, Point] = {}
    members: dict[int, list[int]] = defaultdict(list)
    for corner, node in enumerate(node_of):
        members[node].append(corner)
    for node, some in members.items():
        middle, of = _middle([corners[corner][1] for corner in some]), {corners[corner][0].id for corner in some}
        beside = []
        for number in lines.query(Spot(middle), predicate="dwithin", distance=DOUBLED_M + 1e-9).tolist():
            near = _inside(sides[number].start, sides[number].end, middle)
            if node not in on[number] and sides[number].room.id not in of and near is not None:
                on[number].add(node)
                beside.append(near)
        # a corner of a room and the side of another meet half-way
        places[node] = _to_mm(_middle([middle, *beside]))
    return _once(
        stretch for number, side in enumerate(sides) for stretch in _from_node_to_node(side, on[number], places)
    )


def _from_node_to_node(side: _Side, nodes: Iterable[int], places: Mapping[int, Point]) -> Iterator[_Stretch]:
    in_order = sorted(nodes, key=lambda node: _along(side.start, side.end, places[node]))
    return (_Stretch(places[a], places[b], [side]) for a, b in pairwise(in_order))


def _joined(corners: Sequence[tuple[Room, Point]]) -> list[int]:
    """The node of each corner: those of different rooms that belong together have one, the closest first; no node has
    two corners of a room."""
    tree = STRtree([Spot(spot) for _, spot in corners])
    one_of, other_of = tree.query([Spot(spot) for _, spot in corners], predicate="dwithin", distance=DOUBLED_M + 1e-9)
    pairs = [(one, other) for one, other in zip(one_of.tolist(), other_of.tolist(), strict=True) if one < other]
    node_of, members = list(range(len(corners))), {corner: [corner] for corner in range(len(corners))}
    for one, other in sorted(pairs, key=lambda pair: (math.dist(corners[pair[0]][1], corners[pair[1]][1]), pair)):
        a, b = node_of[one], node_of[other]
        rooms = [corners[corner][0].id for corner in members[a] + members[b]]
        if a != b and len(rooms) == len(set(rooms)):
            for corner in members[b]:
                node_of[corner] = a
            members[a] += members.pop(b)
    return node_of


def _with_walls(around: list[_Stretch], walls: Sequence[Wall]) -> list[_Stretch]:
    """Stretches around rooms with walls laid over them: a wall along one says what it is, others divide it."""
    found = _Grid(around)
    for wall in sorted(walls, key=lambda one: one.id):
        start, end = (
            _snapped(spot, found.near(_Stretch(spot, spot)))
            for spot in ((wall.x_m, wall.y_m), (wall.to_x_m, wall.to_y_m))
        )
        if start != end:
            _lay_over(found, _Stretch(start, end, walls=[wall]))
    return found.all()


class _Grid:
    """Stretches by the squares of the plan that they are in or near."""

    def __init__(self, stretches: Iterable[_Stretch]) -> None:
        self._in: dict[tuple[int, int], dict[_Stretch, None]] = defaultdict(dict)
        self._there: dict[_Stretch, None] = {}
        for stretch in stretches:
            self.add(stretch)

    def all(self) -> list[_Stretch]:
        return list(self._there)

    def near(self, other: _Stretch) -> list[_Stretch]:
        """Those that may come as close to another as what is joined."""
        return list({stretch: None for square in self._squares(other) for stretch in self._in[square]})

    def add(self, stretch: _Stretch) -> None:
        self._there[stretch] = None
        for square in self._squares(stretch):
            self._in[square][stretch] = None

    def remove(self, stretch: _Stretch) -> None:
        del self._there[stretch]
        for square in self._squares(stretch):
            del self._in[square][stretch]

    @staticmethod
    def _squares(stretch: _Stretch) -> Iterator[tuple[int, int]]:
        spans = (
            (min(ends) - JOINED_M, max(ends) + JOINED_M) for ends in zip(stretch.start, stretch.end, strict=True)
        )  # fmt: skip
        across, down = (range(int(low // SQUARE_M), int(high // SQUARE_M) + 1) for low, high in spans)
        return product(across, down)


def _lay_over(found: _Grid, new: _Stretch) -> None:
    """Put a stretch among others: all are divided where they meet, and what lies on each other is one."""
    line, mine, divided = LineString([new.start, new.end]), {new.start, new.end}, list[_Stretch]()
    for stretch in found.near(new):
        theirs = {stretch.start, stretch.end}
        mine |= {spot for spot in theirs if _is_on(spot, new)}
        theirs |= {spot for spot in (new.start, new.end) if _is_on(spot, stretch)}
        meet = line.intersection(LineString([stretch.start, stretch.end]))
        if isinstance(meet, Spot) and not meet.is_empty:
            # they cross in a node that is close by, else in a new one
            crossing = (meet.x, meet.y)
            close = min(mine | theirs, key=lambda spot: math.dist(spot, crossing))
            spot = close if math.dist(close, crossing) <= JOINED_M else _to_mm(crossing)
            mine.add(spot)
            theirs.add(spot)
        divided += _divided(stretch, theirs)
        found.remove(stretch)
    for stretch in _once([*divided, *_divided(new, mine)]):
        found.add(stretch)


def _divided(stretch: _Stretch, spots: Iterable[Point]) -> Iterator[_Stretch]:
    in_order = sorted(spots, key=lambda spot: _along(stretch.start, stretch.end, spot))
    return (_Stretch(a, b, [*stretch.sides], [*stretch.walls]) for a, b in pairwise(in_order))


def _once(stretches: Iterable[_Stretch]) -> list[_Stretch]:
    """Stretches between the same two nodes as one."""
    found: dict[tuple[Point, Point], _Stretch] = {}
    for one in stretches:
        if one.start != one.end:
            same = found.setdefault((min(one.start, one.end), max(one.start, one.end)), _Stretch(one.start, one.end))
            same.sides += [side for side in one.sides if side not in same.sides]
            same.walls += [wall for wall in one.walls if wall not in same.walls]
    return list(found.values())


def _snapped(spot: Point, near: Sequence[_Stretch]) -> Point:
    """Where a wall that ends at a spot ends: at a node close by, else on a stretch close by."""
    nodes = [node for stretch in near for node in (stretch.start, stretch.end)]
    on = [one for stretch in near if (one := _inside(stretch.start, stretch.end, spot)) is not None]
    for spots in (nodes, on):
        closest = min(spots, key=lambda one: math.dist(one, spot), default=None)
        if closest is not None and math.dist(closest, spot) <= JOINED_M:
            return _to_mm(closest)
    return _to_mm(spot)


def _is_on(spot: Point, stretch: _Stretch) -> bool:
    near = _inside(stretch.start, stretch.end, spot)
    return near is not None and math.dist(near, spot) <= ON_M


def _inside(start: Point, end: Point, spot: Point) -> Point | None:
    """The spot between two others that is nearest to a spot beside them; None where that lies beyond."""
    length2 = (end[0] - start[0]) ** 2 + (end[1] - start[1]) ** 2
    share = _along(start, end, spot) / length2
    if not 1e-9 < share < 1 - 1e-9:
        return None
    return (start[0] + share * (end[0] - start[0]), start[1] + share * (end[1] - start[1]))


def _along(start: Point, end: Point, spot: Point) -> float:
    return (spot[0] - start[0]) * (end[0] - start[0]) + (spot[1] - start[1]) * (end[1] - start[1])


def _middle(spots: Sequence[Point]) -> Point:
    return (sum(x for x, _ in spots) / len(spots), sum(y for _, y in spots) / len(spots))


def _to_mm(spot: Point) -> Point:
    return (round(spot[0], 3), round(spot[1], 3))
