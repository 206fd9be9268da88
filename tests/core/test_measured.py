"""Estimated against actual: factors that are shrunk by how much was measured, and what they make of what is left."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from baugrund.core.edits import AddEntry, RemoveEntry, apply_edits
from baugrund.core.facts.labour import TASKS, USUAL
from baugrund.core.facts.price import Worked
from baugrund.core.price.measured import PRIOR_H, Sums, factors_of, measured_of, sums_of

from .priced import priced
from .test_work import four_to_one_plate

RATES = {task: hours for task, (_, hours) in USUAL.items()}
HOURS = st.floats(0.1, 200)
MEASURED = st.lists(
    st.builds(Sums, task=st.sampled_from(TASKS[:6]), counted_h=HOURS, done_h=HOURS), min_size=1, max_size=8
)


@given(MEASURED)
def test_a_factor_lies_between_what_was_believed_and_what_was_measured(sums):
    whole, factors = factors_of(sums)
    counted, done = sum(one.counted_h for one in sums), sum(one.done_h for one in sums)
    assert min(1, counted / done) - 1e-9 <= whole <= max(1, counted / done) + 1e-9
    for task, factor in factors.items():
        mine = [one for one in sums if one.task == task]
        raw = sum(one.counted_h for one in mine) / sum(one.done_h for one in mine)
        assert min(whole, raw) - 1e-9 <= factor <= max(whole, raw) + 1e-9


@given(MEASURED, st.randoms())
def test_the_order_of_the_days_changes_nothing(sums, chance):
    shuffled = list(sums)
    chance.shuffle(shuffled)
    (one, some), (other, more) = factors_of(sums), factors_of(shuffled)
    assert one == pytest.approx(other) and some == pytest.approx(more)


@given(st.floats(0.5, 3), st.floats(1, 50))
def test_the_more_is_measured_the_nearer_a_factor_comes_to_it(true, done):
    def off(hours):
        return abs(factors_of([Sums(task="test", counted_h=true * hours, done_h=hours)])[1]["test"] - true)

    assert off(4 * done) <= off(done) + 1e-9


def test_worked_a_factor_of_one_task():
    # 8 h believed: 6 h took 9; all (8 + 9) / (8 + 6), the task (8 · that + 9) / (8 + 6)
    whole, factors = factors_of([Sums(task="terminate", counted_h=9, done_h=6)])
    assert PRIOR_H == 8 and whole == pytest.approx(17 / 14)
    assert factors["terminate"] == pytest.approx((8 * 17 / 14 + 9) / 14)


def test_hours_are_summed_by_task_and_those_without_a_count_left_out():
    rows = [
        Worked(id=1, task="test", hours=2, count=10), Worked(id=2, task="test", hours=1, count=4),
        Worked(id=3, task="test", hours=5), Worked(id=4, task="box", hours=1, count=2),
    ]  # fmt: skip
    sums = {one.task: (one.counted_h, one.done_h) for one in sums_of(rows, RATES)}
    assert sums == {"test": (3, pytest.approx(14 * 0.15)), "box": (1, pytest.approx(2 * 0.3))}


@pytest.fixture(scope="module")
def plate(catalogue):
    return four_to_one_plate("finished")


def worked(project, **values):
    return apply_edits(project, [AddEntry(list="worked", values=values)])


def test_what_is_left_is_what_is_not_done_at_the_rate_that_was_measured(plate, catalogue):
    before = priced(plate, catalogue).measured
    usual = sum(line.hours.usual_h for line in priced(plate, catalogue).labour.lines)
    assert before.left_h == pytest.approx(usual) and before.tasks == ()
    half = worked(plate, task="terminate", hours=0.6, count=2)
    told = priced(half, catalogue).measured
    (line,) = told.tasks
    # two of four jacks took 0.6 h where 0.3 were estimated: every other task is slower too, by the factor of all
    rest = usual - 4 * 0.15
    assert told.left_h == pytest.approx(2 * 0.15 * line.factor + rest * told.factor)
    assert 1 < told.factor < line.factor < 2


def test_more_done_than_there_is_leaves_nothing_and_takes_nothing_away(plate, catalogue):
    over = worked(plate, task="terminate", hours=3, count=20)
    told = priced(over, catalogue).measured
    others = [line for line in priced(over, catalogue).labour.lines if line.task != "terminate"]
    assert told.left_h == pytest.approx(sum(line.hours.usual_h for line in others) * told.factor)
    assert (told.tasks[0].done, told.tasks[0].count) == (20, 4)


def test_hours_of_a_task_that_the_job_does_not_have_are_kept_and_change_no_factor(plate, catalogue):
    odd = worked(plate, task="dig_duct", hours=6, count=1)
    told = priced(odd, catalogue).measured
    assert (told.worked_h, told.counted_h, told.factor) == (6, 0, 1.0)
    assert [(one.task, one.count) for one in told.tasks] == [("dig_duct", 0)]


def test_hours_taken_back_are_as_if_they_had_never_been(plate, catalogue):
    one = worked(plate, task="terminate", hours=0.6, count=2)
    gone = apply_edits(one, [RemoveEntry(list="worked", id=one.worked[0].id)])
    assert priced(gone, catalogue).measured == priced(plate, catalogue).measured


def test_a_rate_that_is_taken_over_makes_the_estimate_what_was_measured(plate, catalogue):
    slow = worked(plate, task="terminate", hours=24, count=40)
    (line,) = priced(slow, catalogue).measured.tasks
    taken = apply_edits(
        slow, [AddEntry(list="task_rates", values={"task": "terminate", "hours": round(line.rate_h, 4)})]
    )
    costs = priced(taken, catalogue)
    (now,) = [one for one in costs.labour.lines if one.task == "terminate"]
    assert now.hours.usual_h == pytest.approx(4 * line.rate_h, abs=1e-3)
    assert measured_of(taken, costs.labour.lines).tasks[0].factor < line.factor
