"""What the sets of a relaxation are made of, what they must have, and what they cost at least by their sums."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import combinations
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from .box_rows import HELD, best_of
from .figures import Counts, Places
from .hubs import Around
from .linear import Floats
from .listing import Covers, Listed, Pieces, Start

if TYPE_CHECKING:
    from .relaxation import Relaxation
    from .worths import Pool

CHAINED_FROM = 2
"""So many boxes and fewer make a star, however they hang."""
PRICED, PAIRED = 6, 5
"""Rows that are looked at with the others at their worth, and two at a time: those that are worth most."""


@dataclass(frozen=True, eq=False)
class _Parts:
    """The choices of a relaxation by box, whether its link ends in a slot of the hub, and whether it is the hub."""

    order: NDArray[np.intp]
    """The choices, those of one part together."""
    begins: NDArray[np.intp]
    starts: list[tuple[int, ...]]
    """Parts that a set begins with: the root, then the hub where that is another one."""
    leaves: list[int]
    keys: list[tuple[int, bool, bool]]

    @cached_property
    def begun(self) -> NDArray[np.intp]:
        """The parts of each start, a column each."""
        return np.array(self.starts, dtype=np.intp).T


@dataclass(frozen=True, eq=False)
class _Sums:
    """Rows that sets must cover, without what the hub holds: what each drop that it does costs, and gives."""

    covers: Covers
    held: tuple[Floats, Floats]
    """A column an up-set."""


class Making:
    """Sets of a relaxation: a root, its hub, and boxes that come to them, each with its link in a slot of the hub or
    not."""

    def __init__(self, relaxation: Relaxation) -> None:
        self.relaxation = relaxation
        self.group, self.hubs, self.boxes = relaxation.group, relaxation.hubs, relaxation.boxes

    def covers(self, duals: Floats, boxes: int, pool: Pool | None = None) -> Covers:
        """What any set of so many boxes must have, the ports in all first: each row alone, beside what else there is to
        pay, and, where these duals give it a worth, with the others for theirs and with one other at its own; then
        nothing but what it costs by the worths of a pool."""
        # rows that came since these duals are worth nothing by them
        later = len(self.relaxation.program.least) - len(duals)
        sums = (self._alone, self._by_worth(np.append(duals, np.zeros(later))))
        covers = sums[0].covers.and_also(sums[1].covers)
        if self.hubs:
            holds = self._held(boxes).T
            costs, gives = (np.vstack(some) @ holds for some in zip(*(one.held for one in sums), strict=True))
            covers = replace(
                covers,
                start_costs=covers.start_costs + costs[:, self._hub_of],
                start_gives=covers.start_gives + gives[:, self._hub_of],
            )
        return covers.and_also(self._by_worths(pool, boxes)) if pool and pool.kept and self.hubs else covers

    @cached_property
    def _alone(self) -> _Sums:
        """Each row alone."""
        return self._sums(np.eye(len(self.relaxation.covering)), np.zeros((0, len(self.relaxation.program.least))))

    def _by_worths(self, pool: Pool, boxes: int) -> Covers:
        charges = [pool.charges(worths, self.relaxation, boxes) for worths in pool.kept]
        costs = np.array([one.choices for one in charges])
        least = np.minimum.reduceat(costs[:, self._parts.order], self._parts.begins, axis=1)
        starts = least[:, self._parts.begun].sum(axis=1)
        none, leaves = np.zeros(len(charges)), least[:, self._parts.leaves]
        constants = np.array([one.constant for one in charges])
        return Covers(constants, none, none, starts, np.zeros_like(starts), leaves, np.zeros_like(leaves))

    def _by_worth(self, duals: Floats) -> _Sums:
        """Rows that are worth something, two at a time, and each with the others at their worth."""
        asked, rows = self.relaxation.program.least, self.relaxation.covering
        worth = [row for row in sorted(rows, key=lambda row: -duals[row] * asked[row]) if duals[row] * asked[row] > 0]
        alone, pairs = worth[:PRICED], [*combinations(worth[:PAIRED], 2)]
        weights, others = np.zeros((len(pairs) + len(alone), len(rows))), np.tile(duals, (len(alone), 1))
        at = {row: place for place, row in enumerate(rows)}
        for place, pair in enumerate(pairs):
            both = sum(duals[row] * asked[row] for row in pair)
            weights[place, [at[row] for row in pair]] = [asked[rows[0]] * duals[row] / both for row in pair]
        for place, row in enumerate(alone):
            weights[len(pairs) + place, at[row]] = 1.0
            others[place, row] = 0.0
        return self._sums(weights, others)

    def _sums(self, weights: Floats, duals: Floats) -> _Sums:
        """Rows that sets must cover, added up with these weights, a cover each, the last ones beside what all other
        rows are worth."""
        program, first, rows = self.relaxation.program, self.relaxation.first_need, self.relaxation.covering
        gives, asked = weights @ program.matrix[rows], weights @ program.least[rows]
        plain = len(weights) - len(duals)
        rest = np.vstack([program.costs, program.costs - duals @ program.matrix])
        row = np.maximum(np.arange(len(weights)) - plain + 1, 0)
        """Of each cover its row in what is paid beside: the first ones have one for all."""
        # what the hub holds is told with it; other columns than boxes give at a cost, or for nothing as far as they go
        held = slice(self.relaxation.first_hub, self.relaxation.first_level)
        most = program.most[first:].copy()
        most[held.start - first : held.stop - first] = 0.0
        others, helps = rest[row, first:], gives[:, first:]
        asked = asked - np.where(others <= 0, np.maximum(helps, 0.0), 0.0) @ most
        paid = (helps > 0) & (others > 0)
        mend = np.where(paid, others / np.where(paid, helps, 1.0), np.inf).min(axis=1, initial=np.inf)
        constants = np.minimum(others, 0.0) @ most + self.relaxation.constant
        # ranges of the first rows are those of a node: what they are worth goes with the boxes that they count
        mine, count = duals[:, : len(self.relaxation.most)], len(self.boxes)
        at = np.where(duals > 0, program.least, np.where(duals < 0, program.highest, 0.0))
        at[:, : len(self.relaxation.most)] = 0.0
        constants[plain:] += (duals * at).sum(axis=1)
        rest[1:, :first] += (mine[:, :count] + mine[:, count:] @ self.relaxation.groups)[:, self.relaxation.place]
        order, begins = self._parts.order, self._parts.begins
        least = np.minimum.reduceat(rest[:, order], begins, axis=1)[row]
        given = np.maximum(np.maximum.reduceat(gives[:, order], begins, axis=1), 0.0)
        leaves = self._parts.leaves
        begun, gave = (of[:, self._parts.begun].sum(axis=1) for of in (least, given))
        covers = Covers(constants, np.maximum(asked, 0.0), mend, begun, gave, least[:, leaves], given[:, leaves])
        by_hub = np.minimum(rest[row, held], 0.0), np.where(rest[row, held] <= 0, gives[:, held], 0.0)
        return _Sums(covers, by_hub)

    def priced(self, listed: Listed, must_be_in: Callable[[Places], Counts], boxes: int) -> NDArray[np.int64]:
        """Least price of listed sets, with injectors and modules, if every link that ends in a slot of the hub, and
        every other one, were made in all its ways at once [minor]; −1 where no packing can exist.

        ``must_be_in``: boxes beside a start that all sets have.
        """
        starts, at = np.unique(listed.starts, return_inverse=True)
        begun, leaves = self._begun[starts] + must_be_in(starts).astype(np.int64) @ self._at_best, self._leaves
        if self.hubs:
            begun[:, HELD:] += self._held(boxes)[self._hub_of[starts]]
        sums = begun[at]
        for came in listed.came.T:
            sums += leaves[came]
        return self.group.least_price(sums, boxes)

    @cached_property
    def _begun(self) -> NDArray[np.int64]:
        """The best of every figure of each start."""
        found: NDArray[np.int64] = self._part_rows[self._parts.begun].sum(axis=0)
        return found

    @cached_property
    def _leaves(self) -> NDArray[np.int64]:
        """The best of every figure of each piece that may come, and of none."""
        return np.vstack([self._part_rows[self._parts.leaves], np.zeros_like(self._part_rows[:1])])

    @cached_property
    def _part_rows(self) -> NDArray[np.int64]:
        order, begins = self._parts.order, self._parts.begins
        places = np.repeat(np.arange(len(begins)), np.diff([*begins, len(order)]))
        return best_of(self.relaxation.table[order].astype(np.int64), places, len(begins))

    def around(
        self, counts: Counts, starts: NDArray[np.intp] | None = None
    ) -> Iterator[tuple[Around | None, NDArray[np.bool_]]]:
        """The hubs of sets of equally many boxes, and which sets they are: of their starts, or (without) all that they
        may have.  None: any box may hang off any."""
        if not len(counts):
            return
        if not self.hubs and counts[0].sum() > CHAINED_FROM:
            yield None, np.ones(len(counts), dtype=np.bool_)
            return
        of_sets = None
        if self.hubs and starts is not None:
            of_sets = self.pieces.hubs[starts]
        places = np.flatnonzero(counts.any(axis=0)) if of_sets is None else np.unique(of_sets)
        for place in places.tolist():
            box = self.boxes[place]
            if (not self.hubs or box in self.hubs) and self.relaxation.around(box).can_be:
                yield self.relaxation.around(box), (counts[:, place] > 0) if of_sets is None else of_sets == place

    @cached_property
    def _at_best(self) -> NDArray[np.int64]:
        """The best of every figure of each box over all ways to link it."""
        return best_of(self.relaxation.table.astype(np.int64), self.relaxation.place, len(self.boxes))

    def _held(self, boxes: int) -> NDArray[np.int64]:
        """What drops of each up-set each hub holds at most when so many boxes are linked."""
        return self.group.once(("held", boxes, *self.hubs), lambda: self._hold(boxes))

    def _hold(self, boxes: int) -> NDArray[np.int64]:
        slots = np.array([hub.slot_count if self.group.problem.modules else 0 for hub in self.hubs])
        ports = np.array([hub.ports_most for hub in self.hubs])
        left = np.maximum(0, ports - np.maximum(0, boxes - 1 - slots))
        held: NDArray[np.int64] = np.clip(self.group.rows.all_hold(self.hubs), 0, left[:, None])
        return held

    @cached_property
    def _hub_of(self) -> Places:
        """The number of the hub of each start."""
        number = np.zeros(len(self.boxes), dtype=np.intp)
        number[[self.boxes.index(hub) for hub in self.hubs]] = np.arange(len(self.hubs))
        found: Places = number[self.pieces.hubs]
        return found

    @cached_property
    def _parts(self) -> _Parts:
        found: dict[tuple[int, bool, bool], list[int]] = {}
        choices = self.relaxation.choices
        whats = zip(choices.place.tolist(), choices.in_hub_slot.tolist(), choices.is_hub.tolist(), strict=True)
        for k, what in enumerate(whats):
            found.setdefault(what, []).append(k)
        keys = list(found)
        columns = [k for some in found.values() for k in some]
        begins = np.cumsum([0, *(len(some) for some in found.values())])[:-1]
        roots = [n for n, (place, _, _) in enumerate(keys) if place < self.relaxation.first_switch]
        hubs = [n for n, (_, _, is_hub) in enumerate(keys) if is_hub]
        leaves = [
            n for n, (place, _, is_hub) in enumerate(keys) if place >= self.relaxation.first_switch and not is_hub
        ]
        starts: list[tuple[int, ...]] = [(root,) for root in roots]
        if self.hubs and not self.hubs[0].is_root:
            starts = [(root, hub) for root in roots for hub in hubs]
        return _Parts(np.array(columns), begins, starts, leaves, keys)

    @cached_property
    def pieces(self) -> Pieces:
        """What its sets are made of."""
        parts, slots = self._parts, bool(self.group.problem.modules)
        starts = []
        for start in parts.starts:
            counts = np.zeros(len(self.boxes))
            for n in start:
                counts[parts.keys[n][0]] += 1
            place, in_slot = parts.keys[start[0]][0], parts.keys[start[0]][1]
            hub = parts.keys[start[-1]][0] if self.hubs else None
            there = 0 if hub is None or not slots else self.boxes[hub].slot_count - (in_slot and place != hub)
            starts.append(Start(counts, hub, there))
        places = np.array([parts.keys[n][0] for n in parts.leaves], dtype=np.intp)
        return Pieces(starts, places, np.array([parts.keys[n][1] for n in parts.leaves], dtype=np.bool_))
