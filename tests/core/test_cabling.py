"""Cable: heat, fill, bundles and boxes, against the worked figures of the reference and brute force."""

from __future__ import annotations

from itertools import permutations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from baugrund.core.cabling.cables import cable_list
from baugrund.core.cabling.fill import filled
from baugrund.core.cabling.packing import EXACT_MOST, lower_bound, pack, steps
from baugrund.core.edits import AddDrops, AddEntry, ChangeEntry, DropChanges, apply_edits
from baugrund.core.findings import reach as checks
from baugrund.core.findings.finding import SiteState
from baugrund.core.standards.cabling import bundle_mm, conduit_holds, longest_link_m
from tests.core.test_reach import drop, hall, path


@pytest.mark.parametrize(
    ("celsius", "screened", "metres"),
    [(20, False, 90), (-10, False, 90), (40, False, 82.8), (50, False, 77.4), (50, True, 84.6), (60, False, 72.0)],
)
def test_heat_shortens_a_link_as_iso_11801_says(celsius, screened, metres):
    assert longest_link_m(celsius, screened=screened) == pytest.approx(metres)


@pytest.mark.parametrize(
    ("inner", "cable", "count"),
    [(26.6, 6, 7), (8.3, 6, 1), (8.2, 6, 0), (15.3, 6, 2), (15.2, 6, 1), (16.5, 6, 3), (16.4, 6, 2)],
)
def test_a_conduit_holds_what_the_fill_shares_allow(inner, cable, count):
    assert conduit_holds(inner, cable) == count


def test_a_bundle_of_24_cables_is_35_mm_thick():
    assert bundle_mm([6.0] * 24) == pytest.approx(35.3, abs=0.05)


@pytest.mark.parametrize(
    ("lengths", "boxes"),
    [
        ([77] * 7, 3),
        ([85, 84, 84, 71, 64, 61, 61, 53, 28], 2),
        ([305], 1),
        ([152.5, 152.5], 1),
        ([153, 152.5], 2),
        ([], 0),
    ],
)
def test_boxes_are_never_spliced(lengths, boxes):
    packed = pack(lengths, 305)
    assert (len(packed.boxes), packed.bound) == (boxes, boxes)
    assert sorted(n for box in packed.boxes for n in box) == list(range(len(lengths)))


def test_a_run_longer_than_a_box_is_refused():
    with pytest.raises(ValueError, match=r"305.5 m is longer than a box of 305 m"):
        pack([305.5], 305)


def fewest(items, size):
    """By brute force: every order, filled box after box."""
    best = len(items)
    for order in set(permutations(items)):
        boxes, left = 1, size
        for item in order:
            if item > left:
                boxes, left = boxes + 1, size
            left -= item
        best = min(best, boxes)
    return best


@given(st.lists(st.integers(4, 40), min_size=1, max_size=7))
@settings(max_examples=150, deadline=None)
def test_packing_is_as_good_as_brute_force_and_its_bound_holds(halves):
    packed = pack([half / 2 for half in halves], 20)
    best = fewest(halves, 40)
    assert len(packed.boxes) == best == packed.bound
    assert lower_bound(sorted(halves, reverse=True), 40) <= best
    for box in packed.boxes:
        assert sum(halves[n] for n in box) <= 40


@given(st.lists(st.floats(5, 95), min_size=1, max_size=130))
@settings(max_examples=25, deadline=None)
def test_every_run_is_cut_once_and_every_list_of_usual_size_is_proven(lengths):
    packed = pack(lengths, 305)
    assert sorted(n for box in packed.boxes for n in box) == list(range(len(lengths)))
    assert all(sum(steps(lengths[n]) for n in box) <= 610 for box in packed.boxes)
    assert packed.proven
    assert len(lengths) <= EXACT_MOST


def ten_in_a_conduit(inner_mm, **more):
    project = path(hall(), (1, 1), (21, 1), kind="conduit", inner_mm=inner_mm, **more)
    project = drop(project, 21, 1)
    copies = [AddDrops(room=project.rooms[0].id, kind="desk", count=9, changes=DropChanges(x_m=21, y_m=1))]
    return apply_edits(project, copies)


@pytest.mark.parametrize(("inner_mm", "weight"), [(29.9, "breaks"), (30.1, "strains"), (33.4, "strains"), (33.6, None)])
def test_a_conduit_too_full_breaks_and_one_nearly_full_strains(inner_mm, weight):
    """Ten cables of 6 mm take 360 mm²: all of 0.4 x 30²; 80 % of 0.4 x 33.54²."""
    project = ten_in_a_conduit(inner_mm)
    (held,) = filled(project).values()
    assert held.used == pytest.approx(360 / (0.4 * inner_mm**2))
    found = list(checks.filled_over(SiteState(project, (), None)))
    assert [finding.weight for finding in found] == ([weight] if weight else [])


def test_long_pulls_and_many_bends_are_told_and_a_pull_point_settles_them():
    def told(**values):
        project = path(hall(), (1, 1), (11, 1), (11, 6), (16, 6), (16, 9), kind="conduit", **values)
        return [finding.text for finding in checks.pulled(SiteState(drop(project, 16, 9), (), None))]

    assert "3 right angles" in told()[0]
    long = drop(path(hall(), (1, 1), (31.1, 1), kind="conduit"), 31, 1)
    assert "30.1 m between pull points" in next(checks.pulled(SiteState(long, (), None))).text
    boxed = drop(path(hall(), (1, 1), (31.1, 1), kind="conduit", pull_points=1), 31, 1)
    assert not list(checks.pulled(SiteState(boxed, (), None)))


def test_a_run_through_a_hot_path_counts_for_more_than_it_is_long():
    """85 m, seven eighths of it at 50 °C, where 77.4 m is all that is left of 90."""
    project = drop(path(hall(), (1, 1), (39, 1), temperature_c=50, height_m=2.6), 39, 1, run_m=85)
    (finding,) = checks.too_long(SiteState(project, (), None))
    assert finding.key == f"warm-link-{project.drops[0].id}"
    assert "50 °C" in finding.text
    cool = ChangeEntry(list="paths", id=project.paths[0].id, changes={"temperature_c": 20})
    assert not list(checks.too_long(SiteState(apply_edits(project, [cool]), (), None)))


@pytest.mark.parametrize(("metres", "told"), [(90.0, 0), (90.1, 1)])
def test_ninety_metres_hold_and_no_more(metres, told):
    project = drop(hall(), 11, 6, run_m=metres)
    assert len(list(checks.too_long(SiteState(project, (), None)))) == told


def test_a_big_warm_bundle_strains_and_says_that_it_is_an_estimate():
    project = path(hall(), (1, 1), (30, 1), height_m=2.6, temperature_c=55)
    hot = DropChanges(x_m=30, y_m=1, poe_class=6, draw_w=51)
    project = apply_edits(project, [AddDrops(room=project.rooms[0].id, kind="access_point", count=200, changes=hot)])
    (finding,) = checks.warm(SiteState(project, (), None))
    assert "An estimate; the local code may set a lower limit" in finding.text
    few = path(hall(), (1, 1), (30, 1), height_m=2.6, temperature_c=55)
    few = apply_edits(few, [AddDrops(room=few.rooms[0].id, kind="access_point", count=5, changes=hot)])
    assert not list(checks.warm(SiteState(few, (), None)))


def test_mains_beside_a_used_path_are_told():
    project = drop(path(hall(), (1, 1), (21, 1), with_mains=True), 21, 3)
    (finding,) = checks.beside_mains(SiteState(project, (), None))
    assert "keep data and mains apart" in finding.text
    assert finding.path_id == project.paths[0].id


def test_existing_cable_is_told_what_it_carries_still():
    project = drop(hall(), 11, 6, category="5e", speed_mbit=10_000, existing=True, run_m=40)
    (finding,) = checks.too_slow(SiteState(project, (), None))
    assert "carries that much still" in finding.text
    assert finding.settle.label == "Be content with 5 G"
    settled = apply_edits(project, [finding.settle.edit])
    assert not list(checks.too_slow(SiteState(settled, (), None)))


def test_cable_is_bought_by_type_and_colour_and_existing_cable_is_not():
    project = hall()
    room = project.rooms[0].id
    project = apply_edits(
        project,
        [
            AddDrops(room=room, kind="desk", count=3, changes=DropChanges(run_m=50)),
            AddDrops(room=room, kind="camera", count=2, changes=DropChanges(run_m=60.2)),
            AddDrops(room=room, kind="jack", changes=DropChanges(run_m=20, existing=True)),
            AddEntry(list="colours", values={"kind": "camera", "colour": "green"}),
            AddEntry(list="cables", values={"category": "6", "box_m": 100, "price_minor": 4000}),
        ],
    )
    lines = {line.colour: line for line in cable_list(project)}
    assert set(lines) == {"", "green"}
    desks, cameras = lines[""], lines["green"]
    assert (desks.runs, len(desks.boxes), desks.total_minor) == (3, 2, 8000)
    assert [[(cut.from_m, cut.to_m) for cut in box.cuts] for box in cameras.boxes] == [[(0, 60.5)], [(0, 60.5)]]
    assert [box.rest_m for box in cameras.boxes] == [39.5, 39.5]


def test_a_run_longer_than_its_box_is_named_and_the_rest_is_packed():
    project = drop(drop(hall(), 5, 5, run_m=400), 6, 6, run_m=40)
    (line,) = cable_list(project)
    assert line.too_long == (project.drops[0].id,)
    assert [cut.drop_id for box in line.boxes for cut in box.cuts] == [project.drops[1].id]
