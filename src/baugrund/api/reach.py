"""Reach: kinds of path, runs with their pieces, what each path holds, and the cable to buy."""

from __future__ import annotations

from fastapi import APIRouter

from baugrund.core.cabling.overview import CableToBuy, Reach, cable_to_buy, reach_of
from baugrund.core.facts.fact import Fact
from baugrund.core.facts.labour import PULLING, USUAL, Task
from baugrund.core.facts.path_kinds import PATH_KINDS, PathKind

from .context import Works
from .uploads import JsonRoute

router = APIRouter(prefix="/api", tags=["reach"], route_class=JsonRoute)


class PathKindLine(Fact):
    """A kind of path and its defaults."""

    key: PathKind
    name: str
    difficulty: int
    hours_per_m: float
    tools: str
    caution: str
    temperature_c: float


class TaskLine(Fact):
    """A task of labour and its usual hours."""

    key: Task
    name: str
    hours: float


class ReachFor(Reach):
    """The runs and paths of a revision."""

    revision: int


@router.get("/path-kinds")
def path_kinds() -> list[PathKindLine]:
    return [
        PathKindLine(
            key=row.key, name=row.name, difficulty=row.difficulty, hours_per_m=row.hours_per_m, tools=row.tools,
            caution=row.caution, temperature_c=row.temperature_c,
        )
        for row in PATH_KINDS.values()
    ]  # fmt: skip


@router.get("/tasks")
def tasks() -> list[TaskLine]:
    """Every task of labour that is counted, with its usual hours."""
    return [TaskLine(key=task, name=USUAL[task][0], hours=USUAL[task][1]) for task in PULLING]


@router.get("/projects/{project_id}/reach")
def reach_for(project_id: int, works: Works) -> ReachFor:
    stored = works.projects.load(project_id)
    found = reach_of(stored.project)
    return ReachFor(revision=stored.revision, **{name: getattr(found, name) for name in Reach.model_fields})


@router.get("/projects/{project_id}/cable")
def cable_for(project_id: int, works: Works) -> list[CableToBuy]:
    """Boxes of every cable, and which run is cut from which."""
    return list(cable_to_buy(works.projects.load(project_id).project))
