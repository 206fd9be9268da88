"""Cords to buy or make as a list: a line a length and colour."""

from __future__ import annotations

from baugrund.core.patch.cords import CordList

from .cells import shown
from .tables import write_csv

HEAD = ["Count", "Length m", "Colour", "Category", "From", "Uses"]


def write_cords_csv(told: CordList) -> str:
    """The cords of all closets as CSV; a length that nobody knows stays empty."""
    rows = [
        [str(one.count), shown(one.length_m), one.colour, told.category, told.source.replace("_", "-"),
         ", ".join(use.replace("_", " ") for use in one.uses)]
        for one in told.lines
    ]  # fmt: skip
    return write_csv(HEAD, rows)
