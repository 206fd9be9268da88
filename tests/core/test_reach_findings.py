"""What is said of runs and paths: lost ways, copper between buildings, what goes outside, screens."""

from __future__ import annotations

from baugrund.core.edits import AddEntry, AddRooms, ChangeEntry, NewRoom, apply_edits
from baugrund.core.findings import findings
from baugrund.core.findings import reach as checks
from baugrund.core.findings.finding import Site
from tests.core.test_reach import TALL, drop, hall, path


def site(project):
    return Site(project, (), None)


def two_buildings():
    """The hall, a shed of its own beside it, and open ground between them."""
    project = apply_edits(hall(), [AddRooms(rooms=(NewRoom(name="Shed", floor="Shed floor", outline=TALL),))])
    project = apply_edits(project, [AddRooms(rooms=(NewRoom(name="Yard", floor="Yard", outside=True, outline=TALL),))])
    project = apply_edits(project, [AddEntry(list="buildings", values={"name": "Shed"})])
    floor = ChangeEntry(
        list="floors", id=project.floors[1].id, changes={"building_id": project.buildings[1].id, "level": 0}
    )
    return apply_edits(project, [floor])


def test_drops_that_no_path_leads_to_are_pointed_at_together():
    project = path(hall(floors=("Ground floor", "First floor")), (1, 1), (20, 1), floor=1)
    project = drop(drop(project, 20, 3, floor=1), 22, 3, floor=1)
    (finding,) = checks.lost(site(project))
    assert finding.weight == "strains"
    assert finding.drop_ids == tuple(one.id for one in project.drops)
    assert "and 1 more have no drawn way to the closet" in finding.text
    joined = path(path(project, (1, 1), to=1, kind="riser"), (1, 1), (1, 3))
    assert not list(checks.lost(site(joined)))


def test_a_path_that_joins_nothing_is_pointed_at_on_the_plan():
    project = path(path(path(hall(), (1, 1), (20, 1)), (20, 1), (20, 9)), (5, 15), (9, 15))
    (finding,) = checks.faults(site(project))
    assert finding.path_id == project.paths[2].id
    assert finding.subject == project.paths[2].name
    joined = path(project, (9, 15), (20, 15), (20, 9))
    assert not list(checks.faults(site(joined)))


def test_copper_to_another_building_strains_and_defers_to_a_licensed_person():
    project = drop(two_buildings(), 5, 5, floor=1)
    (finding,) = checks.between_buildings(site(project))
    assert finding.text.startswith("is wired in copper from another building")
    assert "licensed person" in finding.text
    far = apply_edits(project, [AddEntry(list="closets", values={"name": "Shed", "room_id": project.rooms[1].id})])
    from baugrund.core.edits import ChangeDrops, DropChanges

    there = ChangeDrops(ids=(project.drops[0].id,), changes=DropChanges(closet_id=far.closets[1].id))
    assert not list(checks.between_buildings(site(apply_edits(far, [there]))))


def test_a_run_that_crosses_the_yard_in_indoor_cable_breaks_until_its_jacket_is_changed():
    project = path(two_buildings(), (20, 1), to=2, kind="drilled")
    project = path(project, (20, 1), (20, 9), floor=2, kind="buried")
    project = drop(path(project, (20, 9), to=1, floor=2, kind="drilled"), 22, 9, floor=1)
    jacket, drip = checks.outside_runs(site(project))
    assert (jacket.weight, drip.weight) == ("breaks", "note")
    assert "drip loop" in drip.text
    settled = apply_edits(project, [jacket.settle.edit])
    assert [finding.key for finding in checks.outside_runs(site(settled))] == ["drip"]


def test_screens_are_to_be_earthed_by_a_licensed_electrician():
    project = drop(hall(), 5, 5, screened=True)
    (finding,) = checks.screens(site(project))
    assert "licensed electrician" in finding.text
    assert not list(checks.screens(site(drop(hall(), 5, 5))))


def test_every_finding_of_reach_points_at_a_drop_or_a_path(dye_works):
    said = [finding for finding in findings(site(dye_works)) if finding.verb == "reach"]
    assert said
    assert all(finding.drop_ids or finding.path_id for finding in said)
