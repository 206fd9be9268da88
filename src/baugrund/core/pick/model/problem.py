"""The pick as a problem in whole numbers: needs on one side, box types on the other.

Money in minor units, power in milliwatts, traffic in kbit/s: no float decides what fits.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from fractions import Fraction
from functools import cached_property, partial
from math import gcd
from typing import Literal

from ...demand.needs import Need
from ...facts.building import Closet
from ...facts.catalogue import Catalogue
from ...facts.lines.injector import Injector
from ...facts.lines.module import Module
from ...facts.lines.router import Router
from ...facts.lines.switch import Switch
from ...facts.project import Project
from ...gear.beside import beside_pick
from ...standards.poe_classes import rank
from .filters import lacking, standing_reasons
from .links import LinkOption, LinkTable, LinkWay, Trunk
from .resources import NO_LIMIT, limits_of
from .supply import BoxType, InjectorType, LinkEnd, ModuleType, box_type, mains_mw

Weight = Literal["price", "power"]
"""What is made least: money [minor], or mains draw with port watts [mW]."""


@dataclass(frozen=True, eq=False)
class Problem:
    """Everything that decides the boxes of one closet.

    In the head end the tree hangs off a router; in another closet off a switch where the ``uplink`` ends: ``roots``
    holds what may be its root, each end of the uplink a type of its own.
    """

    needs: tuple[tuple[Need, int], ...]
    """Distinct needs and how many of each, hardest first."""
    roots: tuple[BoxType, ...]
    switches: tuple[BoxType, ...]
    injectors: tuple[InjectorType, ...]
    modules: tuple[ModuleType, ...]
    pins: Mapping[str, int]
    capacities: tuple[int, ...]
    """How much of each resource the closet has, in the order of ``RESOURCES``; `NO_LIMIT` where nobody limits it."""
    chain_allowed: bool
    margin_percent: float = 0.0
    rejected: Mapping[str, str] = field(default_factory=dict)
    """Models that cannot stand in this closet at all, and why."""
    trunks: tuple[Trunk, ...] = ()
    """Links to closets that this one feeds."""
    uplink: Trunk | None = None
    """The link to the closet that feeds this one; None: it is the head end."""
    closet_id: int = 0
    hint: tuple[str, ...] = ()
    """Boxes by key, the root first, that were the best before an edit: tried first, they bound the search."""
    table: LinkTable = field(default_factory=LinkTable, repr=False)
    """Ways to link boxes, found so far; problems with the same supply share it."""

    @property
    def fill_percent(self) -> int:
        """Share of its rate that a link carries at most [%]."""
        return self.table.fill_percent

    @cached_property
    def drops(self) -> int:
        return sum(count for _, count in self.needs)

    @cached_property
    def traffic_kbit(self) -> int:
        """All that arrives in the closet: of its drops and of the closets that it feeds [kbit/s]."""
        return sum(self.traffics_down)

    @cached_property
    def traffics_down(self) -> tuple[int, ...]:
        """Traffic of every drop and of every link to another closet, most first [kbit/s]."""
        drops = [need.traffic_kbit for need, count in self.needs for _ in range(count)]
        return tuple(sorted([*drops, *(trunk.traffic_kbit for trunk in self.trunks)], reverse=True))

    @cached_property
    def powers_down(self) -> tuple[int, ...]:
        """Watts of every powered drop, most first [mW]."""
        return tuple(sorted((n.power_mw for n, c in self.needs if n.poe_rank for _ in range(c)), reverse=True))

    @property
    def boxes(self) -> tuple[BoxType, ...]:
        return (*self.roots, *self.switches)

    @property
    def unit_minor(self) -> int:
        """The greatest common divisor of all prices [minor]."""
        prices = [box.cost_minor for box in self.boxes]
        prices += [injector.price_minor for injector in self.injectors]
        prices += [module.price_minor for module in self.modules]
        return gcd(*prices) or 1

    @cached_property
    def limited(self) -> tuple[int, ...]:
        """Numbers of the resources that the closet has only so much of."""
        return tuple(number for number, there in enumerate(self.capacities) if there < NO_LIMIT)

    @cached_property
    def boxes_most(self) -> int:
        """Most boxes that the closet's resources leave room for: each takes at least what the thriftiest does."""
        least = (min((box.takes[number] for box in self.boxes), default=0) for number in self.limited)
        each = [self.capacities[number] // takes for number, takes in zip(self.limited, least, strict=True) if takes]
        return min(each, default=NO_LIMIT)

    @cached_property
    def injector_takes(self) -> tuple[int, ...]:
        """How much of each resource an injector takes at least."""
        return tuple(
            min((injector.takes[number] for injector in self.injectors), default=0)
            for number in range(len(self.capacities))
        )

    @cached_property
    def injectors_for(self) -> Mapping[Need, tuple[InjectorType, ...]]:
        """Injectors that may serve each need, without those that another (to be had in any number) beats on price, on
        mains draw and on what it takes of the closet."""
        return {need: _worth_having(self.injectors, need) for need, _ in self.needs}

    def link_options(self, upper: BoxType, lower: BoxType) -> tuple[LinkOption, ...]:
        """Ways to link two boxes, cheapest and fastest first; none that another beats on the same ends."""
        return self.table.options(self.modules, upper, lower)

    def ways(self, upper: BoxType, lower: BoxType) -> list[LinkWay]:
        """The ways to hang one box off another that are worth having."""
        return self.table.ways(self.modules, upper, lower, bool(self.trunks))

    def ends(self, box: BoxType) -> tuple[LinkEnd, ...]:
        """Every way to end a link at a box."""
        return self.table.ends(self.modules, box)


def _worth_having(injectors: Sequence[InjectorType], need: Need) -> tuple[InjectorType, ...]:
    if not need.poe_rank:
        return ()
    able = [injector for injector in injectors if injector.serves(need)]
    kept: list[InjectorType] = []
    for injector in sorted(able, key=lambda i: (i.price_minor, i.own_mains_mw, i.index)):
        beaten = any(
            other.most is None
            and all(mine <= theirs for mine, theirs in zip(other.takes, injector.takes, strict=True))
            and other.own_mains_mw <= injector.own_mains_mw
            and other.model.efficiency_percent >= injector.model.efficiency_percent
            for other in kept
        )
        if not beaten:
            kept.append(injector)
    return tuple(kept)


def with_headroom(problem: Problem, headroom: Fraction, strict: bool = False) -> Problem:
    """The same problem with every limit of every box at (1 − headroom) of itself; with ``strict`` under it."""

    def lowered(box: BoxType) -> BoxType | None:
        low = box_type(
            box.model, box.index, box.price_minor, box.most, problem.margin_percent, headroom, strict, box.spares
        )
        return low.with_uplink(box.uplink, box.uplink_ends) if box.uplink else low

    return replace(
        problem,
        roots=tuple(low for box in problem.roots if (low := lowered(box))),
        switches=tuple(low for box in problem.switches if (low := lowered(box))),
    )


def roots_of(switches: Sequence[BoxType], modules: Sequence[ModuleType], uplink: Trunk) -> tuple[BoxType, ...]:
    """Every switch as the one where the uplink of its closet ends, once for every end that differs in what it takes."""
    found: list[BoxType] = []
    for box in switches:
        kept: dict[tuple[object, ...], LinkEnd] = {}
        for end in uplink.ends_at(modules, box):
            if end.module and end.module.most is not None and end.module.most < uplink.ends:
                continue
            limited = end.module.index if end.module and end.module.most is not None else None
            key = (end.port, end.slot, limited)
            if key not in kept or end.price_minor < kept[key].price_minor:
                kept[key] = end
        made = (box.with_uplink(end, uplink.ends) for end in kept.values())
        found += [root for root in made if root is not None]
    return tuple(found)


def build(
    project: Project,
    closet: Closet,
    needs: Iterable[Need],
    catalogue: Catalogue,
    trunks: tuple[Trunk, ...] = (),
    uplink: Trunk | None = None,
) -> Problem:
    """The boxes of one closet as a problem.  The project's pins stay out of it: they are the site's."""
    rejected = standing_reasons(project, catalogue, closet)
    fill = project.settings.link_fill_percent
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
                    # what is owned is complete; what is bought is completed
                    wanted = lacking(model, closet) if most is None else ()
                    spares = tuple(spare for lack in wanted if (spare := catalogue.spare_for(lack)))
                    if len(spares) == len(wanted):
                        whole = price + sum(spare.price_minor for spare in spares)
                        kind.append(box_type(model, index, whole, most, project.settings.margin, spares=spares))
                case Injector():
                    own = mains_mw(model.own_draw_mw, model.efficiency_percent)
                    injectors.append(InjectorType(index, model, price // model.pack, most, rank(model.poe_class), own))
                case Module():
                    of = (index, price // model.pack, most)
                    modules.append(catalogue.once(of, partial(ModuleType, index, model, *of[1:])))
    return Problem(
        needs=tuple(sorted(Counter(needs).items(), reverse=True)),
        roots=tuple(routers) if uplink is None else roots_of(switches, modules, uplink),
        switches=tuple(switches),
        injectors=tuple(injectors),
        modules=tuple(modules),
        pins={},
        capacities=limits_of(closet, beside_pick(project, catalogue, closet)),
        chain_allowed=project.settings.chain_allowed,
        margin_percent=project.settings.margin,
        rejected=rejected,
        trunks=trunks,
        uplink=uplink,
        closet_id=closet.id,
        table=catalogue.once((LinkTable, fill), partial(LinkTable, fill)),
    )
