"""Figures as the project writes them: 1,234.50 or 1.234,50 or 1 234,50 or 1'234.50."""

from __future__ import annotations

from typing import Literal

from baugrund.core.words import DECIMALS, SYMBOLS, minor_per_unit

Numbers = Literal["en", "de", "fr", "ch"]
MARKS: dict[Numbers, tuple[str, str]] = {
    "en": (",", "."), "de": (".", ","), "fr": ("\u202f", ","), "ch": ("\u2019", "."),
}  # fmt: skip
"""Between thousands, and before decimals."""


def figure(value: float, decimals: int, numbers: Numbers) -> str:
    """A figure with so many decimals at the most, those that are nothing left out."""
    text = f"{value:,.{decimals}f}"
    if "." in text:
        text = text.rstrip("0").rstrip(".")
    return _marked(text, numbers)


def amount(minor: int | None, currency: str, numbers: Numbers) -> str:
    """An amount of money with all its decimals; one that nobody knows as a dash."""
    if minor is None:
        return "–"
    text = f"{minor / minor_per_unit(currency):,.{DECIMALS.get(currency, 2)}f}"
    return f"{SYMBOLS.get(currency, currency)}\u00a0{_marked(text, numbers)}"


def _marked(text: str, numbers: Numbers) -> str:
    between, before = MARKS[numbers]
    return text.replace(",", "\0").replace(".", before).replace("\0", between)
