"""The choice of access points that reach enough cells: a partial set cover, by CP-SAT."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import NDArray
from ortools.sat.python import cp_model

from .reached import Booleans, Cells, Column
from .swaps import bound, fewer

SECONDS, BESIDE_SECONDS = 2.0, 0.15
"""Deterministic time of a search, and of all that is asked beside it."""
SEARCHED_MOST = 3
"""Of more access points the most that they reach is not searched for."""
StationWish = Literal["fewest", "least_price"]


@dataclass(frozen=True)
class Chosen:
    columns: tuple[Column, ...]
    bound: int
    proven: bool
    fullest: float | None


class Patterns(NamedTuple):
    """Cells of a goal by which columns reach them: those that the same columns reach are one."""

    reached_by: Booleans
    """A row a pattern, a column a column."""
    cells: NDArray[np.int64]
    """How many cells each is."""


def patterns_of(columns: Sequence[Column], cells: Cells) -> list[Patterns]:
    """The patterns of every goal."""
    reaches = np.array([column.reaches for column in columns]).T
    found = []
    for start, end in cells.of_goal:
        packed, place, count = np.unique(
            np.packbits(reaches[start:end], axis=1), axis=0, return_index=True, return_counts=True
        )
        assert len(packed) == len(place)
        found.append(Patterns(reaches[start:end][place], count))
    return found


class Start(NamedTuple):
    """A choice to begin from, and how few none can be under."""

    columns: Sequence[Column]
    least: int


class _Model:
    """A choice of columns, one a spot, and which cells they reach; cells that the same columns reach are one row."""

    def __init__(self, columns: Sequence[Column], patterns: Sequence[Patterns]) -> None:
        self.columns, self.model = columns, cp_model.CpModel()
        self.taken = [self.model.new_bool_var("") for _ in columns]
        by_spot: dict[int, list[cp_model.IntVar]] = {}
        for column, flag in zip(columns, self.taken, strict=True):
            by_spot.setdefault(column.spot, []).append(flag)
        for here in by_spot.values():
            self.model.add_at_most_one(here)
        self.counted: list[cp_model.LinearExprT] = []
        flags: dict[bytes, cp_model.IntVar] = {}
        for rows in patterns:
            terms = []
            for pattern, count in zip(rows.reached_by, rows.cells, strict=True):
                key = pattern.tobytes()
                if key not in flags:
                    flags[key] = self.model.new_bool_var("")
                    self.model.add(sum(self.taken[n] for n in np.flatnonzero(pattern)) >= flags[key])
                terms.append(int(count) * flags[key])
            self.counted.append(sum(terms))

    def hint(self, found: Sequence[Column]) -> None:
        """Begin from these columns."""
        self.model.clear_hints()  # type: ignore[no-untyped-call]
        chosen = {id(column) for column in found}
        for column, flag in zip(self.columns, self.taken, strict=True):
            self.model.add_hint(flag, id(column) in chosen)

    def solve(self, seconds: float = SECONDS) -> tuple[tuple[Column, ...] | None, int, bool]:
        """The columns taken, the bound of what was asked for, and whether it is proven; ``seconds``: deterministic."""
        solver = cp_model.CpSolver()
        solver.parameters.num_workers = 1
        solver.parameters.linearization_level = 2
        solver.parameters.max_deterministic_time = seconds
        state = solver.solve(self.model)
        if state not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
            return None, 0, state == cp_model.INFEASIBLE
        found = tuple(c for c, flag in zip(self.columns, self.taken, strict=True) if solver.value(flag))
        return found, math.ceil(solver.best_objective_bound - 1e-6), state == cp_model.OPTIMAL


def choose(
    columns: Sequence[Column],
    cells: Cells,
    aim: StationWish,
    least: int,
    patterns: Sequence[Patterns] | None = None,
    start: Start | None = None,
) -> Chosen | None:
    """The columns that reach what every goal needs, ``least`` of them at the least: the fewest and of those the
    cheapest, or the other way round."""
    if not any(cells.needed):
        return None
    patterns = patterns_of(columns, cells) if patterns is None else patterns
    prices = [column.price_minor for column in columns]
    model = _Model(columns, patterns)
    for counted, needed in zip(model.counted, cells.needed, strict=True):
        if needed:
            model.model.add(counted >= needed)
    count = sum(model.taken)
    price = cp_model.LinearExpr.weighted_sum(model.taken, prices)
    model.model.add(count >= least)
    if aim == "fewest":
        model.model.minimize(count)
    else:
        model.model.minimize(price)
    few = smallest(columns, cells, patterns) if start is None else start
    relaxed = few.least if aim == "fewest" else math.ceil(bound(patterns, cells.needed, prices) - 1e-6)
    found: Sequence[Column] | None
    if aim == "fewest" and len(few.columns) == max(relaxed, least) and _meets(few.columns, cells):
        found, least_told, proven = few.columns, len(few.columns), True
    else:
        model.hint(few.columns)
        found, least_told, proven = model.solve(SECONDS if aim == "fewest" else SECONDS / 10)
    if found is None:
        return None
    if not proven:
        least_told = max(least_told, relaxed)
        proven = least_told == (len(found) if aim == "fewest" else sum(column.price_minor for column in found))
    if aim == "fewest":
        model.model.add(count <= len(found))
        model.model.minimize(price)
    else:
        model.model.add(price <= sum(column.price_minor for column in found))
        model.model.minimize(count)
    model.hint(found)
    best, _, is_best = model.solve(BESIDE_SECONDS)
    return Chosen(tuple(best or found), least_told, proven and is_best, None)


def smallest(columns: Sequence[Column], cells: Cells, patterns: Sequence[Patterns]) -> Start:
    """As few columns as swaps find, from a greedy choice; where that does not reach enough it stays as it is."""
    least = math.ceil(bound(patterns, cells.needed, [1] * len(columns)) - 1e-6)
    greedy = greedy_choice(columns, cells)
    if not greedy or not _meets(greedy, cells) or len({column.spot for column in greedy}) < len(greedy):
        return Start(greedy, least)
    return Start(fewer(columns, cells, greedy, least), least)


def _meets(columns: Sequence[Column], cells: Cells) -> bool:
    reached = np.any([column.reaches for column in columns], axis=0)
    return all(
        int(reached[start:end].sum()) >= needed
        for (start, end), needed in zip(cells.of_goal, cells.needed, strict=True)
    )


def greedy_choice(columns: Sequence[Column], cells: Cells) -> list[Column]:
    """Columns one after another, each the one that reaches most of what goals still need."""
    reaches = np.array([column.reaches for column in columns], dtype=np.float64)
    left = np.ones(reaches.shape[1])
    needs = np.array(cells.needed, dtype=np.float64)
    spans = [slice(*span) for span in cells.of_goal]
    found: list[Column] = []
    while needs.max(initial=0) > 0:
        gain = np.zeros(len(columns))
        for span, need in zip(spans, needs, strict=True):
            gain += np.minimum(reaches[:, span] @ left[span], max(need, 0.0))
        best = int(np.argmax(gain))
        if gain[best] <= 0:
            break
        found.append(columns[best])
        for n, span in enumerate(spans):
            needs[n] -= float(reaches[best, span] @ left[span])
        left[reaches[best] > 0] = 0
    return found


def most_reached(
    columns: Sequence[Column], patterns: Sequence[Patterns], greedy: Sequence[Column], count: int, seconds: float
) -> tuple[float, bool]:
    """The share of cells that so many access points reach at the most, and whether that is proven; of many it is what
    was found one after another, not proven."""
    if count > SEARCHED_MOST:
        return _reached(greedy[:count]), False
    model = _Model(columns, patterns)
    model.model.add(sum(model.taken) <= count)
    model.model.maximize(sum(model.counted))
    model.hint(greedy[:count])
    found, _, proven = model.solve(seconds)
    best = max((greedy[:count], found or ()), key=_reached)
    return _reached(best), proven and found is not None


def _reached(columns: Sequence[Column]) -> float:
    """Share of all cells that some columns reach."""
    if not columns:
        return 0.0
    return float(np.any([column.reaches for column in columns], axis=0).mean())
