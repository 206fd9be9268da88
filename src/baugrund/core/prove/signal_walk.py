"""The signal walk as acceptance takes it: the best level at every spot of a goal, beside the level that is predicted.

A spot counts with the best of its bands, or in the band of the goal; readings of the walk *before* are those of before
the work, all others of after it.
"""

from __future__ import annotations

from collections.abc import Iterator

from shapely import Point, Polygon

from ..facts.brief import Goal
from ..facts.catalogue import Catalogue
from ..facts.fact import Fact
from ..facts.project import Project
from ..facts.signal import Reading
from ..places.layout import layout
from ..signal.survey import SAME_SPOT_M, survey_of
from ..standards.radio import Band

BEFORE = "before"
"""How the name of a walk begins that was done before the work."""


class WalkedSpot(Fact):
    """A spot of a walk that a goal is about."""

    key: str
    """Of the check."""
    walk: str
    before: bool
    floor_id: int
    x_m: float
    y_m: float
    band: Band
    """The one that was best."""
    measured_dbm: float
    predicted_dbm: float | None
    """In the same band; None: nothing sends there."""


def spots_of(project: Project, catalogue: Catalogue, goal: Goal) -> Iterator[WalkedSpot]:
    """Spots of every walk that lie in the rooms or the area of a goal; without either all of them."""
    if not project.readings:
        return
    predicted = {line.reading_id: line.predicted_dbm for line in survey_of(project, catalogue).readings}
    outlines = {room.id: room.outline for room in layout(project).rooms}
    parts = [
        (room.floor_id, Polygon(outlines[room.id]))
        for room in project.rooms if room.id in goal.room_ids and outlines.get(room.id)
    ]  # fmt: skip
    if goal.area is not None and goal.floor_id is not None:
        parts.append((goal.floor_id, Polygon(goal.area)))
    everywhere = not goal.room_ids and goal.area is None
    best: dict[tuple[str, int, int, int], Reading] = {}
    for reading in project.readings:
        at = Point(reading.x_m, reading.y_m)
        inside = everywhere or any(floor == reading.floor_id and part.covers(at) for floor, part in parts)
        if not inside or goal.band not in (None, reading.band):
            continue
        spot = (reading.walk, reading.floor_id, round(reading.x_m / SAME_SPOT_M), round(reading.y_m / SAME_SPOT_M))
        if spot not in best or reading.dbm > best[spot].dbm:
            best[spot] = reading
    for reading in best.values():
        yield WalkedSpot(
            key=f"goal/{goal.id}", walk=reading.walk, before=reading.walk.casefold().startswith(BEFORE),
            floor_id=reading.floor_id, x_m=reading.x_m, y_m=reading.y_m, band=reading.band, measured_dbm=reading.dbm,
            predicted_dbm=predicted.get(reading.id),
        )  # fmt: skip
