"""Why not: for every model not taken one sentence; and what to relax when nothing fits."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace

from ..catalogue import Catalogue
from ..demand import Demand, Need
from ..facts import Fact
from ..project import Project
from ..words import counted, money, speed, watts
from .answers import Answer
from .bounds import link_classes
from .greedy import quick_seating
from .problem import BoxType, Problem, build
from .search import least


class WhyNot(Fact):
    """A model that an answer does not take, and why."""

    model: str
    name: str
    kind: str
    may_stand: bool
    """Whether nothing keeps it out of this closet whatever else is picked."""
    fits: bool
    sentence: str
    nearness: float = 0.0
    """Share of the work that it would do alone, 0 to 1."""
    more_minor: int | None = None
    """How much dearer the least pick with it is, where that is known [minor]."""


class Relaxed(Fact):
    """A single limit whose relaxing makes the request feasible."""

    limit: str
    sentence: str


def why_not(project: Project, catalogue: Catalogue, problem: Problem, answer: Answer) -> tuple[WhyNot, ...]:
    """One sentence for every model that an answer does not take, nearest first: those that fit, then the others."""
    taken = {part.model for part in answer.parts}
    told = []
    boxes = {box.model.key: box for box in (*problem.routers, *problem.switches) if box.most is None}
    boxes |= {b.model.key: b for b in (*problem.routers, *problem.switches) if b.model.key not in boxes}
    for model in catalogue.models:
        if model.key in taken:
            continue
        fits, sentence, more, nearness = False, problem.rejected.get(model.key, ""), None, 0.0
        if not sentence and model.kind == "injector":
            sentence = _why_not_injector(problem, model.key)
        elif not sentence and model.kind == "module":
            sentence = "No link of this pick wants it."
        elif not sentence:
            fits, sentence, more = _why_not_box(project, problem, boxes[model.key], answer)
            nearness = _nearness(problem, boxes[model.key])
        told.append(
            WhyNot(
                model=model.key, name=model.name, kind=model.kind, may_stand=model.key not in problem.rejected,
                fits=fits, sentence=sentence, nearness=nearness, more_minor=more,
            )
        )  # fmt: skip
    return tuple(sorted(told, key=lambda w: (not w.fits, w.more_minor or 0, -w.nearness, not w.may_stand)))


def _nearness(problem: Problem, box: BoxType) -> float:
    """How much of the closet's work a box would do alone: the least of its shares of ports, powered ports, watts."""
    powered, watts_asked = len(problem.powers_down), sum(problem.powers_down)
    shares = [
        min(there, wanted) / wanted
        for there, wanted in (
            (box.ports_most, problem.drops), (box.powered_most, powered), (box.power_most_mw, watts_asked),
        )
        if wanted
    ]  # fmt: skip
    return round(min(shares, default=0.0), 3)


def _why_not_injector(problem: Problem, key: str) -> str:
    injector = next(i for i in problem.injectors if i.model.key == key)
    served = sum(count for need, count in problem.needs if need.poe_rank and injector.serves(need))
    if not served:
        return "No powered drop is within its class and speed."
    return (
        f"Would serve {counted(served, 'drop')}, one socket and {watts(injector.own_mains_mw)} each; not wanted here."
    )


def _why_not_box(project: Project, problem: Problem, box: BoxType, answer: Answer) -> tuple[bool, str, int | None]:
    """Whether a box does the work alone (a router: in place of the one taken), and the sentence."""
    currency = project.settings.currency
    if box.is_router:
        by_key = {switch.model.key: switch for switch in problem.switches}
        keys = [fill.model for fill in answer.boxes[1:]]
        sets = [(box, *(by_key[key] for key in keys))] if all(key in by_key for key in keys) else []
    else:
        sets = [(router, box) for router in problem.routers]
    prices = [seating.price_minor for boxes in sets if (seating := quick_seating(problem, boxes))]
    if prices:
        more = min(prices) - answer.price_minor
        with_it = "with the same switches" if box.is_router else "as the only switch"
        if more > 0:
            return True, f"Fits {with_it}, {money(more, currency)} more.", more
        if more == 0:
            return (
                True,
                f"Fits {with_it} at the same price; more boxes, more draw or later in the catalogue.",
                0,
            )
        return True, f"Fits {with_it}, {money(-more, currency)} less.", more
    return (
        False,
        next(_shortfalls(problem, box), "Fits on paper, but not once links and seats are laid out."),
        None,
    )


def _shortfalls(problem: Problem, box: BoxType) -> Iterator[str]:
    """What a box alone lacks, the plainest first, counting what the largest router could take off it."""
    if box.is_router:
        wan = [b for b in link_classes(problem) if any(c.box is box for c in b.routers)]
        if not wan:
            yield (
                f"Its links carry too little: {problem.traffic_kbit / 1000:,.0f} Mbit/s arrive at the busy hour, "
                f"and a link is filled to 70 % at most."
            )
        yield "Does not fit with the switches of this pick."
        return
    powered = [(need, count) for need, count in problem.needs if need.poe_rank]
    asked = sum(count for _, count in powered)
    cap = max((port.poe_rank for port in box.ports), default=0)
    above = sum(count for need, count in powered if need.poe_rank > cap)
    if powered and not cap:
        yield f"No powered port, {asked} needed."
    if above:
        yield f"{counted(above, 'drop')} need a class above {cap}; its ports give no more."
    if box.model.powered_count < asked:
        yield f"{counted(box.model.powered_count, 'powered port')}, {asked} needed."
    drawn = sum(need.power_mw * count for need, count in powered)
    if box.power_most_mw < drawn:
        share = 1 + problem.margin_percent / 100
        yield f"{watts(drawn * share)} are asked with margin, {watts(box.model.poe_budget_mw)} are there."
    fastest = max((port.speed_mbit for port in box.ports), default=0)
    faster = sum(count for need, count in problem.needs if need.speed_mbit > fastest)
    if faster:
        yield f"{counted(faster, 'drop')} ask more than its ports' {speed(fastest)}."
    for need, _ in problem.needs:
        wanted = sum(c for n, c in problem.needs if n.poe_rank >= need.poe_rank and n.speed_mbit >= need.speed_mbit)
        there = box.ports_with(need.speed_mbit, need.poe_rank)
        if need.poe_rank and there < wanted:
            yield (f"{counted(there, 'port')} of class {need.poe_rank} at {speed(need.speed_mbit)}, {wanted} needed.")
    if box.model.port_count < problem.drops:
        yield f"{counted(box.model.port_count, 'port')} beside the router's, {problem.drops} drops to carry."


def forced(project: Project, catalogue: Catalogue, demand: Demand, key: str, answer: Answer) -> WhyNot:
    """The least pick that has one more model in it, against an answer: the sure reply to *why not this one?*"""
    model = catalogue.get(key)
    name, kind = (model.name, model.kind) if model else (key, "")
    problem = build(project, [asked.need for asked in demand.all], catalogue)
    if key in problem.rejected or kind not in ("router", "switch"):
        sentence = problem.rejected.get(key, "Only routers and switches can be asked for.")
        return WhyNot(
            model=key, name=name, kind=kind, may_stand=key not in problem.rejected, fits=False, sentence=sentence
        )
    pins = dict(problem.pins)
    if kind == "router":
        pins = {pin: count for pin, count in pins.items() if all(r.model.key != pin for r in problem.routers)}
    found = least(replace(problem, pins={**pins, key: max(1, pins.get(key, 0))}), "price")
    if found is None:
        return WhyNot(
            model=key,
            name=name,
            kind=kind,
            may_stand=key not in problem.rejected,
            fits=False,
            sentence="No pick with it bears all drops.",
        )
    more = found.seating.price_minor - answer.price_minor
    beside = [box.model.name for box in found.seating.boxes if box.model.key != key]
    difference = f"{money(abs(more), project.settings.currency)} {'more' if more >= 0 else 'less'}"
    sentence = f"The least pick with it costs {difference}: beside it {' · '.join(beside) or 'nothing'}."
    return WhyNot(
        model=key,
        name=name,
        kind=kind,
        may_stand=key not in problem.rejected,
        fits=True,
        sentence=sentence,
        more_minor=more,
    )


def what_to_relax(project: Project, catalogue: Catalogue, needs: Sequence[Need]) -> tuple[Relaxed, ...]:
    """The single limits that stand in the way when nothing fits: each, relaxed alone, makes a pick possible."""
    relaxed = []
    for limit, sentence, make in _relaxations(project, catalogue, needs):
        problem = make()
        if problem.routers and least(problem, "price", first_will_do=True):
            relaxed.append(Relaxed(limit=limit, sentence=sentence))
    return tuple(relaxed)


def _relaxations(
    project: Project, catalogue: Catalogue, needs: Sequence[Need]
) -> Iterator[tuple[str, str, Callable[[], Problem]]]:
    def changed(**closet: object) -> Callable[[], Problem]:
        other = project.changed(closets=(project.head_end.model_copy(update=closet), *project.closets[1:]))
        return lambda: build(other, needs, catalogue)

    def settings(**values: object) -> Callable[[], Problem]:
        other = project.changed(settings=project.settings.model_copy(update=values))
        return lambda: build(other, needs, catalogue)

    closet = project.head_end
    yield from _unreachable_needs(project, catalogue, needs)
    if project.lines:
        yield (
            "lines",
            "No router that may stand here takes the internet lines.",
            lambda: build(project.changed(lines=()), needs, catalogue),
        )
    if project.settings.separate_networks:
        yield (
            "separate networks",
            "Without separate networks plain boxes would do.",
            settings(separate_networks=False),
        )
    if not project.settings.chain_allowed:
        yield (
            "star",
            "Chained switches would do; the project allows a star only.",
            settings(chain_allowed=True),
        )
    if closet.living_space:
        yield (
            "living space",
            "Boxes with a fan would do; the closet is a living space.",
            changed(living_space=False),
        )
    if closet.housing == "panel":
        yield (
            "wall panel",
            "19-inch boxes would do; the wall panel takes narrow ones only.",
            changed(housing="rack"),
        )
    yield (
        "units",
        f"More height would do: the housing has {counted(closet.units, 'unit')}.",
        changed(units=60),
    )
    yield "depth", f"More depth would do: the housing has {closet.depth_mm} mm.", changed(depth_mm=1500)
    yield "load", f"More load would do: the housing bears {closet.load_kg:g} kg.", changed(load_kg=2000.0)
    yield "sockets", f"More sockets would do; the closet has {closet.sockets}.", changed(sockets=60)
    if closet.ups_outlets is not None:
        yield (
            "battery outlets",
            f"More battery outlets would do; the closet has {closet.ups_outlets}.",
            changed(ups_outlets=None),
        )
    for stance in project.stances:
        model = catalogue.get(stance.model)
        name = model.name if model else stance.model
        without = project.changed(stances=tuple(s for s in project.stances if s is not stance))
        if stance.pinned:
            yield (
                f"pin {stance.model}",
                f"Without the pin on {name} it would fit.",
                _builder(without, needs, catalogue),
            )
        if stance.excluded:
            yield (
                f"exclusion {stance.model}",
                f"{name} would do; it is left out.",
                _builder(without, needs, catalogue),
            )
    if project.settings.margin:
        yield (
            "margin",
            f"Without the margin of {project.settings.margin:g} % it would fit.",
            settings(margin_percent=0.0),
        )


def _builder(project: Project, needs: Sequence[Need], catalogue: Catalogue) -> Callable[[], Problem]:
    return lambda: build(project, needs, catalogue)


def _unreachable_needs(
    project: Project, catalogue: Catalogue, needs: Sequence[Need]
) -> Iterator[tuple[str, str, Callable[[], Problem]]]:
    """Needs that no port and no injector of any model that may stand here can meet."""
    problem = build(project, needs, catalogue)
    boxes = (*problem.routers, *problem.switches)
    able = [port for box in boxes for port in box.ports]
    for poe_rank, mbit in sorted({(need.poe_rank, need.speed_mbit) for need in needs}, reverse=True):
        fast = [port for port in able if port.speed_mbit >= mbit]
        if any(port.poe_rank >= poe_rank for port in fast):
            continue
        if fast and any(i.poe_rank >= poe_rank and i.model.speed_mbit >= mbit for i in problem.injectors):
            continue
        asked = f"class {poe_rank} at {speed(mbit)}" if poe_rank else speed(mbit)
        rest = [need for need in needs if (need.poe_rank, need.speed_mbit) != (poe_rank, mbit)]
        yield (
            f"need {asked}",
            f"No model that may stand here gives {asked} on a port; "
            f"{counted(len(needs) - len(rest), 'drop')} ask for it.",
            _builder(project, rest, catalogue),
        )
