"""Load: every powered run in volts and watts, added up per closet and per box; traffic hop by hop."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query

from baugrund.core.facts.fact import Fact
from baugrund.core.standing.drill import Drill, drills
from baugrund.core.standing.flows import Flows, flows
from baugrund.core.standing.loads import Load, load_of

from .context import Works
from .standing import grounds_for
from .uploads import JsonRoute

router = APIRouter(prefix="/api", tags=["load"], route_class=JsonRoute)


class LoadFor(Load):
    """The power of a revision."""

    revision: int


@router.get("/projects/{project_id}/load")
def load_for(project_id: int, works: Works) -> LoadFor:
    stored = works.projects.load(project_id)
    found = load_of(stored.project, grounds_for(works, stored))
    return LoadFor(revision=stored.revision, **{name: getattr(found, name) for name in Load.model_fields})


class TrafficFor(Fact):
    """The traffic of a revision on the boxes that stand; nothing before a pick."""

    revision: int
    flows: Flows


@router.get("/projects/{project_id}/traffic")
def traffic_for(project_id: int, works: Works) -> TrafficFor:
    stored = works.projects.load(project_id)
    return TrafficFor(revision=stored.revision, flows=flows(stored.project, grounds_for(works, stored)))


class DrillFor(Fact):
    """The power-up drill of a revision, of the boxes that stand; nothing before a pick."""

    revision: int
    with_reserve: bool
    drills: tuple[Drill, ...]


@router.get("/projects/{project_id}/drill")
def drill_for(
    project_id: int,
    works: Works,
    with_reserve: bool = False,
    budget_w: Annotated[float | None, Query(ge=0, le=5000)] = None,
) -> DrillFor:
    """Who is fed and who is refused as every box comes up; ``budget_w``: with that budget in place of its own."""
    stored = works.projects.load(project_id)
    grounds = grounds_for(works, stored)
    found = drills(stored.project, grounds, with_reserve=with_reserve, budget_w=budget_w)
    return DrillFor(revision=stored.revision, with_reserve=with_reserve, drills=found)
