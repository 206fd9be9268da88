"""A phone carried along a walk: which access point it is with, and where it clings to one that is no longer the best.

It stays with the one that it has until another is so much stronger that it moves over.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import groupby, pairwise

import numpy as np

from ..facts.building import Point
from ..facts.catalogue import Catalogue
from ..facts.fact import Fact
from ..facts.project import Project
from ..places.layout import elevations
from ..standards.radio import CLIENT_HEIGHT_M, Band
from .field import in_the_way_db, losses_of, received_dbm
from .obstructions import crossings, obstructions
from .radios import stations

STRIDE_M = 0.5
"""A walk is looked at so often [m]."""


class Stretch(Fact):
    """A part of a walk on which a phone is with one access point."""

    drop_id: int
    points: tuple[Point, ...]
    length_m: float
    clings: bool
    """Another one is stronger all along it, but not by enough to move over."""
    better_id: int | None
    """The strongest one there, where it clings: for most of it."""
    least_dbm: float
    """The least that the phone hears of the one that it has."""


class Roamed(Fact):
    """A walk with a phone."""

    stretches: tuple[Stretch, ...]
    moves: int
    """How often it moves over."""
    clings_m: float
    sticky_db: float


def roamed(
    project: Project, catalogue: Catalogue | None, floor_id: int, band: Band, corners: Sequence[Point]
) -> Roamed | None:
    """A walk from corner to corner on a floor; None: no access point sends in that band."""
    senders = [s for station in stations(project, catalogue) for s in station.senders if s.band == band]
    if not senders:
        return None
    spots = strides(corners)
    z_m = elevations(project.floors)[floor_id] + CLIENT_HEIGHT_M
    points = np.array([(x, y, z_m) for x, y in spots])
    of, losses = obstructions(project), losses_of(project)
    levels = np.array([
        received_dbm(sender, points, in_the_way_db(of, crossings(of, sender.spot, points), losses, band))
        for sender in senders
    ])  # fmt: skip
    has = carried(levels, project.settings.sticky_db)
    best = np.argmax(levels, axis=0)
    parts = []
    for (mine, clings), some in groupby(range(len(spots)), key=lambda n: (has[n], best[n] != has[n])):
        places = list(some)
        line = spots[places[0] : min(places[-1] + 2, len(spots))]
        most = np.bincount(best[places]).argmax()
        parts.append(
            Stretch(
                drop_id=senders[mine].drop_id, points=tuple(line), clings=bool(clings),
                length_m=round(sum(math.dist(a, b) for a, b in pairwise(line)), 2),
                better_id=senders[most].drop_id if clings else None,
                least_dbm=round(float(levels[mine, places].min()), 2),
            )
        )  # fmt: skip
    return Roamed(
        stretches=tuple(parts), moves=sum(a != b for a, b in pairwise(has)),
        clings_m=round(sum(part.length_m for part in parts if part.clings), 2), sticky_db=project.settings.sticky_db,
    )  # fmt: skip


def carried(levels: np.ndarray, sticky_db: float) -> list[int]:
    """Which access point (a row of levels) a phone is with at every spot (a column): it moves over to the strongest
    once that is stronger by more than ``sticky_db``."""
    has: list[int] = []
    for column in levels.T:
        best = int(np.argmax(column))
        now = has[-1] if has else best
        has.append(best if column[best] - column[now] > sticky_db else now)
    return has


def strides(corners: Sequence[Point]) -> list[Point]:
    """Spots along a walk, no more than `STRIDE_M` apart, its corners among them."""
    found: list[Point] = [corners[0]]
    for (x, y), (to_x, to_y) in pairwise(corners):
        steps = max(1, math.ceil(math.dist((x, y), (to_x, to_y)) / STRIDE_M))
        found += [(x + (to_x - x) * n / steps, y + (to_y - y) * n / steps) for n in range(1, steps + 1)]
    return found
