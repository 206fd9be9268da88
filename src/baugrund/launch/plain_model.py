"""The pick of one closet as a plain mixed-integer model: every copy of every model a variable, equal drops grouped.

Nothing clever, and nothing shared with the solver but the problem: what the solver is measured against, and must equal
wherever this one proves.  Stars only, and no drops that ask for large frames.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Literal

from ortools.linear_solver import pywraplp

from baugrund.core.pick.model.problem import Problem
from baugrund.core.pick.model.supply import BoxType, link_ends

Backend = Literal["SAT", "HIGHS"]
"""CP-SAT or HiGHS, by way of the same model."""


@dataclass(frozen=True)
class Plain:
    """Least price found [minor], None: none; whether it is proven, and the bound."""

    price_minor: int | None
    proven: bool
    bound: float


def plain_least_price(problem: Problem, backend: Backend, seconds: float, copies: int) -> Plain:
    """The least price of a star by the plain model with up to so many copies of each switch."""
    return _Plain(problem, backend, copies).solve(seconds)


class _Plain:
    def __init__(self, problem: Problem, backend: Backend, copies: int) -> None:
        self.problem = problem
        self.solver = pywraplp.Solver.CreateSolver(backend)
        self.boxes: list[BoxType] = list(problem.roots)
        for box in problem.switches:
            self.boxes += [box] * (copies if box.most is None else min(box.most, copies))
        self.used = [self.solver.BoolVar("") for _ in self.boxes]
        self.hub = [self.solver.BoolVar("") for _ in self.boxes]
        self.cost: list[Any] = [
            box.cost_minor * used for box, used in zip(self.boxes, self.used, strict=True)
        ]  # fmt: skip
        self.seats: list[list[Any]] = [[] for _ in problem.needs]
        self.injected: list[Any] = []
        self.lower: dict[tuple[str, int], list[Any]] = {}
        self.upper: dict[tuple[str, int], list[Any]] = {}
        self._tree()
        for place in range(len(self.boxes)):
            self._box(place)
        self._links_match()
        self._housing()

    def _tree(self) -> None:
        add, roots = self.solver.Add, len(self.problem.roots)
        add(sum(self.used[:roots]) == 1)
        add(sum(self.hub) == 1)
        for used, hub in zip(self.used, self.hub, strict=True):
            add(hub <= used)
        for place in range(roots, len(self.boxes) - 1):
            if self.boxes[place] is self.boxes[place + 1]:
                add(self.used[place] >= self.used[place + 1])

    def _box(self, place: int) -> None:
        box, used, hub = self.boxes[place], self.used[place], self.hub[place]
        add, total = self.solver.Add, self.problem.traffic_kbit
        on_port: list[list[Any]] = [[] for _ in box.ports]
        in_slot: list[list[Any]] = [[] for _ in box.slots]
        own_links, carries = [], []
        for end in link_ends(self.problem.modules, box):
            rates = [r for r in (100, 1000, 2500, 5000, 10000) if r <= end.speed_mbit]
            for rate in rates if end.medium == "copper" else [end.speed_mbit]:
                down, up = self.solver.BoolVar(""), self.solver.IntVar(0, len(self.boxes), "")
                self.lower.setdefault((end.medium, rate), []).append(down)
                self.upper.setdefault((end.medium, rate), []).append(up)
                add(up <= len(self.boxes) * hub)
                self.cost += [end.price_minor * down, end.price_minor * up]
                taken = on_port[end.port] if end.port is not None else in_slot[end.slot or 0]
                taken += [down, up]
                own_links.append(down)
                carries.append(rate * 10 * self.problem.fill_percent * down)
        add(sum(own_links) == used - hub)
        traffic, watts = self._drops(place, on_port)
        for group, port in enumerate(box.ports):
            add(sum(on_port[group]) <= port.count * used)
        for group, (count, _) in enumerate(box.slots):
            add(sum(in_slot[group]) <= count * used)
        add(sum(watts) <= box.power_most_mw / 1000 * used)
        if box.is_root:
            add(total * used - sum(traffic) <= sum(carries) + total * hub)
        else:
            add(sum(traffic) <= sum(carries) + total * hub)

    def _drops(self, place: int, on_port: Sequence[list[Any]]) -> tuple[list[Any], list[Any]]:
        """Seats of all drops on a box: traffic [kbit/s] and watts [W] that they bring."""
        traffic, watts = [], []
        for group, port in enumerate(self.boxes[place].ports):
            for number, (need, count) in enumerate(self.problem.needs):
                if port.speed_mbit < need.speed_mbit:
                    continue
                if port.poe_rank >= need.poe_rank:
                    seat = self.solver.IntVar(0, min(count, port.count), "")
                    on_port[group].append(seat)
                    self.seats[number].append(seat)
                    traffic.append(need.traffic_kbit * seat)
                    watts.append(need.power_mw / 1000 * seat)
                for injector in self.problem.injectors if need.poe_rank else ():
                    if injector.serves(need):
                        seat = self.solver.IntVar(0, min(count, port.count), "")
                        on_port[group].append(seat)
                        self.seats[number].append(seat)
                        traffic.append(need.traffic_kbit * seat)
                        self.injected.append((injector, seat))
                        self.cost.append(injector.price_minor * seat)
        return traffic, watts

    def _links_match(self) -> None:
        for key in self.lower:
            self.solver.Add(sum(self.lower[key]) == sum(self.upper[key]))

    def _housing(self) -> None:
        problem, add = self.problem, self.solver.Add
        for number, (_, count) in enumerate(problem.needs):
            add(sum(self.seats[number]) == count)
        pairs = list(zip(self.boxes, self.used, strict=True))
        for number, there in enumerate(problem.capacities):
            boxes = sum(box.takes[number] * used for box, used in pairs)
            add(boxes + sum(injector.takes[number] * seat for injector, seat in self.injected) <= there)

    def solve(self, seconds: float) -> Plain:
        self.solver.Minimize(sum(self.cost))
        self.solver.SetTimeLimit(round(seconds * 1000))
        status = self.solver.Solve()
        proven = status in (pywraplp.Solver.OPTIMAL, pywraplp.Solver.INFEASIBLE)
        if status not in (pywraplp.Solver.OPTIMAL, pywraplp.Solver.FEASIBLE):
            return Plain(None, proven, 0.0)
        return Plain(round(self.solver.Objective().Value()), proven, self.solver.Objective().BestBound())
