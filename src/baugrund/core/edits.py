"""Edits: everything that can change a project, each a value with a pure effect.

To add one: a class with a ``type``, an ``apply`` and a ``told`` sentence, and its name in ``Edit``.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, Any, Literal, TypeVar

from pydantic import Field, ValidationError

from .catalogue import PoeCap, Speed
from .drop_kinds import DROP_KINDS, KindKey
from .errors import InvalidInput, NotFound
from .facts import Fact, ModelKey, Name, Note, Text
from .poe import School
from .project import (
    MAX_DROPS,
    YEARS_AHEAD,
    Addition,
    Aim,
    Closet,
    Drop,
    GrowthRate,
    Id,
    InternetLine,
    Percent,
    Project,
    Room,
    Settings,
    Stance,
)
from .standards.cabling import Category
from .words import counted

Count = Annotated[int, Field(ge=0, le=500)]
Ids = Annotated[tuple[Id, ...], Field(min_length=1, max_length=MAX_DROPS)]


class Changes(Fact):
    """Some fields of a row: those that are set change, the others stay."""

    def given(self) -> dict[str, object]:
        return {name: getattr(self, name) for name in self.model_fields_set}


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


class SettingsChanges(Changes):
    """Fields of the settings."""

    horizon_years: Annotated[int, Field(ge=0, le=YEARS_AHEAD)] | None = None
    growth_percent: Percent | None = None
    school: School | None = None
    margin_percent: Percent | None = None
    jacks_live: Literal["every", "in_use"] | None = None
    separate_networks: bool | None = None
    chain_allowed: bool | None = None
    aim: Aim | None = None
    budget_minor: Annotated[int, Field(ge=1, le=1_000_000_000)] | None = None


class ClosetChanges(Changes):
    """Fields of the closet."""

    name: Name | None = None
    housing: Literal["shelf", "panel", "rack"] | None = None
    units: Annotated[int, Field(ge=1, le=60)] | None = None
    depth_mm: Annotated[int, Field(ge=50, le=1500)] | None = None
    load_kg: Annotated[float, Field(gt=0, le=2000)] | None = None
    sockets: Annotated[int, Field(ge=1, le=60)] | None = None
    ups_outlets: Annotated[int, Field(ge=0, le=60)] | None = None
    living_space: bool | None = None


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


class Rename(Fact):
    """Name the project and its site."""

    type: Literal["rename"] = "rename"
    name: Name
    site: Text = ""

    def apply(self, project: Project) -> Project:
        return replaced(project, name=self.name, site=self.site)

    def told(self, project: Project) -> str:
        return f"rename the project to {self.name}"


class ChangeSettings(Fact):
    """Change schools or terms of the pick."""

    type: Literal["change_settings"] = "change_settings"
    changes: SettingsChanges

    def apply(self, project: Project) -> Project:
        settings = Settings.model_validate({**project.settings.model_dump(), **self.changes.given()})
        return replaced(project, settings=settings)

    def told(self, project: Project) -> str:
        return f"change {' and '.join(sorted(f.replace('_', ' ') for f in self.changes.model_fields_set))}"


class ChangeCloset(Fact):
    """Change what the closet gives."""

    type: Literal["change_closet"] = "change_closet"
    id: Id
    changes: ClosetChanges

    def apply(self, project: Project) -> Project:
        closet = found(project.closets, self.id, "closet")
        changed = Closet.model_validate({**closet.model_dump(), **self.changes.given()})
        return replaced(project, closets=tuple(changed if c is closet else c for c in project.closets))

    def told(self, project: Project) -> str:
        return "change the closet"


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


class SetLine(Fact):
    """Add an internet line (no id) or change one."""

    type: Literal["set_line"] = "set_line"
    id: Id | None = None
    name: Name
    down_mbit: Annotated[int, Field(ge=1, le=100_000)]
    up_mbit: Annotated[int, Field(ge=1, le=100_000)]
    standby: bool = False

    def apply(self, project: Project) -> Project:
        values = self.model_dump(exclude={"type", "id"})
        if self.id is None:
            line = InternetLine(id=project.next_id, **values)
            return replaced(project, lines=(*project.lines, line), next_id=project.next_id + 1)
        old = found(project.lines, self.id, "line")
        changed = InternetLine(id=self.id, **values)
        return replaced(project, lines=tuple(changed if line is old else line for line in project.lines))

    def told(self, project: Project) -> str:
        return f"set the line {self.name}"


class RemoveLine(Fact):
    """Remove an internet line."""

    type: Literal["remove_line"] = "remove_line"
    id: Id

    def apply(self, project: Project) -> Project:
        old = found(project.lines, self.id, "line")
        return replaced(project, lines=tuple(line for line in project.lines if line is not old))

    def told(self, project: Project) -> str:
        return f"remove the line {found(project.lines, self.id, 'line').name}"


class AddAddition(Fact):
    """Name growth: so many more of a kind, years from the start."""

    type: Literal["add_addition"] = "add_addition"
    kind: KindKey
    count: Annotated[int, Field(ge=1, le=500)]
    years: Annotated[int, Field(ge=1, le=YEARS_AHEAD)]

    def apply(self, project: Project) -> Project:
        addition = Addition(id=project.next_id, kind=self.kind, count=self.count, years=self.years)
        return replaced(project, additions=(*project.additions, addition), next_id=project.next_id + 1)

    def told(self, project: Project) -> str:
        row = DROP_KINDS[self.kind]
        year = project.settings.start_year + self.years
        return f"plan {counted(self.count, row.name.lower(), row.plural.lower())} for {year}"


class RemoveAddition(Fact):
    """Drop a named growth."""

    type: Literal["remove_addition"] = "remove_addition"
    id: Id

    def apply(self, project: Project) -> Project:
        old = found(project.additions, self.id, "addition")
        return replaced(project, additions=tuple(a for a in project.additions if a is not old))

    def told(self, project: Project) -> str:
        return "remove a planned addition"


class SetGrowth(Fact):
    """Give a kind its own yearly growth; None takes it back to the project's."""

    type: Literal["set_growth"] = "set_growth"
    kind: KindKey
    percent: Percent | None

    def apply(self, project: Project) -> Project:
        rates = tuple(rate for rate in project.growth_rates if rate.kind != self.kind)
        if self.percent is not None:
            rates += (GrowthRate(kind=self.kind, percent=self.percent),)
        return replaced(project, growth_rates=rates)

    def told(self, project: Project) -> str:
        return f"set the growth of {DROP_KINDS[self.kind].plural.lower()}"


class SetStance(Fact):
    """Say of a model: pinned so many, left out, owned so many."""

    type: Literal["set_stance"] = "set_stance"
    model: ModelKey
    pinned: Annotated[int, Field(ge=0, le=50)] | None = None
    excluded: bool | None = None
    owned: Annotated[int, Field(ge=0, le=50)] | None = None

    def apply(self, project: Project) -> Project:
        old = project.stances_by_model.get(self.model, Stance(model=self.model))
        given = self.model_dump(include={"pinned", "excluded", "owned"}, exclude_none=True)
        return with_stances(project, [old.model_copy(update=given)])

    def told(self, project: Project) -> str:
        words = []
        if self.pinned is not None:
            words.append(f"pin {self.pinned}" if self.pinned else "take out the pin")
        if self.excluded is not None:
            words.append("leave out" if self.excluded else "admit again")
        if self.owned is not None:
            words.append(f"own {self.owned}")
        return f"{' and '.join(words) or 'ask about'} {self.model}"


class Hold(Fact):
    """Hold these boxes and injectors (bought or promised): the ground stands on them.  None: follow the pick."""

    type: Literal["hold"] = "hold"
    models: Annotated[dict[ModelKey, Annotated[int, Field(ge=1, le=50)]], Field(max_length=50)]

    def apply(self, project: Project) -> Project:
        held = dict(self.models)
        stances = [s.model_copy(update={"held": held.pop(s.model, 0)}) for s in project.stances]
        stances += [Stance(model=model, held=count) for model, count in held.items()]
        return with_stances(project, stances)

    def told(self, project: Project) -> str:
        return "hold these boxes" if self.models else "let the held boxes go"


Edit = Annotated[
    Rename | ChangeSettings | ChangeCloset | AddRooms | ChangeRoom | RemoveRoom | AddDrops | SetTally | ChangeDrops
    | RemoveDrops | SetLine | RemoveLine | AddAddition | RemoveAddition | SetGrowth | SetStance | Hold,
    Field(discriminator="type"),
]  # fmt: skip


def as_sent(edit: Edit) -> dict[str, Any]:
    """An edit as it is sent and journalled: only the fields that are set, for unset ones mean *leave it*."""
    return {"type": edit.type, **edit.model_dump(mode="json", exclude_unset=True)}


def apply_edits(project: Project, edits: Sequence[Edit]) -> Project:
    """The project after a list of edits, all or nothing.

    Raises NotFound for something that is not there, InvalidInput for a value out of range.
    """
    try:
        for edit in edits:
            project = edit.apply(project)
        return Project.model_validate(project.model_dump())
    except ValidationError as error:
        raise InvalidInput(plain_sentence(error)) from error


def plain_sentence(error: ValidationError) -> str:
    """The first complaint of a validation, as one sentence with its place."""
    first = error.errors(include_url=False, include_context=False)[0]
    place = ""
    for step in first["loc"]:
        place += f"[{step}]" if isinstance(step, int) else f".{step}" if place else str(step)
    message = first["msg"].removeprefix("Value error, ")
    value = first.get("input")
    shown = f" (it is {value!r})" if isinstance(value, int | float | str) and len(str(value)) < 60 else ""
    return f"{place}: {message}{shown}." if place else f"{message}."


def replaced(project: Project, **values: object) -> Project:
    """A copy with some values replaced; ``apply_edits`` checks the result once at the end."""
    return project.model_copy(update=values)


def with_stances(project: Project, changed: Sequence[Stance]) -> Project:
    """The project with these stances in place; one that says nothing is dropped."""
    stances = {stance.model: stance for stance in project.stances}
    stances.update({stance.model: stance for stance in changed})
    kept = tuple(s for s in stances.values() if s.pinned or s.excluded or s.owned or s.held)
    return replaced(project, stances=kept)


Numbered = TypeVar("Numbered", Closet, Room, Drop, InternetLine, Addition)


def found(rows: Sequence[Numbered], wanted: int, what: str) -> Numbered:
    """The row with this number.  Raises NotFound."""
    for row in rows:
        if row.id == wanted:
            return row
    raise NotFound(f"There is no {what} {wanted}; somebody may have removed it.")


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
