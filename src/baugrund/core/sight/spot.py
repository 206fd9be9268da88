"""A spot that somebody points at: which views see it, and how well."""

from __future__ import annotations

import math

import numpy as np

from ..facts.building import Point
from ..facts.fact import Fact
from ..facts.project import Project
from ..physics.optics import steepness_deg
from ..places.layout import elevations
from ..standards.detail import DETAILS, PX_PER_M, Detail
from .lenses import lenses
from .lines import CLEAR, hidden_by, named
from .scene import scene
from .views import view_name


class SpotSeen(Fact):
    """A spot as one view sees it; only views that have it in their frame."""

    drop_id: int
    view_id: int | None
    name: str
    seen: bool
    px_m: float
    detail: Detail | None
    distance_m: float
    steep_deg: float
    blocked_by: str


def seen_from(project: Project, floor_id: int, at: Point, above_floor_m: float) -> tuple[SpotSeen, ...]:
    """Every view that has a spot in its frame, the best first."""
    stands = scene(project)
    spot = np.array([[*at, elevations(project.floors)[floor_id] + above_floor_m]])
    found: list[SpotSeen] = []
    for placed in lenses(project):
        lens = placed.lens
        way = spot - lens.spot
        if not placed.placed or not lens.has_in_frame(way)[0]:
            continue
        hidden = int(hidden_by(lens.spot, placed.fixed_to, spot, stands)[0])
        distance = float(np.sqrt((way**2).sum()))
        px_m = lens.frame.px_per_m(distance)
        met = [detail for detail in DETAILS if px_m >= PX_PER_M[detail]]
        blocked = "" if hidden == CLEAR else named(project, hidden, stands)
        found.append(
            SpotSeen(
                drop_id=placed.drop.id, view_id=placed.view.id if placed.view else None,
                name=view_name(project, placed), seen=hidden == CLEAR, px_m=round(px_m, 2),
                detail=met[-1] if met else None, distance_m=round(distance, 3),
                steep_deg=round(steepness_deg(-float(way[0, 2]), math.hypot(way[0, 0], way[0, 1])), 2),
                blocked_by=blocked,
            )
        )  # fmt: skip
    return tuple(sorted(found, key=lambda one: (not one.seen, -one.px_m, one.drop_id, one.view_id or 0)))
