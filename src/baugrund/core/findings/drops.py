"""Checks of single drops: power, cable, speed, length, and what they are mounted to."""

from __future__ import annotations

from collections.abc import Iterator

from shapely import Point, Polygon

from ..edits import ChangeDrops, DropChanges
from ..facts.drop import Drop
from ..physics.poe import feed_faults
from ..places.layout import layout
from ..power.feeds import loop_ohm
from ..reach.runs import lengths
from ..standards.poe_classes import POE_CLASSES, smallest_class_for
from ..words import counted, speed
from .finding import Finding, Settle, SiteState, on_drops

TOUCHING_M = 0.05
"""So far outside its room a drop may be and still be on its wall."""


def over_class(site: SiteState) -> Iterator[Finding]:
    """A device draws more than its class gives it (IEEE Std 802.3-2022, clauses 33 and 145)."""
    for drop in site.project.drops:
        draw_w = site.project.draw_w(drop)
        if drop.poe_class is None or draw_w <= POE_CLASSES[drop.poe_class].device_w:
            continue
        fitting = smallest_class_for(draw_w)
        settle = None
        if fitting:
            edit = ChangeDrops(ids=(drop.id,), changes=DropChanges(poe_class=fitting))
            settle = Settle(label=f"Ask for class {fitting}", edit=edit)
        yield Finding(
            key=f"class-{drop.id}", weight="breaks", subject=site.project.name_of(drop), verb="walk",
            text=f"draws {draw_w:g} W; class {drop.poe_class} gives a device "
                 f"{POE_CLASSES[drop.poe_class].device_w:g} W at most.",
            drop_ids=(drop.id,), settle=settle,
        )  # fmt: skip


def over_reserved(site: SiteState) -> Iterator[Finding]:
    """Watts measured at the port over what its class reserves there (IEEE Std 802.3-2022, clauses 33 and 145)."""
    for drop in site.project.drops:
        if drop.poe_class is None or drop.measured_w is None:
            continue
        reserved = POE_CLASSES[drop.poe_class].port_w
        if drop.measured_w > reserved + 1e-9:
            yield Finding(
                key=f"measured-{drop.id}", weight="breaks", subject=site.project.name_of(drop), verb="walk",
                text=f"was measured at {drop.measured_w:g} W at the port; class {drop.poe_class} reserves "
                     f"{reserved:g} W there. Measure again, or ask for a higher class.",
                drop_ids=(drop.id,),
            )  # fmt: skip


def unknown_draws(site: SiteState) -> Iterator[Finding]:
    """Powered drops whose draw nobody has typed: the most that their class allows is counted."""
    ids = tuple(drop.id for drop in site.project.drops if drop.poe_class is not None and not drop.draw_w)
    if ids:
        first = site.project.drops_by_id[ids[0]]
        yield Finding(
            key="unknown-draws", weight="note", subject="Watts", verb="walk", drop_ids=ids,
            text=f"{counted(len(ids), 'powered drop')} without a typed draw: each counts the most that its class "
                 f"allows a device ({site.project.name_of(first)}: {POE_CLASSES[first.poe_class or 0].device_w:g} W).",
        )  # fmt: skip


def copper_clad(site: SiteState) -> Iterator[Finding]:
    """Copper-clad aluminium: about 1.6 times the resistance, and no cable for power (ANSI/TIA-568.2: copper)."""
    powered = tuple(d.id for d in site.project.drops if d.copper_clad and d.poe_class is not None)
    bare = tuple(d.id for d in site.project.drops if d.copper_clad and d.poe_class is None)
    if powered:
        yield Finding(
            key="clad-powered", weight="breaks", subject=site.project.name_of(site.project.drops_by_id[powered[0]]),
            verb="walk", drop_ids=powered,
            text=f"{'is' if len(powered) == 1 else f'and {len(powered) - 1} more are'} on copper-clad cable, which "
                 "must not carry power: it loses about 1.6 times as much and gets warm. Pull copper, or power the "
                 "device where it stands.",
        )  # fmt: skip
    if bare:
        yield Finding(
            key="clad", weight="strains", subject="Copper-clad cable", verb="walk", drop_ids=bare,
            text=f"{counted(len(bare), 'drop')} on copper-clad cable: no standard covers it, and it must not carry "
                 "power.",
        )  # fmt: skip


def feeds(site: SiteState) -> Iterator[Finding]:
    """Too few volts or too many amperes behind the loop of a run (IEEE Std 802.3-2022)."""
    length_m = lengths(site.project)
    for drop in site.project.drops:
        if drop.poe_class is None:
            continue
        row = POE_CLASSES[drop.poe_class]
        draw_w = site.project.draw_w(drop)
        if draw_w > row.device_w or drop.behind_id is not None:
            continue
        faults = feed_faults(draw_w, row, loop_ohm(site.project, drop), site.project.settings.port_volts)
        if faults:
            yield Finding(
                key=f"feed-{drop.id}", weight="breaks", subject=site.project.name_of(drop), verb="load",
                text=f"over {length_m[drop.id]:g} m: {'; '.join(faults)}.", drop_ids=(drop.id,),
            )  # fmt: skip


def outside(site: SiteState) -> Iterator[Finding]:
    """Indoor cable outside, one finding a place."""
    rooms = site.project.rooms_by_id
    bare = [d for d in site.project.drops if rooms[d.room_id].outside and not d.outdoor_jacket]
    by_room: dict[int, list[Drop]] = {}
    for drop in bare:
        by_room.setdefault(drop.room_id, []).append(drop)
    for room_id, drops in by_room.items():
        ids = tuple(drop.id for drop in drops)
        verb = "is" if len(ids) == 1 else "are"
        yield Finding(
            key=f"jacket-{room_id}", weight="breaks", subject=rooms[room_id].name, verb="walk",
            text=f"{counted(len(ids), 'drop')} outside {verb} on indoor cable. Outside and between buildings, surge "
                 "protection and earthing are work for a licensed person; local code decides.",
            drop_ids=ids,
            settle=Settle(
                label="Take outdoor jacket", edit=ChangeDrops(ids=ids, changes=DropChanges(outdoor_jacket=True))
            ),
        )  # fmt: skip


def category_5(site: SiteState) -> Iterator[Finding]:
    """Power over category 5: nobody knows what it carries before it is measured."""
    old = [drop for drop in site.project.drops if drop.category == "5" and drop.poe_class is not None]
    if old:
        yield Finding(
            key="category-5", weight="strains", subject="Old cable", verb="walk",
            text=f"{counted(len(old), 'powered drop')} on category 5: measure it before power goes on.",
            drop_ids=tuple(drop.id for drop in old),
        )  # fmt: skip


def behind(site: SiteState) -> Iterator[Finding]:
    """What hangs behind a room switch or in-wall access point: its ports, its power, its speed."""
    project = site.project
    for drop_id, some in project.behind.items():
        feeder = project.drops_by_id[drop_id]
        name = project.name_of(feeder)
        ids = tuple(drop.id for drop in some)
        if len(some) > feeder.lan_ports:
            yield Finding(
                key=f"behind-{drop_id}", weight="breaks", subject=name, verb="walk", drop_ids=ids,
                text=f"feeds {counted(len(some), 'drop')}; it has {counted(feeder.lan_ports, 'port')} to give.",
            )  # fmt: skip
        slowed = [drop for drop in some if drop.speed_mbit > feeder.speed_mbit]
        if slowed:
            yield Finding(
                key=f"narrow-{drop_id}", weight="strains", subject=name, verb="walk",
                drop_ids=tuple(drop.id for drop in slowed),
                text=f"has a {speed(feeder.speed_mbit)} uplink; more is asked for behind it.",
            )  # fmt: skip


def sockets_at_drops(site: SiteState) -> Iterator[Finding]:
    """A room switch that is not fed over the cable needs mains where it stands."""
    for drop in site.project.drops:
        if drop.kind == "room_switch" and drop.poe_class is None and drop.socket is not True:
            state = (
                "has no mains socket"
                if drop.socket is False
                else "needs a mains socket; whether there is one is not known"
            )
            edit = ChangeDrops(ids=(drop.id,), changes=DropChanges(poe_class=3, draw_w=6.0))
            yield on_drops(
                site.project, (drop.id,), f"socket-{drop.id}", "strains" if drop.socket is False else "note",
                f"{state}. A new one is work for a licensed electrician; or it is fed over the cable.",
            ).model_copy(update={"settle": Settle(label="Feed it over the cable", edit=edit)})  # fmt: skip


def passive(site: SiteState) -> Iterator[Finding]:
    """Passive gear is never counted on a standard port."""
    some = tuple(drop.id for drop in site.project.drops if drop.supply == "passive")
    if some:
        yield on_drops(
            site.project, some, "passive", "strains",
            "is passive gear: it has no class, a standard port does not power it, and its injector can destroy "
            "what does not expect 24 or 48 V. Mark its cord.",
        )  # fmt: skip


def powered_twice(site: SiteState) -> Iterator[Finding]:
    """A class asked of the port and a supply of its own at once."""
    some = tuple(d.id for d in site.project.drops if d.poe_class is not None and d.supply in ("passive", "own"))
    if some:
        edit = ChangeDrops(ids=some, changes=DropChanges(poe_class=None))
        yield on_drops(
            site.project, some, "powered-twice", "strains",
            "has a supply of its own and asks the port for power too.",
        ).model_copy(update={"settle": Settle(label="Ask nothing of the port", edit=edit)})  # fmt: skip


def outside_their_room(site: SiteState) -> Iterator[Finding]:
    """A drop that was placed, and is not within its room any more."""
    placed = [drop for drop in site.project.drops if drop.x_m is not None and drop.y_m is not None]
    if not placed:
        return
    wanted = {drop.room_id for drop in placed}
    rooms = layout(site.project).rooms
    shapes = {room.id: Polygon(room.outline).buffer(TOUCHING_M) for room in rooms if room.id in wanted}
    for drop in placed:
        drop_id = drop.id
        if shapes[drop.room_id].covers(Point(drop.x_m or 0.0, drop.y_m or 0.0)):
            continue
        room = site.project.rooms_by_id[drop.room_id].name
        edit = ChangeDrops(ids=(drop_id,), changes=DropChanges(x_m=None, y_m=None))
        yield on_drops(
            site.project, (drop_id,), f"astray-{drop_id}", "strains", f"stands outside {room} on the plan."
        ).model_copy(update={"settle": Settle(label=f"Back into {room}", edit=edit)})
