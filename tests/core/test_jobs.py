"""Jobs of the work: one stage, doer and place each, no longer than a day, in their order; and who does what."""

import pytest

from baugrund.core.edits import AddEntry, ChangeSettings, apply_edits
from baugrund.core.facts.labour import STAGE_NAMES, STAGES, TASKS, USUAL, USUAL_ORDER, circle_in
from baugrund.core.facts.project import empty_project
from baugrund.core.price.jobs import AT_CLOSET, AT_ROOM, edges_of, jobs_of
from baugrund.core.price.labour import doers, hours_of, slowness
from baugrund.core.price.work_items import WorkItem, work_items

from .priced import stood


def item(task, hours=1.0, drops=(1,), **where):
    return WorkItem(
        task, 1.0, hours, STAGES[task] if task else "other", "" if task else "Folder", drop_ids=drops, **where
    )


def say(project, rows, **values):
    return apply_edits(project, [AddEntry(list=rows, values=values)])


EMPTY = empty_project("P", 2026)


def test_work_of_one_stage_and_place_is_one_job():
    (job,) = jobs_of(EMPTY, [item("terminate", room_id=4), item("terminate", 2.0, (2,), room_id=4)], 8)
    assert (job.stage, job.who, job.room_id, job.drop_ids) == ("terminate", "installer", 4, {1, 2})
    assert job.hours == pytest.approx(hours_of(3.0).mean_h)


@pytest.mark.parametrize("stage", sorted(set(STAGES.values())))
def test_stages_are_done_at_rooms_at_closets_at_both_or_anywhere(stage):
    task = next(task for task in TASKS if STAGES[task] == stage)
    here = [item(task, room_id=1, closet_id=7), item(task, room_id=2, closet_id=7), item(task, room_id=1, closet_id=8)]
    places = {(job.room_id, job.closet_id) for job in jobs_of(EMPTY, here, 100)}
    if stage == "pull":
        assert places == {(1, 7), (2, 7), (1, 8)}
    elif stage in AT_ROOM:
        assert places == {(1, None), (2, None)}
    elif stage in AT_CLOSET:
        assert places == {(None, 7), (None, 8)}
    else:
        assert places == {(None, None)}


@pytest.mark.parametrize(("hours", "parts"), [(7.0, 1), (7.6, 1), (7.7, 2), (15.2, 2), (15.3, 3)])
def test_a_job_is_no_longer_than_a_day(hours, parts):
    # 1.05 times the usual hours are the mean: 7.6 h of them are a day of 8 h, and not a minute less
    jobs = jobs_of(EMPTY, [item("camera", hours, room_id=1)], 1.05 * 7.6)
    assert [job.part for job in jobs] == [(n, parts) for n in range(1, parts + 1)]
    assert sum(job.hours for job in jobs) == pytest.approx(1.05 * hours)
    assert all(job.hours <= 1.05 * 7.6 + 1e-9 for job in jobs)


def test_who_does_a_task_is_said_by_the_work_itself_then_by_its_task_then_nobody():
    project = say(
        say(EMPTY, "task_terms", task="move_plate", who="electrician"), "extra_work", task="move_plate", count=2
    )
    own = say(project, "extra_work", task="move_plate", count=1, who="owner")
    (first, second) = own.extra_work
    doer = doers(own)
    assert doer(item("move_plate", extra_id=first.id)) == "electrician"
    assert doer(item("move_plate", extra_id=second.id)) == "owner"
    assert doer(item("camera")) == "installer" and doer(item(None)) == "installer"
    assert (slowness(own, "owner"), slowness(own, "electrician")) == (1.5, 1.0)


def test_jobs_of_the_owner_take_the_owner_s_hours():
    project = say(EMPTY, "task_terms", task="close_hole", who="owner")
    (job,) = jobs_of(project, [item("close_hole", 2.0, room_id=1)], 8)
    assert (job.who, job.hours) == ("owner", pytest.approx(2.0 * 1.05 * 1.5))


def order(project, *items):
    jobs = jobs_of(project, items, 100)
    return {(before.stage, after.stage) for before, after in edges_of(project, jobs)}


def test_a_run_is_pulled_before_it_is_terminated_and_another_run_need_not_be():
    same = order(EMPTY, item("pull_open", drops=(1,), room_id=1), item("terminate", drops=(1,), room_id=1))
    assert same == {("pull", "terminate")}
    other = order(EMPTY, item("pull_open", drops=(1,), room_id=1), item("terminate", drops=(2,), room_id=2))
    assert other == set()


def test_a_closet_is_stacked_before_it_is_patched_and_its_neighbour_need_not_be():
    assert order(EMPTY, item("rack", drops=(), closet_id=1), item("patch_cord", closet_id=1)) == {("stack", "patch")}
    assert order(EMPTY, item("rack", drops=(), closet_id=1), item("patch_cord", closet_id=2)) == set()


def test_a_room_is_cleared_when_all_in_it_is_mounted_and_painted():
    told = order(EMPTY, item("camera", room_id=1), item("paint_hole", room_id=1), item("clear_away", room_id=1),
                 item("camera", room_id=2, drops=(9,)))  # fmt: skip
    assert told == {("mount", "clear_away"), ("close", "clear_away")}


def test_an_order_of_ones_own_holds_everywhere():
    project = say(EMPTY, "stage_orders", first="close", second="test")
    told = order(project, item("paint_hole", drops=(1,), room_id=1), item("test", drops=(2,), closet_id=1))
    assert told == {("close", "test")}


def test_every_task_has_a_name_hours_and_a_stage():
    assert set(USUAL) == set(STAGES) == set(TASKS)
    assert all(name and hours > 0 for name, hours in USUAL.values())
    assert set(STAGES.values()) <= set(STAGE_NAMES)


def test_the_usual_order_goes_in_no_circle():
    assert circle_in((first, then) for first, then, _ in USUAL_ORDER) == ()
    assert circle_in([("pull", "test"), ("test", "close"), ("close", "pull")])


@pytest.mark.parametrize("name", ["dye_works", "row_house", "orchard_school"])
def test_jobs_are_all_of_the_work(request, catalogue, name):
    project = request.getfixturevalue(name)
    work = work_items(project, catalogue, *stood(project, catalogue))
    jobs = jobs_of(project, work, 7.25)
    doer = doers(project)
    hours = sum(hours_of(one.hours * slowness(project, doer(one))).mean_h for one in work)
    assert sum(job.hours for job in jobs) == pytest.approx(hours)
    assert [job.number for job in jobs] == list(range(len(jobs)))
    assert all(job.hours <= 7.25 + 1e-9 for job in jobs)
    before = {(one.number, other.number) for one, other in edges_of(project, jobs)}
    assert not {(other, one) for one, other in before} & before, "no two jobs wait for each other"


def test_a_hard_site_takes_longer_jobs_and_more_of_them(catalogue, row_house):
    hard = apply_edits(row_house, [ChangeSettings(changes={"difficulty_percent": 200})])
    plain, long = (
        jobs_of(project, work_items(project, catalogue, *stood(project, catalogue)), 4) for project in (row_house, hard)
    )
    assert len(long) > len(plain) and sum(job.hours for job in long) > 1.9 * sum(job.hours for job in plain)
