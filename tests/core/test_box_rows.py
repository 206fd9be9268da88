"""What boxes give and take with their links, for many at once, against each counted by itself; and centres together leave
what the best of them does."""

import pytest

from baugrund.core.pick.bounds.box_rows import CARRIES, ENDS, FREE, POWER, PRICE, SLOTS, BoxRows
from baugrund.core.pick.bounds.relaxation import Relaxation
from baugrund.core.pick.enumeration.nodes import Space, pinned
from baugrund.core.pick.model.links import LinkWay, Ways
from baugrund.launch.cases import made_up_catalogue, made_up_site

from .small import in_blocks
from .test_pick import random_problem, random_site


def held(up_set, box, taken, carries=None):
    """How many drops of an up-set a box holds: ``taken`` is the port that its own link ends on, if it does on any."""
    reaching = sum(port.count for port in box.ports if up_set.reached(port.speed_mbit, port.poe_rank))
    if taken:
        reaching -= up_set.reached(taken.speed_mbit, taken.poe_rank)
    power = [*up_set.powers_mw]
    fed = next(n for n in range(len(power), -1, -1) if sum(power[:n]) <= box.power_most_mw)
    most = min(reaching, box.ports_most - bool(taken), up_set.bare + min(fed, box.powered_most), up_set.count)
    if carries is not None:
        sent = [*up_set.traffics_kbit]
        most = min(most, next(n for n in range(len(sent), -1, -1) if sum(sent[:n]) <= carries))
    return most


def link_ports(box, rate):
    """The ports that a link of such a rate may end on; None alone: there is none."""
    return [port for port in box.ports if port.count and port.speed_mbit >= rate] or [None]


def parts_of(ways):
    return (
        ways.rate_mbit.tolist(),
        ways.price_minor.tolist(),
        ways.lower_in_slot.tolist(),
        ways.upper_in_slot.tolist(),
    )


def problems(block):
    yield from (random_problem(seed) for seed in range(block * 40, block * 40 + 40))
    yield from (closet for seed in range(block * 20, block * 20 + 20) for closet in random_site(seed).closets)


@in_blocks(3)
def test_leaves_hold_what_each_holds_with_its_link_on_the_best_of_its_ports(block):
    compared = 0
    for asked in problems(block):
        rows = BoxRows(asked)
        pairs = [(box, way) for box in asked.switches for centre in asked.boxes[:3] for way in asked.ways(centre, box)]
        for box, way in pairs:
            (row,) = rows.leaf(box, [way])
            ends = [None] if way.lower_in_slot else link_ports(box, way.rate_mbit)
            mine = [max(held(up_set, box, end, way.carries_kbit) for end in ends) for up_set in rows.up_sets]
            assert row[rows.held :].tolist() == mine
            in_slots = way.lower_in_slot + way.upper_in_slot
            assert row[PRICE] == box.cost_minor + way.price_minor
            assert row[FREE] == box.ports_most - 2 + in_slots
            assert row[SLOTS] == (box.slot_count if asked.modules else 0) - in_slots
            assert row[CARRIES] <= way.carries_kbit
            compared += 1
        for root in asked.roots:
            assert rows.holds(root).tolist() == [held(up_set, root, None) for up_set in rows.up_sets]
    assert compared > 300


@pytest.mark.parametrize("seed", range(30))
def test_roots_and_hubs_together_come_to_what_both_have_less_their_link(seed):
    """What a root gives with its link to a centre: what it gives alone, less the ends of that link."""
    asked = random_problem(seed)
    rows = BoxRows(asked)
    for centre in asked.switches:
        pairs, together = rows.rooted(asked.roots, centre)
        for (root, way), row in zip(pairs, together, strict=True):
            alone, in_slots = rows.roots([(root, None)])[0], way.lower_in_slot + way.upper_in_slot
            assert way in asked.ways(root, centre)
            assert row[PRICE] - alone[PRICE] == way.price_minor
            assert (alone[FREE] - row[FREE], alone[SLOTS] - row[SLOTS]) == (2 - in_slots, in_slots)
            assert row[POWER] == alone[POWER] == rows.watts(root)
            ends = [None] if way.upper_in_slot else link_ports(root, way.rate_mbit)
            mine = [max(held(up_set, root, end) for end in ends) for up_set in rows.up_sets]
            assert row[rows.held :].tolist() == mine


def test_switches_hung_off_hubs_are_those_with_every_way_to_any_of_them():
    compared = 0
    for asked in problems(0):
        rows = BoxRows(asked)
        for centres in (asked.boxes[:1], asked.boxes[:3]):
            hung = rows.hung(centres)
            told = [
                (asked.switches[place], LinkWay(*parts))
                for place, *parts in zip(hung.place, *parts_of(hung.ways), strict=True)
            ]
            mine = {(box, way) for box in asked.switches for centre in centres for way in asked.ways(centre, box)}
            assert set(told) == mine
            assert len(told) == len(mine) == hung.count.sum()
            assert [told[n][0] for n, count in zip(hung.first, hung.count, strict=True) if count] == [
                box for box, count in zip(asked.switches, hung.count, strict=True) if count
            ]
            for (box, way), row, carries in zip(told, hung.rows, hung.ways.carries_kbit, strict=True):
                assert row.tolist() == rows.leaf(box, [way])[0].tolist()
                assert carries == way.carries_kbit
                compared += 1
            for box, best, place in zip(asked.switches, hung.best, range(len(asked.switches)), strict=True):
                some = hung.rows[hung.place == place]
                if len(some):
                    assert (best[PRICE], best[FREE]) == (some[:, PRICE].min(), some[:, FREE].max()), box
    assert compared > 300


def test_of_hubs_together_the_one_that_leaves_most_ends_tells_how_many_a_root_leaves():
    """Where some take an end that links to fed closets may have and others do not, no more are taken than by these."""
    unlike = 0
    for asked in made_up_site(200, 3, made_up_catalogue(100, 1), 0).closets:
        sets = Space(asked, "power", pinned(asked), frozenset(asked.switches), None, None, are_few_of_many=True)
        for some in sets.centre_groups if asked.trunks else ():
            if some.boxes[0].is_root:
                continue
            relaxation = Relaxation(some.group, "power", some.boxes)
            of_roots = relaxation.choices.place < relaxation.first_switch
            told = {
                (relaxation.boxes[place], rate, price, lower, upper): row[ENDS]
                for place, rate, price, lower, upper, row in zip(
                    relaxation.place[of_roots],
                    *parts_of(relaxation.choices.ways.at(of_roots)),
                    relaxation.table[of_roots],
                    strict=True,
                )
            }
            for centre in some.boxes:
                pairs, rows = some.group.rows.rooted(some.group.roots, centre)
                for (root, _), row, *parts in zip(
                    pairs, rows, *parts_of(Ways.of([way for _, way in pairs])), strict=True
                ):
                    assert told[root, *parts] >= row[ENDS]
                    unlike += told[root, *parts] > row[ENDS]
    assert unlike, "hubs that differ in that"
