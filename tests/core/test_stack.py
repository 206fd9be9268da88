"""The stack: worked figures, arrangements and housings against enumeration, drills against integration step by step."""

import itertools
import math
import random

import pytest

from baugrund.core.facts.building import Closet
from baugrund.core.facts.catalogue import Catalogue
from baugrund.core.facts.lines.fan_unit import FanUnit
from baugrund.core.facts.lines.housing import Housing
from baugrund.core.facts.lines.patch_panel import PatchPanel
from baugrund.core.facts.lines.rack_shelf import RackShelf
from baugrund.core.facts.lines.strip import Strip
from baugrund.core.facts.lines.ups import Ups
from baugrund.core.facts.project import empty_project
from baugrund.core.facts.stack import Gear, PanelBlock, Placing
from baugrund.core.gear.sizes import sized
from baugrund.core.physics.battery import Battery, life_share
from baugrund.core.physics.closet_air import BTU_H_PER_W, air_m3_h, heard_dba, rise_k, together_dba
from baugrund.core.stack.arrangement import arrange, arranged
from baugrund.core.stack.batteries import pick_ups
from baugrund.core.stack.cords import Cords, length_m
from baugrund.core.stack.flat import flat_broken, footprint, lay_out, place_of
from baugrund.core.stack.housings import pick_housing
from baugrund.core.stack.mains import mains_of, va_of
from baugrund.core.stack.power_cut import cell_of, over_filled
from baugrund.core.stack.rack_model import RackModel
from baugrund.core.stack.rules import Weights, broken, score, side_by_side
from baugrund.core.stack.things import Thing
from baugrund.core.stack.warmth import area_m2, noise_of, warmth_of

from .small import some_of

WISHES = Weights(1.0, 0.02, 0.2)


def thing(key, units=1, kind="other", **more):
    return Thing.model_validate({
        "key": key, "closet_id": 1, "kind": kind, "source": "typed", "name": key.title(), "width_mm": 200,
        "units": units, "height_mm": 40, "depth_mm": 200, "mass_kg": 1.0, "mains_w": 0.0, "own_w": 0.0,
        "noise_dba": 0.0, "plug": "cord", "sockets": 1, "fanless": True, **more,
    })  # fmt: skip


def rack(units=6, **more):
    return Closet(id=1, name="Rack", **{"units": units, "depth_mm": 450, "load_kg": 60.0, "keep_free": False, **more})


def ups(key="ups", **more):
    return thing(key, 2, "ups", **{"depth_mm": 370, "mass_kg": 17.0, "volts": 24.0, "ah": 9.0, "watts_most": 600.0,
                                   "va_most": 1000.0, "outlets": 4, **more})  # fmt: skip


@pytest.mark.parametrize(("watts", "aged", "minutes"), [
    (60, False, 126.1), (120, False, 54.9), (240, False, 23.9), (120, True, 42.0), (60, True, 96.5),
])  # fmt: skip
def test_a_battery_lasts_as_the_reference_has_it(watts, aged, minutes):
    assert Battery(24, 9).minutes(watts, aged) == pytest.approx(minutes, abs=0.05)


def test_a_battery_never_lasts_longer_than_its_capacity_and_its_own_draw_counts():
    small = Battery(24, 9)
    assert small.minutes(1, aged=False) == pytest.approx(60 * 9 / (1 / (24 * 0.85)))
    assert Battery(24, 9, own_w=20).minutes(40) == small.minutes(60)
    assert small.minutes(0) == math.inf
    assert (life_share(25), life_share(35), life_share(45)) == (1.0, 0.5, 0.25)


def test_warmth_and_sound_are_those_of_the_reference():
    assert air_m3_h(180, 8) == pytest.approx(67.2, abs=0.05)
    assert rise_k(180, 2.2) == pytest.approx(14.9, abs=0.03)
    assert together_dba([38, 38, 32]) == pytest.approx(41.5, abs=0.05)
    assert BTU_H_PER_W == 3.412
    assert heard_dba(40, 0.2) == 40 and heard_dba(40, 10, 20) == pytest.approx(0.0)
    # own 30 W + 150 W PoE at 0.88
    box = thing("box", mains_w=(30 + 150) / 0.88, away_w=150.0)
    told = warmth_of(rack(12, warm_c=20.0), [box])
    assert (told.heat_w, box.mains_w) == (pytest.approx(54.5, abs=0.05), pytest.approx(204.5, abs=0.05))
    both_ways = (5.5 * area_m2(rack(12)) + 1.2 * 1005 * 100 / 2 / 3600) * told.rise_k
    with_fans = warmth_of(rack(12, warm_c=20.0), [box, thing("fan", kind="fan", free_m3_h=100.0)])
    assert with_fans.rise_k < told.rise_k and both_ways > 54.5
    assert warmth_of(rack(12, is_open=True), [box]).rise_k == 0


def test_fans_that_are_told_would_do_and_one_less_would_not():
    hot = thing("hot", mains_w=200.0)
    told = warmth_of(rack(9, warm_c=28.0), [hot])
    assert not told.holds and told.bears_c == 45
    fan = thing("fan", kind="fan", free_m3_h=told.air_needed_m3_h + 0.1)
    assert warmth_of(rack(9, warm_c=28.0), [hot, fan]).holds
    assert not warmth_of(rack(9, warm_c=28.0), [hot, fan.model_copy(update={"free_m3_h": fan.free_m3_h - 1})]).holds


def test_adapters_have_their_own_power_factor_and_sound_is_judged_where_people_are():
    assert va_of(thing("box", mains_w=260.0)) + va_of(thing("brick", plug="brick", mains_w=40.0)) == pytest.approx(
        346.4, abs=0.05
    )
    assert va_of(thing("large", plug="brick", mains_w=61.0)) == pytest.approx(61 / 0.95)
    loud = [thing("a", noise_dba=38.0), thing("b", noise_dba=38.0), thing("c", noise_dba=32.0)]
    heard = noise_of(rack(near="bed", near_m=2.0, through="open"), loud)
    assert heard.heard_dba == pytest.approx(41.5 - 20 * math.log10(2), abs=0.05) and not heard.holds
    assert noise_of(rack(near="bed", near_m=2.0, through="door"), loud).holds


def test_cords_are_the_next_stock_length():
    assert [length_m(units) for units in (0, 1, 4, 5, 15, 16, 60, 70)] == [0.5, 0.5, 0.5, 1.0, 1.0, 2.0, 3.0, 3.41]


def by_integration(battery, load, sheds):
    """The end of a drill, by steps of a second."""
    left, minute = 1.0, 0.0
    waiting = sorted(sheds, reverse=True)
    while left > 0:
        while waiting and left <= waiting[0][0]:
            load -= waiting.pop(0)[1]
        left -= (1 / 60) / battery.minutes(load)
        minute += 1 / 60
    return minute


@pytest.mark.parametrize("seed", range(6))
def test_a_drill_ends_when_integration_step_by_step_does(seed):
    draw = random.Random(seed)
    loads = [draw.uniform(10, 80) for _ in range(4)]
    shares = [draw.uniform(10, 90) if draw.random() < 0.6 else None for _ in loads]
    things = [
        thing(f"t{n}", mains_w=load, outlet="battery", shed_percent=share)
        for n, (load, share) in enumerate(zip(loads, shares, strict=True))
    ]
    cell = cell_of(empty_project("P", 2026), rack(), [ups(ups_own_w=8.0), *things], None)
    sheds = [(share / 100, load) for load, share in zip(loads, shares, strict=True) if share is not None]
    assert cell.minutes == pytest.approx(by_integration(Battery(24, 9, own_w=8.0), sum(loads), sheds), abs=0.3)
    assert cell.low_minutes < cell.minutes < cell.high_minutes or math.isclose(cell.low_minutes, cell.high_minutes)
    assert cell.new_minutes > cell.minutes
    assert [event.minute for event in cell.events] == sorted(event.minute for event in cell.events)


def test_a_ups_is_full_from_over_80_percent_on_and_what_is_on_surge_lives_not_at_all():
    project = empty_project("P", 2026)
    full = cell_of(project, rack(), [ups(va_most=2000.0), thing("a", mains_w=480.0, outlet="battery")], None)
    assert full.fill_percent == 80 and not over_filled(full)
    over = cell_of(project, rack(), [ups(va_most=2000.0), thing("a", mains_w=480.1, outlet="battery")], None)
    assert over_filled(over)
    surge = cell_of(project, rack(), [ups(), thing("a", mains_w=100.0, outlet="surge")], None)
    assert surge.load_w == 0
    nas = thing("nas", kind="nas", mains_w=50.0, outlet="battery", shutdown_min=5.0)
    told = cell_of(project, rack(), [ups(), nas], None)
    begin = next(event for event in told.events if "shut down" in event.text)
    assert begin.minute == pytest.approx(told.minutes - 5, abs=0.02)


def placed(things, units):
    return [one.model_copy(update={"unit": unit}) for one, unit in zip(things, units, strict=True)]


def best_by_enumeration(closet, things, cords, weights):
    """How many stand at the most, and the least score over every way to stack so many that breaks nothing."""
    shelves = [one.key for one in things if one.kind == "shelf"]

    def ways(one):
        if one.fixed:
            return [(one.unit, one.on)]
        return (
            [(unit, "") for unit in range(1, closet.units - one.units + 2)]
            if one.units
            else [(None, on) for on in shelves]
        )

    for many in range(len(things), -1, -1):
        scores = []
        for some in itertools.combinations(things, many):
            for at in itertools.product(*(ways(one) for one in some)):
                there = [
                    one.model_copy(update={"unit": unit, "on": on}) for one, (unit, on) in zip(some, at, strict=True)
                ]
                rows = ([one for one in there if one.on == shelf] for shelf in shelves)
                for order in itertools.product(*(itertools.permutations(row) for row in rows)):
                    left = {one.key: 100 * place for row in order for place, one in enumerate(row)}
                    put = [one.model_copy(update={"x_mm": left.get(one.key)}) for one in there]
                    if not broken(closet, put):
                        scores.append(score(put, cords, weights).total)
                        break
        if scores:
            return many, min(scores)
    return 0, 0.0


@some_of(range(40))
def test_no_way_to_stack_them_is_better(seed):
    draw = random.Random(seed)
    kinds = ["switch", "panel", "router", "other"]
    things = [
        thing(f"t{n}", draw.choice([1, 1, 2]), draw.choice(kinds), mass_kg=draw.choice([1.0, 3.0, 8.0]),
              mains_w=draw.choice([0.0, 20.0, 150.0]), hangs=True)
        for n in range(draw.choice([2, 3]))
    ]  # fmt: skip
    if draw.random() < 0.5:
        things.append(ups(**({"unit": draw.choice([1, 1, 2]), "fixed": True} if draw.random() < 0.3 else {})))
    if draw.random() < 0.5:
        things.append(thing("shelf", 1, "shelf", hangs=True, carries_kg=8.0, clear_mm=60))
        things += [
            thing(f"on{n}", 0, mass_kg=draw.choice([1.0, 5.0]), mains_w=draw.choice([0.0, 30.0]), width_mm=draw.choice([100, 240]),
                  airflow=draw.choice([None, "left_to_right", "right_to_left"]), height_mm=draw.choice([40, 60, 61]))
            for n in range(draw.choice([1, 2, 3]))
        ]  # fmt: skip
    reach = (
        {"entry": draw.choice(["top", "bottom"]), "slack_mm": draw.choice([20, 70, 120, 160])}
        if draw.random() < 0.4
        else {}
    )
    closet = rack(draw.choice([5, 6, 7]), keep_free=draw.random() < 0.5, **reach)
    if draw.random() < 0.5:
        things[0] = things[0].model_copy(update={"fixed": True, "unit": draw.randint(1, closet.units)})
    cords = [
        Cords(a.key, b.key, draw.randint(1, 9)) for a, b in itertools.combinations(things, 2) if draw.random() < 0.5
    ]
    many, least = best_by_enumeration(closet, things, cords, WISHES)
    found = arrange(closet, things, cords, WISHES)
    assert found.proven and len(found.puts) == many
    assert found.score.total == pytest.approx(least, abs=1e-3)
    at = {put.thing: {"unit": put.unit, "on": put.on, "x_mm": put.x_mm} for put in found.puts}
    assert not broken(closet, [one.model_copy(update=at[one.key]) for one in things if one.key in at])


@pytest.mark.parametrize("seed", range(6))
def test_both_searches_of_a_rack_find_the_same(seed):
    """What may hang behind goes to the other search: with nothing that hangs there it must agree."""
    draw = random.Random(seed)
    kinds = ["switch", "panel", "router", "nas"]
    things = [
        thing(
            f"t{n}",
            1,
            draw.choice(kinds),
            mass_kg=draw.choice([1.0, 3.0, 8.0]),
            mains_w=draw.choice([0.0, 20.0]),
            hangs=True,
        )
        for n in range(6)
    ]
    cords = [
        Cords(a.key, b.key, draw.randint(1, 9)) for a, b in itertools.combinations(things, 2) if draw.random() < 0.4
    ]
    closet = rack(7, keep_free=bool(seed % 2))
    found = RackModel(closet, things, cords, WISHES).solve(60.0)
    assert found.proven and found.bound == pytest.approx(arrange(closet, things, cords, WISHES).score.total, abs=0.02)


@pytest.mark.parametrize(("entry", "unit"), [("bottom", 2), ("top", 5)])
def test_a_panel_stands_where_cable_that_is_there_reaches(entry, unit):
    panel = thing("panel", kind="panel", hangs=True)
    # its middle is one and a half units from where cables come in
    reaches = rack(6, entry=entry, slack_mm=math.ceil(1.5 * 44.45))
    short = rack(6, entry=entry, slack_mm=math.floor(1.5 * 44.45))
    there = [panel.model_copy(update={"unit": unit})]
    assert not broken(reaches, there)
    assert [one.rule for one in broken(short, there)] == ["slack"]
    found = arrange(short, [panel, thing("heavy", 2, mass_kg=30.0, hangs=True)], [], WISHES)
    assert {put.thing: put.unit for put in found.puts}["panel"] == (1 if entry == "bottom" else 6)
    none = arrange(rack(6, entry=entry, slack_mm=10), [panel], [], WISHES)
    assert none.left_out == ("panel",)


def test_things_of_a_shelf_that_blow_the_same_way_stand_apart_or_not_together():
    ways = [thing("a", 0, airflow="left_to_right"), thing("b", 0, airflow="left_to_right"), thing("c", 0)]
    row = side_by_side(ways)
    assert [one.key for one in row] == ["a", "c", "b"]
    assert side_by_side(ways[:2]) is None and side_by_side([]) == []
    against = side_by_side([ways[0], thing("d", 0, airflow="right_to_left")])
    shelf = thing("shelf", kind="shelf", unit=1, hangs=True)
    put = [one.model_copy(update={"on": "shelf", "x_mm": 200 * place}) for place, one in enumerate(against)]
    assert not broken(rack(), [shelf, *put])


def test_depth_counts_plug_and_bend_once_and_both_for_two_in_a_unit():
    deep = thing("deep", depth_mm=375)
    assert not broken(rack(), placed([deep], [1]))
    assert [one.rule for one in broken(rack(), placed([deep.model_copy(update={"depth_mm": 376})], [1]))] == ["depth"]
    pair = placed([thing("a", depth_mm=150), thing("b", depth_mm=150)], [1, 1])
    pair[1] = pair[1].model_copy(update={"face": "rear"})
    assert not broken(rack(), pair)
    pair[0] = pair[0].model_copy(update={"depth_mm": 151})
    assert [one.rule for one in broken(rack(), pair)] == ["depth"]


def test_a_ups_stands_on_the_floor_with_a_unit_of_air_front_and_rear():
    closet = rack(6)
    assert not broken(closet, placed([ups(), thing("a")], [1, 4]))
    assert {one.rule for one in broken(closet, placed([ups(), thing("a")], [1, 3]))} == {"ups"}
    assert {one.rule for one in broken(closet, placed([ups(), thing("a")], [2, 6]))} == {"ups"}
    behind = placed([ups(), thing("a").model_copy(update={"face": "rear"})], [1, 3])
    assert {one.rule for one in broken(closet, behind)} == {"ups"}
    assert {one.rule for one in broken(rack(2), placed([ups()], [1]))} == {"ups"}, "the air is inside the rack"


def test_a_unit_stays_free_beside_a_panel_and_it_is_not_the_air_of_the_ups():
    closet = rack(5, keep_free=True)
    panel = thing("panel", kind="panel", hangs=True)
    full = placed([ups(), panel, thing("a")], [1, 4, 5])
    assert [one.rule for one in broken(closet, full)] == ["free"]
    assert not broken(rack(6, keep_free=True), placed([ups(), panel, thing("a")], [1, 4, 6]))


def test_shelves_carry_hold_and_clear_what_stands_on_them():
    shelf = thing("shelf", kind="shelf", hangs=True, carries_kg=5.0, clear_mm=85, unit=1)

    def on(**more):
        return thing("nas", 0, on="shelf", **more)

    assert not broken(rack(), [shelf, on(mass_kg=5.0, height_mm=85, width_mm=440)])
    for wrong in ({"mass_kg": 5.1}, {"height_mm": 86}, {"width_mm": 441}):
        assert [one.rule for one in broken(rack(), [shelf, on(**wrong)])] == ["shelf"]
    heavy = [shelf, thing("a", mass_kg=59.5, unit=3)]
    assert [one.rule for one in broken(rack(), heavy)] == ["load"]


def test_nothing_blows_into_anothers_intake_or_against_a_wall():
    shelf = thing("shelf", kind="shelf", hangs=True, unit=1)

    def side(key, x, way):
        return thing(key, 0, on="shelf", x_mm=x, airflow=way)

    def rules(*things, **closet):
        return [one.rule for one in broken(rack(**closet), [shelf, *things])]

    assert rules(side("a", 0, "left_to_right"), side("b", 200, "left_to_right")) == ["air"]
    assert rules(side("a", 0, "right_to_left"), side("b", 200, "right_to_left")) == ["air"]
    assert rules(side("a", 0, "right_to_left"), side("b", 200, "left_to_right")) == []
    assert rules(side("a", 0, "left_to_right"), blocked="right") == ["air"]
    assert rules(side("a", 0, "left_to_right"), blocked="left") == []
    front, rear = (
        thing("f", unit=3, depth_mm=100, airflow="front_to_rear"),
        thing("r", unit=3, depth_mm=100, face="rear"),
    )
    assert rules(front, rear.model_copy(update={"airflow": "rear_to_front"})) == ["air"]
    assert rules(front, rear.model_copy(update={"airflow": "front_to_rear"})) == []


def test_what_is_screwed_in_stays_and_what_a_better_one_would_move_is_told():
    things = [thing("switch", kind="switch", unit=6, fixed=True, hangs=True), thing("panel", kind="panel", unit=5, hangs=True),
              thing("heavy", mass_kg=30.0, unit=1, hangs=True)]  # fmt: skip
    cords = [Cords("switch", "panel", 10)]
    told = arranged(rack(6), things, cords, WISHES)
    assert told.better is None and told.steady.score.total <= told.now.total
    upside = [
        things[0].model_copy(update={"unit": 1}),
        things[1].model_copy(update={"unit": 6}),
        things[2].model_copy(update={"unit": 5}),
    ]
    told = arranged(rack(6), upside, cords, WISHES)
    at = {put.thing: put.unit for put in told.steady.puts}
    assert at["switch"] == 1 and told.better.score.total < told.steady.score.total
    assert {put.thing for put in told.better.puts if put.moves} >= {"switch"}


def test_what_is_fixed_where_it_cannot_be_is_left_out_and_told():
    stuck = thing("deep", depth_mm=400, unit=1, fixed=True)
    found = arrange(rack(), [stuck, thing("a")], [], WISHES)
    assert found.left_out == ("deep",) and [put.thing for put in found.puts] == ["a"]


def lines(*models):
    return Catalogue(name="L", currency="EUR", priced_on="2026-01-01", models=models)


def housing(key, price, units=9, **more):
    return Housing(key=key, name=key, price_minor=price, **{"units": units, "depth_mm": 450, "carries_kg": 60.0, "mass_kg": 9.0,
                                                            **more})  # fmt: skip


def shelf(key, price, units=1, carries=12.0, clear=60):
    return RackShelf(
        key=key, name=key, price_minor=price, units=units, depth_mm=250, mass_kg=1.0, carries_kg=carries, clear_mm=clear
    )


def ups_line(key, price, watts=600.0, ah=9.0, **more):
    return Ups(key=key, name=key, price_minor=price, watts=watts, va=watts * 1.6, volts=24.0, ah=ah, depth_mm=300,
               mass_kg=10.0, **{"outlets": 4, **more})  # fmt: skip


def test_the_housing_of_the_least_price_is_that_of_enumeration():
    project = empty_project("P", 2026)
    for seed in range(12):
        draw = random.Random(seed)
        racks = [housing(f"r{n}", draw.randint(50, 200), draw.choice([3, 4, 6, 9]), carries_kg=draw.choice([8.0, 60.0]),
                         depth_mm=draw.choice([250, 450]), is_open=True) for n in range(4)]  # fmt: skip
        shelves = [shelf("s1", draw.randint(10, 60)), shelf("s2", draw.randint(10, 90), 2, 25.0, 120)]
        panels = [PatchPanel(key="p12", name="p12", price_minor=draw.randint(10, 40), positions=12),
                  PatchPanel(key="p48", name="p48", price_minor=draw.randint(30, 90), positions=48, units=2)]  # fmt: skip
        boxes = [thing("sw", kind="switch", units=1, mass_kg=3.0), thing("nas", 0, mass_kg=draw.choice([2.0, 9.0]),
                                                                        height_mm=draw.choice([50, 100]))]  # fmt: skip
        needed = draw.choice([10, 20])
        found = pick_housing(
            project, lines(*racks, *shelves, *panels), None, rack(9, keep_free=False), boxes, needed, None
        )
        best = None
        for one in racks:
            if one.depth_mm < 275:
                continue
            for s in shelves:
                if boxes[1].height_mm > s.clear_mm or boxes[1].mass_kg > s.carries_kg:
                    continue
                for count in range(1, 4):
                    for p in itertools.combinations_with_replacement(panels, count):
                        units = 1 + s.units + sum(line.units for line in p)
                        mass = 3.0 + boxes[1].mass_kg + 1.0 + sum(line.mass_kg for line in p)
                        if (
                            sum(line.positions for line in p) >= needed
                            and units <= one.units
                            and mass <= one.carries_kg
                        ):
                            price = one.price_minor + s.price_minor + sum(line.price_minor for line in p)
                            best = price if best is None else min(best, price)
        assert (found.price_minor if found.housing else None) == best, seed
        assert len(found.others) == len(racks) - (found.housing is not None)


def test_a_dearer_ups_is_taken_where_a_smaller_rack_saves_more():
    racks = [housing("small", 100, 4, is_open=True), housing("large", 300, 9, is_open=True)]
    batteries = [ups_line("cheap", 50, units=4), ups_line("flat", 90, units=2)]
    box = thing("switch", kind="switch", mains_w=60.0, outlet="battery")
    strip = Strip(key="strip", name="strip", price_minor=5, outlets=8)
    found = pick_housing(empty_project("P", 2026), lines(*racks, *batteries, strip, shelf("s", 5)), None,
                         rack(9, keep_free=False, sockets=1), [box], 0, 15.0)  # fmt: skip
    assert (found.housing.model, {part.model for part in found.parts}) == ("small", {"flat"})
    assert found.price_minor == 190 and found.proven
    kept = pick_housing(empty_project("P", 2026), lines(*racks, *batteries, strip, shelf("s", 5)), None,
                        rack(9, keep_free=False, sockets=1, is_there=True), [box], 0, 15.0)  # fmt: skip
    assert (kept.housing.model, kept.price_minor) == ("there", 50), "the rack that is there costs nothing"


def test_why_no_other_housing_is_told():
    found = pick_housing(
        empty_project("P", 2026),
        lines(housing("low", 10, 2), housing("flat", 20, depth_mm=200), housing("weak", 30, carries_kg=1.0),
              housing("good", 40, is_open=True), housing("dear", 90, is_open=True), shelf("s", 5)),
        None, rack(9, keep_free=False), [thing("sw", units=3, mass_kg=2.0, depth_mm=200)], 0, None,
    )  # fmt: skip
    told = {other.model: other.text for other in found.others}
    assert found.housing.model == "good"
    assert told["low"] == "2 units; 3 are needed by the horizon."
    assert told["flat"] == "75 mm too shallow for Sw."
    assert told["weak"] == "It carries 1 kg; 2.0 kg stand in it."
    assert told["dear"].startswith("All of it would cost")


def test_fans_are_bought_where_it_would_be_too_warm():
    hot = thing("sw", mains_w=220.0)
    fan = FanUnit(key="fan", name="fan", price_minor=50, free_m3_h=120.0, draw_w=5.0)
    closed = lines(housing("closed", 10), fan, shelf("s", 5))
    found = pick_housing(empty_project("P", 2026), closed, None, rack(9, warm_c=28.0), [hot], 0, None)
    assert [part.model for part in found.parts] == ["fan"]
    none = pick_housing(
        empty_project("P", 2026),
        lines(housing("closed", 10), shelf("s", 5)),
        None,
        rack(9, warm_c=28.0),
        [hot],
        0,
        None,
    )
    assert "No fans in stock" in none.others[0].text


def test_the_ups_of_the_least_price_lasts_carries_and_has_outlets():
    things = [thing(f"t{n}", mains_w=60.0, outlet="battery") for n in range(3)]
    offered = (ups_line("weak", 10, watts=200.0), ups_line("short", 20, ah=2.0), ups_line("few", 30, outlets=2),
               ups_line("good", 40), ups_line("dear", 50))  # fmt: skip
    found = pick_ups(empty_project("P", 2026), lines(*offered), rack(), things, 20.0)
    assert found.best == "good"
    assert [line.fits for line in found.lines] == [False, False, False, True, True]
    for line in found.lines:
        of = next(one for one in offered if one.key == line.model)
        assert line.minutes == pytest.approx(Battery(of.volts, of.ah).minutes(180.0), abs=0.05)


def test_plugs_cover_as_many_sockets_as_they_are_wide():
    project = empty_project("P", 2026)
    things = [thing("a", sockets=2, plug="wide_brick", outlet="mains"), thing("b", outlet="battery"), ups()]
    told = mains_of(project, rack(sockets=3), things)
    assert (told.sockets, told.there, told.battery_plugs, told.battery_outlets) == (3, 3, 1, 4)
    assert told.holds and not mains_of(project, rack(sockets=2), things).holds
    much = [thing("heater", mains_w=0.95 * 2300.0)]
    assert mains_of(project, rack(), much).holds
    assert not mains_of(project, rack(), [thing("heater", mains_w=0.95 * 2301.0)]).holds


def panel(**more):
    return Closet(id=1, name="Panel", **{"housing": "panel", "panel_width_mm": 400, "panel_height_mm": 300, "depth_mm": 110,
                                         "load_kg": 20.0, **more})  # fmt: skip


def test_a_wall_panel_is_packed_around_what_is_in_the_way():
    project = empty_project("P", 2026).changed(
        closets=(panel(),), next_id=100,
        panel_blocks=(PanelBlock(id=50, closet_id=1, name="Pipe clamp", x_mm=180, y_mm=100, width_mm=60, height_mm=60),),
    )  # fmt: skip
    things = [thing(f"t{n}", 0, width_mm=200, depth_mm=60, height_mm=40) for n in range(2)]
    found = lay_out(project, panel(), things)
    assert found.left_out == () and found.proven
    at = {put.thing: put for put in found.puts}
    there = [one.model_copy(update={"x_mm": at[one.key].x_mm, "y_mm": at[one.key].y_mm, "turned": at[one.key].turned})
             for one in things]  # fmt: skip
    assert flat_broken(project, panel(), there) == ()
    assert footprint(panel(), things[0], True) == (135, 200)
    flat = there[0].model_copy(update={"turned": False})
    over = flat.model_copy(update={"x_mm": 170, "y_mm": 90})
    assert "Pipe clamp" in flat_broken(project, panel(), [over])[0].text
    beyond = there[0].model_copy(update={"x_mm": 390, "y_mm": 0, "turned": False})
    assert flat_broken(project, panel(), [beyond])[0].rule == "area"
    thick = flat.model_copy(update={"height_mm": 111})
    assert flat_broken(project, panel(), [thick])[0].rule == "depth"
    many = [thing(f"t{n}", 0, width_mm=170, depth_mm=100, height_mm=40) for n in range(3)]
    assert len(lay_out(project, panel(), many).left_out) == 2


def test_things_stand_on_the_board_of_a_shelf_and_what_is_fixed_there_stays():
    shelf = panel(housing="shelf", panel_width_mm=440, panel_height_mm=178, depth_mm=300)
    project = empty_project("P", 2026).changed(closets=(shelf,), next_id=100)
    fixed = thing("ups", 0, width_mm=160, height_mm=168, x_mm=140, y_mm=0, fixed=True)
    loose = [thing(f"t{n}", 0, width_mm=130) for n in range(2)]
    found = lay_out(project, shelf, [fixed, *loose])
    at = {put.thing: (put.x_mm, put.y_mm) for put in found.puts}
    assert at["ups"] == (140, 178 - 168) and found.left_out == () and found.proven
    assert sorted(x for x, _ in at.values()) == [0, 140, 300] and {at["t0"][1], at["t1"][1]} == {178 - 40}
    assert place_of(shelf, fixed).y == 10 and not flat_broken(project, shelf, [fixed])
    # on either side 140 mm are free: for two hubs each, or for the router in place of two of them
    hubs = [thing(f"h{n}", 0, width_mm=70) for n in range(4)]
    router = thing("router", 0, "router", width_mm=140, box=0)
    assert lay_out(project, shelf, [fixed, *hubs]).left_out == ()
    narrow = lay_out(project, shelf, [fixed, *hubs, router])
    assert "router" not in narrow.left_out and len(narrow.left_out) == 2
    tall = fixed.model_copy(update={"height_mm": 179})
    assert flat_broken(project, shelf, [tall])[0].rule == "area"
    assert lay_out(project, shelf, [tall, *hubs]).left_out == ("ups",), "and all else stands"


def test_sizes_are_typed_else_the_lines_else_usual():
    catalogue = lines(ups_line("u", 10, watts=500.0, own_draw_w=7.0))
    usual = sized(Gear(id=1, closet_id=1, kind="ups"), None)
    assert usual.watts_most == 600 and "volts" in usual.assumed
    listed = sized(Gear(id=1, closet_id=1, kind="ups", model="u"), catalogue)
    assert (listed.watts_most, listed.own_w, listed.units) == (500.0, 7.0, 2) and "watts_most" not in listed.assumed
    typed = sized(Gear(id=1, closet_id=1, kind="ups", model="u", ah=20.0, units=3), catalogue)
    assert (typed.ah, typed.units) == (20.0, 3)
    with pytest.raises(ValueError, match="greater than or equal to 1"):
        Gear(id=1, closet_id=1, kind="nas", width_mm=0)
    with pytest.raises(ValueError, match="less than 100"):
        Placing(id=1, closet_id=1, thing="a", shed_percent=100)
