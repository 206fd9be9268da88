"""What edits share: partial changes of a row, and finding and replacing rows."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TypeVar

from ..errors import NotFound
from ..facts import Fact
from ..project import Addition, Closet, Drop, InternetLine, Project, Room


class Changes(Fact):
    """Some fields of a row: those that are set change, the others stay."""

    def given(self) -> dict[str, object]:
        return {name: getattr(self, name) for name in self.model_fields_set}


def replaced(project: Project, **values: object) -> Project:
    """A copy with some values replaced; ``apply_edits`` checks the result once at the end."""
    return project.changed(**values)


Numbered = TypeVar("Numbered", Closet, Room, Drop, InternetLine, Addition)


def found(rows: Sequence[Numbered], wanted: int, what: str) -> Numbered:
    """The row with this number.  Raises NotFound."""
    for row in rows:
        if row.id == wanted:
            return row
    raise NotFound(f"There is no {what} {wanted}; somebody may have removed it.")
