"""An arrangement made better by swaps, where the solver's time ends before its proof."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import combinations

from ..facts.building import Closet
from .cords import Cords
from .rules import Weights, broken, score
from .things import Thing


def improved(closet: Closet, things: Sequence[Thing], cords: Sequence[Cords], weights: Weights) -> list[Thing]:
    """An arrangement that no swap of two things and no move of one makes better, from one where everything stands."""
    best, least = list(things), score(things, cords, weights).total
    rules = len(broken(closet, things))
    again = True
    while again:
        again = False
        for tried in _neighbours(closet, best):
            told = score(tried, cords, weights).total
            if told < least - 1e-9 and len(broken(closet, tried)) <= rules:
                best, least, again = tried, told, True
                break
    return best


def _neighbours(closet: Closet, things: list[Thing]) -> Iterator[list[Thing]]:
    """Two of the same height on one face swapped, or one moved to another unit."""
    loose = [n for n, one in enumerate(things) if one.units and one.unit is not None and not one.fixed]
    for i, j in combinations(loose, 2):
        one, other = things[i], things[j]
        if one.units == other.units and one.face == other.face:
            tried = list(things)
            tried[i], tried[j] = (a.model_copy(update={"unit": b.unit}) for a, b in ((one, other), (other, one)))
            yield tried
    for i in loose:
        for unit in range(1, closet.units - things[i].units + 2):
            if unit != things[i].unit:
                yield [*things[:i], things[i].model_copy(update={"unit": unit}), *things[i + 1 :]]
