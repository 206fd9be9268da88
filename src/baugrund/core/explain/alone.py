"""What a box would do alone in a closet, or in place of the one taken; and what it lacks to do so."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Iterator
from dataclasses import dataclass
from functools import cached_property

from ..facts.lines.router import Router
from ..facts.project import Project
from ..pick.assignment.exact import assign
from ..pick.assignment.greedy import quick_seating
from ..pick.bounds.capacities import Enough
from ..pick.bounds.link_class import roots_by_rate
from ..pick.enumeration.nodes import is_housed
from ..pick.model.problem import Problem
from ..pick.model.supply import BoxType
from ..pick.presolve.dominance import undominated
from ..pick.site import Site
from ..words import counted, speed, watts
from .answers import Answer


@dataclass(frozen=True)
class Judged:
    """Whether a model does the work of a closet alone (a router: with the answer's switches), and what it lacks."""

    fits: bool
    sentence: str
    nearness: float = 0.0


class Alone:
    """One closet, and what stands there in an answer."""

    def __init__(self, project: Project, site: Site, problem: Problem, answer: Answer) -> None:
        self.problem = problem
        self._there = project.closets_by_id[problem.closet_id].name
        self._of = f" in {self._there}" if len(site.closets) > 1 else ""
        self._taken = [fill.model for fill in answer.boxes[1:] if fill.closet_id == problem.closet_id]
        self._switches = {switch.model.key: switch for switch in problem.switches}
        self._roots = undominated(problem.roots)
        self._types: dict[str, list[BoxType]] = {}
        for box in problem.boxes:
            self._types.setdefault(box.model.key, []).append(box)
        self._enough = Enough(problem)

    def judged(self, key: str) -> Judged:
        """Whether a box does the work of the closet alone (a router: in place of the one taken); exact, unless its
        seats are not settled in time, when it counts as one that does not."""
        types = self._types.get(key, [])
        box = min(types, key=lambda one: (one.most is not None, one.uplink is not None), default=None)
        if box is None:
            return Judged(False, f"The link that feeds {self._there} cannot end in it.")
        sets: Iterable[tuple[BoxType, ...]]
        if isinstance(box.model, Router):
            known = all(one in self._switches for one in self._taken)
            sets = [(box, *(self._switches[one] for one in self._taken))] if known else []
            with_it = "with the same switches"
        elif self.problem.uplink is None:
            sets = ((router, box) for router in self._roots)
            with_it = "as the only switch"
        else:
            sets = ((root,) for root in types if root.uplink is not None)
            with_it = "as the only switch"
        nearness = _nearness(self.problem, box)
        if any(self._bear(boxes) for boxes in sets):
            return Judged(True, f"Fits{self._of} {with_it}", nearness)
        told = "Has ports, watts and speed enough, but not with the links and the housing of this closet."
        sentence = next(_shortfalls(self.problem, box, self._links_suffice), told)
        if self._of:
            sentence = f"{self._there}: {sentence[0].lower()}{sentence[1:]}"
        return Judged(False, sentence, nearness)

    def _bear(self, boxes: tuple[BoxType, ...]) -> bool:
        """Whether these boxes stand in the housing and bear all drops."""
        if not is_housed(self.problem, boxes) or not self._enough(boxes):
            return False
        if quick_seating(self.problem, boxes):
            return True
        return assign(self.problem, boxes, "price").seating is not None

    @cached_property
    def _links_suffice(self) -> frozenset[BoxType]:
        return frozenset(root for roots in roots_by_rate(self.problem).values() for root in roots)


def _nearness(problem: Problem, box: BoxType) -> float:
    """How much of the closet's work a box would do alone: the least of its shares of ports, powered ports, watts."""
    powered, watts_asked = len(problem.powers_down), sum(problem.powers_down)
    shares = [
        min(there, wanted) / wanted
        for there, wanted in (
            (box.ports_most, problem.drops), (box.powered_most, powered), (box.power_most_mw, watts_asked),
        )
        if wanted
    ]  # fmt: skip
    return round(min(shares, default=0.0), 3)


def _shortfalls(problem: Problem, box: BoxType, links_suffice: Collection[BoxType]) -> Iterator[str]:
    """What a box alone lacks, the plainest first, counting what the largest router could take off it.

    ``links_suffice``: roots whose links carry the traffic.
    """
    if isinstance(box.model, Router):
        if box not in links_suffice:
            yield (
                f"Its links carry too little: {problem.traffic_kbit / 1000:,.0f} Mbit/s arrive at the busy hour, "
                f"and a link is filled to {problem.fill_percent} % at most."
            )
        yield "Does not fit with the switches of this pick."
        return
    powered = [(need, count) for need, count in problem.needs if need.poe_rank]
    asked = sum(count for _, count in powered)
    cap = max((port.poe_rank for port in box.ports), default=0)
    above = sum(count for need, count in powered if need.poe_rank > cap)
    if powered and not cap:
        yield f"No powered port, {asked} needed."
    if above:
        yield f"{counted(above, 'drop')} need a class above {cap}; its ports give no more."
    if box.model.powered_count < asked:
        yield f"{counted(box.model.powered_count, 'powered port')}, {asked} needed."
    drawn = sum(need.power_mw * count for need, count in powered)
    if box.power_most_mw < drawn:
        share = 1 + problem.margin_percent / 100
        yield f"{watts(drawn * share)} are asked with margin, {watts(box.model.poe_budget_mw)} are there."
    fastest = max((port.speed_mbit for port in box.ports), default=0)
    faster = sum(count for need, count in problem.needs if need.speed_mbit > fastest)
    if faster:
        yield f"{counted(faster, 'drop')} ask more than its ports' {speed(fastest)}."
    for need, _ in problem.needs:
        wanted = sum(c for n, c in problem.needs if n.poe_rank >= need.poe_rank and n.speed_mbit >= need.speed_mbit)
        there = box.ports_with(need.speed_mbit, need.poe_rank)
        if need.poe_rank and there < wanted:
            yield (f"{counted(there, 'port')} of class {need.poe_rank} at {speed(need.speed_mbit)}, {wanted} needed.")
    if box.model.port_count < problem.drops:
        yield f"{counted(box.model.port_count, 'port')} beside the router's, {problem.drops} drops to carry."
