"""Cameras, with a lens of their own or for one of the lens's lines."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from .line import Column, Kind, Line, PoeCap

CameraForm = Literal["turret", "bullet", "dome", "pan_tilt", "fisheye", "panorama"]


Mounted = Literal["wall", "ceiling", "eaves", "pole"]
EITHER: tuple[Mounted, ...] = ("wall", "ceiling")
LensMount = Literal["C", "CS", "M12"]


class Camera(Line):
    """A camera with its lens."""

    of_kind = Kind(6, "camera", "cameras", ("ip camera", "network camera"))

    kind: Literal["camera"] = "camera"
    camera_form: Annotated[CameraForm, Column("Camera form")]
    across_px: Annotated[int, Field(ge=64, le=40_000), Column("Pixels across")]
    down_px: Annotated[int, Field(ge=64, le=40_000), Column("Pixels down")]
    field_deg: Annotated[
        Annotated[float, Field(gt=0, le=360)] | None, Column("Angle °", ("field of view", "fov", "horizontal angle"))
    ] = None
    """Angle of view across, at its widest; None: it has no lens of its own."""
    narrowest_deg: Annotated[Annotated[float, Field(gt=0, le=360)] | None, Column("Narrowest angle °")] = None
    """At its narrowest; None: it does not zoom."""
    projection: Annotated[Literal["rectilinear", "equidistant", "round"] | None, Column("Lens draws")] = None
    """None: rectilinear up to 110°, equidistant over that."""
    light_m: Annotated[float, Field(ge=0, le=500), Column("Own light m", ("ir range", "ir distance"))] = 0.0
    poe_class: Annotated[PoeCap, Column("PoE class")] = 3
    draw_w: Annotated[float, Field(gt=0, le=100), Column("Draw W")]
    outdoor: Annotated[bool, Column("For outside")] = False
    surfaces: Annotated[tuple[Mounted, ...], Field(min_length=1, max_length=4), Column("Mounts on")] = EITHER
    """What it is fixed to, with the bracket that it comes with."""
    pan_deg: Annotated[float, Field(ge=0, le=360), Column("Turns °")] = 0.0
    """How far its lens is turned by a motor; 0: it is aimed once."""
    tilt_turn_deg: Annotated[float, Field(ge=0, le=180), Column("Tilts °")] = 0.0
    """The same up and down."""
    lens_mount: Annotated[LensMount | None, Column("Lens mount")] = None
    """What a lens is screwed into; None: its lens is part of it."""
    sensor_mm: Annotated[Annotated[float, Field(gt=0, le=100)] | None, Column("Sensor mm")] = None
    """Width of its sensor, which says the angle that a lens gives it."""

    @model_validator(mode="after")
    def _sees_by_some_lens(self) -> Camera:
        if self.lens_mount is None and self.field_deg is None:
            raise ValueError(f"{self.name}: a camera with its own lens needs its angle; one without, its lens mount")
        if self.lens_mount is not None and self.sensor_mm is None:
            raise ValueError(f"{self.name}: with a lens mount it needs the width of its sensor")
        return self
