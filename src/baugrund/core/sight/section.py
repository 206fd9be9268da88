"""A view standing up: what a lens sees in the level plane along its bearing, cut open, and what hides the rest.

Distances along the bearing from the lens, elevations above the ground [m].
"""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np
import shapely
from shapely import LineString, Point, Polygon
from shapely.geometry.base import BaseGeometry

from ..facts.fact import Fact
from ..physics.optics import Lens
from ..standards.detail import DETAILS, PX_PER_M, Detail
from .cut import ARC, Rings, areas_of, rings_of
from .lenses import Placed
from .scene import Scene

BEHIND_M = 1.0
"""How far behind the lens the section still shows what stands there [m]."""


class Standing(Fact):
    """A wall that the section cuts."""

    along_m: float
    low_m: float
    high_m: float


class Lying(Fact):
    """A floor or a ceiling that the section cuts."""

    from_m: float
    to_m: float
    z_m: float


class SectionBand(Fact):
    """Where a view has a detail, in the section."""

    detail: Detail
    rings: Rings


class ViewSection(Fact):
    """A view cut open along its bearing."""

    drop_id: int
    view_id: int | None
    z_m: float
    """Elevation of the lens."""
    floor_m: float
    """Elevation of its floor."""
    upper_deg: float
    lower_deg: float
    """Its edges, down from level."""
    blind_m: float | None
    reach_m: float
    """How far along the bearing it is drawn."""
    walls: tuple[Standing, ...]
    slabs: tuple[Lying, ...]
    bands: tuple[SectionBand, ...]


def section_of(placed: Placed, stands: Scene, most_m: float) -> ViewSection:
    """A view cut open, as far as ``most_m`` along its bearing."""
    lens = placed.lens
    reach = min(lens.frame.reach_m(PX_PER_M[DETAILS[0]]), most_m)
    walls = tuple(sorted(_walls(placed, stands, reach), key=lambda wall: (wall.along_m, wall.low_m)))
    slabs = tuple(_slabs(lens, stands, reach))
    floor = lens.z_m - placed.height_m
    seen = _wedge(lens, reach)
    ground = Polygon([(-reach, floor), (reach * 2, floor), (reach * 2, floor + reach * 4), (-reach, floor + reach * 4)])
    shadows = [*_shadows(lens, walls, slabs, reach)]
    seen = seen.intersection(ground).difference(shapely.union_all(shadows)) if shadows else seen.intersection(ground)
    blind = lens.blind_m(placed.height_m)
    return ViewSection(
        drop_id=placed.drop.id, view_id=placed.view.id if placed.view else None, z_m=round(lens.z_m, 3),
        floor_m=round(floor, 3), upper_deg=round(lens.tilt_deg - lens.frame.down_deg / 2, 2),
        lower_deg=round(lens.tilt_deg + lens.frame.down_deg / 2, 2),
        blind_m=round(blind, 3) if math.isfinite(blind) else None, reach_m=round(reach, 2), walls=walls, slabs=slabs,
        bands=tuple(
            SectionBand(detail=detail, rings=rings_of(areas_of(seen.intersection(_disc(lens, detail)))))
            for detail in DETAILS
        ),
    )  # fmt: skip


def _disc(lens: Lens, detail: Detail) -> BaseGeometry:
    return Point(0.0, lens.z_m).buffer(lens.frame.reach_m(PX_PER_M[detail]), quad_segs=ARC)


def _wedge(lens: Lens, reach: float) -> BaseGeometry:
    """The frame between its upper and its lower edge."""
    half = min(lens.frame.down_deg / 2, 180.0)
    turns = np.radians(np.linspace(-lens.tilt_deg - half, -lens.tilt_deg + half, 65))
    rim = [(math.cos(turn) * reach, lens.z_m + math.sin(turn) * reach) for turn in turns]
    return shapely.make_valid(Polygon([(0.0, lens.z_m), *rim]))


def _bearing_line(lens: Lens, reach: float) -> LineString:
    """What is cut, on plan: from behind the lens to its reach."""
    (fx, fy) = lens.forward
    return LineString([
        (lens.x_m - fx * BEHIND_M, lens.y_m - fy * BEHIND_M), (lens.x_m + fx * reach, lens.y_m + fy * reach)
    ])  # fmt: skip


def _walls(placed: Placed, stands: Scene, reach: float) -> Iterator[Standing]:
    """Walls that the bearing crosses, the one that the lens is fixed to left out."""
    lens = placed.lens
    (fx, fy) = lens.forward
    line = _bearing_line(lens, reach)
    for number in stands.tree.query(line, predicate="intersects"):
        blocker = stands.blockers[number]
        meet = line.intersection(LineString([blocker.start, blocker.end]))
        if isinstance(meet, Point) and blocker.piece != placed.fixed_to:
            along = (meet.x - lens.x_m) * fx + (meet.y - lens.y_m) * fy
            yield Standing(along_m=round(along, 3), low_m=round(blocker.low_m, 3), high_m=round(blocker.high_m, 3))


def _slabs(lens: Lens, stands: Scene, reach: float) -> Iterator[Lying]:
    (fx, fy) = lens.forward
    line = _bearing_line(lens, reach)
    for slab in stands.slabs:
        for part in shapely.get_parts(line.intersection(slab.shape)):
            if isinstance(part, LineString) and not part.is_empty:
                ends = sorted((x - lens.x_m) * fx + (y - lens.y_m) * fy for x, y in part.coords)
                yield Lying(from_m=round(ends[0], 3), to_m=round(ends[-1], 3), z_m=round(slab.z_m, 3))


def _shadows(lens: Lens, walls: tuple[Standing, ...], slabs: tuple[Lying, ...], reach: float) -> Iterator[BaseGeometry]:
    """What walls and slabs hide in the section: what lies behind them, seen from the lens."""
    ends = [((wall.along_m, wall.low_m), (wall.along_m, wall.high_m)) for wall in walls if abs(wall.along_m) > 1e-6]
    ends += [((slab.from_m, slab.z_m), (slab.to_m, slab.z_m)) for slab in slabs if abs(slab.z_m - lens.z_m) > 1e-6]
    for one, other in ends:
        to_one, to_other = (np.array((x, z - lens.z_m)) for x, z in (one, other))
        near = Point(0.0, 0.0).distance(LineString([to_one, to_other]))
        grow = 4 * reach / max(near, 1e-3)
        ring = [to_one, to_other, to_other * grow, to_one * grow]
        shape = Polygon([(x, z + lens.z_m) for x, z in ring])
        yield shape if shape.is_valid else shape.buffer(0)
