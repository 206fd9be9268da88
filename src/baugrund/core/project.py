"""A project's facts: one immutable value, checked on the way in."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping
from functools import cached_property
from typing import Annotated, Literal

from pydantic import Field, model_validator

from .catalogue import PoeCap, Speed
from .drop_kinds import DROP_KINDS, DropKind, KindKey
from .facts import Fact, ModelKey, Name, Note, Text
from .poe import School
from .standards.cabling import Category

MAX_DROPS = 10_000
MAX_ROOMS = 2_000
MAX_ROWS = 200
"""Most internet lines, additions, growth rates or stances."""
YEARS_AHEAD = 10
"""How far growth is looked at; *holds* means: past this many years."""

Aim = Literal["least_price", "fewest_boxes", "most_room", "least_power"]
Id = Annotated[int, Field(ge=1, le=2_000_000_000)]
Percent = Annotated[float, Field(ge=0, le=200)]


class Settings(Fact):
    """Schools and terms of the pick.  Money in minor units of ``currency``."""

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
    currency: Annotated[str, Field(pattern=r"^[A-Z]{3}$")] = "EUR"

    @property
    def margin(self) -> float:
        """Margin in force [%]."""
        if self.margin_percent is not None:
            return self.margin_percent
        return 0.0 if self.school == "class" else 20.0


class Closet(Fact):
    """Where the boxes stand and what the place gives them."""

    id: Id
    name: Name
    housing: Literal["shelf", "panel", "rack"] = "rack"
    units: Annotated[int, Field(ge=1, le=60)] = 9
    """Height for boxes, in units of 44.45 mm."""
    depth_mm: Annotated[int, Field(ge=50, le=1500)] = 450
    load_kg: Annotated[float, Field(gt=0, le=2000)] = 60.0
    sockets: Annotated[int, Field(ge=1, le=60)] = 6
    ups_outlets: Annotated[int, Field(ge=0, le=60)] | None = None
    """Battery outlets, every box and injector taking one; None: no limit is set."""
    living_space: bool = False


class InternetLine(Fact):
    """One line from a provider; ``standby`` lines work only when the others fail."""

    id: Id
    name: Name
    down_mbit: Annotated[int, Field(ge=1, le=100_000)]
    up_mbit: Annotated[int, Field(ge=1, le=100_000)]
    standby: bool = False


class Room(Fact):
    """A room, or a place outside."""

    id: Id
    name: Name
    floor: Text = ""
    outside: bool = False
    position: Annotated[int, Field(ge=0, le=1_000_000)] = 0


class Drop(Fact):
    """One cable from a closet to one place.  None takes the default of the kind."""

    id: Id
    room_id: Id
    closet_id: Id
    kind: KindKey
    label: Text = ""
    place: Text = ""
    in_use: bool = True
    speed_mbit: Speed
    poe_class: PoeCap | None = None
    """PoE class that the device asks for; None: not powered from the closet."""
    draw_w: Annotated[float, Field(ge=0, le=100)] = 0.0
    measured_w: Annotated[float, Field(ge=0, le=100)] | None = None
    """Watts measured at the port."""
    traffic_mbit: Annotated[float, Field(ge=0, le=10_000)] | None = None
    run_m: Annotated[float, Field(gt=0, le=10_000)] | None = None
    category: Category = "6"
    outdoor_jacket: bool = False
    large_frames: bool = False
    note: Note = ""

    @property
    def kind_row(self) -> DropKind:
        return DROP_KINDS[self.kind]

    @property
    def length_m(self) -> float:
        """Fixed length of the run [m]."""
        return self.kind_row.run_m if self.run_m is None else self.run_m

    @property
    def busy_mbit(self) -> float:
        """Busy-hour traffic [Mbit/s]."""
        return self.kind_row.traffic_mbit if self.traffic_mbit is None else self.traffic_mbit


class Addition(Fact):
    """Named growth: ``count`` more of a kind, ``years`` after the start."""

    id: Id
    kind: KindKey
    count: Annotated[int, Field(ge=1, le=500)]
    years: Annotated[int, Field(ge=1, le=YEARS_AHEAD)]


class GrowthRate(Fact):
    """Yearly growth of one kind, in place of the project's."""

    kind: KindKey
    percent: Percent


class Stance(Fact):
    """What the project says of one catalogue model."""

    model: ModelKey
    pinned: Annotated[int, Field(ge=0, le=50)] = 0
    """At least this many must be in the pick."""
    excluded: bool = False
    owned: Annotated[int, Field(ge=0, le=50)] = 0
    """Already there: this many enter at price 0."""
    held: Annotated[int, Field(ge=0, le=50)] = 0
    """This many are bought or promised: the ground stands on them until they are let go."""


class Project(Fact):
    """Everything the project knows; the plan is computed from this and the catalogue alone."""

    name: Name
    site: Text = ""
    settings: Settings
    next_id: Id = 1
    """Numbers are given once and never again."""
    closets: Annotated[tuple[Closet, ...], Field(min_length=1, max_length=1)]
    lines: Annotated[tuple[InternetLine, ...], Field(max_length=MAX_ROWS)] = ()
    rooms: Annotated[tuple[Room, ...], Field(max_length=MAX_ROOMS)] = ()
    drops: Annotated[tuple[Drop, ...], Field(max_length=MAX_DROPS)] = ()
    additions: Annotated[tuple[Addition, ...], Field(max_length=MAX_ROWS)] = ()
    growth_rates: Annotated[tuple[GrowthRate, ...], Field(max_length=MAX_ROWS)] = ()
    stances: Annotated[tuple[Stance, ...], Field(max_length=MAX_ROWS)] = ()

    @model_validator(mode="after")
    def _references_hold(self) -> Project:
        _unique("closets", (closet.id for closet in self.closets))
        _unique("lines", (line.id for line in self.lines))
        _unique("rooms", (room.id for room in self.rooms))
        _unique("drops", (drop.id for drop in self.drops))
        _unique("additions", (addition.id for addition in self.additions))
        _unique("growth_rates", (rate.kind for rate in self.growth_rates))
        _unique("stances", (stance.model for stance in self.stances))
        rooms = {room.id for room in self.rooms}
        closets = {closet.id for closet in self.closets}
        for place, drop in enumerate(self.drops):
            if drop.room_id not in rooms:
                raise ValueError(f"drops[{place}] names room {drop.room_id}, which is not there")
            if drop.closet_id not in closets:
                raise ValueError(f"drops[{place}] names closet {drop.closet_id}, which is not there")
        highest = max((row.id for rows in (self.closets, self.lines, self.rooms, self.drops, self.additions)
                       for row in rows), default=0)  # fmt: skip
        if self.next_id <= highest:
            raise ValueError(f"next_id is {self.next_id}, but {highest} is already given")
        return self

    def changed(self, **values: object) -> Project:
        """A copy with some values replaced, not checked again, and nothing kept that was computed from the old ones."""
        kept = {name: getattr(self, name) for name in type(self).model_fields}
        return type(self).model_construct(**{**kept, **values})

    @property
    def closet(self) -> Closet:
        return self.closets[0]

    @cached_property
    def rooms_by_id(self) -> Mapping[int, Room]:
        return {room.id: room for room in self.rooms}

    @cached_property
    def stances_by_model(self) -> Mapping[str, Stance]:
        return {stance.model: stance for stance in self.stances}

    @property
    def held(self) -> dict[str, int]:
        """Models and quantities that are held; empty: the ground follows the pick."""
        return {stance.model: stance.held for stance in self.stances if stance.held}

    def is_live(self, drop: Drop) -> bool:
        """Whether the drop needs a port: all do, or only those in use."""
        return drop.in_use or self.settings.jacks_live == "every"

    def growth_of(self, kind: str) -> float:
        """Yearly growth of a kind [%]."""
        return next((rate.percent for rate in self.growth_rates if rate.kind == kind), self.settings.growth_percent)

    def name_of(self, drop: Drop) -> str:
        """How a drop is spoken of: its label, or kind and room."""
        return drop.label or f"{drop.kind_row.name}, {self.rooms_by_id[drop.room_id].name}"


def _unique(place: str, keys: Iterable[object]) -> None:
    twice = [key for key, times in Counter(keys).items() if times > 1]
    if twice:
        raise ValueError(f"{place} holds {twice[0]} twice")


def empty_project(name: str, start_year: int, site: str = "") -> Project:
    """A new project: one closet, nothing listed."""
    return Project(
        name=name,
        site=site,
        settings=Settings(start_year=start_year),
        closets=(Closet(id=1, name="Main closet"),),
        next_id=2,
    )
