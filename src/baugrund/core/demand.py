"""Demand: what each live or reserve drop asks of a port."""

from __future__ import annotations

import statistics
from dataclasses import dataclass

from .building import Closet
from .drop import Drop
from .drop_kinds import DROP_KINDS
from .growth import reserves
from .poe import half_watts_up_mw, port_watts
from .project import Project
from .reach.runs import ROOM_C, lengths, warmth
from .standards.poe_classes import rank
from .traffic import COPPER_MBIT, LINK_FILL_PERCENT, busy_kbit, fed_closets, feeder


@dataclass(frozen=True, order=True)
class Need:
    """What one drop asks of a port, in whole numbers: no float decides what fits."""

    poe_rank: int
    """PoE class as it compares, 1 to 8; 0: none."""
    speed_mbit: int
    power_mw: int
    """Watts at the port by the project's school, up to the next half watt, without margin [mW]."""
    traffic_kbit: int
    """Busy-hour traffic [kbit/s]."""
    large_frames: bool = False


@dataclass(frozen=True)
class Asked:
    """A need and whose it is: a drop on the list, the link to a further closet, or (neither) one in reserve."""

    need: Need
    kind: str
    drop_id: int | None = None
    closet_id: int | None = None

    @property
    def in_reserve(self) -> bool:
        return self.drop_id is None and self.closet_id is None


@dataclass(frozen=True)
class Demand:
    """All that the head end's ports must carry in a year."""

    live: tuple[Asked, ...]
    reserve: tuple[Asked, ...]

    @property
    def all(self) -> tuple[Asked, ...]:
        return self.live + self.reserve


def need_of(project: Project, drop: Drop) -> Need:
    """What one drop asks for, by the project's school of adding up, with the watts and traffic of what it feeds."""
    behind = project.fed_by(drop)
    traffic_kbit = busy_kbit(project, drop)
    large_frames = drop.large_frames or any(one.large_frames for one in behind)
    if drop.poe_class is None:
        return Need(0, drop.speed_mbit, 0, traffic_kbit, large_frames)
    watts = port_watts(
        project.settings.school,
        drop.poe_class,
        project.draw_w(drop),
        lengths(project)[drop.id],
        measured_w=drop.measured_w,
        temperature_c=warmth(project).get(drop.id, ROOM_C),
    )
    return Need(rank(drop.poe_class), drop.speed_mbit, half_watts_up_mw(watts), traffic_kbit, large_frames)


def typical_need(project: Project, kind: str, live: list[Need]) -> Need:
    """Need of a reserve drop: median watts of the powered ones, highest class and speed, median traffic.

    With no drop of the kind on the list, the kind's defaults over its default run.
    """
    if not live:
        row = DROP_KINDS[kind]
        watts = 0.0
        if row.poe_class is not None:
            watts = port_watts(project.settings.school, row.poe_class, row.draw_w, row.run_m)
        return Need(rank(row.poe_class), row.speed_mbit, half_watts_up_mw(watts), round(row.traffic_mbit * 1000))
    powered = [need.power_mw for need in live if need.poe_rank]
    return Need(
        max(need.poe_rank for need in live),
        max(need.speed_mbit for need in live),
        half_watts_up_mw(statistics.median(powered) / 1000) if powered else 0,
        round(statistics.median(need.traffic_kbit for need in live)),
    )


def live_needs(project: Project) -> tuple[Asked, ...]:
    """What the live drops of the head end ask for, in the order of the list, then links to closets that it feeds."""
    live = [drop for drop in project.drops if project.is_live(drop)]
    here = tuple(Asked(need_of(project, drop), drop.kind, drop.id) for drop in live if project.at_head_end(drop))
    direct = (closet for closet in project.closets[1:] if feeder(project, closet) == project.head_end.id)
    return here + tuple(_link_to(project, closet, live) for closet in direct)


def _link_to(project: Project, closet: Closet, live: list[Drop]) -> Asked:
    """The port that the link to a further closet takes, fast enough for the live drops there and further on."""
    behind = set(fed_closets(project, closet.id))
    traffic_kbit = sum(busy_kbit(project, drop) for drop in live if drop.closet_id in behind)
    fitting = (rate for rate in COPPER_MBIT if traffic_kbit <= rate * 10 * LINK_FILL_PERCENT)
    return Asked(Need(0, next(fitting, COPPER_MBIT[-1]), 0, traffic_kbit), "uplink", closet_id=closet.id)


def demand(project: Project, years: int, live: tuple[Asked, ...] | None = None) -> Demand:
    """Demand ``years`` after the start.  ``live`` spares counting the list again when it is at hand."""
    live = live_needs(project) if live is None else live
    by_kind: dict[str, list[Need]] = {}
    for asked in live:
        by_kind.setdefault(asked.kind, []).append(asked.need)
    reserve: list[Asked] = []
    for kind, count in sorted(reserves(project, years).items()):
        reserve += [Asked(typical_need(project, kind, by_kind.get(kind, [])), kind)] * count
    return Demand(live, tuple(reserve))
