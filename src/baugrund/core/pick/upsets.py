"""Up-sets: drops that only good enough ports can take, and how many of them a box holds at most.

Needs are ordered by speed and class.  An *up-set* has with every need all that ask at least as much; ports that can
take one of its needs are those that reach one of its corners.  By Hall's theorem ports suffice when they do for every
up-set.  An injector takes a powered drop out of an up-set, unless the up-set has a bare corner as slow as the drop.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import accumulate, combinations

import numpy as np
from numpy.typing import NDArray

from ..demand import Need
from .problem import Problem
from .supply import BoxType

MOST_BUSY = 4
"""Sets of the busiest drops that are looked at beside the up-sets."""
MOST_CORNERS = 3
"""Up-sets with more corners are left out: there are many, and few of them tell more."""

Counts = NDArray[np.int64]
Corner = tuple[int, int]
"""Speed [Mbit/s] and class rank."""


@dataclass(frozen=True)
class UpSet:
    """All needs that reach one of the corners: how many drops that is, what they draw and send."""

    corners: tuple[Corner, ...]
    count: int
    bare: int
    """Drops that draw nothing of a box's budget, or need not without leaving the set."""
    powers_mw: tuple[int, ...]
    """Watts of the others, least first."""
    traffics_kbit: tuple[int, ...]
    """Of all, least first."""
    curable: tuple[int, ...]
    """Numbers of the needs that an injector takes out of the set."""
    cure_minor: int | None
    """Least price of an injector that takes one out; None: none does."""

    def reached(self, speed_mbit: int, poe_rank: int) -> bool:
        """Whether a port, or a need, of this speed and class reaches a corner."""
        return reaches(self.corners, speed_mbit, poe_rank)

    @cached_property
    def powers_summed(self) -> list[int]:
        """Watts of the least hungry of the others, of the two least, and so on."""
        return list(accumulate(self.powers_mw))

    @cached_property
    def traffics_summed(self) -> list[int]:
        """What the least busy sends, the two least, and so on."""
        return list(accumulate(self.traffics_kbit))

    def left_by_links(self, box: BoxType, rates: Sequence[int]) -> int:
        """How many ports that reach it are left when links of these rates end on the box's ports."""
        left = sum(port.count for port in box.ports if self.reached(port.speed_mbit, port.poe_rank))
        for rate in set(rates):
            taken = sum(other >= rate for other in rates)
            left = min(left, self.ports_or_faster(box, rate) - taken)
        return left

    def ports_or_faster(self, box: BoxType, rate_mbit: int) -> int:
        """Ports that reach it or are at least so fast."""
        return sum(
            port.count
            for port in box.ports
            if port.speed_mbit >= rate_mbit or self.reached(port.speed_mbit, port.poe_rank)
        )


class UpSets(list[UpSet]):
    """All up-sets of a problem together."""

    def __init__(self, up_sets: Sequence[UpSet]) -> None:
        super().__init__(up_sets)
        self._count = np.array([up_set.count for up_set in self], dtype=np.int64)
        self._bare = np.array([up_set.bare for up_set in self], dtype=np.int64)
        self._kept: dict[object, Counts] = {}

    def held(self, box: BoxType, carries_kbit: int | None, link_port: int | None) -> Counts:
        """How many drops of each a box holds at most, behind a link that carries so much (None: none is crossed).

        ``link_port`` is the port group that the link itself takes a port of.
        """
        return self._once((box, carries_kbit, link_port), lambda: self._held(box, carries_kbit, link_port))

    def _held(self, box: BoxType, carries_kbit: int | None, link_port: int | None) -> Counts:
        ports, most = self._once(box, lambda: self._on_ports(box)), box.ports_most
        if link_port is not None:
            port = box.ports[link_port]
            ports = ports - self._reached(port.speed_mbit, port.poe_rank)
            most -= 1
        watts = box.power_most_mw
        fed = self._once(("fed", watts), lambda: np.array([how_many(u.powers_summed, watts) for u in self]))
        held = np.minimum(
            np.minimum(ports, most), np.minimum(self._count, self._bare + np.minimum(box.powered_most, fed))
        )
        if carries_kbit is None:
            return held
        sent = self._once(
            ("sent", carries_kbit), lambda: np.array([how_many(u.traffics_summed, carries_kbit) for u in self])
        )
        return np.minimum(held, sent)

    def _on_ports(self, box: BoxType) -> Counts:
        """Ports of a box that reach each."""
        none = np.zeros(len(self), dtype=np.int64)
        return sum((port.count * self._reached(port.speed_mbit, port.poe_rank) for port in box.ports), none)

    def _reached(self, speed_mbit: int, poe_rank: int) -> Counts:
        key = ("reached", speed_mbit, poe_rank)
        return self._once(key, lambda: np.array([u.reached(speed_mbit, poe_rank) for u in self], dtype=np.int64))

    def _once(self, key: object, make: Callable[[], Counts]) -> Counts:
        """What is the same whenever it is asked for."""
        if key not in self._kept:
            self._kept[key] = make()
        return self._kept[key]


def how_many(summed: Sequence[int], room: int) -> int:
    """How many amounts go into a room, the least first; ``summed``: of the first, of the first two, and so on."""
    return bisect_right(summed, room)


def up_sets(problem: Problem) -> UpSets:
    """Every distinct up-set of a problem's needs with at most three corners, the whole first."""
    asked = sorted({(need.speed_mbit, need.poe_rank) for need, _ in problem.needs})
    least_minor = [
        min((injector.price_minor for injector in problem.injectors_for[need]), default=None)
        for need, _ in problem.needs
    ]
    found: dict[frozenset[int], UpSet] = {}
    for corners in all_corners(asked, MOST_CORNERS):
        inside = [n for n, (need, _) in enumerate(problem.needs) if reaches(corners, need.speed_mbit, need.poe_rank)]
        found.setdefault(frozenset(inside), _up_set(problem, corners, inside, least_minor))
    for traffic_kbit in sorted({need.traffic_kbit for need, _ in problem.needs}, reverse=True)[:MOST_BUSY]:
        inside = [n for n, (need, _) in enumerate(problem.needs) if need.traffic_kbit >= traffic_kbit]
        found.setdefault(frozenset(inside), _busy_set(problem, inside, least_minor))
    return UpSets(sorted(found.values(), key=lambda up_set: -up_set.count))


def reaches(corners: Sequence[Corner], speed_mbit: int, poe_rank: int) -> bool:
    """Whether a port, or a need, of this speed and class reaches one of the corners."""
    return any(speed_mbit >= speed and poe_rank >= rank for speed, rank in corners)


def all_corners(kinds: Sequence[Corner], most: int) -> Iterator[tuple[Corner, ...]]:
    """The corners of every up-set of these kinds that has at most so many, those with few first."""
    for size in range(1, most + 1):
        yield from (corners for corners in combinations(kinds, size) if _are_apart(corners))


def _are_apart(corners: Sequence[Corner]) -> bool:
    """Whether no corner lies above another one."""
    return all((a[0] < b[0] and a[1] > b[1]) or (a[0] > b[0] and a[1] < b[1]) for a, b in combinations(corners, 2))


def _up_set(
    problem: Problem, corners: tuple[Corner, ...], inside: Sequence[int], least_minor: Sequence[int | None]
) -> UpSet:
    bare_from = min((speed for speed, rank in corners if not rank), default=None)

    def stays(number: int, need: Need) -> bool:
        """A drop on its injector asks for a bare port as fast as before."""
        fed = not need.poe_rank or least_minor[number] is not None
        return fed and bare_from is not None and need.speed_mbit >= bare_from

    return _made(problem, corners, inside, least_minor, stays)


def _busy_set(problem: Problem, inside: Sequence[int], least_minor: Sequence[int | None]) -> UpSet:
    """The busiest drops: few of them go behind a slow link.  An injector takes none of them out."""

    def stays(number: int, need: Need) -> bool:
        return not need.poe_rank or least_minor[number] is not None

    members = [(number, problem.needs[number][0]) for number in inside]
    corners = {(need.speed_mbit, 0 if stays(number, need) else need.poe_rank) for number, need in members}
    return _made(problem, tuple(corners), inside, least_minor, stays)


def _made(
    problem: Problem, corners: tuple[Corner, ...], inside: Sequence[int], least_minor: Sequence[int | None],
    stays: Callable[[int, Need], bool],
) -> UpSet:  # fmt: skip
    """A set of these needs; ``stays`` says of one whether it is in the set still when an injector feeds it, or needs
    none."""
    members = [(number, *problem.needs[number]) for number in inside]
    leaving = [(number, need, count) for number, need, count in members if not stays(number, need)]
    prices = {number: price for number, _, _ in leaving if (price := least_minor[number]) is not None}
    count = sum(count for _, _, count in members)
    return UpSet(
        corners=corners,
        count=count,
        bare=count - sum(count for _, _, count in leaving),
        powers_mw=tuple(sorted(need.power_mw for _, need, count in leaving for _ in range(count))),
        traffics_kbit=tuple(sorted(need.traffic_kbit for _, need, count in members for _ in range(count))),
        curable=tuple(prices),
        cure_minor=min(prices.values(), default=None),
    )


class Enough:
    """Whether boxes have ports and watts enough for the drops of every up-set, and an end for every link to another
    closet: a quick look before anything is seated.  Where it says no, nothing can be."""

    def __init__(self, problem: Problem) -> None:
        self._problem = problem
        self._up_sets = up_sets(problem)
        counts = [count for _, count in problem.needs]
        self._least = np.array([u.count - sum(counts[n] for n in u.curable) for u in self._up_sets], dtype=np.int64)
        """How many drops of each they must hold, were all fed by injectors that can be."""
        self._ends_at: dict[BoxType, tuple[bool, ...]] = {}

    def __call__(self, boxes: Sequence[BoxType]) -> bool:
        held = sum((self._up_sets.held(box, None, None) for box in boxes), np.zeros_like(self._least))
        return bool((held >= self._least).all()) and all(map(any, zip(*map(self._ends, boxes), strict=True)))

    def _ends(self, box: BoxType) -> tuple[bool, ...]:
        """Whether each link to another closet may end in a box."""
        if box not in self._ends_at:
            modules = self._problem.modules
            self._ends_at[box] = tuple(bool(trunk.ends_at(modules, box)) for trunk in self._problem.trunks)
        return self._ends_at[box]
