"""Heat and noise of a closet: what stays in it, how warm its top gets, what is heard next to it, what would help."""

from __future__ import annotations

import math
from collections.abc import Sequence

from ..facts.building import Closet
from ..facts.catalogue import Catalogue
from ..facts.fact import Fact
from ..facts.lines.fan_unit import FanUnit
from ..physics.closet_air import BTU_H_PER_W, air_m3_h, heard_dba, rise_k, together_dba
from ..standards.stack import ROOM_SUMMER_C, SOUND_LIMITS, THROUGH_DB, UNIT_MM, UPS_WARM_C
from .rules import heat_w, middles
from .things import Thing

WIDTH_MM, OVER_MM, DEEPER_MM = 600, 100, 50
"""Outside of a rack: its width, and by how much it is higher and deeper than what it leaves for things, *default*."""


class Warmth(Fact):
    """The warmth of a closet in summer, all on."""

    heat_w: float
    """Left in it: mains less what ports carry away, the UPS's own loss included."""
    btu_h: float
    room_c: float
    room_assumed: bool
    area_m2: float
    """Front, top and the sides that stand free."""
    fans_m3_h: float
    """Free air of its fans together."""
    rise_k: float
    """At its top; 0 in an open frame."""
    top_c: float
    bears_c: float
    """What the least of the things there bears."""
    weakest: str
    holds: bool
    open_door_c: float
    """At its top with the door open: as in an open frame."""
    air_needed_m3_h: float
    """Free air of fans that would keep it in bounds; 0: none is needed."""
    hottest: str
    """What gives off warmth highest up: air is warmest over it, there a sensor belongs; empty: nothing does."""
    by_sensor: bool | None
    """Its fans run by a sensor alone; None: it has none."""


class Help(Fact):
    """Something that would change the warmth, and how warm its top is then."""

    what: str
    top_c: float
    holds: bool


class Loud(Fact):
    """A thing that is heard, at 1 m."""

    name: str
    dba: float


class Noise(Fact):
    """What a closet is heard at."""

    at_1m_dba: float | None
    """All together at 1 m; None: silent."""
    heard_dba: float | None
    limit_dba: float | None
    """None: nobody has said who is near."""
    holds: bool
    parts: tuple[Loud, ...]
    """The loudest first."""


def area_m2(closet: Closet) -> float:
    """Front, top and the sides that stand free [m²]."""
    if closet.housing == "rack":
        wide, high, deep = WIDTH_MM, closet.units * UNIT_MM + OVER_MM, closet.depth_mm + DEEPER_MM
    else:
        wide = closet.panel_width_mm or WIDTH_MM
        high, deep = closet.panel_height_mm or closet.units * UNIT_MM, closet.depth_mm
    # a wall panel gives its warmth off by its face alone
    if closet.housing == "panel":
        return wide * high / 1e6
    return (wide * high + wide * deep + closet.free_sides * high * deep) / 1e6


def is_open(closet: Closet) -> bool:
    return closet.is_open or closet.housing == "shelf"


def warmth_of(closet: Closet, things: Sequence[Thing], ups_loss_w: float = 0.0) -> Warmth:
    """How warm a closet gets."""
    watts = sum(map(heat_w, things)) + ups_loss_w
    room = ROOM_SUMMER_C if closet.warm_c is None else closet.warm_c
    area, fans = area_m2(closet), sum(thing.free_m3_h for thing in things)
    rise = 0.0 if is_open(closet) else rise_k(watts, area, fans)
    active = [one for one in things if one.mains_w > 0 or one.kind == "ups"]
    weakest = min(active, key=lambda one: one.bears_c, default=None)
    bears = weakest.bears_c if weakest else math.inf
    allowed = bears - room
    needed = 0.0
    if rise > allowed > 0:
        # half of the free air counts, beside what the skin carries
        needed = 2 * air_m3_h(max(0.0, watts - 5.5 * area * allowed), allowed)
    return Warmth(
        heat_w=round(watts, 2), btu_h=round(watts * BTU_H_PER_W, 1), room_c=room, room_assumed=closet.warm_c is None,
        area_m2=round(area, 3), fans_m3_h=fans, rise_k=round(rise, 2), top_c=round(room + rise, 2),
        bears_c=bears if math.isfinite(bears) else 99.0, weakest=weakest.name if weakest else "",
        holds=room + rise <= bears + 1e-9, open_door_c=room, air_needed_m3_h=round(needed, 1),
        hottest=_hottest(things), by_sensor=_by_sensor(things),
    )  # fmt: skip


def _hottest(things: Sequence[Thing]) -> str:
    """The highest of what gives off warmth and stands, of two the warmer."""
    at = middles(things)
    warm = [one for one in things if one.key in at and heat_w(one) > 0]
    return max(warm, key=lambda one: (at[one.key], heat_w(one))).name if warm else ""


def _by_sensor(things: Sequence[Thing]) -> bool | None:
    fans = [one for one in things if one.kind == "fan"]
    return all(one.by_sensor for one in fans) if fans else None


def helps_of(closet: Closet, things: Sequence[Thing], ups_loss_w: float, catalogue: Catalogue) -> tuple[Help, ...]:
    """What an open door, a fan unit of the price lists, and doing without its warmest thing would change in a closed
    closet: of fan units the least price that keeps it in bounds, else the strongest."""
    if is_open(closet) or not sum(map(heat_w, things)) + ups_loss_w:
        return ()

    now = warmth_of(closet, things, ups_loss_w)
    helps = [Help(what="its door open", top_c=now.open_door_c, holds=now.open_door_c <= now.bears_c)]
    lines = [line for line in catalogue.models if isinstance(line, FanUnit) and line.in_stock]
    tried = [(line, _with_fan(now, line)) for line in sorted(lines, key=lambda line: (line.price_minor, line.key))]
    enough = next((told for _, told in tried if told.holds), None)
    if tried:
        helps.append(enough or max(tried, key=lambda one: one[0].free_m3_h)[1])
    warmest = max((one for one in things if one.kind != "fan"), key=heat_w, default=None)
    if warmest and heat_w(warmest) > 0:
        then = warmth_of(closet, [one for one in things if one is not warmest], ups_loss_w)
        helps.append(Help(what=f"{warmest.name} elsewhere", top_c=then.top_c, holds=then.holds))
    return tuple(helps)


def _with_fan(now: Warmth, line: FanUnit) -> Help:
    rise = rise_k(now.heat_w + line.draw_w, now.area_m2, now.fans_m3_h + line.free_m3_h)
    top = now.room_c + rise
    return Help(what=line.name, top_c=round(top, 2), holds=top <= now.bears_c + 1e-9)


def noise_of(closet: Closet, things: Sequence[Thing]) -> Noise:
    """What is heard where the nearest people are."""
    loud = [Loud(name=one.name, dba=one.noise_dba) for one in things if one.noise_dba > 0]
    limit = SOUND_LIMITS.get(closet.near)
    if not loud:
        return Noise(at_1m_dba=None, heard_dba=None, limit_dba=limit, holds=True, parts=())
    level = together_dba(one.dba for one in loud)
    heard = heard_dba(level, closet.near_m, THROUGH_DB[closet.through])
    return Noise(
        at_1m_dba=round(level, 2), heard_dba=round(heard, 2), limit_dba=limit, holds=limit is None or heard <= limit,
        parts=tuple(sorted(loud, key=lambda one: -one.dba)),
    )  # fmt: skip


def battery_is_warm(warmth: Warmth) -> bool:
    """Whether a UPS there lives shorter for the warmth."""
    return warmth.top_c > UPS_WARM_C
