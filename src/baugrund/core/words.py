"""Figures and counts in words, the same everywhere."""

from __future__ import annotations

from collections.abc import Sequence

SYMBOLS = {"EUR": "€", "USD": "$", "GBP": "£", "CHF": "CHF", "JPY": "¥"}


def money(minor: int, currency: str) -> str:
    """``123450`` → ``€ 1,234.50``; whole amounts without the decimals."""
    symbol = SYMBOLS.get(currency, currency)
    amount = f"{minor // 100:,}" if minor % 100 == 0 else f"{minor / 100:,.2f}"
    return f"{symbol} {amount}"


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
