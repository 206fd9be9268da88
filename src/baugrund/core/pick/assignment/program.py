"""Seats and links of one set of boxes as a program: a column a way to seat drops of one need or to make a link.

All boxes hang off one of them, the centre; or, where chains are allowed, off any (see ``trees``).  Watts stand in W and
traffic in Mbit/s, each in whole thousandths: far coarser than what the solver may miss a row by.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from itertools import pairwise

import numpy as np

from ..bounds.linear import Floats, Rows
from ..model.links import LinkOption, Trunk
from ..model.problem import Problem
from ..model.seating import Link, Seat, Seating, TrunkSeat, seat_mains_mw
from ..model.supply import BoxType, InjectorType, LinkEnd, ModuleType

Column = int
Terms = dict[Column, float]
Pair = tuple[int, int]
"""Upper and lower box of a link; or a box and its port or slot group."""


class Seats:
    """The program of a configuration, the root first, around one ``centre`` (None: links are added by ``trees``)."""

    def __init__(self, problem: Problem, boxes: Sequence[BoxType], centre: int | None) -> None:
        self.problem, self.boxes, self.centre = problem, tuple(boxes), centre
        self.columns: list[tuple[float, float, float, float]] = []
        """Of each its most, price, mains draw without port watts [mW], and with them."""
        self.fed: dict[tuple[int, int, int], Column] = {}
        """Drops of a need on a port group of a box, on its watts or with none."""
        self.bare: dict[tuple[int, int, int], Column] = {}
        """The same, on an injector."""
        self.injected: dict[tuple[int, InjectorType], Column] = {}
        self.options: dict[Pair, list[tuple[LinkOption, Column]]] = {}
        self.carried: dict[Pair, Terms] = defaultdict(dict)
        """What a link made in each way carries [Mbit/s]."""
        self.trunks: list[tuple[Trunk, int, LinkEnd, Column]] = []
        self.divisible: set[Column] = set()
        self.taken: dict[Pair, Terms] = defaultdict(dict)
        """What takes ports of a group."""
        self.in_slots: dict[Pair, Terms] = defaultdict(dict)
        self.watts: dict[int, Terms] = defaultdict(dict)
        self.traffic: dict[int, Terms] = defaultdict(dict)
        self.asking: dict[int, Terms] = defaultdict(dict)
        """What asks for large frames on a box."""
        self.modules: dict[ModuleType, Terms] = defaultdict(dict)
        self.further: list[tuple[Terms, float, float]] = []
        """Rows of the tree."""
        self._seat()
        self._end_trunks()
        if centre is not None:
            for upper, lower in self.links_around(centre):
                self.link(upper, lower)

    def links_around(self, centre: int) -> list[Pair]:
        """The links around a centre, below it first."""
        below = [(centre, place) for place in range(len(self.boxes)) if place not in (0, centre)]
        return [*below, (0, centre)] if centre else below

    def column(self, most: float, price: float = 0.0, own: float = 0.0, mains: float | None = None) -> Column:
        """A new column from 0 to its most."""
        self.columns.append((most, price, own, own if mains is None else mains))
        return len(self.columns) - 1

    def link(self, upper: int, lower: int) -> None:
        """Columns for every way to make a link."""
        total, ways = self.problem.traffic_kbit, self.options.setdefault((upper, lower), [])
        carried = self.carried[upper, lower]
        for option in self.problem.link_options(self.boxes[upper], self.boxes[lower]):
            column = self.column(1.0, option.price_minor)
            carried[column] = min(total, option.carries_kbit) / 1000
            self._end(column, upper, option.upper, 1)
            self._end(column, lower, option.lower, 1)
            ways.append((option, column))

    def _seat(self) -> None:
        for number, (need, count) in enumerate(self.problem.needs):
            injectors = self.problem.injectors_for[need]
            for injector in injectors:
                column = self.column(
                    count, injector.price_minor, injector.own_mains_mw,
                    injector.own_mains_mw + seat_mains_mw(need, injector),
                )  # fmt: skip
                self.injected[number, injector] = column
            for place, box in enumerate(self.boxes):
                if need.large_frames and not box.model.large_frames:
                    continue
                for group, port in enumerate(box.ports):
                    if port.speed_mbit < need.speed_mbit:
                        continue
                    most = min(count, port.count)
                    if port.poe_rank >= need.poe_rank:
                        column = self.column(most, mains=seat_mains_mw(need, box))
                        self.fed[number, place, group] = column
                        self._sit(number, place, group, column)
                        if need.poe_rank:
                            self.watts[place][column] = need.power_mw / 1000
                    if injectors:
                        column = self.bare[number, place, group] = self.column(most)
                        self._sit(number, place, group, column)

    def _sit(self, number: int, place: int, group: int, column: Column) -> None:
        need = self.problem.needs[number][0]
        self.taken[place, group][column] = 1.0
        self.traffic[place][column] = need.traffic_kbit / 1000
        if need.large_frames:
            self.asking[place][column] = 1.0

    def _end_trunks(self) -> None:
        """Each link to a fed closet ends at one box, on one port group or in one slot group."""
        for trunk in self.problem.trunks:
            ends: Terms = {}
            for place, box in enumerate(self.boxes):
                for end in trunk.ends_at(self.problem.modules, box):
                    column = self.column(1.0, end.price_minor * trunk.ends)
                    self._end(column, place, end, trunk.ends)
                    self.traffic[place][column] = trunk.traffic_kbit / 1000
                    if trunk.large_frames:
                        self.asking[place][column] = 1.0
                    self.trunks.append((trunk, place, end, column))
                    ends[column] = 1.0
            self.further.append((ends, 1.0, 1.0))

    def _end(self, column: Column, place: int, end: LinkEnd, count: int) -> None:
        ends = self.in_slots[place, end.slot] if end.slot is not None else self.taken[place, end.port or 0]
        ends[column] = ends.get(column, 0.0) + count
        if end.module is not None:
            used = self.modules[end.module]
            used[column] = used.get(column, 0.0) + count

    @property
    def asking_most(self) -> int:
        """Drops and links to other closets that ask for large frames."""
        asking = sum(count for need, count in self.problem.needs if need.large_frames)
        asking += sum(trunk.large_frames for trunk in self.problem.trunks)
        return asking + bool(self.problem.uplink and self.problem.uplink.large_frames)

    def asking_at(self, place: int) -> tuple[Terms, int]:
        """What asks for large frames on a box, and how many of it are no column: an uplink ends at the root."""
        uplink = self.problem.uplink
        return self.asking[place], int(place == 0 and uplink is not None and uplink.large_frames)

    def rows(self, *, in_order: bool = True) -> Rows:
        """All rows, once every column is there; ``in_order``: equal boxes are told apart by how many drops sit on
        them."""
        centre = [] if self.centre is None else list(self._centre_rows(self.centre))
        rows = Rows(len(self.columns))
        for terms, least, most in (
            *self._need_rows(), *self._port_rows(), *self._shared_rows(), *self._injector_rows(), *self._box_rows(),
            *(self._order_rows() if in_order else ()), *centre, *self.further,
        ):  # fmt: skip
            rows.add(terms, least, most)
        return rows

    def _need_rows(self) -> Iterable[tuple[Terms, float, float]]:
        seated: dict[int, Terms] = defaultdict(dict)
        for (number, _, _), column in (*self.fed.items(), *self.bare.items()):
            seated[number][column] = 1.0
        for number, (_, count) in enumerate(self.problem.needs):
            yield seated[number], count, count

    def _port_rows(self) -> Iterable[tuple[Terms, float, float]]:
        for place, box in enumerate(self.boxes):
            for group, port in enumerate(box.ports):
                yield self.taken[place, group], 0.0, port.count

    def _injector_rows(self) -> Iterable[tuple[Terms, float, float]]:
        on_injectors: dict[int, Terms] = defaultdict(dict)
        for (number, _, _), column in self.bare.items():
            on_injectors[number][column] = -1.0
        for (number, _), column in self.injected.items():
            on_injectors[number][column] = 1.0
        for terms in on_injectors.values():
            yield terms, 0.0, 0.0

    def _box_rows(self) -> Iterable[tuple[Terms, float, float]]:
        for place, box in enumerate(self.boxes):
            groups = [self.taken[place, group] for group in range(len(box.ports))]
            if box.ports_most < box.model.port_count:
                yield added(*groups), 0.0, box.ports_most
            for group, (count, _) in enumerate(box.slots):
                yield self.in_slots[place, group], 0.0, count
            if self.watts[place]:
                yield self.watts[place], 0.0, box.power_most_mw / 1000
                if box.powered_most < box.model.powered_count:
                    yield dict.fromkeys(self.watts[place], 1.0), 0.0, box.powered_most

    def _order_rows(self) -> Iterable[tuple[Terms, float, float]]:
        for a, b in pairwise(place for place in range(1, len(self.boxes)) if place != self.centre):
            if self.boxes[a] is self.boxes[b]:
                drops = [dict.fromkeys(self.traffic[place], 1.0) for place in (a, b)]
                yield added(drops[0], negative(drops[1])), 0.0, np.inf

    def _shared_rows(self) -> Iterable[tuple[Terms, float, float]]:
        """What the closet has only so much of, and what is owned."""
        problem = self.problem
        for number in problem.limited:
            injectors = {column: float(one.takes[number]) for (_, one), column in self.injected.items()}
            yield injectors, 0.0, problem.capacities[number] - sum(box.takes[number] for box in self.boxes)
        for injector in problem.injectors:
            if injector.most is not None:
                mine = {column: 1.0 for (_, other), column in self.injected.items() if other is injector}
                yield mine, 0.0, injector.most
        uplink = self.boxes[0].uplink
        for module in problem.modules:
            if module.most is not None:
                used = self.boxes[0].uplink_ends if uplink and uplink.module is module else 0
                yield self.modules[module], 0.0, module.most - used

    def _centre_rows(self, centre: int) -> Iterable[tuple[Terms, float, float]]:
        """Each link is made in one way, which carries what crosses it; a centre that stops large frames joins no two
        boxes that have what asks for them."""
        for upper, lower in self.links_around(centre):
            carried = self.carried[upper, lower]
            yield dict.fromkeys(carried, 1.0), 1.0, 1.0
            if lower == centre:
                yield added(carried, self.traffic[0]), self.problem.traffic_kbit / 1000, np.inf
            else:
                yield added(carried, negative(self.traffic[lower])), 0.0, np.inf
        if self.asking_most > 1 and not self.boxes[centre].model.large_frames:
            chosen = [self.column(1.0) for _ in self.boxes]
            yield dict.fromkeys(chosen, 1.0), 1.0, 1.0
            for place, column in enumerate(chosen):
                terms, given = self.asking_at(place)
                yield added(terms, {column: -float(self.asking_most)}), -np.inf, -given

    def read(self, values: Floats) -> Seating:
        """A solution as a seating."""
        counts = np.rint(values).astype(int).tolist()
        needs = self.problem.needs
        seats = [
            Seat(needs[number][0], place, group, None, counts[column])
            for (number, place, group), column in self.fed.items()
            if counts[column]
        ]
        left = {key: counts[column] for key, column in self.injected.items()}
        for (number, place, group), column in self.bare.items():
            for injector in self.problem.injectors_for[needs[number][0]]:
                some = min(counts[column], left[number, injector])
                if some:
                    seats.append(Seat(needs[number][0], place, group, injector, some))
                    left[number, injector] -= some
                    counts[column] -= some
        made = [(pair, option) for pair, ways in self.options.items() for option, column in ways if counts[column]]
        trunks = tuple(TrunkSeat(trunk, place, end) for trunk, place, end, column in self.trunks if counts[column])
        return Seating(self.boxes, tuple(seats), self._links(made, seats, trunks), trunks)

    def _links(
        self, made: Sequence[tuple[Pair, LinkOption]], seats: Sequence[Seat], trunks: Sequence[TrunkSeat]
    ) -> tuple[Link, ...]:
        """Links with the traffic of all that is behind them."""
        upper = {lower: above for (above, lower), _ in made}
        behind = [0] * len(self.boxes)
        sitting = [(seat.box, seat.need.traffic_kbit * seat.count) for seat in seats]
        sitting += [(seat.box, seat.trunk.traffic_kbit) for seat in trunks]
        for sits, traffic in sitting:
            place = sits
            while place:
                behind[place] += traffic
                place = upper[place]
        return tuple(Link(above, lower, option, behind[lower]) for (above, lower), option in made)


def added(*terms: Mapping[Column, float]) -> Terms:
    """The sum of terms."""
    total: Terms = {}
    for some in terms:
        for column, value in some.items():
            total[column] = total.get(column, 0.0) + value
    return total


def negative(terms: Mapping[Column, float]) -> Terms:
    """Terms with their signs turned."""
    return {column: -value for column, value in terms.items()}
