"""Views: where every lens sees how much, what stays blind, and what a near wall takes of it."""

from __future__ import annotations

import math
from functools import lru_cache
from itertools import accumulate

import numpy as np
from shapely import Point, Polygon
from shapely.geometry.base import BaseGeometry

from ..facts.fact import Fact
from ..facts.kept import kept
from ..facts.project import Project
from ..physics.optics import Frame, Lens, Projection, usual_projection
from ..standards.detail import DETAILS, HEIGHTS_LOOKED_AT_M, NEAR_WALL_M, PX_PER_M, Detail
from .cut import Rings, rings_of, seen_at, within
from .lenses import Placed, lenses
from .scene import SLAB_EDGE, Blocker, Scene, scene
from .sun import SunLine, sun_in

FACE_M = HEIGHTS_LOOKED_AT_M["face"]


class Band(Fact):
    """Where a view has a detail, at the height looked at."""

    detail: Detail
    reach_m: float
    """How far from the lens, in space."""
    ground_m: float
    """The same along the ground; 0: nowhere at that height."""
    area_m2: float
    rings: Rings
    """Outer and inner rings [m], to be filled even-odd."""


class ViewLine(Fact):
    """What one lens sees, with all that nobody has typed filled in."""

    drop_id: int
    view_id: int | None
    """None: nobody has typed anything of it."""
    name: str
    floor_id: int
    placed: bool
    """Whether somebody has put the camera where it is; what is seen from elsewhere is not told."""
    x_m: float
    y_m: float
    height_m: float
    """The lens above its floor."""
    bearing_deg: float
    tilt_deg: float
    across_deg: float
    down_deg: float
    narrowest_deg: float | None
    zoomed_identify_m: float | None
    """How far it identifies at its narrowest, in space; None: it does not zoom."""
    across_px: int
    down_px: int
    projection: Projection
    light_m: float
    usual: tuple[str, ...]
    """What nobody has typed, and is usual for its form."""
    looked_at_m: float
    """Height above the floor that the bands are told at."""
    blind_m: float | None
    """Ground under it that stays unseen; None: its lower edge does not come down."""
    blind_looked_at_m: float | None
    """The same at the height looked at."""
    near_wall_share: float
    """Share of its angle across, at its own height, whose first piece stands near."""
    bands: tuple[Band, ...]
    """From the least detail to the most."""
    masked_m2: float


def view_name(project: Project, placed: Placed) -> str:
    """How a view is spoken of."""
    name = project.name_of(placed.drop)
    return f"{name}, {placed.view.name}" if placed.view and placed.view.name else name


@kept
def views_of(project: Project) -> tuple[ViewLine, ...]:
    """Every view, its bands at the height of a face."""
    return views_at(project, FACE_M)


def placed_view(project: Project, drop_id: int, view_id: int | None) -> Placed | None:
    """One view of a drop, its first where none is named; None: it is not there."""
    of_drop = [placed for placed in lenses(project) if placed.drop.id == drop_id]
    return next((one for one in of_drop if view_id is None or (one.view and one.view.id == view_id)), None)


def views_at(project: Project, looked_at_m: float) -> tuple[ViewLine, ...]:
    """Every view, its bands at a height above its own floor [m]."""
    stands = scene(project)
    return tuple(_view(project, placed, looked_at_m, stands) for placed in lenses(project))


def _view(project: Project, placed: Placed, looked_at_m: float, stands: Scene) -> ViewLine:
    lens = placed.lens
    bands = _bands(lens, placed.fixed_to, lens.z_m - placed.height_m + looked_at_m, stands) if placed.placed else ()
    masks = [Polygon(mask) for mask in placed.view.masks] if placed.view else []
    return ViewLine(
        drop_id=placed.drop.id, view_id=placed.view.id if placed.view else None, name=view_name(project, placed),
        floor_id=placed.floor_id, placed=placed.placed, x_m=round(lens.x_m, 3), y_m=round(lens.y_m, 3),
        height_m=round(placed.height_m, 3), bearing_deg=round(lens.bearing_deg, 2), tilt_deg=lens.tilt_deg,
        across_deg=round(lens.frame.across_deg, 2), down_deg=round(lens.frame.down_deg, 2),
        narrowest_deg=placed.view.narrowest_deg if placed.view else None,
        zoomed_identify_m=_zoomed_m(placed),
        across_px=lens.frame.across_px, down_px=lens.frame.down_px, projection=lens.frame.projection,
        light_m=placed.light_m, usual=placed.usual, looked_at_m=looked_at_m,
        blind_m=_finite(lens.blind_m(placed.height_m)),
        blind_looked_at_m=_finite(lens.blind_m(placed.height_m - looked_at_m)),
        near_wall_share=near_share(lens, placed.fixed_to, stands) if placed.placed else 0.0,
        bands=bands, masked_m2=round(sum(mask.area for mask in masks), 2),
    )  # fmt: skip


def _zoomed_m(placed: Placed) -> float | None:
    """How far a view identifies when it is zoomed in [m]."""
    narrowest = placed.view.narrowest_deg if placed.view else None
    if narrowest is None:
        return None
    frame = placed.lens.frame
    zoomed = Frame(narrowest, frame.across_px, frame.down_px, usual_projection(narrowest))
    return round(zoomed.reach_m(PX_PER_M["identify"]), 3)


def _finite(metres: float) -> float | None:
    return round(metres, 3) if math.isfinite(metres) else None


@lru_cache(maxsize=512)
def _bands(lens: Lens, fixed_to: int | None, z_m: float, stands: Scene) -> tuple[Band, ...]:
    """The bands of a view, kept while neither the lens nor what stands in its way is another."""
    seen = seen_at(lens, fixed_to, z_m, lens.frame.reach_m(PX_PER_M[DETAILS[0]]), stands)

    def nearer(shape: BaseGeometry, detail: Detail) -> BaseGeometry:
        return within(lens, shape, z_m, lens.frame.reach_m(PX_PER_M[detail]))

    shapes = accumulate(DETAILS[1:], nearer, initial=seen)
    return tuple(_band(lens, detail, shape, z_m) for detail, shape in zip(DETAILS, shapes, strict=True))


def _band(lens: Lens, detail: Detail, shape: BaseGeometry, z_m: float) -> Band:
    reach = lens.frame.reach_m(PX_PER_M[detail])
    return Band(
        detail=detail,
        reach_m=round(reach, 3),
        ground_m=round(math.sqrt(max(reach**2 - (lens.z_m - z_m) ** 2, 0.0)), 3),
        area_m2=round(shape.area, 2),
        rings=rings_of(shape),
    )


@lru_cache(maxsize=2048)
def near_share(lens: Lens, fixed_to: int | None, stands: Scene, near_m: float = NEAR_WALL_M) -> float:
    """Share of a view's angle across, in plan at its own height, whose first piece stands nearer than ``near_m``."""
    if not len(stands.blockers):
        return 0.0
    eye = Point(lens.x_m, lens.y_m)
    half = min(lens.frame.across_deg / 2, 180.0)
    spans: list[tuple[float, float]] = []
    for number in sorted(stands.tree.query(eye, predicate="dwithin", distance=near_m)):
        blocker = stands.blockers[number]
        if blocker.piece in (fixed_to, SLAB_EDGE) or not blocker.low_m <= lens.z_m < blocker.high_m:
            continue
        spans += _angles(lens, blocker, near_m, half)
    covered, reached = 0.0, -half
    for low, high in sorted(spans):
        covered += max(0.0, high - max(low, reached))
        reached = max(reached, high)
    return round(covered / (2 * half), 4)


def _angles(lens: Lens, blocker: Blocker, near_m: float, half: float) -> list[tuple[float, float]]:
    """From which angle to which, right of the bearing, a stretch is nearer than that, within the frame [deg]."""
    along = np.array(blocker.end) - np.array(blocker.start)
    off = np.array(blocker.start) - lens.spot[:2]
    a, b, c = float(along @ along), float(2 * off @ along), float(off @ off) - near_m**2
    root = b * b - 4 * a * c
    if root <= 0:
        return []
    low, high = ((-b + sign * math.sqrt(root)) / (2 * a) for sign in (-1, 1))
    low, high = max(low, 0.0), min(high, 1.0)
    if high <= low:
        return []
    (fx, fy), (rx, ry) = lens.forward, lens.right
    ends = []
    for share in (low, high):
        x, y = off + share * along
        ends.append(math.degrees(math.atan2(x * rx + y * ry, x * fx + y * fy)))
    first, last = sorted(ends)
    # a stretch that passes behind the lens goes round the other way
    spans = [(first, last)] if last - first <= 180 else [(last, 180.0), (-180.0, first)]
    return [(max(one, -half), min(other, half)) for one, other in spans if min(other, half) > max(one, -half)]


class SunInView(Fact):
    """The low sun in a view; None where the site's place or north is not known."""

    drop_id: int
    view_id: int | None
    sun: SunLine | None


def suns_of(project: Project) -> tuple[SunInView, ...]:
    """The low sun in every view whose camera is placed."""
    return tuple(
        SunInView(
            drop_id=placed.drop.id,
            view_id=placed.view.id if placed.view else None,
            sun=sun_in(project, placed.lens),
        )
        for placed in lenses(project)
        if placed.placed
    )
