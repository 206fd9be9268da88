"""A search that is cut short says so, with a bound that holds."""

import pytest

from baugrund.core.errors import TookTooLong
from baugrund.core.pick import best
from baugrund.core.pick.assignment.exact import Assigned
from baugrund.core.pick.branching import branch_and_bound as branching
from baugrund.core.pick.branching import search
from baugrund.core.pick.heuristics import diving

from .small import CAMERA, DESK, alone, cheapest, injector, names, ports, problem, router, switch

MODELS = [router("home", ports(4)), switch("small", ports(8)), switch("powered", ports(8, poe=3), watts=80, price=150)]
ASKED = {DESK: 14, CAMERA: 3}


@pytest.fixture
def proven_price():
    return cheapest(problem(MODELS, ASKED)).seatings[0].price_minor


def test_a_packing_that_is_not_settled_leaves_the_pick_unproven(monkeypatch, proven_price):
    monkeypatch.setattr(branching.Assignment, "solve", lambda *_: Assigned(None, False))
    cut = cheapest(problem([*MODELS, injector("inj", 3, price=60)], ASKED))
    if not cut.proven:
        assert cut.bound <= proven_price <= cut.seatings[0].price_minor
    monkeypatch.setattr(diving, "first_picks", lambda *_: ())
    with pytest.raises(TookTooLong, match="No pick was found"):
        cheapest(problem(MODELS, ASKED))


def test_a_search_that_ends_early_raises_or_bounds(monkeypatch, proven_price):
    monkeypatch.setattr(diving, "first_picks", lambda *_: ())
    monkeypatch.setattr(search, "TIME_LIMIT_S", -1)
    with pytest.raises(TookTooLong):
        cheapest(problem(MODELS, ASKED))


def test_a_first_dive_has_an_answer_and_a_bound_that_holds(monkeypatch, proven_price):
    monkeypatch.setattr(search, "TIME_LIMIT_S", -1)
    cut = cheapest(problem(MODELS, ASKED))
    assert not cut.proven
    assert cut.bound <= proven_price <= cut.price_minor


def test_the_other_kinds_of_best_fall_back_to_the_cheapest_and_say_so(monkeypatch):
    asked = alone(problem(MODELS, ASKED))
    least = best.least_price(asked)
    monkeypatch.setattr(diving, "first_picks", lambda *_: ())
    monkeypatch.setattr(search, "TIME_LIMIT_S", -1)
    found = best.most_room(asked, least)
    assert names(found) == names(least)
    assert not found.proven
