"""Bearing: for each capacity of the closet what stands on it today, what growth adds, and when it is full."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import Literal, NamedTuple

from ..demand.needs import DropNeed
from ..facts.brief import YEARS_AHEAD
from ..facts.fact import Fact
from ..facts.verbs import VERBS, Verb
from ..footage.kept import footage_of
from ..gear.beside import beside_pick
from ..pick.model import resources
from ..pick.model.links import Trunk
from ..pick.model.places import Place
from ..pick.model.seating import Seating
from ..signal.airtime import RadioLine
from ..signal.told import signal_of
from ..standards.poe_classes import POE_CLASSES, rank
from ..standards.radio import AIRTIME_MOST
from ..words import counted
from .ground import Ground

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
    """First calendar year that these boxes do not bear for want of it; None: not within ten years."""
    verbs: tuple[Verb, ...]
    """Where it is always shown; elsewhere where it does not hold."""
    of: str = ""
    """The box that it is told of, by name; empty: all of them together."""


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


class _Pit(NamedTuple):
    """Which capacity it is, and the verbs where it is always shown."""

    key: str
    name: str
    unit: str
    verbs: tuple[Verb, ...]


@dataclass(frozen=True)
class _Count:
    """A capacity that is counted over all boxes: its amount for some drops, its limit, what a drop takes of it."""

    pit: _Pit
    limit: Callable[[Ground], float]
    amount: Callable[[Ground, Sequence[DropNeed]], float]
    share: Callable[[Ground, DropNeed], float]
    formula: Callable[[Ground, Capacity], str]
    source: str


def _port_watts(rank_: int) -> float:
    return POE_CLASSES[rank_].port_w if rank_ else 0.0


def _best_rank(g: Ground) -> int:
    """The highest class that a port gives, or an injector that a drop sits on."""
    ports = [rank(group.poe_class) for box in g.boxes for group in box.ports]
    seats = g.stand.seated.seats if g.stand.seated else ()
    return max([*ports, *(rank(seat.injector.model.poe_class) for seat in seats if seat.injector)], default=0)


def _powered(drops: Sequence[DropNeed]) -> int:
    return sum(asked.need.poe_rank > 0 for asked in drops)


COUNTS: tuple[_Count, ...] = (
    _Count(
        _Pit("ports", "Ports", "", VERBS),
        lambda g: sum(box.port_count for box in g.boxes),
        lambda g, drops: len(drops) + g.port_ends,
        lambda g, asked: 1,
        lambda g, c: (
            f"{c.used - g.port_ends:g} drops + {g.port_ends} link ends + {c.growth:g} in reserve "
            f"of {c.limit:g} ports"
        ),
        "One port a drop; a link between two boxes takes one at each end.",
    ),
    _Count(
        _Pit("powered", "Powered", "", ("walk", "load", "pick")),
        lambda g: sum(box.powered_count for box in g.boxes) + g.injector_count,
        lambda g, drops: _powered(drops),
        lambda g, asked: float(asked.need.poe_rank > 0),
        lambda g, c: f"{c.used:g} powered drops + {c.growth:g} in reserve of {c.limit:g} powered ports and injectors",
        "IEEE Std 802.3-2022, clauses 33 and 145.",
    ),
    _Count(
        _Pit("per_port", "Per port", "W", ("walk", "load")),
        lambda g: _port_watts(_best_rank(g)),
        lambda g, drops: max((_port_watts(asked.need.poe_rank) for asked in drops), default=0.0),
        lambda g, asked: _port_watts(asked.need.poe_rank),
        lambda g, c: (
            f"highest class asked reserves {c.used + c.growth:g} W; the best port or injector gives {c.limit:g} W"
        ),
        "IEEE Std 802.3-2022, clause 145: power reserved at the port for each class.",
    ),
)  # fmt: skip
WATTS = _Pit("watts", "Watts", "W", VERBS)
AIRTIME = _Pit("airtime", "Airtime", "%", ("cover",))
DISK = _Pit("disk", "Disk", "TB", ("walk", "cover", "load"))
UPLINK = _Pit("uplink", "Uplink", "%", ("reach", "load", "pick"))


def bearing(g: Ground) -> tuple[Capacity, ...]:
    """Every capacity of the closet, in the order of the ground."""
    counts = [_counted(g, kind) for kind in COUNTS]
    found = [*counts, _watts(g), _uplink(g), *(_of_resource(g, resource) for resource in resources.RESOURCES)]
    return tuple(capacity for capacity in found if capacity)


def site_bearing(g: Ground) -> tuple[Capacity, ...]:
    """The capacities of the whole site, on the ground of its head end."""
    return tuple(capacity for capacity in (_airtime(g), _disk(g)) if capacity)


@dataclass(frozen=True)
class _Amounts:
    """What stands on a capacity today, what growth adds, and its limit; as exact as they are, for judging."""

    used: float
    growth: float
    limit: float

    @property
    def over(self) -> float:
        return self.used + self.growth - self.limit


def _counted(g: Ground, kind: _Count) -> Capacity:
    def at(year: int) -> float:
        return kind.amount(g, g.years[year].all)

    used, limit = at(0), kind.limit(g)
    over = next((year for year in range(YEARS_AHEAD + 1) if at(year) > limit), None)
    horizon = g.project.settings.horizon_years
    return _capacity(g, kind.pit, _Amounts(used, at(horizon) - used, limit), over)


def _of_resource(g: Ground, resource: resources.Resource) -> Capacity | None:
    """A resource of the closet that its boxes and injectors take; None where nobody limits it."""
    limit = resource.limit(g.closet)
    if limit is None:
        return None
    pit = _Pit(resource.pit, resource.name, resource.unit, resource.verbs)
    taken = sum(amount for _, amount in _taken(g, resource))
    amounts = _Amounts(taken / resource.per, 0.0, limit / resource.per)
    return _capacity(g, pit, amounts, 0 if taken > limit else None)


def _resource(pit: str) -> resources.Resource | None:
    return next((resource for resource in resources.RESOURCES if resource.pit == pit), None)


def _taken(g: Ground, resource: resources.Resource) -> Iterator[tuple[str, int]]:
    """What each box, thing beside the pick and injector takes of a resource, by name."""
    apart = beside_pick(g.project, g.catalogue, g.closet)
    yield from ((box.name, resource.of_box(box)) for box in g.boxes)
    yield from ((one.name, amount) for one in apart if (amount := resource.of_beside(one)))
    for injector, count in g.injectors:
        amount = resource.of_injector(injector)
        yield from ((injector.name, amount) for _ in range(count) if amount)


def _watts(g: Ground) -> Capacity:
    """Watts of the box that is fullest by the seating; without one, of all boxes together, as far as that says."""
    margin = Fraction(round(g.project.settings.margin * 100), 10_000) + 1
    if g.stand.seated is None:
        drawn = [sorted((asked.need.power_mw for asked in demand.all), reverse=True) for demand in g.years]
        taken = [sum(some[g.injector_count :]) for some in drawn]
        now, then = float(taken[0] * margin / 1000), float(taken[g.project.settings.horizon_years] * margin / 1000)
        limit = sum(box.poe_budget_w for box in g.boxes)
        over = next((year for year, power_mw in enumerate(taken) if power_mw * margin / 1000 > limit), None)
        return _capacity(g, WATTS, _Amounts(now, then - now, limit), over, at_least=len(g.boxes) > 1)
    fills = _watts_by_box(g)
    budgets = {number: box.poe_budget_mw for number, box in enumerate(g.boxes) if box.poe_budget_mw}
    number = max(budgets, key=lambda n: Fraction(sum(fills[n]), budgets[n]), default=None)
    if number is None:
        return _capacity(g, WATTS, _Amounts(0.0, 0.0, 0.0), None)
    live, reserve = (float(power_mw * margin / 1000) for power_mw in fills[number])
    amounts = _Amounts(live, reserve, budgets[number] / 1000)
    return _capacity(g, WATTS, amounts, None, of=g.boxes[number].name if len(budgets) > 1 else "")


def _watts_by_box(g: Ground) -> list[tuple[int, int]]:
    """What live and reserve drops draw from each box by the seating that stands, without margin [mW]."""
    assert g.stand.seated is not None
    fills = [(0, 0)] * len(g.boxes)
    for place, asked in _seated(g):
        if place.powered:
            live, reserve = fills[place.box]
            power_mw = asked.need.power_mw
            fills[place.box] = (live, reserve + power_mw) if place.in_reserve else (live + power_mw, reserve)
    return fills


def _seated(g: Ground) -> Iterator[tuple[Place, DropNeed]]:
    """Every place of the seating that stands, and what is asked for there."""
    live = {asked.drop_id: asked for asked in g.today.live}
    typical = {asked.kind: asked for demand in g.years for asked in demand.reserve}
    for place in g.stand.places:
        yield place, typical[place.kind] if place.drop_id is None else live[place.drop_id]


def _disk(g: Ground) -> Capacity | None:
    """Disk of the recorder that is short first: what its cameras' days come to, of what its volume is filled to."""
    told = [one for one in footage_of(g.project).recorders if one.holds_tb is not None]
    worst = min(told, key=lambda one: (one.holds_tb or 0.0) / one.tb_then if one.tb_then else math.inf, default=None)
    if worst is None:
        return None
    amounts = _Amounts(worst.tb, worst.tb_then - worst.tb, worst.holds_tb or 0.0)
    of = g.project.name_of(g.project.drops_by_id[worst.drop_id]) if len(told) > 1 else ""
    return _capacity(g, DISK, amounts, 0 if amounts.over > OVER else None, of=of)


def _radios(g: Ground) -> list[RadioLine]:
    """Every radio, where anything is known of clients."""
    if not g.project.clients:
        return []
    return [radio for station in signal_of(g.project, g.catalogue).stations for radio in station.radios]


def _airtime(g: Ground) -> Capacity | None:
    """Time of the radio that has least left by the horizon: what its clients and those that it hears ask."""
    radios, growth = _radios(g), 1 + g.project.settings.growth_percent / 100
    worst = max(radios, key=lambda one: one.by_horizon, default=None)
    if worst is None:
        return None
    limit = 100 * AIRTIME_MOST
    over = (year for year in range(YEARS_AHEAD + 1) if 100 * worst.grown(growth**year) > limit + OVER)
    amounts = _Amounts(100 * worst.total, 100 * (worst.by_horizon - worst.total), limit)
    of = f"{g.project.name_of(g.project.drops_by_id[worst.drop_id])}, {worst.band} GHz"
    return _capacity(g, AIRTIME, amounts, next(over, None), of=of)


def _capacity(
    g: Ground, pit: _Pit, amounts: _Amounts, over: int | None, *, of: str = "", at_least: bool = False
) -> Capacity:
    """A capacity with its verdict.

    ``over``: first year in which it alone is asked for more than there is; ``at_least``: by no less than that.
    """
    stand, start, key, unit = g.stand, g.project.settings.start_year, pit.key, pit.unit
    full = over
    if key in stand.short and stand.full is not None:
        full = stand.full if over is None else min(over, stand.full)
    verdict: Verdict = "holds"
    sentence = f"holds past {start + YEARS_AHEAD}"
    if full is not None and full <= g.project.settings.horizon_years:
        verdict = "over"
        sentence = f"full in {start + full}" if full else "the drops cannot be shared among these boxes"
        if amounts.over > OVER:
            amount = f"{round(amounts.over, 2):g} {unit}".strip()
            sentence = f"over by {'at least ' if at_least else ''}{amount}"
    elif full is not None:
        verdict, sentence = "full", f"full in {start + full}"
    elif amounts.over >= -OVER and amounts.limit and key != "per_port":
        verdict, sentence = "full", "full, nothing left"
    elif stand.full is not None and key in BY_SEATING:
        if stand.full == 0:
            verdict, sentence = "full", f"not seated: {stand.why}"
        else:
            sentence = f"holds past {start + stand.full - 1}"
    return Capacity(
        key=key, name=pit.name, unit=unit, verbs=pit.verbs,
        used=round(amounts.used, 2), growth=round(amounts.growth, 2), limit=amounts.limit,
        verdict=verdict, sentence=sentence, of=of,
        full_year=None if full is None else start + full,
    )  # fmt: skip


OVER = 1e-9
"""What sums of floats may miss a limit by."""
BY_SEATING = ("powered", "watts", "uplink")
"""Capacities that only a seating tells: beyond the last year that is borne nothing is said of them."""


def _uplink(g: Ground) -> Capacity | None:
    """Fill of the fullest link, inside the closet or to another; None with none."""
    horizon = g.project.settings.horizon_years
    year = horizon if g.stand.full is None else max(0, min(horizon, g.stand.full - 1))
    by_year = [{trunk.closet_id: trunk for trunk in some} for some in g.links]
    fills = [
        (trunk.traffic_kbit, by_year[0][number].traffic_kbit if number in by_year[0] else 0, trunk.carries_kbit)
        for number, trunk in by_year[year].items()
    ]
    if g.stand.seated is not None:
        fills += _links_inside(g, g.stand.seated, by_year[0])
    if not fills:
        return None
    then, now, carries = max(fills, key=lambda fill: Fraction(fill[0], fill[2]))
    most = g.project.settings.link_fill_percent
    percent = most / carries
    amounts = _Amounts(now * percent, (then - now) * percent, float(most))
    return _capacity(g, UPLINK, amounts, year if then > carries else None)


def _links_inside(g: Ground, seating: Seating, today: Mapping[int, Trunk]) -> Iterator[tuple[int, int, int]]:
    """Of every link inside a closet its traffic by the year that is seated, that of today, and what it carries."""
    seated = list(_seated(g))
    for link in seating.links:
        below = _below(seating, link.lower)
        now = sum(asked.need.traffic_kbit for place, asked in seated if place.box in below and not place.in_reserve)
        further = [seat.trunk.closet_id for seat in seating.trunks if seat.box in below]
        now += sum(today[number].traffic_kbit for number in further if number in today)
        yield link.traffic_kbit, now, link.option.carries_kbit


def _below(seating: Seating, box: int) -> set[int]:
    below = {box}
    while grown := {link.lower for link in seating.links if link.upper in below} - below:
        below |= grown
    return below


def opened(g: Ground, key: str) -> Opened | None:
    """A capacity with the drops or boxes that make it up, its formula and source."""
    capacity = next((capacity for capacity in (*bearing(g), *site_bearing(g)) if capacity.key == key), None)
    if capacity is None:
        return None
    shares, (formula, source) = list(_shares(g, capacity)), _rule(g, capacity)
    if _resource(key) is None:
        shares.sort(key=lambda share: -share.amount)
    return Opened(capacity=capacity, shares=tuple(shares), formula=formula, source=source)


def _shares(g: Ground, capacity: Capacity) -> Iterator[Share]:
    kind = next((kind for kind in COUNTS if kind.pit.key == capacity.key), None)
    if resource := _resource(capacity.key):
        yield from (Share(label=name, amount=amount / resource.per) for name, amount in _taken(g, resource))
    elif capacity.key == "disk":
        yield from (
            Share(
                label=g.project.name_of(g.project.drops_by_id[one.drop_id]),
                amount=round(one.tb, 3),
                drop_id=one.drop_id,
            )
            for one in footage_of(g.project).cameras
            if one.recorder_id is not None
        )
    elif capacity.key == "airtime":
        yield from (
            Share(
                label=f"{g.project.name_of(g.project.drops_by_id[one.drop_id])}, {one.band} GHz",
                amount=round(100 * one.total, 2), drop_id=one.drop_id,
            )
            for one in _radios(g)
        )  # fmt: skip
    elif capacity.key == "watts":
        margin = 1 + g.project.settings.margin / 100
        boxes = [box.name for box in g.boxes]
        for place, asked in _seated(g):
            if place.powered and capacity.of in ("", boxes[place.box]):
                yield _share(g, asked, round(asked.need.power_mw * margin / 1000, 2))
    elif kind:
        for asked in g.then.all:
            amount = kind.share(g, asked)
            if amount:
                yield _share(g, asked, amount)


def _share(g: Ground, asked: DropNeed, amount: float) -> Share:
    if asked.drop_id is None:
        return Share(label=f"in reserve, {asked.kind.replace('_', ' ')}", amount=amount)
    return Share(label=g.project.name_of(g.project.drops_by_id[asked.drop_id]), amount=amount, drop_id=asked.drop_id)


def _rule(g: Ground, c: Capacity) -> tuple[str, str]:
    """The formula with the numbers in it, and its source."""
    if c.key == "watts":
        margin = 1 + g.project.settings.margin / 100
        of = f" of {c.of}" if c.of else ""
        told = f"Σ watts at the ports{of} × {margin:g} = {c.used:g} W + {c.growth:g} W in reserve of {c.limit:g} W"
        budgets = [box.poe_budget_w for box in g.boxes if box.poe_budget_w]
        if c.of:
            all_boxes = sum(map(sum, _watts_by_box(g))) * margin / 1000
            told += (
                f"; all boxes together {all_boxes:,.1f} W of {sum(budgets):,g} W, which no device can draw on as one"
            )
        source = (
            "IEEE Std 802.3-2022: watts at the port of the draw over the run, I = (V − √(V² − 4RP)) / 2R, up to the "
            "next half watt; each device by the box that it is seated on, those on injectors left out."
        )
        return told, source
    if c.key == "uplink":
        told = f"traffic over the fullest link ÷ its rate = {c.used:g} % today, {c.growth:g} % by growth"
        return (
            told,
            "A link is filled to the share of its rate that the project sets; full when no seating carries a year.",
        )
    if c.key == "disk":
        told = f"Σ Mbit/s × duty × 86 400 × days / 8 / 10⁶ = {c.used:g} TB today + {c.growth:g} TB for cameras planned"
        return (
            f"{told} of {c.limit:.4g} TB",
            "0.9 of the usable volume is filled; TB are 10¹² bytes; each camera whole on one.",
        )
    if c.key == "airtime":
        told = f"Σ demand ÷ throughput of {c.of}, own and heard = {c.used:g} % today + {c.growth:g} % by growth"
        return f"{told} of {c.limit:g} %", "A radio is planned for 0.7 of its time; it waits for all that it hears."
    if resource := _resource(c.key):
        boxes, injectors = counted(len(g.boxes), "box", "boxes"), counted(g.injector_count, "injector")
        told = resource.formula.format(boxes=boxes, injectors=injectors, used=c.used, limit=c.limit)
        return told, resource.source
    kind = next(kind for kind in COUNTS if kind.pit.key == c.key)
    return kind.formula(g, c), kind.source
