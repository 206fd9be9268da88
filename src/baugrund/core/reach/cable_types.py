"""Cable on boxes: thickness, price and temperature by category and make."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from itertools import product

from ..facts.kept import kept
from ..facts.project import Project
from ..standards.cabling import Category

BOX_M = 305.0
RATED_C = 60.0
"""Warmest that a jacket may get [°C], *default*."""
USUAL: dict[Category, tuple[float, int]] = {
    "5": (5.0, 75_00),
    "5e": (5.2, 85_00),
    "6": (6.0, 110_00),
    "6A": (7.4, 215_00),
}
"""Diameter [mm] and price of a box [minor units] by category, *defaults*."""
OUTDOOR_MM, OUTDOOR_TIMES = 0.8, 1.35
SCREENED_MM, SCREENED_TIMES = 0.6, 1.25


@dataclass(frozen=True, order=True)
class CableType:
    """A cable as it is bought: a box of ``box_m`` [m] at ``price_minor``."""

    category: Category
    outdoor: bool
    screened: bool
    box_m: float
    price_minor: int
    diameter_mm: float
    rated_c: float

    @property
    def name(self) -> str:
        words = [f"category {self.category}"]
        if self.screened:
            words.append("screened")
        if self.outdoor:
            words.append("outdoor jacket")
        return ", ".join(words)

    @property
    def minor_per_m(self) -> float:
        return self.price_minor / self.box_m


def cable_type(project: Project, category: Category, *, outdoor: bool = False, screened: bool = False) -> CableType:
    """The project's own cable of a make, else the usual one."""
    return _types(project)[category, outdoor, screened]


@kept
def _types(project: Project) -> Mapping[tuple[Category, bool, bool], CableType]:
    types = {make: _usual(*make) for make in product(USUAL, (False, True), (False, True))}
    for own in reversed(project.cables):
        make = own.category, own.outdoor, own.screened
        types[make] = CableType(*make, own.box_m, own.price_minor, own.diameter_mm, own.rated_c)
    return types


def _usual(category: Category, outdoor: bool, screened: bool) -> CableType:
    diameter, price = USUAL[category]
    diameter += OUTDOOR_MM * outdoor + SCREENED_MM * screened
    price = round(price * (OUTDOOR_TIMES if outdoor else 1.0) * (SCREENED_TIMES if screened else 1.0))
    return CableType(category, outdoor, screened, BOX_M, price, round(diameter, 1), RATED_C)
