"""First picks: sets rounded up from the relaxation, mended where sums mislead, made cheaper box by box.

They prove nothing; they set the mark that the search measures all others by.
"""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator, Mapping, Sequence
from fractions import Fraction
from functools import cached_property
from itertools import product

import numpy as np

from .bounds import link_classes
from .linear import Floats
from .packing import Packing
from .problem import Problem, with_headroom
from .relaxation import Relaxation
from .seating import Seating
from .sets import PART, Node, Sets, Star
from .supply import BoxType

FIRST_SHARE, DIVE_SHARE = 0.5, 0.15
"""Time that they may take, as a share of that since the beginning, before there is a pick and after."""
EARLY_SHARE, EARLY_S = 0.1, 0.5
"""What they may take at once when there is a pick: a share of all the time that there is, and no less than so long."""
HUBS_TRIED = 8
HUBS_AT_ONCE = 4
"""Hubs around which first picks are looked for, so many before more room is asked for."""
ROUNDED_MOST = 60
"""Relaxations on the way to whole boxes."""
MEND_STEP = 1.004
"""Where a set could not be packed, so much dearer the next one is that is tried."""
ROOM_TRIED = (Fraction(0), Fraction(1, 40), Fraction(1, 10), Fraction(1, 4))
"""Room in every limit that is asked for in turn; under a ceiling none is asked for."""
SINGLES, PAIRED = 80, 30
"""Boxes that come in for others: one by one, and two at a time."""
CHEAPER_TRIED = 60
"""Sets that are looked at to make a pick cheaper."""
PACKED_STEP, SEATED_STEP = 1 / 20, 1 / 3
"""Where a set could not be packed, not even in parts, or was not soon seated: the next that is tried is so much nearer
to the price of the pick."""


class Dives:
    """The heuristic that finds incumbents, as far as there is time."""

    def __init__(self, sets: Sets, stars: Sequence[Star], seconds: float, price: Callable[[], int | None]) -> None:
        """``stars``: every hub, bounded; ``seconds``: the time that a search may take; ``price``: of its best pick."""
        self.missed: tuple[tuple[BoxType, ...], BoxType] | None = None
        """A set of late that could not quite be packed, and its hub: others near it may be."""
        self._sets, self._stars, self._seconds, self._price = sets, stars, seconds, price
        self._began_at = time.monotonic()
        self._taken_s = 0.0
        self._picks = self._first()
        self._is_near = False
        """Whether picks come from near a set that was missed."""

    def for_a_share(self, may_be_early: bool = True) -> Iterator[Seating | None]:
        """While they have not taken their share of the time so far; ``may_be_early``: or, once there is a pick, of all
        the time that there is."""
        while self._taken_s <= self._allowed_s(may_be_early):
            began_at = time.monotonic()
            for seating in self._next():
                self._taken_s += time.monotonic() - began_at
                yield seating
                break
            else:
                return

    def to_the_end(self) -> Iterator[Seating | None]:
        """In the time that is left; while there is no pick, however long it takes."""
        while self._price() is None or time.monotonic() < self._began_at + self._seconds:
            for seating in self._next():
                yield seating
                break
            else:
                return

    def end(self) -> None:
        """Drop the generators that are left: they refer back to this object, and both would stay in memory."""
        self._picks = iter(())

    def _next(self) -> Iterator[Seating | None]:
        """What comes next: where there is a pick, first of all from near a set that was missed."""
        while True:
            if self.missed and self._price() is not None and not self._is_near:
                self._picks, self._is_near = self._near_missed(*self.missed), True
            for seating in self._picks:
                yield seating
                break
            else:
                if not self.missed or self._price() is None:
                    return
                self._is_near = False

    def _allowed_s(self, may_be_early: bool) -> float:
        so_far = time.monotonic() - self._began_at
        early = max(EARLY_SHARE * self._seconds, EARLY_S) if may_be_early else 0.0
        return FIRST_SHARE * so_far if self._price() is None else max(DIVE_SHARE * so_far, early)

    def _first(self) -> Iterator[Seating | None]:
        for found in first_picks(self._sets, self._stars):
            yield found[0] if found else None
            if found and self._sets.weight == "price":
                yield from cheaper(self._sets, self._stars, found[0].boxes, found[1], found[0].price_minor)

    def _near_missed(self, boxes: tuple[BoxType, ...], hub: BoxType) -> Iterator[Seating | None]:
        self.missed = None
        price = self._price()
        if price is not None and self._sets.weight == "price":
            yield from cheaper(self._sets, self._stars, boxes, hub, price)


def first_picks(sets: Sets, stars: Sequence[Star]) -> Iterator[tuple[Seating, BoxType] | None]:
    """A pick that is quickly found, and its hub, around the hubs that promise most, with ever more room asked for; None
    for each that was tried in vain.

    ``stars``: every hub, bounded.
    """
    rooms = [_Room(sets, stars)]
    if sets.price_ceiling is None:
        rooms += [_Room(sets, None, room) for room in ROOM_TRIED[1:]]
    for rank, room in product(range(0, HUBS_TRIED, HUBS_AT_ONCE), rooms):
        for node, true in room.nodes(range(rank, rank + HUBS_AT_ONCE)):
            packing = _mended(sets, node, true)
            seating = packing.quick() if packing else None
            if packing and packing.hub and seating:
                yield seating, packing.hub
                return
            yield None


class _Room:
    """The same problem with a share of every limit kept free."""

    def __init__(self, sets: Sets, stars: Sequence[Star] | None, room: Fraction = ROOM_TRIED[0]) -> None:
        self.sets, self.room = sets, room
        self._given = stars

    @cached_property
    def _problem(self) -> Problem:
        return with_headroom(self.sets.problem, self.room) if self.room else self.sets.problem

    @cached_property
    def _stars(self) -> list[Star]:
        """The hubs that can be one, the least bound first."""
        if len(self._problem.boxes) < len(self.sets.problem.boxes):
            return []
        stars = self._given
        if stars is None:
            stars = [star for group in link_classes(self._problem) for star in self.sets.stars(group)]
        return sorted(stars, key=lambda star: star.least)

    def nodes(self, ranks: range) -> Iterator[tuple[Node, Mapping[BoxType, BoxType]]]:
        """All sets around each hub of these ranks, and the boxes of the problem by those with room."""
        true = dict(zip(self._problem.boxes, self.sets.problem.boxes, strict=True))
        for star in self._stars[ranks.start : ranks.stop]:
            for node in self.sets.starts(self.sets.relaxation(star.group, star.hub), true):
                yield node, true


def _mended(sets: Sets, node: Node, true: Mapping[BoxType, BoxType]) -> Packing | None:
    """The packing of a set that sums say is enough; where its seats say otherwise, of one with a box more, or with
    another in place of one."""
    relaxation = node.relaxation
    start = relaxation.whole(node.least, node.most)
    if start is None:
        start = rounded(node)
    if start is None:
        return None
    start = start[: len(relaxation.boxes)]
    packing = _packing(sets, relaxation, start, true)
    if packing:
        return packing
    bar = 0.0
    for price, other in zip(*_near(node, start, 1, 1), strict=True):
        if price >= bar:
            packing = _packing(sets, relaxation, other, true)
            if packing:
                return packing
            bar = price * MEND_STEP
    return None


def rounded(node: Node) -> Floats | None:
    """How many of each box a set within ranges has: of the box that is nearest to one more, one more each time."""
    relaxation, least, most = node.relaxation, node.least.copy(), node.most.copy()
    place: int | None = None
    for _ in range(ROUNDED_MOST):
        bound = relaxation.bound(least, most)
        if bound is None:
            if place is None:
                return None
            least[place] -= 1
            most[place], place = least[place], None
            continue
        takes = bound.takes[: len(relaxation.boxes)]
        parts = takes - np.floor(takes + PART)
        if parts.max() <= PART:
            return np.rint(takes)
        place = int(parts.argmax())
        least[place] = np.floor(takes[place]) + 1
    return None


def cheaper(
    sets: Sets, stars: Sequence[Star], boxes: Sequence[BoxType], hub: BoxType, price_minor: int
) -> Iterator[Seating | None]:
    """Local search: up to two boxes of the last pick are exchanged for up to two others."""
    node = next(_nodes_with(sets, stars, boxes, hub), None)
    if node is None:
        return
    relaxation, counts = node.relaxation, _counts(node.relaxation, boxes)
    looked_at = 0
    while True:
        bar, found = 0.0, None
        for price, other in zip(*_near(node, counts, 2, 2), strict=True):
            if bar <= price < price_minor and looked_at < CHEAPER_TRIED:
                looked_at += 1
                packing = _packing(sets, relaxation, other, {}, price_minor)
                found = packing.quick() if packing else None
                if found and found.price_minor < price_minor:
                    counts = other
                    break
                found = None
                yield None
                bar = price + (SEATED_STEP if packing else PACKED_STEP) * (price_minor - price)
        if found is None:
            return
        price_minor = found.price_minor
        yield found


def _nodes_with(sets: Sets, stars: Sequence[Star], boxes: Sequence[BoxType], hub: BoxType) -> Iterator[Node]:
    """Where a set is found again."""
    for star in stars:
        if star.hub is hub:
            relaxation = sets.relaxation(star.group, star.hub)
            counts = _counts(relaxation, boxes)
            for node in sets.starts(relaxation, {}):
                if (node.least[: len(counts)] <= counts).all() and (counts <= node.most[: len(counts)]).all():
                    yield node


def _counts(relaxation: Relaxation, boxes: Sequence[BoxType]) -> Floats:
    return np.array([float(boxes.count(box)) for box in relaxation.boxes])


def _near(node: Node, counts: Floats, out: int, into: int) -> tuple[Floats, Floats]:
    """Sets of a node near this one whose sums are enough, and their least prices, the least first: up to so many boxes
    go ``out``, and up to so many come ``into`` it, of those that promise most."""
    relaxation, size, first = node.relaxation, len(counts), node.relaxation.first_switch
    fewer = [counts]
    for _ in range(out):
        for one in list(fewer):
            for place in np.flatnonzero(one[first:] > node.least[first:size]) + first:
                fewer.append(one.copy())
                fewer[-1][place] -= 1
    bound = relaxation.bound(node.least, node.most)
    able = np.argsort(bound.adds[first:], kind="stable") + first if bound else np.arange(first, size)
    unit = np.eye(size)
    added = [np.zeros((1, size)), unit[able[:SINGLES]]]
    if into == 2:
        low, high = np.triu_indices(min(PAIRED, len(able)))
        added.append(unit[able[low]] + unit[able[high]])
    near = (np.unique(fewer, axis=0)[:, None, :] + np.vstack(added)[None, :, :]).reshape(-1, size)
    near = near[(near <= node.most[:size]).all(axis=1)]
    prices, sizes = np.full(len(near), -1), near.sum(axis=1)
    assert relaxation.hub is not None
    around = relaxation.around(relaxation.hub)
    for boxes in np.unique(sizes):
        prices[sizes == boxes] = around.sketched(near[sizes == boxes])
    order = np.argsort(prices, kind="stable")
    order = order[prices[order] >= 0]
    return prices[order], near[order]


def _packing(
    sets: Sets, relaxation: Relaxation, counts: Floats, true: Mapping[BoxType, BoxType], under: int | None = None
) -> Packing | None:
    """The packing of a set, if it may be packed, for less than ``under``."""
    boxes = sets.whole(relaxation, counts)
    if boxes is None:
        return None
    most = np.inf if under is None else under
    hub = relaxation.hub
    assert hub is not None
    if not 0 <= relaxation.around(hub).priced(counts[None, :])[0] < most:
        return None
    packing = Packing(sets.problem, [true.get(box, box) for box in boxes], boxes.index(hub), sets.weight)
    return packing if packing.least is not None and packing.least < most else None
