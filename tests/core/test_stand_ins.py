"""Boxes that a cheaper one stands in for, by what is asked: told only where every pick with them is beaten."""

import os
import random
from collections import Counter
from dataclasses import replace
from fractions import Fraction

import pytest

from baugrund.core.demand.needs import Need
from baugrund.core.pick.assignment.exact import Assignment
from baugrund.core.pick.branching.search import search
from baugrund.core.pick.model.links import Trunk
from baugrund.core.pick.model.problem import with_headroom
from baugrund.core.pick.presolve import instance_dominance as stand_ins
from baugrund.core.pick.presolve.instance_dominance import StandIns
from baugrund.launch.cases import made_up_catalogue, made_up_closet, made_up_needs

from .small import ACCESS_POINT, CAMERA, DESK, altered, injector, module, ports, problem, router, slots, switch

HOME = router("home", ports(8), price=100)
SMALL = switch("small", ports(9), price=100)
LARGE = switch("large", ports(24), price=300)


def leaves(asked, slowest=1000):
    """Keys of switches that need not hang off a centre, however they are linked on a port of their own."""
    told = StandIns(asked).leaves(slowest)
    return {box.model.key for box, own, _ in told if not own and (box, False, True) in told}


def centres(asked):
    return {box.model.key for box in StandIns(asked).centres}


@pytest.mark.parametrize(("desks", "told"), [(8, {"large"}), (9, set())])
def test_a_dearer_switch_is_worth_it_only_where_there_are_drops_for_its_ports(desks, told):
    assert leaves(problem([HOME, SMALL, LARGE], {DESK: desks})) == told


@pytest.mark.parametrize(("price", "told"), [(99, {"small"}), (100, set())])
def test_only_a_cheaper_one_stands_in(price, told):
    assert leaves(problem([HOME, SMALL, switch("other", ports(9), price=price)], {DESK: 8})) == told


def test_what_draws_more_than_the_budget_of_the_cheaper_one_needs_the_dearer_one():
    weak, strong = (switch(key, ports(9, poe=3), price=price, watts=watts)
                    for key, price, watts in (("weak", 100, 24.0), ("strong", 200, 60.0)))  # fmt: skip
    assert leaves(problem([HOME, weak, strong], {CAMERA: 3})) == {"strong"}
    assert leaves(problem([HOME, weak, strong], {CAMERA: 4})) == set()


def test_a_slower_link_stands_in_as_long_as_it_carries_all_that_could_come():
    slow, fast = switch("slow", ports(9), price=100), switch("fast", ports(8), ports(1, 2500), price=200)
    heavy = Need(0, 1000, 0, 100_000)
    assert leaves(problem([HOME, slow, fast], {heavy: 7})) == {"fast"}
    assert leaves(problem([HOME, slow, fast], {heavy: 8})) == set()
    assert leaves(problem([HOME, slow, fast.model_copy(update={"price_minor": 90})], {heavy: 8})) == {"slow"}


def test_an_injector_lets_a_bare_switch_stand_in_for_no_powered_one_but_asks_for_its_ports():
    powered = switch("powered", ports(9, poe=4), price=300, watts=200.0)
    asked = [HOME, SMALL, powered, injector("injector", 4)]
    assert leaves(problem(asked, {ACCESS_POINT: 2})) == set()
    slow, fast = switch("slow", ports(9, 100), price=50), SMALL
    assert leaves(problem([HOME, slow, fast, injector("injector", 4)], {ACCESS_POINT: 2})) == set()


def test_a_port_that_stays_free_for_the_link_is_part_of_what_is_held():
    eight, nine = switch("eight", ports(8), price=90), switch("nine", ports(9), price=100)
    assert leaves(problem([HOME, eight, nine], {DESK: 7})) == {"nine"}
    assert leaves(problem([HOME, eight, nine], {DESK: 8})) == set()


def test_what_is_owned_stands_in_for_nothing_and_what_is_pinned_stays():
    assert leaves(problem([HOME, SMALL, LARGE], {DESK: 8}, owned={"large": 1})) == {"large"}
    assert leaves(problem([HOME, switch("tiny", ports(2)), LARGE], {DESK: 8}, owned={"tiny": 1})) == set()
    assert leaves(problem([HOME, SMALL, LARGE], {DESK: 8}, pins={"large": 1})) == set()


def test_nothing_is_told_where_boxes_may_hang_in_chains_or_drops_ask_for_large_frames():
    assert leaves(problem([HOME, SMALL, LARGE], {DESK: 8}, chain_allowed=True)) == set()
    assert leaves(problem([HOME, SMALL, LARGE], {replace(DESK, large_frames=True): 8})) == set()


def test_slots_are_asked_for_where_links_to_other_closets_end_in_them():
    slotted = switch("slotted", ports(9), slots=slots(1), price=200)
    assert leaves(problem([HOME, SMALL, slotted, module("fibre")], {DESK: 8})) == {"slotted"}
    trunk = Trunk(2, "fibre-multimode", 10_000, 1, 1000)
    assert leaves(problem([HOME, SMALL, slotted, module("fibre")], {DESK: 8}, trunks=(trunk,))) == set()


@pytest.mark.parametrize(("slots_of_cheaper", "told"), [(2, False), (3, True)])
def test_a_link_of_its_own_takes_a_slot_from_those_to_other_closets(slots_of_cheaper, told):
    cheaper = switch("cheaper", ports(9), slots=slots(slots_of_cheaper), price=100)
    dearer = switch("dearer", ports(9), slots=slots(4), price=200)
    trunks = tuple(Trunk(number, "fibre-multimode", 10_000, 1, 1000) for number in (2, 3))
    asked = problem([HOME, cheaper, dearer, module("fibre")], {DESK: 8}, trunks=trunks)
    found = {(box.model.key, own, centres) for box, own, centres in StandIns(asked).leaves(1000)}
    assert (("dearer", True, True) in found) == told
    assert ("dearer", False, True) in found


def test_a_hub_needs_ends_for_its_links_beside_the_ports_of_its_drops():
    few, many = router("few", ports(8), price=100), router("many", ports(24), price=200)
    small = problem([few, many, SMALL], {DESK: 2}, sockets=3)
    assert centres(small) == {"many"}
    assert centres(altered(small, sockets=12)) == set()


def test_units_and_sockets_count():
    tall = switch("tall", ports(9), price=90, units=2)
    assert leaves(problem([HOME, SMALL, tall], {DESK: 8})) == set()


def least(assignment):
    found = assignment.solve().seating
    return None if found is None else found.price_minor


@pytest.mark.parametrize("role", ["leaf", "root", "hub"])
def test_every_pick_with_a_box_that_is_told_is_beaten_by_the_same_pick_with_another(role):
    """Sets of boxes around a centre, packed with the box that is told and with all others in its place."""
    beaten = sum(beaten_by_others(role, seed) for seed in range(20))
    assert beaten > 30


def beaten_by_others(role, seed):
    rng = random.Random(seed)
    needs = made_up_needs(rng.choice([6, 10, 14]), seed)
    if seed % 2:
        needs = Counter({replace(need, traffic_kbit=need.traffic_kbit // 20): some for need, some in needs.items()})
    uplink = Trunk(1, "fibre-multimode", 10_000, 1, 1000) if seed % 3 == 0 else None
    asked = made_up_closet(needs, made_up_catalogue(40, seed), (), uplink)
    told = told_in(role, asked)
    return sum(is_beaten(asked, rng, role, box) for box in rng.sample(told, min(4, len(told))))


def told_in(role, asked):
    """Boxes that are told in this role, however they are linked."""
    told, slowest = StandIns(asked), min(port.speed_mbit for box in asked.boxes for port in box.ports)
    if role == "hub":
        return [box for box in asked.boxes if box in told.centres]
    some, by = (asked.switches, told.leaves(slowest)) if role == "leaf" else (asked.roots, told.roots(slowest))
    links = [(own, centres) for own in (False, True) for centres in (False, True)]
    return [box for box in some if all((box, *link) in by for link in links if box.slots or not link[0])]


def is_beaten(asked, rng, role, box):
    """Whether a set with this box can be packed: then one with another in its place costs less."""
    root, centre, leaf = rng.choice(asked.roots), rng.choice(asked.switches), rng.choice(asked.switches)
    boxes, at, place = [root, centre, leaf], 1, {"root": 0, "hub": 1, "leaf": 2}[role]
    if role == "hub" and box.is_root:
        at = place = 0
    boxes[place] = box
    mine = least(Assignment(asked, boxes, at, "price"))
    if mine is None:
        return False
    for other in sorted(asked.roots if place == 0 else asked.switches, key=lambda one: one.cost_minor):
        boxes[place] = other
        theirs = least(Assignment(asked, boxes, at, "price"))
        if theirs is not None and theirs < mine:
            return True
    raise AssertionError(f"{box.model.key} is told, and no other is cheaper in its place")


def made_up(seed, feeds, is_fed):
    """A closet of a made-up site with links to others or to the one that feeds it, little room or much, a pin or none,
    and traffic that matters or not."""
    rng = random.Random(seed)
    needs = made_up_needs(rng.choice([5, 10, 16]), seed)
    share = rng.choice([1, 3, 30])
    needs = Counter({replace(need, traffic_kbit=need.traffic_kbit // share): some for need, some in needs.items()})
    trunks = [Trunk(number, rng.choice(["fibre-multimode", "fibre-singlemode"]), rng.choice([1000, 10_000]), 1,
                    rng.choice([5_000, 200_000, 600_000])) for number in range(2, 2 + feeds)]  # fmt: skip
    uplink = Trunk(1, "fibre-multimode", 10_000, 1, 100_000) if is_fed else None
    asked = made_up_closet(needs, made_up_catalogue(rng.choice([20, 30]), seed), trunks, uplink)
    asked = altered(asked, sockets=rng.choice([4, 8, 16]), units=rng.choice([3, 6, 24]))
    pinned = {rng.choice(asked.switches).model.key: 1} if rng.random() < 0.2 else {}
    return replace(with_headroom(asked, Fraction(1, 8)) if rng.random() < 0.2 else asked, pins=pinned)


@pytest.mark.parametrize("feeds", [0, 2])
@pytest.mark.parametrize("is_fed", [False, True])
def test_the_least_price_is_the_same_where_nothing_is_told(monkeypatch, feeds, is_fed):
    for seed in range(12 if os.environ.get("SOAK") else 4):
        found = []
        for most in (stand_ins.UP_SETS_MOST, 0):
            monkeypatch.setattr(stand_ins, "UP_SETS_MOST", most)
            found.append(search(made_up(seed, feeds, is_fed), "price", box_count=[None, None, 2][seed % 3]))
        monkeypatch.undo()
        assert all(one.certain for one in found)
        told, untold = (one.found and one.found.seating for one in found)
        assert (told and (told.price_minor, len(told.boxes))) == (untold and (untold.price_minor, len(untold.boxes)))
