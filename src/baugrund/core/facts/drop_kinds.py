"""Kinds of drop and what each typically needs.  To add a kind, add a row here; every screen follows.

All figures are *defaults* that a drop can override.  Busy-hour traffic [Mbit/s]: a desk is 50 with one in
four busy; a NAS half its gigabit port for one client; cameras 4 MP at 15 frames/s in H.264.  A kind comes in
variants: the first is the usual one, the others say only what differs.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any, Literal

from ..words import counted, small

KindKey = Literal[
    "desk", "jack", "screen", "printer", "phone", "access_point", "camera", "door_station",
    "hub", "nas", "recorder", "controller", "console", "room_switch", "spare", "reader", "server",
]  # fmt: skip


@dataclass(frozen=True)
class Variant:
    """One form of a kind: its name, what people say for it, and the fields of a drop that it sets."""

    key: str
    name: str
    words: tuple[str, ...] = ()
    sets: dict[str, Any] = field(default_factory=dict)
    lan_ports: int = 0
    """Ports that it gives on to other devices, beside its own uplink."""


@dataclass(frozen=True)
class DropKind:
    """One kind: its names, where it sits, its typical need, and its variants."""

    key: KindKey
    name: str
    plural: str
    column: str
    """Short head for a narrow column."""
    words: tuple[str, ...]
    """What people say for it, small letters, beside its names."""
    place: str
    speed_mbit: int
    poe_class: int | None
    draw_w: float
    traffic_mbit: float
    run_m: float
    """Length of run taken until one is typed in [m]."""
    variants: tuple[Variant, ...] = ()
    sets: dict[str, Any] = field(default_factory=dict)
    """Other fields of a drop that the kind sets."""

    def many(self, count: int) -> str:
        """So many of it in a sentence: ``2 cameras``, ``1 NAS``."""
        return counted(count, small(self.name), small(self.plural))

    def variant(self, key: str) -> Variant | None:
        """The variant with this key; the usual one for an empty key; None: there is none."""
        if not key:
            return self.variants[0] if self.variants else None
        return next((variant for variant in self.variants if variant.key == key), None)


PLATES = (
    Variant("single", "single", ("single",)),
    Variant("double", "one of two on a plate", ("double", "twin")),
    Variant("quad", "one of four on a plate", ("quad",)),
)
ACCESS_POINTS = (
    Variant("ceiling", "ceiling"),
    Variant("wall", "wall", ("wall-mounted",), {"place": "wall"}),
    Variant("in_wall", "in the wall", ("in-wall", "inwall"), {"place": "wall", "draw_w": 13.5}, lan_ports=3),
    Variant("outdoor", "outdoor", (), {"place": "wall", "outdoor_jacket": True, "environment": "outdoor",
                                       "draw_w": 18.5}),
)  # fmt: skip
CAMERAS = (
    Variant("turret", "turret", ("turret",)),
    Variant("bullet", "bullet", ("bullet",), {"draw_w": 8.5}),
    Variant("dome", "dome", ("dome",)),
    Variant("pan_tilt", "pan-tilt", ("pan-tilt", "ptz", "pantilt"), {"poe_class": 4, "draw_w": 21.0}),
    Variant("fisheye", "all-round", ("fisheye", "all-round", "360"), {"place": "ceiling", "draw_w": 9.0}),
    Variant("panorama", "panorama", ("panorama", "panoramic"), {"poe_class": 4, "draw_w": 14.0}),
)
SCREENS = (
    Variant("television", "television", ("tv", "television")),
    Variant("projector", "projector", ("projector", "beamer"), {"place": "ceiling"}),
)
DOORS = (
    Variant("door", "door station", ("doorbell",)),
    Variant("intercom", "intercom", ("intercom", "door intercom"), {"draw_w": 6.0}),
)
SWITCHES = (
    Variant("five", "5 ports", ("5-port", "5port", "5 port", "5-port switch", "5 port switch"), lan_ports=4),
    Variant("eight", "8 ports", ("8-port", "8port", "8 port", "8-port switch", "8 port switch"), lan_ports=7),
)

DROP_KINDS: dict[str, DropKind] = {
    kind.key: kind
    for kind in (
        DropKind("desk", "Desk", "Desks", "Desk", ("workplace", "pc"), "wall", 1000, None, 0, 12.5, 20, PLATES),
        DropKind("jack", "Wall jack", "Wall jacks", "Jack", ("jack", "outlet"), "wall", 1000, None, 0, 12.5, 20,
                 PLATES),
        DropKind("screen", "Screen", "Screens", "Screen", (), "wall", 1000, None, 0, 25, 20, SCREENS),
        DropKind("printer", "Printer", "Printers", "Print", (), "wall", 100, None, 0, 5, 20),
        DropKind("phone", "Phone", "Phones", "Phone", ("telephone",), "desk", 100, 2, 5.0, 0.1, 20),
        DropKind("access_point", "Access point", "Access points", "Ac. pt", ("ap", "wifi", "wi-fi"), "ceiling",
                 2500, 4, 15.8, 150, 25, ACCESS_POINTS),
        DropKind("camera", "Camera", "Cameras", "Cam", ("cam",), "wall", 100, 3, 7.4, 6, 35, CAMERAS),
        DropKind("door_station", "Door station", "Door stations", "Door", ("door panel",), "wall", 100, 3, 9.0, 4, 30,
                 DOORS),
        DropKind("hub", "Hub", "Hubs", "Hub", ("gateway",), "shelf", 100, None, 0, 1, 3),
        DropKind("nas", "NAS", "NAS", "NAS", ("storage",), "shelf", 1000, None, 0, 500, 3),
        DropKind("recorder", "Recorder", "Recorders", "Rec", ("nvr",), "shelf", 1000, None, 0, 50, 3),
        DropKind("controller", "Controller", "Controllers", "Ctrl", (), "shelf", 1000, None, 0, 1, 3),
        DropKind("console", "Console", "Consoles", "Game", ("game",), "wall", 1000, None, 0, 50, 20),
        DropKind("room_switch", "Room switch", "Room switches", "R. sw", ("switch",), "wall", 1000, None, 0, 50, 30,
                 SWITCHES),
        DropKind("spare", "Spare drop", "Spare drops", "Spare", ("spare",), "wall", 1000, None, 0, 12.5, 20, PLATES,
                 {"in_use": False}),
        DropKind("reader", "Access reader", "Access readers", "Read", ("reader", "badge"), "wall", 100, 3, 6.0, 0.1,
                 30),
        DropKind("server", "Server", "Servers", "Serv", (), "shelf", 1000, None, 0, 100, 3),
    )
}  # fmt: skip

RECORDING_KINDS = ("recorder", "nas")
"""Kinds that can keep what cameras film."""
SEEING_KINDS = ("camera", "door_station")
"""Kinds that have a lens."""
CLOSET_KINDS = ("hub", "nas", "recorder", "controller", "server")
"""Kinds that usually stand in the closet itself, each with a mains plug of its own."""
