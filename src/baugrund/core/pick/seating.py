"""Seats and links: where every drop sits.  A quick way to find a good seating; ``packing`` finds the best."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from fractions import Fraction

from ..demand import Need
from .problem import (
    BoxType,
    InjectorType,
    LinkOption,
    ModuleType,
    Problem,
    injectors_worth_having,
    mains_mw,
)

UNLIMITED = 10**12


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
class Seating:
    """A complete, feasible way to use a set of boxes.  ``boxes[0]`` is the router."""

    boxes: tuple[BoxType, ...]
    seats: tuple[Seat, ...]
    links: tuple[Link, ...]

    @property
    def injectors(self) -> Counter[InjectorType]:
        counts: Counter[InjectorType] = Counter()
        for seat in self.seats:
            if seat.injector:
                counts[seat.injector] += seat.count
        return counts

    @property
    def modules(self) -> Counter[ModuleType]:
        return Counter(
            end.module for link in self.links for end in (link.option.upper, link.option.lower) if end.module
        )

    @property
    def extra_minor(self) -> int:
        """Price of injectors and modules."""
        injectors = sum(i.price_minor * count for i, count in self.injectors.items())
        return injectors + sum(m.price_minor * count for m, count in self.modules.items())

    @property
    def price_minor(self) -> int:
        return sum(box.price_minor for box in self.boxes) + self.extra_minor

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

    def ports_used(self, box: int) -> int:
        """Ports taken on a box, its ends of links among them."""
        seats = sum(seat.count for seat in self.seats if seat.box == box)
        ends = [link.option.upper for link in self.links if link.upper == box]
        ends += [link.option.lower for link in self.links if link.lower == box]
        return seats + sum(end.port is not None for end in ends)

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


def quick_seating(problem: Problem, boxes: Sequence[BoxType]) -> Seating | None:
    """A feasible star seating found greedily, or None when the greedy way finds none."""
    hubs = [hub for hub, box in enumerate(boxes) if box not in boxes[:hub]]
    for spare_power in (False, True):
        for hub in hubs:
            seating = _Greedy(problem, boxes, hub, spare_power).seat()
            if seating:
                return seating
    return None


class _Greedy:
    """Links first, then the hardest drops first, each on the least port that serves it.

    Links take what costs least, or (``spare_power``) first of all leave powered ports to the drops.
    """

    def __init__(self, problem: Problem, boxes: Sequence[BoxType], hub: int, spare_power: bool) -> None:
        self.spare_power = spare_power
        self.injectors_left = {i: i.most for i in problem.injectors if i.most is not None}
        self.problem = problem
        self.boxes = tuple(boxes)
        self.hub = hub
        self.free = [[port.count for port in box.ports] for box in boxes]
        self.ports_left = [box.ports_most for box in boxes]
        self.slots_left = [[count for count, _ in box.slots] for box in boxes]
        self.powered_left = [box.powered_most for box in boxes]
        self.power_left = [box.power_most_mw for box in boxes]
        self.link_left = [UNLIMITED] * len(boxes)
        self.hub_link_left = UNLIMITED
        """Traffic that each switch's link, and the link from router to hub, still carries [kbit/s]."""
        self.seats: Counter[tuple[int, int, int, InjectorType | None]] = Counter()

    def seat(self) -> Seating | None:
        links = self._link()
        if links is None:
            return None
        for upper, lower, option in links:
            if (upper, lower) == (0, self.hub):
                self.hub_link_left = option.carries_kbit
            else:
                self.link_left[lower] = option.carries_kbit
        if not self._seat_all() or not self._frames_pass() or not self._sockets_suffice():
            return None
        behind = [0] * len(self.boxes)
        for (need, box, _, _), count in self.seats.items():
            behind[box] += self.problem.needs[need][0].traffic_kbit * count
        total = sum(behind)
        flowing = tuple(
            Link(upper, lower, option, total - behind[0] if (upper, lower) == (0, self.hub) else behind[lower])
            for upper, lower, option in links
        )
        seats = tuple(
            Seat(self.problem.needs[need][0], box, port, injector, count)
            for (need, box, port, injector), count in self.seats.items()
        )
        return Seating(self.boxes, seats, flowing)

    def _link(self) -> list[tuple[int, int, LinkOption]] | None:
        pairs = [(0, self.hub)] if self.hub else []
        pairs += [(self.hub, place) for place in range(1, len(self.boxes)) if place != self.hub]
        links = []
        for upper, lower in pairs:
            options = self.problem.link_options(self.boxes[upper], self.boxes[lower])
            free = [option for option in options if self._may_take(upper, lower, option)]
            if not free:
                return None
            option = min(free, key=lambda o: self._link_worth(upper, lower, o))
            self._take_end(upper, option.upper.port, option.upper.slot)
            self._take_end(lower, option.lower.port, option.lower.slot)
            links.append((upper, lower, option))
        return links

    def _may_take(self, upper: int, lower: int, option: LinkOption) -> bool:
        """Whether both ends are free; modules that are owned in limited number are left to the packing."""
        ends = ((upper, option.upper), (lower, option.lower))
        return all(
            self._is_free(box, end.port, end.slot) and not (end.module and end.module.most is not None)
            for box, end in ends
        )

    def _is_free(self, box: int, port: int | None, slot: int | None) -> bool:
        if port is not None:
            return self.free[box][port] > 0 and self.ports_left[box] > 0
        return slot is not None and self.slots_left[box][slot] > 0

    def _take_end(self, box: int, port: int | None, slot: int | None) -> None:
        if port is not None:
            self.free[box][port] -= 1
            self.ports_left[box] -= 1
        elif slot is not None:
            self.slots_left[box][slot] -= 1

    def _link_worth(self, upper: int, lower: int, option: LinkOption) -> tuple[int, int, int]:
        ends = ((upper, option.upper.port), (lower, option.lower.port))
        wasted = sum(port is not None and self.boxes[box].ports[port].poe_rank > 0 for box, port in ends)
        first, second = (wasted, option.price_minor) if self.spare_power else (option.price_minor, wasted)
        return first, second, -option.rate_mbit

    def _seat_all(self) -> bool:
        leftover: list[tuple[int, int]] = []
        for number, (need, count) in enumerate(self.problem.needs):
            rest = self._seat_some(number, need, count, None)
            if rest:
                leftover.append((number, rest))
        return all(self._inject(number, count) for number, count in leftover)

    def _inject(self, number: int, count: int) -> bool:
        """Seat drops through injectors, the cheapest that is left first."""
        need = self.problem.needs[number][0]
        for injector in injectors_worth_having(self.problem, need):
            some = min(count, self.injectors_left.get(injector, count))
            rest = self._seat_some(number, need, some, injector)
            if injector in self.injectors_left:
                self.injectors_left[injector] -= some - rest
            count -= some - rest
            if not count:
                return True
        return False

    def _seat_some(self, number: int, need: Need, count: int, injector: InjectorType | None) -> int:
        """Seat up to ``count`` drops; returns how many are left over."""
        powered = bool(need.poe_rank) and injector is None
        while count:
            places = list(self._places(need, powered))
            if not places:
                return count
            box, port = min(places, key=lambda place: self._worth(place, powered))
            self.seats[number, box, port, injector] += 1
            self.free[box][port] -= 1
            self.ports_left[box] -= 1
            self.link_left[box] -= need.traffic_kbit
            if box:
                self.hub_link_left -= need.traffic_kbit
            if powered:
                self.powered_left[box] -= 1
                self.power_left[box] -= need.power_mw
            count -= 1
        return 0

    def _places(self, need: Need, powered: bool) -> Iterable[tuple[int, int]]:
        for place, box in enumerate(self.boxes):
            if self._link_room(place) < need.traffic_kbit:
                continue
            if not self.ports_left[place] or (need.large_frames and not box.model.large_frames):
                continue
            if powered and (not self.powered_left[place] or self.power_left[place] < need.power_mw):
                continue
            for group, port in enumerate(box.ports):
                strong = not powered or port.poe_rank >= need.poe_rank
                if strong and self.free[place][group] and port.speed_mbit >= need.speed_mbit:
                    yield place, group

    def _link_room(self, place: int) -> int:
        return min(self.link_left[place], self.hub_link_left) if place else UNLIMITED

    def _worth(self, place: tuple[int, int], powered: bool) -> tuple[int, ...]:
        """The least capable port first; then the box with most watts, or with most room on its link."""
        box, group = place
        port = self.boxes[box].ports[group]
        room = self.power_left[box] if powered else self._link_room(box)
        return port.poe_rank, port.speed_mbit, -room, box

    def _frames_pass(self) -> bool:
        asking = {box for (need, box, _, _), _ in self.seats.items() if self.problem.needs[need][0].large_frames}
        return len(asking) < 2 or self.boxes[self.hub].model.large_frames

    def _sockets_suffice(self) -> bool:
        injectors = sum(count for (_, _, _, injector), count in self.seats.items() if injector)
        problem = self.problem
        if problem.ups_outlets is not None and len(self.boxes) + injectors > problem.ups_outlets:
            return False
        return sum(box.model.sockets for box in self.boxes) + injectors <= problem.sockets
