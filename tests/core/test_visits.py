"""Visits: days against enumeration of every way to lay jobs on days, in their order and with what is waited for."""

import random
from datetime import date
from itertools import product

import pytest

from baugrund.core.facts.price import DOERS
from baugrund.core.price.costs import costs_of
from baugrund.core.price.jobs import Job
from baugrund.core.price.visit_program import Case, Team, Waiting, filled_up, least_days, plan_visits
from baugrund.core.price.visits import visits_of, working_day, working_days
from baugrund.core.price.work_items import work_in_phases
from baugrund.launch.bench_price import made_up_case

from .priced import stood

STAGES = ("survey", "ways", "pull", "terminate", "mount", "test")


def is_fine(case, at):
    """Whether a plan holds all rules, told from the rules alone."""
    for (day, team), jobs in grouped(at).items():
        if sum(case.minutes(case.jobs[number], case.teams[team]) for number in jobs) > case.day_min:
            return False
        if any(case.jobs[number].who != case.teams[team].who for number in jobs):
            return False
        assert day >= 0
    for one, other in case.edges:
        if not (at[one][0] < at[other][0] or at[one] == at[other]):
            return False
    for wait in case.waits:
        for job in case.jobs:
            if job.stage in wait.before:
                first = [at[one.number][0] + wait.days + 1 for one in case.jobs if one.stage == wait.after]
                if at[job.number][0] < max([wait.from_day, *first]):
                    return False
    return True


def grouped(at):
    days = {}
    for number, when in at.items():
        days.setdefault(when, []).append(number)
    return days


def fewest(case, horizon):
    """The fewest days over every way to lay the jobs."""
    places = [
        [(day, team) for day in range(horizon) for team in range(len(case.teams)) if case.teams[team].who == job.who]
        for job in case.jobs
    ]
    found = [len(set(some)) for some in product(*places) if is_fine(case, dict(enumerate(some)))]
    return min(found, default=None)


def made_up(seed):
    """A few jobs of random length, crews, order and waits."""
    chance = random.Random(seed)
    teams = [Team("Van", "installer", chance.choice((1, 2)))]
    if chance.random() < 0.6:
        teams.append(Team("Other", chance.choice(("installer", "electrician")), 1))
    doers = sorted({team.who for team in teams})
    jobs = [
        Job(number, chance.choice(STAGES), chance.choice(doers), chance.choice((0.5, 1.5, 2.0, 3.0, 4.0)),
            chance.choice((1, 2, None)), 1, frozenset())
        for number in range(chance.choice((4, 5)))
    ]  # fmt: skip
    edges = {(one, other) for one in range(len(jobs)) for other in range(one + 1, len(jobs)) if chance.random() < 0.3}
    waits = (Waiting(("test",), from_day=chance.choice((0, 1))),) if chance.random() < 0.5 else ()
    if chance.random() < 0.3:
        waits = (*waits, Waiting(("mount",), after="ways", days=chance.choice((0, 1))))
    return Case(tuple(jobs), tuple(teams), tuple(sorted(edges)), 5 * 60, waits)


@pytest.mark.parametrize("seed", range(14))
def test_days_are_as_few_as_any_way_has(seed):
    case = made_up(seed)
    least = fewest(case, 4)
    quick = filled_up(case)
    assert is_fine(case, quick)
    planned = plan_visits(case)
    assert is_fine(case, planned.at) and planned.days == len(set(planned.at.values()))
    assert least_days(case) <= planned.bound <= planned.days
    if least is not None:
        assert planned.days == planned.bound == least


def test_days_filled_well_meet_the_bound_and_are_the_same_whoever_asks():
    """150 jobs for two crews, as the bench has them: no clock ends the search."""
    case = made_up_case(150)
    planned = plan_visits(case)
    assert planned.days == planned.bound == least_days(case) and is_fine(case, planned.at)
    assert plan_visits(case) == planned
    assert len(set(filled_up(case, 24).values())) <= len(set(filled_up(case).values()))


def test_no_jobs_take_no_days():
    assert plan_visits(Case((), (), (), 60)).days == 0


def test_working_days_leave_weekends_out():
    friday, monday = date(2026, 6, 5), date(2026, 6, 8)
    assert working_day(friday, 0) == friday and working_day(friday, 1) == monday
    assert working_day(date(2026, 6, 6), 0) == monday, "nobody comes on a Saturday"
    assert working_days(friday, monday) == 1 and working_days(monday, friday) == 0


def test_the_cooperative_is_planned_in_phases_that_wait_for_their_day(dye_works, catalogue):
    grounds, stack = stood(dye_works, catalogue)
    costs = costs_of(dye_works, catalogue, grounds, stack)
    visits = visits_of(dye_works, costs, work_in_phases(dye_works, catalogue, grounds, stack))
    assert visits.proven and visits.days == len(visits.visits)
    dates = [visit.date for visit in visits.visits]
    assert dates == sorted(dates) and dates[0] == "2026-06-01"
    second = next(visit for visit in visits.visits if visit.date >= "2027")
    assert second.date == "2027-07-05"
    stacked = min(visit.date for visit in visits.visits if any(job.stage == "stack" for job in visit.jobs))
    assert stacked >= "2026-06-12", "the socket is there first"
    assert all(visit.hours <= 7.25 + 1e-9 for visit in visits.visits)
    shop = next(visit for visit in visits.visits if "Shop" in visit.rooms)
    assert "shop on duty" in shop.let_in_by
    pulling = next(visit for visit in visits.visits if any(job.stage == "pull" for job in visit.jobs))
    assert any("category 6" in one for one in pulling.bring) and "fish tape and rods" in pulling.tools
    assert {visit.who for visit in visits.visits} <= set(DOERS)
    (wait, *_) = visits.waits
    assert wait.name == "Socket at the rack" and wait.fallback
