"""Linear programs that are built once and solved again as the ranges of their first rows change.

The bound is recomputed from the duals, so it holds however inexact they are.

References
----------
.. [1] Nemhauser, Wolsey: Integer and Combinatorial Optimization, I.2 (duality bounds).
"""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass
from functools import cache

import highspy
import numpy as np
from numpy.typing import NDArray

from ..model.arrays import Flags

Floats = NDArray[np.float64]
Entries = Mapping[int, float] | Floats
"""What a row has of each column: those that are not 0 by their place, or all of them."""

STEPS_MOST = 5_000
"""Steps of the simplex method after which a bound is left weak."""

MISSED = 1e-5
"""What a row may be missed by: rows are of whole thousandths."""

SPARE_MOST = 32
_spare: list[highspy.Highs] = []
"""Solvers that nobody uses now: to have one made takes about as long as to solve a small program."""


class Rows:
    """Rows at_least ≤ Σ entries·columns ≤ at_most, as they are written down."""

    def __init__(self, width: int) -> None:
        self.width = width
        self._counts: list[int] = []
        """How many entries each row has that was written down by what is not 0 in it."""
        self._places: list[int] = []
        self._values: list[float] = []
        self._whole: list[tuple[int, Floats]] = []
        """Rows that were written down whole, with the place of the first of them."""
        self.least: list[float] = []
        self.highest: list[float] = []

    def __len__(self) -> int:
        return len(self.least)

    def add(self, entries: Entries, at_least: float, at_most: float = np.inf) -> None:
        """Add one row."""
        if not isinstance(entries, Mapping):
            self.add_all(entries[None, :], at_least, at_most)
            return
        self._counts.append(len(entries))
        self._places.extend(entries)
        self._values.extend(entries.values())
        self.least.append(at_least)
        self.highest.append(at_most)

    def add_all(self, entries: Floats, at_least: float | Iterable[float], at_most: float = np.inf) -> None:
        """Add many rows."""
        count = len(entries)
        self._whole.append((len(self), entries))
        self._counts.extend([0] * count)
        self.least.extend(at_least if isinstance(at_least, Iterable) else [at_least] * count)
        self.highest.extend([at_most] * count)

    def matrix(self) -> Floats:
        """The sparse matrix of all rows."""
        whole = np.zeros((len(self), self.width))
        whole[np.repeat(np.arange(len(self)), self._counts), np.array(self._places, dtype=np.intp)] = self._values
        for first, entries in self._whole:
            whole[first : first + len(entries)] = entries
        return whole

    def with_one_more(self, costs: Floats, at_most: float) -> Rows:
        """These rows and one that holds a sum down."""
        more = Rows(self.width)
        more._counts, more._places, more._values = [*self._counts], self._places, self._values
        more._whole, more.least, more.highest = [*self._whole], [*self.least], [*self.highest]
        more.add(costs, 0.0, at_most)
        return more


@dataclass(frozen=True, eq=False)
class Whole:
    """Whole values that are best, or None; whether it is certain that there are none better, or none at all."""

    values: Floats | None
    proven: bool


@dataclass(frozen=True, eq=False)
class Solved:
    """A true lower bound, reduced costs (at least 0) and the columns' values; a dual for every row."""

    bound: float
    reduced: Floats
    values: Floats
    duals: Floats


class LinearProgram:
    """Least Σ costs·columns, of columns from 0 to their most, under rows."""

    def __init__(self, costs: Floats, most: Floats, rows: Rows) -> None:
        self._highs = _solver()
        self.costs, self.most = costs, most
        self.least, self.highest = np.array(rows.least, dtype=np.float64), np.array(rows.highest, dtype=np.float64)
        self.matrix = rows.matrix()
        of, column = np.nonzero(self.matrix)
        value, start = self.matrix[of, column], np.searchsorted(of, np.arange(len(rows) + 1)).astype(np.int32)
        none, whole = np.zeros(rows.width), np.zeros(rows.width, dtype=np.int32)
        self._bare: Flags = np.asarray(~self.matrix.any(axis=1))
        """Rows without entries."""
        self._highs.passOptions(_options())
        self._highs.passModel(
            rows.width, len(rows), len(value), int(highspy.MatrixFormat.kRowwise), int(highspy.ObjSense.kMinimize),
            0.0, costs, none, most, self.least, self.highest, start, column.astype(np.int32), value, whole,
        )  # fmt: skip

    def __del__(self) -> None:
        if len(_spare) < SPARE_MOST:
            _spare.append(self._highs)

    def set_ranges(self, least: Floats, most: Floats) -> None:
        """Change what the first rows must be between."""
        count = len(least)
        self.least[:count], self.highest[:count] = least, most
        self._highs.changeRowsBounds(count, np.arange(count, dtype=np.int32), least, most)

    def _is_void(self) -> bool:
        """Whether a row's range is none, or a row without entries would have to come to more or less than nothing."""
        is_bare_and_asks = self._bare & ((self.least > 0) | (self.highest < 0))
        return bool((is_bare_and_asks | (self.least > self.highest)).any())

    def solve(self) -> Solved | None:
        """The program as its ranges are now; None when nothing is between them."""
        if self._is_void():
            return None
        if not len(self.costs):
            return Solved(0.0, self.costs, self.costs, np.zeros(len(self.least)))
        self._highs.run()
        status = self._highs.getModelStatus()
        if status == highspy.HighsModelStatus.kInfeasible:
            return None
        solution = self._highs.getSolution()
        # zero duals, when the program could not be solved, leave a bound that is weak but true
        solved = status == highspy.HighsModelStatus.kOptimal
        duals = np.array(solution.row_dual) if solved else np.zeros(len(self.least))
        return self.proven(duals, np.array(solution.col_value))

    def proven(self, duals: Floats, values: Floats) -> Solved:
        """What these duals prove that all costs come to, however inexact they are.

        A row without a limit on one side has no dual that leans on it: such a one becomes 0.
        """
        limits = np.where(duals > 0, self.least, self.highest)
        duals = np.where(np.isinf(limits), 0.0, duals)
        used = np.flatnonzero(duals)
        reduced = self.costs - duals[used] @ self.matrix[used]
        under = reduced < 0
        bound = float(duals[used] @ limits[used] + reduced[under] @ self.most[under])
        return Solved(bound, np.maximum(reduced, 0.0), values, duals)

    def solve_whole(
        self, divisible: Collection[int], step: float, seconds: float, gap: float = 0.0, *, hopeful: bool = True
    ) -> Whole:
        """The program with whole columns, but for the divisible ones; costs that differ by less than a step, or by a
        share of ``gap``, are the same.  ``hopeful``: there are likely to be some, so that looking for good ones early
        is worth the time."""
        if self._is_void():
            return Whole(None, True)
        count = len(self.costs)
        if not count:
            return Whole(self.costs, True)
        kinds = np.full(count, highspy.HighsVarType.kInteger)
        kinds[list(divisible)] = highspy.HighsVarType.kContinuous
        highs = self._highs
        highs.changeColsIntegrality(count, np.arange(count, dtype=np.int32), kinds)
        highs.passOptions(_whole_options(step, seconds, gap, hopeful))
        highs.run()
        status = highs.getModelStatus()
        if status in (highspy.HighsModelStatus.kInfeasible, highspy.HighsModelStatus.kUnboundedOrInfeasible):
            return Whole(None, True)
        values = np.array(highs.getSolution().col_value)
        found = highs.getInfo().primal_solution_status == highspy.kSolutionStatusFeasible
        whole = np.rint(values)
        whole[list(divisible)] = values[list(divisible)]
        if not found or not self._holds(whole):
            return Whole(None, False)
        return Whole(whole, status == highspy.HighsModelStatus.kOptimal)

    def _holds(self, values: Floats) -> bool:
        """Whether whole values keep to every row: the solver's own may miss them a little."""
        sums = self.matrix @ values
        return bool((sums >= self.least - MISSED).all() and (sums <= self.highest + MISSED).all())


def _solver() -> highspy.Highs:
    try:
        return _spare.pop()
    except IndexError:
        return highspy.Highs()


def _whole_options(step: float, seconds: float, gap: float, hopeful: bool) -> highspy.HighsOptions:
    options = highspy.HighsOptions()
    options.output_flag = False
    options.presolve = "off"
    options.parallel = "off"
    options.threads = 1
    options.random_seed = 1
    options.mip_heuristic_run_feasibility_jump = False
    options.mip_heuristic_run_rins = hopeful
    options.mip_heuristic_run_rens = hopeful
    options.mip_heuristic_run_root_reduced_cost = hopeful
    options.mip_rel_gap = gap
    options.mip_abs_gap = step
    options.time_limit = seconds
    return options


@cache
def _options() -> highspy.HighsOptions:
    options = highspy.HighsOptions()
    options.output_flag = False
    options.presolve = "off"
    options.solver = "simplex"
    options.parallel = "off"
    options.simplex_iteration_limit = STEPS_MOST
    return options
