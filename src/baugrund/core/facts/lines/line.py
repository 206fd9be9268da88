"""What the lines of every kind have: the shape of a price list.

A field stands in tables under the head of its `Column`; how a cell is read follows from the field's type.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property
from typing import Annotated, ClassVar, Literal, get_args

from pydantic import Field

from ..fact import Computed, ModelKey, Name, mark_of

Speed = Literal[100, 1000, 2500, 5000, 10000]
"""Line rate of a port [Mbit/s]."""
SPEEDS: tuple[Speed, ...] = get_args(Speed)
PoeCap = Annotated[int, Field(ge=0, le=8)]
Pack = Annotated[int, Field(ge=1, le=100)]
"""How many pieces the price is for."""


@dataclass(frozen=True)
class Column:
    """How a field of a line stands in a table: its head, other heads that mean it, and what other lists write for its
    choices."""

    head: str
    also: tuple[str, ...] = ()
    words: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True)
class Kind:
    """A kind of line: its place among the kinds, the words for one and for many, and what other lists call it."""

    place: int
    one: str
    many: str
    also: tuple[str, ...] = ()
    in_picks: bool = False
    """Whether a pick chooses among its lines."""


STOCK_WORDS = {
    "available": "yes", "in stock": "yes", "on stock": "yes", "immediately": "yes", "not available": "no",
    "out of stock": "no", "sold out": "no", "on order": "no", "discontinued": "no",
}  # fmt: skip


class Line(Computed):
    """What every line has.  A kind is a class of its own with a ``kind``, in a module of this folder."""

    of_kind: ClassVar[Kind]

    kind: str
    key: Annotated[
        ModelKey, Column("Key", ("sku", "article", "article number", "part number", "item number", "code"))
    ]  # fmt: skip
    name: Annotated[Name, Column("Name", ("model", "description", "product", "item", "title"))]
    price_minor: Annotated[
        int,
        Field(ge=0, le=100_000_000),
        Column("Price", ("unit price", "net price", "price each", "list price", "cost")),
    ]
    in_stock: Annotated[bool, Column("In stock", ("stock", "availability", "available"), STOCK_WORDS)] = True
    yearly_minor: Annotated[int, Field(ge=0, le=100_000_000), Column("Yearly")] = 0
    """Licence or rent of one a year."""
    yearly_for: Annotated[Literal["licence", "rent"], Column("Yearly for")] = "licence"
    warranty_years: Annotated[
        Annotated[int, Field(ge=0, le=50)] | None, Column("Warranty years", ("warranty",))
    ] = None  # fmt: skip

    lead_days: Annotated[
        Annotated[int, Field(ge=0, le=730)] | None, Column("Lead days", ("lead time", "delivery days"))
    ] = None  # fmt: skip
    """Days from order to delivery; None: not told."""

    @cached_property
    def mark(self) -> str:
        """What stands for all that is known of it."""
        return mark_of(self)

    def price_of(self, pieces: int) -> int:
        """What so many of it cost [minor]."""
        return pieces * self.price_minor


class Electric(Line):
    """A line that takes mains power.

    ``own_draw_w`` stands on the output side of its supply [W]: from the mains it draws that and what its ports give,
    divided by the supply's efficiency.
    """

    own_draw_w: Annotated[float, Field(ge=0, le=2000), Column("Own draw W")]
    efficiency_percent: Annotated[int, Field(ge=50, le=100), Column("Efficiency %")] = 88
    power_factor: Annotated[Annotated[float, Field(ge=0.3, le=1)] | None, Column("Power factor")] = None
    """Watts over volt-amperes at the mains; None: not told."""

    @property
    def own_draw_mw(self) -> int:
        """Own draw in whole milliwatts."""
        return round(self.own_draw_w * 1000)


class Piecewise(Line):
    """A small line that may be sold by the pack of several: its price is that of a pack."""

    pack: Annotated[Pack, Column("Pieces a pack", ("pack", "pack size", "unit quantity"))] = 1

    def price_of(self, pieces: int) -> int:
        """What so many of it cost in whole packs [minor]."""
        return self.packs_of(pieces) * self.price_minor

    def packs_of(self, pieces: int) -> int:
        """How many packs so many pieces are."""
        return -(-pieces // self.pack)

    @property
    def share_minor(self) -> int:
        """What no piece costs less than [minor]: its share of a pack, rounded down."""
        return self.price_minor // self.pack

    @property
    def piece_minor(self) -> int:
        """What one piece costs where packs are used up, rounded up [minor]."""
        return -(-self.price_minor // self.pack)
