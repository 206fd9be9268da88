"""Mains, sound, warmth and fitting of a closet by hand, and what the screen and the loading list make of them."""

import csv
import io
import math
from itertools import pairwise

import pytest
from openpyxl import load_workbook

from baugrund.core.answers.picker import standing_boxes
from baugrund.core.edits import AddEntry, apply_edits
from baugrund.core.facts.project import empty_project
from baugrund.core.findings import SiteState
from baugrund.core.findings.stack import mains as findings_of_mains
from baugrund.core.gear.sizes import STRIP_OUTLETS
from baugrund.core.physics.closet_air import heard_dba, together_dba
from baugrund.core.stack.mains import mains_of
from baugrund.core.stack.pits import opened_pit, pits_of
from baugrund.core.stack.things import things_of
from baugrund.core.stack.told import stack_of
from baugrund.core.stack.warmth import area_m2, helps_of, noise_of, warmth_of
from baugrund.core.standing.ground import grounds_of
from baugrund.exchange.loading_list import write_loading_csv, write_loading_xlsx
from tests.core.test_stack import rack, thing, ups

PROJECT = empty_project("P", 2026)


@pytest.fixture(scope="module")
def stacked(dye_works, catalogue):
    """The dye works on the boxes that it holds, with all that stands there."""
    grounds = grounds_of(dye_works, catalogue, standing_boxes(dye_works, catalogue, None))
    return stack_of(dye_works, catalogue, grounds)


def test_sockets_are_those_of_walls_and_strips_and_bricks_are_as_wide_as_they_are():
    closet = rack(sockets=2, other_sockets=1)
    strip = thing("strip", kind="strip", outlets=6)
    bricks = [thing(f"b{n}", 0, plug="wide_brick", sockets=2, mains_w=10.0) for n in range(4)]
    told = mains_of(PROJECT, closet, [strip, *bricks])
    assert (told.sockets, told.there, told.holds) == (1 + 4 * 2, 2 + 1 + 6, True)
    more = mains_of(PROJECT, closet, [strip, *bricks, thing("one", mains_w=5.0)])
    assert (more.sockets, more.holds) == (10, False)
    uncounted = mains_of(PROJECT, rack(sockets=2, other_sockets=None), [strip])
    assert uncounted.there == 8, "sockets that nobody counted are none"


def test_a_strip_of_which_nobody_said_its_outlets_has_the_usual_ones():
    assert mains_of(PROJECT, rack(sockets=1), [thing("strip", kind="strip")]).there == 1 + STRIP_OUTLETS


@pytest.mark.parametrize(("watts", "holds"), [(2185.0, True), (2185.3, False)])
def test_amperes_are_volt_amperes_over_the_mains_voltage(watts, holds):
    # 10 A at 230 V are 2,300 VA, and 2,185 W at a power factor of 0.95
    told = mains_of(PROJECT, rack(sockets=4), [thing("load", mains_w=watts)])
    assert told.va == pytest.approx(watts / 0.95, abs=0.01) and told.holds is holds
    assert told.amperes == pytest.approx(watts / 0.95 / 230, abs=0.001)
    lower = PROJECT.changed(settings=PROJECT.settings.model_copy(update={"mains_v": 115.0}))
    assert mains_of(lower, rack(sockets=4), [thing("load", mains_w=1000.0)]).amperes == pytest.approx(9.153, abs=0.001)


def test_plugs_on_the_battery_are_held_to_its_outlets_and_take_no_socket():
    loads = [thing(f"t{n}", outlet="battery", mains_w=10.0) for n in range(4)]
    told = mains_of(PROJECT, rack(sockets=1), [ups(outlets=4), *loads])
    assert (told.battery_plugs, told.battery_outlets, told.sockets, told.holds) == (4, 4, 1, True)
    over = mains_of(PROJECT, rack(sockets=1), [ups(outlets=3), *loads])
    assert not over.holds
    surge = mains_of(PROJECT, rack(sockets=1), [ups(surge_outlets=2), thing("a", outlet="surge", mains_w=10.0)])
    assert (surge.surge_plugs, surge.surge_outlets, surge.battery_plugs) == (1, 2, 0)
    assert mains_of(PROJECT, rack(sockets=5), loads).battery_outlets is None, "no UPS stands there"


def test_skin_of_a_rack_is_front_top_and_free_sides():
    # 9 units are 400 mm and 100 mm more, 600 mm wide, 450 mm and 50 mm more deep
    high = 9 * 44.45 + 100
    assert area_m2(rack(9, free_sides=0)) == pytest.approx((600 * high + 600 * 500) / 1e6)
    assert area_m2(rack(9, free_sides=2)) == pytest.approx((600 * high + 600 * 500 + 2 * high * 500) / 1e6)
    panel = rack(9, housing="panel", panel_width_mm=400, panel_height_mm=600)
    assert area_m2(panel) == pytest.approx(0.24), "a recessed panel gives its warmth off by its face"


@pytest.mark.parametrize(("watts", "holds"), [(100.0, True), (101.0, False)])
def test_a_closet_holds_up_to_what_the_least_of_its_things_bears(watts, holds):
    closet = rack(9, warm_c=28.0, free_sides=0)
    weak = 28.0 + 100.0 / (5.5 * area_m2(closet))
    hot = thing("hot", mains_w=watts, bears_c=90.0)
    told = warmth_of(closet, [hot, thing("weak", mains_w=0.001, bears_c=weak + 0.001)])
    assert told.holds is holds and told.weakest == "Weak"
    assert told.top_c == pytest.approx(28.0 + watts / (5.5 * area_m2(closet)), abs=0.01)
    assert told.btu_h == pytest.approx(watts * 3.412, abs=0.1)
    assert told.open_door_c == 28.0


def test_what_would_help_is_told_with_the_warmth_that_it_leaves(catalogue):
    closet, hot = rack(9, warm_c=28.0), [thing("hot", mains_w=200.0, unit=9)]
    helps = helps_of(closet, hot, 0.0, catalogue)
    assert all(one.top_c < warmth_of(closet, hot).top_c for one in helps)
    assert {one.top_c for one in helps if "door" in one.what} == {28.0}
    assert all(one.holds is (one.top_c <= 45.0) for one in helps)
    assert helps_of(rack(9, warm_c=28.0, is_open=True), hot, 0.0, catalogue) == (), "an open frame gathers no warmth"


def test_sound_adds_as_energies_and_falls_with_distance():
    parts = [thing(f"n{n}", noise_dba=level) for n, level in enumerate((40.0, 40.0, 0.0))]
    told = noise_of(rack(near="office", near_m=2.0, through="open"), parts)
    assert (
        told.at_1m_dba
        == pytest.approx(10 * math.log10(2 * 10**4), abs=0.05)
        == pytest.approx(together_dba([40, 40]), abs=0.05)
    )
    assert told.heard_dba == pytest.approx(told.at_1m_dba - 20 * math.log10(2), abs=0.05)
    assert [one.dba for one in told.parts] == [40.0, 40.0], "what is silent is not named"
    assert noise_of(rack(), [thing("a")]).at_1m_dba is None
    assert noise_of(rack(near=""), parts).holds, "nobody has said who is near"
    assert heard_dba(43.0, 1.0, 35.0) == 8.0


@pytest.mark.parametrize(("near_m", "holds"), [(1.13, True), (1.12, False)])
def test_a_sleeper_bears_thirty_decibels(near_m, holds):
    # 31 dB(A) at 1 m are 30 at 10^(1/20) = 1.122 m
    told = noise_of(rack(near="bed", near_m=near_m, through="open"), [thing("fan", noise_dba=31.0)])
    assert told.limit_dba == 30.0 and told.holds is holds


def test_pits_of_a_closet_say_what_its_battery_and_its_warmth_have_left(dye_works, stacked):
    here = stacked.closets[0]
    pits = {one.key: one for one in pits_of(stacked, here.closet_id)}
    cell = next(one for one in stacked.power_cut.cells if one.closet_id == here.closet_id)
    assert pits["battery"].limit == round(cell.minutes, 2)
    assert (pits["battery"].verdict == "over") is (pits["battery"].used > cell.minutes + 1e-9)
    assert (pits["heat"].used, pits["heat"].limit) == (here.warmth.top_c, here.warmth.bears_c)
    opened = opened_pit(stacked, here.closet_id, "heat")
    assert sum(share.amount for share in opened.shares) <= here.warmth.heat_w + 0.05
    amounts = [share.amount for share in opened.shares]
    assert amounts == sorted(amounts, reverse=True)
    assert f"{here.warmth.top_c:g} °C" in opened.formula and "IEC TR 60890" in opened.source
    battery = opened_pit(stacked, here.closet_id, "battery")
    assert sum(share.amount for share in battery.shares) == pytest.approx(cell.load_w, abs=0.1)
    assert opened_pit(stacked, here.closet_id, "ports") is None and opened_pit(stacked, 999, "heat") is None
    assert pits_of(stacked, 999) == ()


def test_the_loading_list_is_in_the_order_of_fitting_and_the_same_in_both_formats(dye_works, stacked):
    rows = list(csv.reader(io.StringIO(write_loading_csv(dye_works, stacked).lstrip("\ufeff"))))
    head, lines = rows[0], [dict(zip(rows[0], row, strict=True)) for row in rows[1:]]
    assert head[:3] == ["Closet", "Step", "Thing"]
    assert len(lines) == sum(len(here.things) for here in stacked.closets)
    for here in stacked.closets:
        name = dye_works.closets_by_id[here.closet_id].name
        own = [line for line in lines if line["Closet"] == name]
        assert [int(line["Step"]) for line in own] == list(range(1, len(here.things) + 1))
        railed = [line for line in own if line["Units"]]
        assert own[: len(railed)] == railed, "what is screwed to the rails comes before what stands on shelves"
        units = [int(line["Unit"] or 99) for line in railed]
        assert units == sorted(units), "from the floor up"
        for one, other in pairwise(own[len(railed) :]):
            assert (int(one["Unit"] or 99), -float(one["Mass kg"])) <= (
                int(other["Unit"] or 99),
                -float(other["Mass kg"]),
            )
        assert sum(float(line["Mass kg"]) for line in own) == pytest.approx(here.mass_kg, abs=0.01)
        shelves = {one.name for one in here.things if one.kind == "shelf"}
        assert {line["On"] for line in own if line["On"]} <= shelves
    sheet = load_workbook(io.BytesIO(write_loading_xlsx(dye_works, stacked)), read_only=True).active
    written = [["" if cell is None else str(cell) for cell in row] for row in sheet.iter_rows(values_only=True)]
    assert [row[:4] for row in written] == [row[:4] for row in rows]


def strip(key="strip", outlets=6, **more):
    return thing(key, kind="strip", **{"outlets": outlets, "hangs": True, **more})


def test_what_hangs_on_a_strip_is_plugged_where_the_strip_is(dye_works, catalogue):
    gear = [
        AddEntry(list="gear", values={"closet_id": 1, "kind": "strip", "outlets": 5}),
        AddEntry(list="gear", values={"closet_id": 1, "kind": "hub"}),
        AddEntry(list="gear", values={"closet_id": 1, "kind": "ups", "outlets": 2, "volts": 24, "ah": 9}),
    ]
    project = apply_edits(dye_works.changed(gear=(), placings=()), gear)
    strip_id, hub_id, _ = (one.id for one in project.gear)

    def plugged(where, on_strip=True, of=None):
        values = {"closet_id": 1, "thing": f"gear/{strip_id}", "outlet": where}
        hung = {"strip": f"gear/{of or strip_id}"} if on_strip else {"outlet": where}
        hub = {"closet_id": 1, "thing": f"gear/{hub_id}", **hung}
        said = apply_edits(project, [AddEntry(list="placings", values=one) for one in (values, hub)])
        things = things_of(said, catalogue, grounds_of(said, catalogue, {}), said.head_end)
        return next(one for one in things if one.key == f"gear/{hub_id}"), mains_of(said, said.head_end, things)

    for where in ("battery", "mains", "surge"):
        hub, told = plugged(where)
        assert (hub.outlet, hub.strip) == (where, f"gear/{strip_id}")
        assert told.strips[0].things[0] == hub.key
    alone = plugged("battery", on_strip=False)[1]
    assert plugged("battery")[1].battery_plugs == alone.battery_plugs - 1, "of the UPS's outlets the strip takes one"
    hub, _ = plugged("battery", of=hub_id)
    assert (hub.strip, hub.outlet) == ("", "mains"), "what is no strip holds no plugs"


def test_what_nobody_has_said_goes_to_the_first_strip_with_room_the_widest_first():
    plugs = [thing(f"n{n}", mains_w=10.0) for n in range(3)]
    wide = [thing(f"w{n}", plug="wide_brick", sockets=2, mains_w=10.0) for n in range(2)]
    told = mains_of(PROJECT, rack(sockets=2), [strip("a", 4), strip("b", 2), *plugs, *wide])
    assert [one.things for one in told.strips] == [("w0", "w1"), ("n0", "n1")], "the third goes to the wall"
    assert [one.assumed for one in told.strips] == [2, 2] and all(one.holds for one in told.strips)
    typed = [plugs[0].model_copy(update={"strip": "b"}), *plugs[1:], *wide]
    told = mains_of(PROJECT, rack(sockets=2), [strip("a", 4), strip("b", 2), *typed])
    assert told.strips[1].things == ("n0", "n1") and told.strips[1].assumed == 1
    on_battery = mains_of(PROJECT, rack(), [strip("a", 4, outlet="battery"), *plugs])
    assert on_battery.strips[0].things == (), "what is on mains does not go where it would be on the battery"


@pytest.mark.parametrize(("watts", "holds"), [(1092.4, True), (1092.6, False)])
def test_a_strip_bears_ten_amperes_like_its_circuit(watts, holds):
    # 5 A at 230 V and a power factor of 0.95 are 1,092.5 W
    closet = rack(sockets=4, amperes_most=5.0)
    told = mains_of(PROJECT, closet, [strip(), thing("load", mains_w=watts, strip="strip")])
    assert told.strips[0].holds is holds and told.holds is holds
    assert told.strips[0].amperes == pytest.approx(watts / 0.95 / 230, abs=0.001)


def test_bricks_that_lie_over_their_neighbours_are_told_once_somebody_has_begun(dye_works, catalogue):
    gear = [AddEntry(list="gear", values={"closet_id": 1, "kind": "strip", "outlets": 3})]
    gear += [AddEntry(list="gear", values={"closet_id": 1, "kind": "hub", "plug": "wide_brick"}) for _ in range(2)]
    project = apply_edits(dye_works.changed(gear=(), placings=()), gear)
    strip_id, *hubs = (one.id for one in project.gear)
    on = [AddEntry(list="placings", values={"closet_id": 1, "thing": f"gear/{hub}", "strip": f"gear/{strip_id}"})
          for hub in hubs]  # fmt: skip

    def told(state):
        stack = stack_of(state, catalogue, grounds_of(state, catalogue, {}))
        site = SiteState(state, {}, {}, catalogue, stack=stack)
        return {one.key: one.text for one in findings_of_mains(site)}

    over = told(apply_edits(project, on))
    assert over[f"strip-plugs-gear/{strip_id}-1"].startswith("Power strip has 3 outlets; the plugs on it cover 4")
    assert f"strip-plugs-gear/{strip_id}-1" not in told(apply_edits(project, on[:1]))


def test_the_loading_list_names_the_strip_that_a_thing_hangs_on(dye_works, catalogue):
    gear = [AddEntry(list="gear", values={"closet_id": 1, "kind": kind, "name": name})
            for kind, name in (("strip", "Upper strip"), ("hub", "Blinds"))]  # fmt: skip
    project = apply_edits(dye_works.changed(gear=(), placings=()), gear)
    strip_id, hub_id = (one.id for one in project.gear)

    def plugged(**values):
        said = AddEntry(list="placings", values={"closet_id": 1, "thing": f"gear/{hub_id}", **values})
        state = apply_edits(project, [said])
        told = stack_of(state, catalogue, grounds_of(state, catalogue, {}))
        rows = csv.DictReader(io.StringIO(write_loading_csv(state, told).lstrip("\ufeff")))
        return {row["Thing"]: row["Plugged into"] for row in rows}

    assert plugged(strip=f"gear/{strip_id}")["Blinds"] == "Upper strip"
    assert plugged(outlet="mains")["Blinds"] == "mains"
    assert plugged()["Upper strip"] == "mains"
    assert all(where == "" for name, where in plugged().items() if name.startswith("Patch panel")), (
        "panels have no plug"
    )


@pytest.mark.parametrize(
    ("plug", "sockets", "watts", "va"),
    [("cord", 1, 60.0, 60 / 0.95), ("brick", 1, 60.0, 60 / 0.55), ("wide_brick", 2, 60.1, 60.1 / 0.95)],
)
def test_a_strip_counts_what_hangs_on_it_by_its_plug(plug, sockets, watts, va):
    (load,) = mains_of(PROJECT, rack(), [strip(), thing("one", plug=plug, sockets=sockets, mains_w=watts)]).strips
    assert (load.sockets, load.mains_w, load.holds) == (sockets, watts, True)
    assert load.va == pytest.approx(va, abs=0.01) and load.amperes == pytest.approx(va / 230, abs=0.001)


def test_no_strip_hangs_on_another_and_a_ups_on_none(dye_works, catalogue):
    gear = [AddEntry(list="gear", values={"closet_id": 1, "kind": kind}) for kind in ("strip", "strip", "ups")]
    project = apply_edits(dye_works.changed(gear=(), placings=()), gear)
    first, *others = (f"gear/{one.id}" for one in project.gear)
    said = apply_edits(project, [
        AddEntry(list="placings", values={"closet_id": 1, "thing": other, "strip": first, "outlet": "mains"})
        for other in others
    ])  # fmt: skip
    things = {one.key: one for one in things_of(said, catalogue, grounds_of(said, catalogue, {}), said.head_end)}
    assert [things[other].strip for other in others] == ["", ""]
    told = mains_of(said, said.head_end, list(things.values()))
    assert not any(other in one.things for one in told.strips for other in others)
    assert told.there == said.head_end.sockets + (said.head_end.other_sockets or 0) + 2 * STRIP_OUTLETS
