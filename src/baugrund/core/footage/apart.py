"""What was chosen apart from the pick: cameras with lens and bracket, access points, recorders, disks, what stands in
closets; what they are on the price lists, and what they cost."""

from __future__ import annotations

import math
from collections import Counter

from ..facts.catalogue import Catalogue
from ..facts.fact import Fact
from ..facts.lines.bracket import Bracket
from ..facts.project import Project


class ApartLine(Fact):
    """A line of the price lists that is bought beside the boxes of the pick."""

    model: str
    name: str
    kind: str
    quantity: int
    price_minor: int
    total_minor: int


def chosen_apart(project: Project, catalogue: Catalogue) -> tuple[ApartLine, ...]:
    """Every line that a drop says it is or hangs from; those that are on no list any more cost nothing here."""
    count = _models(project, catalogue)
    lines = ((catalogue.get(key), quantity) for key, quantity in count.items())
    return tuple(
        ApartLine(
            model=line.key, name=line.name, kind=line.kind, quantity=quantity, price_minor=line.price_minor,
            total_minor=line.price_of(quantity),
        )
        for line, quantity in lines
        if line
    )  # fmt: skip


def _models(project: Project, catalogue: Catalogue) -> Counter[str]:
    """How many of each line: a lens a camera, of brackets one for as many cameras in one place as it holds."""
    count = Counter[str]()
    hung = Counter[tuple[object, ...]]()
    for drop in project.drops:
        count.update(key for key in (drop.model, drop.lens_model) if key)
        if drop.disk_model and drop.disks:
            count[drop.disk_model] += drop.disks
        if drop.bracket_model:
            # one that is nowhere yet has its own
            spot = (drop.x_m, drop.y_m, drop.height_m) if drop.x_m is not None else (drop.id,)
            hung[drop.bracket_model, drop.room_id, *spot] += 1
    count.update(closet.housing_model for closet in project.closets if closet.housing_model)
    count.update(gear.model for gear in project.gear if gear.model and gear.drop_id is None)
    for (key, *_), cameras in hung.items():
        line = catalogue.get(str(key))
        count[str(key)] += math.ceil(cameras / line.holds) if isinstance(line, Bracket) else cameras
    return count
