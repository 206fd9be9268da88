"""Boxes of cable are never spliced: runs cut from as few boxes as can be, a bin packing.

Bounds and heuristics settle nearly every list at once; what is left open goes to an integer program over the ways to
fill one box (Gilmore and Gomory), solved exactly by OR-Tools' CP-SAT.

References
----------
.. [1] S. Martello, P. Toth, *Knapsack Problems*, 1990, chapter 8: the bound L2.
.. [2] J. N. D. Gupta, J. C. Ho, minimum bin slack, 1999.
"""

from __future__ import annotations

import math
from bisect import bisect_left, insort
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

from ortools.sat.python import cp_model

STEP_M = 0.5
"""Runs are cut up to the next half metre."""
EXACT_MOST = 200
"""So many runs of a type are packed exactly; beyond, the bound is told."""
SECONDS = 10.0
SLACK_STEPS = 20_000
LISTS_KEPT = 512


@dataclass(frozen=True)
class Packed:
    """Boxes with the numbers of the runs cut from each, and what no packing can be under."""

    boxes: tuple[tuple[int, ...], ...]
    bound: int

    @property
    def proven(self) -> bool:
        return len(self.boxes) == self.bound


def steps(length_m: float) -> int:
    """A length in half metres, rounded up."""
    return math.ceil(length_m / STEP_M - 1e-9)


def pack(lengths_m: Sequence[float], box_m: float) -> Packed:
    """Runs, by their place in the list, on boxes of one length.  Raises ValueError for a run longer than a box."""
    size = math.floor(box_m / STEP_M + 1e-9)
    items = tuple(steps(length) for length in lengths_m)
    if any(item > size for item in items):
        raise ValueError(f"a run of {max(lengths_m):g} m is longer than a box of {box_m:g} m")
    return _packed(items, size) if items else Packed((), 0)


@lru_cache(maxsize=LISTS_KEPT)
def _packed(items: tuple[int, ...], size: int) -> Packed:
    """Runs in half metres; the last lists are kept, for most edits leave the lengths of most cables."""
    order = sorted(range(len(items)), key=lambda number: (-items[number], number))
    bound = lower_bound([items[number] for number in order], size)
    best = min((_best_fit(order, items, size), _least_slack(order, items, size)), key=len)
    if len(best) > bound and len(items) <= EXACT_MOST:
        better, bound = _exact(order, items, size, len(best), bound)
        best = better or best
    return Packed(tuple(tuple(box) for box in best), bound)


def lower_bound(items: Sequence[int], size: int) -> int:
    """The bound L2 of Martello and Toth [1]_: what is over half a box stands alone, small ones fill what is beside."""
    counts = sorted(Counter(items).items())
    best = -(-sum(items) // size)
    for limit in [0, *(item for item, _ in counts if 2 * item <= size)]:
        alone = sum(count for item, count in counts if item > size - limit)
        half = [(item, count) for item, count in counts if size - limit >= item and 2 * item > size]
        small = sum(item * count for item, count in counts if 2 * item <= size and item >= limit)
        left = sum((size - item) * count for item, count in half)
        best = max(best, alone + sum(count for _, count in half) + max(0, -(-(small - left) // size)))
    return best


def _best_fit(order: Sequence[int], items: Sequence[int], size: int) -> list[list[int]]:
    boxes: list[list[int]] = []
    left: list[tuple[int, int]] = []
    """What is left of each box and its number, in rising order."""
    for number in order:
        at = bisect_left(left, (items[number], 0))
        rest, box = left.pop(at) if at < len(left) else (size, len(boxes))
        if box == len(boxes):
            boxes.append([])
        boxes[box].append(number)
        insort(left, (rest - items[number], box))
    return boxes


def _least_slack(order: Sequence[int], items: Sequence[int], size: int) -> list[list[int]]:
    """Box by box the filling with the least rest, the longest run left always in it [2]_."""
    left: dict[int, list[int]] = {}
    """Runs that are left by their length, the longest first; of equal ones the first is the last."""
    for number in reversed(order):
        left.setdefault(items[number], []).append(number)
    left = {item: left[item] for item in sorted(left, reverse=True)}
    boxes = []
    while left:
        first = next(iter(left))
        counts = [(item, len(numbers) - (item == first)) for item, numbers in left.items()]
        boxes.append([left[item].pop() for item in (first, *_fullest(counts, size - first))])
        left = {item: numbers for item, numbers in left.items() if numbers}
    return boxes


def _fullest(counts: Sequence[tuple[int, int]], room: int) -> list[int]:
    """Of lengths in falling order, so many of each, those that fill the room best; the search is cut off after
    ``SLACK_STEPS``."""
    best: list[int] = []
    best_rest = room
    tried = 0
    lengths = [-item for item, _ in counts]

    def look(place: int, used: int, rest: int, chosen: list[int]) -> None:
        """``used``: how many of the length at the place are chosen."""
        nonlocal best, best_rest, tried
        tried += 1
        if rest < best_rest:
            best, best_rest = list(chosen), rest
        if best_rest == 0 or tried > SLACK_STEPS:
            return
        for at in range(max(place, bisect_left(lengths, -rest)), len(counts)):
            item, count = counts[at]
            taken = used if at == place else 0
            if taken < count:
                chosen.append(item)
                look(at, taken + 1, rest - item, chosen)
                chosen.pop()
                if best_rest == 0 or tried > SLACK_STEPS:
                    return

    look(0, 0, room, [])
    return best


def _exact(
    order: Sequence[int], items: Sequence[int], size: int, known: int, bound: int
) -> tuple[list[list[int]] | None, int]:
    """Whether fewer boxes do: runs of equal length counted per box, fuller boxes first."""
    counts = Counter(items[number] for number in order)
    while bound < known:
        model = cp_model.CpModel()
        put = {
            (item, box): model.new_int_var(0, min(count, size // item), f"{item}_{box}")
            for item, count in counts.items()
            for box in range(bound)
        }
        for item, count in counts.items():
            model.add(sum(put[item, box] for box in range(bound)) == count)
        loads = [sum(item * put[item, box] for item in counts) for box in range(bound)]
        for box, load in enumerate(loads):
            model.add(load <= size)
            if box:
                model.add(load <= loads[box - 1])
        solver = cp_model.CpSolver()
        solver.parameters.max_time_in_seconds = SECONDS
        solver.parameters.num_workers = 1
        solver.parameters.random_seed = 1
        answer = solver.solve(model)
        if answer in (cp_model.OPTIMAL, cp_model.FEASIBLE):
            waiting: dict[int, list[int]] = {}
            for number in reversed(order):
                waiting.setdefault(items[number], []).append(number)
            return [
                [waiting[item].pop() for item in counts for _ in range(solver.value(put[item, box]))]
                for box in range(bound)
            ], bound
        if answer != cp_model.INFEASIBLE:
            return None, bound
        bound += 1
    return None, bound
