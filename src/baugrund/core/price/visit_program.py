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
import random
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ortools.sat.python import cp_model

from ..facts.labour import Stage
from ..facts.price import Doer
from .jobs import Job

MINUTES = 60
TRIES, RESTARTS = 24, 4
"""Orders in which each day is filled, and times that all of them are filled anew."""
FIRST_S, SECOND_S = 1.0, 0.4
"""Of the solver's deterministic time, so that everybody is told the same [s]."""
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
    quick, days = _quickly(case, bound)
    if len(case.jobs) > JOBS_MOST:
        return Planned(quick, days, bound)
    return _Program(case, quick).solved(days, bound)


def _quickly(case: Case, bound: int) -> tuple[Mapping[int, tuple[int, int]], int]:
    """Days that are filled well, and how many they are; no longer looked for than until the bound is met."""
    best = filled_up(case)
    for seed in range(RESTARTS):
        if len(set(best.values())) == bound:
            break
        best = min(best, filled_up(case, TRIES, seed), key=lambda at: len(set(at.values())))
    return best, len(set(best.values()))


def least_days(case: Case) -> int:
    """Days that no plan does with less of: the hours of every doer over what their largest crew does in a day."""
    total = 0
    for who in {job.who for job in case.jobs}:
        most = max(team.people for team in case.teams if team.who == who)
        minutes = sum(job.hours for job in case.jobs if job.who == who) * MINUTES
        total += math.ceil(minutes / most / case.day_min - 1e-9)
    return total


def filled_up(case: Case, tries: int = 1, seed: int = 0) -> dict[int, tuple[int, int]]:
    """Days filled one after the other with what may be done, the longest chain first; of several tries at each day,
    with the order shaken, the one that fills it most."""
    chance, chain = random.Random(seed), _chains(case)
    before: dict[int, list[int]] = defaultdict(list)
    for one, other in case.edges:
        before[other].append(one)
    at: dict[int, tuple[int, int]] = {}
    left = sorted(range(len(case.jobs)), key=lambda number: -chain[number])
    day = 0
    while left:
        for place, team in enumerate(case.teams):
            mine = [number for number in left if case.jobs[number].who == team.who]
            best: tuple[int, list[int]] = (0, [])
            for count in range(tries):
                shaken = [hours * chance.uniform(0.4, 1.6) for hours in chain] if count else chain
                filled = _day_of(case, at, before, sorted(mine, key=lambda n: -shaken[n]), day, place)
                if filled[0] > best[0]:
                    best = filled
            at |= dict.fromkeys(best[1], (day, place))
            left = [number for number in left if number not in at]
        day += 1
    return at


def _chains(case: Case) -> list[float]:
    """Hours of every job and of the longest chain that waits for it."""
    after: dict[int, list[int]] = defaultdict(list)
    for one, other in case.edges:
        after[one].append(other)
    found: dict[int, float] = {}

    def length(number: int) -> float:
        if number not in found:
            found[number] = case.jobs[number].hours + max((length(one) for one in after[number]), default=0.0)
        return found[number]

    return [length(number) for number in range(len(case.jobs))]


def _day_of(
    case: Case, at: Mapping[int, tuple[int, int]], before: Mapping[int, Sequence[int]], order: Sequence[int], day: int,
    place: int,
) -> tuple[int, list[int]]:  # fmt: skip
    """Minutes and jobs of a crew's day, taken in this order as long as something fits."""
    team, free, today = case.teams[place], case.day_min, list[int]()
    rest, again = list(order), True
    while again:
        again, later = False, []
        for number in rest:
            minutes = case.minutes(case.jobs[number], team)
            done = all(one in today or (one in at and at[one][0] < day) for one in before.get(number, ()))
            if minutes <= free and done and _may(case, at, case.jobs[number], day):
                today.append(number)
                free -= minutes
                again = True
            else:
                later.append(number)
        rest = later
    return case.day_min - free, today


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
        solver.parameters.max_deterministic_time, solver.parameters.num_workers = seconds, 1
        solver.parameters.random_seed = 1
        return solver.solve(self.model), solver

    def _read(self, solver: cp_model.CpSolver) -> dict[int, tuple[int, int]]:
        return {number: (day, place) for (number, place, day), var in self.on.items() if solver.value(var)}
