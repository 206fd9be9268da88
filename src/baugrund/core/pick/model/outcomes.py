"""What a search finds, and how two picks compare."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass

from .problem import Weight
from .seating import Seating

Cost = tuple[int, ...]
"""What is compared, in order."""


@dataclass(frozen=True, eq=False)
class Found:
    """The best seating, whether it is proven, and the least that any pick could cost (first aim)."""

    seating: Seating
    proven: bool
    bound: int


@dataclass(frozen=True, eq=False)
class Searched:
    """What a search found, or None; ``certain``: that there is nothing better, or nothing at all, is proven.
    ``bound``: what no pick can be under in the first aim."""

    found: Found | None
    certain: bool
    bound: int = 0


def cost_of(seating: Seating, weight: Weight) -> Cost:
    """What is compared, in order: the aim, then price, fewer boxes, own mains draw, catalogue order."""
    used: Counter[int] = Counter()
    for kind, count in seating.taken.items():
        used[kind.index] += count
    order = tuple(-used[index] for index in range(max(used) + 1))
    shared = (seating.price_minor, len(seating.boxes), seating.own_mains_mw)
    return (seating.mains_mw, *shared, *order) if weight == "power" else (*shared, *order)
