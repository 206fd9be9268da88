"""What stands in closets: boxes, gear, drops and lines, panels by count; what of it the pick is held to; findings."""

from dataclasses import replace

import pytest

from baugrund.core.answers.picker import Picker, balance, standing_boxes
from baugrund.core.edits import AddEntry, ChangeEntry, RemoveDrops, RemoveEntry, apply_edits
from baugrund.core.facts.lines.patch_panel import PatchPanel
from baugrund.core.findings import SiteState, stack
from baugrund.core.footage.apart import chosen_apart
from baugrund.core.gear.beside import beside_pick
from baugrund.core.pick.model.resources import limits_of
from baugrund.core.stack.arrangement import arrange, arranged
from baugrund.core.stack.cords import cords_of
from baugrund.core.stack.flat import area_of
from baugrund.core.stack.housings import BOUGHT, pick_housing
from baugrund.core.stack.pits import opened_pit, pits_of
from baugrund.core.stack.proposals import stack_proposals, wanted_min
from baugrund.core.stack.rules import Weights, broken, middles, score, weights_of
from baugrund.core.stack.swapping import improved
from baugrund.core.stack.things import positions_needed, things_of
from baugrund.core.stack.told import stack_of
from baugrund.core.standards.stack import UNIT_MM, USUAL
from baugrund.core.standing.ground import grounds_of
from baugrund.core.standing.loads import load_of

from .test_stack import rack, thing, ups

FAN = "fan-1"


@pytest.fixture(scope="module")
def bare(dye_works):
    """The dye works with nothing of a stack said of it, in a closet that is a shut box of usual warmth."""
    plain = {"warm_c": None, "battery_for": "all", "front_mm": None, "behind_mm": None}
    closets = tuple(one.model_copy(update=plain) for one in dye_works.closets)
    return dye_works.changed(gear=(), placings=(), lifelines=(), closets=closets)


@pytest.fixture(scope="module")
def seated(bare, catalogue):
    answer = Picker(bare, catalogue).answer(bare.settings.aim)
    return grounds_of(bare, catalogue, standing_boxes(bare, catalogue, answer.standing()))


@pytest.fixture(scope="module")
def proposed(dye_works, catalogue):
    """The dye works as it ships, on the boxes of its pick, with what could stand better there."""
    answer = Picker(dye_works, catalogue).answer(dye_works.settings.aim)
    grounds = grounds_of(dye_works, catalogue, standing_boxes(dye_works, catalogue, answer.standing()))
    (found,) = stack_proposals(dye_works, catalogue, grounds).closets
    return grounds, found


def things(project, catalogue, seated):
    grounds = tuple(replace(one, project=project, closet=project.closets_by_id[one.closet.id]) for one in seated)
    return things_of(project, catalogue, grounds, project.head_end)


def gear(**values):
    return AddEntry(list="gear", values={"closet_id": 1, **values})


def test_boxes_draw_what_their_ports_give_over_their_supply(bare, catalogue, seated):
    here = [one for one in things(bare, catalogue, seated) if one.box is not None]
    load = load_of(bare, seated)
    assert [one.name for one in here] == [box.name for box in seated[0].boxes]
    for one, box, of in zip(here, load.boxes, seated[0].boxes, strict=True):
        assert one.mains_w == pytest.approx(box.mains_w, abs=0.001)
        assert one.away_w == pytest.approx(box.mains_w * of.efficiency_percent / 100 - of.own_draw_w, abs=0.001)
        assert one.units == (of.units if of.form == "rack" else 0) and one.depth_mm == of.depth_mm
    assert len({one.key for one in here}) == len(here)


def test_devices_of_the_closets_own_room_and_boxes_of_lines_stand_there(bare, catalogue, seated):
    here = {one.key: one for one in things(bare, catalogue, seated)}
    own = {
        drop.id
        for drop in bare.drops
        if drop.room_id == bare.head_end.room_id and drop.kind in ("hub", "nas", "recorder", "controller")
    }
    assert {key for key in here if key.startswith("drop/")} == {f"drop/{number}" for number in own}
    assert {key for key in here if key.startswith("line/")} == {
        f"line/{line.id}" for line in bare.lines if line.box != "none"
    }
    nas = next(one for one in here.values() if one.kind == "nas")
    assert (nas.width_mm, nas.mains_w, nas.sockets) == (USUAL["nas"].width_mm, 35.0, 1) and "width_mm" in nas.assumed


def test_gear_that_is_a_drops_box_stands_for_it_once(bare, catalogue, seated):
    nas = next(drop.id for drop in bare.drops if drop.kind == "nas")
    project = apply_edits(bare, [gear(kind="nas", drop_id=nas, height_mm=80, draw_w=20.0)])
    mine = [one for one in things(project, catalogue, seated) if one.kind == "nas"]
    assert [(one.source, one.height_mm, one.mains_w, one.drop_id) for one in mine] == [("typed", 80, 20.0, nas)]
    gone = apply_edits(project, [RemoveDrops(ids=(nas,))])
    assert gone.gear[0].drop_id is None, "the box stays, and is nobody's"


def test_provider_boxes_that_are_typed_stand_in_place_of_the_usual(bare, catalogue, seated):
    project = apply_edits(bare, [gear(kind="terminal", name="Terminal")])
    here = things(project, catalogue, seated)
    assert not [one for one in here if one.source == "line"] and [one.name for one in here if one.kind == "terminal"]


def test_panels_are_counted_from_runs_growth_lines_and_links(bare, catalogue, seated):
    needed = positions_needed(bare, bare.head_end, seated[0])
    runs = sum(drop.has_run for drop in bare.drops)
    assert needed == runs + len(seated[0].then.reserve) + 2 + len(seated[0].links[bare.settings.horizon_years])
    panels = [one for one in things(bare, catalogue, seated) if one.kind == "panel"]
    assert len(panels) == -(-needed // 24) and all(one.hangs and one.positions == 24 for one in panels)
    typed = apply_edits(bare, [gear(kind="panel", model="panel-48")])
    assert [one.positions for one in things(typed, catalogue, seated) if one.kind == "panel"] == [48]
    direct = bare.changed(settings=bare.settings.model_copy(update={"termination": "direct"}))
    assert not [one for one in things(direct, catalogue, seated) if one.kind == "panel"]


def test_cords_go_from_panels_to_boxes_and_between_boxes(bare, catalogue, seated):
    here = things(bare, catalogue, seated)
    cords = cords_of(bare, seated[0], here)
    from_panels = sum(cord.many for cord in cords if cord.one.startswith("panel/"))
    own = {one.drop_id for one in here if one.drop_id}
    seats = [place.drop_id for place in seated[0].places if place.drop_id is not None]
    assert from_panels == len([number for number in seats if number not in own])
    assert sum(cord.many for cord in cords if cord.one.startswith("drop/")) == len([n for n in seats if n in own])
    between = [cord for cord in cords if cord.one.startswith("box/")]
    assert sum(cord.many for cord in between) == len(seated[0].seating.links)
    assert cords_of(bare, None, here) == ()


def test_what_stands_beside_leaves_the_pick_less(bare, catalogue):
    plain = limits_of(bare.head_end, beside_pick(bare, catalogue, bare.head_end))
    project = apply_edits(bare, [gear(kind="ups", units=3, mass_kg=20.0), gear(kind="nas", mass_kg=5.0)])
    units, load, sockets, outlets = limits_of(project.head_end, beside_pick(project, catalogue, project.head_end))
    assert (units, load) == (plain[0] - 3, plain[1] - 25_000)
    assert (sockets, outlets) == plain[2:], "sockets of other things are counted beside"
    full = apply_edits(bare, [gear(kind="other", rack=True, units=bare.head_end.units)])
    assert limits_of(full.head_end, beside_pick(full, catalogue, full.head_end))[0] == 0
    assert not Picker(full, catalogue).answer("least_price")


def test_a_closet_that_goes_takes_its_things_along(orchard_school):
    barn = orchard_school.closets[1].id
    there = apply_edits(orchard_school, [AddEntry(list="gear", values={"closet_id": barn, "kind": "hub"})])
    gone = apply_edits(there, [RemoveEntry(list="closets", id=barn)])
    for name in ("gear", "placings", "panel_blocks"):
        assert not any(row.closet_id == barn for row in getattr(gone, name))


def state(project, catalogue, seated):
    grounds = tuple(replace(one, project=project, closet=project.closets_by_id[one.closet.id]) for one in seated)
    return SiteState(project, {}, {}, catalogue, stack=stack_of(project, catalogue, grounds))


def keys(check, project, catalogue, seated):
    return {finding.key: finding for finding in check(state(project, catalogue, seated))}


def test_nothing_is_told_of_places_before_somebody_begins(bare, catalogue, seated):
    assert keys(stack.standing, bare, catalogue, seated) == {}
    begun = apply_edits(bare, [gear(kind="hub")])
    assert list(keys(stack.standing, begun, catalogue, seated)) == ["stack-place-1"]


def test_depth_air_and_amperes_are_told(bare, catalogue, seated):
    server = apply_edits(bare, [gear(kind="server", depth_mm=376, name="Deep")])
    place = {"closet_id": 1, "thing": f"gear/{server.gear[-1].id}", "unit": 1}
    deep = apply_edits(server, [AddEntry(list="placings", values=place)])
    assert "asks for 451 mm" in keys(stack.standing, deep, catalogue, seated)["stack-depth-0-1"].text
    hungry = apply_edits(bare, [gear(kind="server", draw_w=2200.0)])
    assert "licensed electrician" in keys(stack.mains, hungry, catalogue, seated)["amperes-1"].text


def test_warmth_and_noise_are_told_from_both_sides(bare, catalogue, seated):
    warm = keys(stack.air, bare, catalogue, seated)["too-warm-1"]
    assert "28 °C being taken" in warm.text and "m³/h would do" in warm.text
    cold = apply_edits(bare, [ChangeEntry(list="closets", id=1, changes={"warm_c": -20.0})])
    assert "too-warm-1" not in keys(stack.air, cold, catalogue, seated)
    frame = apply_edits(bare, [ChangeEntry(list="closets", id=1, changes={"is_open": True})])
    assert "too-warm-1" not in keys(stack.air, frame, catalogue, seated)
    near = {"near": "bed", "near_m": 1.0, "through": "open"}
    loud = apply_edits(bare, [ChangeEntry(list="closets", id=1, changes=near)])
    assert "dB(A) are heard at 1 m; 30 are the most" in keys(stack.air, loud, catalogue, seated)["too-loud-1"].text
    behind = apply_edits(loud, [ChangeEntry(list="closets", id=1, changes={"through": "stud"})])
    assert "too-loud-1" not in keys(stack.air, behind, catalogue, seated)


def test_what_would_change_its_warmth_is_told(bare, catalogue, seated):
    told = state(bare, catalogue, seated).stack.closets[0]
    by = {one.what.split(",")[0]: one for one in told.helps}
    door = by["its door open"]
    assert (door.top_c, door.holds) == (told.warmth.room_c, True)
    fan = next(one for one in told.helps if "m³/h" in one.what)
    assert door.top_c < fan.top_c < told.warmth.top_c
    away = next(one for one in told.helps if one.what.endswith("elsewhere"))
    warmest = max(told.things, key=lambda one: one.mains_w - one.away_w)
    assert away.what == f"{warmest.name} elsewhere" and away.top_c < told.warmth.top_c
    frame = apply_edits(bare, [ChangeEntry(list="closets", id=1, changes={"is_open": True})])
    assert state(frame, catalogue, seated).stack.closets[0].helps == ()


def test_the_sensor_belongs_over_what_is_warm_highest_up(bare, catalogue, seated):
    warm = [gear(kind="server", rack=True, units=1, draw_w=20.0, name="Low"), gear(kind="server", rack=True, units=1, draw_w=5.0,
                                                                                   name="High")]  # fmt: skip
    project = apply_edits(bare, warm)
    low, high = (f"gear/{one.id}" for one in project.gear)
    put = [
        AddEntry(list="placings", values={"closet_id": 1, "thing": key, "unit": unit})
        for key, unit in ((low, 1), (high, 9))
    ]
    there = state(apply_edits(project, put), catalogue, seated).stack.closets[0].warmth
    assert (there.hottest, there.by_sensor) == ("High", None)
    fans = apply_edits(project, [gear(kind="fan", model=FAN)])
    assert state(fans, catalogue, seated).stack.closets[0].warmth.by_sensor is True


@pytest.mark.parametrize(("width", "positions"), [(16.0, 24), (16.1, 12), (33.0, 8)])
def test_modules_wider_than_the_spacing_cover_positions(bare, catalogue, seated, width, positions):
    snap = PatchPanel(key="snap", name="Snap-in", price_minor=1, positions=24, ends="snap", spacing_mm=16.0)
    wider = catalogue.model_copy(update={"models": (*catalogue.models, snap)})
    project = apply_edits(bare, [gear(kind="panel", model="snap", module_mm=width)])
    panel = next(one for one in things(project, wider, seated) if one.kind == "panel")
    assert panel.positions == positions
    told = keys(stack.fixings, project, wider, seated)
    assert bool(told) is (positions < 24)


def test_a_rack_on_plasterboard_alone_is_told(bare, catalogue, seated):
    for fixing, is_told in (("plasterboard", True), ("studs", False), ("", False)):
        project = apply_edits(bare, [ChangeEntry(list="closets", id=1, changes={"fixing": fixing})])
        assert ("fixing-1" in keys(stack.fixings, project, catalogue, seated)) is is_told


def test_a_housing_is_taken_by_its_edits_and_found_again(dye_works, catalogue, proposed):
    grounds, found = proposed
    taken = apply_edits(dye_works, list(found.housing_edits))
    line = catalogue.get(found.housing.housing.model)
    assert (taken.head_end.units, taken.head_end.depth_mm) == (line.units, line.depth_mm)
    parts = {line.model: line.quantity for line in chosen_apart(taken, catalogue)}
    assert parts[line.key] == 1 and all(parts[part.model] >= part.count for part in found.housing.parts)
    bought = sorted(one.model for one in taken.gear if one.kind in BOUGHT)
    assert bought == sorted(part.model for part in found.housing.parts for _ in range(part.count))
    there = tuple(replace(one, project=taken, closet=taken.closets_by_id[one.closet.id]) for one in grounds)
    (again,) = stack_proposals(taken, catalogue, there).closets
    assert again.housing.price_minor == found.housing.price_minor
    assert not again.rack.steady.left_out, "everything stands in what was bought for it"


def test_a_warm_battery_is_told_with_the_years_it_loses(bare, catalogue, seated):
    project = apply_edits(
        bare, [gear(kind="ups"), ChangeEntry(list="closets", id=1, changes={"is_open": True, "warm_c": 35.0})]
    )
    assert "lives 50% of its years" in keys(stack.air, project, catalogue, seated)["warm-battery-1"].text
    cool = apply_edits(project, [ChangeEntry(list="closets", id=1, changes={"warm_c": 25.0})])
    assert "warm-battery-1" not in keys(stack.air, cool, catalogue, seated)


@pytest.mark.parametrize(
    ("field", "key", "least"), [("front_mm", "no-room-before-1", 900), ("behind_mm", "no-room-behind-1", 600)]
)
def test_room_for_a_person_is_told_from_both_sides(bare, catalogue, seated, field, key, least):
    for clear, is_told in ((least - 1, True), (least, False)):
        project = apply_edits(bare, [ChangeEntry(list="closets", id=1, changes={field: clear})])
        assert (key in keys(stack.room_around, project, catalogue, seated)) is is_told


def test_outlets_and_a_full_ups_are_told(bare, catalogue, seated):
    few = apply_edits(bare, [gear(kind="ups", outlets=2, watts_most=5000.0, va_most=9000.0)])
    assert "battery-outlets-1" in keys(stack.mains, few, catalogue, seated)
    assert "ups-full-1" not in keys(stack.power_cut, few, catalogue, seated)
    small = apply_edits(bare, [gear(kind="ups", outlets=30, watts_most=300.0, va_most=9000.0)])
    assert "battery-outlets-1" not in keys(stack.mains, small, catalogue, seated)
    assert "80% is the most" in keys(stack.power_cut, small, catalogue, seated)["ups-full-1"].text


def test_the_goal_is_told_where_no_service_is_named(bare, catalogue, seated):
    assert "goal-battery" not in keys(stack.power_cut, bare, catalogue, seated), "nobody has begun"
    short = apply_edits(bare, [gear(kind="ups", ah=1.0, outlets=30)])
    assert "20 are wanted" in keys(stack.power_cut, short, catalogue, seated)["goal-battery"].text
    long = apply_edits(bare, [gear(kind="ups", ah=900.0, outlets=30)])
    assert "goal-battery" not in keys(stack.power_cut, long, catalogue, seated)


def test_pits_hold_what_the_ground_shows_and_open(bare, catalogue, seated):
    project = apply_edits(bare, [gear(kind="ups", outlets=30, ah=2.0)])
    told = state(project, catalogue, seated).stack
    pits = {pit.key: pit for pit in pits_of(told, 1)}
    cell = told.power_cut.cells[0]
    assert (pits["battery"].used, pits["battery"].limit) == (20, round(cell.minutes, 2))
    assert pits["battery"].verdict == "over" and pits["heat"].used == told.closets[0].warmth.top_c
    opened = opened_pit(told, 1, "battery")
    assert sum(share.amount for share in opened.shares) == pytest.approx(cell.load_w, abs=0.1)
    heat = opened_pit(told, 1, "heat")
    assert sum(share.amount for share in heat.shares) == pytest.approx(told.closets[0].warmth.heat_w, abs=0.2)
    assert opened_pit(told, 1, "ports") is None and pits_of(told, 99) == ()


def test_the_balance_has_the_pits_and_findings_of_the_stack(dye_works, catalogue, proposed):
    standing = {ground.closet.id: ground.standing for ground in proposed[0]}
    told = balance(dye_works, catalogue, standing)
    assert {"battery", "heat"} <= {pit.key for pit in told.closets[0].capacities}
    wrong = [finding.text for finding in told.findings if finding.verb == "stack"]
    assert any("blows into the other's intake" in text for text in wrong)
    assert any("450 mm from rail to rear" in text for text in wrong)


def test_proposals_are_taken_by_their_edits_and_break_no_more(dye_works, catalogue, proposed):
    grounds, found = proposed
    taken = apply_edits(dye_works, list(found.edits))
    there = tuple(replace(one, project=taken, closet=taken.closets_by_id[one.closet.id]) for one in grounds)
    here = stack_of(taken, catalogue, there).closets[0]
    before = stack_of(dye_works, catalogue, grounds).closets[0]
    assert len([one for one in here.broken if one.rule != "place"]) < len(
        [one for one in before.broken if one.rule != "place"]
    )
    at = {put.thing: put.unit for put in found.rack.steady.puts if put.unit}
    assert {one.key: one.unit for one in here.things if one.unit} == at
    cords = cords_of(taken, there[0], here.things)
    again = arranged(taken.head_end, here.things, cords, weights_of(taken))
    assert again.steady.score.total <= found.rack.steady.score.total + 1e-6
    assert found.housing.housing.model == "rack-floor-24" and wanted_min(dye_works) == 20


def test_swaps_make_no_arrangement_worse_and_end_where_none_helps():
    things_ = [thing(f"t{n}", mass_kg=m, mains_w=w, unit=n + 1, hangs=True)
               for n, (m, w) in enumerate(((1, 100), (9, 0), (4, 20), (2, 60), (8, 10)))]  # fmt: skip
    weights = Weights(1.0, 0.02, 0.2)
    better = improved(rack(8), things_, [], weights)
    assert score(better, [], weights).total < score(things_, [], weights).total
    assert not broken(rack(8), better) and improved(rack(8), better, [], weights) == better
    proven = arrange(rack(8), things_, [], weights)
    assert score(better, [], weights).total >= proven.score.total - 1e-6


def test_middles_are_those_of_rails_and_of_the_shelf_for_what_stands_on_it():
    shelf = thing("shelf", 2, "shelf", unit=3, hangs=True)
    at = middles([shelf, thing("nas", 0, on="shelf"), thing("lost", 0), ups(unit=1)])
    assert at == {"shelf": 3.0, "nas": 3.0, "ups": 1.0}
    assert area_of(rack(6)) == (440, round(6 * UNIT_MM))


def test_no_rack_in_stock_is_said(bare, catalogue):
    none = catalogue.model_copy(update={"models": tuple(one for one in catalogue.models if one.kind != "housing")})
    assert "no rack" in pick_housing(bare, none, None, bare.head_end, [], 0, None).why_not
