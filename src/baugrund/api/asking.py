"""Questions on the queue, as the screens ask them: a reply that is there, how far it is, an end to it."""

from __future__ import annotations

import asyncio
import time
from collections.abc import Callable
from contextlib import suppress
from typing import Literal, TypeVar

from fastapi import APIRouter
from fastapi.concurrency import run_in_threadpool
from pydantic import ValidationError

from baugrund.core.errors import NotReady
from baugrund.core.facts.fact import Fact
from baugrund.store.questions import About, StoredQuestion
from baugrund.store.states import Stored
from baugrund.tasks.price_questions import PriceQuestion
from baugrund.tasks.questions import Question, name_of

from .context import Context, Works
from .uploads import JsonRoute

router = APIRouter(prefix="/api", tags=["questions"], route_class=JsonRoute)

WAIT_S = 60.0
"""How long a download waits for the reply that it is about."""
LOOK_EVERY_S = 5.0
"""How often it looks without word, should one be lost [s]."""
NO_WORKER = "No worker is running now; another starts in a moment"
Reply = TypeVar("Reply", bound=Fact)


class Underway(Fact):
    """How far a reply is."""

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
    share: float = 0.0
    """Where the end is known, how far it is [0 to 1]."""
    text: str = ""
    """What is being worked on."""
    told: str = ""
    """Why there is no reply, in a sentence."""
    attended: bool = True
    """Whether any worker is there to take it up."""


def asked(
    works: Context, stored: Stored, question: Question, kind: type[Reply]
) -> tuple[int, Reply | None, Underway | None]:
    """The revision, the reply once it is there, and until then how far it is, perhaps with a draft; asking puts it on
    the queue."""
    return _stands(works, About(project=stored.id), question, lambda: works.queue.ask(stored, question), kind)


def asked_of_prices(
    works: Context, catalogue_id: int, question: PriceQuestion, kind: type[Reply]
) -> tuple[Reply | None, Underway | None]:
    """The same of a catalogue, which is asked about by its edition."""
    about = About(catalogue=catalogue_id)
    return _stands(works, about, question, lambda: works.queue.ask_of_prices(catalogue_id, question), kind)[1:]


def _stands(
    works: Context, about: About, question: Fact, ask: Callable[[], StoredQuestion], kind: type[Reply]
) -> tuple[int, Reply | None, Underway | None]:
    stands = ask()
    if stands.state != "done" and stands.reply is None:
        return stands.revision, None, _underway(stands)
    try:
        return stands.revision, kind.model_validate(stands.reply), _underway(stands)
    except ValidationError:
        # kept by an older version of this program: it is found again
        works.queue.questions.forget(about, name_of(question))
        return _stands(works, about, question, ask, kind)


def _underway(stands: StoredQuestion) -> Underway | None:
    if stands.state == "done":
        return None
    seen = {name: value for name, value in (stands.progress or {}).items() if name in Underway.model_fields}
    if not stands.attended and stands.state in ("waiting", "working"):
        seen["text"] = NO_WORKER
    told = {"state": stands.state, "asked_s": round(stands.asked_s, 1), "told": stands.told}
    return Underway.model_validate({**told, "attended": stands.attended, **seen})


async def waited_for(
    works: Context, about: About, look: Callable[[], tuple[Reply | None, Underway | None]], what: str
) -> Reply:
    """A reply, once it is there whole; no thread waits for it.

    Raises NotReady, which says that this ``what`` is not there.
    """
    ends_at = time.monotonic() + WAIT_S
    async with works.notices.of(str(about)) as heard:
        while True:
            reply, underway = await run_in_threadpool(look)
            if reply and underway is None:
                return reply
            if underway and underway.state in ("stopped", "failed"):
                raise NotReady(underway.told or f"The search for this {what} was stopped; begin it again first.")
            if time.monotonic() > ends_at:
                raise NotReady(f"The {what} is not there yet; ask again in a moment.")
            with suppress(TimeoutError):
                async with asyncio.timeout(LOOK_EVERY_S):
                    await heard.get()


@router.post("/projects/{project_id}/search/stop", status_code=204)
def stop_search(project_id: int, question: Question, works: Works) -> None:
    """Stop the work on a reply; what is known of it stays."""
    works.queue.stop(About(project=project_id), question)


@router.post("/projects/{project_id}/search/again", status_code=204)
def search_again(project_id: int, question: Question, works: Works) -> None:
    """Begin again after a stop or a failure."""
    works.queue.questions.forget(About(project=project_id), name_of(question))
    works.queue.ask(works.projects.load(project_id), question)
