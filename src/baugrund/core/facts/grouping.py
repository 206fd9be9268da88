"""Rows by a number that each has."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import TypeVar

Row = TypeVar("Row")


def grouped(rows: Iterable[Row], of: Callable[[Row], int | None]) -> dict[int, tuple[Row, ...]]:
    """Rows in their order by their number; those without one are left out."""
    found: dict[int, list[Row]] = {}
    for row in rows:
        if (number := of(row)) is not None:
            found.setdefault(number, []).append(row)
    return {number: tuple(some) for number, some in found.items()}
