"""What a set of boxes can hold at most, without saying where each drop sits.

An *up-set* is all drops of at least some speed and class.  A box holds no more of them than it has ports, powered
ports and watts for, and no more than the traffic that its own link carries.  A switch enters once for every rate
that its link may have, with what such a link costs: a ``Choice``.  Routers whose links reach the same rate share a
``LinkClass``.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from ..traffic import LINK_FILL_PERCENT
from .problem import BoxType, Problem, link_ends, mains_mw


@dataclass(frozen=True)
class UpSet:
    """All needs of at least this speed and class, how many drops that is, their watts and traffic, least first."""

    speed_mbit: int
    poe_rank: int
    count: int
    powers_mw: tuple[int, ...]
    traffics_kbit: tuple[int, ...]
    members: tuple[int, ...]
    """Numbers of the needs inside."""


def up_sets(problem: Problem) -> list[UpSet]:
    """Every distinct up-set of a problem's needs."""
    speeds = sorted({need.speed_mbit for need, _ in problem.needs}, reverse=True)
    found: list[UpSet] = []
    for poe_rank in sorted({need.poe_rank for need, _ in problem.needs} | {0}):
        last = 0
        for speed in speeds:
            inside = [
                (number, need, count)
                for number, (need, count) in enumerate(problem.needs)
                if need.speed_mbit >= speed and need.poe_rank >= poe_rank
            ]
            total = sum(count for _, _, count in inside)
            if total > last:
                powers = sorted(need.power_mw for _, need, count in inside for _ in range(count))
                traffics = sorted(need.traffic_kbit for _, need, count in inside for _ in range(count))
                members = tuple(number for number, _, _ in inside)
                found.append(UpSet(speed, poe_rank, total, tuple(powers), tuple(traffics), members))
                last = total
    return found


def _how_many(amounts: Sequence[int], room: int) -> int:
    """How many of these (least first) go into a room."""
    for count, amount in enumerate(amounts):
        room -= amount
        if room < 0:
            return count
    return len(amounts)


def fastest_end_mbit(problem: Problem, box: BoxType) -> int:
    """Fastest way to end a link at a box [Mbit/s]."""
    return max((end.speed_mbit for end in link_ends(problem, box)), default=0)


def link_classes(problem: Problem) -> list[LinkClass]:
    """Routers grouped by the fastest rate that a link below them can have; those that cannot work are left out."""
    between = max((fastest_end_mbit(problem, box) for box in problem.switches), default=0)
    groups: dict[int, list[BoxType]] = {}
    for router in problem.routers:
        own = fastest_end_mbit(problem, router)
        crossing = problem.traffic_kbit - own_traffic_kbit(problem, router)
        rates = [own] if crossing <= _link_room_kbit(problem, router) else []
        hub_link = min(own, between) * 10 * LINK_FILL_PERCENT
        if problem.chain_allowed or crossing <= hub_link:
            rates.append(max(between, own))
        if rates:
            groups.setdefault(max(rates), []).append(router)
    return [LinkClass(problem, routers, rate) for rate, routers in sorted(groups.items())]


def own_traffic_kbit(problem: Problem, router: BoxType) -> int:
    """Most traffic that a router can take on its own ports, crossing no link."""
    return sum(problem.traffics_down[: router.ports_most])


def _link_room_kbit(problem: Problem, router: BoxType) -> int:
    ends = sum(port.count * port.speed_mbit for port in router.ports)
    if problem.modules:
        ends += sum(count * speed for count, speed in router.slots)
    return ends * 10 * LINK_FILL_PERCENT


PRICE, LINK, PORTS, ENDS, CARRIES, POWER, SOCKETS, UNITS, MASS, HELD = range(10)
"""Columns of the rows that describe choices and sets: what a set gives is the sum over its choices."""
TAKEN = [PRICE, LINK, SOCKETS, UNITS, MASS]
"""Columns of which less is better; of all others more is."""

Rows = NDArray[np.int64]


@dataclass(frozen=True, eq=False)
class Choice:
    """A box together with the rate of its link towards the router, and what it gives and takes then."""

    box: BoxType
    row: Rows
    """price with link modules [minor], the modules [minor], ports, link and drop ends less its own link's two,
    traffic on or behind it [kbit/s], PoE watts [mW], sockets, units, mass [g], then drops held of each up-set."""


class LinkClass:
    """Routers whose links reach ``rate_mbit``, and every choice of box behind them."""

    def __init__(self, problem: Problem, routers: Sequence[BoxType], rate_mbit: int) -> None:
        self.problem = problem
        self.rate_mbit = rate_mbit
        self.up_sets = up_sets(problem)
        self.asked = np.array([up_set.count for up_set in self.up_sets])
        self.power_mw = sum(need.power_mw * count for need, count in problem.needs)
        self._rows: dict[tuple[BoxType, int, int], Rows] = {}
        self.routers = tuple(Choice(box, self.router_row(box)) for box in routers)
        self._uppers = self._upper_ends(routers)

    def _upper_ends(self, routers: Sequence[BoxType]) -> dict[tuple[str, int], int]:
        """Least price at which any box ends the upper side of a link, by medium and speed."""
        prices: dict[tuple[str, int], int] = {}
        for box in (*routers, *self.problem.switches):
            for end in link_ends(self.problem, box):
                key = (end.medium, end.speed_mbit)
                prices[key] = min(prices.get(key, end.price_minor), end.price_minor)
        return prices

    def choices(self, box: BoxType, money_counts: bool) -> list[Choice]:
        """A switch with every rate of link worth having: each faster one costs more (or only the fastest)."""
        links: list[tuple[int, int]] = []
        for end in link_ends(self.problem, box):
            for (medium, speed), price in self._uppers.items():
                if medium == end.medium and (medium == "copper" or speed == end.speed_mbit):
                    rate = min(speed, end.speed_mbit, self.rate_mbit)
                    links.append((-rate, price + end.price_minor if money_counts else 0))
        kept: list[tuple[int, int]] = []
        for rate, price in sorted(links):
            if not kept or price < kept[-1][1]:
                kept.append((rate, price))
        return [Choice(box, self.row(box, -rate, price)) for rate, price in kept]

    def router_row(self, router: BoxType) -> Rows:
        """What a router gives and takes."""
        return self.row(router, 0, 0)

    def row(self, box: BoxType, rate_mbit: int, link_minor: int) -> Rows:
        """What a box gives and takes with its link at this rate and price."""
        key = (box, rate_mbit, link_minor)
        if key not in self._rows:
            self._rows[key] = self._make_row(box, rate_mbit, link_minor)
        return self._rows[key]

    def _make_row(self, box: BoxType, rate_mbit: int, link_minor: int) -> Rows:
        slots = sum(count for count, _ in box.slots) if self.problem.modules else 0
        carries = own_traffic_kbit(self.problem, box) if box.is_router else rate_mbit * 10 * LINK_FILL_PERCENT
        ends = box.ports_most + slots - (0 if box.is_router else 2)
        held = [self._held(box, up_set, carries) for up_set in self.up_sets]
        row = [box.price_minor + link_minor, link_minor, box.ports_most, ends, carries, box.power_most_mw,
               box.model.sockets, box.model.units, box.mass_g, *held]  # fmt: skip
        return np.array(row, dtype=np.int64)

    def _held(self, box: BoxType, up_set: UpSet, carries_kbit: int) -> int:
        held = min(box.ports_with(up_set.speed_mbit, up_set.poe_rank), box.ports_most)
        if up_set.poe_rank:
            held = min(held, box.powered_most)
            held = min(held, _how_many(up_set.powers_mw[:held], box.power_most_mw))
        if not box.is_router:
            held = min(held, _how_many(up_set.traffics_kbit[:held], carries_kbit))
        return held

    @cached_property
    def _injector_prices(self) -> dict[int, int]:
        """For each class rank that is asked the least price of an injector that gives at least that."""
        prices: dict[int, int] = {}
        for poe_rank in {need.poe_rank for need, _ in self.problem.needs if need.poe_rank}:
            able = [i.price_minor for i in self.problem.injectors if i.poe_rank >= poe_rank]
            if able:
                prices[poe_rank] = min(able)
        return prices

    @cached_property
    def _by_rank(self) -> list[tuple[int, int | None, slice]]:
        """Class ranks, highest first: the price of an injector for each, and the columns of its up-sets."""
        ranks = [up_set.poe_rank for up_set in self.up_sets]
        return [
            (rank, self._injector_prices.get(rank), slice(ranks.index(rank), ranks.index(rank) + ranks.count(rank)))
            for rank in sorted(set(ranks), reverse=True)
        ]

    @cached_property
    def _leaving(self) -> Rows:
        """Most watts that 1, 2, ... devices take away when they leave the boxes' budget [mW]."""
        return np.cumsum(np.array(self.problem.powers_down, dtype=np.int64))

    def least_price(self, sets: Rows, boxes: int) -> Rows:
        """Least price of each set with its injectors and modules [minor]; −1 where no packing can exist."""
        problem = self.problem
        short = self.asked - sets[:, HELD:]
        possible = (sets[:, ENDS] >= problem.drops) & (sets[:, CARRIES] >= problem.traffic_kbit)
        possible &= (sets[:, UNITS] <= problem.units) & (sets[:, MASS] <= problem.load_g)
        cost, count = np.zeros((2, len(sets)), dtype=np.int64)
        for _, injector_price, columns in self._by_rank:
            worst = short[:, columns].max(axis=1)
            if injector_price is None:
                possible &= worst <= 0
            else:
                more = np.maximum(worst - count, 0)
                cost += more * injector_price
                count += more
        over = self.power_mw - sets[:, POWER]
        if over.max() > 0:
            by_watts = np.where(over > 0, np.searchsorted(self._leaving, over) + 1, 0)
            if self._injector_prices:
                cost = np.maximum(cost, by_watts * min(self._injector_prices.values()))
                count = np.maximum(count, by_watts)
            else:
                possible &= by_watts == 0
        possible &= sets[:, SOCKETS] + count <= problem.sockets
        if problem.ups_outlets is not None:
            possible &= boxes + count <= problem.ups_outlets
        in_slots = np.maximum(problem.drops + 2 * (boxes - 1) - sets[:, PORTS], 0) * problem.cheapest_module
        price = sets[:, PRICE] + cost + np.maximum(in_slots - sets[:, LINK], 0)
        return np.where(possible, price, -1)


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


def best_from(rows: Rows) -> Rows:
    """For each row the best of every column from there on: no later choice gives more or takes less."""
    best = np.maximum.accumulate(rows[::-1], axis=0)[::-1].copy()
    best[:, TAKEN] = np.minimum.accumulate(rows[::-1][:, TAKEN], axis=0)[::-1]
    return best
