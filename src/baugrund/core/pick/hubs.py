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
    hung, slots, ports = _hung(group, candidates)
    rows = []
    for own in to_root:
        taken = own is not None and own.lower_in_slot
        fits = slots + taken <= boxes[hub].slot_count
        for rates in np.unique(ports[fits], axis=0):
            row = group.hub_row(boxes[hub], tuple(sorted(int(rate) for rate in rates if rate)), own)
            if own:
                row = row + group.root_row(boxes[0], own)
            rows.append(hung[fits & (ports == rates).all(axis=1)] + row)
    if not rows:
        return None
    found = group.least_price(np.concatenate(rows), len(boxes))
    possible = found[found >= 0]
    return int(possible.min()) if len(possible) else None


def _hung(group: LinkClass, candidates: Sequence[Sequence[tuple[Way, Rows]]]) -> tuple[Rows, Rows, Rows]:
    """Every combination of ways to hang boxes off a hub: the sum of what they give, the slots and the ports that they
    take at the hub (the rate of each on a port, 0 in a slot; sorted)."""
    width = len(group.roots[0].row)
    sums = np.zeros((1, width), dtype=np.int64)
    slots = np.zeros(1, dtype=np.int64)
    ports = np.zeros((1, 0), dtype=np.int64)
    for ways in candidates:
        rows = np.array([row for _, row in ways])
        in_slot = np.array([way.upper_in_slot for way, _ in ways], dtype=np.int64)
        rate = np.array([0 if way.upper_in_slot else way.rate_mbit for way, _ in ways], dtype=np.int64)
        many = len(sums)
        sums = (sums[:, None, :] + rows[None, :, :]).reshape(-1, width)
        slots = (slots[:, None] + in_slot[None, :]).reshape(-1)
        ports = np.hstack([np.repeat(ports, len(ways), axis=0), np.tile(rate, many)[:, None]])
    return sums, slots, np.sort(ports, axis=1)
