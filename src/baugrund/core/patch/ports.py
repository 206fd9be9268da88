"""Ports of a box as they are counted: from 1 through its groups, in the order of its line."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from typing import NamedTuple

from ..facts.lines.router import Router
from ..facts.lines.switch import Switch
from ..standards.poe_classes import rank

ROW_FROM = 9
"""Ports of a group from which they stand in two rows, odd numbers over even ones, *default*."""


class Port(NamedTuple):
    """One port: its number, where it stands (columns from the left, row 0 over row 1), what it gives."""

    number: int
    group: int
    column: int
    row: int
    speed_mbit: int
    poe_class: int | None

    @property
    def kind(self) -> tuple[int, int]:
        """What the pick tells groups of a box apart by: speed [Mbit/s] and rank of the class."""
        return self.speed_mbit, rank(self.poe_class)


@lru_cache(maxsize=512)
def ports_of(model: Router | Switch) -> tuple[Port, ...]:
    """Every port of a box that a cord of a drop or a link can take."""
    found: list[Port] = []
    column = 0
    for place, group in enumerate(model.ports):
        rows = 2 if group.count >= ROW_FROM else 1
        for one in range(group.count):
            found.append(
                Port(len(found) + 1, place, column + one // rows, one % rows, group.speed_mbit, group.poe_class)
            )
        column += -(-group.count // rows)
    return tuple(found)


@lru_cache(maxsize=512)
def numbers_of(model: Router | Switch) -> Mapping[tuple[int, int], tuple[int, ...]]:
    """Numbers of a box's ports by speed and rank of their class."""
    found: dict[tuple[int, int], list[int]] = {}
    for port in ports_of(model):
        found.setdefault(port.kind, []).append(port.number)
    return {kind: tuple(numbers) for kind, numbers in found.items()}
