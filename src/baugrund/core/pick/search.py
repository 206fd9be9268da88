"""The least pick, proven: boxes are tried in the order of a bound that only rises.

Every set of boxes has a bound from the relaxation; sets are taken from a heap, bounded more sharply in whole
numbers, put back, and packed when nothing cheaper is left before them.  When the heap's least bound passes the
best pick found, that pick is proven.
"""

from __future__ import annotations

import heapq
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import count as counting

from .dominance import undominated
from .packing import pack
from .problem import BoxType, Problem
from .relaxation import TOLERANCE, Bounds, Relaxation, Weight
from .seating import Seating, quick_seating

MAX_SETS = 200_000
"""Sets of boxes looked at before the search gives up proving; the answer then says so."""

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


def least(
    problem: Problem,
    weight: Weight,
    *,
    box_count: int | None = None,
    price_ceiling: int | None = None,
    first_will_do: bool = False,
) -> Found | None:
    """The least feasible pick under a weight, or None when there is none.

    ``box_count`` asks for exactly so many boxes; ``price_ceiling`` [minor] for no dearer ones;
    ``first_will_do`` stops at the first feasible pick (to see whether there is any).
    """
    base = _pinned(problem)
    if base is None:
        return None
    return _Search(problem, weight, base, box_count, price_ceiling, first_will_do).run()


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
        for box in types:
            copies = wanted if box.most is None else min(wanted, box.most)
            switches += [box] * copies
            wanted -= copies
        if wanted:
            return None
    return routers, switches


class _Search:
    def __init__(
        self,
        problem: Problem,
        weight: Weight,
        base: tuple[list[BoxType], list[BoxType]],
        box_count: int | None,
        price_ceiling: int | None,
        first_will_do: bool,
    ) -> None:
        self.weight: Weight = weight
        self.box_count = box_count
        self.price_ceiling = price_ceiling
        self.first_will_do = first_will_do
        self.base = base[1]
        self.routers = undominated(base[0] or problem.routers)
        self.switches = undominated(problem.switches)
        bounded = dict.fromkeys([*self.switches, *self.base])
        self.problem = replace(problem, routers=tuple(self.routers), switches=tuple(bounded))
        self.bounds = Bounds(self.problem)
        self.relaxation = Relaxation(self.bounds, weight, self.base, box_count)
        self.best: Seating | None = None
        self.best_cost: Cost = ()
        self.ticket = counting()
        self.heap: list[tuple[float, int, int, tuple[BoxType, ...], int]] = []
        self.unproven: list[int] = []

    def run(self) -> Found | None:
        if not self.relaxation.feasible or not self.routers:
            return None
        self.switches.sort(key=lambda box: (self.relaxation.adds[box], box.price_minor, box.index))
        fixed = sum(self.relaxation.adds[box] for box in self.base)
        for router in self.routers:
            boxes = (router, *self.base)
            self._push(self.relaxation.least + self.relaxation.adds[router] + fixed, boxes, 0, ready=False)
        looked = 0
        while self.heap and self._may_improve(self.heap[0][0]):
            bound, ready, _, boxes, start = heapq.heappop(self.heap)
            looked += 1
            if looked > MAX_SETS:
                self.unproven.append(int(bound))
                break
            if ready:
                self._pack(boxes, int(bound))
                if self.best and self.first_will_do:
                    break
            else:
                self._look(bound, boxes, start)
        if self.best is None:
            return None
        bound_found = min([self.best_cost[0], *self.unproven])
        return Found(self.best, not self.unproven, bound_found)

    def _push(self, bound: float, boxes: tuple[BoxType, ...], start: int, *, ready: bool) -> None:
        heapq.heappush(self.heap, (bound, int(ready), next(self.ticket), boxes, start))

    def _may_improve(self, bound: float) -> bool:
        return self.best is None or bound <= self.best_cost[0] + TOLERANCE

    def _look(self, bound: float, boxes: tuple[BoxType, ...], start: int) -> None:
        """Bound one set sharply, and put its successors on the heap: the same with one more, or the last changed."""
        fixed = 1 + len(self.base)
        price = sum(box.price_minor for box in boxes)
        if len(boxes) > fixed:
            self._change_last(bound, boxes, start)
        if not self._fits(boxes, price):
            return
        if self.box_count in (None, len(boxes)):
            self._bound_sharply(bound, boxes, price)
        if len(boxes) < (self.box_count or self.problem.boxes_most()) and start < len(self.switches):
            self._add_one(bound, boxes, start)

    def _add_one(self, bound: float, boxes: tuple[BoxType, ...], start: int) -> None:
        for place in range(start, len(self.switches)):
            box = self.switches[place]
            if box.most is None or boxes.count(box) < box.most:
                self._push(bound + self.relaxation.adds[box], (*boxes, box), place, ready=False)
                return

    def _change_last(self, bound: float, boxes: tuple[BoxType, ...], start: int) -> None:
        rest = boxes[:-1]
        lower = bound - self.relaxation.adds[boxes[-1]]
        self._add_one(lower, rest, start + 1)

    def _fits(self, boxes: Sequence[BoxType], price: int) -> bool:
        problem = self.problem
        if self.price_ceiling is not None and price > self.price_ceiling:
            return False
        if self.weight == "price" and self.best and price > self.best_cost[0]:
            return False
        return (
            sum(box.model.sockets for box in boxes) <= problem.sockets
            and sum(box.model.units for box in boxes) <= problem.units
            and sum(box.mass_g for box in boxes) <= problem.load_g
            and (problem.ups_outlets is None or len(boxes) <= problem.ups_outlets)
        )

    def _bound_sharply(self, bound: float, boxes: tuple[BoxType, ...], price: int) -> None:
        extra = self.bounds.least_extra(boxes)
        if extra is None or (self.price_ceiling is not None and price + extra > self.price_ceiling):
            return
        if self.weight == "price":
            sharp = price + extra
        else:
            sharp = max(int(bound - TOLERANCE), sum(box.own_mains_mw for box in boxes))
        cheaper = self.best is None or (sharp, len(boxes)) <= self.best_cost[:2] or self.weight == "power"
        if cheaper and self._may_improve(sharp):
            self._push(float(sharp), boxes, 0, ready=True)

    def _pack(self, boxes: tuple[BoxType, ...], bound: int) -> None:
        seating = quick_seating(self.problem, boxes)
        settled = seating is not None and cost_of(seating, self.weight)[0] == bound
        if seating is not None and self.weight == "price" and settled and not seating.injectors:
            self._keep(seating)
            return
        if seating is not None and self.first_will_do and self._is_affordable(seating):
            self._keep(seating)
            return
        packed = pack(self.problem, boxes, self.weight, self._ceiling(boxes))
        if not packed.proven:
            self.unproven.append(bound)
        best = packed.seating or (None if packed.proven else seating)
        if best is not None:
            self._keep(best)

    def _ceiling(self, boxes: Sequence[BoxType]) -> int | None:
        price = sum(box.price_minor for box in boxes)
        if self.weight == "power":
            if self.best is None:
                return None
            return self.best_cost[0] - sum(box.own_mains_mw for box in boxes)
        ceilings = [self.best_cost[0] - price] if self.best else []
        if self.price_ceiling is not None:
            ceilings.append(self.price_ceiling - price)
        return min(ceilings, default=None)

    def _is_affordable(self, seating: Seating) -> bool:
        return self.price_ceiling is None or seating.price_minor <= self.price_ceiling

    def _keep(self, seating: Seating) -> None:
        cost = cost_of(seating, self.weight)
        if self._is_affordable(seating) and (self.best is None or cost < self.best_cost):
            self.best, self.best_cost = seating, cost
