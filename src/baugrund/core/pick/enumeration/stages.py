"""Which configurations of a node are listed next: step by step while there is no incumbent, then all up to the cutoff.

A wide step costs many configurations that are begun, a narrow one begins them again and again.
"""

from __future__ import annotations

import math
from dataclasses import replace

from ..bounds.relaxation import Bound
from .enumeration import Beyond, Enumerated, Enumeration
from .nodes import Node, Space

STEP, FINEST = 0.01, 0.0005
"""How much dearer than a bound the configurations are that are listed first, as a share of it; where there are too
many that are so little dearer, they are split."""
WIDER = ((2_000, 4.0), (20_000, 2.0), (500_000, 1.0), (math.inf, 0.5))
"""How many times as wide the next step is, where fewer than so many configurations were looked at."""

AT_ONCE, BEGUN_AT_ONCE = 0.98, 300_000
"""Once it is known what a pick costs, all configurations of a node that cost no more than it are listed at once, of
many boxes first those that cost no more than this share of it, where no more than so many are begun for that."""

HARD_FROM = 20_000
"""Where more were begun, the next list is a step wide again, and not all up to the cutoff."""


class Stages:
    """The listings of nodes, by their bounds."""

    def __init__(self, space: Space, unit: int) -> None:
        """``unit``: what costs are multiples of."""
        self._space, self._unit, self._at_once = space, unit, AT_ONCE if space.is_large else 1.0
        self._kept: dict[Bound, Enumeration] = {}

    def next_configurations(
        self, bound: float, node: Node, cutoff: int | None
    ) -> tuple[Enumeration, Enumerated, Node] | None:
        """The configurations of a bounded node that cost little more than a bound, as far as sums tell, and no more
        than the cutoff; and the node, to come back for others.  None: they are too many."""
        listing = self._of(node, cutoff)
        dearest = math.inf if cutoff is None else cutoff
        step, listed = max(node.step or STEP * bound, self._unit), None
        wide = 0.0 if cutoff is None or node.hard else self._up_to(bound, cutoff) - bound
        if wide > step:
            listed = listing.up_to(bound + wide, BEGUN_AT_ONCE)
            step = step if listed is None else wide
        if listed is None:
            listed = listing.up_to(min(bound + step, dearest))
        while listed is None and step > max(FINEST * bound, self._unit):
            step /= 4
            listed = listing.up_to(min(bound + step, dearest))
        if listed is None:
            return None
        further = step * next(wider for most, wider in WIDER if listed.looked_at < most)
        later = replace(node, step=further, hard=listed.looked_at > HARD_FROM)
        return listing, listed, later

    def _of(self, node: Node, cutoff: int | None) -> Enumeration:
        own, construction, count = node.bound, self._space.construction(node.relaxation), len(node.relaxation.boxes)
        assert own is not None
        listing = self._kept.get(own)
        if listing is None:
            covers = construction.covers(own.duals, node.number)
            beyond = None if cutoff is None else Beyond(own.adds, cutoff - own.least + self._unit)
            listing = Enumeration(
                construction.pieces, covers, node.least[:count], node.most[:count], node.number, beyond
            )
            self._kept[own] = listing
        return listing

    def _up_to(self, bound: float, cutoff: int) -> float:
        first = self._at_once * cutoff
        return first if bound < first - self._unit else cutoff
