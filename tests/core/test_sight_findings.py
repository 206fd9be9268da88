"""What is said of views and targets, each check from both sides of its limit, by figures worked out here."""

import math

import pytest

from baugrund.core.facts.brief import Goal
from baugrund.core.facts.building import Room
from baugrund.core.facts.catalogue import Catalogue
from baugrund.core.facts.lines.bracket import Bracket
from baugrund.core.facts.lines.camera import Camera
from baugrund.core.facts.lines.lens import Lens
from baugrund.core.facts.sight import Plot, Target
from baugrund.core.facts.walls import Opening
from baugrund.core.findings import SiteState
from baugrund.core.findings import sight as checks
from baugrund.core.sight.models import forms_of, offers_of
from tests.core.test_sight import SQUARE, camera, site, spot, view, wall

TURNING = Camera(key="turning", name="Turning", price_minor=20_000, camera_form="pan_tilt", across_px=2688,
                 down_px=1520, field_deg=60.0, draw_w=15.0, pan_deg=90.0, tilt_turn_deg=40.0)  # fmt: skip
ARM = Bracket(key="arm", name="Arm", price_minor=1_000, surfaces=("wall", "pole"), camera_forms=("dome", "turret"),
              reach_m=0.3)  # fmt: skip
LIST = Catalogue(name="List", currency="EUR", priced_on="2026-01-01", models=(TURNING, ARM))


def said(check, project, catalogue=None):
    return list(check(SiteState(project, {}, {}, catalogue)))


@pytest.mark.parametrize(
    ("drops", "more", "sentence"),
    [
        ((), {}, "no camera has it in its frame; recognise, 125 px/m, is wanted."),
        # 1344 px/m at 1 m, and 13.07 m from the lens in space
        ((camera(),), {}, "Camera, Yard gives 103 px/m there, observe; recognise, 125 px/m, is wanted."),
        ((camera(),), {"walls": [wall(y=12.0, to_y=12.0, height_m=3.0)]},
         "no camera sees it; Camera, Yard has it in its frame, and a free-standing wall hides it. recognise, 125 "
         "px/m, is wanted."),
    ],
)  # fmt: skip
def test_a_target_that_no_camera_meets_says_what_is_missing(drops, more, sentence):
    looks = [view(tilt_deg=8)] if drops else []
    project = site(drops=drops, views=looks, targets=[spot(0.0, 7.0)], **more)
    (finding,) = said(checks.targets, project)
    assert (finding.text, finding.weight, finding.subject) == (sentence, "strains", "Spot")
    asked = project.changed(goals=(Goal(id=40, kind="image", target_ids=(30,)),))
    assert said(checks.targets, asked)[0].weight == "breaks", "a goal of the camera image asks for it"
    for_others = project.changed(
        targets=(spot(0.0, 7.0), spot(0.0, 17.0, 31)), goals=(Goal(id=40, kind="image", target_ids=(31,)),)
    )
    assert next(one for one in said(checks.targets, for_others) if one.key == "target-30").weight == "strains"


def test_a_line_that_is_seen_in_part_says_how_much_and_where_the_rest_is():
    # 90° across at 5 m ahead shows 5.2 m to either side at the height of a face; 7 of 13 points of the line
    door = Target(id=30, name="Front", floor_id=4, shape="line", points=((4.0, 15.0), (7.0, 15.0)), detail="observe")
    (finding,) = said(checks.targets, site(drops=[camera()], views=[view(tilt_deg=16)], targets=[door]))
    seen = sum(0.25 * n + 4.0 <= 5 * math.cos(math.radians(16)) + 1.4 * math.sin(math.radians(16)) for n in range(13))
    assert finding.text.startswith(f"Camera, Yard sees {seen / 13:.0%} of its points, the rest is beside its frame;")


def test_faces_are_not_recognised_from_over_thirty_degrees():
    at_limit = 1.4 / math.tan(math.radians(30))
    for away, steep in ((at_limit + 0.001, False), (at_limit - 0.01, True)):
        project = site(drops=[camera()], views=[view(tilt_deg=30)], targets=[spot(0.0, 20.0 - away)])
        found = [one.key for one in said(checks.targets, project)]
        assert found == (["steep-30"] if steep else []), away
    lower = site(
        drops=[camera()], views=[view(tilt_deg=30)], targets=[spot(0.0, 20.0 - at_limit + 0.01, detail="observe")]
    )
    assert not said(checks.targets, lower), "who only observes need not see a face"


def test_a_wall_before_the_lens_takes_its_view_and_throws_its_light_back():
    def keys(away, **looks):
        project = site(drops=[camera(y=15.0 + away)], views=[view(**looks)], walls=[wall(height_m=3.5)])
        return [one.key for one in said(checks.near_walls, project)]

    # nearer than 2 m over twice acos(d/2): a quarter of 90° from d = 2·cos(11.25°) on
    at_quarter = 2 * math.cos(math.radians(11.25))
    assert keys(at_quarter + 0.001) == []
    assert keys(at_quarter - 0.001) == ["near-wall-10-20"]
    assert keys(0.499) == ["near-wall-10-20", "glare-10-20"]
    assert keys(0.501) == ["near-wall-10-20"]
    assert keys(0.499, light_m=0) == ["near-wall-10-20"], "a camera without a light has none thrown back"


def test_a_ceiling_in_the_frame_throws_light_back():
    # half of the angle down is 29.4°: a tilt under that has the ceiling in the frame
    def keys(height, tilt):
        inside = camera(room=5, x=4.0, y=3.0, height=height, place="ceiling")
        return [one.key for one in said(checks.near_walls, site(drops=[inside], views=[view(tilt_deg=tilt)]))]

    assert keys(2.9, 10.0) == ["glare-10-20"]
    assert keys(2.9, 35.0) == []
    assert keys(2.5, 10.0) == [], "at half a metre under it the light has spread"


def test_a_form_with_a_handle_hangs_out_of_reach():
    for form, height, told in (("bullet", 2.7, 0), ("bullet", 2.69, 1), ("pan_tilt", 2.69, 1), ("dome", 2.0, 0)):
        found = said(checks.mounts, site(drops=[camera(variant=form, height=height)]))
        assert len(found) == told, (form, height)
    assert "hangs at 2 m, where hands reach (under 2.7 m)" in said(
        checks.mounts, site(drops=[camera(variant="bullet", height=2.0)])
    )[0].text  # fmt: skip


def test_a_lens_over_its_ceiling_breaks_and_one_outside_has_none():
    inside = {"room": 5, "x": 4.0, "y": 3.0, "place": "ceiling"}
    assert not said(checks.mounts, site(drops=[camera(height=3.0, **inside)]))
    (finding,) = said(checks.mounts, site(drops=[camera(height=3.01, **inside)]))
    assert (finding.key, finding.weight) == ("over-ceiling-10-0", "breaks")
    assert not said(checks.mounts, site(drops=[camera(height=6.0)]))


def test_cameras_that_nobody_placed_are_counted_once_there_are_targets():
    loose = [camera(number, x=None, y=None) for number in (10, 11)]
    assert not said(checks.mounts, site(drops=loose))
    (finding,) = said(checks.mounts, site(drops=loose, targets=[spot(0.0, 5.0)]))
    assert (finding.drop_ids, finding.weight) == ((10, 11), "note")
    assert finding.text == "2 cameras not placed on the plan yet: what they see is not told."


@pytest.mark.parametrize(
    ("bearings", "tilts", "told"),
    [
        ((0.0, 90.0), (20.0, 20.0), []),
        ((0.0, 90.6), (20.0, 20.0), ["aims-turns"]),
        # the shorter way round the circle counts, and the arc that holds all of them
        ((350.0, 70.0), (20.0, 20.0), []),
        ((0.0, 120.0, 240.0), (20.0, 20.0, 20.0), ["aims-turns"]),
        ((0.0, 0.0), (10.0, 50.0), []),
        ((0.0, 0.0), (10.0, 51.0), ["aims-tilts"]),
    ],
)
def test_aims_are_within_what_its_motor_turns(bearings, tilts, told):
    looks = [
        view(20 + n, bearing_deg=bearing, tilt_deg=tilt)
        for n, (bearing, tilt) in enumerate(zip(bearings, tilts, strict=True))
    ]
    project = site(drops=[camera(variant="pan_tilt", model="turning")], views=looks)
    assert [one.key.rsplit("-", 2)[0] for one in said(checks.turns, project, LIST)] == told
    assert not said(checks.turns, project), "without a price list nobody knows how far it turns"


def test_a_bracket_that_is_not_for_its_camera_is_told():
    for form, told in (("dome", 0), ("bullet", 1)):
        project = site(drops=[camera(variant=form, bracket_model="arm")], views=[view()])
        found = said(checks.turns, project, LIST)
        assert len(found) == told
    assert found[0].text == "Arm does not hold a bullet camera." and found[0].weight == "breaks"


def test_a_view_over_the_boundary_is_told_until_it_is_masked():
    # looking up the plan from y = 20, at the height of a face; the own ground ends at y = 10
    own = Plot(id=60, outline=((-30.0, 10.0), (40.0, 10.0), (40.0, 40.0), (-30.0, 40.0)))
    yard = (Room(id=6, name="Yard", floor_id=4, outside=True),)
    project = site(drops=[camera()], views=[view(tilt_deg=15)], rooms=yard).changed(plots=(own,))
    (finding,) = said(checks.privacy, project)
    assert finding.key == "boundary-10-20" and "local privacy law" in finding.text
    # what it sees at 1.6 m is a wedge of 90° cut off at 30 m: a sector less what is nearer than 10 m ahead
    beyond = int(finding.text.split()[1])
    radius = math.sqrt(30.0**2 - 1.4**2)
    half = math.atan(math.tan(math.radians(45)) / math.cos(math.radians(15)))
    assert beyond == pytest.approx(half * radius**2 - 10.0**2 * math.tan(half), rel=0.05)
    mask = ((-35.0, -20.0), (45.0, -20.0), (45.0, 10.0), (-35.0, 10.0))
    masked = site(drops=[camera()], views=[view(tilt_deg=15, masks=(mask,))], rooms=yard).changed(plots=(own,))
    assert not said(checks.privacy, masked)
    assert not said(checks.privacy, site(drops=[camera()], views=[view(tilt_deg=15)], rooms=yard)), (
        "no boundary is drawn"
    )


@pytest.mark.parametrize(("use", "width", "told"), [
    ("sleeping", 3.0, True), (None, 3.0, False), ("sleeping", None, False),
])  # fmt: skip
def test_a_view_into_a_room_where_people_sleep_is_told(use, width, told):
    bedroom = Room(id=5, name="Bedroom", floor_id=3, outline=SQUARE, **({"use": use} if use else {}))
    yard = Room(id=6, name="Yard", floor_id=4, outside=True)
    holes = [
        Opening(id=200, floor_id=3, kind="window", x_m=4.0, y_m=6.0, width_m=wide, sill_m=0.9, head_m=2.9)
        for wide in [width] if wide
    ]  # fmt: skip
    project = site(drops=[camera(x=4.0, y=9.0)], views=[view(tilt_deg=15)], rooms=(bedroom, yard),
                   openings=holes)  # fmt: skip
    found = said(checks.privacy, project)
    assert bool(found) is told
    if told:
        assert found[0].text.startswith("looks into Bedroom, where people sleep.")


def test_openings_in_no_wall_and_wider_than_theirs_are_told():
    def gate(y, width):
        return Opening(id=200, floor_id=4, kind="gate", x_m=0.0, y_m=y, width_m=width)

    for opening, told in ((gate(15.0, 10.0), None), (gate(15.0, 10.1), "is 10.1 m wide, wider than its wall"),
                          (gate(14.0, 1.0), "is in no wall, so it opens nothing")):  # fmt: skip
        found = said(checks.drawn, site(walls=[wall()], openings=[opening]))
        assert (told in found[0].text) if told else not found


def test_a_target_outside_every_room_of_its_floor_is_told():
    on_ground = Target(id=30, name="Till", floor_id=3, points=((8.0, 3.0),))
    assert not said(checks.drawn, site(targets=[on_ground]))
    (finding,) = said(checks.drawn, site(targets=[on_ground.model_copy(update={"points": ((8.1, 3.0),)})]))
    assert (finding.key, finding.weight) == ("target-outside-30", "note")


def body(**more):
    return Camera(**{"key": "body", "name": "Body", "price_minor": 5_000, "camera_form": "dome", "across_px": 3840,
                     "down_px": 2160, "draw_w": 6.0, "lens_mount": "CS", "sensor_mm": 7.2} | more)  # fmt: skip


def test_offers_are_every_camera_once_with_each_lens_that_fits_it():
    zoom = Lens(key="zoom", name="Zoom", price_minor=3_000, lens_mount="CS", focal_mm=3.6, longest_mm=12.0)
    other = Lens(key="other", name="Other", price_minor=1, lens_mount="C", focal_mm=3.6)
    catalogue = LIST.model_copy(update={"models": (TURNING, body(), zoom, other, ARM)})
    offers = offers_of(catalogue)
    assert [(one.model, one.lens) for one in offers.cameras] == [("turning", ""), ("body", "zoom")]
    taken = offers.cameras[1]
    assert (taken.name, taken.price_minor) == ("Body with Zoom", 8_000)
    assert taken.view["field_deg"] == pytest.approx(90.0)
    assert taken.view["narrowest_deg"] == pytest.approx(2 * math.degrees(math.atan(7.2 / 24)))
    assert taken.drop == {"variant": "dome", "poe_class": 3, "draw_w": 6.0, "megapixels": 8.3, "model": "body",
                          "lens_model": "zoom"}  # fmt: skip
    assert offers.cameras[0].view["narrowest_deg"] is None, "a lens that does not zoom has no narrowest angle"
    assert [(one.model, one.view) for one in offers.brackets] == [("arm", {"bracket_m": 0.3})]


def test_offers_say_what_is_out_of_stock_and_places_are_not_searched_with_it():
    lens = Lens(key="near", name="Near", price_minor=3_000, lens_mount="CS", focal_mm=3.6)
    for gone in ({"camera": False}, {"lens": False}):
        catalogue = LIST.model_copy(update={"models": (
            body(in_stock=gone.get("camera", True)), lens.model_copy(update={"in_stock": gone.get("lens", True)}),
        )})  # fmt: skip
        (offer,) = offers_of(catalogue).cameras
        assert not offer.in_stock
        assert forms_of(catalogue) == ()
        assert len(forms_of(catalogue, in_stock=False)) == 1
