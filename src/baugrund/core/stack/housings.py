"""Which housing, shelves, panels, strips, UPS and fans hold everything for the least price, and why no other housing.

Of each kind of thing the sets that are cheapest for the units that they take are found (CP-SAT for shelves, counting
for the others); of every housing the cheapest sets that leave room are put together, and an arrangement shows that all
of it stands.  So the price told is the least there is over all housings in stock.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from itertools import combinations_with_replacement, product
from typing import NamedTuple, TypeVar

from ortools.sat.python import cp_model

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
from ..physics.battery import Battery
from ..physics.closet_air import rise_k
from ..standards.stack import BEARS_C, FILL_MOST, ROOM_SUMMER_C, SHELF_WIDTH_MM, UNIT_MM
from ..standing.ground import Ground
from ..words import counted, money
from .arrangement import arrange
from .mains import va_of
from .rules import Weights, depth_asked, heat_w
from .things import Thing

L = TypeVar("L", bound=Stood)
SHELVES_MOST, FANS_MOST, STRIPS_MOST, PANELS_MOST = 5, 3, 3, 5
FINDS_S = 1.0
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


class UpsLine(Fact):
    """A UPS of the price lists for what hangs on the battery of a closet."""

    model: str
    name: str
    price_minor: int
    minutes: float
    """At the end of its life."""
    fits: bool
    text: str
    """Why not; empty: it fits."""


class UpsPick(Fact):
    """The UPS of the least price that lasts as long as is wanted."""

    closet_id: int
    load_w: float
    va: float
    plugs: int
    wanted_min: float
    best: str | None
    lines: tuple[UpsLine, ...]


class _Set(NamedTuple):
    """Lines bought together."""

    lines: tuple[Stood, ...]

    @property
    def price(self) -> int:
        return sum(line.price_minor for line in self.lines)

    @property
    def units(self) -> int:
        return sum(line.units for line in self.lines)


def pick_ups(
    project: Project, catalogue: Catalogue, closet: Closet, things: Sequence[Thing], wanted_min: float
) -> UpsPick:
    """Every UPS in stock for the things of a closet that are to be on the battery, the cheapest that fits first."""
    on = [one for one in things if one.kind not in ("ups", "fan") and one.sockets and _wants_battery(closet, one)]
    load, va, plugs = sum(one.mains_w for one in on), sum(map(va_of, on)), len(on)
    lines = tuple(
        _ups_line(line, closet, load, va, plugs, wanted_min)
        for line in sorted(_in_stock(catalogue, Ups), key=lambda one: (one.price_minor, one.key))
    )
    best = next((line.model for line in lines if line.fits), None)
    return UpsPick(closet_id=closet.id, load_w=round(load, 2), va=round(va, 2), plugs=plugs, wanted_min=wanted_min,
                   best=best, lines=lines)  # fmt: skip


def _wants_battery(closet: Closet, thing: Thing) -> bool:
    return thing.outlet == "battery" or (closet.battery_for == "all" and thing.outlet != "surge")


def _ups_line(line: Ups, closet: Closet, load: float, va: float, plugs: int, wanted: float) -> UpsLine:
    minutes = Battery(line.volts, line.ah, line.inverter_percent / 100, line.own_draw_w).minutes(load)
    text = ""
    if load > FILL_MOST * line.watts:
        text = f"{load:.0f} W are over 80 % of its {line.watts:g} W."
    elif va > FILL_MOST * line.va:
        text = f"{va:.0f} VA are over 80 % of its {line.va:g} VA."
    elif plugs > line.outlets:
        text = f"{counted(plugs, 'plug')} for {counted(line.outlets, 'battery outlet')}."
    elif minutes < wanted:
        text = f"It lasts {minutes:.0f} min at the end of its life; {wanted:g} are wanted."
    elif closet.housing == "rack" and line.in_rack and line.units >= closet.units:
        text = f"It is {counted(line.units, 'unit')} high with its air; the rack has {closet.units}."
    return UpsLine(model=line.key, name=line.name, price_minor=line.price_minor, minutes=round(min(minutes, 99999), 1),
                   fits=not text, text=text)  # fmt: skip


def pick_housing(
    project: Project, catalogue: Catalogue, ground: Ground | None, closet: Closet, things: Sequence[Thing],
    positions: int, wanted_min: float | None,
) -> HousingPick:  # fmt: skip
    """The rack of the least price in which everything stands, with shelves, panels, strips, UPS and fans."""
    boxes = [one for one in things if one.kind not in (*BOUGHT, "free")]
    racks = [line for line in _in_stock(catalogue, Housing) if line.housing_form == "rack"]
    if not racks:
        return _none(closet, "The price lists hold no rack in stock.")
    ups = pick_ups(project, catalogue, closet, things, wanted_min) if wanted_min is not None else None
    without = ""
    if ups and ups.plugs and ups.best is None:
        without = (
            f"No UPS in stock lasts {ups.wanted_min:g} min with {ups.load_w:.0f} W on {ups.plugs} plugs: none is in it."
        )
    battery = catalogue.get(ups.best) if ups and ups.best and ups.plugs else None
    fixed_ups = (battery,) if isinstance(battery, Ups) else ()
    shelves = _shelf_sets(_in_stock(catalogue, RackShelf), [one for one in boxes if not one.units])
    panels = _panel_sets(_in_stock(catalogue, PatchPanel), positions)
    plugs = sum(one.sockets for one in boxes) + len(fixed_ups)
    on_battery = ups.plugs if fixed_ups and ups else 0
    strips = _strip_sets(_in_stock(catalogue, Strip), max(0, plugs - on_battery - closet.sockets))
    for name, some in (("shelf", shelves), ("patch panel", panels), ("power strip", strips)):
        if not some:
            return _none(closet, f"No {name} in stock would do.")
    offers: list[tuple[int, Housing, tuple[Stood, ...]]] = []
    others: list[WhyNotHousing] = []
    for rack in racks:
        found, text = _fitted(project, closet, rack, boxes, fixed_ups, (shelves, panels, strips),
                              _in_stock(catalogue, FanUnit))  # fmt: skip
        if found is None:
            others.append(WhyNotHousing(model=rack.key, name=rack.name, price_minor=rack.price_minor, text=text))
        else:
            offers.append((rack.price_minor + sum(line.price_minor for line in found), rack, found))
    weights = Weights(0.0, 0.0, 0.0)
    for price, rack, lines in sorted(offers, key=lambda one: (one[0], one[1].key)):
        there = closet.model_copy(update=_as_closet(rack))
        stands = [*boxes, *_as_things(closet, lines)]
        told = arrange(there, stands, (), weights, FINDS_S)
        if told is None or told.left_out:
            others.append(WhyNotHousing(model=rack.key, name=rack.name, price_minor=rack.price_minor,
                                        text="No arrangement in it holds all the rules."))  # fmt: skip
            continue
        currency = project.settings.currency
        others += [
            WhyNotHousing(model=dearer.key, name=dearer.name, price_minor=dearer.price_minor,
                          text=f"All of it would cost {money(other - price, currency)} more.")
            for other, dearer, _ in offers
            if dearer is not rack and not any(one.model == dearer.key for one in others)
        ]  # fmt: skip
        return HousingPick(
            closet_id=closet.id, housing=PartOf(model=rack.key, name=rack.name, count=1, price_minor=rack.price_minor),
            parts=tuple(_parts(lines)), price_minor=price, units=_units(boxes, lines, closet), proven=True,
            others=tuple(others), why_not=without,
        )  # fmt: skip
    return _none(closet, "Everything stands in no rack in stock.", others)


def _none(closet: Closet, text: str, others: Sequence[WhyNotHousing] = ()) -> HousingPick:
    return HousingPick(closet_id=closet.id, housing=None, parts=(), price_minor=0, units=0, proven=True,
                       others=tuple(others), why_not=text)  # fmt: skip


def _in_stock(catalogue: Catalogue, kind: type[L]) -> list[L]:
    return [line for line in catalogue.models if isinstance(line, kind) and line.in_stock]


def _cheapest(sets: Iterator[_Set]) -> list[_Set]:
    """Of every number of units the cheapest, where fewer units cost no less."""
    kept: list[_Set] = []
    for one in sorted(sets, key=lambda one: (one.units, one.price)):
        if not kept or one.price < kept[-1].price:
            kept.append(one)
    return kept


def _panel_sets(lines: Sequence[PatchPanel], positions: int) -> list[_Set]:
    return _cheapest(
        _Set(some)
        for count in range(PANELS_MOST + 1)
        for some in combinations_with_replacement(lines, count)
        if sum(line.positions for line in some) >= positions
    )


def _strip_sets(lines: Sequence[Strip], plugs: int) -> list[_Set]:
    return _cheapest(
        _Set(some)
        for count in range(STRIPS_MOST + 1)
        for some in combinations_with_replacement(lines, count)
        # every strip but the first is plugged in itself
        if sum(line.outlets for line in some) >= plugs + max(0, count - 1)
    )


def _shelf_sets(lines: Sequence[RackShelf], loose: Sequence[Thing]) -> list[_Set]:
    """The cheapest that hold all of it, for every number of units; what takes more than a cheaper one is not tried."""
    tried = sorted(
        (
            _Set(some)
            for count in range(min(SHELVES_MOST, len(loose)) + 1)
            for some in combinations_with_replacement(lines, count)
        ),
        key=lambda one: (one.price, one.units),
    )
    found: list[_Set] = []
    for one in tried:
        some = [line for line in one.lines if isinstance(line, RackShelf)]
        if (not found or one.units < found[-1].units) and _hold(some, loose):
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
        model.add(sum(one.width_mm * flag for one, flag in mine) <= SHELF_WIDTH_MM)
        model.add(sum(round(one.mass_kg * 1000) * flag for one, flag in mine) <= round(shelf.carries_kg * 1000))
    solver = cp_model.CpSolver()
    solver.parameters.num_workers = 1
    return solver.solve(model) in (cp_model.OPTIMAL, cp_model.FEASIBLE)


def _fitted(
    project: Project, closet: Closet, rack: Housing, boxes: Sequence[Thing], ups: Sequence[Ups],
    sets: tuple[list[_Set], list[_Set], list[_Set]], fans: Sequence[FanUnit],
) -> tuple[tuple[Stood, ...] | None, str]:  # fmt: skip
    """The cheapest lines that stand in a rack with everything, or why none do."""
    deep = max(boxes, key=depth_asked, default=None)
    if deep and depth_asked(deep) > rack.depth_mm:
        return None, f"{depth_asked(deep) - rack.depth_mm} mm too shallow for {deep.name}."
    cooled = _fan_sets(closet, rack, boxes, ups, fans)
    if not cooled:
        return None, "No fans in stock keep it cool enough."
    best: tuple[Stood, ...] | None = None
    least_units = math.inf
    for some in product(*sets, cooled):
        lines = tuple(line for one in some for line in one.lines) + tuple(ups)
        units, mass = _units(boxes, lines, closet), _mass(boxes, lines)
        if mass > rack.carries_kg:
            continue
        least_units = min(least_units, units)
        if units <= rack.units and (best is None or sum(x.price_minor for x in lines) < sum(
            x.price_minor for x in best
        )):  # fmt: skip
            best = lines
    if best is not None:
        return best, ""
    if math.isinf(least_units):
        lightest = min(
            _mass(boxes, [*ups, *(line for one in some for line in one.lines)]) for some in product(*sets, cooled)
        )
        return None, f"It carries {rack.carries_kg:g} kg; {lightest:.1f} kg stand in it."
    return None, f"{counted(rack.units, 'unit')}; {least_units:.0f} are needed by the horizon."


def _units(boxes: Sequence[Thing], lines: Sequence[Stood], closet: Closet) -> int:
    """Units of everything, with the air over a UPS and the one kept free beside the panels."""
    bought = sum(line.units for line in lines if not isinstance(line, Ups) or line.in_rack)
    air = any(isinstance(line, Ups) and line.in_rack for line in lines)
    free = closet.keep_free and any(isinstance(line, PatchPanel) for line in lines)
    return sum(one.units for one in boxes) + bought + air + free


def _mass(boxes: Sequence[Thing], lines: Sequence[Stood]) -> float:
    return sum(one.mass_kg for one in boxes) + sum(line.mass_kg for line in lines)


def _fan_sets(
    closet: Closet, rack: Housing, boxes: Sequence[Thing], ups: Sequence[Ups], fans: Sequence[FanUnit]
) -> list[_Set]:
    """Fans with which the top stays as warm as the things there bear; none in an open frame."""
    room = ROOM_SUMMER_C if closet.warm_c is None else closet.warm_c
    bears = min((one.bears_c for one in boxes if one.mains_w > 0), default=BEARS_C)
    watts = sum(map(heat_w, boxes)) + sum(line.own_draw_w for line in ups)
    area = rack_area_m2(rack, closet.free_sides)

    def cool(some: Sequence[FanUnit]) -> bool:
        if rack.is_open:
            return True
        heat = watts + sum(line.draw_w for line in some)
        return room + rise_k(heat, area, sum(line.free_m3_h for line in some)) <= bears + 1e-9

    return _cheapest(
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


def _as_closet(rack: Housing) -> dict[str, object]:
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
