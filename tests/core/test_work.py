"""Hours of pulls, ends, mounts and ways: worked by hand, and the same whoever adds them up."""

import pytest

from baugrund.core.cabling.pulls import run_hours, schedule, total_h
from baugrund.core.cabling.work import ways_h
from baugrund.core.edits import (
    AddDrops,
    AddEntry,
    AddRooms,
    ChangeDrops,
    ChangeEntry,
    ChangeSettings,
    DropChanges,
    NewRoom,
    apply_edits,
)
from baugrund.core.facts.labour import HIGH_TIMES, LOW_TIMES, PULLING, TASKS, USUAL
from baugrund.core.reach.runs import runs
from baugrund.core.siting.answers import siting
from baugrund.core.watch import to_the_end

from .test_reach import drop, hall, path


def four_to_one_plate(state):
    project = hall(state=state)
    spot = DropChanges(x_m=11, y_m=6, height_m=0.3, variant="quad")
    return apply_edits(project, [AddDrops(room=project.rooms[0].id, kind="jack", count=4, changes=spot)])


def test_worked_four_cables_to_one_plate_in_a_finished_house():
    project = four_to_one_plate("finished")
    assert {run.length_m for run in runs(project).values()} == {22.4}
    # 0.3 + 22.4·(0.10 + 3·0.02) + 2·0.75 + 4·(0.15 + 0.08 + 0.15) + 0.5
    (pull,) = schedule(project)
    assert pull.hours == pytest.approx(7.404)
    assert sum(run_hours(project).values()) == pytest.approx(7.404)


def test_open_walls_are_not_fished_and_an_open_closet_saves_one_end():
    # 0.3 + 22.4·(0.02 + 3·0.005) + 4·0.38 + 0.2
    assert total_h(four_to_one_plate("open")) == pytest.approx(2.804)
    project = four_to_one_plate("finished")
    typed = ChangeDrops(ids=tuple(d.id for d in project.drops), changes=DropChanges(run_m=22.4))
    nowhere = ChangeEntry(list="closets", id=1, changes={"room_id": None, "x_m": None, "y_m": None})
    assert total_h(apply_edits(project, [typed, nowhere])) == pytest.approx(7.404), "nobody knows where: both ends"
    project = apply_edits(project, [
        typed, AddEntry(list="buildings", values={"name": "Barn", "state": "open"}),
        AddRooms(rooms=(NewRoom(name="Barn", floor="Barn floor"),)),
    ])  # fmt: skip
    barn, floor, room = project.buildings[-1].id, project.floors[-1].id, project.rooms[-1].id
    open_closet = apply_edits(project, [
        ChangeEntry(list="floors", id=floor, changes={"building_id": barn}),
        ChangeEntry(list="closets", id=1, changes={"room_id": room}),
    ])  # fmt: skip
    assert total_h(open_closet) == pytest.approx(7.404 - 0.75)


def test_worked_one_cable_through_a_duct_that_is_there():
    project = path(hall(), (1, 1), (38, 1), kind="conduit", height_m=0.9, existing=True)
    project = drop(project, 38, 1, height_m=0.9)
    # 0.3 + 37·0.03, its ends and its plate in an open wall
    assert total_h(project) == pytest.approx(0.3 + 37 * 0.03 + 0.38 + 0.2, abs=0.01)
    assert ways_h(project) == {}
    new = path(hall(), (1, 1), (38, 1), kind="conduit", height_m=1.0)
    assert ways_h(new) == {new.paths[0].id: pytest.approx(37 * 0.12)}


@pytest.mark.parametrize(
    ("kind", "hours"), [("buried", 8.0), ("trunking", 1.2), ("drilled", 0.4), ("skirting", None), ("loft", None)]
)
def test_a_way_is_laid_once_by_its_kind_and_not_at_all_where_it_is_there(kind, hours):
    new, there = (path(hall(), (1, 1), (11, 1), kind=kind, existing=existing) for existing in (False, True))
    assert ways_h(new).get(new.paths[0].id) == (None if hours is None else pytest.approx(hours))
    assert ways_h(there) == {}


def test_every_floor_that_an_undrawn_pull_passes_is_a_hole():
    flat = hall(floors=("Ground floor", "First floor"), state="open")
    below, above = drop(flat, 11, 6), drop(flat, 11, 6, floor=1)
    metres = [runs(project)[project.drops[0].id].length_m for project in (below, above)]
    assert total_h(above) - total_h(below) == pytest.approx(0.75 + 0.02 * (metres[1] - metres[0]), abs=0.01)


@pytest.mark.parametrize(
    ("kind", "changes", "hours"),
    [
        ("access_point", {}, 0.6), ("camera", {"place": "wall"}, 1.0), ("camera", {"surface": "eaves"}, 1.5),
        ("door_station", {}, 1.5), ("hub", {}, 0.0), ("desk", {}, 0.5),
    ],
)  # fmt: skip
def test_what_is_mounted_takes_its_hours(kind, changes, hours):
    project = hall(state="finished")
    spot = DropChanges(run_m=10.0, x_m=5, y_m=5, **changes)
    project = apply_edits(project, [AddDrops(room=project.rooms[0].id, kind=kind, changes=spot)])
    assert total_h(project) == pytest.approx(0.3 + 10 * 0.10 + 2 * 0.75 + 0.38 + hours)


def test_the_project_sets_its_own_hours():
    project = four_to_one_plate("finished")
    own = AddEntry(list="task_rates", values={"task": "plate_finished", "hours": 2.0})
    assert total_h(apply_edits(project, [own])) == pytest.approx(7.404 + 1.5)
    with pytest.raises(Exception, match="task_rates holds plate_finished twice"):
        apply_edits(project, [own, own])
    direct = ChangeSettings(changes={"termination": "direct"})
    assert total_h(apply_edits(project, [direct])) == pytest.approx(7.404 + 4 * (0.15 - 0.08))


def test_every_task_has_its_usual_hours_and_a_band():
    assert set(USUAL) == set(TASKS)
    low, high = LOW_TIMES, HIGH_TIMES
    assert (low + 4 + high) / 6 == pytest.approx(1.05)


def test_run_table_pull_schedule_and_closets_compared_add_up_to_the_same(
    dye_works, row_house, orchard_school, catalogue
):
    for project in (dye_works, row_house, orchard_school):
        by_run = sum(run_hours(project).values()) + sum(ways_h(project).values())
        by_pull = sum(bundle.hours for bundle in schedule(project)) + sum(ways_h(project).values())
        compared = to_the_end(siting(project, catalogue)).now
        assert by_run == pytest.approx(by_pull) == pytest.approx(total_h(project))
        assert compared.hours == pytest.approx(by_run, abs=0.01)


def test_cable_that_is_there_takes_no_hours():
    project = four_to_one_plate("finished")
    there = ChangeDrops(ids=tuple(drop.id for drop in project.drops), changes=DropChanges(existing=True))
    assert total_h(apply_edits(project, [there])) == 0


def test_a_task_whose_hours_are_offered_changes_the_hours_of_a_job_and_the_others_do_not(dye_works):
    """Reach offers those of runs and ways; what stands in closets is Price's."""

    def changed(task):
        rate = AddEntry(list="task_rates", values={"task": task, "hours": 50.0})
        return total_h(apply_edits(dye_works, [rate])) != total_h(dye_works)

    assert not any(changed(task) for task in TASKS if task not in PULLING)
    # this site has no such thing: its walls are finished, its yard duct is there
    elsewhere = {"fibre_end", "dig_duct", "hole_stud", "fish_wall", "pull_loft", "camera_eaves", "plate"}
    assert {task for task in PULLING if not changed(task)} <= elsewhere
