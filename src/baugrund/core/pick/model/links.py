"""Links between boxes of a closet, and ends of links to other closets."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ...demand.traffic import carried_kbit
from ...facts.lines.module import Module
from ...facts.settings import LINK_FILL_PERCENT
from ...standards.fibre import FibreGrade
from .arrays import Flags, Places
from .supply import BoxType, LinkEnd, ModuleType, link_ends

Integers = NDArray[np.int64]


@dataclass(frozen=True, eq=False)
class LinkOption:
    """A pair of matching ends, its rate [Mbit/s] and what its modules cost."""

    upper: LinkEnd
    lower: LinkEnd
    rate_mbit: int
    price_minor: int
    fill_percent: int = LINK_FILL_PERCENT

    @property
    def carries_kbit(self) -> int:
        """Traffic that the link may carry [kbit/s]."""
        return carried_kbit(self.rate_mbit, self.fill_percent)


@dataclass(frozen=True)
class Trunk:
    """A link between closets as both of its ends must be: so many cables or pairs side by side, all at one box.

    Copper ends on ports (or slots with a copper module) of at least its speed, fibre in slots with modules of exactly
    that fibre and speed, and of enough reach.
    """

    closet_id: int
    """The closet at the far end from the router."""
    medium: str
    speed_mbit: int
    ends: int
    traffic_kbit: int
    """Busy hour of all drops behind it [kbit/s]."""
    large_frames: bool = False
    """Whether drops that ask for large frames are on both sides."""
    length_m: float = 0.0
    grade: FibreGrade | None = None
    fill_percent: int = LINK_FILL_PERCENT

    @property
    def carries_kbit(self) -> int:
        """Traffic that it may carry at the least [kbit/s]."""
        return carried_kbit(self.speed_mbit, self.fill_percent) * self.ends

    def takes(self, end: LinkEnd) -> bool:
        """Whether it may end so."""
        if end.medium != self.medium or (end.module and self._reach_m(end.module.model) < self.length_m):
            return False
        return end.speed_mbit >= self.speed_mbit if self.medium == "copper" else end.speed_mbit == self.speed_mbit

    def _reach_m(self, module: Module) -> float:
        return module.reach_on(self.grade) if self.grade else module.reach_m

    def ends_at(self, modules: Sequence[ModuleType], box: BoxType) -> list[LinkEnd]:
        """Where it may end at a box, by ports and slots that are enough."""
        if self.large_frames and not box.model.large_frames:
            return []
        return [
            end
            for end in link_ends(modules, box)
            if self.takes(end)
            and (box.ports[end.port].count if end.port is not None else box.slots[end.slot or 0][0]) >= self.ends
        ]


@dataclass(frozen=True, order=True)
class LinkWay:
    """A way to link a box upwards: rate [Mbit/s], price of the modules at both ends [minor], which ends are slots."""

    rate_mbit: int
    price_minor: int
    lower_in_slot: bool = False
    upper_in_slot: bool = False
    fill_percent: int = LINK_FILL_PERCENT

    @property
    def carries_kbit(self) -> int:
        """Traffic that the link may carry [kbit/s]."""
        return carried_kbit(self.rate_mbit, self.fill_percent)

    def beats(self, other: LinkWay, slots_are_asked: bool) -> bool:
        """Whether it is as fast and no dearer, and takes no port below and nothing above that the other leaves.

        A slower way on ports is not beaten by a faster one: it leaves the fast ports.
        """
        in_slots = self.lower_in_slot and self.upper_in_slot
        return self.stands_for(other, slots_are_asked) and (in_slots or self.rate_mbit == other.rate_mbit)

    def stands_for(self, other: LinkWay, slots_are_asked: bool) -> bool:
        """Whether it is as fast and no dearer on ends of the same sort: enough where ports are not told apart.

        ``slots_are_asked``: links to other closets want slots, so one that is taken is not for nothing.
        """
        takes_no_more = self.lower_in_slot >= other.lower_in_slot
        return (
            self.rate_mbit >= other.rate_mbit
            and self.price_minor <= other.price_minor
            and (self.lower_in_slot == other.lower_in_slot if slots_are_asked else takes_no_more)
            and self.upper_in_slot == other.upper_in_slot
        )


class Ways:
    """Ways to make links as arrays, a row each; of a link that there is not, all is 0."""

    def __init__(self, table: Integers) -> None:
        self._table = table
        self.rate_mbit, self.price_minor = table[:, 0], table[:, 1]
        self.lower_in_slot, self.upper_in_slot = table[:, 2] > 0, table[:, 3] > 0

    @staticmethod
    def of(ways: Sequence[LinkWay]) -> Ways:
        """These."""
        rows = [
            (way.rate_mbit, way.price_minor, way.lower_in_slot, way.upper_in_slot, way.carries_kbit) for way in ways
        ]
        return Ways(np.array(rows, dtype=np.int64).reshape(len(rows), 5))

    @staticmethod
    def none(count: int) -> Ways:
        """So many links that there are not."""
        return Ways(np.zeros((count, 5), dtype=np.int64))

    def __len__(self) -> int:
        return len(self._table)

    @property
    def carries_kbit(self) -> Integers:
        """Traffic that each may carry [kbit/s]."""
        return self._table[:, 4]

    def at(self, places: Places | Flags) -> Ways:
        """Some of them."""
        return Ways(self._table[places])

    def and_also(self, others: Ways) -> Ways:
        """These, then others."""
        return Ways(np.vstack([self._table, others._table]))


def worth_having(
    ways: Iterable[LinkWay], slots_are_asked: bool, beats: Callable[[LinkWay, LinkWay, bool], bool] = LinkWay.beats
) -> list[LinkWay]:
    """Ways that no other one beats, the fastest first."""
    kept: list[LinkWay] = []
    for way in sorted(set(ways), key=lambda way: (-way.rate_mbit, way.price_minor, -way.lower_in_slot)):
        if not any(beats(other, way, slots_are_asked) for other in kept):
            kept.append(way)
    return kept


def link_options(
    uppers: Sequence[LinkEnd], lowers: Sequence[LinkEnd], fill_percent: int = LINK_FILL_PERCENT
) -> tuple[LinkOption, ...]:
    """Ways to link two boxes by their ends, cheapest and fastest first; none that another beats on the same ends."""
    options: dict[tuple[object, ...], LinkOption] = {}
    for a in uppers:
        for b in lowers:
            if a.medium != b.medium or (a.medium != "copper" and a.speed_mbit != b.speed_mbit):
                continue
            price = a.price_minor + b.price_minor
            option = LinkOption(a, b, min(a.speed_mbit, b.speed_mbit), price, fill_percent)
            limited = tuple(end.module.index for end in (a, b) if end.module and end.module.most is not None)
            key = (a.port, a.slot, b.port, b.slot, option.rate_mbit, limited)
            if key not in options or price < options[key].price_minor:
                options[key] = option
    return tuple(sorted(options.values(), key=lambda option: (option.price_minor, -option.rate_mbit)))


class LinkTable:
    """Ways to end links at boxes, and to link two, found once: they follow from ports, slots and modules alone."""

    def __init__(self, fill_percent: int = LINK_FILL_PERCENT) -> None:
        self.fill_percent = fill_percent
        self._ends: dict[object, tuple[LinkEnd, ...]] = {}
        self._options: dict[object, tuple[LinkOption, ...]] = {}
        self._ways: dict[object, list[LinkWay]] = {}
        self._any_ways: dict[object, list[LinkWay]] = {}

    def ends(self, modules: Sequence[ModuleType], box: BoxType) -> tuple[LinkEnd, ...]:
        """Every way to end a link at a box; the same for boxes with the same sorts of ports and slots."""
        key = (modules, box.sorts_of_ends)
        if key not in self._ends:
            self._ends[key] = tuple(link_ends(modules, box))
        return self._ends[key]

    def options(self, modules: Sequence[ModuleType], upper: BoxType, lower: BoxType) -> tuple[LinkOption, ...]:
        """Ways to link two boxes, cheapest and fastest first; none that another beats on the same ends."""
        ends = self.ends(modules, upper), self.ends(modules, lower)
        key = (id(ends[0]), id(ends[1]))
        if key not in self._options:
            self._options[key] = link_options(*ends, self.fill_percent)
        return self._options[key]

    def ways(
        self, modules: Sequence[ModuleType], upper: BoxType, lower: BoxType, slots_are_asked: bool
    ) -> list[LinkWay]:  # fmt: skip
        """The ways to hang one box off another that are worth having."""
        options = self.options(modules, upper, lower)
        key = (id(options), slots_are_asked)
        if key not in self._ways:
            ways = (
                LinkWay(o.rate_mbit, o.price_minor, o.lower.slot is not None, o.upper.slot is not None, o.fill_percent)
                for o in options
            )
            self._ways[key] = worth_having(ways, slots_are_asked)
        return self._ways[key]

    def any_ways(
        self, uppers: Sequence[LinkEnd], lowers: Sequence[LinkEnd], rate_mbit: int, slots_are_asked: bool
    ) -> list[LinkWay]:  # fmt: skip
        """Ways to link one of some ends below with one of others above, at no more than a rate, that are worth having
        where ports are not told apart.  All of them are ends of this table."""
        key = (*map(id, uppers), id(lowers), rate_mbit, slots_are_asked)
        if key not in self._any_ways:
            ways = (
                LinkWay(
                    min(upper.speed_mbit, lower.speed_mbit, rate_mbit),
                    upper.price_minor + lower.price_minor,
                    lower.slot is not None,
                    upper.slot is not None,
                    self.fill_percent,
                )
                for lower in lowers
                for upper in uppers
                if upper.medium == lower.medium and (lower.medium == "copper" or upper.speed_mbit == lower.speed_mbit)
            )
            self._any_ways[key] = worth_having(ways, slots_are_asked, LinkWay.stands_for)
        return self._any_ways[key]
