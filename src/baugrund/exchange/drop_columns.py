"""Columns of a list of drops: what each is called, how its cells are read, and how a drop is written into it."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any, get_args

from baugrund.core.facts.drop import PRIORITIES, Codec, Drop, Environment, Quality, Surface
from baugrund.core.facts.lines.line import SPEEDS
from baugrund.core.facts.price import Wanted
from baugrund.core.facts.project import Project
from baugrund.core.standards.cabling import Category
from baugrund.core.standards.disks import LEVELS
from baugrund.core.standards.poe_classes import POE_CLASSES
from baugrund.core.words import speed

from .cells import NO, YES, number_of, one_of, shown, speed_of, yes
from .meanings import folded

NOWHERE_SAID = "none"
"""A place that was left empty; an empty cell means the usual place of the kind."""


POWERED = "yes"
"""Said of a drop that is powered, by a class that is not said."""


def _class(text: str) -> int | str | None:
    """A class; ``POWERED``: by the usual one; None: not powered."""
    bare = text.strip().casefold().removeprefix("class").removeprefix("cl.").strip()
    if bare in YES and bare != "1":
        return POWERED
    if bare in (*NO, NOWHERE_SAID) and bare != "0":
        return None
    return int(number_of(bare))


def _place(text: str) -> str:
    return "" if text.strip().casefold() == NOWHERE_SAID else text


def _jacket(text: str) -> bool:
    return one_of(("indoor", "outdoor"))(text) == "outdoor"


@dataclass(frozen=True)
class Column:
    """A column: its head, other heads that mean it, how a cell is read, how a drop is written into it, and what may
    stand in it where that is one of a few."""

    key: str
    head: str
    also: tuple[str, ...] = ()
    read: Callable[[str], Any] = str
    write: Callable[[Drop], Any] | None = None
    choices: tuple[str, ...] = ()

    def cell(self, project: Project, drop: Drop) -> str:
        if self.write is not None:
            return shown(self.write(drop))
        room = project.rooms_by_id[drop.room_id]
        match self.key:
            case "floor":
                return project.floor_name(room)
            case "room":
                return room.name
            case "closet":
                return "" if project.at_head_end(drop) else project.closets_by_id[drop.closet_id].name
            case "kind":
                return drop.kind_row.name
            case "outside":
                return shown(room.outside)
            case "bearing_deg" | "tilt_deg" | "field_deg":
                view = next((view for view in project.views if view.drop_id == drop.id), None)
                return shown(getattr(view, self.key) if view else None)
        return shown(getattr(drop, self.key))


def _choice(key: str, head: str, also: tuple[str, ...], choices: tuple[str, ...]) -> Column:
    return Column(key, head, also, one_of(choices), choices=tuple(choice for choice in choices if choice))


def _yes(key: str, head: str, also: tuple[str, ...] = ()) -> Column:
    return Column(key, head, also, yes, choices=("yes", "no"))


CLASSES = (POWERED, "no", *(f"class {number}" for number in POE_CLASSES))
COLUMNS = (
    Column("floor", "Floor", ("storey", "level", "building level")),
    Column("room", "Room", ("place name", "location", "area", "space")),
    _yes("outside", "Outside"),
    Column("closet", "Closet", ("ends in", "head end")),
    Column("kind", "What", ("kind", "device", "type", "drop", "device type", "equipment", "item")),
    Column("count", "Count", ("quantity", "qty", "number", "how many", "pcs", "no.", "amount"), number_of, lambda _: 1),
    Column("variant", "Form", ("variant",)),
    Column("label", "Label", ("name",)),
    Column("place", "Place", ("position", "mounting"), _place, lambda drop: drop.place or NOWHERE_SAID),
    Column("purpose", "Purpose", ("use", "for")),
    Column("model", "Model", ("model key",)),
    Column("speed_mbit", "Speed Mbit/s", ("speed", "rate"), speed_of, choices=tuple(map(speed, SPEEDS))),
    Column("poe_class", "PoE class", ("class", "poe", "powered"), _class, choices=CLASSES),
    Column("draw_w", "Draw W", ("draw", "watts", "power", "w", "watt", "power w"), number_of),
    Column("measured_w", "Measured W", ("measured",), number_of),
    _choice("priority", "Priority", ("port priority",), PRIORITIES),
    Column("megapixels", "Megapixels", ("mp", "pixels"), number_of),
    Column("frames_s", "Frames/s", ("frames", "fps", "frame rate"), number_of),
    _choice("codec", "Codec", ("compression",), get_args(Codec)),
    _choice("quality", "Picture quality", ("quality",), get_args(Quality)),
    _yes("by_service", "Recorded elsewhere", ("cloud recording",)),
    Column("record_day_percent", "Recorded by day %", (), number_of),
    Column("record_night_percent", "Recorded by night %", (), number_of),
    Column("keep_days", "Days kept", ("retention days",), number_of),
    Column("disks", "Disks", ("number of disks",), number_of),
    Column("disk_tb", "Disk TB", ("disk size tb",), number_of),
    _choice("raid", "RAID", ("raid level",), LEVELS),
    Column("bearing_deg", "Bearing °", ("bearing", "azimuth"), number_of),
    Column("tilt_deg", "Tilt °", ("tilt",), number_of),
    Column("field_deg", "Angle of view °", ("angle of view", "field of view", "fov"), number_of),
    Column("run_m", "Run m", ("run", "length", "length m", "cable length"), number_of),
    _choice("category", "Category", ("cat", "cable"), get_args(Category)),
    _yes("copper_clad", "Copper-clad", ("cca",)),
    Column(
        "outdoor_jacket",
        "Jacket",
        (),
        _jacket,
        lambda drop: "outdoor" if drop.outdoor_jacket else "indoor",
        ("indoor", "outdoor"),
    ),
    _choice("environment", "Environment", (), get_args(Environment)),
    _choice("surface", "Surface", ("mounted on",), get_args(Surface)),
    _yes("in_use", "In use", ("live", "used")),
    _choice("wanted", "Wanted", ("importance",), get_args(Wanted)),
    _yes("existing", "Existing", ("existing cable",)),
    _yes("power_only", "Power only"),
    _yes("over_wifi", "Over Wi-Fi", ("wireless",)),
    _yes("large_frames", "Large frames", ("jumbo",)),
    Column("height_m", "Height m", ("height",), number_of),
    Column("x_m", "X m", ("x",), number_of),
    Column("y_m", "Y m", ("y",), number_of),
    Column("note", "Note", ("notes", "comment", "comments", "remark", "remarks")),
)
BY_KEY = {column.key: column for column in COLUMNS}
HEAD = [column.head for column in COLUMNS]


def match_columns(head: Sequence[str]) -> tuple[str, ...]:
    """For each head the key of the column that it means; empty: none, or taken already."""
    known = {folded(name): column.key for column in COLUMNS for name in (column.head, column.key, *column.also)}
    matched: list[str] = []
    for cell in head:
        key = known.get(folded(cell), "")
        matched.append(key if key not in matched else "")
    return tuple(matched)
