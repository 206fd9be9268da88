"""Power strips."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from .line import Column, Kind
from .stood import Stood


class Strip(Stood):
    """Sockets in a row."""

    of_kind = Kind(15, "power strip", "power strips", ("pdu", "socket strip"))

    kind: Literal["power strip"] = "power strip"
    outlets: Annotated[int, Field(ge=1, le=48), Column("Outlets")]
    amperes: Annotated[float, Field(gt=0, le=63), Column("Amperes")] = 10.0
