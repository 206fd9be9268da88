"""Figures and counts in words, the same everywhere."""

from __future__ import annotations

from collections.abc import Sequence

SYMBOLS = {"EUR": "€", "USD": "$", "GBP": "£", "CHF": "CHF", "JPY": "¥"}


DECIMALS = {
    "BHD": 3, "IQD": 3, "JOD": 3, "KWD": 3, "LYD": 3, "OMR": 3, "TND": 3,
    "BIF": 0, "CLP": 0, "DJF": 0, "GNF": 0, "ISK": 0, "JPY": 0, "KMF": 0, "KRW": 0, "PYG": 0, "RWF": 0, "UGX": 0,
    "UYI": 0, "VND": 0, "VUV": 0, "XAF": 0, "XOF": 0, "XPF": 0,
}  # fmt: skip
"""Decimals of the minor unit where they are not two (ISO 4217)."""


def minor_per_unit(currency: str) -> int:
    """How many minor units one of a currency has (ISO 4217): 100 cents, 1 yen, 1000 fils."""
    return int(10 ** DECIMALS.get(currency, 2))


def money(minor: int, currency: str) -> str:
    """``123450`` → ``€ 1,234.50``; whole amounts without the decimals; yen have none."""
    symbol = SYMBOLS.get(currency, currency)
    per_unit = minor_per_unit(currency)
    if minor % per_unit == 0:
        return f"{symbol} {minor // per_unit:,}"
    return f"{symbol} {minor / per_unit:,.{DECIMALS.get(currency, 2)}f}"


def plain_money(minor: int, currency: str) -> str:
    """``123450`` EUR → ``1234.50``: for a table, without symbol and grouping."""
    return f"{minor / minor_per_unit(currency):.{DECIMALS.get(currency, 2)}f}"


def small(name: str) -> str:
    """A name within a sentence: its first letter small, but for an abbreviation's; ``Camera``, ``NAS``."""
    return name if name[:2].isupper() else name[:1].lower() + name[1:]


def counted(count: int, singular: str, plural: str | None = None) -> str:
    """``2`` drops → ``2 drops``; ``1`` → ``1 drop``."""
    return f"{count:,} {singular if count == 1 else plural or singular + 's'}"


def speed(mbit: int) -> str:
    """``2500`` → ``2.5 G``; ``100`` → ``100 M``."""
    return f"{mbit / 1000:g} G" if mbit >= 1000 else f"{mbit} M"


def watts(milliwatts: float) -> str:
    """Milliwatts as watts, one decimal at most."""
    return f"{round(milliwatts / 1000, 1):g} W"


def joined(parts: Sequence[str]) -> str:
    """``a, b and c``."""
    return parts[0] if len(parts) == 1 else ", ".join(parts[:-1]) + " and " + parts[-1]
