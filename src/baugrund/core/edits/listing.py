"""Edits of the list: rooms and drops."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ..catalogue import PoeCap, Speed
from ..drop_kinds import DROP_KINDS, KindKey
from ..errors import NotFound
from ..facts import Fact, Name, Note, Text
from ..project import MAX_DROPS, Drop, Id, Project, Room
from ..standards.cabling import Category
from ..words import counted
from .rows import Changes, found, replaced

Count = Annotated[int, Field(ge=0, le=500)]
Ids = Annotated[tuple[Id, ...], Field(min_length=1, max_length=MAX_DROPS)]


class DropChanges(Changes):
    """Fields of a drop; a run, measurement or traffic of None goes back to the default of the kind."""

    room_id: Id | None = None
    kind: KindKey | None = None
    label: Text | None = None
    place: Text | None = None
    in_use: bool | None = None
    speed_mbit: Speed | None = None
    poe_class: PoeCap | None = None
    draw_w: Annotated[float, Field(ge=0, le=100)] | None = None
    measured_w: Annotated[float, Field(ge=0, le=100)] | None = None
    traffic_mbit: Annotated[float, Field(ge=0, le=10_000)] | None = None
    run_m: Annotated[float, Field(gt=0, le=10_000)] | None = None
    category: Category | None = None
    outdoor_jacket: bool | None = None
    large_frames: bool | None = None
    note: Note | None = None


class RoomChanges(Changes):
    """Fields of a room."""

    name: Name | None = None
    floor: Text | None = None
    outside: bool | None = None


class NewRoom(Fact):
    """A room to add."""

    name: Name
    floor: Text = ""
    outside: bool = False


class AddRooms(Fact):
    """Add rooms at the end of the list."""

    type: Literal["add_rooms"] = "add_rooms"
    rooms: Annotated[tuple[NewRoom, ...], Field(min_length=1, max_length=200)]

    def apply(self, project: Project) -> Project:
        after = max((room.position for room in project.rooms), default=-1)
        rooms = tuple(
            Room(id=project.next_id + n, position=after + 1 + n, **new.model_dump()) for n, new in enumerate(self.rooms)
        )
        return replaced(project, rooms=project.rooms + rooms, next_id=project.next_id + len(rooms))

    def told(self, project: Project) -> str:
        return f"add {self.rooms[0].name}" if len(self.rooms) == 1 else f"add {len(self.rooms)} rooms"


class ChangeRoom(Fact):
    """Rename a room or move it to another floor."""

    type: Literal["change_room"] = "change_room"
    id: Id
    changes: RoomChanges

    def apply(self, project: Project) -> Project:
        room = found(project.rooms, self.id, "room")
        changed = Room.model_validate({**room.model_dump(), **self.changes.given()})
        return replaced(project, rooms=tuple(changed if r is room else r for r in project.rooms))

    def told(self, project: Project) -> str:
        return f"change the room {found(project.rooms, self.id, 'room').name}"


class RemoveRoom(Fact):
    """Remove a room and all drops in it."""

    type: Literal["remove_room"] = "remove_room"
    id: Id

    def apply(self, project: Project) -> Project:
        room = found(project.rooms, self.id, "room")
        return replaced(
            project,
            rooms=tuple(r for r in project.rooms if r is not room),
            drops=tuple(drop for drop in project.drops if drop.room_id != self.id),
        )

    def told(self, project: Project) -> str:
        drops = sum(drop.room_id == self.id for drop in project.drops)
        return f"remove {found(project.rooms, self.id, 'room').name} with {counted(drops, 'drop')}"


class AddDrops(Fact):
    """Add drops of a kind to a room: by number, or by name (the last room of that name is meant)."""

    type: Literal["add_drops"] = "add_drops"
    room: Id | Name
    kind: KindKey
    count: Annotated[int, Field(ge=1, le=500)] = 1
    changes: DropChanges = DropChanges()

    def _room(self, project: Project) -> Room:
        if isinstance(self.room, int):
            return found(project.rooms, self.room, "room")
        named = [room for room in project.rooms if room.name.casefold() == self.room.casefold()]
        if not named:
            raise NotFound(f"There is no room {self.room}.")
        return named[-1]

    def apply(self, project: Project) -> Project:
        room = self._room(project)
        new = tuple(_new_drop(project, room, self.kind, n, self.changes) for n in range(self.count))
        return replaced(project, drops=project.drops + new, next_id=project.next_id + self.count)

    def told(self, project: Project) -> str:
        row = DROP_KINDS[self.kind]
        where = self.room if isinstance(self.room, str) else self._room(project).name
        return f"add {counted(self.count, row.name.lower(), row.plural.lower())} in {where}"


class SetTally(Fact):
    """Make it so many drops of a kind in a room: new ones with the kind's usual need, or the last ones go."""

    type: Literal["set_tally"] = "set_tally"
    room_id: Id
    kind: KindKey
    count: Count

    def apply(self, project: Project) -> Project:
        room = found(project.rooms, self.room_id, "room")
        here = [drop for drop in project.drops if (drop.room_id, drop.kind) == (self.room_id, self.kind)]
        if self.count < len(here):
            gone = {drop.id for drop in here[self.count :]}
            return replaced(project, drops=tuple(drop for drop in project.drops if drop.id not in gone))
        more = self.count - len(here)
        new = tuple(_new_drop(project, room, self.kind, n, DropChanges()) for n in range(more))
        return replaced(project, drops=project.drops + new, next_id=project.next_id + more)

    def told(self, project: Project) -> str:
        row = DROP_KINDS[self.kind]
        room = found(project.rooms, self.room_id, "room").name
        return f"set {room} to {counted(self.count, row.name.lower(), row.plural.lower())}"


class ChangeDrops(Fact):
    """Change fields of one drop or of many at once."""

    type: Literal["change_drops"] = "change_drops"
    ids: Ids
    changes: DropChanges

    def apply(self, project: Project) -> Project:
        wanted = {drop_id: found(project.drops, drop_id, "drop") for drop_id in self.ids}
        given = self.changes.given()
        if "room_id" in given:
            found(project.rooms, self.changes.room_id or 0, "room")
        changed = {i: Drop.model_validate({**drop.model_dump(), **given}) for i, drop in wanted.items()}
        return replaced(project, drops=tuple(changed.get(drop.id, drop) for drop in project.drops))

    def told(self, project: Project) -> str:
        fields = " and ".join(sorted(f.removesuffix("_id").replace("_", " ") for f in self.changes.model_fields_set))
        return f"change {fields} of {counted(len(self.ids), 'drop')}"


class RemoveDrops(Fact):
    """Remove drops."""

    type: Literal["remove_drops"] = "remove_drops"
    ids: Ids

    def apply(self, project: Project) -> Project:
        gone = {found(project.drops, drop_id, "drop").id for drop_id in self.ids}
        return replaced(project, drops=tuple(drop for drop in project.drops if drop.id not in gone))

    def told(self, project: Project) -> str:
        return f"remove {counted(len(self.ids), 'drop')}"


def _new_drop(project: Project, room: Room, kind: KindKey, number: int, changes: DropChanges) -> Drop:
    row = DROP_KINDS[kind]
    usual = {
        "place": row.place, "speed_mbit": row.speed_mbit, "poe_class": row.poe_class, "draw_w": row.draw_w,
        "outdoor_jacket": room.outside,
    }  # fmt: skip
    return Drop.model_validate(
        {
            "id": project.next_id + number, "room_id": room.id, "closet_id": project.closet.id, "kind": kind,
            **usual, **changes.given(),
        }
    )  # fmt: skip
