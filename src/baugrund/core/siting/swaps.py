"""A choice of access points made smaller by swaps, and how small none can be.

Swaps follow a tabu search (Glover 1989): one access point goes and another comes, whichever leaves least missing, and
who went stays out for a while.  The bound is Lagrange's, at the dual values of the linear relaxation (HiGHS): for any
multipliers it holds, so what the solver rounds makes it lower and never wrong.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import linprog
from scipy.sparse import csr_matrix, hstack, identity, vstack

from .reached import Cells, Column

if TYPE_CHECKING:
    from .choosing import Patterns

STALLS_MOST = 60
"""Swaps without a better one after which a smaller choice is given up."""
OUT_FOR = 7
"""Swaps for which who went stays out."""
ROWS_MOST = 20_000
"""Of more patterns the linear relaxation is not asked."""


def fewer(columns: Sequence[Column], cells: Cells, start: Sequence[Column], least: int) -> list[Column]:
    """A choice that reaches what goals need with as few as swaps find, from one that does; ``least`` are few enough."""
    reaches = np.array([column.reaches for column in columns], dtype=np.float32)
    number = {id(column): n for n, column in enumerate(columns)}
    best = [number[id(column)] for column in start]
    while len(best) > max(least, 1):
        # whichever of them is left out first
        tried = (_swapped(columns, reaches, cells, best[:n] + best[n + 1 :]) for n in reversed(range(len(best))))
        smaller = next((one for one in tried if one is not None), None)
        if smaller is None:
            break
        best = smaller
    return [columns[n] for n in best]


def _swapped(
    columns: Sequence[Column], reaches: NDArray[np.float32], cells: Cells, start: Sequence[int]
) -> list[int] | None:
    """So many that reach enough; None: swaps find none."""
    chosen, out = list(start), np.zeros(len(columns), dtype=np.int64)
    spots = np.array([column.spot for column in columns])
    taken = np.bincount(spots[chosen], minlength=spots.max() + 1)
    count = reaches[chosen].sum(axis=0)
    least = _missing(cells, count)
    stalls = turn = 0
    while least > 0 and stalls < STALLS_MOST:
        turn += 1
        # a row for each that may go
        left = count - reaches[chosen]
        missing = _missing_with(cells, left, reaches)
        missing[:, (out > turn) | (taken[spots] > 0)] = np.inf
        for place, goes in enumerate(chosen):
            # another model on the spot that gets free
            beside = (spots == spots[goes]) & (out <= turn)
            beside[goes] = False
            if beside.any():
                missing[place, beside] = _missing_with(cells, left[place : place + 1], reaches[beside])[0]
        place, comes = divmod(int(missing.argmin()), missing.shape[1])
        now = float(missing[place, comes])
        if not math.isfinite(now):
            return None
        goes = chosen[place]
        count += reaches[comes] - reaches[goes]
        taken[spots[goes]] -= 1
        taken[spots[comes]] += 1
        out[goes], chosen[place] = turn + OUT_FOR, comes
        stalls = 0 if now < least else stalls + 1
        least = min(least, now)
    return chosen if _missing(cells, count) <= 0 else None


def _missing(cells: Cells, count: NDArray[np.float32]) -> float:
    """Cells that goals still need."""
    return sum(
        max(0.0, needed - float((count[start:end] > 0).sum()))
        for (start, end), needed in zip(cells.of_goal, cells.needed, strict=True)
    )


def _missing_with(cells: Cells, counts: NDArray[np.float32], reaches: NDArray[np.float32]) -> NDArray[np.float64]:
    """Cells that goals still need, a row for each count, with each column more."""
    free = (counts == 0).astype(np.float32)
    missing = np.zeros((len(counts), len(reaches)))
    for (start, end), needed in zip(cells.of_goal, cells.needed, strict=True):
        here = free[:, start:end]
        has = end - start - here.sum(axis=1, keepdims=True)
        missing += np.maximum(0.0, needed - has - here @ reaches[:, start:end].T)
    return missing


def bound(patterns: Sequence[Patterns], needed: Sequence[int], costs: Sequence[int]) -> float:
    """What no choice that reaches enough costs less than."""
    asked = [(rows, need) for rows, need in zip(patterns, needed, strict=True) if need]
    count = sum(len(rows.cells) for rows, _ in asked)
    if not asked or count > ROWS_MOST:
        return 0.0
    by = np.vstack([rows.reached_by for rows, _ in asked]).astype(np.float64)
    weight = np.zeros((len(asked), count))
    start = 0
    for goal, (rows, _) in enumerate(asked):
        weight[goal, start : start + len(rows.cells)] = rows.cells
        start += len(rows.cells)
    needs = np.array([need for _, need in asked], dtype=np.float64)
    cost = np.array(costs, dtype=np.float64)
    rows_of = vstack([
        hstack([csr_matrix(-by), identity(count)]), hstack([csr_matrix((len(asked), len(cost))), csr_matrix(-weight)])
    ])  # fmt: skip
    found = linprog(
        np.concatenate([cost, np.zeros(count)]), A_ub=rows_of, b_ub=np.concatenate([np.zeros(count), -needs]),
        bounds=(0, 1), method="highs",
    )  # fmt: skip
    if not found.success:
        return 0.0
    dual = np.maximum(-found.ineqlin.marginals, 0.0)
    covered, goals = dual[:count], dual[count:]
    # each variable by itself takes whichever of its ends is least
    of_columns = np.minimum(cost - covered @ by, 0.0).sum()
    of_cells = np.minimum(covered - goals @ weight, 0.0).sum()
    return float(goals @ needs + of_columns + of_cells)
