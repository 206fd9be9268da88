"""Tests of runs: what passes, what fails and why, at every limit from both sides."""

import pytest

from baugrund.core.edits import (
    AddDrops,
    AddEntry,
    ChangeDrops,
    DropChanges,
    RemoveDrops,
    apply_edits,
)
from baugrund.core.errors import InvalidInput
from baugrund.core.facts.prove import RunTest
from baugrund.core.findings import findings
from baugrund.core.findings.finding import SiteState
from baugrund.core.prove.run_tests import expected_of, judged, port_speeds, run_tests_of
from baugrund.core.reach.runs import runs

from .priced import stood
from .test_reach import drop, hall

STRAIGHT = (1, 2, 3, 4, 5, 6, 7, 8)


@pytest.fixture(scope="module")
def desk():
    """A desk at 1 Gbit/s whose run is typed: 40 m."""
    project = drop(hall(), 11, 6)
    return apply_edits(project, [ChangeDrops(ids=(project.drops[0].id,), changes=DropChanges(run_m=40))])


@pytest.fixture(scope="module")
def camera():
    """A powered camera of class 3 at 40 m."""
    project = hall()
    return apply_edits(project, [
        AddDrops(room=project.rooms[0].id, kind="camera",
                 changes=DropChanges(x_m=11, y_m=6, height_m=2.4, run_m=40, poe_class=3)),
    ])  # fmt: skip


def told(project, port=1000, **measured):
    """What one test tells of the only run."""
    (one,) = project.drops
    test = RunTest(id=9, drop_id=one.id, **{"pins": STRAIGHT, "length_m": 40.0, "speed_mbit": min(1000, one.speed_mbit),
                                            **measured})  # fmt: skip
    return judged(project, one, runs(project)[one.id], [test], port)


def keys(run):
    return [one.key for one in run.diagnoses]


def test_a_run_passes_when_all_of_it_was_measured_and_is_right(desk, camera):
    assert told(desk).verdict == "passed" and keys(told(desk)) == []
    powered = told(camera, poe_v=48.2, poe_w=7.1)
    assert powered.verdict == "passed" and powered.expected.powered


@pytest.mark.parametrize(
    ("gone", "missing"), [("pins", "wire map"), ("length_m", "length"), ("speed_mbit", "link speed")]
)
def test_what_nobody_measured_leaves_a_run_open(desk, gone, missing):
    run = told(desk, **{gone: None})
    assert (run.verdict, run.missing) == ("open", (missing,))


def test_a_run_that_nobody_tested_is_open(desk, camera):
    (one,) = desk.drops
    run = judged(desk, one, runs(desk)[one.id], (), None)
    assert (run.verdict, run.test_id, run.missing) == ("open", None, ("wire map", "length", "link speed"))
    assert told(camera).missing == ("volts",)


@pytest.mark.parametrize(
    ("pins", "key"),
    [
        ((1, 2, 0, 4, 5, 6, 7, 8), "open"), ((2, 1, 3, 4, 5, 6, 7, 8), "reversed"),
        ((3, 6, 1, 4, 5, 2, 7, 8), "a_against_b"), ((4, 5, 3, 1, 2, 6, 7, 8), "crossed"),
        ((1, 2, 4, 3, 5, 6, 7, 8), "miswired"),
    ],
)  # fmt: skip
def test_a_wire_map_that_is_wrong_fails_and_says_what_to_do(desk, pins, key):
    run = told(desk, pins=pins)
    assert run.verdict == "failed" and keys(run) == [key]
    assert run.diagnoses[0].do and run.diagnoses[0].text[0].isupper()


@pytest.mark.parametrize(
    ("fault", "place", "said"),
    [(0.4, False, "at the closet"), (1.5, False, "at the closet"), (1.6, False, "in the cable, 1.6 m from the closet"),
     (35.9, False, "in the cable"), (36.0, False, "at the place"), (39.8, False, "at the place"),
     (0.4, True, "at the place"), (39.8, True, "at the closet"), (None, False, "at one of its ends")],
)  # fmt: skip
def test_where_a_fault_lies_follows_from_how_far_it_is(desk, fault, place, said):
    run = told(desk, pins=(1, 2, 3, 0, 5, 6, 7, 8), fault_m=fault, from_place=place)
    assert said in run.diagnoses[0].do


@pytest.mark.parametrize(("length", "off"), [(36.0, False), (35.9, True), (44.0, False), (44.1, True)])
def test_a_length_is_off_beyond_a_tenth(desk, length, off):
    assert ("length" in keys(told(desk, length_m=length))) == off
    assert told(desk, length_m=length).verdict == "passed", "it works; whose cable it is is another question"


@pytest.mark.parametrize(("length", "off"), [(8.0, False), (7.9, True), (12.0, False), (12.1, True)])
def test_of_a_short_run_two_metres_are_let_pass(desk, length, off):
    short = apply_edits(desk, [ChangeDrops(ids=(desk.drops[0].id,), changes=DropChanges(run_m=10))])
    assert ("length" in keys(told(short, length_m=length))) == off


@pytest.mark.parametrize(("length", "fails"), [(90.0, False), (90.1, True)])
def test_a_fixed_link_is_ninety_metres_at_most(desk, length, fails):
    long = apply_edits(desk, [ChangeDrops(ids=(desk.drops[0].id,), changes=DropChanges(run_m=90))])
    assert (told(long, length_m=length).verdict == "failed") == fails


def test_a_length_that_nobody_drew_is_no_reason_to_doubt_the_measured_one():
    loose = drop(hall(), 11, 6)
    run = told(loose, length_m=60.0)
    assert run.expected.is_guess and "length" not in keys(run)


def test_worked_copper_clad_cable(desk, camera):
    # 19 ohm over 70 m are 13.57 ohm over 100 m of one conductor: copper has 9.38
    clad = told(desk, length_m=70.0, loop_ohm=19.0)
    assert "copper_clad" in keys(clad) and "1.45 times" in clad.diagnoses[-1].text
    assert told(camera, poe_v=48, loop_ohm=0.1876 * 40 * 1.31).verdict == "failed"
    assert told(desk, loop_ohm=0.1876 * 40 * 1.31).verdict == "passed"
    assert "copper_clad" not in keys(told(desk, loop_ohm=0.1876 * 40 * 1.29))


def test_a_slow_link_is_explained_by_the_ends_first_and_then_by_its_pairs(desk):
    assert keys(told(desk, port=100, speed_mbit=100)) == [], "the port has no more"
    by_pair = told(desk, speed_mbit=100, pins=(1, 2, 3, 0, 0, 6, 7, 8))
    assert keys(by_pair) == ["open", "slow"] and "Pair 4-5 is wrong" in by_pair.diagnoses[1].do
    both = told(desk, speed_mbit=100, pins=(1, 2, 3, 0, 0, 6, 0, 0))
    assert "Pair 4-5 and 7-8" in both.diagnoses[-1].do
    unmapped = told(desk, speed_mbit=100, pins=None)
    assert "pairs 4-5 and 7-8 first" in unmapped.diagnoses[0].do
    straight = told(desk, speed_mbit=100)
    assert straight.verdict == "failed" and "other cords" in straight.diagnoses[0].do


def test_no_link_and_one_faster_than_its_port(desk):
    assert told(desk, speed_mbit=0).diagnoses[0].key == "no_link"
    fast = told(desk, port=100, speed_mbit=1000)
    assert keys(fast) == ["faster_than_port"] and "its port has 100 Mbit/s" in fast.diagnoses[0].text


@pytest.mark.parametrize(("volts", "key"), [(0, ["no_power"]), (36.9, ["low_volts"]), (37.0, []), (48.0, [])])
def test_volts_at_the_device(camera, volts, key):
    assert keys(told(camera, poe_v=volts)) == key
    assert told(camera).expected.least_v == 37.0


def test_power_on_a_run_that_asks_for_none_is_a_note(desk):
    run = told(desk, poe_v=48)
    assert keys(run) == ["power_unasked"] and run.verdict == "passed"


def test_the_last_test_counts_and_earlier_ones_are_kept(desk):
    (one,) = desk.drops

    def add(**measured):
        return AddEntry(list="run_tests", values={"drop_id": one.id, "length_m": 40, "speed_mbit": 1000, **measured})

    twice = apply_edits(desk, [add(pins=[2, 1, 3, 4, 5, 6, 7, 8]), add(pins=list(STRAIGHT))])
    told_of = run_tests_of(twice, ())
    (run,) = told_of.runs
    assert (run.verdict, run.earlier) == ("passed", 1) and len(twice.run_tests) == 2
    assert (told_of.passed, told_of.failed, told_of.open) == (1, 0, 0)
    gone = RemoveDrops(ids=(one.id,)).apply(twice)
    assert gone.run_tests == (), "tests go with their run"


@pytest.mark.parametrize(
    ("values", "said"),
    [
        ({"pins": [1, 2, 3, 4, 5, 6, 7, 8, 1]}, "at most 8"),
        ({"pins": [1, 2, 3]}, "has eight pins"),
        ({"pins": [1, 2, 3, 4, 5, 6, 7, 9]}, "less than or equal to 8"),
        ({"pins": [1, 1, 3, 4, 5, 6, 7, 8]}, "two pins end on pin 1"),
        ({"length_m": -1}, "greater than or equal to 0"),
        ({"shorts": [[3, 3]]}, "touches another"),
        ({"split": [[2, 2]]}, "split with another"),
        ({"speed_mbit": -100}, "greater than or equal to 0"),
    ],
)
def test_readings_that_cannot_be_are_refused(desk, values, said):
    with pytest.raises(InvalidInput, match=said):
        apply_edits(desk, [AddEntry(list="run_tests", values={"drop_id": desk.drops[0].id, **values})])


def test_what_a_test_tells_is_a_finding_of_its_run(dye_works, catalogue):
    grounds, _ = stood(dye_works, catalogue)
    number = dye_works.drops[0].id
    bad = apply_edits(dye_works.changed(run_tests=()), [
        AddEntry(list="run_tests", values={"drop_id": number, "pins": [2, 1, 3, 4, 5, 6, 7, 8]})
    ])  # fmt: skip
    told_of = [one for one in findings(SiteState(bad, {}, {}, grounds=grounds)) if one.verb == "prove"]
    assert [(one.key, one.weight, one.drop_ids) for one in told_of] == [("test-reversed", "breaks", (number,))]


def test_expected_speed_is_that_of_the_slower_end(dye_works, catalogue):
    grounds, _ = stood(dye_works, catalogue)
    ports = port_speeds(grounds)
    assert set(ports) == {one.id for one in dye_works.drops}
    for one in dye_works.drops:
        expected = expected_of(dye_works, one, runs(dye_works)[one.id], ports[one.id])
        assert expected.speed_mbit == min(one.speed_mbit, ports[one.id])
