"""Edits of the list: rooms and drops."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Annotated, Any, Literal

from pydantic import Field
from shapely import Polygon

from ..errors import InvalidInput, NotFound
from ..facts.building import Building, Floor, Outline, Room, RoomUse, Side, guessed_level, is_loft
from ..facts.drop import (
    Drop,
    OwnKind,
)
from ..facts.drop_kinds import DROP_KINDS, SEEING_KINDS, KindKey
from ..facts.fact import Fact, Id, Name, Text
from ..facts.project import Project
from ..facts.settings import MAX_DROPS
from ..facts.sight import Angle, Bearing, Tilt, View
from ..standards.walls import Material
from ..words import counted
from .drops import DropChanges, without_drops
from .entries import unnamed
from .rows import Changes, found, replaced

Count = Annotated[int, Field(ge=0, le=500)]
TOUCHING_M2 = 0.02
"""Rooms that share less than this only touch: walls are drawn from their middle."""
MAIN_BUILDING = "Main building"


class RoomChanges(Changes):
    """Fields of a room; a floor is named, and comes into being when it is new."""

    name: Name | None = None
    floor: Text | None = None
    outside: bool | None = None
    use: RoomUse | None = None
    width_m: Side | None = None
    depth_m: Side | None = None
    outline: Outline | None = None
    wall: Material | None = None
    let_in_by: Text | None = None


class NewRoom(Fact):
    """A room to add; its floor is named, and comes into being when it is new."""

    name: Name
    floor: Text = ""
    outside: bool = False
    use: RoomUse = ""
    width_m: Side | None = None
    depth_m: Side | None = None
    outline: Outline | None = None


class AddRooms(Fact):
    """Add rooms at the end of the list."""

    type: Literal["add_rooms"] = "add_rooms"
    rooms: Annotated[tuple[NewRoom, ...], Field(min_length=1, max_length=200)]

    def apply(self, project: Project) -> Project:
        for new in self.rooms:
            project = _with_room(project, new)[0]
        return project

    def summary(self, project: Project) -> str:
        return f"add {self.rooms[0].name}" if len(self.rooms) == 1 else f"add {len(self.rooms)} rooms"


class ChangeRoom(Fact):
    """Rename a room, move it to another floor, draw or size it.  Raises InvalidInput when it covers another."""

    type: Literal["change_room"] = "change_room"
    id: Id
    changes: RoomChanges

    def apply(self, project: Project) -> Project:
        room = found(project.rooms, self.id, "room")
        given = self.changes.given()
        if "floor" in given:
            del given["floor"]
            project, floor = _with_floor(project, self.changes.floor or "", given.get("outside", room.outside))
            given["floor_id"] = floor.id
        changed = Room.model_validate({**room.model_dump(), **given})
        if changed.outline and ("outline" in given or "floor_id" in given):
            _refuse_overlap(project, changed)
        return replaced(project, rooms=tuple(changed if r is room else r for r in project.rooms))

    def summary(self, project: Project) -> str:
        return f"change the room {found(project.rooms, self.id, 'room').name}"


class RemoveRoom(Fact):
    """Remove a room and all drops in it."""

    type: Literal["remove_room"] = "remove_room"
    id: Id

    def apply(self, project: Project) -> Project:
        room = found(project.rooms, self.id, "room")
        entries = {entry.id for entry in project.entries if entry.room_id == self.id}
        rest = replaced(
            without_drops(project, [drop.id for drop in project.drops if drop.room_id == self.id]),
            rooms=tuple(r for r in project.rooms if r is not room),
            entries=tuple(entry for entry in project.entries if entry.id not in entries),
            candidates=tuple(place for place in project.candidates if place.room_id != self.id),
        )
        return unnamed(unnamed(rest, "rooms", {self.id}), "entries", entries)

    def summary(self, project: Project) -> str:
        drops = sum(drop.room_id == self.id for drop in project.drops)
        return f"remove {found(project.rooms, self.id, 'room').name} with {counted(drops, 'drop')}"


class AddDrops(Fact):
    """Add drops of a kind to a room: by number, or by name (the last room of that name is meant)."""

    type: Literal["add_drops"] = "add_drops"
    room: Id | Name
    kind: KindKey
    own_kind_id: Id | None = None
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
        usual = usual_drop(project, self._room(project), self.kind, self.own_kind_id, self.changes)
        return _with_copies(project, usual, self.count)

    def summary(self, project: Project) -> str:
        where = self.room if isinstance(self.room, str) else self._room(project).name
        return f"add {_some(project, self.count, self.kind, self.own_kind_id)} in {where}"


class SetTally(Fact):
    """Make it so many drops of a kind in a room: new ones with the kind's usual need, or the last ones go."""

    type: Literal["set_tally"] = "set_tally"
    room_id: Id
    kind: KindKey
    own_kind_id: Id | None = None
    count: Count

    def apply(self, project: Project) -> Project:
        room = found(project.rooms, self.room_id, "room")
        cell = (self.room_id, self.kind, self.own_kind_id)
        here = [drop.id for drop in project.drops if (drop.room_id, drop.kind, drop.own_kind_id) == cell]
        if self.count <= len(here):
            return without_drops(project, here[self.count :])
        usual = usual_drop(project, room, self.kind, self.own_kind_id, DropChanges())
        return _with_copies(project, usual, self.count - len(here))

    def summary(self, project: Project) -> str:
        room = found(project.rooms, self.room_id, "room").name
        return f"set {room} to {_some(project, self.count, self.kind, self.own_kind_id)}"


class NewAim(Fact):
    """How a camera of a list looks, where it says so."""

    bearing_deg: Bearing | None = None
    tilt_deg: Tilt | None = None
    field_deg: Angle | None = None


class NewDrop(Fact):
    """A drop of a list: its room by name, and what differs from the usual."""

    room: Name
    floor: Text = ""
    outside: bool = False
    closet: Text = ""
    """Where it ends, by name; empty: at the head end."""
    kind: KindKey
    own_kind_id: Id | None = None
    count: Annotated[int, Field(ge=1, le=500)] = 1
    changes: DropChanges = DropChanges()
    view: NewAim | None = None
    """Of what has a lens."""


class AddList(Fact):
    """Add a whole list of drops (from a file or a template); rooms that are not there come into being."""

    type: Literal["add_list"] = "add_list"
    name: Text = ""
    drops: Annotated[tuple[NewDrop, ...], Field(min_length=1, max_length=MAX_DROPS)]

    def apply(self, project: Project) -> Project:
        rooms = {(room.name.casefold(), project.floor_name(room).casefold()): room for room in project.rooms}
        by_name = {room.name.casefold(): room for room in project.rooms}
        more: list[Drop] = []
        number = project.next_id
        for new in self.drops:
            name, floor = new.room.casefold(), new.floor.casefold()
            room = rooms.get((name, floor)) if floor else by_name.get(name)
            if room is None:
                wanted = NewRoom(name=new.room, floor=new.floor, outside=new.outside)
                project, room = _with_room(replaced(project, next_id=number), wanted)
                by_name[name] = rooms[name, floor] = rooms[name, project.floor_name(room).casefold()] = room
                number = project.next_id
            ends = {"closet_id": _closet_named(project, new.closet)}
            usual = usual_drop(project, room, new.kind, new.own_kind_id, new.changes) | ends
            fresh = [_numbered(usual, number + n) for n in range(new.count)]
            more += fresh
            number += new.count
            if new.view is not None and new.kind in SEEING_KINDS:
                project = _with_views(replaced(project, next_id=number), fresh, new.view)
                number = project.next_id
        return replaced(project, drops=project.drops + tuple(more), next_id=number)

    def summary(self, project: Project) -> str:
        listed = counted(sum(new.count for new in self.drops), "drop")
        return f"add {listed} from {self.name}" if self.name else f"add {listed}"


def usual_drop(
    project: Project, room: Room, kind: KindKey, own_kind_id: int | None, changes: DropChanges
) -> dict[str, Any]:
    """Fields of a new drop: what is usual for the kind, its variant and the room, then what is said of it."""
    given = changes.given()
    own: dict[str, Any] = {}
    if own_kind_id is not None:
        mine: OwnKind = found(project.own_kinds, own_kind_id, "own kind")
        kind = mine.base
        own = {name: value for name, value in mine.model_dump(exclude={"id", "name", "base"}).items() if value != ""}
    row = DROP_KINDS[kind]
    variant = row.variant(str(given.get("variant") or own.get("variant") or ""))
    usual: dict[str, Any] = {
        "room_id": room.id, "closet_id": _usual_closet(project, room), "kind": kind, "own_kind_id": own_kind_id,
        "place": row.place, "speed_mbit": row.speed_mbit, "poe_class": row.poe_class, "draw_w": row.draw_w, **row.sets,
    }  # fmt: skip
    if room.outside:
        usual |= {"outdoor_jacket": True, "environment": "outdoor"}
    if kind == "access_point" and project.settings.ap_feed == "air":
        # the first one is wired: the others need one to be fed from
        usual["over_wifi"] = any(drop.kind == kind and not drop.over_wifi for drop in project.drops)
    return {**usual, **(variant.sets if variant else {}), **own, **given}


def _usual_closet(project: Project, room: Room) -> int:
    """Where a new drop of a room ends: with the last one listed there, else at the head end."""
    last = next((drop for drop in reversed(project.drops) if drop.room_id == room.id), None)
    return last.closet_id if last else project.head_end.id


def _closet_named(project: Project, name: str) -> int:
    if not name:
        return project.head_end.id
    for closet in project.closets:
        if closet.name.casefold() == name.casefold():
            return closet.id
    raise NotFound(f"There is no closet {name}.")


def _some(project: Project, count: int, kind: KindKey, own_kind_id: int | None) -> str:
    if own_kind_id is not None:
        return f"{count} × {found(project.own_kinds, own_kind_id, 'own kind').name}"
    return DROP_KINDS[kind].many(count)


def _numbered(usual: dict[str, Any], number: int) -> Drop:
    return Drop.model_validate({**usual, "id": number})


def _with_copies(project: Project, usual: dict[str, Any], count: int) -> Project:
    new = tuple(_numbered(usual, project.next_id + n) for n in range(count))
    return replaced(project, drops=project.drops + new, next_id=project.next_id + count)


def _with_views(project: Project, drops: Iterable[Drop], aim: NewAim) -> Project:
    """The project with a view for each of these cameras."""
    said = aim.model_dump(exclude_none=True)
    views = [View(id=number, drop_id=drop.id, **said) for number, drop in enumerate(drops, project.next_id)]
    return replaced(project, views=(*project.views, *views), next_id=project.next_id + len(views))


def _with_floor(project: Project, name: str, outside: object) -> tuple[Project, Floor]:
    """The floor of this name, made when it is new; no name means the one that came last."""
    name = name.strip()
    named = [floor for floor in project.floors if floor.name.casefold() == name.casefold()]
    if named:
        return project, named[0]
    if not name:
        fitting = [floor for floor in project.floors if (floor.building_id is None) == bool(outside)]
        if fitting:
            return project, fitting[-1]
        name = "Outside" if outside else "Ground floor"
    building: int | None = None
    if not outside:
        if not project.buildings:
            first = Building(id=project.next_id, name=MAIN_BUILDING)
            project = replaced(project, buildings=(first,), next_id=project.next_id + 1)
        building = project.buildings[0].id
    levels = [floor.level for floor in project.floors if floor.building_id == building]
    level = 0 if outside else guessed_level(name, levels)
    ceiling: Literal["open", "plasterboard"] = "open" if outside or is_loft(name) else "plasterboard"
    floor = Floor(id=project.next_id, building_id=building, name=name, level=level, ceiling=ceiling)
    return replaced(project, floors=(*project.floors, floor), next_id=project.next_id + 1), floor


def _with_room(project: Project, new: NewRoom) -> tuple[Project, Room]:
    project, floor = _with_floor(project, new.floor, new.outside)
    after = max((room.position for room in project.rooms), default=-1)
    room = Room(
        id=project.next_id, position=after + 1, floor_id=floor.id, **new.model_dump(exclude={"floor"})
    )  # fmt: skip
    if room.outline:
        _refuse_overlap(project, room)
    return replaced(project, rooms=(*project.rooms, room), next_id=project.next_id + 1), room


def _refuse_overlap(project: Project, room: Room) -> None:
    shape = Polygon(room.outline)
    for other in project.rooms:
        if other.id == room.id or other.floor_id != room.floor_id or not other.outline:
            continue
        shared = shape.intersection(Polygon(other.outline)).area
        if shared > TOUCHING_M2:
            raise InvalidInput(f"{room.name} would cover {shared:.1f} m² of {other.name}.", "outline")
