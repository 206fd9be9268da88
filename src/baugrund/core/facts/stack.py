"""What stands in closets beside the pick, where each thing stands and how it is plugged, what must outlive a cut."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ..standards.stack import GearKind, Plug
from .fact import Fact, Id, ModelKey, Name, Note, Text
from .lines.box import Airflow
from .references import ClosetId, DropId

MAX_GEAR = 500
Size = Annotated[int, Field(ge=1, le=2500)]
ThingKey = Annotated[str, Field(min_length=1, max_length=80)]
"""What a thing is told apart by: ``gear/12``, ``drop/7``, ``line/5``, ``box/switch-24/1``."""
Outlet = Literal["", "battery", "surge", "mains"]
"""Where it is plugged in; empty: as the closet has it."""


class Gear(Fact):
    """A thing in a closet that no pick chooses.  None: usual for its kind, or as its line of the price lists says."""

    id: Id
    closet_id: ClosetId
    kind: GearKind
    name: Text = ""
    model: ModelKey | None = None
    drop_id: DropId | None = None
    """The drop whose box it is, so that the box is not counted twice."""
    width_mm: Size | None = None
    units: Annotated[int, Field(ge=1, le=40)] | None = None
    height_mm: Size | None = None
    depth_mm: Annotated[int, Field(ge=0, le=2500)] | None = None
    mass_kg: Annotated[float, Field(ge=0, le=500)] | None = None
    draw_w: Annotated[float, Field(ge=0, le=5000)] | None = None
    noise_dba: Annotated[float, Field(ge=0, le=100)] | None = None
    plug: Plug | None = None
    fanless: bool | None = None
    airflow: Airflow | None = None
    rack: bool | None = None
    """Screwed to the rails; else on a shelf, or hung."""
    carries_kg: Annotated[float, Field(gt=0, le=500)] | None = None
    """Of a shelf."""
    volts: Annotated[float, Field(gt=0, le=480)] | None = None
    ah: Annotated[float, Field(gt=0, le=1000)] | None = None
    watts_most: Annotated[float, Field(gt=0, le=20_000)] | None = None
    va_most: Annotated[float, Field(gt=0, le=20_000)] | None = None
    outlets: Annotated[int, Field(ge=0, le=48)] | None = None
    """Of a UPS those on its battery, of a strip all."""
    free_m3_h: Annotated[float, Field(gt=0, le=5000)] | None = None
    """Of a fan."""
    module_mm: Annotated[float, Field(gt=0, le=60)] | None = None
    """Of a panel whose modules snap in: how wide one is."""
    note: Note = ""


class Placing(Fact):
    """Where a thing of a closet stands, and how it is plugged in."""

    id: Id
    closet_id: ClosetId
    thing: ThingKey
    unit: Annotated[int, Field(ge=1, le=60)] | None = None
    """The lowest unit that it takes, counted from the bottom; None: nobody has said."""
    face: Literal["front", "rear"] = "front"
    on: ThingKey | Literal[""] = ""
    """The shelf that it stands on."""
    x_mm: Annotated[int, Field(ge=0, le=2500)] | None = None
    y_mm: Annotated[int, Field(ge=0, le=2500)] | None = None
    """In a wall panel its upper left corner, on a shelf its left side."""
    turned: bool = False
    """By a quarter, in a wall panel."""
    fixed: bool = False
    """Screwed in or pinned: no arrangement moves it."""
    outlet: Outlet = ""
    strip: ThingKey | Literal[""] = ""
    """The strip that it is plugged into, and so wherever that one is; empty: nobody has said."""
    shed_percent: Annotated[float, Field(gt=0, lt=100)] | None = None
    """It is switched off at this share of battery left."""
    shutdown_min: Annotated[float, Field(ge=0, le=120)] | None = None
    """It begins to shut down so long before the end; None: usual for its kind."""


class PanelBlock(Fact):
    """What is in the way in a wall panel: a rectangle from its upper left corner [mm]."""

    id: Id
    closet_id: ClosetId
    name: Name
    x_mm: Annotated[int, Field(ge=0, le=2500)]
    y_mm: Annotated[int, Field(ge=0, le=2500)]
    width_mm: Size
    height_mm: Size


class Lifeline(Fact):
    """A service that must outlive a power cut: a device, and what it needs to reach."""

    id: Id
    name: Name
    drop_id: DropId
    reaches: Literal["internet", "recorder", "store"] = "internet"
    minutes: Annotated[float, Field(gt=0, le=10_000)] | None = None
    """None: as the goal *Runs on battery* says."""


class StackTerms(Fact):
    """What of a closet only its stack needs."""

    warm_c: Annotated[float, Field(ge=-20, le=60)] | None = None
    """Warmth of its room in summer."""
    is_open: bool = False
    """An open frame: no warmth gathers in it."""
    cord_space_mm: Annotated[int, Field(ge=0, le=500)] = 60
    """Before the front rail, up to the door."""
    free_sides: Annotated[int, Field(ge=0, le=2)] = 2
    """Sides beside front and top that give off warmth."""
    blocked: Literal["", "left", "right", "both"] = ""
    """Sides of it that stand against a wall: nothing blows there."""
    front_mm: Annotated[int, Field(ge=0, le=10_000)] | None = None
    behind_mm: Annotated[int, Field(ge=0, le=10_000)] | None = None
    """Clear room before and behind it as measured."""
    panel_width_mm: Annotated[int, Field(ge=50, le=2500)] | None = None
    panel_height_mm: Annotated[int, Field(ge=50, le=2500)] | None = None
    """Free area of a wall panel or a shelf."""
    near: Literal["", "bed", "living", "office"] = ""
    """What the nearest people there do."""
    near_m: Annotated[float, Field(ge=0, le=100)] = 3.0
    through: Literal["open", "door", "stud"] = "door"
    battery_for: Literal["all", "chosen"] = "all"
    """What is on the battery: all, or only what says so."""
    shed_low_percent: Annotated[float, Field(gt=0, lt=100)] | None = None
    """At this share of battery left ports of low priority are switched off."""
    amperes_most: Annotated[float, Field(gt=0, le=63)] = 10.0
    keep_free: bool = True
    """A unit beside the panels stays free for the next one."""
    entry: Literal["", "top", "bottom"] = ""
    """Where cables come in; empty: nobody has said."""
    slack_mm: Annotated[int, Field(ge=0, le=20_000)] | None = None
    """How far cable that is there already reaches into a rack, from where it comes in."""
    fixing: Literal["", "studs", "masonry", "backboard", "frame", "floor", "plasterboard"] = ""
    """What it is fixed to, or stands on."""
    housing_model: ModelKey | None = None
    """The housing of the price lists that is bought for it."""
    is_there: bool = False
    """The rack is there already: it can be kept at no price."""
