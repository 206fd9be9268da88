"""What is received on a grid: for every floor, band and access point the level at the centre of each cell.

Received = EIRP − what the antenna takes off that way − free space − walls, floors and what fills rooms.  What is left
of rays is kept by spot and grid, so that after one access point was moved only its own are followed anew.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import Polygon

from ..errors import InvalidInput
from ..facts.building import Room
from ..facts.catalogue import Catalogue
from ..facts.kept import kept_beside
from ..facts.project import Project
from ..physics.radio import Floats, floors_db, free_space_db, under_peak_db
from ..places.layout import elevations
from ..standards.radio import (
    BANDS,
    CLIENT_HEIGHT_M,
    FLOOR_LOSS_DB,
    FLOOR_MAKES,
    WALL_LOSS_DB,
    Band,
    FloorMake,
)
from ..standards.walls import MATERIALS, Material
from .obstructions import Crossings, Obstructions, crossings, obstructions
from .radios import Sender, Station, stations

STEP_M = 0.5
"""Width of a cell, *default* [m]."""
STEPS_M = (0.25, 0.5, 1.0, 2.0, 4.0, 8.0)
POINTS_MOST = 60_000
"""Most cells of a floor."""
RAYS_MOST = 400_000
"""Most rays of all access points to all cells that are followed without asking: above it cells are wider."""


@dataclass(frozen=True, eq=False)
class Grid:
    """Cells of a floor: their centres, and which room each lies in."""

    floor_id: int
    step_m: float
    left_m: float
    top_m: float
    columns: int
    rows: int
    inside: NDArray[np.int64]
    """Numbers of the cells (row by row) whose centre is in a drawn room."""
    points: Floats
    """Their centres: x, y, elevation of the client."""
    room_of: NDArray[np.int64]
    """The room of each."""

    def spread(self, values: Floats) -> Floats:
        """Values of the cells inside over all cells, row by row; nan outside."""
        whole = np.full(self.rows * self.columns, math.nan)
        whole[self.inside] = values
        return whole.reshape(self.rows, self.columns)


@lru_cache(maxsize=32)
def _grid(floor_id: int, elevation_m: float, rooms: tuple[Room, ...], step_m: float) -> Grid | None:
    """The cells of a floor whose centre is in a drawn room; None: no room is drawn there.

    Cells lie between whole multiples of the step.  Raises InvalidInput where they would be too many.
    """
    shapes = [(room.id, Polygon(room.outline or ())) for room in rooms]
    if not shapes:
        return None
    west, north, east, south = shapely.total_bounds([shape for _, shape in shapes])
    left, top = math.floor(west / step_m), math.floor(north / step_m)
    columns, rows = math.ceil(east / step_m) - left, math.ceil(south / step_m) - top
    if columns * rows > POINTS_MOST:
        wider = next((step for step in STEPS_M if math.ceil(columns * rows * (step_m / step) ** 2) <= POINTS_MOST), 0)
        offered = f"{wider:g} m would do" if wider else "the floor is too wide for it"
        raise InvalidInput(
            f"A grid of {step_m:g} m has {columns * rows:,} cells on this floor; {POINTS_MOST:,} are the most. "
            f"{offered[0].upper()}{offered[1:]}.", "step_m",
        )  # fmt: skip
    x, y = np.meshgrid((np.arange(columns) + left + 0.5) * step_m, (np.arange(rows) + top + 0.5) * step_m)
    x, y = x.ravel(), y.ravel()
    room_of = np.zeros(len(x), dtype=np.int64)
    for room_id, shape in shapes:
        shapely.prepare(shape)
        room_of[(room_of == 0) & shapely.intersects_xy(shape, x, y)] = room_id
    inside = np.nonzero(room_of)[0]
    points = np.column_stack([x[inside], y[inside], np.full(len(inside), elevation_m + CLIENT_HEIGHT_M)])
    return Grid(floor_id, step_m, left * step_m, top * step_m, columns, rows, inside, points, room_of[inside])


def grid(project: Project, floor_id: int, step_m: float = STEP_M) -> Grid | None:
    """The cells of a floor; None: nobody has drawn a room there.  Raises InvalidInput where they would be too many."""
    drawn = tuple(room for room in project.rooms if room.floor_id == floor_id and room.outline)
    return _grid(floor_id, elevations(project.floors)[floor_id], drawn, step_m)


def usual_step_m(project: Project, count: int) -> float:
    """Width of cells that so many access points are predicted on without asking [m]: wider on a large site."""
    area = sum(Polygon(room.outline).area for room in project.rooms if room.outline)
    widest = max((_spread_m2(project, floor.id) for floor in project.floors), default=0.0)
    fitting = (
        step
        for step in STEPS_M
        if step >= STEP_M and area / step**2 * max(count, 1) <= RAYS_MOST and widest / step**2 <= POINTS_MOST / 2
    )
    return next(fitting, STEPS_M[-1])


def _spread_m2(project: Project, floor_id: int) -> float:
    """The rectangle around the drawn rooms of a floor [m²]."""
    shapes = [Polygon(room.outline) for room in project.rooms if room.outline and room.floor_id == floor_id]
    if not shapes:
        return 0.0
    west, north, east, south = shapely.total_bounds(shapes)
    return float((east - west) * (south - north))


@dataclass(frozen=True)
class Losses:
    """What walls and floors of this house take off [dB]: the defaults, and what is known better."""

    walls: tuple[tuple[float, ...], ...]
    """A row a band, in the order of `MATERIALS`."""
    floors: tuple[tuple[float, ...], ...]
    """A row a band, in the order of `FLOOR_MAKES`."""


def losses_of(project: Project) -> Losses:
    """The losses in force."""
    known = {(loss.make, loss.band): loss.db for loss in project.losses}

    def wall(material: Material, number: int) -> float:
        return known.get((material, BANDS[number]), WALL_LOSS_DB[material][number])

    def floor(make: FloorMake, number: int) -> float:
        return known.get((f"floor-{make}", BANDS[number]), FLOOR_LOSS_DB[make][number])

    bands = range(len(BANDS))
    return Losses(
        tuple(tuple(wall(material, number) for material in MATERIALS) for number in bands),
        tuple(tuple(floor(make, number) for make in FLOOR_MAKES) for number in bands),
    )


@lru_cache(maxsize=512)
def _in_the_way(of: Obstructions, spot: tuple[float, float, float], cells: Grid, losses: Losses) -> Floats:
    """What is in the way of every cell, a row a band [dB]: the rays themselves are followed once and not kept."""
    crossed = crossings(of, spot, cells.points)
    return np.array([in_the_way_db(of, crossed, losses, band) for band in BANDS])


def in_the_way_db(of: Obstructions, crossed: Crossings, losses: Losses, band: Band) -> Floats:
    """What walls, floors and what fills rooms take off each ray [dB]."""
    number = BANDS.index(band)
    walls = np.array(losses.walls[number])
    count = crossed.floors(of)
    met = count.sum(axis=1)
    mean = count @ np.array(losses.floors[number]) / np.maximum(met, 1)
    total = crossed.materials(of, walls) @ walls + floors_db(mean, met)
    return np.asarray(total + crossed.filled(of)[:, number])


def antenna_db(sender: Sender, points: Floats) -> Floats:
    """What the antenna takes off under its peak towards points [dB]: plan and elevation added."""
    way = points - np.array(sender.spot)
    flat = np.hypot(way[:, 0], way[:, 1])
    taken = under_peak_db(sender.elevation, np.degrees(np.arctan2(flat, -way[:, 2])))
    if sender.plan:
        turned = (np.degrees(np.arctan2(way[:, 0], -way[:, 1])) - sender.bearing_deg) % 360
        if sender.plan[-1][0] <= 180:
            turned = np.minimum(turned, 360 - turned)
        taken = taken + np.where(flat > 0, under_peak_db(sender.plan, turned), 0.0)
    return np.asarray(taken)


def received_dbm(sender: Sender, points: Floats, in_the_way: Floats) -> Floats:
    """The level of a sender at points, where so much is in the way [dBm]."""
    away = np.linalg.norm(points - np.array(sender.spot), axis=1)
    return np.asarray(sender.eirp_dbm - antenna_db(sender, points) - free_space_db(away, sender.mhz) - in_the_way)


@dataclass(frozen=True, eq=False)
class Field:
    """Levels of one band on a floor: a row a sender."""

    cells: Grid
    band: Band
    senders: tuple[Sender, ...]
    levels: Floats
    """Received [dBm]: senders × cells."""

    @cached_property
    def strongest(self) -> Floats:
        """The level of the one that answers [dBm]; −inf where there is none."""
        return _ranked(self.levels, 0)

    @cached_property
    def second(self) -> Floats:
        """The level of the next after it [dBm]."""
        return _ranked(self.levels, 1)

    @cached_property
    def answers(self) -> NDArray[np.int64]:
        """Which sender answers: the strongest, of equals the first on the list; −1 where there is none."""
        if not len(self.levels):
            return np.full(self.levels.shape[1], -1)
        return np.asarray(np.argmax(self.levels, axis=0))


def _ranked(levels: Floats, place: int) -> Floats:
    if len(levels) <= place:
        return np.full(levels.shape[1], -math.inf)
    return np.asarray(np.sort(levels, axis=0)[-1 - place])


@dataclass(frozen=True, eq=False)
class Prediction:
    """All floors and bands of a project."""

    stations: tuple[Station, ...]
    step_m: float
    fields: Mapping[tuple[int, Band], Field]
    """By floor and band; floors without a drawn room are missing."""
    losses: Losses

    def of_band(self, band: Band) -> Sequence[Field]:
        return [field for (_, of), field in self.fields.items() if of == band]


def field_of(
    project: Project, around: Sequence[Station], floor_id: int, band: Band, step_m: float, losses: Losses
) -> Field | None:
    """The levels of a band on a floor; None: nobody has drawn a room there."""
    cells = grid(project, floor_id, step_m)
    if cells is None:
        return None
    senders = tuple(sender for station in around for sender in station.senders if sender.band == band)
    return _field(obstructions(project), cells, senders, losses, band)


@lru_cache(maxsize=64)
def _field(of: Obstructions, cells: Grid, senders: tuple[Sender, ...], losses: Losses, band: Band) -> Field:
    """The levels, kept from one state of a project to the next while nothing of them is another."""
    number = BANDS.index(band)
    rows = [received_dbm(one, cells.points, _in_the_way(of, one.spot, cells, losses)[number]) for one in senders]
    return Field(cells, band, senders, np.array(rows).reshape(len(senders), len(cells.points)))


@kept_beside
def predicted(project: Project, catalogue: Catalogue | None) -> Prediction:
    """The levels of every floor that has a drawn room, in every band, on cells as wide as the site allows."""
    around = stations(project, catalogue)
    step = usual_step_m(project, len(around))
    losses = losses_of(project)
    fields: dict[tuple[int, Band], Field] = {}
    for floor in project.floors:
        for band in BANDS:
            found = field_of(project, around, floor.id, band, step, losses)
            if found is not None:
                fields[floor.id, band] = found
    return Prediction(around, step, fields, losses)
