"""What cameras are to see, and how each of them looks: views, targets, and where the own ground ends."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from ..physics.optics import Projection
from ..standards.detail import HEIGHTS_LOOKED_AT_M, Detail
from .building import LEAST_ROOM_M2, Outline, Point, simple_shape
from .fact import Day, Fact, Id, Name, Note, PictureKey, Text
from .references import DropId, FloorId

Bearing = Annotated[float, Field(ge=0, lt=360)]
Tilt = Annotated[float, Field(ge=-90, le=90)]
Angle = Annotated[float, Field(gt=0, le=360)]
Pixels = Annotated[int, Field(ge=64, le=40_000)]
MAX_MASKS = 20


class View(Fact):
    """What one lens of a camera or door station sees, or one aim of a lens that turns.  None: usual for its form."""

    id: Id
    drop_id: DropId
    name: Text = ""
    across_px: Pixels | None = None
    down_px: Pixels | None = None
    """None: by the camera's megapixels."""
    field_deg: Angle | None = None
    """Angle of view across as it is set."""
    focal_mm: Annotated[float, Field(gt=0, le=1000)] | None = None
    sensor_mm: Annotated[float, Field(gt=0, le=100)] | None = None
    """Focal length with the sensor's width say the angle where nobody has typed it."""
    narrowest_deg: Angle | None = None
    """Angle across when it is zoomed in; None: it cannot zoom."""
    projection: Projection | None = None
    """None: rectilinear up to 110°, equidistant over that."""
    bearing_deg: Bearing | None = None
    """Clockwise from the top of the plan; None: towards the middle of its room."""
    tilt_deg: Tilt | None = None
    """Down from level."""
    light_m: Annotated[float, Field(ge=0, le=500)] | None = None
    """How far its own light reaches."""
    bracket_m: Annotated[float, Field(ge=0, le=3)] | None = None
    """How far the lens stands before the wall that it is fixed to."""
    masks: Annotated[tuple[Outline, ...], Field(max_length=MAX_MASKS)] = ()
    """Ground that its picture blacks out [m]."""
    still: PictureKey | None = None
    """A picture that was taken from there."""
    still_day: Day | None = None
    unseen: Note = ""
    """What stays unseen, as somebody saw it."""

    @model_validator(mode="after")
    def _zooms_in(self) -> View:
        if self.field_deg is not None and self.narrowest_deg is not None and self.narrowest_deg > self.field_deg:
            raise ValueError(
                f"zoomed in it sees {self.narrowest_deg:g}° across, which is more than the {self.field_deg:g}° set"
            )
        if (self.focal_mm is None) != (self.sensor_mm is None):
            raise ValueError("an angle of view needs both the focal length and the width of the sensor")
        for number, mask in enumerate(self.masks):
            simple_shape(mask, f"mask {number + 1}")
        return self


LookedAt = Literal["face", "plate", "ground"]
Corners = Annotated[tuple[Point, ...], Field(min_length=1, max_length=60)]


class Target(Fact):
    """What must be seen, and how well: a spot (one corner), a line (doorway, counter, gate) or an area."""

    id: Id
    name: Name
    floor_id: FloorId
    shape: Literal["spot", "line", "area"] = "spot"
    points: Corners
    """Corners in order [m]."""
    detail: Detail = "recognise"
    looked_at: LookedAt = "face"
    height_m: Annotated[float, Field(ge=-10, le=100)] | None = None
    """Height above its floor that is looked at; None: by what is looked at."""
    note: Note = ""

    @model_validator(mode="after")
    def _has_its_corners(self) -> Target:
        least, most = {"spot": (1, 1), "line": (2, 60), "area": (3, 60)}[self.shape]
        if not least <= len(self.points) <= most:
            wanted = {"spot": "one corner", "line": "two corners or more", "area": "three corners or more"}[self.shape]
            raise ValueError(
                f"a target that is {'an area' if self.shape == 'area' else 'a ' + self.shape} has {wanted}"
            )
        if self.shape == "line" and len(set(self.points)) < 2:
            raise ValueError("the line has no length")
        if self.shape == "area":
            simple_shape(self.points, "the area")
        return self

    @property
    def above_floor_m(self) -> float:
        """Height that is looked at [m]."""
        return HEIGHTS_LOOKED_AT_M[self.looked_at] if self.height_m is None else self.height_m


class Plot(Fact):
    """Where the own ground ends: its boundary as corners in order [m]."""

    id: Id
    name: Name = "Plot"
    outline: Outline

    @model_validator(mode="after")
    def _is_a_plot(self) -> Plot:
        simple_shape(self.outline, "the boundary", least_m2=LEAST_ROOM_M2)
        return self
