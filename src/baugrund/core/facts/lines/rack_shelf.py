"""Shelves in racks."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from .line import Column, Kind
from .stood import Millimetres, Stood


class RackShelf(Stood):
    """A shelf on rails, for what has no ears."""

    of_kind = Kind(14, "shelf", "shelves", ("rack shelf", "cantilever shelf"))

    kind: Literal["shelf"] = "shelf"
    carries_kg: Annotated[float, Field(gt=0, le=3000), Column("Carries kg", ("load", "load rating"))]
    clear_mm: Annotated[Millimetres, Column("Clear height mm")] = 120
    """Over its board, within the units that it takes and the air that it is given."""
