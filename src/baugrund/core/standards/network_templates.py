"""Networks that places of a kind usually keep apart, and what may be opened between them, *defaults* of ours.

Numbers, names and reasons are a beginning that a project changes.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

TemplateKey = Literal["home", "shop", "practice", "workshop"]


@dataclass(frozen=True)
class NetworkRow:
    """A network of a template: name, number, purpose, who is in it by kind, whether it may reach the internet."""

    name: str
    number: int
    purpose: str
    kinds: tuple[str, ...] = ()
    internet: bool = True
    way_in: str = ""


@dataclass(frozen=True)
class Rule:
    """What clients of one network may open to another: nothing, named services, or all (no services named)."""

    source: str
    target: str
    services: tuple[str, ...] | None
    reason: str


@dataclass(frozen=True)
class Template:
    networks: tuple[NetworkRow, ...]
    rules: tuple[Rule, ...]


CAMERAS = NetworkRow("Cameras", 40, "cameras", ("camera", "door_station", "recorder"), internet=False)
GUESTS = NetworkRow("Guests", 30, "guests", way_in="password")
BOXES = NetworkRow("Boxes", 99, "management", ("access_point", "controller"))
ALONE = Rule("Guests", "Guests", (), "Guests do not know each other.")
"""Rules of no services are *nothing*."""

TEMPLATES: dict[TemplateKey, Template] = {
    "home": Template(
        (
            NetworkRow("Trusted", 10, "trusted", ("desk", "jack", "printer", "nas", "console", "server")),
            NetworkRow("Things", 20, "things", ("hub", "screen", "reader", "phone")),
            GUESTS, CAMERAS, BOXES,
        ),
        (
            Rule("Trusted", "Things", None, "Phones and desks steer screens and hubs."),
            Rule("Trusted", "Cameras", None, "The household looks at its cameras."),
            Rule("Trusted", "Boxes", ("web", "shell"), "Settings are made from trusted desks alone."),
            ALONE,
        ),
    ),
    "shop": Template(
        (
            NetworkRow("Office", 10, "trusted", ("desk", "jack", "printer", "nas", "server")),
            NetworkRow("Tills", 20, "work", ("reader", "console")),
            NetworkRow("Things", 25, "things", ("hub", "screen")),
            NetworkRow("Voice", 50, "voice", ("phone",)),
            GUESTS, CAMERAS, BOXES,
        ),
        (
            Rule("Office", "Things", None, "The office steers screens."),
            Rule("Office", "Cameras", ("web", "video"), "The office looks at recordings."),
            Rule("Office", "Boxes", ("web", "shell"), "Settings are made from the office alone."),
            Rule("Tills", "Office", ("printing",), "Tills print receipts and labels."),
            ALONE,
        ),
    ),
    "practice": Template(
        (
            NetworkRow("Practice", 10, "work", ("desk", "jack", "printer", "nas", "server")),
            NetworkRow("Devices", 20, "things", ("hub", "reader", "screen")),
            NetworkRow("Voice", 50, "voice", ("phone",)),
            GUESTS, CAMERAS, BOXES,
        ),
        (
            Rule("Devices", "Practice", ("files",), "Devices put their records on the practice's server."),
            Rule("Practice", "Devices", None, "Desks call up results."),
            Rule("Practice", "Cameras", ("video",), "The desk sees who is at the door."),
            Rule("Practice", "Boxes", ("web", "shell"), "Settings are made from the practice alone."),
            ALONE,
        ),
    ),
    "workshop": Template(
        (
            NetworkRow("Office", 10, "trusted", ("desk", "printer", "nas", "server")),
            NetworkRow("Machines", 20, "work", ("hub", "console", "jack")),
            NetworkRow("Things", 25, "things", ("screen", "reader")),
            NetworkRow("Voice", 50, "voice", ("phone",)),
            GUESTS, CAMERAS, BOXES,
        ),
        (
            Rule("Office", "Machines", None, "Jobs are sent to machines from the office."),
            Rule("Machines", "Office", ("files",), "Machines fetch their drawings."),
            Rule("Office", "Things", None, "The office steers screens."),
            Rule("Office", "Cameras", ("web", "video"), "The office looks at recordings."),
            Rule("Office", "Boxes", ("web", "shell"), "Settings are made from the office alone."),
            ALONE,
        ),
    ),
}  # fmt: skip
