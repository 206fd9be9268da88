"""The pick by trying everything: written apart from the solver, from the definition alone.

A box is one of the problem's types; only the data classes are shared with the solver, none of its computation.
"""

from __future__ import annotations

import itertools
import math
from collections import Counter
from fractions import Fraction
from itertools import combinations_with_replacement, product

from .small import is_within


class TooLarge(Exception):
    """More seats to try than there is time for."""


VISITS_MOST = 80_000


def every_pick(problem, most_boxes):
    """Yield (price, boxes, own mains, mains, room, owned, models) of every feasible pick of up to ``most_boxes`` boxes.

    ``owned`` and ``models`` say how many of each owned model (by its place in the catalogue) and of each key (boxes, and
    what is bought by the pack, which is not in the price) are in it.
    Raises TooLarge when that is too much to try.
    """
    visits = itertools.count()
    drops = [need for need, many in problem.needs for _ in range(many)]
    for root, uplink in _roots(problem):
        for size in range(most_boxes):
            for switches in combinations_with_replacement(problem.switches, size):
                boxes = [root, *switches]
                if _housed(problem, boxes):
                    for ends in _trunk_ends(problem, boxes):
                        for links in _trees(problem, boxes):
                            yield from _seatings(problem, boxes, links, uplink, ends, drops, visits)


def _roots(problem):
    """Every box that the tree may hang off, with the end of the link to the closet that feeds this one."""
    if problem.uplink is None:
        return [(router, None) for router in problem.roots]
    return [
        (box, end)
        for box in problem.switches
        for end in _ends(problem, box)
        if _matches(problem.uplink, end) and (box.model.large_frames or not problem.uplink.large_frames)
    ]


def _matches(trunk, end):
    _, medium, speed, _, module = end
    if medium != trunk.medium or (module and module.model.reach_m < trunk.length_m):
        return False
    return speed >= trunk.speed_mbit if medium == "copper" else speed == trunk.speed_mbit


def _trunk_ends(problem, boxes):
    """Every way to end the links to fed closets: (box, end) of each."""
    ways = [
        [
            (place, end)
            for place, box in enumerate(boxes)
            for end in _ends(problem, box)
            if _matches(trunk, end) and (box.model.large_frames or not trunk.large_frames)
        ]
        for trunk in problem.trunks
    ]
    return product(*ways)


def best_of_site(closets, pins, stock, packs=()):
    """``packs``: key, pieces and price of what is sold by the pack.  The four kinds of best over one list of picks a closet: (price, boxes, own), (boxes, price), (mains, price) and
    (room, price) at up to 1.5 times the least price; None when no combination is feasible."""
    lists = [_grouped(picks) for picks in closets]
    sums = []
    for combination in product(*lists):
        owned, models = Counter(), Counter()
        for signature, _ in combination:
            owned.update(dict(signature[0]))
            models.update(dict(signature[1]))
        if all(owned[index] <= stock[index] for index in owned) and all(models[key] >= pins[key] for key in pins):
            bought = sum(math.ceil(models[key] / pieces) * price for key, pieces, price in packs)
            sums.append(([picks for _, picks in combination], bought))
    if not sums:
        return None
    add = lambda tuples: tuple(map(sum, zip(*tuples, strict=True)))  # noqa: E731
    cheapest = min(add([(packed, 0, 0), *(min(p[:3] for p in picks) for picks in one)]) for one, packed in sums)
    fewest = min(add([(0, packed), *(min((p[1], p[0]) for p in picks) for picks in one)]) for one, packed in sums)
    thrifty = min(add([(0, packed), *(min((p[3], p[0]) for p in picks) for picks in one)]) for one, packed in sums)
    roomy = None
    for one, packed in sums:
        for room in {p[4] for picks in one for p in picks}:
            enough = [[p[0] for p in picks if p[4] >= room] for picks in one]
            price = packed + sum(min(prices) for prices in enough) if all(enough) else math.inf
            if price * 2 <= cheapest[0] * 3:
                roomy = max(roomy or (room, -price), (room, -price))
    return cheapest, fewest, thrifty, (roomy[0], -roomy[1])


def _grouped(picks):
    """The picks of a closet by what they take of owned and pinned things."""
    groups = {}
    for pick in picks:
        groups.setdefault((pick[5], pick[6]), []).append(pick)
    return list(groups.items())


def _housed(problem, boxes):
    for box in set(boxes):
        if box.most is not None and boxes.count(box) > box.most:
            return False
    for key, count in problem.pins.items():
        if sum(box.model.key == key for box in boxes) < count:
            return False
    return is_within(problem, boxes)


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
        yield ("port", group), "copper", port.speed_mbit, 0, None
    for group, (_, speed) in enumerate(box.slots):
        for module in problem.modules:
            if module.model.speed_mbit <= speed:
                yield ("slot", group), module.model.medium, module.model.speed_mbit, module.price_minor, module


def _trees(problem, boxes):
    for edges in _parents(len(boxes), problem.chain_allowed):
        choices = []
        for upper, lower in edges:
            choices.append(
                [
                    ((upper, a[0]), (lower, b[0]), min(a[2], b[2]), a[3] + b[3], (a[4], b[4]))
                    for a in _ends(problem, boxes[upper])
                    for b in _ends(problem, boxes[lower])
                    if a[1] == b[1] and (a[1] == "copper" or a[2] == b[2])
                ]
            )
        for links in product(*choices):
            yield edges, links


def _seatings(problem, boxes, tree, uplink, ends, drops, visits):
    edges, links = tree
    modules = Counter(module for link in links for module in link[4] if module)
    free = {}
    for place, box in enumerate(boxes):
        for group, port in enumerate(box.ports):
            free[place, ("port", group)] = port.count
        for group, (count, _) in enumerate(box.slots):
            free[place, ("slot", group)] = count
    for link in links:
        for end in link[:2]:
            free[end] -= 1
    laid = [(trunk, place, end) for trunk, (place, end) in zip(problem.trunks, ends, strict=True)]
    if uplink:
        laid.append((problem.uplink, 0, uplink))
    for trunk, place, end in laid:
        free[place, end[0]] -= trunk.ends
        modules[end[4]] += trunk.ends
    if min(free.values(), default=0) < 0:
        return
    if any(module and module.most is not None and modules[module] > module.most for module in modules):
        return
    hung = [(place, trunk) for trunk, place, _ in laid if trunk is not problem.uplink]
    power = [0] * len(boxes)
    chosen = []

    def seat(number):
        if next(visits) > VISITS_MOST:
            raise TooLarge
        if number == len(drops):
            if _flows(edges, links, chosen, hung) and _frames(problem, boxes, edges, chosen, hung):
                yield _figures(problem, boxes, links, chosen, laid, modules)
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
                    injectors = [one.model for *_, one in (*chosen, (way,)) if one]
                    if injectors and not is_within(problem, boxes, injectors):
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


def _flows(edges, links, chosen, hung):
    for (_, child), link in zip(edges, links, strict=True):
        below = _behind(edges, child)
        crossing = sum(c[2].traffic_kbit for c in chosen if c[0] in below)
        crossing += sum(trunk.traffic_kbit for place, trunk in hung if place in below)
        if 10 * crossing > 7 * link[2] * 1000:
            return False
    return True


def _frames(problem, boxes, edges, chosen, hung):
    asking = [c[0] for c in chosen if c[2].large_frames]
    asking += [place for place, trunk in hung if trunk.large_frames]
    if problem.uplink and problem.uplink.large_frames:
        asking.append(0)
    for upper, child in edges:
        below = _behind(edges, child)
        inside = sum(place in below for place in asking)
        passes = boxes[upper].model.large_frames and boxes[child].model.large_frames
        if 0 < inside < len(asking) and not passes:
            return False
    return True


def _figures(problem, boxes, links, chosen, laid, modules):
    injectors = [c[3] for c in chosen if c[3]]
    price = sum(b.price_minor for b in boxes) + sum(link[3] for link in links) + sum(i.price_minor for i in injectors)
    price += sum(trunk.ends * end[3] for trunk, _, end in laid)
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
        ports += sum(trunk.ends for trunk, at, end in laid if at == place and end[0][0] == "port")
        fed = [c[2].power_mw for c in chosen if c[0] == place and c[2].poe_rank and not c[3]]
        total = sum(g.count for g in box.model.ports)
        powered = sum(g.count for g in box.model.ports if g.poe_class is not None)
        if total:
            room = min(room, 1 - Fraction(ports, total))
        if powered:
            room = min(room, 1 - Fraction(len(fed), powered))
            room = min(room, 1 - sum(fed) * margin / Fraction(round(box.model.poe_budget_w * 1000)))
    things = [*boxes, *injectors, *(module for module in modules.elements() if module)]
    owned = Counter(thing.index for thing in things if thing.most is not None)
    packed = [thing for thing in things if getattr(thing.model, "pack", 1) > 1]
    price -= sum(thing.price_minor for thing in packed)
    models = Counter(thing.model.key for thing in (*boxes, *packed) if thing in boxes or thing.most is None)
    return price, len(boxes), own, mains, room, frozenset(owned.items()), frozenset(models.items())
