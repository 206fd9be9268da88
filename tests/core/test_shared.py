"""What closets share: owned kit is there once, pins ask for a box somewhere, links between closets end in boxes."""

from dataclasses import replace

import pytest

from baugrund.core.demand.needs import Need
from baugrund.core.pick.best import fewest_boxes, least_price, most_room
from baugrund.core.pick.branching.search import search
from baugrund.core.pick.model.links import Trunk
from baugrund.core.pick.site import Site, price_rank, share

from .small import DESK, cheapest, module, names, ports, problem, router, slots, switch

HOME = router("home", ports(8), price=100)
MODELS = [HOME, switch("small", ports(8), price=50), switch("large", ports(24), price=400)]
COPPER = Trunk(2, "copper", 1000, 1, 12_500)


def two(models, here, there, trunk=COPPER, pins=None, **terms):
    """A site of a head end and one further closet, with so many desks in each."""
    head = problem(models, {DESK: here}, trunks=(trunk,), **terms)
    far = problem(models, {DESK: there}, uplink=trunk, **terms)
    return Site((head, far), pins or {})


def test_each_closet_gets_its_boxes_and_the_link_takes_a_port_at_both_ends():
    assert names(least_price(two(MODELS, 7, 7))) == ["home", "small"]
    # an eighth desk leaves no port for the link: at the router, at the far switch
    assert names(least_price(two(MODELS, 8, 7))) == ["home", "small", "small"]
    assert names(least_price(two(MODELS, 7, 8))) == ["home", "small", "small"]


@pytest.mark.parametrize(("ends", "boxes"), [(1, 2), (2, 3)])
def test_cables_side_by_side_take_a_port_each(ends, boxes):
    found = least_price(two(MODELS, 7, 6, replace(COPPER, ends=ends)))
    assert found.box_count == boxes


def test_what_is_owned_once_stands_in_the_closet_where_it_saves_most():
    models = [HOME, switch("small", ports(8), price=50), switch("fine", ports(24), price=900)]
    # nine desks in the far closet want two small ones; the owned one does both
    found = least_price(two(models, 9, 15, owned={"fine": 1}))
    assert names(found) == ["home", "small", "fine"]
    assert found.price_minor == 100 + 50
    twice = least_price(two(models, 9, 15, owned={"fine": 2}))
    assert (names(twice), twice.price_minor) == (["home", "fine", "fine"], 100)


def test_an_owned_module_is_laid_once():
    models = [
        router("home", ports(2), price=100, slots=slots(2)), switch("lit", ports(8), price=50, slots=slots(1)),
        module("sr", price=30),
    ]  # fmt: skip
    fibre = Trunk(2, "fibre-multimode", 10_000, 1, 12_500)
    assert least_price(two(models, 2, 3, fibre)).price_minor == 100 + 50 + 60
    assert least_price(two(models, 2, 3, fibre, owned={"sr": 1})).price_minor == 100 + 50 + 30


@pytest.mark.parametrize(
    ("pins", "boxes"),
    [
        ({}, ["home", "small"]), ({"large": 1}, ["home", "large"]), ({"large": 2}, ["home", "large", "large"]),
        ({"small": 2}, ["home", "small", "small"]), ({"home": 1}, ["home", "small"]), ({"home": 2}, None),
        ({"gone": 1}, None),
    ],
)  # fmt: skip
def test_a_pin_asks_for_a_box_in_whichever_closet_it_costs_least(pins, boxes):
    assert names(least_price(two(MODELS, 3, 3, pins=pins))) == boxes


def test_fibre_wants_slots_and_modules_of_its_kind_at_both_ends():
    models = [
        router("home", ports(8), price=100, slots=slots(1)), switch("dark", ports(8), price=50),
        switch("lit", ports(8), price=90, slots=slots(1)), module("sr", price=30),
        module("lx", medium="fibre-singlemode", price=10),
    ]  # fmt: skip
    fibre = Trunk(2, "fibre-multimode", 10_000, 1, 12_500)
    found = least_price(two(models, 3, 3, fibre))
    assert (names(found), found.price_minor) == (["home", "lit"], 100 + 90 + 60)
    assert least_price(two(models, 3, 3, replace(fibre, speed_mbit=1_000))) is None, "no module of that speed"
    assert least_price(two(models, 3, 3, replace(fibre, length_m=100.1))) is None, "they reach 100 m"
    assert least_price(two(models, 3, 3, replace(fibre, length_m=100.0))) is not None


@pytest.mark.parametrize(("passes", "boxes"), [(True, ["home", "b"]), (False, ["home", "a"])])
def test_large_frames_pass_through_the_closet_where_the_link_ends(passes, boxes):
    models = [HOME, switch("a", ports(8), price=60), switch("b", ports(8), price=50, large_frames=passes)]
    assert names(least_price(two(models, 3, 3, replace(COPPER, large_frames=True)))) == boxes


def test_the_other_kinds_of_best_are_those_of_the_site():
    models = [HOME, switch("small", ports(8), price=50), switch("wide", ports(16), price=95)]
    site = two(models, 7, 12)
    least = least_price(site)
    assert (names(least), least.price_minor) == (["home", "wide"], 195)
    assert fewest_boxes(site, least).box_count == 2
    # the router is full with 7 desks and the link; with a box beside it there is room
    roomy = most_room(site, least)
    assert roomy.room(0) > least.room(0) == 0
    assert roomy.price_minor <= 195 * 1.5


def test_a_closet_cut_short_under_other_shares_leaves_the_site_unproven_with_the_bound_of_all_alone():
    models = [HOME, switch("small", ports(8), price=50), switch("fine", ports(24), price=900)]
    site = two(models, 9, 15, owned={"fine": 1})

    def cut(problem):
        searched = search(problem, "price")
        whole = any(box.model.key == "fine" and box.most for box in problem.switches)
        if whole or problem.uplink is not None:
            return searched
        # the head end without what is owned was not settled
        return replace(searched, found=replace(searched.found, proven=False, bound=0), certain=False)

    found, certain = share(site, cut, price_rank)
    sure, _ = share(site, lambda problem: search(problem, "price"), price_rank)
    assert certain and found.price_minor == sure.price_minor == 150
    assert sure.proven and sure.bound == 150
    # each closet alone would stand on the owned one: the router is all that is bought
    assert not found.proven and found.bound == 100


def test_an_owned_router_that_cannot_feed_every_hub_is_still_looked_at_as_the_hub():
    heavy = Need(0, 1000, 0, 150_000)
    old, new = router("old", ports(4)), router("new", ports(9), price=300)
    asked = problem(
        [old, new, switch("big", ports(24)), switch("eight", ports(8), price=60)], {heavy: 12}, owned={"old": 1}
    )
    # a link of 1 G carries four of them, so three switches hang off it; behind one hub it could not carry all
    found = cheapest(asked)
    assert (names(found), found.price_minor, found.proven) == (["old", "eight", "eight", "eight"], 180, True)
