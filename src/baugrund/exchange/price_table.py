"""A price list as a table or as JSON: out, and in again line by line."""

from __future__ import annotations

import json
import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, get_args

from pydantic import Field, TypeAdapter, ValidationError

from baugrund.core.errors import InvalidInput
from baugrund.core.facts.catalogue import (
    LINES_MOST,
    Accessory,
    Airflow,
    Allocation,
    AnyModel,
    Catalogue,
    Injector,
    Model,
    Module,
    Priced,
    Router,
    Spare,
    Switch,
)
from baugrund.core.facts.fact import Fact
from baugrund.core.watch import stepwise
from baugrund.core.words import SYMBOLS, minor_per_unit, plain_money

from .cells import Odd, bare, inert, number_of, one_of, shown, speed_of, yes
from .meanings import Answers, LeftOut, Meanings, Value, folded
from .tables import Table, read_table, write_csv, write_workbook

MODEL: TypeAdapter[AnyModel] = TypeAdapter(Model)
KINDS: dict[str, type[Priced]] = {
    "router": Router,
    "switch": Switch,
    "injector": Injector,
    "module": Module,
    "spare": Spare,
}


@dataclass(frozen=True)
class _Amount:
    """Money as it is written, in whole units of a currency that is not known yet."""

    units: float


def _without(currency: str, text: str) -> str:
    """A price without the sign or the code of its currency; another one stays, and is odd."""
    for name in (currency, SYMBOLS.get(currency, currency)):
        text = text.strip().removeprefix(name).removesuffix(name)
    return text


def _money(text: str) -> _Amount:
    if re.fullmatch(r"\d{1,3}([.,]\d{3})+", text.strip()):
        raise Odd(f"“{text}” may mean thousands or a fraction; write it with two decimals and no grouping")
    return _Amount(number_of(text.replace(" ", "")))


def _key_of(name: str) -> str:
    return re.sub(r"[^a-z0-9]+", "-", name.casefold()).strip("-")[:80]


def _several(read: Callable[[str], Any]) -> Callable[[str], list[Any]]:
    return lambda text: [read(part.strip()) for part in text.split(";") if part.strip()]


_PORTS = re.compile(
    r"(\d+)\s*[x×*]\s*([\d.,]+\s*[gm]?)(?:\s*(?:class|cl\.?)\s*(\d+))?(?:\s+([\d.,]+)\s*w)?"
)  # fmt: skip


def _ports(text: str) -> dict[str, Any]:
    """``16 × 1000 class 4 30 W``: so many ports of a speed, the highest class that they give, the most watts of one."""
    match = _PORTS.fullmatch(text.strip().casefold())
    if match is None:
        raise Odd(f"“{text}” is not written like “16 × 1000 class 4”")
    group: dict[str, Any] = {"count": int(match[1]), "speed_mbit": speed_of(match[2])}
    if match[3] is not None:
        group["poe_class"] = int(match[3])
    if match[4] is not None:
        group["port_w"] = number_of(match[4])
    return group


def _told_ports(groups: Any) -> str:
    told = []
    for group in groups:
        cap = getattr(group, "poe_class", None)
        most_w = getattr(group, "port_w", None)
        told.append(
            f"{group.count} × {group.speed_mbit}"
            + ("" if cap is None else f" class {cap}")
            + ("" if most_w is None else f" {most_w:g} W")
        )
    return "; ".join(told)


def _told_list(values: Any) -> str:
    return "; ".join(shown(value) for value in values)


@dataclass(frozen=True)
class _Column:
    key: str
    head: str
    read: Callable[[str], Any] = str
    write: Callable[[Any], str] = shown
    choices: tuple[str, ...] = ()
    also: tuple[str, ...] = ()
    """Other heads that mean it."""
    words: Mapping[str, str] = field(default_factory=dict)
    """What other lists write for one of its choices."""

    def cell(self, model: AnyModel, currency: str) -> str:
        if self.key == "currency":
            return currency
        value = getattr(model, self.key, None)
        if value is None:
            return ""
        return plain_money(value, currency) if self.read is _money else self.write(value)

    def of(self, text: str, currency: str) -> Any:
        """What a cell says; money may name its own currency.  Raises Odd or ValueError."""
        value = self.read(_without(currency, text) if self.read is _money else text)
        return round(value.units * minor_per_unit(currency)) if isinstance(value, _Amount) else value


def _choice(key: str, head: str, *choices: str, **more: Any) -> _Column:
    return _Column(key, head, one_of(choices), choices=choices, **more)


def _yes(key: str, head: str, **more: Any) -> _Column:
    return _Column(key, head, yes, choices=("yes", "no"), **more)


KIND_WORDS = {
    "gateway": "router", "firewall": "router", "poe switch": "switch", "network switch": "switch",
    "managed switch": "switch", "poe injector": "injector", "midspan": "injector", "transceiver": "module",
    "optic": "module", "optics": "module", "sfp": "module", "sfp+": "module", "sfp module": "module",
    "accessory": "spare", "part": "spare", "power supply": "spare",
}  # fmt: skip
STOCK_WORDS = {
    "available": "yes", "in stock": "yes", "on stock": "yes", "immediately": "yes", "not available": "no",
    "out of stock": "no", "sold out": "no", "on order": "no", "discontinued": "no",
}  # fmt: skip


COLUMNS = (
    _choice("kind", "Kind", *KINDS, also=("type", "category", "product type", "group"), words=KIND_WORDS),
    _Column("key", "Key", _key_of, also=("sku", "article", "article number", "part number", "item number", "code")),
    _Column("name", "Name", also=("model", "description", "product", "item", "title")),
    _Column("price_minor", "Price", _money, also=("unit price", "net price", "price each", "list price", "cost")),
    _Column("pack", "Pieces a pack", number_of, also=("pack", "pack size", "unit quantity")),
    _Column("currency", "Currency"),
    _yes("in_stock", "In stock", also=("stock", "availability", "available"), words=STOCK_WORDS),
    _Column("yearly_minor", "Yearly", _money),
    _choice("yearly_for", "Yearly for", "licence", "rent"),
    _Column("ports", "Ports", _several(_ports), _told_ports),
    _Column("slots", "Slots", _several(_ports), _told_ports),
    _Column("fed_class", "Fed by class", number_of),
    _Column("poe_budget_w", "PoE budget W", number_of, also=("poe budget", "poe power", "poe w")),
    _choice("poe_allocation", "PoE allocation", *get_args(Allocation)),
    _Column("supplies_w", "Supplies W", _several(number_of), _told_list),
    _Column("wan_mbit", "WAN Mbit/s", _several(speed_of), _told_list),
    _Column("throughput_mbit", "Throughput Mbit/s", speed_of),
    _Column("inspected_mbit", "Inspected Mbit/s", speed_of),
    _Column("networks", "Networks", number_of),
    _Column("recorder_cameras", "Recorder cameras", number_of),
    _Column("own_draw_w", "Own draw W", number_of),
    _Column("efficiency_percent", "Efficiency %", number_of),
    _Column("power_factor", "Power factor", number_of),
    _choice("form", "Form", "shelf", "rack"),
    _Column("units", "Units", number_of, also=("rack units", "u")),
    _Column("width_mm", "Width mm", number_of, also=("width",)),
    _Column("depth_mm", "Depth mm", number_of, also=("depth",)),
    _Column("mass_kg", "Mass kg", number_of, also=("mass", "weight", "weight kg")),
    _Column("sockets", "Sockets", number_of),
    _yes("fanless", "Fanless"),
    _Column("noise_dba", "Noise dB(A)", number_of),
    _choice("airflow", "Airflow", *get_args(Airflow)),
    _Column("ambient_max_c", "Warmest air °C", number_of),
    _yes("managed", "Managed"),
    _yes("large_frames", "Large frames"),
    _Column("lacks", "Lacks", _several(one_of(get_args(Accessory))), _told_list),
    _Column("poe_class", "PoE class", number_of),
    _Column("speed_mbit", "Speed Mbit/s", speed_of),
    _choice("medium", "Medium", "copper", "fibre-multimode", "fibre-singlemode"),
    _Column("reach_m", "Reach m", number_of),
    _Column("reach_om4_m", "Reach over OM4 m", number_of),
    _Column("draw_w", "Draw W", number_of),
    _Column("warranty_years", "Warranty years", number_of, also=("warranty",)),
    _choice("completes", "Completes", *get_args(Accessory)),
)
HEAD = [column.head for column in COLUMNS]
BY_HEAD = {folded(name): column for column in COLUMNS for name in (column.head, column.key, *column.also)}
BY_KEY = {column.key: column for column in COLUMNS}
HEAD_OF = {column.key: column.head for column in COLUMNS}


class PriceColumn(Fact):
    """A column of a price list: its head, what may stand in it where that is one of a few, and which kinds have it."""

    key: str
    head: str
    choices: tuple[str, ...]
    kinds: tuple[str, ...]


def price_columns() -> tuple[PriceColumn, ...]:
    """The columns in their order."""
    return tuple(
        PriceColumn(
            key=column.key, head=column.head, choices=column.choices,
            kinds=tuple(kind for kind, row in KINDS.items() if column.key in row.model_fields),
        )
        for column in COLUMNS
        if column.key != "currency"
    )  # fmt: skip


def cells_of(model: AnyModel, currency: str) -> dict[str, str]:
    """A model as the cells of its line, by column."""
    return {column.key: column.cell(model, currency) for column in COLUMNS}


def read_cells(cells: Mapping[str, str], currency: str) -> AnyModel:
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
    models: tuple[AnyModel, ...]
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
        values.setdefault("key", _key_of(str(values.get("name", ""))))
        lines.take(number, values, wrong, cells, mended=cells != raw)
    return lines.read(values=meanings.values)


def _matched(heads: Sequence[str]) -> list[_Column | None]:
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


def _cell(column: _Column, cell: str, currency: str, meanings: Meanings) -> Any:
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


def _figure_in(column: _Column, cell: str) -> str:
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
        self.models: list[AnyModel] = []
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
                model = MODEL.validate_python(_whole(values))
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
        row = KINDS.get(str(values.get("kind", "")), Priced)
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
