"""Visits as they are told: every job once, who comes, what is brought, what is waited for, and from which day on."""

from collections import Counter
from datetime import date, timedelta
from itertools import pairwise

import pytest

from baugrund.core.edits import AddEntry, ChangeRoom, ChangeSettings, apply_edits
from baugrund.core.price.costs import costs_of
from baugrund.core.price.visits import visits_of
from baugrund.core.price.work_items import work_in_phases
from baugrund.core.standards.tools import TOOLS

from .priced import stood


def told(project, catalogue):
    grounds, stack = stood(project, catalogue)
    costs = costs_of(project, catalogue, grounds, stack)
    return costs, visits_of(project, costs, work_in_phases(project, catalogue, grounds, stack))


@pytest.fixture(scope="module")
def house(row_house, catalogue):
    """The row house with a helper, somebody who lets in, and an owner who paints."""
    project = apply_edits(row_house, [
        ChangeSettings(changes={"first_day": "2026-06-04", "day_h": 8, "travel_h": 1}),
        AddEntry(list="crews", values={"name": "Ada", "people": 1}),
        AddEntry(list="task_terms", values={"task": "paint_hole", "who": "owner"}),
        AddEntry(list="waits", values={"name": "Line", "before": ["set_up"], "from_day": "2026-06-11", "fallback": "stick"}),
        *(ChangeRoom(id=room.id, changes={"let_in_by": f"key {room.id}"}) for room in row_house.rooms[:3]),
    ])  # fmt: skip
    return project, *told(project, catalogue)


def test_every_hour_of_the_work_falls_on_some_visit(house):
    _, costs, visits = house
    jobs = [job.hours for visit in visits.visits for job in visit.jobs]
    # each is told to a hundredth of an hour
    assert sum(jobs) == pytest.approx(costs.labour.hours.mean_h, abs=0.005 * len(jobs) + 1e-6)
    assert all(visit.hours + visit.idle_h == pytest.approx(7, abs=0.02) for visit in visits.visits)
    assert visits.travel_h == len(visits.visits)


def test_days_are_working_days_in_their_order_and_nobody_is_twice_on_one(house):
    _, _, visits = house
    days = [date.fromisoformat(visit.date) for visit in visits.visits]
    assert days[0] >= date(2026, 6, 4) and all(day.weekday() < 5 for day in days)
    assert max(Counter((visit.day, visit.crew) for visit in visits.visits).values()) == 1
    assert visits.ends == max(visit.date for visit in visits.visits)
    assert all(other - one < timedelta(15) for one, other in pairwise(days))


def test_the_owner_s_work_is_the_owner_s_visit(house):
    _, _, visits = house
    mine = [visit for visit in visits.visits if visit.who == "owner"]
    assert {job.stage for visit in mine for job in visit.jobs} == {"close"}
    assert {visit.crew for visit in visits.visits} == {"Ada", "Owner"}


def test_setting_up_waits_for_the_line_and_the_wait_says_what_it_holds(house):
    _, _, visits = house
    (wait,) = visits.waits
    setting_up = [visit for visit in visits.visits if any(job.stage == "set_up" for job in visit.jobs)]
    assert all(visit.date >= "2026-06-11" for visit in setting_up)
    assert (wait.first_day, wait.before, wait.fallback) == (setting_up[0].day, ("Setting up",), "stick")


def test_who_lets_in_is_named_where_rooms_are_worked_in(house):
    project, _, visits = house
    keys = {room.name: room.let_in_by for room in project.rooms if room.let_in_by}
    for visit in visits.visits:
        assert set(visit.let_in_by) == {keys[name] for name in visit.rooms if name in keys}


def test_tools_are_those_of_the_stages_of_the_day(house):
    _, _, visits = house
    for visit in visits.visits:
        stages = {job.stage for job in visit.jobs}
        assert visit.tools == tuple(tool.name for tool in TOOLS if stages & set(tool.stages))


def test_without_a_first_day_visits_have_no_date(row_house, catalogue):
    _, visits = told(apply_edits(row_house, [ChangeSettings(changes={"first_day": None})]), catalogue)
    assert all(visit.date == "" for visit in visits.visits) and visits.ends == ""
    assert [visit.day for visit in visits.visits] == sorted(visit.day for visit in visits.visits)


def test_parts_are_brought_for_the_drops_of_the_day_and_all_of_them_in_all(house):
    _, costs, visits = house
    jacks = [line for visit in visits.visits for line in visit.bring if line.split(" ", 1)[1] == "jack"]
    brought = sum(int(line.split()[0]) for line in jacks)
    (part,) = [part for part in costs.parts if part.key == "part/jack"]
    # rounded up at each visit, so that nobody stands there with one too few
    assert part.to_buy <= brought < part.to_buy + len(jacks)
    assert all(visit.bring for visit in visits.visits if any(job.stage == "pull" for job in visit.jobs))


def test_a_longer_day_needs_no_more_days(house, catalogue):
    project, _, visits = house
    _, longer = told(apply_edits(project, [ChangeSettings(changes={"day_h": 10})]), catalogue)
    assert longer.days <= visits.days
    _, two = told(apply_edits(project, [AddEntry(list="crews", values={"name": "Ben", "people": 2})]), catalogue)
    assert two.days <= visits.days
