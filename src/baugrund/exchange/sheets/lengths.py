"""Lengths as a project writes them."""

from __future__ import annotations

from baugrund.core.facts.project import Project

FOOT_M = 0.3048


def unit(project: Project) -> str:
    return "ft" if project.settings.units == "imperial" else "m"


def metres(project: Project, value: float, decimals: int = 1) -> str:
    """A length in the unit of the project, without it."""
    shown = value / FOOT_M if project.settings.units == "imperial" else value
    return f"{shown:.{decimals}f}"
