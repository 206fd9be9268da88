"""Searches with help: a process of its own goes through half of the hubs, or searches a closet of several, and what
comes of it is the same."""

import gc
import math
import os
import pickle
import signal
import subprocess
import sys
import time
from collections import Counter
from dataclasses import replace
from functools import partial

import numpy as np
import pytest

from baugrund.core.demand.needs import Need
from baugrund.core.errors import InvalidInput, Stopped
from baugrund.core.pick import branching, halves, helping
from baugrund.core.pick.best import least_price
from baugrund.core.pick.branching import Branching, _other_half
from baugrund.core.pick.halves import Half, Task
from baugrund.core.pick.helping import Helper, HelperGone, Mark, begun, helped_by
from baugrund.core.pick.outcomes import cost_of
from baugrund.core.pick.proofs import Proofs
from baugrund.core.pick.search import search
from baugrund.core.pick.sets import Sets, pinned
from baugrund.core.pick.site import Site, hinted
from baugrund.core.watch import Share, side_by_side, tell, watched
from baugrund.launch.cases import made_up_closet, made_up_needs

from ..waiting import PATIENCE_S, until
from .small import some_of
from .test_pick import alone, judge, random_problem


class Thing:
    """Something that is known by which one it is."""


def doubled(numbers, mark):
    return [2 * number for number in numbers]


def names(things, mark):
    return {"first": things[0], "both": things}


def lowered(by, mark):
    mark.lower(mark.least - by)
    return os.getpid()


def taken(parts, mark):
    return [mark.take(part) for part in parts]


def refuse(mark):
    raise InvalidInput("No.")


def endless(mark):
    while True:
        tell(Share(0.5, "still"))
        time.sleep(0.01)


def asleep(mark):
    time.sleep(60)


@pytest.fixture(scope="module")
def team():
    """One helper, for whoever asks."""
    with helped_by(1):
        yield ready(helping._helpers[-1])


def ready(helper):
    """The helper, once it is free."""
    return until(lambda: helper.is_free and helper)


@pytest.fixture
def nobody(monkeypatch):
    """There is no helper but those that come now."""
    monkeypatch.setattr(helping, "_helpers", [])


@pytest.fixture
def eager(monkeypatch):
    """Every search is worth help."""
    monkeypatch.setattr(halves, "WORTH_IT", 0)


def reply(helper):
    return helper.heard(PATIENCE_S)


def test_whoever_has_help_collects_seldom_and_leaves_alone_what_was_there_before():
    before, frozen = gc.get_threshold(), gc.get_freeze_count()
    with helped_by(0):
        assert gc.get_threshold()[0] == helping.MADE_BETWEEN > before[0]
        assert gc.get_freeze_count() > frozen
    assert (gc.get_threshold(), gc.get_freeze_count()) == (before, 0)


def test_work_is_done_by_another_process_and_told(team):
    assert reply(begun(partial(doubled, [1, 2]), ())) == [2, 4]
    helper = begun(partial(lowered, 3), (), least=10)
    assert reply(helper) not in (None, os.getpid())
    assert helper.mark.least == 7


def test_what_was_handed_over_comes_back_as_itself(team):
    things = [Thing(), Thing()]
    found = reply(begun(partial(names, things), things))
    assert found["first"] is things[0] and found["both"] == things


def test_what_the_work_raises_is_raised_here(team):
    with pytest.raises(InvalidInput, match="No"):
        reply(begun(refuse, ()))
    assert reply(begun(partial(doubled, [3]), ())) == [6], "it goes on afterwards"


def test_a_helper_does_one_work_at_a_time_and_stops_when_nobody_waits(team):
    helper = begun(endless, ())
    assert begun(partial(doubled, [1]), ()) is None, "it is busy"
    told = []
    with watched(told.append):
        assert helper.heard(1.0, relay=True) is None
    assert told and told[0].text == "still"
    helper.let_go()
    ready(helper)
    assert reply(begun(partial(doubled, [1]), ())) == [2]


def test_who_stops_watching_stops_what_waits_for_a_helper(team):
    helper = begun(endless, ())

    def stop(_):
        raise Stopped("Enough.")

    with watched(stop), pytest.raises(Stopped):
        helper.heard(5.0, relay=True)
    helper.let_go()
    ready(helper)


def test_a_helper_that_is_gone_is_missed_at_once_and_not_asked_again(nobody):
    with helped_by(1):
        assert begun(asleep, ()) is None, "it is not ready yet"
        ready(helping._helpers[0])
        helper = begun(asleep, ())
        os.kill(helper._process.pid, signal.SIGKILL)
        with pytest.raises(HelperGone):
            helper.heard(10.0)
        helper._process.join(10)
        assert not helper.is_free and begun(asleep, ()) is None
    assert begun(asleep, ()) is None, "without helpers there is none"


@pytest.mark.parametrize(("seconds", "is_there"), [(0, True), (60, False)])
def test_one_that_is_gone_is_begun_again_after_a_while_once_nobody_waits_for_it(nobody, monkeypatch, seconds, is_there):
    monkeypatch.setattr(helping, "AGAIN_AFTER_S", seconds)
    with helped_by(1):
        first = ready(helping._helpers[0])._process
        with helping.elsewhere(asleep, ()):
            first.kill()
            first.join(10)
            assert begun(asleep, ()) is None
            assert helping._helpers[0]._process is first, "somebody waits for it"
        assert begun(asleep, ()) is None
        assert (helping._helpers[0]._process is not first) is is_there
        if is_there:
            assert reply(ready(helping._helpers[0]) and begun(partial(doubled, [2]), ())) == [4]
            first = helping._helpers[0]._process
    first.join(10)
    assert not first.is_alive(), "it ends with who began it"


def test_helpers_end_with_who_began_them():
    helper = Helper()
    helper.close()
    assert not helper._process.is_alive()


def test_a_mark_only_falls():
    mark = Mark.alone()
    assert Half(0, mark).least is None
    for found, least in ((9, 9), (12, 9), (7, 7)):
        mark.lower(found)
        assert (mark.least, Half(1, mark).least) == (least, least)


def closet(catalogue, seed, drops=40):
    return made_up_closet(made_up_needs(drops, seed), catalogue)


def dying(helper, monkeypatch):
    """It ends as soon as it has something to do."""
    begin = helper.begin

    def begin_and_die(*given):
        begin(*given)
        os.kill(helper._process.pid, signal.SIGKILL)

    monkeypatch.setattr(helper, "begin", begin_and_die)


def task_of(problem, first_will_do=False):
    sets = Sets(problem, "price", pinned(problem), frozenset(problem.switches), None, None)
    return Task(sets, first_will_do, 20.0)


def test_two_halves_have_every_hub_once(catalogue):
    task = task_of(closet(catalogue, 1))
    hubs = task.sets.hubs
    both = [Half(number, Mark.alone()).mine(hubs) for number in (0, 1)]
    assert sorted(map(id, both[0] + both[1])) == sorted(map(id, hubs))
    assert abs(len(both[0]) - len(both[1])) <= 1


@pytest.mark.parametrize("rounds", [(1, 1), (3, 1), (1, 40)])
def test_of_hubs_that_are_taken_in_turn_each_is_taken_once_those_of_the_own_half_first(catalogue, rounds):
    hubs, mark = task_of(closet(catalogue, 1)).sets.hubs, Mark.alone()
    both = [Half(number, mark) for number in (0, 1)]
    queues, taken = [half.in_turn(hubs) for half in both], [[], []]
    assert all(sorted(number for number, _ in queue) == list(range(len(hubs))) for queue in queues)
    assert [[hubs[number] for number, _ in queue] for queue in queues] == [
        [one for _, one in queue] for queue in queues
    ]
    while any(queues):
        for queue, mine, many in zip(queues, taken, rounds, strict=True):
            for number, some in [queue.pop(0) for _ in range(min(many, len(queue)))]:
                if mark.take(number):
                    mine.append(some)
    assert sorted(map(id, taken[0] + taken[1])) == sorted(map(id, hubs))
    for half, mine in zip(both, taken, strict=True):
        own = half.mine(hubs)
        assert mine[: len([one for one in mine if one in own])] == [one for one in own if one in mine]


@pytest.mark.parametrize("ahead", [0.0, 1.25, math.inf])
@some_of(range(8))
def test_one_half_goes_through_what_nobody_takes_from_it_and_the_other_finds_nothing_left(monkeypatch, seed, ahead):
    monkeypatch.setattr(branching, "AHEAD", ahead)
    asked = replace(random_problem(seed), chain_allowed=False)
    whole, mark = search(asked, "price").found, Mark.alone()
    task = replace(task_of(asked), ceiling=whole.bound if whole and seed % 2 else None)
    one, other = (Branching(task, Half(number, mark)).part() for number in (seed % 2, 1 - seed % 2))
    assert (one.best and cost_of(one.best, "price")) == (whole and cost_of(whole.seating, "price"))
    assert other.best is None and not (*one.unproven, *other.unproven)


def test_parts_that_were_taken_can_be_taken_again_in_the_next_search(team):
    for _ in range(2):
        helper = begun(partial(taken, (3, 3, 4)), ())
        assert reply(helper) == [True, False, True]
        assert not helper.mark.take(4) and helper.mark.take(5)


@pytest.mark.parametrize(("drops", "boxes", "is_long"), [(20, 25, True), (20, 24, False)])
def test_only_what_is_long_is_worth_help(team, catalogue, drops, boxes, is_long):
    problem = closet(catalogue, 1, drops)
    problem = replace(problem, switches=problem.switches[: boxes - len(problem.roots)])
    assert task_of(problem).is_long is is_long
    in_time = [replace(task_of(problem), seconds=seconds).is_long for seconds in (0.9, 1.0)]
    assert in_time == [False, is_long]
    with task_of(problem).elsewhere(_other_half) as there:
        assert (there is not None) is is_long
    ready(team)


def test_what_has_no_halves_is_gone_through_here(catalogue):
    problem = closet(catalogue, 1)
    assert task_of(problem).has_halves
    assert not task_of(problem, first_will_do=True).has_halves
    assert not task_of(replace(problem, chain_allowed=True)).has_halves


def test_closets_side_by_side_are_searched_whole(catalogue, monkeypatch):
    monkeypatch.setattr("baugrund.core.watch.AT_ONCE", 2)
    task = task_of(closet(catalogue, 1))
    assert list(side_by_side([lambda: task.has_halves] * 2)) == [False, False]
    assert task.has_halves


def test_of_several_closets_some_are_searched_by_a_helper(team, catalogue, monkeypatch):
    """Each by whoever is free; the picks are those that are found without help, of the very boxes of the problems."""
    monkeypatch.setattr("baugrund.core.watch.AT_ONCE", 2)
    site = Site(tuple(replace(closet(catalogue, seed), closet_id=seed) for seed in (3, 4, 5, 6)), {})
    whole, begin = [], team.begin
    monkeypatch.setattr(team, "begin", lambda work, *given: (whole.append(work), begin(work, *given))[1])
    with_help = least_price(site, PATIENCE_S)
    assert whole and {work.func.__name__ for work in whole} == {"_whole"}
    monkeypatch.setattr(helping, "_helpers", [])
    without = least_price(site, PATIENCE_S)
    assert with_help.proven and without.proven
    for one, other, problem in zip(with_help.seatings, without.seatings, site.closets, strict=True):
        assert cost_of(one, "price") == cost_of(other, "price")
        assert all(any(box is mine for mine in problem.boxes) for box in one.boxes)


def test_a_closet_whose_helper_dies_is_searched_here(nobody, catalogue, monkeypatch):
    monkeypatch.setattr("baugrund.core.watch.AT_ONCE", 2)
    site = Site(tuple(replace(closet(catalogue, seed), closet_id=seed) for seed in (3, 4)), {})
    expected = least_price(site, PATIENCE_S)
    with helped_by(1):
        dying(ready(helping._helpers[0]), monkeypatch)
        found = least_price(site, PATIENCE_S)
    assert found.proven and found.price_minor == expected.price_minor


def test_what_a_helper_says_is_heard_only_by_who_waits_for_it(team):
    """While somebody waits for a helper, whoever else looks for a free one leaves its words alone."""
    team.begin(partial(names, [1, 2]), ())
    time.sleep(0.3)
    assert not team.is_free and begun(endless, ()) is None
    assert team.heard(5.0)["both"] == [1, 2]
    ready(team)


@some_of(range(6))
def test_with_help_the_same_boxes_are_found(team, catalogue, seed, monkeypatch):
    problem = closet(catalogue, seed)
    with task_of(problem).elsewhere(_other_half) as there:
        assert there is not None, "there is help"
    ready(team)
    for weight in ("price", "power"):
        with_help = search(problem, weight)
        with monkeypatch.context() as patched:
            patched.setattr(helping, "_helpers", [])
            without = search(problem, weight)
        assert with_help.found.proven and without.found.proven
        assert cost_of(with_help.found.seating, weight) == cost_of(without.found.seating, weight)
        known = {id(box) for box in problem.boxes}
        assert all(id(box) in known for box in with_help.found.seating.boxes), "the very boxes of the problem"


def test_with_help_small_cases_equal_brute_force(team, eager):
    judged = [judge(alone(random_problem(seed)), 3, seed) for seed in range(20 if os.environ.get("SOAK") else 7)]
    assert sum(bool(one) for one in judged) > 1


def test_with_help_an_edit_begins_from_the_boxes_of_before(team, catalogue):
    for seed in (11, 12, 13):
        site = Site((closet(catalogue, seed),), {})
        before = least_price(site, PATIENCE_S)
        boxes = {site.head_end.closet_id: [box.model.key for box in before.seatings[0].boxes]}
        again = least_price(hinted(site, boxes))
        assert again.proven and again.price_minor == before.price_minor


def test_hubs_that_were_found_are_handed_over_and_what_is_known_by_who_it_is_for_is_not(catalogue):
    """Another process bounds them as this one does, with relaxations and ways to link of its own."""
    problem = replace(closet(catalogue, 5), proofs=Proofs())
    sets = task_of(problem).sets
    around = sets.relaxation(sets.hubs[0].group, *sets.hubs[0].boxes)
    there = pickle.loads(pickle.dumps(sets))
    assert "hubs" in there.__dict__ and not there._relaxations and there.problem.proofs is None
    assert {some.group.problem for some in there.hubs} == {there.problem}, "one problem, as here"
    assert [[box.model.key for box in some.boxes] for some in there.hubs] == [
        [box.model.key for box in some.boxes] for some in sets.hubs
    ]
    assert [some.least for some in there.hubs] == [some.least for some in sets.hubs]
    again = there.relaxation(there.hubs[0].group, *there.hubs[0].boxes)
    assert np.array_equal(again.table, around.table)


@pytest.mark.parametrize("is_less", [True, False])
def test_the_boxes_of_before_are_seated_by_a_helper_while_hubs_are_found_here(team, catalogue, monkeypatch, is_less):
    """Where they are not soon seated, or it is known how good they may be; what comes of it is the same without."""
    site = Site((closet(catalogue, 0),), {})
    before = least_price(site, PATIENCE_S)
    boxes = {site.head_end.closet_id: [box.model.key for box in before.seatings[0].boxes]}
    needs, desk = made_up_needs(40, 0), Counter([Need(0, 1000, 0, 12_500)])
    edited = hinted(Site((made_up_closet(needs - desk if is_less else needs + desk, catalogue),), {}), boxes)
    asked, begin = [], team.begin
    monkeypatch.setattr(team, "begin", lambda work, *given: (asked.append(work), begin(work, *given))[1])
    found = least_price(edited)
    names = [work.func.__name__ for work in asked]
    if is_less:
        assert names == ["_well_seated", "_other_half"], "first the one, then the other"
        assert "hubs" in asked[1].args[0].sets.__dict__, "they were found meanwhile"
    monkeypatch.setattr(helping, "_helpers", [])
    assert found.proven and least_price(edited).price_minor == found.price_minor


def test_where_the_helper_dies_its_half_is_gone_through_here(nobody, catalogue, monkeypatch):
    problem = closet(catalogue, 0)
    expected = search(problem, "price")
    with helped_by(1):
        dying(ready(helping._helpers[0]), monkeypatch)
        found = search(problem, "price")
    assert found.found.proven
    assert cost_of(found.found.seating, "price") == cost_of(expected.found.seating, "price")


def test_who_is_told_that_it_failed_leaves_the_helper_to_others(team):
    with pytest.raises(InvalidInput), helping.elsewhere(refuse, ()) as there:
        try:
            there.reply(wait=True)
        finally:
            later = begun(endless, ())
    assert later is team and later.heard(0.5) is None, "it was not stopped"
    later.let_go()
    ready(team)


def test_a_half_that_is_over_leaves_its_helper_to_others(team, catalogue):
    with pytest.raises(Stopped), task_of(closet(catalogue, 8)).elsewhere(_other_half) as there:
        assert there.reply(wait=True).best is not None
        later = begun(endless, ())
        raise Stopped("Enough.")
    assert later is team and later.heard(0.5) is None and not later.is_free, "it goes on"
    later.let_go()
    ready(team)


def test_a_search_that_is_stopped_lets_its_helper_go(team, catalogue):
    def stop(_):
        raise Stopped("Enough.")

    with watched(stop), pytest.raises(Stopped):
        search(closet(catalogue, 4), "price")
    ready(team)


def test_who_searches_takes_one_core_and_leaves_the_other_to_helpers():
    """Sums over matrices begin no threads of their own."""
    sums = "import baugrund, numpy, os; numpy.ones((300, 300)) @ numpy.ones((300, 300))"
    code = f"{sums}; print(len(os.listdir('/proc/self/task')))"
    mine = {name: value for name, value in os.environ.items() if name != "OPENBLAS_NUM_THREADS"}
    assert subprocess.run([sys.executable, "-c", code], env=mine, capture_output=True, check=True).stdout == b"1\n"
