"""Mains of a closet: sockets, bricks wider than one, strips and what hangs on each, battery, watts, volt-amperes."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence

from ..facts.building import Closet
from ..facts.fact import Fact
from ..facts.project import Project
from ..gear.sizes import STRIP_OUTLETS
from ..standards.stack import POWER_FACTOR, SMALL_POWER_FACTOR, SMALL_W
from .things import Thing


class StripLoad(Fact):
    """What hangs on one strip."""

    key: str
    name: str
    things: tuple[str, ...]
    """Keys; first those that say so, then those that were put there because nobody has said."""
    assumed: int
    """How many of them nobody has said."""
    sockets: int
    """Covered, bricks as wide as they are."""
    there: int
    mains_w: float
    va: float
    amperes: float
    holds: bool


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
    """Of its circuit, and of each strip."""
    strips: tuple[StripLoad, ...]
    holds: bool


def va_of(thing: Thing) -> float:
    """Volt-amperes of a thing: a power factor of 0.95, of adapters up to 60 W 0.55."""
    small = thing.brick and thing.mains_w <= SMALL_W
    return thing.mains_w / (SMALL_POWER_FACTOR if small else POWER_FACTOR)


def mains_of(project: Project, closet: Closet, things: Sequence[Thing]) -> Mains:
    """The mains of a closet; on the battery counts what stands on its outlets, and not what hangs on a strip there."""
    plugged = [one for one in things if one.sockets]
    ups = [one for one in things if one.kind == "ups"]
    strips = [one for one in things if one.kind == "strip"]
    own = [one for one in plugged if not one.strip]
    on_battery = [one for one in own if one.outlet == "battery"]
    on_surge = [one for one in own if one.outlet == "surge"]
    there = closet.sockets + (closet.other_sockets or 0) + sum(map(_outlets, strips))
    covered = sum(one.sockets for one in plugged if one.strip or one.outlet == "mains")
    va = sum(va_of(one) for one in things)
    amperes = va / project.settings.mains_v
    outlets, surge = sum(one.outlets for one in ups), sum(one.surge_outlets for one in ups)
    loads = _strip_loads(project, closet, strips, plugged)
    return Mains(
        sockets=covered, there=there, battery_plugs=sum(one.sockets for one in on_battery),
        battery_outlets=outlets if ups else None, surge_plugs=sum(one.sockets for one in on_surge),
        surge_outlets=surge, mains_w=round(sum(one.mains_w for one in things), 2), va=round(va, 2),
        amperes=round(amperes, 3), amperes_most=closet.amperes_most, strips=loads,
        holds=covered <= there and amperes <= closet.amperes_most + 1e-9
        and (not ups or sum(one.sockets for one in on_battery) <= outlets) and all(one.holds for one in loads),
    )  # fmt: skip


def _outlets(strip: Thing) -> int:
    return strip.outlets or STRIP_OUTLETS


def _strip_loads(
    project: Project, closet: Closet, strips: Sequence[Thing], plugged: Sequence[Thing]
) -> tuple[StripLoad, ...]:
    """What hangs on each strip: those that say so; what is on mains and does not goes to the first strip on mains with
    room for it, the widest plugs first, and to the wall where none has."""
    hung: dict[str, list[Thing]] = defaultdict(list)
    for one in plugged:
        if one.strip:
            hung[one.strip].append(one)
    said = {key: len(some) for key, some in hung.items()}
    loose = [one for one in plugged if one.outlet == "mains" and not one.strip and one.kind not in ("strip", "ups")]
    for one in sorted(loose, key=lambda one: -one.sockets):
        for strip in strips:
            taken = sum(other.sockets for other in hung[strip.key])
            if strip.outlet == "mains" and taken + one.sockets <= _outlets(strip):
                hung[strip.key].append(one)
                break
    return tuple(_strip_load(project, closet, one, hung[one.key], said.get(one.key, 0)) for one in strips)


def _strip_load(project: Project, closet: Closet, strip: Thing, hung: Sequence[Thing], said: int) -> StripLoad:
    covered, va = sum(one.sockets for one in hung), sum(map(va_of, hung))
    amperes = va / project.settings.mains_v
    return StripLoad(
        key=strip.key, name=strip.name, things=tuple(one.key for one in hung), assumed=len(hung) - said,
        sockets=covered, there=_outlets(strip), mains_w=round(sum(one.mains_w for one in hung), 2), va=round(va, 2),
        amperes=round(amperes, 3), holds=covered <= _outlets(strip) and amperes <= closet.amperes_most + 1e-9,
    )  # fmt: skip
