"""The plan: what was decided in a project and all that follows from it, a part a verb.

The only module that knows all the others.  Pure and deterministic: the same project gives the same plan whoever asks.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from typing import Any

from .answers.phases import phases_of
from .answers.picker import (
    AIMS,
    Balance,
    Picker,
    Picks,
    balance,
    standing_boxes,
)
from .cabling.links import Link, links
from .cabling.overview import cable_to_buy, reach_of
from .cabling.parts import part_list
from .cabling.pulls import schedule
from .cabling.work import rates_of
from .demand.needs import Demand, demands
from .demand.traffic import busy_mbit, kept_mbit
from .edits.entries import LISTS
from .explain.answers import Answer
from .facts.catalogue import Catalogue
from .facts.drop import Drop
from .facts.project import Project
from .footage.apart import chosen_apart
from .footage.kept import footage_of
from .footage.recorders import least_recorders
from .patch.told import PatchTold, patch_of
from .places.labels import labels
from .places.layout import layout
from .places.mounting import small_parts
from .places.setting_out import set_out
from .places.walls import wall_pieces
from .plan_keys import (
    Brief,
    Counts,
    CoverPlan,
    DropLine,
    GroundPlan,
    LinkPlan,
    LoadPlan,
    PatchPlan,
    PickPlan,
    Plan,
    PricePlan,
    ProvePlan,
    ReachPlan,
    StackPlan,
    Walk,
)
from .price.actual import actual_of
from .price.costs import costs_of
from .price.least_wanted import keep_most
from .price.moving import moving_of
from .price.offer import offers_of
from .price.visits import visits_of
from .price.work_items import work_in_phases
from .prove.acceptance import acceptance_of
from .prove.bench import bench_of
from .prove.order.told import order_of
from .prove.power_up import power_up_of
from .prove.run_tests import RunTests, run_tests_of
from .prove.tracing.told import tracing_of
from .sight.targets import targets_of
from .sight.views import suns_of, views_of
from .signal.survey import survey_of
from .signal.told import signal_of
from .siting.answers import siting
from .siting.cameras import best_views
from .siting.channels import channels
from .siting.stations import best_stations
from .stack.proposals import stack_proposals
from .stack.told import stack_of
from .standing.drill import drills
from .standing.flows import flows
from .standing.ground import Ground, grounds_of, router_of
from .standing.loads import load_of
from .watch import to_the_end


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
        prove=_prove(project, catalogue, grounds),
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


def _prove(project: Project, catalogue: Catalogue, grounds: Sequence[Ground]) -> ProvePlan:
    told, stack = run_tests_of(project, grounds), stack_of(project, catalogue, grounds)
    return ProvePlan(
        **{name: getattr(told, name) for name in RunTests.model_fields}, tests=project.run_tests,
        trace_sheets=project.trace_sheets, traced_jacks=project.traced_jacks, trace_steps=project.trace_steps,
        tracing=tracing_of(project, stack), results=project.acceptance, sign_offs=project.sign_offs,
        acceptance=acceptance_of(project, catalogue, stack), ticks=project.ticks, benched=project.benched,
        order=order_of(project, catalogue, grounds, stack), bench=bench_of(project, grounds, stack),
        power_up=power_up_of(project, grounds, stack),
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
