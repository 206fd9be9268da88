"""Openings and walls as a list: doors, windows, gates, hatches and the walls that somebody put there, in and out."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from typing import get_args

from pydantic import JsonValue

from baugrund.core.edits import AddEntry
from baugrund.core.edits.entries import ListName
from baugrund.core.facts.project import Project
from baugrund.core.facts.walls import Opening, OpeningKind, Wall
from baugrund.core.standards.walls import MATERIALS

from .cells import Odd, number_of, one_of, shown, yes
from .entry_list import EntryColumn, read_entries
from .tables import Table, write_csv

WALL = "wall"
COLUMNS = {
    "kind": EntryColumn("Kind", one_of((*get_args(OpeningKind), WALL))),
    "floor": EntryColumn("Floor", str),
    "name": EntryColumn("Name", str),
    "x_m": EntryColumn("X m", number_of),
    "y_m": EntryColumn("Y m", number_of),
    "to_x_m": EntryColumn("To x m", number_of),
    "to_y_m": EntryColumn("To y m", number_of),
    "width_m": EntryColumn("Width m", number_of),
    "sill_m": EntryColumn("Sill m", number_of),
    "head_m": EntryColumn("Head m", number_of),
    "height_m": EntryColumn("Height m", number_of),
    "see_through": EntryColumn("See-through", yes),
    "material": EntryColumn("Material", one_of(MATERIALS)),
}
"""The columns: their heads, and how a cell of each is read.

A wall goes from x, y to the others; x, y is the middle of an opening.
"""
OF_OPENING = ("kind", "name", "x_m", "y_m", "width_m", "sill_m", "head_m", "see_through", "material")
OF_WALL = ("x_m", "y_m", "to_x_m", "to_y_m", "height_m", "material")


def read_openings(table: Table, project: Project) -> tuple[AddEntry, ...]:
    """The edits that add what a list holds, all or nothing.

    Raises InvalidInput with the lines that are wrong, each with what is wrong and where.
    """
    return read_entries(table, COLUMNS, "kind", partial(_entry, project))


def _entry(project: Project, read: dict[str, JsonValue]) -> tuple[ListName, dict[str, JsonValue]]:
    if "kind" not in read:
        raise Odd("Kind is empty")
    floor = str(read.pop("floor", ""))
    named = [one for one in project.floors if one.name.casefold() == floor.casefold()]
    if not named:
        raise Odd(f"Floor: there is no floor “{floor}”")
    is_wall = read["kind"] == WALL
    fields = OF_WALL if is_wall else OF_OPENING
    values = {"floor_id": named[0].id, **{key: value for key, value in read.items() if key in fields}}
    return "walls" if is_wall else "openings", values


def write_openings_csv(project: Project) -> str:
    """All openings and walls as CSV."""
    return write_csv([column.head for column in COLUMNS.values()], list(_lines(project)))


def _lines(project: Project) -> Iterator[list[str]]:
    rows: list[tuple[Opening | Wall, str]] = [(one, one.kind) for one in project.openings]
    rows += [(one, WALL) for one in project.walls]
    for row, kind in rows:
        cells = {"kind": kind, "floor": project.floors_by_id[row.floor_id].name}
        yield [cells.get(key) or shown(getattr(row, key, None)) for key in COLUMNS]
