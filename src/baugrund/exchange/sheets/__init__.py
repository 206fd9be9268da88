"""Sheets to print: what goes along to the building site, as PDF."""

from .pull_sheet import write_pull_sheet
from .setting_out_sheet import write_setting_out_sheet

SHEETS = {"pulls": write_pull_sheet, "setting-out": write_setting_out_sheet}
"""Every sheet by its name: from a project, the folder of the fonts and the day that stands on it."""
