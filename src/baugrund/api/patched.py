"""The patching of a project, kept for those who ask again while nothing has changed."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable
from threading import Lock

from baugrund.core.patch.told import PatchTold
from baugrund.store.states import Stored

KEPT = 8


class Patched:
    """The last few patchings, by project, revision and pick; whole values only."""

    def __init__(self) -> None:
        self._kept: OrderedDict[tuple[int, int, int, bool], PatchTold] = OrderedDict()
        self._lock = Lock()

    def of(self, stored: Stored, pick: int, better: bool, make: Callable[[], PatchTold]) -> PatchTold:
        """The patching of a state; ``pick``: the revision of the pick that it stands on; ``make`` computes it."""
        key = (stored.id, stored.revision, pick, better)
        with self._lock:
            if key in self._kept:
                self._kept.move_to_end(key)
                return self._kept[key]
        told = make()
        with self._lock:
            self._kept[key] = told
            while len(self._kept) > KEPT:
                self._kept.popitem(last=False)
        return told
