"""Switches, for closets and for rooms."""

from __future__ import annotations

from typing import Annotated, Literal

from .box import Box
from .line import Column, Kind, PoeCap


class Switch(Box):
    """A box of ports."""

    of_kind = Kind(2, "switch", "switches", ("poe switch", "network switch", "managed switch"), in_picks=True)

    kind: Literal["switch"] = "switch"
    fed_class: Annotated[PoeCap | None, Column("Fed by class")] = None
    """Class that feeds it over its first cable, in a room; None: it takes a mains socket."""

    @property
    def is_for_rooms(self) -> bool:
        return self.fed_class is not None
