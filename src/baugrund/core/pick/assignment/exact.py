"""The best way to use a given set of boxes, exactly, and what it costs at least were everything divisible."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from ..bounds.linear import Floats, LinearProgram, Solved, Whole
from ..model.problem import Problem, Weight
from ..model.seating import Seating
from ..model.supply import BoxType
from .program import Seats
from .trees import add_tree

TIME_LIMIT_S = 5.0
"""A configuration not settled by then counts as unproven, and the answer says so."""

HOPEFUL_FROM = 1.02
"""How much over its bound a set may cost for it to be likely that it can be assigned."""

QUICK_S = 0.3
QUICK_GAP = 0.05
"""Time that a first seating may take, and how much dearer than the best, beside its boxes, it may be."""


@dataclass(frozen=True, eq=False)
class Assigned:
    """Outcome for one set of boxes: the best seating or None, and whether that is certain."""

    seating: Seating | None
    proven: bool


def assign(problem: Problem, boxes: Sequence[BoxType], weight: Weight, ceiling: int | None = None) -> Assigned:
    """Least (price, own mains draw) or (mains draw, price) of these boxes, injectors, modules and seats, around any of
    them as centre.

    ``ceiling`` bounds the first of the two: dearer ones count as none.
    """
    best: Seating | None = None
    proven = True
    for centre in centres_of(problem, boxes):
        packed = Assignment(problem, boxes, centre, weight).solve(ceiling)
        proven &= packed.proven
        if packed.seating and (best is None or _cost(packed.seating, weight) < _cost(best, weight)):
            best = packed.seating
            ceiling = _cost(best, weight)[0]
    return Assigned(best, proven)


def centres_of(problem: Problem, boxes: Sequence[BoxType]) -> list[int | None]:
    """The boxes that all others may hang off, one of equal ones; None alone where any may hang off any."""
    if problem.chain_allowed and len(boxes) > 2:
        return [None]
    return [place for place, box in enumerate(boxes) if box not in boxes[:place]]


def _cost(seating: Seating, weight: Weight) -> tuple[int, int]:
    if weight == "price":
        return seating.price_minor, seating.own_mains_mw
    return seating.mains_mw, seating.price_minor


class Assignment:
    """The assignment of one set of boxes, the root first, that all hang off the box at ``centre`` (None: off any)."""

    def __init__(self, problem: Problem, boxes: Sequence[BoxType], centre: int | None, weight: Weight) -> None:
        money = weight == "price"
        self._problem, self._is_price = problem, money
        self._centre = centre or 0
        self.centre = None if centre is None else boxes[centre]
        self._own = sum(box.cost_minor if money else box.own_mains_mw for box in boxes)
        self._seats = Seats(problem, boxes, centre)
        if centre is None:
            add_tree(self._seats)
        self._rows = self._seats.rows()
        self._most, price, own, mains = np.ascontiguousarray(np.array(self._seats.columns).reshape(-1, 4).T)
        self._first, self._second = (price, own) if money else (mains, price)

    @cached_property
    def least(self) -> float | None:
        """Least price [minor], or mains draw with port watts [mW], were seats and links divisible; None when nothing
        fits, not even so.

        Sharper than sums over the set: every drop sits on ports of its own, draws its watts there, and crosses the link
        there.  Most sets that cannot be assigned are told by this.
        """
        return None if self._in_parts is None else self._own + self._in_parts.bound

    @cached_property
    def _in_parts(self) -> Solved | None:
        return LinearProgram(self._first, self._most, self._rows).solve()

    def solve(self, ceiling: int | None = None) -> Assigned:
        """The first figure as good as can be, then the second."""
        if self.least is None or (ceiling is not None and self.least > ceiling + 0.5):
            return Assigned(None, True)
        whole = self._solve(self._first, None if ceiling is None else ceiling - self._own)
        if whole.values is None:
            return Assigned(None, whole.proven)
        least = round(float(self._first @ whole.values))
        in_parts = LinearProgram(self._second, self._most, self._rows.with_one_more(self._first, least)).solve()
        if in_parts and in_parts.bound < float(self._second @ whole.values) - 0.5:
            better = self._solve(self._second, least)
            if better.values is not None:
                return Assigned(self._seats.read(better.values), whole.proven and better.proven)
        return Assigned(self._seats.read(whole.values), whole.proven)

    def quick(self) -> Seating | None:
        """A good seating, if one is soon found."""
        whole = self._solve(self._first, None, QUICK_S, QUICK_GAP)
        return None if whole.values is None else self._seats.read(whole.values)

    def _solve(self, costs: Floats, ceiling: int | None, seconds: float = TIME_LIMIT_S, gap: float = 0.0) -> Whole:
        rows = self._rows if ceiling is None else self._rows.with_one_more(self._first, ceiling)
        program = LinearProgram(costs, self._most, rows)
        hopeful = ceiling is None or self.least is None or self._own + ceiling > HOPEFUL_FROM * self.least
        return program.solve_whole(self._seats.divisible, _step(costs), seconds, gap, hopeful=hopeful)


def _step(costs: Floats) -> float:
    """What sums of these costs differ by at least, but for half of one."""
    return math.gcd(*(round(cost) for cost in costs)) - 0.5 if costs.any() else 0.5
