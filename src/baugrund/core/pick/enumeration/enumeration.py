"""All configurations of a given number of boxes that cost no more than a cutoff, as far as sums over them can tell.

What is asked of a configuration is a few `Covers` rows.  Configurations grow box by box (`depth_first`).  One that
is begun is left as soon as some row says that it cannot be made whole under the cutoff: by a table of the least cost
of what the row still lacks, for every number of boxes to come, of those that may still come.  All is in whole
numbers.

References
----------
.. [1] Martello, Toth: Knapsack Problems (1990), 2.6 (dynamic programming).
.. [2] Geoffrion: Lagrangean relaxation for integer programming (1974): one row stays, the others have their prices.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from ..bounds.linear import Floats
from ..model.arrays import FAR, Counts, Integers, Places

CANDIDATES_MOST = 20_000_000
"""Configurations that are begun; where there are more, the cutoff is lowered or the node is split."""
SETS_MOST = 100_000
"""Configurations that are listed at once, likewise."""
ENTRIES_MOST = 3_000_000
"""Figures of a table: where there would be more, what is asked is counted in coarser steps."""
STEPS_LEAST = 16
"""What is asked by a cover is counted in as many steps as the first asks for, but in no fewer where there is room."""


@dataclass(frozen=True, eq=False)
class Start:
    """What a configuration begins with: its root, and its centre where that is another box."""

    counts: Floats
    """Of each box."""
    centre: int | None
    """Its place among the boxes."""
    slots: int
    """Slots of the centre that links may end in; under 0: it has none for its own link."""


@dataclass(frozen=True, eq=False)
class Pieces:
    """What configurations are made of: a start, and boxes that come to it, each with its link in a slot of the
    centre or not."""

    starts: Sequence[Start]
    places: Places
    """Of the box of each piece that comes to a start."""
    in_slot: NDArray[np.bool_]

    @cached_property
    def counts(self) -> Counts:
        """Of each box, a row for each start."""
        return np.array([start.counts for start in self.starts], dtype=np.int16)

    @cached_property
    def there(self) -> tuple[Places, Places]:
        """Starts, and places of the boxes that each has."""
        rows, places = np.nonzero(self.counts)
        return rows, places

    @cached_property
    def slots(self) -> Places:
        """Of each start."""
        return np.array([start.slots for start in self.starts], dtype=np.intp)

    @cached_property
    def centres(self) -> Places:
        """Of each start its place among the boxes, 0 where there is none."""
        return np.array([start.centre or 0 for start in self.starts], dtype=np.intp)


@dataclass(frozen=True, eq=False)
class Covers:
    """Things that a configuration must have so much of, a row each, and what it costs at least, whatever else is
    asked of it.

    By each cover a configuration costs at least the constant, the costs of its pieces, and ``mends`` for each unit
    that they give less than is asked.  The first tells in which order pieces come."""

    constants: Floats
    asked: Floats
    mends: Floats
    """Infinite: nothing else gives any."""
    start_costs: Floats
    start_gives: Floats
    costs: Floats
    """Of each piece that may come, a column each."""
    gives: Floats
    """What each gives at most, 0 or more."""


@dataclass(frozen=True, eq=False)
class Enumerated:
    """Configurations, so many of each box a row, each with its start, the pieces that came to it and what it costs
    at least, and what all that are left out cost.  A configuration stands there for each way that its links may end."""

    counts: Counts
    starts: Places
    came: Places
    """One number more than there are pieces: none."""
    bounds: Floats
    others: float = math.inf
    """Infinite: none is left out."""
    looked_at: int = 0
    """How many were begun."""

    def only(self, kept: NDArray[np.bool_]) -> Enumerated:
        """Some of these configurations."""
        return replace(
            self, counts=self.counts[kept], starts=self.starts[kept], came=self.came[kept], bounds=self.bounds[kept]
        )


@dataclass(frozen=True, eq=False)
class Beyond:
    """What each box over its least adds to a bound of all configurations, and how much over that the dearest may be."""

    adds: Floats
    spare: float


class Enumeration:
    """The configurations of so many boxes, from a least to a most of each."""

    def __init__(
        self, pieces: Pieces, covers: Covers, least: Floats, most: Floats, boxes: int, beyond: Beyond | None = None
    ) -> None:
        """``beyond``: what is known of boxes that are over their least."""
        if beyond:
            most = np.where(beyond.adds > beyond.spare, least, most)
        self._pieces, self._covers, self._most, self._beyond = pieces, covers, most, beyond
        self._listed_to = -FAR
        """What those cost at most by the covers looked at that were listed before."""
        self._begin(least, boxes)
        able = np.flatnonzero(most[pieces.places] > least[pieces.places])
        # what gives most comes first: what is left to the others is soon too much for them
        self._order = able[np.lexsort((covers.costs[0, able], -covers.gives[0, able], ~pieces.in_slot[able]))]
        self._places = pieces.places[self._order]
        self._in_slots = int(pieces.in_slot[able].sum())
        self._unit = self._fitting()
        self._count_in_steps()

    def _begin(self, least: Floats, boxes: int) -> None:
        """Starts that may be, with all boxes that must be in, and how many are still to come to each."""
        pieces, covers, able = self._pieces, self._covers, self._not_too_dear(least)
        with_least = np.maximum(pieces.counts[able], least).astype(np.int16)
        costs, gives = covers.start_costs.take(able, axis=1), covers.start_gives.take(able, axis=1)
        may_be = np.ones(len(able), dtype=np.bool_)
        for place in np.flatnonzero(least).tolist():
            extra = with_least[:, place] - pieces.counts[able, place]
            coming = np.flatnonzero(pieces.places == place)
            if len(coming):
                costs += covers.costs[:, coming].min(axis=1)[:, None] * extra
                gives += covers.gives[:, coming].max(axis=1)[:, None] * extra
            else:
                may_be &= extra == 0
        to_come = boxes - with_least.sum(axis=1, dtype=np.intp)
        kept = np.flatnonzero(may_be & (to_come >= 0) & (with_least <= self._most).all(axis=1))
        self._able, self._with_least, self._to_come = able[kept], with_least[kept], to_come[kept]
        """Starts that may be; of each all boxes that its configurations have at least, and how many more."""
        self._start_costs, self._start_gives = costs.take(kept, axis=1), gives.take(kept, axis=1)
        self._most_to_come = int(self._to_come.max(initial=0))

    def _not_too_dear(self, least: Floats) -> Places:
        """Starts that have no more than the most of each box, nor cost more than a configuration may by what they
        add."""
        pieces = self._pieces
        able = pieces.slots >= 0
        rows, places = pieces.there
        counts = pieces.counts[rows, places]
        able[rows[counts > self._most[places]]] = False
        if self._beyond:
            adds = self._beyond.adds[places] * np.maximum(counts - least[places], 0.0)
            able &= np.bincount(rows, adds, len(able)) <= self._beyond.spare
        return np.flatnonzero(able)

    def must_be_in(self, starts: Places) -> Counts:
        """Boxes beside each of these starts that all configurations have."""
        found: Counts = self._with_least[np.searchsorted(self._able, starts)] - self._pieces.counts[starts]
        return found

    def _fitting(self) -> float:
        """What costs are counted in, so that all of a configuration stay far under what cannot be."""
        from .depth_first import dearest

        covers, times = self._covers, self._most_to_come + 1
        most = dearest(covers.constants, covers.mends, covers.asked, covers.start_costs, covers.costs, times)
        return max(1.0, 4 * most / (FAR / 4))

    def _count_in_steps(self) -> None:
        """Costs in units and what is asked in steps, so that the table has no more figures than it may."""
        from .depth_first import in_whole

        covers, asked = np.arange(len(self._covers.asked)), self._covers.asked
        finest = max(ENTRIES_MOST // (len(covers) * (len(self._order) + 1) * (self._most_to_come + 1)), 1)
        most = min(finest, max(math.ceil(asked[0]), STEPS_LEAST))
        steps = np.minimum(np.maximum(asked, 1.0), most)
        scale = steps / np.maximum(asked, 1.0)
        self._asked = np.floor(asked * scale + 1e-6).astype(np.int32)
        self._costs, self._gives = in_whole(
            self._covers.costs, self._covers.gives, self._order, covers, scale, self._unit
        )
        self._mends = _floor(self._covers.mends / scale / self._unit)
        starts = np.arange(len(self._able))
        costs, gives = in_whole(self._start_costs, self._start_gives, starts, covers, scale, self._unit)
        self._begun_cost = _floor(self._covers.constants / self._unit) + np.minimum(costs, FAR)
        self._begun_lacks = np.maximum(self._asked - gives, 0)
        self._first_asked = covers
        """In which order covers are asked: those that ruled a configuration out of late first."""

    def up_to(self, cutoff: float, begun_most: int | None = None) -> Enumerated | None:
        """All that cost no more than the cutoff and were not listed before; None when there are too many, or more than
        ``begun_most`` would be begun."""
        from .depth_first import counted, grown, least_of_lacking

        begun_most = begun_most or CANDIDATES_MOST
        most = math.floor(min((cutoff + 1e-3) / self._unit, FAR))
        table = least_of_lacking(
            self._costs, self._gives, self._mends, int(self._asked.max(initial=0)), self._most_to_come
        )
        begun, slots = self._with_least, self._pieces.slots[self._able]
        room = (self._most - begun).astype(np.intp)
        starts, pieces, bounds, others, looked_at = grown(
            table, self._costs, self._gives, self._places, self._in_slots, self._begun_cost, self._begun_lacks,
            slots, room, self._to_come, self._listed_to, most, begun_most, SETS_MOST, self._first_asked,
        )  # fmt: skip
        if looked_at > begun_most or len(starts) > SETS_MOST:
            return None
        self._listed_to = max(self._listed_to, most)
        # one number more than there are pieces: none
        came = np.append(self._order, len(self._pieces.places))[pieces]
        left_out = others * self._unit if others < FAR / 2 else math.inf
        counts = counted(begun, starts, pieces, self._places)
        return Enumerated(counts, self._able[starts], came, np.multiply(bounds, self._unit), left_out, looked_at)


def first_of_equals(counts: Counts, bounds: Floats) -> Places:
    """Configurations in the order of their bounds, of equal ones the first."""
    # equal configurations have equal sums, and so stand together; others that chance to have the same are compared
    sums = counts @ (np.arange(1, counts.shape[1] + 1) * 2_654_435_761 % 2**32)
    together = np.lexsort((bounds, sums))
    same = np.append(False, (np.diff(sums[together]) == 0) & (np.diff(counts[together], axis=0) == 0).all(axis=1))
    kept: Places = together[~same]
    found: Places = kept[np.argsort(bounds[kept], kind="stable")]
    return found


def _floor(costs: Floats) -> Integers:
    """In whole units, rounded down."""
    found: Integers = np.floor(np.clip(costs, -FAR, FAR)).astype(np.int32)
    return found
