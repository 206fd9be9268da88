"""What is asked of every linear program before and after it is solved: compiled, for `linear`."""

from __future__ import annotations

import numpy as np

from ..compiled import compiled
from .figures import Flags
from .linear import Floats


@compiled
def is_void(least: Floats, highest: Floats, bare: Flags) -> bool:
    """Whether a row's range is none, or a row without entries would have to come to more or less than nothing."""
    for row in range(len(least)):
        if least[row] > highest[row] or (bare[row] and (least[row] > 0.0 or highest[row] < 0.0)):
            return True
    return False


@compiled
def proven(
    duals: Floats, least: Floats, highest: Floats, costs: Floats, most: Floats, matrix: Floats
) -> tuple[float, Floats]:
    """What these duals prove that all costs come to, however inexact they are, and reduced costs, at least 0.

    A row without a limit on one side has no dual that leans on it: such a one becomes 0.
    """
    bound, reduced = 0.0, costs.copy()
    for row in range(len(duals)):
        limit = least[row] if duals[row] > 0.0 else highest[row]
        if np.isinf(limit):
            duals[row] = 0.0
        if duals[row] != 0.0:
            bound += duals[row] * limit
            for column in range(len(reduced)):
                reduced[column] -= duals[row] * matrix[row, column]
    for column in range(len(reduced)):
        if reduced[column] < 0.0:
            bound += reduced[column] * most[column]
            reduced[column] = 0.0
    return bound, reduced
