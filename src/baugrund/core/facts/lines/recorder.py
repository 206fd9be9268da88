"""Recorders: what keeps what cameras film."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ...standards.disks import Raid
from .line import Column, Electric, Kind, Speed


class Recorder(Electric):
    """An enclosure with bays: how many cameras it takes, what goes into it, and how its disks may be put together."""

    of_kind = Kind(7, "recorder", "recorders", ("nvr", "network video recorder", "video recorder"))

    kind: Literal["recorder"] = "recorder"
    channels: Annotated[int, Field(ge=1, le=512), Column("Cameras", ("channels",))]
    in_mbit: Annotated[float, Field(gt=0, le=100_000), Column("Input Mbit/s", ("incoming bandwidth",))]
    """What goes into it at most, all streams together [Mbit/s]."""
    bays: Annotated[int, Field(ge=1, le=64), Column("Bays", ("drive bays",))]
    raid: Annotated[tuple[Raid, ...], Field(max_length=5), Column("RAID levels", ("raid",))] = ("none",)
    disk_tb_most: Annotated[Annotated[float, Field(gt=0, le=100)] | None, Column("Largest disk TB")] = None
    """None: any."""
    port_mbit: Annotated[Speed, Column("Port Mbit/s")] = 1000
    units: Annotated[int, Field(ge=1, le=20), Column("Units", ("rack units", "u"))] = 1
    mass_kg: Annotated[float, Field(ge=0, le=100), Column("Mass kg", ("mass", "weight", "weight kg"))] = 4.0
    """Without its disks."""
    sockets: Annotated[int, Field(ge=1, le=2), Column("Sockets")] = 1
