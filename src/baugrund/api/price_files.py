"""Price lists in and out as files: a long one takes a while, so it is read and written on the queue."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query, Request, Response
from fastapi.concurrency import run_in_threadpool

from baugrund.core.facts.fact import Fact
from baugrund.exchange.meanings import Answers
from baugrund.exchange.tables import MAX_BYTES
from baugrund.store.questions import About
from baugrund.tasks.price_questions import (
    Imported,
    PriceFormat,
    PriceQuestion,
    PricesWritten,
    TakeIn,
    WriteOut,
)
from baugrund.tasks.questions import name_of

from .asking import Underway, asked_of_prices, waited_for
from .context import Account, Context, Works
from .downloads import CSV, JSON, XLSX, as_file, download
from .uploads import JsonRoute, body_of

router = APIRouter(prefix="/api/catalogues/{catalogue_id}", tags=["price files"], route_class=JsonRoute)

MEDIA_TYPES: dict[PriceFormat, str] = {"csv": CSV, "xlsx": XLSX, "json": JSON}


class KeptFile(Fact):
    """A file that is there to be looked into, by its key."""

    file: str


class PriceWork(Fact):
    """How far it is that is done with a file: what it would change or has changed, or whether it is written."""

    imported: Imported | None = None
    written: bool = False
    underway: Underway | None = None


@router.post("/files", status_code=201)
async def keep_file(catalogue_id: int, request: Request, works: Works) -> KeptFile:
    """The body is a CSV, XLSX or JSON file; it changes nothing yet."""
    content = await body_of(request, MAX_BYTES)
    return KeptFile(file=await run_in_threadpool(_kept, works, catalogue_id, content))


@router.post("/answers", status_code=201)
def keep_answers(catalogue_id: int, answers: Answers, works: Works) -> KeptFile:
    """What is said about a table, to be named by its key where the file is looked into."""
    return KeptFile(file=_kept(works, catalogue_id, answers.model_dump_json().encode()))


def _kept(works: Context, catalogue_id: int, content: bytes) -> str:
    works.catalogues.edition(catalogue_id)
    return works.queue.files.keep(catalogue_id, content)


@router.post("/asked")
def price_work(catalogue_id: int, question: PriceQuestion, works: Works, account: Account) -> PriceWork:
    """What is asked, once it is there, and how far it is until then; what is asked first is begun."""
    works.catalogues.edition(catalogue_id)
    asked = _by(account, question)
    if isinstance(asked, WriteOut):
        written, underway = asked_of_prices(works, catalogue_id, asked, PricesWritten)
        return PriceWork(written=written is not None, underway=underway)
    imported, underway = asked_of_prices(works, catalogue_id, asked, Imported)
    return PriceWork(imported=imported, underway=underway)


@router.post("/asked/stop", status_code=204)
def stop_price_work(catalogue_id: int, question: PriceQuestion, works: Works, account: Account) -> None:
    """Stop it; what was not done by then is not done."""
    works.queue.stop(About(catalogue=catalogue_id), _by(account, question))


@router.post("/asked/again", status_code=204)
def price_work_again(catalogue_id: int, question: PriceQuestion, works: Works, account: Account) -> None:
    """Begin again after a stop or a failure."""
    works.catalogues.edition(catalogue_id)
    asked = _by(account, question)
    works.queue.questions.forget(About(catalogue=catalogue_id), name_of(asked))
    works.queue.ask_of_prices(catalogue_id, asked)


@router.get("/prices.{kind}", response_class=Response, responses=as_file(CSV, XLSX, JSON))
async def export(
    catalogue_id: int, kind: PriceFormat, works: Works, edition: Annotated[int | None, Query(ge=1)] = None
) -> Response:  # fmt: skip
    """Every line as a file, waited for."""
    number = (await run_in_threadpool(works.catalogues.edition, catalogue_id, edition)).number
    about, question = About(catalogue=catalogue_id), WriteOut(format=kind, edition=number)
    written = await waited_for(
        works, about, lambda: asked_of_prices(works, catalogue_id, question, PricesWritten), "price list"
    )
    return download(written.content, MEDIA_TYPES[kind], f"prices-{catalogue_id}-edition-{number}.{kind}")


def _by(account: str, question: PriceQuestion) -> PriceQuestion:
    """What is asked, in the name of who acts."""
    return question.model_copy(update={"account": account}) if isinstance(question, TakeIn) else question
