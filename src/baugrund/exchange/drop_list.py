"""The list of drops as a table: out as CSV or XLSX, and in again with columns matched, line by line."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError

from baugrund.core.edits import AddList, DropChanges, NewAim, NewDrop
from baugrund.core.edits.listing import usual_drop
from baugrund.core.edits.rows import replaced
from baugrund.core.errors import InvalidInput
from baugrund.core.facts.building import Room
from baugrund.core.facts.drop import Drop
from baugrund.core.facts.drop_kinds import DROP_KINDS, KindKey
from baugrund.core.facts.fact import Fact
from baugrund.core.facts.lines.line import SPEEDS
from baugrund.core.facts.project import Project, empty_project
from baugrund.core.facts.settings import MAX_DROPS
from baugrund.core.standards.poe_classes import POE_CLASSES
from baugrund.core.walk.quick_line import Phrase, read_phrase
from baugrund.core.walk.said import powered_class
from baugrund.core.words import speed

from .cells import Odd, bare, shown
from .drop_columns import BY_KEY, COLUMNS, HEAD, POWERED, Column, match_columns
from .meanings import Answers, LeftOut, Meanings, Value, folded
from .tables import Table, write_csv, write_workbook

NOWHERE = empty_project("nowhere", 2026)
"""An empty project against which a line is checked alone."""


class MatchedColumn(Fact):
    """A column of the file: its head, and what it was taken for (empty: left out)."""

    head: str
    key: str


class ReadLine(Fact):
    """A line of the file: what it adds, or what is wrong with it; then its cells, by column, so that it is mended."""

    number: int
    told: str
    wrong: tuple[str, ...]
    left_out: bool
    cells: dict[str, str]


class Preview(Fact):
    """What a file would add; with anything wrong, it adds nothing."""

    columns: tuple[MatchedColumn, ...]
    values: tuple[Value, ...]
    lines: tuple[ReadLine, ...]
    drops: int
    new_rooms: tuple[str, ...]
    wrong: int
    note: str


@dataclass(frozen=True)
class ListedDrops:
    """A file read against a project: its preview, and the edit that it comes to when nothing is wrong."""

    preview: Preview
    edit: AddList | None


def read_list(
    table: Table,
    project: Project,
    keys: Sequence[str] | None = None,
    name: str = "",
    meanings: Meanings | None = None,
) -> ListedDrops:
    """Read a table against a project.

    ``keys``: per column what it is, in place of what its head says.  ``meanings``: what was said of its values and
    lines.  Raises InvalidInput when no column is the kind or the room.
    """
    matched = _matched(table, keys)
    meanings = meanings or Meanings(Answers())
    meanings.refuse_other_than(BY_KEY)
    reader = _Lines(project, dict(zip(matched, table.head, strict=True)), meanings)
    known = {room.name.casefold() for room in project.rooms}
    drops: list[NewDrop] = []
    lines: list[ReadLine] = []
    rooms: dict[str, str] = {}
    for number, row in enumerate(table.lines, 2):
        line, new = reader.read(number, dict(zip(matched, row, strict=True)))
        lines.append(line)
        if new is not None:
            drops.append(new)
            if new.room.casefold() not in known:
                rooms.setdefault(new.room.casefold(), new.room)
    wrong_lines = sum(bool(line.wrong) for line in lines)
    count = sum(new.count for new in drops)
    if count + len(project.drops) > MAX_DROPS:
        raise InvalidInput(f"{count + len(project.drops):,} drops; a project holds {MAX_DROPS:,} at most.")
    preview = Preview(
        columns=tuple(MatchedColumn(head=head, key=key) for head, key in zip(table.head, matched, strict=True)),
        values=reader.meanings.values, lines=tuple(lines), drops=count, new_rooms=tuple(rooms.values()),
        wrong=wrong_lines, note=table.note,
    )  # fmt: skip
    edit = AddList(name=name[:200], drops=tuple(drops)) if drops and not wrong_lines else None
    return ListedDrops(preview, edit)


def _matched(table: Table, keys: Sequence[str] | None) -> tuple[str, ...]:
    matched = tuple(keys) if keys is not None else match_columns(table.head)
    if len(matched) != len(table.head):
        raise InvalidInput(f"The file has {len(table.head)} columns; {len(matched)} were matched.")
    for wanted in ("room", "kind"):
        if wanted not in matched:
            raise InvalidInput(f"No column is matched to “{BY_KEY[wanted].head}”; say which one it is.", "columns")
    unknown = [key for key in matched if key and key not in BY_KEY]
    if unknown or any(matched.count(key) > 1 for key in matched if key):
        raise InvalidInput(f"The columns are matched wrongly: {', '.join(unknown) or 'one is named twice'}.", "columns")
    return matched


class _Lines:
    """Lines of a table, each read against a project; ``heads``: by column what it is called in the file."""

    def __init__(self, project: Project, heads: dict[str, str], meanings: Meanings) -> None:
        self.project = project
        self.heads = heads
        self.meanings = meanings
        self.nowhere = replaced(NOWHERE, own_kinds=project.own_kinds)
        self.closets = {closet.name.casefold(): closet.name for closet in project.closets}
        self.phrases: dict[str, Phrase] = {}
        own = tuple(kind.name for kind in project.own_kinds)
        self.choices = {column.key: column.choices for column in COLUMNS} | {
            "kind": (*own, *(kind.name for kind in DROP_KINDS.values())), "closet": tuple(self.closets.values()),
        }  # fmt: skip

    def read(self, number: int, raw: dict[str, str]) -> tuple[ReadLine, NewDrop | None]:
        """A line told, and what it adds; None: something is wrong with it, or it is left out."""
        cells = self.meanings.mended(number, {key: cell for key, cell in raw.items() if key})
        try:
            if number in self.meanings.left_out:
                raise LeftOut
            values, wrong = self._values(cells)
        except LeftOut:
            told = " ".join(cell.strip() for cell in cells.values() if cell.strip())
            return ReadLine(number=number, told=told, wrong=(), left_out=True, cells=cells), None
        new, told = None, ""
        if not wrong:
            try:
                new = self._new(values)
                told = self._told(new)
            except ValidationError as error:
                new, wrong = None, [_told(one) for one in error.errors(include_url=False)]
        mended = cells != {key: cell for key, cell in raw.items() if key}
        return ReadLine(
            number=number, told=told, wrong=tuple(wrong), left_out=False, cells=cells if wrong or mended else {}
        ), new

    def _values(self, cells: dict[str, str]) -> tuple[dict[str, Any], list[str]]:
        """What the cells of a line say, by field, and what is wrong with them.  Raises LeftOut."""
        values: dict[str, Any] = {}
        wrong: list[str] = []
        for key, cell in cells.items():
            column, text = BY_KEY[key], cell.strip()
            if text.startswith("=") and len(text) > 1:
                wrong.append(f"{column.head}: a formula; paste its value")
            elif text in DASHES and column.read is not str and key != "poe_class":
                continue
            elif text:
                try:
                    values |= self._cell(column, bare(text if column.read is not str else cell))
                except Odd as error:
                    wrong.append(f"{column.head}: {error}")
            elif cell and column.read is str:
                values[key] = cell
            elif key == "poe_class" and folded(self._head(column)) in (folded(column.head), key.replace("_", " ")):
                # as it goes out from here, an empty class is a drop that is not powered; elsewhere nothing was said
                values[key] = None
        if not values.get("room"):
            wrong.append("Room: none is named")
        if "kind" not in values and not cells.get("kind", "").strip():
            wrong.append("What: none is named")
        return values, wrong

    def _cell(self, column: Column, cell: str) -> dict[str, Any]:
        """What a cell says, by field: as it stands, or by what it most likely means.  Raises Odd, LeftOut."""
        meant = self.meanings.meant(column.key, self._head(column), cell, self.choices[column.key])
        try:
            values, told = self._literal(column, meant or cell), meant
        except Odd as error:
            values, told = self._guessed(column, meant or cell)
            if not values:
                self._note(column, cell, "")
                raise error
        if told:
            self._note(column, cell, told)
        return values

    def _note(self, column: Column, cell: str, told: str) -> None:
        self.meanings.note(column.key, self._head(column), cell, told, self.choices[column.key])

    def _head(self, column: Column) -> str:
        """What a column is called in the file; what was mended may be one that the file does not have."""
        return self.heads.get(column.key, column.head)

    def _literal(self, column: Column, text: str) -> dict[str, Any]:
        """A cell that is written as it would be here.  Raises Odd."""
        if column.key == "kind":
            kind, variant = _kind_of(text)
            if kind is None:
                raise Odd(f"“{text}” is no kind of drop")
            return {"kind": kind, **({"variant": variant} if variant else {})}
        if column.key == "closet":
            if text.casefold() not in self.closets:
                raise Odd(f"there is no closet “{text}”; add it in Brief first")
            return {"closet": text}
        if column.key == "poe_class" and text.strip() in ("0", "1") and folded(self._head(column)) in SAYS_WHETHER:
            raise Odd(f"“{text}” may be a class, or no and yes")
        value = column.read(text)
        if column.key == "speed_mbit" and value not in SPEEDS:
            raise Odd(f"{text} is no usual speed")
        if column.key == "poe_class" and isinstance(value, int) and value not in POE_CLASSES:
            raise Odd(f"there is no class {value}")
        return {column.key: value}

    def _guessed(self, column: Column, text: str) -> tuple[dict[str, Any], str]:
        """What a cell most likely means, by the words of the quick line, and that in words; empty: nobody knows."""
        phrase = self.phrases.setdefault(text, read_phrase(text, self.project))
        if column.key == "kind":
            if phrase.kind is None:
                return {}, ""
            said: dict[str, Any] = {"kind": phrase.kind, **phrase.changes}
            if phrase.own_kind_id:
                said["own_kind_id"] = phrase.own_kind_id
            return said | ({"called": text} if phrase.rest else {}), phrase.told
        if column.key == "count" and phrase.count:
            return {"count": phrase.count}, str(phrase.count)
        if column.key == "poe_class":
            if text in (*DASHES, "0"):
                return {"poe_class": None}, told_class(None)
            return ({"poe_class": POWERED}, "powered") if text == "1" else _power_of(phrase)
        if column.key == "speed_mbit":
            return _speed_of(phrase, text)
        value = phrase.changes.get(column.key)
        return ({}, "") if value is None else ({column.key: value}, shown(value))

    def _new(self, values: dict[str, Any]) -> NewDrop:
        """Raises ValidationError for a drop that could not be listed, before anything is."""
        kind: KindKey = values.pop("kind")
        usual = DROP_KINDS[kind].poe_class
        if values.get("poe_class") == POWERED:
            values["poe_class"] = powered_class(kind, values.get("draw_w") or 0.0)
            if usual is None:
                values.setdefault("draw_w", 0.0)
        if "poe_class" in values and values["poe_class"] is None and usual is None:
            del values["poe_class"]
        called = values.pop("called", "")
        if called:
            # what is not understood of a device's name is kept
            values["note"] = "; ".join(text for text in (called, values.get("note", "")) if text)
        of_line = {name: values.pop(name) for name in OF_LINE if name in values}
        aim = {name: values.pop(name) for name in NewAim.model_fields if name in values}
        changes = DropChanges.model_validate(values)
        view = NewAim.model_validate(aim) if aim else None
        new = NewDrop.model_validate({**of_line, "kind": kind, "changes": changes, "view": view})
        self._drop(new)
        return new

    def _drop(self, new: NewDrop) -> Drop:
        room = Room(id=1, name=new.room, floor_id=1, outside=new.outside)
        usual = usual_drop(self.nowhere, room, new.kind, new.own_kind_id, new.changes)
        return Drop.model_validate({**usual, "id": 1})

    def _told(self, new: NewDrop) -> str:
        drop = self._drop(new)
        own = next((own.name for own in self.project.own_kinds if own.id == new.own_kind_id), "")
        variant = drop.kind_row.variant(drop.variant) if drop.variant else None
        told = [f"{new.count} × {own or drop.kind_row.name}", *([variant.name] if variant else []), new.room]
        told.append(speed(drop.speed_mbit))
        if drop.poe_class is not None:
            told.append(f"class {drop.poe_class}")
            told.append(f"{drop.draw_w:g} W" if drop.draw_w else "draw not known")
        return ", ".join(told)


OF_LINE = ("room", "floor", "outside", "closet", "count", "own_kind_id")
"""What a line says beside the fields of its drops."""


def _power_of(phrase: Phrase) -> tuple[dict[str, Any], str]:
    """How a drop is powered, by what a cell says of it: a class, the watts of a port, or that it is."""
    changes = phrase.changes
    if "supply" in changes:
        return {name: changes[name] for name in ("poe_class", "supply")}, f"not from a switch: {changes['supply']}"
    if "poe_class" in changes:
        return {"poe_class": changes["poe_class"]}, told_class(changes["poe_class"])
    port_w = changes.get("draw_w")
    if isinstance(port_w, float) and port_w > 0:
        number = next((row.number for row in POE_CLASSES.values() if row.number and row.port_w >= port_w), None)
        if number:
            return {"poe_class": number}, f"class {number}, {POE_CLASSES[number].port_w:g} W at the port"
    return ({"poe_class": POWERED}, "powered") if phrase.powered else ({}, "")


def told_class(poe_class: object) -> str:
    return "not powered" if poe_class is None else f"class {poe_class}"


def _speed_of(phrase: Phrase, text: str) -> tuple[dict[str, Any], str]:
    """A speed as the quick line knows it, or a bare figure in Gbit/s."""
    mbit = phrase.changes.get("speed_mbit")
    if mbit is None:
        figures = [float(figure.replace(",", ".")) for figure in re.findall(r"\d+(?:[.,]\d+)?", text)]
        fast = [round(figure * (1000 if figure < MEGABITS_FROM else 1)) for figure in figures[-1:]]
        mbit = fast[0] if fast and fast[0] in SPEEDS else None
    return ({}, "") if mbit is None else ({"speed_mbit": mbit}, speed(int(str(mbit))))


DASHES = ("-", "–", "—", "/", "n/a")
"""What people write where they say nothing; of power it says that there is none."""
SAYS_WHETHER = ("poe", "powered")
"""Heads under which 0 and 1 most likely say whether a drop is powered, and not by which class."""
MEGABITS_FROM = 11
"""A bare figure from here on is in Mbit/s: “10” says 10 Gbit/s, “100” does not."""


def _told(error: Any) -> str:
    key = str(error["loc"][-1]) if error["loc"] else ""
    column = BY_KEY.get(key)
    message = str(error["msg"]).removeprefix("Value error, ")
    return f"{column.head}: {message}" if column else message


def _kind_of(text: str) -> tuple[Any, str]:
    """The kind that a cell names, and a variant where the word means one."""
    said = folded(text)
    for kind in DROP_KINDS.values():
        names = {kind.name, kind.plural, kind.key.replace("_", " "), kind.column, *kind.words}
        if said in {name.casefold() for name in names}:
            return kind.key, ""
    for kind in DROP_KINDS.values():
        for variant in kind.variants:
            if said in {word.casefold() for word in variant.words}:
                return kind.key, variant.key
    return None, ""


def _cells(project: Project) -> list[list[str]]:
    order = {room.id: place for place, room in enumerate(project.rooms)}
    drops = sorted(project.drops, key=lambda drop: (order[drop.room_id], drop.id))
    return [[column.cell(project, drop) for column in COLUMNS] for drop in drops]


def write_list_csv(project: Project) -> str:
    """All drops, one a line, as CSV."""
    return write_csv(HEAD, _cells(project))


def write_list_xlsx(project: Project) -> bytes:
    """All drops, one a line, as an XLSX workbook."""
    return write_workbook("Drops", HEAD, _cells(project))
