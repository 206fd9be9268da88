"""Why not: for every model not taken one sentence; and what to relax when nothing fits."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace

from ..cabling.links import links
from ..demand.needs import Demands, DropNeed, demands
from ..errors import TookTooLong
from ..facts.building import Closet
from ..facts.catalogue import Catalogue
from ..facts.fact import Fact
from ..facts.lines.box import Box
from ..facts.lines.line import Line
from ..facts.lines.spare import Spare
from ..facts.project import Project
from ..pick.best import least_price
from ..pick.branching.search import search
from ..pick.model import resources, rules
from ..pick.model.filters import ACCESSORY_NAMES
from ..pick.model.problem import Problem
from ..pick.model.trunks import trunks
from ..pick.site import Site, price_rank, share, site_of
from ..watch import Share, counted_off, tell
from ..words import counted, money, speed, watts
from .alone import Alone, Judged
from .answers import Answer
from .substitutes import substitute


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


def why_not(project: Project, catalogue: Catalogue, site: Site, answer: Answer) -> tuple[WhyNot, ...]:
    """One sentence for every model that an answer does not take, nearest first: those that fit, then the others."""
    taken = {part.model for part in answer.parts}
    alone = {problem.closet_id: Alone(project, site, problem, answer) for problem in site.closets}
    told = []
    others = [model for model in catalogue.models if model.key not in taken and model.of_kind.in_picks]
    for number, model in enumerate(counted_off(others)):
        tell(Share(number / len(others), ""))
        may_stand = [problem for problem in site.closets if model.key not in problem.rejected]
        if model.kind == "router":
            may_stand = [problem for problem in may_stand if problem is site.head_end]
        if not may_stand:
            sentence = site.head_end.rejected.get(model.key, "No closet takes it.")
            judged = Judged(False, _with_stand_in(sentence, project, catalogue, model))
        elif model.kind == "injector":
            judged = Judged(False, _why_not_injector(may_stand, model.key))
        elif model.kind == "module":
            judged = Judged(False, "No link of this pick wants it.")
        else:
            judged = max(
                (alone[problem.closet_id].judged(model.key) for problem in may_stand),
                key=lambda one: (one.fits, one.nearness),
            )
        why = WhyNot(
            model=model.key, name=model.name, kind=model.kind, may_stand=bool(may_stand), fits=judged.fits,
            sentence=judged.sentence, nearness=judged.nearness,
        )  # fmt: skip
        told.append(_with_price(project, catalogue, site, answer, why) if judged.fits else why)
    return tuple(sorted(told, key=lambda w: (not w.fits, w.more_minor or 0, -w.nearness, not w.may_stand)))


FORCED_DROPS = 100
"""With more drops on the site the least pick with a model is searched only for those who ask for it."""


def _with_price(project: Project, catalogue: Catalogue, site: Site, answer: Answer, why: WhyNot) -> WhyNot:
    """What a model that fits would cost: the least pick with it against the answer."""
    if sum(problem.drops for problem in site.closets) > FORCED_DROPS:
        return why.model_copy(update={"sentence": f"{why.sentence}; its price is computed when asked for."})
    try:
        least = forced(project, catalogue, site, why.model, answer)
    except TookTooLong:
        return why.model_copy(update={"sentence": f"{why.sentence}; no least pick with it was found in time."})
    if not least.fits:
        return least.model_copy(update={"nearness": why.nearness})
    cost = least.sentence.split(":")[0]
    sentence = f"{why.sentence}; {cost[0].lower()}{cost[1:]}."
    return why.model_copy(update={"sentence": sentence, "more_minor": least.more_minor})


def _with_stand_in(sentence: str, project: Project, catalogue: Catalogue, model: Line) -> str:
    """For a model that is out of stock, also what comes nearest to it."""
    found = None if model.in_stock else substitute(catalogue, model.key, project.head_end.living_space)
    return f"{sentence[:-1]}; nearest is {found.sentence(project.settings.currency)}." if found else sentence


def _why_not_injector(closets: Sequence[Problem], key: str) -> str:
    injector = next(i for i in closets[0].injectors if i.model.key == key)
    served = sum(
        count for problem in closets for need, count in problem.needs if need.poe_rank and injector.serves(need)
    )
    if not served:
        return "No powered drop is within its class and speed."
    return (
        f"Would serve {counted(served, 'drop')}, one socket and {watts(injector.own_mains_mw)} each; not wanted here."
    )


def forced(project: Project, catalogue: Catalogue, site: Site, key: str, answer: Answer) -> WhyNot:
    """The least pick that has one more model in it, against an answer: the sure reply to *why not this one?*"""
    model = catalogue.get(key)
    name, kind = (model.name, model.kind) if model else (key, "")
    told = WhyNot(model=key, name=name, kind=kind, may_stand=True, fits=False, sentence="")
    rejected = [problem.rejected.get(key) for problem in site.closets]
    if all(rejected) or not isinstance(model, Box):
        sentence = rejected[0] or "Only routers and switches can be asked for."
        return told.model_copy(update={"sentence": sentence, "may_stand": not all(rejected)})
    pins = dict(site.pins)
    if kind == "router":
        routers = {model.key for model in catalogue.routers}
        pins = {pin: count for pin, count in pins.items() if pin not in routers}
    found = least_price(replace(site, pins={**pins, key: max(1, pins.get(key, 0))}))
    if found is None:
        pinned = " beside what is pinned" if pins.keys() - {key} else ""
        return told.model_copy(update={"sentence": f"No pick with this model serves all drops{pinned}."})
    more = found.price_minor - answer.price_minor
    boxes = [box.model for seating in found.seatings for box in seating.boxes]
    beside = [box.name for box in boxes if box.key != key]
    difference = "the same"
    if more:
        difference = f"{money(abs(more), project.settings.currency)} {'more' if more > 0 else 'less'}"
    if not found.proven:
        difference = f"at most {difference}"
    sentence = f"The least pick with it costs {difference}: beside it {' · '.join(beside) or 'nothing'}."
    return told.model_copy(
        update={"fits": True, "sentence": sentence, "more_minor": more if found.proven else None}
    )  # fmt: skip


def what_to_relax(project: Project, catalogue: Catalogue) -> tuple[Relaxed, ...]:
    """The single limits that stand in the way when nothing fits: each, relaxed alone, makes a pick possible."""
    asked = demands(project, project.settings.horizon_years)

    def site(changed: Project, of: Demands = asked, prices: Catalogue = catalogue) -> Site:
        return site_of(changed, prices, of, trunks(changed, of, links(changed, prices)))

    relaxed = list(_contradictions(project, catalogue))
    now = site(project)
    short = [problem.closet_id for problem in now.closets if not _fits(problem)]
    tried = [(*one, catalogue) for one in _relaxations(project, catalogue, asked, now, short)]
    for limit, sentence, changed, of, prices in (*tried, *_with_spares(project, catalogue, asked)):
        other = site(changed, of, prices)
        alone = [problem for problem in other.closets if problem.closet_id in short]
        if all(_fits(problem) for problem in alone) and _any(other):
            relaxed.append(Relaxed(limit=limit, sentence=sentence))
    return tuple(relaxed)


def _with_spares(
    project: Project, catalogue: Catalogue, asked: Demands
) -> Iterator[tuple[str, str, Project, Demands, Catalogue]]:
    """Price lists that sold what boxes come without and nobody sells: supplies, ears, rails, disks."""
    boxes = [model for model in catalogue.models if isinstance(model, Box) and model.in_stock]
    for lack, name in ACCESSORY_NAMES.items():
        if catalogue.spare_for(lack) is None and any(lack in box.lacks for box in boxes):
            spare = Spare(key=f"spare-{lack}-to-be-had", name=f"{name}, to be had", price_minor=0, completes=lack)
            prices = catalogue.model_copy(update={"models": (*catalogue.models, spare)})
            sentence = f"No price list sells {name}; boxes that come without would do with it."
            yield f"spare {lack}", sentence, project, asked, prices


def _fits(problem: Problem) -> bool:
    """Whether one closet has a pick, whatever the site shares; undecided in time counts as none."""
    return bool(problem.roots) and search(problem, "price", first_will_do=True).found is not None


def _any(site: Site) -> bool:
    return share(site, lambda problem: search(problem, "price", first_will_do=True), price_rank)[0] is not None


def _contradictions(project: Project, catalogue: Catalogue) -> Iterator[Relaxed]:
    """Pins that cannot be met whatever else is picked."""
    routers = [router for router in catalogue.routers if project.pinned(router.key)]
    if sum(project.pinned(router.key) for router in routers) > 1:
        names = " and ".join(
            f"{project.pinned(router.key)} × {router.name}" if project.pinned(router.key) > 1 else router.name
            for router in routers
        )
        yield Relaxed(limit="pins", sentence=f"{names} are pinned; a site has one router.")
    for stance in project.stances:
        model = catalogue.get(stance.model)
        if stance.pinned and model is None:
            yield Relaxed(limit="pins", sentence=f"{stance.model} is pinned, but it is not in the catalogue.")
        elif stance.pinned and stance.excluded and model:
            yield Relaxed(limit="pins", sentence=f"{model.name} is pinned and left out at once.")


Relaxing = tuple[str, str, Project, Demands]
"""A limit, what relaxing it would do, and the project and demands then."""


def _relaxations(
    project: Project, catalogue: Catalogue, asked: Demands, site: Site, short: Sequence[int]
) -> Iterator[Relaxing]:
    yield from _unreachable_needs(project, asked, site)
    settings = project.settings

    def with_settings(**values: object) -> Project:
        return project.changed(settings=settings.model_copy(update=values))

    if project.lines:
        yield (
            "lines", "No router that may stand here takes the internet lines.", project.changed(lines=()), asked,
        )  # fmt: skip
    if not settings.chain_allowed:
        yield (
            "star", "Chained switches would do; the project allows a star only.",
            with_settings(chain_allowed=True), asked,
        )  # fmt: skip
    if settings.margin:
        yield (
            "margin", f"Without the margin of {settings.margin:g} % it would fit.",
            with_settings(margin_percent=0.0), asked,
        )  # fmt: skip
    for rule in rules.RULES:
        if rule.of_settings and rule.applies(project, project.head_end):
            yield rule.key, rule.would_do(project.head_end), with_settings(**rule.of_settings), asked
    for number in short or [project.head_end.id]:
        yield from _closet_relaxations(project, asked, project.closets_by_id[number])
    for stance in project.stances:
        model = catalogue.get(stance.model)
        name = model.name if model else stance.model
        without = project.changed(stances=tuple(s for s in project.stances if s is not stance))
        if stance.pinned:
            yield f"pin {stance.model}", f"Without the pin on {name} it would fit.", without, asked
        if stance.excluded:
            yield f"exclusion {stance.model}", f"{name} would do; it is left out.", without, asked


def _closet_relaxations(project: Project, asked: Demands, closet: Closet) -> Iterator[Relaxing]:
    several = len(project.closets) > 1

    def changed(limit: str, sentence: str, **values: object) -> Relaxing:
        other = closet.model_copy(update=values)
        closets = tuple(other if one is closet else one for one in project.closets)
        told = f"{closet.name}: {sentence[0].lower()}{sentence[1:]}" if several else sentence
        return limit, told, project.changed(closets=closets), asked

    for rule in rules.RULES:
        if rule.of_closet and rule.applies(project, closet):
            yield changed(rule.key, rule.would_do(closet), **rule.of_closet)
    for resource in resources.RESOURCES:
        limit = resource.limit(closet)
        if limit is not None:
            yield changed(resource.key, resource.more(limit), **resource.lifted)
    if closet is not project.head_end and closet.link:
        other = "copper" if closet.link == "fibre" else "fibre"
        yield changed("link", f"Its link in {other} would do; {closet.link} is asked for.", link=other)


def _unreachable_needs(project: Project, asked: Demands, site: Site) -> Iterator[Relaxing]:
    """Needs that no port and no injector of any model that may stand in their closet can meet."""
    for problem in site.closets:
        ports = [port for box in problem.boxes for port in box.ports]
        where = f"in {project.closets_by_id[problem.closet_id].name}" if len(site.closets) > 1 else "here"
        for poe_rank, mbit in sorted({(need.poe_rank, need.speed_mbit) for need, _ in problem.needs}, reverse=True):
            fast = [port for port in ports if port.speed_mbit >= mbit]
            if any(port.poe_rank >= poe_rank for port in fast):
                continue
            if fast and any(i.poe_rank >= poe_rank and i.model.speed_mbit >= mbit for i in problem.injectors):
                continue
            what = f"class {poe_rank} at {speed(mbit)}" if poe_rank else speed(mbit)
            demand = asked[problem.closet_id]

            def others(some: tuple[DropNeed, ...], kind: tuple[int, int] = (poe_rank, mbit)) -> tuple[DropNeed, ...]:
                return tuple(one for one in some if (one.need.poe_rank, one.need.speed_mbit) != kind)

            rest = replace(demand, live=others(demand.live), reserve=others(demand.reserve))
            yield (
                f"need {what}",
                f"No model that may stand {where} gives {what} on a port; "
                f"{counted(len(demand.all) - len(rest.all), 'drop')} ask for it.",
                project,
                {**asked, problem.closet_id: rest},
            )
