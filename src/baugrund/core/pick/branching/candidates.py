"""Configurations that may be the best, around a centre, as they are bounded one by one."""

from __future__ import annotations

from dataclasses import dataclass

from ..assignment.exact import Assignment
from ..bounds.linear import Floats
from ..bounds.relaxation import Relaxation
from ..model.arrays import Counts
from ..model.supply import BoxType


@dataclass(frozen=True, eq=False)
class Candidate:
    """A configuration whose links were looked at, around a centre (None: any may hang off any)."""

    boxes: tuple[BoxType, ...]
    centre: int | None
    assignment: Assignment | None = None
    """Its assignment, once that was relaxed to a linear program."""

    @property
    def key(self) -> tuple[int | None, ...]:
        """The same for equal configurations around equal centres."""
        return self.centre if self.centre is None else id(self.boxes[self.centre]), *sorted(map(id, self.boxes))


@dataclass(frozen=True, eq=False)
class Batch:
    """Configurations of a relaxation, so many of each box a row, whose links around a centre (None: any may hang off
    any) are still to be looked at, the least bound first."""

    relaxation: Relaxation
    centre: BoxType | None
    counts: Counts
    bounds: Floats
