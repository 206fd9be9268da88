"""Places where a closet could stand: closets there are, candidates, and rooms that pass by their use; each judged."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from shapely import Polygon, distance

from ..facts.building import Closet, Room, Sited, is_loft
from ..facts.project import Project
from ..places.layout import corner_of, layout
from ..reach.network import Anchor
from ..reach.runs import CLOSET_HEIGHT_M

MAX_PLACES = 60
"""So many places are compared at most: closets and candidates first, then rooms, plant rooms first."""
PREFERRED = ("plant", "store", "way", "work", "", "living")
STOREY_M = 3.0
"""A storey between counts as this far from a bedroom."""

FAULTS = (
    ("cool", "may get warmer than 30 °C"),
    ("dry", "is not dry"),
    ("both_sides", "has no room to work on both sides"),
    ("room_to_grow", "has no room to grow"),
)
"""Answers about a place of a closet, and what *no* means."""


@dataclass(frozen=True)
class Place:
    """A place for a closet.  ``faults``: why it does not pass; ``sleeping_m``: to the nearest sleeping room [m]."""

    room_id: int
    spot: Anchor
    closet_id: int | None
    candidate_id: int | None
    answers: Sited
    socket: bool | None
    faults: tuple[str, ...]
    sleeping_m: float | None

    @property
    def passes(self) -> bool:
        return not self.faults


def faults_of(project: Project, sited: Sited, room: Room | None) -> tuple[str, ...]:
    """What is wrong with a place for a closet, by what was answered and what its room is."""
    wrong = [text for field, text in FAULTS if getattr(sited, field) is False]
    if room is None:
        return tuple(wrong)
    if room.use == "sleeping":
        wrong.append("is a sleeping room")
    if room.use == "wet":
        wrong.append("is a wet room")
    if room.outside:
        wrong.append("is outside")
    if is_loft(project.floors_by_id[room.floor_id].name) and sited.cool is None:
        wrong.append("is under the roof: how hot it gets is not known")
    return tuple(wrong)


def places(project: Project) -> tuple[Place, ...]:
    """Every place to compare, in a steady order."""
    return tuple(_all(project))[:MAX_PLACES]


def _all(project: Project) -> Iterator[Place]:
    placed = layout(project)
    at = {point.id: (point.x_m, point.y_m) for point in placed.closets}
    taken: set[int] = set()
    for closet in project.closets:
        if closet.room_id is not None:
            taken.add(closet.room_id)
            yield _place(project, closet.room_id, closet, at[closet.id], closet=closet)
    for row in project.candidates:
        if row.ruled_out or (row.x_m is None and row.room_id in taken):
            taken.add(row.room_id)
            continue
        taken.add(row.room_id)
        spot = None if row.x_m is None or row.y_m is None else (row.x_m, row.y_m)
        yield _place(project, row.room_id, row, spot, candidate_id=row.id, socket=row.socket)
    rooms = sorted(project.rooms, key=lambda room: PREFERRED.index(room.use) if room.use in PREFERRED else 9)
    for room in rooms:
        if room.id not in taken and not faults_of(project, Sited(), room):
            yield _place(project, room.id, Sited(), None)


def _place(
    project: Project, room_id: int, sited: Sited, spot: tuple[float, float] | None, *, closet: Closet | None = None,
    candidate_id: int | None = None, socket: bool | None = None,
) -> Place:  # fmt: skip
    placed = layout(project)
    room = project.rooms_by_id[room_id]
    x, y = spot or corner_of(next(one.outline for one in placed.rooms if one.id == room_id))
    level = {storey.id: storey.elevation_m for storey in placed.storeys}
    anchor = Anchor(room.floor_id, x, y, level[room.floor_id] + CLOSET_HEIGHT_M)
    return Place(
        room_id, anchor, closet.id if closet else None, candidate_id, sited, True if closet else socket,
        faults_of(project, sited, room), _to_bedrooms(project, room_id),
    )  # fmt: skip


def _to_bedrooms(project: Project, room_id: int) -> float | None:
    """Metres from a room to the nearest sleeping room: 0 wall to wall, a storey between counts; None: nobody sleeps."""
    placed = layout(project)
    shapes = {room.id: Polygon(room.outline) for room in placed.rooms}
    level = {storey.id: storey.elevation_m for storey in placed.storeys}
    here = project.rooms_by_id[room_id]
    found = []
    for room in project.rooms:
        if room.use == "sleeping":
            apart = STOREY_M if level[room.floor_id] != level[here.floor_id] else 0.0
            found.append(float(distance(shapes[room.id], shapes[room_id])) + apart)
    return round(min(found), 1) if found else None
