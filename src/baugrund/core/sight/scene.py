"""What stands in the way of a view: walls less their openings, and slabs, each with the heights that it fills.

Heights are elevations above the ground [m].  Pieces are lines without thickness.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache
from itertools import pairwise

import numpy as np
import shapely
from shapely import LineString, Polygon
from shapely import Point as Spot
from shapely.geometry.base import BaseGeometry

from ..facts.building import Floor, Point, Room
from ..facts.fact import Fact
from ..facts.kept import kept
from ..facts.project import Project
from ..facts.walls import Opening, OpeningKind
from ..physics.optics import Floats
from ..places.layout import elevations
from ..places.walls import ON_M, WallPiece, wall_pieces
from ..standards.walls import Material

OPENING_NEAR_M = 0.5
"""An opening is in the nearest wall whose line is no further from its middle [m]."""


@dataclass(frozen=True)
class Blocker:
    """A stretch of a wall from ``low_m`` to under ``high_m`` that hides what is behind it."""

    start: Point
    end: Point
    low_m: float
    high_m: float
    piece: int
    """Which wall piece of the scene it is a part of."""


@dataclass(frozen=True)
class Slab:
    """A floor or a ceiling at a height."""

    shape: BaseGeometry
    z_m: float


class PlacedOpening(Fact):
    """An opening in its wall, from end to end."""

    id: int
    floor_id: int
    kind: OpeningKind
    ground_m: float
    """Elevation of its floor; sill and head are over that."""
    start: Point
    end: Point
    fits: bool
    """Whether its wall is as wide as it is."""
    sill_m: float
    head_m: float
    see_through: bool
    material: Material
    """As typed, or usual for its kind."""


@dataclass(frozen=True, eq=False)
class Scene:
    """All that hides something from somewhere."""

    pieces: tuple[WallPiece, ...]
    blockers: tuple[Blocker, ...]
    slabs: tuple[Slab, ...]
    openings: tuple[PlacedOpening, ...]

    @cached_property
    def starts(self) -> Floats:
        return np.array([one.start for one in self.blockers], dtype=np.float64).reshape(-1, 2)

    @cached_property
    def ends(self) -> Floats:
        return np.array([one.end for one in self.blockers], dtype=np.float64).reshape(-1, 2)

    @cached_property
    def lows(self) -> Floats:
        return np.array([one.low_m for one in self.blockers], dtype=np.float64)

    @cached_property
    def highs(self) -> Floats:
        return np.array([one.high_m for one in self.blockers], dtype=np.float64)

    @cached_property
    def piece_of(self) -> Floats:
        return np.array([one.piece for one in self.blockers], dtype=np.float64)

    @cached_property
    def tree(self) -> shapely.STRtree:
        return shapely.STRtree([LineString([one.start, one.end]) for one in self.blockers])


@kept
def scene(project: Project) -> Scene:
    """What stands in the way anywhere in a project."""
    inside = tuple(room for room in project.rooms if room.outline and not room.outside)
    return _scene(project.floors, wall_pieces(project), project.openings, inside)


@lru_cache(maxsize=8)
def _scene(
    floors: tuple[Floor, ...],
    pieces: tuple[WallPiece, ...],
    openings: tuple[Opening, ...],
    inside: tuple[Room, ...],
) -> Scene:
    """The scene, kept from one state of a project to the next while nothing of it is another."""
    raised = elevations(floors)
    by_id = {floor.id: floor for floor in floors}
    cuts, placed = _openings_in(pieces, openings, raised)
    blockers: list[Blocker] = []
    for number, piece in enumerate(pieces):
        ground = raised[piece.floor_id]
        top = by_id[piece.floor_id].height_m if piece.height_m is None else piece.height_m
        for start, end, here in _stretches(piece, cuts[number]):
            for low, high in _solid(0.0, top, here):
                blockers.append(Blocker(start, end, ground + low, ground + high, number))
    slabs: list[Slab] = []
    for floor in floors:
        outlines = [Polygon(room.outline or ()) for room in inside if room.floor_id == floor.id]
        if floor.building_id is not None and outlines:
            shape = shapely.union_all(outlines)
            slabs += [Slab(shape, raised[floor.id]), Slab(shape, raised[floor.id] + floor.height_m)]
    return Scene(pieces, tuple(blockers), tuple(slabs), tuple(placed))


Cut = tuple[float, float, Opening]
"""From where to where along a piece an opening goes [m]."""


def _openings_in(
    pieces: Sequence[WallPiece], openings: Iterable[Opening], raised: Mapping[int, float]
) -> tuple[dict[int, list[Cut]], list[PlacedOpening]]:
    """The openings by the piece that they cut, and each in its wall; those near no wall are nowhere."""
    cuts: dict[int, list[Cut]] = defaultdict(list)
    placed: list[PlacedOpening] = []
    for opening in openings:
        here = [number for number, piece in enumerate(pieces) if piece.floor_id == opening.floor_id]
        spot = Spot(opening.x_m, opening.y_m)
        gaps = {number: LineString([pieces[number].start, pieces[number].end]).distance(spot) for number in here}
        nearest = min(gaps, key=lambda number: (gaps[number], number), default=None)
        if nearest is None or gaps[nearest] > OPENING_NEAR_M:
            continue
        wall = pieces[nearest]
        middle, half = _along(wall, (opening.x_m, opening.y_m)), opening.width_m / 2
        covered = 0.0
        for number in here:
            ends = [_along(wall, end) for end in (pieces[number].start, pieces[number].end)]
            if not all(_off(wall, end) <= ON_M for end in (pieces[number].start, pieces[number].end)):
                continue
            low, high = max(min(ends), middle - half), min(max(ends), middle + half)
            if high > low:
                covered += high - low
                own = sorted(_along(pieces[number], _at(wall, at)) for at in (low, high))
                cuts[number].append((own[0], own[1], opening))
        placed.append(
            PlacedOpening(
                id=opening.id,
                floor_id=opening.floor_id,
                kind=opening.kind,
                ground_m=raised[opening.floor_id],
                start=_at(wall, middle - half),
                end=_at(wall, middle + half),
                fits=covered >= opening.width_m - ON_M,
                sill_m=opening.sill,
                head_m=opening.head,
                see_through=opening.passes_view,
                material=opening.filling,
            )
        )
    return cuts, placed


def _stretches(piece: WallPiece, cuts: Sequence[Cut]) -> Iterator[tuple[Point, Point, list[Opening]]]:
    """A piece from one end of an opening to the next, with the openings that are there."""
    marks = sorted({0.0, piece.length_m, *(at for low, high, _ in cuts for at in (low, high))})
    for low, high in pairwise(marks):
        if high - low > 1e-9:
            here = [opening for start, end, opening in cuts if start <= low + 1e-9 and end >= high - 1e-9]
            yield _at(piece, low), _at(piece, high), here


def _solid(low: float, high: float, openings: Iterable[Opening]) -> list[tuple[float, float]]:
    """The heights in which a wall stands, less the openings that a view passes."""
    solid = [(low, high)]
    for opening in openings:
        if opening.passes_view:
            parts = [
                part
                for start, end in solid
                for part in ((start, min(end, opening.sill)), (max(start, opening.head), end))
            ]
            solid = [(start, end) for start, end in parts if end - start > 1e-9]
    return solid


def _along(piece: WallPiece, spot: Point) -> float:
    """How far along a piece a spot is [m]."""
    (x, y), (to_x, to_y) = piece.start, piece.end
    return ((spot[0] - x) * (to_x - x) + (spot[1] - y) * (to_y - y)) / piece.length_m


def _off(piece: WallPiece, spot: Point) -> float:
    """How far a spot is from a piece's line [m]."""
    (x, y), (to_x, to_y) = piece.start, piece.end
    return abs((spot[0] - x) * (to_y - y) - (spot[1] - y) * (to_x - x)) / piece.length_m


def _at(piece: WallPiece, along: float) -> Point:
    share = along / piece.length_m
    (x, y), (to_x, to_y) = piece.start, piece.end
    return (x + share * (to_x - x), y + share * (to_y - y))


def off_wall(piece: WallPiece, spot: Point) -> tuple[float, Point]:
    """How far a spot is from a piece [m], and the spot of the piece that is nearest."""
    at = min(max(_along(piece, spot), 0.0), piece.length_m)
    foot = _at(piece, at)
    return math.dist(foot, spot), foot
