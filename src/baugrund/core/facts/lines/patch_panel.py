"""Patch panels."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from .line import Column, Kind
from .stood import Stood


class PatchPanel(Stood):
    """Positions at which fixed cable ends."""

    of_kind = Kind(13, "patch panel", "patch panels", ("panel", "patchpanel"))

    kind: Literal["patch panel"] = "patch panel"
    positions: Annotated[int, Field(ge=4, le=96), Column("Positions")] = 24
    ends: Annotated[Literal["punch", "snap"], Column("Ends")] = "punch"
    """Punched down on its back, or modules that snap in."""
    spacing_mm: Annotated[float, Field(gt=0, le=60), Column("Spacing mm")] = 16.0
    """From the middle of a position to the next: a wider module covers its neighbour."""
