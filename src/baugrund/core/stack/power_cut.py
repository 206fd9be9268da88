"""Through a power cut: how long each closet's battery lasts, what goes off when, and how long every service lives.

A battery is empty when Σ Δt/t(P) is 1, the load changing as things are shed.  Goal and drill take the aged capacity and
Peukert's k of 1.2; new, and k from 1.1 to 1.3, stand beside.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ..facts.building import Closet
from ..facts.fact import Fact
from ..facts.project import Project
from ..facts.stack import Lifeline
from ..physics.battery import Battery
from ..power.feeds import running_w
from ..power.load import fed
from ..standards.stack import FILL_MOST, PEUKERT_BAND
from ..standing.flows import Tree
from ..standing.ground import Ground
from .mains import va_of
from .things import Thing

FOR_EVER_MIN = 100_000.0


class Event(Fact):
    """Something that happens in a drill."""

    minute: float
    thing: str
    text: str
    load_w: float
    """On the battery from then on."""
    left_percent: float
    """Of the battery, then."""


class Cell(Fact):
    """The battery of a closet: what hangs on it, how long it lasts, and its drill minute by minute."""

    closet_id: int
    ups: tuple[str, ...]
    load_w: float
    va: float
    watts_most: float
    va_most: float
    fill_percent: float
    """Of W or VA, whichever is fuller; 80 % is the most."""
    minutes: float
    """Aged, with what is shed on the way."""
    new_minutes: float
    low_minutes: float
    high_minutes: float
    """Aged, at k 1.3 and 1.1."""
    events: tuple[Event, ...]


class Life(Fact):
    """How long a service lives through a cut."""

    lifeline_id: int
    minutes: float
    wanted: float | None
    met: bool | None
    """None: no goal says how long."""
    dies_first: str
    """What on its way goes off first."""
    path: tuple[str, ...]
    cut: str
    """Why there is no way at all; empty: there is one."""


class PowerCut(Fact):
    """A power cut of the whole site."""

    cells: tuple[Cell, ...]
    lives: tuple[Life, ...]
    wanted_min: float | None
    """What the goal *Runs on battery* asks."""
    least_min: float | None
    """The shortest life of what the goal asks for: the services, without any the closets."""


@dataclass(frozen=True)
class _Shed:
    at_left: float
    thing: Thing | None
    text: str
    less_w: float


def cell_of(project: Project, closet: Closet, things: Sequence[Thing], ground: Ground | None) -> Cell | None:
    """The battery of a closet, all UPS there together; None: there is none."""
    stands = [one for one in things if one.kind == "ups" and one.volts and one.ah]
    if not stands:
        return None
    on = [one for one in things if one.outlet == "battery" and one.kind != "ups"]
    load = sum(one.mains_w for one in on)
    va = sum(map(va_of, on))
    watts_most = sum(one.watts_most or 0.0 for one in stands)
    va_most = sum(one.va_most or 0.0 for one in stands)
    sheds = _sheds(project, closet, on, ground)
    events, minutes = _drill(_battery(stands), load, sheds, on)
    low, high = (_drill(_battery(stands), load, sheds, on, k=k)[1] for k in reversed(PEUKERT_BAND))
    return Cell(
        closet_id=closet.id, ups=tuple(one.name for one in stands), load_w=round(load, 3), va=round(va, 3),
        watts_most=watts_most, va_most=va_most,
        fill_percent=round(100 * max(load / watts_most if watts_most else 0.0, va / va_most if va_most else 0.0), 2),
        minutes=round(minutes, 2), new_minutes=round(_drill(_battery(stands), load, sheds, on, aged=False)[1], 2),
        low_minutes=round(min(low, high), 2), high_minutes=round(max(low, high), 2), events=tuple(events),
    )  # fmt: skip


def _battery(stands: Sequence[Thing]) -> Battery:
    """Several UPS share the load by their capacity: as one of all their watt-hours."""
    volts = stands[0].volts or 1.0
    ah = sum((one.ah or 0.0) * (one.volts or 0.0) for one in stands) / volts
    return Battery(volts, ah, stands[0].efficiency, sum(one.ups_own_w for one in stands))


def over_filled(cell: Cell) -> bool:
    """Whether a UPS is loaded over 80 % of its W or VA."""
    return cell.fill_percent > 100 * FILL_MOST + 1e-6


def _sheds(project: Project, closet: Closet, on: Sequence[Thing], ground: Ground | None) -> list[_Shed]:
    """What is switched off at which share of battery left."""
    found = [
        _Shed(one.shed_percent / 100, one, f"{one.name} is switched off", one.mains_w)
        for one in on
        if one.shed_percent is not None
    ]
    if closet.shed_low_percent is not None and ground is not None:
        less = _low_priority_w(project, ground, on)
        if less > 0:
            at = closet.shed_low_percent / 100
            found.append(_Shed(at, None, "ports of low priority are switched off", less))
    return sorted(found, key=lambda one: -one.at_left)


def _low_priority_w(project: Project, ground: Ground, on: Sequence[Thing]) -> float:
    """What powered ports of low priority take from the mains of the boxes on the battery [W]."""
    box_of = {thing.box: ground.boxes[thing.box] for thing in on if thing.box is not None}
    total = 0.0
    for place in ground.places:
        if place.drop_id is None or not place.powered or place.box not in box_of:
            continue
        drop = project.drops_by_id[place.drop_id]
        if drop.priority == "low" and drop.id in fed(project):
            total += running_w(project, drop) / (box_of[place.box].efficiency_percent / 100)
    return total


def _drill(
    battery: Battery, load: float, sheds: Sequence[_Shed], on: Sequence[Thing], *, aged: bool = True, k: float = 1.2
) -> tuple[list[Event], float]:
    """What happens until the battery is empty, and when that is [min]."""
    events = [Event(minute=0.0, thing="", text="mains goes off", load_w=round(load, 2), left_percent=100.0)]
    minute, left, gone = 0.0, 1.0, set[str]()
    for shed in sheds:
        life = battery.minutes(load, aged, k)
        if shed.at_left < left:
            minute += (left - shed.at_left) * life if math.isfinite(life) else 0.0
            left = shed.at_left
        load = max(0.0, load - shed.less_w)
        if shed.thing:
            gone.add(shed.thing.key)
        events.append(Event(minute=round(minute, 2), thing=shed.thing.key if shed.thing else "", text=shed.text,
                            load_w=round(load, 2), left_percent=round(100 * left, 2)))  # fmt: skip
    life = battery.minutes(load, aged, k)
    end = minute + left * life if math.isfinite(life) else FOR_EVER_MIN
    for thing in on:
        if thing.shutdown_min and thing.key not in gone:
            at = max(0.0, end - thing.shutdown_min)
            share = _left_at(events, battery, at, aged, k)
            text = f"{thing.name} must begin to shut down"
            events.append(Event(minute=round(at, 2), thing=thing.key, text=text, load_w=round(load, 2),
                                left_percent=share))  # fmt: skip
    events.append(Event(minute=round(end, 2), thing="", text="the battery is empty", load_w=0.0, left_percent=0.0))
    return sorted(events, key=lambda one: one.minute), end


def _left_at(events: Sequence[Event], battery: Battery, minute: float, aged: bool, k: float) -> float:
    """Share of the battery left at a minute [%], by the steps of the load."""
    steps = [one for one in events if one.left_percent is not None]
    last = max((one for one in steps if one.minute <= minute + 1e-9), key=lambda one: one.minute)
    life = battery.minutes(last.load_w, aged, k)
    return round(max(0.0, last.left_percent - 100 * (minute - last.minute) / life), 2)


def power_cut(project: Project, grounds: Sequence[Ground], things: Mapping[int, Sequence[Thing]]) -> PowerCut:
    """The whole drill: every closet's battery, and how long every service lives."""
    by_closet = {ground.closet.id: ground for ground in grounds}
    cells = {
        closet.id: cell
        for closet in project.closets
        if (cell := cell_of(project, closet, things.get(closet.id, ()), by_closet.get(closet.id)))
    }
    goal = next((goal for goal in project.goals if goal.kind == "battery"), None)
    wanted = None if goal is None else (15.0 if goal.level is None else goal.level)
    tree = Tree(project, grounds)
    lives = tuple(_life(project, tree, cells, things, line, wanted) for line in project.lifelines)
    told = [life.minutes for life in lives] or [cells[one.id].minutes if one.id in cells else 0.0
                                                for one in project.closets if things.get(one.id)]  # fmt: skip
    return PowerCut(
        cells=tuple(cells.values()), lives=lives, wanted_min=wanted,
        least_min=min(told, default=None) if wanted is not None or lives else None,
    )  # fmt: skip


def _life(
    project: Project, tree: Tree, cells: Mapping[int, Cell], things: Mapping[int, Sequence[Thing]], line: Lifeline,
    goal_min: float | None,
) -> Life:  # fmt: skip
    wanted = goal_min if line.minutes is None else line.minutes
    way = _way(project, tree, line)
    if way is None:
        name = project.name_of(project.drops_by_id[line.drop_id])
        return Life(lifeline_id=line.id, minutes=0.0, wanted=wanted, met=False if wanted is not None else None,
                    dies_first="", path=(name,), cut=f"{name} has no way to what it must reach.")  # fmt: skip
    keys, last = way
    lived: list[tuple[float, str]] = []
    for closet_id, box in keys:
        thing = next((one for one in things.get(closet_id, ()) if one.box == box), None)
        if thing is not None:
            lived.append((_minutes(cells, closet_id, thing), thing.name))
    lived += _ends(project, cells, things, last)
    lived += _shed_port(project, cells, tree, line)
    minutes, first = min(lived, default=(0.0, ""))
    return Life(
        lifeline_id=line.id, minutes=round(minutes, 2), wanted=wanted,
        met=None if wanted is None else minutes >= wanted - 1e-9, dies_first=first,
        path=(project.name_of(project.drops_by_id[line.drop_id]), *(name for _, name in lived)), cut="",
    )  # fmt: skip


def _way(project: Project, tree: Tree, line: Lifeline) -> tuple[list[tuple[int, int]], str] | None:
    """The boxes on the way of a service, and which list its end is on; None: there is no way."""
    drop = project.drops_by_id[line.drop_id]
    up = tree.boxes_of(drop)
    if up is None:
        return None
    if line.reaches == "internet":
        return (up, "internet") if project.lines else None
    kind = "recorder" if line.reaches == "recorder" else "nas"
    target = next((one for one in project.drops if one.kind == kind), None)
    down = tree.boxes_of(target) if target else None
    if down is None:
        return None
    common = next((box for box in up if box in down), None)
    if common is None:
        return None
    return [*up[: up.index(common) + 1], *reversed(down[: down.index(common)])], kind


def _ends(
    project: Project, cells: Mapping[int, Cell], things: Mapping[int, Sequence[Thing]], last: str
) -> list[tuple[float, str]]:
    """What stands at the end of a way, with how long it lives: the terminals and the provider's box that lives longest,
    for one line is enough; or the recorder or store."""
    if last == "internet":
        head = project.head_end.id
        here = things.get(head, ())
        boxes = [(_minutes(cells, head, one), one.name) for one in here if one.kind == "provider_box"]
        terminals = [(_minutes(cells, head, one), one.name) for one in here if one.kind == "terminal"]
        return [*terminals, *([max(boxes, key=lambda one: one[0])] if boxes else [])]
    return [
        (_minutes(cells, closet_id, one), one.name) for closet_id, some in things.items() for one in some
        if one.drop_id is not None and project.drops_by_id[one.drop_id].kind == last
    ][:1]  # fmt: skip


def _minutes(cells: Mapping[int, Cell], closet_id: int, thing: Thing) -> float:
    """How long a thing lives [min]: as its battery, until it is shed, or not at all."""
    cell = cells.get(closet_id)
    if thing.plug == "none" and thing.mains_w == 0:
        return FOR_EVER_MIN
    if cell is None or thing.outlet != "battery":
        return 0.0
    shed = next((one.minute for one in cell.events if one.thing == thing.key and "switched off" in one.text), None)
    return cell.minutes if shed is None else shed


def _shed_port(project: Project, cells: Mapping[int, Cell], tree: Tree, line: Lifeline) -> list[tuple[float, str]]:
    """When the port of a service's own device is switched off, where it is one of low priority."""
    drop = project.drops_by_id[line.drop_id]
    cell = cells.get(drop.closet_id)
    if cell is None or drop.priority != "low" or drop.id not in fed(project) or drop.behind_id is not None:
        return []
    at = next((one.minute for one in cell.events if one.text.startswith("ports of low priority")), None)
    return [] if at is None else [(at, f"the port of {project.name_of(drop)}")]
