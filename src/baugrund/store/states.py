"""The last states of projects, so that one that did not change is not read from its rows again."""

from __future__ import annotations

from collections import OrderedDict
from dataclasses import dataclass
from threading import Lock

from baugrund.core.facts.project import Project

STATES_KEPT = 64


@dataclass(frozen=True)
class Stored:
    """A project as it stands, and its revision."""

    id: int
    revision: int
    project: Project


class States:
    """The last state of some projects.  A revision has one content for good, so only committed states are kept."""

    def __init__(self) -> None:
        self._kept: OrderedDict[int, Stored] = OrderedDict()
        self._lock = Lock()

    def at(self, project_id: int, revision: int) -> Stored | None:
        """A project at a revision, if it is known, with what was computed of it so far.

        Everyone gets an object of his own: what is computed of a project is written into it.
        """
        with self._lock:
            kept = self._kept.get(project_id)
            if kept is None or kept.revision != revision:
                return None
            self._kept.move_to_end(project_id)
            return Stored(project_id, revision, kept.project.model_copy())

    def keep(self, stored: Stored) -> Stored:
        """Keep a state as it is committed; gives it back."""
        with self._lock:
            kept = self._kept.get(stored.id)
            if kept is None or kept.revision <= stored.revision:
                self._kept[stored.id] = stored
                self._kept.move_to_end(stored.id)
                while len(self._kept) > STATES_KEPT:
                    self._kept.popitem(last=False)
        return stored
