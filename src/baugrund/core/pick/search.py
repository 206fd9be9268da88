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
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from itertools import count as counting

import numpy as np

from .bounds import LinkClass, least_mains, link_classes
from .dominance import undominated
from .greedy import quick_seating
from .hubs import least_star_price
from .packing import pack
from .problem import Problem, with_headroom
from .relaxation import Bound, Relaxation, Weight
from .seating import Seating
from .supply import BoxType

TOLERANCE = 1e-3

TIME_LIMIT_S = 20.0
"""A search not settled by then returns its best with the bound that it reached, and says so."""

DIVE_MOST = 24
"""Boxes that a first dive adds at most before it gives up."""

HUBS_TRIED = 5
"""Hubs that dives are made around before the search begins."""
HUBS_LOOKED_AT = 40
"""Hubs that are looked at to find so many that can be one at all."""

ROOM_TRIED = (Fraction(0), Fraction(1, 10), Fraction(1, 4))
"""Room in every limit that dives ask for in turn, until one finds a pick."""

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
    cases = _pinned(problem)
    if not cases:
        return Searched(None, True)
    pinned = [box for _, base in cases for box in base]
    kept = undominated(problem.switches)
    listed = sorted({*kept, *pinned}, key=lambda box: (-box.price_minor, box.index, box.most is None))
    pinned_roots = [root for root in problem.roots if root.model.key in problem.pins]
    roots = dict.fromkeys([*undominated(problem.roots), *undominated(pinned_roots)])
    problem = replace(problem, roots=tuple(roots), switches=tuple(listed))
    limit = TIME_LIMIT_S if seconds is None else seconds
    return _Search(problem, weight, set(kept), box_count, price_ceiling, first_will_do, limit).run(cases)


Case = tuple[tuple[BoxType, ...], tuple[BoxType, ...]]
"""Roots that may be, and switches that must be beside them: one way to meet all pins."""


def _pinned(problem: Problem) -> list[Case]:
    """Every way to meet the pins, owned copies first; none when a pin cannot be met."""
    by_root: dict[str, list[BoxType]] = {}
    for root in problem.roots:
        by_root.setdefault(root.model.key, []).append(root)
    hanging = {box.model.key for box in problem.switches}
    routers = {key for key in problem.pins if key in by_root and key not in hanging}
    if len(routers) > 1 or any(problem.pins[key] > 1 for key in routers):
        return []
    cases: list[Case] = []
    loose = tuple(r for r in problem.roots if r.model.key not in problem.pins)
    at_root: list[str | None] = [None, *(key for key in problem.pins if key in by_root)]
    for key in routers or at_root:
        pins = dict(problem.pins)
        if key is not None:
            pins[key] -= 1
        base = _copies(problem, pins, by_root[key][0] if key else None)
        allowed = loose if key is None else tuple(by_root[key])
        if base is not None and allowed:
            cases.append((allowed, base))
    return cases


def _copies(problem: Problem, pins: dict[str, int], root: BoxType | None) -> tuple[BoxType, ...] | None:
    copies: list[BoxType] = []
    for key, wanted in pins.items():
        left = wanted
        for box in problem.switches:
            if box.model.key == key and left:
                taken = int(root is not None and root.stock == box.stock)
                some = left if box.most is None else min(left, max(0, box.most - taken))
                copies += [box] * some
                left -= some
        if left:
            return None
    return tuple(copies)


@dataclass(frozen=True, eq=False)
class _Star:
    """All stars around one hub, of which only a bound is known that looks away from it."""

    group: LinkClass
    hub: BoxType


@dataclass(frozen=True, eq=False)
class _Node:
    """So many of each box of a relaxation; more may come from the place ``start`` on.  Its own bound is found when its
    turn comes."""

    relaxation: Relaxation
    base: tuple[int, ...]
    start: int
    bound: Bound | None = None

    @property
    def has_root(self) -> bool:
        return any(self.base[: self.relaxation.first_switch])

    @property
    def boxes(self) -> tuple[BoxType, ...]:
        return tuple(box for box, count in zip(self.relaxation.boxes, self.base, strict=True) for _ in range(count))

    @property
    def hub(self) -> int | None:
        """The place of the hub among the boxes; None: any of them may be it."""
        return None if self.relaxation.hub is None else self.boxes.index(self.relaxation.hub)


@dataclass(frozen=True, eq=False)
class _Whole:
    """A set of boxes whose links were looked at, to be packed."""

    boxes: tuple[BoxType, ...]


class _Search:
    def __init__(
        self,
        problem: Problem,
        weight: Weight,
        free: set[BoxType],
        box_count: int | None,
        price_ceiling: int | None,
        first_will_do: bool,
        seconds: float,
    ) -> None:
        self.problem = problem
        self.weight: Weight = weight
        self.free = free
        self.box_count = box_count
        self.boxes_most = problem.boxes_most() if box_count is None else min(box_count, problem.boxes_most())
        self.price_ceiling = price_ceiling
        self.first_will_do = first_will_do
        self.best: Seating | None = None
        self.best_cost: Cost = ()
        self.ticket = counting()
        self.heap: list[tuple[float, int, _Star | _Node | _Whole]] = []
        """Bound, order of arrival, and a set to complete or to pack."""
        self.packed: set[tuple[tuple[tuple[int, bool], int], ...]] = set()
        """Sets that were packed, whatever hub they were bounded with."""
        self.unproven: list[int] = []
        self.ends_at = time.monotonic() + seconds
        self.cases: Sequence[Case] = ()

    def run(self, cases: Sequence[Case]) -> Searched:
        """Dive for a first pick, then go through the heap."""
        self.cases = cases
        for group in link_classes(self.problem):
            loose = self._relaxation(group, None)
            if self.problem.chain_allowed:
                self._plant(loose)
                continue
            for place, hub in enumerate(loose.boxes):
                base = [int(n == place) for n in range(len(loose.boxes))]
                around = loose.bound(base, loose.first_switch)
                if around:
                    self._push(around.least, _Star(group, hub))
        self._dives()
        while self.heap and self._may_improve(self.heap[0][0]) and not (self.best and self.first_will_do):
            bound, _, item = heapq.heappop(self.heap)
            if time.monotonic() > self.ends_at:
                self.unproven.append(int(bound))
                break
            if isinstance(item, _Whole):
                self._pack(item, int(bound))
            elif isinstance(item, _Star):
                self._plant(self._relaxation(item.group, item.hub))
            elif item.bound is None:
                self._bound(bound, item)
            else:
                self._complete(bound, item)
                self._grow(bound, item, item.bound)
        if self.best is None:
            return Searched(None, not self.unproven, min(self.unproven, default=0))
        bound = min([self.best_cost[0], *self.unproven])
        return Searched(Found(self.best, not self.unproven, bound), not self.unproven, bound)

    def _relaxation(self, group: LinkClass, hub: BoxType | None) -> Relaxation:
        return Relaxation(group, self.weight, hub, self.box_count, self.price_ceiling)

    def _plant(self, relaxation: Relaxation) -> None:
        """Nodes on the heap for every way to meet the pins."""
        for node in self._starts(relaxation, {}):
            self._bound(0.0, node)

    def _starts(self, relaxation: Relaxation, true: Mapping[BoxType, BoxType]) -> Iterator[_Node]:
        """A node for every way to meet the pins; the root is still open, unless it is the hub or is pinned.  ``true``:
        the boxes of the search by those of the relaxation, where they are others."""
        first = relaxation.first_switch
        boxes = [true.get(box, box) for box in relaxation.boxes]
        for roots, pinned in self.cases:
            base = list(relaxation.base)  # the hub, if it is a switch
            for box, count in Counter(pinned).items():
                base[boxes.index(box)] = max(base[boxes.index(box)], count)
            places = [place for place in range(first) if boxes[place] in roots]
            for place in places if len(self.cases) > 1 or first == 1 else [-1]:
                rooted = tuple(count + (n == place) for n, count in enumerate(base))
                if self._is_housed(boxes, rooted):
                    yield _Node(relaxation, rooted, first)

    def _bound(self, bound: float, node: _Node) -> None:
        """A node with its own bound goes back on the heap, unless it cannot be."""
        own = node.relaxation.bound(node.base, node.start)
        if own is not None:
            self._push(max(bound, own.least), replace(node, bound=own))

    def _dives(self) -> None:
        """Dives around the hubs that promise most; while they find nothing, with ever more room asked for.  The first
        picks set the mark that all others are measured by."""
        for room in ROOM_TRIED:
            roomy = with_headroom(self.problem, room) if room else self.problem
            true = dict(zip(roomy.boxes, self.problem.boxes, strict=False))
            if len(roomy.boxes) < len(self.problem.boxes):
                return
            stars: list[tuple[float, int, LinkClass, BoxType]] = []
            for group in link_classes(roomy):
                loose = Relaxation(group, self.weight, None, self.box_count, self.price_ceiling)
                for place, hub in enumerate(loose.boxes):
                    around = loose.bound([int(n == place) for n in range(len(loose.boxes))], loose.first_switch)
                    stars += [(around.least, len(stars), group, hub)] if around else []
            tried = 0
            for _, _, group, hub in heapq.nsmallest(HUBS_LOOKED_AT, stars):
                relaxation = Relaxation(group, self.weight, hub, self.box_count, self.price_ceiling)
                dives = [self._dive(node, true) for node in self._starts(relaxation, true)]
                tried += any(dives)
                if tried == HUBS_TRIED or time.monotonic() > self.ends_at or (self.best and self.first_will_do):
                    break
            if self.best or time.monotonic() > self.ends_at:
                return

    def _dive(self, node: _Node, true: Mapping[BoxType, BoxType]) -> bool:
        """Follow the relaxation, box by box, to a first pick; whether there was anything to follow."""
        first = node.relaxation.first_switch
        if not node.relaxation.bound(node.base, first):
            return False
        for _ in range(DIVE_MOST):
            boxes = [true[box] for box in node.boxes]
            quick = quick_seating(self.problem, boxes, node.hub) if self._is_set(node) else None
            if quick:
                self._keep(quick)
                break
            if not node.relaxation.bound(node.base, first):
                break
            over = node.relaxation.takes() - np.array(node.base)
            if node.has_root:
                over[:first] = 0.0
            else:
                over[first:] = 0.0
            place = int(np.argmax(over))
            further = self._with(node, place, first) if over[place] > TOLERANCE else None
            if further is None:
                break
            node = further
        return True

    def _is_set(self, node: _Node) -> bool:
        """Whether a node is a whole set as it stands, of as many boxes as are asked for."""
        return node.has_root and (self.box_count is None or sum(node.base) == self.box_count)

    def _with(self, node: _Node, place: int, first: int | None = None) -> _Node | None:
        """A node with one box more, or None: there is none, or it cannot be better."""
        base = list(node.base)
        base[place] += 1
        boxes = node.relaxation.boxes
        box = boxes[place]
        if sum(base) > self.boxes_most or not self._is_there(boxes, base, box) or not self._is_housed(boxes, base):
            return None
        if self.weight == "price" and not self._may_improve(
            sum(box.cost_minor * count for box, count in zip(boxes, base, strict=True) if count)
        ):
            return None
        return _Node(node.relaxation, tuple(base), place if first is None else first)

    def _is_housed(self, boxes: Sequence[BoxType], base: Sequence[int]) -> bool:
        """Whether height, load and sockets of the closet suffice for the boxes alone."""
        inside = [(box, count) for box, count in zip(boxes, base, strict=True) if count]
        return (
            sum(box.model.units * count for box, count in inside) <= self.problem.units
            and sum(box.mass_g * count for box, count in inside) <= self.problem.load_g
            and sum(box.model.sockets * count for box, count in inside) <= self.problem.sockets
        )

    def _is_there(self, boxes: Sequence[BoxType], base: Sequence[int], box: BoxType) -> bool:
        """Whether so many copies of a box are to be had; a root may be one of them."""
        if box.most is None:
            return True
        return sum(count for other, count in zip(boxes, base, strict=True) if other.stock == box.stock) <= box.most

    def _grow(self, bound: float, node: _Node, own: Bound) -> None:
        """All sets with one box more; the root comes first."""
        if sum(node.base) >= self.boxes_most:
            return
        first, boxes = node.relaxation.first_switch, node.relaxation.boxes
        for place in range(node.start, len(boxes)) if node.has_root else range(first):
            allowed = self.free if node.has_root else self.cases[0][0]
            least = max(bound, own.least + own.adds[place])
            if boxes[place] not in allowed or not self._may_improve(least):
                continue
            further = self._with(node, place, None if node.has_root else first)
            if further:
                self._push(max(least, further.relaxation.quick_bound(further.base, further.start)), further)

    def _complete(self, bound: float, node: _Node) -> None:
        """A set as it stands, bounded by its links: packed at once, or when its turn comes."""
        if not self._is_set(node):
            return
        boxes, hub = node.boxes, node.hub
        price = 0 if hub is None else least_star_price(node.relaxation.group, boxes, hub)
        if price is None or (self.price_ceiling is not None and price > self.price_ceiling):
            return
        sharper = max(bound, price if self.weight == "price" else least_mains(self.problem, boxes))
        if self._may_improve(sharper) and not self._loses_tie(sharper, boxes):
            self._push(float(sharper), _Whole(boxes))

    def _loses_tie(self, bound: float, boxes: Sequence[BoxType]) -> bool:
        """Whether a set that can at best cost as much as the best pick has more boxes than that."""
        if self.best is None or self.weight != "price":
            return False
        return bound > self.best_cost[0] - TOLERANCE and len(boxes) > self.best_cost[1]

    def _push(self, bound: float, item: _Star | _Node | _Whole) -> None:
        if self._may_improve(bound):
            heapq.heappush(self.heap, (bound, next(self.ticket), item))

    def _may_improve(self, bound: float) -> bool:
        if self.price_ceiling is not None and self.weight == "price" and bound > self.price_ceiling + TOLERANCE:
            return False
        return self.best is None or bound <= self.best_cost[0] + TOLERANCE

    def _pack(self, whole: _Whole, bound: int) -> None:
        """Seat the drops in these boxes: quickly when that meets the bound, else as well as can be."""
        boxes = whole.boxes
        key = tuple(sorted((box.stock, id(box)) for box in boxes))
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
        limits = [] if self.price_ceiling is None else [self.price_ceiling]
        limits += [self.best_cost[0]] if self.best else []
        return min(limits) - sum(box.cost_minor for box in boxes) if limits else None

    def _keep(self, seating: Seating) -> None:
        cost = cost_of(seating, self.weight)
        affordable = self.price_ceiling is None or seating.price_minor <= self.price_ceiling
        if affordable and (self.best is None or cost < self.best_cost):
            self.best, self.best_cost = seating, cost
