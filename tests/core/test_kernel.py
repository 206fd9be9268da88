"""A first pick among the few boxes that promise most, and picks that are good enough."""

from dataclasses import replace

import pytest

from baugrund.core.pick.best import least_price
from baugrund.core.pick.branching.branch_and_bound import Branching
from baugrund.core.pick.branching.search import search
from baugrund.core.pick.heuristics import kernel_search as kernel
from baugrund.core.pick.model.outcomes import cost_of
from baugrund.core.pick.site import Site
from baugrund.core.watch import watched
from baugrund.launch.cases import made_up_catalogue, made_up_closet, made_up_needs

from .small import some_of, task_of
from .test_seating import assert_sound


@pytest.fixture(scope="module")
def many():
    return made_up_catalogue(130, 5)


def asked_of(catalogue, seed, drops=40):
    return made_up_closet(made_up_needs(drops, seed), catalogue)


def test_few_are_the_boxes_that_promise_most(many):
    task = task_of(asked_of(many, 1))
    few = kernel.kernel(task, None).space.problem
    assert len(few.roots) <= kernel.FEW and len(few.switches) == kernel.FEW
    assert set(few.boxes) <= set(task.space.problem.boxes)


def test_what_is_pinned_is_among_the_few(many):
    asked = asked_of(many, 1)
    dearest = max(asked.switches, key=lambda box: box.price_minor)
    pinned = replace(asked, pins={dearest.model.key: 1})
    few = kernel.kernel(task_of(pinned), None)
    assert dearest in few.space.problem.switches
    found = Branching(few).run().found
    assert dearest in found.seating.boxes


def test_there_are_no_few_of_few_nor_where_any_pick_will_do(many):
    task = task_of(asked_of(many, 1))
    assert kernel.kernel(task_of(task.space.problem, first_will_do=True), None) is None
    few = kernel.kernel(task, None)
    assert kernel.kernel(few, None) is None


@some_of(range(6))
def test_a_pick_among_few_is_one_of_all_and_close_to_the_best(many, seed):
    asked = asked_of(many, seed)
    found = Branching(kernel.kernel(task_of(asked), None)).run().found.seating
    best = search(asked, "price").found
    assert_sound(asked, found)
    assert best.proven and best.seating.price_minor <= found.price_minor <= 1.1 * best.seating.price_minor


def test_what_a_pick_costs_that_is_known_is_never_passed(many):
    asked = asked_of(many, 2)
    best = search(asked, "price").found.seating.price_minor
    for known in (best, best - 1):
        found = Branching(kernel.kernel(task_of(asked), known)).run().found
        assert found is None or (found.seating.price_minor <= known and known == best)


@pytest.mark.parametrize("gap", [0.02, 0.2])
@some_of(range(4))
def test_a_pick_that_is_good_enough_is_no_dearer_than_its_bound_by_more_than_was_asked(many, seed, gap):
    asked = asked_of(many, seed)
    best = search(asked, "price").found.seating.price_minor
    enough = search(asked, "price", gap=gap)
    price, bound = enough.found.seating.price_minor, enough.found.bound
    assert bound <= best <= price and price - bound <= gap * price
    assert not enough.found.proven and not enough.certain


def test_of_few_boxes_the_best_is_found_whatever_would_be_good_enough(catalogue):
    asked = asked_of(catalogue, 1)
    found, best = search(asked, "price", gap=0.3), search(asked, "price")
    assert found.found.proven and cost_of(found.found.seating, "price") == cost_of(best.found.seating, "price")


def test_a_site_is_good_enough_where_each_of_its_closets_is(many):
    closets = [replace(asked_of(many, seed), closet_id=seed + 1) for seed in (0, 1)]
    found = least_price(Site(tuple(closets), {}), 20.0, 0.03)
    assert found.price_minor - found.bound <= 0.03 * found.price_minor
    assert found.bound <= least_price(Site(tuple(closets), {})).price_minor


def test_while_a_first_pick_is_looked_for_no_bound_is_told(many):
    """Among few boxes a bound is none of all."""
    asked, told = asked_of(many, 3, 60), []
    with watched(told.append):
        best = search(asked, "price").found.seating.price_minor
    assert told and all(progress.bound <= best for progress in told)
