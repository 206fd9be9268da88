"""A search that is cut short says so, with a bound that holds."""

import pytest

from baugrund.core.errors import TookTooLong
from baugrund.core.pick import best, search
from baugrund.core.pick.packing import Packed

from .small import CAMERA, DESK, injector, names, ports, problem, router, switch

MODELS = [router("home", ports(4)), switch("small", ports(8)), switch("powered", ports(8, poe=3), watts=80, price=150)]
ASKED = {DESK: 14, CAMERA: 3}


@pytest.fixture
def proven_price():
    return best.least_price(problem(MODELS, ASKED)).seating.price_minor


def test_a_packing_that_is_not_settled_leaves_the_pick_unproven(monkeypatch, proven_price):
    monkeypatch.setattr(search, "pack", lambda *_: Packed(None, False))
    cut = best.least_price(problem([*MODELS, injector("inj", 3, price=60)], ASKED))
    if not cut.proven:
        assert cut.bound <= proven_price <= cut.seating.price_minor
    monkeypatch.setattr(search, "quick_seating", lambda *_: None)
    with pytest.raises(TookTooLong, match="No pick was found within"):
        best.least_price(problem(MODELS, ASKED))


@pytest.mark.parametrize("limit", ["MAX_SETS", "TIME_LIMIT_S"])
def test_a_search_that_ends_early_raises_or_bounds(monkeypatch, limit, proven_price):
    monkeypatch.setattr(search, limit, 0)
    with pytest.raises(TookTooLong):
        best.least_price(problem(MODELS, ASKED))


def test_the_other_kinds_of_best_fall_back_to_the_cheapest_and_say_so(monkeypatch):
    asked = problem(MODELS, ASKED)
    cheapest = best.least_price(asked)
    monkeypatch.setattr(search, "MAX_SETS", 0)
    for other in (best.most_room, best.least_power):
        found = other(asked, cheapest)
        assert names(found) == names(cheapest)
        assert not found.proven
    # that fewer boxes cannot do shows before any set is looked at
    assert best.fewest_boxes(asked, cheapest).proven
