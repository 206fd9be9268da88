"""What the job costs: parts and work once, what comes every year, and whether it fits the budget."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from fractions import Fraction
from typing import Literal, NamedTuple

from ..facts.catalogue import Catalogue
from ..facts.fact import Fact
from ..facts.price import Brings, Phase
from ..facts.project import Project
from ..prices.costs import energy_kwh
from ..stack.told import Stack
from ..standing.ground import Ground
from ..words import counted, money
from .labour import Labour, SumBand, band_of, labour_of
from .measured import Measured, measured_of
from .own_work import OwnWork, own_work
from .part_items import part_items
from .parts import PricedPart, part_lines
from .phasing import in_phases
from .work_items import WorkItem, work_items

BRINGS: tuple[Brings, ...] = ("installer", "client", "electrician")


class Yearly(Fact):
    """What comes every year [minor], without tax as it is told."""

    lines_minor: int
    """Rent and fees of the internet lines."""
    licences_minor: int
    rent_minor: int
    energy_kwh: float
    """Of all that stands in closets, its ports giving what they give."""
    energy_minor: int
    total_minor: int


class Fit(Fact):
    """A sum against its budget [minor], both without tax."""

    budget_minor: int
    spent_minor: int
    """The mean."""
    over_minor: int
    """Of the mean over the budget; negative: what is left."""
    share: float | None
    """Of ten thousand such jobs the share that stays within it, by the normal distribution; None: it is no estimate."""
    sentence: str


class PhaseCost(Fact):
    """What a phase adds to those before it, on the boxes that stand: they count in the first."""

    phase_id: int | None
    name: str
    drops: int
    one_off_minor: int


class Once(NamedTuple):
    """What is paid once: work, parts, labour and the owner's own work."""

    work: list[WorkItem]
    parts: tuple[PricedPart, ...]
    labour: Labour
    own: OwnWork

    @property
    def parts_minor(self) -> int:
        """Of all parts whose price is known."""
        return sum(part.total_minor or 0 for part in self.parts)

    @property
    def mean_minor(self) -> int:
        """Mean of parts, work and the owner's tools."""
        return self.parts_minor + self.labour.cost.mean_minor + self.own.given.tools_minor


class JobCosts(Fact):
    """Parts and work of a job, and its sums.  Money in minor units, without tax."""

    parts: tuple[PricedPart, ...]
    labour: Labour
    measured: Measured
    own: OwnWork
    """Its tools, as the owner's work is given, are paid once."""
    currency: str
    tax_percent: float
    parts_minor: int
    """Of all parts whose price is known."""
    unpriced: tuple[str, ...]
    """Keys of the parts whose price nobody knows: they are in no sum."""
    by_bringer: dict[str, int]
    """What each brings of the parts [minor]."""
    open_minor: int
    """Parts that are still to be bought."""
    one_off: SumBand
    yearly: Yearly
    horizon_minor: int
    """Mean of what is paid once, and of every year until the horizon."""
    one_off_fit: Fit | None
    yearly_fit: Fit | None
    by_phase: tuple[PhaseCost, ...]


def costs_of(project: Project, catalogue: Catalogue, grounds: Sequence[Ground], stack: Stack) -> JobCosts:
    """What a project costs on the boxes that stand."""
    once = once_of(project, catalogue, grounds, stack)
    parts, labour, own, known = once.parts, once.labour, once.own, once.parts_minor
    yearly = _yearly(project, parts, stack)
    one_off = band_of(once.mean_minor, labour.cost.sigma_minor)
    unpriced = tuple(part.key for part in parts if part.total_minor is None)
    return JobCosts(
        parts=parts, labour=labour, measured=measured_of(project, labour.lines), own=own,
        currency=project.settings.currency,
        tax_percent=project.settings.tax_percent, parts_minor=known, unpriced=unpriced,
        by_bringer={who: sum(part.total_minor or 0 for part in parts if part.by == who) for who in BRINGS},
        open_minor=sum(part.open_minor or 0 for part in parts), one_off=one_off, yearly=yearly,
        horizon_minor=one_off.mean_minor + project.settings.horizon_years * yearly.total_minor,
        one_off_fit=_fit(project, project.settings.budget_minor, one_off, len(unpriced)),
        yearly_fit=_fit(project, project.settings.yearly_budget_minor, yearly.total_minor),
        by_phase=_by_phase(project, catalogue, grounds, stack, one_off.mean_minor),
    )  # fmt: skip


def sum_of(project: Project, catalogue: Catalogue, grounds: Sequence[Ground], stack: Stack) -> int:
    """Mean of parts, work and the owner's tools of a project on boxes that stand [minor]."""
    return once_of(project, catalogue, grounds, stack).mean_minor


def once_of(project: Project, catalogue: Catalogue, grounds: Sequence[Ground], stack: Stack) -> Once:
    """What is paid once on boxes that stand."""
    work = work_items(project, catalogue, grounds, stack)
    parts = part_lines(project, catalogue, part_items(project, catalogue, grounds, stack, work))
    labour = labour_of(project, work)
    return Once(work, parts, labour, own_work(project, labour))


def net_budget(project: Project, budget_minor: int) -> int:
    """A budget without tax, rounded down [minor]: exact, for a rate like 7.7 % is no binary fraction."""
    if not project.settings.budget_with_tax:
        return budget_minor
    return math.floor(100 * budget_minor / (100 + Fraction(str(project.settings.tax_percent))))


def _yearly(project: Project, parts: Iterable[PricedPart], stack: Stack) -> Yearly:
    lines = sum(line.yearly_minor for line in project.lines)
    rents: dict[Literal["licence", "rent"], int] = {"licence": 0, "rent": 0}
    for part in parts:
        rents[part.yearly_for] += part.yearly_minor
    drawn = sum(thing.mains_w for here in stack.closets for thing in here.things)
    energy = round(energy_kwh(drawn) * project.settings.kwh_minor)
    return Yearly(
        lines_minor=lines, licences_minor=rents["licence"], rent_minor=rents["rent"],
        energy_kwh=round(energy_kwh(drawn), 1), energy_minor=energy,
        total_minor=lines + rents["licence"] + rents["rent"] + energy,
    )  # fmt: skip


def _fit(project: Project, budget_minor: int | None, spent: SumBand | int, unpriced: int = 0) -> Fit | None:
    if budget_minor is None:
        return None
    budget = net_budget(project, budget_minor)
    mean = spent if isinstance(spent, int) else spent.mean_minor
    over, currency = mean - budget, project.settings.currency
    share = None
    if isinstance(spent, SumBand):
        share = float(over <= 0) if not spent.sigma_minor else _below((budget - mean) / spent.sigma_minor)
    told = f"over by {money(over, currency)}" if over > 0 else f"{money(-over, currency)} left"
    if unpriced:
        told += f", without {counted(unpriced, 'part')} of unknown price"
    return Fit(budget_minor=budget, spent_minor=mean, over_minor=over, share=share, sentence=told)


def _below(z: float) -> float:
    """Share of a normal distribution under so many standard deviations from its mean."""
    return 0.5 * (1 + math.erf(z / math.sqrt(2)))


def _by_phase(
    project: Project, catalogue: Catalogue, grounds: Sequence[Ground], stack: Stack, whole_minor: int
) -> tuple[PhaseCost, ...]:
    """What every phase adds; all of it where there are none."""
    told, before = [], 0
    for phase, until, drops in in_phases(project):
        is_last = phase is None or phase is project.phases[-1]
        sum_minor = whole_minor if is_last else sum_of(until, catalogue, grounds, stack)
        told.append(_cost(phase, drops, sum_minor - before))
        before = sum_minor
    return tuple(told)


def _cost(phase: Phase | None, drops: int, one_off_minor: int) -> PhaseCost:
    return PhaseCost(
        phase_id=phase.id if phase else None, name=phase.name if phase else "", drops=drops,
        one_off_minor=one_off_minor,
    )  # fmt: skip
