"""The best set of places of a given size, proven: every set is looked at or shown to cost no less.

Sets are built place by place in one order; a set begun is given up when what the places still to come could at best
save leaves it no cheaper than the best one known.  With a limit of drops a closet, who ends where is a flow of least
cost (OR-Tools), asked only for sets whose cost without the limit is still less than the best.

References
----------
.. [1] G. Cornuéjols, M. L. Fisher, G. L. Nemhauser, *Location of bank accounts to optimize float*, Management
   Science 23, 1977: the uncapacitated location problem and its bounds.
"""

from __future__ import annotations

import time
from collections.abc import Generator, Iterator
from dataclasses import dataclass
from itertools import combinations

import numpy as np
from numpy.typing import NDArray
from ortools.graph.python import min_cost_flow

from ..watch import Share
from .costs import OUT_OF_REACH, Costs

Whole = NDArray[np.int64]
SECONDS = 20.0
"""A size is left with its bound after so long."""
BEGINNING = 2
"""Sets are gone through by their first places, so many of them."""


@dataclass(frozen=True)
class Limits:
    """``further_minor``: what every closet after the first costs; ``fixed``: a place that must be the head end."""

    further_minor: int
    most_drops: int | None = None
    fixed: int | None = None
    seconds: float = SECONDS


@dataclass(frozen=True)
class Chosen:
    """A set of places.  ``of_drop``: per drop the place that serves it, −1 where none reaches it; ``bound``: no set of
    this size costs less."""

    places: tuple[int, ...]
    head: int
    of_drop: tuple[int, ...]
    total: int
    """With ``OUT_OF_REACH`` for every drop that no place serves."""
    bound: int

    @property
    def proven(self) -> bool:
        return self.bound == self.total


def evaluate(costs: Costs, places: tuple[int, ...], limits: Limits) -> Chosen:
    """What a set of places costs at best: who ends where, and which one is the head end."""
    of_drop, runs = _assigned(costs.money[:, places], limits.most_drops)
    heads = costs.heads[list(places)][:, list(places)].sum(axis=0)
    head = int(heads.argmin()) if limits.fixed is None else places.index(limits.fixed)
    total = runs + int(heads[head]) + limits.further_minor * (len(places) - 1)
    served = tuple(places[one] if one >= 0 else -1 for one in of_drop)
    return Chosen(places, places[head], served, total, total)


def _assigned(money: Whole, most: int | None) -> tuple[list[int], int]:
    """Per drop the column that serves it (−1: none does), and what all runs cost."""
    nearest = money.argmin(axis=1)
    least = money.min(axis=1)
    reached = least < OUT_OF_REACH
    if most is None or np.bincount(nearest[reached], minlength=money.shape[1]).max(initial=0) <= most:
        return [int(one) if ok else -1 for one, ok in zip(nearest, reached, strict=True)], int(least.sum())
    drops, columns = money.shape
    flow = min_cost_flow.SimpleMinCostFlow()
    sink, nowhere = drops + columns, drops + columns + 1
    rows, cols = np.nonzero(money < OUT_OF_REACH)
    flow.add_arcs_with_capacity_and_unit_cost(rows, drops + cols, np.ones(len(rows)), money[rows, cols])
    every = np.arange(drops)
    flow.add_arcs_with_capacity_and_unit_cost(
        every, np.full(drops, nowhere), np.ones(drops), np.full(drops, OUT_OF_REACH)
    )
    flow.add_arcs_with_capacity_and_unit_cost(
        drops + np.arange(columns), np.full(columns, sink), np.full(columns, most), np.zeros(columns, dtype=np.int64)
    )
    flow.add_arc_with_capacity_and_unit_cost(nowhere, sink, drops, 0)
    flow.set_nodes_supplies(every, np.ones(drops, dtype=np.int64))
    flow.set_node_supply(sink, -drops)
    status = flow.solve()
    assert status == flow.OPTIMAL, status
    served = [-1] * drops
    for arc in range(len(rows)):
        if flow.flow(arc):
            served[int(rows[arc])] = int(cols[arc])
    return served, int(flow.optimal_cost())


def best_of_size(costs: Costs, size: int, limits: Limits) -> Generator[Share, None, Chosen]:
    """The cheapest set of so many places; with drops out of reach, first the fewest of them.  Yields how far it is."""
    search = _Search(costs, size, limits)
    yield from search.run()
    return Chosen(
        search.best.places, search.best.head, search.best.of_drop, search.best.total,
        min(search.open_bound, search.best.total),
    )  # fmt: skip


class _Search:
    def __init__(self, costs: Costs, size: int, limits: Limits) -> None:
        self.costs, self.size, self.limits = costs, size, limits
        self.heads = costs.heads
        many = costs.money.shape[1]
        # places in the order of what they cost alone: good sets come early
        alone = costs.money.sum(axis=0)
        order = [int(one) for one in np.argsort(alone, kind="stable")]
        if limits.fixed is not None:
            order.remove(limits.fixed)
            order.insert(0, limits.fixed)
        self.order = order
        self.money = costs.money[:, order]
        self.links = self.heads[np.ix_(order, order)]
        # the least that each drop costs from any place in this one or after
        self.after = np.minimum.accumulate(self.money[:, ::-1], axis=1)[:, ::-1]
        apart = self.links[~np.eye(many, dtype=bool)]
        self.least_links = int(self.links.diagonal().min()) + (size - 1) * int(apart.min() if apart.size else 0)
        self.further = limits.further_minor * (size - 1)
        self.left_out = len(costs.money) - size * limits.most_drops if limits.most_drops is not None else 0
        self.best = self._start()
        self.open_bound = self.best.total
        self.until = time.monotonic() + limits.seconds

    def _runs(self, least: Whole) -> Whole:
        """What runs cost at least, by what each does; with more drops than the closets may serve, the dearest of them
        are those left out."""
        if self.left_out <= 0:
            return np.asarray(least.sum(axis=0))
        served = np.partition(least, -self.left_out - 1, axis=0)[: len(least) - self.left_out]
        return np.asarray(served.sum(axis=0) + self.left_out * OUT_OF_REACH)

    def _start(self) -> Chosen:
        """A good set: one after another the place that saves most, then swapped while that saves."""
        taken = [0] if self.limits.fixed is not None else []
        while len(taken) < self.size:
            taken.append(
                min((n for n in range(len(self.order)) if n not in taken), key=lambda n: self._loose([*taken, n]))
            )
        better = True
        while better:
            better = False
            for place in range(1 if self.limits.fixed is not None else 0, self.size):
                for other in set(range(len(self.order))) - set(taken):
                    swapped = [*taken[:place], other, *taken[place + 1 :]]
                    if self._loose(swapped) < self._loose(taken):
                        taken, better = swapped, True
        return evaluate(self.costs, tuple(sorted(self.order[n] for n in taken)), self.limits)

    def _loose(self, taken: list[int]) -> int:
        """What a set costs without the limit of drops."""
        links = self.links[taken][:, taken].sum(axis=0)
        head = links[0] if self.limits.fixed is not None else links.min()
        return int(self.money[:, taken].min(axis=1).sum() + head)

    def run(self) -> Iterator[Share]:
        """Through all sets, by their first places; between two beginnings the search can be left."""
        given = () if self.limits.fixed is None else (0,)
        if self.size == len(given):
            return
        deep = min(BEGINNING, self.size - 1) - len(given)
        beginnings = list(combinations(range(len(given), len(self.order)), max(0, deep)))
        for number, beginning in enumerate(beginnings):
            yield Share(number / len(beginnings), f"comparing sets of {self.size}")
            taken = [*given, *beginning]
            money = self.money[:, taken].min(axis=1, initial=np.iinfo(np.int64).max)
            self._descend(taken, money, max(taken, default=-1) + 1)

    def _descend(self, taken: list[int], money: Whole, first: int) -> None:
        """Every set that begins with these places."""
        left = self.size - len(taken)
        if len(self.order) - first < left:
            return
        least = int(self._runs(np.minimum(money, self.after[:, first]))) + self.least_links + self.further
        if least >= self.best.total:
            return
        if time.monotonic() > self.until:
            self.open_bound = min(self.open_bound, least)
            return
        if left == 1:
            self._leaves(taken, money, first)
            return
        for place in range(first, len(self.order) - left + 1):
            self._descend([*taken, place], np.minimum(money, self.money[:, place]), place + 1)

    def _leaves(self, taken: list[int], money: Whole, first: int) -> None:
        """Every set of these places and one more, all at once."""
        runs = self._runs(np.minimum(money[:, None], self.money[:, first:]))
        into = self.links[taken].sum(axis=0) if taken else np.zeros(len(self.order), dtype=np.int64)
        as_head = into[first:] + self.links.diagonal()[first:]
        with_heads = [into[head] + self.links[first:, head] for head in taken]
        heads = with_heads[0] if self.limits.fixed is not None else np.minimum.reduce([as_head, *with_heads])
        totals = runs + heads + self.further
        for leaf in np.argsort(totals, kind="stable"):
            if totals[leaf] >= self.best.total:
                break
            if time.monotonic() > self.until:
                self.open_bound = min(self.open_bound, int(totals[leaf]))
                break
            found = evaluate(self.costs, tuple(sorted(self.order[n] for n in (*taken, first + int(leaf)))), self.limits)
            if found.total < self.best.total:
                self.best = found
            if self.limits.most_drops is None:
                break
