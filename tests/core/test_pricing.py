"""Least prices of sets and stars: equal to what trying every way of their links finds, one at a time."""

import random
from itertools import product

import numpy as np

from baugrund.core.pick.bounds.box_rows import CARRIES, ENDS, FREE, POWER, PRICE, SLOTS, TAKEN
from baugrund.core.pick.bounds.link_bounds import LinkBounds
from baugrund.core.pick.bounds.link_class import link_classes

from .small import in_blocks
from .test_pick import random_problem, random_site


def cured(group, total):
    """What injectors cost that mend shortages, the dearest first, and how many; None: nothing mends one."""
    short = [(up_set.cure_minor, up_set.count - total[group.rows.held + n]) for n, up_set in enumerate(group.up_sets)]
    if any(price is None and lacks > 0 for price, lacks in short):
        return None
    cost = count = 0
    for price in sorted({price for price, _ in short if price is not None}, reverse=True):
        worst = max(lacks for other, lacks in short if other == price)
        cost, count = cost + max(worst - count, 0) * price, max(count, worst)
    return cost, count


def powered(asked, total):
    """The same of watts that are over the budgets: the hungriest devices leave them first."""
    over, left = sum(need.power_mw * count for need, count in asked.needs) - total[POWER], 0
    while over > 0:
        if not asked.injectors:
            return None
        over -= asked.powers_down[left] if left < len(asked.powers_down) else over
        left += 1
    return left * min((injector.price_minor for injector in asked.injectors), default=0), left


def price_of(asked, group, total):
    """Least price of a set whose boxes come to a total; −1: none can be packed."""
    trunks = group.trunks
    slots = min(total[SLOTS], total[ENDS]) if asked.trunks else total[SLOTS]
    lacking = max(asked.drops + trunks.on_ports - total[FREE], 0)
    mended, fed = cured(group, total), powered(asked, total)
    if mended is None or fed is None:
        return -1
    injectors = max(mended[1], fed[1])
    if (
        not trunks.in_slots + lacking <= slots
        or lacking > trunks.may_move
        or total[CARRIES] < asked.traffic_kbit
        or any(
            total[TAKEN + n] + injectors * takes > there
            for n, (takes, there) in enumerate(zip(asked.injector_takes, asked.capacities, strict=True))
        )
    ):
        return -1
    return total[PRICE] + max(mended[0], fed[0]) + trunks.least_minor + lacking * trunks.move_minor


def star_price(asked, group, root, centre, hung):
    """The least over every way to hang switches off the centre, and that off the root."""
    rows, prices = group.rows, []
    own = [None] if root is centre else [way for one, way in rows.rooted(group.roots, centre)[0] if one is root]
    for above, *ways in product(own, *(asked.ways(centre, box) for box in hung)):
        in_slots = sum(way.upper_in_slot for way in ways) + (above is not None and above.lower_in_slot)
        if in_slots > centre.slot_count:
            continue
        mine = rows.roots([(centre, None)])[0] if above is None else rows.leaf(centre, [above])[0]
        left = rows.left_by_links(centre, [way.rate_mbit for way in ways if not way.upper_in_slot])
        total = [*mine[: rows.held], *np.minimum(mine[rows.held :], left)]
        others = [rows.leaf(box, [way])[0] for box, way in zip(hung, ways, strict=True)]
        others += [] if above is None else [rows.roots([(root, above)])[0]]
        total = np.sum([total, *others], axis=0).tolist()
        prices.append(price_of(asked, group, total))
    return min((price for price in prices if price >= 0), default=-1)


def problems(block):
    yield from (random_problem(seed) for seed in range(900 + block * 15, 915 + block * 15))
    yield from (closet for seed in range(block * 8, block * 8 + 8) for closet in random_site(seed).closets)


@in_blocks(3)
def test_a_star_costs_the_least_over_every_way_of_its_links(block):
    rng, can_be, cannot = random.Random(block), 0, 0
    for asked in problems(block):
        for group in link_classes(asked):
            boxes = (*group.roots, *asked.switches)
            for centre, many in product(boxes if asked.switches else (), (1, 2, 2, 3)):
                link_bounds = LinkBounds(group, boxes, centre)
                if not link_bounds.can_be:
                    continue
                root = centre if centre.is_root else rng.choice(group.roots)
                hung = rng.choices(asked.switches, k=many)
                hung = hung if rng.random() < 0.6 else hung[:1] * many
                counts = np.zeros((1, len(boxes)))
                for box in (*hung, centre, *([] if root is centre else [root])):
                    counts[0, boxes.index(box)] += 1
                price = star_price(asked, group, root, centre, sorted(hung, key=boxes.index))
                assert link_bounds.priced(counts).tolist() == [price]
                can_be, cannot = can_be + (price >= 0), cannot + (price < 0)
    assert can_be > 30 < cannot


@in_blocks(2)
def test_sets_cost_what_their_sums_ask(block):
    """Sums near every limit, so that each is met and missed."""
    rng, seen = np.random.default_rng(block), [0, 0]
    for asked in problems(block):
        for group in link_classes(asked):
            limits = group.limits
            whole = np.array([
                0, limits.ends, limits.in_slots + limits.may_move, limits.in_slots + limits.may_move,
                limits.traffic_kbit, limits.power_mw, *limits.capacities, *group.asked,
            ])  # fmt: skip
            sums = np.tile(whole, (60, 1))
            at = rng.integers(0, len(whole), 60)
            sums[np.arange(60), at] += rng.integers(-2, 3, 60) * np.where(
                np.isin(at, [CARRIES, POWER, TAKEN + 1]), 900, 1
            )
            sums[:, PRICE] = 10_000
            sockets = sums[:, TAKEN + 2]
            sockets[:] = np.maximum(sockets - rng.integers(0, 4, 60), 0)
            prices = group.least_price(sums).tolist()
            assert prices == [price_of(asked, group, row) for row in sums.tolist()]
            seen = [seen[0] + sum(price >= 0 for price in prices), seen[1] + prices.count(-1)]
    assert min(seen) > 200
