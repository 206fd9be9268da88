"""What cameras see, against trigonometry done apart and against lines of sight walked one by one."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import LineString, Point, Polygon

from baugrund.core.facts.building import Building, Floor, Room
from baugrund.core.facts.drop import Drop
from baugrund.core.facts.project import empty_project
from baugrund.core.facts.sight import Target, View
from baugrund.core.facts.walls import Opening, Wall
from baugrund.core.physics.optics import Frame, Lens, field_deg, usual_projection
from baugrund.core.sight.cut import framed_at, seen_at
from baugrund.core.sight.lenses import lenses
from baugrund.core.sight.scene import scene
from baugrund.core.sight.section import section_of
from baugrund.core.sight.sun import low_sun, sun_in
from baugrund.core.sight.targets import points_of, targets_of
from baugrund.core.sight.views import views_of

SQUARE = ((0.0, 0.0), (8.0, 0.0), (8.0, 6.0), (0.0, 6.0))


def site(*, walls=(), openings=(), views=(), targets=(), drops=(), rooms=None, height=3.0, **settings_changes):
    """A storey of 8 × 6 m in a field, with what is put there."""
    project = empty_project("Field", 2026)
    return project.changed(
        buildings=(Building(id=2, name="House"),),
        floors=(Floor(id=3, building_id=2, name="Ground", height_m=height), Floor(id=4, name="Field")),
        rooms=rooms or (Room(id=5, name="Hall", floor_id=3, outline=SQUARE), Room(id=6, name="Yard", floor_id=4,
              outside=True, outline=((-30.0, -30.0), (40.0, -30.0), (40.0, 40.0), (-30.0, 40.0)))),
        walls=tuple(walls), openings=tuple(openings), views=tuple(views), targets=tuple(targets), drops=tuple(drops),
        settings=project.settings.model_copy(update=settings_changes), next_id=1000,
    )  # fmt: skip


def camera(number=10, x=0.0, y=20.0, height=3.0, room=6, **more):
    return Drop(id=number, room_id=room, closet_id=1, kind="camera", speed_mbit=100, poe_class=3, x_m=x, y_m=y,
                height_m=height, **{"place": "mast", "variant": "turret", "megapixels": 4} | more)  # fmt: skip


def view(number=20, drop=10, **more):
    return View(id=number, drop_id=drop, **{"bearing_deg": 0.0, "tilt_deg": 20.0, "field_deg": 90.0} | more)


def spot(x, y, number=30, **more):
    return Target(id=number, name="Spot", floor_id=4, points=((x, y),), **more)


def test_pixels_per_metre_and_reach_are_those_of_the_reference():
    assert Frame(90, 3840, 2160, "rectilinear").px_per_m(8) == pytest.approx(240.0)
    reach = Frame(100, 2688, 1520, "rectilinear").reach_m(250)
    assert reach == pytest.approx(4.51, abs=0.005)
    assert math.sqrt(reach**2 - 1.4**2) == pytest.approx(4.29, abs=0.005)
    assert Frame(100, 2688, 1520, "equidistant").reach_m(250) == pytest.approx(6.16, abs=0.005)


def test_angles_of_view_are_those_of_the_reference():
    assert Frame(90, 3840, 2160, "rectilinear").down_deg == pytest.approx(58.72, abs=0.005)
    assert Frame(160, 3840, 2160, "equidistant").down_deg == pytest.approx(90.0)
    assert Frame(180, 3000, 3000, "round").down_deg == 180
    assert field_deg(2.8, 5.6) == pytest.approx(90.0)
    assert usual_projection(110.0) == "rectilinear" and usual_projection(110.01) == "equidistant"


def test_blind_ground_is_that_of_the_reference_and_ends_at_plumb():
    lens = Lens(0, 0, 3, 0, 20, Frame(90, 3840, 2160, "rectilinear"))
    assert lens.blind_m(3) == pytest.approx(2.58, abs=0.006)
    lower_edge = Frame(90, 3840, 2160, "rectilinear").down_deg / 2
    assert Lens(0, 0, 3, 0, 90 - lower_edge, lens.frame).blind_m(3) == pytest.approx(0, abs=1e-9)
    assert Lens(0, 0, 3, 0, 89 - lower_edge, lens.frame).blind_m(3) == pytest.approx(3 * math.tan(math.radians(1)))
    assert math.isinf(Lens(0, 0, 3, 0, -lower_edge, lens.frame).blind_m(3))


def in_frame_by_hand(lens, x, y, z):
    """A point turned into the picture of a lens, step by step: first about the plumb line, then about the right."""
    east, south, up = x - lens.x_m, y - lens.y_m, z - lens.z_m
    turn = math.radians(lens.bearing_deg)
    ahead, right = east * math.sin(turn) - south * math.cos(turn), east * math.cos(turn) + south * math.sin(turn)
    tilt = math.radians(lens.tilt_deg)
    depth, down = ahead * math.cos(tilt) - up * math.sin(tilt), -up * math.cos(tilt) - ahead * math.sin(tilt)
    half = math.radians(lens.frame.across_deg) / 2
    if lens.frame.projection == "rectilinear":
        most = math.tan(half)
        return (
            depth > 0
            and abs(right / depth) <= most
            and abs(down / depth) <= most * lens.frame.down_px / lens.frame.across_px
        )
    off = math.acos(max(-1.0, min(1.0, depth / math.dist((0, 0, 0), (depth, right, down)))))
    if lens.frame.projection == "round":
        return off <= half
    around = math.atan2(down, right)
    return (
        abs(off * math.cos(around)) <= half
        and abs(off * math.sin(around)) <= half * lens.frame.down_px / lens.frame.across_px
    )


def hidden_by_hand(lens, x, y, z, walls):
    """Whether a wall (ends, low, high) stands between: where the ways cross on the plan, and how high one is there."""
    way = LineString([(lens.x_m, lens.y_m), (x, y)])
    for start, end, low, high in walls:
        meet = way.intersection(LineString([start, end]))
        if not meet.is_empty:
            share = Point(lens.x_m, lens.y_m).distance(meet) / way.length
            if low <= lens.z_m + share * (z - lens.z_m) < high:
                return True
    return False


projections = st.sampled_from([("rectilinear", 90.0), ("rectilinear", 30.0), ("equidistant", 150.0),
                               ("equidistant", 200.0), ("round", 180.0), ("round", 120.0)])  # fmt: skip
coordinates = st.floats(-12, 12).map(lambda at: round(at, 2))


@settings(deadline=None, max_examples=60)
@given(st.data())
def test_the_polygon_of_a_view_holds_the_points_that_a_line_of_sight_reaches(data):
    projection, across = data.draw(projections)
    lens = Lens(0.0, 0.0, 3.0, data.draw(st.integers(0, 359)), data.draw(st.integers(-10, 90)),
                Frame(across, 1920, 1080, projection))  # fmt: skip
    ends = data.draw(st.lists(st.tuples(coordinates, coordinates, coordinates, coordinates,
                                        st.sampled_from([0.8, 1.2, 2.0, 2.9, 3.5])), max_size=4))  # fmt: skip
    walls = [Wall(id=100 + n, floor_id=4, x_m=a, y_m=b, to_x_m=c, to_y_m=d, height_m=high)
             for n, (a, b, c, d, high) in enumerate(ends)
             if math.dist((a, b), (c, d)) > 0.3 and abs(a * d - b * c) / math.dist((a, b), (c, d)) > 0.15]  # fmt: skip
    stands = scene(site(walls=walls, rooms=(Room(id=6, name="Yard", floor_id=4, outside=True),)))
    by_hand = [(b.start, b.end, b.low_m, b.high_m) for b in stands.blockers]
    height = data.draw(st.sampled_from([0.0, 1.6]))
    shape = seen_at(lens, None, height, 15.0, stands)
    rim = shape.boundary
    for _ in range(12):
        x, y = data.draw(coordinates), data.draw(coordinates)
        if math.hypot(x, y) < 0.05 or (not rim.is_empty and rim.distance(Point(x, y)) < 0.06):
            continue
        seen = (
            in_frame_by_hand(lens, x, y, height)
            and math.dist((x, y, height), (0, 0, 3)) <= 15
            and not hidden_by_hand(lens, x, y, height, by_hand)
        )
        assert shape.contains(Point(x, y)) == seen, (x, y)


def test_the_frame_of_a_camera_that_looks_straight_down_is_its_rectangle():
    lens = Lens(1.0, 2.0, 3.0, 0.0, 90.0, Frame(90, 1600, 1600, "rectilinear"))
    west, north, east, south = framed_at(lens, 0.0, 50.0).bounds
    assert (west, north, east, south) == pytest.approx((-2.0, -1.0, 4.0, 5.0))


def test_a_limit_of_detail_is_met_at_it_and_not_under_it():
    # 2688 px over 90°: 1344 px/m at 1 m, so 125 px/m end at 10.752 m from the lens in space
    reach = 2688 / (2 * math.tan(math.radians(45))) / 125
    ground = math.sqrt(reach**2 - 1.4**2)
    for away, met in ((ground - 1e-6, True), (ground + 1e-3, False)):
        project = site(drops=[camera()], views=[view(tilt_deg=8)], targets=[spot(0.0, 20.0 - away)])
        (line,) = targets_of(project)
        assert line.met is met, away
        assert line.best == ("recognise" if met else "observe")


def test_a_line_wants_one_camera_for_all_of_it_and_an_area_is_met_by_all_together():
    left, right = camera(10, x=-2.5), camera(11, x=2.5)
    views = [view(20, 10, field_deg=40, tilt_deg=15), view(21, 11, field_deg=40, tilt_deg=15)]
    corners = ((-4.0, 12.0), (4.0, 12.0))
    line = Target(id=30, name="Front", floor_id=4, shape="line", points=corners, detail="observe")
    area = Target(
        id=31, name="Front", floor_id=4, shape="area", points=(*corners, (4.0, 11.5), (-4.0, 11.5)), detail="observe"
    )
    project = site(drops=[left, right], views=views, targets=[line, area])
    as_line, as_area = targets_of(project)
    assert not as_line.met and as_line.best is None
    assert as_area.met and set(as_area.met_by) == {10, 11}
    alone, _ = targets_of(
        site(drops=[left, right], views=[view(20, 10, field_deg=100, tilt_deg=15), views[1]], targets=[line, area])
    )
    assert alone.met_by == (10,)


def test_points_of_a_target_are_a_quarter_of_a_metre_apart_with_both_ends():
    line = Target(id=1, name="Gate", floor_id=4, shape="line", points=((0.0, 0.0), (1.1, 0.0)))
    assert points_of(line) == ((0.0, 0.0), (0.25, 0.0), (0.5, 0.0), (0.75, 0.0), (1.0, 0.0), (1.1, 0.0))
    area = Target(id=1, name="Yard", floor_id=4, shape="area", points=((0.0, 0.0), (0.5, 0.0), (0.5, 0.5), (0.0, 0.5)))
    assert set(points_of(area)) == {(x / 4, y / 4) for x in range(3) for y in range(3)}


def test_a_camera_that_turns_meets_by_its_first_aim():
    turning = camera(variant="pan_tilt")
    away, towards = view(20, bearing_deg=180.0), view(21, bearing_deg=0.0)
    (line,) = targets_of(site(drops=[turning], views=[away, towards], targets=[spot(0.0, 15.0)]))
    assert not line.met and line.sightings[0].aside
    (line,) = targets_of(
        site(drops=[turning], views=[towards.model_copy(update={"id": 19}), away], targets=[spot(0.0, 15.0)])
    )
    assert line.met_by == (10,)


def wall(number=100, x=-5.0, y=15.0, to_x=5.0, to_y=15.0, **more):
    return Wall(id=number, floor_id=4, x_m=x, y_m=y, to_x_m=to_x, to_y_m=to_y, **more)


def test_a_wall_hides_what_the_line_of_sight_passes_under_its_head():
    # from 3 m down to 1.6 m over 10 m: 2.3 m high half-way, where the wall stands
    for high, met in ((2.3 - 1e-6, True), (2.31, False)):
        project = site(
            drops=[camera()], views=[view(tilt_deg=10)], targets=[spot(0.0, 10.0)], walls=[wall(height_m=high)]
        )
        (line,) = targets_of(project)
        assert line.met is met
    assert line.sightings[0].blocked_by == "a free-standing wall"


@pytest.mark.parametrize(("kind", "more", "met"), [
    ("gate", {"head_m": 2.4}, True),
    ("gate", {"head_m": 2.4, "see_through": False}, False),
    ("gate", {"head_m": 2.2}, False),
    ("window", {"sill_m": 2.2, "head_m": 2.4}, True),
    ("window", {"sill_m": 2.35, "head_m": 2.4}, False),
])  # fmt: skip
def test_a_view_passes_an_opening_between_its_sill_and_its_head(kind, more, met):
    opening = Opening(id=200, floor_id=4, kind=kind, x_m=0.0, y_m=15.0, width_m=1.0, **more)
    project = site(drops=[camera()], views=[view(tilt_deg=10)], targets=[spot(0.0, 10.0)], walls=[wall(height_m=3.0)],
                   openings=[opening])  # fmt: skip
    (line,) = targets_of(project)
    assert line.met is met


def test_an_opening_wider_than_its_wall_counts_as_far_as_the_wall_goes_and_one_in_no_wall_not_at_all():
    wide = Opening(id=200, floor_id=4, kind="gate", x_m=0.0, y_m=15.0, width_m=20.0)
    nowhere = Opening(id=201, floor_id=4, kind="gate", x_m=0.0, y_m=14.4, width_m=1.0)
    placed = {one.id: one for one in scene(site(walls=[wall()], openings=[wide, nowhere])).openings}
    assert set(placed) == {200} and not placed[200].fits


def test_an_opening_over_a_node_opens_both_pieces():
    """A wall that another one meets is two pieces; a gate over the node opens each of them by its part."""
    walls = [wall(), wall(101, x=0.0, y=15.0, to_x=0.0, to_y=18.0)]
    gate = Opening(id=200, floor_id=4, kind="gate", x_m=0.0, y_m=15.0, width_m=2.0)
    stands = scene(site(walls=walls, openings=[gate]))
    assert stands.openings[0].fits
    solid = {(b.start, b.end) for b in stands.blockers if b.low_m == 0 and b.start[1] == b.end[1] == 15.0}
    assert {tuple(sorted(ends)) for ends in solid} == {((-5.0, 15.0), (-1.0, 15.0)), ((1.0, 15.0), (5.0, 15.0))}


def test_a_ceiling_hides_the_floor_above():
    upper = Floor(id=7, building_id=2, name="Upper", level=1, height_m=2.5)
    rooms = (Room(id=5, name="Hall", floor_id=3, outline=SQUARE), Room(id=8, name="Loft", floor_id=7, outline=SQUARE))
    project = site(
        rooms=rooms,
        drops=[camera(room=5, x=4.0, y=3.0, height=2.9, place="ceiling")],
        views=[view(tilt_deg=-60, field_deg=100)],
    ).changed(
        floors=(Floor(id=3, building_id=2, name="Ground", height_m=3.0), upper, Floor(id=4, name="Field")),
        targets=(Target(id=30, name="Bed", floor_id=7, points=((4.0, 2.0),), height_m=0.5, detail="detect"),),
    )
    (line,) = targets_of(project)
    assert line.sightings[0].blocked_by == "a floor or ceiling" and not line.met


def test_the_edge_of_a_slab_hides_what_would_be_seen_through_its_thickness():
    # the house is 0 to 6 m deep, its ceiling at 3.0 m under a slab of 0.3 m: level rays at 3.15 m end at its edge
    outside = camera(height=3.15, y=12.0, x=4.0)
    beyond = spot(4.0, -5.0, height_m=3.15, detail="detect")
    (line,) = targets_of(site(drops=[outside], views=[view(tilt_deg=0.0)], targets=[beyond]))
    assert line.sightings[0].blocked_by == "a floor or ceiling" and not line.met
    over = camera(height=3.35, y=12.0, x=4.0)
    (line,) = targets_of(
        site(drops=[over], views=[view(tilt_deg=0.0)], targets=[beyond.model_copy(update={"height_m": 3.35})])
    )
    assert line.met


def test_a_lens_stands_a_brackets_reach_before_its_wall_which_hides_nothing():
    inside = camera(room=5, x=4.0, y=0.02, height=2.5, place="wall")
    project = site(drops=[inside], views=[view(bearing_deg=180.0)])
    (placed,) = lenses(project)
    assert (placed.lens.x_m, placed.lens.y_m) == pytest.approx((4.0, 0.1)) and placed.fixed_to is not None
    (placed,) = lenses(site(drops=[inside], views=[view(bearing_deg=180.0, bracket_m=0.4)]))
    assert placed.lens.y_m == pytest.approx(0.4)
    (placed,) = lenses(site(drops=[inside], views=[view(bearing_deg=0.0)]))
    assert placed.lens.y_m == pytest.approx(-0.1)


def test_the_near_wall_takes_its_share_of_the_angle():
    # 1 m before a wall at right angles to the bearing, 90° across: nearer than 2 m over 60° to either side, so all of it
    project = site(drops=[camera(y=16.0)], views=[view()], walls=[wall(height_m=3.5)])
    assert views_of(project)[0].near_wall_share == 1.0
    # with the wall to the right of the bearing alone, half of it
    project = site(drops=[camera(y=16.0)], views=[view()], walls=[wall(x=0.0, height_m=3.5)])
    assert views_of(project)[0].near_wall_share == pytest.approx(0.5, abs=1e-4)
    # 1.9 m away it is near over acos(1.9/2) = 18.19° to either side
    project = site(drops=[camera(y=16.9)], views=[view()], walls=[wall(height_m=3.5)])
    assert views_of(project)[0].near_wall_share == pytest.approx(2 * 18.1949 / 90, abs=1e-4)
    project = site(drops=[camera(y=17.0)], views=[view()], walls=[wall(height_m=3.5)])
    assert views_of(project)[0].near_wall_share == 0


def test_a_window_behind_a_target_is_light_behind_it():
    window = Opening(id=200, floor_id=4, kind="window", x_m=0.0, y_m=8.0, width_m=2.0, sill_m=0.2, head_m=2.8)
    behind = wall(y=8.0, to_y=8.0, height_m=3.0)
    project = site(
        drops=[camera()], views=[view(tilt_deg=10)], targets=[spot(0.0, 10.0)], walls=[behind], openings=[window]
    )
    assert targets_of(project)[0].sightings[0].against_window
    project = site(drops=[camera()], views=[view(tilt_deg=10)], targets=[spot(0.0, 10.0)], walls=[behind])
    assert not targets_of(project)[0].sightings[0].against_window


def test_what_nobody_typed_is_usual_for_the_form_and_said_so():
    (placed,) = lenses(site(drops=[camera(variant="dome", megapixels=8)]))
    assert (placed.lens.frame.across_deg, placed.lens.frame.across_px, placed.lens.tilt_deg) == (100, 3840, 20)
    assert {"field_deg", "bearing_deg", "tilt_deg", "light_m"} <= set(placed.usual)
    (placed,) = lenses(site(drops=[camera()], views=[View(id=20, drop_id=10, focal_mm=4.0, sensor_mm=5.6)]))
    assert placed.lens.frame.across_deg == pytest.approx(math.degrees(2 * math.atan(0.7)))


def test_a_view_that_zooms_tells_how_far_it_identifies_at_its_narrowest():
    (line,) = views_of(site(drops=[camera()], views=[view(narrowest_deg=30.0)]))
    assert line.zoomed_identify_m == pytest.approx(2688 / (2 * math.tan(math.radians(15))) / 250, abs=0.001)
    assert views_of(site(drops=[camera()], views=[view()]))[0].zoomed_identify_m is None


def test_the_low_sun_is_in_a_view_to_the_east_at_the_equinox_and_never_in_one_to_the_north():
    where = {"latitude_deg": 50.0, "longitude_deg": 10.0, "time_zone": "UTC", "north_deg": 0.0}
    project = site(drops=[camera()], views=[view(bearing_deg=90.0, tilt_deg=0.0, field_deg=20.0)], **where)
    sun = sun_in(project, lenses(project)[0].lens)
    months = {one.month: one for one in sun.months}
    assert {3, 9} <= set(months) and 12 not in months
    # at the equinox the sun rises due east about six hours before noon, which is 11:20 to 11:30 UTC at 10° east
    assert "05:00" <= months[3].earliest <= "06:30"
    assert sun_in(project, Lens(0, 0, 3, 0.0, 0.0, Frame(20.0, 1920, 1080, "rectilinear"))).days == 0
    turned = project.changed(settings=project.settings.model_copy(update={"north_deg": 90.0}))
    assert sun_in(turned, Lens(0, 0, 3, 180.0, 0.0, Frame(20.0, 1920, 1080, "rectilinear"))).days == sun.days
    assert sun_in(site(), Lens(0, 0, 3, 0, 0, Frame(20.0, 1920, 1080, "rectilinear"))) is None


def test_every_minute_of_the_low_sun_is_where_astral_says():
    from datetime import datetime, timedelta
    from zoneinfo import ZoneInfo

    from astral import Observer
    from astral.sun import azimuth, elevation

    low = low_sun(48.0, 12.0, "Europe/Berlin", 2026)
    here, zone = Observer(48.0, 12.0), ZoneInfo("Europe/Berlin")
    for number in range(0, len(low.days), 2503):
        when = datetime(2026, 1, 1) + timedelta(days=int(low.days[number]), minutes=int(low.minutes[number]))
        if when.replace(tzinfo=zone).utcoffset() != (when + timedelta(hours=2)).replace(tzinfo=zone).utcoffset():
            continue
        east, north, up = low.towards[number]
        asked = when.replace(tzinfo=zone)
        assert math.degrees(math.asin(up)) == pytest.approx(elevation(here, asked), abs=0.001)
        assert math.degrees(math.atan2(east, north)) % 360 == pytest.approx(azimuth(here, asked), abs=0.001)


def in_section(section, along, z):
    """Whether a point of a section is seen, by its rings."""
    rings = section.bands[0].rings
    return sum(Polygon(ring).contains(Point(along, z)) for ring in rings) % 2 == 1


def test_a_view_standing_up_has_its_edges_its_blind_ground_and_the_shadow_of_a_wall():
    project = site(drops=[camera()], views=[view()], walls=[wall(y=14.0, to_y=14.0, height_m=1.0)])
    section = section_of(lenses(project)[0], scene(project), 20.0)
    half = math.degrees(math.atan(1520 / 2688))
    assert (section.upper_deg, section.lower_deg) == pytest.approx((20 - half, 20 + half), abs=0.006)
    assert section.blind_m == pytest.approx(3 / math.tan(math.radians(20 + half)), abs=0.001)
    assert [(one.along_m, one.low_m, one.high_m) for one in section.walls][:1] == [(6.0, 0.0, 1.0)]
    # behind the wall the line over its head, from 3 m to 1 m over 6 m, comes down to the ground at 9 m
    assert not in_section(section, 8.0, 0.2) and in_section(section, 8.0, 0.5)
    assert not in_section(section, 8.9, 0.01) and in_section(section, 9.1, 0.01)
    assert not in_section(section, section.blind_m - 0.05, 0.01) and in_section(section, section.blind_m + 0.1, 0.01)


def test_a_wall_close_before_the_lens_hides_all_that_is_behind_it():
    project = site(drops=[camera()], views=[view()], walls=[wall(y=19.7, to_y=19.7, height_m=6.0)])
    section = section_of(lenses(project)[0], scene(project), 20.0)
    assert in_section(section, 0.2, 2.9)
    assert not any(in_section(section, along, z) for along in (0.5, 4.0, 9.0, 14.0) for z in (0.2, 1.5, 2.8))


@pytest.mark.parametrize(("row", "sentence"), [
    (lambda: View(id=1, drop_id=2, field_deg=0), "greater than 0"),
    (lambda: View(id=1, drop_id=2, field_deg=360.5), "less than or equal to 360"),
    (lambda: View(id=1, drop_id=2, field_deg=50, narrowest_deg=60), "more than the 50° set"),
    (lambda: View(id=1, drop_id=2, focal_mm=4), "needs both the focal length and the width"),
    (lambda: Target(id=1, name="x", floor_id=4, shape="line", points=((0, 0), (0, 0))), "the line has no length"),
    (lambda: Target(id=1, name="x", floor_id=4, shape="area", points=((0, 0), (1, 0))), "three corners or more"),
    (lambda: Target(id=1, name="x", floor_id=4, shape="area", points=((0, 0), (1, 1), (1, 0), (0, 1))), "must not cross itself"),
    (lambda: Opening(id=1, floor_id=4, x_m=0, y_m=0, sill_m=2, head_m=1), "must be above its sill"),
])  # fmt: skip
def test_what_cannot_be_is_refused_with_a_sentence(row, sentence):
    with pytest.raises(ValueError, match=sentence):
        row()
    assert View(id=1, drop_id=2, field_deg=360).field_deg == 360
