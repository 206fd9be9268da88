"""The best places in a rack of one face, proven: the layout of a single row by dynamic programming over subsets.

A state is what stands below, the height that it reaches and whether a unit is kept free; the next block is put upon it.
What a block adds depends on what stands below it and not on its order, so that the least weight of a state is enough.

Reference
---------
Picard, J.-C., Queyranne, M.: On the one-dimensional space allocation problem. Operations Research 29 (1981), 371-391.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from itertools import combinations
from typing import Any, NamedTuple

import numpy as np

from ..compiled import compiled
from ..facts.building import Closet
from ..standards.stack import SHELF_WIDTH_MM
from .rules import rides, side_by_side, stands_nowhere, starts
from .things import Thing

HALF = 10
"""Bits of the lower half of a subset: sums over both halves are kept apart."""
LOWER = (1 << HALF) - 1
EMPTY = -1
"""Put upon a state: an empty unit."""
MOST_STATES = 1 << 24
MOST_WORK = 3 << 26
"""States, and states by blocks, of everything that is tried; past them another search takes over."""


class Pairs(NamedTuple):
    """What pairs weigh, by their places in the list."""

    cords: np.ndarray
    """``(n, n)``, symmetrical: a half unit between the middles of two."""
    under: np.ndarray
    """``(n, n)``: that the first stands under the second."""


class Row(NamedTuple):
    """Where things stand: the first unit of those on the rails, the shelf of the rest."""

    units: Mapping[int, int]
    shelves: Mapping[int, int]
    total: float


class _Block(NamedTuple):
    """A thing on the rails, with what stands on it and what it keeps empty below and above [units]."""

    rail: int
    riders: tuple[int, ...]
    height: int
    below: int
    keeps_free: bool
    start: int
    """Units below it; -1: anywhere."""


def best_row(closet: Closet, things: Sequence[Thing], pairs: Pairs) -> Row | None:
    """The least weight of those that leave least out; None: there is more to try than can be tried."""
    may = [number for number, thing in enumerate(things) if not stands_nowhere(closet, thing)]
    shelves = [things[number] for number in may if things[number].kind == "shelf" and things[number].units]
    may = [n for n in may if things[n].units or any(rides(things[n], shelf) for shelf in shelves)]
    work = 0
    for left_out in range(len(may) + 1):
        best: Row | None = None
        for gone in combinations(may, left_out):
            here = [number for number in may if number not in gone]
            if not _fits(closet, things, here):
                continue
            if not here:
                return Row({}, {}, 0.0)
            blocks = list(_blocks(closet, things, here))
            row = _Row(closet, things, here, blocks)
            work += row.states * max(1, len(blocks))
            if row.states > MOST_STATES or work > MOST_WORK:
                return None
            found = row.solve(pairs)
            if found and (best is None or found.total < best.total - 1e-9):
                best = found
        if best:
            return best
    return None


def _fits(closet: Closet, things: Sequence[Thing], here: Sequence[int]) -> bool:
    some = [things[number] for number in here]
    units = sum(_height(one) for one in some) + _keeps_free(closet, some)
    return units <= closet.units and sum(one.mass_kg for one in some) <= closet.load_kg + 1e-9


def _keeps_free(closet: Closet, some: Sequence[Thing]) -> bool:
    return bool(closet.keep_free) and any(one.kind == "panel" and one.units for one in some)


def _blocks(closet: Closet, things: Sequence[Thing], here: Sequence[int]) -> Iterator[_Block]:
    """Everything that can be put upon what stands."""
    loose = [number for number in here if not things[number].units]
    for number in here:
        one = things[number]
        if not one.units:
            continue
        height = _height(one)
        start = _start(one) if one.fixed and one.unit is not None else -1
        mine = [rider for rider in loose if rides(things[rider], one)] if one.kind == "shelf" else []
        for riders in _loads(things, one, mine):
            yield _Block(number, riders, height, 0, False, start)
            if one.kind == "panel" and closet.keep_free:
                yield _Block(number, riders, height + 1, 0, True, start)
                if start:
                    yield _Block(number, riders, height + 1, 1, True, max(-1, start - 1))


def _loads(things: Sequence[Thing], shelf: Thing, riders: Sequence[int]) -> Iterator[tuple[int, ...]]:
    """What can stand on a shelf together; what is fixed there always does."""
    fixed = {rider for rider in riders if things[rider].fixed and things[rider].on == shelf.key}
    for many in range(len(riders) + 1):
        for numbers in combinations(riders, many):
            some = [things[rider] for rider in numbers]
            holds = shelf.carries_kg is None or sum(one.mass_kg for one in some) <= shelf.carries_kg + 1e-9
            wide = sum(one.width_mm for one in some) <= SHELF_WIDTH_MM
            if holds and wide and fixed <= set(numbers) and side_by_side(some) is not None:
                yield numbers


class _Row:
    """The states of a set of things that all stand."""

    def __init__(self, closet: Closet, things: Sequence[Thing], here: Sequence[int], blocks: list[_Block]) -> None:
        self.closet, self.things, self.blocks = closet, things, blocks
        fixed = [n for n in here if things[n].units and things[n].fixed and things[n].unit is not None]
        self.fixed = sorted(fixed, key=lambda n: things[n].unit or 0)
        self.loose = [n for n in here if n not in fixed]
        some = [things[n] for n in here]
        self.must_keep = _keeps_free(closet, some)
        self.starts_with_ups = any(one.kind == "ups" and one.units for one in some)
        self.bands = [starts(closet, things[block.rail]) for block in blocks]
        ends = [(1, closet.units - things[block.rail].units + 1) for block in blocks]
        self.offsets = (
            1 + closet.units - sum(_height(things[n]) for n in self.loose) if fixed or self.bands != ends else 1
        )
        """Empty units and units of what is fixed below, as many as there can be: without fixed things and bounds an
        empty unit only makes cords longer."""
        self.states = (1 << len(self.loose)) * self.offsets * 2

    def solve(self, pairs: Pairs) -> Row | None:
        """The least weight of all of them in places; None: there is no way."""
        if not self._fixed_agree():
            return None
        tables = self._tables(pairs)
        best = np.full((1 << len(self.loose), self.offsets, 2), np.inf)
        via = np.full(best.shape, EMPTY, dtype=np.int16)
        best[0, 0, 0] = 0.0
        _fill(best, via, tables)
        # everything loose stands: what is fixed must be below, and a unit kept where one must be
        height = tables.units[-1] + np.arange(self.offsets)[:, None] + np.arange(2)
        stands = (height <= tables.top) & (tables.below[np.minimum(height, tables.top)] == len(self.fixed))
        stands[:, 0] &= not self.must_keep
        ends = np.where(stands, best[-1], np.inf)
        if not np.isfinite(ends).any():
            return None
        offset, flag = np.unravel_index(int(np.argmin(ends)), ends.shape)
        units, shelves = self._walked(via, tables, int(offset), int(flag))
        return Row(units, shelves, float(ends.min()))

    def _fixed_agree(self) -> bool:
        """What is fixed is inside the rack, and nothing of it in another's place."""
        end = 0
        for number in self.fixed:
            start = _start(self.things[number])
            if start < end:
                return False
            end = start + _height(self.things[number])
        return end <= self.closet.units

    def _tables(self, pairs: Pairs) -> _Tables:
        loose, fixed, things, top = self.loose, self.fixed, self.things, self.closet.units
        place = {number: bit for bit, number in enumerate(loose)}
        numbers, many = [*loose, *fixed], len(loose)
        members = [[block.rail, *block.riders] for block in self.blocks]
        ties = pairs.cords[np.ix_(numbers, numbers)]
        among = np.array([[float(n in some) for n in numbers] for some in members])
        to_each = among @ ties
        above = np.array([2.0 * (b.height - b.below) - things[b.rail].units for b in self.blocks])
        # a cord to what stands below ends in the middle of the block: it does not lead over its upper half
        adds = (1 - among.T) * (pairs.under[np.ix_(numbers, numbers)] @ among.T - 2 * above * to_each.T)
        degree = ties.sum(axis=1)
        ends = [_start(things[n]) + _height(things[n]) for n in fixed]
        return _Tables(
            masks=np.array([sum(1 << place[n] for n in some if n in place) for some in members], dtype=np.int64),
            heights=np.array([block.height for block in self.blocks]),
            above=above,
            leaving=((1 - among) * to_each).sum(axis=1),
            keeps=np.array([int(block.keeps_free) for block in self.blocks]),
            starts=np.array([block.start for block in self.blocks]),
            lowest=np.array([low - 1 - b.below for b, (low, _) in zip(self.blocks, self.bands, strict=True)]),
            highest=np.array([high - 1 - b.below for b, (_, high) in zip(self.blocks, self.bands, strict=True)]),
            which=np.array([fixed.index(b.rail) if b.rail in fixed else -1 for b in self.blocks]),
            is_ups=np.array([things[block.rail].kind == "ups" for block in self.blocks]),
            adds=_halves(adds[:many].T),
            fixed_adds=np.vstack([np.zeros(len(self.blocks)), np.cumsum(adds[many:], axis=0)]),
            crossing=_halves(np.vstack([np.zeros(many), np.cumsum(ties[many:, :many], axis=0)])),
            fixed_cut=np.array([
                degree[many : many + k].sum() - ties[many : many + k, many : many + k].sum()
                for k in range(len(fixed) + 1)
            ]),
            cuts=_cuts(ties[:many, :many], degree[:many]),
            units=_subset_sums(np.array([float(_height(things[n])) for n in loose])).astype(np.int64),
            below=np.array([sum(end <= at for end in ends) for at in range(top + 1)]),
            ahead=np.array([*(_start(things[n]) for n in fixed), top]),
            top=top,
            starts_with_ups=self.starts_with_ups,
        )  # fmt: skip

    def _walked(
        self, via: np.ndarray, tables: _Tables, offset: int, flag: int
    ) -> tuple[dict[int, int], dict[int, int]]:
        """Units and shelves on the way to a state, from the top."""
        units: dict[int, int] = {}
        shelves: dict[int, int] = {}
        mask, at = len(via) - 1, int(tables.units[-1]) + offset + flag
        while at:
            number = via[mask, at - int(tables.units[mask]) - flag, flag]
            if number == EMPTY:
                at -= 1
                continue
            block = self.blocks[number]
            at -= block.height
            mask &= ~int(tables.masks[number])
            flag = 0 if block.keeps_free else flag
            units[block.rail] = at + block.below + 1
            shelves |= dict.fromkeys(block.riders, block.rail)
        return units, shelves


def _start(thing: Thing) -> int:
    """Units below what is fixed on the rails."""
    assert thing.unit is not None
    return thing.unit - 1


def _height(thing: Thing) -> int:
    """Units that a thing takes of the rails, with the air over a UPS."""
    return thing.units + (thing.kind == "ups") if thing.units else 0


class _Tables(NamedTuple):
    """What the search reads, by block, subset of what is loose, number of the fixed that are below, and height."""

    masks: np.ndarray
    heights: np.ndarray
    above: np.ndarray
    """Half units from its middle to its top."""
    leaving: np.ndarray
    """Cords to everything else."""
    keeps: np.ndarray
    starts: np.ndarray
    """Units below what is fixed; -1: it is loose."""
    lowest: np.ndarray
    highest: np.ndarray
    """Units below it, at the least and at the most."""
    which: np.ndarray
    """The fixed thing that it is; -1: it is loose."""
    is_ups: np.ndarray
    adds: np.ndarray
    """What each loose thing below it adds, summed over the lower and the upper bits of a subset."""
    fixed_adds: np.ndarray
    crossing: np.ndarray
    """Cords between subsets and the fixed that are below."""
    fixed_cut: np.ndarray
    cuts: np.ndarray
    """Cords that leave a subset."""
    units: np.ndarray
    below: np.ndarray
    """How many of the fixed end at a height or under it."""
    ahead: np.ndarray
    """Where the next of the fixed begins."""
    top: int
    starts_with_ups: bool


def _subset_sums(values: np.ndarray) -> np.ndarray:
    """Of ``(..., n)`` values the sums over all subsets, ``(..., 2ⁿ)``."""
    sums = np.zeros((*values.shape[:-1], 1))
    for bit in range(values.shape[-1]):
        sums = np.concatenate([sums, sums + values[..., bit : bit + 1]], axis=-1)
    return sums


def _halves(values: np.ndarray) -> np.ndarray:
    """Of ``(rows, n)`` values the sums over subsets of the first ``HALF``, and of the others: ``(2, rows, …)``."""
    rows, many = values.shape
    padded = np.zeros((rows, max(2 * HALF, many)))
    padded[:, :many] = values
    low, high = _subset_sums(padded[:, :HALF]), _subset_sums(padded[:, HALF:])
    both = np.zeros((2, *high.shape))
    both[0, :, : low.shape[1]], both[1] = low, high
    return both


def _cuts(ties: np.ndarray, degree: np.ndarray) -> np.ndarray:
    """Cords that leave every subset, to others and to what is fixed."""
    cuts = np.zeros(1)
    inner = _subset_sums(ties)
    for bit in range(len(ties)):
        cuts = np.concatenate([cuts, cuts + degree[bit] - 2 * inner[bit, : len(cuts)]])
    return cuts


@compiled
def _fill(best: Any, via: Any, tables: Any) -> None:
    """The least weight of every state, and the block put upon last, from those of less below."""
    offsets = best.shape[1]
    for mask in range(best.shape[0]):
        for offset in range(offsets):
            for flag in range(2):
                weight = best[mask, offset, flag]
                at = tables.units[mask] + offset + flag
                if weight == np.inf or at > tables.top:
                    continue
                fixed = tables.below[at]
                lower, upper = mask & LOWER, mask >> HALF
                cut = tables.cuts[mask] + tables.fixed_cut[fixed]
                cut -= 2 * (tables.crossing[0, fixed, lower] + tables.crossing[1, fixed, upper])
                on_floor = tables.starts_with_ups and at == 0
                may_leave = offset + 1 < offsets and at < tables.ahead[fixed] and not on_floor
                if may_leave and weight + 2 * cut < best[mask, offset + 1, flag]:
                    best[mask, offset + 1, flag] = weight + 2 * cut
                    via[mask, offset + 1, flag] = EMPTY
                for block in range(len(tables.masks)):
                    end = at + tables.heights[block]
                    if mask & tables.masks[block] or (flag and tables.keeps[block]) or end > tables.top:
                        continue
                    if on_floor and not tables.is_ups[block]:
                        continue
                    if at < tables.lowest[block] or at > tables.highest[block]:
                        continue
                    own = tables.which[block]
                    if own >= 0 and (own != fixed or tables.starts[block] != at):
                        continue
                    if end > tables.ahead[fixed + (own >= 0)]:
                        continue
                    after = mask | tables.masks[block]
                    kept = 1 if tables.keeps[block] else flag
                    reached = end - tables.units[after] - kept
                    if reached >= offsets:
                        continue
                    added = 2 * cut * tables.heights[block] + tables.leaving[block] * tables.above[block]
                    added += tables.adds[0, block, lower] + tables.adds[1, block, upper]
                    added += tables.fixed_adds[fixed, block]
                    if weight + added < best[after, reached, kept]:
                        best[after, reached, kept] = weight + added
                        via[after, reached, kept] = block
