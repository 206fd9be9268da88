"""Phases on kept boxes against enumeration, and what could go so that the budget holds against every choice."""

import random
from itertools import chain, combinations

import pytest

from baugrund.core.answers.phases import phases_of
from baugrund.core.answers.phases_by_budget import phases_by_budget
from baugrund.core.answers.picker import Picker
from baugrund.core.edits import (
    AddEntry,
    ChangeDrops,
    ChangeEntry,
    ChangeSettings,
    DropChanges,
    RemoveEntry,
    apply_edits,
)
from baugrund.core.price.least_wanted import Packed, Reckoning, choose, keep_most, reckoning_of
from baugrund.core.price.phasing import in_phases, place_of, until_phase
from baugrund.core.price.work_items import work_in_phases
from baugrund.core.watch import to_the_end

from .priced import stood


@pytest.fixture(scope="module")
def in_three(orchard_school, catalogue):
    """The school in three phases, and its pick."""
    named = [AddEntry(list="phases", values={"name": name}) for name in ("one", "two", "three")]
    project = apply_edits(orchard_school, named)
    _, two, three = (phase.id for phase in project.phases)
    some = [drop.id for drop in project.drops if drop.behind_id is None]
    moved = apply_edits(project, [
        ChangeDrops(ids=tuple(some[14:22]), changes=DropChanges(phase_id=two)),
        ChangeDrops(ids=tuple(some[22:]), changes=DropChanges(phase_id=three)),
    ])  # fmt: skip
    return moved, Picker(moved, catalogue).answer("least_price")


def test_all_phases_together_cost_the_least_pick_of_the_whole(in_three, catalogue):
    project, answer = in_three
    told = to_the_end(phases_of(project, catalogue, answer))
    assert told.proven and told.boxes_minor == sum(one.boxes_minor for one in told.phases) <= answer.price_minor
    assert told.boxes_minor >= told.bound_minor
    assert [one.drops for one in told.phases] == [14, 8, len(project.drops) - 22]


def test_each_phase_bears_what_is_built_and_nothing_less_would(in_three, catalogue):
    """The first phase's boxes cost no more than any other part of the pick's boxes that bears it."""
    project, answer = in_three
    told = to_the_end(phases_of(project, catalogue, answer))
    first = until_phase(project, 0)
    alone = Picker(first, catalogue).answer("least_price")
    assert alone.price_minor <= told.phases[0].boxes_minor <= answer.price_minor
    for phase in told.phases:
        ports = [
            pit for closet in phase.closets for pit in closet.capacities if pit.key in ("ports", "powered", "watts")
        ]
        assert ports and all(pit.verdict != "over" for pit in ports)


def test_a_phase_stands_on_what_was_built_before(in_three):
    project, _ = in_three
    stages = list(in_phases(project))
    assert [len(until.drops) for _, until, _ in stages] == [14, 22, len(project.drops)]
    assert sum(many for _, _, many in stages) == len(project.drops)
    behind = [drop for drop in project.drops if drop.behind_id]
    assert all(place_of(project, drop) >= place_of(project, project.drops_by_id[drop.behind_id]) for drop in behind)


def test_without_phases_there_is_one(orchard_school, catalogue):
    ((phase, until, drops),) = in_phases(orchard_school)
    assert phase is None and until is orchard_school and drops == len(orchard_school.drops)
    assert to_the_end(phases_of(orchard_school, catalogue, None)).why == "There are no phases."


def every_choice(made):
    free = frozenset.union(*made.may_go)
    choices = map(frozenset, chain.from_iterable(combinations(sorted(free), n) for n in range(len(free) + 1)))
    for gone in choices:
        if all(drop in gone or above not in gone for drop, above in made.parents.items()):
            yield gone


def best_of(made, budget):
    """The best choice by enumeration: kept of the most wanted first, then least cost."""
    fine = [gone for gone in every_choice(made) if made.cost(gone) <= budget]
    return min(fine, key=lambda gone: ([len(level & gone) for level in made.may_go], made.cost(gone)), default=None)


def made_up(seed):
    chance = random.Random(seed)
    drops = list(range(1, 10))
    levels = (drops[:3], drops[3:8]) if seed % 2 else (drops[:2], drops[2:4], drops[4:8])
    made = Reckoning(fixed=chance.randrange(500), may_go=tuple(map(frozenset, levels)))
    made.alone = {drop: chance.randrange(10, 400) for drop in drops}
    made.groups = [(chance.randrange(50, 500), frozenset(chance.sample(drops, 3))) for _ in range(3)]
    made.packed = [
        Packed(chance.randrange(100, 900), chance.choice((1000, 5000, 10_000)), chance.choice((0, 5, 10)), 0, 0,
               chance.choice((0, 1000)), dict.fromkeys(chance.sample(drops, 5), 1000),
               ((2, frozenset(chance.sample(drops, 4))),))
        for _ in range(2)
    ]  # fmt: skip
    if chance.random() < 0.5:
        made.parents = {5: 4, 9: 8}
    return made, chance


@pytest.mark.parametrize("seed", range(12))
def test_the_choice_keeps_as_much_as_any_choice(seed):
    made, chance = made_up(seed)
    whole = made.cost(frozenset())
    for share in (1.0, 0.95, 0.8, 0.6):
        budget = round(whole * share) - chance.randrange(2)
        gone, proven = choose(made, budget)
        best = best_of(made, budget)
        assert proven
        if best is None:
            assert made.cost(gone) > budget
            continue
        assert made.cost(gone) <= budget

        def kept(some):
            return [len(level - some) for level in made.may_go]

        # more that should be there outweighs any number that could
        assert kept(gone) == kept(best)
        assert made.cost(gone) == made.cost(best)


def test_the_cooperative_keeps_what_should_be_there(dye_works, catalogue):
    grounds, stack = stood(dye_works, catalogue)
    told = keep_most(dye_works, catalogue, grounds, stack)
    made = reckoning_of(dye_works, catalogue, grounds, stack)
    assert told.proven and told.fits
    assert told.true_minor <= told.reckoned_minor <= told.budget_minor < told.before_minor
    gone = best_of(made, told.budget_minor)
    assert (told.should_kept, told.could_kept) == (len(made.may_go[0] - gone), len(made.may_go[1] - gone))


def test_what_must_be_there_stays_whatever_the_budget(dye_works, catalogue):
    poor = apply_edits(dye_works, [ChangeSettings(changes={"budget_minor": 100})])
    told = keep_most(poor, catalogue, *stood(dye_works, catalogue))
    assert not told.fits and "still over" in told.sentence
    must = {drop.id for drop in poor.drops if drop.wanted == "must"}
    assert not must & set(told.left_out) and told.left_out


def test_left_out_for_true_costs_no_more_than_reckoned(dye_works, catalogue):
    at = stood(dye_works, catalogue)
    for share in (0.99, 0.98, 0.975):
        told = keep_most(dye_works, catalogue, *at, budget_minor=round(2_082_234 * share))
        assert told.true_minor <= told.reckoned_minor


def with_budgets(project, *budgets):
    return apply_edits(project, [
        ChangeEntry(list="phases", id=phase.id, changes={"budget_minor": budget})
        for phase, budget in zip(project.phases, budgets, strict=False)
    ])  # fmt: skip


def test_phases_by_budget_keep_to_the_budgets_when_they_are_taken(dye_works, catalogue):
    answer = Picker(dye_works, catalogue).answer("least_price")
    project = with_budgets(dye_works, 1_450_000, 300_000)
    told = to_the_end(phases_by_budget(project, catalogue, answer))
    assert told.fits and told.proven
    assert sorted(drop for one in told.phases for drop in one.drop_ids) == sorted(drop.id for drop in project.drops)
    taken = apply_edits(project, [
        ChangeDrops(ids=one.drop_ids, changes=DropChanges(phase_id=one.phase_id)) for one in told.phases if one.drop_ids
    ])  # fmt: skip
    plan = to_the_end(phases_of(taken, catalogue, answer))
    assert [one.one_off_minor for one in plan.phases] == [one.one_off_minor for one in told.phases]
    first, second = (one.one_off_minor for one in plan.phases[:2])
    assert first <= 1_450_000 and first + second <= 1_750_000
    # what could be there waits for what must
    built = [{drop.wanted for drop in taken.drops if place_of(taken, drop) == place} for place in range(3)]
    assert "must" in built[0] and ("could" not in built[0] or "must" not in built[1] | built[2])


def test_phases_by_budget_say_why_there_are_none(dye_works, catalogue):
    answer = Picker(dye_works, catalogue).answer("least_price")

    def told(project, followed=answer):
        return to_the_end(phases_by_budget(project, catalogue, followed))

    assert told(with_budgets(dye_works, None)).why == "Every phase but the last needs a budget."
    assert told(dye_works, None).why.startswith("Nothing stands yet")
    alone = apply_edits(dye_works, [RemoveEntry(list="phases", id=phase.id) for phase in dye_works.phases[1:]])
    assert told(alone).why == "There is one phase, or none."
    poor = told(with_budgets(dye_works, 100, 100))
    assert not poor.fits and "over the budgets" in poor.why
    assert told(with_budgets(dye_works, 9_000_000, 100)).phases[0].drop_ids == tuple(one.id for one in dye_works.drops)


def test_a_closet_is_built_with_its_first_drop_or_in_its_own_phase(orchard_school, catalogue):
    project = apply_edits(orchard_school, [AddEntry(list="phases", values={"name": name}) for name in ("one", "two")])
    barn, two = project.closets[1], project.phases[1].id
    late = apply_edits(project, [
        ChangeDrops(ids=tuple(drop.id for drop in project.drops if drop.closet_id == barn.id),
                    changes=DropChanges(phase_id=two))
    ])  # fmt: skip

    def stacked(some):
        work = work_in_phases(some, catalogue, *stood(some, catalogue))
        return [{one.closet_id for one in items if one.task == "box"} for items in work]

    assert stacked(late) == [{1}, {barn.id}]
    early = apply_edits(late, [ChangeEntry(list="closets", id=barn.id, changes={"phase_id": project.phases[0].id})])
    assert stacked(early) == [{1, barn.id}, set()]


def test_what_has_no_price_is_said_where_a_budget_is_told(dye_works, catalogue):
    without = catalogue.model_copy(update={"models": tuple(m for m in catalogue.models if m.key != "panel-jack")})
    answer = Picker(dye_works, without).answer("least_price")
    told = keep_most(dye_works, without, *stood(dye_works, without, answer))
    assert told.unpriced == 1 and "without 1 part of unknown price" in told.sentence
    proposed = to_the_end(phases_by_budget(dye_works, without, answer))
    assert all("without 1 part of unknown price" in one.sentence for one in proposed.phases)
    assert [one.unpriced for one in to_the_end(phases_of(dye_works, without, answer)).phases] == [1, 1, 1]
