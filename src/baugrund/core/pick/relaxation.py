"""Bounds: what any pick must at least cost.

An aggregated linear relaxation (no copies, no seats) gives a least cost and, through its duals, what each
further box must at least add.  The bound holds for any duals, however inexact: it is recomputed from them.
``shortfalls`` is the same in whole numbers for one given set of boxes.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from ortools.linear_solver import pywraplp

from ..demand import Need
from .problem import LINK_FILL_PERCENT, BoxType, InjectorType, Problem, mains_mw

Weight = Literal["price", "power"]
"""What is made least: money, or mains draw with port watts."""
TOLERANCE = 1e-3


@dataclass(frozen=True)
class UpSet:
    """All needs of at least this speed and class, and how many drops that is."""

    speed_mbit: int
    poe_rank: int
    count: int
    powers_mw: tuple[int, ...]
    """Their watts, least first."""

    def held_by(self, box: BoxType) -> int:
        """Most of these drops that one box can carry without injectors."""
        ports = min(box.ports_with(self.speed_mbit, self.poe_rank), box.ports_most)
        if not self.poe_rank:
            return ports
        held, left = 0, box.power_most_mw
        for power in self.powers_mw[: min(ports, box.powered_most)]:
            if power > left:
                break
            left -= power
            held += 1
        return held


class Bounds:
    """The up-sets of a problem and what each box type contributes to them."""

    def __init__(self, problem: Problem) -> None:
        self.problem = problem
        needs = problem.needs
        speeds = sorted({need.speed_mbit for need, _ in needs})
        ranks = sorted({need.poe_rank for need, _ in needs} | {0})
        self.up_sets: list[UpSet] = []
        for poe_rank in ranks:
            last = 0
            for speed in reversed(speeds):
                inside = [(n, c) for n, c in needs if n.speed_mbit >= speed and n.poe_rank >= poe_rank]
                count = sum(c for _, c in inside)
                if count > last:
                    powers = sorted(n.power_mw for n, c in inside for _ in range(c))
                    self.up_sets.append(UpSet(speed, poe_rank, count, tuple(powers)))
                    last = count
        self.power_mw = sum(need.power_mw * count for need, count in needs)
        self.powers_down = sorted((n.power_mw for n, c in needs if n.poe_rank for _ in range(c)), reverse=True)
        self.traffics_down = sorted((n.traffic_kbit for n, c in needs for _ in range(c)), reverse=True)
        self._held: dict[tuple[int, int], tuple[int, ...]] = {}

    def held(self, box: BoxType) -> tuple[int, ...]:
        """What one box can hold of each up-set."""
        key = (box.index, box.price_minor)
        if key not in self._held:
            self._held[key] = tuple(up_set.held_by(box) for up_set in self.up_sets)
        return self._held[key]

    def fastest_end_mbit(self, box: BoxType) -> int:
        """Fastest way to end a link at a box [Mbit/s]."""
        slot = max((speed for _, speed in box.slots), default=0) if self.problem.modules else 0
        return max([slot, *(port.speed_mbit for port in box.ports)])

    def own_traffic_kbit(self, router: BoxType) -> int:
        """Most traffic that a router can take on its own ports, crossing no link."""
        return sum(self.traffics_down[: min(router.ports_most, router.model.port_count)])

    def link_room_kbit(self, router: BoxType) -> int:
        """Most traffic that all link ends of a router could carry."""
        ends = sum(port.count * port.speed_mbit for port in router.ports)
        if self.problem.modules:
            ends += sum(count * speed for count, speed in router.slots)
        return ends * 10 * LINK_FILL_PERCENT

    @cached_property
    def cheapest_injector(self) -> dict[int, InjectorType]:
        """For each class rank the cheapest injector that gives at least that."""
        found: dict[int, InjectorType] = {}
        for poe_rank in {need.poe_rank for need, _ in self.problem.needs if need.poe_rank}:
            able = [i for i in self.problem.injectors if i.poe_rank >= poe_rank]
            if able:
                found[poe_rank] = min(able, key=lambda i: i.price_minor)
        return found

    @cached_property
    def cheapest_module(self) -> int:
        return min((module.price_minor for module in self.problem.modules), default=0)

    def least_extra(self, boxes: Sequence[BoxType]) -> int | None:
        """Least price of injectors and modules that these boxes need [minor]; None when no packing can exist."""
        problem = self.problem
        links = len(boxes) - 1
        ports = sum(box.ports_most for box in boxes)
        slots = sum(count for box in boxes for count, _ in box.slots) if problem.modules else 0
        wanted = problem.drops + 2 * links
        if ports + slots < wanted:
            return None
        injected: dict[int, int] = {}
        held = [sum(column) for column in zip(*(self.held(box) for box in boxes), strict=True)]
        for up_set, have in zip(self.up_sets, held, strict=True):
            short = up_set.count - have
            if short > 0:
                if up_set.poe_rank not in self.cheapest_injector:
                    return None
                injected[up_set.poe_rank] = max(injected.get(up_set.poe_rank, 0), short)
        if not self._traffic_may_cross(boxes):
            return None
        cost, counted = 0, 0
        for poe_rank in sorted(injected, reverse=True):
            more = injected[poe_rank] - counted
            if more > 0:
                cost += more * self.cheapest_injector[poe_rank].price_minor
                counted += more
        by_watts = self._injected_for_watts(sum(box.power_most_mw for box in boxes))
        if by_watts > counted:
            if not self.cheapest_injector:
                return None
            counted = by_watts
            cost = max(cost, by_watts * min(i.price_minor for i in self.cheapest_injector.values()))
        sockets = sum(box.model.sockets for box in boxes) + counted
        outlets = len(boxes) + counted
        if sockets > problem.sockets or (problem.ups_outlets is not None and outlets > problem.ups_outlets):
            return None
        return cost + max(0, wanted - ports) * self.cheapest_module

    def _injected_for_watts(self, given_mw: int) -> int:
        over, count = self.power_mw - given_mw, 0
        for power in self.powers_down:
            if over <= 0:
                break
            over -= power
            count += 1
        return count

    def _traffic_may_cross(self, boxes: Sequence[BoxType]) -> bool:
        router, rest = boxes[0], boxes[1:]
        crossing = self.problem.traffic_kbit - self.own_traffic_kbit(router)
        if crossing <= 0:
            return True
        room = min(
            self.link_room_kbit(router),
            sum(self.fastest_end_mbit(box) for box in rest) * 10 * LINK_FILL_PERCENT,
        )
        return crossing <= room


class Relaxation:
    """The linear relaxation of a problem: ``least`` over all picks, ``adds`` for each further box."""

    def __init__(self, bounds: Bounds, weight: Weight, base: Sequence[BoxType], box_count: int | None) -> None:
        self.bounds = bounds
        self.weight = weight
        problem = bounds.problem
        self.types = (*problem.routers, *problem.switches)
        rows = _rows(bounds, self.types, box_count)
        costs = [float(self.box_cost(box)) for box in self.types]
        costs += [self._injected_cost(need) for need, _ in problem.needs]
        efficiencies = sorted({box.model.efficiency_percent for box in self.types if box.power_most_mw})
        given = len(costs)
        for place, efficiency in enumerate(efficiencies):
            costs.append(100.0 / efficiency if weight == "power" else 0.0)
            row = {k: float(b.power_most_mw) for k, b in enumerate(self.types)
                   if b.model.efficiency_percent == efficiency}  # fmt: skip
            rows.append(Row({**row, given + place: -1.0}, 0.0))
        offset = len(self.types)
        watts = {offset + i: float(need.power_mw) for i, (need, _) in enumerate(problem.needs) if need.poe_rank}
        rows.append(Row(watts | {given + place: 1.0 for place in range(len(efficiencies))}, float(bounds.power_mw)))
        lowest = [float(sum(box is other for other in base)) for box in self.types]
        most = [_most(box) for box in self.types]
        for (need, count), injector in zip(problem.needs, problem.injector_for, strict=True):
            able = injector is not None or any(i.serves(need) for i in problem.injectors)
            most.append(float(count) if need.poe_rank and able else 0.0)
        most += [float(bounds.power_mw)] * len(efficiencies)
        lowest += [0.0] * (len(most) - len(lowest))
        self.feasible, duals = _solve(costs, lowest, most, rows)
        if self.feasible:
            self._bound(costs, most, rows, duals)

    def box_cost(self, box: BoxType) -> int:
        """What one box costs under the weight: minor units, or milliwatts from the mains."""
        return box.price_minor if self.weight == "price" else box.own_mains_mw

    def _injected_cost(self, need: Need) -> float:
        able = [i for i in self.bounds.problem.injectors if i.serves(need)] if need.poe_rank else []
        if not able:
            return 0.0
        if self.weight == "price":
            return float(min(i.price_minor for i in able))
        return float(min(i.own_mains_mw + mains_mw(need.power_mw, i.model.efficiency_percent) for i in able))

    def _bound(self, costs: list[float], most: list[float], rows: list[Row], duals: list[float]) -> None:
        reduced = list(costs)
        least = 0.0
        for row, dual in zip(rows, duals, strict=True):
            usable = dual if row.exact else max(0.0, dual)
            least += usable * row.at_least
            for column, value in row.entries.items():
                reduced[column] -= usable * value
        for column in range(len(costs)):
            if reduced[column] < 0.0:
                least += reduced[column] * most[column]
                reduced[column] = 0.0
        self.least = least
        self.adds = {box: reduced[place] for place, box in enumerate(self.types)}


@dataclass(frozen=True)
class Row:
    """Σ entries·columns ≥ at_least, or = when exact."""

    entries: dict[int, float]
    at_least: float
    exact: bool = False


def _most(box: BoxType) -> float:
    return 1.0 if box.is_router else float(box.most if box.most is not None else 50)


def _rows(bounds: Bounds, types: Sequence[BoxType], box_count: int | None) -> list[Row]:
    problem = bounds.problem
    routers = [place for place, box in enumerate(types) if box.is_router]
    rows = [Row({place: 1.0 for place in routers}, 1.0, exact=True)]
    if box_count is not None:
        rows.append(Row({place: 1.0 for place in range(len(types))}, float(box_count), exact=True))
    slots_count = bool(problem.modules)
    ends: dict[int, float] = {}
    traffic: dict[int, float] = {}
    for place, box in enumerate(types):
        slots = sum(count for count, _ in box.slots) if slots_count else 0
        ends[place] = box.ports_most + slots - (0 if box.is_router else 2)
        if box.is_router:
            traffic[place] = float(bounds.own_traffic_kbit(box))
        else:
            traffic[place] = bounds.fastest_end_mbit(box) * 10.0 * LINK_FILL_PERCENT
    rows.append(Row(ends, float(problem.drops)))
    rows.append(Row(traffic, float(problem.traffic_kbit)))
    offset = len(types)
    for place, up_set in enumerate(bounds.up_sets):
        entries = {k: float(bounds.held(box)[place]) for k, box in enumerate(types)}
        if up_set.poe_rank:
            for i, (need, _) in enumerate(problem.needs):
                if need.speed_mbit >= up_set.speed_mbit and need.poe_rank >= up_set.poe_rank:
                    entries[offset + i] = 1.0
        rows.append(Row(entries, float(up_set.count)))
    injected = {offset + i: -1.0 for i, (need, _) in enumerate(problem.needs) if need.poe_rank}
    resources = [([box.model.sockets for box in types], problem.sockets, True)]
    resources.append(([box.model.units for box in types], problem.units, False))
    resources.append(([box.mass_g for box in types], problem.load_g, False))
    if problem.ups_outlets is not None:
        resources.append(([1] * len(types), problem.ups_outlets, True))
    for taken, there, with_injectors in resources:
        row = {k: -float(amount) for k, amount in enumerate(taken)}
        rows.append(Row(row | injected if with_injectors else row, -float(there)))
    return rows


def _solve(
    costs: list[float], lowest: list[float], most: list[float], rows: list[Row]
) -> tuple[bool, list[float]]:
    solver = pywraplp.Solver.CreateSolver("GLOP")
    columns = [solver.NumVar(lowest[k], max(lowest[k], most[k]), "") for k in range(len(costs))]
    objective = solver.Objective()
    for column, cost in zip(columns, costs, strict=True):
        objective.SetCoefficient(column, cost)
    objective.SetMinimization()
    constraints = []
    for row in rows:
        constraint = solver.Constraint(row.at_least, row.at_least if row.exact else solver.infinity())
        for column_number, value in row.entries.items():
            if value:
                constraint.SetCoefficient(columns[column_number], value)
        constraints.append(constraint)
    status = solver.Solve()
    if status != pywraplp.Solver.OPTIMAL:
        # only a clean "infeasible" proves anything; without duals the bound falls back to nothing
        return status != pywraplp.Solver.INFEASIBLE, [0.0] * len(rows)
    return True, [constraint.dual_value() for constraint in constraints]
