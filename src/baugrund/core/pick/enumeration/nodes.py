"""Configurations of boxes as they grow: which may be, how they begin with what is pinned, and what is one box more."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from ..bounds.linear import Floats
from ..bounds.link_class import LinkClass, link_classes
from ..bounds.relaxation import Bound, Relaxation
from ..model.arrays import Counts
from ..model.problem import Problem, Weight
from ..model.supply import BoxType
from .covers import Construction

PART = 1e-6
"""What is further from a whole number is a part."""
MANY_BOXES, MANY_BOXES_S = 80, 1.0
"""Boxes to choose from, and time, from which on centres are bounded together that are but alike, and a first pick is
looked for among few boxes."""

Case = tuple[tuple[BoxType, ...], tuple[BoxType, ...]]
"""Roots that may be, and switches that must be beside them: one way to meet all pins."""


@dataclass(frozen=True, eq=False)
class Centre:
    """All stars around one centre, of which only a bound is known that looks away from where links end."""

    least: float
    group: LinkClass
    box: BoxType


@dataclass(frozen=True, eq=False)
class CentreGroup:
    """All stars around one of some centres of a link class, bounded in the same way."""

    centres: tuple[Centre, ...]

    @property
    def group(self) -> LinkClass:
        return self.centres[0].group

    @property
    def boxes(self) -> tuple[BoxType, ...]:
        return tuple(centre.box for centre in self.centres)

    @property
    def least(self) -> float:
        """The least bound of any of these stars."""
        return min(centre.least for centre in self.centres)


@dataclass(frozen=True, eq=False)
class Node:
    """All configurations of a relaxation's boxes that have at least and at most so many of each.  Its own bound is
    found when its turn comes."""

    relaxation: Relaxation
    least: Floats
    most: Floats
    depth: int = 0
    """How often it was split off."""
    bound: Bound | None = None
    outward: int = 0
    """Whether configurations with one box more, or one fewer (−1), come after it."""
    step: float = 0.0
    """How much dearer than the bound its configurations may be to be listed next; 0: none were."""
    hard: bool = False
    """Whether many were begun to list the last ones."""

    @property
    def number(self) -> int:
        """How many boxes its configurations have, at least."""
        return round(float(self.least[len(self.relaxation.boxes)]))

    def by_number(self, total: float) -> Iterator[Node]:
        """Its configurations of as many boxes as its bound takes, in whole, and of one more: from there others go
        outwards."""
        for number, step in ((np.floor(total + PART), -1), (np.floor(total + PART) + 1, 1)):
            yield replace(self._of(number), outward=step)

    def outwards(self) -> Node:
        """Configurations of the next number: it costs no less, for a bound is convex in the number of boxes."""
        assert self.bound is not None
        return replace(self._of(self.least[len(self.relaxation.boxes)] + self.outward), outward=self.outward)

    def _of(self, number: float) -> Node:
        return self._within(len(self.relaxation.boxes), number, number)

    def split(self) -> Iterator[Node]:
        """Nodes that hold all of its configurations but, where its bound takes whole boxes, that very set."""
        assert self.bound is not None
        takes, count = self.bound.takes, len(self.relaxation.boxes)
        part = np.abs(takes - np.rint(takes))
        if part.max() > PART:
            place = int(part[count:].argmax()) + count if part[count:].max() > PART else int(part.argmax())
            yield self._within(place, self.least[place], np.floor(takes[place]))
            yield self._within(place, np.ceil(takes[place]), self.most[place])
            return
        fixed = self
        open_places = np.flatnonzero(self.most[:count] > self.least[:count])
        for place in open_places[np.argsort(-self.bound.adds[open_places], kind="stable")].tolist():
            taken = np.rint(takes[place])
            if taken > self.least[place]:
                yield fixed._within(place, self.least[place], taken - 1)
            if taken < self.most[place]:
                yield fixed._within(place, taken + 1, self.most[place])
            fixed = fixed._within(place, taken, taken)

    def has(self, counts: Counts) -> NDArray[np.bool_]:
        """Which configurations, so many of each box a row, are in it as far as boxes that are counted together go."""
        count, whole = len(self.relaxation.boxes), self.relaxation.most
        least, most = self.least[count:], self.most[count:]
        limited = np.flatnonzero((least > 0) | (most < whole[count:]))
        together = counts @ self.relaxation.groups[limited].T
        found: NDArray[np.bool_] = np.all((least[limited] <= together) & (together <= most[limited]), axis=1)
        return found

    def _within(self, place: int, low: float, high: float) -> Node:
        least, most = self.least.copy(), self.most.copy()
        least[place], most[place] = low, high
        return Node(self.relaxation, least, most, self.depth + 1)


@dataclass(frozen=True, eq=False)
class Space:
    """The configurations that are searched: of a problem, under a weight, with what is pinned in them."""

    problem: Problem
    weight: Weight
    cases: tuple[Case, ...]
    free: frozenset[BoxType]
    """Switches that may be added; others are in by a pin only."""
    box_count: int | None
    price_ceiling: int | None
    seconds: float = math.inf
    """Time that there is."""
    are_few_of_many: bool = False
    """Whether there were more boxes to choose from."""
    _relaxations: dict[tuple[LinkClass, tuple[BoxType, ...]], Relaxation] = field(default_factory=dict)
    _constructions: dict[Relaxation, Construction] = field(default_factory=dict)

    def relaxation(self, group: LinkClass, *centres: BoxType) -> Relaxation:
        """The relaxation around one of some centres, or (without any) with links that end anywhere."""
        key = (group, centres)
        if key not in self._relaxations:
            self._relaxations[key] = Relaxation(group, self.weight, centres, self.box_count)
        return self._relaxations[key]

    def construction(self, relaxation: Relaxation) -> Construction:
        """The parts that configurations of a relaxation are made of, and the covers that they must meet."""
        if relaxation not in self._constructions:
            self._constructions[relaxation] = Construction(relaxation)
        return self._constructions[relaxation]

    @cached_property
    def groups(self) -> list[LinkClass]:
        """The link classes of the problem."""
        return link_classes(self.problem)

    def whole_relaxations(self) -> Iterator[Relaxation]:
        """Relaxations that hold all configurations between them."""
        if self.problem.chain_allowed:
            yield from map(self.relaxation, self.groups)
        else:
            yield from (self.relaxation(some.group, *some.boxes) for some in self.centre_groups)

    @property
    def is_large(self) -> bool:
        """Whether there are many boxes to choose from, and time to go through their configurations."""
        return self.are_few_of_many or (len(self.problem.boxes) >= MANY_BOXES and self.seconds >= MANY_BOXES_S)

    def centres(self, group: LinkClass) -> Iterator[Centre]:
        """Every centre that may be, and that no cheaper one stands in for, with a quick bound of the stars around
        it."""
        loose = self.relaxation(group)
        whole = loose.bound(loose.base, loose.most)
        for place, centre in enumerate(loose.boxes if whole else ()):
            assert whole is not None
            if self.weight == "price" and centre in group.stand_ins.centres:
                continue
            if centre.is_root or group.rows.may_be_rooted(group.roots, centre):
                yield Centre(whole.least + whole.adds[place], group, centre)

    @cached_property
    def centre_groups(self) -> list[CentreGroup]:
        """The same of all link classes, centres together whose links end in the same ways; of many boxes, those whose
        ports are as fast: what each group takes counts more than what it tells."""
        alike: dict[object, list[Centre]] = {}
        for centre in (centre for group in self.groups for centre in self.centres(group)):
            speeds = frozenset(port.speed_mbit for port in centre.box.ports if port.count)
            slots = () if self.is_large else centre.box.slots
            alike.setdefault((centre.group, centre.box.is_root, speeds, slots), []).append(centre)
        return [CentreGroup(tuple(centres)) for centres in alike.values()]

    def starts(self, relaxation: Relaxation, true: Mapping[BoxType, BoxType]) -> Iterator[Node]:
        """A node for every way to meet the pins.  ``true``: the boxes of the problem by those of the relaxation, where
        they are others."""
        first = relaxation.first_switch
        boxes = [true.get(box, box) for box in relaxation.boxes]
        free = np.array([box in self.free for box in boxes])
        for roots, pinned in self.cases:
            least = relaxation.base
            for box, count in Counter(pinned).items():
                least[boxes.index(box)] = max(least[boxes.index(box)], count)
            most = relaxation.most.copy()
            most[: len(boxes)] = np.maximum(least[: len(boxes)], np.where(free, most[: len(boxes)], 0.0))
            most[:first] = [float(box in roots) for box in boxes[:first]]
            if most[:first].any():
                yield Node(relaxation, least, most)

    def whole(self, relaxation: Relaxation, counts: Floats) -> tuple[BoxType, ...] | None:
        """So many of each box as a configuration, the root first; None: it has none, not as many boxes as are asked
        for, takes more of what is owned than there is, or has no room in the closet."""
        boxes = relaxation.set_of(counts)
        rooted = counts[: relaxation.first_switch].sum() == 1
        asked = self.box_count is None or len(boxes) == self.box_count
        stocks = Counter(box.stock for box in boxes if box.most is not None)
        there = all(box.most is None or stocks[box.stock] <= box.most for box in boxes)
        return boxes if rooted and asked and there and is_housed(self.problem, boxes) else None


@dataclass(frozen=True, eq=False)
class Task:
    """One search: its configurations and limits."""

    space: Space
    first_will_do: bool
    seconds: float
    gap: float = 0.0
    """How much dearer than its bound the pick may be, as a share of it; 0: it is the best."""
    roughly: bool = False
    """Whether picks are seated quickly or not at all, so that nothing is proven."""


def is_housed(problem: Problem, boxes: Sequence[BoxType]) -> bool:
    """Whether the closet has all that boxes take of it; what injectors take is looked at when drops are seated."""
    taken = map(sum, zip(*(box.takes for box in boxes), strict=True))
    return all(some <= there for some, there in zip(taken, problem.capacities, strict=False))


def pinned(problem: Problem) -> tuple[Case, ...]:
    """Every way to meet the pins, owned copies first; none when a pin cannot be met."""
    by_root: dict[str, list[BoxType]] = {}
    for root in problem.roots:
        by_root.setdefault(root.model.key, []).append(root)
    hanging = {box.model.key for box in problem.switches}
    routers = {key for key in problem.pins if key in by_root and key not in hanging}
    if len(routers) > 1 or any(problem.pins[key] > 1 for key in routers):
        return ()
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
    return tuple(cases)


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
