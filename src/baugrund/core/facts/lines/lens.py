"""Lenses for cameras that have none of their own."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from .camera import LensMount
from .line import Column, Kind, Line

Focal = Annotated[float, Field(gt=0, le=1000)]


class Lens(Line):
    """A lens: with the width of a camera's sensor its focal length says the angle of view."""

    of_kind = Kind(10, "lens", "lenses", ("camera lens", "objective"))

    kind: Literal["lens"] = "lens"
    lens_mount: Annotated[LensMount, Column("Lens mount")]
    focal_mm: Annotated[Focal, Column("Focal length mm", ("focal length", "shortest focal length mm"))]
    """At its widest."""
    longest_mm: Annotated[Focal | None, Column("Longest focal length mm", ("longest focal length",))] = None
    """At its narrowest; None: it does not zoom."""

    @model_validator(mode="after")
    def _zooms_in(self) -> Lens:
        if self.longest_mm is not None and self.longest_mm < self.focal_mm:
            raise ValueError(
                f"{self.name}: its longest focal length, {self.longest_mm:g} mm, is under its {self.focal_mm:g} mm"
            )
        return self
