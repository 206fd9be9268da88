"""What a site asks for against what another one does: where it is no more, its least pick is no dearer."""

from collections import Counter
from dataclasses import replace

import pytest

from baugrund.core.demand.needs import Need
from baugrund.core.pick.best import least_price
from baugrund.core.pick.model.links import Trunk
from baugrund.core.pick.site import Site, asks_no_more, covered

from .small import ACCESS_POINT, CAMERA, DESK, alone, altered, ports, problem, router, some_of, switch
from .test_pick import random_problem

MODELS = [
    router("home", ports(4), price=100),
    switch("eight", ports(8), price=200),
    switch("sixteen", ports(16), price=330),
]
CASE = problem(MODELS, {DESK: 9})
LINK = Trunk(2, "copper", 1000, 1, 40_000)


def counted(*needs):
    return tuple(Counter(needs).items())


@pytest.mark.parametrize(
    ("earlier", "later", "is_covered"),
    [
        (counted(), counted(), True),
        (counted(DESK), counted(DESK, DESK), True),
        (counted(DESK, DESK), counted(DESK), False),
        (counted(DESK), counted(replace(DESK, traffic_kbit=12_501)), True),
        (counted(DESK), counted(replace(DESK, traffic_kbit=12_499)), False),
        (counted(CAMERA), counted(ACCESS_POINT), True),
        (counted(ACCESS_POINT), counted(CAMERA), False),
        (counted(replace(DESK, large_frames=True)), counted(DESK), False),
        (counted(DESK), counted(replace(DESK, large_frames=True)), True),
        # each has one of its own: the access point takes the only one that is enough for it
        (counted(ACCESS_POINT, CAMERA), counted(ACCESS_POINT, replace(CAMERA, power_mw=9_000)), True),
        (counted(ACCESS_POINT, CAMERA), counted(ACCESS_POINT, DESK), False),
    ],
)
def test_a_need_is_covered_by_one_that_asks_for_no_less(earlier, later, is_covered):
    assert covered(earlier, later) is is_covered


@pytest.mark.parametrize("field", ["poe_rank", "speed_mbit", "power_mw", "traffic_kbit"])
def test_a_need_asks_no_less_by_every_figure(field):
    least = Need(3, 1000, 8_000, 6_000)
    more = replace(least, **{field: getattr(least, field) + 1})
    assert least.asks_no_less(least) and more.asks_no_less(least) and not least.asks_no_less(more)


@pytest.mark.parametrize(
    ("change", "is_so"),
    [
        ({}, True),
        ({"needs": ((DESK, 10),)}, True),
        ({"needs": ((DESK, 8),)}, False),
        ({"units": 3}, True),
        ({"sockets": 60}, False),
        ({"switches": CASE.switches[:1]}, True),
        ({"switches": ()}, True),
    ],
)
def test_a_site_asks_no_more_with_fewer_drops_as_many_boxes_and_no_less_room(change, is_so):
    assert asks_no_more(alone(CASE), alone(altered(CASE, **change))) is is_so


@pytest.mark.parametrize(
    ("link", "is_so"),
    [
        (LINK, True),
        (replace(LINK, traffic_kbit=40_001), True),
        (replace(LINK, traffic_kbit=39_999), False),
        (replace(LINK, speed_mbit=10_000), False),
        (replace(LINK, ends=2), False),
        (None, False),
    ],
)
def test_links_are_the_same_and_no_busier(link, is_so):
    here, there = replace(CASE, trunks=(LINK,)), replace(CASE, trunks=(link,) if link else ())
    assert asks_no_more(alone(here), alone(there)) is is_so


def test_a_closet_that_is_gone_asked_for_something():
    both = Site((CASE, replace(CASE, closet_id=2)), {})
    assert asks_no_more(alone(CASE), both) and not asks_no_more(both, alone(CASE))


@some_of(range(60))
def test_who_asks_for_no_more_pays_no_more(seed):
    """A pick of the site that asks for more is one of the other, without what came."""
    asked = replace(random_problem(seed), pins={})
    needs = [(need, count - (place == 0)) for place, (need, count) in enumerate(asked.needs)]
    fewer = replace(asked, needs=tuple((need, count) for need, count in needs if count))
    if not fewer.needs:
        return
    assert asks_no_more(alone(fewer), alone(asked))
    more, less = least_price(alone(asked)), least_price(alone(fewer))
    assert more is None or (less is not None and less.bound <= more.price_minor)
