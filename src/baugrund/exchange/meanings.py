"""What the values of somebody else's table mean: as they stand, by a guess, or as was said once for all lines."""

from __future__ import annotations

from collections.abc import Container, Mapping
from typing import Annotated

from pydantic import Field

from baugrund.core.errors import InvalidInput
from baugrund.core.facts.fact import Fact

from .tables import MAX_CELL, MAX_ROWS

LEAVE_OUT = "-"
"""The meaning of a value whose lines are left out."""

Key = Annotated[str, Field(max_length=40)]
Cell = Annotated[str, Field(max_length=MAX_CELL)]
LineNumber = Annotated[int, Field(ge=1, le=MAX_ROWS)]


class Meant(Fact):
    """What a value of a column means, written as the column is written here; ``LEAVE_OUT``: its lines are left out."""

    column: Key
    value: Cell
    means: Cell


class Mended(Fact):
    """A cell of one line as it should have been."""

    line: LineNumber
    column: Key
    text: Cell


class Answers(Fact):
    """All that was said about a table beside its columns."""

    meanings: Annotated[tuple[Meant, ...], Field(max_length=2_000)] = ()
    mended: Annotated[tuple[Mended, ...], Field(max_length=2_000)] = ()
    left_out: Annotated[tuple[LineNumber, ...], Field(max_length=MAX_ROWS)] = ()


class Value(Fact):
    """A distinct value of a column that is not written as it would be here.

    ``told``: what it is taken for; empty: it is not understood.  ``means``: what was said of it; empty: nothing, so
    ``told`` is a guess.  ``choices``: what may be said of it; empty: free text.
    """

    column: str
    head: str
    value: str
    lines: int
    told: str
    means: str
    choices: tuple[str, ...]


def folded(text: str) -> str:
    """A value or a head without capitals, underscores and needless space."""
    return " ".join(text.casefold().replace("_", " ").split())


def said_in(answers: Answers) -> dict[tuple[str, str], str]:
    """By column and value what was said that it means; empty: what was said before of it counts no longer."""
    return {(meant.column, folded(meant.value)): meant.means for meant in answers.meanings}


class LeftOut(Exception):
    """A line that was left out, by itself or by a value of it."""


class Meanings:
    """The answers to a table, and every value of it that is not written as it would be here."""

    def __init__(self, answers: Answers, remembered: Mapping[tuple[str, str], str] | None = None) -> None:
        self.left_out = frozenset(answers.left_out)
        self._mended: dict[int, dict[str, str]] = {}
        for mended in answers.mended:
            self._mended.setdefault(mended.line, {})[mended.column] = mended.text
        self._meant = {**(remembered or {}), **said_in(answers)}
        self._values: dict[tuple[str, str], Value] = {}

    def refuse_other_than(self, columns: Container[str]) -> None:
        """Raises InvalidInput when a cell was mended of a column that such a table cannot have."""
        for line, cells in self._mended.items():
            for column in cells:
                if column not in columns:
                    raise InvalidInput(f"Line {line} is mended in “{column}”; there is no such column.", "mended")

    def mended(self, line: int, cells: Mapping[str, str]) -> dict[str, str]:
        """The cells of a line, by column, with what was mended; that may be a column that the file does not have."""
        return {**cells, **self._mended.get(line, {})}

    def meant(self, column: str, head: str, cell: str, choices: tuple[str, ...]) -> str:
        """What was said that a cell means; empty: nothing.  Raises LeftOut."""
        said = self._meant.get((column, folded(cell)), "")
        if said == LEAVE_OUT:
            self.note(column, head, cell, "left out", choices)
            raise LeftOut
        return said

    def note(self, column: str, head: str, cell: str, told: str, choices: tuple[str, ...]) -> None:
        """Note a cell that is not written as it would be here, once for all lines that have it."""
        key = (column, folded(cell))
        before = self._values.get(key)
        self._values[key] = Value(
            column=column, head=head, value=before.value if before else cell.strip(), told=told, choices=choices,
            lines=1 + (before.lines if before else 0), means=self._meant.get(key, ""),
        )  # fmt: skip

    @property
    def values(self) -> tuple[Value, ...]:
        """In the order in which they came, those that are not understood first."""
        return tuple(sorted(self._values.values(), key=lambda value: bool(value.told)))
