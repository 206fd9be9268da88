"""All sets of a given number of boxes that cost no more than a mark, as far as sums over them can tell.

What is asked of a set is a few `Cover` rows.  Sets grow box by box.  One that is begun is left as soon as some row says
that it cannot be made whole under the mark: by a table of the least cost of what the row still lacks, for every number
of boxes to come, of those that may still come.  All is in whole numbers.

References
----------
.. [1] Martello, Toth: Knapsack Problems (1990), 2.6 (dynamic programming).
.. [2] Geoffrion: Lagrangean relaxation for integer programming (1974): one row stays, the others have their prices.
.. [3] Glover: Surrogate constraints (1968): rows added up stay as one.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from .linear import Floats

CANDIDATES_MOST = 3_000_000
"""Sets that are begun, looked at together; where there are more, the mark is lowered or the node is split."""
ENTRIES_FIRST, ENTRIES_MOST = 1_000_000, 4_000_000
"""Figures of the tables: where there would be more, what is asked is counted in coarser steps."""
STEPS_LEAST = 16
"""What is asked by a cover is counted in as many steps as the first asks for, but in no fewer where there is room."""
FOCUSED, FOCUSED_FROM = 12, 50_000
"""Where so many were begun, only so many covers, those that told most, are looked at from then on, in finer steps."""
STAGES = (1, 4, 12)
"""How many covers, the sharpest first, are looked at before the next ones, on what those leave."""
NEVER = 1e12
"""What a box costs that cannot be linked."""
FAR = 2**29
"""Stands for what cannot be, and for any cost over it."""

Whole = NDArray[np.int32]
Counts = NDArray[np.int16]
Places = NDArray[np.intp]


@dataclass(frozen=True, eq=False)
class Start:
    """What a set begins with: its root, and its hub where that is another box."""

    counts: Floats
    """Of each box."""
    hub: int | None
    """Its place among the boxes."""
    slots: int
    """Slots of the hub that links may end in."""


@dataclass(frozen=True, eq=False)
class Pieces:
    """What sets are made of: a start, and boxes that come to it, each with its link in a slot of the hub or not."""

    starts: Sequence[Start]
    places: Places
    """Of the box of each piece that comes to a start."""
    in_slot: NDArray[np.bool_]


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


class Listing:
    """The sets of so many boxes, from a least to a most of each."""

    def __init__(self, pieces: Pieces, covers: Covers, least: Floats, most: Floats, boxes: int) -> None:
        self._pieces, self._covers, self._most = pieces, covers, most
        self._begun = list(self._begin(least, boxes))
        self._more = max((begun.more for begun in self._begun), default=0)
        able = np.flatnonzero(most[pieces.places] > least[pieces.places])
        # what gives most comes first: what is left to the others is soon too much for them
        self._order = able[np.lexsort((covers.costs[0, able], -covers.gives[0, able], ~pieces.in_slot[able]))]
        self._in_slots = int(pieces.in_slot[able].sum())
        self._unit = self._fitting()
        self._least: Whole | None = None
        self._look_at(np.arange(len(covers.asked)), ENTRIES_FIRST)

    def _fitting(self) -> float:
        """What costs are counted in, so that all of a set stay far under what cannot be."""
        covers = self._covers
        mends = np.where(np.isfinite(covers.mends), covers.mends, 0.0) * covers.asked
        dearest = np.max([np.abs(some).max(initial=0.0, where=np.abs(some) < NEVER / 2) for some in (
            covers.constants, mends, covers.start_costs, covers.costs * (self._more + 1))])  # fmt: skip
        return float(max(1.0, 4 * dearest / (FAR / 4)))

    @property
    def held(self) -> int:
        """Figures in its table, if it has one now."""
        return 0 if self._least is None else self._least.size

    def release(self) -> None:
        """Forget the table; it is made again when it is needed."""
        self._least = None

    def _look_at(self, covers: Places, entries: int) -> None:
        """Bound by these covers, with tables of so many figures."""
        self._looked_at, asked = covers, self._covers.asked[covers]
        finest = max(entries // (len(covers) * (len(self._order) + 1) * (self._more + 1)), 1)
        most = min(finest, max(math.ceil(self._covers.asked[0]), STEPS_LEAST))
        steps = np.minimum(np.maximum(asked, 1.0), most)
        self._scale = steps / np.maximum(asked, 1.0)
        self._asked = np.floor(asked * self._scale + 1e-6).astype(np.int32)
        self._constants = _floor(self._covers.constants[covers] / self._unit)
        self._costs, self._gives = self._whole(self._covers.costs[:, self._order], self._covers.gives[:, self._order])
        self._sharpness = np.zeros(len(covers), dtype=np.int64)
        """How many sets were left by each cover: those that tell most are looked at first."""
        self._least = None
        self._listed_to = -FAR
        """What those cost at most by these covers that were listed before."""

    def _whole(self, costs: Floats, gives: Floats) -> tuple[Whole, Whole]:
        """Costs and what is given, a row for each piece, rounded so that they stay bounds."""
        gives = np.ceil(gives[self._looked_at] * self._scale[:, None] - 1e-6)
        return _floor(costs[self._looked_at] / self._unit).T.copy(), gives.astype(np.int32).T.copy()

    def _table(self) -> Whole:
        """Least cost of what is lacking: by the number of boxes to come, the first that may still come, the cover, and
        how much of it is lacking."""
        lacking = np.arange(int(self._asked.max(initial=0)) + 1)
        boxes, covers = len(self._order), len(self._asked)
        table = np.empty((self._more + 1, boxes + 1, covers, len(lacking)), dtype=np.int32)
        table[:, boxes] = FAR
        mends = _floor(self._covers.mends[self._looked_at] / self._scale / self._unit).astype(np.int64)
        table[0] = np.minimum(mends[:, None] * lacking, FAR)
        left = np.maximum(lacking - self._gives[:, :, None], 0)
        left += (np.arange(boxes * covers) * len(lacking)).reshape(boxes, covers, 1)
        for number in range(1, self._more + 1):
            with_it = table[number - 1, :boxes].reshape(-1)[left]
            with_it += self._costs[:, :, None]
            np.minimum.accumulate(with_it[::-1], axis=0, out=table[number, :boxes][::-1])
        return table

    @property
    def must_be_in(self) -> Floats:
        """Boxes beside each start that all sets have."""
        found = np.zeros((len(self._pieces.starts), len(self._most)))
        for begun in self._begun:
            found[begun.numbers] = begun.extra
        return found

    def sets(self, mark: float) -> Listed | None:
        """All that cost no more than the mark and were not listed before; None when there are too many."""
        most = math.floor(min((mark + 1e-3) / self._unit, FAR))
        may_focus = len(self._looked_at) > FOCUSED
        found = self._grown(most, FOCUSED_FROM if may_focus else CANDIDATES_MOST)
        if found is None and may_focus:
            self._look_at(self._looked_at[np.sort(np.argsort(-self._sharpness)[:FOCUSED])], ENTRIES_MOST)
            found = self._grown(most, CANDIDATES_MOST)
        if found:
            self._listed_to = max(self._listed_to, most)
        return found

    def _grown(self, most: int, candidates: int) -> Listed | None:
        self._least = self._table() if self._least is None else self._least
        found = []
        for begun in self._begun:
            growth = _Growth(self, begun, self._least, most)
            if not growth.is_grown(candidates):
                return None
            candidates -= growth.looked_at
            found.append(growth.listed())
        none = np.zeros(0)
        counts = np.concatenate([np.zeros((0, len(self._most)), dtype=np.int16), *(one.counts for one in found)])
        starts = np.concatenate([none.astype(np.intp), *(one.starts for one in found)])
        came = np.full((len(counts), self._more), len(self._pieces.places), dtype=np.intp)
        first = 0
        for one in found:
            came[first : first + len(one.came), : one.came.shape[1]] = one.came
            first += len(one.came)
        bounds = np.concatenate([none, *(one.bounds for one in found)]) * self._unit
        others = min((one.others for one in found), default=math.inf) * self._unit
        return Listed(counts, starts, came, bounds, others, looked_at=sum(one.looked_at for one in found))

    def _begin(self, least: Floats, boxes: int) -> Iterator[_Begun]:
        """Starts that may be, with all boxes that must be in, those together to which as many are still to come."""
        counts = np.array([start.counts for start in self._pieces.starts])
        able = (counts <= self._most).all(axis=1)
        extra = np.maximum(least - counts, 0.0)
        costs, gives = self._covers.start_costs.copy(), self._covers.start_gives.copy()
        for place in np.flatnonzero(extra[able].any(axis=0)):
            pieces = np.flatnonzero(self._pieces.places == place)
            if not len(pieces):
                able &= extra[:, place] == 0
                continue
            costs += self._covers.costs[:, pieces].min(axis=1)[:, None] * extra[:, place]
            gives += self._covers.gives[:, pieces].max(axis=1)[:, None] * extra[:, place]
        more = boxes - (counts + extra).sum(axis=1)
        slots = np.array([start.slots for start in self._pieces.starts])
        for number in np.unique(more[able & (more >= 0)]):
            some = np.flatnonzero(able & (more == number))
            yield _Begun(some, counts[some], extra[some], slots[some], costs[:, some], gives[:, some], int(number))


@dataclass(frozen=True, eq=False)
class _Begun:
    """Some starts, and how many boxes are to come to each."""

    numbers: Places
    counts: Floats
    extra: Floats
    slots: Places
    costs: Floats
    gives: Floats
    more: int


class _Growth:
    """Sets of a listing as they grow: what each costs by every cover so far, and lacks of it."""

    def __init__(self, listing: Listing, begun: _Begun, table: Whole, most: int) -> None:
        self.listing, self.begun, self.table, self.most = listing, begun, table, most
        self.others = math.inf
        self.looked_at = 0
        costs, gives = listing._whole(begun.costs, begun.gives)
        self.came = np.arange(len(costs))
        self.slots = begun.slots
        self.first = np.where(self.slots > 0, 0, listing._in_slots)
        self.cost = listing._constants + np.minimum(costs, FAR)
        self.lacks = np.maximum(listing._asked - gives, 0)
        self.chosen: Places = np.zeros((len(costs), 0), dtype=np.intp)

    def is_grown(self, candidates: int) -> bool:
        """Let all boxes come; whether no more than so many sets were begun for that."""
        bounds = self._bounds(self.first, self.begun.more)
        self._keep(bounds <= self.most, bounds)
        return all(self._grow(number, candidates) for number in range(self.begun.more, 0, -1))

    def listed(self) -> Listed:
        """The sets when all boxes came."""
        listing, begun = self.listing, self.begun
        bounds = self._bounds(self.first, 0).astype(np.float64)
        came = listing._order[self.chosen]
        counts = (begun.counts + begun.extra).astype(np.int16)[self.came]
        for piece in came.T:
            counts[np.arange(len(piece)), listing._pieces.places[piece]] += 1
        inside = (counts <= listing._most).all(axis=1) & (bounds > listing._listed_to)
        starts = begun.numbers[self.came[inside]]
        return Listed(counts[inside], starts, came[inside], bounds[inside], self.others, looked_at=self.looked_at)

    def _bounds(self, first: Places, number: int) -> Whole:
        """What sets cost at least when so many boxes come to each, from one in the order on."""
        covers = np.arange(len(self.listing._asked))
        least = self.table[number, first[:, None], covers, self.lacks]
        found: Whole = (self.cost + least).max(axis=1, initial=-FAR)
        return found

    def _keep(self, kept: NDArray[np.bool_], bounds: Whole) -> None:
        self._leave(bounds[~kept])
        self.came, self.first, self.slots = self.came[kept], self.first[kept], self.slots[kept]
        self.cost, self.lacks, self.chosen = self.cost[kept], self.lacks[kept], self.chosen[kept]

    def _leave(self, bounds: Whole) -> None:
        if len(bounds):
            least = float(bounds.min())
            self.others = min(self.others, least if least < FAR / 2 else math.inf)

    def _grow(self, number: int, candidates: int) -> bool:
        """One box more for each set, of so many to come; whether there are not too many candidates."""
        listing = self.listing
        count = np.maximum(self._last(number) - self.first, 0)
        self.looked_at += int(count.sum())
        if self.looked_at > candidates:
            return False
        parent, further = numbered(count)
        piece = self.first[parent] + further
        sharpest = np.argsort(-listing._sharpness, kind="stable")
        for covers in np.split(sharpest, STAGES):
            lacks = np.maximum(self.lacks[parent[:, None], covers] - listing._gives[piece[:, None], covers], 0)
            bounds = self.cost[parent[:, None], covers] + listing._costs[piece[:, None], covers]
            bounds += self.table[number - 1, piece[:, None], covers, lacks]
            too_dear = bounds > self.most
            listing._sharpness[covers] += too_dear.sum(axis=0)
            left = too_dear.any(axis=1)
            self._leave(bounds[left].max(axis=1, initial=-FAR))
            parent, piece = parent[~left], piece[~left]
        self.cost = self.cost[parent] + listing._costs[piece]
        self.lacks = np.maximum(self.lacks[parent] - listing._gives[piece], 0)
        self.slots = self.slots[parent] - (piece < listing._in_slots)
        self.came, self.first = self.came[parent], np.where(self.slots > 0, piece, np.maximum(piece, listing._in_slots))
        self.chosen = np.hstack([self.chosen[parent], piece[:, None]])
        return True

    def _last(self, number: int) -> Places:
        """For each set the first from which on none may come, for what does is too dear."""
        low, high = self.first, np.full(len(self.first), len(self.listing._order))
        while (low < high).any():
            middle = (low + high) // 2
            bounds = self._bounds(middle, number)
            open_still = low < high
            may = (bounds <= self.most) & open_still
            self._leave(bounds[~may & open_still])
            low, high = np.where(may, middle + 1, low), np.where(may, high, middle)
        return low


def numbered(counts: Places) -> tuple[Places, Places]:
    """So many of each row: the row that each is of, and its number among those of the row."""
    rows = np.repeat(np.arange(len(counts)), counts)
    return rows, np.arange(len(rows)) - np.repeat(np.cumsum(counts) - counts, counts)


def first_of_equals(counts: Counts, bounds: Floats) -> Places:
    """Sets in the order of their bounds, of equal ones the first."""
    # equal sets have equal sums, and so stand together; others that chance to have the same are compared
    sums = counts @ (np.arange(1, counts.shape[1] + 1) * 2_654_435_761 % 2**32)
    together = np.lexsort((bounds, sums))
    same = np.append(False, (np.diff(sums[together]) == 0) & (np.diff(counts[together], axis=0) == 0).all(axis=1))
    kept: Places = together[~same]
    found: Places = kept[np.argsort(bounds[kept], kind="stable")]
    return found


def _floor(costs: Floats) -> Whole:
    """In whole units, rounded down."""
    found: Whole = np.floor(np.clip(costs, -FAR, FAR)).astype(np.int32)
    return found
