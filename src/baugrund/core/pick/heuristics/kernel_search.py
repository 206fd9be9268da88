"""A first pick of many boxes: the best of those few that promise most.

What one more of a box adds to the bound tells how likely it is in the best pick; where a search goes through a few
boxes only, it is soon through, and its best is rarely far from that of all.

References
----------
.. [1] Balas, Zemel: An algorithm for large zero-one knapsack problems (1980): the core of a problem.
.. [2] Angelelli, Mansini, Speranza: Kernel search (2010).
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from ..enumeration.nodes import Space, Task
from ..model.supply import BoxType

FEW = 12
"""So many roots, and so many switches, of those that promise most."""
SHARE = 0.7
"""Share of the time that it may take."""
GAP = 0.005
"""How much dearer than the best of the few its pick may be."""


def kernel(task: Task, best: int | None) -> Task | None:
    """A search for a good pick among a few boxes, with all that is pinned; None: there are no more, or any pick will
    do.  ``best``: what a pick costs that is known.
    """
    space = task.space
    if task.first_will_do or space.are_few_of_many or not space.is_large:
        return None
    problem, least = space.problem, _least_with(space)
    pinned = {box for _, base in space.cases for box in base}

    def few(boxes: Iterable[BoxType]) -> tuple[BoxType, ...]:
        promising = {*sorted(filter(least.__contains__, boxes), key=least.__getitem__)[:FEW]} | pinned
        return tuple(box for box in boxes if box in promising)

    roots, switches = few(problem.roots), few(problem.switches)
    if not roots or len(roots) + len(switches) == len(problem.boxes):
        return None
    fewer = replace(
        space,
        problem=replace(problem, roots=roots, switches=switches),
        are_few_of_many=True,
        _relaxations={},
        _constructions={},
    )
    if best is not None and space.weight == "price":
        fewer = replace(fewer, price_ceiling=min(best, space.price_ceiling or best))
    return replace(task, space=fewer, seconds=SHARE * task.seconds, gap=GAP, roughly=True)


def _least_with(space: Space) -> dict[BoxType, float]:
    """What any pick with each box in it costs at least; those that are in none are left out."""
    least: dict[BoxType, float] = {}
    for relaxation in space.whole_relaxations():
        for node in space.starts(relaxation, {}):
            bound = relaxation.bound(node.least, node.most)
            for box, adds in zip(relaxation.boxes, bound.adds.tolist() if bound else (), strict=False):
                assert bound is not None
                least[box] = min(bound.least + adds, least.get(box, bound.least + adds))
    return least
