"""Visits: jobs grouped into days of crews, as few as there can be, in their order.

An integer program [1]_: every job falls on one day of one crew of those who do it; a day holds no more than its hours
without the way there and back; a job that comes before another is on an earlier day, or on the same day of the same
crew.  First the fewest days of all crews (so least idle and travel), proven or told with their bound; then the earliest
end with the fewest rooms opened, as far as that is found in time.

References
----------
.. [1] OR-Tools CP-SAT; S. Martello, P. Toth, *Knapsack Problems*, 1990, chapter 8 (bin packing), with precedence.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Mapping
from dataclasses import dataclass

from ortools.sat.python import cp_model

from ..facts.labour import Stage
from ..facts.price import Doer
from .jobs import Job

MINUTES = 60
FIRST_S, SECOND_S = 7.5, 1.5
JOBS_MOST = 260
"""With more jobs days are filled one after the other, and told with their bound."""


@dataclass(frozen=True)
class Team:
    """A crew as it is reckoned with."""

    name: str
    who: Doer
    people: int


@dataclass(frozen=True)
class Waiting:
    """Stages that cannot begin before a day, or not until so many days after another stage."""

    before: tuple[Stage, ...]
    from_day: int = 0
    after: Stage | None = None
    days: int = 0


@dataclass(frozen=True)
class Case:
    """Jobs, who does them, in which order, and how long a day is."""

    jobs: tuple[Job, ...]
    teams: tuple[Team, ...]
    edges: tuple[tuple[int, int], ...]
    day_min: int
    waits: tuple[Waiting, ...] = ()

    def minutes(self, job: Job, team: Team) -> int:
        """What a job takes of a crew's day, up to the next minute."""
        return math.ceil(job.hours * MINUTES / team.people - 1e-9)


@dataclass(frozen=True)
class Planned:
    """Day and crew of every job, and what is known of the least."""

    at: Mapping[int, tuple[int, int]]
    """(day, place of the crew) by the job's number."""
    days: int
    bound: int
    """No plan has fewer days of crews."""


def plan_visits(case: Case) -> Planned:
    """The fewest days of crews, then the earliest end with the fewest rooms opened."""
    if not case.jobs:
        return Planned({}, 0, 0)
    bound = least_days(case)
    quick = filled_up(case)
    days = len(set(quick.values()))
    if len(case.jobs) > JOBS_MOST:
        return Planned(quick, days, bound)
    return _Program(case, quick).solved(days, bound)


def least_days(case: Case) -> int:
    """Days that no plan does with less of: the hours of every doer over what their largest crew does in a day."""
    total = 0
    for who in {job.who for job in case.jobs}:
        most = max(team.people for team in case.teams if team.who == who)
        minutes = sum(job.hours for job in case.jobs if job.who == who) * MINUTES
        total += math.ceil(minutes / most / case.day_min - 1e-9)
    return total


def filled_up(case: Case) -> dict[int, tuple[int, int]]:
    """Days filled one after the other with what may be done, the longest chain first."""
    after: dict[int, list[int]] = defaultdict(list)
    before: dict[int, list[int]] = defaultdict(list)
    for one, other in case.edges:
        after[one].append(other)
        before[other].append(one)
    chain: dict[int, float] = {}

    def length(number: int) -> float:
        if number not in chain:
            chain[number] = case.jobs[number].hours + max((length(one) for one in after[number]), default=0.0)
        return chain[number]

    order = sorted(range(len(case.jobs)), key=lambda number: -length(number))
    at: dict[int, tuple[int, int]] = {}
    day = 0
    while len(at) < len(case.jobs):
        for place, team in enumerate(case.teams):
            left, again = case.day_min, True
            while again:
                again = False
                for number in order:
                    job = case.jobs[number]
                    minutes = case.minutes(job, team)
                    if number in at or job.who != team.who or minutes > left or not _may(case, at, job, day):
                        continue
                    if all(one in at and (at[one][0] < day or at[one] == (day, place)) for one in before[number]):
                        at[number] = (day, place)
                        left -= minutes
                        again = True
        day += 1
    return at


def _may(case: Case, at: Mapping[int, tuple[int, int]], job: Job, day: int) -> bool:
    """Whether nothing that is waited for is in the way."""
    for wait in case.waits:
        if job.stage not in wait.before:
            continue
        if day < wait.from_day:
            return False
        if wait.after is not None:
            first = [one.number for one in case.jobs if one.stage == wait.after]
            if any(number not in at or at[number][0] + wait.days >= day for number in first):
                return False
    return True


class _Program:
    """The integer program of the visits."""

    def __init__(self, case: Case, quick: Mapping[int, tuple[int, int]]) -> None:
        self.case, self.quick = case, quick
        self.horizon = max(day for day, _ in quick.values()) + 1
        self.model = model = cp_model.CpModel()
        self.on: dict[tuple[int, int, int], cp_model.IntVar] = {}
        self.day: dict[int, cp_model.IntVar] = {}
        for job in case.jobs:
            self.day[job.number] = model.new_int_var(0, self.horizon - 1, "")
            mine = []
            for place, team in enumerate(case.teams):
                if team.who == job.who:
                    for day in range(self.horizon):
                        var = self.on[job.number, place, day] = model.new_bool_var("")
                        model.add_hint(var, quick[job.number] == (day, place))
                        mine.append((day, var))
            model.add_exactly_one(var for _, var in mine)
            model.add(self.day[job.number] == sum(day * var for day, var in mine))
        self._days_hold()
        self._orders_hold()

    def _days_hold(self) -> None:
        case, model = self.case, self.model
        self.used: dict[tuple[int, int], cp_model.IntVar] = {}
        for place, team in enumerate(case.teams):
            for day in range(self.horizon):
                here = [(job, self.on[job.number, place, day]) for job in case.jobs
                        if (job.number, place, day) in self.on]  # fmt: skip
                if here:
                    used = self.used[place, day] = model.new_bool_var("")
                    model.add(sum(case.minutes(job, team) * var for job, var in here) <= case.day_min * used)

    def _orders_hold(self) -> None:
        case, model = self.case, self.model
        for one, other in case.edges:
            first, then = case.jobs[one], case.jobs[other]
            teams = [place for place, team in enumerate(case.teams) if team.who == first.who]
            if first.who != then.who:
                model.add(self.day[other] >= self.day[one] + 1)
            elif len(teams) == 1:
                model.add(self.day[other] >= self.day[one])
            else:
                same = model.new_bool_var("")
                for place in teams:
                    mine, its = (sum(self.on[number, place, day] for day in range(self.horizon))
                                 for number in (one, other))  # fmt: skip
                    model.add(mine - its <= 1 - same)
                    model.add(its - mine <= 1 - same)
                model.add(self.day[other] >= self.day[one] + 1 - same)
        for wait in case.waits:
            for job in case.jobs:
                if job.stage not in wait.before:
                    continue
                model.add(self.day[job.number] >= min(wait.from_day, self.horizon - 1))
                for first in case.jobs:
                    if first.stage == wait.after:
                        model.add(self.day[job.number] >= self.day[first.number] + wait.days + 1)

    def solved(self, days: int, bound: int) -> Planned:
        """The fewest days, then the earliest end and the fewest rooms opened."""
        used = sum(self.used.values())
        at = dict(self.quick)
        if not self.case.waits:
            # nothing is waited for: a crew that comes once more comes the day after
            for (place, day), var in self.used.items():
                if (place, day + 1) in self.used:
                    self.model.add(self.used[place, day + 1] <= var)
        self.model.add(used >= bound)
        if days > bound:
            self.model.minimize(used)
            status, solver = self._solve(FIRST_S)
            if status in (cp_model.OPTIMAL, cp_model.FEASIBLE):
                at = self._read(solver)
                days = len(set(at.values()))
                bound = max(bound, math.ceil(solver.best_objective_bound - 1e-6))
        self.model.add(used <= days)
        last = self.model.new_int_var(0, self.horizon, "")
        for var in self.day.values():
            self.model.add(last >= var)
        opened: dict[tuple[int, int], list[cp_model.IntVar]] = defaultdict(list)
        for (number, _, day), var in self.on.items():
            if (room := self.case.jobs[number].room_id) is not None:
                opened[room, day].append(var)
        rooms = []
        for some in opened.values():
            rooms.append(self.model.new_bool_var(""))
            for var in some:
                self.model.add_implication(var, rooms[-1])
        self.model.clear_hints()  # type: ignore[no-untyped-call]
        for key, var in self.on.items():
            self.model.add_hint(var, at[key[0]] == (key[2], key[1]))
        self.model.minimize((len(rooms) + 1) * last + sum(rooms))
        status, solver = self._solve(SECOND_S)
        if status in (cp_model.OPTIMAL, cp_model.FEASIBLE):
            at = self._read(solver)
        return Planned(at, len(set(at.values())), bound)

    def _solve(self, seconds: float) -> tuple[cp_model.CpSolverStatus, cp_model.CpSolver]:
        solver = cp_model.CpSolver()
        solver.parameters.max_time_in_seconds, solver.parameters.num_workers = seconds, 2
        solver.parameters.random_seed = 1
        return solver.solve(self.model), solver

    def _read(self, solver: cp_model.CpSolver) -> dict[int, tuple[int, int]]:
        return {number: (day, place) for (number, place, day), var in self.on.items() if solver.value(var)}
