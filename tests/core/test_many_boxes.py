"""Of many boxes, centres whose ports are as fast are bounded together, and a first pick is looked for around the best of
them: what comes of it is the same."""

from dataclasses import replace

import pytest

from baugrund.core.pick.branching.search import search
from baugrund.core.pick.enumeration import nodes as sets
from baugrund.core.pick.enumeration import stages
from baugrund.core.pick.heuristics import kernel_search as kernel
from baugrund.core.pick.model.outcomes import cost_of
from baugrund.launch.cases import made_up_catalogue

from .small import in_blocks, some_of, task_of
from .small import made_up as closet
from .test_pick import alone, judge, random_problem, random_site


@pytest.fixture
def large(monkeypatch):
    """Every case has many boxes."""
    monkeypatch.setattr(sets, "MANY_BOXES", 0)


@in_blocks(24)
def test_small_cases_treated_as_large_ones_equal_brute_force(large, block):
    judged = [judge(alone(random_problem(seed)), 3, seed) for seed in range(7_000 + block * 5, 7_005 + block * 5)]
    assert any(judged)


@in_blocks(6)
def test_sites_treated_as_large_ones_equal_brute_force(large, block):
    judged = [judge(random_site(seed), 2, seed) for seed in range(7_500 + block * 10, 7_510 + block * 10)]
    assert any(judged)


@pytest.mark.parametrize("weight", ["price", "power"])
@some_of(range(5))
def test_hubs_together_and_apart_the_same_boxes_are_best(catalogue, seed, weight, monkeypatch):
    problem = closet(catalogue, seed, 30)
    apart = search(problem, weight)
    monkeypatch.setattr(sets, "MANY_BOXES", 0)
    together = search(problem, weight)
    assert apart.found.proven and together.found.proven
    assert cost_of(together.found.seating, weight) == cost_of(apart.found.seating, weight)


def test_hubs_are_bounded_together_from_so_many_boxes_on(catalogue, monkeypatch):
    problem = closet(catalogue, 1, 30)
    counted = []
    for most in (len(problem.boxes), len(problem.boxes) + 1):
        monkeypatch.setattr(sets, "MANY_BOXES", most)
        mine = task_of(problem).space
        counted.append(len(mine.centre_groups))
    assert counted[0] < counted[1], "fewer groups"


def test_where_there_is_little_time_hubs_are_bounded_apart(catalogue, large):
    asked = task_of(closet(catalogue, 1, 30)).space
    assert [replace(asked, seconds=seconds).is_large for seconds in (0.9, 1.0)] == [False, True]


def test_around_hubs_together_links_end_in_as_many_slots_as_each_has(catalogue, large):
    """Sets that are listed around a centre have no more links in slots than it has, and none begins with a link in a slot
    of a centre without any."""
    mine = task_of(closet(catalogue, 1, 30)).space
    several = next(some for some in mine.centre_groups if len({centre.slot_count for centre in some.boxes}) > 1)
    relaxation = mine.relaxation(several.group, *several.boxes)
    for node in mine.starts(relaxation, {}):
        whole = relaxation.bound(node.least, node.most)
        for part in node.by_number(whole.takes[len(relaxation.boxes)]):
            bound = relaxation.bound(part.least, part.most)
            _, listed, _ = stages.Stages(mine, 1).next_configurations(
                bound.least, replace(part, bound=bound), round(bound.least * 1.05),
            )  # fmt: skip
            pieces = mine.construction(relaxation).pieces
            in_slot = [*pieces.in_slot.tolist(), False]
            for start, came in zip(listed.starts.tolist(), listed.came.tolist(), strict=True):
                assert 0 <= sum(in_slot[k] for k in came) <= pieces.starts[start].slots


def test_a_first_pick_of_many_boxes_is_no_reason_to_stop(monkeypatch):
    """However few boxes a first pick is looked for among, and whether all cheaper sets are listed at once or not, the
    best is the same."""
    problem = closet(made_up_catalogue(120, 3), 1, 30)
    assert task_of(problem).space.is_large
    found = []
    for few, begun in ((12, 300_000), (1, 300_000), (1000, 300_000), (12, 1)):
        monkeypatch.setattr(kernel, "FEW", few)
        monkeypatch.setattr(stages, "BEGUN_AT_ONCE", begun)
        found.append(search(problem, "price"))
    assert all(one.found.proven for one in found)
    assert len({cost_of(one.found.seating, "price") for one in found}) == 1
