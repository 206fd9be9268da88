"""Through the years: what is used in each, and whether to buy at once or in two steps."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import partial
from itertools import product
from operator import mul
from typing import Literal

from ..cabling.links import Link
from ..demand.needs import Demands, demands
from ..errors import TookTooLong
from ..facts.brief import Kit
from ..facts.catalogue import Catalogue
from ..facts.fact import Fact
from ..facts.lines.box import Box
from ..facts.lines.injector import Injector
from ..facts.lines.line import Piecewise
from ..facts.project import Project, Stance
from ..pick.best import least_price
from ..pick.model.problem import Problem
from ..pick.model.seating import Seating
from ..pick.model.trunks import trunks
from ..pick.site import Site, site_of
from ..pick.standing import Boxes, Standing, any_seating, bears, first_short, given, models_in
from ..standards.poe_classes import POE_CLASSES, rank
from ..watch import counted_off
from .answers import Answer

OTHERS_MOST = 12
"""Boxes beside the root of one closet whose parts are all looked at for a first step; with more none is."""


class YearLine(Fact):
    """What one year asks of the boxes of an answer, all closets together, and whether they bear it."""

    year: int
    live: int
    reserve: int
    ports: int
    """Ports asked for, ends of links among them."""
    ports_limit: int
    powered: int
    powered_limit: int
    power_w: float
    """With margin."""
    power_limit_w: float
    """Budgets of the boxes, and what the injectors give in the same terms: they need no margin."""
    lacks: str
    """What runs out first, and where; empty: nothing."""


class Step(Fact):
    """A plan in two steps: buy now what bears the drops until ``year``, and the rest then; old boxes stay."""

    year: int
    """Calendar year of the second step: the first that what is bought now does not bear."""
    way: Literal["as_needed", "least_now"]
    """*as_needed*: the boxes of the answer, each when it is wanted; *least_now*: the least pick for the years until
    then, whatever it is, and the least that completes it."""
    now_minor: int
    then_minor: int
    more_minor: int
    """Both together against all at once."""
    now: tuple[str, ...]
    then: tuple[str, ...]
    proven: bool
    """Whether each step is proven least."""


@dataclass(frozen=True)
class Outlook:
    """A project, its catalogue and the links between its closets: the problem of any year."""

    project: Project
    catalogue: Catalogue
    links: tuple[Link, ...]

    def site(self, years: int, project: Project | None = None) -> tuple[Site, Demands]:
        """The problem after so many years, of this project or of one changed from it."""
        of = project or self.project
        asked = demands(of, years)
        return site_of(of, self.catalogue, asked, trunks(of, asked, self.links)), asked


def lacks(outlook: Outlook, standing: Standing, years: int) -> str | None:
    """What runs out first on these boxes after so many years, and where; None: nothing does."""
    standing_alone = replace(outlook, catalogue=outlook.catalogue.part(models_in(standing)))
    site, asked = standing_alone.site(years)
    for problem in site.closets:
        boxes = standing.get(problem.closet_id, Boxes(()))
        narrowed = given(problem, boxes)
        if narrowed and bears(narrowed, boxes.before, asked[problem.closet_id]):
            continue
        short = first_short(narrowed) if narrowed else "boxes"
        name = outlook.project.closets_by_id[problem.closet_id].name
        return short if len(site.closets) == 1 else f"{short} in {name}"
    return None


def years(outlook: Outlook, answer: Answer, last: int) -> tuple[YearLine, ...]:
    """Year by year from today to ``last`` years on."""
    standing = answer.standing()
    margin = 1 + outlook.project.settings.margin / 100
    ends = 2 * sum(link.ends for link in answer.links) - sum(
        bool(module) * link.ends for link in answer.links for module in (link.upper_module, link.lower_module)
    )
    injectors = [
        (part.quantity, model.poe_class)
        for part in answer.parts
        if isinstance(model := outlook.catalogue.get(part.model), Injector)
    ]
    injected_w = sum(count * POE_CLASSES[rank(poe_class)].port_w for count, poe_class in injectors)
    power_limit_w = round(sum(box.power_w for box in answer.boxes) + injected_w * margin, 1)
    lines = []
    for year in range(last + 1):
        of = outlook.site(year)[1].values()
        needs = [asked.need for demand in of for asked in demand.all]
        live = sum(len(demand.live) for demand in of)
        lines.append(
            YearLine(
                year=outlook.project.settings.start_year + year,
                live=live,
                reserve=len(needs) - live,
                ports=len(needs) + ends,
                ports_limit=sum(box.ports for box in answer.boxes),
                powered=sum(need.poe_rank > 0 for need in needs),
                powered_limit=sum(box.powered for box in answer.boxes) + sum(count for count, _ in injectors),
                power_w=round(sum(need.power_mw for need in needs) * margin / 1000, 1),
                power_limit_w=power_limit_w,
                lacks=lacks(outlook, standing, year) or "",
            )
        )
    return tuple(lines)


def steps(outlook: Outlook, answer: Answer) -> Iterator[Step]:
    """Every plan in two steps that spends less now than all at once, year of the second step by year.

    The second step's boxes are added to those of the first, so no plan costs less in total than the least pick at
    once; *as needed* costs exactly what the answer does.  *Least now* is told beside the least price alone.
    """
    start, horizon = outlook.project.settings.start_year, outlook.project.settings.horizon_years
    for year in counted_off(range(1, horizon + 1)):
        needed = _as_needed(outlook, answer, year)
        least = _least_now(outlook, answer, year) if answer.aim == "least_price" else None
        if needed and needed.now_minor < answer.price_minor:
            yield needed.model_copy(update={"year": start + year})
        if least and least.now_minor < min(answer.price_minor, needed.now_minor if needed else answer.price_minor):
            yield least.model_copy(update={"year": start + year})


def _as_needed(outlook: Outlook, answer: Answer, year: int) -> Step | None:
    """The least part of an answer's boxes that bears the years before ``year``."""
    site, _ = outlook.site(year - 1)
    # a box that is bought costs what it costs with the spares that complete it
    bought = {box.model: box.price_minor for box in answer.boxes if not box.owned}
    prices: Prices = {
        model.key: partial(mul, bought[model.key]) if model.key in bought else model.price_of
        for model in outlook.catalogue.models
    }
    owned = Counter(outlook.project.owned)
    whole: Counter[str] = Counter()
    kept: Counter[str] = Counter()
    standing = answer.standing()
    for problem in site.closets:
        boxes = standing.get(problem.closet_id)
        part = None if boxes is None else least_part(problem, boxes, prices, owned)
        if boxes is None or part is None:
            return None
        whole.update(boxes.boxes)
        whole.update(dict(boxes.extras))
        kept += taken_by([part[1]])
    now = bought_minor(kept, prices, owned)
    if now == answer.price_minor:
        return None
    return Step(
        year=year, way="as_needed", now_minor=now, then_minor=answer.price_minor - now, more_minor=0,
        now=named_lines(outlook.catalogue, kept), then=named_lines(outlook.catalogue, whole - kept),
        proven=answer.proven,
    )  # fmt: skip


Prices = Mapping[str, Callable[[int], int]]
"""What so many of a line cost [minor], by key."""


def bought_minor(boxes: Counter[str], prices: Prices, owned: Counter[str]) -> int:
    """What these cost beside what is owned, in whole packs."""
    return sum(prices[key](count) for key, count in (boxes - owned).items())


def least_part(
    problem: Problem, boxes: Boxes, prices: Prices, owned: Counter[str], there: Sequence[str] = ()
) -> tuple[tuple[str, ...], Seating] | None:
    """The cheapest part of a closet's boxes that bears its drops, with those that are ``there`` first and the root
    always, and a seating in it; None: it has too many parts to look at, or none bears them."""
    root, *others = boxes.boxes
    counts = Counter(others)
    stand = Counter(there[1:])
    if len(others) > OTHERS_MOST:
        return None
    parts = [
        Counter(dict(zip(counts, chosen, strict=True)))
        for chosen in product(*(range(stand[key], count + 1) for key, count in counts.items()))
    ]
    parts.sort(key=lambda part: (bought_minor(part, prices, owned), part.total()))
    for part in parts:
        keys = (root, *there[1:], *(part - stand).elements())
        narrowed = given(problem, Boxes(keys, boxes.extras, None, boxes.uplink))
        seating = narrowed and any_seating(narrowed)
        if seating:
            return keys, seating
    return None


def taken_by(seatings: Sequence[Seating]) -> Counter[str]:
    """How many of each model some seatings take."""
    taken: Counter[str] = Counter()
    for seating in seatings:
        for line, count in seating.taken.items():
            taken[line.model.key] += count
    return taken


def _least_now(outlook: Outlook, answer: Answer, year: int) -> Step | None:
    """The least pick for the years before ``year``, and the least that completes it with its boxes kept."""
    project = outlook.project
    try:
        first = least_price(outlook.site(year - 1)[0])
        if first is None:
            return None
        bought = taken_by(first.seatings)
        spare = _left_in_packs(outlook.catalogue, bought - Counter(project.owned))
        site, _ = outlook.site(project.settings.horizon_years, _with_kept(project, outlook.catalogue, bought + spare))
        then = least_price(site)
    except TookTooLong:
        return None
    if then is None or not then.price_minor:
        return None
    added = taken_by(then.seatings) - bought - spare - Counter(project.owned)
    return Step(
        year=year, way="least_now", now_minor=first.price_minor, then_minor=then.price_minor,
        more_minor=first.price_minor + then.price_minor - answer.price_minor,
        now=named_lines(outlook.catalogue, bought), then=named_lines(outlook.catalogue, added),
        proven=first.proven and then.proven,
    )  # fmt: skip


def _left_in_packs(catalogue: Catalogue, bought: Mapping[str, int]) -> Counter[str]:
    """Pieces that are left over in the packs of what is bought."""
    left: Counter[str] = Counter()
    for model in catalogue.models:
        if isinstance(model, Piecewise) and bought.get(model.key):
            left[model.key] = -bought[model.key] % model.pack
    return +left


def _with_kept(project: Project, catalogue: Catalogue, bought: Mapping[str, int]) -> Project:
    """The project as it is once these are there: owned, and kept in use."""
    number = project.next_id
    new = Counter(bought) - Counter(project.owned)
    kit = [Kit(id=number + place, name=key, model=key, count=count) for place, (key, count) in enumerate(new.items())]
    pins = {stance.model: stance for stance in project.stances}
    for key, count in bought.items():
        if isinstance(catalogue.get(key), Box):
            before = pins.get(key, Stance(model=key))
            pins[key] = before.model_copy(update={"pinned": max(before.pinned, min(count, 50))})
    return project.changed(
        kit=(*project.kit, *kit), stances=tuple(pins.values()), next_id=number + len(bought)
    )  # fmt: skip


def named_lines(catalogue: Catalogue, counted: Mapping[str, int]) -> tuple[str, ...]:
    """How many of each line, by name, in the order of the catalogue."""
    names = {model.key: model.name for model in catalogue.models}
    order = {model.key: place for place, model in enumerate(catalogue.models)}
    return tuple(
        f"{count} × {names[key]}" if count > 1 else names[key]
        for key, count in sorted(counted.items(), key=lambda item: order[item[0]])
        if count
    )
