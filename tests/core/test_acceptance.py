"""What was promised, as tests: pass levels from both sides, what is judged by what, days of a line, what would change it."""

import pytest
from shapely import Polygon

from baugrund.core.edits import AddEntry, apply_edits
from baugrund.core.errors import InvalidInput
from baugrund.core.facts.brief import GOALS
from baugrund.core.places.layout import layout
from baugrund.core.prove.acceptance import PAYLOAD_SHARE, acceptance_of
from baugrund.core.signal.survey import survey_of
from baugrund.core.signal.told import signal_of
from baugrund.core.stack.told import stack_of

from .priced import stood


@pytest.fixture(scope="module")
def works_stand(dye_works, catalogue):
    """The catalogue, and what stands in the dye works."""
    return catalogue, stood(dye_works, catalogue)[1]


@pytest.fixture
def bare(dye_works):
    """The dye works before anything was accepted or measured."""
    return dye_works.changed(acceptance=(), sign_offs=(), readings=())


def result(key, **values):
    return AddEntry(list="acceptance", values={"key": key, "at": "2026-07-01T09:00:00", **values})


def told(project, stand, key, *results):
    said = acceptance_of(apply_edits(project, list(results)), *stand)
    return next(one for one in said.checks if one.check.key == key)


def goal_of(project, kind):
    return f"goal/{next(goal.id for goal in project.goals if goal.kind == kind)}"


def test_everything_that_was_promised_is_a_check_and_open_before_anybody_has_measured(bare, works_stand):
    said = acceptance_of(bare, *works_stand)
    networks = len(bare.networks)
    keys = [one.check.key for one in said.checks]
    assert len(set(keys)) == len(keys)
    assert [key for key in keys if key.startswith("goal/")] == [f"goal/{goal.id}" for goal in bare.goals]
    assert sum(key.startswith("cell/") for key in keys) == networks**2
    assert {"line/2", "line/3", "failover", "heat/1"} <= set(keys)
    assert (said.passed, said.failed, said.open) == (0, 0, len(keys))


@pytest.mark.parametrize(("value", "verdict"), [(-67.0, "passed"), (-66.9, "passed"), (-67.1, "failed")])
def test_the_weakest_spot_of_wi_fi_is_what_counts(bare, works_stand, value, verdict):
    key = goal_of(bare, "coverage")
    one = told(bare, works_stand, key, result(key, value=-50.0), result(key, value=value))
    assert (one.after, one.verdict, one.results) == (value, verdict, 2)
    assert ("Cover" in one.text) == (verdict == "failed")


@pytest.mark.parametrize(("value", "verdict"), [(40.0, "passed"), (40.1, "failed")])
def test_the_warmest_spot_may_be_as_warm_as_the_least_thing_bears(bare, works_stand, value, verdict):
    one = told(bare, works_stand, "heat/1", result("heat/1", value=31.0), result("heat/1", value=value))
    assert one.check.wanted == 40
    assert (one.after, one.verdict) == (value, verdict)


def test_what_was_measured_before_the_work_stands_beside_and_passes_nothing(bare, works_stand):
    key = goal_of(bare, "coverage")
    one = told(bare, works_stand, key, result(key, value=-40.0, before=True))
    assert (one.before, one.after, one.verdict, one.results) == (-40.0, None, "open", 0)


def speeds(key, *mbit, **values):
    return [
        result(key, value=value, **{"at": f"2026-07-{day:02}T20:00:00", **values}) for day, value in enumerate(mbit, 1)
    ]


def test_a_line_is_judged_by_its_middle_speed_on_three_days(bare, works_stand):
    two = told(bare, works_stand, "line/2", *speeds("line/2", 610.0, 590.0))
    assert (two.verdict, two.text) == ("open", "Measured on 2 days; 3 are asked.")
    three = told(bare, works_stand, "line/2", *speeds("line/2", 610.0, 590.0, 600.0))
    assert (three.after, three.verdict, three.low, three.high) == (600.0, "passed", 590.0, 610.0)
    slow = told(bare, works_stand, "line/2", *speeds("line/2", 610.0, 590.0, 599.9))
    assert (slow.after, slow.verdict) == (599.9, "failed")
    one_day = told(bare, works_stand, "line/2", *speeds("line/2", 610.0, 610.0, 610.0, at="2026-07-01T09:00:00"))
    assert one_day.verdict == "open"


def test_speeds_over_wi_fi_judge_no_line_and_have_a_series_of_their_own(bare, works_stand):
    wired, air = speeds("line/2", 600.0, 610.0, 620.0), speeds("line/2", 90.0, 300.0, over_air=True)
    said = acceptance_of(apply_edits(bare, [*wired, *air]), *works_stand)
    line = next(one for one in said.checks if one.check.key == "line/2")
    assert (line.after, line.verdict) == (610.0, "passed")
    desk, sofa = said.speeds
    assert (desk.over_air, desk.low, desk.middle, desk.high, len(desk.at)) == (False, 600, 610, 620, 3)
    assert (sofa.over_air, sofa.middle) == (True, 195)
    assert [(part.hours, part.tests) for part in desk.by_hour] == [("18–24 h", 3)]


@pytest.mark.parametrize(("down", "asked"), [(600, 600.0), (941, 941.0), (1000, 941.0), (2500, 2352.5)])
def test_of_a_line_as_fast_as_its_port_no_test_shows_more_than_its_payload(bare, works_stand, down, asked):
    line = bare.lines[0].model_copy(update={"down_mbit": down})
    one = told(bare.changed(lines=(line,)), works_stand, f"line/{line.id}")
    assert one.check.wanted == pytest.approx(asked)
    assert PAYLOAD_SHARE == 0.941


def test_who_reaches_whom_is_as_it_should_be_or_not_and_the_last_word_counts(bare, works_stand):
    guests, office = (next(one.id for one in bare.networks if one.name == name) for name in ("Guests", "Office"))
    key = f"cell/{guests}/{office}"
    good = told(bare, works_stand, key, result(key, met=False), result(key, met=True))
    bad = told(bare, works_stand, key, result(key, met=True), result(key, met=False))
    assert (good.verdict, bad.verdict) == ("passed", "failed")
    assert "Patch, Networks" in bad.text
    assert good.check.name.startswith("Guests may open")
    own = f"cell/{guests}/{guests}"
    assert told(bare, works_stand, own).check.name == "Guests: its clients may open nothing of each other"


def test_a_drill_of_the_standby_line_is_noted_and_passes_unless_it_is_said_to_have_failed(bare, works_stand):
    noted = told(bare, works_stand, "failover", result("failover", value=38.0))
    failed = told(bare, works_stand, "failover", result("failover", value=38.0), result("failover", met=False))
    assert (noted.verdict, failed.verdict) == ("passed", "failed")


def test_the_plan_s_own_figures_stand_beside_what_is_asked(bare, works_stand, catalogue):
    said = {one.check.key: one.check for one in acceptance_of(bare, *works_stand).checks}
    footage = said[goal_of(bare, "footage")]
    assert (footage.wanted, footage.unit) == (30.0, "days")
    assert footage.planned is not None and footage.planned < 30
    again = stack_of(bare, catalogue, stood(bare, catalogue)[0])
    assert said[goal_of(bare, "battery")].planned == again.power_cut.least_min
    assert said["heat/1"].planned == works_stand[1].closets[0].warmth.top_c


def test_a_goal_without_a_level_has_the_usual_one(bare, works_stand):
    goal = bare.goals[0].model_copy(update={"level": None})
    one = told(bare.changed(goals=(goal,)), works_stand, f"goal/{goal.id}")
    assert one.check.wanted == GOALS[goal.kind][2]


@pytest.mark.parametrize(
    ("values", "said"),
    [
        ({"key": "goal/1"}, "a result has a figure, or says whether it is as it should be"),
        ({"key": "Goal 1", "value": 3}, "key"),
        ({"key": "goal/1", "value": 2_000_000}, "value"),
        ({"key": "goal/1", "value": -201}, "value"),
    ],
)
def test_a_result_that_cannot_be_is_refused(bare, values, said):
    with pytest.raises(InvalidInput, match=said):
        apply_edits(bare, [AddEntry(list="acceptance", values=values)])


def test_what_was_signed_stays_as_it_was(bare, works_stand):
    signed = AddEntry(list="sign_offs", values={"name": "Ruth", "passed": 3, "failed": 1, "open": 2})
    after = apply_edits(bare, [signed, result("failover", value=9.0)])
    assert [(one.name, one.passed, one.failed, one.open) for one in after.sign_offs] == [("Ruth", 3, 1, 2)]
    assert acceptance_of(after, *works_stand).passed == 1


def test_the_row_house_is_proven(row_house, catalogue):
    said = acceptance_of(row_house, catalogue, stood(row_house, catalogue)[1])
    assert (said.failed, said.open) == (0, 0)
    assert row_house.sign_offs[0].passed == said.passed


def reading(project, room, dbm, **values):
    outline = next(one.outline for one in layout(project).rooms if one.id == room)
    x, y = Polygon(outline).representative_point().coords[0]
    floor = project.rooms_by_id[room].floor_id
    return AddEntry(list="readings", values={"floor_id": floor, "x_m": x, "y_m": y, "band": "5", "dbm": dbm,
                                             "walk": "after", **values})  # fmt: skip


def test_a_signal_walk_is_taken_with_the_best_band_of_every_spot_and_the_weakest_spot_counts(bare, works_stand):
    goal = next(one for one in bare.goals if one.kind == "coverage" and one.band is None)
    one, other, *_ = goal.room_ids
    key = f"goal/{goal.id}"
    outside = next(room.id for room in bare.rooms if room.id not in goal.room_ids)
    walk = [
        reading(bare, one, -80.0), reading(bare, one, -61.0, band="2.4"), reading(bare, other, -66.0),
        reading(bare, outside, -90.0), reading(bare, one, -88.0, walk="before"),
    ]  # fmt: skip
    found = told(bare, works_stand, key, *walk)
    assert (found.after, found.before, found.spots, found.results, found.verdict) == (-66.0, -88.0, 2, 0, "passed")
    weaker = told(bare, works_stand, key, *walk, result(key, value=-67.5))
    assert (weaker.after, weaker.verdict) == (-67.5, "failed")


def test_a_goal_of_one_band_takes_readings_of_that_band_alone(bare, works_stand):
    goal = next(one for one in bare.goals if one.kind == "coverage" and one.band == "5")
    room = goal.room_ids[0]
    walk = [reading(bare, room, -75.0), reading(bare, room, -50.0, band="2.4")]
    assert told(bare, works_stand, f"goal/{goal.id}", *walk).after == -75.0


def test_spots_stand_beside_what_is_predicted_there_and_the_weakest_prediction_beside_the_goal(dye_works, works_stand):
    catalogue, stack = works_stand
    said = acceptance_of(dye_works, catalogue, stack)
    lines = {line.reading_id: line for line in survey_of(dye_works, catalogue).readings}
    rows = {(row.walk, row.band, row.x_m, row.y_m, row.dbm): row.id for row in dye_works.readings}
    assert said.walked
    for spot in said.walked:
        number = rows[spot.walk, spot.band, spot.x_m, spot.y_m, spot.measured_dbm]
        assert spot.predicted_dbm == lines[number].predicted_dbm
        assert spot.before == (spot.walk == "before")
    worst = {f"goal/{line.goal_id}": line.worst for line in signal_of(dye_works, catalogue).goals}
    for one in said.checks:
        if one.check.key in worst and worst[one.check.key].dbm is not None:
            assert one.check.planned == pytest.approx(worst[one.check.key].dbm, abs=0.05)


def test_calls_pass_once_somebody_has_said_that_a_call_held(row_house, catalogue):
    stand = (catalogue, stood(row_house, catalogue)[1])
    bare = row_house.changed(acceptance=(), readings=())
    key = goal_of(bare, "calls")
    level = told(bare, stand, key, result(key, value=-66.0))
    assert (level.verdict, level.check.by_word) == ("open", True)
    assert "hold a call while walking" in level.text
    assert told(bare, stand, key, result(key, value=-66.0), result(key, met=True)).verdict == "passed"
    assert told(bare, stand, key, result(key, value=-68.0), result(key, met=True)).verdict == "failed"
    assert told(bare, stand, key, result(key, value=-66.0), result(key, met=False)).verdict == "failed"


def test_a_drill_on_battery_stands_beside_the_minutes_that_the_plan_expects(bare, works_stand):
    key = goal_of(bare, "battery")
    one = told(bare, works_stand, key, result(key, value=25.0), result(key, value=19.5))
    assert (one.after, one.low, one.high, one.verdict) == (19.5, 19.5, 25.0, "failed")
    assert one.check.planned == works_stand[1].power_cut.least_min
    assert "battery" in one.text
