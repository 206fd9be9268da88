"""Where a lens sees at a height: its frame cut by a level plane, less the shadows of walls and slabs.

Exact polygons but for arcs, which have `ARC` corners to a quarter and lie inside the true ones, and for frames of wide
lenses, which are followed every `STEP_DEG`.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from functools import lru_cache

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import MultiPolygon, Point, Polygon
from shapely.affinity import affine_transform
from shapely.geometry.base import BaseGeometry

from ..facts.building import Point as PlanPoint
from ..physics.optics import Floats, Lens
from .scene import Scene

ARC = 32
STEP_DEG = 1.0
RAY_STEPS = 257
"""Spots along a ray at which the frame of a wide lens is looked at first."""
HALVINGS = 30
CLOSE_M = 1e-6
FAR = 1e4
"""A shadow without an end is drawn so many times as long as its piece is away."""
GAP_M2 = 1e-6
Rings = tuple[tuple[PlanPoint, ...], ...]


@lru_cache(maxsize=512)
def seen_at(lens: Lens, fixed_to: int | None, z_m: float, reach_m: float, scene: Scene) -> BaseGeometry:
    """The ground of the plan on which a lens sees at an elevation ``z_m``, as far as ``reach_m`` from it in space."""
    frame = framed_at(lens, z_m, reach_m)
    if frame.is_empty:
        return frame
    shadows = list(_shadows(lens, fixed_to, z_m, frame, scene))
    if not shadows:
        return frame
    return areas_of(shapely.difference(frame, shapely.union_all(shadows)))


def within(lens: Lens, shape: BaseGeometry, z_m: float, reach_m: float) -> BaseGeometry:
    """The part of a shape at an elevation that is no further from the lens, in space."""
    disc = _disc(lens, z_m, reach_m)
    return areas_of(shape.intersection(disc)) if disc else Polygon()


def framed_at(lens: Lens, z_m: float, reach_m: float) -> BaseGeometry:
    """The frame of a lens on a level plane, as far as ``reach_m``, with nothing in the way."""
    disc = _disc(lens, z_m, reach_m)
    if disc is None:
        return Polygon()
    up = z_m - lens.z_m
    radius = math.sqrt(reach_m**2 - up**2)
    if lens.frame.projection == "rectilinear":
        local: BaseGeometry = Polygon(corners) if len(corners := _pyramid(lens, up, radius * 1.01)) > 2 else Polygon()
    else:
        local = _followed(lens, up, radius)
    if local.is_empty:
        return local
    (fx, fy), (rx, ry) = lens.forward, lens.right
    on_plan = affine_transform(local, [fx, rx, fy, ry, lens.x_m, lens.y_m])
    return areas_of(shapely.intersection(shapely.make_valid(on_plan), disc))


def _disc(lens: Lens, z_m: float, reach_m: float) -> BaseGeometry | None:
    """What is no further from the lens on a level plane; None: the plane is further than that."""
    rest = reach_m**2 - (z_m - lens.z_m) ** 2
    return Point(lens.x_m, lens.y_m).buffer(math.sqrt(rest), quad_segs=ARC) if rest > CLOSE_M else None


def _pyramid(lens: Lens, up: float, size: float) -> list[tuple[float, float]]:
    """Corners of a rectilinear frame on a level plane ``up`` over the lens: how far along its bearing, and to the
    right, within a square of twice ``size`` [m]."""
    tilt = math.radians(lens.tilt_deg)
    across = math.tan(math.radians(lens.frame.across_deg) / 2)
    down = math.tan(math.radians(lens.frame.down_deg) / 2)
    # depth, and down in the picture, as a·along + b
    depth, below = (math.cos(tilt), -math.sin(tilt) * up), (-math.sin(tilt), -math.cos(tilt) * up)
    corners = [(-size, -size), (size, -size), (size, size), (-size, size)]
    for a, b, c in (
        (across * depth[0], 1.0, across * depth[1]),
        (across * depth[0], -1.0, across * depth[1]),
        (down * depth[0] - below[0], 0.0, down * depth[1] - below[1]),
        (down * depth[0] + below[0], 0.0, down * depth[1] + below[1]),
        (depth[0], 0.0, depth[1]),
    ):
        corners = _clipped(corners, a, b, c)
    return corners


def _clipped(corners: Sequence[tuple[float, float]], a: float, b: float, c: float) -> list[tuple[float, float]]:
    """The part of a convex polygon where a·along + b·right + c ≥ 0."""
    values = [a * along + b * right + c for along, right in corners]
    kept: list[tuple[float, float]] = []
    for number, corner in enumerate(corners):
        before, was = corners[number - 1], values[number - 1]
        now = values[number]
        if (was < 0) != (now < 0):
            share = was / (was - now)
            kept.append((before[0] + share * (corner[0] - before[0]), before[1] + share * (corner[1] - before[1])))
        if now >= 0:
            kept.append(corner)
    return kept


def _followed(lens: Lens, up: float, radius: float) -> BaseGeometry:
    """The frame of a wide lens on a level plane: along rays over the plan, from where to where it sees."""
    turns = np.radians(np.arange(0.0, 360.0, STEP_DEG))
    steps = np.linspace(0.0, radius, RAY_STEPS)
    seen = _in_frame(lens, up, turns[:, None], steps[None, :])
    padded = np.pad(seen, ((0, 0), (1, 1))).astype(np.int8)
    # where what is seen begins and ends along each ray, in pairs
    ray, begins = np.nonzero(np.diff(padded, axis=1) == 1)
    _, ends = np.nonzero(np.diff(padded, axis=1) == -1)
    low = _edge(lens, up, turns[ray], steps[begins], steps[np.maximum(begins - 1, 0)])
    high = _edge(lens, up, turns[ray], steps[ends - 1], steps[np.minimum(ends, RAY_STEPS - 1)])
    spans: list[list[tuple[float, float]]] = [[] for _ in turns]
    for number, start, end in zip(ray.tolist(), low.tolist(), high.tolist(), strict=True):
        spans[number].append((start, end))
    rings = [
        [(math.cos(t) * r, math.sin(t) * r) for t, r in ((turn, a), (turn, b), (then, d), (then, c))]
        for turn, then, mine, next_ones in zip(turns, np.roll(turns, -1), spans, spans[1:] + spans[:1], strict=True)
        for (a, b), (c, d) in zip(mine, next_ones, strict=False)
    ]
    return shapely.union_all(shapely.make_valid(shapely.polygons(rings))) if rings else Polygon()


def _in_frame(lens: Lens, up: float, turns: Floats, away: Floats) -> NDArray[np.bool_]:
    """Whether a lens has the points of a level plane in its frame that lie so far away, turned from its bearing."""
    along, across = np.cos(turns) * away, np.sin(turns) * away
    return lens.frame_has(along, across, np.full_like(along, up))


def _edge(lens: Lens, up: float, turns: Floats, seen: Floats, unseen: Floats) -> Floats:
    """Where the frame ends between a distance that is seen and one that is not [m]."""
    for _ in range(HALVINGS):
        middle = (seen + unseen) / 2
        here = _in_frame(lens, up, turns, middle)
        seen, unseen = np.where(here, middle, seen), np.where(here, unseen, middle)
    return seen


def _shadows(lens: Lens, fixed_to: int | None, z_m: float, frame: BaseGeometry, scene: Scene) -> Iterator[BaseGeometry]:
    """What walls and slabs hide at an elevation."""
    eye = np.array([lens.x_m, lens.y_m])
    up = z_m - lens.z_m
    for slab in scene.slabs:
        if up != 0 and 0 < (at := (slab.z_m - lens.z_m) / up) < 1:
            grow = 1 / at
            yield affine_transform(slab.shape, [grow, 0, 0, grow, eye[0] * (1 - grow), eye[1] * (1 - grow)])
    # a piece that hides some of the frame stands between the lens and it
    between = shapely.convex_hull(shapely.union(frame, Point(lens.x_m, lens.y_m)))
    for number in scene.tree.query(between, predicate="intersects"):
        blocker = scene.blockers[number]
        if blocker.piece == fixed_to:
            continue
        nearest, furthest = _grown(lens.z_m, up, blocker.low_m, blocker.high_m)
        if nearest is None or furthest is None:
            continue
        start, end = np.array(blocker.start) - eye, np.array(blocker.end) - eye
        if abs(start[0] * end[1] - start[1] * end[0]) < 1e-12:
            continue
        ring = [start * nearest, end * nearest, end * furthest, start * furthest]
        yield Polygon([eye + corner for corner in ring])


def _grown(z_m: float, up: float, low_m: float, high_m: float) -> tuple[float | None, float | None]:
    """How many times as far as itself the shadow of a piece begins and ends, seen from a height on a plane ``up`` over
    it: 1/t of the shares t of the way at which it is between its foot and its head; None: it hides nothing."""
    if up == 0:
        return (1.0, FAR) if low_m <= z_m < high_m else (None, None)
    shares = sorted(((low_m - z_m) / up, (high_m - z_m) / up))
    first, last = max(shares[0], 0.0), min(shares[1], 1.0)
    if last <= first or last <= 0:
        return None, None
    return 1 / last, min(1 / first, FAR) if first > 0 else FAR


def areas_of(shape: BaseGeometry) -> BaseGeometry:
    """The areas of a shape, without lines and points."""
    if shape.geom_type in ("Polygon", "MultiPolygon"):
        return shape
    parts = [part for part in shapely.get_parts(shape) if isinstance(part, Polygon)]
    return MultiPolygon(parts) if parts else Polygon()


def rings_of(shape: BaseGeometry) -> Rings:
    """The rings of a shape, outer and inner ones alike, to the centimetre, for an even-odd fill."""
    rings: list[tuple[PlanPoint, ...]] = []
    for part in shapely.get_parts(shape):
        if isinstance(part, Polygon) and part.area > GAP_M2:
            for ring in (part.exterior, *part.interiors):
                rings.append(tuple((round(x, 2), round(y, 2)) for x, y, *_ in ring.coords[:-1]))
    return tuple(rings)
