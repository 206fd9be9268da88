"""The pick by trying everything: written apart from the solver, from the definition alone.

A box is one of the problem's types; only the data classes are shared with the solver, none of its computation.
"""

from __future__ import annotations

import itertools
import math
from fractions import Fraction
from itertools import combinations_with_replacement, product


class TooLarge(Exception):
    """More seats to try than there is time for."""


VISITS_MOST = 120_000


def every_pick(problem, most_boxes):
    """Yield (price, boxes, own mains, mains, room) of every feasible pick of up to ``most_boxes`` boxes.

    Raises TooLarge when that is too much to try.
    """
    visits = itertools.count()
    drops = [need for need, many in problem.needs for _ in range(many)]
    for router in problem.routers:
        for size in range(most_boxes):
            for switches in combinations_with_replacement(problem.switches, size):
                boxes = [router, *switches]
                if _housed(problem, boxes):
                    for links in _trees(problem, boxes):
                        yield from _seatings(problem, boxes, links, drops, visits)


def _housed(problem, boxes):
    for box in set(boxes):
        if box.most is not None and boxes.count(box) > box.most:
            return False
    for key, count in problem.pins.items():
        if sum(box.model.key == key for box in boxes) < count:
            return False
    return (
        sum(box.model.units for box in boxes) <= problem.units
        and sum(box.model.mass_kg for box in boxes) * 1000 <= problem.load_g
        and sum(box.model.sockets for box in boxes) <= problem.sockets
    )


def _parents(count, chain):
    for parents in product(range(count), repeat=count - 1):
        edges = list(zip(parents, range(1, count), strict=True))
        if any(p == c for p, c in edges):
            continue
        reached = {0}
        while grown := {c for p, c in edges if p in reached} - reached:
            reached |= grown
        if len(reached) < count:
            continue
        if chain or count == 1 or any(all(hub in edge for edge in edges) for hub in range(count)):
            yield edges


def _ends(problem, box):
    for group, port in enumerate(box.ports):
        yield ("port", group), "copper", port.speed_mbit, 0
    for group, (_, speed) in enumerate(box.slots):
        for module in problem.modules:
            if module.model.speed_mbit <= speed:
                yield ("slot", group), module.model.medium, module.model.speed_mbit, module.price_minor


def _trees(problem, boxes):
    for edges in _parents(len(boxes), problem.chain_allowed):
        choices = []
        for upper, lower in edges:
            choices.append(
                [
                    ((upper, a[0]), (lower, b[0]), min(a[2], b[2]), a[3] + b[3])
                    for a in _ends(problem, boxes[upper])
                    for b in _ends(problem, boxes[lower])
                    if a[1] == b[1] and (a[1] == "copper" or a[2] == b[2])
                ]
            )
        for links in product(*choices):
            yield edges, links


def _seatings(problem, boxes, tree, drops, visits):
    edges, links = tree
    free = {}
    for place, box in enumerate(boxes):
        for group, port in enumerate(box.ports):
            free[place, ("port", group)] = port.count
        for group, (count, _) in enumerate(box.slots):
            free[place, ("slot", group)] = count
    for link in links:
        for end in link[:2]:
            free[end] -= 1
    if min(free.values(), default=0) < 0:
        return
    power = [0] * len(boxes)
    chosen = []

    def seat(number):
        if next(visits) > VISITS_MOST:
            raise TooLarge
        if number == len(drops):
            if _flows(boxes, edges, links, chosen) and _frames(boxes, edges, chosen):
                yield _figures(problem, boxes, links, chosen)
            return
        need = drops[number]
        for place, box in enumerate(boxes):
            if need.large_frames and not box.model.large_frames:
                continue
            for group, port in enumerate(box.ports):
                if not free[place, ("port", group)] or port.speed_mbit < need.speed_mbit:
                    continue
                ways = [None] if port.poe_rank >= need.poe_rank else []
                if need.poe_rank:
                    ways += [i for i in problem.injectors
                             if i.poe_rank >= need.poe_rank and i.model.speed_mbit >= need.speed_mbit]  # fmt: skip
                for way in ways:
                    this = (place, group, way)
                    # equal drops in order: each set of seats is looked at once
                    if number and drops[number - 1] == need and _before(this, chosen[-1]):
                        continue
                    drawn = need.power_mw if way is None else 0
                    if power[place] + drawn > box.power_most_mw:
                        continue
                    used = sum(1 for c in chosen if c[3]) + (way is not None)
                    if used + sum(b.model.sockets for b in boxes) > problem.sockets:
                        continue
                    free[place, ("port", group)] -= 1
                    power[place] += drawn
                    chosen.append((place, group, need, way))
                    yield from seat(number + 1)
                    chosen.pop()
                    power[place] -= drawn
                    free[place, ("port", group)] += 1

    yield from seat(0)


def _before(this, last):
    key = lambda place, group, way: (place, group, way.index if way else -1)  # noqa: E731
    return key(*this) < key(last[0], last[1], last[3])


def _behind(edges, child):
    below = {child}
    while grown := {c for p, c in edges if p in below} - below:
        below |= grown
    return below


def _flows(boxes, edges, links, chosen):
    for (_, child), link in zip(edges, links, strict=True):
        below = _behind(edges, child)
        if 10 * sum(c[2].traffic_kbit for c in chosen if c[0] in below) > 7 * link[2] * 1000:
            return False
    return True


def _frames(boxes, edges, chosen):
    asking = [c[0] for c in chosen if c[2].large_frames]
    for upper, child in edges:
        below = _behind(edges, child)
        inside = sum(place in below for place in asking)
        passes = boxes[upper].model.large_frames and boxes[child].model.large_frames
        if 0 < inside < len(asking) and not passes:
            return False
    return True


def _figures(problem, boxes, links, chosen):
    injectors = [c[3] for c in chosen if c[3]]
    price = sum(b.price_minor for b in boxes) + sum(link[3] for link in links) + sum(i.price_minor for i in injectors)
    own = sum(math.ceil(Fraction(b.model.own_draw_mw * 100, b.model.efficiency_percent)) for b in boxes)
    own += sum(math.ceil(Fraction(i.model.own_draw_mw * 100, i.model.efficiency_percent)) for i in injectors)
    mains = own
    for place, _, need, way in chosen:
        if need.poe_rank:
            supply = (way or boxes[place]).model
            mains += math.ceil(Fraction(need.power_mw * 100, supply.efficiency_percent))
    room = Fraction(1)
    margin = 1 + Fraction(round(problem.margin_percent * 100), 10_000)
    for place, box in enumerate(boxes):
        ports = sum(c[0] == place for c in chosen)
        ports += sum(end[0] == place and end[1][0] == "port" for link in links for end in link[:2])
        fed = [c[2].power_mw for c in chosen if c[0] == place and c[2].poe_rank and not c[3]]
        total = sum(g.count for g in box.model.ports)
        powered = sum(g.count for g in box.model.ports if g.poe_class is not None)
        if total:
            room = min(room, 1 - Fraction(ports, total))
        if powered:
            room = min(room, 1 - Fraction(len(fed), powered))
            room = min(room, 1 - sum(fed) * margin / Fraction(round(box.model.poe_budget_w * 1000)))
    return price, len(boxes), own, mains, room
