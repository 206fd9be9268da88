"""What boxes have: ports, slots, and what they ask of the housing.  Watts and kilograms as data sheets state them."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from ..fact import Fact
from .line import Column, Electric, PoeCap, Speed

Allocation = Literal["class", "draw"]
"""How a box sets watts aside as a device comes up: what its class reserves, or what it draws."""
Airflow = Literal["front_to_rear", "rear_to_front", "left_to_right", "right_to_left"]
Accessory = Literal["ears", "rails", "supply", "disk"]
"""What a box may lack in its packing: ears and rails for a rack, a power supply, disks for its recorder."""


class PortGroup(Fact):
    """``count`` equal 8P8C ports: speed [Mbit/s] and the highest PoE class they give, or none."""

    count: Annotated[int, Field(ge=1, le=64)]
    speed_mbit: Speed
    poe_class: PoeCap | None = None
    port_w: Annotated[float, Field(gt=0, le=100)] | None = None
    """Most that one of its ports gives [W]; None: what its class reserves."""


class SlotGroup(Fact):
    """``count`` equal slots for a pluggable module, and their speed [Mbit/s]."""

    count: Annotated[int, Field(ge=1, le=16)]
    speed_mbit: Speed


class Box(Electric):
    """A router or switch: ports, slots and what it asks of the housing."""

    ports: Annotated[tuple[PortGroup, ...], Field(max_length=8), Column("Ports")]
    slots: Annotated[tuple[SlotGroup, ...], Field(max_length=4), Column("Slots")] = ()
    poe_budget_w: Annotated[
        float, Field(ge=0, le=5000), Column("PoE budget W", ("poe budget", "poe power", "poe w"))
    ] = 0.0
    poe_allocation: Annotated[Allocation | None, Column("PoE allocation")] = None
    """How it sets watts aside as devices come up; None: not told."""
    lacks: Annotated[tuple[Accessory, ...], Field(max_length=4), Column("Lacks")] = ()
    """What it needs and does not come with."""
    supplies_w: Annotated[
        tuple[Annotated[float, Field(gt=0, le=5000)], ...], Field(max_length=4), Column("Supplies W")
    ] = ()
    """What each of several supplies gives [W]; empty: one, of which only the budget is told."""
    form: Annotated[Literal["shelf", "rack"], Column("Form")]
    """*rack*: 19-inch with ears; *shelf*: narrow, stands or hangs."""
    units: Annotated[int, Field(ge=1, le=20), Column("Units", ("rack units", "u"))] = 1
    width_mm: Annotated[Annotated[int, Field(ge=20, le=600)] | None, Column("Width mm", ("width",))] = None
    depth_mm: Annotated[int, Field(ge=20, le=1200), Column("Depth mm", ("depth",))]
    mass_kg: Annotated[float, Field(ge=0, le=100), Column("Mass kg", ("mass", "weight", "weight kg"))]
    fanless: Annotated[bool, Column("Fanless")]
    noise_dba: Annotated[Annotated[float, Field(ge=0, le=100)] | None, Column("Noise dB(A)")] = None
    """Sound pressure at 1 m [dB(A)]; None: not told."""
    airflow: Annotated[Airflow | None, Column("Airflow")] = None
    """Which way its fans blow; None: it has none, or it is not told."""
    ambient_max_c: Annotated[Annotated[float, Field(ge=20, le=90)] | None, Column("Warmest air °C")] = None
    """Warmest air that it may stand in [°C]."""
    managed: Annotated[bool, Column("Managed")]
    large_frames: Annotated[bool, Column("Large frames")]
    sockets: Annotated[int, Field(ge=1, le=2), Column("Sockets")] = 1
    """Mains sockets taken: 2 for a plug brick wider than one."""

    @property
    def poe_budget_mw(self) -> int:
        """Total PoE budget in whole milliwatts."""
        return round(self.poe_budget_w * 1000)

    @property
    def port_count(self) -> int:
        return sum(group.count for group in self.ports)

    @property
    def is_for_rooms(self) -> bool:
        """Whether it stands in rooms alone, fed over its cable: no closet takes it."""
        return False

    @property
    def powered_count(self) -> int:
        return sum(group.count for group in self.ports if group.poe_class is not None)

    @model_validator(mode="after")
    def _watts_and_powered_ports_belong_together(self) -> Box:
        if self.powered_count and not self.poe_budget_w:
            raise ValueError(f"{self.name}: {self.powered_count} powered ports but a PoE budget of 0 W")
        if self.poe_budget_w and not self.powered_count:
            raise ValueError(f"{self.name}: a PoE budget of {self.poe_budget_w:g} W but no powered port")
        if len(set(self.lacks)) < len(self.lacks):
            raise ValueError(f"{self.name}: lacks the same thing twice")
        left = sum(self.supplies_w) - self.own_draw_w
        if self.supplies_w and self.poe_budget_w > left:
            raise ValueError(
                f"{self.name}: a PoE budget of {self.poe_budget_w:g} W, but its supplies leave {left:g} W for it"
            )
        return self

    def budget_without_w(self, lost: int) -> float:
        """PoE budget with one supply lost [W]: what the others give less the own draw, and never over the budget."""
        left = sum(self.supplies_w) - self.supplies_w[lost] - self.own_draw_w
        return max(0.0, min(self.poe_budget_w, left))
