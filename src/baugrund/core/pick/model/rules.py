"""Rules of a closet that a box keeps or breaks whatever else stands there: a row a rule."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from ...facts.building import Closet
from ...facts.lines.box import Box
from ...facts.project import Project

PLUG_AND_BEND_MM = 75
"""Depth kept for plug and bend behind a box [mm], *default*."""


@dataclass(frozen=True)
class Rule:
    """One row: which boxes break the rule, and how it would be lifted."""

    key: str
    """Where it is told what to relax."""
    applies: Callable[[Project, Closet], bool]
    broken: Callable[[Box, Closet], str | None]
    """The sentence that keeps a box out; None: it keeps the rule."""
    would_do: Callable[[Closet], str]
    """The sentence of what would do without the rule."""
    of_closet: dict[str, object] | None = None
    """Fields of a closet without the rule; None: it is one of the project's."""
    of_settings: dict[str, object] | None = None


RULES: tuple[Rule, ...] = (
    Rule(
        "separate networks",
        applies=lambda project, closet: project.settings.separate_networks,
        broken=lambda box, closet: None if box.managed else "Separate networks are wanted; this one is not managed.",
        would_do=lambda closet: "Without separate networks plain boxes would do.",
        of_settings={"separate_networks": False},
    ),
    Rule(
        "living space",
        applies=lambda project, closet: closet.living_space,
        broken=lambda box, closet: None if box.fanless else "The closet is a living space; this one has a fan.",
        would_do=lambda closet: "Boxes with a fan would do; the closet is a living space.",
        of_closet={"living_space": False},
    ),
    Rule(
        "wall panel",
        applies=lambda project, closet: closet.housing == "panel",
        broken=lambda box, closet: (
            "19 inches wide; the wall panel takes narrow boxes only." if box.form == "rack" else None
        ),
        would_do=lambda closet: "19-inch boxes would do; the wall panel takes narrow ones only.",
        of_closet={"housing": "rack"},
    ),
    Rule(
        "depth",
        applies=lambda project, closet: True,
        broken=lambda box, closet: (
            f"{box.depth_mm} mm deep and {PLUG_AND_BEND_MM} mm for plug and bend; the housing has {closet.depth_mm} mm."
            if box.depth_mm + PLUG_AND_BEND_MM > closet.depth_mm
            else None
        ),
        would_do=lambda closet: f"More depth would do: the housing has {closet.depth_mm} mm.",
        of_closet={"depth_mm": 1500},
    ),
)
