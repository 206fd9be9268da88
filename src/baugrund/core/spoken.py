"""What people say out loud, in English: every word that the quick line knows, in one table.

Another language is another table of this shape.  The words of kinds and variants stand with them in ``drop_kinds``.
"""

from __future__ import annotations

PLACES = (
    "ceiling", "wall", "floor", "low", "high", "eaves", "desk", "shelf", "mast", "post", "door", "window", "north",
    "south", "east", "west", "corner", "outside", "left", "right", "front", "back", "bench",
)  # fmt: skip
OUTDOOR = ("outdoor", "outside", "eaves")
NEW_ROOM = ("in", "new")
FILLER = ("and", "with", "the", "a", "an", "at", "to", "on", "for", "of", "x", "please", "more")

FIELDS: dict[str, dict[str, object]] = {
    "spare": {"in_use": False},
    "unused": {"in_use": False},
    "existing": {"existing": True},
    "jumbo": {"large_frames": True},
    "passive": {"poe_class": None, "draw_w": 0.0, "supply": "passive"},
    "injector": {"poe_class": None, "draw_w": 0.0, "supply": "injector"},
    "unpowered": {"poe_class": None, "draw_w": 0.0},
    "power-only": {"power_only": True},
    "damp": {"environment": "damp"},
    "hot": {"environment": "hot"},
    "plasterboard": {"surface": "plasterboard"},
    "masonry": {"surface": "masonry"},
    "brick": {"surface": "masonry"},
    "concrete": {"surface": "concrete"},
    "timber": {"surface": "timber"},
    "wood": {"surface": "timber"},
    "tile": {"surface": "tile"},
    "tiles": {"surface": "tile"},
    "grid": {"surface": "suspended"},
}
"""Words that set fields of a drop."""

SPEEDS = {"100m": 100, "1g": 1000, "2.5g": 2500, "5g": 5000, "10g": 10000}
CLASSES = {"af": 3, "at": 4}
NUMBERS = {"one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8, "nine": 9, "ten": 10}
