"""Box types that another one can stand in for at no loss: they never need to be looked at."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import combinations

from ..model.supply import BoxType


def undominated(types: Sequence[BoxType]) -> list[BoxType]:
    """Types left after dropping each that another (to be had in any number) replaces one for one."""
    kept: list[BoxType] = []
    for box in sorted(types, key=_last_ties):
        if not any(other.most is None and replaces(other, box) for other in kept):
            kept.append(box)
    return kept


def _last_ties(box: BoxType) -> tuple[int, int, int]:
    return box.cost_minor, box.own_mains_mw, box.index


def replaces(other: BoxType, box: BoxType) -> bool:
    """Whether ``other`` can take the place of ``box`` in every pick that has it, and the pick is no worse."""
    a, b = other.model, box.model
    return (
        other.cost_minor <= box.cost_minor
        and other.own_mains_mw <= box.own_mains_mw
        and other.power_most_mw >= box.power_most_mw
        and other.ports_most >= box.ports_most
        and other.powered_most >= box.powered_most
        and a.efficiency_percent >= b.efficiency_percent
        and all(mine <= theirs for mine, theirs in zip(other.takes, box.takes, strict=True))
        and a.large_frames >= b.large_frames
        and _slots_cover(other.slots, box.slots)
        and _ports_cover(other, box)
    )


def _slots_cover(ours: Sequence[tuple[int, int]], theirs: Sequence[tuple[int, int]]) -> bool:
    return all(
        sum(count for count, s in ours if s >= speed) >= sum(count for count, s in theirs if s >= speed)
        for _, speed in theirs
    )


def _ports_cover(other: BoxType, box: BoxType) -> bool:
    """Hall's condition: every set of port groups finds enough ports that are as fast and as strong."""
    for size in range(1, len(box.ports) + 1):
        for groups in combinations(box.ports, size):
            able = sum(
                port.count
                for port in other.ports
                if any(port.speed_mbit >= g.speed_mbit and port.poe_rank >= g.poe_rank for g in groups)
            )
            if able < sum(group.count for group in groups):
                return False
    return True
