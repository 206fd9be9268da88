"""Bearing: for each capacity of the closet what stands on it today, what growth adds, and when it is full."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Literal

from .brief import YEARS_AHEAD
from .catalogue import Catalogue, Injector, Router, Switch
from .demand import Asked, Demand, demand, live_needs
from .facts import Fact
from .pick.answers import places_of
from .pick.places import Place
from .pick.problem import Problem, build
from .pick.seating import Seating
from .pick.standing import Boxes, given, seat_in
from .project import Project
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
    """What the capacities are computed from, gathered once."""

    project: Project
    standing: Boxes
    boxes: tuple[Router | Switch, ...]
    injectors: int
    modules: frozenset[str]
    years: tuple[Demand, ...]
    """Demand for each year from today to ten years on."""
    seating: Seating | None
    places: tuple[Place, ...]
    price_minor: int

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
        """Ports that the links between the boxes take."""
        in_slots = sum(count for key, count in self.standing.extras if key in self.modules)
        return max(0, 2 * (len(self.boxes) - 1) - in_slots)


def ground(project: Project, catalogue: Catalogue, standing: Boxes) -> Ground | None:
    """The ground for given boxes; None when one of them is no longer in the catalogue."""
    boxes = tuple(catalogue.get(key) for key in standing.boxes)
    if not boxes or not all(isinstance(box, Router | Switch) for box in boxes):
        return None
    live = live_needs(project)
    years = tuple(demand(project, year, live) for year in range(YEARS_AHEAD + 1))
    then = years[project.settings.horizon_years]
    seating, places = _seat(build(project, [asked.need for asked in then.all], catalogue), standing, then)
    injectors = sum(count for key, count in standing.extras if isinstance(catalogue.get(key), Injector))
    kept = tuple(box for box in boxes if isinstance(box, Router | Switch))
    price = _price(project, catalogue, standing)
    modules = frozenset(module.key for module in catalogue.modules)
    return Ground(project, standing, kept, injectors, modules, years, seating, places, price)


def _price(project: Project, catalogue: Catalogue, standing: Boxes) -> int:
    """What the standing boxes, injectors and modules cost, owned ones at 0 [minor]."""
    wanted = Counter(standing.boxes) + Counter(dict(standing.extras))
    prices = {model.key: model.price_minor for model in catalogue.models}
    return sum(prices.get(key, 0) * max(0, count - project.owned.get(key, 0)) for key, count in wanted.items())


def _seat(problem: Problem, standing: Boxes, then: Demand) -> tuple[Seating | None, tuple[Place, ...]]:
    """A seating by the horizon, when the boxes bear it."""
    narrowed = given(problem, standing)
    seating = seat_in(*narrowed, standing.before, then.all) if narrowed else None
    return seating, places_of(seating, then) if seating else ()


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
            f"{c.used - g.port_ends:g} drops and closets + {g.port_ends} link ends + {c.growth:g} in reserve "
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
        lambda g: g.project.head_end.units,
        lambda g, drops: sum(box.units for box in g.boxes),
        lambda g, asked: 0,
        lambda g, c: f"{c.used:g} units of boxes in {c.limit:g} of the housing",
        "IEC 60297: one unit is 44.45 mm.",
    ),
    _Kind(
        "sockets", "Sockets", "",
        lambda g: g.project.head_end.sockets,
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
    """Fill of the fullest link; None with one box, or while the drops are not seated."""
    if g.seating is None or not g.seating.links:
        return None
    today = {(asked.drop_id, asked.closet_id): asked.need.traffic_kbit for asked in g.today.live}
    fills = []
    for link in g.seating.links:
        below = _below(g.seating, link.lower)
        here = [place for place in g.places if place.box in below and not place.in_reserve]
        live = sum(today[place.drop_id, place.closet_id] for place in here)
        scale = link.option.rate_mbit * 10
        fills.append((link.traffic_kbit / scale, live / scale))
    worst, live_fill = max(fills)
    all_then = sum(asked.need.traffic_kbit for asked in g.then.all) or 1

    def at(year: int) -> float:
        return worst * sum(asked.need.traffic_kbit for asked in g.years[year].all) / all_then

    return _judged(g, "uplink", "Uplink", "%", round(live_fill, 1), round(worst - live_fill, 1),
                   float(LINK_FILL_PERCENT), at)  # fmt: skip


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
                elif asked.closet_id is not None:
                    label = f"link to {g.project.closets_by_id[asked.closet_id].name}"
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
