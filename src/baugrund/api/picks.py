"""Pick and ground: answers, reasons, opened capacities, the bill of materials."""

from __future__ import annotations

from fastapi import APIRouter, Response

from baugrund.core.bearing import Ground, Opened, grounds_of, opened
from baugrund.core.catalogue import Catalogue
from baugrund.core.errors import NotFound
from baugrund.core.facts import Fact
from baugrund.core.mounting import small_parts
from baugrund.core.pick.answers import Answer
from baugrund.core.pick.reasons import Relaxed, WhyNot
from baugrund.core.plan import standing_boxes
from baugrund.core.project import Aim
from baugrund.exchange.bill_of_materials import write_bill
from baugrund.store.projects import Stored

from .context import Context, Works

router = APIRouter(prefix="/api", tags=["pick"])


class PickFor(Fact):
    """The answer of one aim for a revision; without one, what stands in the way."""

    revision: int
    answer: Answer | None
    relax: tuple[Relaxed, ...]


class Reasons(Fact):
    """Why not: every model that the answer does not take."""

    revision: int
    aim: Aim
    models: tuple[WhyNot, ...]


def answer_for(works: Context, stored: Stored, aim: Aim) -> tuple[Answer | None, tuple[Relaxed, ...]]:
    """The answer for this very revision: the kept one, or found now and kept."""
    last = works.projects.last_pick(stored.id, aim)
    if last and last[0] == stored.revision:
        return last[1], ()
    picker = works.picker(stored)
    answer = picker.answer(aim)
    if answer is None:
        return None, picker.relax()
    works.projects.keep_pick(stored.id, stored.revision, answer)
    return answer, ()


def _wanted(works: Context, project_id: int, aim: Aim) -> tuple[Stored, Answer]:
    stored = works.projects.load(project_id)
    answer, _ = answer_for(works, stored, aim)
    if answer is None:
        raise NotFound("Nothing fits yet, so there is no answer to ask about.")
    return stored, answer


@router.get("/catalogue")
def catalogue(works: Works) -> Catalogue:
    return works.catalogue


@router.get("/projects/{project_id}/picks/{aim}")
def pick_for(project_id: int, aim: Aim, works: Works) -> PickFor:
    stored = works.projects.load(project_id)
    answer, relax = answer_for(works, stored, aim)
    return PickFor(revision=stored.revision, answer=answer, relax=relax)


@router.get("/projects/{project_id}/picks/{aim}/reasons")
def reasons_for(project_id: int, aim: Aim, works: Works) -> Reasons:
    stored, answer = _wanted(works, project_id, aim)
    return Reasons(revision=stored.revision, aim=aim, models=works.picker(stored).reasons(answer))


@router.get("/projects/{project_id}/picks/{aim}/why-not/{model}")
def why_not(project_id: int, aim: Aim, model: str, works: Works) -> WhyNot:
    """The sure reply: the least pick that has this model in it."""
    stored, answer = _wanted(works, project_id, aim)
    return works.picker(stored).forced(model, answer)


@router.get("/projects/{project_id}/picks/{aim}/parts.csv", response_class=Response)
def parts_csv(project_id: int, aim: Aim, works: Works) -> Response:
    """The bill of materials."""
    stored, answer = _wanted(works, project_id, aim)
    headers = {"Content-Disposition": f'attachment; filename="parts-{project_id}.csv"'}
    bill = write_bill(answer, stored.project.settings.currency, small_parts(stored.project.drops))
    return Response(bill, media_type="text/csv", headers=headers)


def grounds_for(works: Context, stored: Stored) -> tuple[Ground, ...]:
    """The ground of every closet, on what is held or on the last pick."""
    last = works.projects.last_pick(stored.id, stored.project.settings.aim)
    standing = standing_boxes(stored.project, works.catalogue, last[1].standing() if last else None)
    return grounds_of(stored.project, works.catalogue, standing)


@router.get("/projects/{project_id}/closets/{closet_id}/capacities/{key}")
def capacity(project_id: int, closet_id: int, key: str, works: Works) -> Opened:
    """A capacity of the ground, opened."""
    grounds = grounds_for(works, works.projects.load(project_id))
    base = next((ground for ground in grounds if ground.closet.id == closet_id and ground.boxes), None)
    found = opened(base, key) if base else None
    if found is None:
        raise NotFound(f"There is no capacity {key} to open yet.")
    return found
