"""Which housing, shelves, panels, strips, UPS and fans hold everything for the least price, and why no other housing.

Of each kind of thing the sets are found of which no other is better in price, units, mass, depth and watts (CP-SAT for
shelves, counting for the others).  What of them stands in a housing by units, depth, mass and warmth is tried from the
least price on, until an arrangement with everything on its front rails breaks no rule: that price is the least.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Mapping, Sequence
from itertools import combinations, combinations_with_replacement, product
from typing import NamedTuple

from ortools.sat.python import cp_model
from pydantic import JsonValue

from ..facts.building import Closet
from ..facts.catalogue import Catalogue
from ..facts.fact import Fact
from ..facts.lines.fan_unit import FanUnit
from ..facts.lines.housing import Housing
from ..facts.lines.patch_panel import PatchPanel
from ..facts.lines.rack_shelf import RackShelf
from ..facts.lines.stood import Stood
from ..facts.lines.strip import Strip
from ..facts.lines.ups import Ups
from ..facts.project import Project
from ..physics.closet_air import rise_k
from ..standards.stack import BEARS_C, CORD_MM, ROOM_SUMMER_C, SHELF_WIDTH_MM, UNIT_MM
from ..standing.ground import Ground
from ..words import counted, money
from .arrangement import arrange
from .batteries import in_stock, pick_ups
from .rules import Weights, depth_asked, heat_w, side_by_side
from .things import Thing

SHELVES_MOST, FANS_MOST, STRIPS_MOST, PANELS_MOST = 5, 3, 3, 5
FINDS_S = 1.0
TRIED_MOST = 40
"""Offers of which an arrangement is looked for; where all of them fail it is said that more was not tried."""
UNITS_MOST = 60
THERE = "there"
"""Key of the rack that is there."""
BOUGHT = ("shelf", "panel", "strip", "ups", "fan")
"""Kinds that are chosen here, whatever stands now."""


class PartOf(Fact):
    """A line that is bought for a housing."""

    model: str
    name: str
    count: int
    price_minor: int
    """Of one."""


class WhyNotHousing(Fact):
    """A housing that is not taken, and why."""

    model: str
    name: str
    price_minor: int
    text: str


class HousingPick(Fact):
    """The housing with all that goes in it for the least price."""

    closet_id: int
    housing: PartOf | None
    parts: tuple[PartOf, ...]
    price_minor: int
    units: int
    """That all of it takes, air and the free unit among them."""
    proven: bool
    others: tuple[WhyNotHousing, ...]
    why_not: str = ""


class _Set(NamedTuple):
    """Lines bought together."""

    lines: tuple[Stood, ...]

    @property
    def costs(self) -> tuple[int, int, float, int, float]:
        """Price, units, mass [kg], depth asked [mm], watts: what is no more in each is no worse."""
        rails = [line for line in self.lines if not isinstance(line, Ups) or line.in_rack]
        return (
            sum(line.price_minor for line in self.lines), sum(line.units for line in rails),
            sum(line.mass_kg for line in rails), max((_depth_asked(line) for line in rails), default=0),
            sum(line.own_draw_w for line in self.lines if isinstance(line, Ups)),
        )  # fmt: skip


def _depth_asked(line: Stood) -> int:
    """With room for plug and bend behind what has a plug there [mm]."""
    return line.depth_mm + CORD_MM if isinstance(line, Ups) else line.depth_mm


def pick_housing(
    project: Project, catalogue: Catalogue, ground: Ground | None, closet: Closet, things: Sequence[Thing],
    positions: int, wanted_min: float | None,
) -> HousingPick:  # fmt: skip
    """The rack of the least price in which everything stands, with shelves, panels, strips, UPS and fans."""
    boxes = [
        one.model_copy(update={"fixed": False, "face": "front"}) for one in things if one.kind not in (*BOUGHT, "free")
    ]
    racks = [line for line in in_stock(catalogue, Housing) if line.housing_form == "rack"]
    if closet.is_there:
        racks = [_as_line(closet), *racks]
    if not racks:
        return _none(closet, "The price lists hold no rack in stock.")
    batteries, plugs, without = _batteries(project, catalogue, closet, things, wanted_min)
    shelves = _shelf_sets(in_stock(catalogue, RackShelf), [one for one in boxes if not one.units])
    panels = _panel_sets(in_stock(catalogue, PatchPanel), positions)
    on_mains = sum(one.sockets for one in boxes) - plugs + (1 if plugs else 0)
    strips = _strip_sets(in_stock(catalogue, Strip), max(0, on_mains - closet.sockets))
    for name, some in (("shelf", shelves), ("patch panel", panels), ("power strip", strips)):
        if not some:
            return _none(closet, f"No {name} in stock would do.")
    sets = [
        _Set((*a.lines, *b.lines, *c.lines, *d.lines)) for a, b, c, d in product(batteries, shelves, panels, strips)
    ]
    offers: list[tuple[int, Housing, tuple[Stood, ...]]] = []
    others: dict[str, str] = {}
    for rack in racks:
        found, text = _fitting(closet, rack, boxes, sets, in_stock(catalogue, FanUnit))
        offers += [(rack.price_minor + _Set(lines).costs[0], rack, lines) for lines in found]
        if not found:
            others[rack.key] = text
    taken, proven = _first_that_stands(closet, boxes, offers)
    if taken is None:
        others |= {rack.key: "No arrangement in it holds all the rules." for rack in racks if rack.key not in others}
        return _none(closet, "Everything stands in no rack in stock.", tuple(_why_not(racks, others)))
    price, rack, lines = taken
    for other in racks:
        least = min((cost for cost, one, _ in offers if one is other), default=None)
        if other is not rack and least is not None:
            more = money(least - price, project.settings.currency)
            others[other.key] = f"All of it would cost {more} more."
            if least < price:
                others[other.key] = "No arrangement in it holds all the rules for less."
    return HousingPick(
        closet_id=closet.id, housing=PartOf(model=rack.key, name=rack.name, count=1, price_minor=rack.price_minor),
        parts=tuple(_parts(lines)), price_minor=price, units=_units(boxes, lines, closet), proven=proven,
        others=tuple(_why_not(racks, others)), why_not=without,
    )  # fmt: skip


def _batteries(
    project: Project, catalogue: Catalogue, closet: Closet, things: Sequence[Thing], wanted_min: float | None
) -> tuple[list[_Set], int, str]:
    """Every UPS that would do and is not worse in everything than another, what is plugged into it, why none is."""
    if wanted_min is None:
        return [_Set(())], 0, ""
    ups = pick_ups(project, catalogue, closet.model_copy(update={"units": UNITS_MOST}), things, wanted_min)
    if not ups.plugs:
        return [_Set(())], 0, ""
    lines = [catalogue.get(line.model) for line in ups.lines if line.fits]
    sets = _undominated(_Set((line,)) for line in lines if isinstance(line, Ups))
    if not sets:
        return [_Set(())], 0, (
            f"No UPS in stock lasts {ups.wanted_min:g} min with {ups.load_w:.0f} W on {ups.plugs} plugs: none is in it."
        )  # fmt: skip
    return sets, ups.plugs, ""


def _fitting(
    closet: Closet, rack: Housing, boxes: Sequence[Thing], sets: Sequence[_Set], fans: Sequence[FanUnit]
) -> tuple[list[tuple[Stood, ...]], str]:
    """The lines that stand in a rack with everything by units, depth, mass and warmth, or why none do."""
    deep = max(boxes, key=depth_asked, default=None)
    if deep and depth_asked(deep) > rack.depth_mm:
        return [], f"{depth_asked(deep) - rack.depth_mm} mm too shallow for {deep.name}."
    cooled = {watts: _fan_sets(closet, rack, boxes, watts, fans) for watts in {one.costs[4] for one in sets}}
    if not any(cooled.values()):
        return [], "No fans in stock keep it cool enough."
    found: list[tuple[Stood, ...]] = []
    least_units, least_mass, least_depth = math.inf, math.inf, math.inf
    for one in sets:
        for more in cooled[one.costs[4]]:
            both = _Set((*one.lines, *more.lines))
            units, mass = _units(boxes, both.lines, closet), sum(box.mass_kg for box in boxes) + both.costs[2]
            least_units, least_mass = min(least_units, units), min(least_mass, mass)
            least_depth = min(least_depth, both.costs[3])
            if units <= rack.units and mass <= rack.carries_kg + 1e-9 and both.costs[3] <= rack.depth_mm:
                found.append(both.lines)
    if found:
        return found, ""
    if least_units > rack.units:
        return [], f"{counted(rack.units, 'unit')}; {least_units:.0f} are needed by the horizon."
    if least_mass > rack.carries_kg:
        return [], f"It carries {rack.carries_kg:g} kg; {least_mass:.1f} kg stand in it."
    if least_depth > rack.depth_mm:
        return [], f"{least_depth - rack.depth_mm:.0f} mm too shallow for what must be bought."
    return [], "What is small enough for it is too heavy, too deep or too high."


def _first_that_stands(
    closet: Closet, boxes: Sequence[Thing], offers: Sequence[tuple[int, Housing, tuple[Stood, ...]]]
) -> tuple[tuple[int, Housing, tuple[Stood, ...]] | None, bool]:
    """The least price of which an arrangement shows that all of it stands, and whether no less does."""
    proven = True
    for offer in sorted(offers, key=lambda one: (one[0], one[1].key))[:TRIED_MOST]:
        _, rack, lines = offer
        there = closet.model_copy(update={**closet_of(rack), "both_sides": False})
        told = arrange(there, [*boxes, *_as_things(closet, lines)], (), Weights(0.0, 0.0, 0.0), FINDS_S)
        if told is not None and not told.left_out:
            return offer, proven
        proven = proven and told is not None and told.proven
    return None, proven and len(offers) <= TRIED_MOST


def _why_not(racks: Sequence[Housing], others: Mapping[str, str]) -> Iterator[WhyNotHousing]:
    for rack in racks:
        if rack.key in others:
            yield WhyNotHousing(model=rack.key, name=rack.name, price_minor=rack.price_minor, text=others[rack.key])


def _as_line(closet: Closet) -> Housing:
    """The rack that is there, at no price."""
    return Housing(
        key=THERE, name="The rack that is there", price_minor=0, units=closet.units, depth_mm=closet.depth_mm,
        carries_kg=closet.load_kg, is_open=closet.is_open, cord_space_mm=closet.cord_space_mm,
    )  # fmt: skip


def _none(closet: Closet, text: str, others: Sequence[WhyNotHousing] = ()) -> HousingPick:
    return HousingPick(closet_id=closet.id, housing=None, parts=(), price_minor=0, units=0, proven=True,
                       others=tuple(others), why_not=text)  # fmt: skip


def _undominated(sets: Iterable[_Set]) -> list[_Set]:
    """Those that are worse in everything than no other, the cheapest first."""
    kept: list[_Set] = []
    for one in sorted(sets, key=lambda one: one.costs):
        if not _is_dominated(one, kept):
            kept.append(one)
    return kept


def _is_dominated(one: _Set, kept: Sequence[_Set]) -> bool:
    return any(all(a <= b for a, b in zip(other.costs, one.costs, strict=True)) for other in kept)


def _panel_sets(lines: Sequence[PatchPanel], positions: int) -> list[_Set]:
    return _undominated(
        _Set(some)
        for count in range(PANELS_MOST + 1)
        for some in combinations_with_replacement(lines, count)
        if sum(line.positions for line in some) >= positions
    )


def _strip_sets(lines: Sequence[Strip], plugs: int) -> list[_Set]:
    return _undominated(
        _Set(some)
        for count in range(STRIPS_MOST + 1)
        for some in combinations_with_replacement(lines, count)
        # every strip but the first is plugged in itself
        if sum(line.outlets for line in some) >= plugs + max(0, count - 1)
    )


def _shelf_sets(lines: Sequence[RackShelf], loose: Sequence[Thing]) -> list[_Set]:
    """Shelves that hold all of it; what is worse in everything than one that does is not tried."""
    tried = (
        _Set(some)
        for count in range(min(SHELVES_MOST, len(loose)) + 1)
        for some in combinations_with_replacement(lines, count)
    )
    found: list[_Set] = []
    for one in sorted(tried, key=lambda one: one.costs):
        some = [line for line in one.lines if isinstance(line, RackShelf)]
        if not _is_dominated(one, found) and _hold(some, loose):
            found.append(one)
    return found


def _hold(shelves: Sequence[RackShelf], loose: Sequence[Thing]) -> bool:
    """Whether shelves hold all of it: beside each other, and no more than they carry."""
    if not loose:
        return True
    wide, heavy = sum(one.width_mm for one in loose), sum(one.mass_kg for one in loose)
    if wide > SHELF_WIDTH_MM * len(shelves) or heavy > sum(shelf.carries_kg for shelf in shelves) + 1e-9:
        return False
    model = cp_model.CpModel()
    on = {(one.key, n): model.new_bool_var("") for one in loose for n in range(len(shelves))}
    for one in loose:
        model.add_exactly_one(on[one.key, n] for n in range(len(shelves)))
    for n, shelf in enumerate(shelves):
        mine = [(one, on[one.key, n]) for one in loose]
        for one, flag in mine:
            if one.height_mm > shelf.clear_mm:
                model.add(flag == 0)
        for (one, flag), (other, beside) in combinations(mine, 2):
            if side_by_side([one, other]) is None:
                model.add(flag + beside <= 1)
        model.add(sum(one.width_mm * flag for one, flag in mine) <= SHELF_WIDTH_MM)
        model.add(sum(round(one.mass_kg * 1000) * flag for one, flag in mine) <= round(shelf.carries_kg * 1000))
    solver = cp_model.CpSolver()
    solver.parameters.num_workers = 1
    return solver.solve(model) in (cp_model.OPTIMAL, cp_model.FEASIBLE)


def _units(boxes: Sequence[Thing], lines: Sequence[Stood], closet: Closet) -> int:
    """Units of everything, with the air over a UPS and the one kept free beside the panels."""
    bought = sum(line.units for line in lines if not isinstance(line, Ups) or line.in_rack)
    air = any(isinstance(line, Ups) and line.in_rack for line in lines)
    free = closet.keep_free and any(isinstance(line, PatchPanel) for line in lines)
    return sum(one.units for one in boxes) + bought + air + free


def _fan_sets(
    closet: Closet, rack: Housing, boxes: Sequence[Thing], ups_w: float, fans: Sequence[FanUnit]
) -> list[_Set]:
    """Fans with which the top stays as warm as the things there bear; none in an open frame."""
    room = ROOM_SUMMER_C if closet.warm_c is None else closet.warm_c
    bears = min((one.bears_c for one in boxes if one.mains_w > 0), default=BEARS_C)
    watts = sum(map(heat_w, boxes)) + ups_w
    area = rack_area_m2(rack, closet.free_sides)

    def cool(some: Sequence[FanUnit]) -> bool:
        if rack.is_open:
            return True
        heat = watts + sum(line.draw_w for line in some)
        return room + rise_k(heat, area, sum(line.free_m3_h for line in some)) <= bears + 1e-9

    return _undominated(
        _Set(some)
        for count in range(FANS_MOST + 1)
        for some in combinations_with_replacement(fans, count)
        if cool(some)
    )


def rack_area_m2(rack: Housing, free_sides: int) -> float:
    """Front, top and free sides of a rack [m²]."""
    high = rack.outer_height_mm or rack.units * UNIT_MM + 100
    deep = rack.outer_depth_mm or rack.depth_mm + 50
    return (rack.outer_width_mm * high + rack.outer_width_mm * deep + free_sides * high * deep) / 1e6


def closet_of(rack: Housing) -> dict[str, JsonValue]:
    """What a closet is, being this rack."""
    return {
        "housing": "rack", "units": rack.units, "depth_mm": rack.depth_mm, "load_kg": rack.carries_kg,
        "is_open": rack.is_open, "cord_space_mm": rack.cord_space_mm,
    }  # fmt: skip


KIND_OF: dict[type[Stood], str] = {
    RackShelf: "shelf", PatchPanel: "panel", Strip: "strip", Ups: "ups", FanUnit: "fan",
}  # fmt: skip


def _as_things(closet: Closet, lines: Sequence[Stood]) -> Iterator[Thing]:
    """Lines as they would stand in the rack."""
    for number, line in enumerate(lines):
        if isinstance(line, Ups) and not line.in_rack:
            continue
        yield Thing.model_validate({
            "key": f"new/{number}", "closet_id": closet.id, "kind": KIND_OF[type(line)], "source": "counted",
            "name": line.name, "width_mm": 483, "units": line.units, "height_mm": round(line.units * UNIT_MM),
            "depth_mm": line.depth_mm, "mass_kg": line.mass_kg, "mains_w": 0.0, "own_w": 0.0, "noise_dba": 0.0,
            "plug": "none", "sockets": 0, "fanless": True, "hangs": not isinstance(line, Ups),
            "carries_kg": line.carries_kg if isinstance(line, RackShelf) else None,
            "clear_mm": line.clear_mm if isinstance(line, RackShelf) else None,
        })  # fmt: skip


def _parts(lines: Sequence[Stood]) -> Iterator[PartOf]:
    count: dict[str, int] = {}
    for line in lines:
        count[line.key] = count.get(line.key, 0) + 1
    named = {line.key: line for line in lines}
    for key, many in count.items():
        yield PartOf(model=key, name=named[key].name, count=many, price_minor=named[key].price_minor)
