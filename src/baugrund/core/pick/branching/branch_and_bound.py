"""Branch and bound over configurations: how many of each box a closet has.

A node holds all configurations within ranges, of so many boxes.  Its bound is a linear relaxation over these ranges.
What comes next is taken from a heap by its bound, and goes back on it with a sharper one: a node as the configurations
that cost little more than that, around every centre that they have, or, where they are too many, as parts of it; a
configuration bounded by its sums, then link by link, then with its assignment relaxed, then assigned.  When the least
bound in the heap passes the incumbent, that is proven [1]_.

References
----------
.. [1] Land, Doig: An automatic method of solving discrete programming problems (1960).
"""

from __future__ import annotations

import heapq
import math
import time
from collections.abc import Iterable, Sequence
from dataclasses import replace
from itertools import count as counting

import numpy as np
from numpy.typing import NDArray

from ...watch import Progress, tell
from ..assignment.exact import Assigned, Assignment, assign
from ..bounds.linear import Floats
from ..bounds.link_class import least_mains
from ..bounds.relaxation import Relaxation
from ..enumeration.enumeration import first_of_equals
from ..enumeration.nodes import PART, CentreGroup, Node, Task
from ..enumeration.stages import Stages
from ..heuristics.diving import Diving
from ..heuristics.kernel_search import kernel
from ..heuristics.warm_start import warm_start
from ..model.arrays import Counts
from ..model.outcomes import Cost, Found, Searched, cost_of
from ..model.problem import Weight
from ..model.seating import Seating
from ..model.supply import BoxType
from .candidates import Batch, Candidate

TOLERANCE = 1e-3

WORK_FIRST = 6_000_000_000
"""Items of the heap, times the fourth power of the boxes, that are looked at before the diving heuristic begins."""

SEARCH_SHARE = 0.9
"""Share of the time that there is in which a proof is looked for; what is left makes the best pick cheaper."""

AT_ONCE = 64
NEAR = 1.01
"""Configurations whose links are looked at together, and how much dearer than the first they may be for that."""

Item = CentreGroup | Node | Batch | Candidate


class Branching:
    """The state of one branch-and-bound search."""

    def __init__(self, task: Task) -> None:
        self.task = task
        self.space = space = task.space
        self.problem = space.problem
        self.weight: Weight = space.weight
        self.unit = self.problem.unit_minor if self.weight == "price" else 1
        self.first_will_do = task.first_will_do
        self.best: Seating | None = None
        """The incumbent."""
        self.best_cost: Cost = ()
        self.is_rough = False
        """Whether the incumbent comes from a heuristic: which of equally good seatings it is may be chance."""
        self.ticket = counting()
        self.heap: list[tuple[float, int, float, Item]] = []
        """What comes first, order of arrival, bound, and centres and configurations to complete, or a configuration
        to assign."""
        self.stages = Stages(space, self.unit)
        self.seen: set[tuple[int | None, ...]] = set()
        """Keys of the candidates whose assignment was relaxed."""
        self.unproven: list[int] = []
        self.seconds = task.seconds
        self.cut_at = time.monotonic() + SEARCH_SHARE * task.seconds
        """When it is given up to prove the best."""

    def run(self) -> Searched:
        """Begin from the boxes of before; unless that will do, go through all others."""
        for seating in warm_start(self.space):
            self._keep(seating)
        few = None if self._is_done() else kernel(self.task, self._least())
        found = Branching(few).run().found if few else None
        if found:
            self.is_rough |= self._keep(found.seating)
        if not self._is_done():
            self._go_through()
            self._settle()
        if self.best is None:
            return Searched(None, not self.unproven, min(self.unproven, default=0))
        bound = min([self._settled(), *self.unproven])
        proven = not (self.unproven or self.task.gap)
        return Searched(Found(self.best, proven, bound), proven, bound)

    def _settle(self) -> None:
        """Seat the best anew where its seating came from a heuristic: which of equally good ones that is may be
        chance."""
        if self.best and self.is_rough and not self.unproven and not self.first_will_do:
            settled = assign(self.problem, self.best.boxes, self.weight, self.best_cost[0]).seating
            self.best = settled or self.best
            self.best_cost = cost_of(self.best, self.weight)

    def _go_through(self) -> None:
        """Process the heap; dive for a first incumbent where that takes long, or where any pick will do."""
        groups = self.space.centre_groups
        centres = [centre for some in groups for centre in some.centres]
        if self.problem.chain_allowed:
            for relaxation in self.space.whole_relaxations():
                self._plant(relaxation)
        else:
            for some in groups:
                self._push(some.least, some)
        diving = Diving(self.space, centres, self.seconds, self._least)
        may_dive = not self.task.roughly and not (self.space.is_large and self._least() is not None)
        may_dive_early = self._least() is None
        looked_at, first_dive = 0, 0 if self.first_will_do else WORK_FIRST // len(self.problem.boxes) ** 4
        while self.heap and not self._is_done():
            _, _, bound, item = heapq.heappop(self.heap)
            if not self._may_improve(bound):
                continue
            tell(self._progress(int(bound)))
            if may_dive and looked_at >= first_dive:
                self._dive(diving.for_a_share(may_dive_early))
                if self._is_done():
                    break
            if time.monotonic() > self.cut_at:
                self.unproven.append(int(min([bound, *(least for _, _, least, _ in self.heap)])))
                break
            self._look(bound, item)
            looked_at += 1
        if self.unproven and not self.task.roughly:
            self._dive(diving.to_the_end())

    def _dive(self, seatings: Iterable[Seating | None]) -> None:
        """Dive for incumbents."""
        for seating in seatings:
            self.is_rough |= seating is not None and self._keep(seating)
            tell(self._progress(0))
            if self.first_will_do and self.best:
                break

    def _progress(self, bound: int) -> Progress:
        best = self.best_cost[0] if self.best else None
        return Progress(self.problem.closet_id, self.weight, best, 0 if self.task.roughly else bound)

    def _is_done(self) -> bool:
        return self.best is not None and self.first_will_do

    def _look(self, bound: float, item: Item) -> None:
        match item:
            case Candidate(assignment=Assignment() as assignment):
                self._assign(item.boxes, assignment, int(bound))
            case Candidate():
                self._relax(bound, item)
            case Batch():
                self._complete(item)
            case CentreGroup():
                self._plant(self.space.relaxation(item.group, *item.boxes))
            case Node(bound=None):
                self._bound(bound, item)
            case Node():
                self._split(bound, item)

    def _plant(self, relaxation: Relaxation) -> None:
        """Push the root nodes: one for every way to meet the pins and every number of boxes."""
        for node in self.space.starts(relaxation, {}):
            own = relaxation.bound(node.least, node.most)
            if own is not None and self._may_improve(own.least):
                for part in node.by_number(own.takes[len(relaxation.boxes)]):
                    self._push(self._whole_units(own.least), part)

    def _bound(self, bound: float, node: Node) -> None:
        """Bound a node and push it again, unless it is infeasible."""
        own = node.relaxation.bound(node.least, node.most)
        if own is not None:
            least, bounded = max(bound, self._whole_units(own.least)), replace(node, bound=own)
            self._push(least, bounded)
            if node.outward:
                self._push(least, bounded.outwards())

    def _whole_units(self, bound: float) -> float:
        """A bound rounded up to the next possible price: all prices are multiples of one unit."""
        return float(math.ceil((bound - TOLERANCE) / self.unit) * self.unit) if self.weight == "price" else bound

    def _split(self, bound: float, node: Node) -> None:
        """The configurations of a node, if they are few; else the one that its bound takes, if it takes whole boxes,
        and nodes with all others."""
        if self._list(bound, node):
            return
        assert node.bound is not None
        counts = np.rint(node.bound.takes)
        if np.abs(node.bound.takes - counts).max() < PART:
            self._push_batches(
                node.relaxation, counts[None, : len(node.relaxation.boxes)].astype(np.int16), np.array([bound])
            )
        for part in node.split():
            self._push(bound, part)

    def _list(self, bound: float, node: Node) -> bool:
        """The configurations of a node that cost little more than its bound, as far as sums tell; the node comes
        back for others. Whether they are few enough to be looked at."""
        relaxation, construction = node.relaxation, self.space.construction(node.relaxation)
        found = self.stages.next_configurations(bound, node, self._cutoff())
        if found is None:
            return False
        listing, listed, later = found
        fresh = listed.only(node.has(listed.counts))
        if len(fresh.bounds):
            prices = construction.priced(fresh, listing.must_be_in, node.number)
            bounds = np.maximum(fresh.bounds, bound)
            kept = self._within_cutoff(prices, bounds)
            least = (np.maximum(bounds, prices) if self.weight == "price" else bounds)[kept]
            self._push_batches(relaxation, fresh.counts[kept], least, fresh.starts[kept])
        if math.isfinite(listed.others):
            self._push(self._whole_units(max(bound, listed.others)), later)
        return True

    def _push_batches(
        self, relaxation: Relaxation, counts: Counts, bounds: Floats, starts: NDArray[np.intp] | None = None
    ) -> None:
        """Configurations of equally many boxes around every centre that they may have (with ``starts``: around that
        of their start), each once, with what they cost at least."""
        for centre, mine in self.space.construction(relaxation).by_centre(counts, starts):
            first = first_of_equals(counts[mine], bounds[mine])
            if len(first):
                some, least = counts[mine][first], bounds[mine][first]
                self._push(float(least[0]), Batch(relaxation, centre.centre if centre else None, some, least))

    def _within_cutoff(self, prices: NDArray[np.int64], bounds: Floats) -> NDArray[np.intp]:
        """Which configurations are feasible by their bounds and may be as good as the incumbent."""
        cutoff = self._cutoff()
        sharper = np.maximum(bounds, prices) if self.weight == "price" else bounds
        return np.flatnonzero((prices >= 0) & (True if cutoff is None else sharper <= cutoff + TOLERANCE))

    def _cutoff(self) -> int | None:
        """The cutoff: the most that a pick may cost to be of use; None: there is no incumbent yet."""
        least, ceiling = self._least(), self.space.price_ceiling
        if least is None:
            return ceiling
        good_enough = math.floor(least * (1 - self.task.gap))
        return good_enough if ceiling is None else min(good_enough, ceiling)

    def _settled(self) -> int:
        """The proven lower bound once the heap is empty."""
        best, gap = self.best_cost[0], self.task.gap
        return min(best, round(self._whole_units(math.floor(best * (1 - gap)) + 1))) if gap else best

    def _least(self) -> int | None:
        """The cost of the incumbent."""
        return self.best_cost[0] if self.best else None

    def _complete(self, batch: Batch) -> None:
        """The next configurations of a batch, bounded by their links."""
        count = min(AT_ONCE, int(np.searchsorted(batch.bounds, batch.bounds[0] * NEAR, side="right")))
        counts, bounds = batch.counts[:count], batch.bounds[:count]
        relaxation, prices = batch.relaxation, np.zeros(count, dtype=np.int64)
        if batch.centre:
            prices = relaxation.link_bounds(batch.centre).priced(counts)
        for place in self._within_cutoff(prices, bounds).tolist():
            boxes = self.space.whole(relaxation, counts[place])
            if boxes is None:
                continue
            centre = None if batch.centre is None else boxes.index(batch.centre)
            price = int(prices[place]) if self.weight == "price" else least_mains(self.problem, boxes)
            sharper = max(float(bounds[place]), price)
            if not self._loses_tie(sharper, boxes):
                self._push(self._whole_units(sharper), Candidate(boxes, centre))
        if len(batch.counts) > count:
            left = replace(batch, counts=batch.counts[count:], bounds=batch.bounds[count:])
            self._push(float(left.bounds[0]), left)

    def _relax(self, bound: float, one: Candidate) -> None:
        """Push a candidate with the bound of its relaxed assignment, unless it is infeasible or known."""
        if self._loses_tie(bound, one.boxes) or one.key in self.seen:
            return
        self.seen.add(one.key)
        assignment = Assignment(self.problem, one.boxes, one.centre, self.weight)
        if assignment.least is not None:
            self._push(self._whole_units(max(bound, assignment.least)), replace(one, assignment=assignment))

    def _loses_tie(self, bound: float, boxes: Sequence[BoxType]) -> bool:
        """Whether a configuration that can at best cost as much as the best pick has more boxes than that."""
        if self.best is None or self.weight != "price":
            return False
        return bound > self.best_cost[0] - TOLERANCE and len(boxes) > self.best_cost[1]

    def _push(self, bound: float, item: Item) -> None:
        if self._may_improve(bound):
            first = self._depth(item) if self.first_will_do else bound
            heapq.heappush(self.heap, (first, next(self.ticket), bound, item))

    @staticmethod
    def _depth(item: Item) -> float:
        """The order where any pick will do: complete configurations first, then those with most boxes."""
        match item:
            case Candidate():
                return -1000.0
            case Node():
                return -float(item.depth)
        return 0.0

    def _may_improve(self, bound: float) -> bool:
        cutoff = self._cutoff()
        return cutoff is None or bound <= cutoff + TOLERANCE

    def _assign(self, boxes: tuple[BoxType, ...], assignment: Assignment, bound: int) -> None:
        """Solve the assignment of drops to these boxes."""
        if self._loses_tie(bound, boxes):
            return
        found = Assigned(assignment.quick(), True) if self.task.roughly else assignment.solve(self._cutoff())
        if not found.proven:
            self.unproven.append(bound)
        if found.seating:
            self._keep(found.seating)

    def _keep(self, seating: Seating) -> bool:
        """Keep a seating as the incumbent if it is better; whether it was."""
        cost = cost_of(seating, self.weight)
        ceiling = self.space.price_ceiling
        affordable = ceiling is None or seating.price_minor <= ceiling
        if not affordable or (self.best is not None and cost >= self.best_cost):
            return False
        self.best, self.best_cost, self.is_rough = seating, cost, False
        return True
