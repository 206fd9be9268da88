"""What stands in closets, its usual sizes, and the rules of racks, batteries, warmth and sound.

References
----------
.. [1] IEC 60297-3-100: 19-inch practice, one unit is 44.45 mm, 450 mm clear between the rails.
.. [2] ISO 11201: emission sound pressure; levels add as energies.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

UNIT_MM = 44.45
SHELF_WIDTH_MM = 440
"""Clear width of a shelf in a rack."""
CORD_MM = 75
"""Room behind a device for plug and bend, *default*."""
PERSON_MM, BEHIND_MM = 900, 600
"""Clear room that a person needs before a rack, and behind it where it is worked on from there, *default*."""
CORDS_M = (0.25, 0.5, 1.0, 2.0, 3.0)
"""Stock lengths of cords."""
CORD_SLACK_M = 0.3

BEARS_C = 45.0
"""What a box bears that does not say it, *default*."""
UPS_WARM_C = 25.0
"""Over it the life of a battery halves every 10 K."""
ROOM_SUMMER_C = 28.0
"""Warmth of a room in summer where nobody has said it, *default*."""
FILL_MOST = 0.8
"""Share of a UPS's W and VA that is loaded at the most."""
AGED = 0.8
"""Capacity at the end of a battery's life."""
PEUKERT, PEUKERT_BAND = 1.2, (1.1, 1.3)
RATED_HOURS = 20.0
POWER_FACTOR, SMALL_POWER_FACTOR, SMALL_W = 0.95, 0.55, 60.0
"""Watts over volt-amperes; of adapters (plug bricks up to 60 W)."""
MAINS_V = 230.0
AMPERES_MOST = 10.0
"""Of a strip or circuit, *default*: the local code decides."""

SOUND_LIMITS: dict[str, float] = {"bed": 30.0, "living": 35.0, "office": 45.0}
"""dB(A) that a room bears, *default*."""
THROUGH_DB: dict[str, float] = {"open": 0.0, "door": 20.0, "stud": 35.0}
"""What is between takes off, *default*."""

WEIGHTS: dict[str, float] = {"cords": 1.0, "hot": 0.02, "heavy": 0.2}
"""What a wish weighs where the project says nothing: a unit of a cord, a watt under a cooler, a kilogram over a
lighter."""

GearKind = Literal[
    "provider_box", "terminal", "splitter", "telephone", "alarm", "hub", "nas", "recorder", "controller", "server",
    "panel", "shelf", "manager", "strip", "ups", "fan", "free", "other",
]  # fmt: skip
Plug = Literal["none", "cord", "brick", "wide_brick"]
"""A strip cord, a plug brick of up to 60 W, one that covers two sockets."""
SOCKETS: dict[Plug, int] = {"none": 0, "cord": 1, "brick": 1, "wide_brick": 2}


@dataclass(frozen=True)
class Usual:
    """Sizes of a thing of which nobody has said them, *default*."""

    name: str
    width_mm: int
    height_mm: int
    depth_mm: int
    mass_kg: float
    draw_w: float
    plug: Plug
    rack: bool = False
    """It is screwed to the rails; else it stands on a shelf or hangs."""
    noise_dba: float = 0.0
    corded: int = 0
    """Cords to router, switches and panels."""


USUAL: dict[GearKind, Usual] = {
    "provider_box": Usual("Provider's box", 220, 45, 160, 0.5, 12.0, "wide_brick", corded=1),
    "terminal": Usual("Optical terminal", 120, 35, 100, 0.2, 5.0, "brick", corded=1),
    "splitter": Usual("Coax splitter", 120, 30, 80, 0.3, 0.0, "none"),
    "telephone": Usual("Telephone distribution", 160, 60, 90, 0.6, 0.0, "none"),
    "alarm": Usual("Alarm recorder", 300, 80, 250, 3.0, 15.0, "brick", corded=1),
    "hub": Usual("Hub", 110, 30, 110, 0.3, 4.0, "brick", corded=1),
    "nas": Usual("NAS", 180, 170, 225, 5.0, 35.0, "brick", noise_dba=24.0, corded=1),
    "recorder": Usual("Recorder", 375, 52, 290, 4.0, 25.0, "brick", noise_dba=26.0, corded=1),
    "controller": Usual("Controller", 130, 40, 110, 0.5, 8.0, "brick", corded=1),
    "server": Usual("Server", 440, 88, 400, 12.0, 80.0, "cord", rack=True, noise_dba=38.0, corded=1),
    "panel": Usual("Patch panel, 24", 483, 44, 100, 1.4, 0.0, "none", rack=True),
    "shelf": Usual("Shelf", 483, 44, 250, 1.8, 0.0, "none", rack=True),
    "manager": Usual("Cable manager", 483, 44, 60, 0.5, 0.0, "none", rack=True),
    "strip": Usual("Power strip", 483, 44, 60, 0.9, 0.0, "cord", rack=True),
    "ups": Usual("UPS", 438, 88, 400, 18.0, 0.0, "cord", rack=True, noise_dba=40.0),
    "fan": Usual("Fan unit", 483, 44, 200, 1.5, 12.0, "cord", rack=True, noise_dba=35.0),
    "free": Usual("Free unit for the next panel", 483, 44, 0, 0.0, 0.0, "none", rack=True),
    "other": Usual("Something else", 200, 60, 150, 1.0, 5.0, "brick"),
}
HUNG_ON_RAILS = ("panel", "manager", "strip", "free", "fan")
"""Kinds without plugs behind them that would ask for depth."""
PANEL_PORTS = 24
SHUTDOWN_MIN: dict[str, float] = {"nas": 5.0, "recorder": 3.0, "server": 5.0}
"""Minutes before the end at which it must begin to shut down to end cleanly, *default*."""
