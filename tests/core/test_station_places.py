"""Places of access points that meet all goals, against every set of them."""

import itertools

import numpy as np
import pytest

from baugrund.core.edits import apply_edits
from baugrund.core.facts.brief import Goal
from baugrund.core.facts.catalogue import Catalogue
from baugrund.core.signal.field import predicted
from baugrund.core.signal.goals import goal_lines
from baugrund.core.siting.choosing import choose, patterns_of, smallest
from baugrund.core.siting.reached import Cells, Column
from baugrund.core.siting.stations import best_stations
from baugrund.core.siting.swaps import bound
from baugrund.core.watch import to_the_end

from .test_signal import LIST, PLAIN, ap, clients, site, wall

WEAK = PLAIN.model_copy(update={"key": "weak", "name": "Weak", "price_minor": 60, "power_5_dbm": 2.0})
BOTH = Catalogue(name="L", currency="EUR", priced_on="2026-01-01", models=(PLAIN, WEAK))


@pytest.mark.parametrize("seed", range(20))
def test_the_choice_is_that_of_enumeration(seed):
    draw = np.random.default_rng(seed)
    columns = [
        Column(spot=n // 2, line=(WEAK, PLAIN)[n % 2], reaches=draw.random(14) < (0.25, 0.45)[n % 2],
               price_minor=int(draw.integers(50, 90) * (1 + n % 2)))
        for n in range(10)
    ]  # fmt: skip
    cells = Cells(((0, 8), (8, 14)), (6, 5))

    def meets(some):
        reached = np.any([column.reaches for column in some], axis=0)
        return reached[:8].sum() >= 6 and reached[8:].sum() >= 5 and len({c.spot for c in some}) == len(some)

    sets = [some for size in range(1, 6) for some in itertools.combinations(columns, size) if meets(some)]
    for aim, rank in (
        ("fewest", lambda some: (len(some), sum(c.price_minor for c in some))),
        ("least_price", lambda some: (sum(c.price_minor for c in some), len(some))),
    ):
        found = choose(columns, cells, aim, 1)
        if not sets:
            assert found is None
            continue
        best = min(map(rank, sets))
        assert found.proven and rank(found.columns) == best and found.bound == best[0]


def test_an_answer_that_is_taken_meets_its_goals_and_what_is_not_needed_goes():
    goal = Goal(id=80, kind="calls", room_ids=(5,), band="5", level=-52.0)
    project = site(ap(10, x=1.0, y=1.0), ap(11, x=2.0, y=1.0), walls=[wall(6.0, material="metal")], goals=[goal],
                   clients=[clients()])  # fmt: skip
    found = to_the_end(best_stations(project, BOTH))
    assert found.met_now == () and found.unmet == () and found.at_most[-1].share >= 0.95
    for answer in found.answers:
        assert answer.proven and answer.fullest < 0.7
        taken = apply_edits(project, list(answer.edits))
        (line,) = goal_lines(taken, predicted(taken, BOTH))
        assert line.met
        assert len([drop for drop in taken.drops if drop.kind == "access_point"]) == len(answer.stations)


def test_why_there_is_no_answer_is_told():
    assert "set one in Brief" in to_the_end(best_stations(site(), LIST)).why_not
    goal = Goal(id=80, kind="calls", band="5")
    nothing = Catalogue(name="L", currency="EUR", priced_on="2026-01-01", models=())
    assert "no access point" in to_the_end(best_stations(site(goals=[goal]), nothing)).why_not
    unmet = site(goals=[goal.model_copy(update={"level": -5.0})])
    assert to_the_end(best_stations(unmet, LIST)).unmet == (80,)


@pytest.mark.parametrize("seed", range(15))
def test_swaps_find_no_fewer_than_there_are_and_the_bound_is_under_them(seed):
    draw = np.random.default_rng(seed)
    columns = [
        Column(spot=n // 2, line=PLAIN, reaches=draw.random(40) < 0.3, price_minor=int(draw.integers(50, 90)))
        for n in range(14)
    ]
    cells = Cells(((0, 25), (25, 40)), (22, 12))

    def meets(some):
        reached = np.any([column.reaches for column in some], axis=0)
        alone = len({column.spot for column in some}) == len(some)
        return alone and reached[:25].sum() >= 22 and reached[25:].sum() >= 12

    sets = [some for size in range(1, 8) for some in itertools.combinations(columns, size) if meets(some)]
    patterns = patterns_of(columns, cells)
    start = smallest(columns, cells, patterns)
    if sets:
        fewest = min(map(len, sets))
        cheapest = min(sum(column.price_minor for column in some) for some in sets)
        assert start.least <= fewest
        assert bound(patterns, cells.needed, [column.price_minor for column in columns]) <= cheapest + 1e-6
        assert not meets(start.columns) or len(start.columns) >= fewest
        assert len(choose(columns, cells, "fewest", 1).columns) == fewest
