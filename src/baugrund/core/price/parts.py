"""The parts list: every part with its spare, in whole packs, at the price of a list, of the project, or of nobody."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from typing import Literal

from ..facts.catalogue import Catalogue
from ..facts.fact import Fact
from ..facts.lines.line import Line, Piecewise
from ..facts.lines.material import Material
from ..facts.lines.patch_panel import PatchPanel
from ..facts.price import Brings, PartTerm
from ..facts.project import Project
from ..standards.spares import SPARE_PERCENT, PartGroup
from .part_items import PartItem

WHOLE = 1e-9


class PricedPart(Fact):
    """A part of the job."""

    key: str
    group: PartGroup
    name: str
    unit: str
    """Of its counts: m, box, l, kg; empty: pieces."""
    needed: float
    spare: float
    spare_percent: float | None
    """The rule that the spare follows; None: the project says how much."""
    there: float
    """Owned, or there already: not bought."""
    to_buy: float
    packs: int
    """Packs, rolls or boxes; of what is sold by the piece its pieces."""
    holds: float
    """Pieces or metres of one of them."""
    each_minor: int | None
    """Price of a pack; None: nobody knows."""
    total_minor: int | None
    """Of all packs, those that are bought already among them; None: nobody knows."""
    open_packs: int
    """Packs that are still to be bought."""
    open_minor: int | None
    source: Literal["list", "project", "usual", "none"]
    """Where the price is from: a price list, the project, usual for its kind, nowhere."""
    model: str
    """The line of the price lists that it is bought as; empty: none."""
    price_list: str
    edition: int | None
    priced_on: str
    in_stock: bool | None
    lead_days: int | None
    by: Brings
    yearly_minor: int
    """Licence or rent of all of them a year."""
    yearly_for: Literal["licence", "rent"]
    drop_ids: tuple[int, ...]
    closet_ids: tuple[int, ...]
    note: str = ""


def part_lines(project: Project, catalogue: Catalogue, items: Iterable[PartItem]) -> tuple[PricedPart, ...]:
    """Every part of the job, priced.  Whole packs of each part for the whole site."""
    terms = {term.part: term for term in project.part_terms}
    materials = catalogue.once("materials by what they serve", lambda: _serving(catalogue))
    return tuple(_line(project, catalogue, item, terms.get(item.key), materials) for item in items)


def without_tax(minor: float, catalogue: Catalogue, tax_percent: float) -> float:
    """A price of the lists without tax [minor]: those that hold it are divided by it."""
    return minor / (1 + tax_percent / 100) if catalogue.tax == "included" else minor


def _serving(catalogue: Catalogue) -> Mapping[str, Sequence[Material]]:
    found: dict[str, list[Material]] = {}
    for line in catalogue.models:
        if isinstance(line, Material):
            found.setdefault(line.serves.casefold(), []).append(line)
    return found


def _line(
    project: Project, catalogue: Catalogue, item: PartItem, term: PartTerm | None,
    materials: Mapping[str, Sequence[Material]],
) -> PricedPart:  # fmt: skip
    needed = round(item.count, 6)
    percent = SPARE_PERCENT[item.group]
    spare = float(math.ceil(needed * percent / 100 - WHOLE)) if term is None or term.spare is None else term.spare
    owned = float(project.owned.get(item.model, 0)) if item.model else 0.0
    there = min(needed + spare, max(owned, term.there if term else 0.0))
    to_buy = needed + spare - there
    line = _listed(catalogue, item, to_buy, materials)
    holds = _holds(line)
    packs = math.ceil(to_buy / holds - WHOLE)
    bought = min(packs, math.floor((term.bought if term else 0.0) / holds + WHOLE))
    each, source = _price(project, catalogue, item, term, line, holds)
    listed = catalogue.listed(line.key) if line else None
    return PricedPart(
        key=item.key, group=item.group, name=line.name if line and item.model else item.name, unit=item.unit,
        needed=needed, spare=spare, spare_percent=percent if term is None or term.spare is None else None,
        there=there, to_buy=round(to_buy, 6), packs=packs, holds=holds, each_minor=each,
        total_minor=0 if not packs else None if each is None else each * packs, open_packs=packs - bought,
        open_minor=0 if packs == bought else None if each is None else each * (packs - bought), source=source,
        model=line.key if line else "", price_list=listed.name if listed else "",
        edition=listed.edition if listed else None, priced_on=listed.priced_on if listed else "",
        in_stock=line.in_stock if line else None, lead_days=line.lead_days if line else None,
        by=term.by if term else "installer", yearly_minor=line.yearly_minor * math.ceil(needed) if line else 0,
        yearly_for=line.yearly_for if line else "licence", drop_ids=item.drop_ids, closet_ids=item.closet_ids,
        note=term.note if term else "",
    )  # fmt: skip


def _holds(line: Line | None) -> float:
    if isinstance(line, Material) and line.serves:
        return line.holds
    return float(line.pack) if isinstance(line, Piecewise) else 1.0


def _price(
    project: Project, catalogue: Catalogue, item: PartItem, term: PartTerm | None, line: Line | None, holds: float
) -> tuple[int | None, Literal["list", "project", "usual", "none"]]:
    """Price of a pack without tax, and where it is from.  The project's own price is of one piece, metre or box."""
    if term and term.price_minor is not None:
        return round(term.price_minor * holds), "project"
    if line is not None:
        return round(without_tax(line.price_minor, catalogue, project.settings.tax_percent)), "list"
    if item.usual_minor:
        return round(item.usual_minor), "usual"
    return None, "none"


def _listed(
    catalogue: Catalogue, item: PartItem, count: float, materials: Mapping[str, Sequence[Material]]
) -> Line | None:  # fmt: skip
    """The line that a part is bought as: its model; else the material in stock that costs least for so many."""
    if item.model:
        return catalogue.get(item.model)
    if item.name.startswith("patch panel of "):
        positions = int(item.name.split()[3])
        panels = [one for one in catalogue.models if isinstance(one, PatchPanel) and one.positions == positions]
        return min(panels, key=lambda one: (not one.in_stock, one.price_minor, one.key), default=None)
    serving = materials.get(item.name.casefold(), ())
    if item.holds is not None:
        # a part of so many boxes is made of boxes that hold as much
        serving = [one for one in serving if one.holds == item.holds]
        return min((one.model_copy(update={"holds": 1.0}) for one in serving),
                   key=lambda one: (not one.in_stock, one.price_minor, one.key), default=None)  # fmt: skip
    return min(
        serving, key=lambda one: (not one.in_stock, math.ceil(count / one.holds) * one.price_minor, one.key),
        default=None,
    )  # fmt: skip
