"""What access points reach: from every spot under a ceiling the cells that a goal of Wi-Fi is about."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Any, NamedTuple, cast

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import Polygon

from ..facts.brief import AREA_SHARE_PERCENT, Goal
from ..facts.building import Room
from ..facts.catalogue import Catalogue
from ..facts.drop import Drop
from ..facts.lines.access_point import AccessPoint, AccessPointForm
from ..facts.project import Project
from ..places.layout import elevations
from ..places.walls import wall_pieces
from ..signal.field import Prediction, in_the_way_db, received_dbm
from ..signal.goals import cells_of, level_of, rooms_inside, rooms_of
from ..signal.obstructions import crossings, obstructions
from ..signal.radios import Station, senders_of
from ..standards.radio import BANDS

LATTICE_M = 6.0
"""Between two spots of the lattice, *default* [m]."""
SPOTS_MOST = 200
FROM_WALL_M = 0.5
LINES_MOST = 3
WALL_FROM_M = 2.0
"""A shorter side of a room takes none."""
ON_WALL_M, IN_WALL_M, OFF_WALL_M = 2.3, 0.3, 0.1
"""Heights on and in a wall, and how far before it an antenna is, *default* [m]."""
OUTER_FROM_M, OUTSIDE_M = 3.0, 2.8
"""The shortest outer wall that takes one outside, and how high it hangs there, *default* [m]."""
Booleans = NDArray[np.bool_]


class Spot(NamedTuple):
    """A place for an access point: under a ceiling, outside on a wall of the house, or where asked for in rooms on or
    in a wall."""

    room_id: int
    floor_id: int
    x_m: float
    y_m: float
    height_m: float
    z_m: float
    on: AccessPointForm = "ceiling"
    bearing_deg: float = 0.0
    """Out of its wall."""


@dataclass(frozen=True)
class Column:
    """A model on a spot, and the cells that it reaches."""

    spot: int
    line: AccessPoint
    reaches: Booleans
    price_minor: int


@dataclass(frozen=True)
class Cells:
    """The cells of all goals, and how many of each goal must be reached."""

    of_goal: tuple[tuple[int, int], ...]
    """From which cell to which."""
    needed: tuple[int, ...]


def lines_of(catalogue: Catalogue, forms: Sequence[AccessPointForm] = ("ceiling",)) -> tuple[AccessPoint, ...]:
    """Access points of these forms in stock, of each the cheapest first; those that a cheaper one replaces are left
    out."""
    return tuple(line for form in forms for line in _of_form(catalogue, form))


def _of_form(catalogue: Catalogue, form: AccessPointForm) -> list[AccessPoint]:
    kept: list[AccessPoint] = []
    able = [one for one in catalogue.models if isinstance(one, AccessPoint) and one.in_stock and one.ap_form == form]
    for line in sorted(able, key=lambda one: (one.price_minor, one.key)):
        if not any(_replaces(one, line) for one in kept):
            kept.append(line)
    return kept[:LINES_MOST]


def forms_of(project: Project) -> tuple[AccessPointForm, ...]:
    """Forms that are hung: under ceilings, on and in walls where the project asks for them, outside where a yard or
    garden is drawn."""
    in_rooms: tuple[AccessPointForm, ...] = ("ceiling",)
    if project.settings.ap_places == "wall":
        in_rooms = ("ceiling", "wall", "in_wall")
    return (*in_rooms, "outdoor") if any(room.outside and room.outline for room in project.rooms) else in_rooms


def _replaces(one: AccessPoint, other: AccessPoint) -> bool:
    """Whether one sends as much in every band that the other has, by the same antenna, with as many streams."""
    return one.patterns == other.patterns and all(
        getattr(one, f"streams_{band}") >= getattr(other, f"streams_{band}")
        and (
            not getattr(other, f"streams_{band}")
            or getattr(one, f"power_{band}_dbm") + getattr(one, f"gain_{band}_dbi")
            >= getattr(other, f"power_{band}_dbm") + getattr(other, f"gain_{band}_dbi")
        )
        for band in ("2", "5", "6")
    )


def spots_of(project: Project, prediction: Prediction) -> tuple[Spot, ...]:
    """Spots under the ceilings of drawn rooms: where access points stand, the middles of rooms, a triangular lattice;
    of too many the lattice is wider."""
    raised = elevations(project.floors)
    stand = [
        Spot(
            station.drop.room_id,
            station.floor_id,
            station.spot[0],
            station.spot[1],
            station.height_m,
            station.spot[2],
            form if form in forms_of(project) else "ceiling",
            station.drop.bearing_deg or 0.0,
        )
        for station in prediction.stations
        for form in (station.model.ap_form,)
    ]
    stand += _outside(project)
    rooms = [room for room in project.rooms if room.outline and not room.outside]
    if project.settings.ap_places == "wall":
        stand += [spot for room in rooms for spot in _on_walls(project, room, raised[room.floor_id])]
    step = LATTICE_M
    while True:
        found = dict.fromkeys(stand)
        for room in rooms:
            shape, floor = Polygon(room.outline), project.floors_by_id[room.floor_id]
            inner = shape.buffer(-FROM_WALL_M)
            middle = shape.centroid if shape.contains(shape.centroid) else shape.representative_point()
            for x, y in [(middle.x, middle.y), *_lattice(inner, step)]:
                spot = Spot(
                    room.id, floor.id, round(x, 2), round(y, 2), floor.height_m, raised[floor.id] + floor.height_m
                )
                found[spot] = None
        if len(found) <= SPOTS_MOST or step > 100:
            return tuple(found)[:SPOTS_MOST]
        step *= 1.25


def _on_walls(project: Project, room: Room, ground_m: float) -> Iterator[Spot]:
    """The middle of every side of a room that is long enough: high on the wall, and in it as high as a jack."""
    corners = room.outline or ()
    shape = Polygon(corners)
    for (x, y), (to_x, to_y) in pairwise((*corners, corners[0])):
        length = math.dist((x, y), (to_x, to_y))
        if length < WALL_FROM_M:
            continue
        out = (-(to_y - y) / length, (to_x - x) / length)
        middle = ((x + to_x) / 2, (y + to_y) / 2)
        if not shapely.intersects_xy(shape, middle[0] + out[0] * OFF_WALL_M, middle[1] + out[1] * OFF_WALL_M):
            out = (-out[0], -out[1])
        at = (round(middle[0] + out[0] * OFF_WALL_M, 2), round(middle[1] + out[1] * OFF_WALL_M, 2))
        bearing = round(math.degrees(math.atan2(out[0], -out[1])) % 360, 1) % 360
        height = min(ON_WALL_M, project.floors_by_id[room.floor_id].height_m)
        for on, up in (("wall", height), ("in_wall", IN_WALL_M)):
            yield Spot(room.id, room.floor_id, *at, up, ground_m + up, cast(AccessPointForm, on), bearing)


def _outside(project: Project) -> Iterator[Spot]:
    """Outside on the walls of houses, wherever a yard or garden is drawn there."""
    raised = elevations(project.floors)
    yards = [(room, Polygon(room.outline)) for room in project.rooms if room.outside and room.outline]
    for piece in wall_pieces(project) if yards else ():
        if len(piece.room_ids) != 1 or piece.length_m < OUTER_FROM_M:
            continue
        along = ((piece.end[0] - piece.start[0]) / piece.length_m, (piece.end[1] - piece.start[1]) / piece.length_m)
        middle = piece.at(piece.length_m / 2)
        off = piece.thickness_mm / 2000 + OFF_WALL_M
        for out in ((-along[1], along[0]), (along[1], -along[0])):
            spot = (round(middle[0] + out[0] * off, 2), round(middle[1] + out[1] * off, 2))
            there = next((room for room, shape in yards if shapely.intersects_xy(shape, *spot)), None)
            if there is not None and raised[there.floor_id] == raised[piece.floor_id]:
                bearing = round(math.degrees(math.atan2(out[0], -out[1])) % 360, 1) % 360
                up = min(OUTSIDE_M, project.floors_by_id[piece.floor_id].height_m)
                yield Spot(there.id, there.floor_id, *spot, up, raised[there.floor_id] + up, "outdoor", bearing)


def _lattice(shape: Any, step: float) -> Iterator[tuple[float, float]]:
    """Points of a triangular lattice inside a shape, row by row."""
    if shape.is_empty:
        return
    west, north, east, south = shape.bounds
    for row in range(math.floor(north / (step * math.sqrt(0.75))), math.ceil(south / (step * math.sqrt(0.75))) + 1):
        y = row * step * math.sqrt(0.75)
        for place in range(math.floor(west / step) - 1, math.ceil(east / step) + 1):
            x = (place + row % 2 / 2) * step
            if shapely.contains_xy(shape, x, y):
                yield x, y


def cells_asked(project: Project, prediction: Prediction, asked: Sequence[Goal]) -> Cells:
    """All cells of all goals, one goal after another."""
    spans, needed, start = [], [], 0
    for goal in asked:
        count = sum(int(chosen.sum()) for _, chosen in _chosen_cells(project, prediction, goal))
        share = (AREA_SHARE_PERCENT if goal.share_percent is None else goal.share_percent) / 100
        spans.append((start, start + count))
        needed.append(math.ceil(share * count - 1e-9))
        start += count
    return Cells(tuple(spans), tuple(needed))


def _chosen_cells(project: Project, prediction: Prediction, goal: Goal) -> Iterator[tuple[int, Booleans]]:
    """The cells that a goal is about, floor by floor."""
    for floor_id in dict.fromkeys(floor for floor, _ in prediction.fields):
        chosen = cells_of(goal, rooms_of(goal, rooms_inside(project)), prediction.fields[floor_id, BANDS[0]])
        if chosen.any():
            yield floor_id, chosen


def columns_on(
    project: Project, prediction: Prediction, asked: Sequence[Goal], number: int, spot: Spot,
    lines: Sequence[AccessPoint], run_minor: int,
) -> Iterator[Column]:  # fmt: skip
    """Every model on a spot with the cells that it reaches."""
    of, losses = obstructions(project), prediction.losses
    place = (spot.x_m, spot.y_m, spot.z_m)
    floors = dict.fromkeys(floor for goal in asked for floor, _ in _chosen_cells(project, prediction, goal))
    cells = {floor: prediction.fields[floor, BANDS[0]].cells for floor in floors}
    crossed = {floor: crossings(of, place, cells[floor].points) for floor in floors}
    for line in (one for one in lines if one.ap_form == spot.on):
        senders = station_on(project, 0, spot, line).senders
        levels = {
            (floor, sender.band): received_dbm(
                sender, cells[floor].points, in_the_way_db(of, crossed[floor], losses, sender.band)
            )
            for floor in floors
            for sender in senders
        }
        reached: list[Booleans] = []
        for goal in asked:
            for floor, chosen in _chosen_cells(project, prediction, goal):
                best = np.full(int(chosen.sum()), -math.inf)
                for sender in senders:
                    if goal.band in (None, sender.band):
                        best = np.maximum(best, levels[floor, sender.band][chosen])
                reached.append(best >= level_of(goal))
        yield Column(number, line, np.concatenate(reached or [np.zeros(0, np.bool_)]), line.price_minor + run_minor)


def station_on(project: Project, number: int, spot: Spot, line: AccessPoint) -> Station:
    """An access point that nobody has listed yet, as its model sends."""
    drop = Drop(
        id=project.next_id + number, room_id=spot.room_id, closet_id=project.head_end.id, kind="access_point",
        speed_mbit=1000, bearing_deg=spot.bearing_deg,
    )  # fmt: skip
    bare = Station(drop, line, True, spot.floor_id, (spot.x_m, spot.y_m, spot.z_m), spot.height_m, True, ())
    return replace(bare, senders=senders_of(bare, {}, project.settings.region))


def can_be_met(columns: Sequence[Column], cells: Cells, asked: Sequence[Goal]) -> tuple[Cells, tuple[int, ...]]:
    """What must be reached of the goals that can be met, and the others."""
    every = np.any([column.reaches for column in columns], axis=0)
    meets = [
        int(every[start:end].sum()) >= needed for (start, end), needed in zip(cells.of_goal, cells.needed, strict=True)
    ]
    needed = tuple(n if met else 0 for n, met in zip(cells.needed, meets, strict=True))
    return replace(cells, needed=needed), tuple(goal.id for goal, met in zip(asked, meets, strict=True) if not met)
