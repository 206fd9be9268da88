"""The edit that records where a device came to stand, measured from the two walls that it was set out from."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ..facts.fact import Fact, Id, Text
from ..facts.project import Project
from ..places.layout import layout
from ..places.setting_out import offsets, planned_spot, spot_at
from .rows import found, replaced

Away = Annotated[float, Field(ge=0, le=1000)]


class RecordBuilt(Fact):
    """A device stands so far from its two walls [m], and why it was moved; both None: as planned."""

    type: Literal["record_built"] = "record_built"
    drop_id: Id
    first_m: Away | None
    second_m: Away | None
    why: Text = ""

    def apply(self, project: Project) -> Project:
        drop = found(project.drops, self.drop_id, "drop")
        placed = layout(project)
        at = next(spot for spot in placed.drops if spot.id == drop.id)
        outline = next(room.outline for room in placed.rooms if room.id == drop.room_id)
        planned = planned_spot(drop, at)
        first, second = offsets(outline, planned)
        built = None
        if self.first_m is not None or self.second_m is not None:
            measured = (
                first.m if self.first_m is None else self.first_m,
                second.m if self.second_m is None else self.second_m,
            )
            built = spot_at(first.wall, measured[0], second.wall, measured[1], planned)
        x, y = built or (None, None)
        changed = drop.model_copy(update={"built_x_m": x, "built_y_m": y, "built_why": self.why if built else ""})
        if drop.x_m is None and built is not None:
            # what was only laid out is planned from here on: otherwise it would be measured from where it stands
            changed = changed.model_copy(update={"x_m": planned[0], "y_m": planned[1]})
        return replaced(project, drops=tuple(changed if one is drop else one for one in project.drops))

    def summary(self, project: Project) -> str:
        return f"record where {project.name_of(found(project.drops, self.drop_id, 'drop'))} stands"
