"""Estimated against actual: hours worked by task, what was off, and the factor that they tell of the next job.

The factor of a task is shrunk to that of all tasks, and that to 1, by how much was measured: ``PRIOR_H`` hours stand
for what was believed before (an empirical Bayes estimate with a prior of so many hours).
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence

from ..facts.fact import Fact
from ..facts.labour import TASKS, USUAL, Task
from ..facts.price import Worked
from ..facts.project import Project
from .labour import WorkLine, usual_by_task

PRIOR_H = 8.0
"""Hours that a belief weighs against those measured, *default*."""


class TaskMeasured(Fact):
    """A task as it went."""

    task: Task
    name: str
    estimated_h: float
    """All of the job, usual hours."""
    done: float
    """How many of it were counted as done."""
    count: float
    """How many there are."""
    done_h: float
    """What those that were counted are estimated at [h]."""
    counted_h: float
    """What those took [h]."""
    worked_h: float
    """All hours worked, those in which nobody counted among them [h]."""
    factor: float
    """Hours over the estimate, shrunk by how much was measured."""
    rate_h: float
    """What one takes by that factor [h]."""


class Measured(Fact):
    """All hours worked against the estimate."""

    tasks: tuple[TaskMeasured, ...]
    worked_h: float
    counted_h: float
    done_h: float
    factor: float
    """Of all tasks together, shrunk."""
    left_h: float
    """What is still to do at these factors [h]."""


class Sums(Fact):
    """Hours of a task that were counted, and what they were estimated at."""

    task: Task
    counted_h: float
    done_h: float


def factors_of(sums: Iterable[Sums]) -> tuple[float, Mapping[Task, float]]:
    """The factor of all tasks together, and that of each measured one."""
    counted: dict[Task, float] = defaultdict(float)
    done: dict[Task, float] = defaultdict(float)
    for one in sums:
        counted[one.task] += one.counted_h
        done[one.task] += one.done_h
    whole = (PRIOR_H + sum(counted.values())) / (PRIOR_H + sum(done.values()))
    return whole, {task: (PRIOR_H * whole + counted[task]) / (PRIOR_H + done[task]) for task in counted}


def sums_of(worked: Iterable[Worked], rates: Mapping[Task, float]) -> list[Sums]:
    """What was counted of every task at these rates [h]."""
    counted: dict[Task, float] = defaultdict(float)
    done: dict[Task, float] = defaultdict(float)
    for row in worked:
        if row.count is not None:
            counted[row.task] += row.hours
            done[row.task] += row.count * rates[row.task]
    return [Sums(task=task, counted_h=hours, done_h=done[task]) for task, hours in counted.items()]


def measured_of(project: Project, lines: Sequence[WorkLine]) -> Measured:
    """Hours worked on a project against its estimate, task by task."""
    usual = usual_by_task(lines)
    rates = {task: hours / count for task, (count, hours) in usual.items() if count}
    known = [row for row in project.worked if row.task in rates]
    sums = {one.task: one for one in sums_of(known, rates)}
    whole, factors = factors_of(sums.values())
    worked: dict[Task, float] = defaultdict(float)
    done: dict[Task, float] = defaultdict(float)
    for row in project.worked:
        worked[row.task] += row.hours
        done[row.task] += row.count or 0.0
    tasks = [
        TaskMeasured(
            task=task, name=USUAL[task][0], estimated_h=usual.get(task, (0.0, 0.0))[1], done=done[task],
            count=usual.get(task, (0.0, 0.0))[0], done_h=sums[task].done_h if task in sums else 0.0,
            counted_h=sums[task].counted_h if task in sums else 0.0, worked_h=worked[task],
            factor=factors.get(task, whole), rate_h=rates.get(task, USUAL[task][1]) * factors.get(task, whole),
        )
        for task in TASKS
        if task in worked
    ]  # fmt: skip
    left = sum(
        max(0.0, count - done.get(task, 0.0)) * rates[task] * factors.get(task, whole)
        for task, (count, _) in usual.items()
        if count
    )
    return Measured(
        tasks=tuple(tasks), worked_h=sum(worked.values()), counted_h=sum(one.counted_h for one in sums.values()),
        done_h=sum(one.done_h for one in sums.values()), factor=whole, left_h=left,
    )  # fmt: skip
