"""Configurations of boxes as they grow, one box at a time, for `listing`: depth first, in whole numbers, compiled.

What a configuration that is begun still lacks of each cover, and what that costs at least, stands in a table; where
a cover says that a configuration cannot be made whole under the cutoff, it is left.  Covers that told so lately are
asked first."""

from __future__ import annotations

import math

import numpy as np

from ...compiled import compiled, inlined
from ..bounds.linear import Floats
from ..model.arrays import FAR, NEVER, Counts, Integers, Places

FIRST_ROOM = 64
"""Configurations that there is room for at first."""


@compiled
def dearest(constants: Floats, mends: Floats, asked: Floats, begun: Floats, pieces: Floats, times: int) -> float:
    """The most that any figure of some covers, or so many pieces, may come to, but for what cannot be."""
    found = 0.0
    for cover in range(len(constants)):
        found = max(found, abs(constants[cover]))
        if mends[cover] < NEVER / 2:
            found = max(found, mends[cover] * asked[cover])
        for start in range(begun.shape[1]):
            if abs(begun[cover, start]) < NEVER / 2:
                found = max(found, abs(begun[cover, start]))
        for piece in range(pieces.shape[1]):
            if abs(pieces[cover, piece]) * times < NEVER / 2:
                found = max(found, abs(pieces[cover, piece]) * times)
    return found


@compiled
def in_whole(
    costs: Floats, gives: Floats, columns: Places, covers: Places, scale: Floats, unit: float
) -> tuple[Integers, Integers]:  # fmt: skip
    """Costs in units, and what is given in steps of so many covers, a row for each of these columns: rounded so that
    they stay bounds."""
    whole_costs = np.empty((len(columns), len(covers)), dtype=np.int32)
    whole_gives = np.empty((len(columns), len(covers)), dtype=np.int32)
    for row in range(len(columns)):
        for place in range(len(covers)):
            cost, gave = costs[covers[place], columns[row]] / unit, gives[covers[place], columns[row]]
            whole_costs[row, place] = math.floor(min(max(cost, -FAR), FAR))
            whole_gives[row, place] = math.ceil(gave * scale[place] - 1e-6)
    return whole_costs, whole_gives


@compiled
def counted(begun: Counts, starts: Places, pieces: Integers, places: Places) -> Counts:
    """How many of each box configurations have: what their start begins with, and a box at its place for each of
    their pieces."""
    counts = begun[starts]
    for one in range(len(starts)):
        for piece in pieces[one]:
            if piece < len(places):
                counts[one, places[piece]] += 1
    return counts


@compiled
def least_of_lacking(costs: Integers, gives: Integers, mends: Integers, lacking: int, more: int) -> Integers:
    """Least cost of what is lacking: by the number of boxes to come, the first that may still come, the cover, and how
    much of it is lacking.

    ``costs`` and ``gives`` of each piece (rows) by cover; ``mends``: what a unit that nothing gives costs.
    """
    pieces, covers = costs.shape
    table = np.empty((more + 1, pieces + 1, covers, lacking + 1), dtype=np.int32)
    for cover in range(covers):
        for lack in range(lacking + 1):
            table[0, :, cover, lack] = min(np.int64(mends[cover]) * lack, FAR)
    for number in range(1, more + 1):
        table[number, pieces] = FAR
        for piece in range(pieces - 1, -1, -1):
            for cover in range(covers):
                cost, gave = costs[piece, cover], min(gives[piece, cover], lacking + 1)
                fewer, without = table[number - 1, piece, cover], table[number, piece + 1, cover]
                least, whole = table[number, piece, cover], np.int32(cost + fewer[0])
                for lack in range(gave):
                    least[lack] = min(whole, without[lack])
                # three rows that run along one another: several figures are looked at in one step
                fewer, without, least = fewer[: lacking + 1 - gave], without[gave:], least[gave:]
                for left in range(len(fewer)):
                    least[left] = min(np.int32(cost + fewer[left]), without[left])
    return table


@inlined
def _bounded(
    cost: Integers, lacks: Integers, depth: int, costs: Integers, gives: Integers, piece: int, table: Integers,
    number: int, first: int, most: int, order: Places,
) -> tuple[int, int]:  # fmt: skip
    """What the set of a depth costs at least when a piece comes to it, and then so many more, from the first on: by
    all covers, and −1; or by the first cover that finds it over ``most``, and which that is."""
    bound = -FAR
    for rank in range(len(order)):
        cover = order[rank]
        lack = max(lacks[depth, cover] - gives[piece, cover], 0)
        bound = max(bound, cost[depth, cover] + costs[piece, cover] + table[number, first, cover, lack])
        if bound > most:
            order[rank], order[rank // 2] = order[rank // 2], cover
            return bound, cover
    return bound, -1


@compiled
def grown(
    table: Integers,
    costs: Integers,
    gives: Integers,
    places: Places,
    in_slots: int,
    start_costs: Integers,
    start_lacks: Integers,
    slots: Places,
    rooms: Places,
    to_come: Places,
    listed_to: int,
    most: int,
    candidates: int,
    sets_most: int,
    order: Places,
) -> tuple[Places, Integers, Integers, int, int]:
    """All configurations that cost over ``listed_to`` and at most ``most``.

    Of each start (rows): what it costs and lacks by cover, the ``slots`` that the first ``in_slots`` pieces may end in,
    the ``rooms``: how many of each box may come to it (at the ``places`` of the pieces), and how many are ``to_come``.
    ``order``: which cover is asked first; it is carried on.

    Returns of each set (rows) its start, its pieces in order (then the number of pieces), and what it costs at
    least; the least that one left out costs; and how many were begun: where these are more than ``candidates``, or
    the configurations more than ``sets_most``, they are not all."""
    (pieces, covers), longest = costs.shape, table.shape[0]
    starts, bounds = np.empty(FIRST_ROOM, dtype=np.intp), np.empty(FIRST_ROOM, dtype=np.int32)
    found = np.empty((FIRST_ROOM, longest - 1), dtype=np.int32)
    count, others, looked_at = 0, FAR, 0
    # of the set as it stands with so many pieces
    cost, lacks = np.empty((longest, covers), dtype=np.int32), np.empty((longest, covers), dtype=np.int32)
    came, following, left_slots = np.full(longest, pieces), np.zeros(longest, np.intp), np.zeros(longest, np.intp)
    none = np.zeros((1, covers), dtype=np.int32)
    for start in range(len(to_come)):
        more, room = to_come[start], rooms[start].copy()
        cost[0], lacks[0], left_slots[0] = start_costs[start], start_lacks[start], slots[start]
        following[0] = 0 if slots[start] > 0 else in_slots
        came[:] = pieces
        bound, failed = _bounded(cost, lacks, 0, none, none, 0, table, more, following[0], most, order)
        depth = 0
        if failed >= 0:
            others, depth = min(others, bound), -1
        while depth >= 0 and looked_at <= candidates and count <= sets_most:
            if depth == more and bound > listed_to:
                if count == len(bounds):
                    starts, found, bounds = (
                        np.append(starts, starts), np.concatenate((found, found)), np.append(bounds, bounds)
                    )  # fmt: skip
                starts[count], found[count], bounds[count] = start, came[: longest - 1], bound
                count += 1
            if depth == more or following[depth] >= pieces:
                depth -= 1
                if depth >= 0:
                    room[places[came[depth]]] += 1
                continue
            piece, number = following[depth], more - depth - 1
            following[depth] += 1
            if room[places[piece]] <= 0:
                continue
            looked_at += 1
            bound, failed = _bounded(cost, lacks, depth, costs, gives, piece, table, number, piece, most, order)
            if failed >= 0:
                others = min(others, bound)
                # what the same cover says of all pieces that follow
                bound = cost[depth, failed] + table[number + 1, piece + 1, failed, lacks[depth, failed]]
                if bound > most:
                    others, following[depth] = min(others, bound), pieces
                continue
            came[depth], depth = piece, depth + 1
            room[places[piece]] -= 1
            for cover in range(covers):
                cost[depth, cover] = cost[depth - 1, cover] + costs[piece, cover]
                lacks[depth, cover] = max(lacks[depth - 1, cover] - gives[piece, cover], 0)
            left_slots[depth] = left_slots[depth - 1] - (piece < in_slots)
            following[depth] = piece if left_slots[depth] > 0 else max(piece, in_slots)
    return starts[:count], found[:count], bounds[:count], others, looked_at
