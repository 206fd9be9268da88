"""Power-up and overload drill, simulated: which devices a box feeds, in which order, and which it must refuse.

Devices ask one after another, those of higher priority first, then in the order of their ports.  One that asks for
more than is left is refused, and the next is asked.  A box sets aside what a device draws, or what its class reserves.
When a supply is lost, devices are shed from the last one on until what is left suffices.

References
----------
.. [1] IEEE Std 802.3-2022, clause 145: power allocation at classification and by the data link layer.
.. [2] ANSI/TIA-1057: port priority critical, high, low.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..demand.needs import Need
from ..facts.drop import PRIORITIES, Priority
from ..facts.lines.box import Allocation
from ..facts.project import Project
from ..pick.model.places import Place
from ..standards.poe_classes import reserved_w
from .ground import Ground


@dataclass(frozen=True)
class Ask:
    """One device that asks for watts at its port [W]; those in reserve have no number."""

    drop_id: int | None
    kind: str
    priority: Priority
    watts: float


@dataclass(frozen=True)
class Answered:
    """What came of it: whether it is fed, and what the box gives in all after it [W]."""

    ask: Ask
    fed: bool
    given_w: float


@dataclass(frozen=True)
class LostSupply:
    """What is left without one supply [W], and who is shed, the first one first."""

    supply_w: float
    left_w: float
    shed: tuple[Ask, ...]


@dataclass(frozen=True)
class Drill:
    """A box coming up, and losing each of its supplies in turn."""

    closet_id: int
    name: str
    budget_w: float
    allocation: Allocation | None
    """How the box sets watts aside; None: its line does not say, and what its devices draw is taken."""
    steps: tuple[Answered, ...]
    by_class: tuple[Answered, ...]
    """The same, were what each class reserves set aside."""
    lost: tuple[LostSupply, ...]


def power_up(asks: Sequence[Ask], budget_w: float) -> tuple[Answered, ...]:
    """Devices come up by priority, then in their order, under a budget [W]."""
    given, steps = 0.0, []
    for ask in sorted(asks, key=lambda ask: PRIORITIES.index(ask.priority)):
        fed = given + ask.watts <= budget_w + 1e-9
        given += ask.watts if fed else 0.0
        steps.append(Answered(ask, fed, round(given, 3)))
    return tuple(steps)


def shed(steps: Sequence[Answered], left_w: float) -> tuple[Ask, ...]:
    """Who goes when only so many watts are left: those fed last first, until the rest suffices."""
    fed = [step.ask for step in steps if step.fed]
    given, gone = sum(ask.watts for ask in fed), []
    while fed and given > left_w + 1e-9:
        last = fed.pop()
        given -= last.watts
        gone.append(last)
    return tuple(gone)


def drills(
    project: Project, grounds: Sequence[Ground], *, with_reserve: bool, budget_w: float | None = None
) -> tuple[Drill, ...]:
    """The drill of every box with a budget, with the drops of today or those of the horizon on it.

    ``budget_w`` stands in for the budget of every box: what if it were that much.  Watts are those at the port by the
    project's school, without the margin: they are what the device asks for.
    """
    found = []
    for ground in grounds:
        for number, box in enumerate(ground.boxes if ground.seating else ()):
            if not box.poe_budget_w:
                continue
            budget = box.poe_budget_w if budget_w is None else budget_w
            by_draw, by_class = (
                power_up(_asks(project, ground, number, with_reserve, by), budget) for by in ("draw", "class")
            )
            steps = by_class if box.poe_allocation == "class" else by_draw
            lost = []
            for supply, gives in enumerate(box.supplies_w if len(box.supplies_w) > 1 else ()):
                left = box.budget_without_w(supply)
                lost.append(LostSupply(gives, left, shed(steps, left)))
            allocation = box.poe_allocation
            found.append(Drill(ground.closet.id, box.name, budget, allocation, steps, by_class, tuple(lost)))
    return tuple(found)


def _asks(project: Project, ground: Ground, number: int, with_reserve: bool, by: Allocation) -> list[Ask]:
    """What the devices on a box ask for, port group by port group: what they draw, or what is reserved for their class
    at a port of that type [1]_."""
    needs = {asked.drop_id: asked.need for asked in ground.then.live}
    typical = {asked.kind: asked.need for asked in ground.then.reserve}
    assert ground.seating is not None
    ports = ground.seating.boxes[number].ports

    def watts(need: Need, place: Place, poe_class: int | None) -> float:
        if by == "draw":
            return need.power_mw / 1000
        return reserved_w(need.poe_rank if poe_class is None else poe_class, ports[place.port].poe_rank)

    def ask(place: Place) -> Ask:
        if place.drop_id is None:
            return Ask(None, place.kind, "low", watts(typical[place.kind], place, None))
        drop = project.drops_by_id[place.drop_id]
        return Ask(drop.id, drop.kind, drop.priority, watts(needs[drop.id], place, project.port_class(drop)))

    here = [place for place in ground.places if place.box == number and place.powered]
    live = [place for place in here if not place.in_reserve]
    reserve = [place for place in here if place.in_reserve] if with_reserve else []
    return [ask(place) for place in (*live, *reserve)]
