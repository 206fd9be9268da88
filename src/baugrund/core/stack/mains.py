"""Mains of a closet: sockets, bricks wider than one, strips, what is on the battery, watts and volt-amperes."""

from __future__ import annotations

from collections.abc import Sequence

from ..facts.building import Closet
from ..facts.fact import Fact
from ..facts.project import Project
from ..gear.sizes import STRIP_OUTLETS
from ..standards.stack import POWER_FACTOR, SMALL_POWER_FACTOR, SMALL_W
from .things import Thing


class Mains(Fact):
    """What is plugged in where."""

    sockets: int
    """Covered on strips and walls, bricks as wide as they are."""
    there: int
    """Sockets there: the closet's, and those of its strips."""
    battery_plugs: int
    battery_outlets: int | None
    """None: no UPS stands there."""
    surge_plugs: int
    surge_outlets: int
    mains_w: float
    va: float
    amperes: float
    amperes_most: float
    holds: bool


def va_of(thing: Thing) -> float:
    """Volt-amperes of a thing: a power factor of 0.95, of adapters up to 60 W 0.55."""
    small = thing.brick and thing.mains_w <= SMALL_W
    return thing.mains_w / (SMALL_POWER_FACTOR if small else POWER_FACTOR)


def mains_of(project: Project, closet: Closet, things: Sequence[Thing]) -> Mains:
    """The mains of a closet; on the battery counts what stands on its outlets."""
    plugged = [one for one in things if one.sockets]
    ups = [one for one in things if one.kind == "ups"]
    strips = [one for one in things if one.kind == "strip"]
    on_battery = [one for one in plugged if one.outlet == "battery"]
    on_surge = [one for one in plugged if one.outlet == "surge"]
    on_mains = [one for one in plugged if one.outlet == "mains"]
    there = closet.sockets + (closet.other_sockets or 0) + sum(one.outlets or STRIP_OUTLETS for one in strips)
    covered = sum(one.sockets for one in on_mains)
    va = sum(va_of(one) for one in things)
    amperes = va / project.settings.mains_v
    outlets, surge = sum(one.outlets for one in ups), sum(one.surge_outlets for one in ups)
    return Mains(
        sockets=covered, there=there, battery_plugs=sum(one.sockets for one in on_battery),
        battery_outlets=outlets if ups else None, surge_plugs=sum(one.sockets for one in on_surge),
        surge_outlets=surge, mains_w=round(sum(one.mains_w for one in things), 2), va=round(va, 2),
        amperes=round(amperes, 3), amperes_most=closet.amperes_most,
        holds=covered <= there and amperes <= closet.amperes_most + 1e-9
        and (not ups or sum(one.sockets for one in on_battery) <= outlets),
    )  # fmt: skip
