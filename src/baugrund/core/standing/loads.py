"""Load as it is told: every powered run, and what the boxes that stand draw and feed."""

from __future__ import annotations

from collections.abc import Sequence

from ..facts.fact import Fact
from ..facts.project import Project
from ..physics.poe import School
from ..power.load import BoxLoad, ClosetLoad, Fed, box_load, closet_loads, fed
from .ground import Ground


class Load(Fact):
    """The power of a project.  ``boxes``: those that stand, closet by closet; none before a pick."""

    school: School
    margin_percent: float
    port_v: float
    runs: tuple[Fed, ...]
    box_of: dict[int, int]
    """The box that powers a drop, by its place in ``boxes``."""
    closets: tuple[ClosetLoad, ...]
    boxes: tuple[BoxLoad, ...]


def load_of(project: Project, grounds: Sequence[Ground]) -> Load:
    """The power of a project on the boxes that stand."""
    boxes: list[BoxLoad] = []
    box_of: dict[int, int] = {}
    for ground in grounds:
        if ground.seating:
            box_of |= {drop_id: len(boxes) + at for drop_id, at in _fed_by(ground).items()}
        boxes += box_loads(project, ground)
    terms = project.settings
    return Load(
        school=terms.school, margin_percent=terms.margin, port_v=terms.port_volts,
        runs=tuple(fed(project).values()), box_of=box_of, closets=closet_loads(project), boxes=tuple(boxes),
    )  # fmt: skip


def box_loads(project: Project, ground: Ground) -> list[BoxLoad]:
    """What the boxes of a closet draw and feed; none without a seating."""
    if not ground.seating:
        return []
    fed_by: dict[int, list[int]] = {number: [] for number in range(len(ground.boxes))}
    for drop_id, number in _fed_by(ground).items():
        fed_by[number].append(drop_id)
    return [box_load(project, ground.closet.id, box, fed_by[number]) for number, box in enumerate(ground.boxes)]


def _fed_by(ground: Ground) -> dict[int, int]:
    """The box of its closet that powers a drop, by the drop's number."""
    return {place.drop_id: place.box for place in ground.places if place.drop_id and place.powered}
