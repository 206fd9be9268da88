"""Where cameras could be fixed: along walls, inside and out, and under ceilings, where they stand now among them."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import NamedTuple

import shapely
from shapely import Point, Polygon, STRtree

from ..facts.building import Point as PlanPoint
from ..facts.lines.camera import Mounted
from ..facts.project import Project
from ..places.layout import UNDER_CEILING_M, layout
from ..places.walls import WallPiece
from ..standards.detail import BRACKET_M
from .lenses import POLES, lenses
from .scene import Scene, scene

STEP_M = 2.0
"""Mounts along a wall, and under a ceiling, are about so far apart [m], *default*."""
FROM_CORNER_M = 0.3
MOUNTS_MOST = 300
"""Of more mounts those nearest to a target are looked at."""


class Mount(NamedTuple):
    """A place for one camera."""

    room_id: int
    floor_id: int
    x_m: float
    y_m: float
    height_m: float
    """Above its floor."""
    z_m: float
    on: Mounted
    fixed_to: int | None
    """Number of the wall piece that it is fixed to."""
    foot: PlanPoint | None
    """Where on that piece."""
    is_outside: bool

    @property
    def surfaces(self) -> frozenset[Mounted]:
        """What is there to be fixed to: outside the top of a wall is under its eaves too."""
        return frozenset({"wall", "eaves"} if self.on == "wall" and self.is_outside else {self.on})

    @property
    def reach_m(self) -> float:
        """How far its lens is from its wall."""
        return BRACKET_M if self.foot is None else round(math.dist(self.foot, (self.x_m, self.y_m)), 3)

    def held_out(self, by_m: float) -> Mount:
        """The same with its lens held further from the wall, or lower under the ceiling, than a usual bracket does."""
        if self.on == "ceiling":
            return self._replace(height_m=self.height_m - by_m, z_m=self.z_m - by_m)
        if self.foot is None:
            return self
        (x, y), share = self.foot, by_m / max(self.reach_m, 1e-9)
        return self._replace(x_m=round(x + (self.x_m - x) * share, 3), y_m=round(y + (self.y_m - y) * share, 3))


def mounts_of(project: Project) -> tuple[Mount, ...]:
    """Mounts of all rooms that are drawn, the nearest to a target first, `MOUNTS_MOST` at the most."""
    found = [*_that_stand(project), *_along_walls(project, scene(project)), *_under_ceilings(project)]
    spots = [point for target in project.targets for point in target.points]
    if not spots:
        return ()

    def away(mount: Mount) -> float:
        return min(math.dist((mount.x_m, mount.y_m), spot) for spot in spots)

    once = {(mount.floor_id, mount.x_m, mount.y_m, mount.z_m): mount for mount in reversed(found)}
    return tuple(sorted(once.values(), key=lambda mount: (away(mount), mount))[:MOUNTS_MOST])


def _that_stand(project: Project) -> Iterator[Mount]:
    """Where cameras are now."""
    for placed in lenses(project):
        lens = placed.lens
        if placed.placed and placed.drop.kind == "camera":
            room = project.rooms_by_id[placed.drop.room_id]
            words = placed.drop.place.casefold().split()
            on: Mounted = "ceiling" if "ceiling" in words else "pole" if set(words) & set(POLES) else "wall"
            spot = (round(lens.x_m, 3), round(lens.y_m, 3))
            foot = None if placed.fixed_to is None else scene(project).pieces[placed.fixed_to].nearest(spot)
            yield Mount(room.id, placed.floor_id, *spot, placed.height_m, lens.z_m, on, placed.fixed_to, foot,
                        room.outside)  # fmt: skip


def _along_walls(project: Project, stands: Scene) -> Iterator[Mount]:
    """Both sides of every wall piece, wherever a drawn room is on that side."""
    raised = {storey.id: storey.elevation_m for storey in layout(project).storeys}
    rooms = [room for room in project.rooms if room.outline]
    tree = STRtree([Polygon(room.outline or ()) for room in rooms])
    for number, piece in enumerate(stands.pieces):
        floor, ground = project.floors_by_id[piece.floor_id], raised[piece.floor_id]
        height = (floor.height_m if piece.height_m is None else min(piece.height_m, floor.height_m)) - UNDER_CEILING_M
        for x, y in _spots_along(piece) if height > 0 else ():
            there = [rooms[place] for place in tree.query(Point(x, y), predicate="intersects")]
            # a room inside, or the ground outside, at the same elevation
            here = [room for room in there if raised[room.floor_id] == ground]
            room = min(here, key=lambda room: (room.outside, room.id), default=None)
            if room is not None:
                yield Mount(room.id, room.floor_id, x, y, round(height, 3), ground + height, "wall", number,
                            piece.nearest((x, y)), room.outside)  # fmt: skip


def _spots_along(piece: WallPiece) -> Iterator[PlanPoint]:
    """Spots a bracket's reach before either side of a piece."""
    free = piece.length_m - 2 * FROM_CORNER_M
    if free <= 0:
        return
    count = max(1, round(free / STEP_M))
    (x, y), (to_x, to_y) = piece.start, piece.end
    along = ((to_x - x) / piece.length_m, (to_y - y) / piece.length_m)
    for number in range(count):
        at = FROM_CORNER_M + free * (number + 0.5) / count
        for side in (BRACKET_M, -BRACKET_M):
            yield (
                round(x + along[0] * at - along[1] * side, 3),
                round(y + along[1] * at + along[0] * side, 3),
            )


def _under_ceilings(project: Project) -> Iterator[Mount]:
    """Spots on a grid under the ceiling of every room inside; at least one a room."""
    raised = {storey.id: storey.elevation_m for storey in layout(project).storeys}
    for room in project.rooms:
        if room.outside or not room.outline:
            continue
        shape = Polygon(room.outline)
        floor = project.floors_by_id[room.floor_id]
        west, north, east, south = shape.bounds
        across, down = (max(1, round(size / (2 * STEP_M))) for size in (east - west, south - north))
        for column in range(across):
            for row in range(down):
                x = round(west + (east - west) * (column + 0.5) / across, 3)
                y = round(north + (south - north) * (row + 0.5) / down, 3)
                if shapely.intersects_xy(shape, x, y):
                    yield Mount(room.id, floor.id, x, y, floor.height_m, raised[floor.id] + floor.height_m,
                                "ceiling", None, None, False)  # fmt: skip
