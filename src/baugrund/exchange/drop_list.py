"""The list of drops as a table: out as CSV or XLSX, and in again with columns matched, line by line."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any, get_args

from pydantic import ValidationError

from baugrund.core.building import Room
from baugrund.core.drop import PRIORITIES, Codec, Drop, Environment, Surface
from baugrund.core.drop_kinds import DROP_KINDS
from baugrund.core.edits import AddList, DropChanges, NewDrop
from baugrund.core.edits.listing import usual_drop
from baugrund.core.errors import InvalidInput
from baugrund.core.facts import Fact
from baugrund.core.project import MAX_DROPS, Project, empty_project
from baugrund.core.standards.cabling import Category

from .cells import Odd, bare, number_of, one_of, shown, speed_of, yes
from .tables import Table, write_csv, write_workbook

NOWHERE = empty_project("nowhere", 2026)
"""An empty project against which a line is checked alone."""
NOWHERE_SAID = "none"
"""A place that was left empty; an empty cell means the usual place of the kind."""


def _class(text: str) -> int:
    bare = text.strip().casefold().removeprefix("class").removeprefix("cl.").strip()
    return {"af": 3, "at": 4}.get(bare) or int(number_of(bare))


def _place(text: str) -> str:
    return "" if text.strip().casefold() == NOWHERE_SAID else text


def _jacket(text: str) -> bool:
    return one_of(("indoor", "outdoor"))(text) == "outdoor"


@dataclass(frozen=True)
class Column:
    """A column: its head, other heads that mean it, how a cell is read, and how a drop is written into it."""

    key: str
    head: str
    also: tuple[str, ...] = ()
    read: Callable[[str], Any] = str
    write: Callable[[Drop], Any] | None = None

    def cell(self, project: Project, drop: Drop) -> str:
        if self.write is not None:
            return shown(self.write(drop))
        room = project.rooms_by_id[drop.room_id]
        match self.key:
            case "floor":
                return project.floor_name(room)
            case "room":
                return room.name
            case "closet":
                return "" if project.at_head_end(drop) else project.closets_by_id[drop.closet_id].name
            case "kind":
                return drop.kind_row.name
            case "outside":
                return shown(room.outside)
        return shown(getattr(drop, self.key))


COLUMNS = (
    Column("floor", "Floor", ("storey", "level")),
    Column("room", "Room", ("place name", "location", "area")),
    Column("outside", "Outside", (), yes),
    Column("closet", "Closet", ("ends in", "head end")),
    Column("kind", "What", ("kind", "device", "type", "drop")),
    Column("count", "Count", ("quantity", "qty", "number", "how many"), number_of, lambda _: 1),
    Column("variant", "Form", ("variant",)),
    Column("label", "Label", ("name",)),
    Column("place", "Place", ("position", "mounting"), _place, lambda drop: drop.place or NOWHERE_SAID),
    Column("purpose", "Purpose", ("use", "for")),
    Column("speed_mbit", "Speed Mbit/s", ("speed", "rate"), speed_of),
    Column("poe_class", "PoE class", ("class", "poe"), _class),
    Column("draw_w", "Draw W", ("draw", "watts", "power", "w"), number_of),
    Column("measured_w", "Measured W", ("measured",), number_of),
    Column("priority", "Priority", ("port priority",), one_of(PRIORITIES)),
    Column("megapixels", "Megapixels", ("mp", "pixels"), number_of),
    Column("frames_s", "Frames/s", ("frames", "fps", "frame rate"), number_of),
    Column("codec", "Codec", ("compression",), one_of(get_args(Codec))),
    Column("run_m", "Run m", ("run", "length", "length m", "cable length"), number_of),
    Column("category", "Category", ("cat", "cable"), one_of(get_args(Category))),
    Column("copper_clad", "Copper-clad", ("cca",), yes),
    Column("outdoor_jacket", "Jacket", (), _jacket, lambda drop: "outdoor" if drop.outdoor_jacket else "indoor"),
    Column("environment", "Environment", (), one_of(get_args(Environment))),
    Column("surface", "Surface", ("mounted on",), one_of(get_args(Surface))),
    Column("in_use", "In use", ("live", "used"), yes),
    Column("existing", "Existing", ("existing cable",), yes),
    Column("power_only", "Power only", (), yes),
    Column("large_frames", "Large frames", ("jumbo",), yes),
    Column("height_m", "Height m", ("height",), number_of),
    Column("x_m", "X m", ("x",), number_of),
    Column("y_m", "Y m", ("y",), number_of),
    Column("note", "Note", ("notes", "comment", "remark")),
)
BY_KEY = {column.key: column for column in COLUMNS}
CLEARED_BY_EMPTY = ("poe_class",)
"""Fields that an empty cell clears, where the column is there: an unpowered drop of a kind that usually is."""


class MatchedColumn(Fact):
    """A column of the file: its head, and what it was taken for (empty: left out)."""

    head: str
    key: str


class ReadLine(Fact):
    """A line of the file: what it adds, or what is wrong with it."""

    number: int
    told: str
    wrong: tuple[str, ...]


class Preview(Fact):
    """What a file would add; with anything wrong, it adds nothing."""

    columns: tuple[MatchedColumn, ...]
    lines: tuple[ReadLine, ...]
    drops: int
    new_rooms: tuple[str, ...]
    wrong: int
    note: str


@dataclass(frozen=True)
class Listed:
    """A file read against a project: its preview, and the edit that it comes to when nothing is wrong."""

    preview: Preview
    edit: AddList | None


def _folded(head: str) -> str:
    return " ".join(head.casefold().replace("_", " ").split())


def match_columns(head: Sequence[str]) -> tuple[str, ...]:
    """For each head the key of the column that it means; empty: none, or taken already."""
    known = {_folded(name): column.key for column in COLUMNS for name in (column.head, column.key, *column.also)}
    matched: list[str] = []
    for cell in head:
        key = known.get(_folded(cell), "")
        matched.append(key if key not in matched else "")
    return tuple(matched)


def read_list(table: Table, project: Project, keys: Sequence[str] | None = None, name: str = "") -> Listed:
    """Read a table against a project.

    ``keys``: per column what it is, in place of what its head says.  Raises InvalidInput when no column is the kind
    or the room.
    """
    matched = tuple(keys) if keys is not None else match_columns(table.head)
    if len(matched) != len(table.head):
        raise InvalidInput(f"The file has {len(table.head)} columns; {len(matched)} were matched.")
    for wanted in ("room", "kind"):
        if wanted not in matched:
            raise InvalidInput(f"No column is matched to “{BY_KEY[wanted].head}”; say which one it is.", "columns")
    unknown = [key for key in matched if key and key not in BY_KEY]
    if unknown or any(matched.count(key) > 1 for key in matched if key):
        raise InvalidInput(f"The columns are matched wrongly: {', '.join(unknown) or 'one is named twice'}.", "columns")
    closets = {closet.name.casefold() for closet in project.closets}
    known = {room.name.casefold() for room in project.rooms}
    lines: list[ReadLine] = []
    drops: list[NewDrop] = []
    rooms: dict[str, str] = {}
    for number, row in enumerate(table.lines, 2):
        new, told, wrong = _read_line(dict(zip(matched, row, strict=True)))
        if new is not None and new.closet and new.closet.casefold() not in closets:
            wrong = [f"Closet: there is no closet “{new.closet}”; add it in Brief first"]
        lines.append(ReadLine(number=number, told=told, wrong=tuple(wrong)))
        if new is not None and not wrong:
            drops.append(new)
            if new.room.casefold() not in known:
                rooms.setdefault(new.room.casefold(), new.room)
    wrong_lines = sum(bool(line.wrong) for line in lines)
    count = sum(new.count for new in drops)
    if count + len(project.drops) > MAX_DROPS:
        raise InvalidInput(f"{count + len(project.drops):,} drops; a project holds {MAX_DROPS:,} at most.")
    preview = Preview(
        columns=tuple(MatchedColumn(head=head, key=key) for head, key in zip(table.head, matched, strict=True)),
        lines=tuple(lines), drops=count, new_rooms=tuple(rooms.values()), wrong=wrong_lines, note=table.note,
    )  # fmt: skip
    edit = AddList(name=name[:200], drops=tuple(drops)) if drops and not wrong_lines else None
    return Listed(preview, edit)


def _read_line(cells: dict[str, str]) -> tuple[NewDrop | None, str, list[str]]:
    wrong: list[str] = []
    values: dict[str, Any] = {}
    for key, cell in cells.items():
        if not key:
            continue
        text = cell.strip()
        head = BY_KEY[key].head
        if text.startswith("=") and len(text) > 1:
            wrong.append(f"{head}: a formula; paste its value")
        elif text or (cell and BY_KEY[key].read is str) or key in CLEARED_BY_EMPTY:
            try:
                values[key] = BY_KEY[key].read(bare(cell)) if cell.strip() or BY_KEY[key].read is str else None
            except Odd as error:
                wrong.append(f"{head}: {error}")
    kind, variant = _kind_of(str(values.pop("kind", "")))
    if not values.get("room"):
        wrong.append("Room: none is named")
    if kind is None:
        wrong.append(f"What: “{cells.get('kind', '').strip()}” is no kind of drop" if cells.get("kind", "").strip()
                     else "What: none is named")  # fmt: skip
    if wrong or kind is None:
        return None, "", wrong
    row = DROP_KINDS[kind]
    if "poe_class" in values and values["poe_class"] is None and row.poe_class is None:
        del values["poe_class"]
    head_values = {name: values.pop(name) for name in ("room", "floor", "outside", "closet", "count") if name in values}
    if variant:
        values.setdefault("variant", variant)
    try:
        changes = DropChanges.model_validate(values)
        new = NewDrop.model_validate({**head_values, "kind": kind, "changes": changes})
        _check(new)
    except ValidationError as error:
        return None, "", [_told(one) for one in error.errors(include_url=False)]
    return new, f"{new.count} × {row.name}, {new.room}", []


def _told(error: Any) -> str:
    key = str(error["loc"][-1]) if error["loc"] else ""
    column = BY_KEY.get(key)
    message = str(error["msg"]).removeprefix("Value error, ")
    return f"{column.head}: {message}" if column else message


def _check(new: NewDrop) -> None:
    """Raises ValidationError for a drop that could not be listed, before anything is."""
    room = Room(id=1, name=new.room, floor_id=1, outside=new.outside)
    Drop.model_validate({**usual_drop(NOWHERE, room, new.kind, None, new.changes), "id": 1})


def _kind_of(text: str) -> tuple[Any, str]:
    """The kind that a cell names, and a variant where the word means one."""
    folded = _folded(text)
    for kind in DROP_KINDS.values():
        names = {kind.name, kind.plural, kind.key.replace("_", " "), kind.column, *kind.words}
        if folded in {name.casefold() for name in names}:
            return kind.key, ""
    for kind in DROP_KINDS.values():
        for variant in kind.variants:
            if folded in {word.casefold() for word in variant.words}:
                return kind.key, variant.key
    return None, ""


def _cells(project: Project) -> list[list[str]]:
    order = {room.id: place for place, room in enumerate(project.rooms)}
    drops = sorted(project.drops, key=lambda drop: (order[drop.room_id], drop.id))
    return [[column.cell(project, drop) for column in COLUMNS] for drop in drops]


HEAD = [column.head for column in COLUMNS]


def write_list_csv(project: Project) -> str:
    """All drops, one a line, as CSV."""
    return write_csv(HEAD, _cells(project))


def write_list_xlsx(project: Project) -> bytes:
    """All drops, one a line, as an XLSX workbook."""
    return write_workbook("Drops", HEAD, _cells(project))
