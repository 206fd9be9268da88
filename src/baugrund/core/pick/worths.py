"""Dual prices of drops (Lagrange multipliers), and the lower bounds of sets of boxes that follow from them.

Were every seated drop paid its worth, a box would serve those that pay most; a set costs no less than the worth of all
drops and the prices of its boxes, less the most that each of them can earn.  This holds whatever the worths are; those
of a set that was packed in parts, its duals, are sharp for all sets like it.

References
----------
.. [1] Geoffrion: Lagrangean relaxation for integer programming (1974).
.. [2] Dantzig, Wolfe: Decomposition principle for linear programs (1960).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from .bounds import LinkClass
from .box_rows import PRICE
from .figures import NEVER, Counts, Flags, Integers
from .linear import Floats
from .problem import Problem
from .supply import BoxType

if TYPE_CHECKING:
    from .relaxation import Relaxation

KEPT_MOST = 24
"""Worths that are kept at once, the latest."""
UNLIMITED_KBIT = 10**12
"""Traffic that a box without a link may have [kbit/s]."""

Supply = tuple[BoxType, int, int]
"""A box, the speed of its own link where that takes one of its ports (0: none), and what that link carries [kbit/s]."""


@dataclass(frozen=True, eq=False)
class Worths:
    """Dual prices of drops, of hub ports that links end on, and of the closet's resources [minor]."""

    drops: Floats
    """Of each need."""
    ports: tuple[tuple[int, float], ...]
    """Speeds [Mbit/s] of ports at the hub, and what one is worth."""
    resources: tuple[float, ...]
    """Of one of each resource that is limited."""

    def ends(self, rates_mbit: Integers) -> Floats:
        """What ports are worth that links of these rates end on (rate 0: none, nothing)."""
        able = [[price for speed, price in self.ports if speed >= rate] if rate else [] for rate in rates_mbit.tolist()]
        return np.array([min(prices, default=0.0) for prices in able])


@dataclass(frozen=True, eq=False)
class Charges:
    """What any set of a relaxation with so many boxes costs at least: a constant, and what each choice adds."""

    constant: float
    choices: Floats
    leaves: Floats
    """Of each box: the least of its choices where it is neither root nor hub."""
    roots: Floats
    hubs: Floats


class Pool:
    """Worths of one link class that told sets apart of late."""

    def __init__(self, group: LinkClass) -> None:
        self.problem = group.problem
        self.kept: list[Worths] = []
        self.added = 0
        """How many came in all."""
        self._supplies: dict[Supply, int] = {}
        self._earned: dict[Worths, Floats] = {}
        """By the number of the supply."""
        self._offers: dict[Relaxation, _Offers] = {}
        self._charges: dict[tuple[Worths, Relaxation, int], Charges] = {}
        self._beside_hub: dict[tuple[Worths, Relaxation], tuple[float, Floats]] = {}
        self._seats = _Seats(self.problem)
        self._counts = np.array([count for _, count in self.problem.needs])

    def add(self, worths: Worths) -> None:
        """Add a vector of dual prices; the oldest goes where there are too many."""
        self.kept = [worths, *self.kept][:KEPT_MOST]
        self.added += 1
        self._earned = {one: earned for one, earned in self._earned.items() if one in self.kept}
        self._charges = {key: charges for key, charges in self._charges.items() if key[0] in self.kept}
        self._beside_hub = {key: costs for key, costs in self._beside_hub.items() if key[0] in self.kept}

    def bound(self, relaxation: Relaxation, hub: BoxType, counts: Counts, since: int = 0) -> Floats:
        """What sets around a hub, so many of each box a row and equally many in all, cost at least by any worths that
        came ``since`` then."""
        found = np.zeros(len(counts))
        late = self.kept[: self.added - since]
        if not late:
            return found
        place, first = relaxation.boxes.index(hub), relaxation.first_switch
        leaves = counts.astype(np.float64)
        leaves[:, :first] = 0.0
        leaves[:, place] -= not hub.is_root
        root = counts[:, :first].argmax(axis=1)
        for worths in late:
            charges = self.charges(worths, relaxation, int(counts[0].sum()))
            sums = charges.constant + charges.hubs[place] + leaves @ charges.leaves
            found = np.maximum(found, sums if hub.is_root else sums + charges.roots[root])
        return found

    def charges(self, worths: Worths, relaxation: Relaxation, boxes: int) -> Charges:
        """By these worths, for sets of so many boxes."""
        key = worths, relaxation, boxes
        if key not in self._charges:
            self._charges[key] = self._charge(*key)
        return self._charges[key]

    def _charge(self, worths: Worths, relaxation: Relaxation, boxes: int) -> Charges:
        if relaxation not in self._offers:
            self._offers[relaxation] = _Offers(relaxation, self._supplies)
        offers, key = self._offers[relaxation], (worths, relaxation)
        if key not in self._beside_hub:
            self._beside_hub[key] = self._charge_beside_hub(*key, offers)
        constant, costs = self._beside_hub[key]
        by_hubs, costs = self._seats.earned(worths, offers.hubs, offers.rates, boxes - 1), costs.copy()
        costs[offers.hub_places] -= by_hubs
        leaves, of_hubs = np.full((2, len(relaxation.boxes)), NEVER)
        beside, hubs = offers.other_places, offers.hub_places
        np.minimum.at(leaves, relaxation.place[beside], costs[beside])
        np.minimum.at(of_hubs, relaxation.place[hubs], costs[hubs])
        return Charges(constant, costs, leaves, leaves[: relaxation.first_switch], of_hubs)

    def _charge_beside_hub(self, worths: Worths, relaxation: Relaxation, offers: _Offers) -> tuple[float, Floats]:
        """A constant, and what each choice adds; without what hubs earn, which have links of so many boxes."""
        there = [self.problem.capacities[number] for number in self.problem.limited]
        constant = float(worths.drops @ self._counts) + relaxation.constant
        constant -= sum(price * many for price, many in zip(worths.resources, there, strict=True))
        costs = offers.prices + offers.takes @ worths.resources
        beside = offers.other_places
        costs[beside] += worths.ends(offers.rates)[offers.rate[beside]] - self._earns(worths)[offers.numbers[beside]]
        return constant, costs

    def _earns(self, worths: Worths) -> Floats:
        """What each supply earns."""
        known = self._earned.get(worths, np.zeros(0))
        if len(known) < len(self._supplies):
            more = _Boxes([*self._supplies][len(known) :])
            self._earned[worths] = known = np.concatenate([known, self._seats.earned(worths, more)])
        return known


class _Offers:
    """The choices of a relaxation as they are charged for."""

    def __init__(self, relaxation: Relaxation, supplies: dict[Supply, int]) -> None:
        """``supplies``: all numbered so far; those that are new get the next numbers."""
        choices, boxes = relaxation.choices, relaxation.boxes
        there = [boxes[place] for place in choices.place.tolist()]
        ways = choices.ways
        # a root hangs the hub off itself, a leaf hangs off the hub
        is_root = choices.place < relaxation.first_switch
        own = np.where(np.where(is_root, ways.upper_in_slot, ways.lower_in_slot), 0, ways.rate_mbit)
        carries = np.where(is_root | (ways.rate_mbit == 0), UNLIMITED_KBIT, ways.carries_kbit)
        served = zip(there, own.tolist(), carries.tolist(), strict=True)
        self.numbers = np.array([supplies.setdefault(supply, len(supplies)) for supply in served])
        self.prices = relaxation.table[:, PRICE]
        self.hub_places, self.other_places = np.flatnonzero(choices.is_hub), np.flatnonzero(~choices.is_hub)
        limited = relaxation.group.problem.limited
        self.takes = np.array([[float(box.takes[number]) for number in limited] for box in boxes])[choices.place]
        self.hubs = _Boxes([(there[place], 0, UNLIMITED_KBIT) for place in self.hub_places.tolist()])
        ends = np.where(choices.in_hub_slot, 0, ways.rate_mbit)
        self.rates, self.rate = np.unique(ends.astype(np.int32), return_inverse=True)
        """Rates of links that end on ports of the hub (0: others), and which each choice has."""


class _Boxes:
    """Supplies as arrays, a row each."""

    def __init__(self, supplies: Sequence[Supply]) -> None:
        groups = max((len(box.ports) for box, _, _ in supplies), default=0)
        ports = np.zeros((3, len(supplies), groups), dtype=np.int32)
        for row, (box, _, _) in enumerate(supplies):
            for group, port in enumerate(box.ports):
                ports[:, row, group] = port.count, port.speed_mbit, port.poe_rank
        self.arrays: tuple[Integers, Integers, Integers, Integers, Floats, Floats, Flags, Integers] = (
            ports[0],
            ports[1],
            ports[2],
            np.array([box.ports_most for box, _, _ in supplies], dtype=np.int32),
            np.array([box.power_most_mw / 1000 for box, _, _ in supplies]),
            np.array([carries / 1000 for _, _, carries in supplies]),
            np.array([box.model.large_frames for box, _, _ in supplies], dtype=np.bool_),
            np.array([link for _, link, _ in supplies], dtype=np.int32),
        )


class _Seats:
    """The ways to seat a drop, on the watts of a box or on an injector's, as arrays."""

    def __init__(self, problem: Problem) -> None:
        needs = problem.needs
        fed = [(number, 0.0, need.poe_rank, need.power_mw / 1000) for number, (need, _) in enumerate(needs)]
        cheapest = [min((i.price_minor for i in problem.injectors_for[need]), default=None) for need, _ in needs]
        ways = [*fed, *((number, float(price), 0, 0.0) for number, price in enumerate(cheapest) if price is not None)]
        mine = [needs[number][0] for number, *_ in ways]
        self._need = np.array([number for number, *_ in ways], dtype=np.intp)
        self._price = np.array([price for _, price, _, _ in ways])
        self._is_injected = np.arange(len(ways)) >= len(fed)
        self._rank = np.array([rank for _, _, rank, _ in ways], dtype=np.int32)
        self._watts = np.array([watts for *_, watts in ways])
        self._traffic = np.array([need.traffic_kbit / 1000 for need in mine])
        self._speed = np.array([need.speed_mbit for need in mine], dtype=np.int32)
        self._frames = np.array([need.large_frames for need in mine], dtype=np.bool_)
        self._counts = np.array([needs[number][1] for number, *_ in ways], dtype=np.int32)
        self._injector_takes = [problem.injector_takes[number] for number in problem.limited]

    def earned(self, worths: Worths, boxes: _Boxes, rates: Integers | None = None, links_most: int = 0) -> Floats:
        """The most that each box earns by its drops, and by the ends of so many links of each rate on its ports."""
        from .serving import most_served

        rates = np.zeros(0, dtype=np.int32) if rates is None else rates
        none = np.zeros(len(rates))
        injected = sum(price * many for price, many in zip(worths.resources, self._injector_takes, strict=True))
        prices = self._price + self._is_injected * injected
        return most_served(
            *boxes.arrays,
            np.concatenate([worths.drops[self._need] - prices, worths.ends(rates)]),
            np.concatenate([self._watts, none]),
            np.concatenate([self._traffic, none]),
            np.concatenate([self._counts, np.full(len(rates), links_most, dtype=np.int32)]),
            np.concatenate([self._speed, rates]),
            np.concatenate([self._rank, np.zeros_like(rates)]),
            np.concatenate([self._frames, none > 0]),
        )
