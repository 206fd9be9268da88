"""The order in which a network is built, and what stands beside each stage.  All are *defaults* of practice; cautions
defer to local codes, the standard in force and licensed practice.
"""

from __future__ import annotations

from typing import Literal, NamedTuple, get_args

BuildStage = Literal[
    "bench", "take_down", "ways", "pull", "terminate", "punch_down", "label", "stack", "patch", "power_up", "configure",
    "test", "mount", "close", "clear_away", "other", "document",
]  # fmt: skip
BUILD_STAGES: tuple[BuildStage, ...] = get_args(BuildStage)
Scope = Literal["drops", "closet", "room", "site"]


class StageRow(NamedTuple):
    """A stage: its name, what is done in it, its caution, and the stages of labour whose tools it takes."""

    name: str
    do: str
    caution: str = ""
    tools_of: tuple[str, ...] = ()


STAGE_ROWS: dict[BuildStage, StageRow] = {
    "bench": StageRow(
        "Bench", "Each device: switched on, named, brought up to date; serial and hardware address written down.",
        "Only the power supply that belongs to a device: a passive or wrong one can destroy it.", ("bench",),
    ),
    "take_down": StageRow(
        "Take down", "What goes, when nothing hangs on it any more.",
        "What is fixed to the mains is taken down by a licensed electrician; what must survive stays alive.",
        ("stack",),
    ),
    "ways": StageRow(
        "Ways for cable", "Conduit, trunking, trays, ducts and holes.",
        "Hidden cables and pipes, asbestos in older buildings, fire-rated walls, structural members: look before any"
        " drilling; local codes and licensed practice come first.", ("ways",),
    ),
    "pull": StageRow(
        "Pull", "Longest runs first; slack at both ends; a draw string stays behind.",
        "Lofts: on joists or boards only, mask and gloves, somebody knows that you are up there. Data and mains apart"
        " as local code says.", ("pull",),
    ),
    "terminate": StageRow(
        "Terminate", "The place’s end of every run, by the one standard of colours of the site.",
        "Fibre: never look into it; collect every shard.", ("terminate",),
    ),
    "punch_down": StageRow(
        "Punch down", "The closet’s end of every run, by the same standard of colours.",
        "Screens and racks are earthed as local code says, by a licensed electrician.", ("punch_down",),
    ),
    "label": StageRow("Label", "The same text at both ends, by place.", "", ("patch",)),
    "stack": StageRow(
        "Closets", "Housing fixed, boxes and panels put in, heavy things low.",
        "Two people for racks and heavy batteries; racks are fixed to studs or masonry; nobody opens a UPS.",
        ("stack",),
    ),
    "patch": StageRow(
        "Patch", "Cords as the port list says.",
        "Nothing that takes or gives passive 24 or 48 V goes into a port that does not expect it.",
    ),
    "power_up": StageRow(
        "Power up", "One after another, each seen to work before the next.",
        "New sockets and bonding are a licensed electrician’s. Smell, smoke or a hot plug: off at the mains first.",
    ),
    "configure": StageRow(
        "Configure", "By the sheets of Patch: networks, addresses, names of Wi-Fi, power of ports.",
        "Passwords of delivery go. What cameras see and keep is limited by local law.", ("set_up",),
    ),
    "test": StageRow(
        "Test", "Wire map and length before the cord goes in, link and power after.",
        "A wire-map tester goes onto cable without power: both ends out first.", ("test",),
    ),
    "mount": StageRow(
        "Mount", "For good, once it has worked: plates, access points, cameras, door stations.",
        "Ladder on firm ground, a second person for heights; know what is behind before you drill.", ("mount",),
    ),
    "close": StageRow(
        "Close and paint", "Openings of finished walls.",
        "Openings of fire-rated walls and floors take listed fire-stopping, as local code says.", ("close",),
    ),
    "clear_away": StageRow("Clear away", "Room by room.", "", ("clear_away",)),
    "other": StageRow("Other work", "What the project adds."),
    "document": StageRow(
        "Write down", "Port list as built, drawings, legend on the door, record of acceptance.",
        "Passwords are handed over apart from the papers.",
    ),
}  # fmt: skip
LABOUR_STAGES: dict[str, BuildStage] = {
    "bench": "bench", "take_down": "take_down", "ways": "ways", "pull": "pull", "terminate": "terminate",
    "punch_down": "punch_down", "mount": "mount", "close": "close", "stack": "stack", "patch": "patch",
    "set_up": "configure", "test": "test", "write_down": "document", "clear_away": "clear_away", "other": "other",
}  # fmt: skip
"""The stage in which work of a stage of labour is done; a survey comes before all of them."""
BEFORE: tuple[tuple[BuildStage, BuildStage, Scope], ...] = (
    ("ways", "pull", "site"), ("pull", "terminate", "drops"), ("pull", "punch_down", "drops"),
    ("pull", "label", "drops"), ("bench", "stack", "closet"), ("punch_down", "patch", "drops"),
    ("stack", "patch", "closet"), ("patch", "power_up", "closet"), ("bench", "configure", "drops"),
    ("patch", "configure", "closet"), ("power_up", "configure", "drops"),
    ("terminate", "test", "drops"), ("punch_down", "test", "drops"),
    ("configure", "mount", "drops"), ("terminate", "mount", "drops"), ("pull", "close", "drops"),
    ("mount", "clear_away", "room"), ("close", "clear_away", "room"), ("label", "document", "drops"),
    ("test", "document", "drops"),
)  # fmt: skip
"""A stage that another waits for, where both touch the same drops (or boxes, or links), closet or room, or anywhere."""
AFTER_RUN: tuple[BuildStage, ...] = ("patch", "configure", "mount", "document")
"""Stages that a run which fails reopens: they took it for good."""
OF_CABLE: tuple[BuildStage, ...] = ("pull", "terminate", "punch_down", "label", "patch", "document")
"""Stages of a cable: they are open again where its drop goes to another closet."""

SWITCH_WAIT_MIN = 3.0
"""Until a switch works, *default* [min]."""
