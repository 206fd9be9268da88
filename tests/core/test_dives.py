"""First picks: sound, housed, with what is pinned, mended where sums mislead."""

import gc

from baugrund.core.demand.needs import Need
from baugrund.core.pick.bounds.link_class import link_classes
from baugrund.core.pick.bounds.relaxation import Relaxation
from baugrund.core.pick.branching.branch_and_bound import Branching
from baugrund.core.pick.branching.search import search
from baugrund.core.pick.enumeration.covers import Construction
from baugrund.core.pick.enumeration.nodes import Space, pinned
from baugrund.core.pick.heuristics.diving import Diving, first_picks

from .small import DESK, in_blocks, is_within, ports, problem, router, switch
from .test_pick import random_problem
from .test_seating import assert_sound


def stated(asked, ceiling=None):
    sets = Space(asked, "price", pinned(asked), frozenset(asked.switches), None, ceiling)
    return sets, [centre for group in link_classes(asked) for centre in sets.centres(group)]


def tried(asked, ceiling=None):
    if not pinned(asked):
        return []
    return [*first_picks(*stated(asked, ceiling))]


def picks(asked, ceiling=None):
    return [seating for seating in tried(asked, ceiling) if seating]


@in_blocks(4)
def test_first_picks_keep_to_every_rule(block):
    found = 0
    for seed in range(500 + block * 12, 512 + block * 12):
        asked = random_problem(seed)
        for seating in picks(asked):
            found += 1
            assert_sound(asked, seating)
            assert is_within(asked, seating.boxes)
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


def test_dives_keep_to_their_share_of_the_time(monkeypatch):
    asked = problem([router("r", ports(4)), switch("eight", ports(8))], {DESK: 8})
    monkeypatch.setattr("baugrund.core.pick.heuristics.diving.FIRST_SHARE", 1e9)
    monkeypatch.setattr("baugrund.core.pick.heuristics.diving.EARLY_SHARE", 0.0)
    monkeypatch.setattr("baugrund.core.pick.heuristics.diving.EARLY_S", 0.0)
    monkeypatch.setattr("baugrund.core.pick.heuristics.diving.DIVE_SHARE", 0.0)
    prices: list[int | None] = [None]
    dives = Diving(*stated(asked), 60.0, lambda: prices[0])
    first = next(seating for seating in dives.for_a_share() if seating)
    assert first.price_minor == 200
    # there is a pick now, and its time is used up
    prices[0] = first.price_minor
    assert list(dives.for_a_share()) == []


def test_while_there_is_no_pick_it_is_looked_for_however_long_it_takes():
    asked = problem([router("r", ports(4)), switch("eight", ports(8))], {DESK: 8})
    seatings = list(Diving(*stated(asked), -1.0, lambda: None).to_the_end())
    assert {seating.price_minor for seating in seatings if seating} == {200}


def test_a_search_leaves_nothing_behind_for_the_collector():
    """What knew one another was let go: searches would stay, each with all that it listed."""
    made = Branching, Diving, Construction, Relaxation
    gc.collect()
    gc.disable()
    try:
        for seed in range(12):
            search(random_problem(seed), "price")
        assert not [thing for thing in gc.get_objects() if type(thing) in made]
    finally:
        gc.enable()
