"""Boxes that are given: how they carry a demand, until which year, and what runs out first."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from ..demand import Asked
from .bounds import link_classes
from .greedy import quick_seating, seating_as_before
from .hubs import least_star_price
from .packing import pack
from .places import Before
from .problem import BoxType, InjectorType, ModuleType, Problem
from .seating import Seating


@dataclass(frozen=True)
class Boxes:
    """Boxes by catalogue key, router first, and how many injectors and modules of each key are beside them."""

    boxes: tuple[str, ...]
    extras: tuple[tuple[str, int], ...] = ()
    before: Before | None = None
    """Where drops and links were in these boxes, if that is known."""


def given(problem: Problem, boxes: Boxes) -> tuple[Problem, tuple[BoxType, ...]] | None:
    """A problem narrowed to these boxes and injectors, and the boxes in it; None when one is not to be had."""
    types: dict[str, BoxType] = {}
    for box in (*problem.routers, *problem.switches):
        types.setdefault(box.model.key, box)
    if any(key not in types for key in boxes.boxes):
        return None
    chosen = tuple(types[key] for key in boxes.boxes)
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
    narrowed = replace(
        problem,
        routers=chosen[:1],
        switches=tuple(dict.fromkeys(chosen[1:])),
        injectors=tuple(injectors.values()),
        modules=tuple(modules.values()),
        pins={},
    )
    return narrowed, chosen


def seat_in(
    problem: Problem, boxes: Sequence[BoxType], before: Before | None = None, asked: Sequence[Asked] = ()
) -> Seating | None:
    """A seating of a (narrowed) problem's drops in exactly these boxes; None when they do not bear them.

    With ``before`` drops keep their ports where they can, and the rest of ``asked`` is fitted in.
    """
    if not boxes:
        return None
    quick = seating_as_before(problem, boxes, before, asked) if before else None
    quick = quick or quick_seating(problem, boxes)
    if quick:
        return quick
    return pack(problem, boxes, "price").seating if _might_bear(problem, boxes) else None


def _might_bear(problem: Problem, boxes: Sequence[BoxType]) -> bool:
    """Whether sums and links leave it open that these boxes bear a (narrowed) problem's drops; quick."""
    groups = link_classes(problem)
    if not groups:
        return False
    return problem.chain_allowed or least_star_price(groups[0], boxes) is not None


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


def first_short(problem: Problem, boxes: Sequence[BoxType]) -> str:
    """Which limit of these boxes a (narrowed) problem exceeds first, in words."""
    links = len(boxes) - 1
    slots = sum(count for box in boxes for count, _ in box.slots) if problem.modules else 0
    if sum(box.model.port_count for box in boxes) + slots < problem.drops + 2 * links:
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
    return "uplinks" if not link_classes(problem) else "drops and links together"
