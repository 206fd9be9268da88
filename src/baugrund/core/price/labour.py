"""Labour: hours of every task with a low, usual and high figure, who does it, and what all of it comes to.

A line's low, usual and high hours are the ends and the mode of a PERT distribution: its mean is
(low + 4·usual + high)/6 and its standard deviation (high − low)/6 [1]_.  Hours of one task are off together, those of
different tasks apart; all tasks of a site share one factor of mean 1 beside, whose standard deviation the project
states.  So the variance of the sum is (1 + s²)·Σσ² + s²·(Σμ)².

References
----------
.. [1] D. G. Malcolm et al., *Application of a technique for research and development program evaluation*, Operations
   Research 7, 1959.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Callable, Iterable, Mapping, Sequence
from typing import NamedTuple

from ..facts.fact import Fact
from ..facts.labour import HIGH_TIMES, LOW_TIMES, USUAL, Stage, Task
from ..facts.price import DOERS, Doer
from ..facts.project import Project
from .work_items import WorkItem

BAND_Z = 1.2816
"""Standard deviations from the mean to the ends of a band that holds eight of ten (normal distribution)."""
UNITS: dict[str, str] = {
    "fit_way": "m", "dig_duct": "m", "pull_open": "m", "pull_conduit": "m", "pull_loft": "m", "pull_finished": "m",
    "pull_further": "m", "pull_further_finished": "m",
}  # fmt: skip


class Hours(Fact):
    """Hours as they are estimated: low, usual and high, their mean and standard deviation [h]."""

    low_h: float
    usual_h: float
    high_h: float
    mean_h: float
    sigma_h: float


class WorkLine(Fact):
    """A task of the job, all of it that one does."""

    key: str
    """``task/terminate``, of other work ``extra/12``."""
    task: Task | None
    name: str
    stage: Stage
    who: Doer
    count: float
    unit: str
    hours: Hours
    rate_minor: int
    """Of an hour."""
    cost_minor: int
    """Mean hours at that rate."""
    drop_ids: tuple[int, ...]
    closet_ids: tuple[int, ...]
    room_ids: tuple[int, ...]


class SumBand(Fact):
    """A sum that is uncertain [minor]: its mean, and the ends between which eight of ten such jobs end."""

    mean_minor: int
    low_minor: int
    high_minor: int
    sigma_minor: int


class Labour(Fact):
    """All work of a job."""

    lines: tuple[WorkLine, ...]
    hours: Hours
    """All together; ``sigma_h`` with the factor that the site shares."""
    by_doer: dict[str, Hours]
    cost: SumBand
    site_spread_percent: float


class Spread(NamedTuple):
    """Mean and standard deviation of a sum whose terms are off apart, and all together by one factor."""

    mean: float
    sigma: float


def hours_of(usual_h: float) -> Hours:
    """The estimate of work that usually takes so many hours."""
    low, high = LOW_TIMES * usual_h, HIGH_TIMES * usual_h
    return Hours(low_h=low, usual_h=usual_h, high_h=high, mean_h=(low + 4 * usual_h + high) / 6,
                 sigma_h=(high - low) / 6)  # fmt: skip


def spread_of(terms: Iterable[tuple[float, float]], site: float) -> Spread:
    """Mean and standard deviation of a sum of (mean, standard deviation), times one factor of mean 1 and standard
    deviation ``site``."""
    some = list(terms)
    mean, variance = sum(one for one, _ in some), sum(sigma**2 for _, sigma in some)
    return Spread(mean, math.sqrt((1 + site**2) * variance + (site * mean) ** 2))


def rate_minor(project: Project, who: Doer) -> int:
    """What an hour of somebody is reckoned at [minor]."""
    terms = project.settings
    rates = {"installer": terms.hour_minor, "electrician": terms.electrician_minor, "owner": terms.owner_minor}
    return rates[who]


def doers(project: Project) -> Callable[[WorkItem], Doer]:
    """Who does a piece of work: as its own row says, else its task's terms, else the installer."""
    whose = {one.task: one.who for one in project.task_terms}
    extras = {row.id: row.who for row in project.extra_work}

    def doer(item: WorkItem) -> Doer:
        return extras.get(item.extra_id or 0) or (whose.get(item.task) if item.task else None) or "installer"

    return doer


def slowness(project: Project, who: Doer) -> float:
    """Hours of somebody over those of who does it every day."""
    return project.settings.owner_slower_percent / 100 if who == "owner" else 1.0


def labour_of(project: Project, items: Sequence[WorkItem]) -> Labour:
    """All work added up by task and doer; the owner is slower than who does it every day."""
    grouped: dict[tuple[str, Doer], list[WorkItem]] = defaultdict(list)
    doer = doers(project)
    extras = {row.id: row for row in project.extra_work}
    for item in items:
        extra = extras.get(item.extra_id) if item.extra_id else None
        named = extra is not None and (item.task is None or extra.who is not None)
        grouped[f"extra/{item.extra_id}" if named else f"task/{item.task}", doer(item)].append(item)
    order = {f"task/{task}": place for place, task in enumerate(USUAL)}
    lines = [
        _line(project, key, who, some)
        for (key, who), some in sorted(grouped.items(), key=lambda one: (order.get(one[0][0], len(order)), one[0]))
    ]
    site = project.settings.site_spread_percent / 100
    cost = spread_of(((line.hours.mean_h * line.rate_minor, line.hours.sigma_h * line.rate_minor) for line in lines),
                     site)  # fmt: skip
    return Labour(
        lines=tuple(lines), hours=_together(lines, site),
        by_doer={who: _together([line for line in lines if line.who == who], site) for who in DOERS},
        cost=band_of(sum(line.cost_minor for line in lines), cost.sigma),
        site_spread_percent=project.settings.site_spread_percent,
    )  # fmt: skip


def band_of(mean_minor: int, sigma: float) -> SumBand:
    """The band of a sum; it does not go under nothing."""
    return SumBand(
        mean_minor=mean_minor, low_minor=max(0, round(mean_minor - BAND_Z * sigma)),
        high_minor=round(mean_minor + BAND_Z * sigma), sigma_minor=round(sigma),
    )  # fmt: skip


def _line(project: Project, key: str, who: Doer, some: Sequence[WorkItem]) -> WorkLine:
    hours = hours_of(sum(item.hours for item in some) * slowness(project, who))
    rate, task = rate_minor(project, who), some[0].task
    return WorkLine(
        key=key if who == "installer" or key.startswith("extra/") else f"{key}/{who}", task=task,
        name=some[0].name if key.startswith("extra/") or task is None else USUAL[task][0],
        stage=some[0].stage, who=who, count=round(sum(item.count for item in some), 3),
        unit=UNITS.get(task or "", "" if task else "h"), hours=hours, rate_minor=rate,
        cost_minor=round(hours.mean_h * rate),
        drop_ids=tuple(dict.fromkeys(number for item in some for number in item.drop_ids)),
        closet_ids=tuple(dict.fromkeys(item.closet_id for item in some if item.closet_id)),
        room_ids=tuple(dict.fromkeys(item.room_id for item in some if item.room_id)),
    )  # fmt: skip


def _together(lines: Sequence[WorkLine], site: float) -> Hours:
    spread = spread_of(((line.hours.mean_h, line.hours.sigma_h) for line in lines), site)
    return Hours(
        low_h=sum(line.hours.low_h for line in lines), usual_h=sum(line.hours.usual_h for line in lines),
        high_h=sum(line.hours.high_h for line in lines), mean_h=spread.mean, sigma_h=spread.sigma,
    )  # fmt: skip


def usual_by_task(lines: Iterable[WorkLine]) -> Mapping[Task, tuple[float, float]]:
    """Count and usual hours of every task, whoever does it."""
    found: dict[Task, tuple[float, float]] = {}
    for line in lines:
        if line.task:
            count, hours = found.get(line.task, (0.0, 0.0))
            found[line.task] = count + line.count, hours + line.hours.usual_h
    return found
