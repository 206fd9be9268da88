"""What can be had, in whole numbers: box types with their ports and limits, injectors, modules, ends of links.

Money in minor units, power in milliwatts: no float decides what fits.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import cached_property

from ...demand.needs import Need
from ...facts.lines.injector import Injector
from ...facts.lines.module import Module
from ...facts.lines.router import Router
from ...facts.lines.spare import Spare
from ...facts.lines.switch import Switch
from ...standards.poe_classes import rank
from .resources import box_takes, injector_takes


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
class InjectorType:
    """An injector at a price, bought or owned."""

    index: int
    model: Injector
    price_minor: int
    most: int | None
    poe_rank: int
    own_mains_mw: int

    @cached_property
    def takes(self) -> tuple[int, ...]:
        """How much of each resource of its closet one takes."""
        return injector_takes(self.model)

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
class BoxType:
    """A router or switch at a price: bought (any number) or owned (``most`` copies at price 0)."""

    index: int
    """Place in the catalogue."""
    model: Router | Switch
    price_minor: int
    """Of one, with the spares that complete it."""
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
    spares: tuple[Spare, ...] = ()
    """What it comes without and is bought beside it."""
    uplink: LinkEnd | None = None
    """Where the link to the closet that feeds this one ends; its ports or slots are taken off those above."""
    uplink_ends: int = 0
    """How many cables or pairs of strands that link has."""

    @property
    def is_root(self) -> bool:
        """Whether the tree of the closet hangs off this box: the router, or the box where its uplink ends."""
        return self.uplink is not None or isinstance(self.model, Router)

    @property
    def cost_minor(self) -> int:
        """Price with the modules of its uplink."""
        return self.price_minor + (self.uplink.price_minor * self.uplink_ends if self.uplink else 0)

    @property
    def stock(self) -> tuple[int, bool]:
        """What is the same for all copies from one stock: place in the catalogue, bought or owned."""
        return self.index, self.most is None

    @cached_property
    def sorts_of_ends(self) -> tuple[object, ...]:
        """What decides how links may end at it."""
        return tuple(port.speed_mbit if port.count else 0 for port in self.ports), self.slots

    @cached_property
    def takes(self) -> tuple[int, ...]:
        """How much of each resource of its closet one takes."""
        return box_takes(self.model)

    @property
    def slot_count(self) -> int:
        return sum(count for count, _ in self.slots)

    def ports_with(self, speed_mbit: int, poe_rank: int) -> int:
        """Ports of at least this speed and class."""
        return sum(p.count for p in self.ports if p.speed_mbit >= speed_mbit and p.poe_rank >= poe_rank)

    def with_uplink(self, end: LinkEnd, ends: int) -> BoxType | None:
        """The same box as the one where its closet's uplink ends; None: too few ports or slots there."""
        ports, slots = list(self.ports), list(self.slots)
        if end.port is not None:
            ports[end.port] = replace(ports[end.port], count=ports[end.port].count - ends)
        elif end.slot is not None:
            slots[end.slot] = (slots[end.slot][0] - ends, slots[end.slot][1])
        left = self.ports_most - (ends if end.port is not None else 0)
        if left < 0 or any(port.count < 0 for port in ports) or any(count < 0 for count, _ in slots):
            return None
        return replace(
            self, ports=tuple(ports), slots=tuple(slots), ports_most=left, uplink=end, uplink_ends=ends
        )  # fmt: skip


def box_type(
    box: Router | Switch,
    index: int,
    price_minor: int,
    most: int | None,
    margin_percent: float,
    headroom: Fraction = Fraction(0),
    strict: bool = False,
    spares: tuple[Spare, ...] = (),
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
        spares=spares,
    )


def link_ends(modules: Sequence[ModuleType], box: BoxType) -> list[LinkEnd]:
    """Every way to end a link at a box."""
    ends = [LinkEnd(group, None, None, "copper", port.speed_mbit) for group, port in enumerate(box.ports) if port.count]
    for group, (count, slot_speed) in enumerate(box.slots):
        for module in modules:
            if count and module.model.speed_mbit <= slot_speed:
                ends.append(LinkEnd(None, group, module, module.model.medium, module.model.speed_mbit))
    return ends
