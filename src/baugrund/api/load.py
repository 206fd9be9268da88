"""Load: every powered run in volts and watts, added up per closet and per box; traffic hop by hop."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query

from baugrund.core.drill import Drill, drills
from baugrund.core.facts import Fact
from baugrund.core.flows import Flows, flows
from baugrund.core.load import BoxLoad, ClosetLoad, Fed, box_load, closet_loads, fed
from baugrund.core.poe import PORT_VOLTS_DEFAULT, School

from .context import Works
from .picks import grounds_for

router = APIRouter(prefix="/api", tags=["load"])


class LoadFor(Fact):
    """The power of a revision.  ``boxes``: those that the ground stands on, closet by closet; none before a pick."""

    revision: int
    school: School
    margin_percent: float
    port_v: float
    runs: tuple[Fed, ...]
    box_of: dict[int, int]
    """The box that powers a drop, by its place in ``boxes``."""
    closets: tuple[ClosetLoad, ...]
    boxes: tuple[BoxLoad, ...]


@router.get("/projects/{project_id}/load")
def load_for(project_id: int, works: Works) -> LoadFor:
    stored = works.projects.load(project_id)
    project = stored.project
    boxes: list[BoxLoad] = []
    box_of: dict[int, int] = {}
    for ground in grounds_for(works, stored):
        if ground.seating:
            seats = {place.drop_id: place.box for place in ground.places if place.drop_id and place.powered}
            box_of |= {drop_id: len(boxes) + at for drop_id, at in seats.items()}
            boxes += [
                box_load(project, ground.closet.id, box, [drop for drop, at in seats.items() if at == number])
                for number, box in enumerate(ground.boxes)
            ]
    return LoadFor(
        revision=stored.revision, school=project.settings.school, margin_percent=project.settings.margin,
        port_v=PORT_VOLTS_DEFAULT, runs=tuple(fed(project).values()), box_of=box_of, closets=closet_loads(project),
        boxes=tuple(boxes),
    )  # fmt: skip


class TrafficFor(Fact):
    """The traffic of a revision on the boxes that the ground stands on; nothing before a pick."""

    revision: int
    flows: Flows


@router.get("/projects/{project_id}/traffic")
def traffic_for(project_id: int, works: Works) -> TrafficFor:
    stored = works.projects.load(project_id)
    return TrafficFor(revision=stored.revision, flows=flows(stored.project, grounds_for(works, stored)))


class DrillFor(Fact):
    """The power-up drill of a revision, of the boxes that the ground stands on; nothing before a pick."""

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
