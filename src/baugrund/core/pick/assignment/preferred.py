"""Which drop sits where: of all ways to seat the drops in boxes that are given, the one that the selection names.

The fullest link of the site is as little full as can be, then the fullest budget; then drops that come first on the
list sit on boxes that come first.  Every step is a small program for CP-SAT, solved by one worker within a fixed amount
of its own work and never by the clock, so that whoever asks gets the same answer.

References
----------
.. [1] M. Ehrgott, *Multicriteria Optimization*, 2nd ed. 2005, 5.1: lexicographic and bottleneck objectives.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Sequence
from dataclasses import replace
from fractions import Fraction
from functools import cached_property
from math import lcm
from typing import Any

import numpy as np
from ortools.sat.python import cp_model

from ...demand.needs import Demands, DropNeed, Need
from ...demand.traffic import carried_kbit
from ..model.links import LinkTable
from ..model.problem import Problem
from ..model.seating import Seating
from ..model.supply import BoxType
from .exact import centres_of
from .program import Column, Pair, Seats, Terms
from .trees import add_tree

WORK = 0.3
"""Work that one program may take, in CP-SAT's deterministic units (about a second each)."""
SCALE = 1_000
"""Rows stand in thousandths: whole milliwatts and kbit/s."""
FINEST = 10**12
"""Shares of several limits are compared in parts of their least common multiple, up to this."""
CENTRES_MOST = 4
"""Of more boxes than this only the centre that was found is looked at."""


def assigned(
    seatings: Sequence[tuple[Problem, Seating]], demands: Demands, *, keeps_extras: bool = True,
    keeps_mains: bool = False,
) -> tuple[Seating, ...]:  # fmt: skip
    """Seatings of the closets of a site with every drop where the selection wants it; the boxes stay.

    ``keeps_extras``: no more injectors and modules are taken than before; without, all that a problem has may be.
    ``keeps_mains``: no more is drawn from the mains than before.
    """
    closets = [
        _Closet(
            _with_extras(problem, seating) if keeps_extras else problem, _sets(problem, seating), seating,
            demands[problem.closet_id].all, seating.mains_mw if keeps_mains else None,
        )
        for problem, seating in seatings
    ]  # fmt: skip
    link = max(closet.least_link for closet in closets)
    for closet in closets:
        closet.hold_links(link)
    budget = max(closet.least_budget for closet in closets)
    return tuple(closet.seated(budget) for closet in closets)


class _Closet:
    """The boxes of one closet and the drops that are to sit there, in every way to hang the boxes together."""

    def __init__(
        self, problem: Problem, sets: Sequence[tuple[BoxType, ...]], before: Seating, asked: Sequence[DropNeed],
        mains_mw: int | None,
    ) -> None:  # fmt: skip
        self._before = before
        first: dict[Need, int] = {}
        for place, one in enumerate(asked):
            first.setdefault(one.need, place)
        weights = tuple(len(asked) - first.get(need, 0) for need, _ in problem.needs)
        self._programs = [
            _Program(problem, boxes, centre, weights, mains_mw)
            for boxes in map(_in_order, sets)
            for centre in _centres(problem, boxes, before)
        ]

    @cached_property
    def least_link(self) -> Fraction:
        """How full the fullest link is at the least; 0: there are none."""
        return self._least(lambda program: program.least_link)

    def hold_links(self, most: Fraction) -> None:
        """Links are no fuller than that from now on."""
        for program in self._programs:
            program.hold_link(most)

    @cached_property
    def least_budget(self) -> Fraction:
        """How full the fullest budget is at the least; 0: nothing is fed."""
        return self._least(lambda program: program.least_budget)

    def _least(self, of: Callable[[_Program], Fraction | None]) -> Fraction:
        found = [(program, of(program)) for program in self._programs]
        self._programs = [program for program, share in found if share is not None]
        return min((share for _, share in found if share is not None), default=Fraction(0))

    def seated(self, budget: Fraction) -> Seating:
        """The seating with no fuller budget in which drops that come first sit first; what there was before, where the
        work was not enough to find any."""
        found = [seated for program in self._programs if (seated := program.seated(budget)) is not None]
        return min(found, key=lambda one: one[0])[1] if found else self._before


def _sets(problem: Problem, before: Seating) -> list[tuple[BoxType, ...]]:
    """The boxes with every end that the uplink of the closet may have on the same root at the same price."""
    root, *others = before.boxes
    if root not in problem.roots or root.uplink is None:
        return [before.boxes]
    module = root.uplink.module
    return [
        (other, *others)
        for other in problem.roots
        if other.model is root.model and other.most == root.most and other.price_minor == root.price_minor
        and other.uplink is not None and other.uplink.module is module
    ]  # fmt: skip


def _in_order(boxes: tuple[BoxType, ...]) -> tuple[BoxType, ...]:
    """The root, then the others in the order of the catalogue, those that are owned first."""
    return (boxes[0], *sorted(boxes[1:], key=lambda box: (box.index, box.most is None)))


def _centres(problem: Problem, boxes: tuple[BoxType, ...], before: Seating) -> list[int | None]:
    """Boxes that the others may hang off; of many the one that they hung off before."""
    centres = centres_of(problem, boxes)
    if len(centres) <= CENTRES_MOST:
        return centres
    uppers = Counter(link.upper for link in before.links)
    centre = before.boxes[max(uppers, key=lambda place: uppers[place], default=0)]
    return [place for place in centres if place is not None and boxes[place] is centre]


def _with_extras(problem: Problem, seating: Seating) -> Problem:
    """The problem with no more injectors and modules than a seating has."""
    uplink = seating.boxes[0].uplink
    at_uplink = {uplink.module: seating.boxes[0].uplink_ends} if uplink and uplink.module else {}
    return replace(
        problem,
        injectors=tuple(replace(kind, most=count) for kind, count in seating.injectors.items()),
        modules=tuple(
            # those of the uplink are taken already
            replace(kind, most=count - at_uplink.get(kind, 0))
            for kind, count in seating.modules.items()
        ),
        table=LinkTable(problem.fill_percent),
    )


class _Program:
    """The seats and links of a configuration around one centre, as a program of whole numbers."""

    def __init__(
        self, problem: Problem, boxes: tuple[BoxType, ...], centre: int | None, weights: Sequence[int],
        mains_mw: int | None,
    ) -> None:  # fmt: skip
        self._seats = Seats(problem, boxes, centre)
        self._flows = add_tree(self._seats) if centre is None else {}
        self._weights = weights
        self._model = cp_model.CpModel()
        divisible = self._seats.divisible
        rows = self._seats.rows(in_order=False)
        self._columns = [
            self._model.new_int_var(0, round(most * SCALE) if number in divisible else round(most), "")
            for number, (most, *_) in enumerate(self._seats.columns)
        ]
        matrix = rows.matrix()
        for entries, least, most in zip(matrix, rows.least, rows.highest, strict=True):
            terms = {int(column): float(entries[column]) for column in np.flatnonzero(entries)}
            low = -FINEST if np.isinf(least) else round(least * SCALE)
            self._model.add_linear_constraint(self._sum(terms), low, FINEST if np.isinf(most) else round(most * SCALE))
        if mains_mw is not None:
            own = sum(box.own_mains_mw for box in boxes)
            drawn = [column * round(self._seats.columns[at][3]) for at, column in enumerate(self._columns)]
            self._model.add(sum(drawn) + own <= mains_mw)
        self._link, self._link_of = self._fullest_link()
        self._budget, self._budget_of = self._fullest_budget()

    def _sum(self, terms: Terms) -> Any:
        """A sum of columns in thousandths."""
        return sum(
            self._columns[at] * round(value if at in self._seats.divisible else value * SCALE)
            for at, value in terms.items()
        )

    def _fullest_link(self) -> tuple[Any, int]:
        """How full the fullest link is, in so many parts; no link is fuller."""
        seats, fill = self._seats, self._seats.problem.fill_percent
        traffic = {pair: self._behind(pair) for pair in seats.options}
        carries = [option.carries_kbit for ways in seats.options.values() for option, _ in ways]
        carries += [carried_kbit(end.speed_mbit, fill) * trunk.ends for trunk, _, end, _ in seats.trunks]
        root, uplink = seats.boxes[0], seats.problem.uplink
        if root.uplink and uplink:
            carries.append(carried_kbit(root.uplink.speed_mbit, fill) * uplink.ends)
        if not carries:
            return None, 1
        parts = lcm(*carries)
        fullest = self._model.new_int_var(0, parts, "")
        for pair, ways in seats.options.items():
            for option, column in ways:
                filled = traffic[pair] * (parts // option.carries_kbit)
                self._model.add(filled <= fullest).only_enforce_if(self._literal(column))
        for trunk, _, end, column in seats.trunks:
            share = trunk.traffic_kbit * (parts // (carried_kbit(end.speed_mbit, fill) * trunk.ends))
            self._model.add(fullest >= share).only_enforce_if(self._literal(column))
        if root.uplink and uplink:
            carried = carried_kbit(root.uplink.speed_mbit, fill) * uplink.ends
            self._model.add(fullest >= uplink.traffic_kbit * (parts // carried))
        return fullest, parts

    def _behind(self, pair: Pair) -> Any:
        """Traffic over a link [kbit/s]."""
        if pair in self._flows:
            return self._columns[self._flows[pair]]
        if pair[1] == self._seats.centre:
            return self._seats.problem.traffic_kbit - self._sum(self._seats.traffic[0])
        return self._sum(self._seats.traffic[pair[1]])

    def _literal(self, column: Column) -> Any:
        """A column of 0 or 1 as a condition."""
        chosen = self._model.new_bool_var("")
        self._model.add(self._columns[column] == chosen)
        return chosen

    def _fullest_budget(self) -> tuple[Any, int]:
        """How full the fullest budget is, in so many parts; no budget is fuller."""
        fed = {place: terms for place, terms in self._seats.watts.items() if terms}
        budgets = {place: self._seats.boxes[place].model.poe_budget_mw for place in fed}
        if not budgets:
            return None, 1
        parts = min(lcm(*budgets.values()), FINEST)
        fullest = self._model.new_int_var(0, parts, "")
        for place, terms in fed.items():
            self._model.add(self._sum(terms) * (parts // budgets[place]) <= fullest)
        return fullest, parts

    @cached_property
    def least_link(self) -> Fraction | None:
        """None: nothing is found."""
        return self._least(self._link, self._link_of)

    @cached_property
    def least_budget(self) -> Fraction | None:
        """None: nothing is found."""
        return self._least(self._budget, self._budget_of)

    def _least(self, figure: Any, parts: int) -> Fraction | None:
        if figure is None:
            return Fraction(0)
        solver = self._solved(figure)
        return None if solver is None else Fraction(int(solver.value(figure)), parts)

    def hold_link(self, most: Fraction) -> None:
        """No link is fuller than that from now on."""
        if self._link is not None:
            self._model.add(self._link <= int(most * self._link_of))

    def seated(self, budget: Fraction) -> tuple[int, Seating] | None:
        """The seating with no fuller budget in which drops that come first sit first, and how late they sit."""
        if self._budget is not None:
            self._model.add(self._budget <= int(budget * self._budget_of))
        ranks = {group: rank for rank, group in enumerate(
            (place, group) for place, box in enumerate(self._seats.boxes) for group in range(len(box.ports))
        )}  # fmt: skip
        late = sum(
            self._columns[column] * (self._weights[need] * ranks[place, group])
            for (need, place, group), column in (*self._seats.fed.items(), *self._seats.bare.items())
        )
        solver = self._solved(late)
        if solver is None:
            return None
        values = [float(solver.value(column)) for column in self._columns]
        for column in self._seats.divisible:
            values[column] /= SCALE
        return round(solver.objective_value), self._seats.read(np.array(values))

    def _solved(self, goal: Any) -> cp_model.CpSolver | None:
        self._model.minimize(goal)
        solver = cp_model.CpSolver()
        solver.parameters.num_workers = 1
        solver.parameters.random_seed = 1
        solver.parameters.max_deterministic_time = WORK
        status = solver.solve(self._model)
        return solver if status in (cp_model.OPTIMAL, cp_model.FEASIBLE) else None
