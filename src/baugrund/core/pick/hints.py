"""The best boxes of before an edit: where they still bear the drops, they bound the search from its first moment."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import nullcontext

from .greedy import FIRSTS, quick_seating
from .halves import Task
from .helping import Mark
from .packing import Packing, hubs_of, pack
from .problem import Problem
from .seating import Seating
from .sets import Sets, is_housed
from .supply import BoxType


def seatings_as_hinted(task: Task) -> Iterator[Seating]:
    """Seatings in the boxes of before: quick ones, then good ones, if somebody still asks for them; these are found by
    a helper, if there is one, and the hubs of the search meanwhile."""
    hinted, greedy = [*_hinted(task.sets)], False
    for boxes in hinted:
        seating = quick_seating(task.sets.problem, boxes, FIRSTS[:1])
        if seating:
            greedy = True
            yield seating
    if not hinted or (greedy and task.floor is None):
        return
    with task.elsewhere(_well_seated) if task.has_halves else nullcontext() as there:
        if there:
            _ = task.sets.hubs
        yield from there.reply(wait=True) if there else _well_seated(task)


def _well_seated(task: Task, mark: Mark | None = None) -> list[Seating]:
    """Good seatings in the boxes of before; where it is known what no pick can be better than, as good ones."""
    sets, found = task.sets, []
    for boxes in _hinted(sets):
        if task.floor:
            # more is asked than before: most often they cannot bear it at all
            if not any(_packing(sets, boxes, hub).least is not None for hub in hubs_of(sets.problem, boxes)):
                continue
            packed = pack(sets.problem, boxes, sets.weight, task.floor[0]).seating
            found.append(packed or quick_seating(sets.problem, boxes))
        else:
            found.append(quick_seating(sets.problem, boxes) or _packed(sets, boxes))
    return [seating for seating in found if seating]


def _hinted(sets: Sets) -> Iterator[list[BoxType]]:
    """The boxes that the problem hints at, for every root that they may have, as far as they are to be had."""
    problem = sets.problem
    keys = problem.hint
    pinned = all(keys.count(key) >= count for key, count in problem.pins.items())
    if not keys or not pinned or (sets.box_count is not None and sets.box_count != len(keys)):
        return
    for root in problem.roots:
        boxes = _boxes(problem, root) if root.model.key == keys[0] else None
        if boxes and is_housed(problem, boxes):
            yield boxes


def _packed(sets: Sets, boxes: list[BoxType]) -> Seating | None:
    """A good seating around the first of the boxes that can be the hub."""
    for hub in hubs_of(sets.problem, boxes):
        packing = _packing(sets, boxes, hub)
        seating = packing.quick() if packing.least is not None else None
        if seating:
            return seating
    return None


def _packing(sets: Sets, boxes: list[BoxType], hub: int | None) -> Packing:
    return Packing(sets.problem, boxes, hub, sets.weight)


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
