"""What runs on the network that is there today, and how it is moved over to the new one."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from .fact import Fact, Id, Name, Note, Text
from .references import RoomId

RunningKind = Literal[
    "internet", "wifi", "wired", "recording", "printing", "telephone", "television", "alarm", "doorbell", "other"
]
Minutes = Annotated[float, Field(ge=0, le=10_000)]


class Running(Fact):
    """Something that people use on the network that is there."""

    id: Id
    name: Name
    kind: RunningKind
    room_ids: Annotated[tuple[RoomId, ...], Field(max_length=200)] = ()
    """Rooms in which it is used; none: everywhere."""
    must_stay: bool = True
    most_min: Minutes | None = None
    """The longest that it may be interrupted at once [min]; None: nobody has said."""
    when: Text = ""
    """When it may be interrupted."""
    meanwhile: Text = ""
    """What carries it while it is moved; empty: nothing."""


class MoveTerm(Fact):
    """What the project says of a step of moving over, in place of the usual."""

    id: Id
    step: Annotated[str, Field(min_length=1, max_length=120)]
    minutes: Minutes | None = None
    """Interruption of each thing that it moves [min]."""
    way_back: Note = ""
