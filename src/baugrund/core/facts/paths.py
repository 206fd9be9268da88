"""Ways for cable: paths drawn or typed on the plan, what they ask, and the cable that goes into them."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from ..standards.cabling import Category
from ..standards.fibre import FibreGrade
from .building import Point
from .drop_kinds import KindKey
from .fact import Fact, Id, Name, Note, Text
from .path_kinds import PATH_KINDS, PathKind, PathRow
from .references import FloorId

MAX_CORNERS = 60
Millimetres = Annotated[float, Field(gt=0, le=2000)]
Celsius = Annotated[float, Field(ge=-40, le=90)]
Hours = Annotated[float, Field(ge=0, le=20)]


class Path(Fact):
    """A tray, wall line, conduit or riser on one floor; with ``to_floor_id`` its last corner goes on to another floor.

    Paths join where their corners or lines meet on the same floor.
    """

    id: Id
    name: Name
    kind: PathKind = "tray"
    floor_id: FloorId
    to_floor_id: FloorId | None = None
    points: Annotated[tuple[Point, ...], Field(min_length=1, max_length=MAX_CORNERS)]
    """Corners in order [m]; a single one only where the path goes straight on to another floor."""
    height_m: Annotated[float, Field(ge=-10, le=100)] | None = None
    """Above the floor; None: usual for the kind."""
    temperature_c: Celsius | None = None
    inner_mm: Millimetres | None = None
    """Inner diameter of a conduit or duct."""
    width_mm: Millimetres | None = None
    depth_mm: Millimetres | None = None
    """Inner width and depth of a tray or trunking."""
    with_mains: bool = False
    """Mains cables share the way."""
    pull_points: Annotated[int, Field(ge=0, le=50)] = 0
    """Points between its ends at which the cable can be pulled."""
    existing: bool = False
    note: Note = ""

    @model_validator(mode="after")
    def _goes_somewhere(self) -> Path:
        if len(self.points) == 1 and self.to_floor_id is None:
            raise ValueError("a path of one point must go on to another floor")
        if self.to_floor_id == self.floor_id:
            raise ValueError("a path cannot go on to the floor that it is on")
        if (self.width_mm is None) != (self.depth_mm is None):
            raise ValueError("a tray or trunking needs both width and depth")
        return self

    @property
    def row(self) -> PathRow:
        return PATH_KINDS[self.kind]


class PathRate(Fact):
    """What a kind of path asks in this project; None: the default of the kind."""

    id: Id
    kind: PathKind
    difficulty: Annotated[int, Field(ge=1, le=5)] | None = None
    hours_per_m: Hours | None = None
    """To pull the first cable through it, a metre."""
    tools: Text | None = None
    caution: Note | None = None


class Cable(Fact):
    """A cable on a box or reel: what it costs, how thick it is, and how warm its jacket may get."""

    id: Id
    category: Category
    outdoor: bool = False
    screened: bool = False
    box_m: Annotated[float, Field(ge=10, le=2000)] = 305.0
    price_minor: Annotated[int, Field(ge=0, le=100_000_000)] = 0
    diameter_mm: Annotated[float, Field(ge=2, le=20)] = 6.0
    rated_c: Celsius = 60.0


class Fibre(Fact):
    """A fibre cable by the metre, with its strands."""

    id: Id
    grade: FibreGrade
    strands: Literal[4, 8, 12, 24] = 4
    minor_per_m: Annotated[int, Field(ge=0, le=1_000_000)] = 0


class Colour(Fact):
    """The colour of cable for a kind of drop."""

    id: Id
    kind: KindKey
    colour: Name
