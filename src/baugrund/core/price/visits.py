"""Visits as they are told: who comes when, does what where, takes what along, and what is waited for."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterator, Sequence
from datetime import date, timedelta

from ..facts.fact import Fact
from ..facts.labour import STAGE_NAMES
from ..facts.price import DOERS, Doer
from ..facts.project import Project
from ..standards.tools import STAGE_GROUPS, TOOLS
from .costs import JobCosts
from .jobs import Job, edges_of, jobs_of
from .visit_program import MINUTES, Case, Team, Waiting, plan_visits
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


def case_of(project: Project, work: Sequence[WorkItem]) -> Case:
    """The visits of a project as a problem."""
    terms = project.settings
    day_h = max(0.5, terms.day_h - terms.travel_h)
    least = min((crew.people for crew in project.crews), default=1)
    jobs = jobs_of(project, work, day_h * least)
    doers = {job.who for job in jobs}
    teams = [Team(crew.name, crew.who, crew.people) for crew in project.crews]
    missing = [who for who in DOERS if who in doers and who not in {team.who for team in teams}]
    teams += [Team(who.capitalize(), who, 1) for who in missing]
    edges = {(before.number, after.number) for before, after in edges_of(project, jobs)}
    return Case(tuple(jobs), tuple(teams), tuple(sorted(edges)), math.floor(day_h * MINUTES + 1e-9),
                tuple(_waits(project)))  # fmt: skip


def _waits(project: Project) -> Iterator[Waiting]:
    for wait in project.waits:
        if not wait.done and wait.before:
            from_day = _day_of(project, wait.from_day) if wait.from_day else 0
            yield Waiting(wait.before, from_day, wait.after, wait.days)


def _day_of(project: Project, day: date) -> int:
    """Working days from the first on until a day; 0 where nobody has said when the work begins."""
    first = project.settings.first_day
    if first is None or day <= first:
        return 0
    return sum((first + timedelta(n)).weekday() < WORKDAYS for n in range((day - first).days))


def date_of(project: Project, day: int) -> date | None:
    """The date of a working day, counted from 0."""
    at = project.settings.first_day
    if at is None:
        return None
    while at.weekday() >= WORKDAYS:
        at += timedelta(1)
    for _ in range(day):
        at += timedelta(3 if at.weekday() == WORKDAYS - 1 else 1)
    return at


def visits_of(project: Project, costs: JobCosts, work: Sequence[WorkItem]) -> Visits:
    """The visits of a project, day by day."""
    case = case_of(project, work)
    planned = plan_visits(case)
    by_day: dict[tuple[int, int], list[Job]] = defaultdict(list)
    for number, when in planned.at.items():
        by_day[when].append(case.jobs[number])
    order = list(STAGE_NAMES)
    visits = [
        _visit(project, costs, case, day, case.teams[place],
               sorted(jobs, key=lambda job: (order.index(job.stage), job.number)))
        for (day, place), jobs in sorted(by_day.items())
    ]  # fmt: skip
    return Visits(
        visits=tuple(visits), waits=tuple(_wait_lines(project, visits)), days=planned.days, bound=planned.bound,
        proven=planned.days == planned.bound, ends=max((one.date for one in visits), default=""),
        idle_h=round(sum(one.idle_h for one in visits), 2),
        travel_h=round(project.settings.travel_h * sum(one.people for one in visits), 2),
    )  # fmt: skip


def _visit(
    project: Project, costs: JobCosts, case: Case, day: int, team: Team, jobs: Sequence[Job]
) -> Visit:  # fmt: skip
    hours = sum(job.hours for job in jobs) / team.people
    stages = {job.stage for job in jobs}
    touched = {number for job in jobs for number in job.drop_ids}
    rooms = dict.fromkeys(
        project.rooms_by_id[job.room_id] for job in jobs if job.room_id is not None and job.stage != "survey"
    )
    groups = {group for stage in stages for group in STAGE_GROUPS.get(stage, ())}
    at = date_of(project, day)
    return Visit(
        day=day + 1, date=at.isoformat() if at else "", crew=team.name, who=team.who, people=team.people,
        jobs=tuple(_job_line(project, job) for job in jobs), hours=round(hours, 2),
        idle_h=round(case.day_min / MINUTES - hours, 2), rooms=tuple(room.name for room in rooms),
        let_in_by=tuple(dict.fromkeys(room.let_in_by for room in rooms if room.let_in_by)),
        tools=tuple(tool.name for tool in TOOLS if stages & set(tool.stages)),
        bring=tuple(_brought(costs, groups, touched)),
    )  # fmt: skip


def _brought(costs: JobCosts, groups: set[str], touched: set[int]) -> Iterator[str]:
    """Parts of a visit: of those that drops ask for, as many as its drops."""
    for part in costs.parts:
        if part.group not in groups or not part.packs:
            continue
        mine = len(touched & set(part.drop_ids))
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
