"""The best boxes of before an edit: where they still bear the drops, they bound the search from its first moment."""

from __future__ import annotations

from .greedy import quick_seating
from .problem import Problem
from .seating import Seating
from .sets import Sets, is_housed
from .supply import BoxType


def seating_as_hinted(sets: Sets) -> Seating | None:
    """A seating in the boxes that the problem hints at; None when they are not to be had or do not bear it."""
    problem = sets.problem
    keys = problem.hint
    pinned = all(keys.count(key) >= count for key, count in problem.pins.items())
    if not keys or not pinned or (sets.box_count is not None and sets.box_count != len(keys)):
        return None
    for root in problem.roots:
        boxes = _boxes(problem, root) if root.model.key == keys[0] else None
        seating = quick_seating(problem, boxes) if boxes and is_housed(problem, boxes) else None
        if seating:
            return seating
    return None


def _boxes(problem: Problem, root: BoxType) -> list[BoxType] | None:
    """The hinted boxes with this root, owned copies first; None: one of them is not there, or not so often."""
    boxes = [root]
    for key in problem.hint[1:]:
        able = [box for box in problem.switches if box.model.key == key]
        able.sort(key=lambda box: box.most is None)
        taken = [box.stock for box in boxes]
        box = next((box for box in able if box.most is None or taken.count(box.stock) < box.most), None)
        if box is None:
            return None
        boxes.append(box)
    return boxes
