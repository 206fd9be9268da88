"""Walk: the kinds of drop, starters for an empty project, and the quick line."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter
from pydantic import Field

from baugrund.core.drop_kinds import DROP_KINDS
from baugrund.core.facts import Fact
from baugrund.core.quick_line import Understood, understand
from baugrund.core.room_starters import STARTERS, Starter

from .context import Works

router = APIRouter(prefix="/api", tags=["walk"])


class KindLine(Fact):
    """A kind of drop as the tally shows it."""

    key: str
    name: str
    plural: str
    column: str
    powered: bool
    run_m: float


class QuickLine(Fact):
    """A line as typed, and the room that is selected."""

    text: Annotated[str, Field(max_length=500)]
    room_id: int | None = None


@router.get("/kinds")
def kinds() -> list[KindLine]:
    return [
        KindLine(
            key=kind.key,
            name=kind.name,
            plural=kind.plural,
            column=kind.column,
            powered=kind.poe_class is not None,
            run_m=kind.run_m,
        )
        for kind in DROP_KINDS.values()
    ]


@router.get("/room-starters")
def room_starters() -> list[Starter]:
    return list(STARTERS)


@router.post("/projects/{project_id}/quick-line")
def quick_line(project_id: int, line: QuickLine, works: Works) -> Understood:
    return understand(line.text, works.projects.load(project_id).project, line.room_id)
