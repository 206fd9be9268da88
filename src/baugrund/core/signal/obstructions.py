"""What stands in the way of radio: stretches of walls and openings, floors, what fills rooms; and what a ray crosses.

Heights are elevations above the ground [m].  A stretch holds from its low edge to under its high one, and at both of
its ends; a ray holds both of its ends too, so what stands on a wall counts it to either side.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from functools import cached_property, lru_cache
from itertools import pairwise

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import LineString, Polygon
from shapely.geometry.base import BaseGeometry

from ..facts.building import Floor, Point, Room
from ..facts.kept import kept
from ..facts.project import Project
from ..facts.signal import Obstacle
from ..facts.walls import Opening
from ..physics.radio import Floats
from ..places.layout import elevations
from ..places.openings import Cut, PlacedOpening, openings_in
from ..places.walls import WallPiece, wall_pieces
from ..standards.radio import FLOOR_MAKES, FloorMake
from ..standards.walls import MATERIALS, Material

ONE_WALL_M = 0.1
"""Parallel pieces that are no further apart where they are crossed are one [m]."""
PARALLEL = 1e-4
"""Sine of the angle up to which two pieces are parallel."""
ON = 1e-9
RAYS_AT_ONCE = 4_000

Booleans = NDArray[np.bool_]
FLOOR_MADE_OF: dict[str, FloorMake] = {
    "timber": "timber",
    "brick": "hollow_block",
    "concrete": "concrete",
    "steel": "concrete",
}
"""What the slab over a floor is made of, by the floor's construction: over brick hollow blocks, on steel concrete."""


@dataclass(frozen=True)
class Stretch:
    """A rectangle that stands: a part of a wall, or what fills an opening."""

    start: Point
    end: Point
    low_m: float
    high_m: float
    material: Material
    piece: int
    """Which wall piece it is of."""
    opening_id: int | None = None


@dataclass(frozen=True)
class Slab:
    """The floor between two storeys, or the roof."""

    shape: BaseGeometry
    z_m: float
    make: FloorMake
    floor_id: int
    """The floor that it is over."""


@dataclass(frozen=True, eq=False)
class Obstructions:
    """All that takes something off a ray."""

    pieces: tuple[WallPiece, ...]
    stretches: tuple[Stretch, ...]
    slabs: tuple[Slab, ...]
    obstacles: tuple[Obstacle, ...]
    bases: tuple[float, ...]
    """Elevation of the floor that each obstacle stands on [m]."""

    @cached_property
    def starts(self) -> Floats:
        return np.array([one.start for one in self.stretches], dtype=np.float64).reshape(-1, 2)

    @cached_property
    def ends(self) -> Floats:
        return np.array([one.end for one in self.stretches], dtype=np.float64).reshape(-1, 2)

    @cached_property
    def heights(self) -> tuple[Floats, Floats]:
        lows = np.array([one.low_m for one in self.stretches], dtype=np.float64)
        return lows, np.array([one.high_m for one in self.stretches], dtype=np.float64)

    @cached_property
    def of_material(self) -> Floats:
        """A row a stretch, a column a material: 1 where it is made of it."""
        rows = np.zeros((len(self.stretches), len(MATERIALS)))
        for number, one in enumerate(self.stretches):
            rows[number, MATERIALS.index(one.material)] = 1
        return rows

    @cached_property
    def beside(self) -> NDArray[np.int64]:
        """Pairs of parallel stretches that come as close as what is one: a row a pair."""
        lines = [LineString([one.start, one.end]) for one in self.stretches]
        if not lines:
            return np.zeros((0, 2), dtype=np.int64)
        tree = shapely.STRtree(lines)
        first, second = tree.query(lines, predicate="dwithin", distance=ONE_WALL_M + ON)
        once = first < second
        first, second = first[once], second[once]
        along = self.ends - self.starts
        along /= np.linalg.norm(along, axis=1, keepdims=True)
        a, b = along[first], along[second]
        parallel = np.abs(a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0]) <= PARALLEL
        return np.column_stack([first[parallel], second[parallel]])


@kept
def obstructions(project: Project) -> Obstructions:
    """What stands in the way of radio anywhere in a project."""
    inside = tuple(room for room in project.rooms if room.outline and not room.outside)
    return _obstructions(project.floors, wall_pieces(project), project.openings, inside, project.obstacles)


@lru_cache(maxsize=8)
def _obstructions(
    floors: tuple[Floor, ...],
    pieces: tuple[WallPiece, ...],
    openings: tuple[Opening, ...],
    inside: tuple[Room, ...],
    obstacles: tuple[Obstacle, ...],
) -> Obstructions:
    """The obstructions, kept from one state of a project to the next while nothing of them is another."""
    raised = elevations(floors)
    by_id = {floor.id: floor for floor in floors}
    placed, cuts = openings_in(pieces, openings, tuple(raised.items()))
    filled = {one.id: one for one in placed}
    stretches: list[Stretch] = []
    for number, piece in enumerate(pieces):
        top = by_id[piece.floor_id].height_m if piece.height_m is None else piece.height_m
        stretches += _stretches(piece, number, raised[piece.floor_id], top, cuts.get(number, ()), filled)
    return Obstructions(
        pieces, tuple(stretches), tuple(_slabs(floors, raised, inside)), obstacles,
        tuple(raised[one.floor_id] for one in obstacles),
    )  # fmt: skip


def _stretches(
    piece: WallPiece,
    number: int,
    ground: float,
    top: float,
    cuts: Iterable[Cut],
    filled: dict[int, PlacedOpening],
) -> Iterator[Stretch]:
    """A piece as rectangles: from one end of an opening to the next, and between its sill and its head."""
    here = list(cuts)
    marks = sorted({0.0, piece.length_m, *(at for low, high, _ in here for at in (low, high))})
    for start, end in pairwise(marks):
        if end - start <= ON:
            continue
        within = [filled[cut.id] for low, high, cut in here if low <= start + ON and high >= end - ON]
        levels = sorted({0.0, top, *(min(at, top) for one in within for at in (one.sill_m, one.head_m))})
        for low, high in pairwise(levels):
            if high - low <= ON:
                continue
            holes = [one for one in within if one.sill_m <= low + ON and one.head_m >= high - ON]
            fill = max(holes, key=lambda one: MATERIALS.index(one.material), default=None)
            yield Stretch(
                piece.at(start), piece.at(end), ground + low, ground + high,
                fill.material if fill else piece.material, number, fill.id if fill else None,
            )  # fmt: skip


def _slabs(floors: Iterable[Floor], raised: dict[int, float], inside: Iterable[Room]) -> Iterator[Slab]:
    """The slab over every floor that has rooms: over them, and under those of the storey above."""
    outlines: dict[int, list[Polygon]] = defaultdict(list)
    for room in inside:
        outlines[room.floor_id].append(Polygon(room.outline or ()))
    indoors = [floor for floor in floors if floor.building_id is not None]
    for floor in indoors:
        above = [
            other.id
            for other in indoors
            if other.building_id == floor.building_id and other.level == floor.level + 1
        ]  # fmt: skip
        shapes = [shape for number in (floor.id, *above) for shape in outlines[number]]
        if outlines[floor.id]:
            yield Slab(
                shapely.union_all(shapes), raised[floor.id] + floor.height_m + floor.slab_m / 2,
                FLOOR_MADE_OF[floor.construction], floor.id,
            )  # fmt: skip


@dataclass(frozen=True, eq=False)
class Crossings:
    """What rays from one spot cross: a row a ray."""

    stretches: Booleans
    """A column a stretch."""
    alike: NDArray[np.int64]
    """Rows of (ray, stretch, other stretch): those two are one wall to this ray."""
    slabs: Booleans
    obstacles: Booleans

    def walls(self, of: Obstructions, losses_db: Floats) -> Booleans:
        """What counts where a material takes so much (in the order of `MATERIALS`): of stretches that are one the one
        that takes more."""
        if not len(self.alike):
            return self.stretches
        counts = self.stretches.copy()
        takes = of.of_material @ losses_db
        for ray, one, other in self.alike:
            if counts[ray, one] and counts[ray, other]:
                counts[ray, other if takes[one] >= takes[other] else one] = False
        return counts

    def materials(self, of: Obstructions, losses_db: Floats) -> Floats:
        """How many walls of each material every ray crosses."""
        return np.asarray(self.walls(of, losses_db).astype(np.float64) @ of.of_material)

    def floors(self, of: Obstructions) -> Floats:
        """How many floors of each make every ray crosses."""
        made = np.zeros((len(of.slabs), len(FLOOR_MAKES)))
        for number, slab in enumerate(of.slabs):
            made[number, FLOOR_MAKES.index(slab.make)] = 1
        return np.asarray(self.slabs.astype(np.float64) @ made)

    def filled(self, of: Obstructions) -> Floats:
        """What obstacles take off each ray at 2.4, 5 and 6 GHz [dB]."""
        takes = np.array([one.losses_db for one in of.obstacles], dtype=np.float64).reshape(-1, 3)
        return np.asarray(self.obstacles.astype(np.float64) @ takes)


def crossings(of: Obstructions, spot: tuple[float, float, float], points: Floats) -> Crossings:
    """What the rays from a spot to points (a row each: x, y, elevation) cross."""
    parts = [
        _crossed(of, np.array(spot), points[at : at + RAYS_AT_ONCE], at) for at in range(0, len(points), RAYS_AT_ONCE)
    ] or [_crossed(of, np.array(spot), points.reshape(-1, 3), 0)]  # fmt: skip
    return Crossings(
        np.concatenate([part.stretches for part in parts]), np.concatenate([part.alike for part in parts]),
        np.concatenate([part.slabs for part in parts]), np.concatenate([part.obstacles for part in parts]),
    )  # fmt: skip


def _crossed(of: Obstructions, spot: Floats, points: Floats, first: int) -> Crossings:
    way = points - spot
    along, hit = _through_stretches(of, spot, way)
    return Crossings(
        hit, _alike(of, spot, way, along, hit, first), _through_slabs(of, spot, way), _in_obstacles(of, spot, way)
    )


def _through_stretches(of: Obstructions, spot: Floats, way: Floats) -> tuple[Floats, Booleans]:
    """How far along each ray each stretch's line is met, as a share, and which stretches it goes through."""
    if not of.stretches:
        return np.zeros((len(way), 0)), np.zeros((len(way), 0), dtype=np.bool_)
    run = of.ends - of.starts
    back = of.starts - spot[:2]
    turn = way[:, :1] * run[:, 1] - way[:, 1:2] * run[:, 0]
    with np.errstate(divide="ignore", invalid="ignore"):
        along = (back[:, 0] * run[:, 1] - back[:, 1] * run[:, 0]) / turn
        beside = (back[:, 0] * way[:, 1:2] - back[:, 1] * way[:, :1]) / turn
        z = spot[2] + along * way[:, 2:3]
    lows, highs = of.heights
    level = np.abs(turn) > ON * ON
    within = (along >= -ON) & (along <= 1 + ON) & (beside >= -ON) & (beside <= 1 + ON)
    return along, level & within & (z >= lows - ON) & (z < highs - ON)


def _alike(of: Obstructions, spot: Floats, way: Floats, along: Floats, hit: Booleans, first: int) -> NDArray[np.int64]:
    """Which of the stretches that a ray crosses are one wall to it."""
    pairs = of.beside
    if not len(pairs):
        return np.zeros((0, 3), dtype=np.int64)
    ray, pair = np.nonzero(hit[:, pairs[:, 0]] & hit[:, pairs[:, 1]])
    one, other = pairs[pair, 0], pairs[pair, 1]
    here = spot[:2] + along[ray, one][:, None] * way[ray, :2]
    there = spot[:2] + along[ray, other][:, None] * way[ray, :2]
    near = np.minimum(_off(here, of.starts[other], of.ends[other]), _off(there, of.starts[one], of.ends[one]))
    close = near <= ONE_WALL_M + ON
    return np.column_stack([ray[close] + first, one[close], other[close]]).astype(np.int64)


def _off(spots: Floats, starts: Floats, ends: Floats) -> Floats:
    """How far each spot is from its stretch [m]."""
    run = ends - starts
    share = np.clip(np.sum((spots - starts) * run, axis=1) / np.sum(run * run, axis=1), 0, 1)
    return np.asarray(np.linalg.norm(spots - (starts + share[:, None] * run), axis=1))


def _through_slabs(of: Obstructions, spot: Floats, way: Floats) -> Booleans:
    """Which slabs each ray meets inside their outlines."""
    met = np.zeros((len(way), len(of.slabs)), dtype=np.bool_)
    for number, slab in enumerate(of.slabs):
        low = np.minimum(spot[2], spot[2] + way[:, 2])
        high = np.maximum(spot[2], spot[2] + way[:, 2])
        (rays,) = np.nonzero((low < slab.z_m) & (high > slab.z_m))
        share = (slab.z_m - spot[2]) / way[rays, 2]
        shapely.prepare(slab.shape)
        met[rays, number] = shapely.intersects_xy(
            slab.shape, spot[0] + share * way[rays, 0], spot[1] + share * way[rays, 1]
        )
    return met


def _in_obstacles(of: Obstructions, spot: Floats, way: Floats) -> Booleans:
    """Which obstacles any part of each ray is inside."""
    inside = np.zeros((len(way), len(of.obstacles)), dtype=np.bool_)
    for number, (one, ground) in enumerate(zip(of.obstacles, of.bases, strict=True)):
        start, end = _between(spot[2], way[:, 2], ground + one.base_m, ground + one.top_m)
        (rays,) = np.nonzero(end > start)
        from_xy = spot[:2] + start[rays, None] * way[rays, :2]
        to_xy = spot[:2] + end[rays, None] * way[rays, :2]
        shape = Polygon(one.outline)
        shapely.prepare(shape)
        crossed = shapely.intersects(shape, shapely.linestrings(np.stack([from_xy, to_xy], axis=1)))
        inside[rays, number] = crossed & ~shapely.touches(shape, shapely.linestrings(np.stack([from_xy, to_xy], 1)))
    return inside


def _between(z_m: float, rise: Floats, low: float, high: float) -> tuple[Floats, Floats]:
    """From which share of each ray to which its height is between two."""
    with np.errstate(divide="ignore", invalid="ignore"):
        ends = np.sort(np.stack([(low - z_m) / rise, (high - z_m) / rise]), axis=0)
    flat = np.abs(rise) <= ON
    level = np.where(low <= z_m < high, 0.0, math.inf)
    return np.maximum(np.where(flat, level, ends[0]), 0.0), np.minimum(np.where(flat, 1.0, ends[1]), 1.0)
