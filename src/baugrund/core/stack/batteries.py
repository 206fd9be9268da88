"""The UPS of the least price for what hangs on the battery of a closet: minutes, W, VA, outlets and units."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TypeVar

from ..facts.building import Closet
from ..facts.catalogue import Catalogue
from ..facts.fact import Fact
from ..facts.lines.stood import Stood
from ..facts.lines.ups import Ups
from ..facts.project import Project
from ..physics.battery import Battery
from ..standards.stack import FILL_MOST
from ..words import counted
from .mains import va_of
from .things import Thing

L = TypeVar("L", bound=Stood)


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


def pick_ups(
    project: Project, catalogue: Catalogue, closet: Closet, things: Sequence[Thing], wanted_min: float
) -> UpsPick:
    """Every UPS in stock for the things of a closet that are to be on the battery, the cheapest that fits first."""
    on = [one for one in things if one.kind not in ("ups", "fan") and one.sockets and _wants_battery(closet, one)]
    load, va = sum(one.mains_w for one in on), sum(map(va_of, on))
    plugs = sum(not one.strip for one in on)
    lines = tuple(
        _ups_line(line, closet, load, va, plugs, wanted_min)
        for line in sorted(in_stock(catalogue, Ups), key=lambda one: (one.price_minor, one.key))
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


def in_stock(catalogue: Catalogue, kind: type[L]) -> list[L]:
    """The lines of a kind that are in stock."""
    return [line for line in catalogue.models if isinstance(line, kind) and line.in_stock]
