"""Housings: racks, wall panels and shelves with a wall plate."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from .line import Column, Kind
from .stood import Millimetres, Stood


class Housing(Stood):
    """What everything stands in.  ``units`` and ``depth_mm`` are what it leaves for things; its own mass beside."""

    of_kind = Kind(12, "housing", "housings", ("rack", "cabinet", "enclosure", "wall rack"))

    kind: Literal["housing"] = "housing"
    housing_form: Annotated[Literal["rack", "panel", "shelf"], Column("Housing form")] = "rack"
    is_open: Annotated[bool, Column("Open frame")] = False
    carries_kg: Annotated[float, Field(gt=0, le=3000), Column("Carries kg", ("load", "load rating"))]
    outer_width_mm: Annotated[Millimetres, Column("Outer width mm")] = 600
    outer_height_mm: Annotated[Millimetres | None, Column("Outer height mm")] = None
    """None: its units and 100 mm."""
    outer_depth_mm: Annotated[Millimetres | None, Column("Outer depth mm")] = None
    """None: its depth and 50 mm."""
    inner_width_mm: Annotated[Millimetres, Column("Inner width mm")] = 450
    inner_height_mm: Annotated[Millimetres, Column("Inner height mm")] = 0
    """Of a wall panel or a shelf: the free area."""
    cord_space_mm: Annotated[Millimetres, Column("Cord space mm")] = 60
    """Before the front rail, up to the door."""
    two_sides: Annotated[bool, Column("Reached from behind")] = False
