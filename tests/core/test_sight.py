"""What cameras see, against trigonometry done apart and against lines of sight walked one by one."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import LineString, Point

from baugrund.core.facts.building import Building, Floor, Room
from baugrund.core.facts.drop import Drop
from baugrund.core.facts.project import empty_project
from baugrund.core.facts.sight import Target, View
from baugrund.core.facts.walls import Opening, Wall
from baugrund.core.physics.optics import Frame, Lens, field_deg, usual_projection
from baugrund.core.sight.cut import framed_at, seen_at
from baugrund.core.sight.lenses import lenses
from baugrund.core.sight.scene import scene
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
        return depth > 0 and abs(right / depth) <= most and abs(down / depth) <= most * lens.frame.down_px / lens.frame.across_px
    off = math.acos(max(-1.0, min(1.0, depth / math.dist((0, 0, 0), (depth, right, down)))))
    if lens.frame.projection == "round":
        return off <= half
    around = math.atan2(down, right)
    return abs(off * math.cos(around)) <= half and abs(off * math.sin(around)) <= half * lens.frame.down_px / lens.frame.across_px


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
             if math.dist((a, b), (c, d)) > 0.3 and LineString([(a, b), (c, d)]).distance(Point(0, 0)) > 0.15]  # fmt: skip
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
