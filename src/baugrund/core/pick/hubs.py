"""Stars around one hub, for many sets of boxes at once: made in which ways, at what price.

Sharper than the sums over a set: fast ends at the hub are few, its links take ports from its drops, and every link
that is fast or in a slot has its price.
"""

from __future__ import annotations

from functools import cached_property
from typing import NamedTuple

import numpy as np

from .bounds import LinkClass
from .box_rows import Rows, best_of
from .figures import Counts, Flags, Places
from .linear import Floats
from .supply import BoxType

WAYS_MOST = 20_000
"""Combinations of ways looked at; a set with more is left to the packing."""
LEFT = 0
"""The price of a set that is left to the packing."""


class Ends(NamedTuple):
    """How links may end at a hub, in arrays."""

    first: Places
    last: Places
    """Of each switch its first and last way to hang off the hub."""
    rows: Rows
    """Of each way what the switch and its link give and take."""
    in_slot: Flags
    speed: Places
    """Whether the link ends in a slot of the hub, else the number of its speed."""
    slots: int
    """Of the hub."""
    ports: Rows
    """Of the hub that serve each up-set."""
    faster: Rows
    """A row a speed: those that do, or are as fast."""
    own_able: Flags
    """Of each way of the hub's own link which roots have it."""
    own_slots: Rows
    """How many slots of the hub are left to others then."""
    own_roots: Rows
    own_hub: Rows
    """What each root, and the hub, give and take then."""


class Around:
    """Stars of a link class around one hub (a root, or a switch that hangs off one), of sets that hold it: so many of
    each box a row, equally many in all rows."""

    def __init__(self, group: LinkClass, boxes: tuple[BoxType, ...], hub: BoxType) -> None:
        self.group, self.hub = group, hub
        self._boxes = boxes
        self.place = boxes.index(hub)
        self.roots = sum(box.is_root for box in boxes)
        self._hung = group.rows.hung([hub])
        self._rooted, rows = ([], self._hung.rows[:0]) if hub.is_root else group.rows.rooted(boxes[: self.roots], hub)
        self.can_be = hub.is_root or bool(self._rooted)
        self._best = np.vstack([np.zeros((self.roots, self._hung.rows.shape[1]), dtype=np.int64), self._hung.best])
        if hub.is_root:
            self._best[self.place] = group.rows.bare([hub])[0]
        else:
            at = {root: place for place, root in enumerate(boxes[: self.roots])}
            places = np.array([at[root] for root, _ in self._rooted], dtype=np.intp)
            self._best[: self.roots] = best_of(rows, places, self.roots)

    def sketched(self, counts: Floats) -> Rows:
        """Least price of sets, with injectors and modules, if every link were made in all its ways at once [minor]; −1
        where no packing can exist."""
        more = counts.astype(np.int64)
        more[:, self.place] -= not self.hub.is_root
        sums = more @ self._best
        boxes = int(counts[0].sum())
        on_ports = max(0, boxes - 1 - (self.hub.slot_count if self.group.problem.modules else 0))
        held, most = self.group.rows.held, max(0, self.hub.ports_most - on_ports)
        sums[:, held:] += np.clip(self.group.rows.holds(self.hub), 0, most)
        if not self.hub.is_root:
            sums += self.group.rows.bare([self.hub])
        return self.group.least_price(sums)

    def priced(self, counts: Floats | Counts) -> Rows:
        """Least price of sets over every way of their links [minor]; −1 where no star works, `LEFT` where there are too
        many ways."""
        from .pricing import star_prices

        boxes = int(counts[0].sum())
        if boxes == 1:
            return self.group.least_price(self.group.rows.roots([(self.hub, None)])).repeat(len(counts))
        whole = np.ascontiguousarray(counts, dtype=np.int16)
        prices: Rows = star_prices(whole, self.place, self.roots, boxes, WAYS_MOST, self._ends, self.group.limits)
        return prices

    @cached_property
    def _ends(self) -> Ends:
        """How links may end at the hub."""
        hung, (speeds, number), rows = self._hung, self._hung.speeds, self.group.rows
        faster = [rows.ports_or_faster(self.hub, speed) for speed in speeds]
        width = self._best.shape[1]
        return Ends(
            hung.first, hung.first + hung.count - 1, hung.rows, hung.ways.upper_in_slot, number,
            self.hub.slot_count, rows.left_by_links(self.hub, ()),
            np.array(faster, dtype=np.int64).reshape(len(speeds), width - rows.held),
            *self._own_ways,
        )  # fmt: skip

    @cached_property
    def _own_ways(self) -> tuple[Flags, Rows, Rows, Rows]:
        """Every way of the hub's own link to a root, as in `Ends`: one, if it is the root."""
        rows, slots, width = self.group.rows, self.hub.slot_count, self._best.shape[1]
        if self.hub.is_root:
            own = rows.roots([(self.hub, None)])
            none = np.zeros((1, self.roots, width), dtype=np.int64)
            return np.ones((1, self.roots), dtype=np.bool_), np.array([slots]), none, own
        ways = [*dict.fromkeys(way for _, way in self._rooted)]
        number = {way: place for place, way in enumerate(ways)}
        places = [number[way] for _, way in self._rooted], [self._boxes.index(root) for root, _ in self._rooted]
        able: Flags = np.zeros((len(ways), self.roots), dtype=np.bool_)
        of_roots = np.zeros((len(ways), self.roots, width), dtype=np.int64)
        able[places], of_roots[places] = True, rows.roots(self._rooted)
        left = np.array([slots - way.lower_in_slot for way in ways], dtype=np.int64)
        return able, left, of_roots, rows.leaf(self.hub, ways)
