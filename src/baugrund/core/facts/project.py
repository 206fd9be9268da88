"""A project's facts: one immutable value, checked on the way in."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from functools import cached_property
from typing import Annotated

from pydantic import Field, model_validator

from ..standards.poe_classes import HIGHEST_CLASS, POE_CLASSES, rank, smallest_class_for
from .brief import (
    Addition,
    Declined,
    Duty,
    Goal,
    InternetLine,
    Kit,
    Measure,
    PriceList,
    Service,
    WirelessClients,
)
from .building import Building, Candidate, Closet, Entry, Floor, Landmark, Room
from .drop import Drop, OwnKind
from .drop_kinds import RECORDING_KINDS, SEEING_KINDS, KindKey
from .fact import Fact, Id, ModelKey, Name, Text
from .grouping import grouped
from .labour import STAGE_NAMES, TaskRate, circle_in
from .moving import MoveTerm, Running
from .order_of_work import MAX_BENCHED, MAX_TICKS, Benched, Ticked
from .patch import (
    MAX_NETWORKS,
    MAX_PATCHES,
    CableNetworks,
    CordColour,
    Discovered,
    LabelStock,
    Network,
    Patch,
    Permission,
    Printed,
    Reserved,
    Tunnel,
    WifiName,
)
from .paths import Cable, Colour, Fibre, Path, PathRate
from .price import (
    MAX_PRICE_ROWS,
    Crew,
    ExtraWork,
    Offer,
    OwnTool,
    Paid,
    PartTerm,
    Phase,
    StageOrder,
    TaskTerm,
    Wait,
    Worked,
)
from .prove import MAX_RESULTS, MAX_TESTS, AcceptanceResult, RunTest, SignOff
from .references import ClosetId, numbered, references
from .settings import MAX_DROPS, Percent, Settings
from .sight import Plot, Target, View
from .signal import (
    MAX_NEIGHBOURS,
    MAX_OBSTACLES,
    MAX_RADIOS,
    MAX_READINGS,
    DeviceOffset,
    Loss,
    Neighbour,
    Obstacle,
    Radio,
    Reading,
)
from .stack import MAX_GEAR, Gear, Lifeline, PanelBlock, Placing
from .told_apart import told_apart, unique
from .tracing import MAX_TRACE_STEPS, MAX_TRACED, TracedJack, TraceSheet, TraceStep
from .walls import Opening, Wall

MAX_ROOMS = 2_000
MAX_WALLS = 2_000
MAX_VIEWS = 2_000
MAX_TARGETS = 500
MAX_CLOSETS = 60
MAX_PATHS = 1_000
MAX_PATH_CORNERS = 5_000
"""Corners of all paths together."""
MAX_HOLDINGS = 1_000
MAX_ROWS = 200
"""Most entries of a list of the brief, floors, growth rates or stances."""


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


class Holding(Fact):
    """Bought or promised, and for which closet: these boxes stand until they are let go, whatever the pick says."""

    id: Id
    closet_id: ClosetId
    model: ModelKey
    count: Annotated[int, Field(ge=1, le=50)]


class Project(Fact):
    """Everything the project knows; the plan is computed from this and the catalogue alone."""

    name: Name
    site: Text = ""
    settings: Settings
    next_id: Id = 1
    """Numbers are given once and never again."""
    closets: Annotated[tuple[Closet, ...], Field(min_length=1, max_length=MAX_CLOSETS)]
    """The first one is the head end, where router and lines are."""
    buildings: Annotated[tuple[Building, ...], Field(max_length=MAX_ROWS)] = ()
    floors: Annotated[tuple[Floor, ...], Field(max_length=MAX_ROWS)] = ()
    rooms: Annotated[tuple[Room, ...], Field(max_length=MAX_ROOMS)] = ()
    walls: Annotated[tuple[Wall, ...], Field(max_length=MAX_WALLS)] = ()
    openings: Annotated[tuple[Opening, ...], Field(max_length=MAX_WALLS)] = ()
    plots: Annotated[tuple[Plot, ...], Field(max_length=MAX_ROWS)] = ()
    entries: Annotated[tuple[Entry, ...], Field(max_length=MAX_ROWS)] = ()
    own_kinds: Annotated[tuple[OwnKind, ...], Field(max_length=MAX_ROWS)] = ()
    drops: Annotated[tuple[Drop, ...], Field(max_length=MAX_DROPS)] = ()
    views: Annotated[tuple[View, ...], Field(max_length=MAX_VIEWS)] = ()
    targets: Annotated[tuple[Target, ...], Field(max_length=MAX_TARGETS)] = ()
    radios: Annotated[tuple[Radio, ...], Field(max_length=MAX_RADIOS)] = ()
    obstacles: Annotated[tuple[Obstacle, ...], Field(max_length=MAX_OBSTACLES)] = ()
    neighbours: Annotated[tuple[Neighbour, ...], Field(max_length=MAX_NEIGHBOURS)] = ()
    readings: Annotated[tuple[Reading, ...], Field(max_length=MAX_READINGS)] = ()
    losses: Annotated[tuple[Loss, ...], Field(max_length=MAX_ROWS)] = ()
    offsets: Annotated[tuple[DeviceOffset, ...], Field(max_length=MAX_ROWS)] = ()
    gear: Annotated[tuple[Gear, ...], Field(max_length=MAX_GEAR)] = ()
    placings: Annotated[tuple[Placing, ...], Field(max_length=2 * MAX_GEAR)] = ()
    panel_blocks: Annotated[tuple[PanelBlock, ...], Field(max_length=MAX_ROWS)] = ()
    lifelines: Annotated[tuple[Lifeline, ...], Field(max_length=MAX_ROWS)] = ()
    networks: Annotated[tuple[Network, ...], Field(max_length=MAX_NETWORKS)] = ()
    wifi_names: Annotated[tuple[WifiName, ...], Field(max_length=MAX_ROWS)] = ()
    permissions: Annotated[tuple[Permission, ...], Field(max_length=MAX_NETWORKS**2)] = ()
    patches: Annotated[tuple[Patch, ...], Field(max_length=MAX_PATCHES)] = ()
    cable_networks: Annotated[tuple[CableNetworks, ...], Field(max_length=MAX_ROWS)] = ()
    reserved: Annotated[tuple[Reserved, ...], Field(max_length=MAX_PATCHES)] = ()
    tunnels: Annotated[tuple[Tunnel, ...], Field(max_length=MAX_ROWS)] = ()
    printed: Annotated[tuple[Printed, ...], Field(max_length=MAX_PATCHES)] = ()
    stocks: Annotated[tuple[LabelStock, ...], Field(max_length=MAX_ROWS)] = ()
    cord_colours: Annotated[tuple[CordColour, ...], Field(max_length=MAX_ROWS)] = ()
    discovered: Annotated[tuple[Discovered, ...], Field(max_length=MAX_PATCHES)] = ()
    phases: Annotated[tuple[Phase, ...], Field(max_length=12)] = ()
    """Parts of the job in order; none: it is done in one."""
    part_terms: Annotated[tuple[PartTerm, ...], Field(max_length=MAX_PRICE_ROWS)] = ()
    task_terms: Annotated[tuple[TaskTerm, ...], Field(max_length=MAX_ROWS)] = ()
    extra_work: Annotated[tuple[ExtraWork, ...], Field(max_length=MAX_ROWS)] = ()
    own_tools: Annotated[tuple[OwnTool, ...], Field(max_length=MAX_ROWS)] = ()
    worked: Annotated[tuple[Worked, ...], Field(max_length=MAX_PRICE_ROWS)] = ()
    crews: Annotated[tuple[Crew, ...], Field(max_length=12)] = ()
    """None: one installer, and one of everybody else who does something."""
    waits: Annotated[tuple[Wait, ...], Field(max_length=MAX_ROWS)] = ()
    stage_orders: Annotated[tuple[StageOrder, ...], Field(max_length=MAX_ROWS)] = ()
    running: Annotated[tuple[Running, ...], Field(max_length=MAX_ROWS)] = ()
    """What people use on the network that is there."""
    move_terms: Annotated[tuple[MoveTerm, ...], Field(max_length=MAX_ROWS)] = ()
    offers: Annotated[tuple[Offer, ...], Field(max_length=24)] = ()
    paid: Annotated[tuple[Paid, ...], Field(max_length=MAX_PRICE_ROWS)] = ()
    run_tests: Annotated[tuple[RunTest, ...], Field(max_length=MAX_TESTS)] = ()
    """In the order in which they were made."""
    acceptance: Annotated[tuple[AcceptanceResult, ...], Field(max_length=MAX_RESULTS)] = ()
    sign_offs: Annotated[tuple[SignOff, ...], Field(max_length=MAX_ROWS)] = ()
    ticks: Annotated[tuple[Ticked, ...], Field(max_length=MAX_TICKS)] = ()
    benched: Annotated[tuple[Benched, ...], Field(max_length=MAX_BENCHED)] = ()
    trace_sheets: Annotated[tuple[TraceSheet, ...], Field(max_length=MAX_ROWS)] = ()
    traced_jacks: Annotated[tuple[TracedJack, ...], Field(max_length=MAX_TRACED)] = ()
    trace_steps: Annotated[tuple[TraceStep, ...], Field(max_length=MAX_TRACE_STEPS)] = ()
    """In the order in which they were taken."""
    lines: Annotated[tuple[InternetLine, ...], Field(max_length=MAX_ROWS)] = ()
    goals: Annotated[tuple[Goal, ...], Field(max_length=MAX_ROWS)] = ()
    clients: Annotated[tuple[WirelessClients, ...], Field(max_length=MAX_ROWS)] = ()
    services: Annotated[tuple[Service, ...], Field(max_length=MAX_ROWS)] = ()
    kit: Annotated[tuple[Kit, ...], Field(max_length=MAX_ROWS)] = ()
    measures: Annotated[tuple[Measure, ...], Field(max_length=MAX_ROWS)] = ()
    declined: Annotated[tuple[Declined, ...], Field(max_length=MAX_ROWS)] = ()
    duties: Annotated[tuple[Duty, ...], Field(max_length=MAX_ROWS)] = ()
    additions: Annotated[tuple[Addition, ...], Field(max_length=MAX_ROWS)] = ()
    paths: Annotated[tuple[Path, ...], Field(max_length=MAX_PATHS)] = ()
    path_rates: Annotated[tuple[PathRate, ...], Field(max_length=MAX_ROWS)] = ()
    task_rates: Annotated[tuple[TaskRate, ...], Field(max_length=MAX_ROWS)] = ()
    cables: Annotated[tuple[Cable, ...], Field(max_length=MAX_ROWS)] = ()
    colours: Annotated[tuple[Colour, ...], Field(max_length=MAX_ROWS)] = ()
    fibres: Annotated[tuple[Fibre, ...], Field(max_length=MAX_ROWS)] = ()
    candidates: Annotated[tuple[Candidate, ...], Field(max_length=MAX_CLOSETS)] = ()
    landmarks: Annotated[tuple[Landmark, ...], Field(max_length=MAX_ROWS)] = ()
    growth_rates: Annotated[tuple[GrowthRate, ...], Field(max_length=MAX_ROWS)] = ()
    stances: Annotated[tuple[Stance, ...], Field(max_length=MAX_ROWS)] = ()
    holdings: Annotated[tuple[Holding, ...], Field(max_length=MAX_HOLDINGS)] = ()
    price_lists: Annotated[tuple[PriceList, ...], Field(max_length=8)] = ()
    """None: the catalogue that ships with the program."""

    @model_validator(mode="after")
    def _references_hold(self) -> Project:
        ids = {name: [row.id for row in getattr(self, name)] for name in NUMBERED}
        for name, given in ids.items():
            unique(name, given)
        corners = sum(len(path.points) for path in self.paths)
        if corners > MAX_PATH_CORNERS:
            raise ValueError(f"the paths have {corners:,} corners; a project holds {MAX_PATH_CORNERS:,} at most")
        told_apart(lambda name: getattr(self, name))
        known = {name: set(given) for name, given in ids.items()}
        for rows, field, target in REFERENCES:
            for place, row in enumerate(getattr(self, rows)):
                wanted = getattr(row, field)
                for number in wanted if isinstance(wanted, tuple) else (wanted,):
                    if number is not None and number not in known[target]:
                        raise ValueError(f"{rows}[{place}] names {_one(target)} {number}, which is not there")
        self._behind_holds()
        self._recorders_hold()
        self._views_hold()
        self._radios_hold()
        self._links_hold()
        self._stages_hold()
        self._traces_hold()
        highest = max((max(given, default=0) for given in ids.values()), default=0)
        if self.next_id <= highest:
            raise ValueError(f"next_id is {self.next_id}, but {highest} is already given")
        return self

    def _behind_holds(self) -> None:
        """What hangs behind a drop hangs behind a room switch or in-wall access point, and never in a ring."""
        by_id = self.drops_by_id
        for place, drop in enumerate(self.drops):
            if drop.behind_id is None:
                continue
            seen = {drop.id}
            above: Drop | None = by_id[drop.behind_id]
            if above and not above.lan_ports:
                raise ValueError(f"drops[{place}] hangs behind drop {above.id}, which gives no ports on")
            while above is not None:
                if above.id in seen:
                    raise ValueError(f"drops[{place}] hangs behind itself, by way of drop {drop.behind_id}")
                seen.add(above.id)
                above = by_id[above.behind_id] if above.behind_id is not None else None

    def _recorders_hold(self) -> None:
        """What keeps a camera's stream is a recorder or a NAS."""
        for place, drop in enumerate(self.drops):
            if drop.recorder_id is not None and self.drops_by_id[drop.recorder_id].kind not in RECORDING_KINDS:
                raise ValueError(
                    f"drops[{place}] is recorded by drop {drop.recorder_id}, which is no recorder and no NAS"
                )

    def _views_hold(self) -> None:
        """Only what has a lens has a view."""
        for place, view in enumerate(self.views):
            if self.drops_by_id[view.drop_id].kind not in SEEING_KINDS:
                raise ValueError(f"views[{place}] is of drop {view.drop_id}, which is no camera and no door station")

    def _radios_hold(self) -> None:
        """Only access points have radios, hear neighbours and answer a survey."""
        for rows in ("radios", "neighbours", "readings"):
            for place, row in enumerate(getattr(self, rows)):
                if row.drop_id is not None and self.drops_by_id[row.drop_id].kind != "access_point":
                    raise ValueError(f"{rows}[{place}] names drop {row.drop_id}, which is no access point")

    def _links_hold(self) -> None:
        """Links between closets make a tree: each further closet leads to the head end, which nothing feeds."""
        by_id = self.closets_by_id
        for place, closet in enumerate(self.closets):
            if place == 0 and closet.fed_by_id is not None:
                raise ValueError("closets[0] is the head end, which no other closet feeds")
            seen = {closet.id}
            above = closet.fed_by_id
            while above is not None:
                if above in seen:
                    raise ValueError(f"closets[{place}] is fed by itself, by way of closet {closet.fed_by_id}")
                seen.add(above)
                above = by_id[above].fed_by_id

    def _stages_hold(self) -> None:
        """Stages come one before the other, and never in a circle."""
        waits = ((wait.after, then) for wait in self.waits if wait.after for then in wait.before)
        if circle := circle_in((*((row.first, row.second) for row in self.stage_orders), *waits)):
            told = ", ".join(STAGE_NAMES[stage] for stage in circle)
            raise ValueError(f"the order of stages goes in a circle: {told}")

    def _traces_hold(self) -> None:
        """Jacks and steps are of a panel that is traced, and steps name positions that it has."""
        sheets = {sheet.closet_id: sheet for sheet in self.trace_sheets}
        jacks = {jack.id: jack for jack in self.traced_jacks}
        for jack in self.traced_jacks:
            if jack.closet_id not in sheets:
                raise ValueError(f"no panel of the closet of jack {jack.name} is traced")
        for step in self.trace_steps:
            if step.jack_id is not None and jacks[step.jack_id].closet_id != step.closet_id:
                raise ValueError(f"jack {jacks[step.jack_id].name} ends in another closet")
            sheet = sheets.get(step.closet_id)
            if sheet is None:
                raise ValueError(f"no panel of closet {step.closet_id} is traced")
            named = (*step.positions, *((step.position,) if step.position else ()))
            if beyond := [one for one in named if one > sheet.positions]:
                raise ValueError(f"the panel has {sheet.positions} positions, and not {max(beyond)}")
            if empty := set(named) & set(sheet.empty):
                raise ValueError(f"position {min(empty)} has no cable at its back")

    def changed(self, **values: object) -> Project:
        """A copy with some values replaced, not checked again, and nothing kept that was computed from the old ones."""
        kept = {name: getattr(self, name) for name in type(self).model_fields}
        return type(self).model_construct(**{**kept, **values})

    @property
    def head_end(self) -> Closet:
        return self.closets[0]

    @cached_property
    def closets_by_id(self) -> Mapping[int, Closet]:
        return {closet.id: closet for closet in self.closets}

    @cached_property
    def rooms_by_id(self) -> Mapping[int, Room]:
        return {room.id: room for room in self.rooms}

    @cached_property
    def floors_by_id(self) -> Mapping[int, Floor]:
        return {floor.id: floor for floor in self.floors}

    @cached_property
    def drops_by_id(self) -> Mapping[int, Drop]:
        return {drop.id: drop for drop in self.drops}

    @cached_property
    def drops_by_closet(self) -> Mapping[int, tuple[Drop, ...]]:
        """Drops that end in a closet, in their order, by its number."""
        by_closet = grouped(self.drops, lambda drop: drop.closet_id)
        return {closet.id: by_closet.get(closet.id, ()) for closet in self.closets}

    @cached_property
    def behind(self) -> Mapping[int, tuple[Drop, ...]]:
        """Drops that hang behind a drop, by its number."""
        return grouped(self.drops, lambda drop: drop.behind_id)

    @cached_property
    def owned(self) -> Mapping[str, int]:
        """Boxes of the catalogue that are there and kept: how many of each model enter the pick at price 0."""
        count = Counter[str]()
        for kit in self.kit:
            if kit.model and kit.fate == "kept":
                count[kit.model] += kit.count
        return count

    @cached_property
    def stances_by_model(self) -> Mapping[str, Stance]:
        return {stance.model: stance for stance in self.stances}

    @cached_property
    def held(self) -> Mapping[int, Mapping[str, int]]:
        """Models and quantities that are held, by closet; empty: the ground follows the pick."""
        found: dict[int, dict[str, int]] = {}
        for held in self.holdings:
            found.setdefault(held.closet_id, {})[held.model] = held.count
        return found

    def pinned(self, model: str) -> int:
        """How many of a model must be in the pick."""
        stance = self.stances_by_model.get(model)
        return stance.pinned if stance else 0

    def is_live(self, drop: Drop) -> bool:
        """Whether the drop needs a port in its closet: all that run there do, or only those in use."""
        return drop.has_run and self.is_counted(drop)

    def is_counted(self, drop: Drop) -> bool:
        """Whether the drop counts, wherever it runs to: all do, or only those in use."""
        return drop.in_use or self.settings.jacks_live == "every"

    def at_head_end(self, drop: Drop) -> bool:
        return drop.closet_id == self.head_end.id

    def fed_by(self, drop: Drop) -> tuple[Drop, ...]:
        """Everything that hangs behind a drop, however far down."""
        found = self.behind.get(drop.id, ())
        return found + tuple(further for one in found for further in self.fed_by(one))

    def draw_w(self, drop: Drop) -> float:
        """What a drop's device draws [W], with what it passes on to powered drops behind it.

        A powered device of unknown draw counts all that its class lets it have, what it passes on among it.
        """
        if drop.poe_class is None:
            return drop.draw_w
        passed_on = self.passed_on_w(drop)
        if drop.draw_w:
            return drop.draw_w + passed_on
        return max(POE_CLASSES[drop.poe_class].device_w, passed_on)

    def port_class(self, drop: Drop) -> int | None:
        """Class that a drop asks of its port: its own, or the lowest that gives what it draws and passes on, if that is
        higher."""
        if drop.poe_class is None or not self.passed_on_w(drop):
            return drop.poe_class
        wanted = smallest_class_for(self.draw_w(drop)) or HIGHEST_CLASS
        return wanted if rank(wanted) > rank(drop.poe_class) else drop.poe_class

    def passed_on_w(self, drop: Drop) -> float:
        """What a drop's device gives on to the powered drops behind it [W]."""
        return sum(self.draw_w(one) for one in self.behind.get(drop.id, ()) if one.poe_class is not None)

    def floor_name(self, room: Room) -> str:
        return self.floors_by_id[room.floor_id].name

    def growth_of(self, kind: str) -> float:
        """Yearly growth of a kind [%]."""
        return next((rate.percent for rate in self.growth_rates if rate.kind == kind), self.settings.growth_percent)

    def name_of(self, drop: Drop) -> str:
        """How a drop is spoken of: its label, or kind and room."""
        return drop.label or f"{drop.kind_row.name}, {self.rooms_by_id[drop.room_id].name}"


NUMBERED = numbered(Project)
"""Lists whose rows have a number."""
REFERENCES = references(Project)
"""Fields that name rows of another list: list, field, the list that it names."""


def _one(rows: str) -> str:
    """The word for one row of a list: rooms → room, entries → entry."""
    return rows.removesuffix("ies") + "y" if rows.endswith("ies") else rows.removesuffix("s")


def empty_project(name: str, start_year: int, site: str = "") -> Project:
    """A new project: one closet, nothing listed."""
    return Project(
        name=name,
        site=site,
        settings=Settings(start_year=start_year),
        closets=(Closet(id=1, name="Main closet"),),
        next_id=2,
    )
