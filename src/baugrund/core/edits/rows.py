"""What edits share: partial changes of a row, and finding and replacing rows."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, Protocol, TypeVar

from pydantic import Field, JsonValue

from ..errors import NotFound
from ..facts.fact import Fact
from ..facts.project import Project

Values = Annotated[dict[Annotated[str, Field(max_length=60)], JsonValue], Field(max_length=60)]
"""Fields of a row by name; they are checked against the row's own type when the edit is applied."""


class Changes(Fact):
    """Some fields of a row: those that are set change, the others stay."""

    def given(self) -> dict[str, object]:
        return {name: getattr(self, name) for name in self.model_fields_set}


def replaced(project: Project, **values: object) -> Project:
    """A copy with some values replaced; ``apply_edits`` checks the result once at the end."""
    return project.changed(**values)


class Numbered(Protocol):
    """A row with a number."""

    @property
    def id(self) -> int: ...


Row = TypeVar("Row", bound=Numbered)


def found(rows: Sequence[Row], wanted: int, what: str) -> Row:
    """The row with this number.  Raises NotFound."""
    for row in rows:
        if row.id == wanted:
            return row
    raise NotFound(f"There is no {what} {wanted}; somebody may have removed it.")
