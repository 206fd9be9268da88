"""The least pick, proven: the configurations that are to be gone through."""

from __future__ import annotations

from dataclasses import replace

from ..enumeration.nodes import Space, Task, pinned
from ..model.outcomes import Searched
from ..model.problem import Problem, Weight
from ..presolve.dominance import undominated
from .branch_and_bound import Branching

TIME_LIMIT_S = 20.0
"""A search not settled by then returns its best with the bound that it reached, and says so."""


def search(
    problem: Problem,
    weight: Weight,
    *,
    box_count: int | None = None,
    price_ceiling: int | None = None,
    first_will_do: bool = False,
    seconds: float | None = None,
    gap: float = 0.0,
) -> Searched:
    """The least feasible pick under a weight, if there is one.

    ``box_count`` asks for exactly so many boxes; ``price_ceiling`` [minor], under price alone, for no dearer ones;
    ``first_will_do`` stops at the first feasible pick (to see whether there is any); ``seconds`` is the time that it
    may take; ``gap``: of many boxes, how much dearer than its bound, as a share, the pick may be to be good enough.
    """
    cases = pinned(problem)
    if not cases:
        return Searched(None, True)
    kept = undominated(problem.switches)
    listed = {*kept, *(box for _, base in cases for box in base)}
    switches = sorted(listed, key=lambda box: (-box.price_minor, box.index, box.most is None))
    pinned_roots = [root for root in problem.roots if root.model.key in problem.pins]
    roots = dict.fromkeys([*undominated(problem.roots), *undominated(pinned_roots)])
    problem = replace(problem, roots=tuple(roots), switches=tuple(switches))
    limit = TIME_LIMIT_S if seconds is None else seconds
    space = Space(problem, weight, cases, frozenset(kept), box_count, price_ceiling, limit)
    return Branching(Task(space, first_will_do, limit, gap if space.is_large else 0.0)).run()
