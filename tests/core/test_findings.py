"""Findings that come from the list alone: each shows, points to its drops, and what settles it settles it."""

import pytest

from baugrund.core.edits import AddDrops, AddRooms, ChangeDrops, ChangeSettings, DropChanges, NewRoom, apply_edits
from baugrund.core.facts.project import empty_project
from baugrund.core.findings import WEIGHTS, SiteState, findings

from .small import line, planned

ROOMS = AddRooms(rooms=(NewRoom(name="Hall", floor="Ground"), NewRoom(name="Attic", floor="Top"),
                        NewRoom(name="Yard", floor="Outside", outside=True)))  # fmt: skip
LINE = line("L", 100, 10, way_planned=True)


def site(*edits):
    return apply_edits(empty_project("S", 2026), [ROOMS, LINE, *edits])


def found(project, key):
    return next((f for f in findings(SiteState(project, {}, {})) if f.key.startswith(key)), None)


def test_an_empty_list_has_nothing_to_find():
    assert findings(SiteState(site(), {}, {})) == ()


def test_outside_on_indoor_cable_is_one_finding_a_place_and_is_settled_at_once():
    indoor = DropChanges(outdoor_jacket=False)
    project = site(AddDrops(room="Yard", kind="camera", count=2, changes=indoor))
    finding = found(project, "jacket")
    assert (finding.weight, finding.subject, len(finding.drop_ids)) == ("breaks", "Yard", 2)
    assert "licensed person" in finding.text
    assert found(apply_edits(project, [finding.settle.edit]), "jacket") is None


def test_a_missing_line_and_a_missing_spare_are_notes():
    project = site(AddDrops(room="Hall", kind="desk", count=8))
    without = apply_edits(empty_project("S", 2026), [ROOMS, AddDrops(room="Hall", kind="desk")])
    assert found(without, "no-line").weight == "note"
    assert found(project, "no-line") is None
    assert found(project, "no-spare").text == "no drop is kept spare on Ground, Top."
    spare = AddDrops(room="Attic", kind="jack", changes=DropChanges(in_use=False))
    assert found(apply_edits(project, [spare]), "no-spare").text == "no drop is kept spare on Ground."


@pytest.mark.parametrize(
    ("category", "powered", "shown"), [("5", True, True), ("5", False, False), ("5e", True, False)]
)
def test_power_over_old_cable_strains(category, powered, shown):
    kind = "camera" if powered else "desk"
    project = site(AddDrops(room="Hall", kind=kind, changes=DropChanges(category=category, speed_mbit=100)))
    assert (found(project, "category-5") is not None) is shown


def test_watts_without_margin_strain_until_a_margin_is_taken():
    bare = site(AddDrops(room="Hall", kind="camera"), ChangeSettings(changes={"margin_percent": 0}))
    finding = found(bare, "margin")
    assert finding.weight == "strains"
    assert apply_edits(bare, [finding.settle.edit]).settings.margin == 20
    by_class = ChangeSettings(changes={"school": "class"})
    assert found(apply_edits(bare, [by_class]), "margin") is None


def test_runs_that_cannot_be_measured_yet_are_counted():
    project = site(AddDrops(room="Hall", kind="desk", count=3))
    assert found(project, "runs").text.startswith("3 runs cannot be measured")
    measured = ChangeDrops(ids=tuple(d.id for d in project.drops), changes=DropChanges(run_m=9))
    assert found(apply_edits(project, [measured]), "runs") is None


def test_growth_of_a_kind_that_is_not_there_yet_is_said():
    project = site(AddDrops(room="Hall", kind="desk"), planned(kind="camera", count=3, years=2))
    assert "3 planned for 2028, none today" in found(project, "addition").text


def test_the_heaviest_come_first():
    indoor = DropChanges(outdoor_jacket=False)
    project = site(AddDrops(room="Yard", kind="camera", count=9, changes=indoor))
    weights = [WEIGHTS.index(finding.weight) for finding in findings(SiteState(project, {}, {}))]
    assert weights == sorted(weights)
    assert len(weights) >= 4
