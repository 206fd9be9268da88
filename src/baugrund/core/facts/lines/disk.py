"""Disks of recorders."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from .line import Column, Kind, Line


class Disk(Line):
    """A disk; only one that is made for continuous writing keeps what cameras film."""

    of_kind = Kind(8, "disk", "disks", ("hard disk", "hard drive", "drive", "hdd"))

    kind: Literal["disk"] = "disk"
    tb: Annotated[float, Field(gt=0, le=100), Column("Size TB", ("capacity", "capacity tb"))]
    """10¹² bytes each."""
    continuous: Annotated[bool, Column("Continuous writing", ("surveillance",))] = True
    draw_w: Annotated[Annotated[float, Field(ge=0, le=50)] | None, Column("Draw W")] = None
