"""A thing of a closet with all that nobody has typed filled in: from its line of the price lists, else usual for its
kind."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any, TypeVar

from ..facts.catalogue import Catalogue
from ..facts.lines.fan_unit import FanUnit
from ..facts.lines.line import Line
from ..facts.lines.patch_panel import PatchPanel
from ..facts.lines.rack_shelf import RackShelf
from ..facts.lines.recorder import Recorder
from ..facts.lines.stood import Stood
from ..facts.lines.strip import Strip
from ..facts.lines.ups import Ups
from ..facts.stack import Gear
from ..standards.stack import PANEL_PORTS, UNIT_MM, USUAL, Plug

T = TypeVar("T")
STRIP_OUTLETS = 7
UPS_USUAL = {"volts": 24.0, "ah": 9.0, "watts_most": 600.0, "va_most": 1000.0, "outlets": 4}
"""A UPS of which nobody has said more, *default*."""


@dataclass(frozen=True)
class Sized:
    """Sizes [mm, kg], what it draws at its plug [W], how it is plugged; and what of it is usual for its kind."""

    name: str
    width_mm: int
    units: int
    """Of the rack, where it is screwed to the rails."""
    height_mm: int
    depth_mm: int
    mass_kg: float
    draw_w: float
    noise_dba: float
    plug: Plug
    rack: bool
    corded: int
    assumed: tuple[str, ...]
    carries_kg: float | None = None
    clear_mm: int | None = None
    positions: int = 0
    volts: float | None = None
    ah: float | None = None
    efficiency: float = 0.85
    own_w: float = 0.0
    watts_most: float | None = None
    va_most: float | None = None
    outlets: int = 0
    surge_outlets: int = 0
    free_m3_h: float = 0.0
    by_sensor: bool = False
    spacing_mm: float | None = None


def units_of(height_mm: float) -> int:
    """Units that a height takes."""
    return max(1, math.ceil(height_mm / UNIT_MM - 0.05))


def sized(gear: Gear, catalogue: Catalogue | None) -> Sized:
    """A thing with all that nobody has typed filled in."""
    line = catalogue.get(gear.model) if catalogue and gear.model else None
    usual, told, assumed = USUAL[gear.kind], _of_line(line), []

    def said(name: str, default: T) -> T:
        typed = getattr(gear, name)
        if typed is not None:
            return typed  # type: ignore[no-any-return]
        if name in told:
            return told[name]  # type: ignore[no-any-return]
        assumed.append(name)
        return default

    height = said("height_mm", usual.height_mm)
    rack = said("rack", usual.rack)
    units = said("units", units_of(height))
    shelf, ups, strip = gear.kind == "shelf", gear.kind == "ups", gear.kind == "strip"
    return Sized(
        name=gear.name or (line.name if line else usual.name), width_mm=said("width_mm", usual.width_mm),
        units=units, height_mm=round(units * UNIT_MM) if rack and gear.height_mm is None else height,
        depth_mm=said("depth_mm", usual.depth_mm), mass_kg=said("mass_kg", usual.mass_kg),
        draw_w=said("draw_w", usual.draw_w), noise_dba=said("noise_dba", usual.noise_dba),
        plug=said("plug", usual.plug), rack=rack, corded=usual.corded,
        carries_kg=said("carries_kg", 12.0) if shelf else None,
        clear_mm=told.get("clear_mm", round((units - 1) * UNIT_MM + 80)) if shelf else None,
        positions=_usable(told, gear.module_mm) if gear.kind == "panel" else 0, spacing_mm=told.get("spacing_mm"),
        volts=said("volts", UPS_USUAL["volts"]) if ups else None, ah=said("ah", UPS_USUAL["ah"]) if ups else None,
        efficiency=told.get("efficiency", 0.85), own_w=told.get("own_w", 0.0),
        watts_most=said("watts_most", UPS_USUAL["watts_most"]) if ups else None,
        va_most=said("va_most", UPS_USUAL["va_most"]) if ups else None,
        outlets=int(said("outlets", UPS_USUAL["outlets"] if ups else STRIP_OUTLETS)) if ups or strip else 0,
        surge_outlets=told.get("surge_outlets", 0),
        free_m3_h=said("free_m3_h", 100.0) if gear.kind == "fan" else 0.0, by_sensor=told.get("by_sensor", False),
        assumed=tuple(assumed),
    )  # fmt: skip


def _usable(told: dict[str, Any], module_mm: float | None) -> int:
    """Positions of a panel that can be used: a module that is wider than the spacing covers its neighbours."""
    positions, spacing = int(told.get("positions", PANEL_PORTS)), told.get("spacing_mm")
    covers = math.ceil(module_mm / spacing - 1e-9) if module_mm and spacing else 1
    return math.ceil(positions / covers)


def _of_line(line: Line | None) -> dict[str, Any]:
    """What a line of the price lists says of a thing."""
    told: dict[str, Any] = {}
    if isinstance(line, Stood):
        told = {"units": line.units, "depth_mm": line.depth_mm, "mass_kg": line.mass_kg, "rack": True}
        told["height_mm"] = round(line.units * UNIT_MM)
    if isinstance(line, PatchPanel):
        told |= {"positions": line.positions}
        if line.ends == "snap":
            told["spacing_mm"] = line.spacing_mm
    elif isinstance(line, RackShelf):
        told |= {"carries_kg": line.carries_kg, "clear_mm": line.clear_mm}
    elif isinstance(line, Strip):
        told |= {"outlets": line.outlets}
    elif isinstance(line, FanUnit):
        told |= {"free_m3_h": line.free_m3_h, "draw_w": line.draw_w, "by_sensor": line.by_sensor}
        if line.noise_dba is not None:
            told["noise_dba"] = line.noise_dba
    elif isinstance(line, Ups):
        told |= {
            "volts": line.volts, "ah": line.ah, "watts_most": line.watts, "va_most": line.va, "outlets": line.outlets,
            "surge_outlets": line.surge_outlets, "efficiency": line.inverter_percent / 100, "own_w": line.own_draw_w,
            "rack": line.in_rack, "draw_w": 0.0,
        }  # fmt: skip
        if line.noise_dba is not None:
            told["noise_dba"] = line.noise_dba
    elif isinstance(line, Recorder):
        told = {
            "units": line.units, "mass_kg": line.mass_kg, "draw_w": line.own_draw_w / (line.efficiency_percent / 100),
            "height_mm": round(line.units * UNIT_MM), "rack": True, "depth_mm": 330, "width_mm": 440, "plug": "cord",
        }  # fmt: skip
    return told
