"""Targets: which cameras see what must be seen, how well, from where, and what stands in the way.

A spot or a line is met when one camera sees every point of it with the detail wanted, an area when the cameras do so
together.  Points are `TARGET_STEP_M` apart, ends included.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache
from itertools import pairwise
from typing import NamedTuple

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import Polygon

from ..facts.building import Point
from ..facts.fact import Fact
from ..facts.kept import kept
from ..facts.project import Project
from ..facts.sight import Target
from ..physics.optics import Floats, Lens, steepness_deg
from ..places.layout import elevations
from ..standards.detail import DETAILS, PX_PER_M, TARGET_STEP_M, Detail
from .lenses import Placed, lenses
from .lines import CLEAR, hidden_by, named
from .scene import Scene, scene

TURNS = "pan_tilt"
"""The form that turns: it meets targets by its first aim, to which it comes back."""
MEETS = 1e-9
"""What sums of floats may miss a limit of pixels per metre by, in parts of it."""
LIGHT_BEHIND_M = 15.0
"""A window so close behind a target is light behind it [m], *default*."""


class Sighting(Fact):
    """A target as one view sees it."""

    drop_id: int
    view_id: int | None
    in_frame: float
    """Share of the target's points that lie in the frame."""
    seen: float
    """Share in the frame with nothing in the way."""
    with_detail: float
    """Share seen with the detail wanted."""
    px_m: float
    """Least pixels per metre of the points that are seen, else of those in the frame."""
    detail: Detail | None
    """The most that all of it is seen with; None: less than detect, or not all of it."""
    distance_m: float
    """From the lens to the middle of the target, in space."""
    steep_deg: float
    """The steepest that it is looked down on."""
    blocked_by: str
    """What hides some of it; empty: nothing."""
    against_window: bool
    """Whether a window is the first thing behind its middle."""
    lit: bool
    """Whether the camera's own light reaches all of it."""
    aside: bool
    """Whether the camera must turn away from its first aim for it."""


class TargetLine(Fact):
    """A target and how it is met."""

    id: int
    name: str
    floor_id: int
    shape: str
    height_m: float
    wanted: Detail
    wanted_px_m: float
    points: int
    met: bool
    met_by: tuple[int, ...]
    """Drops that meet it: each alone, or those that do so together."""
    best: Detail | None
    """The most detail that it is met with."""
    sightings: tuple[Sighting, ...]
    """From every view that has some of it in its frame, the best first."""


@dataclass(frozen=True)
class Looked:
    """The points of a target as one view sees them."""

    in_frame: NDArray[np.bool_]
    clear: NDArray[np.bool_]
    px_m: Floats
    hidden: NDArray[np.int64]

    @cached_property
    def seen(self) -> NDArray[np.bool_]:
        return self.in_frame & self.clear

    @cached_property
    def is_seen(self) -> bool:
        """Whether any point is."""
        return bool(self.seen.any())

    @cached_property
    def is_framed(self) -> bool:
        """Whether any point is in the frame."""
        return bool(self.in_frame.any())

    def with_detail(self, px_m: float) -> NDArray[np.bool_]:
        return self.seen & (self.px_m >= px_m * (1 - MEETS))


def points_of(target: Target) -> tuple[Point, ...]:
    """The points of a target that are looked at: ends and corners, and what lies between them."""
    if target.shape == "spot":
        return target.points
    corners = list(target.points)
    if target.shape == "area":
        corners.append(corners[0])
    found: dict[Point, None] = {}
    for start, end in pairwise(corners):
        length = math.dist(start, end)
        for number in range(math.floor(length / TARGET_STEP_M + 1e-9) + 1):
            share = number * TARGET_STEP_M / length if length else 0.0
            found[_at(start, end, min(share, 1.0))] = None
        found[_at(start, end, 1.0)] = None
    if target.shape == "area":
        shape = Polygon(target.points)
        west, north, east, south = shape.bounds
        across, down = (np.arange(low, high + 1e-9, TARGET_STEP_M) for low, high in ((west, east), (north, south)))
        grid = np.stack(np.meshgrid(across, down), axis=-1).reshape(-1, 2)
        for x, y in grid[shapely.contains_xy(shape, grid[:, 0], grid[:, 1])]:
            found[round(float(x), 6), round(float(y), 6)] = None
    return tuple(found)


def _at(start: Point, end: Point, share: float) -> Point:
    return (
        round(start[0] + share * (end[0] - start[0]), 6),
        round(start[1] + share * (end[1] - start[1]), 6),
    )


def in_space(target: Target, ground_m: float) -> Floats:
    """The points of a target with their elevation, in rows [m]."""
    height = ground_m + target.above_floor_m
    return np.array([(x, y, height) for x, y in points_of(target)], dtype=np.float64)


@lru_cache(maxsize=4096)
def look(lens: Lens, fixed_to: int | None, target: Target, ground_m: float, stands: Scene) -> Looked:
    """A target as a lens sees it; kept while neither of them, nor what stands between, is another."""
    return look_at(lens, fixed_to, in_space(target, ground_m), stands)


def look_at(lens: Lens, fixed_to: int | None, points: Floats, stands: Scene) -> Looked:
    """Points (x, y, z in rows) as a lens sees them."""
    ways = points - np.array([lens.x_m, lens.y_m, lens.z_m])
    in_frame = lens.has_in_frame(ways)
    distances = np.maximum(np.sqrt((ways**2).sum(axis=1)), 1e-9)
    hidden = np.full(len(points), CLEAR, dtype=np.int64)
    if in_frame.any():
        hidden[in_frame] = hidden_by(lens.spot, fixed_to, points[in_frame], stands)
    return Looked(in_frame, hidden == CLEAR, lens.frame.px_m / distances, hidden)


@kept
def targets_of(project: Project) -> tuple[TargetLine, ...]:
    """Every target of a project and how it is met."""
    raised, stands = elevations(project.floors), scene(project)
    views = [placed for placed in lenses(project) if placed.placed]
    firsts = {placed.drop.id: placed.key for placed in reversed(views)}
    return tuple(_target(project, target, raised[target.floor_id], views, firsts, stands) for target in project.targets)


def _target(
    project: Project,
    target: Target,
    ground_m: float,
    views: Sequence[Placed],
    firsts: dict[int, tuple[int, int]],
    stands: Scene,
) -> TargetLine:
    points = in_space(target, ground_m)
    looked = {placed.key: look(placed.lens, placed.fixed_to, target, ground_m, stands) for placed in views}
    aside = {placed.key for placed in views if placed.drop.variant == TURNS and firsts[placed.drop.id] != placed.key}
    counted = {key: looks for key, looks in looked.items() if key not in aside}
    met_by = _met_by(target, counted, PX_PER_M[target.detail], len(points))
    best = [detail for detail in DETAILS if _met_by(target, counted, PX_PER_M[detail], len(points))]
    sightings = [
        _sighting(project, target, ground_m, placed, stands, placed.key in aside)
        for placed in views
        if looked[placed.key].is_framed
    ]
    sightings.sort(key=lambda one: (one.aside, -one.with_detail, -one.seen, -one.px_m, one.drop_id, one.view_id or 0))
    return TargetLine(
        id=target.id, name=target.name, floor_id=target.floor_id, shape=target.shape, height_m=target.above_floor_m,
        wanted=target.detail, wanted_px_m=PX_PER_M[target.detail], points=len(points), met=bool(met_by),
        met_by=met_by, best=best[-1] if best else None, sightings=tuple(sightings),
    )  # fmt: skip


def _met_by(target: Target, looked: dict[tuple[int, int], Looked], px_m: float, count: int) -> tuple[int, ...]:
    """The drops that meet a target with a detail; lenses of one camera look together."""
    by_drop: dict[int, NDArray[np.bool_]] = {}
    for (drop_id, _), looks in looked.items():
        if not looks.is_seen:
            continue
        here = looks.with_detail(px_m)
        by_drop[drop_id] = by_drop[drop_id] | here if drop_id in by_drop else here
    alone = tuple(drop_id for drop_id, here in by_drop.items() if here.all())
    if alone or target.shape != "area":
        return alone
    together = np.zeros(count, dtype=np.bool_)
    for here in by_drop.values():
        together |= here
    return tuple(drop_id for drop_id, here in by_drop.items() if here.any()) if together.all() else ()


def _sighting(
    project: Project, target: Target, ground_m: float, placed: Placed, stands: Scene, aside: bool
) -> Sighting:
    seen = _as_seen(placed.lens, placed.fixed_to, target, ground_m, stands)
    return Sighting(
        drop_id=placed.drop.id, view_id=placed.view.id if placed.view else None, in_frame=seen.in_frame,
        seen=seen.seen, with_detail=seen.with_detail, px_m=seen.px_m, detail=seen.detail,
        distance_m=seen.distance_m, steep_deg=seen.steep_deg,
        blocked_by="" if seen.hiding is None else named(project, seen.hiding, stands),
        against_window=seen.against_window, lit=seen.furthest_m <= placed.light_m, aside=aside,
    )  # fmt: skip


class _Seen(NamedTuple):
    """A target as a lens sees it, in figures."""

    in_frame: float
    seen: float
    with_detail: float
    px_m: float
    detail: Detail | None
    distance_m: float
    furthest_m: float
    """Of the points that are seen, else of those in the frame."""
    steep_deg: float
    hiding: int | None
    """What hides most of it; None: nothing."""
    against_window: bool


@lru_cache(maxsize=4096)
def _as_seen(lens: Lens, fixed_to: int | None, target: Target, ground_m: float, stands: Scene) -> _Seen:
    """The figures of a sighting, kept as long as what `look` tells."""
    looks, points = look(lens, fixed_to, target, ground_m, stands), in_space(target, ground_m)
    told = looks.seen if looks.is_seen else looks.in_frame
    ground = np.hypot(points[told, 0] - lens.x_m, points[told, 1] - lens.y_m)
    middle = points.mean(axis=0)
    met = [detail for detail in DETAILS if looks.with_detail(PX_PER_M[detail]).all()]
    hiding = looks.hidden[looks.in_frame & ~looks.clear]
    values, counts = np.unique(hiding, return_counts=True)
    return _Seen(
        in_frame=_share(looks.in_frame), seen=_share(looks.seen),
        with_detail=_share(looks.with_detail(PX_PER_M[target.detail])), px_m=round(float(looks.px_m[told].min()), 2),
        detail=met[-1] if met else None, distance_m=round(math.dist(lens.spot, middle), 3),
        furthest_m=float((lens.frame.px_m / looks.px_m[told]).max()),
        steep_deg=round(steepness_deg(lens.z_m - points[0, 2], float(ground.min())), 2),
        hiding=int(values[counts.argmax()]) if len(hiding) else None,
        against_window=looks.is_seen and _window_behind(lens, middle, stands),
    )  # fmt: skip


def _share(here: NDArray[np.bool_]) -> float:
    return round(float(here.mean()), 4)


def _window_behind(lens: Lens, point: Floats, stands: Scene) -> bool:
    """Whether the first thing behind a point, seen from a lens, is a window."""
    way = point - lens.spot
    flat = math.hypot(way[0], way[1])
    if flat < 1e-9:
        return False
    beyond = point + way / flat * LIGHT_BEHIND_M
    crossed = [
        at
        for window in stands.openings
        if window.kind == "window" and window.see_through
        and (at := _crossing(point, beyond, window.start, window.end)) < math.inf
        and window.ground_m + window.sill_m <= point[2] + at * (beyond[2] - point[2]) < window.ground_m + window.head_m
    ]  # fmt: skip
    if not crossed:
        return False
    just_before = point + (beyond - point) * (min(crossed) * 0.999)
    return int(hidden_by(point, None, just_before[None, :], stands)[0]) == CLEAR


def _crossing(point: Floats, beyond: Floats, start: Point, end: Point) -> float:
    """At which share of the way behind a point a stretch is crossed; infinite: it is not."""
    way, along = beyond[:2] - point[:2], np.array(end) - np.array(start)
    off = np.array(start) - point[:2]
    turn = way[0] * along[1] - way[1] * along[0]
    if abs(turn) < 1e-12:
        return math.inf
    at = (off[0] * along[1] - off[1] * along[0]) / turn
    on = (off[0] * way[1] - off[1] * way[0]) / turn
    return float(at) if 1e-9 < at <= 1 and 0 <= on <= 1 else math.inf
