"""What is known of radio on a site: how access points are set, what stands in rooms, what was measured."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field, model_validator

from ..standards.radio import BANDS_OF, FLOOR_MAKES, Band, ByBand, Generation, Width, channel_mhz
from ..standards.walls import MATERIALS
from .building import Metres, Outline, simple_shape
from .fact import Day, Fact, Id, Name, Note, Text
from .references import DropId, FloorId

Dbm = Annotated[float, Field(ge=-120, le=0)]
Channel = Annotated[int, Field(ge=1, le=233)]
Decibels = Annotated[float, Field(ge=0, le=60)]
MAX_RADIOS = 1_000
MAX_OBSTACLES = 500
MAX_READINGS = 5_000
MAX_NEIGHBOURS = 500


def _is_a_channel(band: Band, channel: int) -> None:
    """Raises ValueError where a band has no such 20 MHz channel."""
    fits = 1 <= channel <= 13 if band == "2.4" else 5000 < channel_mhz("5", channel) < 5895 if band == "5" else True
    if not fits:
        raise ValueError(f"{band} GHz has no channel {channel}")


class Radio(Fact):
    """How an access point is set in one band.  None: as its model has it, or usual; not set."""

    id: Id
    drop_id: DropId
    band: Band
    on: bool = True
    channel: Channel | None = None
    """20 MHz channel that it begins with; None: not set yet."""
    width_mhz: Width | None = None
    power_dbm: Annotated[float, Field(ge=-10, le=36)] | None = None
    """Conducted power."""
    kept: bool = False
    """A plan of channels leaves this channel as it is."""

    @model_validator(mode="after")
    def _is_of_its_band(self) -> Radio:
        if self.channel is not None:
            _is_a_channel(self.band, self.channel)
        if self.band == "2.4" and self.width_mhz is not None and self.width_mhz > 40:
            raise ValueError(f"2.4 GHz has no channel of {self.width_mhz} MHz")
        return self


ObstacleKind = Literal["racking", "stock", "machine", "other"]


@dataclass(frozen=True)
class UsualObstacle:
    """What fills a room usually does, *default*: its height [m] and what it takes off in each band [dB]."""

    height_m: float
    loss_db: ByBand


USUAL_OBSTACLES: dict[ObstacleKind, UsualObstacle] = {
    "racking": UsualObstacle(2.0, (4, 6, 7)),
    "stock": UsualObstacle(1.8, (8, 11, 13)),
    "machine": UsualObstacle(1.8, (15, 20, 22)),
    "other": UsualObstacle(1.5, (5, 7, 8)),
}


class Obstacle(Fact):
    """Racking, stock or a machine: what stands in a room and takes off some of what passes through it."""

    id: Id
    floor_id: FloorId
    name: Name
    kind: ObstacleKind = "racking"
    outline: Outline
    base_m: Annotated[float, Field(ge=0, le=30)] = 0.0
    height_m: Annotated[float, Field(gt=0, le=30)] | None = None
    """Of its top above its floor; None: usual for the kind."""
    loss_2_db: Decibels | None = None
    loss_5_db: Decibels | None = None
    loss_6_db: Decibels | None = None
    """What it takes off at 2.4, 5 and 6 GHz; None: usual for the kind."""

    @model_validator(mode="after")
    def _is_a_thing(self) -> Obstacle:
        simple_shape(self.outline, "the outline")
        if self.top_m <= self.base_m:
            raise ValueError(f"its top, {self.top_m:g} m, must be above its base, {self.base_m:g} m")
        return self

    @property
    def top_m(self) -> float:
        return USUAL_OBSTACLES[self.kind].height_m if self.height_m is None else self.height_m

    @property
    def losses_db(self) -> ByBand:
        typed = (self.loss_2_db, self.loss_5_db, self.loss_6_db)
        usual = USUAL_OBSTACLES[self.kind].loss_db
        low, middle, high = (a if a is not None else b for a, b in zip(typed, usual, strict=True))
        return (low, middle, high)


class Neighbour(Fact):
    """Somebody else's Wi-Fi as one of the access points hears it."""

    id: Id
    drop_id: DropId
    name: Text = ""
    band: Band
    channel: Channel
    width_mhz: Width = 20
    dbm: Dbm
    busy_percent: Annotated[float, Field(ge=0, le=100)] | None = None
    """Share of its airtime that it takes; None: usual."""

    @model_validator(mode="after")
    def _is_of_its_band(self) -> Neighbour:
        _is_a_channel(self.band, self.channel)
        return self


NEIGHBOUR_BUSY_PERCENT = 20.0
"""What a neighbour of whom nobody knows more takes of its channel's time, *default*."""


class Reading(Fact):
    """What a device heard at a spot of a survey walk."""

    id: Id
    walk: Name = "before"
    """Readings of one walk belong together."""
    floor_id: FloorId
    x_m: Metres
    y_m: Metres
    height_m: Annotated[float, Field(ge=0, le=30)] = 1.0
    device: Name = "phone"
    band: Band
    dbm: Dbm
    drop_id: DropId | None = None
    """The access point that answered; None: nobody knows which."""
    generation: Generation | None = None
    link_mbit: Annotated[float, Field(gt=0, le=100_000)] | None = None
    day: Day | None = None
    note: Note = ""

    @model_validator(mode="after")
    def _is_of_its_band(self) -> Reading:
        if self.generation is not None and self.band not in BANDS_OF[self.generation] and self.band == "6":
            raise ValueError(f"{self.generation} does not work at 6 GHz")
        return self


class Loss(Fact):
    """What a material or a floor of this house takes off in a band, as readings told or somebody knows it."""

    id: Id
    make: str
    """A material of walls, or what a floor is made of with ``floor-`` before it."""
    band: Band
    db: Decibels

    @model_validator(mode="after")
    def _is_known(self) -> Loss:
        known = (*MATERIALS, *(f"floor-{make}" for make in FLOOR_MAKES))
        if self.make not in known:
            raise ValueError(f"there is no material {self.make!r}; there are: {', '.join(known)}")
        return self


class DeviceOffset(Fact):
    """By how much more a device reads than the first one."""

    id: Id
    device: Name
    db: Annotated[float, Field(ge=-15, le=15)]
