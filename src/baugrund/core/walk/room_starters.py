"""Templates: lists of rooms, and of the drops that they usually have, to start an empty project from."""

from __future__ import annotations

from ..edits import DropChanges, NewDrop, NewRoom
from ..facts.drop_kinds import DROP_KINDS
from ..facts.fact import Fact


class Starter(Fact):
    """A kind of building, the rooms that it usually has, and a first list of drops in them."""

    key: str
    name: str
    rooms: tuple[NewRoom, ...]
    drops: tuple[NewDrop, ...]


_USES = {
    "Living room": "living", "Kitchen": "living", "Bedroom": "sleeping", "Child's room": "sleeping", "Study": "work",
    "Hall": "way", "Landing": "way", "Reception": "work", "Meeting room": "work", "Open office": "work",
    "Office": "work", "Office east": "work", "Office west": "work", "Counter": "work", "Workshop": "work",
    "Store": "store", "Stockroom": "store", "Waiting room": "living", "Consulting room 1": "work",
    "Consulting room 2": "work", "Laboratory": "work", "Break room": "living", "Utility room": "plant",
}  # fmt: skip
_SIZES = {
    "Open office": (12, 8), "Workshop": (12, 9), "Sales floor": (12, 9), "Stockroom": (6, 5), "Garden": (12, 8),
    "Yard": (12, 8), "Street front": (12, 3), "Living room": (6, 4.5), "Meeting room": (5, 4), "Hall": (5, 2),
    "Landing": (4, 2), "Utility room": (2.5, 2),
}  # fmt: skip


def _starter(key: str, name: str, **floors: str) -> Starter:
    """Floors with their rooms; after a colon, the drops of a room: ``Study: 2 desk, 1 access_point``."""
    rooms: list[NewRoom] = []
    drops: list[NewDrop] = []
    for floor, listed in floors.items():
        label = floor.replace("_", " ").capitalize()
        outside = label == "Outside"
        for one in listed.split("; "):
            room, _, wanted = one.partition(": ")
            width, depth = _SIZES.get(room, (4, 3.5))
            rooms.append(
                NewRoom.model_validate(
                    {"name": room, "floor": label, "outside": outside, "use": _USES.get(room, ""), "width_m": width,
                     "depth_m": depth}
                )
            )  # fmt: skip
            for some in filter(None, wanted.split(", ")):
                count, kind = some.split(" ")
                kind, _, variant = kind.partition("/")
                drops.append(
                    NewDrop(room=room, floor=label, kind=DROP_KINDS[kind].key, count=int(count),
                            changes=DropChanges(variant=variant) if variant else DropChanges())
                )  # fmt: skip
    return Starter(key=key, name=name, rooms=tuple(rooms), drops=tuple(drops))


STARTERS = (
    _starter(
        "house", "House",
        ground_floor="Living room: 2 jack, 1 screen, 1 console, 1 access_point; Kitchen: 1 jack; "
                     "Hall: 1 door_station, 1 hub, 1 nas",
        first_floor="Study: 2 desk, 1 printer; Bedroom: 2 jack; Child's room: 2 jack; "
                    "Landing: 1 access_point, 1 spare",
        outside="Garden: 1 camera, 1 access_point/outdoor",
    ),
    _starter(
        "office", "Office",
        ground_floor="Reception: 2 desk, 1 phone, 1 printer; Meeting room: 2 jack, 1 screen, 1 access_point; "
                     "Open office: 8 desk, 1 access_point, 1 printer; Kitchen: 1 jack; "
                     "Store: 1 nas, 1 recorder, 1 spare",
        first_floor="Office east: 3 desk, 3 phone, 1 access_point; Office west: 3 desk, 3 phone, 1 spare",
        outside="Entrance: 1 door_station, 1 camera/dome",
    ),
    _starter(
        "shop", "Shop",
        ground_floor="Sales floor: 3 jack, 1 access_point, 2 camera/dome, 1 screen; "
                     "Counter: 2 desk, 1 printer, 1 phone; "
                     "Stockroom: 1 jack, 1 camera, 1 recorder, 1 spare; Office: 2 desk, 1 nas",
        outside="Street front: 1 camera/bullet; Yard: 1 camera/bullet",
    ),
    _starter(
        "workshop", "Workshop",
        ground_floor="Workshop: 4 jack, 1 access_point, 2 camera; Store: 1 jack, 1 recorder, 1 spare; "
                     "Office: 2 desk, 1 printer, 1 phone, 1 nas; Break room: 1 screen, 1 access_point",
        outside="Gate: 1 door_station/intercom, 1 camera/bullet; Yard: 1 camera/bullet",
    ),
    _starter(
        "clinic", "Clinic",
        ground_floor="Reception: 2 desk, 2 phone, 1 printer; Waiting room: 1 screen, 1 access_point; "
                     "Consulting room 1: 2 desk, 1 phone; Consulting room 2: 2 desk, 1 phone; "
                     "Laboratory: 3 jack, 1 printer; Store: 1 server, 1 recorder, 1 spare; Hall: 1 access_point",
        outside="Entrance: 1 door_station, 1 camera/dome",
    ),
)  # fmt: skip
