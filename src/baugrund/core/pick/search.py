"""The least pick, proven: boxes are tried in the order of a bound that only rises.

Every set of boxes has a bound from the relaxation; sets are taken from a heap, bounded more sharply in whole
numbers, put back, and packed when nothing cheaper is left before them.  When the heap's least bound passes the
best pick found, that pick is proven.
"""

from __future__ import annotations

import heapq
import time
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import count as counting

import numpy as np
from numpy.typing import NDArray

from ..errors import TookTooLong
from .bounds import HELD, PRICE, Choice, LinkClass, Rows, best_from, least_mains, link_classes
from .dominance import undominated
from .greedy import quick_seating
from .hubs import least_star_price
from .packing import pack
from .problem import BoxType, Problem
from .relaxation import Relaxation, Weight
from .seating import Seating

TOLERANCE = 1e-3
MAX_SETS = 200_000
"""Sets of boxes looked at before the search gives up proving; the answer then says so."""

TIME_LIMIT_S = 20.0
"""A search not settled by then returns its best with the bound that it reached, and says so."""

Cost = tuple[int, ...]


@dataclass(frozen=True, eq=False)
class Found:
    """The best seating, whether it is proven, and the least that any pick could cost (first aim)."""

    seating: Seating
    proven: bool
    bound: int


def cost_of(seating: Seating, weight: Weight) -> Cost:
    """What is compared, in order: the aim, then price, fewer boxes, own mains draw, catalogue order."""
    used: Counter[int] = Counter(box.index for box in seating.boxes)
    for kinds in (seating.injectors, seating.modules):
        for kind, count in kinds.items():
            used[kind.index] += count
    order = tuple(-used[index] for index in range(max(used) + 1))
    shared = (seating.price_minor, len(seating.boxes), seating.own_mains_mw)
    return (seating.mains_mw, *shared, *order) if weight == "power" else (*shared, *order)


@dataclass(frozen=True, eq=False)
class Searched:
    """What a search found, or None; ``certain``: that there is nothing better, or nothing at all, is proven."""

    found: Found | None
    certain: bool


def least(
    problem: Problem, weight: Weight, *, box_count: int | None = None, first_will_do: bool = False
) -> Found | None:
    """The least feasible pick under a weight, or None when there is none.

    Raises TookTooLong when neither a pick nor that there is none was found in time.
    """
    searched = search(problem, weight, box_count=box_count, first_will_do=first_will_do)
    if searched.found is None and not searched.certain:
        raise TookTooLong(f"No pick was found within {TIME_LIMIT_S:g} s. Pins, or fewer units and sockets, shorten it.")
    return searched.found


def search(
    problem: Problem,
    weight: Weight,
    *,
    box_count: int | None = None,
    price_ceiling: int | None = None,
    first_will_do: bool = False,
) -> Searched:
    """The least feasible pick under a weight, if there is one.

    ``box_count`` asks for exactly so many boxes; ``price_ceiling`` [minor] for no dearer ones;
    ``first_will_do`` stops at the first feasible pick (to see whether there is any).
    """
    pinned = _pinned(problem)
    if pinned is None:
        return Searched(None, True)
    routers, base = pinned
    kept = undominated(problem.switches)
    bounded = tuple(dict.fromkeys([*kept, *base]))
    problem = replace(problem, routers=tuple(undominated(routers or problem.routers)), switches=bounded)
    return _Search(problem, weight, base, kept, price_ceiling).run(box_count, first_will_do)


def _pinned(problem: Problem) -> tuple[list[BoxType], list[BoxType]] | None:
    """Pinned router types and pinned switch copies, owned ones first; None when a pin cannot be met."""
    routers: list[BoxType] = []
    switches: list[BoxType] = []
    for key, wanted in problem.pins.items():
        types = [box for box in (*problem.routers, *problem.switches) if box.model.key == key]
        if not types:
            return None
        if types[0].is_router:
            if routers or wanted > 1:
                return None
            routers = types
            continue
        left = wanted
        for box in types:
            copies = left if box.most is None else min(left, box.most)
            switches += [box] * copies
            left -= copies
        if left:
            return None
    return routers, switches


@dataclass(frozen=True, eq=False)
class _Branch:
    """The sets of one link class and one number of boxes.  Switches stand by what each adds to the bound."""

    group: LinkClass
    box_count: int
    switches: tuple[Choice, ...]
    rows: Rows
    adds: NDArray[np.float64]
    best_from: Rows


@dataclass(frozen=True, eq=False)
class _Node:
    """A set of boxes still to be completed; further switches come from the place ``start`` on."""

    branch: _Branch
    boxes: tuple[BoxType, ...]
    start: int
    row: Rows


@dataclass(frozen=True, eq=False)
class _Whole:
    """A complete set of boxes, to be packed."""

    group: LinkClass
    boxes: tuple[BoxType, ...]
    linked: bool = False
    """Whether its links were looked at one by one."""


class _Search:
    def __init__(
        self,
        problem: Problem,
        weight: Weight,
        base: list[BoxType],
        switches: list[BoxType],
        price_ceiling: int | None,
    ) -> None:
        self.problem = problem
        self.weight: Weight = weight
        self.base = base
        self.switches = set(switches)
        self.price_ceiling = price_ceiling
        self.best: Seating | None = None
        self.best_cost: Cost = ()
        self.ticket = counting()
        self.heap: list[tuple[float, int, _Node | _Whole]] = []
        """Bound, order of arrival, and a set to complete or to pack."""
        self.seen: set[tuple[tuple[int, int], ...]] = set()
        self.unproven: list[int] = []
        self.looked = 0
        self.ends_at = time.monotonic() + TIME_LIMIT_S

    def run(self, box_count: int | None, first_will_do: bool) -> Searched:
        """Few boxes first: they are quickly gone through, and their best cuts short the search among more."""
        relaxations = [Relaxation(group, self.weight, self.base) for group in link_classes(self.problem)]
        counts = range(1 + len(self.base), self.problem.boxes_most() + 1) if box_count is None else [box_count]
        for count in counts:
            for relaxation in relaxations:
                self._branch(relaxation, count)
            self._go_through(first_will_do)
            if self.best and first_will_do:
                break
        if self.best is None:
            return Searched(None, not self.unproven)
        found = Found(self.best, not self.unproven, min([self.best_cost[0], *self.unproven]))
        return Searched(found, found.proven)

    def _branch(self, relaxation: Relaxation, count: int) -> None:
        bound = relaxation.bound(count)
        if bound is None or not self._may_improve(bound.least):
            return
        group, choices = relaxation.group, relaxation.choices
        free = [place for place, choice in enumerate(choices) if choice.box in self.switches]
        free.sort(key=lambda place: (bound.adds[place], choices[place].row[PRICE], choices[place].box.index))
        rows = np.array([choices[place].row for place in free]).reshape(len(free), HELD + len(group.up_sets))
        branch = _Branch(group, count, tuple(choices[p] for p in free), rows, bound.adds[free], best_from(rows))
        # a pinned box may take whichever link it likes: its least addition and the best of every figure
        least, fixed = bound.least, np.zeros(rows.shape[1], dtype=np.int64)
        for box in self.base:
            links = [place for place, choice in enumerate(choices) if choice.box is box]
            if not links:
                return
            least += min(bound.adds[links])
            fixed = fixed + best_from(np.array([choices[place].row for place in links]))[0]
        for place, router in enumerate(group.routers):
            node = _Node(branch, (router.box, *self.base), 0, router.row + fixed)
            if len(node.boxes) == count:
                self._complete(node, node.row[None, :], np.array([least + bound.adds[place]]), [()])
            else:
                self._push(least + bound.adds[place], node)

    def _go_through(self, first_will_do: bool) -> None:
        while self.heap and self._may_improve(self.heap[0][0]):
            bound, _, item = heapq.heappop(self.heap)
            self.looked += 1
            if self.looked > MAX_SETS or time.monotonic() > self.ends_at:
                self.unproven.append(int(bound))
                break
            if isinstance(item, _Node):
                self._look(bound, item)
                continue
            if self._is_sharp(bound, item):
                self._pack(item.boxes, int(bound), first_will_do)
            if self.best and first_will_do:
                break
        self.heap.clear()

    def _push(self, bound: float, item: _Node | _Whole) -> None:
        if self._may_improve(bound):
            heapq.heappush(self.heap, (bound, next(self.ticket), item))

    def _may_improve(self, bound: float) -> bool:
        if self.price_ceiling is not None and self.weight == "price" and bound > self.price_ceiling + TOLERANCE:
            return False
        return self.best is None or bound <= self.best_cost[0] + TOLERANCE

    def _look(self, bound: float, node: _Node) -> None:
        """All sets with one box more: complete ones are bounded in whole numbers, others go back on the heap."""
        branch = node.branch
        rows = node.row + branch.rows[node.start :]
        bounds = bound + branch.adds[node.start :]
        missing = branch.box_count - len(node.boxes) - 1
        if not missing:
            self._complete(node, rows, bounds, [(choice.box,) for choice in branch.switches[node.start :]])
            return
        prices = branch.group.least_price(rows + missing * branch.best_from[node.start :], branch.box_count)
        for place in np.flatnonzero(self._worth(prices, branch.box_count)):
            if not self._may_improve(bounds[place]):
                break
            box = branch.switches[node.start + place].box
            if self._may_repeat(node, box):
                further = _Node(branch, (*node.boxes, box), node.start + int(place), rows[place])
                self._push(
                    max(float(bounds[place]), float(prices[place]) if self.weight == "price" else 0.0),
                    further,
                )

    def _worth(self, prices: Rows, boxes: int) -> NDArray[np.bool_]:
        """Which sets of these least prices (−1: impossible) may still be the best."""
        worth: NDArray[np.bool_] = prices >= 0
        if self.price_ceiling is not None:
            worth &= prices <= self.price_ceiling
        if self.best and self.weight == "price":
            worth &= prices <= self.best_cost[0] - (boxes > self.best_cost[1])
        return worth

    def _may_repeat(self, node: _Node, box: BoxType) -> bool:
        return box.most is None or node.boxes.count(box) < box.most

    def _complete(
        self, node: _Node, rows: Rows, bounds: NDArray[np.float64], last: Sequence[tuple[BoxType, ...]]
    ) -> None:
        prices = node.branch.group.least_price(rows, node.branch.box_count)
        for place in np.flatnonzero(self._worth(prices, node.branch.box_count)).tolist():
            if all(self._may_repeat(node, box) for box in last[place]):
                sharp = float(prices[place]) if self.weight == "price" else float(int(bounds[place] - TOLERANCE))
                self._push(sharp, _Whole(node.branch.group, (*node.boxes, *last[place])))

    def _is_sharp(self, bound: float, whole: _Whole) -> bool:
        """Whether a whole set is to be packed now: links that do not work drop it, dearer ones put it back."""
        key = tuple(sorted((box.index, box.price_minor) for box in whole.boxes))
        if whole.linked:
            return True
        if key in self.seen:
            return False
        self.seen.add(key)
        price = 0 if self.problem.chain_allowed else least_star_price(whole.group, whole.boxes)
        if price is None or not self._worth(np.array([price]), len(whole.boxes))[0]:
            return False
        sharper = price if self.weight == "price" else least_mains(self.problem, whole.boxes)
        if sharper > bound:
            self._push(float(sharper), replace(whole, linked=True))
            return False
        return True

    def _pack(self, boxes: tuple[BoxType, ...], bound: int, first_will_do: bool) -> None:
        """Seat the drops in these boxes: quickly when that meets the bound, else as well as can be."""
        quick = quick_seating(self.problem, boxes)
        if quick:
            self._keep(quick)
            settled = cost_of(quick, self.weight)[0] == bound and (self.weight == "price" or not quick.extra_minor)
            if (settled and not quick.injectors) or (first_will_do and self.best):
                return
        packed = pack(self.problem, boxes, self.weight, self._ceiling(boxes))
        if not packed.proven:
            self.unproven.append(bound)
        if packed.seating:
            self._keep(packed.seating)

    def _ceiling(self, boxes: Sequence[BoxType]) -> int | None:
        """What injectors, modules and seats may cost at most, in the first figure."""
        if self.weight == "power":
            return self.best_cost[0] - sum(box.own_mains_mw for box in boxes) if self.best else None
        limits = [] if self.price_ceiling is None else [self.price_ceiling]
        limits += [self.best_cost[0]] if self.best else []
        return min(limits) - sum(box.price_minor for box in boxes) if limits else None

    def _is_affordable(self, seating: Seating) -> bool:
        return self.price_ceiling is None or seating.price_minor <= self.price_ceiling

    def _keep(self, seating: Seating) -> None:
        cost = cost_of(seating, self.weight)
        if self._is_affordable(seating) and (self.best is None or cost < self.best_cost):
            self.best, self.best_cost = seating, cost
