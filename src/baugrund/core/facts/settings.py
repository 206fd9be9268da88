"""Schools and terms of a project."""

from __future__ import annotations

from typing import Annotated, Literal
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from pydantic import AfterValidator, Field

from ..physics.poe import PORT_VOLTS_DEFAULT, FeedTerms, School
from ..standards.cabling import (
    CONTACTS_DEFAULT,
    CORD_OHM_PER_M,
    CORDS_DEFAULT_M,
    THIN_CORD_OHM_PER_M,
    Category,
    Cords,
)
from ..standards.fibre import MATED_PAIRS_DEFAULT
from ..standards.radio import Region
from ..standards.stack import MAINS_V, WEIGHTS
from .brief import YEARS_AHEAD
from .fact import Note, Text
from .patch import Prefix, Prefix6
from .price import PriceTerms
from .sight import Bearing

STICKY_DB = 8.0
LINK_FILL_PERCENT = 70
"""A link carries this share of its rate at most, *default*."""
MAX_DROPS = 10_000

Aim = Literal["least_price", "fewest_boxes", "most_room", "least_power"]
Loop = Annotated[float, Field(ge=0, le=20)]
Percent = Annotated[float, Field(ge=0, le=200)]
Weight = Annotated[float, Field(ge=0, le=100)]
Price = Annotated[int, Field(ge=0, le=100_000_00)]


def _zone_is_known(name: str) -> str:
    try:
        ZoneInfo(name)
    except (ZoneInfoNotFoundError, ValueError, OSError):
        raise ValueError(f"there is no time zone {name!r}; one is written like Europe/Berlin or UTC") from None
    return name


TimeZone = Annotated[str, AfterValidator(_zone_is_known)]


class Settings(PriceTerms):
    """Schools and terms of the project.  Money in minor units of ``currency``."""

    client: Text = ""
    note: Note = ""
    start_year: Annotated[int, Field(ge=2000, le=2200)]
    horizon_years: Annotated[int, Field(ge=0, le=YEARS_AHEAD)] = 5
    growth_percent: Percent = 5.0
    """More drops of each kind per year [%], *default*."""
    school: School = "rated"
    margin_percent: Percent | None = None
    """On top of the watts added up; None: 20 % for rated and measured, 0 % for class."""
    jacks_live: Literal["every", "in_use"] = "every"
    separate_networks: bool = True
    chain_allowed: bool = False
    aim: Aim = "least_price"
    """Which answer the project stands on."""
    budget_minor: Annotated[int, Field(ge=1, le=1_000_000_000)] | None = None
    yearly_budget_minor: Annotated[int, Field(ge=1, le=1_000_000_000)] | None = None
    kwh_minor: Annotated[float, Field(ge=0, le=10_000)] = 30.0
    """A kilowatt-hour from the mains, *default*."""
    currency: Annotated[str, Field(pattern=r"^[A-Z]{3}$")] = "EUR"
    units: Literal["metric", "imperial"] = "metric"
    numbers: Literal["en", "de", "fr", "ch"] = "en"
    """How figures are written: 1,234.5 or 1.234,5 or 1 234,5 or 1'234.5."""
    latitude_deg: Annotated[float, Field(ge=-90, le=90)] | None = None
    longitude_deg: Annotated[float, Field(ge=-180, le=180)] | None = None
    """Where the site is: north of the equator, east of Greenwich; None: nobody has said."""
    time_zone: TimeZone = "UTC"
    north_deg: Bearing | None = None
    """True north on the plan, clockwise from its top; None: nobody has said."""
    termination: Literal["panel", "direct"] = "panel"
    cords: Cords = "usual"
    """Cords at both ends of every run, by gauge: 24, 26 or 28 AWG."""
    cords_m: Annotated[float, Field(ge=0, le=20)] = CORDS_DEFAULT_M
    """Cords of a channel together [m], *default*."""
    contacts: Annotated[int, Field(ge=0, le=12)] = CONTACTS_DEFAULT
    """Mated contacts of one loop of a channel, *default*."""
    port_volts: Annotated[float, Field(ge=44, le=57)] = PORT_VOLTS_DEFAULT
    """Volts at the powered ports, *default*."""
    link_fill_percent: Annotated[int, Field(ge=10, le=100)] = LINK_FILL_PERCENT
    """A link carries this share of its rate at most [%], *default*."""
    mated_pairs: Annotated[int, Field(ge=0, le=12)] = MATED_PAIRS_DEFAULT
    """Mated pairs of connectors on a fibre link, *default*: a panel at each end."""
    room_ports: Literal["cables", "switch"] = "cables"
    """How a room that wants several ports gets them: a cable each, or one cable and a room switch."""
    pinout: Literal["T568A", "T568B"] = "T568B"
    boxes: Literal["one", "separate"] = "separate"
    labels: Literal["running", "room", "position"] = "running"
    power_up: Literal["street", "switch"] = "street"
    route_by: Literal["length", "hours", "cost"] = "length"
    """What a run is shortest in."""
    closet_loop_m: Loop = 3.0
    jack_loop_m: Loop = 0.5
    ceiling_loop_m: Loop = 1.5
    """Service loops in the closet, at a jack, and at a device on ceiling or wall [m], *default*."""
    hour_minor: Price = 75_00
    """What an hour of labour is charged at, *default*."""
    region: Region = "etsi"
    """Whose lists of Wi-Fi channels hold."""
    avoid_radar: bool = False
    """Channels on which radar comes first stay empty."""
    ap_places: Literal["ceiling", "wall"] = "ceiling"
    """Where best places hang access points: under ceilings alone, or on and in walls too."""
    ap_feed: Literal["wired", "air"] = "wired"
    """How further access points are fed: by a run each, or meshed over the air."""
    ap_models: Literal["one", "phases"] = "one"
    """Whether all access points are of one kind, or of several as phases bring them."""
    wifi_names: Literal["one", "band"] = "one"
    """One name for all bands, or one a band."""
    low_rates: Literal["off", "kept"] = "off"
    """Whether the lowest rates stay switched on for old clients."""
    sticky_db: Annotated[float, Field(ge=0, le=40)] = STICKY_DB
    """By how much another access point must be stronger before a phone moves over [dB], *default*."""
    mains_v: Annotated[float, Field(ge=100, le=250)] = MAINS_V
    """Volts of the mains of the site, *default*."""
    cords_weight: Weight = WEIGHTS["cords"]
    hot_weight: Weight = WEIGHTS["hot"]
    heavy_weight: Weight = WEIGHTS["heavy"]
    """What wishes of an arrangement weigh: a unit of a cord, a watt under a cooler, a kilogram over a lighter,
    *defaults*."""
    disk_may_fail: bool = False
    """Recordings outlive the loss of one disk."""
    address_base: Prefix = "10.20.0.0/16"
    """Prefixes of networks are taken from it, *default*."""
    prefix6: Prefix6 = ""
    """IPv6 prefix of the site; empty: none."""
    label_stock: Text = ""
    """Stock that labels are printed on: the key of one that ships, or ``stock/12`` of the project's own."""
    cords_from: Literal["bought", "home_made"] = "bought"
    cord_category: Category = "6"
    most_closets: Annotated[int, Field(ge=1, le=6)] = 3
    closet_drops: Annotated[int, Field(ge=1, le=MAX_DROPS)] | None = None
    """Most drops that one closet serves; None: any number."""
    longest_run_m: Annotated[float, Field(ge=5, le=90)] = 90.0
    closet_minor: Price = 650_00
    """A further closet: housing, socket, what stands in it beside the boxes, *default*."""
    keep_head_end: bool = False
    """The head end stays where it is when places for closets are compared."""
    link_by: Literal["price", "fibre", "copper"] = "price"
    """What links between closets are made of where both would do."""
    spare_strands: Annotated[int, Field(ge=0, le=24)] = 2
    strand_end_minor: Price = 14_00
    """Finishing one end of one strand, *default*."""
    bundle_most: Annotated[int, Field(ge=1, le=100)] = 24
    """Cables that are pulled together at most, *default*."""

    @property
    def cord_ohm_per_m(self) -> float:
        """DC resistance of one conductor of the project's cords [ohm/m]."""
        return THIN_CORD_OHM_PER_M if self.cords == "thin" else CORD_OHM_PER_M

    @property
    def feed_terms(self) -> FeedTerms:
        """What powered runs are reckoned with."""
        return FeedTerms(self.port_volts, self.cords_m, self.contacts, self.cord_ohm_per_m)

    @property
    def margin(self) -> float:
        """Margin in force [%]."""
        if self.margin_percent is not None:
            return self.margin_percent
        return 0.0 if self.school == "class" else 20.0
