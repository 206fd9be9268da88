"""Jobs: work of one stage in one place, what has to be done before, and what waits for others."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from ..facts.labour import USUAL_ORDER, Scope, Stage
from ..facts.price import Doer
from ..facts.project import Project
from .labour import doers, hours_of, slowness
from .work_items import WorkItem

AT_CLOSET: tuple[Stage, ...] = ("punch_down", "stack", "patch", "set_up", "test", "write_down")
AT_ROOM: tuple[Stage, ...] = ("survey", "terminate", "mount", "close", "clear_away")


@dataclass(frozen=True)
class Job:
    """Work of one stage and doer in one place; ``hours``: mean hours of one person."""

    number: int
    stage: Stage
    who: Doer
    hours: float
    room_id: int | None
    closet_id: int | None
    drop_ids: frozenset[int]
    part: tuple[int, int] = (1, 1)
    """Which part of how many, where it takes longer than a day."""


def jobs_of(project: Project, work: Sequence[WorkItem], most_h: float) -> list[Job]:
    """All work as jobs of no more than so many hours [h]."""
    grouped: dict[tuple[Stage, Doer, int | None, int | None], list[WorkItem]] = defaultdict(list)
    doer = doers(project)
    for item in work:
        who = doer(item)
        room = item.room_id if item.stage in (*AT_ROOM, "pull", "other") else None
        closet = item.closet_id if item.stage in (*AT_CLOSET, "pull") else None
        grouped[item.stage, who, room, closet].append(item)
    jobs: list[Job] = []
    for (stage, who, room, closet), some in grouped.items():
        hours = hours_of(sum(item.hours for item in some) * slowness(project, who)).mean_h
        drop_ids = frozenset(number for item in some for number in item.drop_ids)
        parts = max(1, math.ceil(hours / most_h - 1e-9))
        for part in range(1, parts + 1):
            # whole days, and what is left of the last one
            mine = most_h if part < parts else hours - most_h * (parts - 1)
            jobs.append(Job(len(jobs), stage, who, mine, room, closet, drop_ids, (part, parts)))
    return jobs


def orders_of(project: Project) -> tuple[tuple[Stage, Stage, Scope], ...]:
    """The usual order and the project's own."""
    own: list[tuple[Stage, Stage, Scope]] = [(row.first, row.second, "site") for row in project.stage_orders]
    return (*USUAL_ORDER, *own)


def edges_of(project: Project, jobs: Sequence[Job]) -> Iterator[tuple[Job, Job]]:
    """Jobs that come before others."""
    by_stage: dict[Stage, list[Job]] = defaultdict(list)
    for job in jobs:
        by_stage[job.stage].append(job)
    for first, then, scope in orders_of(project):
        for before in by_stage[first]:
            for after in by_stage[then]:
                if _meet(before, after, scope):
                    yield before, after


def _meet(one: Job, other: Job, scope: Scope) -> bool:
    match scope:
        case "drops":
            return bool(one.drop_ids & other.drop_ids)
        case "closet":
            return one.closet_id is not None and one.closet_id == other.closet_id
        case "room":
            return one.room_id is not None and one.room_id == other.room_id
    return True
