"""Growth: reserve drops, not a percentage of ports."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Mapping, Sequence

from ..facts.kept import kept
from ..facts.project import Project


def reserve_count(live: int, percent: float, years: int) -> int:
    """Drops to keep in reserve: ``floor(n·((1+g)^years − 1) + 1e-9)``, whole devices only."""
    return math.floor(live * ((1.0 + percent / 100.0) ** years - 1.0) + 1e-9)


def shared_out(count: int, weights: Sequence[int]) -> list[int]:
    """So many shared by weight: whole parts, then by largest remainder, ties to the first (Hamilton's method)."""
    total = sum(weights)
    if not total:
        return [0] * len(weights)
    shares = [count * weight // total for weight in weights]
    remainders = [count * weight % total for weight in weights]
    order = sorted(range(len(weights)), key=lambda place: -remainders[place])
    for place in order[: count - sum(shares)]:
        shares[place] += 1
    return shares


@kept
def live_by_kind(project: Project) -> Mapping[int, Mapping[str, int]]:
    """How many drops of each kind are live, by closet."""
    counts: dict[int, Counter[str]] = {closet.id: Counter() for closet in project.closets}
    for drop in project.drops:
        if project.is_live(drop):
            counts[drop.closet_id][drop.kind] += 1
    return counts


def reserves(project: Project, years: int) -> dict[int, dict[str, int]]:
    """Reserve drops by closet and kind after ``years``: growth of each kind's live drops on the whole site, shared to
    closets by where they are now, and the additions named by then (at the head end where no closet is named)."""
    live = live_by_kind(project)
    found: dict[int, Counter[str]] = {closet_id: Counter() for closet_id in live}
    for kind in sorted({kind for counts in live.values() for kind in counts}):
        weights = [counts.get(kind, 0) for counts in live.values()]
        count = reserve_count(sum(weights), project.growth_of(kind), years)
        for closet_id, share in zip(live, shared_out(count, weights), strict=True):
            found[closet_id][kind] += share
    for addition in project.additions:
        if addition.years <= years:
            found[addition.closet_id or project.head_end.id][addition.kind] += addition.count
    return {closet_id: {kind: count for kind, count in counts.items() if count} for closet_id, counts in found.items()}
