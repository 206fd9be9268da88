"""The order of work: what it is made of, hours counted once, what is ticked, what a failed run opens again, what waits."""

import pytest

from baugrund.core.edits import (
    AddDrops,
    AddEntry,
    ChangeDrops,
    ChangeSettings,
    DropChanges,
    RemoveDrops,
    TickWork,
    UntickWork,
    WriteBench,
    apply_edits,
)
from baugrund.core.errors import InvalidInput
from baugrund.core.price.labour import doers, slowness
from baugrund.core.price.work_items import work_in_phases
from baugrund.core.prove.order.status import Status
from baugrund.core.prove.order.told import before_of, order_of, stages_in_order
from baugrund.core.prove.run_tests import run_tests_of
from baugrund.core.stack.told import stack_of
from baugrund.core.standards.order_of_work import (
    AFTER_RUN,
    BEFORE,
    BUILD_STAGES,
    LABOUR_STAGES,
    OF_CABLE,
    STAGE_ROWS,
)

from .priced import stood

STRAIGHT = list(range(1, 9))


@pytest.fixture(scope="module")
def boxes(row_house, catalogue):
    """The grounds of the row house: ticks and tests change no box."""
    return stood(row_house, catalogue)[0]


@pytest.fixture(scope="module")
def house(row_house):
    """The row house before anything was done."""
    drops = tuple(drop.model_copy(update={"pulled": False}) for drop in row_house.drops)
    return row_house.changed(ticks=(), benched=(), run_tests=(), printed=(), drops=drops)


@pytest.fixture
def told(catalogue, boxes):
    def order(project):
        return order_of(project, catalogue, boxes, stack_of(project, catalogue, boxes))

    return order


def stage(order, name):
    return next(one for phase in order.phases for one in phase.stages if one.stage == name)


def subject(order, name, key):
    return next(one for step in stage(order, name).steps for one in step.subjects if one.key == key)


def tick(name, *subjects, **values):
    return TickWork(stage=name, subjects=subjects, **values)


def measured(drop_id, **values):
    return AddEntry(list="run_tests", values={"drop_id": drop_id, "at": "2026-03-01T10:00:00", **values})


def good(drop_id, project):
    drop = project.drops_by_id[drop_id]
    return measured(drop_id, pins=STRAIGHT, length_m=drop.run_m or 10.0, speed_mbit=drop.speed_mbit, poe_v=50.0)


def run_of(project):
    """A drop with a new run of its own that asks for no power."""
    return next(d for d in project.drops if d.has_run and not d.existing and project.port_class(d) is None)


@pytest.mark.parametrize("name", ["row_house", "dye_works", "orchard_school"])
def test_every_hour_of_the_work_stands_in_one_step(request, name, catalogue):
    more = [
        AddEntry(list="extra_work", values={"task": task, "count": 3.0}) for task in ("survey", "take_down", "fit_way")
    ]
    project = apply_edits(request.getfixturevalue(name), more)
    grounds, stack = stood(project, catalogue)
    doer = doers(project)
    hours = sum(
        item.hours * slowness(project, doer(item))
        for items in work_in_phases(project, catalogue, grounds, stack)
        for item in items
        if item.stage != "survey" or item.extra_id is not None
    )
    order = order_of(project, catalogue, grounds, stack)
    steps = [step for phase in order.phases for one in phase.stages for step in one.steps]
    assert sum(step.hours for step in steps) == pytest.approx(hours, abs=1e-3 * len(steps))
    assert order.total == sum(len(step.subjects) for step in steps)


def test_a_subject_comes_once_in_a_stage(dye_works, catalogue):
    order = order_of(dye_works, catalogue, *stood(dye_works, catalogue))
    for name in BUILD_STAGES:
        keys = [
            one.key for phase in order.phases for part in phase.stages if part.stage == name
            for step in part.steps for one in step.subjects
        ]  # fmt: skip
        assert len(keys) == len(set(keys)), name


def test_every_run_is_pulled_ended_labelled_patched_tested_and_written_down(house, told):
    order = told(house)
    new = {f"drop/{drop.id}" for drop in house.drops if drop.has_run and not drop.existing}
    for name in ("pull", "terminate", "punch_down", "label", "test", "document"):
        found = {one.key for step in stage(order, name).steps for one in step.subjects}
        assert new <= found | {"site"}, name
    assert order.done == 0


def test_stages_come_in_the_order_of_work_and_each_has_its_row():
    assert set(STAGE_ROWS) == set(BUILD_STAGES)
    assert set(LABOUR_STAGES.values()) <= set(BUILD_STAGES)
    place = BUILD_STAGES.index
    assert all(place(first) < place(then) for first, then, _ in BEFORE)
    asked = ["bench", "pull", "terminate", "punch_down", "label", "stack", "patch", "power_up", "configure", "test",
             "mount", "document"]  # fmt: skip
    assert [one for one in BUILD_STAGES if one in asked] == asked


def test_what_the_project_orders_itself_comes_first(house, told):
    own = apply_edits(house, [AddEntry(list="stage_orders", values={"first": "mount", "second": "patch"})])
    order = stages_in_order(before_of(own))
    assert order.index("mount") < order.index("patch") < order.index("power_up") < order.index("configure")
    assert stages_in_order(before_of(house)) == BUILD_STAGES
    mount, patch = stage(told(own), "mount"), stage(told(own), "patch")
    assert "Configure" not in {name for step in mount.steps for name in step.waits_for}
    assert all("Mount" in step.waits_for for step in patch.steps)


def test_a_tick_says_who_and_when_and_goes_again(house, told):
    drop = run_of(house)
    key = f"drop/{drop.id}"
    ticked = apply_edits(house, [tick("terminate", key, at="2026-02-03T10:15:00", by="Ada")])
    one = subject(told(ticked), "terminate", key)
    assert (one.state, one.by, f"{one.at:%H:%M}") == ("done", "Ada", "10:15")
    opened = apply_edits(ticked, [UntickWork(stage="terminate", subjects=(key,))])
    assert subject(told(opened), "terminate", key).state == "open"
    assert opened.ticks == ()


def test_unticking_one_of_many_leaves_the_others(house, told):
    keys = tuple(f"drop/{drop.id}" for drop in house.drops if drop.has_run)[:3]
    some = apply_edits(house, [tick("label", *keys), UntickWork(stage="label", subjects=keys[1:2])])
    states = [subject(told(some), "label", key).state for key in keys]
    assert states == ["done", "open", "done"]


def test_a_pull_that_is_ticked_is_pulled_in_reach_and_the_other_way_round(house, told):
    drop = run_of(house)
    key = f"drop/{drop.id}"
    ticked = apply_edits(house, [tick("pull", key)])
    assert ticked.drops_by_id[drop.id].pulled
    pulled = apply_edits(house, [ChangeDrops(ids=(drop.id,), changes=DropChanges(pulled=True))])
    assert subject(told(pulled), "pull", key).state == "done"
    back = apply_edits(ticked, [ChangeDrops(ids=(drop.id,), changes=DropChanges(pulled=False))])
    assert subject(told(back), "pull", key).state == "open"
    assert not apply_edits(ticked, [UntickWork(stage="pull", subjects=(key,))]).drops_by_id[drop.id].pulled


def test_a_test_is_done_by_the_test_and_not_by_a_tick(house, told):
    drop = run_of(house)
    key = f"drop/{drop.id}"
    assert subject(told(apply_edits(house, [tick("test", key)])), "test", key).state == "open"
    half = subject(told(apply_edits(house, [measured(drop.id, pins=STRAIGHT)])), "test", key)
    assert (half.state, half.why) == ("open", "not measured: length, link speed")


@pytest.mark.parametrize(("fault_m", "from_place", "opened"), [
    (0.4, False, {"punch_down"}), (0.4, True, {"terminate"}), (None, False, {"terminate", "punch_down"}),
])  # fmt: skip
def test_a_failed_run_opens_its_bad_end_and_all_that_took_it(house, told, fault_m, from_place, opened):
    drop = run_of(house)
    key = f"drop/{drop.id}"
    stages = ("pull", "terminate", "punch_down", "label", "patch", "mount", "document")
    before = apply_edits(house, [tick(name, key) for name in stages])
    failed = told(apply_edits(before, [
        measured(drop.id, pins=[2, 1, *STRAIGHT[2:]], length_m=20.0, fault_m=fault_m, from_place=from_place),
    ]))  # fmt: skip
    states = {name: subject(failed, name, key).state for name in stages}
    assert {name for name, state in states.items() if state == "again"} == opened | set(AFTER_RUN) & set(stages)
    assert "2026-03-01" in subject(failed, "patch", key).why


def test_what_was_opened_again_stays_so_until_it_is_ticked_after_the_test(house, told):
    drop = run_of(house)
    key = f"drop/{drop.id}"
    failed = apply_edits(house, [tick("patch", key), measured(drop.id, speed_mbit=0)])
    passed = apply_edits(failed, [good(drop.id, house)])
    assert subject(told(passed), "patch", key).state == "again"
    again = apply_edits(passed, [tick("patch", key)])
    assert subject(told(again), "patch", key).state == "done"


def test_a_label_that_changed_since_it_was_printed_is_open_again(house, told):
    drop = run_of(house)
    key = f"drop/{drop.id}"
    edits = [AddEntry(list="printed", values={"drop_id": drop.id, "text": "OLD-1"}), tick("label", key)]
    one = subject(told(apply_edits(house, edits)), "label", key)
    assert one.state == "again" and one.why.startswith("printed as OLD-1, and it is ")


def test_a_drop_that_comes_later_opens_its_steps_alone(house, told):
    order = told(house)
    step = stage(order, "terminate").steps[0]
    done = apply_edits(house, [tick("terminate", *(one.key for one in step.subjects))])
    more = apply_edits(done, [AddDrops(room=step.room_id, kind="jack")])
    now = next(one for one in stage(told(more), "terminate").steps if one.room_id == step.room_id)
    assert (now.state, now.done, len(now.subjects)) == ("open", len(step.subjects), len(step.subjects) + 1)


def test_ticks_of_what_is_gone_hurt_nothing(house, told):
    drop = run_of(house)
    ticked = apply_edits(house, [tick("label", f"drop/{drop.id}"), RemoveDrops(ids=(drop.id,))])
    assert all(f"drop/{drop.id}" != one.key for step in stage(told(ticked), "label").steps for one in step.subjects)


def test_a_step_waits_for_what_comes_before_on_the_same_drops(house, told):
    order = told(house)
    pulled = [one.key for step in stage(order, "pull").steps for one in step.subjects]
    assert all(step.waits_for == ("Pull",) for step in stage(order, "terminate").steps)
    first = stage(order, "terminate").steps[0]
    ready = apply_edits(house, [tick("pull", *(one.key for one in first.subjects))])
    now = {step.key: step.waits_for for step in stage(told(ready), "terminate").steps}
    assert now.pop(first.key) == ()
    assert set(now.values()) == {("Pull",)}
    assert first.key not in order.phases[0].next and first.key in told(ready).phases[0].next
    assert len(pulled) == len(set(pulled))


def test_the_site_is_handed_over_last(house, told):
    site = stage(told(house), "document").steps[-1]
    assert [one.key for one in site.subjects] == ["site"]
    assert {"Pull", "Test", "Mount", "Closets"} <= set(site.waits_for)


def test_a_device_is_through_the_bench_once_all_three_are_done(house, told):
    drop = next(one for one in house.drops if one.kind == "access_point")
    key = f"drop/{drop.id}"
    half = apply_edits(house, [WriteBench(subject=key, changes={"powered": True, "named": True})])
    one = subject(told(half), "bench", key)
    assert (one.state, one.why) == ("open", "left: bring up to date")
    whole = apply_edits(half, [WriteBench(subject=key, changes={"updated": True, "by": "Ada"})])
    assert (subject(told(whole), "bench", key).state, whole.benched[0].by) == ("done", "Ada")
    assert len(whole.benched) == 1


@pytest.mark.parametrize("key", ["drop", "drop/x", "attic/3", "thing/1/", ""])
def test_a_subject_that_is_none_is_refused(house, key):
    with pytest.raises((InvalidInput, ValueError)):
        apply_edits(house, [AddEntry(list="ticks", values={"stage": "label", "subjects": [key]})])


def test_the_demo_house_is_built_and_the_works_are_half_way(row_house, dye_works, catalogue):
    whole = order_of(row_house, catalogue, *stood(row_house, catalogue))
    half = order_of(dye_works, catalogue, *stood(dye_works, catalogue))
    assert (whole.done, whole.again) == (whole.total, 0)
    assert half.again > 0 and 0 < half.phases[0].done < half.phases[0].total
    assert [phase.done for phase in half.phases[1:]] == [0, 0]


def test_links_between_closets_are_pulled_ended_and_tested_each_in_its_place(orchard_school, catalogue):
    grounds, stack = stood(orchard_school, catalogue)
    order = order_of(orchard_school, catalogue, grounds, stack)
    link = f"link/{orchard_school.closets[1].id}"
    names = [name for name in BUILD_STAGES if any(
        one.key == link for phase in order.phases for part in phase.stages if part.stage == name
        for step in part.steps for one in step.subjects
    )]  # fmt: skip
    assert names[0] == "pull" and names[-1] == "test" and {"terminate", "punch_down"} & set(names)
    ended = next(step for step in stage(order, names[1]).steps if step.subjects[0].key == link)
    tested = next(step for step in stage(order, "test").steps if step.subjects[0].key == link)
    assert (ended.waits_for, len(ended.subjects)) == (("Pull",), 1)
    assert set(tested.waits_for) <= {"Terminate", "Punch down"} and tested.waits_for


def test_work_that_a_project_adds_is_a_step_of_its_phase(dye_works, catalogue):
    order = order_of(dye_works, catalogue, *stood(dye_works, catalogue))
    places = {phase.id: place for place, phase in enumerate(dye_works.phases)}
    for row in dye_works.extra_work:
        phase = order.phases[places.get(row.phase_id, 0)]
        (other,) = [part for part in phase.stages if part.stage == "other"]
        assert f"extra/{row.id}" in {one.key for step in other.steps for one in step.subjects}


def test_kit_goes_in_the_phase_that_it_names(dye_works, catalogue):
    order = order_of(dye_works, catalogue, *stood(dye_works, catalogue))
    for kit in dye_works.kit:
        if kit.fate == "kept":
            continue
        found = [
            phase.name for phase in order.phases for part in phase.stages if part.stage == "take_down"
            for step in part.steps for one in step.subjects if one.key == f"kit/{kit.id}"
        ]  # fmt: skip
        assert found == [kit.phase or dye_works.phases[-1].name]


def test_who_does_a_step_is_who_does_its_task_and_an_owner_takes_longer(house, told):
    own = apply_edits(house, [AddEntry(list="task_terms", values={"task": "terminate", "who": "owner"})])
    before, after = (stage(told(project), "terminate").steps[0] for project in (house, own))
    assert (before.who, after.who) == ("installer", "owner")
    assert after.hours == pytest.approx(before.hours * house.settings.owner_slower_percent / 100)
    assert stage(told(own), "pull").steps[0].who == "installer"


def test_ends_are_made_by_the_standard_of_the_site(house, told):
    for pinout in ("T568A", "T568B"):
        own = apply_edits(house, [ChangeSettings(changes={"pinout": pinout})])
        assert f"({pinout})" in stage(told(own), "terminate").do
        assert f"({pinout})" in stage(told(own), "punch_down").do


def test_every_step_that_can_hurt_has_its_caution(house, told):
    cautions = {one.stage: one.caution for phase in told(house).phases for one in phase.stages}
    for name in ("bench", "ways", "pull", "stack", "patch", "power_up", "mount", "close"):
        assert cautions[name], name
    assert all("allowed" not in text and "permitted" not in text for text in cautions.values())


def test_steps_of_many_drops_are_each_told_once(house, catalogue):
    large = apply_edits(house, [AddDrops(room=house.rooms[0].id, kind="jack", count=200)])
    grounds = stood(house, catalogue)[0]
    order = order_of(large, catalogue, grounds, stack_of(large, catalogue, grounds))
    pulled = [one.key for step in stage(order, "pull").steps for one in step.subjects]
    assert len(pulled) == len(set(pulled)) == sum(drop.has_run and not drop.existing for drop in large.drops)


def test_a_drop_that_goes_to_another_closet_opens_the_stages_of_its_cable_again(orchard_school, catalogue):
    here, there = (closet.id for closet in orchard_school.closets)
    drop = next(one for one in orchard_school.drops if one.has_run and one.closet_id == here)
    other = next(one for one in orchard_school.drops if one.has_run and one.closet_id == there)
    keys = (f"drop/{drop.id}", f"drop/{other.id}")
    done = apply_edits(orchard_school, [
        *(tick(name, *keys) for name in (*OF_CABLE, "mount", "configure")),
        *(good(number, orchard_school) for number in (drop.id, other.id)),
    ])  # fmt: skip
    assert {row.ended_in for row in done.ticks} == {here, there}
    moved = apply_edits(done, [ChangeDrops(ids=(drop.id,), changes=DropChanges(closet_id=there))])
    status = Status(moved, run_tests_of(moved, ()))
    for name in (*OF_CABLE, "test"):
        assert status.of(name, keys[0]).state == "again", name
        assert status.of(name, keys[1]).state == "done", name
    assert status.of("mount", keys[0]).state == "done"
    assert status.of("pull", keys[0]).why == f"its cable ended in {orchard_school.closets[0].name} then"
    back = apply_edits(moved, [ChangeDrops(ids=(drop.id,), changes=DropChanges(closet_id=here))])
    assert Status(back, run_tests_of(back, ())).of("pull", keys[0]).state == "done"
