"""Sets of boxes packed: what parts allow and whole drops do not, limits from both sides, stars and chains."""

from dataclasses import replace

import pytest

from baugrund.core.demand.needs import Need
from baugrund.core.pick.assignment.exact import Assignment, assign, centres_of

from .small import CAMERA, DESK, cheapest, injector, module, names, ports, problem, router, slots, switch
from .test_seating import assert_sound, box

HOME = router("home", ports(4))


def strong(watts, **more):
    return Need(more.pop("rank", 6), 1000, watts * 1000, 12_000, **more)


def of(asked, *keys):
    return tuple(box(asked, key) for key in keys)


def test_sixty_and_thirty_watts_do_not_fit_two_boxes_of_fifty():
    """The watts suffice in all, and in parts, but no one box gives 60 W."""
    fifty = switch("fifty", ports(4, poe=6), watts=50)
    asked = problem([HOME, fifty], {strong(60): 1, strong(30): 1})
    boxes = of(asked, "home", "fifty", "fifty")
    in_parts = Assignment(asked, boxes, 0, "price")
    assert in_parts.least == pytest.approx(300)
    assert in_parts.solve().seating is None and in_parts.solve().proven
    sixty = problem([HOME, switch("sixty", ports(4, poe=6), watts=60)], {strong(60): 1, strong(30): 1})
    found = assign(sixty, of(sixty, "home", "sixty", "sixty"), "price")
    assert sorted(found.seating.power_used_mw(place) for place in range(3)) == [0, 30_000, 60_000]


@pytest.mark.parametrize(("desks", "fits"), [(6, True), (7, False)])
def test_ports_left_by_the_links_are_those_that_are_seated(desks, fits):
    # 4 + 4 ports less two ends of the link
    asked = problem([HOME, switch("four", ports(4))], {DESK: desks})
    found = assign(asked, of(asked, "home", "four"), "price")
    assert found.proven and (found.seating is not None) is fits


@pytest.mark.parametrize(("ceiling", "fits"), [(250, True), (249, False)])
def test_a_ceiling_holds_boxes_and_injectors_together(ceiling, fits):
    asked = problem([HOME, switch("four", ports(4)), injector("inj", 3, price=25)], {CAMERA: 2})
    found = assign(asked, of(asked, "home", "four"), "price", ceiling)
    assert found.proven and (found.seating is not None) is fits


def test_of_injectors_as_dear_the_thriftier_feeds():
    asked = problem([HOME, injector("warm", 3, own=2.0), injector("cool", 3, own=1.0)], {CAMERA: 2})
    # the filter of injectors would drop the warm one before: both are looked at here
    both = replace(asked)
    both.__dict__["injectors_for"] = {need: asked.injectors for need, _ in asked.needs}
    seating = assign(both, of(asked, "home"), "price").seating
    assert [one.model.key for one in seating.injectors.elements()] == ["cool", "cool"]


def test_the_thriftier_supply_feeds_where_power_counts():
    models = [HOME, switch("warm", ports(4, poe=3), watts=60, efficiency_percent=70, price=50),
              switch("cool", ports(4, poe=3), watts=60, efficiency_percent=95, price=90)]  # fmt: skip
    asked = problem(models, {CAMERA: 2})
    seating = assign(asked, of(asked, "home", "warm", "cool"), "power").seating
    assert {seating.boxes[seat.box].model.key for seat in seating.seats} == {"cool"}


def test_where_nothing_is_listed_a_router_alone_is_the_least():
    asked = problem([HOME, switch("four", ports(4))], {})
    assert assign(asked, of(asked, "home"), "price").seating.price_minor == 100
    assert names(cheapest(asked)) == ["home"]


def test_a_chain_joins_what_no_star_can():
    """Boxes of two and three ports: in a star no centre has ends for three links, in a row every box has."""
    models = [router("r", ports(2)), switch("three", ports(3))]
    centre = problem(models, {DESK: 4})
    boxes = of(centre, "r", "three", "three", "three")
    assert centres_of(centre, boxes) == [0, 1]
    assert assign(centre, boxes, "price").seating is not None
    # with one box more no centre has ends for all, while a row of five has: 14 ports less 8 ends
    longer = (*boxes, box(centre, "three"))
    assert assign(replace(centre, needs=((DESK, 6),)), longer, "price").seating is None
    row = replace(centre, needs=((DESK, 6),), chain_allowed=True)
    found = assign(row, longer, "price")
    assert centres_of(row, longer) == [None]
    assert_sound(row, found.seating)
    assert assign(replace(row, needs=((DESK, 7),)), longer, "price").seating is None


@pytest.mark.parametrize("chain_allowed", [False, True])
def test_a_hub_that_stops_large_frames_parts_those_who_ask(chain_allowed):
    large = replace(DESK, large_frames=True)
    plain, passing = switch("plain", ports(4), large_frames=False), switch("passing", ports(3))
    asked = problem([router("r", ports(2)), plain, passing], {large: 4}, chain_allowed=chain_allowed)
    boxes = of(asked, "r", "passing", "passing")
    # router, centre and one more: all pass large frames
    assert_sound(asked, assign(asked, boxes, "price").seating)
    # two boxes that pass them beside one that does not: three drops or fewer sit together on one
    few = replace(asked, needs=((large, 2),), chain_allowed=chain_allowed)
    stopped = assign(few, of(asked, "r", "plain", "passing"), "price").seating
    assert {stopped.boxes[seat.box].model.large_frames for seat in stopped.seats} == {True}
    dull = problem([router("r", ports(2), large_frames=False), plain, passing], {large: 4}, chain_allowed=chain_allowed)
    assert assign(dull, of(dull, "r", "passing", "passing"), "price").seating is None


def test_modules_are_used_in_their_number():
    models = [router("r", ports(1), slots=slots(2)), switch("s", ports(4), slots=slots(1)), module("mm")]
    asked = problem(models, {DESK: 9}, owned={"mm": 3})
    boxes = of(asked, "r", "s", "s")
    bought = assign(asked, boxes, "price").seating
    assert sorted((one.price_minor, many) for one, many in bought.modules.items()) == [(0, 3), (30, 1)]
    owned = replace(asked, modules=tuple(one for one in asked.modules if one.most is not None))
    assert assign(owned, boxes, "price").seating is None
    assert assign(replace(owned, needs=((DESK, 7),)), boxes, "price").seating is not None
