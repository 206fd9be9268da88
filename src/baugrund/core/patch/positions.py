"""Positions of patch panels: what is patched stays, the rest goes beside what else comes from its room."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from scipy.optimize import linear_sum_assignment

Position = tuple[str, int]
"""A panel by its key, and a position counted from 1."""


@dataclass(frozen=True)
class Cable:
    """What ends on a panel: its key, the room that it comes from (None: a feed or a link) and where it is patched."""

    key: str
    room_id: int | None
    now: Position | None = None


def positions_for(cables: Sequence[Cable], panels: Sequence[tuple[str, int]]) -> Mapping[str, Position]:
    """A position for every cable, as far as they reach.

    ``panels``: each by key and count, from the first on.  ``cables``: in the order of rooms, feeds and links last.  No
    cable leaves a position that is there, so nothing moves that need not.  Others take the free positions with the
    least sum of distances from where they would stand: next to the highest of their room, else in the order given from
    the first one free; feeds and links from the end (an assignment, exact).
    """
    every = [(panel, number) for panel, count in panels for number in range(1, count + 1)]
    at = {position: place for place, position in enumerate(every)}
    found = {cable.key: cable.now for cable in cables if cable.now in at}
    taken = set(found.values())
    free = [place for place, position in enumerate(every) if position not in taken]
    coming = [cable for cable in cables if cable.key not in found][: len(free)]
    if not coming:
        return {key: position for key, position in found.items() if position}
    last_of: dict[int | None, int] = {}
    for cable in cables:
        if cable.now in at and cable.key in found:
            last_of[cable.room_id] = max(last_of.get(cable.room_id, -1), at[cable.now])
    wanted = []
    others = [place for place in free]
    for cable in coming:
        if cable.room_id is None:
            wanted.append(others.pop())
        elif cable.room_id in last_of:
            last_of[cable.room_id] += 1
            wanted.append(last_of[cable.room_id])
        else:
            wanted.append(others.pop(0))
    distance = np.abs(np.array(wanted)[:, None] - np.array(free)[None, :])
    rows, columns = linear_sum_assignment(distance)
    for row, column in zip(rows.tolist(), columns.tolist(), strict=True):
        found[coming[row].key] = every[free[column]]
    return {key: position for key, position in found.items() if position}
