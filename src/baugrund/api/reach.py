"""Reach: kinds of path, runs with their pieces, what each path holds, and the cable to buy."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter

from baugrund.core.facts import Fact, numbers
from baugrund.core.path_kinds import PATH_KINDS, PathKind
from baugrund.core.reach.cables import cable_list
from baugrund.core.reach.fill import filled
from baugrund.core.reach.runs import State, runs

from .context import Works

router = APIRouter(prefix="/api", tags=["reach"])


class PathKindLine(Fact):
    """A kind of path and its defaults."""

    key: PathKind
    name: str
    difficulty: int
    hours_per_m: float
    tools: str
    caution: str
    temperature_c: float


class StretchLine(Fact):
    """A piece of a run."""

    text: str
    length_m: float
    path_id: int | None
    temperature_c: float
    is_outside: bool


class RunLine(Fact):
    """A run with its pieces."""

    drop_id: int
    closet_id: int
    state: State
    length_m: float
    computed_m: float | None
    hours: float
    difficulty: int
    temperature_c: float
    stretches: tuple[StretchLine, ...]
    corners: tuple[Annotated[tuple[float, float, float], numbers(3)], ...]


class PathFill(Fact):
    """What a path holds."""

    path_id: int
    drop_ids: tuple[int, ...]
    length_m: float
    bundle_mm: float
    used: float | None
    rise_k: float | None
    bends: int
    pull_m: float


class ReachFor(Fact):
    """The runs and paths of a revision."""

    revision: int
    total_m: float
    hours: float
    runs: tuple[RunLine, ...]
    paths: tuple[PathFill, ...]


class CutLine(Fact):
    """A run cut from a box, between two metre marks."""

    drop_id: int
    length_m: float
    from_m: float
    to_m: float


class BoxLine(Fact):
    """A box, what is cut from it, and what stays."""

    cuts: tuple[CutLine, ...]
    rest_m: float


class CableToBuy(Fact):
    """A cable to buy."""

    name: str
    colour: str
    box_m: float
    price_minor: int
    total_minor: int
    runs: int
    total_m: float
    boxes: tuple[BoxLine, ...]
    bound: int
    proven: bool
    at_once: int
    passes: int
    too_long: tuple[int, ...]


@router.get("/path-kinds")
def path_kinds() -> list[PathKindLine]:
    return [
        PathKindLine(
            key=row.key, name=row.name, difficulty=row.difficulty, hours_per_m=row.hours_per_m, tools=row.tools,
            caution=row.caution, temperature_c=row.temperature_c,
        )
        for row in PATH_KINDS.values()
    ]  # fmt: skip


@router.get("/projects/{project_id}/reach")
def reach_for(project_id: int, works: Works) -> ReachFor:
    stored = works.projects.load(project_id)
    found = runs(stored.project).values()
    lines = [RunLine.model_validate(run, from_attributes=True) for run in found]
    held = [PathFill.model_validate(path, from_attributes=True) for path in filled(stored.project).values()]
    return ReachFor(
        revision=stored.revision, total_m=round(sum(run.length_m for run in found), 1),
        hours=round(sum(run.hours for run in found), 1), runs=tuple(lines), paths=tuple(held),
    )  # fmt: skip


@router.get("/projects/{project_id}/cable")
def cable_for(project_id: int, works: Works) -> list[CableToBuy]:
    """Boxes of every cable, and which run is cut from which."""
    lines = cable_list(works.projects.load(project_id).project)
    return [CableToBuy.model_validate(line, from_attributes=True) for line in lines]
