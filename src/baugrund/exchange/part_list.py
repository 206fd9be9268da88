"""What goes in beside the cable, as CSV."""

from __future__ import annotations

from collections.abc import Iterable

from baugrund.core.cabling.parts import PartLine

from .tables import write_csv

HEAD = ["Group", "Part", "Count", "Unit", "For"]


def write_parts_csv(parts: Iterable[PartLine]) -> str:
    """Parts, one a line."""
    return write_csv(HEAD, [[part.group, part.name, f"{part.count:g}", part.unit, part.why] for part in parts])
