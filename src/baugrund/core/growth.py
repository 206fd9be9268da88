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
def live_by_kind(project: Project) -> Mapping[str, int]:
    """How many drops of each kind are live at the head end."""
    return Counter(drop.kind for drop in project.drops if project.is_live(drop) and project.at_head_end(drop))


def reserves(project: Project, years: int) -> dict[str, int]:
    """Reserve drops per kind after ``years``: growth of the live drops and the additions named by then."""
    reserve = {
        str(kind): reserve_count(count, project.growth_of(kind), years) for kind, count in live_by_kind(project).items()
    }
    for addition in project.additions:
        if addition.years <= years:
            reserve[addition.kind] = reserve.get(addition.kind, 0) + addition.count
    return {kind: count for kind, count in reserve.items() if count}
