"""Cords inside a closet: which things they join, how many, and how long they are by where those stand."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Sequence
from typing import Literal, NamedTuple

from ..facts.fact import Fact
from ..facts.project import Project
from ..standards.stack import CORD_SLACK_M, CORDS_M, UNIT_MM
from ..standing.ground import Ground
from .things import Thing

Medium = Literal["copper", "fibre-multimode", "fibre-singlemode"]


class Cords(NamedTuple):
    """So many cords of one medium between two things."""

    one: str
    other: str
    many: int
    medium: Medium = "copper"


class CordLine(Fact):
    """Cords of one stock length between two things."""

    one: str
    other: str
    count: int
    units: float
    """Between their middles."""
    length_m: float
    """The stock length; of more than the longest stock the length itself."""
    medium: Medium = "copper"


def cords_of(project: Project, ground: Ground | None, things: Sequence[Thing]) -> tuple[Cords, ...]:
    """Cords between panels and boxes, boxes and boxes, boxes and what else is networked in the closet.

    Drops end on the panels in the order of the list, each as full as it is; without a panel cable ends in the box.
    """
    if ground is None or not ground.boxes:
        return ()
    boxes = [thing.key for thing in things if thing.box is not None]
    own = {thing.drop_id: thing.key for thing in things if thing.drop_id is not None}
    found: Counter[tuple[str, str, Medium]] = Counter()
    position = _positions(things)
    seat = {place.drop_id: place.box for place in ground.places if place.drop_id is not None}
    for drop in project.drops_by_closet[ground.closet.id]:
        if drop.id not in seat:
            continue
        if drop.id in own:
            found[own[drop.id], boxes[seat[drop.id]], "copper"] += 1
        elif (panel := next(position, None)) is not None:
            found[panel, boxes[seat[drop.id]], "copper"] += 1
    if ground.seating:
        for link in ground.seating.links:
            module = link.option.upper.module
            found[boxes[link.upper], boxes[link.lower], module.model.medium if module else "copper"] += 1
    if ground.closet is project.head_end:
        for thing in things:
            if thing.kind == "provider_box":
                found[thing.key, boxes[0], "copper"] += 1
    return tuple(Cords(one, other, many, medium) for (one, other, medium), many in found.items())


def past_the_panels(project: Project, ground: Ground | None, things: Sequence[Thing]) -> int:
    """Cords of runs that end on panel jacks for which no panel of the closet has a position."""
    if ground is None or not ground.boxes or project.settings.termination != "panel":
        return 0
    own = {thing.drop_id for thing in things}
    seated = sum(place.drop_id is not None and place.drop_id not in own for place in ground.places)
    return max(0, seated - sum(thing.positions for thing in things if thing.kind == "panel"))


def _positions(things: Sequence[Thing]) -> Iterator[str]:
    for thing in things:
        if thing.kind == "panel":
            yield from [thing.key] * thing.positions


def length_m(units: float) -> float:
    """The stock length that bridges so many units with its slack; over the longest as long as it must be [m]."""
    needed = units * UNIT_MM / 1000 + CORD_SLACK_M
    return next((stock for stock in CORDS_M if stock >= needed - 1e-9), round(needed, 2))
