"""Several drops of a room fed by one cable and a switch in the room."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ..errors import InvalidInput
from ..facts.fact import Fact
from ..facts.lines.line import PoeCap, Speed
from ..facts.project import Project
from ..words import counted
from .drops import ChangeDrops, DropChanges, Ids
from .listing import AddDrops
from .rows import found


class UseRoomSwitch(Fact):
    """Hang drops of one room behind a room switch there, which gets a cable of its own.  Raises InvalidInput when they
    are not all of one room and closet."""

    type: Literal["use_room_switch"] = "use_room_switch"
    drop_ids: Ids
    speed_mbit: Speed = 1000
    """Line rate of its cable [Mbit/s]."""
    name: str = ""
    """What the switch is, for its note."""
    fed_class: PoeCap | None = None
    """Class that feeds it over its cable; None: it takes a socket in the room."""
    draw_w: Annotated[float, Field(ge=0, le=100)] = 0.0
    """Its own draw [W]."""

    def apply(self, project: Project) -> Project:
        drops = [found(project.drops, number, "drop") for number in self.drop_ids]
        if len({(drop.room_id, drop.closet_id, drop.behind_id) for drop in drops}) > 1:
            raise InvalidInput("A room switch feeds drops of one room that end in one closet.", "drop_ids")
        first = drops[0]
        row = DropChanges(
            speed_mbit=self.speed_mbit, socket=self.fed_class is None, poe_class=self.fed_class,
            draw_w=0.0 if self.fed_class is None else self.draw_w, closet_id=first.closet_id, note=self.name[:200],
            large_frames=any(drop.large_frames for drop in drops),
        )  # fmt: skip
        number = project.next_id
        project = AddDrops(room=first.room_id, kind="room_switch", changes=row).apply(project)
        return ChangeDrops(ids=self.drop_ids, changes=DropChanges(behind_id=number)).apply(project)

    def summary(self, project: Project) -> str:
        room = project.rooms_by_id[found(project.drops, self.drop_ids[0], "drop").room_id].name
        return f"feed {counted(len(self.drop_ids), 'port')} in {room} by a room switch"
