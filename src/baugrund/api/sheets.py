"""Sheets to print: made once a state and day, then there to be taken along."""

from __future__ import annotations

from datetime import date

from fastapi import APIRouter, Response
from fastapi.concurrency import run_in_threadpool

from baugrund.core.facts.fact import Fact
from baugrund.store.questions import About
from baugrund.store.states import Stored
from baugrund.tasks.questions import Sheet, SheetName, SheetOf, name_of

from .asking import Underway, asked, waited_for
from .context import Context, Works
from .downloads import PDF, as_file, download
from .uploads import JsonRoute

router = APIRouter(prefix="/api", tags=["sheets"], route_class=JsonRoute)


class SheetFor(Fact):
    """Whether a sheet of a revision is there to be taken along."""

    revision: int
    ready: bool
    underway: Underway | None = None


def _of_today(works: Context, stored: Stored, question: SheetOf) -> tuple[int, Sheet | None, Underway | None]:
    """A sheet as far as it is made; one that bears the date of another day is made again."""
    revision, sheet, underway = asked(works, stored, question, Sheet)
    if sheet is None or sheet.made == date.today():
        return revision, sheet, underway
    works.queue.questions.forget(About(project=stored.id), name_of(question))
    return asked(works, stored, question, Sheet)


@router.get("/projects/{project_id}/sheets/{sheet}")
def sheet_for(project_id: int, sheet: SheetName, works: Works, of: int | None = None) -> SheetFor:
    """How far a sheet is; asking has it made.  ``of``: the offer that it is about; none: the last one."""
    revision, made, underway = _of_today(works, works.projects.load(project_id), SheetOf(sheet=sheet, of=of))
    return SheetFor(revision=revision, ready=made is not None, underway=underway)


@router.get("/projects/{project_id}/sheets/{sheet}/pdf", response_class=Response, responses=as_file(PDF))
async def sheet_pdf(project_id: int, sheet: SheetName, works: Works, of: int | None = None) -> Response:
    """The sheet itself, waited for."""
    stored, question = await run_in_threadpool(works.projects.load, project_id), SheetOf(sheet=sheet, of=of)
    await run_in_threadpool(_of_today, works, stored, question)
    about = About(project=project_id)
    made = await waited_for(works, about, lambda: asked(works, stored, question, Sheet)[1:], "sheet")
    return download(made.pdf, PDF, f"{sheet}-{project_id}.pdf")
