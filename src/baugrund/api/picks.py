"""Pick and ground: answers, reasons, opened capacities, the bill of materials."""

from __future__ import annotations

from fastapi import APIRouter, Response
from fastapi.concurrency import run_in_threadpool

from baugrund.core.answers.picker import Ahead, Beyond, Flips, Steps
from baugrund.core.errors import NotFound
from baugrund.core.explain.answers import Answer
from baugrund.core.explain.reasons import Relaxed, WhyNot
from baugrund.core.facts.fact import Fact, ModelKey
from baugrund.core.facts.settings import Aim
from baugrund.core.footage.apart import chosen_apart
from baugrund.core.places.mounting import small_parts
from baugrund.core.price.pit import opened_money
from baugrund.core.stack.pits import opened_pit
from baugrund.core.stack.told import stack_of
from baugrund.core.standing.bearing import Opened, opened
from baugrund.exchange.bill_of_materials import write_bill
from baugrund.store.questions import About
from baugrund.store.states import Stored
from baugrund.tasks.questions import AheadOf, BestOf, BeyondOf, FlipsOf, Found, PriceOf, Reasons, ReasonsOf, StepsOf

from .asking import Underway, asked, waited_for
from .context import Context, Works
from .downloads import CSV, as_file, download
from .standing import costs_for, grounds_for
from .uploads import JsonRoute

router = APIRouter(prefix="/api", tags=["pick"], route_class=JsonRoute)


class PickFor(Fact):
    """The answer of one aim; without one, what stands in the way.  While it is found, a draft or the last one known."""

    revision: int
    """The revision that the answer is for; while it is found, an older one."""
    answer: Answer | None
    relax: tuple[Relaxed, ...] = ()
    underway: Underway | None = None


class PriceFor(Fact):
    """The sure reply to why not: the least pick that has this model in it."""

    revision: int
    reply: WhyNot | None
    underway: Underway | None = None


class AheadFor(Fact):
    """The years to come for an answer, as soon as they are known."""

    revision: int
    reply: Ahead | None
    underway: Underway | None = None


class StepsFor(Fact):
    """Plans in two steps, as soon as they are known."""

    revision: int
    reply: Steps | None
    underway: Underway | None = None


class FlipsFor(Fact):
    """What would make the least price another, as soon as it is known."""

    revision: int
    reply: Flips | None
    underway: Underway | None = None


class BeyondFor(Fact):
    """Rooms that want several ports, both ways priced, as soon as they are."""

    revision: int
    reply: Beyond | None
    underway: Underway | None = None


class ReasonsFor(Fact):
    """Why not, model by model, as soon as it is told."""

    revision: int
    reply: Reasons | None
    underway: Underway | None = None


async def _answer_now(works: Context, stored: Stored, aim: Aim) -> Answer:
    """The answer for this very revision, waited for.  Raises NotFound when nothing fits, NotReady."""
    about, question = About(project=stored.id), BestOf(aim=aim)
    found = await waited_for(works, about, lambda: asked(works, stored, question, Found)[1:], "pick")
    if found.answer is None:
        raise NotFound("Nothing fits yet, so there is no answer to ask about.")
    return found.answer


@router.get("/projects/{project_id}/picks/{aim}")
def pick_for(project_id: int, aim: Aim, works: Works) -> PickFor:
    """The answer as far as it is known; asking puts the search on the queue, events tell of it."""
    revision, found, underway = asked(works, works.projects.load(project_id), BestOf(aim=aim), Found)
    if found:
        return PickFor(revision=revision, answer=found.answer, relax=found.relax, underway=underway)
    known, answer = works.projects.last_pick(project_id, aim) or (0, None)
    return PickFor(revision=known, answer=answer, underway=underway)


@router.get("/projects/{project_id}/picks/{aim}/reasons")
def reasons_for(project_id: int, aim: Aim, works: Works) -> ReasonsFor:
    """A sentence for every model that the answer does not take."""
    revision, reply, underway = asked(works, works.projects.load(project_id), ReasonsOf(aim=aim), Reasons)
    return ReasonsFor(revision=revision, reply=reply, underway=underway)


@router.get("/projects/{project_id}/picks/{aim}/why-not/{model}")
def why_not(project_id: int, aim: Aim, model: ModelKey, works: Works) -> PriceFor:
    """The sure reply: the least pick that has this model in it, as soon as it is found."""
    stored = works.projects.load(project_id)
    if works.catalogues.of(stored.project).get(model) is None:
        raise NotFound(f"The catalogue has no model {model}.")
    revision, reply, underway = asked(works, stored, PriceOf(aim=aim, model=model), WhyNot)
    return PriceFor(revision=revision, reply=reply, underway=underway)


@router.get("/projects/{project_id}/picks/{aim}/ahead")
def ahead(project_id: int, aim: Aim, works: Works) -> AheadFor:
    """What each year asks of the boxes, year by year."""
    revision, reply, underway = asked(works, works.projects.load(project_id), AheadOf(aim=aim), Ahead)
    return AheadFor(revision=revision, reply=reply, underway=underway)


@router.get("/projects/{project_id}/picks/{aim}/steps")
def in_steps(project_id: int, aim: Aim, works: Works) -> StepsFor:
    """Buying in two steps against all at once."""
    revision, reply, underway = asked(works, works.projects.load(project_id), StepsOf(aim=aim), Steps)
    return StepsFor(revision=revision, reply=reply, underway=underway)


@router.get("/projects/{project_id}/flips")
def what_flips(project_id: int, works: Works) -> FlipsFor:
    """How little must change until the least pick is another one."""
    revision, reply, underway = asked(works, works.projects.load(project_id), FlipsOf(), Flips)
    return FlipsFor(revision=revision, reply=reply, underway=underway)


@router.get("/projects/{project_id}/beyond")
def beyond(project_id: int, works: Works) -> BeyondFor:
    """Ports beyond the closet: for each room a cable each against one cable and a room switch."""
    revision, reply, underway = asked(works, works.projects.load(project_id), BeyondOf(), Beyond)
    return BeyondFor(revision=revision, reply=reply, underway=underway)


@router.get("/projects/{project_id}/picks/{aim}/parts.csv", response_class=Response, responses=as_file(CSV))
async def parts_csv(project_id: int, aim: Aim, works: Works) -> Response:
    """The bill of materials, waited for."""
    stored = await run_in_threadpool(works.projects.load, project_id)
    answer = await _answer_now(works, stored, aim)
    apart = chosen_apart(stored.project, works.catalogues.of(stored.project))
    bill = write_bill(answer, stored.project.settings.currency, small_parts(stored.project.drops), apart)
    return download(bill.encode(), CSV, f"parts-{project_id}.csv")


@router.get("/projects/{project_id}/closets/{closet_id}/capacities/{key}")
def capacity(project_id: int, closet_id: int, key: str, works: Works) -> Opened:
    """A capacity of the ground, opened."""
    stored = works.projects.load(project_id)
    grounds = grounds_for(works, stored)
    base = next((ground for ground in grounds if ground.closet.id == closet_id and ground.boxes), None)
    found = opened(base, key) if base else None
    if base and key == "money":
        found = opened_money(stored.project, costs_for(works, stored))
    elif base and found is None:
        found = opened_pit(stack_of(base.project, base.catalogue, grounds), closet_id, key)
    if found is None:
        raise NotFound(f"There is no capacity {key} to open yet.")
    return found
