"""A linear relaxation of the choice of boxes: what any pick costs at least, and what each further box adds.

Aggregated (no copies, no seats) and sharpened by rounding: a row Σ a·x ≥ b over whole numbers implies
Σ ⌈a/k⌉·x ≥ ⌈b/k⌉ for any k (Gomory's rounding cuts).  The bound is recomputed from the duals, so it holds however
inexact they are.

References
----------
.. [1] Nemhauser, Wolsey: Integer and Combinatorial Optimization, II.1 (rounding) and I.2 (duality bounds).
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray
from ortools.linear_solver import pywraplp

from .bounds import CARRIES, ENDS, HELD, PRICE, LinkClass
from .problem import BoxType, injectors_worth_having
from .seating import seat_mains_mw

Weight = Literal["price", "power"]
"""What is made least: money [minor], or mains draw with port watts [mW]."""


@dataclass(frozen=True)
class Row:
    """Σ entries·columns ≥ at_least, or = when exact."""

    entries: dict[int, float]
    at_least: float
    exact: bool = False


def rounded(entries: dict[int, int], at_least: int) -> list[Row]:
    """A row over whole numbers, and its rounding cuts for every coefficient in it."""
    divisors = {1} | {value for value in entries.values() if 1 < value < at_least}
    return [
        Row(
            {column: float(-(-value // k)) for column, value in entries.items() if value > 0},
            float(-(-at_least // k)),
        )
        for k in sorted(divisors)
    ]


@dataclass(frozen=True)
class Bound:
    """For one number of boxes: the least that any pick costs, and what each choice in it adds to that."""

    least: float
    adds: NDArray[np.float64]


class Relaxation:
    """The relaxation of one link class.  ``base`` boxes are always in."""

    def __init__(self, group: LinkClass, weight: Weight, base: Sequence[BoxType]) -> None:
        self.group = group
        self.weight: Weight = weight
        problem = group.problem
        money = weight == "price"
        switches = [choice for box in problem.switches for choice in group.choices(box, money)]
        self.choices = (*group.routers, *switches)
        self.first_need = len(self.choices)
        levels = sorted({c.box.model.efficiency_percent for c in self.choices if c.box.power_most_mw})
        costs = [float(c.row[PRICE] if money else c.box.own_mains_mw) for c in self.choices]
        costs += [self._injected_cost(number) for number in range(len(problem.needs))]
        self.first_level = len(costs)
        costs += [100.0 / level if weight == "power" else 0.0 for level in levels]
        most = [self._most(choice.box) for choice in self.choices]
        most += [float(count) if injectors_worth_having(problem, need) else 0.0 for need, count in problem.needs]
        most += [float(group.power_mw)] * len(levels)
        rows = self._choice_rows(base) + self._housing_rows() + self._need_rows() + self._power_rows(levels)
        self._program = _Program(costs, most, rows)

    def bound(self, box_count: int) -> Bound | None:
        """The bound over all picks of so many boxes; None when there is none."""
        solved = self._program.solve(box_count)
        return Bound(solved[0], solved[1][: self.first_need]) if solved else None

    def _injected_cost(self, number: int) -> float:
        need = self.group.problem.needs[number][0]
        able = injectors_worth_having(self.group.problem, need)
        if self.weight == "price":
            return float(min((i.price_minor for i in able), default=0))
        return float(min((i.own_mains_mw + seat_mains_mw(need, i) for i in able), default=0))

    def _most(self, box: BoxType) -> float:
        if box.is_router:
            return 1.0
        return float(self.group.problem.boxes_most() if box.most is None else box.most)

    def _injected(self, members: Sequence[int]) -> dict[int, int]:
        needs = self.group.problem.needs
        return {self.first_need + number: 1 for number in members if needs[number][0].poe_rank}

    def _choice_rows(self, base: Sequence[BoxType]) -> list[Row]:
        rows = [
            Row({place: 1.0 for place in range(self.first_need)}, 0.0, exact=True),
            Row({place: 1.0 for place in range(len(self.group.routers))}, 1.0, exact=True),
        ]
        for box, copies in Counter(base).items():
            rows.append(Row({k: 1.0 for k, c in enumerate(self.choices) if c.box is box}, float(copies)))
        return rows

    def _housing_rows(self) -> list[Row]:
        problem = self.group.problem
        injected = self._injected(range(len(problem.needs)))
        resources = [([c.box.model.sockets for c in self.choices], problem.sockets, injected)]
        resources.append(([c.box.model.units for c in self.choices], problem.units, {}))
        resources.append(([c.box.mass_g for c in self.choices], problem.load_g, {}))
        if problem.ups_outlets is not None:
            resources.append(([1] * len(self.choices), problem.ups_outlets, injected))
        return [
            Row({k: -float(amount) for k, amount in (*enumerate(taken), *others.items())}, -float(there))
            for taken, there, others in resources
        ]

    def _need_rows(self) -> list[Row]:
        group, problem = self.group, self.group.problem
        rows = rounded({place: int(choice.row[ENDS]) for place, choice in enumerate(self.choices)}, problem.drops)
        for number, up_set in enumerate(group.up_sets):
            held = {place: int(choice.row[HELD + number]) for place, choice in enumerate(self.choices)}
            injected = self._injected(up_set.members) if up_set.poe_rank else {}
            rows += rounded(held | injected, up_set.count)
        crossing = {place: float(choice.row[CARRIES]) for place, choice in enumerate(self.choices)}
        return [*rows, Row(crossing, float(problem.traffic_kbit))]

    def _power_rows(self, levels: Sequence[int]) -> list[Row]:
        """Watts given by each level of supply efficiency, and all watts together."""
        problem = self.group.problem
        watts = {self.first_need + n: need.power_mw for n, (need, _) in enumerate(problem.needs) if need.poe_rank}
        budgets = {place: choice.box.power_most_mw for place, choice in enumerate(self.choices)}
        rows = rounded(budgets | watts, self.group.power_mw)
        drawn = {column: float(power) for column, power in watts.items()}
        for place, level in enumerate(levels):
            column = self.first_level + place
            drawn[column] = 1.0
            given = {
                k: float(c.box.power_most_mw)
                for k, c in enumerate(self.choices)
                if c.box.model.efficiency_percent == level
            }
            rows.append(Row({**given, column: -1.0}, 0.0))
        return [*rows, Row(drawn, float(self.group.power_mw))]


class _Program:
    """A linear program whose first row fixes the number of boxes, solved again for each number."""

    def __init__(self, costs: list[float], most: list[float], rows: list[Row]) -> None:
        self.costs, self.most, self.rows = np.array(costs), np.array(most), rows
        self.solver = pywraplp.Solver.CreateSolver("GLOP")
        columns = [self.solver.NumVar(0.0, high, "") for high in most]
        objective = self.solver.Objective()
        for variable, cost in zip(columns, costs, strict=True):
            objective.SetCoefficient(variable, cost)
        objective.SetMinimization()
        self.constraints = []
        self.matrix = np.zeros((len(rows), len(costs)))
        for number, row in enumerate(rows):
            constraint = self.solver.Constraint(row.at_least, row.at_least if row.exact else self.solver.infinity())
            for column, value in row.entries.items():
                constraint.SetCoefficient(columns[column], value)
                self.matrix[number, column] = value
            self.constraints.append(constraint)
        self.at_least = np.array([row.at_least for row in rows])

    def solve(self, box_count: int) -> tuple[float, NDArray[np.float64]] | None:
        """A true lower bound and every column's reduced cost (never under 0), or None when infeasible."""
        self.constraints[0].SetBounds(float(box_count), float(box_count))
        self.at_least[0] = box_count
        status = self.solver.Solve()
        if status == pywraplp.Solver.INFEASIBLE:
            return None
        # zero duals, when the program could not be solved, leave a bound that is weak but true
        solved = status == pywraplp.Solver.OPTIMAL
        duals = np.array([c.dual_value() if solved else 0.0 for c in self.constraints])
        loose = np.array([not row.exact for row in self.rows])
        duals[loose] = np.maximum(duals[loose], 0.0)
        reduced = self.costs - duals @ self.matrix
        negative = np.minimum(reduced, 0.0)
        return float(duals @ self.at_least + negative @ self.most), np.maximum(reduced, 0.0)
