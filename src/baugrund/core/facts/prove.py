"""What was measured and ticked off while the network is built: tests of runs."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import Field, model_validator

from .drop import MAX_PHOTOS
from .fact import Fact, Id, Note, PictureKey, Text
from .references import DropId

MAX_TESTS = 4_000
MAX_RESULTS = 4_000
Pin = Annotated[int, Field(ge=0, le=8)]
"""A pin of the far end; 0: nowhere."""
Pair = Annotated[int, Field(ge=1, le=4)]
"""Pairs in the order 1-2, 3-6, 4-5, 7-8."""
TwoPins = Annotated[tuple[Pin, ...], Field(min_length=2, max_length=2)]
TwoPairs = Annotated[tuple[Pair, ...], Field(min_length=2, max_length=2)]


class RunTest(Fact):
    """One test of one run; what nobody measured is None."""

    id: Id
    drop_id: DropId
    at: datetime | None = None
    """When, in the time of the place."""
    by: Text = ""
    tester: Text = ""
    from_place: bool = False
    """Measured from the place of the drop, and not from the closet."""
    pins: Annotated[tuple[Pin, ...], Field(max_length=8)] | None = None
    """Where pins 1 to 8 of the closet's end come out."""
    shorts: Annotated[tuple[TwoPins, ...], Field(max_length=28)] = ()
    """Pins that touch."""
    split: Annotated[tuple[TwoPairs, ...], Field(max_length=6)] = ()
    """Pairs that crosstalk tells are split."""
    length_m: Annotated[float, Field(ge=0, le=1_000)] | None = None
    fault_m: Annotated[float, Field(ge=0, le=1_000)] | None = None
    """How far from the end that was measured from the first fault lies."""
    loop_ohm: Annotated[float, Field(ge=0, le=1_000)] | None = None
    """Of one pair, there and back."""
    speed_mbit: Annotated[int, Field(ge=0, le=400_000)] | None = None
    """The link that came up; 0: none."""
    poe_v: Annotated[float, Field(ge=0, le=60)] | None = None
    poe_w: Annotated[float, Field(ge=0, le=100)] | None = None
    note: Note = ""
    photos: Annotated[tuple[PictureKey, ...], Field(max_length=MAX_PHOTOS)] = ()

    @model_validator(mode="after")
    def _maps_eight_pins(self) -> RunTest:
        if self.pins is not None:
            if len(self.pins) != 8:
                raise ValueError(f"a wire map has eight pins, and not {len(self.pins)}")
            ends = [pin for pin in self.pins if pin]
            if len(ends) != len(set(ends)):
                twice = next(pin for pin in ends if ends.count(pin) > 1)
                raise ValueError(f"two pins end on pin {twice}: pins that touch are told apart from where they end")
        if any(one == other or not one or not other for one, other in self.shorts):
            raise ValueError("a pin touches another one")
        if any(one == other for one, other in self.split):
            raise ValueError("a pair is split with another one")
        return self


CheckKey = Annotated[str, Field(min_length=1, max_length=60, pattern=r"^[a-z]+(/[0-9]+){0,2}$")]
"""What is checked: ``goal/72``, ``line/2``, ``cell/10/30``, ``heat/1``, ``noise/1``, ``failover``."""


class AcceptanceResult(Fact):
    """What one check showed once, before the work or after it."""

    id: Id
    key: CheckKey
    at: datetime | None = None
    """When, in the time of the place."""
    by: Text = ""
    value: Annotated[float, Field(ge=-200, le=1_000_000)] | None = None
    """In the unit of the check."""
    met: bool | None = None
    """Of a check without a figure: whether it was as it should be."""
    before: bool = False
    """Measured before the work."""
    over_air: bool = False
    """Of a speed: measured over Wi-Fi."""
    place: Text = ""
    note: Note = ""

    @model_validator(mode="after")
    def _says_something(self) -> AcceptanceResult:
        if self.value is None and self.met is None:
            raise ValueError("a result has a figure, or says whether it is as it should be")
        return self


class SignOff(Fact):
    """Somebody accepted what had been checked by then; it stays as it was signed."""

    id: Id
    name: Annotated[Text, Field(min_length=1)]
    at: datetime | None = None
    passed: Annotated[int, Field(ge=0)] = 0
    failed: Annotated[int, Field(ge=0)] = 0
    open: Annotated[int, Field(ge=0)] = 0
    note: Note = ""
