"""First picks: sound, housed, with what is pinned, mended where sums mislead."""

import pytest

from baugrund.core.demand import Need
from baugrund.core.pick.bounds import link_classes
from baugrund.core.pick.dives import first_picks
from baugrund.core.pick.sets import Sets, pinned

from .small import DESK, ports, problem, router, switch
from .test_pick import random_problem
from .test_seating import assert_sound


def tried(asked, ceiling=None):
    cases = pinned(asked)
    if not cases:
        return []
    sets = Sets(asked, "price", cases, frozenset(asked.switches), None, ceiling)
    stars = [star for group in link_classes(asked) for star in sets.stars(group)]
    return list(first_picks(sets, stars))


def picks(asked, ceiling=None):
    return [seating for seating in tried(asked, ceiling) if seating]


@pytest.mark.parametrize("block", range(4))
def test_first_picks_keep_to_every_rule(block):
    found = 0
    for seed in range(500 + block * 12, 512 + block * 12):
        asked = random_problem(seed)
        for seating in picks(asked):
            found += 1
            assert_sound(asked, seating)
            assert sum(box.model.units for box in seating.boxes) <= asked.units
            assert sum(box.mass_g for box in seating.boxes) <= asked.load_g
            keys = [box.model.key for box in seating.boxes]
            assert all(keys.count(key) >= count for key, count in asked.pins.items())
    assert found > 5


def test_a_set_that_sums_call_enough_is_mended_by_the_cheapest_box_that_does():
    """Two of 50 W give 100 W, but neither 60 W and 30 W: a box of 60 W beside them does."""
    sixty, thirty = Need(6, 1000, 60_000, 0), Need(6, 1000, 30_000, 0)
    models = [router("r", ports(4)), switch("fifty", ports(4, poe=6), watts=50, price=100),
              switch("seventy", ports(1, poe=6), watts=70, price=400)]  # fmt: skip
    for seating in picks(problem(models, {sixty: 1, thirty: 1})):
        assert "seventy" in [box.model.key for box in seating.boxes]


def test_where_none_is_found_more_room_is_asked_for_but_under_a_ceiling():
    """60 W and 30 W go into no two boxes of 50 W, though sums say so: it is tried again with more room in them."""
    needs = {Need(6, 1000, 60_000, 0): 1, Need(6, 1000, 30_000, 0): 1}
    asked = problem([router("r", ports(4)), switch("fifty", ports(4, poe=6), watts=50, price=100)], needs)
    assert not picks(asked) and not picks(asked, ceiling=900)
    assert len(tried(asked, ceiling=900)) < len(tried(asked))


def test_once_there_is_one_no_further_room_is_asked_for():
    asked = problem([router("r", ports(4)), switch("eight", ports(8))], {DESK: 8})
    assert {seating.price_minor for seating in picks(asked)} == {200}
    assert len(tried(asked)) == len(tried(asked, ceiling=200))


def test_a_pick_becomes_cheaper_as_boxes_stand_back_for_others():
    """Sums call 50 W and 50 W enough for 60 W and 30 W; the box that mends this makes one of them needless."""
    sixty, thirty = Need(6, 1000, 60_000, 0), Need(6, 1000, 30_000, 0)
    models = [router("r", ports(4)), switch("fifty", ports(4, poe=6), watts=50, price=100),
              switch("ninety", ports(4, poe=6), watts=90, price=250)]  # fmt: skip
    found = picks(problem(models, {sixty: 1, thirty: 1}))
    assert [box.model.key for box in min(found, key=lambda seating: seating.price_minor).boxes] == ["r", "ninety"]
