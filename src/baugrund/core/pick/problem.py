"""The pick as a problem in whole numbers: needs on one side, box types on the other.

Money in minor units, power in milliwatts, traffic in kbit/s: no float decides what fits.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from fractions import Fraction
from functools import cached_property

from ..catalogue import Catalogue, Injector, Module, Router, Switch
from ..demand import Need
from ..project import Project
from ..standards.poe_classes import rank
from ..traffic import LINK_FILL_PERCENT
from .filters import standing_reasons


def mains_mw(load_mw: int, efficiency_percent: int) -> int:
    """Mains draw behind a supply, rounded up to whole milliwatts."""
    return -(-load_mw * 100 // efficiency_percent)


@dataclass(frozen=True)
class PortKind:
    """Equal ports of a box type: count, speed [Mbit/s], highest class as it compares (0: bare)."""

    count: int
    speed_mbit: int
    poe_rank: int


@dataclass(frozen=True, eq=False)
class BoxType:
    """A router or switch at a price: bought (any number) or owned (``most`` copies at price 0)."""

    index: int
    """Place in the catalogue."""
    model: Router | Switch
    price_minor: int
    most: int | None
    ports: tuple[PortKind, ...]
    slots: tuple[tuple[int, int], ...]
    """(count, speed [Mbit/s]) of each slot group."""
    ports_most: int
    """Ports that may be taken, links among them."""
    powered_most: int
    """Devices that may draw power."""
    power_most_mw: int
    """Watts that may be given, margin already taken off."""
    own_mains_mw: int

    @property
    def is_router(self) -> bool:
        return isinstance(self.model, Router)

    @property
    def mass_g(self) -> int:
        return round(self.model.mass_kg * 1000)

    def ports_with(self, speed_mbit: int, poe_rank: int) -> int:
        """Ports of at least this speed and class."""
        return sum(p.count for p in self.ports if p.speed_mbit >= speed_mbit and p.poe_rank >= poe_rank)


@dataclass(frozen=True, eq=False)
class InjectorType:
    """An injector at a price, bought or owned."""

    index: int
    model: Injector
    price_minor: int
    most: int | None
    poe_rank: int
    own_mains_mw: int

    def serves(self, need: Need) -> bool:
        """Whether class cap and speed both suffice."""
        return self.poe_rank >= need.poe_rank and self.model.speed_mbit >= need.speed_mbit


@dataclass(frozen=True, eq=False)
class ModuleType:
    """A pluggable link end at a price, bought or owned."""

    index: int
    model: Module
    price_minor: int
    most: int | None


@dataclass(frozen=True, eq=False)
class LinkEnd:
    """One way to end a link at a box: a port group, or a slot group with a module."""

    port: int | None
    slot: int | None
    module: ModuleType | None
    medium: str
    speed_mbit: int

    @property
    def price_minor(self) -> int:
        return self.module.price_minor if self.module else 0


@dataclass(frozen=True, eq=False)
class LinkOption:
    """A pair of matching ends, its rate [Mbit/s] and what its modules cost."""

    upper: LinkEnd
    lower: LinkEnd
    rate_mbit: int
    price_minor: int

    @property
    def carries_kbit(self) -> int:
        """Traffic that the link may carry [kbit/s]."""
        return self.rate_mbit * 10 * LINK_FILL_PERCENT


@dataclass(frozen=True, eq=False)
class Problem:
    """Everything that decides a pick for one closet."""

    needs: tuple[tuple[Need, int], ...]
    """Distinct needs and how many of each, hardest first."""
    routers: tuple[BoxType, ...]
    switches: tuple[BoxType, ...]
    injectors: tuple[InjectorType, ...]
    modules: tuple[ModuleType, ...]
    pins: Mapping[str, int]
    units: int
    load_g: int
    sockets: int
    ups_outlets: int | None
    chain_allowed: bool
    margin_percent: float = 0.0
    rejected: Mapping[str, str] = field(default_factory=dict)
    """Models that cannot stand in this closet at all, and why."""

    @cached_property
    def drops(self) -> int:
        return sum(count for _, count in self.needs)

    @cached_property
    def traffic_kbit(self) -> int:
        return sum(need.traffic_kbit * count for need, count in self.needs)

    @cached_property
    def traffics_down(self) -> tuple[int, ...]:
        """Traffic of every drop, most first [kbit/s]."""
        return tuple(sorted((need.traffic_kbit for need, count in self.needs for _ in range(count)), reverse=True))

    @cached_property
    def powers_down(self) -> tuple[int, ...]:
        """Watts of every powered drop, most first [mW]."""
        return tuple(sorted((n.power_mw for n, c in self.needs if n.poe_rank for _ in range(c)), reverse=True))

    @cached_property
    def cheapest_module(self) -> int:
        return min((module.price_minor for module in self.modules), default=0)

    def boxes_most(self) -> int:
        """Most boxes that sockets, units and battery outlets leave room for."""
        most = min(self.sockets, self.units)
        return most if self.ups_outlets is None else min(most, self.ups_outlets)

    @cached_property
    def _link_options(self) -> dict[tuple[int, int], tuple[LinkOption, ...]]:
        return {}

    def link_options(self, upper: BoxType, lower: BoxType) -> tuple[LinkOption, ...]:
        """Ways to link two boxes, cheapest and fastest first; none that another beats on the same ends."""
        key = (upper.index, lower.index)
        if key not in self._link_options:
            self._link_options[key] = _link_options(self, upper, lower)
        return self._link_options[key]


def injectors_worth_having(problem: Problem, need: Need) -> list[InjectorType]:
    """Injectors that may serve a need, without those that another (to be had in any number) beats on price and
    on mains draw."""
    if not need.poe_rank:
        return []
    able = [injector for injector in problem.injectors if injector.serves(need)]
    kept: list[InjectorType] = []
    for injector in sorted(able, key=lambda i: (i.price_minor, i.own_mains_mw, i.index)):
        beaten = any(
            other.most is None
            and other.own_mains_mw <= injector.own_mains_mw
            and other.model.efficiency_percent >= injector.model.efficiency_percent
            for other in kept
        )
        if not beaten:
            kept.append(injector)
    return kept


def link_ends(problem: Problem, box: BoxType) -> list[LinkEnd]:
    """Every way to end a link at a box."""
    ends = [LinkEnd(group, None, None, "copper", port.speed_mbit) for group, port in enumerate(box.ports)]
    for group, (_, slot_speed) in enumerate(box.slots):
        for module in problem.modules:
            if module.model.speed_mbit <= slot_speed:
                ends.append(LinkEnd(None, group, module, module.model.medium, module.model.speed_mbit))
    return ends


def _link_options(problem: Problem, upper: BoxType, lower: BoxType) -> tuple[LinkOption, ...]:
    options: dict[tuple[object, ...], LinkOption] = {}
    for a in link_ends(problem, upper):
        for b in link_ends(problem, lower):
            if a.medium != b.medium or (a.medium != "copper" and a.speed_mbit != b.speed_mbit):
                continue
            price = a.price_minor + b.price_minor
            option = LinkOption(a, b, min(a.speed_mbit, b.speed_mbit), price)
            limited = tuple(end.module.index for end in (a, b) if end.module and end.module.most is not None)
            key = (a.port, a.slot, b.port, b.slot, option.rate_mbit, limited)
            if key not in options or price < options[key].price_minor:
                options[key] = option
    return tuple(sorted(options.values(), key=lambda option: (option.price_minor, -option.rate_mbit)))


def box_type(
    box: Router | Switch,
    index: int,
    price_minor: int,
    most: int | None,
    margin_percent: float,
    headroom: Fraction = Fraction(0),
    strict: bool = False,
) -> BoxType:
    """A catalogue box as the solver sees it, each limit lowered by the head-room that is asked of it."""

    def limit(amount: Fraction) -> int:
        lowered = amount * (1 - headroom)
        whole = lowered.numerator // lowered.denominator
        return whole - 1 if strict and whole == lowered else whole

    margin = Fraction(round(margin_percent * 100), 10_000)
    groups: Counter[tuple[int, int]] = Counter()
    for group in box.ports:
        groups[(group.speed_mbit, rank(group.poe_class))] += group.count
    return BoxType(
        index=index,
        model=box,
        price_minor=price_minor,
        most=most,
        ports=tuple(PortKind(count, speed, cap) for (speed, cap), count in sorted(groups.items())),
        slots=tuple((slot.count, slot.speed_mbit) for slot in box.slots),
        ports_most=limit(Fraction(box.port_count)) if box.port_count else 0,
        powered_most=limit(Fraction(box.powered_count)) if box.powered_count else 0,
        power_most_mw=limit(Fraction(box.poe_budget_mw) / (1 + margin)) if box.poe_budget_mw else 0,
        own_mains_mw=mains_mw(box.own_draw_mw, box.efficiency_percent),
    )


def with_headroom(problem: Problem, headroom: Fraction, strict: bool = False) -> Problem:
    """The same problem with every limit of every box at (1 − headroom) of itself; with ``strict`` under it."""

    def lowered(box: BoxType) -> BoxType:
        return box_type(box.model, box.index, box.price_minor, box.most, problem.margin_percent, headroom, strict)

    return replace(
        problem,
        routers=tuple(lowered(box) for box in problem.routers),
        switches=tuple(lowered(box) for box in problem.switches),
    )


def build(project: Project, needs: Iterable[Need], catalogue: Catalogue) -> Problem:
    """The pick of a project's closet as a problem."""
    closet = project.head_end
    rejected = standing_reasons(project, catalogue)
    routers: list[BoxType] = []
    switches: list[BoxType] = []
    injectors: list[InjectorType] = []
    modules: list[ModuleType] = []
    for index, model in enumerate(catalogue.models):
        if model.key in rejected:
            continue
        owned = project.owned.get(model.key, 0)
        offers: list[tuple[int, int | None]] = [(0, owned)] if owned else []
        if model.in_stock:
            offers.append((model.price_minor, None))
        for price, most in offers:
            match model:
                case Router() | Switch():
                    kind = routers if isinstance(model, Router) else switches
                    kind.append(box_type(model, index, price, most, project.settings.margin))
                case Injector():
                    own = mains_mw(model.own_draw_mw, model.efficiency_percent)
                    injectors.append(InjectorType(index, model, price, most, rank(model.poe_class), own))
                case Module():
                    modules.append(ModuleType(index, model, price, most))
    return Problem(
        needs=tuple(sorted(Counter(needs).items(), reverse=True)),
        routers=tuple(routers),
        switches=tuple(switches),
        injectors=tuple(injectors),
        modules=tuple(modules),
        pins={stance.model: stance.pinned for stance in project.stances if stance.pinned},
        units=closet.units,
        load_g=round(closet.load_kg * 1000),
        sockets=closet.sockets,
        ups_outlets=closet.ups_outlets,
        chain_allowed=project.settings.chain_allowed,
        margin_percent=project.settings.margin,
        rejected=rejected,
    )
