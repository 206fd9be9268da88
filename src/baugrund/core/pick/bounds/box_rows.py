"""What boxes give and take, by how their own link is made: a row each, many at once."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from functools import cached_property
from itertools import accumulate
from typing import TypeVar, cast

import numpy as np
from numpy.typing import NDArray

from ..model.arrays import Flags, Places
from ..model.links import LinkWay, Ways
from ..model.problem import Problem
from ..model.supply import BoxType
from ..model.up_sets import up_sets
from .capacities import Holding, watts_given

PRICE, FREE, SLOTS, ENDS, CARRIES, POWER, TAKEN = range(7)
"""Columns: price with link modules [minor], ports and slots left by both ends of the link, slots left that links to fed
closets may end in, traffic that sits on the box [kbit/s], PoE watts [mW], then what it takes of each resource of the
closet, then drops held of each up-set.  What a configuration gives and takes is the sum over them."""

Rows = NDArray[np.int64]
Made = TypeVar("Made")


class Kept:
    """A cache of computed values by key."""

    def __init__(self) -> None:
        self._kept: dict[object, object] = {}

    def once(self, key: object, make: Callable[[], Made]) -> Made:
        """The cached value of a key, computed at the first call."""
        if key not in self._kept:
            self._kept[key] = make()
        return cast(Made, self._kept[key])


class BoxRows(Kept):
    """The rows of the boxes of a problem."""

    def __init__(self, problem: Problem) -> None:
        super().__init__()
        self.problem = problem
        self.up_sets = up_sets(problem)
        self.holding = Holding(self.up_sets, problem.boxes)
        self.held = TAKEN + len(problem.capacities)
        """The first column of drops held."""
        self._at = {box: place for place, box in enumerate(problem.boxes)}
        sorts = {id(problem.ends(box)): box for box in problem.switches}
        number = {key: place for place, key in enumerate(sorts)}
        self.sorts = [*sorts.values()]
        """A switch of each sort: those of one have the same ends of links."""
        self._sort = np.array([number[id(problem.ends(box))] for box in problem.switches], dtype=np.intp)
        slots = np.array([box.slot_count for box in problem.boxes], dtype=np.int64)
        bare = [(box.cost_minor, box.ports_most, 0, 0, 0, 0, *box.takes) for box in problem.boxes]
        self._bare = np.array(bare, dtype=np.int64).reshape(len(bare), self.held)
        self._bare[:, SLOTS] = slots if problem.modules else 0
        self._bare[:, POWER] = watts_given(problem, problem.boxes)
        self._bare[:, ENDS] = [self._trunk_slots(box) for box in problem.boxes]
        self._takes_end = self._bare[:, ENDS] == slots
        """Whether a link in any slot of a box takes one that links to fed closets may end in."""
        self._room = self._bare[:, FREE] + (slots if problem.trunks else 0)
        self._sent = np.array([0, *accumulate(problem.traffics_down)], dtype=np.int64)
        """Traffic of the busiest drop or link to a fed closet, of the two busiest, and so on [kbit/s]."""

    def holds(self, box: BoxType) -> Rows:
        """How many drops of each up-set a box holds at most, behind no link."""
        held: Rows = self.holding.alone[self._at[box]]
        return held

    def all_hold(self, boxes: Sequence[BoxType]) -> Rows:
        """The same of some boxes, a row each."""
        held: Rows = self.holding.alone[self._places(boxes)]
        return held

    def watts(self, box: BoxType) -> int:
        """The largest power that a box can give to drops [mW]."""
        return int(self._bare[self._at[box], POWER])

    def left_by_links(self, centre: BoxType, on_ports: Sequence[int]) -> Rows:
        """Ports of a centre that are left to each up-set when links of these rates end on others."""
        return self.holding.left_by_links(self._at[centre], on_ports)

    def ports_or_faster(self, box: BoxType, rate_mbit: int) -> Rows:
        """Ports of a box that serve each up-set or are at least so fast."""
        ports: Rows = self.holding.ports_or_faster(rate_mbit)[self._at[box]]
        return ports

    def roots(self, pairs: Sequence[tuple[BoxType, LinkWay | None]]) -> Rows:
        """What roots give and take, a row each: as they are, or with their one link to a centre made that way."""
        places = self._places(box for box, _ in pairs)
        rates = [way.rate_mbit if way and not way.upper_in_slot else -1 for _, way in pairs]
        return self._made(places, self._own_kbit(places), self.holding.linked(places, np.array(rates, dtype=np.int64)))

    def bare(self, centres: Sequence[BoxType]) -> Rows:
        """What centres give and take beside their links, a row each; what they hold is counted apart."""
        places = self._places(centres)
        return self._made(places, self._own_kbit(places), np.zeros((len(places), len(self.up_sets)), dtype=np.int64))

    def rooted(self, roots: Sequence[BoxType], centre: BoxType) -> tuple[list[tuple[BoxType, LinkWay]], Rows]:
        """The ways to hang a centre off roots, and what each root and that link give and take together."""
        # what ends alike hangs alike
        return self.once(("rooted", *roots, id(self.problem.ends(centre))), lambda: self._make_rooted(roots, centre))

    def may_be_rooted(self, roots: Sequence[BoxType], centre: BoxType) -> bool:
        """Whether there is any such way."""
        return next(self._rooted_ways(roots, centre), None) is not None

    def _rooted_ways(self, roots: Sequence[BoxType], centre: BoxType) -> Iterator[tuple[BoxType, LinkWay]]:
        own = self.once(("own", *roots), lambda: self._own_kbit(self._places(roots)).tolist())
        for root, kbit in zip(roots, own, strict=True):
            for way in self.problem.ways(root, centre):
                if way.carries_kbit >= self.problem.traffic_kbit - kbit:
                    yield root, way

    def _make_rooted(self, roots: Sequence[BoxType], centre: BoxType) -> tuple[list[tuple[BoxType, LinkWay]], Rows]:
        pairs = [*self._rooted_ways(roots, centre)]
        ways = Ways.of([way for _, way in pairs])
        rows = _with_links(self.roots(pairs), ways)
        rows[:, ENDS] -= ways.lower_in_slot & self._takes_end[self._at[centre]]
        rows[:, ENDS] -= ways.upper_in_slot & self._takes_end[self._places(root for root, _ in pairs)]
        return pairs, rows

    def leaf(self, box: BoxType, ways: Sequence[LinkWay]) -> Rows:
        """What a switch gives and takes with its own link made in each of these ways, a row each; both ends are charged
        to it."""
        return self._leaves(np.repeat(self._places([box]), len(ways)), Ways.of(ways))

    def hung(self, centres: Sequence[BoxType]) -> Hung:
        """Every way to hang the switches off any of some centres."""
        unlike = self.unlike(centres)
        return self.once(
            ("hung", *(id(self.problem.ends(centre)) for centre in unlike)), lambda: self._make_hung(unlike)
        )

    def _make_hung(self, centres: Sequence[BoxType]) -> Hung:
        ways = [
            dict.fromkeys(way for centre in centres for way in self.problem.ways(centre, box)) for box in self.sorts
        ]
        return self.hung_by([[*some] for some in ways])

    def hung_by(self, ways: Sequence[Sequence[LinkWay]], *, any_port: bool = False) -> Hung:
        """Switches with their own link made in the ways of their sort.  ``any_port``: it may end on a slower port than
        it asks for, for a way stands for slower ones too."""
        count = np.array([len(some) for some in ways], dtype=np.intp)
        first = np.cumsum(count) - count
        place, number = numbered(count[self._sort])
        all_ways = Ways.of([way for some in ways for way in some]).at(first[self._sort[place]] + number)
        rows = self._leaves(place + len(self.problem.roots), all_ways, any_port)
        return Hung(count[self._sort], place, all_ways, rows)

    def unlike(self, centres: Iterable[BoxType]) -> list[BoxType]:
        """One of each sort of centres whose links end alike."""
        return [*{id(self.problem.ends(centre)): centre for centre in centres}.values()]

    def _leaves(self, places: Places, ways: Ways, any_port: bool = False) -> Rows:
        rates = np.where(ways.lower_in_slot, -1, 0 if any_port else ways.rate_mbit)
        carries = ways.carries_kbit
        traffic = np.minimum(carries, self._own_kbit(places, ~ways.lower_in_slot))
        rows = _with_links(self._made(places, traffic, self.holding.linked(places, rates, carries)), ways)
        # no more links to fed closets end behind it than slots are left to them, nor of more traffic than it carries
        rows[:, ENDS] -= ways.lower_in_slot & self._takes_end[places]
        rows[:, ENDS] = np.minimum(rows[:, ENDS], np.searchsorted(self._trunks_summed, carries, side="right"))
        rows[:, ENDS] -= ways.upper_in_slot & self._all_take_ends
        return rows

    def _made(self, places: Places, traffic_kbit: Rows, held: Rows) -> Rows:
        rows = np.empty((len(places), self.held + len(self.up_sets)), dtype=np.int64)
        rows[:, : self.held] = self._bare[places]
        rows[:, CARRIES], rows[:, self.held :] = traffic_kbit, held
        return rows

    def _own_kbit(self, places: Places, taken: Flags | int = 0) -> Rows:
        """Most traffic that sits on the own ports and slots of boxes when so many of them are taken [kbit/s]."""
        sent: Rows = self._sent[np.minimum(np.maximum(self._room[places] - taken, 0), len(self._sent) - 1)]
        return sent

    def _places(self, boxes: Iterable[BoxType]) -> Places:
        return np.array([self._at[box] for box in boxes], dtype=np.intp)

    def _trunk_slots(self, box: BoxType) -> int:
        trunks = self.problem.trunks
        ends = self.problem.ends(box) if trunks else ()
        able = {end.slot for end in ends if end.slot is not None and any(trunk.takes(end) for trunk in trunks)}
        return sum(box.slots[group][0] for group in able)

    @cached_property
    def _trunks_summed(self) -> list[int]:
        """Traffic of the least busy end of links to fed closets, of the two least busy, and so on [kbit/s]."""
        ends = [trunk.traffic_kbit // trunk.ends for trunk in self.problem.trunks for _ in range(trunk.ends)]
        return [*accumulate(sorted(ends))]

    @property
    def _all_take_ends(self) -> bool:
        """Whether a link in any slot of any box takes one that links to fed closets may end in."""
        return bool(self._takes_end.all())


class Hung:
    """Switches of a problem, each once for every way that its own link may be made, those of one together."""

    def __init__(self, count: Places, place: Places, ways: Ways, rows: Rows) -> None:
        self.count, self.place, self.ways, self.rows = count, place, ways, rows
        """How many ways each switch has; the number of the switch of each, its link, what it gives and takes."""
        self.first = np.cumsum(count) - count

    @cached_property
    def best(self) -> Rows:
        """The best value of every figure of each switch, over all its links."""
        return best_of(self.rows, self.place, len(self.count))

    @cached_property
    def speeds(self) -> tuple[list[int], Places]:
        """Rates of the links that end on ports of the centre, and the number of that of each (0 for others)."""
        on_port = ~self.ways.upper_in_slot
        speeds, at = np.unique(self.ways.rate_mbit[on_port], return_inverse=True)
        number = np.zeros(len(on_port), dtype=np.intp)
        number[on_port] = at
        return speeds.tolist(), number


def best_of(rows: Rows, places: Places, count: int) -> Rows:
    """The best of every figure over the rows of each place: the least price, the most of all others."""
    never = np.iinfo(np.int32).min
    signed = rows.copy()
    signed[:, PRICE] *= -1
    best = np.full((count, rows.shape[1]), never, dtype=np.int64)
    np.maximum.at(best, places, signed)
    best[:, PRICE] *= -1
    return best


def numbered(counts: Places) -> tuple[Places, Places]:
    """So many of each row: the row that each is of, and its number among those of the row."""
    rows = np.repeat(np.arange(len(counts)), counts)
    return rows, np.arange(len(rows)) - np.repeat(np.cumsum(counts) - counts, counts)


def _with_links(rows: Rows, ways: Ways) -> Rows:
    """The same rows, each with what both ends of a link cost and take."""
    in_slots = ways.lower_in_slot.astype(np.int64) + ways.upper_in_slot
    rows[:, PRICE] += ways.price_minor
    rows[:, FREE] -= 2 - in_slots
    rows[:, SLOTS] -= in_slots
    return rows
