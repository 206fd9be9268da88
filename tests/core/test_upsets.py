"""Up-sets: ports suffice for every one of them exactly when the drops can be seated, as a maximum flow says."""

import random
from collections import Counter
from dataclasses import replace
from itertools import combinations_with_replacement

import networkx as nx
import numpy as np
import pytest

from baugrund.core.demand.needs import Need
from baugrund.core.pick.assignment.exact import assign
from baugrund.core.pick.bounds.capacities import Enough, Holding
from baugrund.core.pick.model.links import Trunk
from baugrund.core.pick.model.up_sets import MOST_CORNERS, up_sets

from .small import ACCESS_POINT, CAMERA, DESK, injector, module, ports, problem, router, slots, switch

TOLD = Counter()
"""How often boxes were told to be enough, and whether they were."""

SPEEDS, CLASSES = (100, 1000, 2500), (0, 3, 4)


def seated(box, needs):
    """How many drops a box's ports can take at most, by maximum flow."""
    graph = nx.DiGraph()
    for n, (need, count) in enumerate(needs.items()):
        graph.add_edge("all", ("need", n), capacity=count)
        for g, port in enumerate(box.ports):
            if port.speed_mbit >= need.speed_mbit and port.poe_rank >= need.poe_rank:
                graph.add_edge(("need", n), ("port", g), capacity=count)
    for g, port in enumerate(box.ports):
        graph.add_edge(("port", g), "taken", capacity=port.count)
    graph.add_node("taken")
    return nx.maximum_flow_value(graph, "all", "taken") if graph.has_node("all") else 0


@pytest.mark.parametrize("seed", range(60))
def test_ports_suffice_for_every_up_set_exactly_when_all_drops_can_be_seated(seed):
    rng = random.Random(seed)
    groups = {(rng.choice(SPEEDS), rng.choice([None, 3, 4])): rng.randint(1, 4) for _ in range(3)}
    one = switch("s", *(ports(many, speed, poe) for (speed, poe), many in groups.items()), watts=900 if any(
        poe for _, poe in groups) else 0)  # fmt: skip
    needs = {Need(rng.choice(CLASSES), rng.choice(SPEEDS), 0, 0): rng.randint(1, 3) for _ in range(4)}
    asked = problem([router("r", ports(1)), one], needs)
    box = next(b for b in asked.switches if b.model.key == "s")
    sets = up_sets(asked)
    short = [up_set for up_set, held in zip(sets, Holding(sets, [box]).alone[0], strict=True) if held < up_set.count]
    total = sum(needs.values())
    # three corners are enough for three classes
    assert len(CLASSES) <= MOST_CORNERS
    assert (seated(box, needs) == total) is (not short)


def sets_by_corners(asked):
    # the whole up-set where the busiest drops have the same corners
    return {frozenset(up_set.corners): up_set for up_set in reversed(up_sets(asked))}


def test_an_injector_takes_a_drop_out_of_a_set_unless_a_bare_corner_keeps_it():
    camera, desk, fast = Need(3, 100, 8_000, 6_000), Need(0, 1000, 0, 12_500), Need(3, 1000, 8_000, 6_000)
    models = [router("r", ports(4)), switch("s", ports(8)), injector("inj", 3, price=50)]
    found = sets_by_corners(problem(models, {camera: 2, desk: 3, fast: 1}))
    powered = found[frozenset({(100, 3)})]
    assert (powered.count, powered.bare, powered.curable, powered.cure_minor) == (3, 0, (0, 1), 50)
    # a fast powered drop stays among the fast ones when an injector feeds it
    every_fast = found[frozenset({(1000, 0)})]
    assert (every_fast.count, every_fast.bare, every_fast.curable, every_fast.cure_minor) == (4, 4, (), None)
    both = found[frozenset({(100, 3), (1000, 0)})]
    assert (both.count, both.bare, both.cure_minor) == (6, 4, 50)


def test_what_no_injector_serves_is_never_cured():
    strong = Need(6, 1000, 40_000, 6_000)
    found = up_sets(problem([router("r", ports(4)), injector("inj", 3)], {strong: 1}))
    assert all((up_set.curable, up_set.cure_minor, up_set.bare) == ((), None, 0) for up_set in found)


@pytest.mark.parametrize(("watts", "held"), [(23.9, 2), (24, 3), (100, 4)])
def test_a_box_holds_as_many_as_its_watts_feed_least_hungry_first(watts, held):
    needs = {Need(3, 100, mw, 0): 1 for mw in (8_000, 7_000, 9_000, 12_000)}
    asked = problem([router("r", ports(1)), switch("s", ports(4, poe=3), watts=watts)], needs)
    sets = up_sets(asked)
    (number,) = [number for number, one in enumerate(sets) if one.count == 4]
    assert Holding(sets, asked.switches).alone[0, number] == held


@pytest.mark.parametrize(("carries", "held"), [(299_999, 1), (300_000, 2), (10**9, 3)])
def test_few_of_the_busiest_go_behind_a_slow_link(carries, held):
    busy = Need(0, 1000, 0, 150_000)
    asked = problem([router("r", ports(1)), switch("s", ports(4))], {busy: 3, Need(0, 1000, 0, 1_000): 5})
    sets = up_sets(asked)
    number = next(number for number, one in enumerate(sets) if one.count == 3)
    holding, first, none = Holding(sets, asked.switches), np.array([0]), np.array([-1])
    assert holding.linked(first, none, np.array([carries]))[0, number] == held
    # its own link takes a port: of four ports three are left
    assert holding.linked(first, np.array([0]))[0, number] == 3


def test_links_on_ports_leave_the_rest_the_slow_ones_first():
    asked = problem([router("r", ports(1)), switch("s", ports(2), ports(3, 2500))], {Need(0, 2500, 0, 0): 1})
    holding = Holding(up_sets(asked), asked.switches)
    assert holding.left_by_links(0, []) == 3
    assert holding.left_by_links(0, [1000, 1000]) == 3
    assert holding.left_by_links(0, [1000, 1000, 1000]) == 2
    assert holding.left_by_links(0, [2500, 1000]) == 2


@pytest.mark.parametrize("seed", range(150))
def test_boxes_that_are_told_too_small_bear_nothing_however_drops_are_seated(seed):
    rng = random.Random(seed)
    kinds = [DESK, CAMERA, ACCESS_POINT, Need(0, 10_000, 0, 9_000)]
    needs = Counter(rng.choice(kinds) for _ in range(rng.randint(2, 9)))
    models = [router("home", ports(rng.choice((1, 4))))]
    for number in range(3):
        groups = [ports(rng.randint(1, 5), rng.choice((1000, 10_000)), rng.choice((None, 3, 4))) for _ in range(2)]
        watts = rng.choice((10, 30, 60)) if any(group.poe_class for group in groups) else 0
        models.append(switch(f"switch-{number}", *groups, watts=watts))
    if rng.random() < 0.3:
        models.append(injector("brick", rng.choice((3, 4))))
    asked = problem(models, needs)
    enough = Enough(asked)
    for count in (0, 1, 2):
        for chosen in combinations_with_replacement(asked.switches, count):
            boxes = (asked.roots[0], *chosen)
            fits = assign(asked, boxes, "price").seating is not None
            assert enough(boxes) or not fits
            TOLD[enough(boxes), fits] += 1


def test_most_boxes_that_are_too_small_are_told_so():
    assert TOLD[False, False] > 4 * TOLD[True, False] and TOLD[True, True] > 100


def test_a_link_to_another_closet_needs_an_end_in_one_of_the_boxes():
    fibre = Trunk(2, "fibre-multimode", 10_000, ends=1, traffic_kbit=1000)
    for more, told in (({}, False), ({"slots": slots(1)}, True)):
        asked = replace(
            problem([router("home", ports(4)), switch("eight", ports(8), **more), module("short")], {DESK: 2}),
            trunks=(fibre,),
        )
        assert Enough(asked)((asked.roots[0], asked.switches[0])) is told
