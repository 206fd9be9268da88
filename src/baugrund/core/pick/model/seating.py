"""Seats and links: where every drop sits, and what that takes of every box."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from fractions import Fraction

from ...demand.needs import Need
from .links import LinkOption, Trunk
from .supply import BoxType, InjectorType, LinkEnd, ModuleType, mains_mw


@dataclass(frozen=True, eq=False)
class Seat:
    """``count`` drops of one need on one port group of one box, some through an injector."""

    need: Need
    box: int
    port: int
    injector: InjectorType | None
    count: int


@dataclass(frozen=True, eq=False)
class Link:
    """A link of the tree: ``upper`` is nearer the router."""

    upper: int
    lower: int
    option: LinkOption
    traffic_kbit: int


@dataclass(frozen=True, eq=False)
class TrunkSeat:
    """Where the link to a fed closet ends: all its cables or pairs at one box, on one group of ports or slots."""

    trunk: Trunk
    box: int
    end: LinkEnd


@dataclass(frozen=True, eq=False)
class Seating:
    """A complete, feasible way to use a configuration.  ``boxes[0]`` is the root."""

    boxes: tuple[BoxType, ...]
    seats: tuple[Seat, ...]
    links: tuple[Link, ...]
    trunks: tuple[TrunkSeat, ...] = ()

    @property
    def injectors(self) -> Counter[InjectorType]:
        counts: Counter[InjectorType] = Counter()
        for seat in self.seats:
            if seat.injector:
                counts[seat.injector] += seat.count
        return counts

    @property
    def modules(self) -> Counter[ModuleType]:
        """Modules of links between the boxes, of links to fed closets, and of the uplink."""
        counts = self._modules_laid
        uplink = self.boxes[0].uplink
        if uplink and uplink.module:
            counts[uplink.module] += self.boxes[0].uplink_ends
        return counts

    @property
    def _modules_laid(self) -> Counter[ModuleType]:
        counts = Counter(
            end.module for link in self.links for end in (link.option.upper, link.option.lower) if end.module
        )
        for seat in self.trunks:
            if seat.end.module:
                counts[seat.end.module] += seat.trunk.ends
        return counts

    @property
    def extra_minor(self) -> int:
        """Price of injectors and modules, but for those of the uplink."""
        injectors = sum(i.price_minor * count for i, count in self.injectors.items())
        return injectors + sum(m.price_minor * count for m, count in self._modules_laid.items())

    @property
    def price_minor(self) -> int:
        return sum(box.cost_minor for box in self.boxes) + self.extra_minor

    @property
    def taken(self) -> Counter[BoxType | InjectorType | ModuleType]:
        """Every box, injector and module, and how many of each."""
        counts: Counter[BoxType | InjectorType | ModuleType] = Counter(self.boxes)
        counts.update(self.injectors)
        counts.update(self.modules)
        return counts

    @property
    def own_mains_mw(self) -> int:
        """Mains draw of boxes and injectors without port watts."""
        injectors = sum(i.own_mains_mw * count for i, count in self.injectors.items())
        return sum(box.own_mains_mw for box in self.boxes) + injectors

    @property
    def mains_mw(self) -> int:
        """Mains draw with port watts."""
        return self.own_mains_mw + sum(
            seat.count * seat_mains_mw(seat.need, seat.injector or self.boxes[seat.box]) for seat in self.seats
        )

    def ends_on(self, box: int, port: int) -> int:
        """Ports of a group that ends of links take: between boxes, to fed closets, of the uplink."""
        taken = sum((link.upper, link.option.upper.port) == (box, port) for link in self.links)
        taken += sum((link.lower, link.option.lower.port) == (box, port) for link in self.links)
        taken += sum(seat.trunk.ends for seat in self.trunks if (seat.box, seat.end.port) == (box, port))
        uplink = self.boxes[box].uplink
        return taken + (self.boxes[box].uplink_ends if uplink and uplink.port == port else 0)

    def ports_used(self, box: int) -> int:
        """Ports taken on a box, its ends of links among them."""
        seats = sum(seat.count for seat in self.seats if seat.box == box)
        return seats + sum(self.ends_on(box, port) for port in range(len(self.boxes[box].ports)))

    def powered_used(self, box: int) -> int:
        """Devices that draw power from a box."""
        return sum(s.count for s in self.seats if s.box == box and s.need.poe_rank and not s.injector)

    def power_used_mw(self, box: int) -> int:
        """Watts given by a box, without margin [mW]."""
        return sum(s.count * s.need.power_mw for s in self.seats if s.box == box and not s.injector)

    def room(self, margin_percent: float) -> Fraction:
        """Least head-room over every box and each of its limits: 1 − used/limit."""
        margin = Fraction(round(margin_percent * 100), 10_000)
        shares = [Fraction(1)]
        for place, box in enumerate(self.boxes):
            model = box.model
            if model.port_count:
                shares.append(1 - Fraction(self.ports_used(place), model.port_count))
            if model.powered_count:
                shares.append(1 - Fraction(self.powered_used(place), model.powered_count))
                shares.append(1 - self.power_used_mw(place) * (1 + margin) / model.poe_budget_mw)
        return min(shares)


def seat_mains_mw(need: Need, supply: BoxType | InjectorType) -> int:
    """What one drop's watts take from the mains behind the supply that feeds it [mW]."""
    return mains_mw(need.power_mw, supply.model.efficiency_percent) if need.poe_rank else 0
