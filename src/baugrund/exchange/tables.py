"""Tables from files: CSV in any usual encoding and separator, or the first sheet of an XLSX workbook."""

from __future__ import annotations

import csv
import io
import json
import math
import zipfile
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any, NamedTuple

import openpyxl
from openpyxl.utils.exceptions import InvalidFileException

from baugrund.core.errors import BaugrundError, InvalidInput
from baugrund.core.watch import stepwise
from baugrund.core.words import counted

from .cells import inert

MAX_BYTES = 8_000_000
MAX_UNPACKED_BYTES = 80_000_000
MAX_ROWS = 10_001
"""A head and ten thousand lines."""
MAX_COLUMNS = 200
MAX_CELL = 4_000
SEPARATORS = ",;\t"


@dataclass(frozen=True)
class Table:
    """A head and lines of text as they stand in the file, formulas as such.

    ``note``: what was done to read it, in a sentence; empty: nothing.
    """

    head: tuple[str, ...]
    lines: tuple[tuple[str, ...], ...]
    note: str = ""


def read_told_table(content: bytes) -> Table:
    """A table as devices tell it: CSV, XLSX, or JSON that is a list of flat objects.  Raises InvalidInput."""
    if content.lstrip()[:1] in (b"[", b"{"):
        return _from_json(content)
    return read_table(content)


def _from_json(content: bytes) -> Table:
    if len(content) > MAX_BYTES:
        raise InvalidInput(f"The file has {len(content):,} bytes; {MAX_BYTES:,} are the most.")
    try:
        told = json.loads(content)
    except (ValueError, RecursionError) as error:
        raise InvalidInput("The file is no JSON that can be read.") from error
    rows = told if isinstance(told, list) else next((one for one in told.values() if isinstance(one, list)), None)
    if not isinstance(rows, list) or not rows or not all(isinstance(row, dict) for row in rows):
        raise InvalidInput("The file holds no list of objects, each of names and values.")
    if len(rows) >= MAX_ROWS:
        raise InvalidInput(f"The table has {len(rows):,} lines; {MAX_ROWS - 1:,} are the most.")
    head = tuple(dict.fromkeys(str(key) for row in rows for key in row))
    if len(head) > MAX_COLUMNS:
        raise InvalidInput(f"The table has {counted(len(head), 'column')}; {MAX_COLUMNS} are the most.")
    return Table(head, tuple(tuple(_plain(row.get(key)) for key in head) for row in rows))


def _plain(value: Any) -> str:
    """A value of JSON as a cell."""
    if value is None or isinstance(value, dict | list):
        return ""
    return ("yes" if value else "no") if isinstance(value, bool) else str(value)[:MAX_CELL]


def read_table(content: bytes) -> Table:
    """A table from the content of a CSV or XLSX file.

    Raises InvalidInput for what is too large, empty, not text, or a workbook that cannot be read.
    """
    if len(content) > MAX_BYTES:
        raise InvalidInput(f"The file has {len(content):,} bytes; {MAX_BYTES:,} are the most.")
    rows, note = _from_workbook(content) if content.startswith(b"PK\x03\x04") else _from_text(content)
    rows = [row for row in rows if any(cell.strip() for cell in row)]
    if not rows:
        raise InvalidInput("The file holds no table: its first line should name the columns.")
    if len(rows) > MAX_ROWS:
        raise InvalidInput(f"The table has {len(rows) - 1:,} lines; {MAX_ROWS - 1:,} are the most.")
    width = max(len(row) for row in rows)
    if width > MAX_COLUMNS:
        raise InvalidInput(f"The table has {counted(width, 'column')}; {MAX_COLUMNS} are the most.")
    padded = [tuple(row) + ("",) * (width - len(row)) for row in rows]
    return Table(padded[0], tuple(padded[1:]), note)


def _from_text(content: bytes) -> tuple[list[list[str]], str]:
    text, note = _decoded(content)
    if "\x00" in text:
        raise InvalidInput("The file is neither CSV text nor an XLSX workbook.")
    head = next((line for line in text.splitlines() if line.strip()), "")
    separator = max(SEPARATORS, key=head.count)
    try:
        rows = list(csv.reader(io.StringIO(text, newline=""), delimiter=separator, strict=True))
    except csv.Error as error:
        raise InvalidInput(f"The file is not CSV that can be read: {error}.") from error
    for number, row in enumerate(rows, 1):
        if any(len(cell) > MAX_CELL for cell in row):
            raise InvalidInput(f"Line {number}: a cell has more than {MAX_CELL:,} characters.")
    return rows, note


def _decoded(content: bytes) -> tuple[str, str]:
    if content.startswith((b"\xff\xfe", b"\xfe\xff")):
        try:
            return content.decode("utf-16"), "It was read as UTF-16."
        except UnicodeDecodeError as error:
            raise InvalidInput("The file says that it is UTF-16, and is not.") from error
    try:
        return content.decode("utf-8-sig"), ""
    except UnicodeDecodeError:
        return content.decode("cp1252", errors="replace"), "It is not UTF-8; it was read as Windows-1252."


def _from_workbook(content: bytes) -> tuple[list[list[str]], str]:
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as packed:
            size = sum(entry.file_size for entry in packed.infolist())
        if size > MAX_UNPACKED_BYTES:
            raise InvalidInput(f"The workbook unpacks to {size:,} bytes; {MAX_UNPACKED_BYTES:,} are the most.")
        book = openpyxl.load_workbook(io.BytesIO(content), read_only=True, data_only=False)
        sheet = book.worksheets[0] if book.worksheets else None
        if sheet is None:
            raise InvalidInput("The workbook has no sheet.")
        rows: list[list[str]] = []
        written = sheet.iter_rows(max_row=MAX_ROWS + 1, max_col=MAX_COLUMNS + 1)
        for row in stepwise(written, sheet.max_row, "row"):
            rows.append([_told(cell.value) for cell in row])
        while rows and not any(rows[-1]):
            rows.pop()
        widest = max((place + 1 for row in rows for place, cell in enumerate(row) if cell), default=0)
        return [row[:widest] for row in rows], ""
    except BaugrundError:
        raise
    except (zipfile.BadZipFile, InvalidFileException, KeyError, ValueError, OSError) as error:
        raise InvalidInput(f"The workbook cannot be read: {error}.") from error
    except Exception as error:
        # a damaged part inside the workbook surfaces as whatever the reader of that part raises
        raise InvalidInput("The workbook cannot be read: a part of it is damaged.") from error


def _told(value: Any) -> str:
    """A cell's value as text: whole numbers without a point, days as ISO dates."""
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, float):
        return f"{value:.10g}"
    if isinstance(value, datetime | date):
        return value.isoformat()[:10]
    return str(value)[:MAX_CELL]


class OutTable(NamedTuple):
    """A list as it goes out: its title, head and lines."""

    title: str
    head: list[str]
    lines: list[list[str]]

    def csv(self) -> bytes:
        """As CSV that a spreadsheet takes for UTF-8."""
        return write_csv(self.head, self.lines).encode("utf-8-sig")

    def xlsx(self) -> bytes:
        """As an XLSX workbook."""
        return write_workbook(self.title, self.head, self.lines)


def write_csv(head: list[str], lines: list[list[str]]) -> str:
    """A table as CSV; no cell is one that a spreadsheet would execute."""
    out = io.StringIO(newline="")
    writer = csv.writer(out, lineterminator="\r\n")
    for row in [head, *lines]:
        writer.writerow([inert(cell) for cell in row])
    return out.getvalue()


def write_workbook(title: str, head: list[str], lines: list[list[str]]) -> bytes:
    """A table as an XLSX workbook with one sheet; every cell is text or a number, never a formula."""
    return write_sheets({title: [head, *lines]})


def write_sheets(sheets: Mapping[str, Sequence[list[str]]]) -> bytes:
    """Tables as an XLSX workbook, a sheet each; every cell is text or a number, never a formula."""
    book = openpyxl.Workbook(write_only=True)
    for title, rows in sheets.items():
        sheet = book.create_sheet(title[:31])
        for row in stepwise(rows, len(rows), "row"):
            sheet.append([_typed(cell) for cell in row])
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def _typed(cell: str) -> str | float:
    try:
        number = float(cell)
    except ValueError:
        return inert(cell)
    return number if math.isfinite(number) and f"{number:.10g}" == cell else inert(cell)
