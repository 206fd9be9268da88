"""Which drop sits on which group of ports, so that the fewest cords move; then the traffic of what records crosses the
fewest links, powered and fast ports stay free for what needs them, and cords are short.

CP-SAT in two programs: the fewest moves, then the rest under that many.  What fits is as in the pick: class and speed
of a port, devices and watts of a box with the margin taken off, what a link carries.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ortools.sat.python import cp_model

from ..demand.needs import Need

SECONDS = 2.0
"""Deterministic time of each program."""

Group = tuple[int, int]
"""A box by its place in the closet, and a group of equal ports of it."""


@dataclass(frozen=True)
class Ports:
    """A group of equal ports: how many are left for drops, their speed [Mbit/s] and class as it compares."""

    at: Group
    count: int
    speed_mbit: int
    poe_rank: int


@dataclass(frozen=True)
class Limit:
    """What one box gives at most: ports, devices with power, and watts with the margin taken off [mW]."""

    ports: int
    powered: int
    power_mw: int


@dataclass(frozen=True)
class Crossing:
    """A link: the boxes behind it, and how much more traffic of drops than none it carries [kbit/s]."""

    boxes: frozenset[int]
    carries_kbit: int


@dataclass(frozen=True)
class Asking:
    """A drop, or one in reserve, that wants a port.

    ``injector``: it is fed beside its port.  ``seat``: where the pick seated it.  ``now``: where it is plugged.
    ``weight``: what moving it counts; 0: nothing is plugged.  ``boxes``: the only boxes that carry its frames.
    ``hops_mbit``: by box what its traffic to a recorder or store makes links carry, times how many it crosses.
    ``cord_cm``: by box the stock length of its cord.
    """

    need: Need
    injector: bool
    seat: Group
    now: Group | None = None
    weight: int = 0
    boxes: frozenset[int] | None = None
    hops_mbit: Mapping[int, int] | None = None
    cord_cm: Mapping[int, int] | None = None

    def fits(self, ports: Ports) -> bool:
        """Whether a port of the group serves it."""
        need = self.need
        if ports.at == self.seat:
            return True
        powered = self.injector or ports.poe_rank >= need.poe_rank
        return powered and ports.speed_mbit >= need.speed_mbit and (self.boxes is None or ports.at[0] in self.boxes)


@dataclass(frozen=True)
class Case:
    """What is assigned in one closet."""

    asking: tuple[Asking, ...]
    ports: tuple[Ports, ...]
    limits: Mapping[int, Limit]
    crossings: tuple[Crossing, ...] = ()


@dataclass(frozen=True)
class Assigned:
    """The group of each that asks.

    ``moves``: Σ weights of those that leave their port, of which no assignment has less than ``bound``; ``cost`` in the
    order of the wishes; ``proven``: none has fewer moves, and with as many none costs less.
    """

    groups: tuple[Group, ...]
    moves: int
    bound: int
    cost: tuple[int, int, int, int]
    proven: bool


def cost_of(case: Case, groups: Sequence[Group]) -> tuple[int, int, int, int]:
    """What an assignment costs: Mbit/s × links crossed on the way to recorder and store; bare drops on powered ports
    and slow ones on faster ports; cm of cord; drops elsewhere than the pick seated them."""
    by_group = {one.at: one for one in case.ports}
    told = [_cost(one, by_group[at]) for one, at in zip(case.asking, groups, strict=True)]
    hops, idle, cord, other = (sum(row) for row in zip(*told, strict=True)) if told else (0, 0, 0, 0)
    return hops, idle, cord, other


def _cost(asked: Asking, ports: Ports) -> tuple[int, int, int, int]:
    box = ports.at[0]
    bare = asked.injector or not asked.need.poe_rank
    idle = int(bare and ports.poe_rank > 0) + int(ports.speed_mbit > asked.need.speed_mbit)
    hops = asked.hops_mbit.get(box, 0) if asked.hops_mbit else 0
    cord = asked.cord_cm.get(box, 0) if asked.cord_cm else 0
    return hops, idle, cord, int(ports.at != asked.seat)


def assign(case: Case) -> Assigned:
    """The groups of the fewest moves, then of the least cost; the pick's own seats are one way."""
    program = _Program(case)
    staying = all(one.now is None or program.may(one, one.now) for one in case.asking)
    moves = program.moves
    if staying:
        found = program.with_all_stayers()
        if found is not None:
            return found
    groups, bound = program.least(moves)
    fewest = program.moved(groups)
    program.model.add(moves <= fewest)
    return program.finished(groups, fewest, bound)


class _Program:
    """The constraints of a case, and what is made least under them."""

    def __init__(self, case: Case) -> None:
        self.case, self.model = case, cp_model.CpModel()
        self.ports = {one.at: one for one in case.ports}
        self.takes: list[dict[Group, cp_model.IntVar]] = []
        for number, asked in enumerate(case.asking):
            row = {p.at: self.model.new_bool_var(f"{number} {p.at}") for p in case.ports if asked.fits(p)}
            self.model.add_exactly_one(row.values())
            self.takes.append(row)
        for ports in case.ports:
            self.model.add(sum(row[ports.at] for row in self.takes if ports.at in row) <= ports.count)
        for box, limit in case.limits.items():
            here = [
                (a, flag)
                for a, row in zip(case.asking, self.takes, strict=True)
                for at, flag in row.items()
                if at[0] == box
            ]
            fed = [(a, flag) for a, flag in here if a.need.poe_rank and not a.injector]
            self.model.add(sum(flag for _, flag in here) <= limit.ports)
            self.model.add(sum(flag for _, flag in fed) <= limit.powered)
            self.model.add(sum(a.need.power_mw * flag for a, flag in fed) <= limit.power_mw)
        for crossing in case.crossings:
            self.model.add(
                sum(
                    asked.need.traffic_kbit * flag
                    for asked, row in zip(case.asking, self.takes, strict=True)
                    for at, flag in row.items()
                    if at[0] in crossing.boxes
                )
                <= crossing.carries_kbit
            )

    def may(self, asked: Asking, group: Group) -> bool:
        return group in self.ports and asked.fits(self.ports[group])

    @property
    def moves(self) -> cp_model.LinearExprT:
        """Σ weights of those that leave their port."""
        return sum(
            asked.weight * (1 - row[asked.now] if asked.now in row else 1)
            for asked, row in zip(self.case.asking, self.takes, strict=True)
            if asked.now is not None and asked.weight
        )

    def moved(self, groups: Sequence[Group]) -> int:
        return sum(
            asked.weight
            for asked, at in zip(self.case.asking, groups, strict=True)
            if asked.now is not None and asked.now != at
        )

    def with_all_stayers(self) -> Assigned | None:
        """The least cost with everything where it is plugged; None: that does not fit, or is not found in time."""
        stayers = [
            row[a.now] for a, row in zip(self.case.asking, self.takes, strict=True) if a.now is not None and a.weight
        ]
        if not stayers:
            return self.finished(None, 0, 0)
        solver = _solver()
        self.model.add_assumptions(stayers)
        self.model.minimize(self._weighed())
        told = solver.solve(self.model)
        self.model.clear_assumptions()
        if told not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
            return None
        return self._told(solver, 0, 0, told == cp_model.OPTIMAL)

    def least(self, expression: cp_model.LinearExprT) -> tuple[list[Group], int]:
        """Groups under which an expression is least, and its lower bound."""
        solver = _solver()
        self._hint([asked.seat for asked in self.case.asking])
        self.model.minimize(expression)
        told = solver.solve(self.model)
        if told not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
            # the pick's own seats fit, whatever the search has found in its time
            return [asked.seat for asked in self.case.asking], 0
        return self._groups(solver), max(0, round(solver.best_objective_bound))

    def finished(self, groups: Sequence[Group] | None, moves: int, bound: int) -> Assigned:
        """The least cost under the constraints so far, begun from some groups."""
        begun = groups or [asked.seat for asked in self.case.asking]
        self._hint(begun)
        self.model.minimize(self._weighed())
        solver = _solver()
        told = solver.solve(self.model)
        if told not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
            return Assigned(tuple(begun), moves, bound, cost_of(self.case, begun), False)
        return self._told(solver, moves, bound, told == cp_model.OPTIMAL and moves == bound)

    def _told(self, solver: cp_model.CpSolver, moves: int, bound: int, proven: bool) -> Assigned:
        groups = self._groups(solver)
        return Assigned(tuple(groups), moves, bound, cost_of(self.case, groups), proven)

    def _groups(self, solver: cp_model.CpSolver) -> list[Group]:
        return [next(at for at, flag in row.items() if solver.boolean_value(flag)) for row in self.takes]

    def _hint(self, groups: Sequence[Group]) -> None:
        self.model.clear_hints()  # type: ignore[no-untyped-call]
        for row, at in zip(self.takes, groups, strict=True):
            for group, flag in row.items():
                self.model.add_hint(flag, group == at)

    def _weighed(self) -> cp_model.LinearExprT:
        """The wishes as one sum, each over all that those after it can come to."""
        many = len(self.case.asking)
        longest = max((cm for one in self.case.asking for cm in (one.cord_cm or {}).values()), default=0)
        cord = many + 1
        idle = cord * (many * longest + 1)
        hops = idle * (2 * many + 1)
        flags, weights = [], []
        for asked, row in zip(self.case.asking, self.takes, strict=True):
            for at, flag in row.items():
                one = _cost(asked, self.ports[at])
                weight = one[0] * hops + one[1] * idle + one[2] * cord + one[3]
                if weight:
                    flags.append(flag)
                    weights.append(weight)
        return cp_model.LinearExpr.weighted_sum(flags, weights) if flags else cp_model.LinearExpr.sum([])


def _solver() -> cp_model.CpSolver:
    solver = cp_model.CpSolver()
    solver.parameters.num_workers = 1
    solver.parameters.random_seed = 1
    solver.parameters.max_deterministic_time = SECONDS
    return solver
