"""A search in two halves, by hubs: one is gone through here, the other by a helper, and each sees the least that the
other found."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass, replace
from typing import TypeVar

from ..watch import is_one_of_several
from .helping import Helper, HelperGone, Mark, begun
from .links import LinkTable
from .outcomes import Cost
from .seating import Seating
from .sets import Hubs, Sets, Star

WORTH_IT, WORTH_IT_S = 500, 1.0
"""Drops, times boxes to choose from, and time given, from which on two find it sooner than one."""
LOOK_EVERY_S = 0.5


@dataclass(frozen=True, eq=False)
class Task:
    """A search to be made; ``floor``: what no pick can be better than."""

    sets: Sets
    first_will_do: bool
    seconds: float
    floor: Cost | None = None

    @property
    def bare(self) -> Task:
        """The same with nothing found yet, to be handed to another process."""
        problem = replace(self.sets.problem, proofs=None, table=LinkTable())
        return replace(self, sets=replace(self.sets, problem=problem, _relaxations={}))

    @property
    def things(self) -> tuple[object, ...]:
        """What a seating names."""
        problem = self.sets.problem
        return (*problem.boxes, *problem.injectors, *problem.modules, *problem.trunks)

    @property
    def is_hard(self) -> bool:
        """Whether it is worth some milliseconds to have help, where a core is free for it.  The first pick that will
        do would be another with help."""
        problem = self.sets.problem
        alone = self.first_will_do or problem.chain_allowed or is_one_of_several()
        return not alone and self.seconds >= WORTH_IT_S and problem.drops * len(problem.boxes) >= WORTH_IT


@dataclass(frozen=True, eq=False)
class Part:
    """What a half came to: its best seating, whether that was dived for, and the bounds of what it did not settle."""

    best: Seating | None
    is_rough: bool
    unproven: tuple[int, ...]


Bounded = TypeVar("Bounded", Hubs, Star)

PartOf = Callable[[Task, Mark], Part]


@dataclass(frozen=True, eq=False)
class _Given:
    """What goes through the other half, with its task."""

    part: PartOf
    task: Task

    def __call__(self, mark: Mark) -> Part:
        return self.part(self.task, mark)


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

    def of_each(self, hubs: Iterable[Hubs]) -> Iterator[Hubs]:
        """Of hubs that are bounded together every second one: where such groups are few."""
        for some in hubs:
            mine = self.mine(some.stars)
            if mine:
                yield Hubs(mine[0].least, some.group, tuple(mine))

    @property
    def least(self) -> int | None:
        """The least that either half found."""
        return None if math.isinf(self.mark.least) else round(self.mark.least)


class OtherHalf:
    """The second half, that a helper goes through."""

    def __init__(self, helper: Helper, work: _Given) -> None:
        self._helper, self._work = helper, work
        self._is_over = False
        """Then the helper may be at something else."""

    def part(self, wait: bool = False) -> Part | None:
        """What it came to, once it is there; where the helper is gone, it is gone through here."""
        try:
            part = self._helper.heard()
            while wait and part is None:
                part = self._helper.heard(LOOK_EVERY_S, relay=True)
        except HelperGone:
            part = self._work(Mark(_Alone()))
        assert part is None or isinstance(part, Part)
        self._is_over = part is not None
        return part

    def let_go(self) -> None:
        """Nobody wants to know any more."""
        if not self._is_over:
            self._helper.let_go()


class _Alone:
    value = math.inf


@contextmanager
def halved(task: Task, part: PartOf, least: float) -> Iterator[tuple[Half, OtherHalf] | None]:
    """The first half, to be gone through here, and the second, that a helper goes through meanwhile; None: there is no
    help.  ``least``: the least that was found before."""
    work = _Given(part, task.bare) if task.is_hard else None
    helper = begun(work, task.things, least) if work else None
    if work is None or helper is None:
        yield None
        return
    other = OtherHalf(helper, work)
    try:
        yield Half(0, helper.mark), other
    finally:
        other.let_go()
