"""What a lens sees: angles of view, pixels per metre, the frame of a view, and the ground that stays blind.

Bearings are clockwise from the top of the plan, tilts down from level; plans have x to the right and y down [m].

References
----------
.. [1] IEC 62676-4:2014, 6.7: pixels per metre at what is looked at.
.. [2] Rectilinear projection r = f·tan θ, equidistant projection r = f·θ.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ..standards.detail import WIDE_DEG

Projection = Literal["rectilinear", "equidistant", "round"]
Floats = NDArray[np.float64]
RIM = 1e-9
"""What sums of floats may miss the rim of a frame by: rims count as seen."""


def field_deg(focal_mm: float, sensor_mm: float) -> float:
    """Angle of view across of a rectilinear lens by its focal length and the sensor's width [deg]: 2·atan(w/2f)."""
    return math.degrees(2 * math.atan(sensor_mm / (2 * focal_mm)))


def usual_projection(across_deg: float) -> Projection:
    """How a lens draws of which nobody has said it."""
    return "equidistant" if across_deg > WIDE_DEG else "rectilinear"


@dataclass(frozen=True)
class Frame:
    """The picture of a lens: its angle across [deg], its pixels, and how it draws."""

    across_deg: float
    across_px: int
    down_px: int
    projection: Projection

    @cached_property
    def down_deg(self) -> float:
        """Angle of view down [deg] [2]_; of a round lens the same as across."""
        if self.projection == "round":
            return self.across_deg
        if self.projection == "equidistant":
            return self.across_deg * self.down_px / self.across_px
        half = math.tan(math.radians(self.across_deg) / 2) * self.down_px / self.across_px
        return math.degrees(2 * math.atan(half))

    @cached_property
    def px_m(self) -> float:
        """Pixels per metre at a distance of 1 m [1]_: pixels/(2·tan(H/2)), on the arc pixels/H; for a round lens the
        pixels are those of its diameter."""
        across = math.radians(self.across_deg)
        if self.projection == "rectilinear":
            return self.across_px / (2 * math.tan(across / 2))
        pixels = min(self.across_px, self.down_px) if self.projection == "round" else self.across_px
        return pixels / across

    def px_per_m(self, distance_m: float) -> float:
        """Pixels per metre at a distance from the lens, in space."""
        return self.px_m / distance_m if distance_m > 0 else math.inf

    def reach_m(self, px_per_m: float) -> float:
        """Distance at which it shows so many pixels per metre [m]."""
        return self.px_m / px_per_m


@dataclass(frozen=True)
class Lens:
    """A lens in its place: where it stands on the plan, how high [m], and where it looks [deg]."""

    x_m: float
    y_m: float
    z_m: float
    bearing_deg: float
    tilt_deg: float
    frame: Frame

    @cached_property
    def spot(self) -> Floats:
        """Where it stands, in space."""
        return np.array([self.x_m, self.y_m, self.z_m])

    @cached_property
    def forward(self) -> tuple[float, float]:
        """The way it looks, on the plan."""
        bearing = math.radians(self.bearing_deg)
        return math.sin(bearing), -math.cos(bearing)

    @cached_property
    def right(self) -> tuple[float, float]:
        bearing = math.radians(self.bearing_deg)
        return math.cos(bearing), math.sin(bearing)

    def has_in_frame(self, rays: Floats) -> NDArray[np.bool_]:
        """Which rays (x, y, z in rows, of any length) lie in its frame; rims do."""
        (fx, fy), (rx, ry) = self.forward, self.right
        along, across, up = rays[:, 0] * fx + rays[:, 1] * fy, rays[:, 0] * rx + rays[:, 1] * ry, rays[:, 2]
        return self.frame_has(along, across, up)

    def frame_has(self, along: Floats, across: Floats, up: Floats) -> NDArray[np.bool_]:
        """The same for rays by their parts along the bearing, to the right of it, and up."""
        tilt = math.radians(self.tilt_deg)
        depth = math.cos(tilt) * along - math.sin(tilt) * up
        down = -math.sin(tilt) * along - math.cos(tilt) * up
        half_across, half_down = math.radians(self.frame.across_deg) / 2, math.radians(self.frame.down_deg) / 2
        length = np.sqrt(along**2 + across**2 + up**2)
        if self.frame.projection == "rectilinear":
            seen = np.abs(across) <= math.tan(half_across) * depth + RIM * length
            return (depth > 0) & seen & (np.abs(down) <= math.tan(half_down) * depth + RIM * length)
        beside = np.hypot(across, down)
        off_axis = np.arctan2(beside, depth)
        if self.frame.projection == "round":
            return off_axis <= half_across + RIM
        with np.errstate(invalid="ignore", divide="ignore"):
            share = np.where(beside > 0, off_axis / np.where(beside > 0, beside, 1.0), 0.0)
        # straight behind it every direction is on the rim, whichever way one turns
        behind = (beside == 0) & (depth < 0)
        seen = (np.abs(across) * share <= half_across + RIM) & (np.abs(down) * share <= half_down + RIM)
        return np.where(behind, min(half_across, half_down) >= math.pi - RIM, seen)

    def blind_m(self, above_m: float) -> float:
        """Ground before the lens that stays unseen under its lower edge, at a height that it stands ``above_m`` over
        [m]: (h − h_t)/tan(tilt + V/2), 0 from 90° on; infinite where the lower edge does not come down."""
        lower = self.tilt_deg + self.frame.down_deg / 2
        if lower >= 90 or above_m <= 0:
            return 0.0
        return above_m / math.tan(math.radians(lower)) if lower > 0 else math.inf


def steepness_deg(above_m: float, ground_m: float) -> float:
    """How steeply something is looked down on [deg]: atan((h − h_t)/ground distance)."""
    return math.degrees(math.atan2(above_m, ground_m))
