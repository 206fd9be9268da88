"""Ports beyond the closet: a room that wants several, by a cable each or by one cable and a switch in the room.

Both ways are the whole project priced: cable and hours of the runs, the least pick, and the room switch.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from ..cabling.fill import cable_of
from ..cabling.pulls import run_hours
from ..demand.needs import need_of
from ..demand.traffic import busy_kbit, carried_kbit
from ..edits import UseRoomSwitch
from ..errors import TookTooLong
from ..explain.years import Outlook
from ..facts.drop import Drop
from ..facts.drop_kinds import CLOSET_KINDS
from ..facts.fact import Fact
from ..facts.lines.line import Speed
from ..facts.lines.switch import Switch
from ..facts.project import Project
from ..pick.best import least_price
from ..reach.runs import runs
from ..siting.costs import RunPrice
from ..watch import counted_off
from ..words import counted, money, speed

ROOMS_MOST = 12
"""Rooms with most ports that are priced; others would gain less."""


class RoomPorts(Fact):
    """A room with several ports, both ways priced.  Money in minor units, of cable, hours and equipment together."""

    room_id: int
    room: str
    edit: UseRoomSwitch
    """What makes it so: the ports, the rate of their cable, how the switch is fed and what it draws."""
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
    traffic_mbit: float
    closet_w: float
    """What it takes of a budget in the closet [W]."""
    sentence: str

    @property
    def own_minor(self) -> int:
        """What the switch costs more without the pick: its cable and itself, less the cables that it spares."""
        return self.one_cable_minor + self.switch_minor - self.cables_minor


@dataclass(frozen=True)
class _Room:
    room_id: int
    drops: tuple[Drop, ...]


@dataclass(frozen=True)
class _Chosen:
    """A switch for a room, what it costs with what it lacks [minor], and the rate of its cable."""

    cost_minor: int
    model: Switch
    rate: Speed

    def edit(self, drops: Sequence[Drop]) -> UseRoomSwitch:
        return UseRoomSwitch(
            drop_ids=tuple(drop.id for drop in drops), speed_mbit=self.rate, name=self.model.name,
            fed_class=self.model.fed_class, draw_w=self.model.own_draw_w,
        )  # fmt: skip


def rooms_beyond(outlook: Outlook, pick_minor: int) -> Iterator[RoomPorts]:
    """Every room with several plain ports, those with most first, where a switch of the catalogue would do: one with a
    socket or one that its cable feeds, whichever costs less in all.

    ``pick_minor``: price of the least pick with a cable for each.
    """
    for room in counted_off(_rooms(outlook.project)[:ROOMS_MOST]):
        tried = (_priced(outlook, room, chosen, pick_minor) for chosen in _switches(outlook, room.drops))
        ways = sorted((way for way in tried if way), key=lambda way: way.more_minor)
        if ways:
            yield ways[0].model_copy(update={"sentence": _told(ways, outlook.project.settings.currency)})


def _pick_minor(outlook: Outlook, project: Project) -> int | None:
    """The least pick of a project; None: nothing fits, or it was not found in time."""
    try:
        found = least_price(outlook.site(project.settings.horizon_years, project)[0])
    except TookTooLong:
        return None
    return found.price_minor if found else None


def _priced(outlook: Outlook, room: _Room, chosen: _Chosen, pick_minor: int) -> RoomPorts | None:
    """A room with this switch, all counted; None: nothing fits then."""
    project, model = outlook.project, chosen.model
    edit = chosen.edit(room.drops)
    with_switch = edit.apply(project)
    found = _pick_minor(outlook, with_switch)
    if found is None:
        return None
    price = RunPrice(project)
    made = with_switch.drops[-1]
    cables = sum(_run_minor(project, drop, price) for drop in room.drops)
    one = _run_minor(with_switch, made, price)
    return RoomPorts(
        room_id=room.room_id, room=project.rooms_by_id[room.room_id].name, edit=edit, cables_minor=cables,
        one_cable_minor=one, model=model.key, name=model.name, switch_minor=chosen.cost_minor,
        pick_minor=found - pick_minor, more_minor=one + chosen.cost_minor + found - pick_minor - cables,
        traffic_mbit=_traffic_kbit(project, room.drops) / 1000,
        closet_w=need_of(with_switch, made).power_mw / 1000, sentence="",
    )  # fmt: skip


def _traffic_kbit(project: Project, drops: Sequence[Drop]) -> int:
    return sum(busy_kbit(project, drop) for drop in drops)


def _rooms(project: Project) -> list[_Room]:
    """Rooms with two or more plain drops that end in one closet with cables of their own."""
    by_room: dict[tuple[int, int], list[Drop]] = {}
    for drop in project.drops:
        plain = drop.poe_class is None and drop.kind not in (*CLOSET_KINDS, "room_switch")
        if plain and project.is_live(drop):
            by_room.setdefault((drop.room_id, drop.closet_id), []).append(drop)
    found = [_Room(room_id, tuple(drops)) for (room_id, _), drops in by_room.items() if len(drops) > 1]
    return sorted(found, key=lambda room: (-len(room.drops), room.room_id))


def _switches(outlook: Outlook, drops: Sequence[Drop]) -> list[_Chosen]:
    """The least switch for a room with a socket, and the least that its cable feeds, as far as there are any."""
    settings = outlook.project.settings
    asked = sorted((drop.speed_mbit for drop in drops), reverse=True)
    traffic_kbit = _traffic_kbit(outlook.project, drops)
    best: dict[bool, _Chosen] = {}
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
        if traffic_kbit > carried_kbit(rate, settings.link_fill_percent):
            continue
        needed = [outlook.catalogue.spare_for(lack) for lack in model.lacks if lack == "supply"]
        if None in needed:
            continue
        cost = model.price_minor + sum(spare.price_minor for spare in needed if spare)
        is_fed = model.fed_class is not None
        if is_fed not in best or cost < best[is_fed].cost_minor:
            best[is_fed] = _Chosen(cost, model, rate)
    return list(best.values())


def _run_minor(project: Project, drop: Drop, price: RunPrice) -> int:
    """Cable and hours of a run [minor]; 0 where it is there already."""
    if drop.existing:
        return 0
    run = runs(project)[drop.id]
    cable = cable_of(project, drop).minor_per_m
    return round(run.length_m * cable) + round(run_hours(project)[drop.id] * price.hour_minor)


def _told(ways: Sequence[RoomPorts], currency: str) -> str:
    """The cheapest way in words, and what the other way of feeding the switch would cost more."""
    room, edit = ways[0], ways[0].edit
    difference = money(abs(room.more_minor), currency)
    verdict = f"{difference} {'more' if room.more_minor > 0 else 'less'} than a cable each"
    feeding = (
        f"the switch wants a socket and {edit.draw_w:g} W in the room"
        if edit.fed_class is None
        else f"it feeds the switch too, with {room.closet_w:g} W of the closet's budget"
    )
    told = (
        f"{counted(len(edit.drop_ids), 'port')} in {room.room} by one cable of {speed(edit.speed_mbit)} and "
        f"{room.name}: {verdict if room.more_minor else 'as dear'}; the cable is filled to "
        f"{round(room.traffic_mbit / edit.speed_mbit * 100)} %, {feeding}."
    )
    for other in ways[1:]:
        how = "Fed over its cable" if other.edit.fed_class is not None else "With a socket in the room"
        told += f" {how}, {other.name} costs {money(other.more_minor - room.more_minor, currency)} more."
    return told
