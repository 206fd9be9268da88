"""Labels: what is to be printed, what is on the cables already, what has to be taken off, and what fits on a label."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

from ..facts.fact import Fact
from ..facts.patch import LabelStock
from ..facts.project import Project
from ..places.labels import labels
from ..standards.type import LARGEST_MM, LEAST_MM, LINE, text_width

STOCKS: dict[str, LabelStock] = {
    "a4-wraps": LabelStock(
        id=1, name="A4, 5 × 7 wraps of 36 × 38 mm", width_mm=36, height_mm=38, print_mm=14, columns=5, rows=7,
        left_mm=9, top_mm=13, step_x_mm=39, step_y_mm=39,
    ),
    "a4-flags": LabelStock(
        id=2, name="A4, 4 × 16 labels of 45 × 16 mm", width_mm=45, height_mm=16, columns=4, rows=16, left_mm=13,
        top_mm=17, step_x_mm=47, step_y_mm=16.5,
    ),
    "letter-wraps": LabelStock(
        id=3, name="Letter, 5 × 6 wraps of 36 × 38 mm", page="letter", width_mm=36, height_mm=38, print_mm=14,
        columns=5, rows=6, left_mm=12, top_mm=20, step_x_mm=39, step_y_mm=40,
    ),
    "tape-9": LabelStock(id=4, name="Tape, 9 mm", form="tape", width_mm=40, height_mm=9),
    "tape-12": LabelStock(id=5, name="Tape, 12 mm", form="tape", width_mm=40, height_mm=12),
    "tape-18": LabelStock(id=6, name="Tape, 18 mm", form="tape", width_mm=50, height_mm=18),
}  # fmt: skip
"""Stocks that ship with the program, *defaults* of ours; a project adds its own."""
MARGIN_MM = 1.0
"""Kept free inside each edge of a label."""
BOTH_ENDS = 2


class LabelLine(Fact):
    """The label of a cable, and what is on it."""

    drop_id: int | None
    text: str
    """One text for both ends; empty: the cable is gone, its label is to be taken off."""
    printed: str
    """What was printed for it; empty: nothing."""
    state: Literal["new", "same", "changed", "off"]
    size_mm: float
    """Size of type that fits on the chosen stock [mm]."""
    too_long: bool
    """It does not fit in a size that can be read."""


class Labelling(Fact):
    """All labels, and the stock that they go on."""

    stock: LabelStock
    stocks: dict[str, str]
    """Names of all stocks by their key."""
    key: str
    lines: tuple[LabelLine, ...]
    to_print: int
    """Labels to print, both ends counted."""
    sheets: int
    """Sheets that takes; of tape 0."""
    tape_mm: float
    """Length of tape that takes; of sheets 0."""


def stock_of(project: Project) -> tuple[str, LabelStock]:
    """The stock that a project prints on, with its key; one that is gone is the first that ships."""
    key = project.settings.label_stock
    own = {f"stock/{one.id}": one for one in project.stocks}
    found: Mapping[str, LabelStock] = {**STOCKS, **own}
    return (key, found[key]) if key in found else next(iter(STOCKS.items()))


def size_on(stock: LabelStock, text: str) -> float:
    """Largest size of type in which a text stands on one line of a label [mm]; at least 0."""
    across = stock.width_mm - 2 * MARGIN_MM
    down = (stock.print_mm or stock.height_mm) - 2 * MARGIN_MM
    wide = text_width(text)
    return max(0.0, min(LARGEST_MM, down / LINE, across / wide if wide else LARGEST_MM))


def labelling(project: Project) -> Labelling:
    """The labels of a project: of every cable, and those printed for cables that are gone."""
    key, stock = stock_of(project)
    printed = {row.drop_id: row.text for row in project.printed if row.drop_id is not None}
    lines = []
    for drop_id, text in labels(project).items():
        was = printed.get(drop_id, "")
        size = size_on(stock, text)
        state: Literal["new", "same", "changed"] = "new" if not was else "same" if was == text else "changed"
        lines.append(LabelLine(drop_id=drop_id, text=text, printed=was, state=state, size_mm=round(size, 3),
                               too_long=size < LEAST_MM))  # fmt: skip
    gone = [row.text for row in project.printed if row.drop_id is None or row.drop_id not in labels(project)]
    lines += [LabelLine(drop_id=None, text="", printed=text, state="off", size_mm=0.0, too_long=False) for text in gone]
    wanted = BOTH_ENDS * sum(line.state in ("new", "changed") for line in lines)
    is_tape = stock.form == "tape"
    return Labelling(
        stock=stock, key=key,
        stocks={name: one.name for name, one in STOCKS.items()} | {f"stock/{s.id}": s.name for s in project.stocks},
        lines=tuple(lines), to_print=wanted, sheets=0 if is_tape else -(-wanted // (stock.columns * stock.rows)),
        tape_mm=wanted * stock.width_mm if is_tape else 0.0,
    )  # fmt: skip
