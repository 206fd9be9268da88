"""Linear programs against figures worked by hand and against trying all whole values."""

import random
import time
from itertools import product

import numpy as np
import pytest

from baugrund.core.pick.bounds.linear import LinearProgram, Rows


def program(costs, most, *rows):
    made = Rows(len(costs))
    for entries, least, highest in rows:
        made.add(np.array(entries, dtype=float), least, highest)
    return LinearProgram(np.array(costs, dtype=float), np.array(most, dtype=float), made)


def test_a_program_worked_by_hand():
    # 2x + 3y least with x + y ≥ 4 and x ≤ 3: x = 3, y = 1; another unit asked costs 3, one more of x spares 1
    solved = program([2, 3], [10, 10], ([1, 0], 0, 3), ([1, 1], 4, np.inf)).solve()
    assert solved.bound == pytest.approx(9)
    assert solved.values == pytest.approx([3, 1])
    assert solved.duals == pytest.approx([-1, 3])


def test_ranges_change_and_the_program_with_them():
    one = program([2, 3], [10, 10], ([1, 0], 0, 3), ([1, 1], 4, np.inf))
    one.set_ranges(np.array([0.0]), np.array([1.0]))
    assert one.solve().bound == pytest.approx(11)
    one.set_ranges(np.array([2.0]), np.array([1.0]))
    assert one.solve() is None
    one.set_ranges(np.array([0.0]), np.array([4.0]))
    assert one.solve().bound == pytest.approx(8)


def test_a_solver_that_solved_another_program_finds_the_same():
    """Solvers are used again: neither whole columns, nor options, nor the time that was used stay with them."""
    rng = np.random.default_rng(1)
    hard = [(rng.integers(1, 1000, 60), 0, 9000) for _ in range(30)]
    for _ in range(2):
        began_at = time.monotonic()
        one = program(-rng.integers(500, 1000, 60), np.full(60, 3), *hard)
        assert not one.solve_whole((), 0.5, 0.2).proven
        assert time.monotonic() - began_at > 0.1
        del one
        again = program([2, 3], [10, 10], ([2, 2], 5, np.inf))
        assert again.solve().values == pytest.approx([2.5, 0])
        assert again.solve_whole((), 0.5, 5.0).values == pytest.approx([3, 0])
        del again


@pytest.mark.parametrize(("least", "highest", "can"), [(0, 5, True), (1, 5, False), (-3, -1, False)])
def test_a_row_without_entries_comes_to_nothing(least, highest, can):
    assert (program([1], [1], ([0], least, highest)).solve() is not None) is can


@pytest.mark.parametrize(("least", "can"), [(0, True), (1, False)])
def test_a_program_without_columns_is_solved_where_it_asks_for_nothing(least, can):
    one = program([], [], ([], least, np.inf))
    assert (one.solve() is not None) is can
    assert one.solve_whole((), 0.5, 5.0).proven
    assert (one.solve_whole((), 0.5, 5.0).values is not None) is can


@pytest.mark.parametrize("seed", range(40))
def test_bounds_lie_under_the_best_whole_values_and_these_are_found(seed):
    rng = random.Random(seed)
    width = rng.randint(2, 4)
    costs, most = [rng.randint(0, 9) for _ in range(width)], [rng.randint(1, 4) for _ in range(width)]
    rows = []
    for _ in range(rng.randint(1, 3)):
        entries = [rng.randint(-2, 6) for _ in range(width)]
        rows.append((entries, rng.randint(0, 12), np.inf) if rng.random() < 0.6 else (entries, -np.inf, 9))
    whole = [
        sum(cost * value for cost, value in zip(costs, values, strict=True))
        for values in product(*(range(highest + 1) for highest in most))
        if all(least <= sum(e * v for e, v in zip(entries, values, strict=True)) <= highest
               for entries, least, highest in rows)
    ]  # fmt: skip
    one = program(costs, most, *rows)
    solved, found = one.solve(), one.solve_whole((), 0.5, 5.0)
    assert found.proven
    if whole:
        assert solved.bound <= min(whole) + 1e-6
        assert np.array(costs) @ found.values == min(whole)
    else:
        assert found.values is None


def test_what_duals_prove_is_told_without_those_that_lean_on_no_limit():
    rng = np.random.default_rng(7)
    for _ in range(50):
        rows, columns = rng.integers(1, 6, 2)
        matrix, costs = rng.integers(-3, 4, (rows, columns)).astype(float), rng.integers(0, 9, columns).astype(float)
        least = np.where(rng.random(rows) < 0.3, -np.inf, rng.integers(-5, 1, rows))
        highest = np.where(rng.random(rows) < 0.3, np.inf, rng.integers(1, 6, rows))
        most, duals = rng.integers(0, 4, columns).astype(float), rng.normal(size=rows).round(1)
        leaning = np.where(duals > 0, np.isinf(least), np.isinf(highest))
        kept = np.where(leaning, 0.0, duals)
        limits = np.where(kept > 0, least, np.where(kept < 0, highest, 0.0))
        reduced = costs - kept @ matrix
        told = program(costs, most, *zip(matrix, least, highest, strict=True)).proven(duals, most)
        assert told.bound == pytest.approx(kept @ limits + np.minimum(reduced, 0) @ most)
        assert told.reduced == pytest.approx(np.maximum(reduced, 0))
        assert (told.duals == kept).all()
