"""Walls by what they are made of: usual thickness, and how they are ranked where two rooms disagree."""

from __future__ import annotations

from typing import Literal, get_args

Material = Literal["glass", "plasterboard", "timber", "brick", "block", "coated_glass", "concrete", "metal"]
MATERIALS: tuple[Material, ...] = get_args(Material)
"""From the one that radio passes best to the one that it passes worst at 5 GHz: a wall between two rooms that say
different things is the later one, which is the safe side."""

USUAL_THICKNESS_MM: dict[Material, int] = {
    "glass": 10,
    "plasterboard": 100,
    "timber": 120,
    "brick": 240,
    "block": 175,
    "coated_glass": 24,
    "concrete": 200,
    "metal": 60,
}
"""Thickness of a wall that nobody has measured [mm], *default*: a single and an insulating pane, a stud partition, a
timber frame, a brick of 240 mm, a block of 175 mm, a cast wall, an insulated metal panel."""
