"""Made-up cases: the same from the same seed, of the size asked for, and picked soundly."""

import pytest

from baugrund.core.pick.best import least_price
from baugrund.core.pick.bounds import link_prices as pricing
from baugrund.core.pick.enumeration import depth_first as growing
from baugrund.core.pick.enumeration import lagrangian
from baugrund.launch.bench_picks import measure_picks
from baugrund.launch.cases import made_up_catalogue, made_up_closet, made_up_needs, made_up_site
from baugrund.launch.prepare import prepare

from ..core.small import alone
from ..core.test_seating import assert_sound


@pytest.mark.parametrize("models", [30, 60, 200])
def test_a_made_up_catalogue_has_so_many_models_and_is_the_same_from_its_seed(models):
    first = made_up_catalogue(models, 7)
    assert len(first.models) == models
    assert first == made_up_catalogue(models, 7) != made_up_catalogue(models, 8)
    assert len(first.routers) >= 3 and len(first.injectors) == 4 and len(first.modules) == 5


def test_made_up_needs_are_so_many_and_the_same_from_their_seed():
    assert made_up_needs(40, 3).total() == 40
    assert made_up_needs(40, 3) == made_up_needs(40, 3) != made_up_needs(40, 4)


def test_a_made_up_closet_is_picked_for_soundly():
    asked = made_up_closet(made_up_needs(12, 1), made_up_catalogue(30, 2))
    found = least_price(alone(asked))
    assert found.proven
    assert_sound(asked, found.seatings[0])


def test_a_made_up_site_hangs_its_closets_off_the_first_and_each_has_its_share():
    site = made_up_site(24, 3, made_up_catalogue(60, 5), 1)
    assert [problem.drops for problem in site.closets] == [8, 8, 8]
    assert [trunk.closet_id for trunk in site.head_end.trunks] == [2, 3]
    found = least_price(site)
    assert found.box_count >= 3
    for trunk in site.head_end.trunks:
        assert trunk.traffic_kbit == site.closets[trunk.closet_id - 1].traffic_kbit
    for asked, seating in zip(site.closets, found.seatings, strict=True):
        assert_sound(asked, seating)


def test_the_table_of_the_pick_tells_what_is_asked_beside_what_is_found(monkeypatch, catalogue):
    from baugrund.launch import bench_picks

    monkeypatch.setattr(bench_picks, "PLAIN_TIMES", 2)
    monkeypatch.setattr(bench_picks, "made_up_needs", lambda _, seed: made_up_needs(6, seed))
    monkeypatch.setattr(bench_picks, "made_up_site", lambda *_: made_up_site(8, 2, made_up_catalogue(40, 1), 1))
    lines = []
    measure_picks(catalogue, 2, lambda *line: lines.append(line))
    assert [figure.split()[-1] for _, figure, _ in lines].count("ms") == 7
    assert next(figure for what, figure, _ in lines if "over ours" in what).endswith("×")
    assert all("of" in figure for what, figure, _ in lines if what.startswith("  proven"))


def test_preparing_makes_all_the_machine_code_that_a_search_needs():
    prepare()
    of_listings = growing.dearest, growing.in_whole, growing.least_of_lacking, growing.grown, growing.counted
    entered = *of_listings, pricing.least_prices, pricing.set_prices, pricing.centre_prices, lagrangian.row_covers
    # one each: other sorts of arrays would be compiled while somebody waits
    assert [len(function.signatures) for function in entered] == [1] * len(entered)
