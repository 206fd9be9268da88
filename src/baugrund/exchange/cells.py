"""Cells of spreadsheets: what goes out is never executed, what comes in is the text that went out; and what it says."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from typing import Any

STARTS = "=+@\t\r＝＋＠−－-"
"""What a cell must not start with: spreadsheets take such a cell for a formula, some in full width too."""
_CELL = r"(?:^|(?<=[;\t\r\n]))[ \u00a0\u200b]*"
"""Where a cell starts, also for one who splits the text at semicolons, tabs or lines, whatever quotes say."""
_OPEN = re.compile(rf"{_CELL}(?='*[{STARTS}])")
_MARKED = re.compile(rf"({_CELL})'(?='*[{STARTS}])")
YES = ("yes", "y", "true", "1", "x", "ja", "oui")
NO = ("no", "n", "false", "0", "", "nein", "non")


def inert(text: str) -> str:
    """A cell no part of which a spreadsheet takes for a formula: what could start one gets an apostrophe before it."""
    return text if _is_figure(text) else _OPEN.sub(lambda start: f"{start[0]}'", text)


def bare(text: str) -> str:
    """A cell as it was before ``inert``."""
    return _MARKED.sub(r"\1", text)


def _is_figure(text: str) -> bool:
    return text.lstrip("-").replace(".", "", 1).isdecimal() and text.isascii()


class Odd(ValueError):
    """A cell that cannot be taken, with the sentence that says why."""


def yes(text: str) -> bool:
    """Yes or no, in words or figures."""
    folded = text.strip().casefold()
    if folded in YES:
        return True
    if folded in NO:
        return False
    raise Odd(f"“{text}” is neither yes nor no")


def number_of(text: str) -> float:
    bare = text.strip().casefold().rstrip("mw").strip().replace(",", ".")
    try:
        return float(bare)
    except ValueError as error:
        raise Odd(f"“{text}” is not a number") from error


def speed_of(text: str) -> int:
    bare = text.strip().casefold().replace(" ", "").removesuffix("bit/s").removesuffix("bit")
    scale = 1000.0 if bare.endswith("g") else 1.0
    return round(number_of(bare.rstrip("gm")) * scale)


def one_of(choices: Sequence[str]) -> Callable[[str], str]:
    def read(text: str) -> str:
        for choice in choices:
            if choice.casefold() == text.strip().casefold():
                return choice
        raise Odd(f"“{text}” is none of {', '.join(choice for choice in choices if choice)}")

    return read


def shown(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    return f"{value:.10g}" if isinstance(value, float) else str(value)
