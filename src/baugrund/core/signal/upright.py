"""Wi-Fi standing up: the levels on an upright cut through the site, as they are drawn on a section."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from typing import Literal, NamedTuple

import numpy as np
import shapely
from shapely import LineString, Polygon

from ..facts.catalogue import Catalogue
from ..facts.fact import Fact
from ..facts.project import Project
from ..places.layout import elevations
from ..standards.radio import BANDS, Band
from .contours import Picture, Shown, picture
from .field import POINTS_MOST, Field, Grid, in_the_way_db, losses_of, received_dbm
from .obstructions import crossings, obstructions
from .radios import stations

Axis = Literal["x", "y"]
STEP_M = 0.25
"""Width of the cells of a cut [m]; wider on a large site."""
OUTSIDE_M = 3.0
"""How high above open ground is looked [m]."""


class CutRoom(Fact):
    """A room that a cut passes: from where to where along it, and between which elevations [m]."""

    room_id: int
    from_m: float
    to_m: float
    low_m: float
    high_m: float


class CutStation(Fact):
    """An access point seen from the cut."""

    drop_id: int
    along_m: float
    z_m: float
    away_m: float
    """How far before or behind the cut it hangs."""


class SignalCut(Fact):
    """What is heard on an upright cut.  ``picture`` has distances along the cut and, downwards, minus the elevation."""

    axis: Axis
    """The axis of the plan that the cut runs along."""
    at_m: float
    """Where it lies on the other one."""
    rooms: tuple[CutRoom, ...]
    stations: tuple[CutStation, ...]
    picture: Picture | None
    """None: it passes no drawn room."""


class _Span(NamedTuple):
    room_id: int
    start: float
    end: float
    low: float
    high: float


def signal_cut(
    project: Project, catalogue: Catalogue | None, band: Band, axis: Axis, at_m: float, shown: Shown = "strongest"
) -> SignalCut:
    """The levels of a band on the cut along an axis of the plan at a place of the other one [m]."""
    spans = list(_spans(project, axis, at_m))
    around = stations(project, catalogue)
    along = 0 if axis == "x" else 1
    cells = _cells(spans, axis, at_m)
    drawn = None
    if cells is not None:
        senders = tuple(sender for station in around for sender in station.senders if sender.band == band)
        of, losses = obstructions(project), losses_of(project)
        rows = [
            received_dbm(
                one, cells.points, in_the_way_db(of, crossings(of, one.spot, cells.points), losses, band)
            )
            for one in senders
        ]  # fmt: skip
        levels = np.array(rows).reshape(len(senders), len(cells.points))
        drawn = picture(Field(cells, band, senders, levels), shown)
    return SignalCut(
        axis=axis, at_m=at_m, picture=drawn,
        rooms=tuple(
            CutRoom(room_id=one.room_id, from_m=one.start, to_m=one.end, low_m=one.low, high_m=one.high)
            for one in spans
        ),
        stations=tuple(
            CutStation(
                drop_id=one.drop.id, along_m=round(one.spot[along], 3), z_m=round(one.spot[2], 3),
                away_m=round(abs(one.spot[1 - along] - at_m), 3),
            )
            for one in around
        ),
    )  # fmt: skip


def _spans(project: Project, axis: Axis, at_m: float) -> Iterator[_Span]:
    """The rooms that the cut passes, storey by storey; a room of a winding outline may be passed more than once."""
    raised = elevations(project.floors)
    for room in project.rooms:
        if room.outline is None:
            continue
        shape, floor = Polygon(room.outline), project.floors_by_id[room.floor_id]
        west, north, east, south = shape.bounds
        line = LineString(
            [(west - 1, at_m), (east + 1, at_m)] if axis == "x" else [(at_m, north - 1), (at_m, south + 1)]
        )
        for part in shapely.get_parts(shape.intersection(line)):
            if part.length > 0:
                ends = [corner[0 if axis == "x" else 1] for corner in part.coords]
                low = raised[floor.id]
                yield _Span(
                    room.id, round(min(ends), 3), round(max(ends), 3), low,
                    low + (OUTSIDE_M if room.outside else floor.height_m),
                )  # fmt: skip


def _cells(spans: Sequence[_Span], axis: Axis, at_m: float) -> Grid | None:
    """Cells of the cut whose centre is in a room; None: it passes none."""
    if not spans:
        return None
    left, right = min(one.start for one in spans), max(one.end for one in spans)
    low, high = min(one.low for one in spans), max(one.high for one in spans)
    step = STEP_M
    while (right - left) * (high - low) / step**2 > POINTS_MOST / len(BANDS):
        step *= 2
    columns, rows = math.ceil((right - left) / step), math.ceil((high - low) / step)
    top = -(low + rows * step)
    along, down = np.meshgrid(left + (np.arange(columns) + 0.5) * step, top + (np.arange(rows) + 0.5) * step)
    along, up = along.ravel(), -down.ravel()
    room_of = np.zeros(len(along), dtype=np.int64)
    for one in spans:
        here = (one.start <= along) & (along <= one.end) & (one.low <= up) & (up < one.high)
        room_of[(room_of == 0) & here] = one.room_id
    inside = np.nonzero(room_of)[0]
    aside = np.full(len(inside), at_m)
    plan = (along[inside], aside) if axis == "x" else (aside, along[inside])
    points = np.column_stack([*plan, up[inside]])
    return Grid(0, step, left, top, columns, rows, inside, points, room_of[inside])
