"""Covers of a relaxation's rows, compiled, for `covers`: what a configuration must have of one row, and what each part
of it gives and costs, whatever all other rows ask or beside them at their duals.

References
----------
.. [1] Geoffrion: Lagrangean relaxation for integer programming (1974): one row stays, the others have their prices.
"""

from __future__ import annotations

import numpy as np

from ...compiled import compiled
from ..bounds.linear import Floats
from ..model.arrays import Places
from .covers import Columns, Parts


@compiled
def _add(sums: Floats, weights: Floats, rows: Floats) -> None:
    """Add so much of each row to sums, a column each."""
    for row in range(len(rows)):
        if weights[row] != 0.0:
            for column in range(len(sums)):
                sums[column] += weights[row] * rows[row, column]


@compiled
def _of_parts(costs: Floats, gives: Floats, order: Places, begins: Places, least: Floats, most: Floats) -> None:
    """The least that a choice of each part costs, and the most that one gives."""
    for part in range(len(begins)):
        last = begins[part + 1] if part + 1 < len(begins) else len(order)
        least[part], most[part] = np.inf, 0.0
        for choice in order[begins[part] : last]:
            least[part], most[part] = min(least[part], costs[choice]), max(most[part], gives[choice])


@compiled
def row_covers(
    rows: Floats, asked: Floats, duals: Floats, others: Floats, at: Floats, columns: Columns, parts: Parts
) -> tuple[Floats, Floats, Floats, Floats, Floats, Floats, Floats]:  # fmt: skip
    """Covers, one for each of the ``rows`` that ask for so much, as their constants, what they ask, what a unit costs
    that nothing gives, and what starts and leaves cost and give, a column each.

    The last covers are those beside which ``others``, at their limits ``at``, have the ``duals``.
    """
    covers, (centres, sets), starts = len(rows), columns.holds.shape, parts.begun.shape[1]
    plain, width, held, leaves = covers - len(duals), len(columns.costs), columns.held, parts.leaves
    constants, needs, mends = np.zeros(covers), np.zeros(covers), np.full(covers, np.inf)
    start_costs, start_gives = np.zeros((covers, starts)), np.zeros((covers, starts))
    leaf_costs, leaf_gives = np.empty((covers, len(leaves))), np.empty((covers, len(leaves)))
    rest = np.empty(width)
    cost_of, gives_of = np.empty(len(parts.begins)), np.empty(len(parts.begins))
    cost_held, gives_held = np.empty(max(centres, 1)), np.empty(max(centres, 1))
    for cover in range(covers):
        gives, needs[cover] = rows[cover], asked[cover]
        rest[:] = columns.costs
        if cover >= plain:
            _add(rest, -duals[cover - plain], others)
            constants[cover] = (duals[cover - plain] * at).sum()
        for column in range(columns.choices, width):
            is_held = held <= column < held + sets
            if rest[column] <= 0.0 and not is_held:
                needs[cover] -= max(gives[column], 0.0) * columns.most[column]
                constants[cover] += rest[column] * columns.most[column]
            elif rest[column] > 0.0 and gives[column] > 0.0:
                mends[cover] = min(mends[cover], rest[column] / gives[column])
        needs[cover] = max(needs[cover], 0.0)
        _of_parts(rest, gives, parts.order, parts.begins, cost_of, gives_of)
        cost_held[:], gives_held[:] = 0.0, 0.0
        for column in range(held, held + sets):
            for centre in range(centres):
                if rest[column] <= 0.0:
                    cost_held[centre] += rest[column] * columns.holds[centre, column - held]
                    gives_held[centre] += gives[column] * columns.holds[centre, column - held]
        for start in range(starts):
            start_costs[cover, start] += cost_held[parts.centres[start]]
            start_gives[cover, start] += gives_held[parts.centres[start]]
            for which in range(len(parts.begun)):
                start_costs[cover, start] += cost_of[parts.begun[which, start]]
                start_gives[cover, start] += gives_of[parts.begun[which, start]]
        for leaf in range(len(leaves)):
            leaf_costs[cover, leaf], leaf_gives[cover, leaf] = cost_of[leaves[leaf]], gives_of[leaves[leaf]]
    return constants, needs, mends, start_costs, start_gives, leaf_costs, leaf_gives
