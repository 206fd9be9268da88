"""Boxes that are given: how they carry a demand, until which year, and what runs out first."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, replace

from ..demand.needs import Demand, Need
from ..standards.poe_classes import HIGHEST_CLASS
from .assignment.exact import assign
from .assignment.greedy import quick_seating, seating_as_before
from .assignment.preferred import assigned
from .bounds.capacities import Enough
from .bounds.link_class import link_classes
from .model.links import LinkTable
from .model.places import Before, TrunkEnds
from .model.problem import Problem, roots_of
from .model.seating import Seating
from .model.supply import BoxType, InjectorType, ModuleType


@dataclass(frozen=True)
class Boxes:
    """Boxes of one closet by catalogue key, the root first where it is known, and how many injectors and modules of
    each key are beside them."""

    boxes: tuple[str, ...]
    extras: tuple[tuple[str, int], ...] = ()
    before: Before | None = None
    """Where drops and links were in these boxes, if that is known."""
    uplink: TrunkEnds | None = None
    """Where the uplink of the closet ends, if that is known."""


Standing = Mapping[int, Boxes]
"""The boxes of every closet by its number."""


def models_in(standing: Standing) -> set[str]:
    """Keys of everything that stands anywhere."""
    return {key for boxes in standing.values() for key in (*boxes.boxes, *(key for key, _ in boxes.extras))}


@dataclass(frozen=True)
class Given:
    """A problem narrowed to boxes that are there, and every way in which one of them may be the root."""

    problem: Problem
    sets: tuple[tuple[BoxType, ...], ...]


def given(problem: Problem, boxes: Boxes) -> Given | None:
    """A problem narrowed to these boxes, injectors and modules; None when one of them is not to be had."""
    if not boxes.boxes:
        return None
    types: dict[str, BoxType] = {}
    for box in (*problem.switches, *(root for root in problem.roots if root.uplink is None)):
        types.setdefault(box.model.key, box)
    allowed = dict(boxes.extras)
    injectors: dict[str, InjectorType] = {}
    for injector in problem.injectors:
        if injector.model.key in allowed:
            injectors.setdefault(injector.model.key, replace(injector, most=allowed[injector.model.key]))
    modules: dict[str, ModuleType] = {}
    for module in problem.modules:
        if module.model.key in allowed:
            there = replace(module, most=allowed[module.model.key], price_minor=0)
            modules.setdefault(module.model.key, there)
    if any(key not in types for key in boxes.boxes):
        return None
    sets: list[tuple[BoxType, ...]] = []
    if problem.uplink is None:
        sets.append(tuple(types[key] for key in boxes.boxes))
    else:
        for root in roots_of(
            [types[key] for key in dict.fromkeys(boxes.boxes)], tuple(modules.values()), problem.uplink
        ):
            end = boxes.uplink
            if end is None or (root.model.key == boxes.boxes[0] and root.uplink and end.fits(0, root.uplink)):
                rest = list(boxes.boxes)
                rest.remove(root.model.key)
                sets.append((root, *(types[key] for key in rest)))
    if not sets:
        return None
    narrowed = replace(
        problem,
        roots=tuple(chosen[0] for chosen in sets),
        switches=tuple(dict.fromkeys(box for chosen in sets for box in chosen[1:])),
        injectors=tuple(injectors.values()),
        modules=tuple(modules.values()),
        pins={},
    )
    return Given(narrowed, tuple(sets))


def seat_in(given: Given, before: Before | None, demand: Demand) -> Seating | None:
    """The seating of a (narrowed) problem's drops in exactly these boxes; None when they do not bear them.

    With ``before`` drops keep their ports where they can, and the rest of the ``demand`` is fitted in; without, all sit
    as the selection names it.
    """
    problem = given.problem
    if before:
        for boxes in given.sets:
            kept = seating_as_before(problem, boxes, before, demand.all)
            if kept:
                return kept
    seating = any_seating(given)
    if seating is None or before:
        return seating
    return assigned(((problem, seating),), {demand.closet_id: demand}, keeps_extras=False)[0]


def bears(given: Given, before: Before | None, demand: Demand) -> bool:
    """Whether these boxes bear a (narrowed) problem's drops, as they sat ``before`` or otherwise."""
    if before and any(seating_as_before(given.problem, boxes, before, demand.all) for boxes in given.sets):
        return True
    return may_be_seated(given)


def may_be_seated(given: Given) -> bool:
    """Whether exactly these boxes bear a (narrowed) problem's drops, in any way.

    The program goes first: it rules a set out sooner than quick ways have all failed.
    """
    problem = given.problem
    enough = Enough(problem)
    unsettled = []
    for boxes in filter(enough, given.sets):
        packed = assign(problem, boxes, "price")
        if packed.seating:
            return True
        if not packed.proven:
            unsettled.append(boxes)
    return any(quick_seating(problem, boxes) for boxes in unsettled)


def any_seating(given: Given) -> Seating | None:
    """Some seating of a (narrowed) problem's drops in exactly these boxes; None when they do not bear them."""
    problem = given.problem
    enough = Enough(problem)
    sets = [boxes for boxes in given.sets if enough(boxes)]
    for boxes in sets:
        quick = quick_seating(problem, boxes)
        if quick:
            return quick
    for boxes in sets:
        packed = assign(problem, boxes, "price").seating
        if packed:
            return packed
    return None


PLENTY = 10**6
"""More of a limit than anything asks for."""


def shortages(given: Given) -> frozenset[str]:
    """Limits that, each raised alone, would let these boxes bear a (narrowed) problem.

    Some of *ports*, *powered*, *watts*, *uplink*.
    """

    def with_boxes(change: Callable[[BoxType], BoxType]) -> Given:
        changed = {box: change(box) for boxes in given.sets for box in boxes}
        sets = tuple(tuple(changed[box] for box in boxes) for boxes in given.sets)
        problem = replace(
            given.problem, roots=tuple(chosen[0] for chosen in sets), table=LinkTable(given.problem.fill_percent),
            switches=tuple(dict.fromkeys(box for chosen in sets for box in chosen[1:])),
        )  # fmt: skip
        return Given(problem, sets)

    def more_ports(box: BoxType) -> BoxType:
        ports = tuple(replace(port, count=port.count + PLENTY) for port in box.ports)
        return replace(box, ports=ports, ports_most=box.ports_most + PLENTY)

    def all_powered(box: BoxType) -> BoxType:
        ports = tuple(replace(port, poe_rank=HIGHEST_CLASS) for port in box.ports)
        return replace(box, ports=ports, powered_most=PLENTY)

    problem = given.problem
    quiet = replace(
        problem,
        needs=tuple(sorted(_added((replace(need, traffic_kbit=0), count) for need, count in problem.needs).items(),
                           reverse=True)),
        trunks=tuple(replace(trunk, traffic_kbit=0) for trunk in problem.trunks),
    )  # fmt: skip
    relaxed = {
        "ports": with_boxes(more_ports),
        "powered": with_boxes(all_powered),
        "watts": with_boxes(lambda box: replace(box, power_most_mw=PLENTY * 1000)),
        "uplink": Given(quiet, given.sets),
    }
    return frozenset(key for key, one in relaxed.items() if may_be_seated(one))


def _added(counts: Iterable[tuple[Need, int]]) -> Counter[Need]:
    total: Counter[Need] = Counter()
    for need, count in counts:
        total[need] += count
    return total


def first_year(bears: Callable[[int], bool], last: int) -> int | None:
    """First year in 0..last that is not borne, None when all are.  Demand only grows, so halving finds it."""
    low, high = 0, last + 1
    while low < high:
        middle = (low + high) // 2
        if bears(middle):
            low = middle + 1
        else:
            high = middle
    return None if low > last else low


def first_short(given: Given) -> str:
    """Which limit of these boxes a (narrowed) problem exceeds first, in words."""
    problem, boxes = given.problem, given.sets[0]
    ends = 2 * (len(boxes) - 1) + sum(trunk.ends for trunk in problem.trunks)
    slots = sum(box.slot_count for box in boxes) if problem.modules else 0
    if sum(port.count for box in boxes for port in box.ports) < problem.drops + max(0, ends - slots):
        return "ports"
    injected = sum(injector.most or 0 for injector in problem.injectors)
    powered = sum(count for need, count in problem.needs if need.poe_rank)
    if sum(box.model.powered_count for box in boxes) + injected < powered:
        return "powered ports"
    drawn = sum(sorted(problem.powers_down)[: max(0, len(problem.powers_down) - injected)])
    if sum(box.power_most_mw for box in boxes) < drawn:
        return "watts"
    for poe_rank in sorted({need.poe_rank for need, _ in problem.needs if need.poe_rank}):
        asked = sum(count for need, count in problem.needs if need.poe_rank >= poe_rank)
        if sum(box.ports_with(0, poe_rank) for box in boxes) + injected < asked:
            return f"ports of class {poe_rank}"
    for speed in sorted({need.speed_mbit for need, _ in problem.needs}):
        asked = sum(count for need, count in problem.needs if need.speed_mbit >= speed)
        if sum(box.ports_with(speed, 0) for box in boxes) < asked:
            return "fast ports"
    overfull = [
        trunk for trunk in (*problem.trunks, problem.uplink) if trunk and trunk.traffic_kbit > trunk.carries_kbit
    ]
    return "uplinks" if overfull or not link_classes(problem) else "suitable ports for drops and links"
