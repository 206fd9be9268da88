"""All sets of a given number of boxes that cost no more than a mark, as far as sums over them can tell.

What is asked of a set is a few `Covers` rows.  Sets grow box by box (`growing`).  One that is begun is left as soon as
some row says that it cannot be made whole under the mark: by a table of the least cost of what the row still lacks, for
every number of boxes to come, of those that may still come.  All is in whole numbers.

References
----------
.. [1] Martello, Toth: Knapsack Problems (1990), 2.6 (dynamic programming).
.. [2] Geoffrion: Lagrangean relaxation for integer programming (1974): one row stays, the others have their prices.
.. [3] Glover: Surrogate constraints (1968): rows added up stay as one.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, fields, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from .figures import FAR, Counts, Integers, Places
from .linear import Floats

CANDIDATES_MOST = 20_000_000
"""Sets that are begun; where there are more, the mark is lowered or the node is split."""
SETS_MOST = 100_000
"""Sets that are listed at once, likewise."""
ENTRIES_FIRST, ENTRIES_MOST = 3_000_000, 8_000_000
"""Figures of the tables: where there would be more, what is asked is counted in coarser steps."""
STEPS_LEAST = 16
"""What is asked by a cover is counted in as many steps as the first asks for, but in no fewer where there is room."""
FOCUSED, FOCUSED_FROM = 12, 50_000
"""Where so many were begun, only so many covers, those that told most, are looked at from then on, in finer steps."""


@dataclass(frozen=True, eq=False)
class Start:
    """What a set begins with: its root, and its hub where that is another box."""

    counts: Floats
    """Of each box."""
    hub: int | None
    """Its place among the boxes."""
    slots: int
    """Slots of the hub that links may end in; under 0: it has none for its own link."""


@dataclass(frozen=True, eq=False)
class Pieces:
    """What sets are made of: a start, and boxes that come to it, each with its link in a slot of the hub or not."""

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
    def hubs(self) -> Places:
        """Of each start its place among the boxes, 0 where there is none."""
        return np.array([start.hub or 0 for start in self.starts], dtype=np.intp)


@dataclass(frozen=True, eq=False)
class Covers:
    """Things that a set must have so much of, a row each, and what it costs at least, whatever else is asked of it.

    By each cover a set costs at least the constant, the costs of its pieces, and ``mends`` for each unit that they give
    less than is asked.  The first tells in which order pieces come.
    """

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

    def and_also(self, others: Covers) -> Covers:
        """These, then others."""
        pairs = [(getattr(self, part.name), getattr(others, part.name)) for part in fields(self)]
        return Covers(*(np.concatenate(pair) for pair in pairs))


@dataclass(frozen=True, eq=False)
class Listed:
    """Sets, so many of each box a row, each with its start, the pieces that came to it and what it costs at least, and
    what all that are left out cost.  A set stands there for each way that its links may end."""

    counts: Counts
    starts: Places
    came: Places
    """One number more than there are pieces: none."""
    bounds: Floats
    others: float = math.inf
    """Infinite: none is left out."""
    looked_at: int = 0
    """How many were begun."""

    def only(self, kept: NDArray[np.bool_]) -> Listed:
        """Some of these sets."""
        return replace(
            self, counts=self.counts[kept], starts=self.starts[kept], came=self.came[kept], bounds=self.bounds[kept]
        )


@dataclass(frozen=True, eq=False)
class _Past:
    """Covers of before: sets that cost no more than ``most`` by these were listed by them."""

    most: int
    begun_cost: Integers
    begun_lacks: Integers
    costs: Integers
    """Of each piece, and of none."""
    gives: Integers
    mends: Integers

    def listed(self, starts: Places, came: Places) -> NDArray[np.bool_]:
        """Which of these sets were."""
        costs = self.begun_cost[starts] + self.costs[came].sum(axis=1, dtype=np.int64)
        lacks = np.maximum(self.begun_lacks[starts] - self.gives[came].sum(axis=1, dtype=np.int64), 0)
        found: NDArray[np.bool_] = (costs + np.minimum(self.mends * lacks, FAR)).max(axis=1) <= self.most
        return found


@dataclass(frozen=True, eq=False)
class Beyond:
    """What each box over its least adds to a bound of all sets, and how much over that the dearest may be."""

    adds: Floats
    spare: float


class Listing:
    """The sets of so many boxes, from a least to a most of each."""

    def __init__(
        self, pieces: Pieces, covers: Covers, least: Floats, most: Floats, boxes: int, beyond: Beyond | None = None
    ) -> None:
        """``beyond``: what is known of boxes that are over their least."""
        if beyond:
            most = np.where(beyond.adds > beyond.spare, least, most)
        self._pieces, self._covers, self._most, self._beyond = pieces, covers, most, beyond
        self._least_of_each, self._boxes = least, boxes
        self._past: list[_Past] = []
        self._listed_to = -FAR
        """What those cost at most by the covers looked at that were listed before."""
        self._begin(least, boxes)
        able = np.flatnonzero(most[pieces.places] > least[pieces.places])
        # what gives most comes first: what is left to the others is soon too much for them
        self._order = able[np.lexsort((covers.costs[0, able], -covers.gives[0, able], ~pieces.in_slot[able]))]
        self._places = pieces.places[self._order]
        self._in_slots = int(pieces.in_slot[able].sum())
        self._unit = self._fitting()
        self._least: Integers | None = None
        self._look_at(np.arange(len(covers.asked)), ENTRIES_FIRST)

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
        """Starts that may be; of each all boxes that its sets have at least, and how many more."""
        self._start_costs, self._start_gives = costs.take(kept, axis=1), gives.take(kept, axis=1)
        self._most_to_come = int(self._to_come.max(initial=0))

    def _not_too_dear(self, least: Floats) -> Places:
        """Starts that have no more than the most of each box, nor cost more than a set may by what they add."""
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
        """Boxes beside each of these starts that all sets have."""
        found: Counts = self._with_least[np.searchsorted(self._able, starts)] - self._pieces.counts[starts]
        return found

    def _fitting(self) -> float:
        """What costs are counted in, so that all of a set stay far under what cannot be."""
        from .growing import dearest

        covers, times = self._covers, self._most_to_come + 1
        most = dearest(covers.constants, covers.mends, covers.asked, covers.start_costs, covers.costs, times)
        return max(1.0, 4 * most / (FAR / 4))

    def renewed(self, covers: Covers) -> Listing:
        """The same by other covers: sets that were listed are not listed again."""
        other = Listing(self._pieces, covers, self._least_of_each, self._most, self._boxes, self._beyond)
        self._remember()
        other._past = self._past
        return other

    def _remember(self) -> None:
        """Before other covers are looked at."""
        if self._listed_to > -FAR:
            costs, gives = np.zeros((2, len(self._pieces.places) + 1, len(self._looked_at)), dtype=np.int32)
            costs[self._order], gives[self._order] = self._costs, self._gives
            past = _Past(self._listed_to, self._begun_cost, self._begun_lacks, costs, gives, self._mends)
            self._past = [*self._past, past]
            self._listed_to = -FAR

    @property
    def held(self) -> int:
        """Figures in its table, if it has one now."""
        return 0 if self._least is None else self._least.size

    def release(self) -> None:
        """Forget the table; it is made again when it is needed."""
        self._least = None

    def _look_at(self, covers: Places, entries: int) -> None:
        """Bound by these covers, with tables of so many figures."""
        from .growing import in_whole

        self._remember()
        self._looked_at, asked = covers, self._covers.asked[covers]
        finest = max(entries // (len(covers) * (len(self._order) + 1) * (self._most_to_come + 1)), 1)
        most = min(finest, max(math.ceil(self._covers.asked[0]), STEPS_LEAST))
        steps = np.minimum(np.maximum(asked, 1.0), most)
        self._scale = steps / np.maximum(asked, 1.0)
        self._asked = np.floor(asked * self._scale + 1e-6).astype(np.int32)
        self._costs, self._gives = in_whole(
            self._covers.costs, self._covers.gives, self._order, covers, self._scale, self._unit
        )
        self._mends = _floor(self._covers.mends[covers] / self._scale / self._unit)
        starts = np.arange(len(self._able))
        costs, gives = in_whole(self._start_costs, self._start_gives, starts, covers, self._scale, self._unit)
        self._begun_cost = _floor(self._covers.constants[covers] / self._unit) + np.minimum(costs, FAR)
        self._begun_lacks = np.maximum(self._asked - gives, 0)
        self._least = None
        self._first_asked, self._told = np.arange(len(covers)), np.zeros(len(covers), dtype=np.intp)
        """In which order covers are asked, and how many sets each left."""

    def _table(self) -> Integers:
        from .growing import least_of_lacking

        lacking = int(self._asked.max(initial=0))
        return least_of_lacking(self._costs, self._gives, self._mends, lacking, self._most_to_come)

    def sets(self, mark: float, begun_most: int | None = None) -> Listed | None:
        """All that cost no more than the mark and were not listed before; None when there are too many, or more than
        ``begun_most`` would be begun as covers are looked at now."""
        most = math.floor(min((mark + 1e-3) / self._unit, FAR))
        may_focus = len(self._looked_at) > FOCUSED
        found = self._grown(most, begun_most or (FOCUSED_FROM if may_focus else CANDIDATES_MOST))
        if found is None and may_focus and not begun_most:
            self._look_at(self._looked_at[np.sort(np.argsort(-self._told)[:FOCUSED])], ENTRIES_MOST)
            found = self._grown(most, CANDIDATES_MOST)
        if found:
            self._listed_to = max(self._listed_to, most)
        return found

    def _grown(self, most: int, candidates: int) -> Listed | None:
        from .growing import counted, grown

        self._least = self._table() if self._least is None else self._least
        begun, slots = self._with_least, self._pieces.slots[self._able]
        room = (self._most - begun).astype(np.intp)
        starts, pieces, bounds, others, looked_at = grown(
            self._least, self._costs, self._gives, self._places, self._in_slots, self._begun_cost, self._begun_lacks,
            slots, room, self._to_come, self._listed_to, most, candidates, SETS_MOST, self._first_asked, self._told,
        )  # fmt: skip
        if looked_at > candidates or len(starts) > SETS_MOST:
            return None
        counts = counted(begun, starts, pieces, self._places)
        # one number more than there are pieces: none
        came = np.append(self._order, len(self._pieces.places))[pieces]
        left_out = others * self._unit if others < FAR / 2 else math.inf
        found = Listed(counts, starts, came, np.multiply(bounds, self._unit), left_out, looked_at)
        for past in self._past:
            found = found.only(~past.listed(found.starts, found.came))
        return replace(found, starts=self._able[found.starts])


def first_of_equals(counts: Counts, bounds: Floats) -> Places:
    """Sets in the order of their bounds, of equal ones the first."""
    # equal sets have equal sums, and so stand together; others that chance to have the same are compared
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
