"""Up-sets: drops that only good enough ports can take, and how many of them a box holds at most.

Needs are ordered by speed and class.  An *up-set* has with every need all that ask at least as much; ports that can
take one of its needs are those that reach one of its corners.  By Hall's theorem ports suffice when they do for every
up-set.  An injector takes a powered drop out of an up-set, unless the up-set has a bare corner as slow as the drop.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import accumulate, combinations

from ...demand.needs import Need
from .problem import Problem

MOST_BUSY = 4
"""Sets of the busiest drops that are looked at beside the up-sets."""
MOST_CORNERS = 3
"""Up-sets with more corners are left out: there are many, and few of them tell more."""

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


def up_sets(problem: Problem) -> list[UpSet]:
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
    return sorted(found.values(), key=lambda up_set: -up_set.count)


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
