"""Openings and walls as a list: doors, windows, gates, hatches and the walls that somebody put there, in and out."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any, get_args

from pydantic import JsonValue, ValidationError

from baugrund.core.edits import AddEntry
from baugrund.core.edits.entries import LISTS, ListName
from baugrund.core.errors import InvalidInput
from baugrund.core.facts.project import Project
from baugrund.core.facts.walls import Opening, OpeningKind, Wall
from baugrund.core.standards.walls import MATERIALS

from .cells import Odd, number_of, one_of, shown, yes
from .meanings import folded
from .tables import Table, write_csv

WALL = "wall"
COLUMNS: dict[str, tuple[str, Callable[[str], Any]]] = {
    "kind": ("Kind", one_of((*get_args(OpeningKind), WALL))),
    "floor": ("Floor", str),
    "name": ("Name", str),
    "x_m": ("X m", number_of),
    "y_m": ("Y m", number_of),
    "to_x_m": ("To x m", number_of),
    "to_y_m": ("To y m", number_of),
    "width_m": ("Width m", number_of),
    "sill_m": ("Sill m", number_of),
    "head_m": ("Head m", number_of),
    "height_m": ("Height m", number_of),
    "see_through": ("See-through", yes),
    "material": ("Material", one_of(MATERIALS)),
}
"""The columns: their heads, and how a cell of each is read.

A wall goes from x, y to the others; x, y is the middle of an opening.
"""
OF_OPENING = ("kind", "name", "x_m", "y_m", "width_m", "sill_m", "head_m", "see_through", "material")
OF_WALL = ("x_m", "y_m", "to_x_m", "to_y_m", "height_m", "material")
TOLD_MOST = 5
"""Lines that are told of a list that cannot be taken."""


def read_openings(table: Table, project: Project) -> tuple[AddEntry, ...]:
    """The edits that add what a list holds, all or nothing.

    Raises InvalidInput with the lines that are wrong, each with what is wrong and where.
    """
    keys = {folded(head): key for key, (head, _) in COLUMNS.items()}
    columns = [keys.get(folded(head)) for head in table.head]
    if "kind" not in columns:
        raise InvalidInput(f"The list has no column Kind; its first line names the columns: {_heads()}.")
    edits: list[AddEntry] = []
    wrong: list[str] = []
    for number, cells in enumerate(table.lines, 2):
        try:
            said = {key: cell.strip() for key, cell in zip(columns, cells, strict=True) if key and cell.strip()}
            edits.append(_entry(said, project))
        except ValidationError as error:
            wrong.append(f"line {number}: {error.errors()[0]['msg'].removeprefix('Value error, ')}")
        except Odd as odd:
            wrong.append(f"line {number}: {odd}")
    if wrong:
        more = f" and {len(wrong) - TOLD_MOST} more" if len(wrong) > TOLD_MOST else ""
        raise InvalidInput(f"Nothing was added: {'; '.join(wrong[:TOLD_MOST])}{more}.")
    return tuple(edits)


def _heads() -> str:
    return ", ".join(head for head, _ in COLUMNS.values())


def _entry(said: dict[str, str], project: Project) -> AddEntry:
    """Raises Odd for a cell that cannot be taken, ValidationError for values that do not go together."""
    read: dict[str, JsonValue] = {}
    for key, text in said.items():
        head, of = COLUMNS[key]
        try:
            read[key] = of(text)
        except Odd as odd:
            raise Odd(f"{head}: {odd}") from None
    if "kind" not in read:
        raise Odd("Kind is empty")
    floor = str(read.pop("floor", ""))
    named = [one for one in project.floors if one.name.casefold() == floor.casefold()]
    if not named:
        raise Odd(f"Floor: there is no floor “{floor}”")
    name: ListName = "walls" if read["kind"] == WALL else "openings"
    fields = OF_WALL if name == "walls" else OF_OPENING
    values = {"floor_id": named[0].id, **{key: value for key, value in read.items() if key in fields}}
    LISTS[name][0].model_validate({**values, "id": 1})
    return AddEntry(list=name, values=values)


def write_openings_csv(project: Project) -> str:
    """All openings and walls as CSV."""
    return write_csv([head for head, _ in COLUMNS.values()], list(_lines(project)))


def _lines(project: Project) -> Iterator[list[str]]:
    rows: list[tuple[Opening | Wall, str]] = [(one, one.kind) for one in project.openings]
    rows += [(one, WALL) for one in project.walls]
    for row, kind in rows:
        cells = {"kind": kind, "floor": project.floors_by_id[row.floor_id].name}
        yield [cells.get(key) or shown(getattr(row, key, None)) for key in COLUMNS]
