"""The pull schedule: bundles, their order, hours, marks, labels and cautions; what goes in beside the cable."""

from __future__ import annotations

import itertools

import pytest

from baugrund.core.cabling.fill import filled
from baugrund.core.cabling.parts import INNER_MM, SPARE_FROM, part_list
from baugrund.core.cabling.pulls import schedule
from baugrund.core.edits import AddEntry, ChangeDrops, ChangeEntry, ChangeSettings, DropChanges, apply_edits
from baugrund.core.places.labels import labels
from baugrund.core.reach.runs import runs

from .test_reach import drop, hall, path


def trunk(**values):
    """A conduit from the closet along the hall with a branch; two desks at its end, one at the branch."""
    project = path(hall(), (1, 1), (31, 1), kind="conduit", height_m=2.5, name="Trunk", **values)
    project = path(project, (11, 1), (11, 15), height_m=2.5, name="Branch")
    return drop(drop(drop(project, 31, 2), 31, 3), 11, 14)


def test_what_runs_together_is_pulled_together_longest_first():
    bundles = schedule(trunk())
    assert [len(bundle.cables) for bundle in bundles] == [2, 1]
    both = bundles[0]
    assert both.way == ("Trunk",)
    assert [cable.length_m for cable in both.cables] == sorted((c.length_m for c in both.cables), reverse=True)
    assert both.shared_m == 30.0
    assert bundles[1].way == ("Trunk", "Branch")


def test_a_cable_that_shares_half_its_way_goes_along_and_parts_where_it_leaves():
    # to the branch 10 m of the trunk and 13 m of the branch: under half; to (11, 6) 10 and 5: over half
    project = drop(trunk(), 11, 6)
    first = schedule(project)[0]
    leaving = first.cables[-1]
    assert leaving.drop_id == project.drops[-1].id
    assert (leaving.leaves_m, leaving.leaves_at) == (10.0, "Trunk")


def test_a_further_cable_takes_less_where_they_run_together():
    project = trunk()
    both = schedule(project)[0]
    found = runs(project)
    loose = [
        sum(s.length_m for s in found[cable.drop_id].stretches if s.path_id is None and not s.is_loop)
        for cable in both.cables
    ]
    # one pull set up less; 30 m of conduit and the loose rest at 0.03 and 0.02 h for the first, 0.005 h for the further
    saved = 0.3 + 30 * (0.03 - 0.005) + min(loose) * (0.02 - 0.005)
    assert both.hours == pytest.approx(both.alone_h - saved, abs=0.01)
    slow = apply_edits(project, [AddEntry(list="path_rates", values={"kind": "conduit", "hours_per_m": 1.0})])
    assert schedule(slow)[0].hours > both.hours


def test_no_more_are_pulled_at_once_than_the_project_says():
    project = apply_edits(trunk(), [ChangeSettings(changes={"bundle_most": 1})])
    assert [len(bundle.cables) for bundle in schedule(project)] == [1, 1, 1]


def test_every_new_run_is_in_one_bundle_and_what_is_there_in_none(dye_works, row_house):
    for project in (dye_works, row_house):
        pulled = [cable.drop_id for bundle in schedule(project) for cable in bundle.cables]
        wanted = {d.id for d in project.drops if d.behind_id is None and not d.existing}
        assert sorted(pulled) == sorted(wanted)
        for bundle in schedule(project):
            assert bundle.hours <= bundle.alone_h + 1e-9
    there = apply_edits(row_house, [ChangeDrops(ids=(row_house.drops[0].id,), changes=DropChanges(existing=True))])
    assert row_house.drops[0].id not in {c.drop_id for b in schedule(there) for c in b.cables}


def test_marks_are_those_of_the_box_that_a_run_is_cut_from(dye_works):
    by_box = {}
    for bundle in schedule(dye_works):
        for cable in bundle.cables:
            assert cable.to_m - cable.from_m == pytest.approx(cable.cut_m)
            assert cable.length_m <= cable.cut_m < cable.length_m + 0.5
            by_box.setdefault(cable.box, []).append((cable.from_m, cable.to_m))
    for cuts in by_box.values():
        cuts.sort()
        assert all(end <= start for (_, end), (start, _) in itertools.pairwise(cuts))


def test_cautions_and_tools_are_those_of_the_paths_and_the_projects_own_stand_over_them():
    both = schedule(trunk())[0]
    assert "draw tape" in both.tools
    assert any("24 mm" in caution and "110 N" in caution for caution in both.cautions), "4 times 6.0 mm"
    assert both.strings == ("Trunk",)
    own = AddEntry(list="path_rates", values={"kind": "conduit", "tools": "rods", "caution": "Mind the boiler."})
    told = schedule(apply_edits(trunk(), [own]))[0]
    assert told.tools == ("rods",) and "Mind the boiler." in told.cautions


# ---- labels


def test_labels_follow_the_school_of_the_project_and_typed_ones_stand():
    project = trunk()
    first, second, _ = project.drops
    typed = apply_edits(project, [ChangeDrops(ids=(first.id,), changes=DropChanges(label="Gate"))])
    assert labels(typed)[first.id] == "Gate"
    assert labels(typed)[second.id] == f"{second.id:03d}"
    by_room = apply_edits(typed, [ChangeSettings(changes={"labels": "room"})])
    assert labels(by_room)[second.id] == "Ground floor 1"
    by_place = apply_edits(typed, [ChangeSettings(changes={"labels": "position"})])
    assert labels(by_place)[second.id] == f"0-1-{second.id:03d}"


def test_no_two_labels_read_the_same():
    project = trunk()
    ids = tuple(one.id for one in project.drops)
    same = apply_edits(project, [ChangeDrops(ids=ids, changes=DropChanges(label="Desk"))])
    assert len({text.casefold() for text in labels(same).values()}) == 3


# ---- parts by length


def counts(project, catalogue):
    return {line.name: (line.count, line.unit) for line in part_list(project, catalogue)}


def test_conduit_clips_and_draw_strings_follow_from_the_length(catalogue):
    found = counts(trunk(inner_mm=26.6), catalogue)
    assert found["conduit, 26.6 mm inside"] == (30, "m")
    assert found["conduit clip"] == (40, "")
    assert found["draw string"] == (33, "m")
    there = counts(trunk(inner_mm=26.6, existing=True), catalogue)
    assert "conduit, 26.6 mm inside" not in there and "conduit clip" not in there
    assert there["draw string"] == (33, "m"), "a string is left in what is there, too"


def test_conduit_that_nobody_sized_is_sized_with_growth(catalogue):
    """Three cables of 6 mm: sqrt(3 * 36 / 0.4) = 16.4 mm, the next is 16.9 mm; 5 % for 5 years add no whole cable, 7 %
    add one: sqrt(4 * 36 / 0.4) = 19.0 mm, the next is 21.4 mm."""
    assert "conduit, 16.9 mm inside" in counts(trunk(), catalogue)
    grown = apply_edits(trunk(), [ChangeSettings(changes={"growth_percent": 7.0})])
    assert "conduit, 21.4 mm inside" in counts(grown, catalogue)
    assert sorted(INNER_MM) == list(INNER_MM)


@pytest.mark.parametrize("inner", [23.2, 23.3])
def test_a_new_conduit_more_than_half_full_gets_a_spare_one(catalogue, inner):
    """Three cables of 6 mm: 108 / (0.4 * d²) is a half at 23.24 mm."""
    project = trunk(inner_mm=inner)
    used = filled(project)[project.paths[0].id].used
    assert (f"spare conduit, {inner:g} mm inside" in counts(project, catalogue)) == (used > SPARE_FROM)
    assert (used > SPARE_FROM) == (inner < 23.24)


def test_cords_and_jacks_of_the_closet_follow_the_school(catalogue):
    panel = counts(trunk(), catalogue)
    assert panel["panel jack"] == panel["cord 0.5 m, panel to switch"] == (3, "")
    straight = apply_edits(trunk(), [ChangeSettings(changes={"termination": "direct"})])
    assert counts(straight, catalogue)["field plug"] == (3, "")


def test_the_parts_of_links_stand_with_the_others(catalogue, dye_works):
    shed = next(room for room in dye_works.rooms if room.name == "Glaze shed")
    linked = apply_edits(dye_works, [AddEntry(list="closets", values={"name": "Shed", "room_id": shed.id})])
    links = [line for line in part_list(linked, catalogue) if line.group == "links"]
    assert {"strand finished at one end"} <= {line.name for line in links}
    copper = apply_edits(linked, [
        ChangeEntry(list="closets", id=linked.closets[1].id, changes={"link": "copper", "link_m": 60.0}),
    ])  # fmt: skip
    asked = [line for line in part_list(copper, catalogue) if line.group == "links"]
    assert "category 6" in asked[0].name and asked[0].count == 60
