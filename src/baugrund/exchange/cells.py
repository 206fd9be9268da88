"""Cells of spreadsheets: what goes out is never executed, what comes in is the text that went out; and what it says."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

STARTS_A_FORMULA = ("=", "+", "-", "@", "\t", "\r")
MARKED = (*STARTS_A_FORMULA, "'")
YES = ("yes", "y", "true", "1", "x", "ja", "oui")
NO = ("no", "n", "false", "0", "", "nein", "non")


def inert(text: str) -> str:
    """A cell that no spreadsheet takes for a formula: one that could start one gets an apostrophe before it."""
    return f"'{text}" if text.startswith(MARKED) and not _is_figure(text) else text


def bare(text: str) -> str:
    """A cell as it was before ``inert``."""
    return text[1:] if text.startswith("'") and text[1:].startswith(MARKED) else text


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
