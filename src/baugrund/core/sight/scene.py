"""What stands in the way of a view: walls less their openings, and slabs, each with the heights that it fills.

Heights are elevations above the ground [m].  Pieces are lines without thickness.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache
from itertools import pairwise

import numpy as np
import shapely
from shapely import LineString, Polygon
from shapely.geometry.base import BaseGeometry

from ..facts.building import Floor, Point, Room
from ..facts.kept import kept
from ..facts.project import Project
from ..facts.walls import Opening
from ..physics.optics import Floats
from ..places.layout import elevations
from ..places.openings import Cut, PlacedOpening, openings_in
from ..places.walls import WallPiece, wall_pieces

SLAB_EDGE = -2


@dataclass(frozen=True)
class Blocker:
    """A stretch of a wall from ``low_m`` to under ``high_m`` that hides what is behind it."""

    start: Point
    end: Point
    low_m: float
    high_m: float
    piece: int
    """Which wall piece of the scene it is a part of; `SLAB_EDGE`: the edge of a slab."""


@dataclass(frozen=True)
class Slab:
    """A floor or a ceiling at a height."""

    shape: BaseGeometry
    z_m: float


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
    placed, cuts = openings_in(pieces, openings, tuple(raised.items()))
    blockers: list[Blocker] = []
    for number, piece in enumerate(pieces):
        ground = raised[piece.floor_id]
        top = by_id[piece.floor_id].height_m if piece.height_m is None else piece.height_m
        for start, end, here in _stretches(piece, cuts.get(number, ())):
            for low, high in _solid(0.0, top, here):
                blockers.append(Blocker(start, end, ground + low, ground + high, number))
    slabs: list[Slab] = []
    for floor in floors:
        outlines = [Polygon(room.outline or ()) for room in inside if room.floor_id == floor.id]
        if floor.building_id is not None and outlines:
            shape = shapely.union_all(outlines)
            ceiling = raised[floor.id] + floor.height_m
            slabs += [Slab(shape, raised[floor.id]), Slab(shape, ceiling)]
            blockers += _slab_edges(shape, ceiling, ceiling + floor.slab_m)
    return Scene(pieces, tuple(blockers), tuple(slabs), placed)


def _slab_edges(shape: BaseGeometry, low_m: float, high_m: float) -> Iterator[Blocker]:
    """The edges of a slab, which hide what is seen through its thickness."""
    for line in shapely.get_parts(shape.boundary):
        for start, end in pairwise(line.coords):
            yield Blocker((start[0], start[1]), (end[0], end[1]), low_m, high_m, SLAB_EDGE)


def _stretches(piece: WallPiece, cuts: Sequence[Cut]) -> Iterator[tuple[Point, Point, list[Opening]]]:
    """A piece from one end of an opening to the next, with the openings that are there."""
    marks = sorted({0.0, piece.length_m, *(at for low, high, _ in cuts for at in (low, high))})
    for low, high in pairwise(marks):
        if high - low > 1e-9:
            here = [opening for start, end, opening in cuts if start <= low + 1e-9 and end >= high - 1e-9]
            yield piece.at(low), piece.at(high), here


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
