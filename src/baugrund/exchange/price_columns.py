"""The columns of a price list: a field of any kind of line each, read and written by its type."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field
from types import UnionType
from typing import Annotated, Any, Literal, Union, get_args, get_origin, get_type_hints

from baugrund.core.facts.fact import Fact
from baugrund.core.facts.lines import KINDS
from baugrund.core.facts.lines.box import PortGroup, SlotGroup
from baugrund.core.facts.lines.line import Column, Line
from baugrund.core.words import SYMBOLS, minor_per_unit, plain_money

from .cells import Odd, number_of, one_of, shown, speed_of, yes
from .meanings import folded


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


def key_of(name: str) -> str:
    """The key that a name gives."""
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
class TableColumn:
    """A column: how its cells are read and written, and what may stand in them where that is one of a few."""

    key: str
    head: str
    read: Callable[[str], Any] = str
    write: Callable[[Any], str] = shown
    choices: tuple[str, ...] = ()
    also: tuple[str, ...] = ()
    """Other heads that mean it."""
    words: Mapping[str, str] = field(default_factory=dict)
    """What other lists write for one of its choices."""

    def cell(self, model: Line, currency: str) -> str:
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


def _column(key: str, annotation: Any, column: Column) -> TableColumn:
    """A field as a column: how its cells are read and written follows from its type."""
    several, of = _parts(annotation)
    if get_origin(of) is Literal and isinstance(get_args(of)[0], str):
        choices = tuple(map(str, get_args(of)))
        read = _several(one_of(choices)) if several else one_of(choices)
        return TableColumn(key, column.head, read, _told_list if several else shown, choices, column.also, column.words)
    if of is bool:
        return TableColumn(key, column.head, yes, shown, ("yes", "no"), column.also, column.words)
    if of in (PortGroup, SlotGroup):
        return TableColumn(key, column.head, _several(_ports), _told_ports, also=column.also)
    one = _reader(key, of)
    if several:
        return TableColumn(key, column.head, _several(one), _told_list, also=column.also)
    return TableColumn(key, column.head, one, also=column.also)


def _reader(key: str, of: Any) -> Callable[[str], Any]:
    """What reads a text, money, a speed or another figure."""
    if key == "key":
        return key_of
    if key.endswith("_minor"):
        return _money
    if key.endswith("_mbit"):
        return speed_of
    return str if of is str else number_of


def _parts(annotation: Any) -> tuple[bool, Any]:
    """Whether a field holds several values, and the bare type of one."""
    several = False
    while True:
        origin, parts = get_origin(annotation), get_args(annotation)
        if origin is Annotated:
            annotation = parts[0]
        elif origin in (Union, UnionType):
            annotation = next(part for part in parts if part is not type(None))
        elif origin is tuple:
            several, annotation = True, parts[0]
        else:
            return several, annotation


def _columns() -> Iterator[TableColumn]:
    """The kind, then every field of every kind, once, in their order; the currency stands behind the price."""
    kinds = tuple(KINDS)
    words = {word: kind for kind, row in KINDS.items() for word in row.of_kind.also}
    yield TableColumn("kind", "Kind", one_of(kinds), shown, kinds, ("type", "category", "product type", "group"), words)
    seen = set[str]()
    for row in KINDS.values():
        hints = get_type_hints(row, include_extras=True)
        for key, about in row.model_fields.items():
            column = next((one for one in about.metadata if isinstance(one, Column)), None)
            if column and key not in seen:
                seen.add(key)
                yield _column(key, hints[key], column)
                if key == "price_minor":
                    yield TableColumn("currency", "Currency")


COLUMNS = tuple(_columns())
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


class LineKind(Fact):
    """A kind of line: the word for many, and whether a pick chooses among them."""

    key: str
    many: str
    in_picks: bool


def line_kinds() -> tuple[LineKind, ...]:
    """The kinds in their order."""
    return tuple(LineKind(key=key, many=row.of_kind.many, in_picks=row.of_kind.in_picks) for key, row in KINDS.items())
