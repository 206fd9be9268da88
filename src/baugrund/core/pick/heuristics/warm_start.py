"""A warm start: where the boxes that were best before an edit still bear the drops, they are the first incumbent."""

from __future__ import annotations

from collections.abc import Iterator

from ..assignment.exact import Assignment, centres_of
from ..assignment.greedy import quick_seating
from ..enumeration.nodes import Space, is_housed
from ..model.problem import Problem
from ..model.seating import Seating
from ..model.supply import BoxType


def warm_start(space: Space) -> Iterator[Seating]:
    """Seatings in the boxes that the problem hints at, for every root that they may have."""
    problem, keys = space.problem, space.problem.hint
    pinned = all(keys.count(key) >= count for key, count in problem.pins.items())
    if not keys or not pinned or (space.box_count is not None and space.box_count != len(keys)):
        return
    for root in problem.roots:
        boxes = _boxes(problem, root) if root.model.key == keys[0] else None
        if boxes and is_housed(problem, boxes):
            seating = quick_seating(problem, boxes) or _packed(space, boxes)
            if seating:
                yield seating


def _packed(space: Space, boxes: list[BoxType]) -> Seating | None:
    """A good seating around the first of the boxes that can be the centre."""
    for centre in centres_of(space.problem, boxes):
        assignment = Assignment(space.problem, boxes, centre, space.weight)
        seating = assignment.quick() if assignment.least is not None else None
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
