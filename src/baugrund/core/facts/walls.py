"""Walls, and the openings in them, as somebody drew or measured them."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field, model_validator

from ..standards.walls import Material
from .building import Metres
from .fact import Fact, Id, Text
from .references import FloorId

LEAST_WALL_M = 0.05


class Wall(Fact):
    """A straight wall.  Along a side of a room it says what the wall there is; elsewhere it stands free."""

    id: Id
    floor_id: FloorId
    x_m: Metres
    y_m: Metres
    to_x_m: Metres
    to_y_m: Metres
    material: Material = "plasterboard"
    thickness_mm: Annotated[int, Field(ge=2, le=2000)] | None = None
    """None: what a wall of its material usually has."""
    height_m: Annotated[float, Field(gt=0, le=30)] | None = None
    """None: from floor to ceiling."""

    @model_validator(mode="after")
    def _has_a_length(self) -> Wall:
        length = math.hypot(self.to_x_m - self.x_m, self.to_y_m - self.y_m)
        if length < LEAST_WALL_M:
            raise ValueError(f"the wall is {length:.3f} m long; {LEAST_WALL_M:g} m is the least")
        return self


OpeningKind = Literal["window", "door", "gate", "hatch"]


@dataclass(frozen=True)
class UsualOpening:
    """What an opening of a kind usually is, *default*: sill and head [m], what it is made of, and whether a view passes
    it."""

    sill_m: float
    head_m: float
    material: Material
    see_through: bool


USUAL_OPENINGS: dict[OpeningKind, UsualOpening] = {
    "window": UsualOpening(0.9, 2.1, "glass", True),
    "door": UsualOpening(0.0, 2.0, "timber", True),
    "gate": UsualOpening(0.0, 2.2, "timber", True),
    "hatch": UsualOpening(1.0, 2.0, "timber", True),
}
"""A door counts as it is drawn, which is open; a closed one says so."""


class Opening(Fact):
    """A window, door, gate or hatch: in the wall that its middle lies on; above its head and under its sill the wall
    stands."""

    id: Id
    floor_id: FloorId
    kind: OpeningKind = "door"
    name: Text = ""
    x_m: Metres
    y_m: Metres
    width_m: Annotated[float, Field(gt=0, le=50)] = 0.9
    sill_m: Annotated[float, Field(ge=0, le=30)] | None = None
    head_m: Annotated[float, Field(gt=0, le=30)] | None = None
    """Above its floor; None: usual for the kind."""
    see_through: bool | None = None
    """Whether a view passes it; None: usual for the kind."""
    material: Material | None = None
    """What fills it; None: usual for the kind."""

    @model_validator(mode="after")
    def _has_a_height(self) -> Opening:
        if self.head <= self.sill:
            raise ValueError(f"the head of the opening, {self.head:g} m, must be above its sill, {self.sill:g} m")
        return self

    @property
    def usual(self) -> UsualOpening:
        return USUAL_OPENINGS[self.kind]

    @property
    def sill(self) -> float:
        return self.usual.sill_m if self.sill_m is None else self.sill_m

    @property
    def head(self) -> float:
        return self.usual.head_m if self.head_m is None else self.head_m

    @property
    def passes_view(self) -> bool:
        return self.usual.see_through if self.see_through is None else self.see_through

    @property
    def filling(self) -> Material:
        return self.material or self.usual.material
