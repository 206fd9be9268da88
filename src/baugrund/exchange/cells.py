"""Cells of spreadsheets: what goes out is never executed, what comes in is the text that went out."""

from __future__ import annotations

STARTS_A_FORMULA = ("=", "+", "-", "@", "\t", "\r")
MARKED = (*STARTS_A_FORMULA, "'")


def inert(text: str) -> str:
    """A cell that no spreadsheet takes for a formula: one that could start one gets an apostrophe before it."""
    return f"'{text}" if text.startswith(MARKED) and not _is_figure(text) else text


def bare(text: str) -> str:
    """A cell as it was before ``inert``."""
    return text[1:] if text.startswith("'") and text[1:].startswith(MARKED) else text


def _is_figure(text: str) -> bool:
    return text.lstrip("-").replace(".", "", 1).isdecimal() and text.isascii()
