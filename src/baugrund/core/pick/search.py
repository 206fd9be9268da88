"""The least pick, proven: branch and bound over sets of boxes.

A node is a set of boxes; its bound is a linear relaxation in which they are in and only boxes that come later in the
order may join.  Nodes are taken from a heap by their bound.  Each is first tried as it stands: bounded link by link,
put back if that is dearer, and packed when nothing cheaper is left before it; then one box more, each in turn.  When
the least bound in the heap passes the best pick found, that pick is proven.
"""

from __future__ import annotations

import heapq
import time
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import count as counting

from .bounds import least_mains, link_classes
from .dives import first_picks
from .dominance import undominated
from .greedy import quick_seating
from .hints import seating_as_hinted
from .hubs import least_star_price
from .packing import pack
from .problem import Problem
from .relaxation import Bound, Relaxation, Weight
from .seating import Seating
from .sets import Node, Sets, Star, pinned
from .supply import BoxType
from .watch import Progress, tell

TOLERANCE = 1e-3

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
    used: Counter[int] = Counter()
    for kind, count in seating.taken.items():
        used[kind.index] += count
    order = tuple(-used[index] for index in range(max(used) + 1))
    shared = (seating.price_minor, len(seating.boxes), seating.own_mains_mw)
    return (seating.mains_mw, *shared, *order) if weight == "power" else (*shared, *order)


@dataclass(frozen=True, eq=False)
class Searched:
    """What a search found, or None; ``certain``: that there is nothing better, or nothing at all, is proven.
    ``bound``: what no pick can be under in the first aim."""

    found: Found | None
    certain: bool
    bound: int = 0


def search(
    problem: Problem,
    weight: Weight,
    *,
    box_count: int | None = None,
    price_ceiling: int | None = None,
    first_will_do: bool = False,
    seconds: float | None = None,
) -> Searched:
    """The least feasible pick under a weight, if there is one.

    ``box_count`` asks for exactly so many boxes; ``price_ceiling`` [minor] for no dearer ones; ``first_will_do`` stops
    at the first feasible pick (to see whether there is any); ``seconds`` is the time that it may take.
    """
    cases = pinned(problem)
    if not cases:
        return Searched(None, True)
    kept = undominated(problem.switches)
    listed = {*kept, *(box for _, base in cases for box in base)}
    switches = sorted(listed, key=lambda box: (-box.price_minor, box.index, box.most is None))
    pinned_roots = [root for root in problem.roots if root.model.key in problem.pins]
    roots = dict.fromkeys([*undominated(problem.roots), *undominated(pinned_roots)])
    problem = replace(problem, roots=tuple(roots), switches=tuple(switches))
    limit = TIME_LIMIT_S if seconds is None else seconds
    sets = Sets(problem, weight, cases, box_count, price_ceiling)
    return _Search(sets, set(kept), first_will_do, limit).run()


@dataclass(frozen=True, eq=False)
class _Whole:
    """A set of boxes whose links were looked at, to be packed."""

    boxes: tuple[BoxType, ...]


class _Search:
    def __init__(self, sets: Sets, free: set[BoxType], first_will_do: bool, seconds: float) -> None:
        self.sets = sets
        self.problem = sets.problem
        self.weight: Weight = sets.weight
        self.free = free
        """Switches that may be added; others are in by a pin only."""
        self.first_will_do = first_will_do
        self.best: Seating | None = None
        self.best_cost: Cost = ()
        self.ticket = counting()
        self.heap: list[tuple[float, int, float, Star | Node | _Whole]] = []
        """What comes first, order of arrival, bound, and hubs and sets to complete, or a set to pack."""
        self.packed: set[tuple[int, ...]] = set()
        """Sets that were packed, whatever hub they were bounded with."""
        self.unproven: list[int] = []
        self.ends_at = time.monotonic() + seconds

    def run(self) -> Searched:
        """Dive for a first pick, then go through the heap."""
        stars: list[Star] = []
        for group in link_classes(self.problem):
            stars += self.sets.stars(group)
            if self.problem.chain_allowed:
                self._plant(self.sets.relaxation(group, None))
        before = seating_as_hinted(self.sets)
        if before:
            self._keep(before)
        for seating in [] if self.best else first_picks(self.sets, stars, self._may_improve, self.ends_at):
            self._keep(seating)
            tell(self._progress(0))
            if self._is_done():
                break
        for star in [] if self.problem.chain_allowed else stars:
            self._push(star.least, star)
        while self.heap and not self._is_done():
            _, _, bound, item = heapq.heappop(self.heap)
            if not self._may_improve(bound):
                continue
            tell(self._progress(int(bound)))
            if time.monotonic() > self.ends_at:
                self.unproven.append(int(min([bound, *(waiting for _, _, waiting, _ in self.heap)])))
                break
            self._look(bound, item)
        if self.best is None:
            return Searched(None, not self.unproven, min(self.unproven, default=0))
        bound_reached = min([self.best_cost[0], *self.unproven])
        return Searched(Found(self.best, not self.unproven, bound_reached), not self.unproven, bound_reached)

    def _progress(self, bound: int) -> Progress:
        best = self.best_cost[0] if self.best else None
        return Progress(self.problem.closet_id, self.weight, best, bound)

    def _is_done(self) -> bool:
        return self.best is not None and self.first_will_do

    def _look(self, bound: float, item: Star | Node | _Whole) -> None:
        match item:
            case _Whole():
                self._pack(item.boxes, int(bound))
            case Star(is_sharp=False):
                sharper = self.sets.sharpened(item)
                if sharper:
                    self._push(sharper.least, sharper)
            case Star():
                self._plant(self.sets.relaxation(item.group, item.hub))
            case Node(bound=None):
                self._bound(bound, item)
            case Node(bound=own) if own is not None:
                self._complete(bound, item)
                self._grow(bound, item, own)

    def _plant(self, relaxation: Relaxation) -> None:
        """Nodes on the heap for every way to meet the pins."""
        for node in self.sets.starts(relaxation, {}):
            self._bound(0.0, node)

    def _bound(self, bound: float, node: Node) -> None:
        """A node with its own bound goes back on the heap, unless it cannot be."""
        own = node.relaxation.bound(node.base, node.start)
        if own is not None:
            self._push(max(bound, own.least), replace(node, bound=own))

    def _grow(self, bound: float, node: Node, own: Bound) -> None:
        """All sets with one box more; the root comes first."""
        if sum(node.base) >= self.sets.boxes_most:
            return
        relaxation, boxes = node.relaxation, node.relaxation.boxes
        for place in range(node.start, len(boxes)) if node.has_root else range(relaxation.first_switch):
            allowed = self.free if node.has_root else self.sets.cases[0][0]
            least = max(bound, own.least + own.adds[place])
            if boxes[place] not in allowed or not self._may_improve(least):
                continue
            further = self.sets.more(node, place, place if node.has_root else relaxation.first_switch)
            if further:
                self._push(max(least, relaxation.quick_bound(further.base, further.start)), further)

    def _complete(self, bound: float, node: Node) -> None:
        """A set as it stands, bounded by its links: packed when its turn comes."""
        if not self.sets.is_whole(node):
            return
        boxes, hub, ceiling = node.boxes, node.hub, self.sets.price_ceiling
        price = 0 if hub is None else least_star_price(node.relaxation.group, boxes, hub)
        if price is None or (ceiling is not None and price > ceiling):
            return
        sharper = max(bound, price if self.weight == "price" else least_mains(self.problem, boxes))
        if self._may_improve(sharper) and not self._loses_tie(sharper, boxes):
            self._push(float(sharper), _Whole(boxes))

    def _loses_tie(self, bound: float, boxes: Sequence[BoxType]) -> bool:
        """Whether a set that can at best cost as much as the best pick has more boxes than that."""
        if self.best is None or self.weight != "price":
            return False
        return bound > self.best_cost[0] - TOLERANCE and len(boxes) > self.best_cost[1]

    def _push(self, bound: float, item: Star | Node | _Whole) -> None:
        if self._may_improve(bound):
            first = self._depth(item) if self.first_will_do else bound
            heapq.heappush(self.heap, (first, next(self.ticket), bound, item))

    @staticmethod
    def _depth(item: Star | Node | _Whole) -> float:
        """Where any pick will do: sets that can be packed first, then those with most boxes."""
        match item:
            case _Whole():
                return -1000.0
            case Node():
                return -float(sum(item.base))
        return 0.0

    def _may_improve(self, bound: float) -> bool:
        if (
            self.sets.price_ceiling is not None
            and self.weight == "price"
            and bound > self.sets.price_ceiling + TOLERANCE
        ):
            return False
        return self.best is None or bound <= self.best_cost[0] + TOLERANCE

    def _pack(self, boxes: tuple[BoxType, ...], bound: int) -> None:
        """Seat the drops in these boxes: quickly when that meets the bound, else as well as can be."""
        key = tuple(sorted(id(box) for box in boxes))
        if key in self.packed or self._loses_tie(bound, boxes):
            return
        self.packed.add(key)
        quick = quick_seating(self.problem, boxes)
        if quick:
            self._keep(quick)
            settled = cost_of(quick, self.weight)[0] == bound and (self.weight == "price" or not quick.extra_minor)
            if (settled and not quick.injectors) or (self.first_will_do and self.best):
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
        limits = [] if self.sets.price_ceiling is None else [self.sets.price_ceiling]
        limits += [self.best_cost[0]] if self.best else []
        return min(limits) - sum(box.cost_minor for box in boxes) if limits else None

    def _keep(self, seating: Seating) -> None:
        cost = cost_of(seating, self.weight)
        affordable = self.sets.price_ceiling is None or seating.price_minor <= self.sets.price_ceiling
        if affordable and (self.best is None or cost < self.best_cost):
            self.best, self.best_cost = seating, cost
