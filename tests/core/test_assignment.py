"""Which drop sits where, against every seating there is."""

import itertools
import random
from dataclasses import replace
from fractions import Fraction

import pytest

from baugrund.core.demand.needs import Demand, DropNeed
from baugrund.core.pick.assignment.preferred import assigned
from baugrund.core.pick.standing import Boxes, any_seating, given

from .small import ACCESS_POINT, CAMERA, DESK, injector, ports, problem, router, slots, switch

ROUTER = router("router", ports(4), watts=0)
SMALL = switch("small", ports(4, poe=3), ports(1), watts=40)
LARGE = switch("large", ports(3, 2500, poe=4), ports(1, 2500), watts=70)


def demand(needs):
    return Demand(0, tuple(DropNeed(need, "desk", number) for number, need in enumerate(needs, 1)), ())


def settled(models, needs, boxes, extras=(), **terms):
    """The seating that the selection names for these boxes, and the needs as they were asked for."""
    counts = {need: needs.count(need) for need in needs}
    narrowed = given(problem(models, counts, **terms), Boxes(tuple(boxes), tuple(extras)))
    found = any_seating(narrowed)
    if found is None:
        return None, narrowed
    return assigned(((narrowed.problem, found),), {0: demand(needs)}, keeps_extras=False)[0], narrowed


def fullest(seating):
    """How full the fullest link and the fullest budget of a seating are."""
    link = max((Fraction(one.traffic_kbit, one.option.rate_mbit * 700) for one in seating.links), default=Fraction(0))
    budgets = [
        Fraction(seating.power_used_mw(place), box.model.poe_budget_mw)
        for place, box in enumerate(seating.boxes)
        if box.model.poe_budget_mw
    ]
    return link, max(budgets, default=Fraction(0))


def every_fullness(needs, boxes, injectors):
    """The same of every star of these catalogue boxes there is, all ports and links tried one at a time."""
    groups = [(at, group) for at, box in enumerate(boxes) for group in box.ports]
    for hub in range(len(boxes)):
        leaves = [place for place in range(len(boxes)) if place != hub]
        for ends in itertools.product(
            *([(up, down) for up in boxes[hub].ports for down in boxes[leaf].ports] for leaf in leaves)
        ):
            for seats in itertools.product(range(len(groups)), repeat=len(needs)):
                for fed in itertools.product((False, True), repeat=len(needs)):
                    found = _fullness(needs, boxes, injectors, groups, hub, leaves, ends, seats, fed)
                    if found is not None:
                        yield found


def _fullness(needs, boxes, injectors, groups, hub, leaves, ends, seats, fed):
    if sum(fed) > injectors or any(by and not need.poe_rank for by, need in zip(fed, needs, strict=True)):
        return None
    left = {id(group): group.count for _, group in groups}
    watts, traffic = [0] * len(boxes), [0] * len(boxes)
    for up, down in ends:
        left[id(up)] -= 1
        left[id(down)] -= 1
    for need, at, by in zip(needs, seats, fed, strict=True):
        place, group = groups[at]
        left[id(group)] -= 1
        traffic[place] += need.traffic_kbit
        if need.speed_mbit > group.speed_mbit or (need.poe_rank > (group.poe_class or 0) and not by):
            return None
        watts[place] += 0 if by else need.power_mw
    if min(left.values()) < 0 or any(w > box.poe_budget_mw for w, box in zip(watts, boxes, strict=True)):
        return None
    total, link = sum(traffic), Fraction(0)
    for leaf, (up, down) in zip(leaves, ends, strict=True):
        crossing = traffic[leaf] if leaf else total - traffic[0]
        link = max(link, Fraction(crossing, min(up.speed_mbit, down.speed_mbit) * 700))
    if link > 1:
        return None
    budgets = [Fraction(w, box.poe_budget_mw) for w, box in zip(watts, boxes, strict=True) if box.poe_budget_mw]
    return link, max(budgets, default=Fraction(0))


@pytest.mark.parametrize("seed", range(8))
def test_the_fullest_link_then_the_fullest_budget_are_as_little_full_as_any_seating_has_them(seed):
    draw = random.Random(seed)
    boxes = [ROUTER, *draw.sample([SMALL, LARGE], draw.randint(1, 2))]
    kinds = [DESK, replace(DESK, traffic_kbit=40_000), CAMERA, ACCESS_POINT, replace(CAMERA, power_mw=12_500)]
    needs = [draw.choice(kinds) for _ in range(draw.randint(3, 4))]
    extras = [("feeder", 1)] if draw.random() < 0.5 else []
    seating, _ = settled([*boxes, injector("feeder", 4)], needs, [box.key for box in boxes], extras)
    best = min(every_fullness(needs, boxes, len(extras)), default=None)
    assert (None if seating is None else fullest(seating)) == best


def test_drops_that_come_first_on_the_list_sit_on_boxes_that_come_first():
    early, late = replace(DESK, traffic_kbit=1), replace(DESK, traffic_kbit=2)
    two = [router("router", ports(2)), switch("first", ports(2)), switch("second", ports(2))]
    for needs in ([early, late], [late, early]):
        seating, _ = settled([two[0], two[1]], needs, ["router", "first"])
        at = {seat.need: seat.box for seat in seating.seats}
        # one port of the router is left by the link; the lighter drop goes behind it, whoever comes first
        assert (at[late], at[early]) == (0, 1)
    equal = [replace(DESK, poe_rank=0, power_mw=n) for n in (1, 2)]
    for needs in (equal, equal[::-1]):
        seating, _ = settled([two[0], two[1]], needs, ["router", "first"])
        assert {seat.need: seat.box for seat in seating.seats}[needs[0]] == 0


def test_a_link_on_the_fast_ports_is_less_full_than_one_on_the_slow_ones():
    fast = router("router", ports(2), ports(1, 2500))
    end = switch("end", ports(6), ports(1, 2500))
    seating, _ = settled([fast, end], [DESK] * 5, ["router", "end"])
    assert seating.links[0].option.rate_mbit == 2500


def test_a_chain_is_laid_out_so_that_its_fullest_link_is_least_full():
    boxes = [router("router", ports(2)), switch("middle", ports(3)), switch("end", ports(3))]
    seating, _ = settled(boxes, [DESK] * 5, ["router", "middle", "end"], chain_allowed=True)
    assert seating is None
    boxes = [router("router", ports(2)), switch("middle", ports(5)), switch("end", ports(5))]
    seating, _ = settled(boxes, [DESK] * 6, ["router", "middle", "end"], chain_allowed=True)
    assert fullest(seating)[0] == Fraction(3 * 12_500, 700_000)


def test_the_same_boxes_are_seated_the_same_whatever_seating_was_found_before():
    models = [ROUTER, SMALL, LARGE, switch("fibre", ports(8), slots=slots(2))]
    needs = [DESK, CAMERA, ACCESS_POINT, DESK, CAMERA]
    counts = {need: needs.count(need) for need in needs}
    narrowed = given(problem(models, counts), Boxes(("router", "small", "large")))
    found = any_seating(narrowed)
    once = assigned(((narrowed.problem, found),), {0: demand(needs)})[0]
    again = assigned(((narrowed.problem, once),), {0: demand(needs)})[0]
    told = [{(s.need, s.box, s.port, s.count) for s in seating.seats} for seating in (once, again)]
    assert told[0] == told[1]
