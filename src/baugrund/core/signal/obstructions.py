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
WIDER = 1e-6
"""By so much more than it spans a stretch is looked for [rad]."""

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
    def beside(self) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
        """Parallel stretches after each that come as close as what is one, stretch by stretch, and where those of each
        begin."""
        lines = [LineString([one.start, one.end]) for one in self.stretches]
        if not lines:
            return np.zeros(0, dtype=np.int64), np.zeros(1, dtype=np.int64)
        one, other = shapely.STRtree(lines).query(lines, predicate="dwithin", distance=ONE_WALL_M + ON)
        along = self.ends - self.starts
        along /= np.linalg.norm(along, axis=1, keepdims=True)
        a, b = along[one], along[other]
        kept = (one < other) & (np.abs(a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0]) <= PARALLEL)
        order = np.argsort(one[kept], kind="stable")
        ends = np.cumsum(np.bincount(one[kept], minlength=len(lines)))
        return other[kept][order].astype(np.int64), np.concatenate([[0], ends]).astype(np.int64)


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
    counts: Floats
    """How many stretches of each material."""
    alike: NDArray[np.int64]
    """Rows of (ray, stretch, other stretch): those two are one wall to this ray."""
    slabs: Booleans
    obstacles: Booleans

    def twice(self, of: Obstructions, losses_db: Floats) -> set[tuple[int, int]]:
        """Rays with stretches that do not count where a material takes so much (in the order of `MATERIALS`): of those
        that are one the one that takes less."""
        takes = of.of_material @ losses_db if len(self.alike) else losses_db
        gone: set[tuple[int, int]] = set()
        for ray, one, other in self.alike.tolist():
            if (ray, one) not in gone and (ray, other) not in gone:
                gone.add((ray, other if takes[one] >= takes[other] else one))
        return gone

    def materials(self, of: Obstructions, losses_db: Floats) -> Floats:
        """How many walls of each material every ray crosses."""
        counts = self.counts.copy()
        for ray, stretch in self.twice(of, losses_db):
            counts[ray] -= of.of_material[stretch]
        return counts

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
    start, way = np.array(spot), points.reshape(-1, 3) - np.array(spot)
    rays, stretches = _through_stretches(of, start, way)
    hit = np.zeros((len(way), len(of.stretches)), dtype=np.bool_)
    hit[rays, stretches] = True
    counts = np.zeros((len(way), len(MATERIALS)))
    np.add.at(counts, (rays, of.of_material[stretches].argmax(axis=1)), 1.0)
    return Crossings(
        hit,
        counts,
        _alike(of, start, way, hit, rays, stretches),
        _through_slabs(of, start, way),
        _in_obstacles(of, start, way),
    )


def _in_sight(of: Obstructions, spot: Floats, way: Floats) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
    """Rays with the stretches that lie their way in plan, a little more than those: the others cannot be crossed."""
    angles = np.arctan2(way[:, 1], way[:, 0])
    order = np.argsort(angles, kind="stable")
    ring = np.concatenate([angles[order], angles[order] + 2 * math.pi])
    from_start, from_end = of.starts - spot[:2], of.ends - spot[:2]
    one, other = (np.arctan2(ends[:, 1], ends[:, 0]) for ends in (from_start, from_end))
    turn = (other - one + math.pi) % (2 * math.pi) - math.pi
    span = np.abs(turn)
    low = np.where(turn >= 0, one, other) - WIDER
    # who stands on a stretch, or nearly, looks everywhere
    nearest = np.minimum(np.hypot(*from_start.T), np.hypot(*from_end.T))
    around = (span > math.pi - 0.01) | (nearest < 0.01)
    low, span = np.where(around, -math.pi, low), np.where(around, 2 * math.pi, span + 2 * WIDER)
    low = (low + math.pi) % (2 * math.pi) - math.pi
    first = np.searchsorted(ring, low, side="left")
    count = np.minimum(np.searchsorted(ring, low + span, side="right") - first, len(way))
    stretches = np.repeat(np.arange(len(of.stretches)), count)
    place = np.arange(count.sum()) - np.repeat(np.cumsum(count) - count, count) + np.repeat(first, count)
    return order[place % len(way)], stretches


def _through_stretches(of: Obstructions, spot: Floats, way: Floats) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
    """Rays and the stretches that they go through, one by one."""
    if not of.stretches or not len(way):
        return np.zeros(0, dtype=np.int64), np.zeros(0, dtype=np.int64)
    rays, stretches = _in_sight(of, spot, way)
    along, beside, level = _met(of, spot, way[rays], stretches)
    lows, highs = of.heights
    z = spot[2] + along * way[rays, 2]
    inside = (along >= -ON) & (along <= 1 + ON) & (beside >= -ON) & (beside <= 1 + ON)
    through = level & inside & (z >= lows[stretches] - ON) & (z < highs[stretches] - ON)
    return rays[through], stretches[through]


def _met(of: Obstructions, spot: Floats, way: Floats, stretches: NDArray[np.int64]) -> tuple[Floats, Floats, Booleans]:
    """Where ways meet the lines of stretches, pair by pair: as a share of the way, and of the stretch; and whether they
    meet at all."""
    run = (of.ends - of.starts)[stretches]
    back = (of.starts - spot[:2])[stretches]
    turn = way[:, 0] * run[:, 1] - way[:, 1] * run[:, 0]
    level = np.abs(turn) > ON * ON
    safe = np.where(level, turn, 1.0)
    along = (back[:, 0] * run[:, 1] - back[:, 1] * run[:, 0]) / safe
    beside = (back[:, 0] * way[:, 1] - back[:, 1] * way[:, 0]) / safe
    return along, beside, level


def _alike(
    of: Obstructions, spot: Floats, way: Floats, hit: Booleans, rays: NDArray[np.int64], stretches: NDArray[np.int64]
) -> NDArray[np.int64]:
    """Which of the stretches that a ray crosses are one wall to it."""
    partners, first = of.beside
    count = np.diff(first)[stretches]
    ray, one = np.repeat(rays, count), np.repeat(stretches, count)
    place = np.arange(len(one)) - np.repeat(np.cumsum(count) - count, count) + first[one]
    other = partners[place]
    both = hit[ray, other]
    ray, one, other = ray[both], one[both], other[both]
    here = spot[:2] + _met(of, spot, way[ray], one)[0][:, None] * way[ray, :2]
    there = spot[:2] + _met(of, spot, way[ray], other)[0][:, None] * way[ray, :2]
    near = np.minimum(_off(here, of.starts[other], of.ends[other]), _off(there, of.starts[one], of.ends[one]))
    close = near <= ONE_WALL_M + ON
    return np.column_stack([ray[close], one[close], other[close]]).astype(np.int64)


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
