"""What each path holds: cables, the share of its section that they take, and how warm a bundle of them gets."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from ..cable_types import CableType, cable_type
from ..drop import Drop
from ..kept import kept
from ..paths import Path
from ..poe import PORT_VOLTS_DEFAULT, bundle_rise_k, feed, loop_resistance_ohm
from ..project import Project
from ..standards.cabling import FILL, MOST_BENDS, PULL_MAX_M, TRAY_FILL, bundle_mm
from ..standards.poe_classes import POE_CLASSES
from .runs import Run, runs

RIGHT_ANGLE = math.radians(60)
"""A corner that turns at least so far counts as a bend."""


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
    warmest_c: float
    rated_c: float
    bends: int
    pull_m: float
    """Length between two pull points [m]."""

    @property
    def pulls_hard(self) -> bool:
        """More bends or metres between two pull points than a closed path takes."""
        return self.bends > MOST_BENDS or self.pull_m > PULL_MAX_M + 1e-9


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
    length = sum(math.dist(a, b) for a, b in zip(path.points, path.points[1:], strict=False))
    ambient = max((s.temperature_c for run in held for s in run.stretches if s.path_id == path.id), default=20.0)
    return Filled(
        path.id,
        tuple(drop.id for drop in drops),
        round(length, 2),
        round(bundle_mm(len(cables), widest), 1) if cables else 0.0,
        widest,
        _used(path, [cable.diameter_mm for cable in cables]),
        None if path.row.is_closed else _rise_k(currents(project), drops, widest),
        ambient,
        min((cable.rated_c for cable in cables), default=60.0),
        _bends(path),
        round(length / (path.pull_points + 1), 2),
    )


def _used(path: Path, diameters_mm: list[float]) -> float | None:
    """Share of the section that may be filled [ANSI/TIA-568.0]."""
    squares = sum(d * d for d in diameters_mm)
    if path.inner_mm is not None:
        allowed = FILL[min(len(diameters_mm), 3) - 1] if diameters_mm else FILL[2]
        return squares / (allowed * path.inner_mm**2)
    if path.width_mm is not None and path.depth_mm is not None:
        return math.pi / 4 * squares / (TRAY_FILL * path.width_mm * path.depth_mm)
    return None


@kept
def currents(project: Project) -> Mapping[int, tuple[float, int]]:
    """Amperes per pair set, and pairs, of every powered run that carries its draw, by the drop's number."""
    found = {}
    for run in runs(project).values():
        drop = project.drops_by_id[run.drop_id]
        if drop.poe_class is None:
            continue
        row = POE_CLASSES[drop.poe_class]
        steady = feed(project.draw_w(drop), loop_resistance_ohm(run.length_m, pairs=row.pairs), PORT_VOLTS_DEFAULT)
        if steady is not None:
            found[drop.id] = (steady.current_a / (row.pairs / 2), row.pairs)
    return found


def _rise_k(flowing: Mapping[int, tuple[float, int]], drops: list[Drop], cable_mm: float) -> float | None:
    """Heat of the bundle, as if every cable of it carried the root mean square; those without power carry none."""
    powered = [flowing[drop.id] for drop in drops if drop.id in flowing]
    if not powered:
        return None
    root = math.sqrt(sum(amperes**2 for amperes, _ in powered) / len(drops))
    return round(bundle_rise_k(len(drops), root, pairs=max(pairs for _, pairs in powered), cable_mm=cable_mm), 2)


def _bends(path: Path) -> int:
    """Corners that turn about a right angle, and the one into a riser."""
    found = 0
    for a, b, c in zip(path.points, path.points[1:], path.points[2:], strict=False):
        one, two = math.atan2(b[1] - a[1], b[0] - a[0]), math.atan2(c[1] - b[1], c[0] - b[0])
        turn = abs((two - one + math.pi) % (2 * math.pi) - math.pi)
        found += turn >= RIGHT_ANGLE
    return found + (path.to_floor_id is not None and len(path.points) > 1)
