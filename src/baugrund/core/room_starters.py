"""Lists of rooms to start an empty project from."""

from __future__ import annotations

from .edits import NewRoom
from .facts import Fact


class Starter(Fact):
    """A kind of building and the rooms that it usually has."""

    name: str
    rooms: tuple[NewRoom, ...]


def _starter(name: str, **floors: str) -> Starter:
    rooms = []
    for floor, names in floors.items():
        label = floor.replace("_", " ").capitalize()
        outside = label == "Outside"
        rooms += [NewRoom(name=room, floor=label, outside=outside) for room in names.split(", ")]
    return Starter(name=name, rooms=tuple(rooms))


STARTERS = (
    _starter(
        "House",
        ground_floor="Living room, Kitchen, Hall",
        first_floor="Study, Bedroom, Child's room, Landing",
        outside="Garden",
    ),
    _starter(
        "Office",
        ground_floor="Reception, Meeting room, Open office, Kitchen, Store",
        first_floor="Office east, Office west",
        outside="Entrance",
    ),
    _starter("Shop", ground_floor="Sales floor, Counter, Stockroom, Office", outside="Street front, Yard"),
    _starter("Workshop", ground_floor="Workshop, Store, Office, Break room", outside="Gate, Yard"),
)
