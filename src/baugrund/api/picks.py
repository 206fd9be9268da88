"""Pick and ground: answers, reasons, opened capacities, the bill of materials."""

from __future__ import annotations

import time
from typing import Literal, TypeVar

from fastapi import APIRouter, Response
from pydantic import ValidationError

from baugrund.core.bearing import Ground, Opened, grounds_of, opened
from baugrund.core.errors import NotFound, TookTooLong
from baugrund.core.facts import Fact, ModelKey
from baugrund.core.mounting import small_parts
from baugrund.core.pick.answers import Answer
from baugrund.core.pick.reasons import Relaxed, WhyNot
from baugrund.core.plan import Ahead, Beyond, Flips, Steps, standing_boxes
from baugrund.core.project import Aim
from baugrund.exchange.bill_of_materials import write_bill
from baugrund.store.projects import Stored
from baugrund.store.questions import Asked
from baugrund.tasks.questions import AheadOf, BestOf, BeyondOf, FlipsOf, Found, PriceOf, Question, StepsOf, name_of

from .context import Context, Works

router = APIRouter(prefix="/api", tags=["pick"])

WAIT_S = 60.0
"""How long a download or a list of reasons waits for the answer that it is about."""
LOOK_EVERY_S = 0.05


class Underway(Fact):
    """How far the search for a reply is."""

    state: Literal["waiting", "working", "stopped", "failed"]
    asked_s: float
    """How long ago it was asked [s]."""
    best: int | None = None
    """The best so far, in what is made least [minor or mW]."""
    bound: int = 0
    """What nothing can be under; 0: not known yet."""
    weight: Literal["price", "power"] = "price"
    done: int = 0
    of: int = 0
    """Where many searches make one reply, how many of them are done."""
    told: str = ""
    """Why there is no reply, in a sentence."""


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


class Reasons(Fact):
    """Why not: every model that the answer does not take."""

    revision: int
    aim: Aim
    models: tuple[WhyNot, ...]


def _underway(asked: Asked) -> Underway | None:
    if asked.state == "done":
        return None
    seen = {name: value for name, value in (asked.progress or {}).items() if name in Underway.model_fields}
    return Underway.model_validate(
        {"state": asked.state, "asked_s": round(asked.asked_s, 1), "told": asked.told, **seen}
    )  # fmt: skip


Reply = TypeVar("Reply", bound=Fact)


def _asked(
    works: Context, stored: Stored, question: Question, kind: type[Reply]
) -> tuple[int, Reply | None, Underway | None]:
    """The revision, the reply once it is there, and until then how far it is, perhaps with a draft; asking puts it on
    the queue."""
    asked = works.queue.ask(stored, question)
    if asked.state != "done" and asked.reply is None:
        return asked.revision, None, _underway(asked)
    try:
        return asked.revision, kind.model_validate(asked.reply), _underway(asked)
    except ValidationError:
        # kept by an older version of this program: it is found again
        works.queue.questions.forget(stored.id, name_of(question))
        return _asked(works, stored, question, kind)


def _answer_now(works: Context, stored: Stored, aim: Aim) -> Answer:
    """The answer for this very revision, waited for.  Raises NotFound when nothing fits, TookTooLong."""
    ends_at = time.monotonic() + WAIT_S
    while True:
        _, found, underway = _asked(works, stored, BestOf(aim=aim), Found)
        if underway is None or underway.state not in ("waiting", "working"):
            break
        if time.monotonic() > ends_at:
            raise TookTooLong("The pick is still being found; ask again in a moment.")
        time.sleep(LOOK_EVERY_S)
    if underway:
        raise TookTooLong(underway.told or "The search for this pick was stopped; find it again first.")
    if found is None or found.answer is None:
        raise NotFound("Nothing fits yet, so there is no answer to ask about.")
    return found.answer


@router.get("/projects/{project_id}/picks/{aim}")
def pick_for(project_id: int, aim: Aim, works: Works) -> PickFor:
    """The answer as far as it is known; asking puts the search on the queue, events tell of it."""
    revision, found, underway = _asked(works, works.projects.load(project_id), BestOf(aim=aim), Found)
    if found:
        return PickFor(revision=revision, answer=found.answer, relax=found.relax, underway=underway)
    known, answer = works.projects.last_pick(project_id, aim) or (0, None)
    return PickFor(revision=known, answer=answer, underway=underway)


@router.post("/projects/{project_id}/search/stop", status_code=204)
def stop_search(project_id: int, question: Question, works: Works) -> None:
    """Stop the search for a reply; what is known of it stays."""
    works.queue.stop(project_id, question)


@router.post("/projects/{project_id}/search/again", status_code=204)
def search_again(project_id: int, question: Question, works: Works) -> None:
    """Search again after a stop or a failure."""
    works.queue.questions.forget(project_id, name_of(question))
    works.queue.ask(works.projects.load(project_id), question)


@router.get("/projects/{project_id}/picks/{aim}/reasons")
def reasons_for(project_id: int, aim: Aim, works: Works) -> Reasons:
    stored = works.projects.load(project_id)
    answer = _answer_now(works, stored, aim)
    return Reasons(revision=stored.revision, aim=aim, models=works.picker(stored).reasons(answer))


@router.get("/projects/{project_id}/picks/{aim}/why-not/{model}")
def why_not(project_id: int, aim: Aim, model: ModelKey, works: Works) -> PriceFor:
    """The sure reply: the least pick that has this model in it, as soon as it is found."""
    stored = works.projects.load(project_id)
    if works.catalogues.of(stored.project).get(model) is None:
        raise NotFound(f"The catalogue has no model {model}.")
    revision, reply, underway = _asked(works, stored, PriceOf(aim=aim, model=model), WhyNot)
    return PriceFor(revision=revision, reply=reply, underway=underway)


@router.get("/projects/{project_id}/picks/{aim}/ahead")
def ahead(project_id: int, aim: Aim, works: Works) -> AheadFor:
    """What each year asks of the boxes, year by year."""
    revision, reply, underway = _asked(works, works.projects.load(project_id), AheadOf(aim=aim), Ahead)
    return AheadFor(revision=revision, reply=reply, underway=underway)


@router.get("/projects/{project_id}/picks/{aim}/steps")
def in_steps(project_id: int, aim: Aim, works: Works) -> StepsFor:
    """Buying in two steps against all at once."""
    revision, reply, underway = _asked(works, works.projects.load(project_id), StepsOf(aim=aim), Steps)
    return StepsFor(revision=revision, reply=reply, underway=underway)


@router.get("/projects/{project_id}/flips")
def what_flips(project_id: int, works: Works) -> FlipsFor:
    """How little must change until the least pick is another one."""
    revision, reply, underway = _asked(works, works.projects.load(project_id), FlipsOf(), Flips)
    return FlipsFor(revision=revision, reply=reply, underway=underway)


@router.get("/projects/{project_id}/beyond")
def beyond(project_id: int, works: Works) -> BeyondFor:
    """Ports beyond the closet: for each room a cable each against one cable and a room switch."""
    revision, reply, underway = _asked(works, works.projects.load(project_id), BeyondOf(), Beyond)
    return BeyondFor(revision=revision, reply=reply, underway=underway)


@router.get("/projects/{project_id}/picks/{aim}/parts.csv", response_class=Response)
def parts_csv(project_id: int, aim: Aim, works: Works) -> Response:
    """The bill of materials."""
    stored = works.projects.load(project_id)
    answer = _answer_now(works, stored, aim)
    headers = {"Content-Disposition": f'attachment; filename="parts-{project_id}.csv"'}
    bill = write_bill(answer, stored.project.settings.currency, small_parts(stored.project.drops))
    return Response(bill, media_type="text/csv", headers=headers)


def grounds_for(works: Context, stored: Stored) -> tuple[Ground, ...]:
    """The ground of every closet, on what is held or on the last pick."""
    last = works.projects.last_pick(stored.id, stored.project.settings.aim)
    catalogue = works.catalogues.of(stored.project)
    standing = standing_boxes(stored.project, catalogue, last[1].standing() if last else None)
    return grounds_of(stored.project, catalogue, standing)


@router.get("/projects/{project_id}/closets/{closet_id}/capacities/{key}")
def capacity(project_id: int, closet_id: int, key: str, works: Works) -> Opened:
    """A capacity of the ground, opened."""
    grounds = grounds_for(works, works.projects.load(project_id))
    base = next((ground for ground in grounds if ground.closet.id == closet_id and ground.boxes), None)
    found = opened(base, key) if base else None
    if found is None:
        raise NotFound(f"There is no capacity {key} to open yet.")
    return found
