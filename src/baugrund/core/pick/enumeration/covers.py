"""What the configurations of a relaxation are made of, what they must have, and what they cost at least by their
sums."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import cached_property
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from ..bounds.box_rows import Rows, best_of
from ..bounds.linear import Floats
from ..bounds.link_bounds import LinkBounds
from ..bounds.relaxation import Relaxation
from ..model.arrays import Counts, Places
from .enumeration import Covers, Enumerated, Pieces, Start

CHAINED_FROM = 2
"""So many boxes and fewer make a star, however they hang."""
PRICED = 6
"""Rows that are looked at with the others at their dual prices: those that have the dearest duals."""


class Columns(NamedTuple):
    """The columns of a relaxation: so many choices of a box first, then others that give at a cost, or for nothing as
    far as they go; among them, from ``held`` on, what a centre holds."""

    costs: Floats
    most: Floats
    choices: int
    held: int
    holds: Rows
    """What centres hold, a row each."""


class Parts(NamedTuple):
    """What configurations are made of: the choices of a relaxation by box, whether its link ends in a slot of the
    centre, and whether it is the centre."""

    order: Places
    """The choices, those of one part together."""
    begins: Places
    """Of each part its first one in that order."""
    begun: Places
    """The parts that a configuration begins with, a column each: the root, then the centre where that is another
    one."""
    centres: Places
    """Of each start the number of the centre; 0 where any box may hang off any."""
    leaves: Places
    """The parts that may come to it."""


class Construction:
    """Configurations of a relaxation: a root, its centre, and boxes that come to them, each with its link in a slot
    of the centre or not."""

    def __init__(self, relaxation: Relaxation) -> None:
        self.relaxation = relaxation
        self.group, self.centres, self.boxes = relaxation.group, relaxation.centres, relaxation.boxes

    def covers(self, duals: Floats, boxes: int) -> Covers:
        """What any configuration of so many boxes must have, the ports in all first: each row alone, then those that
        have the dearest duals once more, with all others at theirs."""
        from .lagrangian import row_covers

        relaxation, program = self.relaxation, self.relaxation.program
        # ranges of the first rows are those of a node, and what they are worth goes with the boxes that they count
        first = len(relaxation.most)
        asked, dual = program.least[first:], duals[first:]
        alone, beside = self._with_others(asked, dual)
        at = np.where(dual > 0, asked, np.where(dual < 0, program.highest[first:], 0.0))
        columns = Columns(
            program.costs, program.most, relaxation.first_need, relaxation.first_centre, self._held(boxes)
        )
        rows = [*relaxation.covering, *(relaxation.covering[place] for place in alone)]
        found = row_covers(
            program.matrix[rows], program.least[rows], beside, program.matrix[first:], at, columns, self._parts
        )
        covers = Covers(*found)
        covers.constants[:] += relaxation.constant
        return covers

    def _with_others(self, asked: Floats, dual: Floats) -> tuple[list[int], Floats]:
        """Numbers of the covering rows that have the dearest duals, and for each the duals of all rows but it."""
        rows = [row - len(self.relaxation.most) for row in self.relaxation.covering]
        pays = [float(dual[row] * asked[row]) for row in rows]
        ranked = sorted(range(len(rows)), key=lambda place: -pays[place])
        alone = [place for place in ranked if pays[place] > 0][:PRICED]
        beside = np.tile(dual, (len(alone), 1))
        for number, place in enumerate(alone):
            beside[number, rows[place]] = 0.0
        return alone, beside

    def priced(self, listed: Enumerated, must_be_in: Callable[[Places], Counts], boxes: int) -> NDArray[np.int64]:
        """Least price of listed configurations, with injectors and modules, if every link that ends in a slot of the
        centre, and every other one, were made in all its ways at once [minor]; −1 where no assignment can exist.

        ``must_be_in``: boxes beside a start that all configurations have.
        """
        from ..bounds.link_prices import set_prices

        starts, at = np.unique(listed.starts, return_inverse=True)
        begun, more = self._begun[starts], must_be_in(starts)
        if more.any():
            begun += more.astype(np.int64) @ self._at_best
        if self.centres:
            begun[:, self.group.rows.held :] += self._held(boxes)[self._parts.centres[starts]]
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

    def by_centre(
        self, counts: Counts, starts: NDArray[np.intp] | None = None
    ) -> Iterator[tuple[LinkBounds | None, NDArray[np.bool_]]]:
        """The centres of configurations of equally many boxes, and which configurations they are: of their starts,
        or (without) all that they may have.  None: any box may hang off any."""
        if not len(counts):
            return
        if not self.centres and counts[0].sum() > CHAINED_FROM:
            yield None, np.ones(len(counts), dtype=np.bool_)
            return
        of_sets = None
        if self.centres and starts is not None:
            of_sets = self.pieces.centres[starts]
        places = np.flatnonzero(counts.any(axis=0)) if of_sets is None else np.unique(of_sets)
        for place in places.tolist():
            box = self.boxes[place]
            if (not self.centres or box in self.centres) and self.relaxation.link_bounds(box).can_be:
                yield self.relaxation.link_bounds(box), (counts[:, place] > 0) if of_sets is None else of_sets == place

    @cached_property
    def _at_best(self) -> NDArray[np.int64]:
        """The best of every figure of each box over all ways to link it."""
        return best_of(self.relaxation.table.astype(np.int64), self.relaxation.place, len(self.boxes))

    def _held(self, boxes: int) -> NDArray[np.int64]:
        """What drops of each up-set each centre, if there is one, holds at most when so many boxes are linked."""
        if not self.centres:
            return np.zeros((0, 0), dtype=np.int64)
        return self.group.once(("held", boxes, *self.centres), lambda: self._hold(boxes))

    def _hold(self, boxes: int) -> NDArray[np.int64]:
        slots = np.array([centre.slot_count if self.group.problem.modules else 0 for centre in self.centres])
        ports = np.array([centre.ports_most for centre in self.centres])
        left = np.maximum(0, ports - np.maximum(0, boxes - 1 - slots))
        held: NDArray[np.int64] = np.clip(self.group.rows.all_hold(self.centres), 0, left[:, None])
        return held

    @cached_property
    def _keys(self) -> dict[tuple[int, bool, bool], list[int]]:
        """The choices of each part: a box, whether its link ends in a slot of the centre, and whether it is the
        centre."""
        found: dict[tuple[int, bool, bool], list[int]] = {}
        choices = self.relaxation.choices
        whats = zip(choices.place.tolist(), choices.in_centre_slot.tolist(), choices.is_centre.tolist(), strict=True)
        for k, what in enumerate(whats):
            found.setdefault(what, []).append(k)
        return found

    @cached_property
    def _parts(self) -> Parts:
        first, numbered = self.relaxation.first_switch, [*enumerate(self._keys)]
        roots = [n for n, (place, _, _) in numbered if place < first]
        centres = [(n, self.centres.index(self.boxes[place])) for n, (place, _, is_centre) in numbered if is_centre]
        leaves = [n for n, (place, _, is_centre) in numbered if place >= first and not is_centre]
        if self.centres and not self.centres[0].is_root:
            starts = [(root, centre) for root in roots for centre in centres]
            begun = [[root for root, _ in starts], [centre for _, (centre, _) in starts]]
            number = [number for _, (_, number) in starts]
        else:
            begun, number = [roots], [dict(centres).get(root, 0) for root in roots]
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
        """What its configurations are made of."""
        keys, parts, slots = [*self._keys], self._parts, bool(self.group.problem.modules)
        starts = []
        for start in parts.begun.T.tolist():
            counts = np.zeros(len(self.boxes))
            for n in start:
                counts[keys[n][0]] += 1
            place, in_slot, _ = keys[start[0]]
            centre = keys[start[-1]][0] if self.centres else None
            there = 0 if centre is None or not slots else self.boxes[centre].slot_count - (in_slot and place != centre)
            starts.append(Start(counts, centre, there))
        leaves = [keys[n] for n in parts.leaves]
        places = np.array([place for place, _, _ in leaves], dtype=np.intp)
        return Pieces(starts, places, np.array([in_slot for _, in_slot, _ in leaves], dtype=np.bool_))
