"""Traffic: what a link carries at the busy hour, and what crosses it."""

from __future__ import annotations

from math import ceil

from .building import Closet
from .drop import Drop
from .project import Project

LINK_FILL_PERCENT = 70
"""A link carries this share of its rate at most, *default*."""
COPPER_MBIT = (1_000, 2_500, 5_000, 10_000)
"""Speeds of a link between closets over copper [Mbit/s]."""


def carried_kbit(rate_mbit: int) -> int:
    """Traffic that a link of this rate carries at most [kbit/s]."""
    return rate_mbit * 10 * LINK_FILL_PERCENT


def rate_for_mbit(traffic_kbit: int) -> int:
    """Least rate that carries so much traffic [Mbit/s], rounded up."""
    return ceil(traffic_kbit / (10 * LINK_FILL_PERCENT))


def busy_kbit(project: Project, drop: Drop) -> int:
    """Busy-hour traffic of a drop with all that hangs behind it [kbit/s]."""
    return round(sum(one.busy_mbit for one in (drop, *project.fed_by(drop))) * 1000)


def feeder(project: Project, closet: Closet) -> int:
    """The closet that a further closet is linked to."""
    return closet.fed_by_id or project.head_end.id


def fed_closets(project: Project, closet_id: int) -> tuple[int, ...]:
    """A closet and all that are fed through it."""
    below = [closet.id for closet in project.closets[1:] if feeder(project, closet) == closet_id]
    return (closet_id, *(number for one in below for number in fed_closets(project, one)))
