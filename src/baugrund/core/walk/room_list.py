"""Rooms typed or pasted as a list: ``Kitchen 4x3, Hall 2.5 x 6; Study``, one a line or with commas between.

A line with tabs, as a spreadsheet copies it, is name, floor, width, depth.
"""

from __future__ import annotations

import re

from pydantic import ValidationError, field_serializer

from ..edits import AddRooms, NewRoom, as_sent, plain_sentence
from ..facts.fact import Fact
from ..words import counted

FEET_M = 0.3048
MOST_ROOMS = 200
_SIZE = re.compile(r"^(.*?)[\s,]+(\d+(?:[.,]\d+)?)\s*(?:m|ft)?\s*[x×*]\s*(\d+(?:[.,]\d+)?)\s*(?:m|ft)?$", re.IGNORECASE)


class RoomsUnderstood(Fact):
    """Rooms that a text lists, as an edit; or what is odd about it."""

    told: str
    complaint: str
    edit: AddRooms | None

    @field_serializer("edit")
    def _send(self, edit: AddRooms | None) -> object:
        return None if edit is None else as_sent(edit)


def understand_rooms(text: str, floor: str = "", *, outside: bool = False, imperial: bool = False) -> RoomsUnderstood:
    """Read a list of rooms; sizes are in metres, or in feet for an imperial project."""
    scale = FEET_M if imperial else 1.0
    rooms: list[NewRoom] = []
    for line in text.splitlines():
        parts = [line] if "\t" in line else re.split(r";|,(?!\d)", line)
        for part in filter(None, (part.strip() for part in parts)):
            try:
                rooms.append(NewRoom.model_validate(_values(part, floor, outside, scale)))
            except ValidationError as error:
                return RoomsUnderstood(told="", complaint=f"“{part[:60]}”: {plain_sentence(error)}", edit=None)
    if not rooms:
        return RoomsUnderstood(told="", complaint="", edit=None)
    if len(rooms) > MOST_ROOMS:
        return RoomsUnderstood(told="", complaint=f"{len(rooms)} rooms; {MOST_ROOMS} at once are the most.", edit=None)
    sized = sum(room.width_m is not None for room in rooms)
    told = rooms[0].name if len(rooms) == 1 else counted(len(rooms), "room")
    told += f", {'its' if len(rooms) == 1 else f'{sized} with their'} size" if sized else ""
    return RoomsUnderstood(told=told, complaint="", edit=AddRooms(rooms=tuple(rooms)))


def _values(part: str, floor: str, outside: bool, scale: float) -> dict[str, object]:
    if "\t" in part:
        name, on, *sizes = [cell.strip() for cell in part.split("\t")]
        found = [_metres(size, scale) for size in sizes[:2] if size]
        width, depth = found if len(found) == 2 else (None, None)
        return {"name": name, "floor": on or floor, "outside": outside, "width_m": width, "depth_m": depth}
    match = _SIZE.match(part)
    if match is None:
        return {"name": part, "floor": floor, "outside": outside}
    return {
        "name": match[1], "floor": floor, "outside": outside,
        "width_m": _metres(match[2], scale), "depth_m": _metres(match[3], scale),
    }  # fmt: skip


def _metres(text: str, scale: float) -> object:
    """A side in metres; what is no number stays text, and is refused with its sentence."""
    try:
        return round(float(text.replace(",", ".")) * scale, 3)
    except ValueError:
        return text
