"""What was computed of a state, kept for those who ask again while nothing has changed."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable
from threading import Lock
from typing import Generic, TypeVar

from baugrund.store.states import Stored

Value = TypeVar("Value")
KEPT = 8


class KeptOf(Generic[Value]):
    """The last few values, by project, revision, the pick that they stand on, and what was asked; whole ones only."""

    def __init__(self, most: int = KEPT, *, one_each: bool = False) -> None:
        """``most``: how many values are kept; ``one_each``: of each project only the last one, for they are large."""
        self._most, self._one_each = most, one_each
        self._kept: OrderedDict[tuple[int, int, int, object], Value] = OrderedDict()
        self._lock = Lock()

    def of(self, stored: Stored, pick: int, make: Callable[[], Value], asked: object = None) -> Value:
        """The value of a state; ``pick``: the revision of its pick; ``make`` computes it where it is not known."""
        key = (stored.id, stored.revision, pick, asked)
        with self._lock:
            if key in self._kept:
                self._kept.move_to_end(key)
                return self._kept[key]
        value = make()
        with self._lock:
            if self._one_each:
                for old in [one for one in self._kept if one[0] == stored.id]:
                    del self._kept[old]
            self._kept[key] = value
            while len(self._kept) > self._most:
                self._kept.popitem(last=False)
        return value

    def latest(self, project_id: int) -> Value | None:
        """The value of a project that was asked for last; None: none is kept."""
        with self._lock:
            return next((self._kept[key] for key in reversed(self._kept) if key[0] == project_id), None)
