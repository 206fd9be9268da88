"""What people say out loud, in English: every word that the quick line knows, in one table.

Another language is another table of this shape.  The words of kinds and variants stand with them in ``drop_kinds``.
"""

from __future__ import annotations

PLACES = (
    "ceiling", "wall", "floor", "low", "high", "eaves", "desk", "shelf", "mast", "post", "door", "window", "north",
    "south", "east", "west", "corner", "outside", "left", "right", "front", "back", "bench",
)  # fmt: skip
OUTDOOR = ("outdoor", "outside", "eaves")
NEW_ROOM = ("new",)
"""The word that makes a room that is not there yet; its name follows."""
FILLER = (
    "and", "with", "the", "a", "an", "at", "to", "on", "for", "of", "x", "please", "more", "in", "into", "by", "from",
    "near", "each", "some", "another", "our", "my", "his", "her", "their", "is", "are", "also", "then", "room", "rooms",
    "side", "next", "beside", "over", "under", "inside", "up", "cable", "cabled", "powered", "plus", "one's",
)  # fmt: skip
"""Words that say nothing of a drop."""

FIELDS: dict[str, dict[str, object]] = {
    "spare": {"in_use": False},
    "unused": {"in_use": False},
    "existing": {"existing": True},
    "old": {"existing": True},
    "jumbo": {"large_frames": True},
    "passive": {"poe_class": None, "draw_w": 0.0, "supply": "passive"},
    "injector": {"poe_class": None, "draw_w": 0.0, "supply": "injector"},
    "unpowered": {"poe_class": None, "draw_w": 0.0},
    "no poe": {"poe_class": None, "draw_w": 0.0},
    "without poe": {"poe_class": None, "draw_w": 0.0},
    "not powered": {"poe_class": None, "draw_w": 0.0},
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
    "plaster": {"surface": "plasterboard"},
    "grid": {"surface": "suspended"},
    "h264": {"codec": "h264"},
    "h.264": {"codec": "h264"},
    "h265": {"codec": "h265"},
    "h.265": {"codec": "h265"},
    "wifi 4": {"purpose": "Wi-Fi 4"}, "wi-fi 4": {"purpose": "Wi-Fi 4"},
    "wifi 5": {"purpose": "Wi-Fi 5"}, "wi-fi 5": {"purpose": "Wi-Fi 5"},
    "wifi 6": {"purpose": "Wi-Fi 6"}, "wi-fi 6": {"purpose": "Wi-Fi 6"},
    "wifi 6e": {"purpose": "Wi-Fi 6E"}, "wi-fi 6e": {"purpose": "Wi-Fi 6E"},
    "wifi 7": {"purpose": "Wi-Fi 7"}, "wi-fi 7": {"purpose": "Wi-Fi 7"},
}  # fmt: skip
"""Words that set fields of a drop."""

CALLED: dict[str, tuple[str, dict[str, object]]] = {
    **{name: ("desk", {"purpose": name}) for name in (
        "computer", "workstation", "laptop", "till", "cash register", "card terminal", "payment terminal",
        "docking station", "terminal",
    )},
    **{name: ("screen", {"purpose": name}) for name in ("monitor", "display", "sign", "set-top box", "media player")},
    **{name: ("printer", {"purpose": name}) for name in (
        "copier", "label printer", "receipt printer", "plotter", "scanner",
    )},
    **{name: ("hub", {"purpose": name}) for name in (
        "alarm panel", "alarm", "heat pump", "inverter", "wallbox", "thermostat", "lighting controller", "meter",
        "boiler", "ventilation", "sound system", "amplifier",
    )},
    "solar inverter": ("hub", {"purpose": "inverter"}),
    "keypad": ("reader", {"purpose": "keypad"}),
    "time clock": ("reader", {"purpose": "time clock"}),
    "wlan": ("access_point", {}),
}  # fmt: skip
"""What a device is called, the kind that it is, and what else that says."""
ALSO: dict[str, tuple[str, ...]] = {
    "jack": ("socket", "network socket", "data point", "network point", "lan port", "data socket"),
    "phone": ("ip phone", "voip phone", "desk phone", "handset"),
    "access_point": ("wireless access point", "wireless", "hotspot", "wifi ap", "wifi access point"),
    "camera": ("ip camera", "ip cam", "cctv camera", "cctv cam", "cctv", "security camera"),
    "door_station": ("video doorbell",),
    "hub": ("smart home hub", "home hub", "bridge"),
    "nas": ("file store",),
    "recorder": ("video recorder",),
    "controller": ("wifi controller", "wi-fi controller"),
    "console": ("games console", "game console"),
    "room_switch": ("small switch",),
    "reader": ("card reader", "badge reader", "access reader"),
}  # fmt: skip
"""What kinds are called beside their names and the words that stand with them."""
GENERATIONS = ("wifi 4", "wifi 5", "wifi 6", "wifi 6e", "wifi 7")
"""Said of an access point they name the kind, too."""

SPEEDS = {
    "100m": 100, "100mbit": 100, "100mbit/s": 100, "100mb": 100, "1g": 1000, "1000m": 1000, "1000mbit": 1000,
    "2.5g": 2500, "5g": 5000, "10g": 10000, "gigabit": 1000, "gig": 1000,
}  # fmt: skip
"""Speeds as they are written, in small letters, without a space."""
GIGABITS = ("g", "gb", "gig", "gbit", "gbit/s", "gbps", "gigabit", "gigabits")
MEGABITS = ("mbit", "mbit/s", "mbps", "megabit")
WATTS = ("w", "watt", "watts")
METRES = ("m", "metre", "metres", "meter", "meters")
PIXELS = ("mp", "megapixel", "megapixels")
FRAMES = ("fps", "frames")
POWERED = "poe"
"""Powered over its cable, by the usual class of its kind; of other kinds by the lowest that gives its watts."""
CLASSES = {
    "af": 3, "at": 4, "bt": 6, "poe+": 4, "poe++": 6, "802.3af": 3, "802.3at": 4, "802.3bt": 6,
}  # fmt: skip
LAST_ONLY = ("at",)
"""Words that mean something at the end of a line alone: before a name they are prepositions."""
NUMBERS = {
    "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8, "nine": 9, "ten": 10,
    "eleven": 11, "twelve": 12, "fifteen": 15, "twenty": 20, "pair": 2, "couple": 2, "dozen": 12, "half a dozen": 6,
    "both": 2,
}  # fmt: skip
