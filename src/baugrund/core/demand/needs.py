"""Demand: what each live or reserve drop asks of a port."""

from __future__ import annotations

import statistics
from collections.abc import Mapping
from dataclasses import dataclass

from ..facts.drop import Drop
from ..facts.drop_kinds import DROP_KINDS
from ..facts.kept import kept
from ..facts.project import Project
from ..physics.poe import half_watts_up_mw, port_watts
from ..power.feeds import counted_w
from ..standards.poe_classes import rank
from .growth import reserves
from .traffic import busy_kbit, fed_closets


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

    def asks_no_less(self, other: Need) -> bool:
        """Whether what serves this serves the other need, too."""
        return (
            self.poe_rank >= other.poe_rank
            and self.speed_mbit >= other.speed_mbit
            and self.power_mw >= other.power_mw
            and self.traffic_kbit >= other.traffic_kbit
            and self.large_frames >= other.large_frames
        )


@dataclass(frozen=True)
class DropNeed:
    """A need and whose it is: a drop on the list, or one in reserve."""

    need: Need
    kind: str
    drop_id: int | None = None

    @property
    def in_reserve(self) -> bool:
        return self.drop_id is None


@dataclass(frozen=True)
class Demand:
    """All that the drops of one closet ask of its ports in a year."""

    closet_id: int
    live: tuple[DropNeed, ...]
    reserve: tuple[DropNeed, ...]

    @property
    def all(self) -> tuple[DropNeed, ...]:
        return self.live + self.reserve

    @property
    def traffic_kbit(self) -> int:
        """Busy hour of all of them [kbit/s]."""
        return sum(asked.need.traffic_kbit for asked in self.all)


Demands = Mapping[int, Demand]
"""The demand of every closet by its number, the head end first."""


def need_of(project: Project, drop: Drop) -> Need:
    """What one drop asks for, by the project's school of adding up, with the watts and traffic of what it feeds."""
    behind = project.fed_by(drop)
    traffic_kbit = busy_kbit(project, drop)
    large_frames = drop.large_frames or any(one.large_frames for one in behind)
    if drop.poe_class is None:
        return Need(0, drop.speed_mbit, 0, traffic_kbit, large_frames)
    watts = half_watts_up_mw(counted_w(project, drop))
    return Need(rank(project.port_class(drop)), drop.speed_mbit, watts, traffic_kbit, large_frames)


def typical_need(project: Project, kind: str, live: list[Need]) -> Need:
    """Need of a reserve drop: median watts of the powered ones, highest class and speed, median traffic.

    With no drop of the kind on the list, the kind's defaults over its default run.
    """
    if not live:
        row = DROP_KINDS[kind]
        watts = 0.0
        if row.poe_class is not None:
            terms = project.settings.feed_terms
            loop_ohm = terms.loop_ohm(row.poe_class, row.run_m)
            watts = port_watts(project.settings.school, row.poe_class, row.draw_w, loop_ohm, port_v=terms.port_v)
        return Need(rank(row.poe_class), row.speed_mbit, half_watts_up_mw(watts), round(row.traffic_mbit * 1000))
    powered = [need.power_mw for need in live if need.poe_rank]
    return Need(
        max(need.poe_rank for need in live),
        max(need.speed_mbit for need in live),
        half_watts_up_mw(statistics.median(powered) / 1000) if powered else 0,
        round(statistics.median(need.traffic_kbit for need in live)),
    )


@kept
def live_needs(project: Project) -> Mapping[int, tuple[DropNeed, ...]]:
    """What the live drops of every closet ask for, in the order of the list."""
    asked: dict[int, list[DropNeed]] = {closet.id: [] for closet in project.closets}
    for drop in project.drops:
        if project.is_live(drop):
            asked[drop.closet_id].append(DropNeed(need_of(project, drop), drop.kind, drop.id))
    return {number: tuple(some) for number, some in asked.items()}


def demands(project: Project, years: int) -> Demands:
    """Demand of every closet ``years`` after the start."""
    live = live_needs(project)
    growth = reserves(project, years)
    return {number: _demand(project, number, live[number], growth[number]) for number in live}


@kept
def _typical_needs(project: Project) -> Mapping[tuple[int, str], Need]:
    """What a reserve drop of each kind in each closet asks for, where some of that kind are live."""
    by_kind: dict[tuple[int, str], list[Need]] = {}
    for number, live in live_needs(project).items():
        for asked in live:
            by_kind.setdefault((number, asked.kind), []).append(asked.need)
    return {(number, kind): typical_need(project, kind, some) for (number, kind), some in by_kind.items()}


def _demand(project: Project, closet_id: int, live: tuple[DropNeed, ...], growth: Mapping[str, int]) -> Demand:
    typical = _typical_needs(project)
    reserve: list[DropNeed] = []
    for kind, count in sorted(growth.items()):
        need = typical.get((closet_id, kind)) or typical_need(project, kind, [])
        reserve += [DropNeed(need, kind)] * count
    return Demand(closet_id, live, tuple(reserve))


def behind(project: Project, of: Demands, closet_id: int) -> tuple[DropNeed, ...]:
    """All that is asked for in a closet and in those that it feeds, however far down."""
    return tuple(asked for number in fed_closets(project, closet_id) for asked in of[number].all)


def crossing_kbit(project: Project, of: Demands, closet_id: int) -> int:
    """Busy-hour traffic over the link that feeds a closet [kbit/s]."""
    return sum(of[number].traffic_kbit for number in fed_closets(project, closet_id))
