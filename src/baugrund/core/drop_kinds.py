"""Kinds of drop and what each typically needs.  To add a kind, add a row here; every screen follows.

All figures are *defaults* that a drop can override.  Busy-hour traffic [Mbit/s]: a desk is 50 with one in
four busy; a NAS half its gigabit port for one client; cameras 4 MP at 15 frames/s in H.264.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

KindKey = Literal[
    "desk", "jack", "screen", "printer", "phone", "access_point", "camera", "door_station",
    "hub", "nas", "recorder", "controller", "console", "room_switch",
]  # fmt: skip


@dataclass(frozen=True)
class DropKind:
    """One kind: its names, where it sits, and its typical need."""

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


DROP_KINDS: dict[str, DropKind] = {
    kind.key: kind
    for kind in (
        DropKind("desk", "Desk", "Desks", "Desk", ("workplace", "pc"), "wall", 1000, None, 0, 12.5, 20),
        DropKind("jack", "Wall jack", "Wall jacks", "Jack", ("jack", "outlet"), "wall", 1000, None, 0, 12.5, 20),
        DropKind("screen", "Screen", "Screens", "Screen", ("tv", "television", "projector"), "wall",
                 1000, None, 0, 25, 20),
        DropKind("printer", "Printer", "Printers", "Print", (), "wall", 100, None, 0, 5, 20),
        DropKind("phone", "Phone", "Phones", "Phone", ("telephone",), "desk", 100, 2, 5.0, 0.1, 20),
        DropKind("access_point", "Access point", "Access points", "Ac. pt", ("ap", "wifi", "wi-fi"), "ceiling",
                 2500, 4, 15.8, 150, 25),
        DropKind("camera", "Camera", "Cameras", "Cam", ("cam",), "wall", 100, 3, 7.4, 6, 35),
        DropKind("door_station", "Door station", "Door stations", "Door", ("door", "intercom", "doorbell"), "wall",
                 100, 3, 9.0, 4, 30),
        DropKind("hub", "Hub", "Hubs", "Hub", ("gateway",), "shelf", 100, None, 0, 1, 3),
        DropKind("nas", "NAS", "NAS", "NAS", ("storage",), "shelf", 1000, None, 0, 500, 3),
        DropKind("recorder", "Recorder", "Recorders", "Rec", ("nvr",), "shelf", 1000, None, 0, 50, 3),
        DropKind("controller", "Controller", "Controllers", "Ctrl", (), "shelf", 1000, None, 0, 1, 3),
        DropKind("console", "Console", "Consoles", "Game", ("game",), "wall", 1000, None, 0, 50, 20),
        DropKind("room_switch", "Room switch", "Room switches", "R. sw", ("switch",), "wall", 1000, None, 0, 50, 30),
    )
}  # fmt: skip
