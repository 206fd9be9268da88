"""Injectors."""

from __future__ import annotations

from typing import Annotated, Literal

from .line import Column, Electric, Kind, Piecewise, PoeCap, Speed


class Injector(Electric, Piecewise):
    """Gives one port's drop power up to its class; one mains socket each."""

    of_kind = Kind(3, "injector", "injectors", ("poe injector", "midspan"), in_picks=True)

    kind: Literal["injector"] = "injector"
    poe_class: Annotated[PoeCap, Column("PoE class")]
    speed_mbit: Annotated[Speed, Column("Speed Mbit/s")]
