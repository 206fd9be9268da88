"""Boxes that no best pick has in some place, for a cheaper one would serve there whatever they serve.

Sharper than dominance, for it looks at what is asked.  A box stands where another one stood, linked as that was.  It
serves the same drops if, for every up-set of them, it has as many ports as the other had or as there are drops (Hall's
condition), and if it bears all watts and traffic that the other could be given, or that could ever come to its ports.

References
----------
.. [1] Schrijver: Combinatorial Optimization (2003), 22.1 and 40.1 (Hall's condition; the greedy algorithm).
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence
from functools import cached_property
from itertools import islice

import numpy as np
from numpy.typing import NDArray

from ...demand.needs import Need
from ...demand.traffic import carried_kbit
from ..model.arrays import Flags
from ..model.problem import Problem
from ..model.supply import BoxType, LinkEnd, PortKind
from ..model.up_sets import Corner, all_corners

UP_SETS_MOST = 200
"""Where there would be more, nothing is told."""
NO_LIMIT = 2**60
"""What a box bears that cannot be given too much."""

Amounts = NDArray[np.int64]
Placed = frozenset[tuple[BoxType, bool, bool]]
"""Boxes, by whether their link ends in a slot of their own, and in one of the centre."""


class StandIns:
    """What cheaper boxes stand in for, in one problem."""

    def __init__(self, problem: Problem) -> None:
        self._problem = problem
        self._found: dict[tuple[bool, int], Placed] = {}

    def leaves(self, slowest_mbit: int) -> Placed:
        """Switches that need not hang off a centre whose ports have at least this speed."""
        return self._beside_centre(self._switches, slowest_mbit, False)

    def roots(self, slowest_mbit: int) -> Placed:
        """Roots that no such centre need hang off: their link must carry all that does not sit on them."""
        return self._beside_centre(self._roots, slowest_mbit, True)

    @cached_property
    def centres(self) -> frozenset[BoxType]:
        """Roots and switches that need not be the centre: another has ends for as many links, too."""
        return frozenset(box for some in (self._roots, self._switches) if some for box in some.centres())

    def _beside_centre(self, boxes: _Boxes | None, slowest_mbit: int, takes_all: bool) -> Placed:
        key = takes_all, slowest_mbit
        if key not in self._found:
            self._found[key] = frozenset(boxes.beside_centre(slowest_mbit, takes_all) if boxes else ())
        return self._found[key]

    @cached_property
    def _switches(self) -> _Boxes | None:
        return self._of(self._problem.switches)

    @cached_property
    def _roots(self) -> _Boxes | None:
        return self._of(self._problem.roots)

    def _of(self, boxes: Sequence[BoxType]) -> _Boxes | None:
        return _Boxes(self._problem, boxes, self._up_sets) if self._up_sets and boxes else None

    @cached_property
    def _up_sets(self) -> _UpSets | None:
        """Every up-set of what drops (on an injector or not) and links may ask of a port; None where it is not told
        what stands in for what."""
        problem, trunks = self._problem, self._problem.trunks
        asking = any(need.large_frames for need, _ in problem.needs) or any(trunk.large_frames for trunk in trunks)
        tied = any(trunk.medium == "copper" or trunk.ends > 1 for trunk in trunks)
        if problem.chain_allowed or asking or tied:
            return None
        kinds = {(need.speed_mbit, need.poe_rank) for need, _ in problem.needs}
        kinds |= {_bare(problem, need) for need, _ in problem.needs}
        kinds |= {(port.speed_mbit, 0) for box in problem.boxes for port in box.ports}
        # of corners that are apart, no two are equally fast or of one class
        most = min(len({speed for speed, _ in kinds}), len({rank for _, rank in kinds}))
        found = [*islice(all_corners(sorted(kinds), most), UP_SETS_MOST + 1)]
        return _UpSets(found) if 0 < len(found) <= UP_SETS_MOST else None


class _UpSets:
    """Up-sets by their corners."""

    def __init__(self, corners: Sequence[tuple[Corner, ...]]) -> None:
        none = (NO_LIMIT, NO_LIMIT)
        most = max(map(len, corners))
        self._corners = np.array([[*some, *[none] * (most - len(some))] for some in corners], dtype=np.int64)
        self._inside: dict[Corner, Amounts] = {}
        self.none = np.zeros(len(corners), dtype=np.int64)
        self.are_bare = (self._corners[:, :, 1] == 0).any(axis=1)
        """Which have a corner without a class."""

    def inside(self, kind: Corner) -> Amounts:
        """Which of them a drop or port of some speed and class reaches."""
        if kind not in self._inside:
            reached: Flags = np.all(self._corners <= kind, axis=2)
            self._inside[kind] = np.asarray(reached.any(axis=1), dtype=np.int64)
        return self._inside[kind]


class _Boxes:
    """Boxes of one sort as arrays, a row each."""

    def __init__(self, problem: Problem, boxes: Sequence[BoxType], up_sets: _UpSets) -> None:
        self._problem, self._boxes, self._up_sets = problem, boxes, up_sets
        self._inside, self._none = up_sets.inside, up_sets.none
        self._ports = [[port for port in box.ports if port.count] for box in boxes]
        self._most = np.array([[box.ports_most] for box in boxes])
        self._prices = np.array([box.cost_minor for box in boxes])
        self._reach = _rows(
            sum((port.count * self._inside(_kind(port)) for port in some), self._none) for some in self._ports
        )
        speeds = sorted({speed for box in boxes for _, speed in box.slots})
        self._slots = np.array(
            [[sum(count for count, s in box.slots if s >= speed) for speed in speeds] for box in boxes], dtype=np.int64
        )
        self._held = self._with_slots(np.minimum(self._reach, self._most))
        """Drops of every up-set, then slots of every speed: links to other closets end in them."""
        drops = sum((count * self._inside(_asks(need)) for need, count in problem.needs), self._none)
        self._asked = np.append(drops, [len(problem.trunks)] * len(speeds))
        self._bear()

    def centres(self) -> list[BoxType]:
        """Those that need not be the centre."""
        links = np.append(self._up_sets.are_bare, [True] * self._slots.shape[1]) * self._problem.boxes_most
        worse = self._cheaper() & _covers(self._held, np.minimum(self._held, self._asked + links))
        return [self._boxes[place] for place in np.flatnonzero(worse.any(axis=1)).tolist()]

    def beside_centre(self, slowest_mbit: int, takes_all: bool) -> list[tuple[BoxType, bool, bool]]:
        """Those that need not stand beside a centre; ``takes_all``: what does not sit on them crosses their link."""
        copper = [module.model.speed_mbit for module in self._problem.modules if module.model.medium == "copper"]
        slowest_mbit = min([slowest_mbit, *copper])
        cheaper = self._cheaper()
        # a link of its own on a port
        on_port = (cheaper & self._serves(self._beside_link, self._fastest, slowest_mbit, takes_all)).any(axis=1)
        # in a slot, and so for others; or, if not in a slot of the centre, on a port of others, which saves the module
        asked = self._asked + np.append(self._none, [bool(self._problem.trunks)] * self._slots.shape[1])
        in_slot = (cheaper & self._same_ends & _covers(self._held, np.minimum(self._held, asked))).any(axis=1)
        saved, fastest = self._in_slots
        on_ports = self._cheaper(saved) & self._serves(self._held, fastest, slowest_mbit, takes_all)
        by_link = {(False, False): on_port, (False, True): on_port, (True, True): in_slot}
        by_link[True, False] = in_slot | on_ports.any(axis=1)
        return [(self._boxes[n], *link) for link, worse in by_link.items() for n in np.flatnonzero(worse).tolist()]

    @cached_property
    def _fastest(self) -> Amounts:
        """The speed of the fastest port of each."""
        return np.array([max((port.speed_mbit for port in some), default=0) for some in self._ports])

    @cached_property
    def _beside_link(self) -> Amounts:
        """What each holds at most beside a link of its own on a port, whichever that is."""
        at_once = _rows(np.min([self._inside(_kind(p)) for p in some] or [self._none], axis=0) for some in self._ports)
        return self._with_slots(np.minimum(self._reach - at_once, self._most - 1))

    @cached_property
    def _slot_ends(self) -> list[list[LinkEnd]]:
        """How links may end in the slots of each."""
        return [[end for end in self._problem.ends(box) if end.slot is not None] for box in self._boxes]

    @cached_property
    def _same_ends(self) -> Flags:
        """Which boxes (columns) have slots for all links that those of each (rows) are for."""
        kinds = [frozenset((end.medium, end.speed_mbit) for end in some) for some in self._slot_ends]
        return np.array([[theirs >= mine for theirs in kinds] for mine in kinds])

    @cached_property
    def _in_slots(self) -> tuple[Amounts, Amounts]:
        """The price of a copper module in a slot of each, if there is one, and the speed of the fastest link there."""
        copper = [[end.price_minor for end in some if end.medium == "copper"] for some in self._slot_ends]
        fastest = [max((end.speed_mbit for end in some), default=0) for some in self._slot_ends]
        return np.array([min(some, default=0) for some in copper]), np.array(fastest)

    def _cheaper(self, saved: Amounts | int = 0) -> Flags:
        """Which boxes (columns) cost less than each (rows), or no more than is saved beside, and are as good otherwise,
        but for ports, slots and links."""
        return self._as_good & (self._prices[None, :] < (self._prices + saved)[:, None])

    @cached_property
    def _as_good(self) -> Flags:
        """Which boxes (columns) bear the same watts as each (rows), take up no more, and may be had in any number."""
        boxes, pins = self._boxes, self._problem.pins
        takes = np.array([box.takes for box in boxes])
        uplinks = [_uplink(box) for box in boxes]
        alike = np.array([[theirs == mine for theirs in uplinks] for mine in uplinks])
        bought = np.array([box.most is None for box in boxes])
        may_go = np.array([box.model.key not in pins for box in boxes])
        able: Flags = bought[None, :] & may_go[:, None] & alike
        return able & _covers(self._bears, self._given) & _covers(-takes, -takes)

    def _serves(self, holds: Amounts, fastest: Amounts, slowest_mbit: int, takes_all: bool) -> Flags:
        """Which boxes (columns), with a link on a port of their own, serve what each (rows) does that ``holds`` so
        much and has a link so fast: they bear the same traffic, or their link is as fast."""
        asked = np.minimum(holds, self._asked)
        speed_kbit = carried_kbit(1, self._problem.fill_percent)
        given = np.minimum(self._problem.traffic_kbit if takes_all else self._sent, speed_kbit * fastest)
        found: Flags = np.zeros((len(holds), len(holds)), dtype=np.bool_)
        for speeds, held in self._linked:
            carries = speed_kbit * np.minimum(speeds, slowest_mbit)
            bears = np.where((self._sent <= carries) & (not takes_all), NO_LIMIT, carries)
            traffic = (bears[None, :] >= given[:, None]) | (speeds[None, :] >= fastest[:, None])
            np.logical_or(found, traffic & _covers(held, asked), out=found)
        return found

    @cached_property
    def _linked(self) -> list[tuple[Amounts, Amounts]]:
        """The speed of a link of their own, and what boxes hold beside it, on the port that drops miss least, and on
        the fastest."""
        found = []
        for rank in (_missed_least, _fastest):
            own = [min(some, key=rank, default=None) for some in self._ports]
            taken = _rows(
                self._inside(_kind(port)) if port else reach + 1 for port, reach in zip(own, self._reach, strict=True)
            )
            speeds = np.array([port.speed_mbit if port else 0 for port in own])
            found.append((speeds, self._with_slots(np.minimum(self._reach - taken, self._most - 1))))
        return found

    def _bear(self) -> None:
        """Watts [mW] and powered drops that each can be given at most, and what it bears of them: anything, where no
        more can come to its ports.  Traffic that comes to its ports at most."""
        problem, boxes = self._problem, self._boxes
        powered = [(need, count) for need, count in problem.needs if need.poe_rank]
        could = np.column_stack([
            self._greatest(((n.power_mw, _asks(n), count) for n, count in powered), [b.powered_most for b in boxes]),
            self._greatest(((1, _asks(n), count) for n, count in powered), [b.model.port_count for b in boxes]),
        ])  # fmt: skip
        limits = np.array([[box.power_most_mw, box.powered_most] for box in boxes])
        self._given, self._bears = np.minimum(could, limits), np.where(could <= limits, NO_LIMIT, limits)
        everything = ((n.traffic_kbit, _bare(problem, n), count) for n, count in problem.needs)
        trunks = sorted((trunk.traffic_kbit for trunk in problem.trunks), reverse=True)
        self._sent = self._greatest(everything, [box.ports_most for box in boxes])
        self._sent += np.array([sum(trunks[: box.slot_count]) for box in boxes])

    def _greatest(self, drops: Iterable[tuple[int, Corner, int]], most: Sequence[int]) -> Amounts:
        """The most that can come to the ports of each box from drops with such an amount, asking for such a port, so
        many each: greedily."""
        alike: Counter[tuple[int, Corner]] = Counter()
        for amount, kind, count in drops:
            alike[amount, kind] += count
        room = np.vstack([np.minimum(self._reach, self._most).T, most])
        total = np.zeros(len(self._boxes), dtype=np.int64)
        for (amount, kind), count in sorted(alike.items(), reverse=True):
            inside = np.flatnonzero(np.append(self._inside(kind), 1))
            some = np.clip(room[inside].min(axis=0), 0, count)
            room[inside] -= some
            total += some * amount
        return total

    def _with_slots(self, held: Amounts) -> Amounts:
        return np.hstack([held, self._slots])


def _covers(held: Amounts, asked: Amounts) -> Flags:
    """Which rows (columns of what is told) are all that other rows (rows of it) ask."""
    found: Flags = np.all(held[None, :, :] >= asked[:, None, :], axis=2)
    return found


def _rows(rows: Iterable[Amounts]) -> Amounts:
    return np.array([*rows])


def _kind(port: PortKind) -> Corner:
    return port.speed_mbit, port.poe_rank


def _asks(need: Need) -> Corner:
    return need.speed_mbit, need.poe_rank


def _bare(problem: Problem, need: Need) -> Corner:
    """The least capability that any drop asks of a port."""
    return need.speed_mbit, 0 if problem.injectors_for[need] else need.poe_rank


def _missed_least(port: PortKind) -> tuple[int, int]:
    return port.poe_rank, port.speed_mbit


def _fastest(port: PortKind) -> tuple[int, int]:
    return -port.speed_mbit, port.poe_rank


def _uplink(box: BoxType) -> tuple[str, int, int | None] | None:
    """What the link to the feeding closet must be, and its module where there are not enough of it."""
    if box.uplink is None:
        return None
    module = box.uplink.module
    return box.uplink.medium, box.uplink.speed_mbit, module.index if module and module.most is not None else None
