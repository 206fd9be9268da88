"""Load: every powered run in volts and watts, added up per closet and per box."""

from __future__ import annotations

from fastapi import APIRouter

from baugrund.core.bearing import Ground, ground
from baugrund.core.facts import Fact
from baugrund.core.load import BoxLoad, ClosetLoad, Fed, box_load, closet_loads, fed
from baugrund.core.plan import standing_boxes
from baugrund.core.poe import PORT_VOLTS_DEFAULT, School

from .context import Works

router = APIRouter(prefix="/api", tags=["load"])


class LoadFor(Fact):
    """The power of a revision.  ``boxes``: those that the ground stands on, the head end's; none before a pick."""

    revision: int
    school: School
    margin_percent: float
    port_v: float
    runs: tuple[Fed, ...]
    box_of: dict[int, int]
    """The box in which a drop sits, by its place in ``boxes``."""
    closets: tuple[ClosetLoad, ...]
    boxes: tuple[BoxLoad, ...]


@router.get("/projects/{project_id}/load")
def load_for(project_id: int, works: Works) -> LoadFor:
    stored = works.projects.load(project_id)
    project = stored.project
    last = works.projects.last_pick(project_id, project.settings.aim)
    standing = standing_boxes(project, works.catalogue, last[1].standing() if last else None)
    base = ground(project, works.catalogue, standing) if standing else None
    box_of = _seats(base) if base else {}
    boxes = base.boxes if base and base.seating else ()
    return LoadFor(
        revision=stored.revision, school=project.settings.school, margin_percent=project.settings.margin,
        port_v=PORT_VOLTS_DEFAULT, runs=tuple(fed(project).values()), box_of=box_of, closets=closet_loads(project),
        boxes=tuple(
            box_load(project, box, [drop_id for drop_id, at in box_of.items() if at == number])
            for number, box in enumerate(boxes)
        ),
    )  # fmt: skip


def _seats(base: Ground) -> dict[int, int]:
    """The box that powers each drop of the list, where one does."""
    return {place.drop_id: place.box for place in base.places if place.drop_id is not None and place.powered}
