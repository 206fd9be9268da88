"""Bearing and findings: every verdict on both sides of its limit."""

import pytest

from baugrund.core.answers.picker import balance, pick
from baugrund.core.edits import (
    AddDrops,
    AddRooms,
    ChangeDrops,
    ChangeEntry,
    ChangeSettings,
    DropChanges,
    Held,
    Hold,
    NewRoom,
    RemoveDrops,
    SetTally,
    apply_edits,
)
from baugrund.core.facts.project import empty_project
from baugrund.core.pick.standing import Boxes
from baugrund.core.plan import plan
from baugrund.core.standing.bearing import bearing, opened
from baugrund.core.standing.ground import grounds_of

EIGHT = {1: Boxes(("router-1wan-4", "switch-8m-8at"))}
"""12 ports, two of them taken by the link; 8 powered, 120 W."""


def with_cameras(count, **settings):
    rooms = AddRooms(rooms=(NewRoom(name="Yard", outside=True),))
    terms = ChangeSettings(changes={"horizon_years": 0, "growth_percent": 0, **settings})
    cameras = SetTally(room_id=3, kind="camera", count=count)
    return apply_edits(empty_project("C", 2026), [rooms, terms, cameras])


def ground(project, catalogue, standing):
    """The ground of the head end."""
    return grounds_of(project, catalogue, standing)[0]


def capacities(project, catalogue, boxes=EIGHT):
    return {capacity.key: capacity for capacity in bearing(ground(project, catalogue, boxes))}


@pytest.mark.parametrize(("cameras", "verdict"), [(7, "holds"), (8, "full"), (9, "over")])
def test_powered_ports_hold_are_full_and_are_exceeded(catalogue, cameras, verdict):
    powered = capacities(with_cameras(cameras), catalogue)["powered"]
    assert (powered.verdict, powered.used, powered.limit) == (verdict, cameras, 8)
    if verdict == "over":
        assert powered.sentence == "over by 1"


def test_what_boxes_take_of_their_closet_is_told_where_it_is_limited(catalogue):
    told = capacities(with_cameras(1), catalogue)
    boxes = [catalogue.get(key) for key in EIGHT[1].boxes]
    assert (told["load"].used, told["load"].limit) == (round(sum(box.mass_kg for box in boxes), 2), 60)
    assert (told["rack"].used, told["sockets"].used) == (sum(box.units for box in boxes), sum(b.sockets for b in boxes))
    assert "outlets" not in told
    outlets = [ChangeEntry(list="closets", id=1, changes={"ups_outlets": there}) for there in (2, 1)]
    enough, few = (capacities(apply_edits(with_cameras(1), [edit]), catalogue)["outlets"] for edit in outlets)
    assert (enough.verdict, enough.sentence) == ("full", "full, nothing left")
    assert (few.verdict, few.sentence) == ("over", "over by 1")


def test_money_is_a_capacity_of_the_whole_site_and_none_of_a_closet(catalogue):
    told = balance(with_cameras(1, budget_minor=100_00), catalogue, EIGHT)
    assert [capacity.key for capacity in told.site] == ["money"]
    assert "money" not in [capacity.key for closet in told.closets for capacity in closet.capacities]
    assert balance(with_cameras(1), catalogue, EIGHT).site == ()


def test_watts_carry_the_margin(catalogue):
    watts = capacities(with_cameras(8), catalogue)["watts"]
    # 7.4 W behind 4.64 Ω take 7.494 W at 53 V: 7.5 W in half watts
    assert watts.used == 8 * 7.5 * 1.2
    assert watts.limit == 120


def test_the_year_in_which_it_is_full(catalogue):
    project = with_cameras(7, growth_percent=10)
    powered = capacities(project, catalogue)["powered"]
    # 0.7 of a camera in 2027, 1.47 in 2028, 2.3 in 2029: the ninth
    assert powered.full_year == 2029
    assert powered.sentence == "full in 2029"


def test_an_opened_capacity_adds_up(catalogue):
    base = ground(with_cameras(5), catalogue, EIGHT)
    told = opened(base, "watts")
    assert sum(share.amount for share in told.shares) == pytest.approx(told.capacity.used)
    assert {share.label for share in told.shares} == {"Camera, Yard"}
    assert opened(base, "colour") is None


def keys(project, catalogue, followed=EIGHT):
    found = balance(project, catalogue, followed).findings
    return {finding.key: finding for finding in found} | {finding.key.split("-")[0]: finding for finding in found}


@pytest.mark.parametrize(("run_m", "found"), [(90.0, False), (90.1, True)])
def test_a_fixed_link_is_ninety_metres_at_most(catalogue, run_m, found):
    project = apply_edits(with_cameras(1), [ChangeDrops(ids=(4,), changes=DropChanges(run_m=run_m))])
    assert ("long" in keys(project, catalogue)) is found


@pytest.mark.parametrize(("draw_w", "found"), [(12.95, False), (12.96, True)])
def test_a_draw_over_its_class_breaks_and_the_right_class_settles_it(catalogue, draw_w, found):
    project = apply_edits(with_cameras(1), [ChangeDrops(ids=(4,), changes=DropChanges(draw_w=draw_w))])
    finding = keys(project, catalogue).get("class")
    assert (finding is not None) is found
    if finding:
        settled = apply_edits(project, [finding.settle.edit])
        assert settled.drops[0].poe_class == 4
        assert "class" not in keys(settled, catalogue)


@pytest.mark.parametrize(("run_m", "category", "found"), [(51, "6", False), (52, "6", True), (52, "6A", False)])
def test_ten_gigabit_over_category_6_ends_at_55_m_of_channel(catalogue, run_m, category, found):
    changes = DropChanges(speed_mbit=10_000, run_m=run_m, category=category)
    project = apply_edits(with_cameras(1), [ChangeDrops(ids=(4,), changes=changes)])
    assert ("slow" in keys(project, catalogue)) is found


def test_volts_that_do_not_arrive_are_a_finding(catalogue):
    changes = DropChanges(poe_class=4, draw_w=25.5)
    project = apply_edits(with_cameras(1), [ChangeDrops(ids=(4,), changes=changes)])
    assert "feed" not in keys(project, catalogue)
    far = apply_edits(project, [ChangeDrops(ids=(4,), changes=DropChanges(run_m=250))])
    assert "V arrive at the device; class 4 needs 42.5 V" in keys(far, catalogue)["feed"].text


def test_full_on_day_one_and_a_single_spare(catalogue):
    assert keys(with_cameras(8), catalogue)["day"].text == "full on day one."
    assert keys(with_cameras(7), catalogue)["day"].text == "a single one is spare on day one."
    assert "day" not in keys(with_cameras(6), catalogue)


def test_cameras_want_a_recorder_and_adding_one_settles_it(catalogue):
    project = with_cameras(2)
    settled = apply_edits(project, [keys(project, catalogue)["no-recorder"].settle.edit])
    assert {drop.kind for drop in settled.drops} == {"camera", "recorder"}


def test_held_boxes_stay_and_say_when_they_no_longer_bear(catalogue, row_house):
    answer = pick(row_house, catalogue, ("least_price",)).answers[0]
    number = row_house.head_end.id
    models = tuple(Held(closet_id=number, model=part.model, count=part.quantity) for part in answer.parts)
    held = apply_edits(row_house, [Hold(models=models)])
    assert balance(held, catalogue, None).held
    assert "not-borne" not in keys(held, catalogue, None)
    more = apply_edits(held, [AddDrops(room="Garden", kind="camera", count=12)])
    assert keys(more, catalogue, answer.standing())["not-borne"].weight == "breaks"


def test_drops_keep_their_ports_after_an_edit(catalogue, dye_works):
    answer = pick(dye_works, catalogue, ("least_price",)).answers[0]
    fewer = apply_edits(dye_works, [RemoveDrops(ids=(dye_works.drops[0].id,))])
    before = {place.drop_id: (place.box, place.port) for place in answer.places if place.drop_id}
    first = {box.closet_id: number for number, box in reversed(list(enumerate(answer.boxes)))}
    grounds = grounds_of(fewer, catalogue, answer.standing())
    after = {p.drop_id: (first[g.closet.id] + p.box, p.port) for g in grounds for p in g.places if p.drop_id}
    assert after == {drop: place for drop, place in before.items() if drop != dye_works.drops[0].id}


def test_the_demo_projects_have_what_the_findings_should_catch(catalogue, dye_works):
    found = {}
    for finding in plan(dye_works, catalogue).findings:
        found.setdefault(finding.subject, finding.weight)
    assert found["Heat camera, kiln"] == found["Access point, Glaze shed"] == found["Gate"] == "breaks"
