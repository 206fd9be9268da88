"""Fields of rows that name other rows by number: their types say of which list of the project."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Annotated, NamedTuple, get_args, get_type_hints

from pydantic import BaseModel

from .fact import Fact, Id


@dataclass(frozen=True)
class Of:
    """The list of the project that a number is of."""

    rows: str


BuildingId = Annotated[Id, Of("buildings")]
FloorId = Annotated[Id, Of("floors")]
RoomId = Annotated[Id, Of("rooms")]
EntryId = Annotated[Id, Of("entries")]
ClosetId = Annotated[Id, Of("closets")]
OwnKindId = Annotated[Id, Of("own_kinds")]
DropId = Annotated[Id, Of("drops")]
PathId = Annotated[Id, Of("paths")]
TargetId = Annotated[Id, Of("targets")]
NetworkId = Annotated[Id, Of("networks")]
WifiNameId = Annotated[Id, Of("wifi_names")]
PhaseId = Annotated[Id, Of("phases")]
TracedJackId = Annotated[Id, Of("traced_jacks")]


class Reference(NamedTuple):
    """A field of the rows of a list, and the list that it names."""

    rows: str
    field: str
    target: str


def lists_of(project: type[BaseModel]) -> dict[str, type[Fact]]:
    """The lists of a project and the type of their rows."""
    hints = get_type_hints(project)
    found = {name: get_args(hints[name]) for name in project.model_fields}
    return {name: of[0] for name, of in found.items() if len(of) == 2 and of[1] is Ellipsis}


def numbered(project: type[BaseModel]) -> tuple[str, ...]:
    """The lists of a project whose rows have a number."""
    return tuple(name for name, row in lists_of(project).items() if "id" in row.model_fields)


def references(project: type[BaseModel]) -> tuple[Reference, ...]:
    """Every field of every list of a project that names rows of another list."""
    return tuple(
        Reference(name, field, target)
        for name, row in lists_of(project).items()
        for field, annotation in get_type_hints(row, include_extras=True).items()
        for target in _targets(annotation)
    )


def _targets(annotation: object) -> Iterator[str]:
    if isinstance(annotation, Of):
        yield annotation.rows
    for part in get_args(annotation):
        yield from _targets(part)
