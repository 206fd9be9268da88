"""The one door for edits: apply, undo, redo, history."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from fastapi import APIRouter
from pydantic import Field, model_validator

from baugrund.core.answers.picker import Balance
from baugrund.core.edits import Edit
from baugrund.core.facts.fact import Fact
from baugrund.core.facts.project import Project
from baugrund.core.facts.settings import MAX_DROPS
from baugrund.store.states import Stored

from .context import Account, ChangeId, Context, Works
from .standing import balance_for
from .uploads import JsonRoute

router = APIRouter(prefix="/api/projects/{project_id}", tags=["edits"], route_class=JsonRoute)

MOST_ROWS = 2 * MAX_DROPS


class Edits(Fact):
    """Edits made on the revision that the browser saw, of so many rows in all."""

    seen_revision: Annotated[int, Field(ge=0)]
    edits: Annotated[tuple[Edit, ...], Field(min_length=1, max_length=500)]

    @model_validator(mode="after")
    def _is_not_too_much(self) -> Edits:
        rows = sum(_rows_of(edit) for edit in self.edits)
        if rows > MOST_ROWS:
            raise ValueError(f"These edits touch {rows:,} rows; {MOST_ROWS:,} are the most at once")
        return self


def _rows_of(edit: Edit) -> int:
    """How many rows an edit names or makes."""
    named = sum(len(value) for value in vars(edit).values() if isinstance(value, tuple))
    return named + int(getattr(edit, "count", 0))


class Outcome(Fact):
    """The project after an edit, its balance, and what undo and redo would do."""

    revision: int
    project: Project
    balance: Balance
    undo: str | None
    redo: str | None


class HistoryLine(Fact):
    """A line of the journal."""

    revision: int
    account: str
    at: datetime
    act: str
    told: str
    state: str


def outcome(works: Context, stored: Stored, account: str) -> Outcome:
    """What the screens need after any change."""
    steps = works.projects.steps(stored.id, account)
    return Outcome(
        revision=stored.revision,
        project=stored.project,
        balance=balance_for(works, stored),
        undo=steps.undo,
        redo=steps.redo,
    )


@router.get("/state")
def state(project_id: int, works: Works, account: Account) -> Outcome:
    return outcome(works, works.projects.load(project_id), account)


@router.post("/edits")
def edit(project_id: int, edits: Edits, works: Works, account: Account, change_id: ChangeId = None) -> Outcome:
    stored = works.projects.edit(project_id, edits.edits, edits.seen_revision, account, change_id)
    return outcome(works, stored, account)


@router.post("/undo")
def undo(project_id: int, works: Works, account: Account, change_id: ChangeId = None) -> Outcome:
    return outcome(works, works.projects.undo(project_id, account, change_id), account)


@router.post("/redo")
def redo(project_id: int, works: Works, account: Account, change_id: ChangeId = None) -> Outcome:
    return outcome(works, works.projects.redo(project_id, account, change_id), account)


@router.get("/history")
def history(project_id: int, works: Works) -> list[HistoryLine]:
    return [HistoryLine.model_validate(vars(entry)) for entry in works.projects.history(project_id)]
