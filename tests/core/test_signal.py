"""What Wi-Fi reaches, against the worked figures of the standards and against rays followed one by one."""

import math
import random
from dataclasses import replace

import numpy as np
import pytest
from shapely import LineString, Point, Polygon

from baugrund.core.errors import InvalidInput
from baugrund.core.facts.brief import Goal, WirelessClients
from baugrund.core.facts.building import Building, Floor, Room
from baugrund.core.facts.catalogue import Catalogue
from baugrund.core.facts.drop import Drop
from baugrund.core.facts.lines.access_point import AccessPoint, pattern_of
from baugrund.core.facts.project import empty_project
from baugrund.core.facts.signal import Loss, Neighbour, Obstacle, Radio
from baugrund.core.facts.walls import Opening, Wall
from baugrund.core.findings import SiteState
from baugrund.core.findings import signal as checks
from baugrund.core.physics.radio import floors_db, free_space_db, rates_mbit, throughput_mbit
from baugrund.core.places.walls import wall_pieces
from baugrund.core.signal import field as fields
from baugrund.core.signal.airtime import airtime
from baugrund.core.signal.contours import picture
from baugrund.core.signal.field import POINTS_MOST, grid, predicted
from baugrund.core.signal.goals import goal_lines
from baugrund.core.signal.obstructions import obstructions
from baugrund.core.signal.radios import stations
from baugrund.core.signal.roaming import carried, roamed
from baugrund.core.signal.spot import heard_at, uplink_dbm
from baugrund.core.signal.told import signal_of
from baugrund.core.standards.radio import FLOOR_LOSS_DB, WALL_LOSS_DB, block_of, blocks, channel_mhz

HALL = ((0.0, 0.0), (12.0, 0.0), (12.0, 8.0), (0.0, 8.0))
PLAIN = AccessPoint(key="ap", name="Plain", price_minor=100, draw_w=10, power_5_dbm=16, gain_5_dbi=4)
LIST = Catalogue(name="List", currency="EUR", priced_on="2026-01-01", models=(PLAIN,))


def ap(number=10, x=6.0, y=4.0, height=2.5, room=5, **more):
    return Drop(id=number, room_id=room, closet_id=1, kind="access_point", speed_mbit=2500, poe_class=4, x_m=x, y_m=y,
                height_m=height, **{"model": "ap"} | more)  # fmt: skip


def site(*drops, rooms=None, floors=None, **lists):
    project = empty_project("Hall", 2026)
    return project.changed(
        buildings=(Building(id=2, name="House"),),
        floors=floors or (Floor(id=3, building_id=2, name="Ground", height_m=3.0, construction="concrete"),),
        rooms=rooms or (Room(id=5, name="Hall", floor_id=3, outline=HALL),),
        drops=drops or (ap(),), next_id=1000, **{name: tuple(rows) for name, rows in lists.items()},
    )  # fmt: skip


def wall(x, low=-1.0, high=9.0, number=50, **more):
    return Wall(id=number, floor_id=3, x_m=x, y_m=low, to_x_m=x, to_y_m=high, **more)


def level_at(project, x, y, band="5", catalogue=LIST, height=1.0):
    return {one.band: one for one in heard_at(project, catalogue, 3, (x, y), height)}[band].dbm


def free(project, x, y, height=1.0, mhz=5500, eirp=20.0):
    spot = stations(project, LIST)[0].spot
    return eirp - float(free_space_db(math.dist(spot, (x, y, height)), mhz))


def test_losses_are_those_of_the_reference():
    worked = ((10, 2437, 60.19), (10, 5500, 67.26), (15, 6000, 71.53))
    for distance, mhz, expected in worked:
        assert float(free_space_db(distance, mhz)) == pytest.approx(expected, abs=0.005)
    assert float(free_space_db(0.2, 2437)) == float(free_space_db(1.0, 2437))
    assert float(floors_db(18.3, 2)) == pytest.approx(33.52, abs=0.005)
    assert float(floors_db(18.3, 0)) == 0 and float(floors_db(18.3, 1)) == pytest.approx(18.3 * 1**1.04)


def test_rates_are_those_of_the_reference():
    at = np.array([-58.0, -58.01, -76.0, -76.01])
    assert rates_mbit(at, "802.11ax", "5", 80, 2).tolist() == pytest.approx([720.588, 648.529, 72.059, 0], abs=0.001)
    assert float(throughput_mbit(720.588)) == pytest.approx(396.32, abs=0.005)
    # older generations end at MCS 7 and 9, and know no wider channel
    loud = np.array([-20.0])
    assert rates_mbit(loud, "802.11n", "5", 80, 1)[0] == pytest.approx(108 * 5 / 3.6)
    assert rates_mbit(loud, "802.11ac", "5", 160, 1)[0] == pytest.approx(468 * 20 / 3 / 3.6)
    assert rates_mbit(loud, "802.11ac", "2.4", 20, 1)[0] == pytest.approx(52 * 5 / 3.6)


def test_channels_stand_where_they_are_and_end_with_the_list():
    assert (channel_mhz("2.4", 6), channel_mhz("5", 36), channel_mhz("6", 1)) == (2437, 5180, 5955)
    assert [one.first for one in blocks("etsi", "5", 80)] == [36, 52, 100, 116]
    assert block_of("etsi", "5", 149, 20) is None and block_of("fcc", "5", 149, 80).first == 149
    assert (block_of("etsi", "2.4", 13, 20).first, block_of("fcc", "2.4", 12, 20)) == (13, None)
    one, three, five = (block_of("etsi", "2.4", channel, 20) for channel in (1, 4, 5))
    assert one.overlaps(three) and not one.overlaps(five)
    assert block_of("etsi", "5", 56, 80).radar and not block_of("etsi", "5", 44, 80).radar


def test_what_is_received_is_eirp_less_the_way():
    project = site()
    for x, y in ((6.0, 4.0), (11.0, 7.0), (0.5, 0.5)):
        assert level_at(project, x, y) == pytest.approx(free(project, x, y), abs=0.006)
    told = heard_at(project, LIST, 3, (11.0, 7.0))
    five = next(one for one in told if one.band == "5")
    assert sum(part.db for part in five.parts) == pytest.approx(five.eirp_dbm - five.dbm, abs=0.02)
    # 14 dBm back over the same loss, with the gain of the access point once
    assert five.uplink_dbm == pytest.approx(five.dbm - 16 + 14, abs=0.01)


@pytest.mark.parametrize(
    ("walls", "openings", "expected"),
    [
        ([wall(8.0, material="brick")], [], 8),
        # both ends hold: the middle of the ray passes where the wall ends, and just beside
        ([wall(8.0, low=-1.0, high=4.0, material="brick")], [], 8),
        ([wall(8.0, low=-1.0, high=3.99, material="brick")], [], 0),
        # parallel pieces up to 0.1 m apart are one, of the greater loss
        ([wall(8.0, material="brick"), wall(8.1, number=51, material="concrete")], [], 22),
        ([wall(8.0, material="brick"), wall(8.11, number=51, material="concrete")], [], 30),
        # a wall that ends under the ray hides nothing: at x = 8 the ray is 1.9 m up
        ([wall(8.0, material="brick", height_m=1.91)], [], 8),
        ([wall(8.0, material="brick", height_m=1.9)], [], 0),
        # an opening counts in place of its wall, between its sill and its head alone
        ([wall(8.0, material="brick")], [("window", 1.9, 2.4)], 3),
        ([wall(8.0, material="brick")], [("window", 1.91, 2.4)], 8),
        ([wall(8.0, material="brick")], [("window", 1.0, 1.9)], 8),
        ([wall(8.0, material="brick")], [("window", 1.0, 1.91)], 3),
    ],
)
def test_what_stands_in_the_way_counts_once_where_it_is_crossed(walls, openings, expected):
    holes = [Opening(id=70, floor_id=3, kind=kind, x_m=8.0, y_m=4.0, width_m=1.0, sill_m=sill, head_m=head)
             for kind, sill, head in openings]  # fmt: skip
    project = site(ap(x=6.0, height=2.5), walls=walls, openings=holes)
    assert free(project, 11.0, 4.0) - level_at(project, 11.0, 4.0) == pytest.approx(expected, abs=0.01)


def test_an_obstacle_counts_once_if_any_part_of_the_ray_is_inside():
    rack = Obstacle(
        id=60, floor_id=3, name="Rack", kind="racking", outline=((7, 3), (9, 3), (9, 5), (7, 5)), height_m=2.0
    )
    for changes, expected in (({}, 6), ({"height_m": 1.5}, 0), ({"height_m": 1.61}, 6), ({"loss_5_db": 20.0}, 20),
                              ({"base_m": 1.95}, 6), ({"base_m": 2.2, "height_m": 2.4}, 0)):  # fmt: skip
        project = site(obstacles=[rack.model_copy(update=changes)])
        assert free(project, 11.0, 4.0) - level_at(project, 11.0, 4.0) == pytest.approx(expected, abs=0.01)


def storeys(*makes):
    floors = tuple(Floor(id=3 + n, building_id=2, name=f"F{n}", level=n, height_m=3.0, slab_m=0.3, construction=make)
                   for n, make in enumerate(makes))  # fmt: skip
    rooms = tuple(Room(id=20 + n, name=f"R{n}", floor_id=3 + n, outline=HALL) for n in range(len(makes)))
    garden = Floor(id=9, name="Garden", height_m=3.0)
    lawn = Room(
        id=30, name="Lawn", floor_id=9, outside=True, outline=((12.0, 0.0), (30.0, 0.0), (30.0, 8.0), (12.0, 8.0))
    )
    return {"floors": (*floors, garden), "rooms": (*rooms, lawn)}


def test_floors_count_by_how_many_are_met_and_their_mean():
    project = site(ap(room=22), **storeys("timber", "concrete", "brick"))
    for floor, expected in ((5, 0), (4, 24), (3, 16 * 2 ** (4 / 3 - 0.46))):
        got = next(one for one in heard_at(project, LIST, floor, (6.0, 4.0)) if one.band == "5")
        assert sum(part.db for part in got.parts[1:]) == pytest.approx(expected, abs=0.01), floor


def test_a_ray_that_leaves_by_the_wall_meets_no_floor():
    project = site(ap(room=21, x=11.0), **storeys("timber", "concrete"))
    got = next(one for one in heard_at(project, LIST, 9, (20.0, 4.0)) if one.band == "5")
    assert [part.what for part in got.parts] == ["free space", "plasterboard wall"]


def test_a_pattern_is_followed_between_its_angles():
    assert pattern_of("0 0, 60 6", 180) == ((0, 0), (60, 6))
    for wrong in ("30", "0 0, 0 1", "200 1", "0 -1", "a b"):
        with pytest.raises(ValueError, match="angle"):
            pattern_of(wrong, 180)
    down = PLAIN.model_copy(update={"elevation_pattern": "0 0, 90 9, 180 20", "plan_pattern": "0 0, 90 10, 180 20"})
    catalogue = Catalogue(name="L", currency="EUR", priced_on="2026-01-01", models=(down,))
    project = site(ap(bearing_deg=90.0))
    # 1.5 m over the client and 1.5 m beside it: 45° from straight down; the antenna points along x
    for (x, y), plan in (((7.5, 4.0), 0), ((6.0, 5.5), 10), ((6.0, 2.5), 10), ((4.5, 4.0), 20)):
        got = level_at(project, x, y, catalogue=catalogue)
        assert free(project, x, y) - got == pytest.approx(4.5 + plan, abs=0.01)


def plainly(project, spot, point, band):
    """The loss of one ray, followed by hand: every piece, opening, slab and obstacle, each in its own loop."""
    number = ("2.4", "5", "6").index(band)
    (x0, y0, z0), (x1, y1, z1) = spot, point
    way, crossed = LineString([(x0, y0), (x1, y1)]), []
    raised = {3: 0.0, 4: 3.3}
    for piece in wall_pieces(project):
        line = LineString([piece.start, piece.end])
        if not way.intersects(line):
            continue
        at = way.intersection(line)
        share = math.dist((x0, y0), (at.x, at.y)) / way.length
        z = z0 + share * (z1 - z0) - raised[piece.floor_id]
        top = 3.0 if piece.height_m is None else piece.height_m
        if not 0 <= z < top:
            continue
        loss = WALL_LOSS_DB[piece.material][number]
        for hole in project.openings:
            if hole.floor_id == piece.floor_id and line.distance(Point(hole.x_m, hole.y_m)) < 0.3:
                along, middle = line.project(at), line.project(Point(hole.x_m, hole.y_m))
                if abs(along - middle) <= hole.width_m / 2 and hole.sill <= z < hole.head:
                    loss = WALL_LOSS_DB[hole.filling][number]
        crossed.append(loss)
    floors = sum(min(z0, z1) < 3.15 < max(z0, z1) for _ in [0])
    total = sum(crossed) + (FLOOR_LOSS_DB["concrete"][number] if floors else 0)
    for one in project.obstacles:
        shape, low, high = Polygon(one.outline), one.base_m, one.top_m
        inside = [n / 4000 for n in range(4001) if low <= z0 + n / 4000 * (z1 - z0) < high]
        if any(shape.contains(way.interpolate(share, normalized=True)) for share in inside):
            total += one.losses_db[number]
    return total


@pytest.mark.parametrize("seed", range(6))
def test_the_grid_is_what_rays_followed_one_by_one_give(seed):
    draw = random.Random(seed)
    materials = list(WALL_LOSS_DB)
    walls = [Wall(id=50 + n, floor_id=3, x_m=draw.uniform(0.3, 11.7), y_m=draw.uniform(0.3, 7.7), to_x_m=draw.uniform(0.3, 11.7),
                  to_y_m=draw.uniform(0.3, 7.7), material=draw.choice(materials),
                  height_m=draw.choice([None, 1.6, 2.2])) for n in range(4)]  # fmt: skip
    holes = [Opening(id=70, floor_id=3, kind="door", x_m=6.0, y_m=0.0, width_m=2.0),
             Opening(id=71, floor_id=4, kind="window", x_m=0.0, y_m=4.0, width_m=3.0)]  # fmt: skip
    rack = Obstacle(
        id=60, floor_id=3, name="Rack", kind="machine", outline=((7.01, 3.01), (9.03, 3.02), (9.04, 5.07), (7.02, 5.05))
    )
    floors = tuple(Floor(id=3 + n, building_id=2, name=f"F{n}", level=n, height_m=3.0, slab_m=0.3, construction="concrete")
                   for n in range(2))  # fmt: skip
    rooms = tuple(Room(id=5 + n, name=f"R{n}", floor_id=3 + n, outline=HALL, wall="brick") for n in range(2))
    project = site(ap(10, draw.uniform(1, 11), draw.uniform(1, 7), 2.31), ap(11, draw.uniform(1, 11), draw.uniform(1, 7), 2.7, 6),
                   floors=floors, rooms=rooms, walls=walls, openings=holes, obstacles=[rack])  # fmt: skip
    prediction = predicted(project, LIST)
    for (_, band), field in prediction.fields.items():
        for row, sender in zip(field.levels, field.senders, strict=True):
            for cell in draw.sample(range(len(row)), 25):
                point = tuple(field.cells.points[cell])
                loss = float(free_space_db(math.dist(sender.spot, point), sender.mhz))
                expected = sender.eirp_dbm - loss - plainly(project, sender.spot, point, band)
                assert row[cell] == pytest.approx(expected, abs=1e-6), (band, sender.spot, point)


def test_cells_are_those_whose_middle_is_in_a_drawn_room():
    project = site()
    cells = grid(project, 3)
    assert len(cells.points) == 24 * 16 and cells.points[0].tolist() == [0.25, 0.25, 1.0]
    rooms = (Room(id=5, name="Hall", floor_id=3, outline=HALL), Room(id=6, name="Attic", floor_id=3))
    told = signal_of(site(ap(), replace_room(), rooms=rooms), LIST)
    assert told.not_drawn == (6,) and told.nowhere == (11,) and {line.room_id for line in told.rooms} == {5}


def replace_room():
    return Drop(id=11, room_id=6, closet_id=1, kind="access_point", speed_mbit=1000)


def test_a_grid_that_is_too_fine_is_refused_with_one_that_would_do():
    side = 200.0
    project = site(rooms=(Room(id=5, name="Field", floor_id=3, outline=((0, 0), (side, 0), (side, side), (0, side))),))
    with pytest.raises(InvalidInput, match=r"A grid of 0.5 m has 160,000 cells on this floor; 60,000 .* 1 m would do"):
        grid(project, 3, 0.5)
    assert len(grid(project, 3, 1.0).points) == 40_000 <= POINTS_MOST
    assert predicted(project, LIST).step_m == 2.0


def test_after_one_moved_only_its_own_rays_are_followed(monkeypatch):
    project = site(ap(10), ap(11, x=2.0))
    predicted(project, LIST)
    followed = []
    plain = fields.crossings
    monkeypatch.setattr(
        fields, "crossings", lambda of, spot, points: (followed.append(spot), plain(of, spot, points))[1]
    )
    moved = project.changed(drops=(project.drops[0], ap(11, x=3.0)))
    assert predicted(moved, LIST).fields[3, "5"].levels.shape == (2, 384)
    assert followed == [(3.0, 4.0, 2.5)]


def test_a_goal_is_met_from_its_share_on_and_at_its_level():
    project = site(ap(x=1.13, y=0.77))
    levels = predicted(project, LIST).fields[3, "5"].strongest
    least = float(np.sort(levels)[19])
    for level, share, met in ((least, 95.0, True), (least + 1e-9, 95.0, False), (least + 1e-9, 94.7, True)):
        goal = Goal(id=80, kind="calls", room_ids=(5,), level=level, share_percent=share, band="5")
        asked = project.changed(goals=(goal,))
        (line,) = goal_lines(asked, predicted(asked, LIST))
        assert line.met is met, (level, share)
    area = Goal(id=80, kind="coverage", floor_id=3, area=((0, 0), (1, 0), (1, 1), (0, 1)), level=-10.0)
    asked = project.changed(goals=(area,))
    (line,) = goal_lines(asked, predicted(asked, LIST))
    assert (line.share, line.worst.x_m, line.worst.y_m) == (0.0, 0.25, 0.25)


def test_what_hides_the_worst_spot_is_told():
    goal = Goal(id=80, kind="coverage", room_ids=(5,), level=-60.0, band="5")
    project = site(ap(x=2.0), walls=[wall(8.0, material="metal")], goals=[goal])
    found = [finding for finding in checks.goals(SiteState(project, {}, {}, LIST))]
    assert len(found) == 1 and "behind metal wall" in found[0].text and found[0].weight == "breaks"


def test_known_losses_of_the_house_count_in_place_of_the_usual():
    project = site(walls=[wall(8.0, material="brick")], losses=[Loss(id=90, make="brick", band="5", db=11.5)])
    assert free(project, 11.0, 4.0) - level_at(project, 11.0, 4.0) == pytest.approx(11.5, abs=0.01)


def clients(**more):
    return WirelessClients(
        **{"id": 40, "name": "Phones", "count": 10, "generation": "802.11ax", "demand_mbit": 4.0} | more
    )


def test_airtime_is_demand_over_throughput_and_that_of_whom_it_hears():
    radios = [Radio(id=50, drop_id=10, band="5", channel=36, width_mhz=20), Radio(id=51, drop_id=11, band="5", channel=36, width_mhz=20),
              Radio(id=52, drop_id=10, band="2.4", on=False), Radio(id=53, drop_id=11, band="2.4", on=False)]  # fmt: skip
    rooms = (Room(id=5, name="West", floor_id=3, outline=((0, 0), (6, 0), (6, 8), (0, 8))),
             Room(id=6, name="East", floor_id=3, outline=((6, 0), (12, 0), (12, 8), (6, 8))))  # fmt: skip
    project = site(ap(10, x=3.0), ap(11, x=9.0, room=6), rooms=rooms, radios=radios,
                   clients=[clients(room_ids=(5,)), clients(id=41, room_ids=(6,), generation="802.11n", streams=1)])  # fmt: skip
    found = {line.drop_id: line for line in airtime(project, predicted(project, LIST)).radios}
    fast, slow = 234 * 25 / 3 * 2 / 13.6 * 0.55, 52 * 5 / 3.6 * 0.55
    assert found[10].own == pytest.approx(40 / fast, rel=1e-3) and found[11].own == pytest.approx(40 / slow, rel=1e-3)
    assert found[10].shared == pytest.approx(found[11].own) and found[11].shared == pytest.approx(found[10].own)
    assert (found[10].associated, found[11].slow_behind, found[10].slow_behind) == (10, 1, 0)
    apart = project.changed(radios=(radios[0], radios[1].model_copy(update={"channel": 40}), *radios[2:]))
    assert [line.shared for line in airtime(apart, predicted(apart, LIST)).radios] == [0, 0]
    # a channel that nobody has set may be any
    unset = project.changed(radios=(radios[0], radios[1].model_copy(update={"channel": None}), *radios[2:]))
    assert all(line.shared > 0 for line in airtime(unset, predicted(unset, LIST)).radios)


def test_neighbours_on_the_channel_take_their_time():
    radio = Radio(id=50, drop_id=10, band="5", channel=36, width_mhz=40)
    for neighbour, taken in (
        ({}, 0.3),
        ({"dbm": -83.0}, 0),
        ({"dbm": -82.0}, 0.3),
        ({"channel": 44}, 0),
        ({"busy_percent": None}, 0.2),
    ):
        one = Neighbour(id=60, drop_id=10, band="5", **{"channel": 40, "dbm": -60.0, "busy_percent": 30.0} | neighbour)
        project = site(radios=[radio], neighbours=[one])
        line = next(line for line in airtime(project, predicted(project, LIST)).radios if line.band == "5")
        assert line.shared == pytest.approx(taken), neighbour


def test_clients_use_the_highest_band_that_reaches_and_associate_from_the_first_step_on():
    weak = PLAIN.model_copy(update={"power_5_dbm": -10, "gain_5_dbi": -10, "power_2_dbm": 10, "gain_2_dbi": 0})
    catalogue = Catalogue(name="L", currency="EUR", priced_on="2026-01-01", models=(weak,))
    project = site(clients=[clients()])
    told = airtime(project, predicted(project, catalogue))
    by_band = {line.band: line.associated for line in told.radios}
    assert by_band["2.4"] == pytest.approx(10 - by_band["5"]) and by_band["5"] < 2
    deaf = site(clients=[clients(band_2=False)], walls=[wall(6.5, material="metal")])
    (line,) = airtime(deaf, predicted(deaf, catalogue)).clients
    assert 0 < line.unserved < 10
    found = [one.key for one in checks.clients(SiteState(deaf, {}, {}, catalogue))]
    assert "clients-unserved-40" in found


def test_limits_of_the_region_are_checked_from_both_sides():
    def keys(radio, **changes):
        project = site(radios=[Radio(id=50, drop_id=10, band="5", **radio)])
        project = project.changed(settings=project.settings.model_copy(update=changes))
        return [one.key for one in checks.settings(SiteState(project, {}, {}, LIST))]

    assert keys({"channel": 36, "power_dbm": 19.0}) == [] and keys({"channel": 36, "power_dbm": 19.1}) == ["eirp-5-10"]
    assert keys({"channel": 100, "power_dbm": 19.1}) == []
    assert keys({"channel": 149, "width_mhz": 20}) == ["channel-5-10"]
    assert keys({"channel": 149, "width_mhz": 20}, region="fcc") == []


def test_a_client_hears_and_is_not_heard_where_the_loss_is_too_great():
    sender = stations(site(), LIST)[0].senders[1]
    loud = replace(sender, power_dbm=30.0)
    assert uplink_dbm(loud, -66.0) == -82.0


def test_a_picture_has_its_lines_at_the_levels_and_its_areas_between():
    project = site(ap(x=1.0, y=1.0), walls=[wall(8.0, material="metal")])
    drawn = picture(predicted(project, LIST).fields[3, "5"], "strongest")
    assert drawn.contours and {line.dbm for line in drawn.contours} <= {-60.0, -67.0, -70.0, -80.0}
    low = [area for area in drawn.areas if area.to_dbm == -70.0]
    assert all(x > 7.4 for area in low for ring in area.rings for x, _ in ring)
    answers = picture(predicted(project, LIST).fields[3, "5"], "answers")
    assert [area.drop_id for area in answers.areas] == [10]


def test_the_pieces_are_made_once_for_states_that_have_the_same_walls():
    project = site(walls=[wall(8.0)])
    assert obstructions(project) is obstructions(project.changed(name="Other"))


def test_a_phone_moves_over_once_another_is_stronger_by_more_than_it_clings():
    levels = np.array([[-50.0, -55.0, -60.0, -60.5, -50.0], [-70.0, -55.0, -52.0, -52.0, -52.0]])
    assert carried(levels, 8.0) == [0, 0, 0, 1, 1]
    assert carried(levels, 7.9) == [0, 0, 1, 1, 1]


def test_where_a_phone_clings_is_told_along_a_walk():
    project = site(ap(10, x=1.0, y=4.0), ap(11, x=11.0, y=4.0))
    walk = roamed(project, LIST, 3, "5", ((1.0, 4.0), (11.0, 4.0)))
    first, clung, second = walk.stretches
    assert [(one.drop_id, one.clings) for one in walk.stretches] == [(10, False), (10, True), (11, False)]
    assert (walk.moves, clung.better_id, walk.clings_m) == (1, 11, clung.length_m)
    # both are 1.5 m up: over the middle the gap grows by 20·log10 of the distances, to 8 dB at about 8.3 m
    assert clung.points[0][0] == pytest.approx(6.5, abs=0.5) and second.points[0][0] == pytest.approx(8.5, abs=0.5)
    assert roamed(project, LIST, 3, "6", ((1.0, 4.0), (2.0, 4.0))) is None
    assert first.length_m + clung.length_m + second.length_m == pytest.approx(10.0)
