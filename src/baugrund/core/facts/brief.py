"""What is wanted: goals, internet lines, wireless clients, what is there already, and what was agreed.

Each is a list of entries; ``edits.entries`` adds, changes and removes them all alike.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from ..standards.radio import Band, Generation, Width
from .building import LEAST_ROOM_M2, Outline, simple_shape
from .drop_kinds import KindKey
from .fact import Day, Fact, Id, ModelKey, Name, Note, Text
from .lines.line import Speed
from .patch import Address, Prefix
from .references import ClosetId, EntryId, FloorId, RoomId, TargetId, WifiNameId

YEARS_AHEAD = 10
"""How far growth is looked at; *holds* means: past this many years."""

Mbit = Annotated[int, Field(ge=1, le=100_000)]
Minor = Annotated[int, Field(ge=0, le=1_000_000_000)]


class InternetLine(Fact):
    """One line from a provider; ``standby`` lines work only when the others fail."""

    id: Id
    name: Name
    kind: Literal["fibre", "coax", "dsl", "wireless", "other"] = "fibre"
    down_mbit: Mbit
    up_mbit: Mbit
    source: Text = ""
    """Where the contracted rate is from: people overestimate what they pay for."""
    as_of: Day | None = None
    handoff_mbit: Speed = 1000
    """Speed of the port that the provider hands over."""
    box: Literal["none", "modem", "bridged", "routing"] = "modem"
    """The provider's box: none (straight from the terminal), a plain modem, a combination in bridge mode, or one
    that routes."""
    box_wifi: bool = False
    television: bool = False
    """Television or telephone is tied to the provider's box."""
    series_kept: bool = False
    """Two routers in series are kept knowingly."""
    entry_id: EntryId | None = None
    way_planned: bool = False
    """A way from the entry to the head end is planned before walls close."""
    standby: bool = False
    wan_address: Address = ""
    """Address that the router's WAN port gets from it; empty: nobody has looked."""
    box_prefix: Prefix = ""
    """Prefix of the network of the provider's box; empty: nobody has looked."""
    yearly_minor: Minor = 0
    """Rent and fees a year."""


GoalKind = Literal["coverage", "calls", "heavy", "line_speed", "footage", "battery", "image", "other"]


class Goal(Fact):
    """A statement that can be checked later: where, how much, and how it will be tested."""

    id: Id
    kind: GoalKind
    room_ids: Annotated[tuple[RoomId, ...], Field(max_length=200)] = ()
    """Named rooms; none: everywhere."""
    target_ids: Annotated[tuple[TargetId, ...], Field(max_length=200)] = ()
    """What must be seen, for a goal of the camera image; none: every target."""
    level: Annotated[float, Field(ge=-200, le=1_000_000)] | None = None
    """Pass level in the unit of the kind."""
    band: Band | None = None
    """Band in which a goal of Wi-Fi is to be met; None: any that is on."""
    share_percent: Annotated[float, Field(gt=0, le=100)] | None = None
    """Share of the area that must meet a goal of Wi-Fi [%]; None: `AREA_SHARE_PERCENT`."""
    floor_id: FloorId | None = None
    area: Outline | None = None
    """A part of a floor that a goal of Wi-Fi is about beside the named rooms."""
    note: Note = ""

    @model_validator(mode="after")
    def _area_is_on_a_floor(self) -> Goal:
        if self.area is not None:
            if self.floor_id is None:
                raise ValueError("an area needs the floor that it is on")
            simple_shape(self.area, "the area", least_m2=LEAST_ROOM_M2)
        return self


class WirelessClients(Fact):
    """Clients of one kind."""

    id: Id
    name: Name
    count: Annotated[int, Field(ge=1, le=10_000)]
    at_once: Annotated[int, Field(ge=0, le=10_000)] | None = None
    """How many at the busy hour; None: all."""
    band_2: bool = True
    band_5: bool = True
    band_6: bool = False
    generation: Generation = "802.11ac"
    streams: Annotated[int, Field(ge=1, le=8)] = 2
    width_mhz: Width | None = None
    """Widest channel that they use; None: usual for the generation."""
    mobile: bool = True
    demand_mbit: Annotated[float, Field(gt=0, le=10_000)] | None = None
    """What one asks at the busy hour; None: usual."""
    room_ids: Annotated[tuple[RoomId, ...], Field(max_length=200)] = ()
    """Where they are; none: spread over rooms by their use."""
    wifi_name_id: WifiNameId | None = None
    """The Wi-Fi name that they join; None: the first on the list."""


class Service(Fact):
    """Another service in the same walls."""

    id: Id
    kind: Literal["telephone", "television", "satellite", "alarm", "doorbell", "other"]
    must_survive: bool = True
    room_ids: Annotated[tuple[RoomId, ...], Field(max_length=200)] = ()
    """Rooms in which it has an outlet."""
    nameplate: Text = ""
    """What its transformer or supply says of itself."""
    note: Note = ""


class Kit(Fact):
    """Kit or cable that is there already.  Kept boxes of the catalogue enter the pick at price 0."""

    id: Id
    name: Name
    model: ModelKey | None = None
    count: Annotated[int, Field(ge=1, le=500)] = 1
    fate: Literal["kept", "replaced", "later"] = "kept"
    phase: Text = ""
    """The phase in which it goes, by its name."""
    goes: Literal["", "spare", "sold", "moved", "recycled"] = ""
    """Where it goes then; empty: nobody has said."""
    note: Note = ""


class Measure(Fact):
    """A temporary measure: it stays an open finding until it has ended."""

    id: Id
    name: Name
    owner: Text = ""
    phase: Text = ""
    """Phase in which it ends."""
    ended: bool = False


class Declined(Fact):
    """Advice that the owner declined."""

    id: Id
    advice: Name
    day: Day | None = None
    by: Text = ""


class Duty(Fact):
    """Who does which work."""

    id: Id
    task: Name
    who: Literal["owner", "electrician", "installer", "provider", "other"] = "installer"


class Addition(Fact):
    """Named growth: ``count`` more of a kind, ``years`` after the start."""

    id: Id
    kind: KindKey
    count: Annotated[int, Field(ge=1, le=500)]
    years: Annotated[int, Field(ge=1, le=YEARS_AHEAD)]
    closet_id: ClosetId | None = None
    """The closet that serves them; None: the head end."""


class PriceList(Fact):
    """A catalogue that the project is priced with, as of one edition: later editions do not change the project."""

    id: Id
    catalogue_id: Annotated[int, Field(ge=1, le=2**53)]
    edition: Annotated[int, Field(ge=1, le=1_000_000)]


GOALS: dict[str, tuple[str, str, float | None, str]] = {
    "coverage": ("Wi-Fi coverage", "dBm", -70, "signal walk with a phone, noted room by room"),
    "calls": ("No dropouts in calls", "dBm", -67, "a call held while walking"),
    "heavy": ("Heavy use of Wi-Fi", "dBm", -60, "a large file copied in the worst corner"),
    "line_speed": ("Line speed at a desk", "Mbit/s", None, "wired speed test at the desk, on several days"),
    "footage": ("Footage kept", "days", 30, "the oldest recording is played back"),
    "battery": ("Runs on battery", "min", 15, "power-cut drill, with a clock"),
    "image": ("Camera image", "px/m", 125, "a still with somebody standing there"),
    "other": ("Other goal", "", None, "as agreed"),
}
"""Per kind of goal: its name, unit, usual pass level (*default*) and the way of testing."""
WIFI_GOALS = ("coverage", "calls", "heavy")
AREA_SHARE_PERCENT = 95.0
"""Share of an area that must meet a goal of Wi-Fi, *default* [%]."""
