"""The links of a star, for one set of boxes: which hub, made in which ways, at what price.

Sharper than the sums over a set: fast ends at the hub are few, its links take ports from its drops, and every link
that is fast or in a slot has its price.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from .bounds import LinkClass, Rows, own_traffic_kbit
from .links import Way
from .supply import BoxType

WAYS_MOST = 20_000
"""Combinations of ways looked at; a set with more is left to the packing."""


def least_star_price(group: LinkClass, boxes: Sequence[BoxType], hub: int) -> int | None:
    """Least price of a set (root first) over every way of the links around its hub; None when no star works.

    A hub that is not the root hangs off the root, which then has this one link.
    """
    if len(boxes) == 1:
        alone = int(group.least_price(group.root_row(boxes[0])[None, :], 1)[0])
        return alone if alone >= 0 else None
    problem = group.problem
    leaves = [box for place, box in enumerate(boxes) if place not in (0, hub)]
    candidates = [group.leaf_rows(boxes[hub], box) for box in leaves]
    to_root: list[Way | None] = [None]
    if hub:
        crossing = problem.traffic_kbit - own_traffic_kbit(problem, boxes[0])
        to_root = [way for way, _ in group.leaf_rows(boxes[0], boxes[hub]) if way.carries_kbit >= crossing]
    combinations = math.prod(len(ways) for ways in candidates)
    if not combinations or not to_root:
        return None
    if combinations * len(to_root) > WAYS_MOST:
        return 0
    speeds = sorted({way.rate_mbit for ways in candidates for way, _ in ways if not way.upper_in_slot})
    hung, slots, ports = _hung(group, candidates, speeds)
    rows = []
    for own in to_root:
        taken = own is not None and own.lower_in_slot
        fits = slots + taken <= boxes[hub].slot_count
        for code in set(ports[fits].tolist()):
            row = group.hub_row(boxes[hub], _rates(code, speeds, len(candidates) + 1), own)
            if own:
                row = row + group.root_row(boxes[0], own)
            rows.append(hung[fits & (ports == code)] + row)
    if not rows:
        return None
    found = group.least_price(np.concatenate(rows), len(boxes))
    possible = found[found >= 0]
    return int(possible.min()) if len(possible) else None


def _hung(
    group: LinkClass, candidates: Sequence[Sequence[tuple[Way, Rows]]], speeds: Sequence[int]
) -> tuple[Rows, Rows, Rows]:
    """Every combination of ways to hang boxes off a hub: the sum of what they give, the slots that they take at the
    hub, and the ports: how many of each speed, as one number (see ``_rates``)."""
    width, base = len(group.roots[0].row), len(candidates) + 1
    sums = np.zeros((1, width), dtype=np.int64)
    slots, ports = np.zeros((2, 1), dtype=np.int64)
    for ways in candidates:
        rows = np.array([row for _, row in ways])
        in_slot = np.array([way.upper_in_slot for way, _ in ways], dtype=np.int64)
        on_port = [0 if way.upper_in_slot else base ** speeds.index(way.rate_mbit) for way, _ in ways]
        sums = (sums[:, None, :] + rows[None, :, :]).reshape(-1, width)
        slots = (slots[:, None] + in_slot[None, :]).reshape(-1)
        ports = (ports[:, None] + np.array(on_port, dtype=np.int64)[None, :]).reshape(-1)
    return sums, slots, ports


def _rates(code: int, speeds: Sequence[int], base: int) -> tuple[int, ...]:
    """The rates of links on ports, the slowest first, from the number whose digits count them by speed."""
    counts = [code // base**place % base for place in range(len(speeds))]
    return tuple(speed for speed, count in zip(speeds, counts, strict=True) for _ in range(count))
