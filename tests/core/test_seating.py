"""Every seating that the solver makes is checked against the rules by code that shares nothing with it."""

import random
from collections import Counter

import numpy as np
import pytest

from baugrund.core.pick.assignment.exact import Assignment, assign, centres_of
from baugrund.core.pick.assignment.greedy import quick_seating
from baugrund.core.pick.best import least_price
from baugrund.core.pick.bounds.link_bounds import LinkBounds
from baugrund.core.pick.bounds.link_class import least_mains, link_classes
from baugrund.core.pick.bounds.relaxation import Relaxation
from baugrund.core.pick.presolve.dominance import replaces, undominated

from .small import (
    ACCESS_POINT,
    CAMERA,
    DESK,
    cheapest,
    in_blocks,
    injector,
    is_within,
    module,
    ports,
    problem,
    router,
    slots,
    switch,
)
from .test_pick import random_problem


def assert_sound(asked, seating):
    """All rules of ``docs/formulas.md`` that concern one set of boxes."""
    boxes = seating.boxes
    seated = Counter()
    for seat in seating.seats:
        port = boxes[seat.box].ports[seat.port]
        seated[seat.need] += seat.count
        assert port.speed_mbit >= seat.need.speed_mbit
        if seat.injector:
            assert seat.injector.poe_rank >= seat.need.poe_rank > 0
            assert seat.injector.model.speed_mbit >= seat.need.speed_mbit
        else:
            assert port.poe_rank >= seat.need.poe_rank
        assert boxes[seat.box].model.large_frames or not seat.need.large_frames
    assert seated == Counter(dict(asked.needs))
    margin = 1 + asked.margin_percent / 100
    for place, box in enumerate(boxes):
        for group, port in enumerate(box.ports):
            taken = sum(seat.count for seat in seating.seats if (seat.box, seat.port) == (place, group))
            for link in seating.links:
                taken += (link.upper, link.option.upper.port) == (place, group)
                taken += (link.lower, link.option.lower.port) == (place, group)
            taken += sum(s.trunk.ends for s in seating.trunks if (s.box, s.end.port) == (place, group))
            assert taken <= port.count
        for group, (count, _) in enumerate(box.slots):
            ends = sum((link.upper, link.option.upper.slot) == (place, group) for link in seating.links)
            ends += sum((link.lower, link.option.lower.slot) == (place, group) for link in seating.links)
            ends += sum(s.trunk.ends for s in seating.trunks if (s.box, s.end.slot) == (place, group))
            assert ends <= count
        drawn = sum(s.count * s.need.power_mw for s in seating.seats if s.box == place and not s.injector)
        assert drawn * margin <= box.model.poe_budget_w * 1000 + 1e-6
    parents = {link.lower: link.upper for link in seating.links}
    assert sorted(parents) == list(range(1, len(boxes)))
    behind = [0] * len(boxes)
    for seat in seating.seats:
        place = seat.box
        while True:
            behind[place] += seat.count * seat.need.traffic_kbit
            if place == 0:
                break
            place = parents[place]
    for seat in seating.trunks:
        assert seat.trunk.takes(seat.end)
        place = seat.box
        while True:
            behind[place] += seat.trunk.traffic_kbit
            if place == 0:
                break
            place = parents[place]
    assert {seat.trunk for seat in seating.trunks} == set(asked.trunks)
    assert asked.uplink is None or asked.uplink.takes(boxes[0].uplink)
    for link in seating.links:
        assert behind[link.lower] == link.traffic_kbit
        assert 10 * behind[link.lower] <= 7 * link.option.rate_mbit * 1000
        assert link.option.upper.medium == link.option.lower.medium
    if not asked.chain_allowed and len(boxes) > 1:
        assert any(all(centre in (link.upper, link.lower) for link in seating.links) for centre in range(len(boxes)))
    assert is_within(asked, boxes, [injector.model for injector in seating.injectors.elements()])


def random_sets(seed, size=3):
    """A random problem and some sets of its boxes."""
    asked = random_problem(seed)
    rng = random.Random(seed)
    for _ in range(6):
        chosen = [rng.choice(asked.roots)]
        chosen += [rng.choice(asked.switches) for _ in range(rng.randint(0, size - 1))]
        housed = is_within(asked, chosen)
        if housed and all(b.most is None or chosen.count(b) <= b.most for b in chosen):
            yield asked, tuple(chosen)


@in_blocks(4)
def test_quick_seatings_are_sound_and_packing_is_never_worse(block):
    compared = 0
    for seed in range(block * 40, block * 40 + 40):
        for asked, boxes in random_sets(seed):
            quick = quick_seating(asked, boxes)
            packed = assign(asked, boxes, "price")
            assert packed.proven
            if quick:
                assert_sound(asked, quick)
                assert packed.seating is not None
                assert packed.seating.price_minor <= quick.price_minor
                compared += 1
            if packed.seating:
                assert_sound(asked, packed.seating)
    assert compared > 20


def bound_of(group, weight, boxes):
    """The bound of all picks that begin with some of these boxes, and of the set as it stands: the former is lower."""
    relaxation = Relaxation(group, weight)
    first = len(group.roots)
    counts = relaxation.ranged([sum(one is box for one in boxes) for box in relaxation.boxes])
    some = counts.copy()
    some[first:] = np.minimum(some[first:], 1)
    rooted = np.maximum(relaxation.most, counts)
    rooted[:first] = counts[:first]
    exact = rooted.copy()
    exact[: len(relaxation.boxes)] = counts[: len(relaxation.boxes)]
    loose, tight = relaxation.bound(some, rooted), relaxation.bound(counts, exact)
    assert loose.least <= tight.least + 1e-3
    for place in range(first, len(relaxation.boxes)):
        if some[place] < counts[place]:
            more = some.copy()
            more[place] += 1
            assert loose.least + loose.adds[place] <= relaxation.bound(more, rooted).least + 1e-3
    return tight.least


def least_of_stars(asked, group, boxes):
    """The least of the bounds by links around every centre; every bound lies under what packing finds there."""
    bounds = []
    for centre in centres_of(asked, boxes):
        relaxation = Relaxation(group, "price")
        counts = np.array([[sum(one is box for one in boxes) for box in relaxation.boxes]], dtype=float)
        link_bounds = LinkBounds(group, relaxation.boxes, boxes[centre])
        sketch, links = (
            link_bounds.relaxed_prices(counts)[0],
            link_bounds.priced(counts)[0] if link_bounds.can_be else -1,
        )
        in_parts = Assignment(asked, boxes, centre, "price").least
        packed = Assignment(asked, boxes, centre, "price").solve()
        if packed.seating:
            assert 0 <= sketch <= packed.seating.price_minor
            assert 0 <= links <= packed.seating.price_minor
            assert in_parts - 1e-3 <= packed.seating.price_minor
            bounds.append(links)
    return min(bounds)


@in_blocks(4)
def test_every_bound_lies_under_what_packing_finds(block):
    bounded = 0
    for seed in range(200 + block * 40, 240 + block * 40):
        for asked, boxes in random_sets(seed):
            packed = assign(asked, boxes, "price").seating
            thrifty = assign(asked, boxes, "power").seating
            groups = [group for group in link_classes(asked) if boxes[0] in group.roots]
            if packed is None:
                continue
            bounded += 1
            assert groups, "the router of a feasible set is in a link class"
            if not asked.chain_allowed:
                assert least_of_stars(asked, groups[0], boxes) <= packed.price_minor
            assert least_mains(asked, boxes) <= thrifty.mains_mw
            assert bound_of(groups[0], "price", boxes) <= packed.price_minor + 1e-3
            assert bound_of(groups[0], "power", boxes) <= thrifty.mains_mw + 1e-3
    assert bounded > 20


def test_the_pick_of_both_demo_projects_is_sound(dye_works, row_house, catalogue):
    from baugrund.core.answers.picker import Picker

    for project in (dye_works, row_house):
        site, _ = Picker(project, catalogue)._stated
        for asked, seating in zip(site.closets, least_price(site).seatings, strict=True):
            assert_sound(asked, seating)


HALF = (ports(4), ports(4, poe=3))


def box(asked, key):
    return next(b for b in (*asked.roots, *asked.switches) if b.model.key == key)


@pytest.mark.parametrize(
    ("better", "worse", "does"),
    [
        ({"price": 90}, {}, True),
        ({"price": 110}, {}, False),
        ({"own_draw_w": 6}, {}, False),
        ({"sockets": 2}, {}, False),
        ({"mass_kg": 2}, {}, False),
        ({"large_frames": False}, {}, False),
        ({"groups": (ports(8),)}, {"groups": HALF, "watts": 30}, False),
        ({"groups": (ports(4), ports(4, poe=4)), "watts": 60}, {"groups": HALF, "watts": 30}, True),
        ({"groups": (ports(4), ports(4, poe=4)), "watts": 20}, {"groups": HALF, "watts": 30}, False),
        # four fast bare ports do not stand in for four slow powered ones
        ({"groups": (ports(4, 2500), ports(4, poe=3)), "watts": 30},
         {"groups": (ports(8, poe=3),), "watts": 30}, False),
        ({"slots": slots(2)}, {"slots": slots(1)}, True),
        ({"slots": slots(2, 1000)}, {"slots": slots(1)}, False),
    ],
)  # fmt: skip
def test_one_box_replaces_another_only_when_nothing_is_lost(better, worse, does):
    def made(key, more):
        more = dict(more)
        groups = more.pop("groups", (ports(8),))
        return switch(key, *groups, **more)

    asked = problem([router("r", ports(4)), made("a", better), made("b", worse)], {DESK: 1})
    assert replaces(box(asked, "a"), box(asked, "b")) is does
    kept = [b.model.key for b in undominated(asked.switches)]
    assert ("b" not in kept) is does


def test_an_owned_box_does_not_drive_out_bought_ones():
    asked = problem([router("r", ports(4)), switch("a", ports(8))], {DESK: 1}, owned={"a": 1})
    assert [b.most for b in undominated(asked.switches)] == [1, None]


def test_owned_injectors_and_modules_are_used_in_their_number():
    models = [router("r", ports(2), price=200), switch("s", ports(6), slots=slots(1, 1000)), injector("inj", 3),
              module("cu", medium="copper", speed=1000)]  # fmt: skip
    found = cheapest(problem(models, {CAMERA: 3}, owned={"inj": 2}))
    assert {(i.price_minor, n) for i, n in found.seatings[0].injectors.items()} == {(0, 2), (50, 1)}
    full = cheapest(problem(models, {DESK: 7}, owned={"cu": 1}))
    assert {(m.price_minor, n) for m, n in full.seatings[0].modules.items()} == {(0, 1)}


def test_a_seating_tells_its_own_figures():
    models = [router("r", ports(4)), switch("s", ports(4), ports(4, poe=4), watts=60, own_draw_w=8.8)]
    seating = cheapest(problem(models, {ACCESS_POINT: 2, DESK: 6}, margin_percent=20)).seatings[0]
    switched = seating.boxes.index(next(b for b in seating.boxes if b.model.key == "s"))
    assert seating.powered_used(switched) == 2
    assert seating.power_used_mw(switched) == 34_000
    assert seating.own_mains_mw == 5682 + 10_000
    assert seating.mains_mw == seating.own_mains_mw + 2 * 19_319
    # 34 W × 1.2 of 60 W leave 32 %; 2 of 4 powered ports 50 %; 10 of 12 ports in all
    assert float(seating.room(20)) == pytest.approx(min(0.32, *(
        1 - seating.ports_used(place) / box.model.port_count for place, box in enumerate(seating.boxes)
    )))  # fmt: skip
