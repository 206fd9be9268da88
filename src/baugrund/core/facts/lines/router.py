"""Routers."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from .box import Box
from .line import Column, Kind, Speed


class Router(Box):
    """The root of the tree: WAN port speeds [Mbit/s] and firewalled throughput [Mbit/s]."""

    of_kind = Kind(1, "router", "routers", ("gateway", "firewall"), in_picks=True)

    kind: Literal["router"] = "router"
    wan_mbit: Annotated[tuple[Speed, ...], Field(min_length=1, max_length=4), Column("WAN Mbit/s")]
    throughput_mbit: Annotated[int, Field(ge=1, le=1_000_000), Column("Throughput Mbit/s")]
    inspected_mbit: Annotated[Annotated[int, Field(ge=1, le=1_000_000)] | None, Column("Inspected Mbit/s")] = None
    """Throughput with inspection of what passes [Mbit/s]; None: not told."""
    networks: Annotated[Annotated[int, Field(ge=1, le=4094)] | None, Column("Networks")] = None
    """How many separate networks it keeps apart; None: not told."""
    recorder_cameras: Annotated[int, Field(ge=0, le=256), Column("Recorder cameras")] = 0
    """Cameras that a recorder built into the router takes; 0: none built in."""
    recorder_mbit: Annotated[Annotated[float, Field(gt=0, le=100_000)] | None, Column("Recorder input Mbit/s")] = None
    """What goes into it at most [Mbit/s]; None: not told."""
    recorder_bays: Annotated[Annotated[int, Field(ge=1, le=16)] | None, Column("Recorder bays")] = None
    """Bays for its disks; None: not told."""
