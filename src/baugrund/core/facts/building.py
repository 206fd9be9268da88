"""Where things are: buildings, floors, rooms, the closet, and the points where lines enter.

Plans are in metres, x to the right and y down the page, one plan a floor.  What is not drawn is laid out by
``layout``, so nobody owes a plan before counting starts.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from typing import Annotated, Literal

from pydantic import Field, field_validator, model_validator
from shapely import Polygon
from shapely.validation import explain_validity

from ..standards.walls import Material
from .fact import Fact, Id, Name, PictureKey, Text, numbers
from .references import BuildingId, ClosetId, FloorId, PhaseId, RoomId
from .stack import StackTerms

Metres = Annotated[float, Field(ge=-5000, le=5000)]
Side = Annotated[float, Field(ge=0.3, le=1000)]
Point = Annotated[tuple[Metres, Metres], numbers(2)]
Outline = Annotated[tuple[Point, ...], Field(min_length=3, max_length=60)]
LEAST_ROOM_M2 = 0.25

State = Literal["open", "finished", "mixed"]
RoomUse = Literal["", "living", "sleeping", "work", "wet", "store", "plant", "way"]


def simple_shape(outline: Sequence[Point], what: str, least_m2: float = 0.01) -> None:
    """Raises ValueError for an outline that crosses itself or holds next to nothing."""
    shape = Polygon(outline)
    if not shape.is_valid:
        raise ValueError(f"{what} must not cross itself ({explain_validity(shape)})")
    if shape.area < least_m2:
        raise ValueError(f"{what} holds {shape.area:.2f} m²; {least_m2:g} m² is the least")


class Building(Fact):
    """A building of the site; the state of its walls steers routes, hours and cautions."""

    id: Id
    name: Name
    state: State = "finished"
    detour: Annotated[float, Field(ge=1, le=3)] = 1.0
    """What the ways are longer than drawn, by corners and obstacles; for the parts along the building alone."""


class Floor(Fact):
    """A storey of a building, or (without one) open ground of the site."""

    id: Id
    building_id: BuildingId | None = None
    name: Name
    level: Annotated[int, Field(ge=-9, le=99)] = 0
    """0 is at the ground, −1 under it."""
    height_m: Annotated[float, Field(ge=1.5, le=30)] = 2.6
    """Clear height, floor to ceiling."""
    slab_m: Annotated[float, Field(ge=0.02, le=3)] = 0.3
    """Thickness of what is above the ceiling, up to the next floor."""
    ceiling: Literal["plasterboard", "suspended", "timber", "concrete", "open"] = "plasterboard"
    construction: Literal["timber", "concrete", "brick", "steel"] = "brick"
    picture: PictureKey | None = None
    """A floor plan picture under the drawing."""
    picture_width_px: Annotated[int, Field(ge=0, le=20_000)] = 0
    picture_height_px: Annotated[int, Field(ge=0, le=20_000)] = 0
    picture_m_per_px: Annotated[float, Field(gt=0, le=100)] = 0.02
    picture_x_m: Metres = 0.0
    picture_y_m: Metres = 0.0


class Room(Fact):
    """A room, or a place outside.  Without an outline it is laid out by its size."""

    id: Id
    name: Name
    floor_id: FloorId
    outside: bool = False
    position: Annotated[int, Field(ge=0, le=1_000_000)] = 0
    use: RoomUse = ""
    width_m: Side | None = None
    depth_m: Side | None = None
    outline: Outline | None = None
    """Corners in order [m]."""
    wall: Material = "plasterboard"
    """What its walls are made of where no wall says otherwise."""
    let_in_by: Text = ""
    """Who lets people in; empty: nobody needs to."""

    @field_validator("outline")
    @classmethod
    def _is_a_room(cls, outline: Outline | None) -> Outline | None:
        if outline is not None:
            simple_shape(outline, "the outline of a room", least_m2=LEAST_ROOM_M2)
        return outline


class Entry(Fact):
    """Where something comes into the building: a line, a cable from another building."""

    id: Id
    name: Name
    room_id: RoomId
    x_m: Metres | None = None
    y_m: Metres | None = None


class Sited(Fact):
    """Whether a place suits a closet; the answers are None until somebody has looked."""

    cool: bool | None = None
    """Stays under 30 °C all year."""
    dry: bool | None = None
    both_sides: bool | None = None
    """Room to work in front and behind or beside."""
    room_to_grow: bool | None = None


class Closet(Sited, StackTerms):
    """Where boxes stand, what the place gives them, and how it is linked to the closet that feeds it."""

    id: Id
    name: Name
    housing: Literal["shelf", "panel", "rack"] = "rack"
    units: Annotated[int, Field(ge=1, le=60)] = 9
    """Height for boxes, in units of 44.45 mm."""
    depth_mm: Annotated[int, Field(ge=50, le=1500)] = 450
    load_kg: Annotated[float, Field(gt=0, le=2000)] = 60.0
    sockets: Annotated[int, Field(ge=1, le=60)] = 6
    """Free mains sockets for the boxes and injectors of the pick."""
    other_sockets: Annotated[int, Field(ge=0, le=60)] | None = None
    """Mains sockets for what else stands there (provider's box, hubs, NAS); None: not counted yet."""
    ups_outlets: Annotated[int, Field(ge=0, le=60)] | None = None
    """Battery outlets, every box and injector taking one; None: no limit is set."""
    living_space: bool = False
    room_id: RoomId | None = None
    x_m: Metres | None = None
    y_m: Metres | None = None
    fed_by_id: ClosetId | None = None
    """The closet that it is linked to; None: the head end."""
    link: Literal["", "copper", "fibre"] = ""
    """What the link is made of; empty: what the project's rule chooses."""
    link_m: Annotated[float, Field(gt=0, le=10_000)] | None = None
    """Length of the link as measured [m]."""
    phase_id: PhaseId | None = None
    """The phase in which it is built; None: as soon as something ends in it."""


class Candidate(Sited):
    """A place where a closet could stand.  Without one a room is judged by its use."""

    id: Id
    room_id: RoomId
    x_m: Metres | None = None
    y_m: Metres | None = None
    socket: bool | None = None
    """A mains socket is there, or one is easily put there by a licensed electrician."""
    ruled_out: bool = False

    @model_validator(mode="after")
    def _is_a_spot(self) -> Candidate:
        if (self.x_m is None) != (self.y_m is None):
            raise ValueError("a place for a closet needs both x and y")
        return self


class Landmark(Fact):
    """A point that is seen on both sides of a ceiling (chimney, pipe, light), for finding other points again."""

    id: Id
    name: Name
    floor_id: FloorId
    x_m: Metres
    y_m: Metres


_LEVELS = (
    (r"\b(cellar|basement|souterrain)\b", -1),
    (r"\b(ground|parterre)\b", 0),
    (r"\b(first|1st|upper)\b", 1),
    (r"\b(second|2nd)\b", 2),
    (r"\b(third|3rd)\b", 3),
    (r"\b(fourth|4th)\b", 4),
)
_TOP = r"\b(loft|attic|roof)\b"


def guessed_level(name: str, taken: list[int]) -> int:
    """The level that a floor's name tells; else the one above those there are."""
    folded = name.casefold()
    for pattern, level in _LEVELS:
        if re.search(pattern, folded):
            return level
    return max(taken, default=-1) + 1


def is_loft(name: str) -> bool:
    """Whether a floor's name says that it is under the roof."""
    return re.search(_TOP, name.casefold()) is not None
