"""Lines of sight: what hides a point from a lens."""

from __future__ import annotations

import numpy as np
import shapely
from numpy.typing import NDArray

from ..facts.project import Project
from ..physics.optics import Floats
from .scene import SLAB_EDGE, Scene

CLEAR = -1
"""Nothing hides it."""
BY_SLAB = SLAB_EDGE
"""A floor or a ceiling hides it; a number from 0 on: that wall piece does."""
END = 1e-9
"""What is closer to either end of a line of sight, in parts of it, is that end itself."""


def hidden_by(eye: Floats, fixed_to: int | None, points: Floats, scene: Scene) -> NDArray[np.int64]:
    """What hides each point (x, y, z in rows) from an eye: the wall piece nearest to it, `BY_SLAB` or `CLEAR`.

    ``fixed_to``: the piece that the lens there is fixed to, which hides nothing.
    """
    found = np.full(len(points), CLEAR, dtype=np.int64)
    ways = points - eye
    for slab in scene.slabs:
        with np.errstate(divide="ignore", invalid="ignore"):
            at = np.where(ways[:, 2] != 0, (slab.z_m - eye[2]) / ways[:, 2], np.nan)
        crossed = (at > END) & (at < 1 - END)
        spots = eye[:2] + at[crossed, None] * ways[crossed, :2]
        inside = shapely.intersects_xy(slab.shape, spots[:, 0], spots[:, 1])
        found[np.flatnonzero(crossed)[inside]] = BY_SLAB
    if not len(scene.blockers) or not len(points):
        return found
    along, off = scene.ends - scene.starts, scene.starts - eye[:2]
    # cross products by point (down) and piece (across)
    turn = ways[:, 0, None] * along[None, :, 1] - ways[:, 1, None] * along[None, :, 0]
    with np.errstate(divide="ignore", invalid="ignore"):
        at = (off[:, 0] * along[:, 1] - off[:, 1] * along[:, 0])[None, :] / turn
        on = (off[None, :, 0] * ways[:, 1, None] - off[None, :, 1] * ways[:, 0, None]) / turn
        height = eye[2] + at * ways[:, 2, None]
        crossed = (at > END) & (at < 1 - END) & (on >= -END) & (on <= 1 + END)
    crossed &= (height >= scene.lows) & (height < scene.highs)
    if fixed_to is not None:
        crossed &= scene.piece_of != fixed_to
    nearest = np.where(crossed, at, np.inf).argmin(axis=1)
    blocked = crossed.any(axis=1)
    found[blocked] = scene.piece_of[nearest[blocked]].astype(np.int64)
    return found


def named(project: Project, hiding: int, scene: Scene) -> str:
    """How what hides something is spoken of: a wall by the rooms that it bounds."""
    if hiding == BY_SLAB:
        return "a floor or ceiling"
    rooms = [project.rooms_by_id[room_id].name for room_id in scene.pieces[hiding].room_ids]
    if not rooms:
        return "a free-standing wall"
    return f"the wall of {rooms[0]}" if len(rooms) == 1 else f"the wall between {rooms[0]} and {rooms[1]}"
