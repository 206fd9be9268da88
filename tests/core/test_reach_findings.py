"""What is said of runs and paths: lost ways, copper between buildings, what goes outside, screens."""

from __future__ import annotations

from baugrund.core.edits import AddEntry, AddRooms, ChangeEntry, NewRoom, apply_edits
from baugrund.core.findings import findings
from baugrund.core.findings import reach as checks
from baugrund.core.findings.finding import SiteState
from tests.core.test_reach import TALL, drop, hall, path, run_of


def site(project):
    return SiteState(project, {}, {})


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


def test_a_building_with_no_way_in_is_named_and_its_drops_pointed_at():
    project = two_buildings()
    head = ChangeEntry(list="closets", id=1, changes={"room_id": project.rooms[0].id})
    project = apply_edits(project, [head])
    project = drop(drop(project, 5, 5, floor=1), 6, 6, floor=1)
    (finding,) = checks.no_way_in(site(project))
    assert (finding.subject, finding.drop_ids) == ("Shed", tuple(one.id for one in project.drops))
    assert "2 runs to it" in finding.text and "through the air" in finding.text
    joined = path(path(project, (1, 1), (4, 4), to=1, kind="buried"), (4, 4), (6, 4), floor=1)
    assert not list(checks.no_way_in(site(joined)))


def test_loops_are_named_and_runs_found_all_the_same():
    ring = path(hall(), (1, 1), (20, 1), (20, 9), (1, 9), (1, 1))
    (finding,) = checks.faults(site(ring))
    assert finding.weight == "note" and "a loop" in finding.text and finding.path_id == ring.paths[0].id
    crossed = path(hall(), (1, 1), (20, 9), (20, 1), (1, 9))
    (finding,) = checks.faults(site(crossed))
    assert "crosses itself" in finding.text
    assert run_of(drop(ring, 20, 9)).state == "paths"
    assert not list(checks.faults(site(path(hall(), (1, 1), (20, 1), (20, 9)))))


def test_new_powered_cable_of_category_5e_is_told_and_settled():
    powered = {"category": "5e", "poe_class": 4, "draw_w": 10.0}
    project = drop(drop(hall(), 5, 5, **powered), 6, 6, category="5e")
    (finding,) = checks.grades(site(project))
    assert (finding.weight, finding.drop_ids) == ("note", (project.drops[0].id,))
    settled = apply_edits(project, [finding.settle.edit])
    assert settled.drops[0].category == "6" and not list(checks.grades(site(settled)))
    strong = drop(hall(), 5, 5, **{**powered, "poe_class": 6})
    assert next(checks.grades(site(strong))).weight == "strains"
    there = drop(hall(), 5, 5, existing=True, **powered)
    assert not list(checks.grades(site(there)))


def test_links_that_nothing_carries_and_copper_between_buildings_are_told(catalogue):
    project = two_buildings()
    values = {"name": "Shed closet", "room_id": project.rooms[1].id, "link": "copper", "link_m": 60.0}
    head = ChangeEntry(list="closets", id=1, changes={"room_id": project.rooms[0].id})
    project = apply_edits(project, [head, AddEntry(list="closets", values=values)])
    assert not list(checks.closet_links(site(project))), "without a catalogue links are not looked at"
    looked = SiteState(project, {}, {}, catalogue)
    (finding,) = checks.closet_links(looked)
    assert (finding.weight == "strains" and "lightning" in finding.text) or "earth potential" in finding.text
    settled = apply_edits(project, [finding.settle.edit])
    assert not list(checks.closet_links(SiteState(settled, {}, {}, catalogue)))
    far = ChangeEntry(list="closets", id=project.closets[1].id, changes={"link_m": 10_000.0, "link": ""})
    beyond = apply_edits(project, [far])
    (finding,) = checks.closet_links(SiteState(beyond, {}, {}, catalogue))
    assert finding.weight == "breaks" and "nothing carries it" in finding.text


def test_a_cord_across_a_floor_is_told_wherever_it_is_written_down():
    from baugrund.core.findings.brief import cords_across_floors

    def named(name, **more):
        return apply_edits(hall(), [AddEntry(list="measures", values={"name": name, **more})])

    for name in ("Cord across the floor to the till", "extension lead over the doorway"):
        (finding,) = cords_across_floors(site(named(name)))
        assert (finding.weight, finding.subject) == ("strains", name)
    for name in ("Cable along the skirting", "Router on the floor", "Cord to the till"):
        assert not list(cords_across_floors(site(named(name))))
    assert not list(cords_across_floors(site(named("Cord across the floor", ended=True))))
    (finding,) = cords_across_floors(site(path(hall(), (1, 1), (9, 1), name="Lead on the floor")))
    assert finding.subject == "Lead on the floor"
