"""Through the years: what each asks, buying in two steps, and what makes the least price another."""

import pytest

from baugrund.core.answers.picker import Picker
from baugrund.core.cabling.links import links
from baugrund.core.demand.needs import demands
from baugrund.core.edits import AddDrops, AddRooms, ChangeSettings, NewRoom, apply_edits
from baugrund.core.facts.lines.spare import Spare
from baugrund.core.facts.project import empty_project
from baugrund.core.pick.best import least_price
from baugrund.core.pick.model.trunks import trunks
from baugrund.core.pick.site import site_of
from baugrund.core.prices.costs import costs_of, energy_kwh

from .small import catalogue, kept, planned, ports, router, switch

HOME = router("home", ports(4), price=100)
EIGHT = switch("eight", ports(8), price=200)
SIXTEEN = switch("sixteen", ports(16), price=330)
SMALL = catalogue(HOME, EIGHT, SIXTEEN)


def office(desks, *more, growth=0.0, **settings):
    """So many desks, no growth but what is named."""
    project = apply_edits(empty_project("office", 2026), [AddRooms(rooms=(NewRoom(name="Room"),))])
    changes = {"growth_percent": growth, "separate_networks": False, "horizon_years": 5, **settings}
    edits = [
        AddDrops(room="Room", kind="jack", count=desks),
        ChangeSettings(changes=changes),
        *more,
    ]
    return apply_edits(project, edits)


def looked_ahead(project, models=SMALL):
    picker = Picker(project, models)
    answer = picker.answer("least_price")
    return answer, picker.ahead(answer), picker.steps(answer)


def shapes(told):
    return [(step.year, step.way, step.now_minor, step.then_minor, step.more_minor) for step in told.steps]


def test_what_is_not_needed_yet_is_bought_when_it_is():
    # four desks fill the router; two more come in 2029, and a switch with them
    answer, _, told = looked_ahead(office(4, planned("jack", 2, 3)))
    assert answer.price_minor == 300
    assert shapes(told) == [
        (2027, "as_needed", 100, 200, 0),
        (2028, "as_needed", 100, 200, 0),
        (2029, "as_needed", 100, 200, 0),
    ]
    assert told.steps[-1].now == ("home",) and told.steps[-1].then == ("eight",)


def test_the_least_for_now_may_cost_more_in_total():
    # today eight ports do; by 2028 sixteen are cheapest at once, and the eight would stay beside a second eight
    answer, _, told = looked_ahead(office(8, planned("jack", 8, 2)))
    assert answer.price_minor == 430
    assert shapes(told) == [(2027, "least_now", 300, 200, 70), (2028, "least_now", 300, 200, 70)]


def test_nothing_is_gained_where_the_next_year_asks_for_all():
    _, _, told = looked_ahead(office(8))
    assert told.steps == ()


def test_what_is_owned_is_bought_in_neither_step():
    answer, _, told = looked_ahead(office(4, planned("jack", 2, 3), kept("home")))
    assert answer.price_minor == 200
    assert shapes(told)[-1] == (2029, "as_needed", 0, 200, 0)


def test_of_two_alike_the_one_that_is_owned_is_there_and_the_other_is_bought():
    answer, _, told = looked_ahead(office(8, planned("jack", 6, 4), kept("eight")))
    assert answer.price_minor == 300
    assert shapes(told)[0] == (2027, "as_needed", 100, 200, 0)


def test_what_completes_a_box_is_bought_with_it():
    lacking = EIGHT.model_copy(update={"lacks": ("supply",)})
    models = catalogue(HOME, lacking, Spare(key="supply", name="supply", price_minor=9, completes="supply"))
    answer, _, told = looked_ahead(office(4, planned("jack", 2, 3)), models)
    assert answer.price_minor == 309
    assert shapes(told)[0] == (2027, "as_needed", 100, 209, 0)


def test_both_steps_are_what_they_say():
    """Every first step bears the years before the second, and no pick for those years is cheaper than *least now*."""
    project = office(9, planned("jack", 4, 2), planned("jack", 9, 4))
    answer, _, told = looked_ahead(project)
    assert told.steps
    for step in told.steps:
        before = demands(project, step.year - 2026 - 1)
        site = site_of(project, SMALL, before, trunks(project, before, links(project, SMALL)))
        assert step.now_minor >= least_price(site).price_minor
        if step.way == "least_now":
            assert step.now_minor == least_price(site).price_minor
        assert step.now_minor + step.then_minor == answer.price_minor + step.more_minor


def test_each_year_is_told_with_what_it_lacks():
    answer, told, _ = looked_ahead(office(4, planned("jack", 7, 3), horizon_years=2))
    assert [(line.year, line.live, line.reserve, line.ports, line.ports_limit) for line in told.years[2:4]] == [
        (2028, 4, 0, 4, 4), (2029, 4, 7, 11, 4),
    ]  # fmt: skip
    assert [line.lacks for line in told.years[2:4]] == ["", "ports"]
    assert answer.full_year == 2029


@pytest.mark.parametrize(
    ("what", "cheaper", "at", "price"),
    [
        # nine and floor(9 · (1.12² − 1)) = 2 more; home and eight hold ten beside their link, home and sixteen eighteen:
        # one plain port fewer will do, or 10 % (floor(1.89) = 1); 40 %, the end, asks for seventeen
        ("ports", True, -1, 300), ("ports", False, 8, 630), ("growth", True, 10, 300), ("growth", False, None, 430),
    ],
)  # fmt: skip
def test_the_least_change_that_makes_the_pick_another(what, cheaper, at, price):
    project = office(9, growth=12.0, horizon_years=2)
    picker = Picker(project, SMALL)
    answer = picker.answer("least_price")
    assert answer.price_minor == 430
    flip = next(one for one in picker.flips(answer).flips if (one.what, one.cheaper) == (what, cheaper))
    assert (flip.at, flip.price_minor) == (at, price)


def test_a_margin_without_watts_changes_nothing():
    picker = Picker(office(4), SMALL)
    flips = picker.flips(picker.answer("least_price")).flips
    assert {flip.at for flip in flips if flip.what == "margin"} == {None}
    assert "A margin of 0 % on watts in place of 20 %: still the same pick." in [flip.sentence for flip in flips]


def test_a_flip_says_when_nothing_fits_any_more():
    picker = Picker(office(4), catalogue(HOME))
    (more,) = [
        one for one in picker.flips(picker.answer("least_price")).flips if one.what == "ports" and not one.cheaper
    ]
    assert more.sentence == "1 plain port more: nothing fits any more."


def test_costs_are_bought_once_and_then_every_year():
    # 100 W all year: 876 kWh; at 30 a kilowatt-hour 26,280
    costs = costs_of(100_000, {"licence": 5_000, "rent": 700}, 100.0, 30.0, 5)
    assert (costs.energy_kwh, costs.energy_minor, costs.yearly_minor) == (876.0, 26_280, 31_980)
    assert costs.horizon_minor == 100_000 + 5 * 31_980
    assert energy_kwh(1000) == 8760


def test_licences_and_rent_of_what_is_taken_stand_with_the_answer():
    models = catalogue(
        HOME.model_copy(update={"yearly_minor": 1_200}),
        EIGHT.model_copy(update={"yearly_minor": 300, "yearly_for": "rent"}),
    )
    costs = Picker(office(8, kwh_minor=0.0), models).answer("least_price").costs
    assert (costs.one_off_minor, costs.licences_minor, costs.rent_minor, costs.energy_minor) == (300, 1_200, 300, 0)
    assert costs.horizon_minor == 300 + 5 * 1_500


def priced(project, models, **settings):
    """The least price under other terms; None: nothing fits."""
    changed = apply_edits(project, [ChangeSettings(changes=settings)])
    asked = demands(changed, changed.settings.horizon_years)
    found = least_price(site_of(changed, models, asked, trunks(changed, asked, links(changed, models))))
    return found and found.price_minor


@pytest.mark.parametrize("desks", range(3, 21, 5))
@pytest.mark.parametrize("growth", [0.0, 7.5, 20.0])
def test_every_flip_is_the_first_one(desks, growth):
    """At the figure that is told the price is another, and at the one before it is still the same."""
    project = office(desks, growth=growth)
    picker = Picker(project, SMALL)
    answer = picker.answer("least_price")
    for flip in picker.flips(answer).flips:
        if flip.what != "growth" or flip.at is None:
            continue
        there = priced(project, SMALL, growth_percent=flip.at)
        assert there == (flip.price_minor if flip.price_minor >= 0 else None)
        before = flip.at + (1 if flip.cheaper else -1)
        if (flip.cheaper and before >= growth) or (not flip.cheaper and before <= growth):
            continue
        assert priced(project, SMALL, growth_percent=before) == answer.price_minor


@pytest.mark.parametrize("now", range(2, 12, 4))
@pytest.mark.parametrize("later", [2, 5, 9])
def test_no_plan_in_two_steps_costs_less_than_all_at_once(now, later):
    """By trying every pair of picks: the first bears the years before, both together bear the last."""
    project = office(now, planned("jack", later, 3))
    answer, _, told = looked_ahead(project)
    prices = {"home": 100, "eight": 200, "sixteen": 330}
    room = {"home": 4, "eight": 8, "sixteen": 16}

    def bears(boxes, drops):
        return "home" in boxes and sum(room[box] for box in boxes) - 2 * (len(boxes) - 1) >= drops

    sets = [("home", *("eight",) * eights, *("sixteen",) * sixteens) for eights in range(4) for sixteens in range(3)]
    first = min(sum(prices[box] for box in one) for one in sets if bears(one, now))
    whole = min(sum(prices[box] for box in one) for one in sets if bears(one, now + later))
    assert answer.price_minor == whole
    for step in told.steps:
        assert step.now_minor + step.then_minor >= whole
        if step.way == "least_now" and step.year <= 2029:
            assert step.now_minor == first
