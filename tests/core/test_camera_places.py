"""Best places for cameras, against enumeration of every set of mounts, aims and cameras."""

import itertools
import math
from collections import Counter

import numpy as np
import pytest

from baugrund.core.edits import apply_edits
from baugrund.core.facts.building import Building, Closet, Floor, Room
from baugrund.core.facts.catalogue import Catalogue
from baugrund.core.facts.lines.bracket import Bracket
from baugrund.core.facts.lines.camera import Camera
from baugrund.core.facts.lines.lens import Lens as LensLine
from baugrund.core.facts.project import empty_project
from baugrund.core.facts.sight import Target
from baugrund.core.facts.walls import Opening
from baugrund.core.footage.apart import chosen_apart
from baugrund.core.physics.optics import Lens
from baugrund.core.sight.lenses import lenses
from baugrund.core.sight.lines import CLEAR, hidden_by
from baugrund.core.sight.mounts import mounts_of
from baugrund.core.sight.scene import scene
from baugrund.core.sight.targets import in_space, targets_of
from baugrund.core.siting import cameras as places
from baugrund.core.siting import covering
from baugrund.core.siting.cameras import best_views
from baugrund.core.standards.detail import PX_PER_M
from baugrund.core.watch import to_the_end


def line(key, price, across=1920, field=90.0, form="turret", **more):
    return Camera(key=key, name=key, price_minor=price, camera_form=form, across_px=across, down_px=across * 9 // 16,
                  field_deg=field, draw_w=6.0, outdoor=True, **more)  # fmt: skip


def prices(*lines):
    return Catalogue(name="List", currency="EUR", priced_on="2026-01-01", models=lines)


def house(*targets, openings=()):
    """Two rooms of 6 × 5 m beside each other."""
    rooms = tuple(
        Room(id=10 + n, name=name, floor_id=3, outline=((x, 0.0), (x + 6, 0.0), (x + 6, 5.0), (x, 5.0)))
        for n, (name, x) in enumerate((("Shop", 0.0), ("Store", 6.0)))
    )
    return empty_project("House", 2026).changed(
        buildings=(Building(id=2, name="House"),), floors=(Floor(id=3, building_id=2, name="Ground", height_m=2.6),),
        rooms=rooms, closets=(Closet(id=1, name="Closet", room_id=10),), targets=targets, openings=tuple(openings),
        next_id=1000,
    )  # fmt: skip


def target(number, *points, shape="spot", detail="recognise"):
    return Target(id=number, name=f"T{number}", floor_id=3, shape=shape, points=points, detail=detail)


TARGETS = (
    target(20, (1.0, 1.0)), target(21, (5.5, 4.5)), target(22, (11.0, 1.0), detail="identify"),
    target(23, (7.0, 4.0), (8.0, 4.0), shape="line"),
    target(24, (2.0, 2.0), (4.0, 2.0), (4.0, 3.5), (2.0, 3.5), shape="area", detail="observe"),
)  # fmt: skip


def offers(project, catalogue):
    """Every camera on every mount looking every way, what it covers and what it costs, computed here."""
    rows = covering.rows_of(project)
    forms, mounts = covering.cameras_of(catalogue), mounts_of(project)
    priced = places._run_prices(project, mounts)
    raised = 0.0
    for number, mount in enumerate(mounts):
        eye = np.array([mount.x_m, mount.y_m, mount.z_m])
        ways = rows.points - eye
        clear = hidden_by(eye, None, rows.points, scene(project)) == CLEAR
        for form in forms:
            for bearing, tilt in covering.aims_from(project, mount, ways, clear, rows):
                if not covering.suits(form.line, mount) or not covering.faces_away(project, mount, bearing):
                    continue
                lens = Lens(*eye, bearing, tilt, form.frame)
                covered = set()
                for one in project.targets:
                    points = in_space(one, raised)
                    seen = [
                        lens.has_in_frame(point[None, :] - eye)[0]
                        and hidden_by(eye, None, point[None, :], scene(project))[0] == CLEAR
                        and form.frame.px_per_m(math.dist(point, eye)) >= PX_PER_M[one.detail]
                        for point in points
                    ]
                    if one.shape == "area":
                        covered |= {(one.id, n) for n, sees in enumerate(seen) if sees}
                    elif all(seen):
                        covered.add((one.id, 0))
                if covered:
                    yield number, frozenset(covered), form.line.price_minor + priced[number][1]


def enumerated(project, catalogue):
    """The fewest cameras, and the least price, over all sets of up to three."""
    wanted = frozenset(
        (one.id, n) for one in project.targets for n in range(len(in_space(one, 0.0)) if one.shape == "area" else 1)
    )
    best = {}
    for mount, covered, price in offers(project, catalogue):
        key = (mount, covered)
        best[key] = min(price, best.get(key, price))
    some = [(mount, covered, price) for (mount, covered), price in best.items()]
    some = [one for one in some if not any(o[0] == one[0] and o[1] > one[1] and o[2] <= one[2] for o in some)]
    coverable = frozenset().union(*(covered for _, covered, _ in some))
    wanted &= coverable
    fewest = cheapest = None
    for count in (1, 2, 3):
        for chosen in itertools.combinations(some, count):
            if len({mount for mount, _, _ in chosen}) < count:
                continue
            if wanted <= frozenset().union(*(covered for _, covered, _ in chosen)):
                price = sum(one[2] for one in chosen)
                fewest = min(fewest or (count, price), (count, price))
                cheapest = min(cheapest or (price, count), (price, count))
    return fewest, cheapest


@pytest.mark.parametrize("some", [TARGETS[:2], TARGETS[1:4], (TARGETS[0], TARGETS[4]), TARGETS[2:4]])
def test_the_fewest_and_the_least_price_are_those_of_enumeration(some, monkeypatch):
    monkeypatch.setattr(covering, "AIMS", 6)
    monkeypatch.setattr(covering, "COMPASS_DEG", 60.0)
    project, catalogue = (
        house(*some),
        prices(line("near", 9_000, field=100.0), line("far", 16_000, across=3840, field=60.0)),
    )
    found = to_the_end(best_views(project, catalogue))
    fewest, cheapest = enumerated(project, catalogue)
    by_wish = {answer.aim: answer for answer in found.answers}
    assert (len(by_wish["fewest"].cameras), by_wish["fewest"].price_minor) == fewest
    assert (by_wish["least_price"].price_minor, len(by_wish["least_price"].cameras)) == cheapest
    assert all(answer.proven for answer in found.answers)
    counts = [one.targets for one in found.at_most]
    assert counts == sorted(counts) and counts[-1] == len(some) - len(found.unmet)


def test_an_answer_that_is_taken_meets_what_it_promised_in_one_step():
    project = house(*TARGETS, openings=[Opening(id=50, floor_id=3, kind="door", x_m=6.0, y_m=2.5)])
    found = to_the_end(
        best_views(project, prices(line("near", 9_000, field=100.0), line("far", 16_000, across=3840, field=60.0)))
    )
    assert found.unmet == ()
    for answer in found.answers:
        taken = apply_edits(project, answer.edits)
        assert all(target.met for target in targets_of(taken)), answer.aim
        assert len(taken.drops) == len(answer.cameras)
        again = to_the_end(
            best_views(taken, prices(line("near", 9_000, field=100.0), line("far", 16_000, across=3840, field=60.0)))
        )
        moved = next(one for one in again.answers if one.aim == answer.aim)
        assert len(moved.cameras) <= len(answer.cameras)
        assert len(apply_edits(taken, moved.edits).drops) == len(taken.drops), "cameras move, and are not made again"


def test_a_target_that_no_mount_sees_is_said_and_the_others_are_met():
    hidden = target(25, (30.0, 30.0))
    found = to_the_end(best_views(house(TARGETS[0], hidden), prices(line("near", 9_000))))
    assert found.unmet == (25,)
    assert found.answers[0].cameras[0].target_ids == (20,)


def test_without_targets_cameras_or_rooms_it_says_what_is_missing():
    assert "draw a target" in to_the_end(best_views(house(), prices(line("near", 1)))).why_not
    assert (
        "no camera in stock"
        in to_the_end(best_views(house(TARGETS[0]), prices(line("near", 1, in_stock=False)))).why_not
    )
    bare = house(TARGETS[0]).changed(
        rooms=(Room(id=10, name="Shop", floor_id=3), Room(id=11, name="Store", floor_id=3))
    )
    assert "no room is drawn" in to_the_end(best_views(bare, prices(line("near", 1)))).why_not


def test_a_form_with_a_handle_hangs_out_of_reach_and_a_round_one_under_a_ceiling():
    project = house(TARGETS[0])
    found = to_the_end(best_views(project, prices(line("stick", 1, form="bullet", surfaces=("wall",)))))
    assert found.answers == (), "no wall of 2.6 m is high enough"
    found = to_the_end(
        best_views(
            project,
            prices(
                line("round", 1, form="fisheye", field=180.0, projection="round", across=4000, surfaces=("ceiling",))
            ),
        )
    )
    assert {one.on for one in found.answers[0].cameras} == {"ceiling"}


def bracket(price=1_000, holds=1, reach_m=0.3, **more):
    return Bracket(key="arm", name="Arm", price_minor=price, surfaces=("wall",), camera_forms=("dome",),
                   reach_m=reach_m, holds=holds, **more)  # fmt: skip


def fewest_of(project, *lines):
    found = to_the_end(best_views(project, prices(*lines)))
    return next((one for one in found.answers if one.aim == "fewest"), None)


def test_a_bracket_holds_a_camera_where_it_does_not_suit_the_wall_and_is_paid_for():
    dome = line("dome", 9_000, form="dome", surfaces=("pole",))
    assert fewest_of(house(TARGETS[0]), dome) is None
    held = fewest_of(house(TARGETS[0]), dome, bracket())
    (camera,) = held.cameras
    assert (camera.bracket, held.price_minor) == ("arm", camera.camera_minor + camera.run_minor + 1_000)
    taken = apply_edits(house(TARGETS[0]), held.edits)
    (placed,) = lenses(taken)
    assert placed.view.bracket_m == pytest.approx(0.3, abs=0.001)
    assert (round(placed.lens.x_m, 2), round(placed.lens.y_m, 2)) == (round(camera.x_m, 2), round(camera.y_m, 2))
    assert all(target.met for target in targets_of(taken))


def test_a_bracket_for_two_is_paid_once_and_never_holds_three():
    # one narrow camera a target, all from the only wall that is offered
    spots = [target(20 + n, (x, 4.6), detail="identify") for n, x in enumerate((0.6, 5.4, 3.0))]
    project, dome = house(*spots), line("dome", 9_000, form="dome", surfaces=("pole",), field=30.0, across=3840)
    answer = to_the_end(best_views(project, prices(dome, bracket(price=100_000, holds=2)))).answers[-1]
    on_one = Counter((camera.x_m, camera.y_m) for camera in answer.cameras)
    assert max(on_one.values()) == 2, "a dear bracket is shared"
    bought = sum(camera.camera_minor + camera.run_minor for camera in answer.cameras)
    assert answer.price_minor == bought + 100_000 * len(on_one)
    taken = apply_edits(project, answer.edits)
    told = {one.model: one.quantity for one in chosen_apart(taken, prices(dome, bracket(price=100_000, holds=2)))}
    assert told == {"dome": len(answer.cameras), "arm": len(on_one)}


def test_a_body_sees_by_each_lens_that_fits_it():
    body = Camera(key="body", name="Body", price_minor=5_000, camera_form="dome", across_px=3840, down_px=2160,
                  draw_w=6.0, lens_mount="CS", sensor_mm=7.2)  # fmt: skip
    near, far, other = (
        LensLine(key=key, name=key, price_minor=price, lens_mount=mount, focal_mm=focal)
        for key, price, mount, focal in (("near", 2_000, "CS", 3.6), ("far", 1_000, "CS", 12.0), ("other", 1, "C", 3.6))
    )
    forms = {form.lens.key: form for form in covering.cameras_of(prices(body, near, far, other))}
    assert set(forms) == {"near", "far"}
    assert forms["near"].frame.across_deg == pytest.approx(90.0)
    assert forms["far"].frame.across_deg == pytest.approx(2 * math.degrees(math.atan(7.2 / 24)))
    assert forms["near"].price_minor == 7_000
    with pytest.raises(ValueError, match="needs its angle"):
        Camera(key="a", name="A", price_minor=1, camera_form="dome", across_px=100, down_px=100, draw_w=1.0)
    with pytest.raises(ValueError, match="width of its sensor"):
        Camera(key="a", name="A", price_minor=1, camera_form="dome", across_px=100, down_px=100, draw_w=1.0,
               lens_mount="C")  # fmt: skip
    with pytest.raises(ValueError, match="longest focal length"):
        LensLine(key="z", name="Z", price_minor=1, lens_mount="C", focal_mm=5, longest_mm=4)
    taken = apply_edits(house(TARGETS[0]), fewest_of(house(TARGETS[0]), body, near).edits)
    assert [one.model for one in chosen_apart(taken, prices(body, near))] == ["body", "near"]
