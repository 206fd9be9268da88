"""How access points hang and are fed: cuts, halls, over the air, moved for looks, and what is found of it."""

import itertools
import math
import random

import numpy as np
import pytest

from baugrund.core.edits import AddDrops, ChangeSettings, apply_edits
from baugrund.core.facts.brief import Goal
from baugrund.core.facts.building import Floor, Room
from baugrund.core.facts.catalogue import Catalogue
from baugrund.core.facts.signal import Radio
from baugrund.core.findings import SiteState, hanging
from baugrund.core.physics.radio import beacon_share, rates_mbit
from baugrund.core.signal.airtime import between
from baugrund.core.signal.field import predicted
from baugrund.core.signal.goals import goal_lines
from baugrund.core.signal.halls import halls, lattices
from baugrund.core.signal.looks import moved_for_looks
from baugrund.core.signal.mesh import meshed, path_mbit
from baugrund.core.signal.obstructions import obstructions
from baugrund.core.signal.spot import heard_at
from baugrund.core.signal.told import signal_of
from baugrund.core.signal.upright import signal_cut
from baugrund.core.siting.channels import channels
from baugrund.core.siting.stations import best_stations
from baugrund.core.watch import to_the_end

from .test_signal import HALL, LIST, PLAIN, ap, clients, site, storeys, wall

IN_WALL = PLAIN.model_copy(update={"key": "plate", "name": "Plate", "ap_form": "in_wall", "price_minor": 50})
OUTDOOR = PLAIN.model_copy(update={"key": "out", "name": "Out", "ap_form": "outdoor"})


def lists(*models):
    return Catalogue(name="L", currency="EUR", priced_on="2026-01-01", models=models)


def found(project, catalogue=LIST):
    return {finding.key: finding for finding in hanging.hanging(SiteState(project, {}, {}, catalogue))}


def test_a_cut_has_the_levels_that_are_heard_there_floor_over_floor():
    project = site(
        ap(room=20, x=1.0),
        radios=[Radio(id=90, drop_id=10, band="5", power_dbm=-2.0)],
        **storeys("concrete", "concrete"),
    )
    cut = signal_cut(project, LIST, "5", "x", 4.0)
    bottoms = sorted({room.low_m for room in cut.rooms})
    assert len(bottoms) >= 2 and (0.0, 12.0) in {(room.from_m, room.to_m) for room in cut.rooms}
    lines = [(contour.dbm, spot) for contour in cut.picture.contours for line in contour.lines for spot in line]
    assert lines
    floors = {
        floor.id: room for room in cut.rooms for floor in project.floors if room.low_m == floor_level(project, floor)
    }
    checked = 0
    for dbm, (along, down) in random.Random(1).sample(lines, min(len(lines), 120)):
        for number, room in floors.items():
            height = -down - room.low_m
            if 0.3 < height < room.high_m - room.low_m - 0.3 and 0.3 < along < 11.7:
                heard = max(one.dbm for one in heard_at(project, LIST, number, (along, 4.0), height) if one.band == "5")
                checked += 1
                assert heard == pytest.approx(dbm, abs=0.3)
    assert checked > 5
    assert signal_cut(project, LIST, "5", "x", 100.0).picture is None
    (across,) = signal_cut(site(), LIST, "5", "y", 6.0).rooms
    assert (across.from_m, across.to_m, across.low_m, across.high_m) == (0.0, 8.0, 0.0, 3.0)


def floor_level(project, floor):
    below = [one for one in project.floors if one.level < floor.level]
    return sum(one.height_m + one.slab_m for one in below)


def test_a_path_over_the_air_has_its_least_rate_halved_for_each_hop_on_the_clients_channel():
    assert path_mbit([300.0, 200.0], 0) == 200.0
    assert path_mbit([300.0, 200.0], 1) == 100.0
    assert path_mbit([300.0, 200.0], 2) == 50.0
    assert path_mbit([], 0) == 0.0


def widest(levels, wired, count):
    """The least rate of the best way to a wired one, over every way there is."""
    best = {}
    for start in range(count):
        if start in wired:
            continue
        best[start] = 0.0
        for size in range(count):
            for middle in itertools.permutations([n for n in range(count) if n != start], size):
                way = (start, *middle)
                if way[-1] not in wired or any(n in wired for n in way[:-1]):
                    continue
                best[start] = max(best[start], min(levels[a][b] for a, b in itertools.pairwise(way)))
    return best


@pytest.mark.parametrize("seed", range(8))
def test_the_way_over_the_air_is_the_one_whose_slowest_hop_is_fastest(seed):
    draw = random.Random(seed)
    drops = [
        ap(10 + n, x=draw.uniform(0.5, 11.5), y=draw.uniform(0.5, 7.5), over_wifi=n > draw.choice([0, 0, 1]))
        for n in range(5)
    ]
    walls = [wall(x, number=50 + n, material="concrete") for n, x in enumerate((3.0, 6.0, 9.0))]
    radios = [Radio(id=90 + n, drop_id=one.id, band="2.4", on=False) for n, one in enumerate(drops)]
    project = site(*drops, walls=walls, radios=radios)
    prediction = predicted(project, LIST)
    senders = [sender for station in prediction.stations for sender in station.senders]
    heard = between(obstructions(project), prediction.losses, tuple(senders))
    least = np.minimum(heard, heard.T)
    rates = [
        [float(rates_mbit(np.array([least[a, b]]), "802.11ax", "5", 40, 2)[0]) for b in range(5)] for a in range(5)
    ]
    wired = {n for n, one in enumerate(drops) if not one.over_wifi}
    expected = widest(rates, wired, 5)
    told = {line.drop_id: line for line in meshed(project, prediction)}
    assert set(told) == {10 + n for n in expected}
    for n, rate in expected.items():
        line = told[10 + n]
        assert min((hop.rate_mbit for hop in line.hops), default=0.0) == pytest.approx(rate, abs=0.01)
        assert line.shared == len(line.hops), "no channel is set: any may be shared"
        assert line.rate_mbit == pytest.approx(rate / 2 ** len(line.hops), abs=0.02)
        assert not line.hops or line.hops[-1].to_id - 10 in wired


def test_one_that_hears_no_other_and_one_that_is_asked_too_much_are_told():
    alone = site(ap(10, x=1.0), ap(11, x=11.0, over_wifi=True),
                 walls=[wall(x, number=50 + n, material="metal") for n, x in enumerate((4.0, 5.0, 6.0, 7.0))])  # fmt: skip
    assert "hears no access point" in found(alone)["ap-cut-off-11"].text
    busy = site(ap(10, x=1.0), ap(11, x=11.0, over_wifi=True), clients=[clients(count=200, demand_mbit=5.0)])
    assert "Wire it" in found(busy)["ap-air-5-11"].text
    calm = site(ap(10, x=1.0), ap(11, x=11.0, over_wifi=True), clients=[clients(count=2, demand_mbit=1.0)])
    assert not {"ap-air-5-11", "ap-cut-off-11"} & set(found(calm))


def test_figures_of_lattices_are_those_of_trigonometry():
    told = {(one.lattice, one.antenna): one for one in lattices(1600.0, 16, 9.0)}
    square, staggered = told["square", "all_round"], told["staggered", "all_round"]
    assert (square.to_next_m, square.to_client_m) == (10.0, pytest.approx(math.hypot(10 / math.sqrt(2), 9.0), abs=0.01))
    spacing = math.sqrt(200 / math.sqrt(3))
    assert staggered.to_next_m == pytest.approx(spacing, abs=0.01)
    assert staggered.to_client_m == pytest.approx(math.hypot(spacing / math.sqrt(3), 9.0), abs=0.01)
    assert square.serves_wrong and not told["square", "downward"].serves_wrong
    # so low that the floor is nearer than the next one
    low = next(lattices(1600.0, 4, 2.0))
    assert low.to_next_m > low.to_client_m


@pytest.mark.parametrize(("height", "wrong"), [(9.0, True), (5.0, False)])
def test_a_hall_is_told_where_the_next_is_nearer_than_the_floor(height, wrong):
    wide = Room(id=5, name="Hall", floor_id=3, outline=((0.0, 0.0), (20.0, 0.0), (20.0, 10.0), (0.0, 10.0)))
    project = site(
        ap(10, x=5.0, y=5.0, height=height), ap(11, x=15.0, y=5.0, height=height), rooms=(wide,),
        floors=(Floor(id=3, building_id=2, name="Ground", height_m=height),),
    )  # fmt: skip
    (line,) = halls(project, predicted(project, LIST))
    furthest = math.dist((5.0, 5.0, height), (0.25, 0.25, 1.0))
    assert line.to_next_m == 10.0 and line.to_client_m == pytest.approx(furthest, abs=0.01)
    assert line.serves_wrong is wrong and ("hall-5" in found(project)) is wrong
    lower = project.changed(floors=(Floor(id=3, building_id=2, name="Ground", height_m=4.9),))
    assert not list(halls(lower, predicted(lower, LIST)))


def test_a_move_for_looks_tells_what_every_goal_has_of_it():
    goal = Goal(id=80, kind="calls", room_ids=(5,), band="5", level=-52.0)
    project = site(ap(10, x=2.0, y=3.0), ap(11, x=9.0, y=3.4), goals=[goal])
    told = {one.look: one for one in moved_for_looks(project, LIST, 10)}
    assert (told["centred"].x_m, told["centred"].y_m) == (6.0, 4.0)
    assert (told["in_line"].x_m, told["in_line"].y_m, told["in_line"].in_line_with) == (2.0, 3.4, 11)
    for one in (*told.values(), *moved_for_looks(project, LIST, 10, (4.0, 1.0))):
        put = site(ap(10, x=one.x_m, y=one.y_m), ap(11, x=9.0, y=3.4), goals=[goal])
        (now,), (then,) = (list(goal_lines(at, predicted(at, LIST))) for at in (project, put))
        assert one.goals[0].now == now.share and one.goals[0].then == then.share
        assert one.goals[0].met_then == then.met
    assert moved_for_looks(site(ap(10, x=6.0, y=4.0)), LIST, 10) == (), "it is there already"


def test_a_ceiling_that_would_serve_better_is_told():
    rooms = (Room(id=5, name="Hall", floor_id=3, outline=HALL),)
    walls = [wall(4.0, material="concrete"), wall(8.0, number=51, material="concrete")]
    low = {"height": 0.3, "variant": "in_wall", "model": None, "purpose": ""}
    by_wall = site(ap(10, x=0.1, y=0.3, **low), rooms=rooms, walls=walls)
    assert "ap-ceiling-10" in found(by_wall)
    assert "ap-ceiling-10" not in found(site(ap(10, x=0.1, y=0.3), rooms=rooms, walls=walls))


def test_outer_walls_and_coated_glass_before_most_of_what_is_missed_are_told():
    yard = Room(
        id=6, name="Yard", floor_id=3, outside=True, outline=((14.0, 0.0), (30.0, 0.0), (30.0, 8.0), (14.0, 8.0))
    )
    rooms = (Room(id=5, name="Hall", floor_id=3, outline=HALL, wall="concrete"), yard)
    goal = Goal(id=80, kind="calls", room_ids=(6,), band="5")
    text = found(site(ap(10, x=2.0), rooms=rooms, goals=[goal]))["wifi-behind-80-wall"].text
    assert text.startswith("100% of what misses the goal of -67 dBm lies behind an outer wall")
    glass = (rooms[0].model_copy(update={"wall": "coated_glass"}), yard)
    assert "wifi-behind-80-glass" in found(site(ap(10, x=2.0), rooms=glass, goals=[goal]))
    met = goal.model_copy(update={"level": -120.0})
    assert not [key for key in found(site(ap(10, x=2.0), rooms=rooms, goals=[met])) if "behind" in key]


def test_what_clients_ask_is_offered_to_load_and_counts_there_once_taken():
    project = site(ap(10), clients=[clients(count=100, demand_mbit=3.0)])
    finding = found(project)["ap-traffic-10"]
    asked = signal_of(project, LIST).stations[0].radios
    mbit = math.ceil(sum(radio.demand_mbit for radio in asked))
    assert finding.settle.edit.changes.traffic_mbit == mbit > 150
    taken = apply_edits(project, [finding.settle.edit])
    assert taken.drops[0].busy_mbit == mbit and "ap-traffic-10" not in found(taken)
    assert "ap-traffic-10" not in found(site(ap(10), clients=[clients(count=10)]))


def test_kinds_beside_each_other_are_told_only_where_one_is_wanted():
    mixed = site(ap(10), ap(11, x=2.0, model="plate"))
    assert "ap-models" in found(mixed, lists(PLAIN, IN_WALL))
    phased = mixed.changed(settings=mixed.settings.model_copy(update={"ap_models": "phases"}))
    assert "ap-models" not in found(phased, lists(PLAIN, IN_WALL))


def test_further_access_points_are_over_the_air_where_the_project_feeds_them_so():
    project = apply_edits(site(), [ChangeSettings(changes={"ap_feed": "air"})])
    more = apply_edits(project, [AddDrops(room=5, kind="access_point")])
    assert [drop.over_wifi for drop in more.drops] == [False, True]
    bare = apply_edits(project.changed(drops=()), [AddDrops(room=5, kind="access_point", count=1)])
    assert not bare.drops[0].over_wifi, "the first one is wired"


def test_beacons_take_their_time_at_the_lowest_rate():
    assert beacon_share(1.0, True) == pytest.approx((192 + 2400) / 102400)
    assert beacon_share(12.0, False) == pytest.approx((20 + 200) / 102400)


def test_places_are_on_walls_and_outside_where_those_are_asked_for():
    goal = Goal(id=80, kind="calls", room_ids=(5,), band="5", level=-60.0)
    cheap_on_walls = lists(PLAIN, IN_WALL)
    project = site(ap(10, x=1.0, y=1.0), goals=[goal])
    assert {one.on for one in to_the_end(best_stations(project, cheap_on_walls)).answers[1].stations} == {"ceiling"}
    asked = project.changed(settings=project.settings.model_copy(update={"ap_places": "wall"}))
    answer = to_the_end(best_stations(asked, cheap_on_walls)).answers[1]
    assert {one.on for one in answer.stations} == {"in_wall"}
    taken = apply_edits(asked, list(answer.edits))
    assert {(drop.variant, drop.height_m) for drop in taken.drops} == {("in_wall", 0.3)}
    assert all(line.met for line in goal_lines(taken, predicted(taken, cheap_on_walls)))
    yard = Room(
        id=6, name="Yard", floor_id=3, outside=True, outline=((12.2, 0.0), (20.0, 0.0), (20.0, 8.0), (12.2, 8.0))
    )
    rooms = (Room(id=5, name="Hall", floor_id=3, outline=HALL, wall="concrete"), yard)
    outside = site(ap(10), rooms=rooms, goals=[goal.model_copy(update={"room_ids": (6,)})])
    answer = to_the_end(best_stations(outside, lists(PLAIN, OUTDOOR))).answers[0]
    assert [one.on for one in answer.stations] == ["outdoor"]
    assert 80 < answer.stations[0].bearing_deg < 100, "it looks into the yard"


def test_power_goes_down_where_others_share_less_and_no_goal_is_lost():
    goal = Goal(id=80, kind="coverage", room_ids=(5,), band="5", level=-60.0)
    drops = [ap(10, x=2.0), ap(11, x=6.0), ap(12, x=10.0)]
    walls = [wall(x, number=50 + n, material="concrete") for n, x in enumerate((3.7, 4.3, 7.7, 8.3))]
    kept = [Radio(id=90 + n, drop_id=10 + n, band="5", channel=36, width_mhz=20, kept=True) for n in range(3)]
    kept += [Radio(id=95 + n, drop_id=10 + n, band="2.4", on=False) for n in range(3)]
    project = site(*drops, walls=walls, goals=[goal], clients=[clients(count=60)], radios=kept)
    (band,) = to_the_end(channels(project, LIST)).bands
    plan = next(one for one in band.plans if one.width_mhz == band.best_width)
    assert band.powers and band.saves > 0.01 and band.own_then + band.shared_then < plan.own + plan.shared
    taken = apply_edits(project, list(band.power_edits))
    told = signal_of(taken, LIST)
    assert sum(radio.own for one in told.stations for radio in one.radios) == pytest.approx(band.own_then, abs=1e-3)
    assert sum(radio.shared for one in told.stations for radio in one.radios) == pytest.approx(
        band.shared_then, abs=1e-3
    )
    before, after = ({line.goal_id for line in of.goals if line.met} for of in (signal_of(project, LIST), told))
    assert after >= before
