"""Parts and work of a whole job: worked by hand, added up a second time, and said where nobody knows."""

import math
from fractions import Fraction
from itertools import product

import pytest
from hypothesis import given
from hypothesis import strategies as st

from baugrund.core.answers.picker import Picker, balance
from baugrund.core.cabling.pulls import total_h
from baugrund.core.edits import (
    AddEntry,
    ChangeDrops,
    ChangeEntry,
    ChangeSettings,
    DropChanges,
    RemoveEntry,
    SetStance,
    apply_edits,
)
from baugrund.core.errors import InvalidInput
from baugrund.core.facts.labour import PULLING
from baugrund.core.facts.project import empty_project
from baugrund.core.patch.told import patch_of
from baugrund.core.price.costs import costs_of, net_budget
from baugrund.core.price.labour import hours_of, spread_of
from baugrund.core.price.measured import PRIOR_H, Sums, factors_of
from baugrund.core.price.pit import opened_money
from baugrund.core.price.work_items import work_in_phases, work_items

from .priced import priced, stood
from .test_work import four_to_one_plate


def say(project, rows, **values):
    return apply_edits(project, [AddEntry(list=rows, values=values)])


@pytest.fixture(scope="module")
def plate(catalogue):
    """Four jacks on one plate in a finished house, with what they cost on the boxes of their pick."""
    project = four_to_one_plate("finished")
    return project, priced(project, catalogue)


def test_worked_parts_of_four_jacks_on_one_plate(plate):
    parts = {part.key: part for part in plate[1].parts}
    jack, panel_jack, quad = (parts[f"part/{name}"] for name in ("jack", "panel jack", "plate, 4 jacks, with back box"))
    # 5 % of four is a part of one: one spare each; one plate and one spare
    assert (jack.needed, jack.spare, jack.packs, jack.total_minor) == (4, 1, 5, 5 * 560)
    assert (panel_jack.needed, panel_jack.spare, panel_jack.total_minor) == (4, 1, 5 * 520)
    assert (quad.needed, quad.packs, quad.total_minor) == (1, 2, 2 * 1190)
    # 4 · 22.4 m are cut from one box; ties: two a run, sold by the hundred
    assert (parts["cable/category 6"].packs, parts["cable/category 6"].total_minor) == (1, 10_800)
    assert (parts["part/tie at the closet"].needed, parts["part/tie at the closet"].packs) == (8, 1)
    # its walls are opened at both ends: filler 2 · 0.15 kg, sold by 5 kg
    assert parts["part/filler"].needed == pytest.approx(0.3) and parts["part/filler"].packs == 1
    rack = parts["part/rack of 9 units"]
    assert rack.total_minor == 12_900 and rack.price_list == "House list" and rack.lead_days == 10


def test_worked_work_of_four_jacks_on_one_plate(plate):
    lines = {line.key: line for line in plate[1].labour.lines}
    assert {key: (line.count, pytest.approx(line.hours.usual_h)) for key, line in lines.items() if line.stage == "pull"} == {
        "task/fish_wall": (2, 1.5), "task/set_up_pull": (1, 0.3), "task/pull_finished": (22.4, 2.24),
        "task/pull_further_finished": (67.2, 1.344),
    }  # fmt: skip
    assert lines["task/terminate"].hours.usual_h == pytest.approx(0.6)
    assert lines["task/plate_finished"].count == 1
    assert lines["task/rack"].hours.usual_h == 2.0 and lines["task/survey"].count == 1
    assert lines["task/close_hole"].count == 2 and lines["task/write_down"].count == 4
    fished = lines["task/fish_wall"].hours
    # PERT: 0.7 and 1.6 times the usual; mean 1.05, a sixth of the range as deviation
    assert (fished.low_h, fished.high_h) == pytest.approx((1.05, 2.4))
    assert (fished.mean_h, fished.sigma_h) == pytest.approx((1.575, 0.225))
    assert lines["task/fish_wall"].cost_minor == round(1.575 * 7500)


@pytest.mark.parametrize("name", ["dye_works", "row_house", "orchard_school"])
def test_hours_of_runs_and_ways_are_those_of_reach(request, catalogue, name):
    project = request.getfixturevalue(name)
    work = work_items(project, catalogue, *stood(project, catalogue))
    linked = {closet.id for closet in project.closets[1:]}
    of_links = sum(one.hours for one in work if not one.drop_ids and one.closet_id in linked and one.task in PULLING)
    told = sum(one.hours for one in work if one.task in PULLING and one.extra_id is None)
    assert told - of_links == pytest.approx(total_h(project))


def test_a_sum_of_lines_has_the_mean_and_spread_of_all_its_cases():
    """Two tasks that end in one of two ways each, and a factor of the site that has two values: eight cases."""
    tasks, site = [((8.0, 12.0)), ((30.0, 50.0))], (0.9, 1.1)
    cases = [factor * (one + other) for factor, one, other in product(site, *tasks)]
    mean = sum(cases) / len(cases)
    sigma = math.sqrt(sum((case - mean) ** 2 for case in cases) / len(cases))
    told = spread_of([((low + high) / 2, (high - low) / 2) for low, high in tasks], 0.1)
    assert told == pytest.approx((mean, sigma))


@given(st.lists(st.floats(0, 500), min_size=1, max_size=20))
def test_a_sum_of_estimates_is_at_least_its_parts_and_no_wider_than_all_off_together(usual):
    lines = [hours_of(one) for one in usual]
    told = spread_of([(one.mean_h, one.sigma_h) for one in lines], 0.0)
    assert told.mean == pytest.approx(1.05 * sum(usual))
    assert told.sigma <= sum(one.sigma_h for one in lines) + 1e-9


def test_nothing_is_silently_free(plate, catalogue):
    project, costs = plate
    assert costs.unpriced == ()
    without = catalogue.model_copy(update={"models": tuple(m for m in catalogue.models if m.key != "panel-jack")})
    told = priced(project, without)
    part = next(part for part in told.parts if part.key == "part/panel jack")
    assert (part.total_minor, part.source, told.unpriced) == (None, "none", ("part/panel jack",))
    assert told.parts_minor == costs.parts_minor - 5 * 520
    assert "without 1 part of unknown price" in told.one_off_fit.sentence if told.one_off_fit else True
    own = priced(say(project, "part_terms", part="part/panel jack", price_minor=499), without)
    assert own.unpriced == () and own.parts_minor == told.parts_minor + 5 * 499


def test_what_is_there_is_not_bought_and_what_is_bought_is_still_paid(plate, catalogue):
    project, costs = plate
    said = say(project, "part_terms", part="part/jack", there=2, spare=0)
    jack = next(part for part in priced(said, catalogue).parts if part.key == "part/jack")
    assert (jack.to_buy, jack.total_minor) == (2, 2 * 560)
    bought = say(project, "part_terms", part="cable/category 6", bought=1, by="client")
    told = priced(bought, catalogue)
    cable = next(part for part in told.parts if part.key == "cable/category 6")
    assert (cable.total_minor, cable.open_minor, cable.open_packs) == (10_800, 0, 0)
    assert told.by_bringer["client"] == 10_800 and told.open_minor == costs.open_minor - 10_800
    assert told.one_off == costs.one_off


def test_prices_that_hold_tax_are_told_without_it(plate, catalogue):
    taxed = catalogue.model_copy(update={"tax": "included"})
    told = priced(apply_edits(plate[0], [ChangeSettings(changes={"tax_percent": 19})]), taxed)
    jack = next(part for part in told.parts if part.key == "part/jack")
    assert jack.each_minor == round(560 / 1.19)


def test_a_budget_with_tax_is_compared_without_it(plate, catalogue):
    gross = apply_edits(plate[0], [
        ChangeSettings(changes={"budget_minor": 119_000, "budget_with_tax": True, "tax_percent": 19})
    ])  # fmt: skip
    assert priced(gross, catalogue).one_off_fit.budget_minor == 100_000


@given(st.integers(1, 10_000_000), st.sampled_from([0, 7.7, 8.1, 19, 20, 25.5, 100]))
def test_a_budget_without_tax_is_the_most_whose_tax_fits(budget, percent):
    project = empty_project("P", 2026)
    terms = project.settings.model_copy(update={"tax_percent": percent, "budget_with_tax": True})
    net, rate = net_budget(project.changed(settings=terms), budget), Fraction(str(percent))
    assert net * (100 + rate) <= 100 * budget < (net + 1) * (100 + rate)


def test_the_budget_is_met_to_the_last_minor_unit(plate, catalogue):
    project, costs = plate
    for more, verdict, said in ((0, "holds", "left"), (-1, "over", "over by € 0.01")):
        limit = costs.one_off.mean_minor + more
        at = apply_edits(project, [ChangeSettings(changes={"budget_minor": limit})])
        told = balance(at, catalogue, Picker(at, catalogue).answer("least_price").standing())
        money = next(pit for pit in told.site if pit.key == "money")
        assert (money.verdict, said in money.sentence) == (verdict, True)
        assert any(finding.key == "over-budget" for finding in told.findings) == (more < 0)
        opened = opened_money(at, priced(at, catalogue))
        assert sum(share.amount for share in opened.shares) == pytest.approx(costs.one_off.mean_minor / 100)


def test_the_pit_of_money_holds_the_owner_s_tools_and_says_what_has_no_price(plate, catalogue):
    at = apply_edits(plate[0], [
        ChangeSettings(changes={"budget_minor": 900_000}),
        AddEntry(list="task_terms", values={"task": "terminate", "who": "owner"}),
    ])  # fmt: skip
    without = catalogue.model_copy(update={"models": tuple(m for m in catalogue.models if m.key != "panel-jack")})
    costs = priced(at, without)
    opened = opened_money(at, costs)
    assert sum(share.amount for share in opened.shares) == pytest.approx(costs.one_off.mean_minor / 100)
    assert {"Work", "Tools of the owner"} <= {share.label for share in opened.shares}
    assert "+ tools 110.00 of" in opened.formula and "without 1 part of unknown price" in opened.formula


def test_the_owner_does_it_for_nothing_and_takes_half_as_long_again(plate, catalogue):
    project, costs = plate
    told = priced(say(project, "task_terms", task="terminate", who="owner"), catalogue)
    mine, theirs = (next(line for line in some.labour.lines if line.task == "terminate") for some in (told, costs))
    assert (mine.who, mine.cost_minor) == ("owner", 0)
    assert mine.hours.usual_h == pytest.approx(1.5 * theirs.hours.usual_h)
    assert told.labour.cost.mean_minor == costs.labour.cost.mean_minor - theirs.cost_minor


def test_a_difficult_site_takes_longer_but_for_what_the_project_says_itself(plate, catalogue):
    hard = apply_edits(plate[0], [
        ChangeSettings(changes={"difficulty_percent": 150}),
        AddEntry(list="task_rates", values={"task": "test", "hours": 0.2}),
    ])  # fmt: skip
    lines = {line.task: line for line in priced(hard, catalogue).labour.lines}
    assert lines["terminate"].hours.usual_h == pytest.approx(4 * 0.15 * 1.5)
    assert lines["test"].hours.usual_h == pytest.approx(0.8)


def test_a_factor_is_shrunk_by_how_much_was_measured():
    whole, factors = factors_of([Sums(task="terminate", counted_h=12, done_h=8)])
    assert whole == (PRIOR_H + 12) / (PRIOR_H + 8)
    assert factors["terminate"] == pytest.approx((PRIOR_H * whole + 12) / (PRIOR_H + 8))
    assert 1 < whole < factors["terminate"] < 12 / 8
    much = factors_of([Sums(task="terminate", counted_h=1200, done_h=800)])[1]["terminate"]
    assert much == pytest.approx(1.5, abs=0.01)
    assert factors_of([]) == (1.0, {})


def test_hours_that_nobody_counted_change_no_factor(plate, catalogue):
    project = say(plate[0], "worked", task="terminate", hours=9)
    told = priced(project, catalogue).measured
    assert (told.worked_h, told.counted_h, told.factor) == (9, 0, 1.0)
    counted = say(plate[0], "worked", task="terminate", hours=0.75, count=4)
    (line,) = priced(counted, catalogue).measured.tasks
    assert (line.done, line.count, line.done_h) == (4, 4, pytest.approx(0.6))
    assert line.factor > 1 and line.rate_h == pytest.approx(0.15 * line.factor)


def test_work_of_phases_counts_every_drop_once(dye_works, catalogue):
    at = stood(dye_works, catalogue)
    whole, phased = work_items(dye_works, catalogue, *at), work_in_phases(dye_works, catalogue, *at)
    assert len(phased) == 3
    for task in ("terminate", "punch_down", "test", "camera", "access_point", "write_down", "fit_way", "dig_duct",
                 "rack", "box", "patch_cord", "take_down", "set_up_camera"):  # fmt: skip
        once = sum(one.count for one in whole if one.task == task)
        assert sum(one.count for some in phased for one in some if one.task == task) == pytest.approx(once), task


def test_an_owned_box_is_there(plate, catalogue):
    project = plate[0]
    key = next(part.model for part in plate[1].parts if part.group == "boxes")
    owned = apply_edits(project, [
        AddEntry(list="kit", values={"name": "Old one", "model": key}), SetStance(model=key, pinned=1)
    ])  # fmt: skip
    box = next(part for part in priced(owned, catalogue).parts if part.model == key)
    assert (box.there, box.to_buy, box.total_minor) == (1, 0, 0)


@pytest.mark.parametrize(
    ("rows", "values", "said"),
    [
        ("worked", {"task": "terminate", "hours": -1}, "greater than 0"),
        ("worked", {"task": "terminate", "hours": 24.5}, "less than or equal to 24"),
        ("phases", {"name": "Roof", "begins": "2026-05-02", "ends": "2026-05-01"}, "before it begins"),
        ("stage_orders", {"first": "set_up", "second": "survey"}, "goes in a circle"),
        ("waits", {"name": "Plaster", "after": "test", "before": ["pull"]}, "goes in a circle"),
        ("extra_work", {"name": " ", "count": 2}, "needs a name"),
        ("offers", {"number": "1", "payments": [{"name": "order", "percent": 60}]}, "come to 60 %"),
        ("offers", {"number": "1", "state": "sent"}, "nothing was sent"),
    ],
)
def test_bad_input_is_said_and_nothing_is_taken(plate, rows, values, said):
    with pytest.raises(InvalidInput, match=said):
        say(plate[0], rows, **values)


def test_tax_is_at_most_all_of_it(plate):
    assert apply_edits(plate[0], [ChangeSettings(changes={"tax_percent": 100})]).settings.tax_percent == 100
    with pytest.raises(InvalidInput, match="tax_percent"):
        apply_edits(plate[0], [ChangeSettings(changes={"tax_percent": 100.5})])


def test_a_phase_that_goes_takes_its_drops_back_to_the_first(dye_works):
    last = dye_works.phases[-1]
    rest = apply_edits(dye_works, [RemoveEntry(list="phases", id=last.id)])
    assert all(drop.phase_id != last.id for drop in rest.drops) and len(rest.drops) == len(dye_works.drops)


def test_a_closet_that_comes_after_its_drops_breaks(dye_works, catalogue):
    late = apply_edits(dye_works, [
        ChangeEntry(list="closets", id=dye_works.closets[0].id, changes={"phase_id": dye_works.phases[1].id})
    ])  # fmt: skip
    told = balance(late, catalogue, Picker(dye_works, catalogue).answer("least_price").standing())
    (finding,) = [one for one in told.findings if one.key == "closet-too-late"]
    assert finding.weight == "breaks" and "second summer" in finding.text
    everything = ChangeDrops(
        ids=tuple(drop.id for drop in late.drops), changes=DropChanges(phase_id=dye_works.phases[1].id)
    )
    moved = balance(apply_edits(late, [everything]), catalogue, None)
    assert not [one for one in moved.findings if one.key == "closet-too-late"]


@pytest.mark.parametrize("name", ["dye_works", "row_house", "orchard_school"])
def test_cords_are_as_many_as_patch_counts(request, catalogue, name):
    """Patch numbers every cord, Stack measures those whose ends stand somewhere: both buy the same."""
    project = request.getfixturevalue(name)
    grounds, stack = stood(project, catalogue)
    told = costs_of(project, catalogue, grounds, stack)
    copper = sum(part.needed for part in told.parts if part.key.startswith("part/cord ") and part.closet_ids)
    fibre = sum(part.needed for part in told.parts if "fibre cord" in part.key)
    assert copper == patch_of(project, grounds, stack, better=False).cords.count
    between = sum(2 * seat.trunk.ends for ground in grounds for seat in ground.seating.trunks)
    inside = sum(link.option.upper.module is not None for ground in grounds for link in ground.seating.links)
    assert fibre == between + inside
