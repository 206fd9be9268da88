"""Lists of entries as tables: each line becomes an entry, and what is wrong is told line by line."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from pydantic import JsonValue, ValidationError

from baugrund.core.edits import AddEntry
from baugrund.core.edits.entries import LISTS, ListName
from baugrund.core.errors import InvalidInput

from .cells import Odd
from .meanings import folded
from .tables import Table

TOLD_MOST = 5
"""Lines that are told of a list that cannot be taken."""
Read = Callable[[str], Any]


@dataclass(frozen=True)
class EntryColumn:
    """A column: its head, how a cell is read, and other heads that mean it."""

    head: str
    read: Read
    also: tuple[str, ...] = ()


def read_entries(
    table: Table,
    columns: Mapping[str, EntryColumn],
    needed: str,
    entry: Callable[[dict[str, JsonValue]], tuple[ListName, dict[str, JsonValue]]],
) -> tuple[AddEntry, ...]:
    """The edits that add what a list holds, all or nothing.

    Raises InvalidInput with the lines that are wrong, each with what is wrong and where.
    """
    edits, wrong = read_lines(table, columns, needed, entry)
    if wrong:
        more = f" and {len(wrong) - TOLD_MOST} more" if len(wrong) > TOLD_MOST else ""
        raise InvalidInput(f"Nothing was added: {'; '.join(wrong[:TOLD_MOST])}{more}.")
    return edits


def read_lines(
    table: Table,
    columns: Mapping[str, EntryColumn],
    needed: str,
    entry: Callable[[dict[str, JsonValue]], tuple[ListName, dict[str, JsonValue]]],
) -> tuple[tuple[AddEntry, ...], tuple[str, ...]]:
    """The edits that add the lines of a list that can be taken, and what is wrong with each of the others.

    ``needed``: the column without which it is no such list; ``entry`` gives the list and the values of a line, or
    raises Odd.  Raises InvalidInput where it is no such list.
    """
    keys = {folded(head): key for key, column in columns.items() for head in (column.head, *column.also)}
    matched = [keys.get(folded(head)) for head in table.head]
    if needed not in matched:
        heads = ", ".join(column.head for column in columns.values())
        raise InvalidInput(f"The list has no column {columns[needed].head}; its first line names the columns: {heads}.")
    edits: list[AddEntry] = []
    wrong: list[str] = []
    for number, cells in enumerate(table.lines, 2):
        try:
            said = {key: cell.strip() for key, cell in zip(matched, cells, strict=True) if key and cell.strip()}
            name, values = entry({key: _read(columns[key], text) for key, text in said.items()})
            LISTS[name][0].model_validate({**values, "id": 1})
            edits.append(AddEntry(list=name, values=values))
        except ValidationError as error:
            wrong.append(f"line {number}: {_told(error, columns)}")
        except Odd as odd:
            wrong.append(f"line {number}: {odd}")
    return tuple(edits), tuple(wrong)


def _read(column: EntryColumn, text: str) -> JsonValue:
    try:
        value: JsonValue = column.read(text)
    except Odd as odd:
        raise Odd(f"{column.head}: {odd}") from None
    return value


def _told(error: ValidationError, columns: Mapping[str, EntryColumn]) -> str:
    """What is wrong with the values of a line, with the head of the column that it is about."""
    wrong = error.errors()[0]
    message = wrong["msg"].removeprefix("Value error, ")
    column = columns.get(str(wrong["loc"][0])) if wrong["loc"] else None
    return f"{column.head}: {message}" if column else message
