"""A linear relaxation of the choice of boxes: what any pick with given boxes in it costs at least.

Aggregated: no copies, no seats.  The bound is recomputed from the duals, so it holds however inexact they are.

References
----------
.. [1] Nemhauser, Wolsey: Integer and Combinatorial Optimization, I.2 (duality bounds) and II.4 (branch and bound).
"""

from __future__ import annotations

from collections import deque
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray
from ortools.linear_solver import pywraplp

from .bounds import CARRIES, FREE, HELD, MASS, PRICE, SLOTS, SOCKETS, UNITS, Choice, LinkClass, trunk_ends
from .seating import seat_mains_mw
from .supply import BoxType

Weight = Literal["price", "power"]
"""What is made least: money [minor], or mains draw with port watts [mW]."""

DUALS_KEPT = 96
NEVER = 1e12
"""What a box that cannot be linked adds."""

Entries = Mapping[int, float]


@dataclass(frozen=True)
class Bound:
    """The least that any pick with the given boxes costs, and what one more of each box adds to that at least."""

    least: float
    adds: NDArray[np.float64]


class Relaxation:
    """The relaxation of one link class over its boxes: roots first, then switches in the order of the problem.

    With a ``hub`` (a root, or a switch of which one copy is it) every link of the star ends at it, on ends that it has,
    and its links take ports from its drops; without, links end anywhere.
    """

    def __init__(
        self,
        group: LinkClass,
        weight: Weight,
        hub: BoxType | None = None,
        box_count: int | None = None,
        price_ceiling: int | None = None,
    ) -> None:
        self.group = group
        self.weight: Weight = weight
        self.hub = hub
        problem = group.problem
        roots = [choice.box for choice in group.roots if hub is None or not hub.is_root or choice.box is hub]
        self.boxes = (*roots, *problem.switches)
        self.first_switch = len(roots)
        self.choices = _choices(group, roots, hub)
        self._rows = np.array([choice.row for choice in self.choices])
        self.trunks = trunk_ends(problem)
        self.first_need = len(self.choices)
        self.moved = self.first_need + len(problem.needs)
        self.first_hub = self.moved + 1
        self.first_level = self.first_hub + (0 if hub is None else len(group.up_sets))
        levels = sorted({c.box.model.efficiency_percent for c in self.choices if c.box.power_most_mw})
        money = weight == "price"
        costs = [float(c.row[PRICE]) if money else float(c.box.own_mains_mw) for c in self.choices]
        costs += [self._injected_cost(number, weight) for number in range(len(problem.needs))]
        costs += [float(self.trunks.move_minor) if money else 0.0]
        costs += [0.0] * (self.first_level - self.first_hub)
        costs += [100.0 / level if weight == "power" else 0.0 for level in levels]
        most = [1.0 if c.is_hub else float(_most(problem.boxes_most(), c.box)) for c in self.choices]
        most += [float(count) if problem.injectors_for[need] else 0.0 for need, count in problem.needs]
        most += [float(self.trunks.may_move)]
        most += [] if hub is None else [float(up_set.held(hub, None, None)) for up_set in group.up_sets]
        most += [float(group.power_mw)] * len(levels)
        self._program = _Program(costs, most)
        self._most = np.array([float(_most(10**3, box)) for box in self.boxes])
        self._duals: deque[tuple[float, NDArray[np.float64]]] = deque(maxlen=DUALS_KEPT)
        """Constant and weights of the boxes of bounds found lately."""
        self._add_box_rows(box_count)
        self._add_rows(levels)
        if hub is not None:
            self._add_hub_rows(hub)
        if price_ceiling is not None:
            self._program.add(self._spent(), -float(price_ceiling - self.trunks.least_minor))

    @property
    def base(self) -> tuple[int, ...]:
        """What is in from the start: the hub, if it is a switch."""
        return tuple(int(box is self.hub and not box.is_root) for box in self.boxes)

    def bound(self, base: Sequence[int], start: int) -> Bound | None:
        """The bound when so many of each box are in, and more only of those from the place ``start`` on."""
        least, most = self._ranges(base, start)
        for place in range(len(self.boxes)):
            self._program.set_range(place, least[place], most[place])
        solved = self._program.solve()
        if solved is None:
            return None
        cost, reduced, duals = solved
        adds = np.full(len(self.boxes), NEVER)
        np.minimum.at(adds, self._place, reduced[: self.first_need])
        mine = duals[: len(self.boxes)]
        weights = mine + adds
        self._duals.append((cost - float(np.where(mine >= 0, least, most) @ mine), weights))
        constant = self.trunks.least_minor if self.weight == "price" else 0
        return Bound(cost + constant, adds + np.maximum(mine, 0.0))

    def quick_bound(self, base: Sequence[int], start: int) -> float:
        """A lower bound from the duals of bounds found before: they stay feasible, for only ranges change."""
        if not self._duals:
            return 0.0
        least, most = self._ranges(base, start)
        constants = np.array([constant for constant, _ in self._duals])
        weights = np.array([weight for _, weight in self._duals])
        bounds = constants + np.where(weights >= 0, weights * least, weights * most).sum(axis=1)
        return float(bounds.max()) + (self.trunks.least_minor if self.weight == "price" else 0)

    def _ranges(self, base: Sequence[int], start: int) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
        """How many of each box there are at least and at most."""
        least = np.array(base, dtype=np.float64)
        most = np.where(np.arange(len(base)) >= start, np.maximum(self._most, least), least)
        rooted = any(base[: self.first_switch])
        most[: self.first_switch] = least[: self.first_switch] if rooted else 1.0
        return least, most

    def takes(self) -> NDArray[np.float64]:
        """How many of each box, and what parts, the bound found last takes."""
        taken: NDArray[np.float64] = np.bincount(
            self._place, self._program.values()[: self.first_need], len(self.boxes)
        ).astype(np.float64)
        return taken

    def _injected_cost(self, number: int, weight: Weight) -> float:
        need = self.group.problem.needs[number][0]
        able = self.group.problem.injectors_for[need]
        if weight == "price":
            return float(min((i.price_minor for i in able), default=0))
        return float(min((i.own_mains_mw + seat_mains_mw(need, i) for i in able), default=0))

    def _injected(self, members: Sequence[int]) -> dict[int, float]:
        needs = self.group.problem.needs
        return {self.first_need + number: 1.0 for number in members if needs[number][0].poe_rank}

    def _column(self, column: int, factor: float = 1.0) -> dict[int, float]:
        values = self._rows[:, column]
        places = np.flatnonzero(values)
        return dict(zip(places.tolist(), (values[places] * factor).tolist(), strict=True))

    def _spent(self) -> dict[int, float]:
        spent = self._column(PRICE, -1.0)
        for number in range(len(self.group.problem.needs)):
            spent[self.first_need + number] = -self._injected_cost(number, "price")
        return spent | {self.moved: -float(self.trunks.move_minor)}

    def _add_box_rows(self, box_count: int | None) -> None:
        """A row for the number of each box, whose range a bound sets; one root; the number of all of them."""
        at = {box: place for place, box in enumerate(self.boxes)}
        self._place = np.array([at[choice.box] for choice in self.choices], dtype=np.intp)
        for place in range(len(self.boxes)):
            self._program.add({k: 1.0 for k in np.flatnonzero(self._place == place).tolist()}, 0.0, 1.0)
        rooting = np.flatnonzero(self._place < self.first_switch).tolist()
        self._program.add({k: 1.0 for k in rooting}, 1.0, 1.0)
        for k, choice in enumerate(self.choices):
            if choice.is_hub:
                self._program.add({k: 1.0}, 1.0, 1.0)
        if box_count is not None:
            self._program.add({place: 1.0 for place in range(self.first_need)}, float(box_count), float(box_count))

    def _add_rows(self, levels: Sequence[int]) -> None:
        group, problem, add = self.group, self.group.problem, self._program.add
        injected = {column: -1.0 for column in self._injected(range(len(problem.needs)))}
        add(self._column(SOCKETS, -1.0) | injected, -float(problem.sockets))
        add(self._column(UNITS, -1.0), -float(problem.units))
        add(self._column(MASS, -0.001), -problem.load_g / 1000)
        if problem.ups_outlets is not None:
            add({place: -1.0 for place in range(self.first_need)} | injected, -float(problem.ups_outlets))
        add(self._column(FREE) | {self.moved: 1.0}, float(problem.drops + self.trunks.on_ports))
        add(self._column(SLOTS) | {self.moved: -1.0}, float(self.trunks.in_slots))
        for number, up_set in enumerate(group.up_sets):
            hub = {} if self.hub is None else {self.first_hub + number: 1.0}
            add(self._column(HELD + number) | self._injected(up_set.curable) | hub, float(up_set.count))
        add(self._column(CARRIES, 0.001), problem.traffic_kbit / 1000)
        self._add_power_rows(levels)

    def _add_hub_rows(self, hub: BoxType) -> None:
        """Links end on ports and in slots that the hub has; what they take, its drops do not find."""
        on_ports = {k: c.way.rate_mbit for k, c in enumerate(self.choices) if c.way and not c.in_hub_slot}
        in_slots = {k: c.way.rate_mbit for k, c in enumerate(self.choices) if c.way and c.in_hub_slot}
        for rate in sorted(set(in_slots.values())):
            there = sum(count for count, speed in hub.slots if speed >= rate)
            self._program.add({k: -1.0 for k, fast in in_slots.items() if fast >= rate}, -float(there))
        for rate in sorted(set(on_ports.values())):
            links = {k: -1.0 for k, fast in on_ports.items() if fast >= rate}
            self._program.add(links, -float(hub.ports_with(rate, 0)))
            for number, up_set in enumerate(self.group.up_sets):
                either = up_set.ports_or_faster(hub, rate)
                if (
                    up_set.held(hub, None, None) + min(self.group.problem.boxes_most(), hub.ports_with(rate, 0))
                    <= either
                ):
                    continue
                self._program.add(links | {self.first_hub + number: -1.0}, -float(either))

    def _add_power_rows(self, levels: Sequence[int]) -> None:
        """All watts together, and those that each level of supply efficiency gives."""
        group, needs = self.group, self.group.problem.needs
        watts = {self.first_need + n: need.power_mw / 1000 for n, (need, _) in enumerate(needs) if need.poe_rank}
        budgets = {place: choice.box.power_most_mw / 1000 for place, choice in enumerate(self.choices)}
        self._program.add(budgets | watts, group.power_mw / 1000)
        if self.weight == "price":
            return
        drawn = dict(watts)
        for place, level in enumerate(levels):
            column = self.first_level + place
            drawn[column] = 0.001
            given = {
                k: budgets[k] for k, choice in enumerate(self.choices) if choice.box.model.efficiency_percent == level
            }
            self._program.add({**given, column: -0.001}, 0.0)
        self._program.add(drawn, group.power_mw / 1000)


def _choices(group: LinkClass, roots: Sequence[BoxType], hub: BoxType | None) -> tuple[Choice, ...]:
    """Every choice: roots (with their link to the hub), the hub, and switches with every link worth having."""
    switches = group.problem.switches
    if hub is None:
        mine = [choice for choice in group.roots if choice.box in roots]
        return (*mine, *(choice for box in switches for choice in group.choices(box)))
    leaves = [Choice(box, row, way, way.upper_in_slot) for box in switches for way, row in group.leaf_rows(hub, box)]
    if hub.is_root:
        return (Choice(hub, group.bare_row(hub)), *leaves)
    rooted = [Choice(root, row, way, way.lower_in_slot) for root in roots for way, row in group.rooted_rows(root, hub)]
    return (*rooted, Choice(hub, group.bare_row(hub), is_hub=True), *leaves)


def _most(at_once: int, box: BoxType) -> int:
    if box.is_root:
        return 1
    return at_once if box.most is None else box.most


class _Program:
    """A linear program of columns from 0 to their most, solved again as the ranges of its first rows change."""

    def __init__(self, costs: list[float], most: list[float]) -> None:
        self.costs, self.most = np.array(costs), np.array(most)
        self.solver = pywraplp.Solver.CreateSolver("GLOP")
        self.solver.SetSolverSpecificParametersAsString("use_preprocessing: false")
        self.columns = [self.solver.NumVar(0.0, high, "") for high in most]
        objective = self.solver.Objective()
        for variable, cost in zip(self.columns, costs, strict=True):
            objective.SetCoefficient(variable, cost)
        objective.SetMinimization()
        self.rows: list[pywraplp.Constraint] = []
        self._entries: list[dict[int, float]] = []
        self._least: list[float] = []
        self._highest: list[float] = []
        self._matrix: NDArray[np.float64] | None = None

    def add(self, entries: Entries, at_least: float, at_most: float = np.inf) -> None:
        """A row: at_least ≤ Σ entries·columns ≤ at_most."""
        row = self.solver.Constraint(at_least, at_most if np.isfinite(at_most) else self.solver.infinity())
        used = {column: value for column, value in entries.items() if value}
        for column, value in used.items():
            row.SetCoefficient(self.columns[column], value)
        self.rows.append(row)
        self._entries.append(used)
        self._least.append(at_least)
        self._highest.append(at_most)

    def set_range(self, row: int, at_least: float, at_most: float) -> None:
        """Change what a row must be between."""
        if (self._least[row], self._highest[row]) != (at_least, at_most):
            self._least[row], self._highest[row] = at_least, at_most
            self.rows[row].SetBounds(at_least, at_most)

    def values(self) -> NDArray[np.float64]:
        """The columns as solved last."""
        return np.array([column.solution_value() for column in self.columns])

    def solve(self) -> tuple[float, NDArray[np.float64], NDArray[np.float64]] | None:
        """A true lower bound, reduced costs and duals; None when infeasible."""
        if self._matrix is None:
            self._matrix = np.zeros((len(self.rows), len(self.columns)))
            for number, entries in enumerate(self._entries):
                for column, value in entries.items():
                    self._matrix[number, column] = value
        status = self.solver.Solve()
        if status == pywraplp.Solver.INFEASIBLE:
            return None
        # zero duals, when the program could not be solved, leave a bound that is weak but true
        solved = status == pywraplp.Solver.OPTIMAL
        duals = np.array([row.dual_value() if solved else 0.0 for row in self.rows])
        least, highest = np.array(self._least), np.array(self._highest)
        duals = np.where(np.isfinite(highest), duals, np.maximum(duals, 0.0))
        reduced = self.costs - duals @ self._matrix
        at = np.where(duals >= 0, least, np.where(np.isfinite(highest), highest, 0.0))
        bound = float(duals @ at + np.minimum(reduced, 0.0) @ self.most)
        return bound, np.maximum(reduced, 0.0), duals
