"""Slots that links to fed closets may end in are counted: those of enough speed, and behind a link no more than it
carries."""

import random

import numpy as np
import pytest

from baugrund.core.pick.assignment.exact import Assignment, centres_of
from baugrund.core.pick.bounds.box_rows import ENDS
from baugrund.core.pick.bounds.link_bounds import LinkBounds
from baugrund.core.pick.bounds.link_class import link_classes
from baugrund.core.pick.enumeration.nodes import is_housed
from baugrund.core.pick.model.links import Trunk

from .small import DESK, in_blocks, module, ports, problem, router, slots, switch
from .test_pick import random_site

HOME = router("home", ports(4))
FIBRES = [module("fibre", speed=10_000), module("slower", speed=1000)]


def fed(number, traffic_kbit, ends=1):
    return tuple(Trunk(2 + n, "fibre-multimode", 10_000, ends, traffic_kbit) for n in range(number))


def priced(asked, *keys):
    """What a set costs at least around its second box, or the root where there is one only, by its links; −1: it
    cannot be packed."""
    (group,) = link_classes(asked)
    boxes = tuple(next(box for box in asked.boxes if box.model.key == key) for key in keys)
    centre = boxes[min(1, len(boxes) - 1)]
    link_bounds = LinkBounds(group, asked.boxes, centre)
    counts = np.array([[float(boxes.count(box)) for box in asked.boxes]])
    return int(link_bounds.priced(counts)[0])


@pytest.mark.parametrize(("speed", "fits"), [(1000, False), (10_000, True)])
def test_a_slot_that_is_too_slow_is_no_end(speed, fits):
    asked = problem([HOME, switch("hub", ports(8), slots=slots(2, speed)), *FIBRES], {DESK: 2}, trunks=fed(1, 5_000))
    assert (priced(asked, "home", "hub") >= 0) is fits


@pytest.mark.parametrize(("number", "fits"), [(2, True), (3, False)])
def test_more_links_than_slots_that_are_fast_enough_cannot_be(number, fits):
    mixed = switch("hub", ports(8), slots=(*slots(2, 10_000), *slots(4, 1000)))
    asked = problem([HOME, mixed, *FIBRES], {DESK: 2}, trunks=fed(number, 5_000))
    (group,) = link_classes(asked)
    assert group.rows.bare(asked.switches[:1])[0, ENDS] == 2
    assert (priced(asked, "home", "hub") >= 0) is fits


@pytest.mark.parametrize(("traffic_kbit", "fits"), [(233_000, True), (350_000, False)])
def test_behind_a_link_there_end_no_more_than_it_carries(traffic_kbit, fits):
    """Three links to other closets: on a switch that hangs off a centre without slots, by 1 Gbit/s, of which 0.7 are
    used."""
    leaf = switch("leaf", ports(8), slots=slots(4))
    centre = switch("hub", ports(8, 2500))
    wide = router("home", ports(4, 2500), throughput_mbit=2500, wan_mbit=(2500,))
    asked = problem([wide, centre, leaf, *FIBRES], {DESK: 2}, trunks=fed(3, traffic_kbit), units=9, sockets=9)
    assert (priced(asked, "home", "hub", "leaf") >= 0) is fits


def sets_of_sites(seeds):
    """Problems of sites whose closets feed others, with random sets of their boxes that can stand there."""
    for seed in seeds:
        rng = random.Random(seed)
        for asked in random_site(seed).closets:
            for _ in range(6 if asked.roots and asked.trunks and not asked.chain_allowed else 0):
                boxes = [rng.choice(asked.roots), *(rng.choice(asked.switches) for _ in range(rng.randint(0, 2)))]
                there = all(box.most is None or boxes.count(box) <= box.most for box in boxes)
                if there and is_housed(asked, boxes):
                    yield asked, boxes


@in_blocks(4)
def test_whatever_can_be_packed_is_priced_no_dearer(block):
    compared = 0
    for asked, boxes in sets_of_sites(range(9_000 + block * 60, 9_060 + block * 60)):
        group = next((g for g in link_classes(asked) if boxes[0] in g.roots), None)
        for centre in centres_of(asked, boxes) if group else ():
            packed = Assignment(asked, boxes, centre, "price").solve().seating
            if packed:
                names = (*group.roots, *asked.switches)
                counts = np.array([[float(boxes.count(box)) for box in names]])
                assert 0 <= LinkBounds(group, names, boxes[centre]).priced(counts)[0] <= packed.price_minor
                compared += 1
    assert compared > 10
