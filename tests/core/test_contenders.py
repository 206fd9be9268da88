"""A set of boxes has ever sharper bounds, none over what it costs packed; what can be packed is never given up."""

from dataclasses import replace

import pytest

from baugrund.core.pick.contenders import Contender, Contenders
from baugrund.core.pick.links import LinkTable
from baugrund.core.pick.packing import Packing
from baugrund.core.pick.search import search
from baugrund.launch.cases import made_up_catalogue, made_up_closet, made_up_needs

from .small import in_blocks
from .test_making import around_hubs, counts_of


@pytest.mark.parametrize("weight", ["price", "power"])
@in_blocks(2)
def test_bounds_of_a_set_rise_to_no_more_than_it_costs(block, weight):
    packed_ones, given_up = 0, 0
    for seed, asked, boxes, hub, relaxation in around_hubs(range(900 + block * 40, 940 + block * 40), weight):
        contenders, counts = Contenders(asked, weight), counts_of(relaxation, boxes).astype("int16")
        packed = Packing(asked, boxes, hub, weight).pack().seating
        cost = None if packed is None else packed.price_minor if weight == "price" else packed.mains_mw
        bounds, one = [0.0], Contender(relaxation, counts, boxes, hub)
        while not one.is_sharp:
            sharper = contenders.sharper(bounds[-1], one, cost)
            if sharper is None:
                break
            bounds.append(sharper[0])
            one = sharper[1]
        assert bounds == sorted(bounds)
        assert cost is None or (one.is_sharp and bounds[-1] <= cost + 1e-3), seed
        packed_ones += cost is not None
        given_up += not one.is_sharp
        assert contenders.sharper(bounds[-1], Contender(relaxation, counts, boxes, hub), cost) is None
    assert packed_ones > 30 and given_up > 30


def dear(asked):
    """The same with prices far over any mains draw in mW."""

    def times(some):
        return tuple(replace(one, price_minor=one.price_minor * 10_000) for one in some)

    return replace(
        asked, roots=times(asked.roots), switches=times(asked.switches), injectors=times(asked.injectors),
        modules=times(asked.modules), table=LinkTable(),
    )  # fmt: skip


@pytest.mark.parametrize(("drops", "seed"), [(40, 0), (20, 1), (40, 1), (20, 3)])
def test_the_least_power_is_the_same_whatever_things_cost(drops, seed):
    """Worths are money: no bound of watts may stand on them."""
    asked = made_up_closet(made_up_needs(drops, seed), made_up_catalogue(40, 1))
    cheap, costly = (search(one, "power").found for one in (asked, dear(asked)))
    assert cheap.proven and costly.proven
    assert cheap.seating.mains_mw == costly.seating.mains_mw


def test_a_set_that_costs_more_than_the_mark_is_given_up():
    for _, asked, boxes, hub, relaxation in around_hubs(range(900, 940), "price"):
        packed = None if hub is None else Packing(asked, boxes, hub, "price").pack().seating
        if packed is None:
            continue
        counts = counts_of(relaxation, boxes).astype("int16")
        one, told = Contender(relaxation, counts, boxes, hub), (0.0, None)
        contenders, mark = Contenders(asked, "price"), packed.price_minor - 200
        while told is not None and not one.is_sharp:
            told = contenders.sharper(told[0], one, mark)
            one = told[1] if told else one
        assert told is None or told[0] > mark or one.packing.pack(mark).seating is None


def test_a_bound_that_is_higher_by_inexact_sums_only_is_taken_for_the_same():
    """Else the set would come back for it again and again: prices are rounded to whole units in between."""
    looked_at = 0
    for _, asked, boxes, hub, relaxation in around_hubs(range(900, 920), "price"):
        packing = None if hub is None else Packing(asked, boxes, hub, "price")
        if packing is None or packing.least is None:
            continue
        counts = counts_of(relaxation, boxes).astype("int16")
        one, contenders = Contender(relaxation, counts, boxes, hub), Contenders(asked, "price")
        pool = contenders.pool(relaxation.group)
        pool.add(packing.worths(asked))
        told = pool.bound(relaxation, boxes[hub], counts[None, :])[0]
        assert contenders.sharper(told - 1.0, one, None) == (told, one)
        bound, next_one = contenders.sharper(told - 1e-4, one, None)
        assert next_one.packing is not None and bound >= told - 1e-4
        looked_at += 1
    assert looked_at > 20
