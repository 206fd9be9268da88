"""The least pick, proven: what is to be gone through, from what was proven before, and what is proven by it."""

from __future__ import annotations

from contextlib import nullcontext
from dataclasses import replace

from ..watch import is_one_of_several
from .branching import Branching
from .dominance import undominated
from .halves import Task
from .helping import Mark
from .outcomes import Searched, cost_of
from .problem import Problem, Weight
from .proofs import asked_of, leaves_no_tie
from .sets import Sets, pinned

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
    asked = None
    if problem.proofs and price_ceiling is None and not first_will_do and leaves_no_tie(problem):
        asked = asked_of(problem, weight, box_count)
    kept = undominated(problem.switches)
    listed = {*kept, *(box for _, base in cases for box in base)}
    switches = sorted(listed, key=lambda box: (-box.price_minor, box.index, box.most is None))
    pinned_roots = [root for root in problem.roots if root.model.key in problem.pins]
    roots = dict.fromkeys([*undominated(problem.roots), *undominated(pinned_roots)])
    problem = replace(problem, roots=tuple(roots), switches=tuple(switches))
    limit = TIME_LIMIT_S if seconds is None else seconds
    sets = Sets(problem, weight, cases, frozenset(kept), box_count, price_ceiling, limit)
    floor = ceiling = None
    if problem.proofs and asked:
        floor, ceiling = problem.proofs.floor(asked), problem.proofs.ceiling(asked)
        if floor and floor.cost is None:
            return Searched(None, True)
    task = Task(sets, first_will_do, limit, floor.cost if floor else None, ceiling, gap if sets.is_large else 0.0)
    searched = _made(task)
    if problem.proofs and asked and searched.certain:
        problem.proofs.keep(asked, cost_of(searched.found.seating, weight) if searched.found else None)
    return searched


def _made(task: Task) -> Searched:
    """Of several closets, one is searched by a helper, if there is one."""
    with task.elsewhere(_whole) if is_one_of_several() else nullcontext() as there:
        if there:
            searched = there.reply(wait=True)
            assert isinstance(searched, Searched)
            return searched
    return Branching(task).run()


def _whole(task: Task, mark: Mark) -> Searched:
    """The whole search in this process."""
    return Branching(task).run()
