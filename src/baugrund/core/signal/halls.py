"""Access points in halls: where the way from one to the next is shorter than to a client on the floor, automatic power
is set by what they hear of each other, and serves the wrong one.

Beside what hangs there stand the figures of four ways to hang as many: on a square or a staggered lattice, with
all-round or downward antennas, in free space.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from itertools import combinations
from typing import Literal

import numpy as np
from shapely import Polygon

from ..facts.fact import Fact
from ..facts.lines.access_point import USUAL_PATTERNS, pattern_of
from ..facts.project import Project
from ..physics.radio import free_space_db, under_peak_db
from ..standards.radio import BEFORE_A_CHANNEL_MHZ, CLIENT_HEIGHT_M
from .field import Prediction
from .radios import USUAL_MODELS, Station

HALL_HEIGHT_M = 5.0
HALL_M2 = 150.0
"""A room so high and so wide is a hall, *default*."""
Lattice = Literal["square", "staggered"]
Antenna = Literal["all_round", "downward"]


class LatticeLine(Fact):
    """As many access points on a lattice: the ways [m], and what is received over them at 5 GHz [dBm]."""

    lattice: Lattice
    antenna: Antenna
    to_next_m: float
    to_client_m: float
    """To the client on the floor that is furthest from all."""
    client_dbm: float
    next_dbm: float
    """What the next access point hears."""
    serves_wrong: bool
    """Whether the next one hears it louder than that client."""


class HallLine(Fact):
    """A hall with the access points that hang in it."""

    room_id: int
    height_m: float
    """Of the lowest one above a client."""
    station_ids: tuple[int, ...]
    to_next_m: float
    """The shortest way between two of them."""
    to_client_m: float
    """The longest way from a client on the floor to the nearest one."""
    serves_wrong: bool
    """Whether the one is shorter than the other."""
    lattices: tuple[LatticeLine, ...]


def halls(project: Project, prediction: Prediction) -> Iterator[HallLine]:
    """Every hall in which two access points or more hang."""
    for room in project.rooms:
        floor = project.floors_by_id[room.floor_id]
        if room.outside or room.outline is None or floor.height_m < HALL_HEIGHT_M:
            continue
        shape = Polygon(room.outline)
        mine = [station for station in prediction.stations if station.drop.room_id == room.id]
        cells = next((of.cells for (number, _), of in prediction.fields.items() if number == floor.id), None)
        if shape.area < HALL_M2 or len(mine) < 2 or cells is None:
            continue
        points = cells.points[cells.room_of == room.id]
        if len(points):
            yield _hall(room.id, shape.area, mine, points)


def _hall(room_id: int, area_m2: float, mine: Sequence[Station], points: np.ndarray) -> HallLine:
    spots = np.array([station.spot for station in mine])
    away = np.linalg.norm(points[:, None, :] - spots[None, :, :], axis=2).min(axis=1)
    to_next = min(math.dist(one.spot, other.spot) for one, other in combinations(mine, 2))
    height = min(station.height_m for station in mine) - CLIENT_HEIGHT_M
    to_client = float(away.max())
    return HallLine(
        room_id=room_id, height_m=round(height, 3), station_ids=tuple(station.drop.id for station in mine),
        to_next_m=round(to_next, 2), to_client_m=round(to_client, 2), serves_wrong=to_next < to_client,
        lattices=tuple(lattices(area_m2, len(mine), height)),
    )  # fmt: skip


def spacing_m(lattice: Lattice, area_m2: float, count: int) -> float:
    """Between neighbours of so many on a lattice over an area: √(A/n), or √(2·A/(√3·n)) staggered [m]."""
    of_one = area_m2 / count
    return math.sqrt(of_one if lattice == "square" else 2 * of_one / math.sqrt(3))


def furthest_m(lattice: Lattice, spacing: float) -> float:
    """From a point of a lattice to the spot that is furthest from all, along the ground: s/√2, or s/√3 staggered."""
    return spacing / math.sqrt(2 if lattice == "square" else 3)


def lattices(area_m2: float, count: int, height_m: float) -> Iterator[LatticeLine]:
    """The four ways to hang so many at a height above clients, with the usual power of a ceiling model at 5 GHz."""
    model, mhz = USUAL_MODELS["ceiling"], BEFORE_A_CHANNEL_MHZ["5"]
    kinds: tuple[Lattice, ...] = ("square", "staggered")
    antennas: tuple[Antenna, ...] = ("all_round", "downward")
    for lattice in kinds:
        spacing = spacing_m(lattice, area_m2, count)
        ground = furthest_m(lattice, spacing)
        slant = math.hypot(ground, height_m)
        for antenna in antennas:
            elevation = pattern_of(USUAL_PATTERNS[antenna][1], 180)
            down = math.degrees(math.atan2(ground, height_m))
            at_client, aside = (float(under_peak_db(elevation, np.array([angle]))[0]) for angle in (down, 90.0))
            eirp = model.power_5_dbm + model.gain_5_dbi
            client = eirp - at_client - float(free_space_db(slant, mhz))
            beside = eirp - 2 * aside - float(free_space_db(spacing, mhz)) + model.gain_5_dbi
            yield LatticeLine(
                lattice=lattice, antenna=antenna, to_next_m=round(spacing, 2), to_client_m=round(slant, 2),
                client_dbm=round(client, 2), next_dbm=round(beside, 2), serves_wrong=beside > client,
            )  # fmt: skip
