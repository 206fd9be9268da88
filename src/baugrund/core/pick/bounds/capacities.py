"""How many drops of each up-set boxes hold at most, and how many watts they can give, for many boxes at once."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Sequence
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from ..model.arrays import Flags, Places
from ..model.problem import Problem
from ..model.supply import BoxType
from ..model.up_sets import UpSet, up_sets

Amounts = NDArray[np.int64]


class Holding:
    """What some boxes hold of some up-sets; tables have a row a box and a column an up-set."""

    def __init__(self, up_sets: Sequence[UpSet], boxes: Sequence[BoxType]) -> None:
        self._up_sets = up_sets
        kinds = sorted({(port.speed_mbit, port.poe_rank) for box in boxes for port in box.ports if port.count})
        at = {kind: place for place, kind in enumerate(kinds)}
        self._counts = np.zeros((len(boxes), len(kinds)), dtype=np.int64)
        """Ports of each kind, of each box."""
        for row, box in enumerate(boxes):
            for port in box.ports:
                if port.count:
                    self._counts[row, at[port.speed_mbit, port.poe_rank]] += port.count
        self._speeds = np.array([speed for speed, _ in kinds], dtype=np.int64)
        self._reach = _table([[up_set.reached(*kind) for up_set in up_sets] for kind in kinds], len(up_sets))
        self._ports = self._counts @ self._reach
        self._most = np.array([box.ports_most for box in boxes], dtype=np.int64)
        watts = np.array([box.power_most_mw for box in boxes], dtype=np.int64)
        powered = np.array([box.powered_most for box in boxes], dtype=np.int64)
        fed = _table([np.searchsorted(up_set.powers_summed, watts, side="right") for up_set in up_sets], len(boxes))
        bare = np.array([up_set.bare for up_set in up_sets], dtype=np.int64)
        there = np.array([up_set.count for up_set in up_sets], dtype=np.int64)
        self._powered = np.minimum(there, bare + np.minimum(powered[:, None], fed.T))
        """As many as there are, or can have power."""
        self._taken: dict[int, tuple[Amounts, Flags]] = {}
        self._fast: dict[int, Amounts] = {}
        self._crossed: dict[int, Amounts] = {}

    @cached_property
    def alone(self) -> Amounts:
        """Behind no link."""
        held: Amounts = np.minimum(np.minimum(self._ports, self._most[:, None]), self._powered)
        return held

    def linked(self, places: Places, rates_mbit: Amounts, carries_kbit: Amounts | None = None) -> Amounts:
        """Of the boxes at these places, each with a link that takes one of its ports of at least such a rate, if it has
        one (under 0: it takes none), and crosses no more than it carries (None: it is not crossed)."""
        taken = np.zeros((len(places), len(self._up_sets)), dtype=np.int64)
        takes = np.zeros(len(places), dtype=np.bool_)
        for rate in np.unique(rates_mbit[rates_mbit >= 0]).tolist():
            least, there = self._least_taken(rate)
            mine = np.flatnonzero(rates_mbit == rate)
            taken[mine], takes[mine] = least[places[mine]], there[places[mine]]
        held: Amounts = np.minimum(self._ports[places] - taken, (self._most[places] - takes)[:, None])
        held = np.minimum(held, self._powered[places])
        if carries_kbit is None:
            return held
        amounts, which = np.unique(carries_kbit, return_inverse=True)
        crossing = _table([self._crossing(amount) for amount in amounts.tolist()], len(self._up_sets))
        held = np.minimum(held, crossing[which])
        return held

    def _crossing(self, carries_kbit: int) -> Amounts:
        """How many of each cross a link together that carries so much."""
        if carries_kbit not in self._crossed:
            crossed = [bisect_right(up_set.traffics_summed, carries_kbit) for up_set in self._up_sets]
            self._crossed[carries_kbit] = np.array(crossed, dtype=np.int64)
        return self._crossed[carries_kbit]

    def left_by_links(self, place: int, rates_mbit: Sequence[int]) -> Amounts:
        """Ports of a box that are left to each when links of these rates end on others."""
        left: Amounts = self._ports[place]
        for rate in set(rates_mbit):
            taken = sum(other >= rate for other in rates_mbit)
            left = np.minimum(left, self.ports_or_faster(rate)[place] - taken)
        return left

    def ports_or_faster(self, rate_mbit: int) -> Amounts:
        """Ports that serve each or are at least so fast."""
        if rate_mbit not in self._fast:
            self._fast[rate_mbit] = self._counts @ (self._reach | (self._speeds >= rate_mbit)[:, None])
        return self._fast[rate_mbit]

    def _least_taken(self, rate_mbit: int) -> tuple[Amounts, Flags]:
        """What a link of such a rate takes from each at the least, on whichever port; and whether there is one."""
        if rate_mbit not in self._taken:
            able = (self._counts > 0) & (self._speeds >= rate_mbit)
            least = np.where(able[:, :, None], self._reach[None, :, :], 1).min(axis=1, initial=1)
            there: Flags = np.asarray(able.any(axis=1))
            self._taken[rate_mbit] = least * there[:, None], there
        return self._taken[rate_mbit]


def _table(rows: Sequence[object], width: int) -> Amounts:
    return np.array(rows, dtype=np.int64).reshape(len(rows), width)


def watts_given(problem: Problem, boxes: Sequence[BoxType]) -> Amounts:
    """Most watts that each box can give: its budget, or what the hungriest drops on its powered ports draw [mW]."""
    drops = sorted(((n.power_mw, n.poe_rank, count) for n, count in problem.needs if n.poe_rank), reverse=True)
    ranks = sorted({port.poe_rank for box in boxes for port in box.ports} | {rank for _, rank, _ in drops})
    left = _table(
        [[sum(p.count for p in box.ports if p.poe_rank >= rank > 0) for rank in ranks] for box in boxes], len(ranks)
    )
    """Powered ports of each class and over it."""
    still = np.array([box.powered_most for box in boxes], dtype=np.int64)
    drawn = np.zeros(len(boxes), dtype=np.int64)
    for power_mw, rank, count in drops:
        # a port serves its class and all lower ones, so sets of ports are nested and greed is best
        lower = np.array([0 < other <= rank for other in ranks])
        some = np.minimum(np.minimum(left[:, lower].min(axis=1), still), count)
        left[:, lower] -= some[:, None]
        still -= some
        drawn += some * power_mw
    return np.minimum(drawn, np.array([box.power_most_mw for box in boxes], dtype=np.int64))


class Enough:
    """Whether boxes have ports and watts enough for the drops of every up-set, and an end for every link to another
    closet: a quick look before anything is seated.  Where it says no, nothing can be."""

    def __init__(self, problem: Problem) -> None:
        self._problem = problem
        self._up_sets = up_sets(problem)
        counts = [count for _, count in problem.needs]
        self._least = np.array([u.count - sum(counts[n] for n in u.curable) for u in self._up_sets], dtype=np.int64)
        """How many drops of each they must hold, were all fed by injectors that can be."""
        self._held: dict[BoxType, Amounts] = {}
        self._look_at(problem.boxes)
        self._ends_at: dict[BoxType, tuple[bool, ...]] = {}

    def __call__(self, boxes: Sequence[BoxType]) -> bool:
        self._look_at([box for box in boxes if box not in self._held])
        held = sum((self._held[box] for box in boxes), np.zeros_like(self._least))
        return bool((held >= self._least).all()) and all(map(any, zip(*map(self._ends, boxes), strict=True)))

    def _look_at(self, boxes: Sequence[BoxType]) -> None:
        """All at once, for one by one takes far longer."""
        if boxes:
            self._held.update(zip(boxes, Holding(self._up_sets, boxes).alone, strict=True))

    def _ends(self, box: BoxType) -> tuple[bool, ...]:
        """Whether each link to another closet may end in a box."""
        if box not in self._ends_at:
            modules = self._problem.modules
            self._ends_at[box] = tuple(bool(trunk.ends_at(modules, box)) for trunk in self._problem.trunks)
        return self._ends_at[box]
