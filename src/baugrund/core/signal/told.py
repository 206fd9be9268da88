"""What is told of Wi-Fi: access points with their radios, goals, rooms, clients, airtime, as one value."""

from __future__ import annotations

from collections.abc import Sequence

from ..facts.catalogue import Catalogue
from ..facts.fact import Fact
from ..facts.kept import kept_beside
from ..facts.project import Project
from ..physics.radio import beacon_share
from ..standards.radio import BANDS, LOW_RATES_OFF_MBIT, LOWEST_MBIT, Band
from .airtime import Airtime, ClientLine, RadioLine, airtime
from .field import predicted
from .goals import GoalLine, RoomLine, goal_lines, room_lines
from .halls import HallLine, halls
from .mesh import MeshLine, meshed
from .radios import Station, bands_of


class StationLine(Fact):
    """An access point as it is predicted."""

    drop_id: int
    name: str
    model: str
    """Name of its line of the price lists; empty: usual for its form."""
    generation: str
    floor_id: int
    x_m: float
    y_m: float
    height_m: float
    placed: bool
    """Whether somebody has put it there; else it is laid out in its room."""
    bands: tuple[Band, ...]
    """Bands that its model has, on or off."""
    radios: tuple[RadioLine, ...]
    """Those that are on."""
    asked_mbit: float
    """What its clients ask, and those of access points that are fed through it over the air."""


class ObstacleLine(Fact):
    """What stands in a room, with what nobody has typed filled in."""

    obstacle_id: int
    top_m: float
    losses_db: tuple[float, ...]
    """At 2.4, 5 and 6 GHz."""


class BeaconLine(Fact):
    """What the beacons of one access point take of the air of a band [share]: with the lowest rates, and without."""

    band: Band
    kept: float
    off: float


class Signal(Fact):
    """What Wi-Fi reaches in a project."""

    step_m: float
    """Width of the cells that shares are counted on."""
    bands: tuple[Band, ...]
    """Bands that anything sends in."""
    stations: tuple[StationLine, ...]
    goals: tuple[GoalLine, ...]
    rooms: tuple[RoomLine, ...]
    clients: tuple[ClientLine, ...]
    not_drawn: tuple[int, ...]
    """Rooms that nobody has drawn: nothing is predicted there."""
    in_the_way: tuple[ObstacleLine, ...]
    mesh: tuple[MeshLine, ...]
    """Access points that are fed over the air."""
    halls: tuple[HallLine, ...]
    beacons: tuple[BeaconLine, ...]
    nowhere: tuple[int, ...]
    """Access points that are nowhere: not on the plan, and in a room that is not drawn."""


BEACONS = tuple(
    BeaconLine(
        band=band, kept=round(beacon_share(lowest, band == "2.4"), 5),
        off=round(beacon_share(LOW_RATES_OFF_MBIT, False), 5),
    )
    for band, lowest in LOWEST_MBIT.items()
)  # fmt: skip


@kept_beside
def signal_of(project: Project, catalogue: Catalogue | None) -> Signal:
    """What Wi-Fi reaches, on cells as wide as the site allows."""
    prediction = predicted(project, catalogue)
    found = airtime(project, prediction)
    mesh = meshed(project, prediction)
    there = {station.drop.id for station in prediction.stations}
    sent = {sender.band for station in prediction.stations for sender in station.senders}
    return Signal(
        step_m=prediction.step_m, bands=tuple(band for band in BANDS if band in sent),
        stations=tuple(_line(project, station, found, mesh) for station in prediction.stations),
        goals=tuple(goal_lines(project, prediction)), rooms=tuple(room_lines(prediction)), clients=found.clients,
        not_drawn=tuple(room.id for room in project.rooms if room.outline is None),
        in_the_way=tuple(
            ObstacleLine(obstacle_id=one.id, top_m=one.top_m, losses_db=one.losses_db) for one in project.obstacles
        ),
        mesh=mesh, halls=tuple(halls(project, prediction)), beacons=BEACONS,
        nowhere=tuple(
            drop.id for drop in project.drops
            if drop.kind == "access_point" and drop.in_use and drop.id not in there
        ),
    )  # fmt: skip


def _line(project: Project, station: Station, found: Airtime, mesh: Sequence[MeshLine]) -> StationLine:
    number = station.drop.id
    fed = {number, *(line.drop_id for line in mesh if number in {hop.to_id for hop in line.hops})}
    return StationLine(
        drop_id=station.drop.id, name=project.name_of(station.drop), model=station.model.name if station.listed else "",
        generation=station.model.generation, floor_id=station.floor_id, x_m=station.spot[0], y_m=station.spot[1],
        height_m=station.height_m, placed=station.placed, bands=bands_of(station.model),
        radios=tuple(line for line in found.radios if line.drop_id == number),
        asked_mbit=round(sum(line.demand_mbit for line in found.radios if line.drop_id in fed), 3),
    )  # fmt: skip
