"""What the plan holds: a key a verb, each with all that the verb computes."""

from __future__ import annotations

from .answers.phases import Phases
from .answers.picker import (
    Ahead,
    Beyond,
    ClosetGround,
    Flips,
    Picks,
    Steps,
)
from .cabling.links import Option
from .cabling.overview import CableToBuy, Reach
from .cabling.parts import PartLine
from .cabling.pulls import Bundle
from .explain.reasons import WhyNot
from .facts.brief import Addition, Declined, Duty, Goal, InternetLine, Kit, Measure, Service, WirelessClients
from .facts.building import Building, Candidate, Closet, Entry, Floor, Landmark, Room
from .facts.drop import Drop, OwnKind
from .facts.fact import Fact
from .facts.labour import Task
from .facts.moving import MoveTerm, Running
from .facts.order_of_work import Benched, Ticked
from .facts.patch import (
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
from .facts.paths import Cable, Colour, Fibre, Path, PathRate
from .facts.price import Crew, ExtraWork, OwnTool, Paid, PartTerm, Phase, StageOrder, TaskTerm, Wait, Worked
from .facts.project import GrowthRate, Holding, Stance
from .facts.prove import AcceptanceResult, RunTest, SignOff
from .facts.settings import Settings
from .facts.sight import Plot, View
from .facts.signal import DeviceOffset, Loss, Neighbour, Obstacle, Radio, Reading
from .facts.stack import Gear, Lifeline, PanelBlock, Placing
from .facts.tracing import TracedJack, TraceSheet, TraceStep
from .facts.walls import Opening, Wall
from .findings import Finding
from .footage.apart import ApartLine
from .footage.kept import Footage
from .footage.recorders import RecorderPick
from .patch.told import PatchTold
from .places.openings import PlacedOpening
from .places.setting_out import SetOut
from .places.walls import WallPiece
from .price.actual import Actual
from .price.costs import JobCosts
from .price.least_wanted import Kept
from .price.moving import Moving
from .price.offer import OfferTold
from .price.visits import Visits
from .prove.acceptance import Acceptance
from .prove.bench import Bench
from .prove.order.told import OrderOfWork
from .prove.power_up import PowerUp
from .prove.run_tests import RunTests
from .prove.tracing.told import Tracing
from .sight.targets import TargetLine
from .sight.views import SunInView, ViewLine
from .signal.survey import Survey
from .signal.told import Signal
from .siting.answers import Siting
from .siting.cameras import BestViews
from .siting.channels import Channels
from .siting.stations import BestStations
from .stack.arrangement import Arranged
from .stack.batteries import UpsPick
from .stack.flat import FlatArrangement
from .stack.housings import HousingPick
from .stack.power_cut import PowerCut
from .stack.told import ClosetStack
from .standing.drill import Drill
from .standing.flows import Flows
from .standing.loads import Load


class Brief(Fact):
    """What is wanted, and on what terms."""

    site: str
    settings: Settings
    lines: tuple[InternetLine, ...]
    goals: tuple[Goal, ...]
    clients: tuple[WirelessClients, ...]
    services: tuple[Service, ...]
    kit: tuple[Kit, ...]
    measures: tuple[Measure, ...]
    declined: tuple[Declined, ...]
    duties: tuple[Duty, ...]
    additions: tuple[Addition, ...]
    growth_rates: tuple[GrowthRate, ...]
    margin_percent: float
    """Margin in force on watts added up."""
    yearly_lines_minor: int
    """What all lines cost a year."""


class DropLine(Fact):
    """A drop as it was decided, and what it asks of its port."""

    drop: Drop
    name: str
    label: str
    live: bool
    port_class: int | None
    """PoE class that the port must give, what is passed on among it."""
    device_w: float
    """What the device draws, with what it passes on [W]; of unknown draw the most of its class."""
    counted_w: float
    """At the port by the school, up to the next half watt, without margin [W]; 0: not powered from a port."""
    busy_mbit: float
    """Busy hour with what hangs behind it; of what records the streams that it keeps."""


class Walk(Fact):
    """Where things are, every drop, and what they come to."""

    buildings: tuple[Building, ...]
    floors: tuple[Floor, ...]
    rooms: tuple[Room, ...]
    walls: tuple[Wall, ...]
    wall_pieces: tuple[WallPiece, ...]
    """The walls of rooms that are drawn, and those put there, from node to node."""
    own_kinds: tuple[OwnKind, ...]
    drops: tuple[DropLine, ...]
    tally: dict[int, dict[str, int]]
    """Drops of each kind by room."""
    live: int
    reserve: dict[int, dict[str, int]]
    """Drops in reserve by the horizon, by closet and kind."""
    recorded_mbit: dict[int, float]
    """Streams that each recorder or NAS keeps."""
    small_parts: dict[str, int]
    set_out: tuple[SetOut, ...]


class CoverPlan(Fact):
    """What cameras see and what must be seen; what Wi-Fi reaches."""

    openings: tuple[Opening, ...]
    in_walls: tuple[PlacedOpening, ...]
    """Openings from end to end in their walls; those in no wall are missing."""
    plots: tuple[Plot, ...]
    typed_views: tuple[View, ...]
    views: tuple[ViewLine, ...]
    """Every lens with all that nobody has typed filled in, its bands at the height of a face."""
    targets: tuple[TargetLine, ...]
    low_sun: tuple[SunInView, ...]
    footage: Footage
    recorders: RecorderPick
    """The recorders and disks that keep all of it for the least price."""
    chosen_apart: tuple[ApartLine, ...]
    """Recorders and disks that the project says it takes."""
    signal: Signal
    """What Wi-Fi reaches."""
    survey: Survey
    """Readings beside the prediction, and what they tell of the losses of this house."""
    typed_radios: tuple[Radio, ...]
    obstacles: tuple[Obstacle, ...]
    neighbours: tuple[Neighbour, ...]
    readings: tuple[Reading, ...]
    losses: tuple[Loss, ...]
    offsets: tuple[DeviceOffset, ...]
    channels: Channels | None = None
    """Channels of least shared airtime; only where proposals are asked for."""
    best_stations: BestStations | None = None
    """Where access points meet all goals of Wi-Fi; only where proposals are asked for."""
    best_views: BestViews | None = None
    """Where cameras meet all targets; only where proposals are asked for."""


class LinkPlan(Fact):
    """The link that feeds a closet; every way to make it, and the one taken."""

    closet_id: int
    to_id: int
    length_m: float
    measured: bool
    traffic_mbit: float
    between_buildings: bool
    options: tuple[Option, ...]
    chosen: int | None
    why: str


class ReachPlan(Fact):
    """Ways, runs, links, cable, pulls and what goes in beside them."""

    closets: tuple[Closet, ...]
    entries: tuple[Entry, ...]
    candidates: tuple[Candidate, ...]
    landmarks: tuple[Landmark, ...]
    paths: tuple[Path, ...]
    path_rates: tuple[PathRate, ...]
    hours_by_task: dict[Task, float]
    cables: tuple[Cable, ...]
    fibres: tuple[Fibre, ...]
    colours: tuple[Colour, ...]
    measured: Reach
    links: tuple[LinkPlan, ...]
    to_buy: tuple[CableToBuy, ...]
    pulls: tuple[Bundle, ...]
    parts: tuple[PartLine, ...]
    siting: Siting | None = None
    """Closets compared; only where proposals are asked for."""


class LoadPlan(Fact):
    """Power and traffic on the boxes that stand."""

    power: Load
    traffic: Flows
    drills: tuple[Drill, ...]
    """Each box coming up with the live drops on it."""


class PickPlan(Fact):
    """The answers, what is asked about the one that the project follows, and what was decided."""

    stances: tuple[Stance, ...]
    holdings: tuple[Holding, ...]
    picks: Picks
    why_not: tuple[WhyNot, ...]
    ahead: Ahead | None
    steps: Steps | None = None
    flips: Flips | None = None
    beyond: Beyond | None = None
    """These three only where proposals are asked for."""


class StackPlan(Fact):
    """What stands in every closet, and what happens when mains goes off."""

    gear: tuple[Gear, ...]
    placings: tuple[Placing, ...]
    panel_blocks: tuple[PanelBlock, ...]
    lifelines: tuple[Lifeline, ...]
    closets: tuple[ClosetStack, ...]
    power_cut: PowerCut
    arrangements: dict[int, Arranged] | None = None
    """Of every rack the best arrangement; only where proposals are asked for."""
    laid_out: dict[int, FlatArrangement] | None = None
    """The same of wall panels and shelves."""
    housings: tuple[HousingPick, ...] | None = None
    ups: tuple[UpsPick, ...] | None = None


class PatchPlan(PatchTold):
    """Which jack is which position is which port; networks and what may pass between them."""

    networks: tuple[Network, ...]
    wifi_names: tuple[WifiName, ...]
    permissions: tuple[Permission, ...]
    patches: tuple[Patch, ...]
    cable_networks: tuple[CableNetworks, ...]
    reserved: tuple[Reserved, ...]
    tunnels: tuple[Tunnel, ...]
    printed: tuple[Printed, ...]
    stocks: tuple[LabelStock, ...]
    cord_colours: tuple[CordColour, ...]
    discovered: tuple[Discovered, ...]


class PricePlan(Fact):
    """Parts, work and what they cost; offers, phases and visits."""

    phases: tuple[Phase, ...]
    part_terms: tuple[PartTerm, ...]
    task_terms: tuple[TaskTerm, ...]
    extra_work: tuple[ExtraWork, ...]
    worked: tuple[Worked, ...]
    crews: tuple[Crew, ...]
    waits: tuple[Wait, ...]
    stage_orders: tuple[StageOrder, ...]
    own_tools: tuple[OwnTool, ...]
    running: tuple[Running, ...]
    move_terms: tuple[MoveTerm, ...]
    paid: tuple[Paid, ...]
    costs: JobCosts
    moving: Moving
    offers: tuple[OfferTold, ...]
    actual: Actual
    visits: Visits | None = None
    in_phases: Phases | None = None
    within_budget: Kept | None = None
    """These three only where proposals are asked for."""


class ProvePlan(RunTests):
    """Runs as they were tested, and the tests themselves."""

    tests: tuple[RunTest, ...]
    trace_sheets: tuple[TraceSheet, ...]
    traced_jacks: tuple[TracedJack, ...]
    trace_steps: tuple[TraceStep, ...]
    tracing: Tracing
    results: tuple[AcceptanceResult, ...]
    sign_offs: tuple[SignOff, ...]
    acceptance: Acceptance
    ticks: tuple[Ticked, ...]
    benched: tuple[Benched, ...]
    order: OrderOfWork
    bench: Bench
    power_up: PowerUp


class Counts(Fact):
    """What stands on the ground today and by the horizon."""

    live: int
    reserve: int
    powered: int
    watts: float
    held: bool


class GroundPlan(Fact):
    """The bearing of every closet on the boxes that stand there."""

    counts: Counts
    closets: tuple[ClosetGround, ...]


class Plan(Fact):
    """Everything at once, a key a verb, as the command line prints it."""

    project: str
    brief: Brief
    walk: Walk
    cover: CoverPlan
    reach: ReachPlan
    load: LoadPlan
    pick: PickPlan
    stack: StackPlan
    patch: PatchPlan
    price: PricePlan
    prove: ProvePlan
    findings: tuple[Finding, ...]
    ground: GroundPlan
