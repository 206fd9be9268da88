"""The last few pickers: several questions about one state share what they have in common."""

from __future__ import annotations

from collections import OrderedDict
from threading import Lock

from baugrund.core.answers.picker import Picker
from baugrund.store.catalogues import Catalogues
from baugrund.store.projects import Projects
from baugrund.store.states import Stored

PICKERS_KEPT = 8


class Pickers:
    """A picker for every state that is asked about, made once and kept for a while."""

    def __init__(self, projects: Projects, catalogues: Catalogues) -> None:
        self.projects = projects
        self.catalogues = catalogues
        self._kept: OrderedDict[tuple[int, int], Picker] = OrderedDict()
        self._lock = Lock()

    def __call__(self, stored: Stored) -> Picker:
        """The picker of a project as it stands; a new one begins from the least price of before."""
        key = (stored.id, stored.revision)
        with self._lock:
            picker = self._kept.pop(key, None) or self._begun(stored)
            self._kept[key] = picker
            while len(self._kept) > PICKERS_KEPT:
                self._kept.popitem(last=False)
        return picker

    def _begun(self, stored: Stored) -> Picker:
        last = self.projects.last_pick(stored.id, "least_price")
        return Picker(stored.project, self.catalogues.of(stored.project), last[1].standing() if last else None)
