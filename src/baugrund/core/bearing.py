"""Bearing: for each capacity of the closet what stands on it today, what growth adds, and when it is full."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from .brief import YEARS_AHEAD
from .building import Closet
from .catalogue import Catalogue, Router, Switch
from .demand import Asked, Demand, Demands, demands
from .facts import Fact
from .pick.answers import places_of
from .pick.links import Trunk
from .pick.places import Place
from .pick.problem import Problem
from .pick.seating import Seating
from .pick.site import site_of
from .pick.standing import Boxes, Standing, given, models_in, seat_in
from .pick.trunks import trunks
from .project import Project
from .reach.links import links
from .standards.poe_classes import POE_CLASSES, rank
from .traffic import LINK_FILL_PERCENT
from .words import money

Verdict = Literal["holds", "full", "over"]


class Capacity(Fact):
    """One pit of the ground.  ``used`` stands today, ``growth`` comes by the horizon, in ``unit``."""

    key: str
    name: str
    unit: str
    used: float
    growth: float
    limit: float
    verdict: Verdict
    sentence: str
    """The verdict in words."""
    full_year: int | None


class Share(Fact):
    """What one drop or box takes of a capacity."""

    label: str
    amount: float
    drop_id: int | None = None


class Opened(Fact):
    """A capacity opened: what makes it up, the formula with the numbers in it, and where the rule comes from."""

    capacity: Capacity
    shares: tuple[Share, ...]
    formula: str
    source: str


@dataclass(frozen=True)
class Ground:
    """What the capacities of one closet are computed from, gathered once."""

    project: Project
    closet: Closet
    standing: Boxes
    boxes: tuple[Router | Switch, ...]
    injectors: int
    modules: int
    years: tuple[Demand, ...]
    """Demand for each year from today to ten years on."""
    links: tuple[tuple[Trunk, ...], ...]
    """Links to closets that it feeds for each of those years, and last the one that feeds it."""
    seating: Seating | None
    places: tuple[Place, ...]
    price_minor: int
    """Of the boxes of the whole site."""

    @property
    def today(self) -> Demand:
        return self.years[0]

    @property
    def then(self) -> Demand:
        return self.years[self.project.settings.horizon_years]

    @property
    def margin(self) -> float:
        return 1 + self.project.settings.margin / 100

    @property
    def port_ends(self) -> int:
        """Ports that links between the boxes and to other closets take: those that no module takes to a slot."""
        ends = 2 * (len(self.boxes) - 1) + sum(trunk.ends for trunk in self.links[self.project.settings.horizon_years])
        return max(0, ends - self.modules)


def grounds_of(project: Project, catalogue: Catalogue, standing: Standing) -> tuple[Ground, ...]:
    """The ground of every closet in which, or behind which, something ends; the head end always."""
    years = [demands(project, year) for year in range(YEARS_AHEAD + 1)]
    made = links(project, catalogue)
    fed = [trunks(project, of, made) for of in years]
    horizon = project.settings.horizon_years
    site = site_of(project, catalogue.part(models_in(standing)), years[horizon], fed[horizon])
    price = _price(project, catalogue, standing)
    return tuple(
        _ground(project, catalogue, problem, standing.get(problem.closet_id, Boxes(())), years, fed, price)
        for problem in site.closets
    )


def _ground(
    project: Project, catalogue: Catalogue, problem: Problem, standing: Boxes, years: Sequence[Demands],
    fed: Sequence[Mapping[int, Trunk]], price_minor: int,
) -> Ground:  # fmt: skip
    number = problem.closet_id
    below = [trunk.closet_id for trunk in problem.trunks] + ([number] if problem.uplink else [])
    boxes = [catalogue.get(key) for key in standing.boxes]
    kept = tuple(box for box in boxes if isinstance(box, Router | Switch))
    if len(kept) < len(boxes):
        kept = ()
    counts = Counter[str]()
    for key, count in standing.extras:
        model = catalogue.get(key)
        counts[model.kind if model else ""] += count
    asked = years[project.settings.horizon_years][number]
    narrowed = given(problem, standing) if kept else None
    seating = seat_in(narrowed, standing.before, asked.all) if narrowed else None
    return Ground(
        project=project,
        closet=project.closets_by_id[number],
        standing=standing,
        boxes=kept,
        injectors=counts["injector"],
        modules=counts["module"],
        years=tuple(of[number] for of in years),
        links=tuple(tuple(some[one] for one in below if one in some) for some in fed),
        seating=seating,
        places=places_of(seating, asked) if seating else (),
        price_minor=price_minor,
    )


def _price(project: Project, catalogue: Catalogue, standing: Standing) -> int:
    """What the standing boxes, injectors and modules cost, owned ones at 0 [minor]."""
    wanted = Counter[str]()
    for boxes in standing.values():
        wanted += Counter(boxes.boxes) + Counter(dict(boxes.extras))
    lines = ((catalogue.get(key), max(0, count - project.owned.get(key, 0))) for key, count in wanted.items())
    return sum(line.price_of(count) for line, count in lines if line)


@dataclass(frozen=True)
class _Kind:
    """How one capacity is computed: its amount for some drops, its limit, what a drop takes of it."""

    key: str
    name: str
    unit: str
    limit: Callable[[Ground], float]
    amount: Callable[[Ground, Sequence[Asked]], float]
    share: Callable[[Ground, Asked], float]
    formula: Callable[[Ground, Capacity], str]
    source: str


def _watts(g: Ground, drops: Sequence[Asked]) -> float:
    """Watts of the drops that injectors do not take over (those take the hungriest)."""
    fed = sorted((asked.need.power_mw for asked in drops), reverse=True)[g.injectors :]
    return round(sum(fed) * g.margin / 1000, 2)


def _port_watts(rank_: int) -> float:
    return POE_CLASSES[rank_].port_w if rank_ else 0.0


def _best_rank(g: Ground) -> int:
    return max((rank(group.poe_class) for box in g.boxes for group in box.ports), default=0)


def _powered(drops: Sequence[Asked]) -> int:
    return sum(asked.need.poe_rank > 0 for asked in drops)


KINDS: tuple[_Kind, ...] = (
    _Kind(
        "ports", "Ports", "",
        lambda g: sum(box.port_count for box in g.boxes),
        lambda g, drops: len(drops) + g.port_ends,
        lambda g, asked: 1,
        lambda g, c: (
            f"{c.used - g.port_ends:g} drops + {g.port_ends} link ends + {c.growth:g} in reserve "
            f"of {c.limit:g} ports"
        ),
        "One port a drop; a link between two boxes takes one at each end.",
    ),
    _Kind(
        "powered", "Powered", "",
        lambda g: sum(box.powered_count for box in g.boxes) + g.injectors,
        lambda g, drops: _powered(drops),
        lambda g, asked: float(asked.need.poe_rank > 0),
        lambda g, c: f"{c.used:g} powered drops + {c.growth:g} in reserve of {c.limit:g} powered ports and injectors",
        "IEEE Std 802.3-2022, clauses 33 and 145.",
    ),
    _Kind(
        "per_port", "Per port", "W",
        lambda g: _port_watts(_best_rank(g)),
        lambda g, drops: max((_port_watts(asked.need.poe_rank) for asked in drops), default=0.0),
        lambda g, asked: _port_watts(asked.need.poe_rank),
        lambda g, c: f"highest class asked reserves {c.used + c.growth:g} W; the best port gives {c.limit:g} W",
        "IEEE Std 802.3-2022, clause 145: power reserved at the port for each class.",
    ),
    _Kind(
        "watts", "Watts", "W",
        lambda g: sum(box.poe_budget_w for box in g.boxes),
        _watts,
        lambda g, asked: round(asked.need.power_mw * g.margin / 1000, 2),
        lambda g, c: (
            f"Σ watts at the ports × {g.margin:g} = {c.used:g} W + {c.growth:g} W in reserve of {c.limit:g} W"
        ),
        "IEEE Std 802.3-2022: watts at the port of the draw over the run, I = (V − √(V² − 4RP)) / 2R, "
        "up to the next half watt.",
    ),
    _Kind(
        "rack", "Height", "U",
        lambda g: g.closet.units,
        lambda g, drops: sum(box.units for box in g.boxes),
        lambda g, asked: 0,
        lambda g, c: f"{c.used:g} units of boxes in {c.limit:g} of the housing",
        "IEC 60297: one unit is 44.45 mm.",
    ),
    _Kind(
        "sockets", "Sockets", "",
        lambda g: g.closet.sockets,
        lambda g, drops: sum(box.sockets for box in g.boxes) + g.injectors,
        lambda g, asked: 0,
        lambda g, c: f"{len(g.boxes)} boxes and {g.injectors} injectors take {c.used:g} of {c.limit:g} sockets",
        "A plug brick wider than one socket counts two; an injector takes one.",
    ),
)  # fmt: skip


def bearing(g: Ground) -> tuple[Capacity, ...]:
    """Every capacity of the closet, in the order of the ground."""
    capacities = [_capacity(g, kind) for kind in KINDS]
    uplink = _uplink(g)
    if uplink:
        capacities.insert(4, uplink)
    budget = g.project.settings.budget_minor
    if budget:
        capacities.append(_judged(g, "money", "Money", g.project.settings.currency, g.price_minor / 100, 0.0,
                                  budget / 100, lambda year: g.price_minor / 100))  # fmt: skip
    return tuple(capacities)


def _capacity(g: Ground, kind: _Kind) -> Capacity:
    used = kind.amount(g, g.today.all)
    growth = round(kind.amount(g, g.then.all) - used, 2)
    return _judged(
        g,
        kind.key,
        kind.name,
        kind.unit,
        used,
        growth,
        kind.limit(g),
        lambda year: kind.amount(g, g.years[year].all),
    )


def _judged(
    g: Ground,
    key: str,
    name: str,
    unit: str,
    used: float,
    growth: float,
    limit: float,
    at: Callable[[int], float],
) -> Capacity:
    start = g.project.settings.start_year
    over = round(used + growth - limit, 2)
    verdict: Verdict
    full = next((year for year in range(YEARS_AHEAD + 1) if at(year) > limit + 1e-9), None)
    if over > 1e-9:
        amount = money(round(over * 100), unit) if key == "money" else f"{over:g} {unit}".strip()
        verdict, sentence = "over", f"over by {amount}"
    elif full is not None:
        verdict, sentence = "full", f"full in {start + full}"
    elif used + growth >= limit and limit and key not in ("per_port", "money"):
        verdict, sentence = "full", "full, nothing left"
    else:
        verdict, sentence = "holds", f"holds past {start + YEARS_AHEAD}"
    return Capacity(
        key=key, name=name, unit=unit, used=used, growth=growth, limit=limit, verdict=verdict, sentence=sentence,
        full_year=None if full is None else start + full,
    )  # fmt: skip


def _uplink(g: Ground) -> Capacity | None:
    """Fill of the fullest link, inside the closet or to another; None with none, or while the drops are not seated."""
    if g.seating is None:
        return None
    horizon = g.project.settings.horizon_years
    by_year = [{trunk.closet_id: trunk for trunk in some} for some in g.links]
    live = {asked.drop_id: asked.need.traffic_kbit for asked in g.today.live}
    fills = [
        (trunk.traffic_kbit, by_year[0][number].traffic_kbit if number in by_year[0] else 0, trunk.carries_kbit)
        for number, trunk in by_year[horizon].items()
    ]
    for link in g.seating.links:
        below = _below(g.seating, link.lower)
        here = [place for place in g.places if place.box in below and not place.in_reserve]
        further = [seat.trunk.closet_id for seat in g.seating.trunks if seat.box in below]
        now = sum(live[place.drop_id] for place in here)
        now += sum(by_year[0][number].traffic_kbit for number in further if number in by_year[0])
        fills.append((link.traffic_kbit, now, link.option.carries_kbit))
    if not fills:
        return None
    then, now, carries = max(fills, key=lambda fill: fill[0] / fill[2])
    percent = LINK_FILL_PERCENT / carries
    all_then = _arriving(g, horizon) or 1

    def at(year: int) -> float:
        return then * percent * _arriving(g, year) / all_then

    return _judged(g, "uplink", "Uplink", "%", round(now * percent, 1), round((then - now) * percent, 1),
                   float(LINK_FILL_PERCENT), at)  # fmt: skip


def _arriving(g: Ground, year: int) -> int:
    """Busy hour of the closet's drops and of those behind it [kbit/s]."""
    fed = sum(trunk.traffic_kbit for trunk in g.links[year] if trunk.closet_id != g.closet.id)
    return g.years[year].traffic_kbit + fed


def _below(seating: Seating, box: int) -> set[int]:
    below = {box}
    while grown := {link.lower for link in seating.links if link.upper in below} - below:
        below |= grown
    return below


def opened(g: Ground, key: str) -> Opened | None:
    """A capacity with the drops or boxes that make it up, its formula and source."""
    capacity = next((capacity for capacity in bearing(g) if capacity.key == key), None)
    if capacity is None:
        return None
    kind = next((kind for kind in KINDS if kind.key == key), None)
    shares: list[Share] = []
    if kind and key not in ("rack", "sockets"):
        names = {drop.id: g.project.name_of(drop) for drop in g.project.drops}
        for asked in g.then.all:
            amount = kind.share(g, asked)
            if amount:
                label = f"in reserve, {asked.kind.replace('_', ' ')}"
                if asked.drop_id is not None:
                    label = names[asked.drop_id]
                shares.append(Share(label=label, amount=amount, drop_id=asked.drop_id))
        shares.sort(key=lambda share: -share.amount)
        formula, source = kind.formula(g, capacity), kind.source
    elif key == "uplink":
        formula = (
            f"traffic over the fullest link ÷ its rate = {capacity.used:g} % today, {capacity.growth:g} % by growth"
        )
        source = "A link carries 70 % of its rate at most (default); later years in proportion to all traffic."
    elif key == "money":
        formula, source = (
            f"{capacity.used:,.2f} of {capacity.limit:,.2f}",
            "Catalogue prices; cable and labour not counted.",
        )
    else:
        attribute = "units" if key == "rack" else "sockets"
        shares = [Share(label=box.name, amount=getattr(box, attribute)) for box in g.boxes]
        assert kind is not None
        formula, source = kind.formula(g, capacity), kind.source
    return Opened(capacity=capacity, shares=tuple(shares), formula=formula, source=source)
