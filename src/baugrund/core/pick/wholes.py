"""Sets of boxes as they stand, and ever sharper bounds of each: by what drops are worth, with its seats in parts, and
whole; where the last is no dearer than the best, it is packed.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from .bounds import LinkClass
from .figures import Counts
from .linear import Floats
from .packing import Packing, merged_packing
from .problem import Problem
from .relaxation import Relaxation, Weight
from .supply import BoxType
from .worths import Pool

NEWS = 1.0005
"""How much dearer a set is found than worths said, for its own to be kept."""


@dataclass(frozen=True, eq=False)
class Whole:
    """A set of boxes whose links were looked at, around a hub (None: any may hang off any)."""

    relaxation: Relaxation
    counts: Counts
    boxes: tuple[BoxType, ...]
    hub: int | None
    packing: Packing | None = None
    """Its seats, once it was bounded with them in parts."""
    is_sharp: bool = False
    """Whether there is no sharper bound than what it costs packed."""


@dataclass(frozen=True, eq=False)
class Listed:
    """Sets of a relaxation, so many of each box a row, whose links around a hub (None: any may hang off any) are still
    to be looked at, the least bound first."""

    relaxation: Relaxation
    hub: BoxType | None
    counts: Counts
    bounds: Floats
    known: int = 0
    """How many worths had come when they were bounded last."""


class Wholes:
    """What is known of sets of one problem."""

    def __init__(self, problem: Problem, weight: Weight) -> None:
        self._problem, self._weight = problem, weight
        self._pools: dict[LinkClass, Pool] = {}
        self._seen: set[tuple[int | None, ...]] = set()
        """Sets around a hub that were bounded with all their seats."""

    def pool(self, group: LinkClass) -> Pool:
        """What drops are worth in the sets of a link class."""
        if group not in self._pools:
            self._pools[group] = Pool(group)
        return self._pools[group]

    def anew(self, listed: Listed) -> Listed | None:
        """Listed sets with what they cost by worths that came since; None: there are none."""
        pool = self.pool(listed.relaxation.group)
        if listed.hub is None or not listed.relaxation.hubs or listed.known == pool.added:
            return None
        told = pool.bound(listed.relaxation, listed.hub, listed.counts, listed.known)
        bounds = np.maximum(listed.bounds, told)
        order = np.argsort(bounds, kind="stable")
        return replace(listed, counts=listed.counts[order], bounds=bounds[order], known=pool.added)

    def sharper(self, bound: float, whole: Whole, mark: int | None) -> tuple[float, Whole] | None:
        """A set with its next bound; None: it cannot be packed for the mark, or came before."""
        if whole.packing is not None:
            least = merged_packing(self._problem, whole.boxes, whole.hub, self._weight).least_whole(mark)
            return None if least is None else (max(bound, least), replace(whole, is_sharp=True))
        told = self._by_worths(whole)
        if told > bound:
            return told, whole
        key = (whole.hub if whole.hub is None else id(whole.boxes[whole.hub]), *sorted(id(box) for box in whole.boxes))
        if key in self._seen:
            return None
        self._seen.add(key)
        if self._is_mergeable and not self._may_be(whole, told, mark):
            return None
        packing = Packing(self._problem, whole.boxes, whole.hub, self._weight)
        if packing.least is None:
            return None
        return max(bound, packing.least), replace(whole, packing=packing, is_sharp=not self._is_mergeable)

    @cached_property
    def _is_mergeable(self) -> bool:
        """Whether some drops differ only in watts."""
        return len(self._problem.merged[1]) < len(self._problem.needs)

    def _by_worths(self, whole: Whole) -> float:
        """What a set costs at least by all worths."""
        if whole.hub is None or not whole.relaxation.hubs:
            return 0.0
        pool = self.pool(whole.relaxation.group)
        return float(pool.bound(whole.relaxation, whole.boxes[whole.hub], whole.counts[None, :])[0])

    def _may_be(self, whole: Whole, told: float, mark: int | None) -> bool:
        """Whether a set costs no more than the mark with its seats in parts; worths that tell more of it are kept."""
        merged = merged_packing(self._problem, whole.boxes, whole.hub, self._weight, may_leave=self._weight == "price")
        worths = merged.worths(self._problem)
        if worths and (merged.least is None or merged.least > NEWS * told):
            self.pool(whole.relaxation.group).add(worths)
        return merged.least is not None and (mark is None or merged.least <= mark + 0.5)
