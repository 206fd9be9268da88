"""Links of a configuration where chains are allowed: any box may hang off any, as long as it is a tree."""

from __future__ import annotations

import numpy as np

from .program import Column, Pair, Seats, Terms, added, negative


def add_tree(seats: Seats) -> dict[Pair, Column]:
    """Columns and rows for every tree rooted at the first box: links, flows up, large frames on every hop.

    Returns the columns of the flows [Mbit/s] by pair.
    """
    places = range(len(seats.boxes))
    pairs = [(upper, lower) for lower in places[1:] for upper in places if upper != lower]
    for pair in pairs:
        seats.link(*pair)
    carried = seats.carried
    for lower in places[1:]:
        above = added(*(dict.fromkeys(carried[pair], 1.0) for pair in pairs if pair[1] == lower))
        seats.further.append((above, 1.0, 1.0))
    _add_depths(seats, carried)
    total = seats.problem.traffic_kbit / 1000
    flows = {pair: seats.column(total) for pair in pairs}
    seats.divisible |= set(flows.values())
    for pair, flow in flows.items():
        seats.further.append((added(carried[pair], {flow: -1.0}), 0.0, np.inf))
    for place in places[1:]:
        _conserve(seats, flows, place, seats.traffic[place], 0)
    _add_large_frames(seats, carried)
    return flows


def _add_depths(seats: Seats, carried: dict[Pair, Terms]) -> None:
    """A box is deeper than the one that it hangs off: no circles."""
    count = len(seats.boxes)
    depths = [seats.column(float(count - 1)) for _ in seats.boxes]
    seats.divisible |= set(depths)
    for (upper, lower), ways in carried.items():
        linked = dict.fromkeys(ways, -float(count))
        seats.further.append((added({depths[lower]: 1.0, depths[upper]: -1.0}, linked), 1.0 - count, np.inf))


def _conserve(seats: Seats, flows: dict[Pair, Column], place: int, here: Terms, given: int) -> None:
    """What leaves a box upwards is what sits on it and what comes from below."""
    above = {flow: 1.0 for (_, lower), flow in flows.items() if lower == place}
    below = {flow: -1.0 for (upper, _), flow in flows.items() if upper == place}
    seats.further.append((added(above, below, negative(here)), given, given))


def _add_large_frames(seats: Seats, carried: dict[Pair, Terms]) -> None:
    """A link between two that ask for large frames must join two boxes that pass them."""
    total = float(seats.asking_most)
    if total < 2:
        return
    below = {pair: seats.column(total) for pair in carried}
    for (upper, lower), column in below.items():
        linked = dict.fromkeys(carried[upper, lower], -total)
        seats.further.append((added({column: 1.0}, linked), -np.inf, 0.0))
        if not (seats.boxes[upper].model.large_frames and seats.boxes[lower].model.large_frames):
            everything = seats.column(1.0)
            seats.further.append(({column: 1.0, everything: -total}, 0.0, 0.0))
    for place in range(1, len(seats.boxes)):
        _conserve(seats, below, place, *seats.asking_at(place))
