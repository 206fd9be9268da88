"""Configurations that may be the best, around a centre, as they are bounded one by one."""

from __future__ import annotations

from dataclasses import dataclass

from .figures import Counts
from .linear import Floats
from .packing import Packing
from .relaxation import Relaxation
from .supply import BoxType


@dataclass(frozen=True, eq=False)
class Candidate:
    """A configuration whose links were looked at, around a hub (None: any may hang off any)."""

    boxes: tuple[BoxType, ...]
    hub: int | None
    packing: Packing | None = None
    """Its assignment, once that was relaxed to a linear program."""

    @property
    def key(self) -> tuple[int | None, ...]:
        """The same for equal configurations around equal hubs."""
        return self.hub if self.hub is None else id(self.boxes[self.hub]), *sorted(map(id, self.boxes))


@dataclass(frozen=True, eq=False)
class Batch:
    """Configurations of a relaxation, so many of each box a row, whose links around a hub (None: any may hang off any)
    are still to be looked at, the least bound first."""

    relaxation: Relaxation
    hub: BoxType | None
    counts: Counts
    bounds: Floats
