"""What a set of boxes can hold at most, without saying where each drop sits.

A box holds no more of an up-set than it has ports, powered ports and watts for, and no more than the traffic that its
own link carries.  A switch enters once for every way that its link may be made: a ``Choice``.  Roots whose links reach
the same rate share a ``LinkClass``.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import accumulate
from typing import TypeVar, cast

import numpy as np
from numpy.typing import NDArray

from ..traffic import carried_kbit
from .links import Trunk, Way, worth_having
from .problem import Problem
from .stand_ins import StandIns
from .supply import BoxType, LinkEnd, mains_mw
from .upsets import UpSets, how_many, up_sets


def fastest_end_mbit(problem: Problem, box: BoxType) -> int:
    """Fastest way to end a link at a box [Mbit/s]."""
    return max((end.speed_mbit for end in problem.ends(box)), default=0)


def link_classes(problem: Problem) -> list[LinkClass]:
    """Roots grouped by the fastest rate that a link below them can have; those that cannot work are left out."""
    sets, stand_ins = up_sets(problem), StandIns(problem)
    groups = sorted(roots_by_rate(problem).items())
    return [LinkClass(problem, roots, rate, sets, stand_ins) for rate, roots in groups]


def roots_by_rate(problem: Problem) -> dict[int, list[BoxType]]:
    """Roots by the fastest rate that a link below them can have [Mbit/s], but those that cannot work."""
    between = max((fastest_end_mbit(problem, box) for box in problem.switches), default=0)
    groups: dict[int, list[BoxType]] = {}
    for root in problem.roots:
        own = fastest_end_mbit(problem, root)
        crossing = problem.traffic_kbit - own_traffic_kbit(problem, root)
        rates = [own] if crossing <= _link_room_kbit(problem, root) else []
        hub_link = carried_kbit(min(own, between))
        if problem.chain_allowed or crossing <= hub_link:
            rates.append(max(between, own))
        if rates:
            groups.setdefault(max(rates), []).append(root)
    return groups


def own_traffic_kbit(problem: Problem, box: BoxType, taken: int = 0) -> int:
    """Most traffic that sits on a box's own ports and slots when so many of them are taken [kbit/s]."""
    ends = box.ports_most + (box.slot_count if problem.trunks else 0) - taken
    return sum(problem.traffics_down[: max(0, ends)])


def _link_room_kbit(problem: Problem, root: BoxType) -> int:
    ends = sum(port.count * port.speed_mbit for port in root.ports)
    if problem.modules:
        ends += sum(count * speed for count, speed in root.slots)
    return carried_kbit(ends)


PRICE, FREE, SLOTS, ENDS, CARRIES, POWER, SOCKETS, UNITS, MASS, HELD = range(10)
"""Columns of the rows that describe choices and sets: what a set gives is the sum over its choices."""

Rows = NDArray[np.int64]
Made = TypeVar("Made")


@dataclass(frozen=True, eq=False)
class Choice:
    """A box together with its link, and what it gives and takes then."""

    box: BoxType
    row: Rows
    """price with link modules [minor], ports and slots left by both ends of its link, slots left that links to fed
    closets may end in, traffic that sits on it [kbit/s], PoE watts [mW], sockets, units, mass [g], then drops held of
    each up-set."""
    way: Way | None = None
    """Its link to the hub, where there is one."""
    in_hub_slot: bool = False
    is_hub: bool = False
    """Whether this is the one copy of a switch that is the hub."""


class LinkClass:
    """Roots whose links reach ``rate_mbit``, and every choice of box behind them."""

    def __init__(
        self, problem: Problem, roots: Sequence[BoxType], rate_mbit: int, up_sets: UpSets, stand_ins: StandIns
    ) -> None:
        """``up_sets`` of the problem, and where its boxes need not be looked at under price."""
        self.problem = problem
        self.rate_mbit = rate_mbit
        self.stand_ins = stand_ins
        self.up_sets = up_sets
        self.asked = np.array([up_set.count for up_set in self.up_sets])
        self.trunks = trunk_ends(problem)
        self.power_mw = sum(need.power_mw * count for need, count in problem.needs)
        self._kept: dict[object, object] = {}
        self._uppers = self._upper_ends(roots)
        self.roots = tuple(Choice(box, self.root_row(box)) for box in roots)

    def __getstate__(self) -> dict[str, object]:
        """Another process makes anew what is kept: some of it is known by who it is for."""
        return {**self.__dict__, "_kept": {}}

    def _upper_ends(self, roots: Sequence[BoxType]) -> list[LinkEnd]:
        """The cheapest upper side of a link at any box, by medium, speed and whether it is a slot."""
        ends: dict[tuple[str, int, bool], LinkEnd] = {}
        for box in (*roots, *self.problem.switches):
            for end in self.problem.ends(box):
                key = (end.medium, end.speed_mbit, end.slot is not None)
                if key not in ends or end.price_minor < ends[key].price_minor:
                    ends[key] = end
        return list(ends.values())

    def choices(self, box: BoxType) -> list[Choice]:
        """A switch with every link worth having, whatever it ends at."""
        ends = self.problem.ends(box)
        ways = self.once(("any", id(ends)), lambda: self._any_ways(ends))
        return [Choice(box, self._make_leaf_row(box, way, any_port=True)) for way in ways]

    def _any_ways(self, ends: Sequence[LinkEnd]) -> list[Way]:
        ways = [
            Way(
                min(upper.speed_mbit, end.speed_mbit, self.rate_mbit),
                upper.price_minor + end.price_minor,
                end.slot is not None,
                upper.slot is not None,
            )
            for end in ends
            for upper in self._uppers
            if upper.medium == end.medium and (end.medium == "copper" or upper.speed_mbit == end.speed_mbit)
        ]
        return worth_having(ways, bool(self.problem.trunks), Way.stands_for)

    def once(self, key: object, make: Callable[[], Made]) -> Made:
        """What is the same whenever it is asked for."""
        if key not in self._kept:
            self._kept[key] = make()
        return cast(Made, self._kept[key])

    def root_row(self, root: BoxType, way: Way | None = None) -> Rows:
        """What a root gives and takes; with its one link to a hub made that way."""
        return self.once(("root", root, way), lambda: self._make_root_row(root, way))

    def _make_root_row(self, root: BoxType, way: Way | None) -> Rows:
        ports = self._own_ports(root, way.rate_mbit) if way and not way.upper_in_slot else [None]
        slots = root.slot_count if self.problem.modules else 0
        return self._row(root, root.cost_minor, root.ports_most, slots, self._trunk_slots(root),
                         own_traffic_kbit(self.problem, root), self._held(root, None, ports))  # fmt: skip

    def hub_row(self, hub: BoxType, on_ports: tuple[int, ...], own: Way | None) -> Rows:
        """What a hub gives when links of these rates end on its ports; ``own`` is its link to the root, if it is not
        it."""
        return self.once(("hub", hub, on_ports, own), lambda: self._make_hub_row(hub, on_ports, own))

    def _make_hub_row(self, hub: BoxType, on_ports: tuple[int, ...], own: Way | None) -> Rows:
        row = (self.root_row(hub) if own is None else self.row(hub, own)).copy()
        for place, up_set in enumerate(self.up_sets):
            row[HELD + place] = min(row[HELD + place], up_set.left_by_links(hub, on_ports))
        return row

    def bare_row(self, hub: BoxType) -> Rows:
        """What a hub gives and takes beside its links; what it holds is counted apart."""
        slots = hub.slot_count if self.problem.modules else 0
        traffic = own_traffic_kbit(self.problem, hub)
        none = [0] * len(self.up_sets)
        return self._row(hub, hub.cost_minor, hub.ports_most, slots, self._trunk_slots(hub), traffic, none)

    def rooted_rows(self, root: BoxType, hub: BoxType) -> list[tuple[Way, Rows]]:
        """The ways to hang a hub off a root, and what the root and that link give and take together."""
        return self.once(("rooted", root, hub), lambda: self._make_rooted_rows(root, hub))

    def _make_rooted_rows(self, root: BoxType, hub: BoxType) -> list[tuple[Way, Rows]]:
        crossing = self.problem.traffic_kbit - own_traffic_kbit(self.problem, root)
        found = []
        for way in self.ways(root, hub):
            if way.carries_kbit >= crossing:
                row = self.root_row(root, way).copy()
                in_slots = way.lower_in_slot + way.upper_in_slot
                row[PRICE] += way.price_minor
                row[FREE] -= 2 - in_slots
                row[SLOTS] -= in_slots
                row[ENDS] -= way.lower_in_slot and self._takes_end(hub)
                row[ENDS] -= way.upper_in_slot and self._takes_end(root)
                found.append((way, row))
        return found

    def ways(self, upper: BoxType, lower: BoxType) -> list[Way]:
        """The ways to hang one box off another that are worth having."""
        return self.problem.ways(upper, lower)

    def row(self, box: BoxType, way: Way) -> Rows:
        """What a switch gives and takes with its own link made this way; both ends are charged to it."""
        return self.once(("leaf", box, way), lambda: self._make_leaf_row(box, way, any_port=False))

    def _make_leaf_row(self, box: BoxType, way: Way, *, any_port: bool) -> Rows:
        """``any_port``: the link may end on a slower port than it asks for, for the way stands for slower ones too."""
        slots = box.slot_count if self.problem.modules else 0
        ports = [None] if way.lower_in_slot else self._own_ports(box, 0 if any_port else way.rate_mbit)
        in_slots = way.lower_in_slot + way.upper_in_slot
        return self._row(
            box, box.price_minor + way.price_minor, box.ports_most - 2 + in_slots, slots - in_slots,
            self._trunks_behind(box, way) - (way.upper_in_slot and self._all_take_ends),
            min(way.carries_kbit, own_traffic_kbit(self.problem, box, 0 if way.lower_in_slot else 1)),
            self._held(box, way.carries_kbit, ports),
        )  # fmt: skip

    def _held(self, box: BoxType, carries_kbit: int | None, link_ports: Sequence[int | None]) -> Rows:
        def hold() -> Rows:
            held = self.up_sets.held(box, carries_kbit, link_ports[0])
            for port in link_ports[1:]:
                held = np.maximum(held, self.up_sets.held(box, carries_kbit, port))
            return held

        return self.once(("held", box, carries_kbit, *link_ports), hold)

    def holds(self, box: BoxType) -> Rows:
        """How many drops of each up-set a box holds at most, behind no link."""
        return self._held(box, None, [None])

    def fed_mw(self, box: BoxType) -> int:
        """Most watts that a box can give: its budget, or what the hungriest drops on its powered ports draw [mW]."""
        return self.once(("fed", box), lambda: min(box.power_most_mw, self._drawn_mw(box)))

    def _drawn_mw(self, box: BoxType) -> int:
        """What the hungriest drops draw that powered ports of a box can serve by their class."""
        ranks = sorted({port.poe_rank for port in box.ports if port.poe_rank})
        left = {rank: sum(port.count for port in box.ports if port.poe_rank >= rank) for rank in ranks}
        drawn, still = 0, box.powered_most
        for power_mw, rank, count in self._hungriest:
            # a port serves its class and all lower ones, so sets of ports are nested and greed is best
            reached = min((other for other in ranks if other >= rank), default=0)
            some = min(count, still, *(left[other] for other in ranks if other <= reached)) if reached else 0
            still -= some
            drawn += some * power_mw
            left = {other: many - some if other <= reached else many for other, many in left.items()}
        return drawn

    @cached_property
    def _hungriest(self) -> list[tuple[int, int, int]]:
        """Watts [mW], class rank and number of powered drops, the hungriest first."""
        return sorted(((n.power_mw, n.poe_rank, count) for n, count in self.problem.needs if n.poe_rank), reverse=True)

    @cached_property
    def groups(self) -> list[frozenset[BoxType]]:
        """Boxes that are counted together: those that can hold some of each up-set, but for those that all can."""
        boxes = (*(choice.box for choice in self.roots), *self.problem.switches)
        holds = np.array([self.holds(box) > 0 for box in boxes])
        able = {frozenset(box for box, can in zip(boxes, column, strict=True) if can): None for column in holds.T}
        return [some for some in able if 1 < len(some) < len(boxes)]

    def _trunk_slots(self, box: BoxType) -> int:
        """Slots of a box that links to fed closets may end in."""
        return self.once(("ends", box), lambda: sum(box.slots[group][0] for group in self._trunk_groups(box)))

    def _trunk_groups(self, box: BoxType) -> set[int]:
        trunks = self.problem.trunks
        ends = self.problem.ends(box) if trunks else ()
        return {end.slot for end in ends if end.slot is not None and any(trunk.takes(end) for trunk in trunks)}

    def _trunks_behind(self, box: BoxType, way: Way) -> int:
        """How many links to fed closets may end at a switch behind a link made this way: in slots for which its own
        link leaves room, and of no more traffic than it carries."""
        there = self._trunk_slots(box) - (way.lower_in_slot and self._takes_end(box))
        return min(there, how_many(self._trunks_summed, way.carries_kbit))

    @cached_property
    def _trunks_summed(self) -> list[int]:
        """Traffic of the least busy end of links to fed closets, of the two least busy, and so on [kbit/s]."""
        ends = [trunk.traffic_kbit // trunk.ends for trunk in self.problem.trunks for _ in range(trunk.ends)]
        return [*accumulate(sorted(ends))]

    def _takes_end(self, box: BoxType) -> bool:
        """Whether a link in any slot of a box takes one that links to fed closets may end in."""
        return self._trunk_slots(box) == box.slot_count

    @cached_property
    def _all_take_ends(self) -> bool:
        """Whether that is so of every box."""
        return all(map(self._takes_end, self.problem.boxes))

    def _row(
        self, box: BoxType, price: int, free: int, slots: int, ends: int, carries: int, held: Sequence[int] | Rows
    ) -> Rows:
        row = np.empty(HELD + len(held), dtype=np.int64)
        row[:HELD] = price, free, slots, ends, carries, self.fed_mw(box), box.model.sockets, box.model.units, box.mass_g
        row[HELD:] = held
        return row

    def _own_ports(self, box: BoxType, rate_mbit: int) -> list[int | None]:
        """The port groups that a link of this rate may end on."""
        return [n for n, port in enumerate(box.ports) if port.count and port.speed_mbit >= rate_mbit] or [None]

    @cached_property
    def _cures(self) -> list[tuple[int | None, list[int]]]:
        """Least prices of an injector that mends a shortage, dearest first (None: none does), and the columns of the
        up-sets that ask for that price."""
        prices = {up_set.cure_minor for up_set in self.up_sets}
        dearest = sorted((price for price in prices if price is not None), reverse=True)
        columns = {price: [n for n, u in enumerate(self.up_sets) if u.cure_minor == price] for price in prices}
        return [(price, columns[price]) for price in ([None] if None in prices else []) + dearest]

    @cached_property
    def _cheapest_injector(self) -> int | None:
        return min((injector.price_minor for injector in self.problem.injectors), default=None)

    @cached_property
    def _leaving(self) -> Rows:
        """Most watts that 1, 2, ... devices take away when they leave the boxes' budget [mW]."""
        return np.cumsum(np.array(self.problem.powers_down, dtype=np.int64))

    def least_price(self, sets: Rows, boxes: int) -> Rows:
        """Least price of each set with its injectors and modules [minor]; −1 where no packing can exist."""
        problem = self.problem
        trunks = self.trunks
        spare_slots = np.minimum(sets[:, SLOTS], sets[:, ENDS] if problem.trunks else sets[:, SLOTS]) - trunks.in_slots
        lacking = np.maximum(problem.drops + trunks.on_ports - sets[:, FREE], 0)
        possible = (spare_slots >= 0) & (lacking <= np.minimum(spare_slots, trunks.may_move))
        possible &= sets[:, CARRIES] >= problem.traffic_kbit
        possible &= (sets[:, UNITS] <= problem.units) & (sets[:, MASS] <= problem.load_g)
        short = self.asked - sets[:, HELD:]
        cost, count = np.zeros((2, len(sets)), dtype=np.int64)
        for cure_minor, columns in self._cures:
            worst = short[:, columns].max(axis=1)
            if cure_minor is None:
                possible &= worst <= 0
            else:
                more = np.maximum(worst - count, 0)
                cost += more * cure_minor
                count += more
        over = self.power_mw - sets[:, POWER]
        if over.max() > 0:
            by_watts = np.where(over > 0, np.searchsorted(self._leaving, over) + 1, 0)
            if self._cheapest_injector is not None:
                cost = np.maximum(cost, by_watts * self._cheapest_injector)
                count = np.maximum(count, by_watts)
            else:
                possible &= by_watts == 0
        possible &= sets[:, SOCKETS] + count <= problem.sockets
        if problem.ups_outlets is not None:
            possible &= boxes + count <= problem.ups_outlets
        price = sets[:, PRICE] + cost + trunks.least_minor + lacking * trunks.move_minor
        return np.where(possible, price, -1)


@dataclass(frozen=True)
class EndsTaken:
    """Ends of links to fed closets together: those that must be in slots, those that may be on ports, and prices."""

    in_slots: int
    on_ports: int
    may_move: int
    """How many of those on ports could be in slots."""
    least_minor: int
    """Least price of the modules of those in slots."""
    move_minor: int
    """Least price of a module that takes one from a port to a slot."""


def trunk_ends(problem: Problem) -> EndsTaken:
    """The ends that links to fed closets take."""

    def module_minor(trunk: Trunk) -> int | None:
        slots = (LinkEnd(None, 0, module, module.model.medium, module.model.speed_mbit) for module in problem.modules)
        return min((end.price_minor for end in slots if trunk.takes(end)), default=None)

    fibre = [trunk for trunk in problem.trunks if trunk.medium != "copper"]
    copper = [(trunk, module_minor(trunk)) for trunk in problem.trunks if trunk.medium == "copper"]
    return EndsTaken(
        in_slots=sum(trunk.ends for trunk in fibre),
        on_ports=sum(trunk.ends for trunk, _ in copper),
        may_move=sum(trunk.ends for trunk, price in copper if price is not None),
        least_minor=sum(trunk.ends * (module_minor(trunk) or 0) for trunk in fibre),
        move_minor=min((price for _, price in copper if price is not None), default=0),
    )


def least_mains(problem: Problem, boxes: Sequence[BoxType]) -> int:
    """Least mains draw with port watts of a set [mW]: the thriftiest supplies give all they can first."""
    supplies = [(box.model.efficiency_percent, box.power_most_mw) for box in boxes if box.power_most_mw]
    supplies += [(injector.model.efficiency_percent, 10**12) for injector in problem.injectors]
    supplies.sort(reverse=True)
    own = sum(box.own_mains_mw for box in boxes)
    if not supplies:
        return own
    thriftiest = supplies[0][0]
    by_drop = sum(mains_mw(power, thriftiest) for power in problem.powers_down)
    left, by_watts = sum(problem.powers_down), 0
    for efficiency, power in supplies:
        given = min(left, power)
        by_watts += given * 100 // efficiency
        left -= given
    return own + max(by_drop, by_watts)
