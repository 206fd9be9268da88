"""Power over Ethernet classes.

References
----------
.. [1] IEEE Std 802.3-2022, clause 33 (classes 0 to 4, types 1 and 2) and clause 145 (types 3 and 4).
"""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class PoeClass:
    """One row of the class table [1]_: watts, pairs in use, volts, and loop resistance in ohms."""

    number: int
    poe_type: int
    port_w: float
    """Power that the port reserves [W]."""
    device_w: float
    """Most power that the device may draw [W]."""
    pairs: int
    device_min_v: float
    worst_port_v: float
    worst_loop_ohm: float
    pair_set_max_a: float
    """Most current per pair set [A]."""


POE_CLASSES: dict[int, PoeClass] = {
    row.number: row
    for row in (
        PoeClass(0, 1, 15.4, 12.95, 2, 37.0, 44.0, 20.0, 0.35),
        PoeClass(1, 1, 4.0, 3.84, 2, 37.0, 44.0, 20.0, 0.35),
        PoeClass(2, 1, 7.0, 6.49, 2, 37.0, 44.0, 20.0, 0.35),
        PoeClass(3, 1, 15.4, 12.95, 2, 37.0, 44.0, 20.0, 0.35),
        PoeClass(4, 2, 30.0, 25.5, 2, 42.5, 50.0, 12.5, 0.60),
        PoeClass(5, 3, 45.0, 40.0, 4, 44.3, 50.0, 6.25, 0.60),
        PoeClass(6, 3, 60.0, 51.0, 4, 42.5, 50.0, 6.25, 0.60),
        PoeClass(7, 4, 75.0, 62.0, 4, 42.9, 52.0, 6.25, 0.96),
        PoeClass(8, 4, 90.0, 71.3, 4, 41.1, 52.0, 6.25, 0.96),
    )
}

COMMON_NAMES = {1: "af", 2: "at", 3: "bt", 4: "bt"}
"""What people call the types: af = type 1, at = type 2, bt = types 3 and 4."""


HIGHEST_CLASS = 8
NEWER_RESERVE_W = {0: 14.0, 2: 6.7, 3: 14.0}
"""Power that a port of type 3 or 4 reserves for a device of these classes [W]; for others as in the table [1]_."""
NEWER_FROM = 5
"""A port that gives this class or more is of type 3 or 4 [1]_."""


def reserved_w(poe_class: int, port_class: int | None = None) -> float:
    """Power that a port reserves for a device of ``poe_class`` [W] [1]_.

    ``port_class``: the highest class that the port gives; None: not known, so that of the older types stands, which is
    more.
    """
    if port_class is not None and port_class >= NEWER_FROM and poe_class in NEWER_RESERVE_W:
        return NEWER_RESERVE_W[poe_class]
    return POE_CLASSES[poe_class].port_w


def rank(poe_class: int | None) -> int:
    """Number by which class caps compare: no power 0, class 0 counts as 3, else 1 to 8 [1]_."""
    if poe_class is None:
        return 0
    return 3 if poe_class == 0 else poe_class


def smallest_class_for(draw_w: float) -> int | None:
    """Lowest class whose device limit covers ``draw_w`` [W]; None when even class 8 does not."""
    for number in range(1, 9):
        if draw_w <= POE_CLASSES[number].device_w + 1e-9:
            return number
    return None
