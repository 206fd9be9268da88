"""Walls as somebody drew or measured them."""

from __future__ import annotations

import math
from typing import Annotated

from pydantic import Field, model_validator

from ..standards.walls import Material
from .building import Metres
from .fact import Fact, Id
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

    @model_validator(mode="after")
    def _has_a_length(self) -> Wall:
        length = math.hypot(self.to_x_m - self.x_m, self.to_y_m - self.y_m)
        if length < LEAST_WALL_M:
            raise ValueError(f"the wall is {length:.3f} m long; {LEAST_WALL_M:g} m is the least")
        return self
