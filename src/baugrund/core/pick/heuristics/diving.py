"""A diving heuristic: configurations rounded up from the relaxation, mended where sums mislead, as first incumbents.

References
----------
.. [1] Berthold: Primal heuristics for mixed integer programs (2006), 3.1 (diving).
"""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator, Mapping, Sequence
from fractions import Fraction
from functools import cached_property
from itertools import product

import numpy as np

from ..assignment.exact import Assignment
from ..bounds.linear import Floats
from ..bounds.link_class import link_classes
from ..bounds.relaxation import Relaxation
from ..enumeration.nodes import PART, Centre, Node, Space
from ..model.problem import Problem, with_headroom
from ..model.seating import Seating
from ..model.supply import BoxType

FIRST_SHARE, DIVE_SHARE = 0.5, 0.15
"""Time that they may take, as a share of that since the beginning, before there is a pick and after."""
EARLY_SHARE, EARLY_S = 0.1, 0.5
"""What they may take at once when there is a pick: a share of all the time that there is, and no less than so long."""
CENTRES_TRIED = 8
CENTRES_AT_ONCE = 4
"""Centres around which first picks are looked for, so many before more room is asked for."""
ROUNDED_MOST = 60
"""Relaxations on the way to whole boxes."""
MEND_STEP = 1.004
"""Where a configuration could not be assigned, so much dearer the next one is that is tried."""
ROOM_TRIED = (Fraction(0), Fraction(1, 40), Fraction(1, 10), Fraction(1, 4))
"""Room in every limit that is asked for in turn; under a ceiling none is asked for."""
SINGLES = 80
"""Boxes that come in for others, one by one."""


class Diving:
    """The heuristic that finds incumbents, as far as there is time."""

    def __init__(
        self, space: Space, centres: Sequence[Centre], seconds: float, price: Callable[[], int | None]
    ) -> None:
        """``centres``: every one, bounded; ``seconds``: the time that a search may take; ``price``: of its best
        pick."""
        self._seconds, self._price = seconds, price
        self._began_at = time.monotonic()
        self._taken_s = 0.0
        self._picks = first_picks(space, centres)

    def for_a_share(self, may_be_early: bool = True) -> Iterator[Seating | None]:
        """While they have not taken their share of the time so far; ``may_be_early``: or, once there is a pick, of all
        the time that there is."""
        while self._taken_s <= self._allowed_s(may_be_early):
            began_at = time.monotonic()
            for seating in self._picks:
                self._taken_s += time.monotonic() - began_at
                yield seating
                break
            else:
                return

    def to_the_end(self) -> Iterator[Seating | None]:
        """In the time that is left; while there is no pick, however long it takes."""
        for seating in self._picks:
            yield seating
            if self._price() is not None and time.monotonic() >= self._began_at + self._seconds:
                return

    def _allowed_s(self, may_be_early: bool) -> float:
        so_far = time.monotonic() - self._began_at
        early = max(EARLY_SHARE * self._seconds, EARLY_S) if may_be_early else 0.0
        return FIRST_SHARE * so_far if self._price() is None else max(DIVE_SHARE * so_far, early)


def first_picks(space: Space, centres: Sequence[Centre]) -> Iterator[Seating | None]:
    """A pick that is quickly found, around the centres that promise most, with ever more room asked for; None
    for each that was tried in vain.

    ``centres``: every one, bounded.
    """
    rooms = [_Room(space, centres)]
    if space.price_ceiling is None:
        rooms += [_Room(space, None, room) for room in ROOM_TRIED[1:]]
    for rank, room in product(range(0, CENTRES_TRIED, CENTRES_AT_ONCE), rooms):
        for node, true in room.nodes(range(rank, rank + CENTRES_AT_ONCE)):
            assignment = _mended(space, node, true)
            seating = assignment.quick() if assignment else None
            if seating:
                yield seating
                return
            yield None


class _Room:
    """The same problem with a share of every limit kept free."""

    def __init__(self, space: Space, centres: Sequence[Centre] | None, room: Fraction = ROOM_TRIED[0]) -> None:
        self.space, self.room = space, room
        self._given = centres

    @cached_property
    def _problem(self) -> Problem:
        return with_headroom(self.space.problem, self.room) if self.room else self.space.problem

    @cached_property
    def _centres(self) -> list[Centre]:
        """The centres that can be one, the least bound first."""
        if len(self._problem.boxes) < len(self.space.problem.boxes):
            return []
        centres = self._given
        if centres is None:
            centres = [centre for group in link_classes(self._problem) for centre in self.space.centres(group)]
        return sorted(centres, key=lambda centre: centre.least)

    def nodes(self, ranks: range) -> Iterator[tuple[Node, Mapping[BoxType, BoxType]]]:
        """All configurations around each centre of these ranks, and the boxes of the problem by those with room."""
        true = dict(zip(self._problem.boxes, self.space.problem.boxes, strict=True))
        for centre in self._centres[ranks.start : ranks.stop]:
            for node in self.space.starts(self.space.relaxation(centre.group, centre.box), true):
                yield node, true


def _mended(space: Space, node: Node, true: Mapping[BoxType, BoxType]) -> Assignment | None:
    """The assignment of a configuration that sums say is enough; where its seats say otherwise, of one with a box
    more, or with another in place of one."""
    relaxation = node.relaxation
    start = relaxation.whole(node.least, node.most)
    if start is None:
        start = rounded(node)
    if start is None:
        return None
    start = start[: len(relaxation.boxes)]
    assignment = _assignment(space, relaxation, start, true)
    if assignment:
        return assignment
    bar = 0.0
    for price, other in zip(*_near(node, start), strict=True):
        if price >= bar:
            assignment = _assignment(space, relaxation, other, true)
            if assignment:
                return assignment
            bar = price * MEND_STEP
    return None


def rounded(node: Node) -> Floats | None:
    """How many of each box a configuration within ranges has: of the box that is nearest to one more, one more each
    time."""
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


def _near(node: Node, counts: Floats) -> tuple[Floats, Floats]:
    """Configurations of a node near this one whose sums are enough, and their least prices, the least first: one box
    more, of those that promise most, or one in place of another."""
    relaxation, size, first = node.relaxation, len(counts), node.relaxation.first_switch
    fewer = [counts]
    for place in np.flatnonzero(counts[first:] > node.least[first:size]) + first:
        fewer.append(counts.copy())
        fewer[-1][place] -= 1
    bound = relaxation.bound(node.least, node.most)
    able = np.argsort(bound.adds[first:], kind="stable") + first if bound else np.arange(first, size)
    added = np.vstack([np.zeros((1, size)), np.eye(size)[able[:SINGLES]]])
    near = (np.unique(fewer, axis=0)[:, None, :] + added[None, :, :]).reshape(-1, size)
    near = near[(near <= node.most[:size]).all(axis=1)]
    prices, sizes = np.full(len(near), -1), near.sum(axis=1)
    assert relaxation.centre is not None
    link_bounds = relaxation.link_bounds(relaxation.centre)
    for boxes in np.unique(sizes):
        prices[sizes == boxes] = link_bounds.relaxed_prices(near[sizes == boxes])
    order = np.argsort(prices, kind="stable")
    order = order[prices[order] >= 0]
    return prices[order], near[order]


def _assignment(
    space: Space, relaxation: Relaxation, counts: Floats, true: Mapping[BoxType, BoxType]
) -> Assignment | None:
    """The assignment of a configuration, if it may be assigned."""
    boxes = space.whole(relaxation, counts)
    if boxes is None:
        return None
    centre = relaxation.centre
    assert centre is not None
    if relaxation.link_bounds(centre).priced(counts[None, :])[0] < 0:
        return None
    assignment = Assignment(space.problem, [true.get(box, box) for box in boxes], boxes.index(centre), space.weight)
    return None if assignment.least is None else assignment
