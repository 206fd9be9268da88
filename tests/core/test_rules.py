"""Every rule of what is feasible, on both sides of its limit."""

import pytest

from baugrund.core.demand.needs import Need
from baugrund.core.edits import AddDrops, AddRooms, ChangeEntry, ChangeSettings, NewRoom, SetStance, apply_edits
from baugrund.core.facts.project import empty_project
from baugrund.core.pick.best import fewest_boxes
from baugrund.core.pick.model.filters import standing_reasons
from baugrund.core.pick.model.problem import build

from .small import (
    ACCESS_POINT,
    CAMERA,
    DESK,
    alone,
    catalogue,
    cheapest,
    injector,
    kept,
    line,
    module,
    names,
    ports,
    problem,
    router,
    slots,
    switch,
)

HOME = router("home", ports(4))


@pytest.mark.parametrize(("desks", "boxes"), [(4, ["home"]), (5, ["home", "eight"]), (10, ["home", "eight"])])
def test_a_link_takes_a_port_at_both_ends(desks, boxes):
    # 4 + 8 ports, two of them for the link: ten drops
    assert names(cheapest(problem([HOME, switch("eight", ports(8))], {DESK: desks}))) == boxes


def test_eleven_drops_want_one_more_box():
    found = cheapest(problem([HOME, switch("eight", ports(8))], {DESK: 11}))
    assert names(found) == ["home", "eight", "eight"]


@pytest.mark.parametrize(("cap", "fits"), [(3, False), (4, True), (6, True)])
def test_a_port_gives_its_class_and_those_below(cap, fits):
    models = [HOME, switch("powered", ports(8, poe=cap), watts=200)]
    assert (cheapest(problem(models, {ACCESS_POINT: 1})) is not None) is fits


def test_class_0_counts_as_3():
    models = [HOME, switch("powered", ports(8, poe=0), watts=200)]
    assert cheapest(problem(models, {CAMERA: 2})) is not None
    assert cheapest(problem(models, {ACCESS_POINT: 1})) is None


@pytest.mark.parametrize(("speed", "fits"), [(1000, True), (2500, False)])
def test_a_port_is_as_fast_as_the_drop_asks(speed, fits):
    assert (cheapest(problem([HOME], {Need(0, speed, 0, 1000): 1})) is not None) is fits


@pytest.mark.parametrize(("margin", "cameras"), [(0.0, 7), (20.0, 5), (25.0, 5), (33.4, 5), (40.1, 4)])
def test_watts_carry_the_margin(margin, cameras):
    # 56 W hold 7 × 8 W; with 20 % 5 × 9.6 = 48 W; with 40.1 % a fifth camera would take 56.04 W
    models = [HOME, switch("powered", ports(8, poe=3), watts=56)]
    fits = problem(models, {CAMERA: cameras}, margin_percent=margin, units=2)
    over = problem(models, {CAMERA: cameras + 1}, margin_percent=margin, units=2)
    assert cheapest(fits) is not None
    assert cheapest(over) is None


def test_sums_over_boxes_are_not_enough():
    fifty = switch("fifty", ports(4, poe=8), watts=50)
    sixty, thirty = Need(6, 1000, 60_000, 1000), Need(4, 1000, 30_000, 1000)
    assert cheapest(problem([HOME, fifty], {sixty: 1, thirty: 1})) is None
    assert names(cheapest(problem([HOME, fifty], {thirty: 2}))) == ["home", "fifty", "fifty"]


@pytest.mark.parametrize(("traffic", "fits"), [(350_000, True), (350_001, False)])
def test_a_link_carries_seventy_percent_of_its_rate(traffic, fits):
    models = [router("narrow", ports(1)), switch("s", ports(4))]
    assert (cheapest(problem(models, {Need(0, 1000, 0, traffic): 2})) is not None) is fits


def test_a_faster_slot_carries_more_and_its_modules_cost():
    models = [
        router("r", ports(1), slots=slots(1), price=200), switch("s", ports(8), slots=slots(1)), module("sr", price=30),
    ]  # fmt: skip
    found = cheapest(problem(models, {Need(0, 1000, 0, 300_000): 5}))
    assert found.seatings[0].price_minor == 200 + 100 + 60
    assert [link.option.rate_mbit for link in found.seatings[0].links] == [10_000]
    assert cheapest(problem(models[:2], {Need(0, 1000, 0, 300_000): 5})) is None


def test_fibre_meets_the_same_fibre_only():
    models = [
        router("r", slots=slots(1)), switch("s", ports(8), slots=slots(1)), module("multi"),
        module("single", medium="fibre-singlemode"), module("slow", speed=1000),
    ]  # fmt: skip
    link = cheapest(problem(models, {DESK: 3})).seatings[0].links[0].option
    assert link.upper.module.model.medium == link.lower.module.model.medium
    assert link.upper.speed_mbit == link.lower.speed_mbit


def test_a_star_has_one_hub_and_a_chain_need_not():
    # the router has one port; a switch of three as hub has two left for others: four drops at most in a star
    models = [router("r", ports(1)), switch("s", ports(3))]
    assert names(cheapest(problem(models, {DESK: 4}, units=5))) == ["r", "s", "s", "s"]
    assert cheapest(problem(models, {DESK: 5}, units=5)) is None
    chain = cheapest(problem(models, {DESK: 5}, units=5, chain_allowed=True))
    assert names(chain) == ["r", "s", "s", "s", "s"]


@pytest.mark.parametrize(("key", "limit", "enough"), [("units", 2, 3), ("sockets", 2, 3), ("ups_outlets", 2, 3),
                                                      ("load_kg", 2.999, 3.0)])  # fmt: skip
def test_the_housing_limits_the_boxes(key, limit, enough):
    models = [HOME, switch("eight", ports(8))]
    assert cheapest(problem(models, {DESK: 11}, **{key: limit})) is None
    assert names(cheapest(problem(models, {DESK: 11}, **{key: enough}))) == ["home", "eight", "eight"]


def test_a_wide_plug_counts_two_sockets():
    models = [HOME, switch("eight", ports(8), sockets=2)]
    assert cheapest(problem(models, {DESK: 5}, sockets=2)) is None
    assert cheapest(problem(models, {DESK: 5}, sockets=3)) is not None


@pytest.mark.parametrize(("cap", "speed", "fits"), [(3, 1000, True), (2, 1000, False), (3, 100, True), (8, 100, True)])
def test_an_injector_serves_within_class_and_speed(cap, speed, fits):
    found = cheapest(problem([HOME, injector("inj", cap, speed=speed)], {CAMERA: 2}))
    assert (found is not None) is fits
    if found:
        assert found.seatings[0].price_minor == 100 + 2 * 50
        assert found.seatings[0].power_used_mw(0) == 0


def test_each_injector_takes_a_socket():
    models = [HOME, injector("inj", 3)]
    assert cheapest(problem(models, {CAMERA: 2}, sockets=3)) is not None
    assert cheapest(problem(models, {CAMERA: 2}, sockets=2)) is None


@pytest.mark.parametrize(("cameras", "boxes"), [(2, ["home"]), (3, ["home", "powered"])])
def test_few_powered_drops_take_injectors_and_more_a_switch(cameras, boxes):
    models = [HOME, switch("powered", ports(8, poe=3), watts=100, price=120), injector("inj", 3, price=50)]
    assert names(cheapest(problem(models, {CAMERA: cameras}))) == boxes


def test_owned_kit_enters_at_price_nothing_in_its_number():
    models = [HOME, switch("owned", ports(8), price=500), switch("cheap", ports(8), price=90)]
    one = cheapest(problem(models, {DESK: 10}, owned={"owned": 1}))
    two = cheapest(problem(models, {DESK: 14}, owned={"owned": 1}))
    assert (names(one), one.seatings[0].price_minor) == (["home", "owned"], 100)
    assert (sorted(names(two)), two.seatings[0].price_minor) == (["cheap", "home", "owned"], 190)


def test_what_is_pinned_is_in():
    models = [HOME, switch("eight", ports(8)), switch("dear", ports(8), price=900)]
    found = cheapest(problem(models, {DESK: 3}, pins={"dear": 1}))
    assert names(found) == ["home", "dear"]
    assert cheapest(problem(models, {DESK: 3}, pins={"gone": 1})) is None
    two_routers = [HOME, router("other", ports(4))]
    assert cheapest(problem(two_routers, {DESK: 3}, pins={"home": 1, "other": 1})) is None


def test_large_frames_want_every_box_between():
    asks = Need(0, 1000, 0, 1000, True)
    plain, passing = router("r", ports(2), large_frames=False), router("r", ports(2))
    small = switch("s", ports(4))
    # five fit behind a switch as hub; six only with the router between two switches
    assert cheapest(problem([plain, small], {asks: 5}, units=3)) is not None
    assert cheapest(problem([plain, small], {asks: 6}, units=3)) is None
    assert cheapest(problem([passing, small], {asks: 6}, units=3)) is not None


def test_ties_go_to_fewer_boxes_then_less_draw_then_the_earlier_model():
    two = [HOME, switch("a", ports(8), price=100, own_draw_w=9), switch("b", ports(8), price=100, own_draw_w=4)]
    assert names(cheapest(problem(two, {DESK: 6}))) == ["home", "b"]
    same = [HOME, switch("b", ports(8)), switch("a", ports(8))]
    assert names(cheapest(problem(same, {DESK: 6}))) == ["home", "b"]
    fewer = [HOME, switch("small", ports(8), price=100), switch("large", ports(16), price=200)]
    assert names(cheapest(problem(fewer, {DESK: 14}))) == ["home", "large"]


def test_fewest_boxes_pays_for_it():
    models = [HOME, switch("small", ports(8), price=50), switch("large", ports(24), price=400)]
    asked = problem(models, {DESK: 14})
    least = cheapest(asked)
    assert names(least) == ["home", "small", "small"]
    assert names(fewest_boxes(alone(asked), least)) == ["home", "large"]


def site(*edits):
    return apply_edits(empty_project("S", 2026), [AddRooms(rooms=(NewRoom(name="R"),)), *edits])


def reasons_of(project, models):
    return standing_reasons(project, models, project.head_end)


def closet(**changes):
    return ChangeEntry(list="closets", id=1, changes=changes)


@pytest.mark.parametrize(
    ("model", "edit", "reason"),
    [
        (switch("s", ports(8), managed=False), None, "Separate networks are wanted; this one is not managed."),
        (switch("s", ports(8), fanless=False), closet(living_space=True),
         "The closet is a living space; this one has a fan."),
        (switch("s", ports(8), depth_mm=376), None, "376 mm deep and 75 mm for plug and bend; the housing has 450 mm."),
        (switch("s", ports(8), units=3), closet(units=2), "3 units high; the housing has 2."),
        (switch("s", ports(8), mass_kg=61), None, "61 kg; the housing carries 60 kg."),
        (switch("s", ports(8)), closet(housing="panel"), "19 inches wide; the wall panel takes narrow boxes only."),
        (switch("s", ports(8), in_stock=False), None, "Out of stock."),
        (switch("s", ports(8)), SetStance(model="s", excluded=True), "You left it out."),
        (router("s", ports(8)), line("L", 1001, 1),
         "Its WAN port gives 1,000 Mbit/s; a line brings 1,001."),
        (router("s", ports(8), throughput_mbit=900), line("L", 901, 1),
         "Its firewall passes 900 Mbit/s; the lines bring 901."),
    ],
)  # fmt: skip
def test_what_keeps_a_model_out_is_said(model, edit, reason):
    project = site(*([edit] if edit else []))
    assert reasons_of(project, catalogue(model)) == {"s": reason}


@pytest.mark.parametrize(
    "model",
    [
        switch("s", ports(8), depth_mm=375), switch("s", ports(8), mass_kg=60), switch("s", ports(8), units=9),
        router("s", ports(8)), switch("s", ports(8), form="shelf"),
    ],
)  # fmt: skip
def test_what_just_fits_may_stand(model):
    assert reasons_of(site(line("L", 1000, 1)), catalogue(model)) == {}


def test_lines_that_stand_by_need_a_port_but_no_throughput_on_top():
    both = [line("A", 600, 1), line("B", 600, 1)]
    standby = [both[0], line("B", 600, 1, standby=True)]
    one_port = catalogue(router("s", ports(4)))
    two_ports = catalogue(router("s", ports(4), wan_mbit=(1000, 1000)))
    assert reasons_of(site(*standby), one_port) == {"s": "1 WAN port, 2 lines."}
    assert reasons_of(site(*standby), two_ports) == {}
    assert "1,200" in reasons_of(site(*both), two_ports)["s"]


def test_out_of_stock_kit_that_is_owned_may_stand():
    project = site(kept("s"), AddDrops(room="R", kind="desk"))
    models = catalogue(HOME, switch("s", ports(8), in_stock=False))
    built = build(project, project.head_end, [DESK], models)
    assert [(box.model.key, box.price_minor, box.most) for box in built.switches] == [("s", 0, 1)]


def test_chains_are_for_projects_that_allow_them():
    allowed = site(ChangeSettings(changes={"chain_allowed": True}))
    assert build(allowed, allowed.head_end, [DESK], catalogue(HOME)).chain_allowed
