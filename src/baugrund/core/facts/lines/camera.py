"""Cameras and their lenses."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from .line import Column, Kind, Line, PoeCap

CameraForm = Literal["turret", "bullet", "dome", "pan_tilt", "fisheye", "panorama"]


Mounted = Literal["wall", "ceiling"]
EITHER: tuple[Mounted, ...] = ("wall", "ceiling")


class Camera(Line):
    """A camera with its lens."""

    of_kind = Kind(6, "camera", "cameras", ("ip camera", "network camera"))

    kind: Literal["camera"] = "camera"
    camera_form: Annotated[CameraForm, Column("Camera form")]
    across_px: Annotated[int, Field(ge=64, le=40_000), Column("Pixels across")]
    down_px: Annotated[int, Field(ge=64, le=40_000), Column("Pixels down")]
    field_deg: Annotated[float, Field(gt=0, le=360), Column("Angle °", ("field of view", "fov", "horizontal angle"))]
    """Angle of view across, at its widest."""
    narrowest_deg: Annotated[Annotated[float, Field(gt=0, le=360)] | None, Column("Narrowest angle °")] = None
    """At its narrowest; None: it does not zoom."""
    projection: Annotated[Literal["rectilinear", "equidistant", "round"] | None, Column("Lens draws")] = None
    """None: rectilinear up to 110°, equidistant over that."""
    light_m: Annotated[float, Field(ge=0, le=500), Column("Own light m", ("ir range", "ir distance"))] = 0.0
    poe_class: Annotated[PoeCap, Column("PoE class")] = 3
    draw_w: Annotated[float, Field(gt=0, le=100), Column("Draw W")]
    outdoor: Annotated[bool, Column("For outside")] = False
    surfaces: Annotated[tuple[Mounted, ...], Field(min_length=1, max_length=2), Column("Mounts on")] = (
        "wall",
        "ceiling",
    )
    """What it is fixed to, with the bracket that it comes with."""
    pan_deg: Annotated[float, Field(ge=0, le=360), Column("Turns °")] = 0.0
    """How far its lens is turned by a motor; 0: it is aimed once."""
