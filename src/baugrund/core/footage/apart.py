"""Recorders and disks that were chosen apart: what they are on the price lists, and what they cost."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator

from ..facts.catalogue import Catalogue
from ..facts.fact import Fact
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
    """Every recorder and disk that a drop says it is; those that are on no list any more cost nothing here."""
    count = Counter(_models(project))
    lines = ((catalogue.get(key), quantity) for key, quantity in count.items())
    return tuple(
        ApartLine(
            model=line.key, name=line.name, kind=line.kind, quantity=quantity, price_minor=line.price_minor,
            total_minor=line.price_of(quantity),
        )
        for line, quantity in lines
        if line
    )  # fmt: skip


def _models(project: Project) -> Iterator[str]:
    for drop in project.drops:
        if drop.model:
            yield drop.model
        if drop.disk_model and drop.disks:
            yield from [drop.disk_model] * drop.disks
