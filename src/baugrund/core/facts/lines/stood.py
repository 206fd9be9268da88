"""What lines have that stand in a closet: sizes and mass."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from .line import Column, Line

Millimetres = Annotated[int, Field(ge=0, le=2500)]
Mass = Annotated[float, Field(ge=0, le=500)]


class Stood(Line):
    """A line of a certain height, depth and mass."""

    units: Annotated[int, Field(ge=1, le=60), Column("Units", ("rack units", "u"))] = 1
    depth_mm: Annotated[Millimetres, Column("Depth mm", ("depth",))] = 100
    mass_kg: Annotated[Mass, Column("Mass kg", ("mass", "weight", "weight kg"))] = 1.0
