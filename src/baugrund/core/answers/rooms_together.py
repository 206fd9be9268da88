"""Which rooms get a switch, chosen together with the boxes of the closets: the least of all ways, proven.

Every set of rooms is a project of its own.  Its cables, hours and room switches are known at once; its least pick is
not, but it costs no less than that of any project that asks for less: the bound of those is its own.
"""

from __future__ import annotations

import heapq
from collections.abc import Sequence
from itertools import combinations

from ..edits import Edit, RemoveDrops, apply_edits
from ..errors import TookTooLong
from ..explain.years import Outlook
from ..facts.fact import Fact
from ..pick.best import least_price
from ..pick.site import Site, asks_no_more
from ..watch import counted_off
from .beyond import RoomPorts

ROOMS_MOST = 8
"""Rooms that are chosen from, those that gain most alone."""
PICKS_MOST = 24
"""Least picks that are looked for before the choice is told unproven."""


class RoomsTogether(Fact):
    """Room switches in several rooms at once."""

    room_ids: tuple[int, ...]
    more_minor: int
    """What it costs more in all than a cable each everywhere; under 0: less."""
    proven: bool
    """Whether no other choice among these rooms, each by cables or by its switch, is proven to cost less."""
    of: int
    """How many rooms were chosen from."""


def rooms_together(outlook: Outlook, pick_minor: int, rooms: Sequence[RoomPorts]) -> RoomsTogether | None:
    """The least choice of rooms, if it has several of them.

    ``pick_minor``: price of the least pick with a cable for each.
    """
    asked = sorted(rooms, key=lambda room: room.more_minor)[:ROOMS_MOST]
    return _Choice(outlook, pick_minor, asked).made() if len(asked) > 1 else None


class _Choice:
    def __init__(self, outlook: Outlook, pick_minor: int, rooms: Sequence[RoomPorts]) -> None:
        self.outlook, self.pick_minor, self.rooms = outlook, pick_minor, rooms
        self.known: list[tuple[Site, int]] = []
        """Sites that were looked at, and what no pick of them can cost less than."""
        self.is_certain = True

    def made(self) -> RoomsTogether | None:
        """Best first, by what the rest of a project costs and what its pick is known to cost at least."""
        drops = [drop for room in self.rooms for drop in room.edit.drop_ids]
        self._pick(self._site([RemoveDrops(ids=tuple(drops))]))
        best: tuple[RoomPorts, ...] = ()
        more = 0
        sets = [some for size in range(1, len(self.rooms) + 1) for some in combinations(self.rooms, size)]
        heap: list[tuple[int, int, Site | None]] = [
            (_own(some) - self.pick_minor, number, None) for number, some in enumerate(sets)
        ]
        heapq.heapify(heap)
        proven = False
        for _ in counted_off(range(PICKS_MOST)):
            next_one = self._next(heap, sets, more)
            if next_one is None:
                proven = self.is_certain
                break
            some, site = next_one
            found = self._pick(site)
            if found is not None and _own(some) + found - self.pick_minor < more:
                best, more = some, _own(some) + found - self.pick_minor
        if len(best) < 2:
            return None
        ids = tuple(room.room_id for room in best)
        return RoomsTogether(room_ids=ids, more_minor=more, proven=proven, of=len(self.rooms))

    def _next(
        self, heap: list[tuple[int, int, Site | None]], sets: Sequence[tuple[RoomPorts, ...]], more: int
    ) -> tuple[tuple[RoomPorts, ...], Site] | None:
        """The set that may cost least, if it may cost less than the best; each is bounded anew when its turn comes."""
        while heap and heap[0][0] < more:
            bound, number, site = heapq.heappop(heap)
            some = sets[number]
            site = site or self._site([room.edit for room in some])
            sharper = _own(some) + self._floor(site) - self.pick_minor
            if sharper <= bound:
                return some, site
            heapq.heappush(heap, (sharper, number, site))
        return None

    def _site(self, edits: Sequence[Edit]) -> Site:
        project = self.outlook.project
        return self.outlook.site(project.settings.horizon_years, apply_edits(project, edits))[0]

    def _pick(self, site: Site) -> int | None:
        """The price of the least pick; None: there is none, or none was found in time."""
        try:
            found = least_price(site)
        except TookTooLong:
            self.is_certain = False
            return None
        if found is None:
            return None
        self.known.append((site, found.bound))
        self.is_certain &= found.proven
        return found.price_minor

    def _floor(self, site: Site) -> int:
        """What a pick costs at least, by what is known [minor]."""
        return max((bound for known, bound in self.known if asks_no_more(known, site)), default=0)


def _own(some: Sequence[RoomPorts]) -> int:
    return sum(room.own_minor for room in some)
