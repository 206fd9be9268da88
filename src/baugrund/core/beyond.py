"""Ports beyond the closet: a room that wants several, by a cable each or by one cable and a switch in the room.

Both ways are the whole project priced: cable and hours of the runs, the least pick, and the room switch.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from .catalogue import Speed, Switch
from .drop import Drop
from .drop_kinds import CLOSET_KINDS
from .edits.room_switch import UseRoomSwitch
from .errors import TookTooLong
from .facts import Fact
from .pick.best import least_price
from .pick.watch import counted_off
from .pick.years import Outlook
from .project import Project
from .reach.fill import cable_of
from .reach.runs import runs
from .siting.costs import RunPrice
from .traffic import busy_kbit, carried_kbit
from .words import counted, money, speed

ROOMS_MOST = 12
"""Rooms with most ports that are priced; others would gain less."""


class RoomPorts(Fact):
    """A room with several ports, both ways priced.  Money in minor units, of cable, hours and equipment together."""

    room_id: int
    room: str
    drop_ids: tuple[int, ...]
    cables_minor: int
    """A cable each: what these runs cost."""
    one_cable_minor: int
    """One cable in their place."""
    model: str
    name: str
    """The room switch."""
    switch_minor: int
    pick_minor: int
    """What the least pick costs more (or, under 0, less) with one port for all of them."""
    more_minor: int
    """What the room switch costs more in all than a cable each; under 0: less."""
    speed_mbit: Speed
    """Rate of its cable."""
    traffic_mbit: float
    own_draw_w: float
    sentence: str


@dataclass(frozen=True)
class _Room:
    room_id: int
    drops: tuple[Drop, ...]


def rooms_beyond(outlook: Outlook, pick_minor: int) -> Iterator[RoomPorts]:
    """Every room with several plain ports, those with most first, where a switch of the catalogue would do.

    ``pick_minor``: price of the least pick with a cable for each.
    """
    project = outlook.project
    price = RunPrice(project)
    for room in counted_off(_rooms(project)[:ROOMS_MOST]):
        traffic = sum(busy_kbit(project, drop) for drop in room.drops)
        chosen = _switch(outlook, room.drops, traffic)
        if chosen is None:
            continue
        model, rate, cost = chosen
        with_switch = UseRoomSwitch(drop_ids=tuple(drop.id for drop in room.drops), speed_mbit=rate).apply(project)
        try:
            found = least_price(outlook.site(project.settings.horizon_years, with_switch)[0])
        except TookTooLong:
            continue
        if found is None:
            continue
        cables = sum(_run_minor(project, drop, price) for drop in room.drops)
        one = _run_minor(with_switch, with_switch.drops[-1], price)
        picked = found.price_minor - pick_minor
        more = one + cost + picked - cables
        name = project.rooms_by_id[room.room_id].name
        yield RoomPorts(
            room_id=room.room_id, room=name, drop_ids=tuple(drop.id for drop in room.drops), cables_minor=cables,
            one_cable_minor=one, model=model.key, name=model.name, switch_minor=cost, pick_minor=picked,
            more_minor=more, speed_mbit=rate, traffic_mbit=traffic / 1000, own_draw_w=model.own_draw_w,
            sentence=_told(name, len(room.drops), model, rate, traffic, more, project.settings.currency),
        )  # fmt: skip


def _rooms(project: Project) -> list[_Room]:
    """Rooms with two or more plain drops that end in one closet with cables of their own."""
    by_room: dict[tuple[int, int], list[Drop]] = {}
    for drop in project.drops:
        plain = drop.poe_class is None and drop.kind not in (*CLOSET_KINDS, "room_switch")
        if plain and project.is_live(drop):
            by_room.setdefault((drop.room_id, drop.closet_id), []).append(drop)
    found = [_Room(room_id, tuple(drops)) for (room_id, _), drops in by_room.items() if len(drops) > 1]
    return sorted(found, key=lambda room: (-len(room.drops), room.room_id))


def _switch(outlook: Outlook, drops: Sequence[Drop], traffic_kbit: int) -> tuple[Switch, Speed, int] | None:
    """The least switch for a room, without a fan, the rate of its uplink, and its price; None: there is none."""
    settings = outlook.project.settings
    asked = sorted((drop.speed_mbit for drop in drops), reverse=True)
    best: tuple[int, Switch, Speed] | None = None
    for model in outlook.catalogue.switches:
        ports: list[Speed] = sorted((g.speed_mbit for g in model.ports for _ in range(g.count)), reverse=True)
        if not (model.in_stock and model.fanless and len(ports) > len(drops)):
            continue
        if settings.separate_networks and not model.managed:
            continue
        if any(drop.large_frames for drop in drops) and not model.large_frames:
            continue
        # the fastest port is the uplink's, the others go to the drops
        rate, others = ports[0], ports[1:]
        if any(there < wanted for there, wanted in zip(others, asked, strict=False)):
            continue
        if traffic_kbit > carried_kbit(rate):
            continue
        needed = [outlook.catalogue.spare_for(lack) for lack in model.lacks if lack == "supply"]
        if None in needed:
            continue
        cost = model.price_minor + sum(spare.price_minor for spare in needed if spare)
        if best is None or cost < best[0]:
            best = (cost, model, rate)
    return best and (best[1], best[2], best[0])


def _run_minor(project: Project, drop: Drop, price: RunPrice) -> int:
    """Cable and hours of a run [minor]; 0 where it is there already."""
    if drop.existing:
        return 0
    run = runs(project)[drop.id]
    cable = cable_of(project, drop).minor_per_m
    return round(run.length_m * cable) + round(price.hours(run) * price.hour_minor)


def _told(
    room: str, count: int, model: Switch, rate: Speed, traffic_kbit: int, more_minor: int, currency: str
) -> str:  # fmt: skip
    difference = money(abs(more_minor), currency)
    verdict = f"{difference} {'more' if more_minor > 0 else 'less'} than a cable each" if more_minor else "as dear"
    share = round(traffic_kbit / rate / 10)
    return (
        f"{counted(count, 'port')} in {room} by one cable of {speed(rate)} and {model.name}: {verdict}; the cable is "
        f"filled to {share} %, the switch wants a socket and {model.own_draw_w:g} W in the room."
    )
