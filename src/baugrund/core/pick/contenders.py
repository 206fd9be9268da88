"""Sets of boxes that may be the best, and ever sharper bounds of each: by what drops are worth, with its seats in
parts, then whole with drops as one that differ only in watts.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from .bounds import LinkClass
from .figures import Counts
from .linear import Floats
from .packing import Packing, merged_packing
from .problem import Problem, Weight
from .relaxation import Relaxation
from .supply import BoxType
from .worths import Pool

NEWS = 1.0005
"""How much dearer a set is found than worths said, for its own to be kept."""

DUST = 0.01
"""What sums of prices may be inexact by [minor]: a bound that is higher by less is none."""


@dataclass(frozen=True, eq=False)
class Contender:
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
class Pending:
    """Sets of a relaxation, so many of each box a row, whose links around a hub (None: any may hang off any) are still
    to be looked at, the least bound first."""

    relaxation: Relaxation
    hub: BoxType | None
    counts: Counts
    bounds: Floats
    known: int = 0
    """How many worths had come when they were bounded last."""


class Contenders:
    """Bounds of sets of boxes of one problem, each sharper than the one before."""

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

    def anew(self, pending: Pending) -> Pending | None:
        """Pending sets bounded again by dual prices that came since; None: no set is left."""
        pool = self.pool(pending.relaxation.group)
        if pending.hub is None or not pending.relaxation.hubs or pending.known == pool.added:
            return None
        told = pool.bound(pending.relaxation, pending.hub, pending.counts, pending.known)
        bounds = np.maximum(pending.bounds, told)
        order = np.argsort(bounds, kind="stable")
        return replace(pending, counts=pending.counts[order], bounds=bounds[order], known=pool.added)

    def sharper(self, bound: float, one: Contender, mark: int | None) -> tuple[float, Contender] | None:
        """A set with its next bound; None: it is over the cutoff, infeasible, or known."""
        if one.packing is not None:
            least = merged_packing(self._problem, one.boxes, one.hub, self._weight).least_whole(mark)
            return None if least is None else (max(bound, least), replace(one, is_sharp=True))
        told = self._by_worths(one)
        if told > bound + DUST:
            return told, one
        key = (one.hub if one.hub is None else id(one.boxes[one.hub]), *sorted(id(box) for box in one.boxes))
        if key in self._seen:
            return None
        self._seen.add(key)
        if self._is_mergeable and not self._may_be(one, told, mark):
            return None
        packing = Packing(self._problem, one.boxes, one.hub, self._weight)
        if packing.least is None:
            return None
        is_sharp = one.hub is None or not self._is_mergeable
        return max(bound, packing.least), replace(one, packing=packing, is_sharp=is_sharp)

    @cached_property
    def _is_mergeable(self) -> bool:
        """Whether some drops differ only in watts."""
        return len(self._problem.merged[1]) < len(self._problem.needs)

    def _by_worths(self, one: Contender) -> float:
        """The lower bound of a set by all dual prices (`worths`)."""
        if one.hub is None or not one.relaxation.hubs:
            return 0.0
        pool = self.pool(one.relaxation.group)
        return float(pool.bound(one.relaxation, one.boxes[one.hub], one.counts[None, :])[0])

    def _may_be(self, one: Contender, told: float, mark: int | None) -> bool:
        """Whether a set costs no more than the mark with its seats in parts; worths that tell more of it are kept."""
        merged = merged_packing(self._problem, one.boxes, one.hub, self._weight, may_leave=self._weight == "price")
        worths = merged.worths(self._problem)
        if worths and (merged.least is None or merged.least > NEWS * told):
            self.pool(one.relaxation.group).add(worths)
        return merged.least is not None and (mark is None or merged.least <= mark + 0.5)
