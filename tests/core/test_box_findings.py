"""What is said of boxes that stand, of power over their cables and of recording, from both sides of each limit."""

import pytest

from baugrund.core.answers.picker import balance
from baugrund.core.edits import AddDrops, AddRooms, ChangeSettings, DropChanges, NewRoom, SetStance, apply_edits
from baugrund.core.facts.building import Room
from baugrund.core.facts.project import empty_project
from baugrund.core.findings import SiteState, boxes, footage
from baugrund.core.findings import drops as checks
from baugrund.core.pick.standing import Boxes
from tests.core.small import catalogue, line, module, planned, ports, router, slots, switch
from tests.core.test_footage import camera, recorder
from tests.core.test_footage import site as filmed

EIGHT = (router("home", ports(4)), switch("eight", ports(8)))


def office(desks, *edits, growth=0.0):
    return apply_edits(empty_project("Office", 2026), [
        AddRooms(rooms=(NewRoom(name="Office"),)),
        ChangeSettings(changes={"growth_percent": growth, "horizon_years": 5}),
        AddDrops(room="Office", kind="desk", count=desks, changes=DropChanges(run_m=30)), *edits,
    ])  # fmt: skip


def told(project, *models, standing=("home", "eight")):
    found = balance(project, catalogue(*(models or EIGHT)), {1: Boxes(standing)}).findings
    return {finding.key: finding for finding in found if finding.verb in ("pick", "load")}


def test_ports_that_are_full_or_have_one_spare_on_day_one_are_told():
    # a router of four and a switch of eight, linked by a port of each: ten are left
    assert "day-one-ports" not in told(office(8))
    assert told(office(9))["day-one-ports"].text == "a single one is spare on day one."
    assert told(office(10))["day-one-ports"].text == "full on day one."
    over = told(office(11))
    assert over["not-borne"].weight == "breaks" and "cannot serve all drops of 2031" in over["not-borne"].text


def test_growth_that_the_boxes_do_not_bear_is_told_with_its_year():
    # eight desks are to grow by three whole ones: by 3/8 in five years, 6.58 % a year
    assert "not-borne" not in told(office(8, growth=6.5))
    over = told(office(8, growth=6.6))
    assert over["not-borne"].weight == "breaks" and over["not-borne"].settle.verb == "pick"


def test_growth_of_a_kind_that_nobody_has_yet_takes_usual_figures():
    assert not [key for key in told(office(2, planned("desk", 2, 3))) if key.startswith("addition-")]
    (finding,) = [one for key, one in told(office(2, planned("phone", 2, 3))).items() if key.startswith("addition-")]
    assert finding.text == "2 planned for 2029, none today: usual figures of the kind are taken."


def test_prices_in_another_currency_are_told_and_settled():
    project = office(2)
    assert "currency" not in told(project)
    other = apply_edits(project, [ChangeSettings(changes={"currency": "CHF"})])
    finding = told(other)["currency"]
    assert finding.text == "the price list is in EUR, the project counts in CHF: figures are not converted."
    assert "currency" not in told(apply_edits(other, [finding.settle.edit]))


def test_a_pinned_model_that_is_out_of_stock_is_told_with_what_comes_nearest():
    gone = switch("gone", ports(8), price=100, in_stock=False)
    project = office(2, SetStance(model="gone", pinned=1))
    finding = told(project, *EIGHT, gone)["stock-gone"]
    assert finding.text == "is out of stock; nearest is eight: keeps every label, the same price."
    small = told(project, router("home", ports(4)), gone, standing=("home",))["stock-gone"]
    assert small.text == "is out of stock; nothing in stock does its work."
    there = switch("gone", ports(8), price=100)
    assert "stock-gone" not in told(project, *EIGHT, there)


def test_a_stand_in_says_what_it_moves():
    gone = switch("gone", ports(8), price=100, in_stock=False)
    other = switch("other", ports(4), ports(6, 2500), price=150, own_draw_w=8, depth_mm=240, fanless=False)
    finding = told(
        office(2, SetStance(model="gone", pinned=1)), router("home", ports(4)), other, gone, standing=("home",)
    )
    assert finding["stock-gone"].text == (
        "is out of stock; nearest is other: keeps every label, € 0.50 more, 40 mm deeper, 3 W of own draw more, has a "
        "fan."
    )


def test_fast_ports_without_a_fast_partner_are_told_with_the_cheapest_way():
    fast = switch("fast", ports(8), ports(1, 2500), price=300)

    def idle(*models, desks=2, standing=("home", "fast"), **changes):
        project = office(desks)
        if changes:
            fast_one = AddDrops(room="Office", kind="desk", changes=DropChanges(run_m=30, **changes))
            project = apply_edits(project, [fast_one])
        found = told(project, *models, standing=standing)
        return [one.text for key, one in found.items() if key.startswith("stranded-")]

    home = router("home", ports(4))
    (text,) = idle(home, fast)
    assert text == "1 port of 2.5 G, and nothing on them is as fast. Nothing in stock is as fast."
    dear, cheap = (router(key, ports(4, 2500), price=price) for key, price in (("dear", 900), ("cheap", 500)))
    (text,) = idle(home, fast, dear, cheap)
    assert text.endswith("The least partner as fast is cheap, € 5 with its modules.")
    assert idle(home, fast, speed_mbit=2500) == [], "a drop runs fast on it"
    (text, _) = idle(router("home", ports(4, 2500)), fast)
    assert text.endswith("a link of 2.5 G to fast, nothing to buy."), "two desks fill no more than a slow link"


def test_fast_slots_want_modules_on_both_sides():
    home, fast = router("home", ports(4), slots=slots(1)), switch("fast", ports(8), ports(2, 2500), slots=slots(1))
    found = told(office(2), home, fast, module("glass", price=30), standing=("home", "fast"))
    (finding,) = [one for key, one in found.items() if key.startswith("stranded-")]
    assert finding.text.endswith("The cheapest way to use one: a link of 10 G to home, € 0.60 in modules.")


def powered(**changes):
    put = AddDrops(room="Office", kind="camera", changes=DropChanges(**{"run_m": 60.0, "draw_w": 12.0} | changes))
    return apply_edits(empty_project("Office", 2026), [AddRooms(rooms=(NewRoom(name="Office"),)), put])


def said(check, project):
    return list(check(SiteState(project, {}, {})))


@pytest.mark.parametrize(
    ("draw_w", "breaks", "settled"), [(12.95, 0, None), (12.96, 1, 4), (25.6, 1, 5), (71.4, 1, None)]
)
def test_a_draw_over_its_class_is_told_with_the_smallest_that_gives_it(draw_w, breaks, settled):
    found = said(checks.over_class, powered(draw_w=draw_w))
    assert len(found) == breaks
    if breaks:
        edit = found[0].settle and found[0].settle.edit
        assert (edit and edit.changes.poe_class) == settled


@pytest.mark.parametrize(("measured_w", "breaks"), [(15.4, 0), (15.41, 1)])
def test_watts_measured_over_what_a_class_reserves_are_told(measured_w, breaks):
    assert len(said(checks.over_reserved, powered(measured_w=measured_w))) == breaks


def test_draws_that_nobody_typed_are_counted_at_the_most():
    assert said(checks.unknown_draws, powered()) == []
    (finding,) = said(checks.unknown_draws, powered(draw_w=0.0))
    assert finding.text.endswith("(Camera, Office: 12.95 W).")


def test_copper_clad_cable_must_not_carry_power():
    (finding,) = said(checks.copper_clad, powered(copper_clad=True))
    assert (finding.key, finding.weight) == ("clad-powered", "breaks") and "1.6 times" in finding.text
    (bare,) = said(checks.copper_clad, powered(copper_clad=True, poe_class=None))
    assert (bare.key, bare.weight) == ("clad", "strains")
    assert said(checks.copper_clad, powered()) == []


def test_a_run_so_long_that_too_few_volts_arrive_is_told():
    """IEEE Std 802.3-2022: at 50 V and class 3, 37 V at the device; by V = (50 + √(50² − 4·R·P))/2."""

    def volts(ohm, watts=12.95):
        root = 50.0**2 - 4 * ohm * watts
        return None if root < 0 else (50 + root**0.5) / 2

    def at(length_m):
        project = apply_edits(powered(draw_w=12.95, run_m=length_m), [ChangeSettings(changes={"port_volts": 50.0})])
        return said(checks.feeds, project), checks.loop_ohm(project, project.drops[0])

    lengths = [100.0, 150.0, 200.0, 250.0, 300.0, 400.0]
    answers = [at(length_m) for length_m in lengths]
    assert [bool(found) for found, _ in answers] == [(volts(ohm) or 0) < 37 for _, ohm in answers]
    assert not answers[0][0] and answers[-1][0], "both sides are looked at"


def rented(mbit, up=10, **settings):
    """Cameras that an outside service records, with a stream of so much together."""
    return filmed(*(camera(10 + n, by_service=True, traffic_mbit=mbit / 2) for n in range(2)), **settings).changed(
        rooms=(Room(id=2, name="Yard", floor_id=3),), lines=apply_edits(empty_project("L", 2026), [line("L", 100, up)]).lines
    )  # fmt: skip


@pytest.mark.parametrize(("mbit", "weight"), [(7.0, None), (7.2, "strains"), (10.0, "strains"), (10.2, "breaks")])
def test_what_a_service_records_is_held_against_the_upstream(mbit, weight):
    found = said(footage.service, rented(mbit))
    assert [one.weight for one in found] == ([weight] if weight else [])


def test_what_a_service_records_without_a_line_is_told():
    (finding,) = said(footage.service, rented(4.0).changed(lines=()))
    assert (finding.weight, finding.text) == ("note", "4 Mbit/s go up the line, and no line is listed.")
    assert said(footage.service, filmed(camera(10)).changed(lines=())) == []


@pytest.mark.parametrize(("raid", "disks", "fits"), [
    ("none", 1, True), ("1", 2, True), ("1", 3, False), ("5", 2, False), ("5", 3, True), ("6", 3, False),
    ("6", 4, True), ("10", 4, True), ("10", 5, False),
])  # fmt: skip
def test_disks_that_do_not_go_with_their_level_are_told(raid, disks, fits):
    project = filmed(camera(10), recorder(raid=raid, disks=disks, disk_tb=20.0)).changed(
        rooms=(Room(id=2, name="Yard", floor_id=3),)
    )
    assert [one.key for one in said(footage.recorders, project)] == ([] if fits else ["raid-5"])


def test_every_check_of_boxes_is_silent_where_none_stand():
    project = office(3)
    for check in (boxes.ground, boxes.refused, boxes.out_of_stock, boxes.fast_ends, boxes.currency):
        assert said(check, project) == []
