"""What sets must have holds of every set that can be packed: none of them is left out of a list."""

from functools import partial

import numpy as np
import pytest

from baugrund.core.demand.needs import Need
from baugrund.core.pick.assignment.exact import Assignment, centres_of
from baugrund.core.pick.bounds.link_bounds import LinkBounds
from baugrund.core.pick.bounds.link_class import link_classes
from baugrund.core.pick.bounds.relaxation import Relaxation
from baugrund.core.pick.enumeration.covers import Construction
from baugrund.core.pick.enumeration.enumeration import Enumeration
from baugrund.core.pick.enumeration.nodes import Space, pinned

from .small import DESK, in_blocks, module, ports, problem, router, slots, switch
from .test_pick import random_problem
from .test_seating import random_sets


def counts_of(relaxation, boxes):
    return np.array([float(sum(one is box for one in boxes)) for box in relaxation.boxes])


def listing_of(relaxation, number, weight):
    """All sets of so many boxes, by what the relaxation of just so many is worth."""
    least, most = relaxation.ranged([0.0] * len(relaxation.boxes)), relaxation.most.copy()
    least[len(relaxation.boxes)] = most[len(relaxation.boxes)] = number
    own = relaxation.bound(least, most)
    if own is None:
        return None
    construction, count = Construction(relaxation), len(relaxation.boxes)
    return Enumeration(construction.pieces, construction.covers(own.duals, number), least[:count], most[:count], number)


def alike(asked, group, centre, weight):
    """The centres among which this one is looked at; None: it is not, for a cheaper one stands in for it."""
    sets = Space(asked, weight, pinned(asked), frozenset(asked.switches), None, None)
    return next(
        (
            centres.boxes
            for centres in sets.centre_groups
            if centre in centres.boxes and centres.group.rate_mbit == group.rate_mbit
        ),
        None,
    )


def is_beaten(group, boxes, centre, centres):
    """Whether a cheaper box stands in for one beside the centre: under price such sets are not looked at."""
    slowest = min((port.speed_mbit for one in centres for port in one.ports if port.count), default=0)
    told = {box for box, *_ in group.stand_ins.leaves(slowest) | group.stand_ins.roots(slowest)}
    return any(box in told for place, box in enumerate(boxes) if place != centre)


def around_hubs(seeds, weight):
    """Random sets with their link class, around each centre that they may have, with the relaxation that lists them."""
    for seed in seeds:
        for asked, boxes in random_sets(seed):
            group = next((g for g in link_classes(asked) if boxes[0] in g.roots), None)
            for centre in centres_of(asked, boxes) if group else ():
                centres = () if centre is None else alike(asked, group, boxes[centre], weight)
                if centres is not None and not (
                    weight == "price" and centres and is_beaten(group, boxes, centre, centres)
                ):
                    yield seed, asked, boxes, centre, Relaxation(group, weight, centres)


def none_of(size, starts):
    """No box beside each of these starts that all sets have."""
    return np.zeros((len(starts), size))


@pytest.mark.parametrize("weight", ["price", "power"])
@in_blocks(2)
def test_what_can_be_packed_is_listed_around_its_hub_for_what_it_costs(block, weight):
    listed_ones = 0
    for _, asked, boxes, centre, relaxation in around_hubs(range(700 + block * 30, 730 + block * 30), weight):
        packed = Assignment(asked, boxes, centre, weight).solve().seating
        if packed is None:
            continue
        cost = packed.price_minor if weight == "price" else packed.mains_mw
        listed = listing_of(relaxation, len(boxes), weight).up_to(cost)
        counts = counts_of(relaxation, boxes)
        mine = (listed.counts == counts).all(axis=1)
        if centre is not None:
            place = relaxation.boxes.index(boxes[centre])
            mine &= np.array([Construction(relaxation).pieces.starts[s].centre == place for s in listed.starts])
        assert mine.any()
        prices = Construction(relaxation).priced(listed, partial(none_of, len(counts)), len(boxes))[mine]
        assert any(0 <= price <= packed.price_minor for price in prices)
        listed_ones += 1
    assert listed_ones > 20


@pytest.mark.parametrize("seed", range(20))
def test_links_of_many_sets_at_once_cost_what_those_of_each_alone_do(seed):
    asked = random_problem(seed)
    for group in link_classes(asked):
        relaxation = Relaxation(group, "price")
        first, size = relaxation.first_switch, len(relaxation.boxes)
        for centre in relaxation.boxes:
            link_bounds = LinkBounds(group, relaxation.boxes, centre)
            if not link_bounds.can_be:
                continue
            rows = []
            for root in [relaxation.boxes.index(centre)] if centre.is_root else range(first):
                for a in range(first, size):
                    for b in range(a, size):
                        row = np.zeros(size)
                        np.add.at(row, [root, a, b] if centre.is_root else [root, link_bounds.place, a, b], 1)
                        rows.append(row)
            if rows:
                together = link_bounds.priced(np.array(rows))
                assert together.tolist() == [int(link_bounds.priced(row[None, :])[0]) for row in rows]


def test_more_boxes_than_hubs_may_have_ways_are_left_to_the_packing(monkeypatch):
    asked = problem(
        [router("r", ports(8), slots=slots(2)), switch("s", ports(8), slots=slots(2)), module("m", price=30)],
        {DESK: 20},
    )
    (group,) = link_classes(asked)
    relaxation = Relaxation(group, "price")
    link_bounds = LinkBounds(group, relaxation.boxes, relaxation.boxes[0])
    row = np.array([[1.0, 3.0]])
    ways = int(group.rows.hung([relaxation.boxes[0]]).count[0]) ** 3
    monkeypatch.setattr("baugrund.core.pick.bounds.link_bounds.WAYS_MOST", ways)
    priced = link_bounds.priced(row)[0]
    assert priced > 0
    monkeypatch.setattr("baugrund.core.pick.bounds.link_bounds.WAYS_MOST", ways - 1)
    assert link_bounds.priced(row)[0] == 0


@pytest.mark.parametrize(
    ("watts", "drops", "fed"),
    [
        (100, {Need(3, 100, 8_000, 0): 3}, 24_000),  # three drops draw no more
        (20, {Need(3, 100, 8_000, 0): 3}, 20_000),  # than its budget
        (100, {Need(3, 100, 8_000, 0): 9}, 32_000),  # four ports
        (100, {Need(4, 100, 20_000, 0): 2, Need(3, 100, 8_000, 0): 1}, 8_000),  # of class 3 alone
    ],
)
def test_a_box_gives_no_more_watts_than_the_hungriest_on_its_ports_draw(watts, drops, fed):
    asked = problem([router("r", ports(4)), switch("s", ports(4, poe=3), watts=watts)], drops)
    (group,) = link_classes(asked)
    assert group.rows.watts(asked.switches[0]) == fed


def test_ports_of_a_higher_class_feed_lower_ones_but_each_port_once():
    """One port of class 6 and two of class 3: the hungriest goes on the strong one, then the two next of class 3."""
    drops = {
        Need(6, 100, 50_000, 0): 2,
        Need(3, 100, 9_000, 0): 1,
        Need(3, 100, 7_000, 0): 1,
        Need(3, 100, 5_000, 0): 1,
    }
    asked = problem([router("r", ports(4)), switch("s", ports(1, poe=6), ports(2, poe=3), watts=900)], drops)
    (group,) = link_classes(asked)
    assert group.rows.watts(asked.switches[0]) == 50_000 + 9_000 + 7_000
