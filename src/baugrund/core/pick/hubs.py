"""Stars around one hub, for many sets of boxes at once: made in which ways, at what price.

Sharper than the sums over a set: fast ends at the hub are few, its links take ports from its drops, and every link
that is fast or in a slot has its price.
"""

from __future__ import annotations

from functools import cached_property

import numpy as np

from .bounds import LinkClass
from .box_rows import HELD, Rows, best_of, numbered
from .figures import Counts, Flags, Places
from .linear import Floats
from .supply import BoxType

WAYS_MOST = 20_000
"""Combinations of ways looked at; a set with more is left to the packing."""
AT_ONCE = 100_000
"""Combinations of ways of several sets that are held at a time."""
LEFT = 0
"""The price of a set that is left to the packing."""


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
            self._best[self.place] = group.rows.bare(hub)
        else:
            at = {root: place for place, root in enumerate(boxes[: self.roots])}
            places = np.array([at[root] for root, _ in self._rooted], dtype=np.intp)
            self._best[: self.roots] = best_of(rows, places, self.roots)
        self._left: dict[tuple[int, ...], Rows] = {}
        """What its ports leave to each up-set, by rates of links on others."""

    def sketched(self, counts: Floats) -> Rows:
        """Least price of sets, with injectors and modules, if every link were made in all its ways at once [minor]; −1
        where no packing can exist."""
        more = counts.astype(np.int64)
        more[:, self.place] -= not self.hub.is_root
        sums = more @ self._best
        boxes = int(counts[0].sum())
        on_ports = max(0, boxes - 1 - (self.hub.slot_count if self.group.problem.modules else 0))
        sums[:, HELD:] += np.clip(self.group.rows.holds(self.hub), 0, max(0, self.hub.ports_most - on_ports))
        if not self.hub.is_root:
            sums += self.group.rows.bare(self.hub)
        return self.group.least_price(sums, boxes)

    def priced(self, counts: Floats | Counts) -> Rows:
        """Least price of sets over every way of their links [minor]; −1 where no star works, `LEFT` where there are too
        many ways."""
        boxes = int(counts[0].sum())
        if boxes == 1:
            return self.group.least_price(self.group.rows.root(self.hub)[None, :], 1).repeat(len(counts))
        hung = counts.astype(np.intp)
        hung[:, self.place] -= 1
        hung[:, : self.roots] = 0
        owner, place = np.nonzero(hung)
        places = np.repeat(place - self.roots, hung[owner, place]).reshape(len(counts), -1)
        root = counts[:, : self.roots].argmax(axis=1)
        ways = self._hung.count[places].prod(axis=1, dtype=np.float64)
        prices = np.where(ways > 0, LEFT, -1)
        open_sets = np.flatnonzero((ways > 0) & (ways <= WAYS_MOST))
        parts = np.cumsum(ways[open_sets]) // AT_ONCE
        for part in np.unique(parts):
            some = open_sets[parts == part]
            prices[some] = self._least(places[some], root[some], boxes)
        return prices

    def _least(self, places: Places, root: Places, boxes: int) -> Rows:
        """The same of sets, of each the numbers of the switches that hang off the hub, and the place of its root."""
        owner, sums, slots, ports = self._hanging(places, boxes)
        none = np.iinfo(np.int64).max
        least = np.full(len(places), none)
        owners, rows = [], []
        codes, which = np.unique(ports, return_inverse=True)
        left = np.array([self._left_by(self._rates(code, boxes)) for code in codes.tolist()])
        of_own = root[owner]
        for able, most_in_slots, of_roots, hub in self._own_ways:
            fits = np.flatnonzero(able[of_own] & (slots <= most_in_slots))
            if len(fits):
                found = sums[fits] + of_roots[of_own[fits]]
                found[:, :HELD] += hub[:HELD]
                found[:, HELD:] += np.minimum(hub[HELD:], left[which[fits]])
                owners.append(owner[fits])
                rows.append(found)
        if owners:
            found = self.group.least_price(np.concatenate(rows), boxes)
            np.minimum.at(least, np.concatenate(owners), np.where(found < 0, none, found))
        return np.where(least == none, -1, least)

    @cached_property
    def _own_ways(self) -> list[tuple[Flags, int, Rows, Rows]]:
        """For every way of the hub's own link to the root: which roots have it, how many slots of the hub are left to
        others, what the roots give and take then, and the hub (one way, if it is the root)."""
        none, most = np.zeros((self.roots, self._best.shape[1]), dtype=np.int64), self.hub.slot_count
        if self.hub.is_root:
            return [(np.ones(self.roots, dtype=np.bool_), most, none, self.group.rows.root(self.hub))]
        found: list[tuple[Flags, int, Rows, Rows]] = []
        for way in dict.fromkeys(way for _, way in self._rooted):
            roots = {root for root, other in self._rooted if other == way}
            able = np.array([box in roots for box in self._boxes[: self.roots]])
            rows = none.copy()
            rows[able] = [self.group.rows.root(box, way) for box in self._boxes[: self.roots] if box in roots]
            found.append((able, most - way.lower_in_slot, rows, self.group.rows.leaf(self.hub, way)))
        return found

    def _left_by(self, rates: tuple[int, ...]) -> Rows:
        if rates not in self._left:
            self._left[rates] = self.group.rows.left_by_links(self.hub, rates)
        return self._left[rates]

    def _hanging(self, places: Places, boxes: int) -> tuple[Places, Rows, Rows, Rows]:
        """Every combination of ways to hang the switches of each set off the hub: whose it is, the sum of what they
        give, the slots that they take at the hub, and the ports: how many of each speed, as one number (``_rates``)."""
        hung, most = self._hung, self.hub.slot_count
        in_slot, (_, speed) = hung.ways.upper_in_slot, hung.speeds
        owner, last = np.arange(len(places)), np.zeros(len(places), dtype=np.intp)
        sums = np.zeros((len(places), self._best.shape[1]), dtype=np.int64)
        slots, ports = np.zeros((2, len(places)), dtype=np.int64)
        on_port = np.where(in_slot, 0, boxes**speed)
        before = np.full(len(places), -1)
        for column in places.T:
            parent, further = numbered(hung.count[column[owner]])
            way = hung.first[column[owner[parent]]] + further
            kept = slots[parent] + in_slot[way] <= most
            # of equal boxes, which of them hangs in which way is all the same
            kept &= (before != column)[owner[parent]] | (way >= last[parent])
            parent, way = parent[kept], way[kept]
            owner, sums, last = owner[parent], sums[parent] + hung.rows[way], way
            slots, ports = slots[parent] + in_slot[way], ports[parent] + on_port[way]
            before = column
        return owner, sums, slots, ports

    def _rates(self, code: int, boxes: int) -> tuple[int, ...]:
        """The rates of links on ports, the slowest first, from the number whose digits count them by speed."""
        speeds, _ = self._hung.speeds
        counts = [code // boxes**place % boxes for place in range(len(speeds))]
        return tuple(speed for speed, count in zip(speeds, counts, strict=True) for _ in range(count))
