"""An access point moved for its looks: to the middle of its room, in line with the next one, or off a beam, and what
that costs of every goal of Wi-Fi."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import replace
from typing import Literal

import shapely
from shapely import Polygon

from ..facts.building import Point
from ..facts.catalogue import Catalogue
from ..facts.fact import Fact
from ..facts.project import Project
from .field import Prediction, field_of, predicted
from .goals import goal_lines
from .radios import Station

Look = Literal["centred", "in_line", "spot"]
LEAST_M = 0.05
"""What moves by less stays where it is."""


class GoalMoved(Fact):
    """The share of a goal that is met now and after a move; None: none of its rooms is drawn."""

    goal_id: int
    now: float | None
    then: float | None
    met_then: bool | None


class Moved(Fact):
    """A move of an access point, and what every goal has of it."""

    look: Look
    x_m: float
    y_m: float
    by_m: float
    in_line_with: int | None
    goals: tuple[GoalMoved, ...]


def moved_for_looks(
    project: Project, catalogue: Catalogue | None, drop_id: int, spot: Point | None = None
) -> tuple[Moved, ...]:
    """What moves to the middle of its room and in line with the next one would cost, or to a spot where one is named;
    none where it is nowhere, or there already."""
    prediction = predicted(project, catalogue)
    station = next((one for one in prediction.stations if one.drop.id == drop_id), None)
    if station is None:
        return ()
    now = {line.goal_id: line.share for line in goal_lines(project, prediction)}
    aims: Iterator[tuple[Look, Point, int | None]] | list[tuple[Look, Point, int | None]]
    aims = _aims(project, station, prediction.stations) if spot is None else [("spot", spot, None)]
    found = []
    for look, (x, y), beside in aims:
        by = math.dist((x, y), station.spot[:2])
        if by < LEAST_M:
            continue
        lines = goal_lines(project, _with(project, prediction, station, (x, y)))
        told = tuple(
            GoalMoved(goal_id=line.goal_id, now=now[line.goal_id], then=line.share, met_then=line.met)
            for line in lines
        )  # fmt: skip
        found.append(Moved(look=look, x_m=x, y_m=y, by_m=round(by, 3), in_line_with=beside, goals=told))
    return tuple(found)


def _aims(project: Project, station: Station, others: Sequence[Station]) -> Iterator[tuple[Look, Point, int | None]]:
    outline = project.rooms_by_id[station.drop.room_id].outline
    if outline is None:
        return
    shape, (x, y) = Polygon(outline), station.spot[:2]
    middle = shape.centroid
    if shapely.contains(shape, middle):
        yield "centred", (round(middle.x, 2), round(middle.y, 2)), None
    beside = [one for one in others if one is not station and one.floor_id == station.floor_id]
    if beside:
        # the shortest way into line, along the plan or across
        _, number, spot = min(
            (abs(there - here), one.drop.id, spot)
            for one in beside
            for here, there, spot in ((x, one.spot[0], (one.spot[0], y)), (y, one.spot[1], (x, one.spot[1])))
        )
        if shapely.intersects_xy(shape, *spot):
            yield "in_line", (round(spot[0], 2), round(spot[1], 2)), number


def _with(project: Project, prediction: Prediction, station: Station, spot: Point) -> Prediction:
    """The prediction with one access point elsewhere at its height."""
    at = (*spot, station.spot[2])
    put = replace(station, spot=at, senders=tuple(replace(sender, spot=at) for sender in station.senders))
    around = tuple(put if one is station else one for one in prediction.stations)
    fields = {
        key: field
        for key in prediction.fields
        if (field := field_of(project, around, *key, prediction.step_m, prediction.losses)) is not None
    }
    return replace(prediction, stations=around, fields=fields)
