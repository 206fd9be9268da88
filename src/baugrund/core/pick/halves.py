"""Searches that helpers share: whole ones, of several closets, or half of one, by hubs; then one half is gone through
here, the other there, each sees the least that the other found, and who is through first takes what is left."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Iterator, Sequence
from contextlib import AbstractContextManager, nullcontext
from dataclasses import dataclass
from functools import partial
from typing import Any, TypeVar

from ..watch import is_one_of_several
from .helping import Elsewhere, Mark, elsewhere
from .outcomes import Cost
from .seating import Seating
from .sets import Hubs, Sets, Star

WORTH_IT, WORTH_IT_S = 500, 1.0
"""Drops, times boxes to choose from, and time given, from which on two find it sooner than one."""


@dataclass(frozen=True, eq=False)
class Task:
    """One search: problem, weight and limits."""

    sets: Sets
    first_will_do: bool
    seconds: float
    floor: Cost | None = None
    """What no pick can be better than."""
    ceiling: int | None = None
    """What the best pick costs no more than; it is not known which that is."""
    gap: float = 0.0
    """How much dearer than its bound the pick may be, as a share of it; 0: it is the best."""
    roughly: bool = False
    """Whether picks are seated quickly or not at all, so that nothing is proven."""

    @property
    def has_halves(self) -> bool:
        """Whether the other half may have help.  The first pick that will do would be another with help."""
        return not (self.first_will_do or self.sets.problem.chain_allowed or is_one_of_several())

    @property
    def is_long(self) -> bool:
        """Whether it is worth some milliseconds to have help, where a core is free for it."""
        problem = self.sets.problem
        return self.seconds >= WORTH_IT_S and problem.drops * len(problem.boxes) >= WORTH_IT

    def elsewhere(self, do: Do, least: int | None = None) -> AbstractContextManager[Elsewhere | None]:
        """A helper that does something of it; None: it is not worth it, or there is no help.  ``least``: the mark to
        begin with."""
        problem, mark = self.sets.problem, math.inf if least is None else least
        named = (*problem.boxes, *problem.injectors, *problem.modules, *problem.trunks)
        return elsewhere(partial(do, self), named, mark) if self.is_long else nullcontext()


Do = Callable[[Task, Mark], Any]


@dataclass(frozen=True, eq=False)
class HalfFound:
    """The result of a half: its incumbent, whether a dive found it, and the bounds of its open nodes."""

    best: Seating | None
    is_rough: bool
    unproven: tuple[int, ...]


Bounded = TypeVar("Bounded", Hubs, Star)


@dataclass(frozen=True, eq=False)
class Half:
    """One half of a search, as whoever goes through it sees it."""

    number: int
    mark: Mark

    def mine(self, bounded: Iterable[Bounded]) -> list[Bounded]:
        """Every second one, the least bound first; of each two in turn the first or the other, for what promises most
        takes longest."""
        ranked = enumerate(sorted(bounded, key=lambda one: one.least))
        return [one for rank, one in ranked if (rank + 1) // 2 % 2 == self.number]

    def in_turn(self, bounded: Sequence[Hubs]) -> list[tuple[int, Hubs]]:
        """All of them with their number: those of this half, the least bound first, then those of the other."""
        mine = self.mine(bounded)
        others = sorted((some for some in bounded if some not in mine), key=lambda some: some.least)
        number = {some: place for place, some in enumerate(bounded)}
        return [(number[some], some) for some in (*mine, *others)]

    def of_each(self, hubs: Iterable[Hubs]) -> Iterator[Hubs]:
        """Of hubs that are bounded together every second one: where such groups are few."""
        for some in hubs:
            mine = self.mine(some.stars)
            if mine:
                yield Hubs(tuple(mine))

    @property
    def least(self) -> int | None:
        """The cost of the incumbent of both halves."""
        return None if math.isinf(self.mark.least) else round(self.mark.least)
