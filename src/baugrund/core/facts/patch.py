"""What is said of networks, of who may open connections to whom, and of where each drop is patched."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Literal

from pydantic import AfterValidator, Field, StringConstraints, model_validator

from ..standards.addresses import address_problem, prefix6_problem, prefix_problem
from ..standards.services import port_problem
from .drop_kinds import KindKey
from .fact import Day, Fact, Id, Name, Text
from .references import ClosetId, DropId, NetworkId, RoomId
from .stack import ThingKey

MAX_NETWORKS = 60
MAX_PATCHES = 10_000

Purpose = Literal["trusted", "guests", "things", "cameras", "work", "voice", "management", "lab", "other"]
WayIn = Literal["", "open", "password", "terms", "voucher"]
Access = Literal["nothing", "services", "all"]


def _service(name: str) -> str:
    problem = port_problem(name)
    if problem:
        raise ValueError(problem)
    return name


def _without(problem: Callable[[str], str | None]) -> AfterValidator:
    """Refuses a text with the sentence that says what is wrong with it; empty: nobody has said."""

    def check(text: str) -> str:
        if text and (wrong := problem(text)):
            raise ValueError(wrong)
        return text

    return AfterValidator(check)


Prefix = Annotated[str, StringConstraints(max_length=18), _without(prefix_problem)]
"""An IPv4 prefix of RFC 1918; empty: nobody has said."""
Prefix6 = Annotated[str, StringConstraints(max_length=43), _without(prefix6_problem)]
Address = Annotated[str, StringConstraints(max_length=15), _without(address_problem)]
ServiceKey = Annotated[str, StringConstraints(max_length=40), AfterValidator(_service)]


class Network(Fact):
    """A network of its own (a VLAN, IEEE Std 802.1Q).

    A drop is in the network that names it, else in the first that names its room, else in the first that names its
    kind, else in the first of all.
    """

    id: Id
    name: Name
    number: Annotated[int, Field(ge=1, le=4094)]
    """VLAN identifier, 1 to 4094 (IEEE Std 802.1Q-2022, 9.6)."""
    purpose: Purpose = "other"
    internet: bool = True
    """Whether its clients may open connections to the internet."""
    way_in: WayIn = ""
    """How guests come in."""
    kinds: Annotated[tuple[KindKey, ...], Field(max_length=40)] = ()
    room_ids: Annotated[tuple[RoomId, ...], Field(max_length=200)] = ()
    drop_ids: Annotated[tuple[DropId, ...], Field(max_length=2000)] = ()
    hosts: Annotated[int, Field(ge=0, le=16_000_000)] | None = None
    """Addresses that are wanted today; None: as they are counted."""
    growth_percent: Annotated[float, Field(ge=0, le=1000)] = 50.0
    """More of them to come, *default*."""
    prefix: Prefix = ""
    """Empty: the one that is proposed."""
    gateway: Address = ""
    """Empty: the first address of the prefix."""
    prefix6: Prefix6 = ""


class WifiName(Fact):
    """A name that access points send, and the network behind it."""

    id: Id
    name: Annotated[str, StringConstraints(min_length=1, max_length=32, strip_whitespace=True)]
    """At most 32 octets (IEEE Std 802.11-2020, 9.4.2.2)."""
    network_id: NetworkId | None = None
    drop_ids: Annotated[tuple[DropId, ...], Field(max_length=1000)] = ()
    """Access points that send it; none: all."""

    @model_validator(mode="after")
    def _is_short(self) -> WifiName:
        octets = len(self.name.encode())
        if octets > 32:
            raise ValueError(f"{self.name!r} is {octets} octets; a Wi-Fi name has 32 at most")
        return self


class Permission(Fact):
    """What clients of a network may open to another one; replies follow.  To its own: what clients may open to each
    other.  Without one: all inside a network, nothing between two."""

    id: Id
    from_id: NetworkId
    to_id: NetworkId
    access: Access = "nothing"
    services: Annotated[tuple[ServiceKey, ...], Field(max_length=20)] = ()
    reason: Text = ""

    @model_validator(mode="after")
    def _names_services(self) -> Permission:
        if (self.access == "services") != bool(self.services):
            raise ValueError("named services need at least one service, and only they have any")
        return self


class CableNetworks(Fact):
    """Networks that cross one of several cables between two closets, so that it is no loop; what no cable names crosses
    the first.  Without any the cables are one bundle (IEEE Std 802.1AX), and all of them carry everything."""

    id: Id
    closet_id: ClosetId
    """The closet that the cables feed."""
    cable: Annotated[int, Field(ge=1, le=16)]
    network_ids: Annotated[tuple[NetworkId, ...], Field(max_length=MAX_NETWORKS)] = ()


class Patch(Fact):
    """Where a drop, or one end of a link or feed, is patched: its position on a panel, and its port."""

    id: Id
    drop_id: DropId | None = None
    end: Text = ""
    """What is patched where it is no drop: the far end of a link (``box/switch-24/1``, ``closet/3/1`` for the first
    cable to closet 3), or a line (``line/5``)."""
    closet_id: ClosetId
    panel: ThingKey | Literal[""] = ""
    position: Annotated[int, Field(ge=1, le=200)] | None = None
    box: ThingKey | Literal[""] = ""
    port: Annotated[int, Field(ge=1, le=400)] | None = None
    """Counted from 1 through the groups of the box."""
    fixed: bool = False
    """Pinned by hand: no assignment moves it."""

    @model_validator(mode="after")
    def _is_whole(self) -> Patch:
        if (self.drop_id is None) != bool(self.end):
            raise ValueError("what is patched is a drop or an end, one of them")
        if bool(self.panel) != (self.position is not None):
            raise ValueError("a position needs its panel, and a panel a position")
        if bool(self.box) != (self.port is not None):
            raise ValueError("a port needs its box, and a box a port")
        return self


class Reserved(Fact):
    """An address that something keeps: a drop, a box of a closet, or whatever has a name."""

    id: Id
    drop_id: DropId | None = None
    closet_id: ClosetId | None = None
    thing: ThingKey | Literal[""] = ""
    name: Text = ""
    address: Annotated[Address, Field(min_length=1)]

    @model_validator(mode="after")
    def _is_of_something(self) -> Reserved:
        if self.drop_id is None and not self.thing and not self.name:
            raise ValueError("an address is reserved for a drop, a box, or something with a name")
        return self


class Tunnel(Fact):
    """A tunnel to another site, whose addresses must not be used here."""

    id: Id
    name: Name
    prefix: Annotated[Prefix, Field(min_length=1)]


class Printed(Fact):
    """A label that is on its cable, as it was printed."""

    id: Id
    drop_id: DropId | None = None
    """None: its cable is gone, and it is to be taken off."""
    text: Name
    day: Day | None = None


class LabelStock(Fact):
    """Sheets or tape that labels are printed on [mm]: the raster of a sheet, or the width of a tape."""

    id: Id
    name: Name
    form: Literal["sheet", "tape"] = "sheet"
    page: Literal["A4", "letter"] = "A4"
    width_mm: Annotated[float, Field(ge=4, le=300)]
    """Of one label; of a tape its length along the tape."""
    height_mm: Annotated[float, Field(ge=3, le=300)]
    print_mm: Annotated[float, Field(ge=3, le=300)] | None = None
    """Height that is printed on; the clear rest wraps over it.  None: all of it."""
    columns: Annotated[int, Field(ge=1, le=40)] = 1
    rows: Annotated[int, Field(ge=1, le=100)] = 1
    left_mm: Annotated[float, Field(ge=0, le=100)] = 0.0
    top_mm: Annotated[float, Field(ge=0, le=100)] = 0.0
    step_x_mm: Annotated[float, Field(ge=4, le=300)] | None = None
    step_y_mm: Annotated[float, Field(ge=3, le=300)] | None = None
    """From one label to the next; None: they touch."""

    @model_validator(mode="after")
    def _fits_its_page(self) -> LabelStock:
        if (self.print_mm or 0) > self.height_mm:
            raise ValueError(f"{self.print_mm:g} mm are printed on, of {self.height_mm:g} mm that a label is high")
        if self.form == "tape":
            return self
        across, down = PAGES_MM[self.page]
        wide = self.left_mm + (self.columns - 1) * (self.step_x_mm or self.width_mm) + self.width_mm
        high = self.top_mm + (self.rows - 1) * (self.step_y_mm or self.height_mm) + self.height_mm
        if wide > across or high > down:
            raise ValueError(f"its labels take {wide:g} × {high:g} mm, and the page is {across:g} × {down:g} mm")
        return self


PAGES_MM: dict[str, tuple[float, float]] = {"A4": (210.0, 297.0), "letter": (215.9, 279.4)}
"""ISO 216; ANSI/ASME Y14.1."""
CordUse = Literal["link", "feed"] | KindKey


class CordColour(Fact):
    """The colour of cords of one use: a kind of drop, links, feeds."""

    id: Id
    use: CordUse
    colour: Name


class DiscoveredPort(Fact):
    """What a switch told of one of its ports: what is plugged there in truth."""

    closet_id: ClosetId
    box: ThingKey
    port: Annotated[int, Field(ge=1, le=400)]
    hardware: Annotated[str, StringConstraints(max_length=17)] = ""
    """Hardware address of what answers there (EUI-48); empty: it said none."""
    name: Text = ""
    up: bool = True
    """Whether the link is up."""
    speed_mbit: Annotated[int, Field(ge=0, le=400_000)] | None = None
    watts: Annotated[float, Field(ge=0, le=100)] | None = None
    number: Annotated[int, Field(ge=1, le=4094)] | None = None
    """Of the network without a tag."""


class Discovered(DiscoveredPort):
    """The same as it is kept."""

    id: Id
    mend: bool = False
    """It is to be mended on site."""
