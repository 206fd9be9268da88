"""All sets of a given number of boxes that a bound leaves under a mark, listed at once.

References
----------
.. [1] Dantzig, Fulkerson, Johnson: Solution of a large-scale traveling-salesman problem (1954): what the reduced costs
   of a relaxation leave under a known answer is all that is worth looking at.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from .linear import Floats

SETS_MOST = 12_000
"""Sets listed at once; where there are more, the node is split first."""

Places = NDArray[np.intp]


def listed(weights: Floats, room: float, least: Floats, most: Floats, first_switch: int, boxes: int) -> Floats | None:
    """How many of each box, a row a set, in every set of so many boxes with Σ weights·counts ≤ room; None when there
    are too many.

    ``least`` and ``most``: how many of each there may be; just one root (a place before ``first_switch``).
    """
    rooted = bool(least[:first_switch].any())
    roots = [] if rooted else np.flatnonzero(most[:first_switch] > 0).tolist()
    start = np.array([least] if rooted else [_with_root(least, root) for root in roots])
    more = boxes - int(least.sum()) - (not rooted)
    if more < 0 or not len(start):
        return np.zeros((0, len(least)))
    able = np.flatnonzero(most[first_switch:] > least[first_switch:]) + first_switch
    order: Places = able[np.argsort(weights[able], kind="stable")]
    rising = weights[order]
    left = room - start @ weights
    came = np.arange(len(start))
    last = np.zeros(len(start), dtype=np.intp)
    chosen = np.zeros((len(start), 0), dtype=np.intp)
    for still in range(more, 0, -1):
        # the others come later in the order, so each weighs at least as much as this one
        end = np.searchsorted(rising, left / still, side="right")
        count = np.maximum(end - last, 0)
        if count.sum() > SETS_MOST:
            return None
        parent = np.repeat(np.arange(len(left)), count)
        within = np.arange(len(parent)) - np.repeat(np.cumsum(count) - count, count)
        last = last[parent] + within
        left = left[parent] - rising[last]
        came = came[parent]
        chosen = np.hstack([chosen[parent], last[:, None]])
    if len(chosen) and not (left >= 0).all():
        keep = left >= 0
        chosen, came = chosen[keep], came[keep]
    counts = start[came]
    np.add.at(counts, (np.arange(len(counts))[:, None], order[chosen]), 1.0)
    return counts[(counts <= most).all(axis=1)]


def _with_root(least: Floats, root: int) -> Floats:
    rooted = least.copy()
    rooted[root] = 1.0
    return rooted
