"""Labels for a label printer: a line a cable, one text for both ends."""

from __future__ import annotations

from baugrund.core.patch.labelling import BOTH_ENDS, Labelling

from .tables import write_csv

HEAD = ["Text", "Copies", "Replaces"]


def write_labels_csv(told: Labelling) -> str:
    """What is new or reads otherwise now as CSV."""
    wanted = (line for line in told.lines if line.state in ("new", "changed"))
    return write_csv(HEAD, [[line.text, str(BOTH_ENDS), line.printed] for line in wanted])
