"""Goals of Wi-Fi, checked on the grid: the share of the area that meets them, the worst spot, and what hides it."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Sequence

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import Polygon

from ..facts.brief import AREA_SHARE_PERCENT, GOALS, WIFI_GOALS, Goal
from ..facts.fact import Fact
from ..facts.project import Project
from ..standards.radio import BANDS, Band
from .field import Field, Prediction
from .obstructions import obstructions
from .spot import hiding, parts_of

LEVELS_DBM = (-60.0, -67.0, -70.0, -80.0)
"""What contours and shares are told at: heavy, calls, usable, hardly there."""


class WorstSpot(Fact):
    """Where least is heard, and what is in the way there."""

    floor_id: int
    x_m: float
    y_m: float
    dbm: float | None
    """None: nothing is heard there at all."""
    drop_id: int | None
    """The access point that answers there."""
    hidden_by: str
    """What takes most on the way, beside its length; empty: nothing does."""


class GoalLine(Fact):
    """A goal of Wi-Fi and how far it is met."""

    goal_id: int
    band: Band | None
    """None: any."""
    level_dbm: float
    share_wanted: float
    share: float | None
    """Of the cells of its rooms and area that meet it; None: none of them is drawn."""
    met: bool | None
    worst: WorstSpot | None
    not_drawn: tuple[int, ...]
    """Rooms of it that nobody has drawn: nothing is predicted there."""


class RoomLine(Fact):
    """What is heard in a room in a band."""

    room_id: int
    band: Band
    shares: tuple[float, ...]
    """Of its cells at −60, −67, −70 and −80 dBm or better."""
    worst_dbm: float | None
    middle_dbm: float | None
    """Half of its cells hear more."""
    answered_by: tuple[int, ...]
    """Access points that answer in it, the one for most of it first."""


def goal_lines(project: Project, prediction: Prediction) -> Iterator[GoalLine]:
    """Every goal of Wi-Fi; a goal without rooms and area is about all rooms inside."""
    return (_goal(project, prediction, goal) for goal in project.goals if goal.kind in WIFI_GOALS)


def level_of(goal: Goal) -> float:
    """The level that a goal asks for [dBm]."""
    usual = GOALS[goal.kind][2]
    return goal.level if goal.level is not None else usual or 0.0


def rooms_of(goal: Goal, inside: Sequence[int]) -> Sequence[int]:
    """The rooms that a goal is about; ``inside``: all rooms inside, which one without rooms and area is about."""
    return goal.room_ids if goal.room_ids or goal.area is not None else inside


def rooms_inside(project: Project) -> list[int]:
    """Numbers of the rooms that are not outside."""
    return [room.id for room in project.rooms if not room.outside]


def cells_of(goal: Goal, rooms: Iterable[int], field: Field) -> NDArray[np.bool_]:
    """Which cells of a floor a goal is about."""
    chosen = np.isin(field.cells.room_of, list(rooms))
    if goal.area is not None and goal.floor_id == field.cells.floor_id:
        shape = Polygon(goal.area)
        shapely.prepare(shape)
        chosen |= shapely.intersects_xy(shape, field.cells.points[:, 0], field.cells.points[:, 1])
    return np.asarray(chosen)


def _goal(project: Project, prediction: Prediction, goal: Goal) -> GoalLine:
    level, rooms = level_of(goal), rooms_of(goal, rooms_inside(project))
    wanted = (AREA_SHARE_PERCENT if goal.share_percent is None else goal.share_percent) / 100
    bands = BANDS if goal.band is None else (goal.band,)
    met = count = 0
    worst: tuple[float, Field, int] | None = None
    for floor_id in dict.fromkeys(floor for floor, _ in prediction.fields):
        fields = [prediction.fields[floor_id, band] for band in bands]
        chosen = cells_of(goal, rooms, fields[0])
        if not chosen.any():
            continue
        strongest = np.array([field.strongest for field in fields])
        best = strongest.max(axis=0)
        met, count = met + int((best[chosen] >= level).sum()), count + int(chosen.sum())
        least = int(np.argmin(np.where(chosen, best, math.inf)))
        if worst is None or best[least] < worst[0]:
            worst = (float(best[least]), fields[int(np.argmax(strongest[:, least]))], least)
    return GoalLine(
        goal_id=goal.id, band=goal.band, level_dbm=level, share_wanted=wanted, share=met / count if count else None,
        met=None if not count else met / count >= wanted,
        worst=None if worst is None else worst_spot(project, prediction, worst[1], worst[2]),
        not_drawn=tuple(number for number in rooms if project.rooms_by_id[number].outline is None),
    )  # fmt: skip


def worst_spot(project: Project, prediction: Prediction, field: Field, cell: int) -> WorstSpot:
    """A cell of a floor, and what is in the way of the access point that answers there."""
    x, y, _ = field.cells.points[cell]
    answers = int(field.answers[cell])
    here = WorstSpot(
        floor_id=field.cells.floor_id, x_m=round(float(x), 3), y_m=round(float(y), 3), dbm=None, drop_id=None,
        hidden_by="",
    )  # fmt: skip
    if answers < 0:
        return here
    sender = field.senders[answers]
    parts = parts_of(obstructions(project), prediction.losses, sender, field.cells.points[cell : cell + 1])
    dbm = round(float(field.levels[answers, cell]), 2)
    return here.model_copy(update={"dbm": dbm, "drop_id": sender.drop_id, "hidden_by": hiding(parts)})


def room_lines(prediction: Prediction) -> Iterator[RoomLine]:
    """Every drawn room in every band that somebody sends in."""
    for (_, band), field in prediction.fields.items():
        if field.senders and len(field.cells.points):
            yield from _rooms(band, field)


def _rooms(band: Band, field: Field) -> Iterator[RoomLine]:
    """The rooms of a floor, all at once: cells sorted by room, and by level in it."""
    order = np.lexsort((field.strongest, field.cells.room_of))
    room_of, levels, answers = (of[order] for of in (field.cells.room_of, field.strongest, field.answers))
    rooms, first, count = np.unique(room_of, return_index=True, return_counts=True)
    shares = np.stack([np.add.reduceat(levels >= level, first) / count for level in LEVELS_DBM], axis=1)
    middle = (levels[first + (count - 1) // 2] + levels[first + count // 2]) / 2
    of_room = np.repeat(np.arange(len(rooms)), count) * len(field.senders) + answers
    by_sender = np.bincount(of_room, minlength=len(rooms) * len(field.senders)).reshape(len(rooms), -1)
    for n, room_id in enumerate(rooms.tolist()):
        most_first = np.argsort(-by_sender[n], kind="stable")
        yield RoomLine(
            room_id=room_id, band=band, shares=tuple(np.round(shares[n], 4).tolist()),
            worst_dbm=round(float(levels[first[n]]), 2), middle_dbm=round(float(middle[n]), 2),
            answered_by=tuple(field.senders[s].drop_id for s in most_first.tolist() if by_sender[n, s]),
        )  # fmt: skip
