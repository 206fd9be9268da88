"""Covers of rows are what counting column by column by hand comes to, whatever the other rows have for duals."""

import numpy as np
import pytest

from baugrund.core.pick.enumeration.covers import Columns, Parts
from baugrund.core.pick.enumeration.lagrangian import row_covers

CHOICES, HELD, SETS = 7, 9, 2
"""Four parts of choices, two columns that mend, two of what the centre holds, one more that mends."""


class Case:
    def __init__(self, seed):
        rng = np.random.default_rng(seed)
        width = HELD + SETS + 1
        self.rows, self.asked = rng.integers(0, 5, (5, width)).astype(float), rng.integers(1, 9, 5).astype(float)
        self.others, self.at = rng.integers(-2, 4, (4, width)).astype(float), rng.integers(0, 5, 4).astype(float)
        self.duals = rng.normal(size=(2, 4)).round(2)
        costs, most = rng.integers(0, 20, width).astype(float), rng.integers(0, 4, width).astype(float)
        self.columns = Columns(costs, most, CHOICES, HELD, rng.integers(0, 4, (2, SETS)))
        order = rng.permutation(CHOICES)
        begun = np.array([[0, 0, 1], [2, 1, 2]])
        self.parts = Parts(order, np.array([0, 2, 3, 5]), begun, np.array([0, 1, 1]), np.array([1, 3]))

    def found(self):
        return row_covers(self.rows, self.asked, self.duals, self.others, self.at, self.columns, self.parts)

    def beside(self, cover):
        """What each column costs beside a cover, and a constant."""
        if cover < 3:
            return self.columns.costs, 0.0
        duals = self.duals[cover - 3]
        return self.columns.costs - duals @ self.others, float(duals @ self.at)

    def part(self, number):
        begins = [*self.parts.begins, CHOICES]
        return self.parts.order[begins[number] : begins[number + 1]]


@pytest.mark.parametrize("seed", range(20))
def test_covers_are_what_each_part_costs_at_least_and_gives_at_most(seed):
    case = Case(seed)
    constants, needs, mends, start_costs, start_gives, leaf_costs, leaf_gives = case.found()
    for cover in range(5):
        (rest, constant), gives = case.beside(cover), case.rows[cover]
        asked = case.asked[cover]
        mended = []
        for column in (7, 8, HELD + SETS):
            most = case.columns.most[column]
            if rest[column] <= 0:
                constant, asked = constant + rest[column] * most, asked - gives[column] * most
        for column in range(CHOICES, len(rest)):
            if rest[column] > 0 and gives[column] > 0:
                mended.append(rest[column] / gives[column])
        assert constants[cover] == pytest.approx(constant)
        assert needs[cover] == pytest.approx(max(asked, 0))
        assert mends[cover] == pytest.approx(min(mended, default=np.inf))
        least = [min(rest[case.part(n)]) for n in range(4)]
        most = [max(gives[case.part(n)].max(), 0) for n in range(4)]
        assert leaf_costs[cover] == pytest.approx([least[1], least[3]])
        assert leaf_gives[cover] == pytest.approx([most[1], most[3]])
        for start, (root, centre) in enumerate(case.parts.begun.T):
            holds = case.columns.holds[case.parts.centres[start]]
            by_hub = [(rest[HELD + n] * holds[n], gives[HELD + n] * holds[n]) for n in range(SETS)]
            worth = [(cost, gave) for cost, gave in by_hub if cost <= 0]
            cost, gave = (sum(some) for some in zip(*worth, strict=True)) if worth else (0, 0)
            assert start_costs[cover, start] == pytest.approx(least[root] + least[centre] + cost)
            assert start_gives[cover, start] == pytest.approx(most[root] + most[centre] + gave)


def test_without_hubs_starts_are_roots_alone():
    case = Case(0)
    columns = case.columns._replace(holds=np.zeros((0, 0), dtype=np.int64))
    parts = case.parts._replace(begun=np.array([[0, 2]]), centres=np.zeros(2, dtype=np.intp))
    *_, start_costs, start_gives, _, _ = row_covers(
        case.rows, case.asked, case.duals, case.others, case.at, columns, parts
    )  # fmt: skip
    assert start_costs[0] == pytest.approx([min(case.columns.costs[case.part(n)]) for n in (0, 2)])
    assert start_gives[0] == pytest.approx([max(case.rows[0][case.part(n)]) for n in (0, 2)])
