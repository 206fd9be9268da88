"""Sets of boxes as they grow: which may be, how they begin with what is pinned, and what is one box more."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace

from .bounds import LinkClass
from .problem import Problem
from .relaxation import Bound, Relaxation, Weight
from .supply import BoxType

Case = tuple[tuple[BoxType, ...], tuple[BoxType, ...]]
"""Roots that may be, and switches that must be beside them: one way to meet all pins."""


@dataclass(frozen=True, eq=False)
class Star:
    """All stars around one hub, of which only a bound is known that looks away from where links end."""

    least: float
    group: LinkClass
    hub: BoxType
    is_sharp: bool = False
    """Whether the bound is that of the relaxation with the hub in it; else that of its reduced cost."""


@dataclass(frozen=True, eq=False)
class Node:
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
class Sets:
    """The sets that are searched: of a problem, under a weight, with what is pinned in them."""

    problem: Problem
    weight: Weight
    cases: tuple[Case, ...]
    box_count: int | None
    price_ceiling: int | None
    _relaxations: dict[tuple[LinkClass, BoxType | None], Relaxation] = field(default_factory=dict)

    @property
    def boxes_most(self) -> int:
        most = self.problem.boxes_most()
        return most if self.box_count is None else min(self.box_count, most)

    def relaxation(self, group: LinkClass, hub: BoxType | None) -> Relaxation:
        """The relaxation around a hub, or (None) with links that end anywhere."""
        key = (group, hub)
        if key not in self._relaxations:
            made = Relaxation(group, self.weight, hub, self.box_count, self.price_ceiling)
            self._relaxations[key] = made
        return self._relaxations[key]

    def stars(self, group: LinkClass) -> Iterator[Star]:
        """Every hub that may be, with a quick bound of the stars around it."""
        loose = self.relaxation(group, None)
        whole = loose.bound([0] * len(loose.boxes), loose.first_switch)
        for place, hub in enumerate(loose.boxes if whole else ()):
            assert whole is not None
            yield Star(whole.least + whole.adds[place], group, hub)

    def sharpened(self, star: Star) -> Star | None:
        """The same star with the bound of the relaxation that has its hub in it; None: there is none."""
        loose = self.relaxation(star.group, None)
        around = loose.bound([int(box is star.hub) for box in loose.boxes], loose.first_switch)
        return None if around is None else replace(star, least=max(star.least, around.least), is_sharp=True)

    def starts(self, relaxation: Relaxation, true: Mapping[BoxType, BoxType]) -> Iterator[Node]:
        """A node for every way to meet the pins; the root is still open, unless it is the hub or pins leave some out.
        ``true``: the boxes of the problem by those of the relaxation, where they are others."""
        first = relaxation.first_switch
        boxes = [true.get(box, box) for box in relaxation.boxes]
        for roots, pinned in self.cases:
            base = list(relaxation.base)
            for box, count in Counter(pinned).items():
                base[boxes.index(box)] = max(base[boxes.index(box)], count)
            places = [place for place in range(first) if boxes[place] in roots]
            is_given = len(self.cases) > 1 or first == 1 or len(places) < first
            for place in places if is_given else [-1]:
                rooted = tuple(count + (n == place) for n, count in enumerate(base))
                inside = [box for box, count in zip(boxes, rooted, strict=True) if count]
                if self._is_housed(boxes, rooted) and all(self._is_there(boxes, rooted, box) for box in inside):
                    yield Node(relaxation, rooted, first)

    def more(self, node: Node, place: int, start: int) -> Node | None:
        """A node with one more of the box at a place; None: there is none, or the closet does not take it."""
        base = list(node.base)
        base[place] += 1
        boxes = node.relaxation.boxes
        if sum(base) > self.boxes_most or not self._is_there(boxes, base, boxes[place]):
            return None
        return Node(node.relaxation, tuple(base), start) if self._is_housed(boxes, base) else None

    def is_whole(self, node: Node) -> bool:
        """Whether a node is a set as it stands, of as many boxes as are asked for."""
        return node.has_root and (self.box_count is None or sum(node.base) == self.box_count)

    def _is_housed(self, boxes: Sequence[BoxType], base: Sequence[int]) -> bool:
        """Whether height, load and sockets of the closet suffice for the boxes alone."""
        inside = [(box, count) for box, count in zip(boxes, base, strict=True) if count]
        return (
            sum(box.model.units * count for box, count in inside) <= self.problem.units
            and sum(box.mass_g * count for box, count in inside) <= self.problem.load_g
            and sum(box.model.sockets * count for box, count in inside) <= self.problem.sockets
        )

    @staticmethod
    def _is_there(boxes: Sequence[BoxType], base: Sequence[int], box: BoxType) -> bool:
        """Whether so many copies of a box are to be had; a root may be one of them."""
        if box.most is None:
            return True
        return sum(count for other, count in zip(boxes, base, strict=True) if other.stock == box.stock) <= box.most


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
