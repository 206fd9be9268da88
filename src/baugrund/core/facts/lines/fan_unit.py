"""Fan units."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from .line import Column, Kind
from .stood import Stood


class FanUnit(Stood):
    """Fans for a closed housing."""

    of_kind = Kind(17, "fan unit", "fan units", ("fan", "fan tray", "cooling fan"))

    kind: Literal["fan unit"] = "fan unit"
    free_m3_h: Annotated[float, Field(gt=0, le=5000), Column("Free air m³/h")]
    draw_w: Annotated[float, Field(ge=0, le=500), Column("Draw W")]
    noise_dba: Annotated[Annotated[float, Field(ge=0, le=100)] | None, Column("Noise dB(A)")] = None
    by_sensor: Annotated[bool, Column("Switched by sensor")] = True
