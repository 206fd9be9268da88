"""A price list as a table or as JSON: out, and in again line by line."""

from __future__ import annotations

import json
import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from pydantic import Field, TypeAdapter, ValidationError

from baugrund.core.errors import InvalidInput
from baugrund.core.facts.catalogue import LINES_MOST, Catalogue
from baugrund.core.facts.fact import Fact
from baugrund.core.facts.lines import KINDS, AnyLine
from baugrund.core.facts.lines.line import Line
from baugrund.core.watch import stepwise

from .cells import Odd, bare, inert, number_of
from .meanings import Answers, LeftOut, Meanings, Value, folded
from .price_columns import BY_HEAD, BY_KEY, COLUMNS, HEAD, HEAD_OF, TableColumn, key_of
from .tables import Table, read_table, write_csv, write_workbook

LINE: TypeAdapter[Line] = TypeAdapter(AnyLine)


def cells_of(model: Line, currency: str) -> dict[str, str]:
    """A model as the cells of its line, by column."""
    return {column.key: column.cell(model, currency) for column in COLUMNS}


def read_cells(cells: Mapping[str, str], currency: str) -> Line:
    """A model from the cells of its line.  Raises InvalidInput with all that is wrong."""
    head = tuple(key for key in cells if key in HEAD_OF)
    table = Table(head, (tuple(inert(cells[key]) for key in head),))
    file = _from_table(table, currency, Meanings(Answers()))
    if file.wrong:
        raise InvalidInput("; ".join(file.lines[0].wrong) + ".")
    return file.models[0]


class PriceLine(Fact):
    """A line of the file: the model that it gives, or what is wrong with it, then with its cells by column."""

    number: int
    told: str
    wrong: tuple[str, ...]
    left_out: bool = False
    cells: Mapping[str, str] = Field(default_factory=dict)


@dataclass(frozen=True)
class PriceFile:
    """A file read: every line told; its models, when nothing is wrong; the values that wanted or got a meaning."""

    lines: tuple[PriceLine, ...]
    models: tuple[Line, ...]
    values: tuple[Value, ...] = ()
    name: str | None = None
    priced_on: str | None = None

    @property
    def wrong(self) -> int:
        return sum(bool(line.wrong) for line in self.lines)


def read_prices(
    content: bytes, currency: str, meanings: Meanings | None = None, table_of: Callable[[bytes], Table] = read_table
) -> PriceFile:  # fmt: skip
    """A price list from the content of a CSV, XLSX or JSON file, in the currency of the list that it goes into.

    ``meanings``: what was said of the values and lines of a table; ``table_of``: what reads a table.
    Raises InvalidInput for what is no such file at all; what is wrong with lines is told with them.
    """
    if content.lstrip()[:1] == b"{":
        return _from_json(content, currency)
    return _from_table(table_of(content), currency, meanings or Meanings(Answers()))


def _from_table(table: Table, currency: str, meanings: Meanings) -> PriceFile:
    columns = _matched(table.head)
    known = [column.key for column in columns if column]
    for wanted in ("kind", "name", "price_minor"):
        if wanted not in known:
            raise InvalidInput(f"No column is called “{HEAD_OF[wanted]}”.", "columns")
    if len(set(known)) < len(known):
        raise InvalidInput("A column stands twice.", "columns")
    _not_too_many(len(table.lines))
    meanings.refuse_other_than(BY_KEY)
    lines = _Lines(currency)
    for number, row in enumerate(stepwise(table.lines, len(table.lines), "line"), 2):
        raw = {column.key: cell for column, cell in zip(columns, row, strict=True) if column}
        cells = meanings.mended(number, raw)
        try:
            if number in meanings.left_out:
                raise LeftOut
            values, wrong = _values(cells, currency, meanings)
        except LeftOut:
            lines.leave_out(number, cells)
            continue
        values.setdefault("key", key_of(str(values.get("name", ""))))
        lines.take(number, values, wrong, cells, mended=cells != raw)
    return lines.read(values=meanings.values)


def _matched(heads: Sequence[str]) -> list[TableColumn | None]:
    """For each head its column; None: it means none.  A head of the column's own name goes before others."""
    own = {folded(name): column for column in COLUMNS for name in (column.head, column.key)}
    taken = [own.get(folded(head)) for head in heads]
    for place, head in enumerate(heads):
        column = BY_HEAD.get(folded(head))
        if taken[place] is None and column not in taken:
            taken[place] = column
    return taken


def _values(cells: Mapping[str, str], currency: str, meanings: Meanings) -> tuple[dict[str, Any], list[str]]:
    """What the cells of a line say, by column, and what is wrong with them.  Raises LeftOut."""
    values: dict[str, Any] = {}
    wrong: list[str] = []
    for key, cell in cells.items():
        column, text = BY_KEY[key], cell.strip()
        if text.startswith("="):
            wrong.append(f"{column.head}: a formula; paste its value")
        elif text:
            try:
                values[key] = _cell(column, bare(text), currency, meanings)
            except (Odd, ValueError) as error:
                wrong.append(f"{column.head}: {error}")
    return values, wrong


def _cell(column: TableColumn, cell: str, currency: str, meanings: Meanings) -> Any:
    """What a cell says: as it stands, or by what other lists mean with it.  Raises Odd, ValueError, LeftOut."""
    meant = meanings.meant(column.key, column.head, cell, column.choices)
    text = meant or cell
    told = column.words.get(folded(text), "") or _figure_in(column, text)
    try:
        value = column.of(text, currency)
        told = meant
    except (Odd, ValueError):
        if not told:
            meanings.note(column.key, column.head, cell, "", column.choices)
            raise
        value = column.of(told, currency)
    if told:
        meanings.note(column.key, column.head, cell, told, column.choices)
    return value


def _figure_in(column: TableColumn, cell: str) -> str:
    """The only figure of a cell that should be one: “1 U”, “approx. 120 W”; empty: there is not one alone."""
    figures = re.findall(r"\d+(?:[.,]\d+)?", cell)
    return figures[0] if column.read is number_of and len(figures) == 1 and "-" not in cell else ""


def _from_json(content: bytes, currency: str) -> PriceFile:
    try:
        data = json.loads(content.decode("utf-8-sig"))
        models = data["models"]
    except (ValueError, KeyError, TypeError, RecursionError) as error:
        raise InvalidInput("This is not a catalogue file: JSON with a list of “models”.") from error
    if not isinstance(models, list):
        raise InvalidInput("“models” is not a list.", "models")
    _not_too_many(len(models))
    if data.get("currency", currency) != currency:
        raise InvalidInput(f"The file is in {data['currency']!s:.3}; this list is in {currency}.", "currency")
    lines = _Lines(currency)
    for number, model in enumerate(stepwise(models, len(models), "line"), 1):
        lines.take(number, model if isinstance(model, dict) else {}, [])
    name, day = data.get("name"), data.get("priced_on")
    return lines.read(name if isinstance(name, str) else None, day if isinstance(day, str) else None)


def _not_too_many(count: int) -> None:
    if count > LINES_MOST:
        raise InvalidInput(f"The list has {count:,} lines; a catalogue holds {LINES_MOST:,} at most.")


class _Lines:
    """Lines as they come in; keys and names that stand twice are told with the later line."""

    def __init__(self, currency: str) -> None:
        self.currency = currency
        self.lines: list[PriceLine] = []
        self.models: list[Line] = []
        self.seen: dict[tuple[str, str], int] = {}

    def leave_out(self, number: int, cells: Mapping[str, str]) -> None:
        told = (cells.get("name") or cells.get("key") or "").strip()[:200]
        self.lines.append(PriceLine(number=number, told=told, wrong=(), left_out=True, cells=cells))

    def take(
        self,
        number: int,
        values: Mapping[str, Any],
        wrong: list[str],
        cells: Mapping[str, str] | None = None,
        mended: bool = False,
    ) -> None:
        """Take a line; ``cells``: as it stands in a table."""
        values, model, wrong = dict(values), None, [*wrong]
        written = str(values.pop("currency", self.currency)).upper()
        # where a cell cannot be read, what is missing by that is not told as well
        if not wrong:
            try:
                model = LINE.validate_python(_whole(values))
            except ValidationError as error:
                wrong += [_told(one) for one in error.errors(include_url=False)]
        if written != self.currency:
            wrong.append(f"Currency: {written:.3}; this list is in {self.currency}")
        for what in ("key", "name"):
            value = getattr(model, what) if model else values.get(what)
            mine = value.strip() if isinstance(value, str) else ""
            before = self.seen.setdefault((what, mine.casefold()), number) if mine else number
            if before != number:
                wrong.append(f"{what.capitalize()}: “{mine:.80}” stands on line {before} already")
        if model and not wrong:
            self.models.append(model)
        told = str(values.get("name") or values.get("key") or "")[:200]
        row = KINDS.get(str(values.get("kind", "")), Line)
        to_mend = {key: "" for key in BY_KEY if key in row.model_fields} | dict(cells or {}) if wrong or mended else {}
        self.lines.append(PriceLine(number=number, told=told, wrong=tuple(wrong), cells=to_mend))

    def read(self, name: str | None = None, priced_on: str | None = None, values: tuple[Value, ...] = ()) -> PriceFile:
        whole = not any(line.wrong for line in self.lines)
        return PriceFile(tuple(self.lines), tuple(self.models) if whole else (), values, name, priced_on)


def _whole(values: Mapping[str, Any]) -> dict[str, Any]:
    """Figures without a fraction as whole numbers."""
    return {
        key: int(value) if isinstance(value, float) and value.is_integer() else value for key, value in values.items()
    }


def _told(error: Any) -> str:
    place = next((str(step) for step in reversed(error["loc"]) if str(step) in HEAD_OF), "")
    message = str(error["msg"]).removeprefix("Value error, ")
    if error["type"] == "missing":
        message = "nothing is there"
    if error["type"] == "extra_forbidden":
        message = f"a {error['loc'][0]} has none"
    return f"{HEAD_OF[place]}: {message}" if place else message


def _cells(catalogue: Catalogue) -> list[list[str]]:
    models = stepwise(catalogue.models, len(catalogue.models), "line")
    return [[column.cell(model, catalogue.currency) for column in COLUMNS] for model in models]


def write_prices_csv(catalogue: Catalogue) -> str:
    """Every line of a catalogue as CSV."""
    return write_csv(HEAD, _cells(catalogue))


def write_prices_xlsx(catalogue: Catalogue) -> bytes:
    """Every line of a catalogue as an XLSX workbook."""
    return write_workbook("Prices", HEAD, _cells(catalogue))


def write_prices_json(catalogue: Catalogue) -> str:
    """A catalogue as the text of a catalogue file."""
    return catalogue.model_dump_json(indent=1) + "\n"
