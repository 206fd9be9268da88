"""Channels given out so that those that hear each other share as little airtime as can be.

CP-SAT proves it, or tells its bound.  Of m access points that all hear each other, on k channels apart, some share one:
whichever way, they form at least a division into k groups (channels as intervals are perfect graphs), and what the best
division costs is a bound (Turán 1941), found over all sizes of groups.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray
from ortools.sat.python import cp_model

from ..standards.radio import Block

SECONDS = 1.2
"""Deterministic time of a search."""
ROUNDS = 50
CLIQUE_MOST = 30


@dataclass(frozen=True)
class Case:
    """What channels are given out to: airtimes as whole numbers in 1/100,000."""

    own: tuple[int, ...]
    hears: NDArray[np.bool_]
    """Who hears whom: a row who listens."""
    blocks: tuple[Block, ...]
    neighbours: tuple[tuple[int, ...], ...]
    """What neighbours take of each access point on each channel."""
    fixed: tuple[int | None, ...]
    """The channel that somebody chose by hand, by its place."""
    now: tuple[int | None, ...]

    @cached_property
    def overlap(self) -> NDArray[np.bool_]:
        return np.array([[one.overlaps(other) for other in self.blocks] for one in self.blocks])

    @cached_property
    def pairs(self) -> dict[tuple[int, int], int]:
        """What two on one channel cost together, where they hear each other."""
        found = {}
        for i in range(len(self.own)):
            for j in range(i + 1, len(self.own)):
                cost = int(self.hears[i, j]) * self.own[j] + int(self.hears[j, i]) * self.own[i]
                if self.hears[i, j] or self.hears[j, i]:
                    found[i, j] = cost
        return found

    def shared(self, chosen: Sequence[int]) -> list[int]:
        """Others' airtime that each hears on its channel."""
        return [
            self.neighbours[i][chosen[i]]
            + sum(
                self.own[j]
                for j in range(len(self.own))
                if j != i and self.hears[i, j] and self.overlap[chosen[i], chosen[j]]
            )
            for i in range(len(self.own))
        ]


@dataclass(frozen=True)
class Given:
    """Channels given out."""

    chosen: tuple[int, ...]
    bound: int
    proven: bool


def give_out(case: Case) -> Given | None:
    """The channels of least shared airtime, then of least squares, then with the fewest changes; None: there is none.

    Proven, or with the bound that was reached.
    """
    if not case.blocks:
        return None
    clear = tuple(clear_channels(case, i) for i in range(len(case.own)))
    best = _improved(case, clear)
    stage = _Stage(case, clear)
    stage.model.minimize(stage.total)
    found, proven = stage.solve(best, SECONDS)
    best = min((best, found or best), key=lambda one: _rank(case, one))
    if not proven:
        # its linear relaxation finds no better channels, and a bound where branching has none yet
        more, proven = stage.solve(best, SECONDS / 3, relaxed=True)
        best = min((best, more or best), key=lambda one: _rank(case, one))
    least = sum(case.shared(best))
    bound = least if proven else max(stage.bound, 0)
    is_least = least == 0
    if not is_least:
        stage = _Stage(case, clear)
        stage.model.add(stage.total <= least)
        stage.model.minimize(stage.squares())
        found, is_least = stage.solve(best, SECONDS / 2 if proven else SECONDS / 8)
        best = min((best, found or best), key=lambda one: _rank(case, one))
    if _changes(case, best):
        # any channel that costs no more may stay as it is, clear of others or not
        stage = _Stage(case, tuple(tuple(range(len(case.blocks))) for _ in case.own))
        stage.model.add(stage.total <= least)
        if least:
            stage.model.add(stage.squares() <= _rank(case, best)[1])
        stage.model.minimize(stage.changes())
        found, is_still = stage.solve(best, SECONDS / 2 if is_least else SECONDS / 8)
        best, is_least = found or best, is_least and is_still
    return Given(tuple(best), bound, proven and is_least)


def _rank(case: Case, chosen: Sequence[int]) -> tuple[int, int]:
    """What is least: the sum of what all hear of others, then that of its squares."""
    shared = case.shared(chosen)
    return sum(shared), sum(one * one for one in shared)


def _changes(case: Case, chosen: Sequence[int]) -> int:
    return sum(now is not None and now != b for now, b in zip(case.now, chosen, strict=True))


def clear_channels(case: Case, number: int) -> tuple[int, ...]:
    """The channels of an access point that no other one of it replaces: overlapping less, and no more of neighbours.

    Whoever goes over to such a one hears no more of anybody, and nobody hears more of it.
    """
    fixed = case.fixed[number]
    if fixed is not None:
        return (fixed,)
    # who is held on a channel by hand does not go over with the others: then any may be wanted
    if any(one is not None for one in case.fixed):
        return tuple(range(len(case.blocks)))
    costs = np.array(case.neighbours)
    left = list(range(len(case.blocks)))
    for b in range(len(case.blocks)):
        beside = {a for a in left if case.overlap[a, b]}
        if any(
            other != b
            and {a for a in left if case.overlap[a, other]} < beside
            and (costs[:, other] <= costs[:, b]).all()
            for other in left
        ):
            left.remove(b)
    return tuple(left)


def _improved(case: Case, clear: Sequence[Sequence[int]]) -> list[int]:
    """Channels that no single change makes better, the busiest access points first."""
    order = sorted(range(len(case.own)), key=lambda i: (-case.own[i], i))
    chosen = [options[0] for options in clear]
    done: list[int] = []
    for i in order:
        chosen[i] = min(clear[i], key=lambda b: _cost_of(case, chosen, i, b, done))
        done.append(i)
    for _ in range(ROUNDS):
        before = list(chosen)
        for i in order:
            chosen[i] = min(clear[i], key=lambda b: (_cost_of(case, chosen, i, b, order), b != before[i]))
        if chosen == before:
            break
    return chosen


def _cost_of(case: Case, chosen: Sequence[int], i: int, b: int, others: Sequence[int]) -> int:
    """What all hear more for one being on a channel, as others are."""
    return case.neighbours[i][b] + sum(
        case.pairs.get((min(i, j), max(i, j)), 0) for j in others if j != i and case.overlap[b, chosen[j]]
    )


class _Stage:
    """A model of a case: a channel for each, and which pairs overlap."""

    def __init__(self, case: Case, options: Sequence[Sequence[int]]) -> None:
        """``options``: the channels that each may have."""
        self.case, self.model, self.bound = case, cp_model.CpModel(), 0
        self.takes = [{b: self.model.new_bool_var(f"{i} {b}") for b in some} for i, some in enumerate(options)]
        for i, row in enumerate(self.takes):
            self.model.add_exactly_one(row.values())
            fixed = case.fixed[i]
            if fixed is not None:
                self.model.add(row[fixed] == 1)
        self.together = {pair: self.model.new_bool_var(f"{pair}") for pair, cost in case.pairs.items() if cost}
        for (i, j), flag in self.together.items():
            for a, take in self.takes[i].items():
                beside = [other for b, other in self.takes[j].items() if case.overlap[a, b]]
                if beside:
                    self.model.add(take + sum(beside) <= 1 + flag)
        costs = [case.pairs[pair] for pair in self.together]
        self.total = cp_model.LinearExpr.weighted_sum(list(self.together.values()), costs) + sum(
            case.neighbours[i][b] * take for i, row in enumerate(self.takes) for b, take in row.items()
        )
        for members in _cliques(case):
            inside = [pair for pair in self.together if pair[0] in members and pair[1] in members]
            least = least_of_groups([case.own[i] for i in members], _apart(case))
            if least:
                self.model.add(sum(case.pairs[pair] * self.together[pair] for pair in inside) >= least)

    def squares(self) -> cp_model.LinearExprT:
        """The sum of squares of what each hears of others: of every part by itself, and of every two at once."""
        case, terms = self.case, []
        for i, row in enumerate(self.takes):
            parts = [
                (case.own[j], self.together[min(i, j), max(i, j)])
                for j in range(len(case.own))
                if j != i and case.hears[i, j] and (min(i, j), max(i, j)) in self.together
            ]
            parts += [(case.neighbours[i][b], take) for b, take in row.items() if case.neighbours[i][b]]
            terms += [amount * amount * flag for amount, flag in parts]
            for place, (amount, flag) in enumerate(parts):
                for more, other in parts[place + 1 :]:
                    both = self.model.new_bool_var("")
                    self.model.add(flag + other <= 1 + both)
                    terms.append(2 * amount * more * both)
        return sum(terms)

    def changes(self) -> cp_model.LinearExprT:
        """Channels that are others than now, and among as few the first ones of the list."""
        case = self.case
        weight = len(case.own) * len(case.blocks) + 1
        return sum(
            (weight * (case.now[i] is not None and case.now[i] != b) + b) * take
            for i, row in enumerate(self.takes)
            for b, take in row.items()
        )

    def solve(self, hint: Sequence[int], seconds: float, relaxed: bool = False) -> tuple[list[int] | None, bool]:
        """The channels found, and whether they are proven; ``seconds``: deterministic time, ``relaxed``: led by the
        linear relaxation."""
        self.model.clear_hints()  # type: ignore[no-untyped-call]
        for i, block in enumerate(hint):
            for b, take in self.takes[i].items():
                self.model.add_hint(take, b == block)
        for (i, j), flag in self.together.items():
            self.model.add_hint(flag, bool(self.case.overlap[hint[i], hint[j]]))
        solver = cp_model.CpSolver()
        solver.parameters.num_workers = 1
        solver.parameters.linearization_level = 2 if relaxed else 1
        solver.parameters.max_deterministic_time = seconds
        state = solver.solve(self.model)
        self.bound = max(self.bound, round(solver.best_objective_bound))
        if state not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
            return None, False
        return [
            next(b for b, take in row.items() if solver.value(take)) for row in self.takes
        ], state == cp_model.OPTIMAL


def _apart(case: Case) -> int:
    """How many channels stand apart at the most: one after another, each the first that is clear of the last."""
    count, last = 0, None
    for b in sorted(range(len(case.blocks)), key=lambda b: case.blocks[b].high_mhz):
        if last is None or not case.overlap[last, b]:
            count, last = count + 1, b
    return count


def _cliques(case: Case) -> Iterator[frozenset[int]]:
    """Sets of access points that all hear each other, a greedy one around each."""
    count = len(case.own)
    both = case.hears & case.hears.T
    seen: set[frozenset[int]] = set()
    for first in range(count):
        members = [first]
        for other in sorted((j for j in range(count) if both[first, j]), key=lambda j: (-case.own[j], j)):
            if len(members) < CLIQUE_MOST and all(both[other, one] for one in members):
                members.append(other)
        found = frozenset(members)
        if len(found) > 1 and found not in seen:
            seen.add(found)
            yield found


def least_of_groups(own: Sequence[int], groups: int) -> int:
    """What all hear of each other at the least where those of a group hear one another: Σ (size − 1) · airtime of the
    group, over all divisions into so many groups.  The largest stand in the smallest groups."""
    largest_first = sorted(own, reverse=True)
    sums = np.concatenate([[0], np.cumsum(largest_first)]).tolist()
    best: dict[tuple[int, int, int], int] = {}

    def least(start: int, left: int, size: int) -> int:
        if start == len(own):
            return 0
        if not left or start + size * left > len(own) + left * len(own):
            return 2**62
        key = (start, left, size)
        if key not in best:
            best[key] = min(
                (
                    (n - 1) * int(sums[start + n] - sums[start]) + least(start + n, left - 1, n)
                    for n in range(size, len(own) - start + 1)
                ),
                default=2**62,
            )
        return best[key]

    return least(0, groups, 1)
