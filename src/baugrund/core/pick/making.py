"""What the sets of a relaxation are made of, what they must have, and what they cost at least by their sums."""

from __future__ import annotations

import weakref
from collections.abc import Callable, Iterator
from functools import cached_property
from typing import TYPE_CHECKING, NamedTuple

import numpy as np
from numpy.typing import NDArray

from .box_rows import Rows, best_of
from .figures import Counts, Places
from .hubs import Around
from .linear import Floats
from .listing import Covers, Listed, Pieces, Start

if TYPE_CHECKING:
    from .relaxation import Relaxation

CHAINED_FROM = 2
"""So many boxes and fewer make a star, however they hang."""
PRICED = 6
"""Rows that are looked at with the others at their dual prices: those that are worth most."""


class Columns(NamedTuple):
    """The columns of a relaxation: so many choices of a box first, then others that give at a cost, or for nothing as
    far as they go; among them, from ``held`` on, what a hub holds."""

    costs: Floats
    most: Floats
    choices: int
    held: int
    holds: Rows
    """What hubs hold, a row each."""


class Parts(NamedTuple):
    """What sets are made of: the choices of a relaxation by box, whether its link ends in a slot of the hub, and
    whether it is the hub."""

    order: Places
    """The choices, those of one part together."""
    begins: Places
    """Of each part its first one in that order."""
    begun: Places
    """The parts that a set begins with, a column each: the root, then the hub where that is another one."""
    hubs: Places
    """Of each start the number of the hub; 0 where any box may hang off any."""
    leaves: Places
    """The parts that may come to it."""


class Making:
    """Sets of a relaxation: a root, its hub, and boxes that come to them, each with its link in a slot of the hub or
    not."""

    def __init__(self, relaxation: Relaxation) -> None:
        # a relaxation has its making: were that to have it too, both would stay until the collector comes
        self._relaxation = weakref.ref(relaxation)
        self.group, self.hubs, self.boxes = relaxation.group, relaxation.hubs, relaxation.boxes

    @property
    def relaxation(self) -> Relaxation:
        """Whose sets they are."""
        relaxation = self._relaxation()
        assert relaxation is not None
        return relaxation

    def covers(self, duals: Floats, boxes: int) -> Covers:
        """What any set of so many boxes must have, the ports in all first: each row alone, beside what else there is to
        pay, and, where these duals give it a worth, with all others for theirs."""
        from .summing import summed

        relaxation, program = self.relaxation, self.relaxation.program
        # ranges of the first rows are those of a node, and what they are worth goes with the boxes that they count
        first = len(relaxation.most)
        asked, worth = program.least[first:], duals[first:]
        weights, beside = self._weighed(asked, worth)
        at = np.where(worth > 0, asked, np.where(worth < 0, program.highest[first:], 0.0))
        columns = Columns(program.costs, program.most, relaxation.first_need, relaxation.first_hub, self._held(boxes))
        sums = summed(weights, beside, *self._covering, program.matrix[first:], at, columns, self._parts)
        covers = Covers(*sums)
        covers.constants[:] += relaxation.constant
        return covers

    def _weighed(self, asked: Floats, worth: Floats) -> tuple[Floats, Floats]:
        """Weights of the covering rows, a row a cover: each alone, and those that are worth most once more: for these,
        what all other rows are worth beside it."""
        rows = [row - len(self.relaxation.most) for row in self.relaxation.covering]
        pays = [float(worth[row] * asked[row]) for row in rows]
        ranked = sorted(range(len(rows)), key=lambda place: -pays[place])
        alone = [place for place in ranked if pays[place] > 0][:PRICED]
        weights = np.vstack([np.eye(len(rows)), np.eye(len(rows))[alone]])
        beside = np.tile(worth, (len(alone), 1))
        for number, place in enumerate(alone):
            beside[number, rows[place]] = 0.0
        return weights, beside

    @cached_property
    def _covering(self) -> tuple[Floats, Floats]:
        """What sets must have so much of: what each column gives, a row each, and how much."""
        rows, program = self.relaxation.covering, self.relaxation.program
        return program.matrix[rows], program.least[rows]

    def priced(self, listed: Listed, must_be_in: Callable[[Places], Counts], boxes: int) -> NDArray[np.int64]:
        """Least price of listed sets, with injectors and modules, if every link that ends in a slot of the hub, and
        every other one, were made in all its ways at once [minor]; −1 where no packing can exist.

        ``must_be_in``: boxes beside a start that all sets have.
        """
        from .pricing import set_prices

        starts, at = np.unique(listed.starts, return_inverse=True)
        begun, more = self._begun[starts], must_be_in(starts)
        if more.any():
            begun += more.astype(np.int64) @ self._at_best
        if self.hubs:
            begun[:, self.group.rows.held :] += self._held(boxes)[self._parts.hubs[starts]]
        prices: Rows = set_prices(begun, at, self._leaves, listed.came, self.group.limits)
        return prices

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
        """What drops of each up-set each hub, if there is one, holds at most when so many boxes are linked."""
        if not self.hubs:
            return np.zeros((0, 0), dtype=np.int64)
        return self.group.once(("held", boxes, *self.hubs), lambda: self._hold(boxes))

    def _hold(self, boxes: int) -> NDArray[np.int64]:
        slots = np.array([hub.slot_count if self.group.problem.modules else 0 for hub in self.hubs])
        ports = np.array([hub.ports_most for hub in self.hubs])
        left = np.maximum(0, ports - np.maximum(0, boxes - 1 - slots))
        held: NDArray[np.int64] = np.clip(self.group.rows.all_hold(self.hubs), 0, left[:, None])
        return held

    @cached_property
    def _keys(self) -> dict[tuple[int, bool, bool], list[int]]:
        """The choices of each part: a box, whether its link ends in a slot of the hub, and whether it is the hub."""
        found: dict[tuple[int, bool, bool], list[int]] = {}
        choices = self.relaxation.choices
        whats = zip(choices.place.tolist(), choices.in_hub_slot.tolist(), choices.is_hub.tolist(), strict=True)
        for k, what in enumerate(whats):
            found.setdefault(what, []).append(k)
        return found

    @cached_property
    def _parts(self) -> Parts:
        first, numbered = self.relaxation.first_switch, [*enumerate(self._keys)]
        roots = [n for n, (place, _, _) in numbered if place < first]
        hubs = [(n, self.hubs.index(self.boxes[place])) for n, (place, _, is_hub) in numbered if is_hub]
        leaves = [n for n, (place, _, is_hub) in numbered if place >= first and not is_hub]
        if self.hubs and not self.hubs[0].is_root:
            starts = [(root, hub) for root in roots for hub in hubs]
            begun = [[root for root, _ in starts], [hub for _, (hub, _) in starts]]
            number = [number for _, (_, number) in starts]
        else:
            begun, number = [roots], [dict(hubs).get(root, 0) for root in roots]
        counts = [len(some) for some in self._keys.values()]
        return Parts(
            np.array([k for some in self._keys.values() for k in some]),
            np.cumsum([0, *counts])[:-1],
            np.array(begun, dtype=np.intp),
            np.array(number, dtype=np.intp),
            np.array(leaves, dtype=np.intp),
        )

    @cached_property
    def pieces(self) -> Pieces:
        """What its sets are made of."""
        keys, parts, slots = [*self._keys], self._parts, bool(self.group.problem.modules)
        starts = []
        for start in parts.begun.T.tolist():
            counts = np.zeros(len(self.boxes))
            for n in start:
                counts[keys[n][0]] += 1
            place, in_slot, _ = keys[start[0]]
            hub = keys[start[-1]][0] if self.hubs else None
            there = 0 if hub is None or not slots else self.boxes[hub].slot_count - (in_slot and place != hub)
            starts.append(Start(counts, hub, there))
        leaves = [keys[n] for n in parts.leaves]
        places = np.array([place for place, _, _ in leaves], dtype=np.intp)
        return Pieces(starts, places, np.array([in_slot for _, in_slot, _ in leaves], dtype=np.bool_))
