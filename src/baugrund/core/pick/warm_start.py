"""A warm start: where the boxes that were best before an edit still bear the drops, they are the first incumbent."""

from __future__ import annotations

from collections.abc import Iterator

from .greedy import quick_seating
from .packing import Packing, hubs_of
from .problem import Problem
from .seating import Seating
from .sets import Sets, is_housed
from .supply import BoxType


def warm_start(sets: Sets) -> Iterator[Seating]:
    """Seatings in the boxes that the problem hints at, for every root that they may have."""
    problem, keys = sets.problem, sets.problem.hint
    pinned = all(keys.count(key) >= count for key, count in problem.pins.items())
    if not keys or not pinned or (sets.box_count is not None and sets.box_count != len(keys)):
        return
    for root in problem.roots:
        boxes = _boxes(problem, root) if root.model.key == keys[0] else None
        if boxes and is_housed(problem, boxes):
            seating = quick_seating(problem, boxes) or _packed(sets, boxes)
            if seating:
                yield seating


def _packed(sets: Sets, boxes: list[BoxType]) -> Seating | None:
    """A good seating around the first of the boxes that can be the hub."""
    for hub in hubs_of(sets.problem, boxes):
        packing = Packing(sets.problem, boxes, hub, sets.weight)
        seating = packing.quick() if packing.least is not None else None
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
