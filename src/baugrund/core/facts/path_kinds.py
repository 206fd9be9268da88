"""Kinds of path that a cable takes, and what each asks of whoever pulls through it.

Difficulty and temperature are *defaults* from practice, not of a standard: a project changes them.  An air duct
is not among them: the jacket that it asks for, and whether it may be used at all, is for the local code.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from .labour import USUAL, Pull, first_task

PathKind = Literal[
    "tray", "open_stud", "loft", "conduit", "chase", "panelling", "skirting", "trunking", "outside", "drilled",
    "joist_bay", "riser", "buried",
]  # fmt: skip

HIDDEN = (
    "Look for hidden cables and pipes before drilling; dust of older buildings may hold asbestos; structural "
    "members and fire-rated walls are not drilled without advice, and holes in them get listed fire-stopping. Local "
    "code decides."
)
LOFT = (
    "Tread on joists or boards only, mind nails overhead and the heat; mask, gloves and sleeves against insulation "
    "dust; somebody knows that you are up there."
)
LADDER = "Two people for ladders and heights; nothing beside an overhead line."
SHAFT = "Openings between storeys get listed fire-stopping; local code decides."
DIG = "Ask for the plans of what is buried before digging; depth and separation as local code says."


@dataclass(frozen=True)
class PathRow:
    """A kind of path: how hard [1 to 5], how cable is pulled through it, tools, caution, usual temperature [°C]."""

    key: PathKind
    name: str
    difficulty: int
    pull: Pull
    tools: str
    caution: str = ""
    temperature_c: float = 20.0
    place: Literal["ceiling", "floor", "above", "below"] = "ceiling"
    """Where it usually runs: under the ceiling, along the floor, above the ceiling, or under the ground."""
    is_outside: bool = False
    is_closed: bool = False
    """Whether cables fill it as they fill a conduit."""
    lay: Literal["", "fit", "dig", "wall", "floor"] = ""
    """What laying it is: fitting or digging by the metre, a hole through a wall or a floor; empty: it is a way through
    what is there."""

    @property
    def hours_per_m(self) -> float:
        """Usual hours a metre of the first cable."""
        return USUAL[first_task(self.pull)][1]


_ROWS = (
    PathRow("tray", "tray or ceiling void", 1, "open", "ladder, hook-and-loop ties", LADDER, lay="fit"),
    PathRow("open_stud", "open stud wall", 1, "open", "drill, grommets, nail plates"),
    PathRow("loft", "loft", 3, "loft", "headlamp, boards, mask, fibreglass rods", LOFT, 45.0, "above"),
    PathRow("conduit", "conduit", 2, "conduit", "draw tape, lubricant, draw string to leave behind", is_closed=True,
            lay="fit"),
    PathRow("chase", "pipe chase", 3, "conduit", "rods, lamp, inspection camera", SHAFT),
    PathRow("panelling", "behind panelling", 3, "open", "pry bar, rods, magnet", HIDDEN),
    PathRow("skirting", "behind skirting", 2, "open", "pry bar, caulk, pins", place="floor"),
    PathRow("trunking", "surface trunking", 2, "open", "trunking, saw, fixings, spirit level", HIDDEN, is_closed=True,
            lay="fit"),
    PathRow("outside", "trunking outside", 3, "open", "ladder, outdoor trunking, sealant", LADDER, 40.0,
            is_outside=True, is_closed=True, lay="fit"),
    PathRow("drilled", "drilled wall", 4, "finished", "long drill, detector, sealant", HIDDEN, lay="wall"),
    PathRow("joist_bay", "joist bay", 4, "open", "flexible drill, magnet, rods", HIDDEN, place="above"),
    PathRow("riser", "riser between storeys", 3, "conduit", "rods, draw string, fire-stopping", SHAFT, is_closed=False,
            lay="floor"),
    PathRow("buried", "buried duct", 4, "conduit", "duct, draw string, marking tape, sand", DIG, is_outside=True,
            place="below", is_closed=True, lay="dig"),
)  # fmt: skip
PATH_KINDS: Mapping[str, PathRow] = {row.key: row for row in _ROWS}
PATH_KEYS = tuple(PATH_KINDS)

LOOSE_PULL: Mapping[str, Pull] = {"open": "open", "mixed": "finished", "finished": "finished"}
"""How cable is pulled where no path is drawn, by the state of the building; outside as through what is finished."""
LOOSE_DIFFICULTY = {"open": 1, "mixed": 3, "finished": 4}
