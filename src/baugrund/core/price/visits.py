"""Visits as they are told: who comes when, does what where, takes what along, and what is waited for."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from datetime import date, timedelta

from ..facts.fact import Fact
from ..facts.labour import STAGE_NAMES
from ..facts.price import DOERS, Doer
from ..facts.project import Project
from ..standards.tools import STAGE_GROUPS, TOOLS
from .costs import JobCosts
from .jobs import Job, edges_of, jobs_of
from .visit_program import MINUTES, Case, Planned, Team, Waiting, plan_visits
from .work_items import WorkItem

WORKDAYS = 5


class JobLine(Fact):
    """A job of a visit."""

    stage: str
    name: str
    place: str
    hours: float
    """Of one person."""
    drop_ids: tuple[int, ...]


class Visit(Fact):
    """A day of a crew."""

    day: int
    """Working day from the first on, counted from 1."""
    date: str
    """Empty: nobody has said when the work begins."""
    crew: str
    who: Doer
    people: int
    jobs: tuple[JobLine, ...]
    hours: float
    """Of the crew on site."""
    idle_h: float
    rooms: tuple[str, ...]
    """Rooms that are worked in."""
    let_in_by: tuple[str, ...]
    tools: tuple[str, ...]
    bring: tuple[str, ...]
    """Parts that are brought."""


class WaitLine(Fact):
    """What is waited for."""

    id: int
    name: str
    who: str
    date: str
    before: tuple[str, ...]
    first_day: int | None
    """The first visit that needs it."""
    fallback: str
    done: bool


class Visits(Fact):
    """All visits of a job."""

    visits: tuple[Visit, ...]
    waits: tuple[WaitLine, ...]
    days: int
    """Days of all crews."""
    bound: int
    proven: bool
    ends: str
    idle_h: float
    travel_h: float


def _day_h(project: Project) -> float:
    """Hours of a day on site [h]."""
    return max(0.5, project.settings.day_h - project.settings.travel_h)


def case_of(project: Project, jobs: Sequence[Job], start: date | None) -> Case:
    """The visits of jobs as a problem; ``start``: the first day that they may fall on."""
    doers = {job.who for job in jobs}
    teams = [Team(crew.name, crew.who, crew.people) for crew in project.crews]
    missing = [who for who in DOERS if who in doers and who not in {team.who for team in teams}]
    teams += [Team(who.capitalize(), who, 1) for who in missing]
    edges = {(before.number, after.number) for before, after in edges_of(project, jobs)}
    return Case(tuple(jobs), tuple(teams), tuple(sorted(edges)), math.floor(_day_h(project) * MINUTES + 1e-9),
                tuple(_waits(project, start)))  # fmt: skip


def _waits(project: Project, start: date | None) -> Iterator[Waiting]:
    for wait in project.waits:
        if not wait.done and wait.before:
            from_day = working_days(start, wait.from_day) if wait.from_day and start else 0
            yield Waiting(wait.before, from_day, wait.after, wait.days)


def working_days(start: date, day: date) -> int:
    """Working days from a first one until a day."""
    return sum((start + timedelta(n)).weekday() < WORKDAYS for n in range(max(0, (day - start).days)))


def working_day(start: date, count: int) -> date:
    """The working day so many after the first one at or after ``start``."""
    at = start
    while at.weekday() >= WORKDAYS:
        at += timedelta(1)
    for _ in range(count):
        at += timedelta(3 if at.weekday() == WORKDAYS - 1 else 1)
    return at


def visits_of(project: Project, costs: JobCosts, work: Sequence[Sequence[WorkItem]]) -> Visits:
    """The visits of a project, day by day; phases come one after the other and share no day.  ``work``: that of every
    phase."""
    found: list[Visit] = []
    start, first, days, bound = project.settings.first_day, 1, 0, 0
    least = min((crew.people for crew in project.crews), default=1)
    for place, items in enumerate(work):
        jobs = jobs_of(project, items, _day_h(project) * least)
        begins = project.phases[place].begins if project.phases else None
        if begins and (start is None or begins > start):
            start = begins
        case = case_of(project, jobs, start)
        planned = plan_visits(case)
        days, bound = days + planned.days, bound + planned.bound
        mine = _visits_of(project, costs, case, planned, first, start)
        found += mine
        if mine:
            last = max(one.day for one in mine)
            start, first = working_day(start, last - first + 1) if start else None, last + 1
    return Visits(
        visits=tuple(found), waits=tuple(_wait_lines(project, found)), days=days, bound=bound, proven=days == bound,
        ends=max((one.date for one in found), default=""), idle_h=round(sum(one.idle_h for one in found), 2),
        travel_h=round(project.settings.travel_h * sum(one.people for one in found), 2),
    )  # fmt: skip


def _visits_of(
    project: Project, costs: JobCosts, case: Case, planned: Planned, first: int, start: date | None
) -> list[Visit]:  # fmt: skip
    """The visits of one phase.  ``first``: the number of its first day."""
    by_day: dict[tuple[int, int], list[Job]] = defaultdict(list)
    for number, when in planned.at.items():
        by_day[when].append(case.jobs[number])
    order = list(STAGE_NAMES)
    return [
        _visit(project, costs, case, first + day, working_day(start, day) if start else None, case.teams[place],
               sorted(jobs, key=lambda job: (order.index(job.stage), job.number)))
        for (day, place), jobs in sorted(by_day.items())
    ]  # fmt: skip


def _visit(
    project: Project, costs: JobCosts, case: Case, day: int, at: date | None, team: Team, jobs: Sequence[Job]
) -> Visit:  # fmt: skip
    hours = sum(job.hours for job in jobs) / team.people
    stages = {job.stage for job in jobs}
    rooms = dict.fromkeys(
        project.rooms_by_id[job.room_id] for job in jobs if job.room_id is not None and job.stage != "survey"
    )
    touched: dict[str, set[int]] = {}
    for job in jobs:
        # a job of several days has its parts from the first on
        for group in STAGE_GROUPS.get(job.stage, ()) if job.part[0] == 1 else ():
            touched.setdefault(group, set()).update(job.drop_ids)
    return Visit(
        day=day, date=at.isoformat() if at else "", crew=team.name, who=team.who, people=team.people,
        jobs=tuple(_job_line(project, job) for job in jobs), hours=round(hours, 2),
        idle_h=round(case.day_min / MINUTES - hours, 2), rooms=tuple(room.name for room in rooms),
        let_in_by=tuple(dict.fromkeys(room.let_in_by for room in rooms if room.let_in_by)),
        tools=tuple(tool.name for tool in TOOLS if stages & set(tool.stages)),
        bring=tuple(_brought(costs, touched)),
    )  # fmt: skip


def _brought(costs: JobCosts, touched: Mapping[str, set[int]]) -> Iterator[str]:
    """Parts of a visit: of those that drops ask for, as many as its drops.  ``touched``: drops by the group that they
    take something of."""
    for part in costs.parts:
        if part.group not in touched or not part.packs:
            continue
        mine = len(touched[part.group] & set(part.drop_ids))
        if part.drop_ids and not mine:
            continue
        share = part.to_buy * mine / len(part.drop_ids) if part.drop_ids and part.group != "cable" else part.to_buy
        yield f"{math.ceil(share - 1e-9):g}{' ' + part.unit if part.unit else ''} {part.name}"


def _job_line(project: Project, job: Job) -> JobLine:
    room = project.rooms_by_id.get(job.room_id or 0)
    closet = project.closets_by_id.get(job.closet_id or 0)
    place = ", ".join(one.name for one in (room, closet) if one) or "everywhere"
    name = STAGE_NAMES[job.stage] + (f", part {job.part[0]} of {job.part[1]}" if job.part[1] > 1 else "")
    return JobLine(stage=job.stage, name=name, place=place, hours=round(job.hours, 2),
                   drop_ids=tuple(sorted(job.drop_ids)))  # fmt: skip


def _wait_lines(project: Project, visits: Sequence[Visit]) -> Iterator[WaitLine]:
    for wait in project.waits:
        needing = [visit.day for visit in visits if any(job.stage in wait.before for job in visit.jobs)]
        yield WaitLine(
            id=wait.id, name=wait.name, who=wait.who, date=wait.from_day.isoformat() if wait.from_day else "",
            before=tuple(STAGE_NAMES[stage] for stage in wait.before), first_day=min(needing, default=None),
            fallback=wait.fallback, done=wait.done,
        )  # fmt: skip
