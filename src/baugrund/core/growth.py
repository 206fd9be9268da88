"""Growth: reserve drops, not a percentage of ports."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Mapping

from .kept import kept
from .project import Project


def reserve_count(live: int, percent: float, years: int) -> int:
    """Drops to keep in reserve: ``ceil(n·((1+g)^years) − n − 1e-9)``, never under 0."""
    return max(0, math.ceil(live * (1.0 + percent / 100.0) ** years - live - 1e-9))


@kept
def live_by_kind(project: Project) -> Mapping[int, Mapping[str, int]]:
    """How many drops of each kind are live, by closet."""
    counts: dict[int, Counter[str]] = {closet.id: Counter() for closet in project.closets}
    for drop in project.drops:
        if project.is_live(drop):
            counts[drop.closet_id][drop.kind] += 1
    return counts


def reserves(project: Project, years: int) -> dict[int, dict[str, int]]:
    """Reserve drops by closet and kind after ``years``: growth of the live drops, and the additions named by then (at
    the head end where no closet is named)."""
    found: dict[int, dict[str, int]] = {}
    for closet_id, counts in live_by_kind(project).items():
        reserve = {str(kind): reserve_count(n, project.growth_of(kind), years) for kind, n in counts.items()}
        for addition in project.additions:
            if addition.years <= years and (addition.closet_id or project.head_end.id) == closet_id:
                reserve[addition.kind] = reserve.get(addition.kind, 0) + addition.count
        found[closet_id] = {kind: count for kind, count in reserve.items() if count}
    return found
