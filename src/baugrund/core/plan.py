"""The plan: what was decided in a project and all that follows from it, a part a verb.

The only module that knows all the others.  Pure and deterministic: the same project gives the same plan whoever asks.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from typing import Any

from .answers.phases import Phases, phases_of
from .answers.picker import (
    AIMS,
    Ahead,
    Balance,
    Beyond,
    ClosetGround,
    Flips,
    Picker,
    Picks,
    Steps,
    balance,
    standing_boxes,
)
from .cabling.links import Link, Option, links
from .cabling.overview import CableToBuy, Reach, cable_to_buy, reach_of
from .cabling.parts import PartLine, part_list
from .cabling.pulls import Bundle, schedule
from .cabling.work import rates_of
from .demand.needs import Demand, demands
from .demand.traffic import busy_mbit, kept_mbit
from .edits.entries import LISTS
from .explain.answers import Answer
from .explain.reasons import WhyNot
from .facts.brief import Addition, Declined, Duty, Goal, InternetLine, Kit, Measure, Service, WirelessClients
from .facts.building import Building, Candidate, Closet, Entry, Floor, Landmark, Room
from .facts.catalogue import Catalogue
from .facts.drop import Drop, OwnKind
from .facts.fact import Fact
from .facts.labour import Task
from .facts.moving import MoveTerm, Running
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
from .facts.project import GrowthRate, Holding, Project, Stance
from .facts.settings import Settings
from .facts.sight import Plot, View
from .facts.signal import DeviceOffset, Loss, Neighbour, Obstacle, Radio, Reading
from .facts.stack import Gear, Lifeline, PanelBlock, Placing
from .facts.walls import Opening, Wall
from .findings import Finding
from .footage.apart import ApartLine, chosen_apart
from .footage.kept import Footage, footage_of
from .footage.recorders import RecorderPick, least_recorders
from .patch.told import PatchTold, patch_of
from .places.labels import labels
from .places.layout import layout
from .places.mounting import small_parts
from .places.openings import PlacedOpening
from .places.setting_out import SetOut, set_out
from .places.walls import WallPiece, wall_pieces
from .price.actual import Actual, actual_of
from .price.costs import JobCosts, costs_of
from .price.least_wanted import Kept, keep_most
from .price.moving import Moving, moving_of
from .price.offer import OfferTold, offers_of
from .price.visits import Visits, visits_of
from .price.work_items import work_in_phases
from .sight.targets import TargetLine, targets_of
from .sight.views import SunInView, ViewLine, suns_of, views_of
from .signal.survey import Survey, survey_of
from .signal.told import Signal, signal_of
from .siting.answers import Siting, siting
from .siting.cameras import BestViews, best_views
from .siting.channels import Channels, channels
from .siting.stations import BestStations, best_stations
from .stack.arrangement import Arranged
from .stack.batteries import UpsPick
from .stack.flat import FlatArrangement
from .stack.housings import HousingPick
from .stack.power_cut import PowerCut
from .stack.proposals import stack_proposals
from .stack.told import ClosetStack, stack_of
from .standing.drill import Drill, drills
from .standing.flows import Flows, flows
from .standing.ground import Ground, grounds_of, router_of
from .standing.loads import Load, load_of
from .watch import to_the_end


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
    findings: tuple[Finding, ...]
    ground: GroundPlan


def plan(project: Project, catalogue: Catalogue, *, proposals: bool = False) -> Plan:
    """The whole plan of a project; ``proposals``: with what could be otherwise, which takes longer."""
    picker = Picker(project, catalogue)
    answers = tuple(answer for aim in AIMS if (answer := picker.answer(aim)))
    followed = next((answer for answer in answers if answer.aim == project.settings.aim), None)
    standing = standing_boxes(project, catalogue, followed.standing() if followed else None)
    grounds = grounds_of(project, catalogue, standing)
    told = balance(project, catalogue, followed.standing() if followed else None)
    return Plan(
        project=project.name,
        brief=_brief(project),
        walk=_walk(project, told),
        cover=_cover(project, catalogue, grounds, proposals),
        reach=_reach(project, catalogue, proposals),
        load=_load(project, grounds),
        pick=_pick(picker, answers, followed, proposals),
        stack=_stack(project, catalogue, grounds, proposals),
        patch=_patch(project, catalogue, grounds),
        price=_price(project, catalogue, grounds, answers, proposals),
        findings=told.findings,
        ground=GroundPlan(
            counts=Counts(live=told.live, reserve=told.reserve, powered=told.powered, watts=told.watts, held=told.held),
            closets=told.closets,
        ),
    )


def schema() -> dict[str, Any]:
    """The JSON Schema of the plan."""
    return Plan.model_json_schema(mode="serialization")


def _brief(project: Project) -> Brief:
    lists = {name: getattr(project, name) for name in Brief.model_fields if hasattr(project, name)}
    return Brief(
        **lists, margin_percent=project.settings.margin,
        yearly_lines_minor=sum(line.yearly_minor for line in project.lines),
    )  # fmt: skip


def _walk(project: Project, told: Balance) -> Walk:
    tally: dict[int, Counter[str]] = {room.id: Counter() for room in project.rooms}
    for drop in project.drops:
        tally[drop.room_id][drop.kind] += 1
    called = labels(project)
    drops = tuple(
        DropLine(
            drop=drop, name=project.name_of(drop), label=called.get(drop.id, ""), live=project.is_live(drop),
            port_class=project.port_class(drop), device_w=project.draw_w(drop),
            counted_w=told.drop_watts.get(drop.id, 0.0), busy_mbit=_busy_mbit(project, drop),
        )
        for drop in project.drops
    )  # fmt: skip
    then = demands(project, project.settings.horizon_years)
    return Walk(
        buildings=project.buildings, floors=project.floors, rooms=project.rooms, walls=project.walls,
        wall_pieces=wall_pieces(project), own_kinds=project.own_kinds,
        drops=drops, tally={number: dict(kinds) for number, kinds in tally.items()}, live=told.live,
        reserve={number: _reserve(demand) for number, demand in then.items()},
        recorded_mbit=dict(kept_mbit(project)), small_parts=small_parts(project.drops), set_out=set_out(project),
    )  # fmt: skip


def _busy_mbit(project: Project, drop: Drop) -> float:
    return sum(busy_mbit(project, one) for one in (drop, *project.fed_by(drop)))


def _stack(project: Project, catalogue: Catalogue, grounds: Sequence[Ground], proposals: bool) -> StackPlan:
    told = stack_of(project, catalogue, grounds)
    best = stack_proposals(project, catalogue, grounds) if proposals else None
    return StackPlan(
        gear=project.gear, placings=project.placings, panel_blocks=project.panel_blocks, lifelines=project.lifelines,
        closets=told.closets, power_cut=told.power_cut,
        arrangements={one.closet_id: one.rack for one in best.closets if one.rack} if best else None,
        laid_out={one.closet_id: one.flat for one in best.closets if one.flat} if best else None,
        housings=tuple(one.housing for one in best.closets if one.housing) if best else None,
        ups=tuple(one.ups for one in best.closets) if best else None,
    )  # fmt: skip


def _patch(project: Project, catalogue: Catalogue, grounds: Sequence[Ground]) -> PatchPlan:
    told = patch_of(project, grounds, stack_of(project, catalogue, grounds))
    return PatchPlan(
        **{name: getattr(told, name) for name in PatchTold.model_fields},
        **{name: getattr(project, name) for name in PatchPlan.model_fields if name not in PatchTold.model_fields},
    )


def _price(
    project: Project, catalogue: Catalogue, grounds: Sequence[Ground], answers: Sequence[Answer], proposals: bool
) -> PricePlan:  # fmt: skip
    stack = stack_of(project, catalogue, grounds)
    costs = costs_of(project, catalogue, grounds, stack)
    followed = next((answer for answer in answers if answer.aim == project.settings.aim), None)
    visits = phased = kept = None
    if proposals:
        visits = visits_of(project, costs, work_in_phases(project, catalogue, grounds, stack))
        phased = to_the_end(phases_of(project, catalogue, followed))
        kept = keep_most(project, catalogue, grounds, stack)
    rows = {name: getattr(project, name) for name in PricePlan.model_fields if name != "offers" and name in LISTS}
    return PricePlan(
        **rows, costs=costs, moving=moving_of(project, grounds),
        offers=offers_of(project, costs, {one.aim: one for one in answers}),
        actual=actual_of(project, costs), visits=visits, in_phases=phased, within_budget=kept,
    )  # fmt: skip


def _reserve(demand: Demand) -> dict[str, int]:
    return dict(Counter(asked.kind for asked in demand.reserve))


def _cover(project: Project, catalogue: Catalogue, grounds: Sequence[Ground], proposals: bool) -> CoverPlan:
    return CoverPlan(
        openings=project.openings, in_walls=layout(project).openings, plots=project.plots, typed_views=project.views,
        views=views_of(project), targets=targets_of(project), low_sun=suns_of(project),
        footage=footage_of(project), recorders=least_recorders(project, catalogue, router_of(grounds)),
        chosen_apart=chosen_apart(project, catalogue), signal=signal_of(project, catalogue),
        survey=survey_of(project, catalogue),
        typed_radios=project.radios, obstacles=project.obstacles, neighbours=project.neighbours,
        readings=project.readings, losses=project.losses, offsets=project.offsets,
        channels=to_the_end(channels(project, catalogue)) if proposals else None,
        best_stations=to_the_end(best_stations(project, catalogue)) if proposals else None,
        best_views=to_the_end(best_views(project, catalogue)) if proposals else None,
    )  # fmt: skip


def _reach(project: Project, catalogue: Catalogue, proposals: bool) -> ReachPlan:
    return ReachPlan(
        closets=project.closets, entries=project.entries, candidates=project.candidates,
        landmarks=project.landmarks, paths=project.paths, path_rates=project.path_rates,
        hours_by_task=dict(rates_of(project).hours), cables=project.cables, fibres=project.fibres,
        colours=project.colours, measured=reach_of(project),
        links=tuple(_link(link) for link in links(project, catalogue)), to_buy=cable_to_buy(project),
        pulls=schedule(project), parts=part_list(project, catalogue),
        siting=to_the_end(siting(project, catalogue)) if proposals else None,
    )  # fmt: skip


def _link(link: Link) -> LinkPlan:
    return LinkPlan(**{name: getattr(link, name) for name in LinkPlan.model_fields})


def _load(project: Project, grounds: Sequence[Ground]) -> LoadPlan:
    return LoadPlan(
        power=load_of(project, grounds), traffic=flows(project, grounds),
        drills=drills(project, grounds, with_reserve=False),
    )  # fmt: skip


def _pick(picker: Picker, answers: tuple[Answer, ...], followed: Answer | None, proposals: bool) -> PickPlan:
    return PickPlan(
        stances=picker.project.stances, holdings=picker.project.holdings,
        picks=Picks(answers=answers, relax=() if answers else picker.relax()),
        why_not=picker.reasons(followed) if followed else (),
        ahead=picker.ahead(followed) if followed else None,
        steps=picker.steps(followed) if followed and proposals else None,
        flips=picker.flips(followed) if followed and proposals else None,
        beyond=picker.beyond(followed) if followed and proposals else None,
    )  # fmt: skip
