"""Detail of a picture by pixels per metre, and what a camera usually is.

References
----------
.. [1] IEC 62676-4:2014, 6.7 and table 2: pixels per metre at what is looked at.
"""

from __future__ import annotations

from typing import Literal, get_args

Detail = Literal["detect", "observe", "recognise", "identify"]
DETAILS: tuple[Detail, ...] = get_args(Detail)

PX_PER_M: dict[Detail, float] = {"detect": 25.0, "observe": 62.5, "recognise": 125.0, "identify": 250.0}
"""Least pixels per metre [1]_."""

HEIGHTS_LOOKED_AT_M = {"face": 1.6, "plate": 0.6, "ground": 0.0}
"""Heights of what is looked at above its floor [m], *default*."""

WIDE_DEG = 110.0
"""A lens over this is equidistant where nobody says otherwise, *default*; one of exactly this is rectilinear."""

PIXELS: dict[float, tuple[int, int]] = {
    2.0: (1920, 1080),
    4.0: (2688, 1520),
    5.0: (2880, 1620),
    8.0: (3840, 2160),
}
"""Pixels across and down by megapixels, *default*; others in 16:9."""

FIELD_DEG = {
    "turret": 100.0, "bullet": 90.0, "dome": 100.0, "pan_tilt": 60.0, "fisheye": 180.0, "panorama": 180.0,
    "door": 120.0, "intercom": 110.0,
}  # fmt: skip
"""Angle of view across by form [deg], *default*."""
LIGHT_M = {"turret": 30.0, "bullet": 40.0, "dome": 25.0, "pan_tilt": 60.0, "fisheye": 10.0, "panorama": 20.0}
"""How far a camera's own light reaches by form [m], *default*; door stations have none."""
TILT_DEG = {"fisheye": 90.0, "door": 0.0, "intercom": 0.0}
USUAL_TILT_DEG = 20.0
"""How far a camera looks down by form [deg], *default*."""
DOOR_STATION_MP = 2.0
"""Megapixels of a door station of which nobody has said any, *default*."""

STEEP_DEG = 30.0
"""Faces are not recognised from steeper than this, *default*."""
NEAR_WALL_M = 2.0
NEAR_WALL_SHARE = 0.25
"""What stands nearer takes its share of the view; more than this share is a finding, *default*."""
HANDS_REACH_M = 2.7
"""A form with a handle hangs no lower, *default*."""
HANDLED_FORMS = ("bullet", "pan_tilt")
"""Forms that a hand can take hold of and turn away."""
BRACKET_M = 0.1
"""A lens stands so far before the wall that it is fixed to, *default*."""
TARGET_STEP_M = 0.25
"""Points of a line or an area are looked at so far apart, *default*."""
LOW_SUN_DEG = 20.0
"""A sun that stands no higher dazzles a lens that it is in view of, *default*."""
GLARE_M = 0.5
"""A surface that is closer throws a camera's own light back, *default*."""
