"""Channels of least shared airtime, against every way to give them out."""

import itertools
import random

import numpy as np
import pytest

from baugrund.core.edits import apply_edits
from baugrund.core.facts.signal import Neighbour, Radio
from baugrund.core.signal.field import predicted
from baugrund.core.signal.told import signal_of
from baugrund.core.siting.channels import channels
from baugrund.core.siting.giving_out import Case, give_out, least_of_groups
from baugrund.core.standards.radio import blocks
from baugrund.core.watch import to_the_end

from .test_signal import LIST, ap, clients, site


def made_up(seed):
    draw = random.Random(seed)
    count = draw.randint(2, 5)
    band, width = draw.choice([("2.4", 20), ("2.4", 40), ("5", 80), ("5", 160)])
    hears = np.array([[i != j and draw.random() < 0.6 for j in range(count)] for i in range(count)])
    there = blocks(draw.choice(["etsi", "fcc"]), band, width)
    if len(there) > 6:
        there = tuple(there[n] for n in sorted(draw.sample(range(len(there)), 6)))
    places = range(len(there))
    return Case(
        own=tuple(draw.choice([0, 5_000, 12_345, 40_000]) for _ in range(count)), hears=hears, blocks=there,
        neighbours=tuple(tuple(draw.choice([0, 0, 20_000]) for _ in places) for _ in range(count)),
        fixed=tuple(draw.choice(places) if draw.random() < 0.15 else None for _ in range(count)),
        now=tuple(draw.choice([None, *places]) for _ in range(count)),
    )  # fmt: skip


@pytest.mark.parametrize("seed", range(30))
def test_no_way_to_give_them_out_shares_less(seed):
    case = made_up(seed)
    given = give_out(case)
    options = [range(len(case.blocks)) if at is None else (at,) for at in case.fixed]

    def rank(chosen):
        shared = case.shared(chosen)
        moved = sum(now is not None and now != at for now, at in zip(case.now, chosen, strict=True))
        return sum(shared), sum(one * one for one in shared), moved

    best = min(rank(chosen) for chosen in itertools.product(*options))
    assert given.proven and rank(given.chosen) == best and given.bound == best[0]


@pytest.mark.parametrize("seed", range(12))
def test_no_division_into_groups_costs_less(seed):
    draw = random.Random(seed)
    own = [draw.randint(1, 50) for _ in range(draw.randint(1, 6))]
    groups = draw.randint(1, 4)

    def cost(of):
        return sum(own[j] for i, j in itertools.permutations(range(len(own)), 2) if of[i] == of[j])

    assert least_of_groups(own, groups) == min(cost(of) for of in itertools.product(range(groups), repeat=len(own)))


def test_a_plan_is_taken_by_its_edits_and_leaves_what_is_kept():
    radios = [Radio(id=50, drop_id=10, band="5", channel=36, width_mhz=40, kept=True),
              Radio(id=51, drop_id=11, band="5", channel=36, width_mhz=40)]  # fmt: skip
    project = site(ap(10, x=3.0), ap(11, x=9.0), clients=[clients()], radios=radios,
                   neighbours=[Neighbour(id=60, drop_id=11, band="5", channel=44, dbm=-60.0)])  # fmt: skip
    found = to_the_end(channels(project, LIST))
    five = next(band for band in found.bands if band.band == "5")
    plan = next(plan for plan in five.plans if plan.width_mhz == 40)
    assert five.now_shared > 0 and (plan.shared, plan.proven, plan.bound) == (0, True, 0)
    taken = apply_edits(project, list(plan.edits))
    kept, moved = (next(r for r in taken.radios if r.drop_id == d and r.band == "5") for d in (10, 11))
    assert kept.channel == 36 and moved.channel not in (36, 44)
    assert [r.shared for s in signal_of(taken, LIST).stations for r in s.radios if r.band == "5"] == [0, 0]


def test_radar_channels_stay_empty_where_that_is_wanted_and_pairs_count_without_clients():
    project = site(ap(10, x=3.0), ap(11, x=9.0))
    told = to_the_end(channels(project, LIST))
    assert all(plan.counted_by_pairs and plan.own == 0 for band in told.bands for plan in band.plans)
    quiet = project.changed(settings=project.settings.model_copy(update={"avoid_radar": True}))
    for band in to_the_end(channels(quiet, LIST)).bands:
        assert not any(one.radar for plan in band.plans for one in plan.channels)
    assert predicted(quiet, LIST).fields
