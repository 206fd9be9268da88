"""What is bought beside what is needed, and what is used up.  All are *defaults* of practice, and of no standard."""

from __future__ import annotations

from typing import Literal, NamedTuple

PartGroup = Literal[
    "boxes", "devices", "closets", "cable", "ways", "fixings", "strings", "ends", "links", "cords", "labels",
    "consumables",
]  # fmt: skip
GROUPS: dict[PartGroup, str] = {
    "boxes": "Router, switches, injectors, modules",
    "devices": "Cameras, access points, recorders",
    "closets": "Housings, panels, batteries",
    "cable": "Cable by the box",
    "ways": "Conduit, trunking, tray",
    "fixings": "Fixings",
    "strings": "Draw strings",
    "ends": "Jacks, plates, boxes in the wall",
    "links": "Links between closets",
    "cords": "Cords",
    "labels": "Labels",
    "consumables": "Used up",
}
SPARE_PERCENT: dict[PartGroup, float] = {
    "boxes": 0, "devices": 0, "closets": 0, "cable": 0, "ways": 5, "fixings": 10, "strings": 0, "ends": 5, "links": 0,
    "cords": 5, "labels": 10, "consumables": 0,
}  # fmt: skip
"""Bought beside what is needed, up to the next whole piece or metre [%]."""

Driver = Literal["terminate", "hole_floor", "close_hole", "paint_hole", "pull_conduit", "rack", "patch_cord"]


class Consumable(NamedTuple):
    """What is used up, so much for each of a task."""

    name: str
    unit: str
    driver: Driver
    each: float


CONSUMABLES: tuple[Consumable, ...] = (
    Consumable("tie at the closet", "", "terminate", 2.0),
    Consumable("marker for cable", "", "terminate", 0.02),
    Consumable("pulling lubricant", "l", "pull_conduit", 0.005),
    Consumable("fire-stop sealant, cartridge", "", "hole_floor", 0.5),
    Consumable("filler", "kg", "close_hole", 0.15),
    Consumable("paint", "l", "paint_hole", 0.1),
    Consumable("cage nuts and screws, set", "", "rack", 1.0),
    Consumable("cord tie", "", "patch_cord", 1.0),
)
