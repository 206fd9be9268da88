"""Price on projects made up at random: sums that add up, whoever adds them, and claims that hold for every choice."""

import random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from baugrund.core.edits import AddDrops, AddEntry, ChangeDrops, ChangeSettings, DropChanges, RemoveDrops, apply_edits
from baugrund.core.facts.labour import STAGES
from baugrund.core.price.actual import actual_of
from baugrund.core.price.costs import costs_of, sum_of
from baugrund.core.price.least_wanted import reckoning_of
from baugrund.core.price.moving import moving_of
from baugrund.core.price.offer import document_of
from baugrund.core.price.part_items import part_items
from baugrund.core.price.phasing import in_phases, place_of
from baugrund.core.price.work_items import work_in_phases, work_items

from .priced import stood
from .test_reach import hall

KINDS = ("desk", "jack", "camera", "access_point", "printer", "phone", "screen", "door_station")
DOERS = ("installer", "electrician", "owner")
TASKS = ("terminate", "test", "punch_down", "camera", "set_up_pull", "pull_finished", "clear_away", "patch_cord")


def made_up(seed):
    """A house of one or two floors with drops, phases, doers, hours and payments from a seed."""
    chance = random.Random(seed)
    floors = ("Ground floor", "First floor")[: chance.choice((1, 2))]
    project = hall(floors=floors, state=chance.choice(("open", "finished")))
    drops = [
        AddDrops(
            room=chance.choice(project.rooms).id, kind=chance.choice(KINDS), count=chance.choice((1, 1, 2, 4)),
            changes=DropChanges(x_m=chance.uniform(2, 38), y_m=chance.uniform(2, 18), height_m=0.3,
                                existing=chance.random() < 0.15, wanted=chance.choice(("must", "should", "could"))),
        )
        for _ in range(chance.randrange(3, 8))
    ]  # fmt: skip
    phases = [AddEntry(list="phases", values={"name": f"Part {n}"}) for n in range(chance.choice((0, 2, 3)))]
    terms = [
        AddEntry(list="task_terms", values={"task": task, "who": chance.choice(DOERS)})
        for task in TASKS if chance.random() < 0.4
    ]  # fmt: skip
    extra = [AddEntry(list="extra_work", values={"name": "Folder", "count": 2.5, "who": chance.choice(DOERS)})]
    project = apply_edits(project, [*drops, *phases, *terms, *extra, ChangeSettings(changes={
        "owner_minor": chance.choice((0, 1_999)), "tax_percent": chance.choice((0, 7.7, 19)),
        "margin_parts_percent": chance.choice((0, 12.5)), "difficulty_percent": chance.choice((100, 130)),
    })])  # fmt: skip
    if project.phases:
        project = apply_edits(project, [
            ChangeDrops(ids=(drop.id,), changes=DropChanges(phase_id=chance.choice(project.phases).id))
            for drop in project.drops
        ])  # fmt: skip
    return project, chance


@pytest.fixture(scope="module", params=range(10))
def house(request, catalogue):
    project, chance = made_up(request.param)
    grounds, stack = stood(project, catalogue)
    return project, chance, grounds, stack, costs_of(project, catalogue, grounds, stack)


def test_all_sums_are_those_of_their_lines(house, catalogue):
    project, _, grounds, stack, costs = house
    assert costs.parts_minor == sum(part.total_minor or 0 for part in costs.parts)
    assert costs.labour.cost.mean_minor == sum(line.cost_minor for line in costs.labour.lines)
    tools = sum(tool.cost_minor for tool in costs.own.given.tools)
    assert costs.one_off.mean_minor == costs.parts_minor + costs.labour.cost.mean_minor + tools
    assert costs.one_off.mean_minor == sum_of(project, catalogue, grounds, stack)
    assert sum(costs.by_bringer.values()) == costs.parts_minor
    assert sum(phase.one_off_minor for phase in costs.by_phase) == costs.one_off.mean_minor
    assert sum(phase.drops for phase in costs.by_phase) == len(project.drops)
    assert sum(hours.mean_h for hours in costs.labour.by_doer.values()) == pytest.approx(costs.labour.hours.mean_h)
    band = costs.one_off
    assert band.low_minor <= band.mean_minor <= band.high_minor


def test_every_drop_is_ended_mounted_and_written_down_once(house, catalogue):
    project, _, grounds, stack, _ = house
    work = work_items(project, catalogue, grounds, stack)
    new = {drop.id for drop in project.drops if drop.has_run and not drop.existing}
    for task in ("terminate", "test"):
        assert sorted(number for one in work if one.task == task for number in one.drop_ids) == sorted(new)
    written = [number for one in work if one.task == "write_down" for number in one.drop_ids]
    assert sorted(written) == sorted(drop.id for drop in project.drops if drop.has_run)
    assert all(one.hours > 0 and one.count > 0 for one in work)
    assert all(one.task is None or one.stage == STAGES[one.task] for one in work)


def test_phases_share_the_work_and_none_is_done_twice(house, catalogue):
    project, _, grounds, stack, _ = house
    phased = work_in_phases(project, catalogue, grounds, stack)
    assert len(phased) == max(1, len(project.phases))
    whole = work_items(project, catalogue, grounds, stack)
    for task in (
        "terminate",
        "punch_down",
        "test",
        "set_up_camera",
        "bench",
        "write_down",
        "patch_cord",
        "rack",
        "box",
    ):
        told = sum(one.count for some in phased for one in some if one.task == task)
        assert told == pytest.approx(sum(one.count for one in whole if one.task == task)), task
    for place, some in enumerate(phased):
        mine = {number for one in some if one.task == "terminate" for number in one.drop_ids}
        assert all(place_of(project, project.drops_by_id[number]) == place for number in mine)


def test_a_phase_that_is_reached_has_all_before_it(house):
    project = house[0]
    seen = set()
    for _, until, _ in in_phases(project):
        now = {drop.id for drop in until.drops}
        assert seen <= now
        seen = now
    assert seen == {drop.id for drop in project.drops}


def test_what_is_left_out_in_truth_costs_no_more_than_reckoned(house, catalogue):
    """For sets of drops drawn at random, those that nobody would leave out among them."""
    project, chance, grounds, stack, costs = house
    made = reckoning_of(project, catalogue, grounds, stack)
    assert made.cost(frozenset()) >= costs.one_off.mean_minor
    free = sorted(frozenset.union(*made.may_go))
    for _ in range(4):
        gone = frozenset(chance.sample(free, chance.randrange(len(free) + 1))) if free else frozenset()
        gone |= {drop.id for drop in project.drops if drop.behind_id in gone}
        rest = RemoveDrops(ids=tuple(sorted(gone))).apply(project) if gone else project
        assert sum_of(rest, catalogue, grounds, stack) <= made.cost(gone)


def test_parts_of_single_items_add_up_to_the_list(house, catalogue):
    project, _, grounds, stack, costs = house
    work = work_items(project, catalogue, grounds, stack)
    apart = part_items(project, catalogue, grounds, stack, work, merged=False)
    for part in costs.parts:
        assert part.needed == pytest.approx(sum(item.count for item in apart if item.key == part.key)), part.key


def test_an_offer_sells_what_the_installer_brings_and_does(house):
    project, _, _, _, costs = house
    offered = apply_edits(project, [AddEntry(list="offers", values={"number": "1", "discount_percent": 3.3})])
    told = document_of(offered, costs, offered.offers[0], {})
    keys = {one.key for one in told.positions}
    assert {part.key for part in costs.parts if part.by == "installer" and part.packs} <= keys
    assert not [line for line in costs.labour.lines if line.who == "installer" and f"work/{line.stage}" not in keys]
    assert told.sum_minor == sum(one.minor or 0 for one in told.positions)
    assert told.total_minor == told.net_minor + told.tax_minor == told.sum_minor - told.discount_minor + told.tax_minor


def test_payments_differ_from_the_plan_by_their_causes(house):
    """Paid is planned and by quantity, by price, by change, less what is still to come: to the last minor unit."""
    project, chance, _, _, costs = house
    rows = [
        {"part": part.key, "quantity": chance.choice((0.0, part.to_buy, part.to_buy / 2, part.to_buy + 1)),
         "paid_minor": chance.randrange(0, 40_000), "final": chance.random() < 0.5}
        for part in costs.parts if chance.random() < 0.5
    ]  # fmt: skip
    rows.append({"part": "other/Parking", "name": "Parking", "paid_minor": 1_200})
    paid = apply_edits(project, [AddEntry(list="paid", values=row) for row in rows])
    told = actual_of(paid, costs)
    for line in told.lines:
        if line.planned_minor is not None:
            causes = line.by_quantity_minor + line.by_price_minor + line.by_change_minor
            assert line.paid_minor == line.planned_minor - line.still_minor + causes, line.key
    assert told.paid_minor == sum(row["paid_minor"] for row in rows)
    assert told.by_change_minor >= 1_200


@settings(max_examples=40, deadline=None)
@given(st.lists(st.tuples(st.sampled_from(["internet", "wifi", "wired", "printing", "telephone", "alarm", "other"]),
                          st.booleans(), st.sampled_from(["", "neighbour"]), st.sampled_from([None, 0.0, 3.0, 60.0])),
                min_size=1, max_size=6), st.integers(0, 9), st.integers(0, 2))  # fmt: skip
def test_moving_over_sums_and_verdicts_follow_from_its_steps(running, seed, lines):
    project, _ = made_up(seed)
    project = apply_edits(project, [
        *(AddEntry(list="running", values={"name": f"Thing {n}", "kind": kind, "must_stay": stay, "meanwhile": other,
                                           "most_min": most}) for n, (kind, stay, other, most) in enumerate(running)),
        *(AddEntry(list="lines", values={"name": f"Line {n}", "down_mbit": 100, "up_mbit": 50}) for n in range(lines)),
    ])  # fmt: skip
    told = moving_of(project, ())
    assert len({step.key for step in told.steps}) == len(told.steps)
    for one in told.used:
        downs = [down for step in told.steps for down in step.down if down.key == one.key]
        assert one.total_min == pytest.approx(sum(down.each_min * down.times for down in downs))
        longest = max((down.each_min for down in downs), default=0.0)
        if one.most_min is not None:
            assert one.holds == (longest <= one.most_min)
        else:
            assert one.holds is (None if one.must_stay and longest else True)
        if one.meanwhile:
            assert all(down.each_min == 2 or down.each_min < 2 for down in downs)
    first = next((n for n, step in enumerate(told.steps) if step.down), 0)
    assert all(step.key.split("/")[0] in ("record", "bench", "pull", "beside", "line") for step in told.steps[:first])
