"""Which jack ends on which position of a panel, where nothing is labelled: what is traced, with what, every reading."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field, model_validator

from .fact import Fact, Id, Name, Text
from .references import ClosetId, DropId, RoomId, TracedJackId

MAX_TRACED = 2_000
MAX_TRACE_STEPS = 20_000
MAX_POSITIONS = 960

TraceKind = Literal["toner", "remote", "laptop", "cords", "sweep", "pair", "link", "known"]
ServiceOfLine = Literal["data", "phone", "antenna", "alarm", "bell", "other"]
PanelPosition = Annotated[int, Field(ge=1, le=MAX_POSITIONS)]


class TraceSheet(Fact):
    """The panel of a closet that is traced, and what is at hand for it."""

    id: Id
    closet_id: ClosetId
    positions: Annotated[int, Field(ge=1, le=MAX_POSITIONS)]
    """Counted from 1 through all panels of the closet."""
    empty: Annotated[tuple[PanelPosition, ...], Field(max_length=MAX_POSITIONS)] = ()
    """Positions with no cable at the panel's back."""
    panel: Text = ""
    """What an old panel is called that stands in no list of this project; empty: the panels of the closet."""
    panel_size: Annotated[int, Field(ge=1, le=MAX_POSITIONS)] = 24
    """Positions of one panel: a tone is not mistaken for one of the next panel."""
    toner: bool = True
    tester: bool = True
    """A pair tester, or one that shows the wire map, with its remote."""
    one_instrument: bool = False
    """Toner and tester are one: going from one to the other is a set-up."""
    laptop: bool = False
    cords: Annotated[int, Field(ge=0, le=200)] = 0
    """Cords to a live switch; 1: one that is moved."""
    reads_table: bool = True
    """The table of the switch is read at the jack; else its lights are read at the panel."""
    people: Annotated[int, Field(ge=1, le=2)] = 1
    accept: Annotated[float, Field(ge=0.9, le=1)] = 1.0
    """A pair as probable is taken as found; 1: only after a reading that is exact."""


class TracedJack(Fact):
    """A jack, or the end of a line of another service, that ends somewhere on a panel."""

    id: Id
    closet_id: ClosetId
    drop_id: DropId | None = None
    """None: no drop of this project."""
    name: Name
    room_id: RoomId | None = None
    service: ServiceOfLine = "data"


class TraceStep(Fact):
    """One thing that was done, or one reading, in the order in which they came."""

    id: Id
    closet_id: ClosetId
    kind: TraceKind
    jack_id: TracedJackId | None = None
    """The jack that it is about; None: none (``cords``)."""
    position: PanelPosition | None = None
    """``sweep``: where the tone was heard, None: nowhere.  ``pair``: the position that was tested.  ``link``: the
    position of the cord on which the laptop shows, None: on none.  ``known``: where the jack ends, None: it is dead."""
    found: bool | None = None
    """``pair``: whether the jack answered there."""
    positions: Annotated[tuple[PanelPosition, ...], Field(max_length=200)] = ()
    """``cords``: positions that have a cord to the switch from now on."""
    at: datetime | None = None
    """When, in the time of the place."""
    by: Text = ""

    @model_validator(mode="after")
    def _is_whole(self) -> TraceStep:
        if (self.kind == "cords") != (self.jack_id is None):
            raise ValueError("every step but one of cords names the jack that it is about")
        if (self.kind == "pair") != (self.found is not None):
            raise ValueError("a pair test says whether the jack answered, and nothing else does")
        if self.kind == "pair" and self.position is None:
            raise ValueError("a pair test names the position that was tested")
        if self.kind != "cords" and self.positions:
            raise ValueError("only cords name several positions")
        if len(set(self.positions)) != len(self.positions):
            raise ValueError("a position has one cord")
        return self
