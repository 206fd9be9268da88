"""Brackets of cameras."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from .camera import CameraForm, Mounted
from .line import Column, Kind, Line


class Bracket(Line):
    """What a camera hangs from where it does not suit the surface by itself, or where several share one place."""

    of_kind = Kind(11, "bracket", "brackets", ("camera bracket", "camera mount", "mounting bracket"))

    kind: Literal["bracket"] = "bracket"
    surfaces: Annotated[tuple[Mounted, ...], Field(min_length=1, max_length=4), Column("Mounts on")]
    camera_forms: Annotated[tuple[CameraForm, ...], Field(min_length=1, max_length=6), Column("Camera forms")]
    reach_m: Annotated[float, Field(ge=0, le=3), Column("Reach m")] = 0.1
    """How far it holds a lens before its wall, or under its ceiling."""
    holds: Annotated[int, Field(ge=1, le=4), Column("Holds cameras")] = 1
