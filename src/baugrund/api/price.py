"""Price: parts and work, visits, phases, offers, what was paid; files to take along."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query, Request, Response
from fastapi.concurrency import run_in_threadpool

from baugrund.core.answers.phases import Phases
from baugrund.core.answers.phases_by_budget import PhasesProposed
from baugrund.core.edits import AddEntry
from baugrund.core.errors import NotFound
from baugrund.core.explain.answers import Answer
from baugrund.core.facts.fact import Fact
from baugrund.core.facts.labour import USUAL, Task
from baugrund.core.facts.settings import Aim
from baugrund.core.price.actual import Actual, actual_of
from baugrund.core.price.costs import JobCosts
from baugrund.core.price.measured import Sums, factors_of, sums_of
from baugrund.core.price.moving import Moving, moving_of
from baugrund.core.price.offer import OfferDocument, OfferTold, offers_of
from baugrund.core.price.visits import Visits
from baugrund.exchange.paid_list import read_paid
from baugrund.exchange.price_files import (
    write_moving_csv,
    write_offer_csv,
    write_paid_csv,
    write_parts_csv,
    write_price_xlsx,
    write_visits_csv,
    write_visits_ics,
    write_work_csv,
)
from baugrund.exchange.tables import MAX_BYTES, read_table
from baugrund.store.questions import About
from baugrund.store.states import Stored
from baugrund.tasks.questions import KeptOf, KeptWithin, PhasesByBudgetOf, PhasesOf, VisitsOf

from .asking import Underway, asked, waited_for
from .context import Context, Works
from .downloads import CSV, ICS, XLSX, as_file, download
from .standing import costs_for, grounds_for
from .uploads import JsonRoute, body_of, read_apart

router = APIRouter(prefix="/api", tags=["price"], route_class=JsonRoute)


class JobPriceFor(JobCosts):
    """What a revision costs, its offers, and what was paid."""

    revision: int
    offers: tuple[OfferTold, ...]
    actual: Actual


class VisitsFor(Fact):
    """The visits of a revision; none while they are looked for."""

    revision: int
    reply: Visits | None
    underway: Underway | None = None


class PhasesFor(Fact):
    """The phases of a revision; none while they are looked for."""

    revision: int
    reply: Phases | None
    underway: Underway | None = None


class PhasesProposedFor(Fact):
    """Phases by their budgets; none while they are looked for."""

    revision: int
    reply: PhasesProposed | None
    underway: Underway | None = None


class MovingFor(Moving):
    """The steps of a revision."""

    revision: int


class KeptFor(Fact):
    """What could go or wait; none while it is looked for."""

    revision: int
    reply: KeptWithin | None
    underway: Underway | None = None


class HouseRate(Fact):
    """What a task took on all jobs of this house, shrunk by how much was measured."""

    task: Task
    name: str
    usual_h: float
    measured_h: float
    factor: float
    rate_h: float


class HouseRates(Fact):
    """The house's own hours, from all projects in which hours were counted."""

    projects: int
    factor: float
    rates: tuple[HouseRate, ...]


def _costs(works: Context, project_id: int) -> tuple[Stored, JobCosts]:
    """A project as it stands, with what it costs on the boxes that stand."""
    stored = works.projects.load(project_id)
    return stored, costs_for(works, stored)


def _answers(works: Context, stored: Stored) -> dict[Aim, Answer]:
    """The last answers of the aims that offers show."""
    aims = {aim for offer in stored.project.offers for aim in offer.answers}
    found = {aim: works.projects.last_pick(stored.id, aim) for aim in aims}
    return {aim: last[1] for aim, last in found.items() if last}


def _offer(works: Context, project_id: int, offer_id: int) -> OfferDocument:
    stored, costs = _costs(works, project_id)
    for told in offers_of(stored.project, costs, _answers(works, stored)):
        if told.offer.id == offer_id:
            return told.sent or told.document
    raise NotFound("There is no such offer.")


@router.get("/projects/{project_id}/price")
def price_for(project_id: int, works: Works) -> JobPriceFor:
    """Parts and work with their sums, hours worked, offers, and what was paid."""
    stored, costs = _costs(works, project_id)
    return JobPriceFor(
        revision=stored.revision, **{name: getattr(costs, name) for name in JobCosts.model_fields},
        offers=offers_of(stored.project, costs, _answers(works, stored)), actual=actual_of(stored.project, costs),
    )  # fmt: skip


@router.get("/projects/{project_id}/price/visits")
def visits_for(project_id: int, works: Works) -> VisitsFor:
    """The work in days of crews; asking has them looked for."""
    stored = works.projects.load(project_id)
    revision, visits, underway = asked(works, stored, VisitsOf(), Visits)
    return VisitsFor(revision=revision, reply=visits, underway=underway)


@router.get("/projects/{project_id}/price/phases")
def phases_for(project_id: int, works: Works) -> PhasesFor:
    """What is bought in each phase, and the network at its end; asking has them looked for."""
    stored = works.projects.load(project_id)
    revision, phases, underway = asked(works, stored, PhasesOf(), Phases)
    return PhasesFor(revision=revision, reply=phases, underway=underway)


@router.get("/projects/{project_id}/price/phases-by-budget")
def phases_by_budget_for(project_id: int, works: Works) -> PhasesProposedFor:
    """Drops by phase as far as each budget reaches; asking has them looked for."""
    stored = works.projects.load(project_id)
    revision, proposed, underway = asked(works, stored, PhasesByBudgetOf(), PhasesProposed)
    return PhasesProposedFor(revision=revision, reply=proposed, underway=underway)


@router.get("/projects/{project_id}/price/moving")
def moving_for(project_id: int, works: Works) -> MovingFor:
    """The steps from the old network to the new one."""
    stored = works.projects.load(project_id)
    moving = moving_of(stored.project, grounds_for(works, stored))
    return MovingFor(revision=stored.revision, **{name: getattr(moving, name) for name in Moving.model_fields})


@router.get("/projects/{project_id}/price/moving.csv", response_class=Response, responses=as_file(CSV))
def moving_csv(project_id: int, works: Works) -> Response:
    """The steps as CSV."""
    stored = works.projects.load(project_id)
    text = write_moving_csv(moving_of(stored.project, grounds_for(works, stored)))
    return download(text.encode("utf-8-sig"), CSV, f"moving-{project_id}.csv")


@router.get("/projects/{project_id}/price/kept")
def kept_for(project_id: int, works: Works) -> KeptFor:
    """What could go or wait so that the job fits its budget; asking has it looked for."""
    stored = works.projects.load(project_id)
    revision, within, underway = asked(works, stored, KeptOf(), KeptWithin)
    return KeptFor(revision=revision, reply=within, underway=underway)


@router.get("/projects/{project_id}/price/house-rates")
def house_rates(project_id: int, works: Works) -> HouseRates:
    """Hours of tasks as they were measured on all other projects."""
    rates = {task: hours for task, (_, hours) in USUAL.items()}
    worked = works.projects.worked_elsewhere(project_id)
    sums = [one for rows in worked.values() for one in sums_of(rows, rates)]
    whole, factors = factors_of(sums)
    return HouseRates(
        projects=len(worked), factor=whole,
        rates=tuple(
            HouseRate(task=task, name=USUAL[task][0], usual_h=rates[task], measured_h=_measured(sums, task),
                      factor=factor, rate_h=round(rates[task] * factor, 4))
            for task, factor in sorted(factors.items())
        ),
    )  # fmt: skip


def _measured(sums: list[Sums], task: Task) -> float:
    return sum(one.counted_h for one in sums if one.task == task)


@router.get("/projects/{project_id}/price/parts.csv", response_class=Response, responses=as_file(CSV))
def parts_csv(project_id: int, works: Works) -> Response:
    """The parts list as CSV."""
    _, costs = _costs(works, project_id)
    return download(write_parts_csv(costs).encode("utf-8-sig"), CSV, f"price-parts-{project_id}.csv")


@router.get("/projects/{project_id}/price/work.csv", response_class=Response, responses=as_file(CSV))
def work_csv(project_id: int, works: Works) -> Response:
    """The work as CSV."""
    _, costs = _costs(works, project_id)
    return download(write_work_csv(costs).encode("utf-8-sig"), CSV, f"work-{project_id}.csv")


@router.get("/projects/{project_id}/price/paid.csv", response_class=Response, responses=as_file(CSV))
def paid_csv(project_id: int, works: Works) -> Response:
    """Planned and paid, line by line, as CSV."""
    stored, costs = _costs(works, project_id)
    text = write_paid_csv(actual_of(stored.project, costs), costs.currency)
    return download(text.encode("utf-8-sig"), CSV, f"paid-{project_id}.csv")


@router.get("/projects/{project_id}/price/price.xlsx", response_class=Response, responses=as_file(XLSX))
def price_xlsx(project_id: int, works: Works) -> Response:
    """Parts, work and payments as an XLSX workbook."""
    stored, costs = _costs(works, project_id)
    return download(write_price_xlsx(costs, actual_of(stored.project, costs)), XLSX, f"price-{project_id}.xlsx")


@router.get("/projects/{project_id}/price/offer.csv", response_class=Response, responses=as_file(CSV))
def offer_csv(project_id: int, works: Works, of: Annotated[int, Query(ge=1)]) -> Response:
    """The positions of an offer as CSV: as it was sent, else as it would be now."""
    text = write_offer_csv(_offer(works, project_id, of))
    return download(text.encode("utf-8-sig"), CSV, f"offer-{project_id}.csv")


async def _visits(works: Context, project_id: int) -> tuple[Stored, Visits]:
    stored = await run_in_threadpool(works.projects.load, project_id)
    about = About(project=project_id)
    found = await waited_for(works, about, lambda: asked(works, stored, VisitsOf(), Visits)[1:], "plan of visits")
    return stored, found


@router.get("/projects/{project_id}/price/visits.csv", response_class=Response, responses=as_file(CSV))
async def visits_csv(project_id: int, works: Works) -> Response:
    """The visits as CSV, waited for."""
    _, visits = await _visits(works, project_id)
    return download(write_visits_csv(visits).encode("utf-8-sig"), CSV, f"visits-{project_id}.csv")


@router.get("/projects/{project_id}/price/visits.ics", response_class=Response, responses=as_file(ICS))
async def visits_ics(project_id: int, works: Works) -> Response:
    """The visits as iCalendar, waited for."""
    stored, visits = await _visits(works, project_id)
    return download(write_visits_ics(visits, stored.project.name, project_id), ICS, f"visits-{project_id}.ics")


class PaidRead(Fact):
    """The edits that add what a list of payments holds."""

    edits: tuple[AddEntry, ...]


@router.post("/projects/{project_id}/price/paid/read")
async def read_paid_list(project_id: int, request: Request, works: Works) -> PaidRead:
    """What a CSV or XLSX file of payments would add; nothing is changed.  The body is the file."""
    table = await read_apart(works, read_table, await body_of(request, MAX_BYTES))
    stored, costs = await run_in_threadpool(_costs, works, project_id)
    return PaidRead(edits=read_paid(table, stored.project, costs))
