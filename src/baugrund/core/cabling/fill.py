"""What each path holds: cables, the share of its section that they take, and how warm a bundle of them gets."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from ..facts.drop import Drop
from ..facts.kept import kept
from ..facts.paths import Path
from ..facts.project import Project
from ..physics.poe import bundle_rise_k, heat_w_per_m
from ..power.feeds import steady
from ..reach.cable_types import CableType, cable_type
from ..reach.runs import Run, runs
from ..standards.cabling import (
    CLAD_TIMES,
    DENSE_CABLES,
    FIXED_OHM_PER_M,
    MOST_BENDS,
    PULL_MAX_M,
    TRAY_FILL,
    bundle_mm,
    fill_share,
)
from ..standards.poe_classes import POE_CLASSES


@dataclass(frozen=True)
class Filled:
    """One path and what lies in it."""

    path_id: int
    drop_ids: tuple[int, ...]
    length_m: float
    bundle_mm: float
    widest_mm: float
    """Diameter of the widest cable in it [mm]."""
    used: float | None
    """Share of what it may hold [0 to 1 and over]; None: its section is not typed."""
    rise_k: float | None
    """How much warmer the middle of the bundle gets [K]; None: no estimate (nothing powered, or closed in)."""
    powered: int
    """Cables in it that carry power."""
    is_dense: bool
    """So many cables of category 6 at 10 Gbit/s lie in it that they disturb each other (TSB-155)."""
    warmest_c: float
    rated_c: float
    bends: float
    """Right angles that its corners make together."""
    pull_bends: float
    """Right angles between two pull points, were these spread evenly."""
    pull_m: float
    """Length between two pull points, were these spread evenly [m]."""

    @property
    def pulls_hard(self) -> bool:
        """More bends or metres between two pull points than a closed path takes."""
        return self.pull_bends > MOST_BENDS + 1e-9 or self.pull_m > PULL_MAX_M + 1e-9


def cable_of(project: Project, drop: Drop) -> CableType:
    """The cable that a drop is pulled with."""
    return cable_type(project, drop.category, outdoor=drop.outdoor_jacket, screened=drop.screened)


@kept
def filled(project: Project) -> Mapping[int, Filled]:
    """What every path holds, by its number; paths that no run takes are there too."""
    inside: dict[int, list[Run]] = {path.id: [] for path in project.paths}
    for run in runs(project).values():
        for path_id in run.path_ids:
            inside[path_id].append(run)
    return {path.id: _filled(project, path, inside[path.id]) for path in project.paths}


def _filled(project: Project, path: Path, held: list[Run]) -> Filled:
    drops = [project.drops_by_id[run.drop_id] for run in held]
    cables = [cable_of(project, drop) for drop in drops]
    widest = max((cable.diameter_mm for cable in cables), default=0.0)
    thick = bundle_mm([cable.diameter_mm for cable in cables])
    length = sum(math.dist(a, b) for a, b in zip(path.points, path.points[1:], strict=False))
    ambient = max((s.temperature_c for run in held for s in run.stretches if s.path_id == path.id), default=20.0)
    return Filled(
        path.id,
        tuple(drop.id for drop in drops),
        round(length, 2),
        round(thick, 1),
        widest,
        _used(path, [cable.diameter_mm for cable in cables]),
        None if path.row.is_closed else _rise_k(currents(project), drops, thick),
        sum(drop.id in currents(project) for drop in drops),
        sum(drop.category == "6" and drop.speed_mbit >= 10_000 for drop in drops) >= DENSE_CABLES,
        ambient,
        min((cable.rated_c for cable in cables), default=60.0),
        round(_bends(path), 2),
        round(_bends(path) / (path.pull_points + 1), 2),
        round(length / (path.pull_points + 1), 2),
    )


def _used(path: Path, diameters_mm: list[float]) -> float | None:
    """Share of the section that may be filled [ANSI/TIA-568.0]."""
    squares = sum(d * d for d in diameters_mm)
    if path.inner_mm is not None:
        return squares / (fill_share(len(diameters_mm)) * path.inner_mm**2)
    if path.width_mm is not None and path.depth_mm is not None:
        return math.pi / 4 * squares / (TRAY_FILL * path.width_mm * path.depth_mm)
    return None


@kept
def currents(project: Project) -> Mapping[int, tuple[float, int]]:
    """Amperes per pair set, and pairs, of every powered run, by the drop's number; one that cannot carry its draw
    counts the most that its type allows."""
    found = {}
    for run in runs(project).values():
        drop = project.drops_by_id[run.drop_id]
        if drop.poe_class is None:
            continue
        row = POE_CLASSES[drop.poe_class]
        flowing = steady(project, drop)
        amperes = row.pair_set_max_a if flowing is None else flowing.current_a / (row.pairs / 2)
        found[drop.id] = (amperes, row.pairs)
    return found


def _rise_k(flowing: Mapping[int, tuple[float, int]], drops: list[Drop], thick_mm: float) -> float | None:
    """Warming by the heat of every cable in the bundle; those without power give none."""
    heat = 0.0
    for drop in drops:
        if drop.id in flowing:
            heat += heat_w_per_m(*flowing[drop.id], FIXED_OHM_PER_M * (CLAD_TIMES if drop.copper_clad else 1.0))
    return round(bundle_rise_k(heat, thick_mm), 2) if heat else None


def _bends(path: Path) -> float:
    """Right angles that the corners of a path make together, and the one into a riser."""
    turned = 0.0
    for a, b, c in zip(path.points, path.points[1:], path.points[2:], strict=False):
        one, two = math.atan2(b[1] - a[1], b[0] - a[0]), math.atan2(c[1] - b[1], c[0] - b[0])
        turned += abs((two - one + math.pi) % (2 * math.pi) - math.pi)
    return turned / (math.pi / 2) + (path.to_floor_id is not None and len(path.points) > 1)
