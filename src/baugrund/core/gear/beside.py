"""What stands in a closet beside the pick, and so leaves its boxes less height, load, sockets and battery outlets."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from ..facts.building import Closet
from ..facts.catalogue import Catalogue
from ..facts.kept import kept
from ..facts.lines.recorder import Recorder
from ..facts.project import Project
from .sizes import sized


@dataclass(frozen=True)
class Beside:
    """A thing with what it takes of what the pick is limited by."""

    name: str
    units: int
    mass_kg: float
    sockets: int
    on_battery: bool


def beside_pick(project: Project, catalogue: Catalogue, closet: Closet) -> tuple[Beside, ...]:
    """The recorders that were chosen apart and end there, and what somebody has put in it.

    Sockets of other things are counted beside those for the pick (`Closet.other_sockets`); of battery outlets only what
    is said to be on the battery takes one.
    """
    return (*_recorders(project, catalogue, closet), *_gear(project, catalogue, closet))


@kept
def _chosen(project: Project) -> Mapping[int, tuple[str, ...]]:
    """Lines of the price lists that drops are, by closet; without those that are listed as things."""
    listed, found = {gear.drop_id for gear in project.gear}, defaultdict[int, list[str]](list)
    for drop in project.drops:
        if drop.model and drop.id not in listed:
            found[drop.closet_id].append(drop.model)
    return {number: tuple(models) for number, models in found.items()}


def _recorders(project: Project, catalogue: Catalogue, closet: Closet) -> Iterator[Beside]:
    for key in _chosen(project).get(closet.id, ()):
        line = catalogue.get(key)
        if isinstance(line, Recorder):
            yield Beside(line.name, line.units, line.mass_kg, line.sockets, True)


def _gear(project: Project, catalogue: Catalogue, closet: Closet) -> Iterator[Beside]:
    on_battery = {
        one.thing for one in project.placings if one.closet_id == closet.id and one.outlet == "battery"
    }  # fmt: skip
    for gear in project.gear:
        if gear.closet_id == closet.id:
            size = sized(gear, catalogue)
            units = size.units if size.rack and closet.housing == "rack" else 0
            yield Beside(size.name, units, size.mass_kg, 0, f"gear/{gear.id}" in on_battery)


def is_recorder(catalogue: Catalogue, key: str) -> bool:
    """Whether a line of the price lists is a recorder."""
    return isinstance(catalogue.get(key), Recorder)
