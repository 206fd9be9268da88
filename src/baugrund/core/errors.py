"""The family of errors.  Each carries one sentence with the place and the numbers in it.

BaugrundError
├── InvalidInput      what came in cannot be read or breaks a limit
├── NotFound          a project, drop, room or model that is not there
├── Conflict          somebody else changed the same field meanwhile
├── NothingToUndo     the journal holds no edit to undo or redo
├── NotReady          a reply that is still worked on, or whose work was stopped
└── TookTooLong       a search that neither found nor ruled out a pick in time
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass


class BaugrundError(Exception):
    """Base of all errors that are meant to be read by a user."""

    def __init__(self, sentence: str) -> None:
        super().__init__(sentence)
        self.sentence = sentence


class InvalidInput(BaugrundError):
    """Bad input; ``place`` says where (``drops[3].run_m``), the sentence says what and the limit."""

    def __init__(self, sentence: str, place: str = "") -> None:
        super().__init__(f"{place}: {sentence}" if place else sentence)
        self.place = place


class NotFound(BaugrundError):
    """Something that was named is not there."""


class NothingToUndo(BaugrundError):
    """There is no edit to undo, or none to redo."""


class NotReady(BaugrundError):
    """A reply that is still worked on, or whose work was stopped."""


class TookTooLong(BaugrundError):
    """A search ended without a result."""


class Stopped(BaugrundError):
    """A search was stopped, for nobody waits for its result any more."""


@dataclass(frozen=True)
class FieldClash:
    """One field that two people set: ``what`` names it in words, ``yours`` and ``theirs`` are the values."""

    what: str
    yours: object
    theirs: object
    by: str


class Conflict(BaugrundError):
    """The edit touches a field that changed since the revision it was made on."""

    def __init__(self, clashes: Sequence[FieldClash], revision: int) -> None:
        first = clashes[0]
        super().__init__(
            f"{first.by} changed {first.what} to {first.theirs} meanwhile; yours was {first.yours}. "
            "Nothing of yours was applied."
        )
        self.clashes = tuple(clashes)
        self.revision = revision
