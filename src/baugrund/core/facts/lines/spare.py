"""What completes a box that lacks it."""

from __future__ import annotations

from typing import Annotated, Literal

from .box import Accessory
from .line import Column, Kind, Line


class Spare(Line):
    """What completes a box that lacks it."""

    of_kind = Kind(5, "spare", "spares", ("accessory", "part", "power supply"))

    kind: Literal["spare"] = "spare"
    completes: Annotated[Accessory, Column("Completes")]
