"""Lenses in their places: every view of a project with all that nobody has typed filled in."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, NamedTuple, TypeVar

from shapely import Point as Spot
from shapely import Polygon

from ..facts.building import Point
from ..facts.drop import CAMERA_MP_DEFAULT, Drop
from ..facts.drop_kinds import SEEING_KINDS
from ..facts.kept import kept
from ..facts.project import Project
from ..facts.sight import View
from ..physics.optics import Frame, Lens, field_deg, usual_projection
from ..places.layout import PlacedDrop, layout, usual_height_m
from ..standards.detail import (
    BRACKET_M,
    DOOR_STATION_MP,
    FIELD_DEG,
    LIGHT_M,
    PIXELS,
    TILT_DEG,
    USUAL_TILT_DEG,
)
from .scene import SLAB_EDGE, Scene, scene

FIXED_NEAR_M = 0.35
"""What is put on a wall is fixed to the nearest one that is no further [m]."""
POLES = ("mast", "post", "pole")
STANDS_FREE = ("ceiling", *POLES, "shelf", "floor", "desk", "bench")
"""Words of a place at which nothing is fixed to a wall."""
ROUND_FORMS = ("fisheye",)
"""Forms whose lens draws a circle."""
LOOKS_ALONG = 0.01
"""A lens that looks so nearly along its wall does not tell the wall's side (sine of the angle)."""
T = TypeVar("T")


@dataclass(frozen=True)
class Placed:
    """A lens in its place."""

    drop: Drop
    view: View | None
    """None: nobody has typed one, and all is usual for its form."""
    floor_id: int
    lens: Lens
    height_m: float
    """Above its floor."""
    light_m: float
    fixed_to: int | None
    """Number of the wall piece that it is fixed to."""
    usual: tuple[str, ...]
    """What nobody has typed, and is usual for its form."""
    placed: bool
    """Whether somebody has put the camera where it is."""

    @property
    def key(self) -> tuple[int, int]:
        return self.drop.id, self.view.id if self.view else 0


def form_of(drop: Drop) -> str:
    """The form of what has a lens."""
    return drop.form.key if drop.form else ""


@kept
def lenses(project: Project) -> tuple[Placed, ...]:
    """Every view of every camera and door station, in the order of the list."""
    views: dict[int, list[View | None]] = defaultdict(list)
    for view in project.views:
        views[view.drop_id].append(view)
    everything, stands = layout(project), scene(project)
    spots = {spot.id: spot for spot in everything.drops}
    raised = {storey.id: storey.elevation_m for storey in everything.storeys}
    middles = {room.id: Polygon(room.outline).centroid for room in everything.rooms}

    def usual_bearing(drop: Drop, spot: PlacedDrop) -> float:
        """Towards the middle of its room; a door station of a room inside looks out of it."""
        inwards = _towards((spot.x_m, spot.y_m), middles[drop.room_id])
        looks_out = drop.kind == "door_station" and not project.rooms_by_id[drop.room_id].outside
        return (inwards + 180) % 360 if looks_out else inwards

    found: list[Placed] = []
    for drop in project.drops:
        if drop.kind in SEEING_KINDS:
            spot = spots[drop.id]
            height = usual_height_m(drop, project.floors_by_id[spot.floor_id])
            site = _Site(spot, height, raised[spot.floor_id], usual_bearing(drop, spot), stands)
            found += [_placed(drop, view, site) for view in views.get(drop.id) or [None]]
    return tuple(found)


class _Site(NamedTuple):
    """Where a device is, how high over its floor and how high that lies [m], where it usually looks [deg], and all that
    stands around it."""

    spot: PlacedDrop
    height_m: float
    ground_m: float
    bearing_deg: float
    stands: Scene


def _placed(drop: Drop, view: View | None, site: _Site) -> Placed:
    usual: list[str] = []

    def said(name: str, default: T) -> T:
        value = getattr(view, name) if view else None
        if value is None:
            usual.append(name)
        return default if value is None else value

    form = form_of(drop)
    frame = _frame(drop, view, said)
    spot, stands = site.spot, site.stands
    at, z_m = (spot.x_m, spot.y_m), site.ground_m + site.height_m
    bearing = said("bearing_deg", site.bearing_deg)
    tilt = said("tilt_deg", TILT_DEG.get(form, USUAL_TILT_DEG))
    fixed_to = _fixed_to(drop, at, z_m, stands)
    if fixed_to is not None:
        at = _before(stands, fixed_to, at, bearing, said("bracket_m", BRACKET_M))
    lens = Lens(at[0], at[1], z_m, bearing, tilt, frame)
    light = said("light_m", LIGHT_M.get(form, 0.0))
    return Placed(drop, view, spot.floor_id, lens, site.height_m, light, fixed_to, tuple(usual), spot.placed)


def _frame(drop: Drop, view: View | None, said: Callable[[str, Any], Any]) -> Frame:
    """The picture of a lens: as typed, else by the camera's megapixels and form."""
    pixels = drop.megapixels
    if pixels is None:
        pixels = CAMERA_MP_DEFAULT if drop.kind == "camera" else DOOR_STATION_MP
    across, down = PIXELS.get(pixels) or _in_16_to_9(pixels)
    form = form_of(drop)
    usual_field = FIELD_DEG[form]
    if view and view.field_deg is None and view.focal_mm is not None and view.sensor_mm is not None:
        field = field_deg(view.focal_mm, view.sensor_mm)
    else:
        field = said("field_deg", usual_field)
    form_draws = usual_projection(field)
    if form in ROUND_FORMS:
        form_draws = "round"
    return Frame(field, said("across_px", across), said("down_px", down), said("projection", form_draws))


def _in_16_to_9(megapixels: float) -> tuple[int, int]:
    across = math.sqrt(megapixels * 1e6 * 16 / 9)
    return round(across), round(across * 9 / 16)


def _towards(spot: Point, middle: Spot) -> float:
    """From a spot to the middle of its room, clockwise from the top of the plan [deg]."""
    return math.degrees(math.atan2(middle.x - spot[0], -(middle.y - spot[1]))) % 360


def _fixed_to(drop: Drop, spot: Point, z_m: float, stands: Scene) -> int | None:
    """The wall piece that a device is fixed to; None: it hangs from a ceiling, or stands free."""
    if set(drop.place.casefold().split()) & set(STANDS_FREE):
        return None
    close = stands.tree.query(Spot(spot), predicate="dwithin", distance=FIXED_NEAR_M + 1e-9)
    blockers = [stands.blockers[number] for number in close]
    pieces = {one.piece for one in blockers if one.piece != SLAB_EDGE and one.low_m <= z_m < one.high_m}
    near = [(round(math.dist(stands.pieces[number].nearest(spot), spot), 6), number) for number in pieces]
    return min(near)[1] if near else None


def _before(stands: Scene, number: int, spot: Point, bearing_deg: float, bracket_m: float) -> Point:
    """The spot a bracket's reach before a wall: on the side to which the lens looks, else on which it was put."""
    piece = stands.pieces[number]
    foot = piece.nearest(spot)
    along = ((piece.end[0] - piece.start[0]) / piece.length_m, (piece.end[1] - piece.start[1]) / piece.length_m)
    square = (-along[1], along[0])
    bearing = math.radians(bearing_deg)
    side = math.sin(bearing) * square[0] - math.cos(bearing) * square[1]
    if abs(side) < LOOKS_ALONG:
        side = (spot[0] - foot[0]) * square[0] + (spot[1] - foot[1]) * square[1]
    sign = 1.0 if side >= 0 else -1.0
    return (foot[0] + sign * bracket_m * square[0], foot[1] + sign * bracket_m * square[1])
