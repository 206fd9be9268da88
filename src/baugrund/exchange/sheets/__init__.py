"""Sheets to print: what goes along to the building site, as PDF."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from pathlib import Path

from baugrund.core.facts.project import Project

from .pages import Pictures
from .pull_sheet import write_pull_sheet
from .setting_out_sheet import write_setting_out_sheet
from .view_sheet import write_view_sheet

SHEETS: dict[str, Callable[[Project, Path | None, date, Pictures], bytes]] = {
    "pulls": lambda project, fonts, made, _: write_pull_sheet(project, fonts, made),
    "setting-out": lambda project, fonts, made, _: write_setting_out_sheet(project, fonts, made),
    "views": write_view_sheet,
}
"""Every sheet by its name: from a project, the folder of the fonts, the day that stands on it, and kept pictures."""
