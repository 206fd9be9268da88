"""What boxes can serve at most, each on its own, when every drop has a worth: compiled, for `worths`.

Ports of a box are told apart by speed and class; sets of its port groups have so many ports together.  Were watts and
traffic without limit, drops would be served greedily, the worthiest first: which drops go on ports is a matroid.  Their
limits have a price each, the best that is soon found; the most served is no more than what that tells.

References
----------
.. [1] Schrijver: Combinatorial Optimization (2003), 39.4a and 40.1 (transversal matroids; the greedy algorithm).
.. [2] Geoffrion: Lagrangean relaxation for integer programming (1974).
"""

from __future__ import annotations

import math

import numpy as np

from ..compiled import compiled
from .figures import Flags, Integers
from .linear import Floats

HALVINGS, CUTS = 14, 12
"""Steps to the price of watts, and to that of traffic."""
GOLDEN = (math.sqrt(5) - 1) / 2


@compiled
def _greedily(
    worth: Floats, watts: Floats, traffic: Floats, counts: Integers, masks: Integers, room: Integers, left: Integers,
    order: Integers, per_watt: float, per_traffic: float,
) -> tuple[float, float, float]:  # fmt: skip
    """The most worth of all that is served when watts and traffic cost so much each; what it draws and sends.

    ``masks``: the port groups that may serve each; ``room``: the ports of every set of groups; ``order``: from before.
    """
    for i in range(len(order)):
        one, j = order[i], i
        value = worth[one] - per_watt * watts[one] - per_traffic * traffic[one]
        while j > 0:
            other = order[j - 1]
            if worth[other] - per_watt * watts[other] - per_traffic * traffic[other] >= value:
                break
            order[j], j = other, j - 1
        order[j] = one
    left[:] = room
    total, drawn, sent = 0.0, 0.0, 0.0
    for one in order:
        value = worth[one] - per_watt * watts[one] - per_traffic * traffic[one]
        if value <= 0.0:
            break
        mask, some = masks[one], counts[one]
        if mask == 0:
            continue
        for groups in range(len(room)):
            if groups & mask == mask:
                some = min(some, left[groups])
        if some > 0:
            for groups in range(len(room)):
                if groups & mask == mask:
                    left[groups] -= some
            total += some * value
            drawn += some * watts[one]
            sent += some * traffic[one]
    return total, drawn, sent


@compiled
def _within_watts(
    worth: Floats, watts: Floats, traffic: Floats, counts: Integers, masks: Integers, room: Integers, left: Integers,
    order: Integers, watts_most: float, per_traffic: float,
) -> tuple[float, float]:  # fmt: skip
    """The same within so many watts, and what is sent then."""
    least, drawn, sent = _greedily(worth, watts, traffic, counts, masks, room, left, order, 0.0, per_traffic)
    if drawn > watts_most:
        low, high = 0.0, _dearest(worth, watts)
        for _ in range(HALVINGS):
            middle = (low + high) / 2
            total, drawn, other = _greedily(
                worth, watts, traffic, counts, masks, room, left, order, middle, per_traffic
            )
            total += middle * watts_most
            if total < least:
                least, sent = total, other
            low, high = (middle, high) if drawn > watts_most else (low, middle)
    return least, sent


@compiled
def _dearest(worth: Floats, amounts: Floats) -> float:
    """The price of a unit at which nothing that has any is worth serving."""
    found = 0.0
    for one in range(len(worth)):
        if amounts[one] > 0:
            found = max(found, worth[one] / amounts[one])
    return found


@compiled
def _within_both(
    worth: Floats, watts: Floats, traffic: Floats, counts: Integers, masks: Integers, room: Integers, left: Integers,
    order: Integers, watts_most: float, traffic_most: float,
) -> float:  # fmt: skip
    """The same within so many watts and so much traffic: golden section over the price of traffic."""
    least, sent = _within_watts(worth, watts, traffic, counts, masks, room, left, order, watts_most, 0.0)
    if sent > traffic_most:
        low, high = 0.0, _dearest(worth, traffic)
        price, known, at_known, is_low = high - GOLDEN * (high - low), 0.0, np.inf, True
        for _ in range(CUTS):
            total, _ = _within_watts(worth, watts, traffic, counts, masks, room, left, order, watts_most, price)
            total += price * traffic_most
            least = min(least, total)
            if at_known == np.inf:
                # of two prices inside, one is known from here on
                known, at_known, price, is_low = price, total, low + GOLDEN * (high - low), False
                continue
            below, at_below = (price, total) if is_low else (known, at_known)
            above, at_above = (known, at_known) if is_low else (price, total)
            if at_below < at_above:
                high, known, at_known, is_low = above, below, at_below, True
                price = high - GOLDEN * (high - low)
            else:
                low, known, at_known, is_low = below, above, at_above, False
                price = low + GOLDEN * (high - low)
    return least


@compiled
def most_served(
    ports: Integers,
    speeds: Integers,
    ranks: Integers,
    ports_most: Integers,
    watts_most: Floats,
    traffic_most: Floats,
    frames: Flags,
    link_mbit: Integers,
    worth: Floats,
    watts: Floats,
    traffic: Floats,
    counts: Integers,
    asked_mbit: Integers,
    asked_rank: Integers,
    asks_frames: Flags,
) -> Floats:
    """The most worth that each box (rows) can serve.

    Of each box: ports of every group, their speeds and class ranks; how many may be taken, watts and traffic at most;
    whether it passes large frames; and the speed of its own link, if that takes one of its ports (0: none).  Of what
    is served: its worth, watts and traffic, how many there are, and what each asks of its port.
    """
    (boxes, groups), things = ports.shape, len(worth)
    found = np.zeros(boxes)
    masks, order = np.zeros(things, dtype=np.int32), np.arange(things).astype(np.int32)
    room, left = np.zeros(1 << groups, dtype=np.int32), np.zeros(1 << groups, dtype=np.int32)
    for box in range(boxes):
        able = (speeds[box] >= link_mbit[box]) & (ports[box] > 0)
        for one in range(things):
            masks[one] = 0
            for group in range(groups):
                serves = speeds[box, group] >= asked_mbit[one] and ranks[box, group] >= asked_rank[one]
                if serves and (frames[box] or not asks_frames[one]):
                    masks[one] |= 1 << group
        # a link of its own takes a port of a group that is fast enough: whichever leaves most
        for taken in range(groups if link_mbit[box] else 1):
            has_link = 1 if link_mbit[box] else 0
            if has_link and not able[taken]:
                continue
            for some in range(1 << groups):
                room[some] = -has_link * (some >> taken & 1)
                for group in range(groups):
                    room[some] += ports[box, group] * (some >> group & 1)
            room[-1] = min(room[-1], ports_most[box] - has_link)
            most = _within_both(
                worth, watts, traffic, counts, masks, room, left, order, watts_most[box], traffic_most[box]
            )
            found[box] = max(found[box], most)
    return found
