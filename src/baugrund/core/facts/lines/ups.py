"""Uninterruptible power supplies."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from .line import Column, Kind
from .stood import Stood


class Ups(Stood):
    """A battery with its inverter and its outlets."""

    of_kind = Kind(16, "ups", "ups", ("uninterruptible power supply", "battery backup"))

    kind: Literal["ups"] = "ups"
    units: Annotated[int, Field(ge=1, le=60), Column("Units", ("rack units", "u"))] = 2
    watts: Annotated[float, Field(gt=0, le=20_000), Column("W most", ("watts", "power w"))]
    va: Annotated[float, Field(gt=0, le=20_000), Column("VA most", ("va",))]
    volts: Annotated[float, Field(gt=0, le=480), Column("Battery V")]
    ah: Annotated[float, Field(gt=0, le=1000), Column("Battery Ah")]
    inverter_percent: Annotated[float, Field(ge=50, le=100), Column("Inverter %")] = 85.0
    own_draw_w: Annotated[float, Field(ge=0, le=500), Column("Own draw W")] = 0.0
    outlets: Annotated[int, Field(ge=1, le=24), Column("Outlets")] = 4
    surge_outlets: Annotated[int, Field(ge=0, le=24), Column("Surge outlets")] = 0
    in_rack: Annotated[bool, Column("In a rack")] = True
    noise_dba: Annotated[Annotated[float, Field(ge=0, le=100)] | None, Column("Noise dB(A)")] = None
