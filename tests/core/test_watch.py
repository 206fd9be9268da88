"""A look over the shoulder of a search: told how far it is, stopped, and counted off where many make one reply."""

from collections import Counter
from contextlib import closing
from dataclasses import replace
from threading import Event

import pytest

from baugrund.core import watch
from baugrund.core.demand.needs import Need
from baugrund.core.errors import Stopped
from baugrund.core.pick.assignment.greedy import quick_seating
from baugrund.core.pick.best import least_price
from baugrund.core.pick.enumeration.nodes import Space, pinned
from baugrund.core.pick.heuristics.warm_start import warm_start
from baugrund.core.pick.site import hinted
from baugrund.core.watch import Progress, Share, counted_off, side_by_side, tell, to_the_end, watched
from baugrund.launch.cases import made_up_closet, made_up_needs

from .small import DESK, alone, altered, cheapest, ports, problem, router, switch
from .test_seating import assert_sound

HOME = router("home", ports(4), price=100)
EIGHT = switch("eight", ports(8), price=200)
SIXTEEN = switch("sixteen", ports(16), price=330)
CASE = problem([HOME, EIGHT, SIXTEEN], {DESK: 20})


def told_by(solve):
    seen = []
    with watched(seen.append):
        found = solve()
    return found, seen


def test_a_search_tells_a_best_that_falls_and_a_bound_that_is_never_over_it():
    found, seen = told_by(lambda: cheapest(CASE))
    assert seen and all(progress.weight == "price" for progress in seen)
    best = [progress.best for progress in seen if progress.best is not None]
    assert best == sorted(best, reverse=True) and best[-1] >= found.price_minor
    assert all(progress.bound <= found.price_minor for progress in seen)


def test_a_watch_stops_a_search_by_raising():
    def stop(progress):
        raise Stopped("enough")

    with pytest.raises(Stopped), watched(stop):
        cheapest(CASE)


def test_who_does_not_watch_is_told_nothing():
    _, seen = told_by(lambda: None)
    cheapest(CASE)
    assert seen == []


def test_parts_of_one_reply_are_counted_off_and_their_inner_figures_left_out():
    inner = Progress(1, "price", 500, 300)

    def work():
        for _ in counted_off("abc"):
            tell(inner)
        tell(inner)

    _, seen = told_by(work)
    assert [(one.done, one.of, one.best) for one in seen] == [(0, 3, None), (1, 3, None), (2, 3, None), (0, 0, 500)]


def hinted_seating(case, *keys):
    case = replace(case, hint=keys)
    sets = Space(case, "price", pinned(case), frozenset(case.switches), None, None)
    return next(warm_start(sets), None)


def test_the_boxes_of_before_are_seated_again_where_they_do():
    seating = hinted_seating(CASE, "home", "sixteen", "eight")
    assert [box.model.key for box in seating.boxes] == ["home", "sixteen", "eight"]
    assert hinted_seating(CASE, "home", "eight") is None, "too few ports"
    assert hinted_seating(CASE, "home", "gone") is None, "no such model any more"
    assert hinted_seating(CASE) is None


def test_where_greed_does_not_seat_the_drops_of_before_the_program_does(catalogue):
    """One desk less has seats in the boxes that were best before, always."""
    by_greed = []
    for seed in range(6):
        needs = made_up_needs(40, seed)
        best = least_price(alone(made_up_closet(needs, catalogue))).seatings[0]
        fewer = made_up_closet(needs - Counter([Need(0, 1000, 0, 12_500)]), catalogue)
        keys = [box.model.key for box in best.boxes]
        seating = hinted_seating(fewer, *keys)
        assert_sound(fewer, seating)
        assert [box.model.key for box in seating.boxes] == keys
        by_greed.append(bool(quick_seating(fewer, seating.boxes)))
    assert not all(by_greed)


def test_boxes_that_do_not_do_are_not_seated_by_the_program_either():
    assert hinted_seating(CASE, "home", "eight") is None


@pytest.mark.parametrize(("terms", "does"), [({"units": 3}, True), ({"units": 2}, False), ({"load_kg": 2.999}, False)])
def test_the_boxes_of_before_must_still_be_housed(terms, does):
    # three boxes of one unit and one kilogram
    assert bool(hinted_seating(altered(CASE, **terms), "home", "sixteen", "eight")) is does


def test_of_an_owned_box_no_more_are_seated_than_there_are():
    case = problem([HOME, EIGHT], {DESK: 15}, owned={"eight": 1})
    seating = hinted_seating(case, "home", "eight", "eight")
    assert sorted(box.price_minor for box in seating.boxes) == [0, 100, 200]


@pytest.mark.parametrize(
    "keys", [("home", "sixteen", "eight"), ("home", "eight", "eight", "eight"), ("home",), ("gone",)]
)
def test_what_is_found_does_not_depend_on_where_the_search_begins(keys):
    site = alone(CASE)
    begun = least_price(hinted(site, {CASE.closet_id: keys}))
    assert (begun.price_minor, begun.proven) == (least_price(site).price_minor, True)


@pytest.fixture
def two_at_once(monkeypatch):
    monkeypatch.setattr(watch, "AT_ONCE", 2)


def test_searches_side_by_side_find_the_same_in_order_and_the_first_that_runs_is_told_of(two_at_once):
    second_told, first_done = Event(), Event()

    def first():
        assert second_told.wait(5)
        tell(Progress(1, "price", None, 10))
        first_done.set()
        return "one"

    def second():
        tell(Progress(2, "price", None, 20))
        second_told.set()
        assert first_done.wait(5)
        return "two"

    def third():
        tell(Progress(3, "price", None, 30))
        return "three"

    found, seen = told_by(lambda: list(side_by_side([first, second, third])))
    assert found == ["one", "two", "three"]
    assert seen[0].closet_id == 1 and {one.closet_id for one in seen} <= {1, 3}


def test_searches_that_nobody_waits_for_are_broken_off(two_at_once):
    broken, begun = Event(), Event()

    def endless():
        try:
            while True:
                begun.set()
                tell(Progress(2, "price", None, 20))
        finally:
            broken.set()

    def quick():
        assert begun.wait(5)
        return "one"

    with closing(side_by_side([quick, endless, endless])) as searches:
        assert next(searches) == "one"
    assert broken.is_set()


def test_a_watch_stops_all_searches_side_by_side(two_at_once):
    def stop(progress):
        raise Stopped("enough")

    def endless():
        while True:
            tell(Progress(1, "price", None, 10))

    with pytest.raises(Stopped), watched(stop):
        list(side_by_side([endless, endless]))


def test_a_single_search_runs_where_it_is_asked_for():
    assert list(side_by_side([lambda: "one"])) == ["one"]


def test_the_steps_of_work_that_tells_them_are_passed_on_and_what_it_comes_to_is_had():
    def work():
        yield Share(0.0, "the first half")
        yield Share(0.5, "the second")
        return 42

    seen = []
    with watched(seen.append):
        assert to_the_end(work()) == 42
    assert seen == [Share(0.0, "the first half"), Share(0.5, "the second")]
    assert to_the_end(work()) == 42, "nobody need watch"


def test_work_that_tells_its_steps_is_stopped_by_who_watches():
    begun = []

    def work():
        for step in range(9):
            begun.append(step)
            yield Share(step / 9, "")

    def stop(_):
        raise Stopped("Nobody waits.")

    with watched(stop), pytest.raises(Stopped):
        to_the_end(work())
    assert begun == [0]
