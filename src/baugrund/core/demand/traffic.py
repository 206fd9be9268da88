"""Traffic: what a link carries at the busy hour, and what crosses it."""

from __future__ import annotations

from collections.abc import Mapping
from math import ceil

from ..facts.building import Closet
from ..facts.drop import Drop
from ..facts.kept import kept
from ..facts.project import Project

COPPER_MBIT = (1_000, 2_500, 5_000, 10_000)
"""Speeds of a link between closets over copper [Mbit/s]."""


def carried_kbit(rate_mbit: int, fill_percent: int) -> int:
    """Traffic that a link of this rate carries at most, filled to so much of it [kbit/s]."""
    return rate_mbit * 10 * fill_percent


def rate_for_mbit(traffic_kbit: int, fill_percent: int) -> int:
    """Least rate that carries so much traffic, filled to so much of it [Mbit/s], rounded up."""
    return ceil(traffic_kbit / (10 * fill_percent))


def keeper(project: Project, camera: Drop) -> int | None:
    """The recorder or NAS that keeps what a camera films: as typed, else the first recorder on the list."""
    if camera.by_service:
        return None
    if camera.recorder_id is not None:
        return camera.recorder_id
    return first_recorder(project)


@kept
def first_recorder(project: Project) -> int | None:
    """The first recorder on the list."""
    return next((drop.id for drop in project.drops if drop.kind == "recorder"), None)


@kept
def kept_mbit(project: Project) -> Mapping[int, float]:
    """Streams of all cameras that each recorder or NAS keeps [Mbit/s], by its number."""
    found: dict[int, float] = {}
    for drop in project.drops:
        if drop.kind == "camera" and project.is_counted(drop):
            at = keeper(project, drop)
            if at is not None:
                found[at] = found.get(at, 0.0) + drop.busy_mbit
    return found


def busy_mbit(project: Project, drop: Drop) -> float:
    """Busy-hour traffic of a drop alone [Mbit/s]; of what records the streams that it keeps, if they are more."""
    return max(drop.busy_mbit, kept_mbit(project).get(drop.id, 0.0))


def busy_kbit(project: Project, drop: Drop) -> int:
    """Busy-hour traffic of a drop with all that hangs behind it [kbit/s]."""
    return round(sum(busy_mbit(project, one) for one in (drop, *project.fed_by(drop))) * 1000)


def feeder(project: Project, closet: Closet) -> int:
    """The closet that a further closet is linked to."""
    return closet.fed_by_id or project.head_end.id


def fed_closets(project: Project, closet_id: int) -> tuple[int, ...]:
    """A closet and all that are fed through it."""
    below = [closet.id for closet in project.closets[1:] if feeder(project, closet) == closet_id]
    return (closet_id, *(number for one in below for number in fed_closets(project, one)))
