"""Stars around one centre, for many configurations at once: made in which ways, at what price.

Sharper than the sums over a configuration: fast ends at the centre are few, its links take ports from its drops, and
every link that is fast or in a slot has its price."""

from __future__ import annotations

from functools import cached_property
from typing import NamedTuple

import numpy as np

from ..model.arrays import Counts, Flags, Places
from ..model.supply import BoxType
from .box_rows import Rows, best_of
from .linear import Floats
from .link_class import LinkClass

WAYS_MOST = 20_000
"""Combinations of ways looked at; a configuration with more is left to the assignment."""
LEFT = 0
"""The price of a configuration that is left to the assignment."""


class Ends(NamedTuple):
    """How links may end at a centre, in arrays."""

    first: Places
    last: Places
    """Of each switch its first and last way to hang off the centre."""
    rows: Rows
    """Of each way what the switch and its link give and take."""
    in_slot: Flags
    speed: Places
    """Whether the link ends in a slot of the centre, else the number of its speed."""
    slots: int
    """Of the centre."""
    ports: Rows
    """Of the centre that serve each up-set."""
    faster: Rows
    """A row a speed: those that do, or are as fast."""
    own_able: Flags
    """Of each way of the centre's own link which roots have it."""
    own_slots: Rows
    """How many slots of the centre are left to others then."""
    own_roots: Rows
    own_centre: Rows
    """What each root, and the centre, give and take then."""


class LinkBounds:
    """Stars of a link class around one centre (a root, or a switch that hangs off one), of configurations that hold
    it: so many of each box a row, equally many in all rows."""

    def __init__(self, group: LinkClass, boxes: tuple[BoxType, ...], centre: BoxType) -> None:
        self.group, self.centre = group, centre
        self._boxes = boxes
        self.place = boxes.index(centre)
        self.roots = sum(box.is_root for box in boxes)
        self._hung = group.rows.hung([centre])
        self._rooted, rows = (
            ([], self._hung.rows[:0]) if centre.is_root else group.rows.rooted(boxes[: self.roots], centre)
        )
        self.can_be = centre.is_root or bool(self._rooted)
        self._best = np.vstack([np.zeros((self.roots, self._hung.rows.shape[1]), dtype=np.int64), self._hung.best])
        if centre.is_root:
            self._best[self.place] = group.rows.bare([centre])[0]
        else:
            at = {root: place for place, root in enumerate(boxes[: self.roots])}
            places = np.array([at[root] for root, _ in self._rooted], dtype=np.intp)
            self._best[: self.roots] = best_of(rows, places, self.roots)

    def relaxed_prices(self, counts: Floats) -> Rows:
        """Least price of sets, with injectors and modules, if every link were made in all its ways at once [minor]; −1
        where no assignment can exist."""
        more = counts.astype(np.int64)
        more[:, self.place] -= not self.centre.is_root
        sums = more @ self._best
        boxes = int(counts[0].sum())
        on_ports = max(0, boxes - 1 - (self.centre.slot_count if self.group.problem.modules else 0))
        held, most = self.group.rows.held, max(0, self.centre.ports_most - on_ports)
        sums[:, held:] += np.clip(self.group.rows.holds(self.centre), 0, most)
        if not self.centre.is_root:
            sums += self.group.rows.bare([self.centre])
        return self.group.least_price(sums)

    def priced(self, counts: Floats | Counts) -> Rows:
        """Least price of sets over every way of their links [minor]; −1 where no star works, `LEFT` where there are too
        many ways."""
        from .link_prices import centre_prices

        boxes = int(counts[0].sum())
        if boxes == 1:
            return self.group.least_price(self.group.rows.roots([(self.centre, None)])).repeat(len(counts))
        whole = np.ascontiguousarray(counts, dtype=np.int16)
        prices: Rows = centre_prices(whole, self.place, self.roots, boxes, WAYS_MOST, self._ends, self.group.limits)
        return prices

    @cached_property
    def _ends(self) -> Ends:
        """How links may end at the centre."""
        hung, (speeds, number), rows = self._hung, self._hung.speeds, self.group.rows
        faster = [rows.ports_or_faster(self.centre, speed) for speed in speeds]
        width = self._best.shape[1]
        return Ends(
            hung.first, hung.first + hung.count - 1, hung.rows, hung.ways.upper_in_slot, number,
            self.centre.slot_count, rows.left_by_links(self.centre, ()),
            np.array(faster, dtype=np.int64).reshape(len(speeds), width - rows.held),
            *self._own_ways,
        )  # fmt: skip

    @cached_property
    def _own_ways(self) -> tuple[Flags, Rows, Rows, Rows]:
        """Every way of the centre's own link to a root, as in `Ends`: one, if it is the root."""
        rows, slots, width = self.group.rows, self.centre.slot_count, self._best.shape[1]
        if self.centre.is_root:
            own = rows.roots([(self.centre, None)])
            none = np.zeros((1, self.roots, width), dtype=np.int64)
            return np.ones((1, self.roots), dtype=np.bool_), np.array([slots]), none, own
        ways = [*dict.fromkeys(way for _, way in self._rooted)]
        number = {way: place for place, way in enumerate(ways)}
        places = [number[way] for _, way in self._rooted], [self._boxes.index(root) for root, _ in self._rooted]
        able: Flags = np.zeros((len(ways), self.roots), dtype=np.bool_)
        of_roots = np.zeros((len(ways), self.roots, width), dtype=np.int64)
        able[places], of_roots[places] = True, rows.roots(self._rooted)
        left = np.array([slots - way.lower_in_slot for way in ways], dtype=np.int64)
        return able, left, of_roots, rows.leaf(self.centre, ways)
