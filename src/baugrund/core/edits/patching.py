"""Edits of the patching: what is plugged where, and what is pinned there."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ..errors import InvalidInput
from ..facts.fact import Day, Fact, Id, Text
from ..facts.patch import MAX_PATCHES, Discovered, DiscoveredPort, Patch, Printed
from ..facts.project import Project
from ..facts.stack import ThingKey
from ..places.labels import labels
from ..words import counted
from .rows import found, replaced


class Cord(Fact):
    """A drop, or an end of a link or feed, with its position and port."""

    drop_id: Id | None = None
    end: Text = ""
    panel: ThingKey | Literal[""] = ""
    position: Annotated[int, Field(ge=1, le=200)] | None = None
    box: ThingKey | Literal[""] = ""
    port: Annotated[int, Field(ge=1, le=400)] | None = None


class PatchCords(Fact):
    """Everything in a closet is plugged as listed, and nothing else is; what is pinned stays pinned."""

    type: Literal["patch_cords"] = "patch_cords"
    closet_id: Id
    cords: Annotated[tuple[Cord, ...], Field(max_length=MAX_PATCHES)]

    def apply(self, project: Project) -> Project:
        found(project.closets, self.closet_id, "closet")
        known = {
            (one.drop_id, one.end, one.end and one.box): one
            for one in project.patches
            if one.closet_id == self.closet_id
        }
        rows, number = [], project.next_id
        for cord in self.cords:
            if cord.drop_id is not None and cord.drop_id not in project.drops_by_id:
                raise InvalidInput(f"There is no drop {cord.drop_id}; somebody may have removed it.", "cords")
            old = known.get((cord.drop_id, cord.end, cord.end and cord.box))
            values = cord.model_dump() | {"closet_id": self.closet_id, "fixed": bool(old and old.fixed)}
            rows.append(Patch.model_validate({**values, "id": old.id if old else number}))
            number += old is None
        others = tuple(one for one in project.patches if one.closet_id != self.closet_id)
        return replaced(project, patches=(*others, *rows), next_id=number)

    def summary(self, project: Project) -> str:
        return f"patch {counted(len(self.cords), 'cord')} in {found(project.closets, self.closet_id, 'closet').name}"


class PinCord(Fact):
    """A drop is pinned to a port, a position or both, or let go (``fixed`` false); who sits there makes way."""

    type: Literal["pin_cord"] = "pin_cord"
    drop_id: Id
    panel: ThingKey | Literal[""] | None = None
    position: Annotated[int, Field(ge=1, le=200)] | None = None
    box: ThingKey | Literal[""] | None = None
    port: Annotated[int, Field(ge=1, le=400)] | None = None
    fixed: bool = True

    def apply(self, project: Project) -> Project:
        drop = found(project.drops, self.drop_id, "drop")
        old = next((one for one in project.patches if one.drop_id == drop.id), None)
        values = old.model_dump() if old else {"id": project.next_id, "drop_id": drop.id, "closet_id": drop.closet_id}
        values |= {"closet_id": drop.closet_id, "fixed": self.fixed}
        if self.panel is not None:
            values |= {"panel": self.panel, "position": self.position}
        if self.box is not None:
            values |= {"box": self.box, "port": self.port}
        mine = Patch.model_validate(values)
        rest = (_making_way(one, mine) for one in project.patches if one is not old)
        rows = (*(one for one in rest if one is not None), mine)
        return replaced(project, patches=rows, next_id=project.next_id + (old is None))

    def summary(self, project: Project) -> str:
        name = project.name_of(found(project.drops, self.drop_id, "drop"))
        return f"pin {name}" if self.fixed else f"let {name} go"


def _making_way(one: Patch, mine: Patch) -> Patch | None:
    """Another patch without the position and the port that are mine now; None: nothing is left of it."""
    values = one.model_dump()
    if one.closet_id == mine.closet_id and mine.panel and (one.panel, one.position) == (mine.panel, mine.position):
        values |= {"panel": "", "position": None}
    if one.closet_id == mine.closet_id and mine.box and (one.box, one.port) == (mine.box, mine.port):
        values |= {"box": "", "port": None}
    return Patch.model_validate(values) if values["panel"] or values["box"] else None


class PutLabels(Fact):
    """Labels are on their cables as they read now: of these drops, or of all; what was to be taken off is off."""

    type: Literal["put_labels"] = "put_labels"
    drop_ids: Annotated[tuple[Id, ...] | None, Field(max_length=MAX_PATCHES)] = None
    day: Day | None = None

    def apply(self, project: Project) -> Project:
        texts = labels(project)
        wanted = (
            texts if self.drop_ids is None else {number: texts[number] for number in self.drop_ids if number in texts}
        )
        old = {row.drop_id: row for row in project.printed if row.drop_id is not None}
        rows, number = (
            [row for row in project.printed if row.drop_id in texts and row.drop_id not in wanted],
            project.next_id,
        )
        for drop_id, text in wanted.items():
            row = old.get(drop_id)
            if row is not None and row.text == text:
                rows.append(row)
                continue
            rows.append(Printed(id=row.id if row else number, drop_id=drop_id, text=text, day=self.day))
            number += row is None
        return replaced(project, printed=tuple(rows), next_id=number)

    def summary(self, project: Project) -> str:
        return "put labels on their cables"


class TellDiscovered(Fact):
    """What switches told of their ports; what they told before of the same boxes is forgotten."""

    type: Literal["tell_discovered"] = "tell_discovered"
    ports: Annotated[tuple[DiscoveredPort, ...], Field(max_length=MAX_PATCHES)]

    def apply(self, project: Project) -> Project:
        for port in self.ports:
            found(project.closets, port.closet_id, "closet")
        boxes = {(port.closet_id, port.box) for port in self.ports}
        others = tuple(one for one in project.discovered if (one.closet_id, one.box) not in boxes)
        numbers = range(project.next_id, project.next_id + len(self.ports))
        rows = tuple(Discovered(id=n, **port.model_dump()) for n, port in zip(numbers, self.ports, strict=True))
        return replaced(project, discovered=(*others, *rows), next_id=project.next_id + len(rows))

    def summary(self, project: Project) -> str:
        return f"read {counted(len(self.ports), 'port')} that a switch told"
