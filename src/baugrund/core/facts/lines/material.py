"""Materials: cable by the box, conduit, fixings, jacks, cords, consumables, tools."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ..fact import Name
from .line import Column, Kind, Line


class Material(Line):
    """A line for a part of a project that is known by name; its price is for all that it holds."""

    of_kind = Kind(19, "material", "materials", ("small part", "consumable", "cable", "conduit", "fixing", "tool"))

    kind: Literal["material"] = "material"
    serves: Annotated[Name, Column("Serves", ("part name", "is"))]
    """The part that it is, as a project calls it: ``panel jack``, ``category 6``, ``conduit, 21.4 mm inside``."""
    holds: Annotated[
        Annotated[float, Field(gt=0, le=10_000)], Column("Holds", ("contents", "metres a roll", "per pack"))
    ] = 1.0  # fmt: skip
    """Pieces or metres that the price is for; of cable metres on its box."""
