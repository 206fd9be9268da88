"""What configurations cost at least by the sums of what each box gives and takes, and stars over every way to make
their links: compiled, for `link_class`, `covers` and `link_bounds`."""

from __future__ import annotations

import numpy as np

from ...compiled import compiled, inlined
from ..model.arrays import Counts, Places
from .box_rows import CARRIES, ENDS, FREE, POWER, PRICE, SLOTS, TAKEN, Rows
from .link_bounds import LEFT, Ends
from .link_class import Limits


@inlined
def _price(sums: Rows, limits: Limits) -> int:
    """Least price of a configuration whose boxes come to these sums; −1: no assignment can exist."""
    slots = min(sums[SLOTS], sums[ENDS]) if limits.slots_are_asked else sums[SLOTS]
    spare, lacking = slots - limits.in_slots, max(limits.ends - sums[FREE], 0)
    possible = spare >= 0 and lacking <= min(spare, limits.may_move) and sums[CARRIES] >= limits.traffic_kbit
    held = TAKEN + len(limits.capacities)
    cost, injectors = 0, 0
    for cure in range(len(limits.cures_minor)):
        worst = 0
        for up_set in range(len(limits.asked)):
            if limits.cured_by[up_set] == cure:
                worst = max(worst, limits.asked[up_set] - sums[held + up_set])
        if limits.cures_minor[cure] < 0:
            possible &= worst == 0
        elif worst > injectors:
            cost += (worst - injectors) * limits.cures_minor[cure]
            injectors = worst
    over = limits.power_mw - sums[POWER]
    if over > 0:
        by_watts = np.searchsorted(limits.leaving_mw, over) + 1
        possible &= limits.injector_minor >= 0
        cost, injectors = max(cost, by_watts * limits.injector_minor), max(injectors, by_watts)
    for one in range(len(limits.capacities)):
        possible &= sums[TAKEN + one] + injectors * limits.injector_takes[one] <= limits.capacities[one]
    return sums[PRICE] + cost + limits.least_minor + lacking * limits.move_minor if possible else -1


@compiled
def least_prices(sets: Rows, limits: Limits) -> Rows:
    """The same of sets, a row each."""
    prices = np.empty(len(sets), dtype=np.int64)
    for one in range(len(sets)):
        prices[one] = _price(sets[one], limits)
    return prices


@compiled
def set_prices(begun: Rows, starts: Places, leaves: Rows, came: Places, limits: Limits) -> Rows:
    """The same of configurations that begin with such a start, a row each, and have these leaves."""
    prices, sums = np.empty(len(starts), dtype=np.int64), np.empty(begun.shape[1], dtype=np.int64)
    for one in range(len(starts)):
        sums[:] = begun[starts[one]]
        for leaf in came[one]:
            for column in range(len(sums)):
                sums[column] += leaves[leaf, column]
        prices[one] = _price(sums, limits)
    return prices


@compiled
def _with_own_link(sums: Rows, slots: int, on_ports: Rows, root: int, ends: Ends, limits: Limits) -> int:
    """Least price of a star whose other boxes come to these sums, and take so many slots of the centre and ports of
    each speed, over every way of the centre's own link to a root."""
    least, left, taken, held = -1, ends.ports.copy(), 0, TAKEN + len(limits.capacities)
    for speed in range(len(on_ports) - 1, -1, -1):
        taken += on_ports[speed]
        if on_ports[speed]:
            for up_set in range(len(left)):
                left[up_set] = min(left[up_set], ends.faster[speed, up_set] - taken)
    for own in range(len(ends.own_slots)):
        if ends.own_able[own, root] and slots <= ends.own_slots[own]:
            total = sums + ends.own_roots[own, root] + ends.own_centre[own]
            for up_set in range(len(left)):
                total[held + up_set] += min(left[up_set] - ends.own_centre[own, held + up_set], 0)
            price = _price(total, limits)
            if price >= 0 and (least < 0 or price < least):
                least = price
    return least


@compiled
def _over_all_ways(switches: Places, root: int, ends: Ends, limits: Limits) -> int:
    """Least price of a star of a root, a centre and switches that hang off that, equal ones together."""
    hung, width = len(switches), ends.rows.shape[1]
    # of the star as it stands with so many switches
    sums, slots = np.zeros((hung + 1, width), dtype=np.int64), np.zeros(hung + 1, dtype=np.int64)
    ways, on_ports = np.zeros(hung + 1, np.intp), np.zeros((hung + 1, len(ends.faster)), dtype=np.int64)
    depth, least = 0, -1
    if hung:
        ways[0] = ends.first[switches[0]] - 1
    while depth >= 0:
        if depth == hung:
            price = _with_own_link(sums[depth], slots[depth], on_ports[depth], root, ends, limits)
            if price >= 0 and (least < 0 or price < least):
                least = price
            depth -= 1
            continue
        switch = switches[depth]
        ways[depth] += 1
        way = ways[depth]
        if way > ends.last[switch]:
            depth -= 1
            continue
        in_slot = ends.in_slot[way]
        price = sums[depth, PRICE] + ends.rows[way, PRICE]
        if slots[depth] + in_slot > ends.slots or (0 <= least <= price):
            continue
        depth += 1
        for column in range(width):
            sums[depth, column] = sums[depth - 1, column] + ends.rows[way, column]
        slots[depth], on_ports[depth] = slots[depth - 1] + in_slot, on_ports[depth - 1]
        if not in_slot:
            on_ports[depth, ends.speed[way]] += 1
        if depth < hung:
            # of equal boxes, which of them hangs in which way is all the same
            ways[depth] = (way if switches[depth] == switch else ends.first[switches[depth]]) - 1
    return least


@compiled
def centre_prices(
    counts: Counts, centre: int, roots: int, boxes: int, ways_most: int, ends: Ends, limits: Limits
) -> Rows:  # fmt: skip
    """Least price of stars of so many boxes around the one at a place, over every way to make their links; −1: none can
    be; `LEFT`: there are more than ``ways_most``.

    ``counts`` of each box, a row a star, so many ``roots`` first.
    """
    prices, switches = np.empty(len(counts), dtype=np.int64), np.empty(boxes - 1 - (centre >= roots), np.intp)
    for one in range(len(counts)):
        root, count, ways = 0, 0, 1.0
        while counts[one, root] <= 0:
            root += 1
        for place in range(roots, counts.shape[1]):
            for _ in range(counts[one, place] - (place == centre)):
                switches[count] = place - roots
                ways *= ends.last[place - roots] - ends.first[place - roots] + 1
                count += 1
        prices[one] = LEFT if ways > ways_most else _over_all_ways(switches, root, ends, limits)
    return prices
