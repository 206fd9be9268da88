"""Through a power cut: how long every service lives, on boxes seated over two closets, and what dies first."""

from dataclasses import replace

import pytest

from baugrund.core.answers.picker import Picker, standing_boxes
from baugrund.core.edits import AddEntry, ChangeDrops, ChangeEntry, DropChanges, apply_edits
from baugrund.core.facts.brief import Goal
from baugrund.core.physics.battery import Battery
from baugrund.core.stack.power_cut import FOR_EVER_MIN, power_cut
from baugrund.core.stack.things import things_of
from baugrund.core.stack.told import stack_of
from baugrund.core.standing.flows import Tree
from baugrund.core.standing.ground import grounds_of


def grounds(project, catalogue):
    answer = Picker(project, catalogue).answer(project.settings.aim)
    return grounds_of(project, catalogue, standing_boxes(project, catalogue, answer.standing()))


@pytest.fixture(scope="module")
def school(orchard_school):
    """The school with nothing of a stack said of it."""
    return orchard_school.changed(gear=(), placings=(), lifelines=(), panel_blocks=())


@pytest.fixture(scope="module")
def boxes(school, catalogue):
    return grounds(school, catalogue)


def ups(closet, **more):
    values = {"closet_id": closet, "kind": "ups", "volts": 24.0, "ah": 9.0, "watts_most": 900.0, "va_most": 1500.0,
              "outlets": 12}  # fmt: skip
    return AddEntry(list="gear", values={**values, **more})


def service(drop, reaches="internet", **more):
    return AddEntry(list="lifelines", values={"name": "S", "drop_id": drop, "reaches": reaches, **more})


def told(project, catalogue, seated):
    """The cut with boxes seated before, for what stands beside them moves no drop."""
    things = {
        closet.id: things_of(project, catalogue, with_project(project, seated), closet) for closet in project.closets
    }
    return power_cut(project, with_project(project, seated), things)


def with_project(project, seated):
    return tuple(replace(one, project=project, closet=project.closets_by_id[one.closet.id]) for one in seated)


def in_barn(school):
    barn = school.closets[1].id
    return next(drop.id for drop in school.drops if drop.closet_id == barn and drop.poe_class is not None)


def in_school(school, kind):
    head = school.head_end.id
    return next(drop.id for drop in school.drops if drop.closet_id == head and drop.kind == kind)


def test_without_a_battery_a_service_lives_not_at_all(school, catalogue, boxes):
    project = apply_edits(school, [service(in_school(school, "phone"), minutes=5)])
    (life,) = told(project, catalogue, boxes).lives
    assert (life.minutes, life.met) == (0, False) and life.dies_first and not life.cut


def test_the_weakest_battery_on_the_way_decides(school, catalogue, boxes):
    head, barn = (closet.id for closet in school.closets)
    both = [ups(head), ups(barn, ah=3.0), service(in_barn(school), minutes=5)]
    project = apply_edits(school, both)
    cut = told(project, catalogue, boxes)
    cells = {cell.closet_id: cell for cell in cut.cells}
    (life,) = cut.lives
    assert life.minutes == pytest.approx(min(cell.minutes for cell in cells.values()), abs=0.01)
    assert life.dies_first in {
        thing.name for thing in things_of(project, catalogue, with_project(project, boxes), project.closets[1])
    }
    only_head = apply_edits(school, [ups(head), service(in_barn(school))])
    assert told(only_head, catalogue, boxes).lives[0].minutes == 0, "the switch in the barn is on no battery"


def test_the_way_of_a_service_is_that_of_its_links(school, catalogue, boxes):
    head, barn = (closet.id for closet in school.closets)
    project = apply_edits(school, [ups(head), ups(barn), service(in_barn(school)), service(in_school(school, "phone"))])
    far, near = told(project, catalogue, boxes).lives
    tree = Tree(project, with_project(project, boxes))
    for life, drop in ((far, in_barn(school)), (near, in_school(school, "phone"))):
        way = tree.boxes_of(project.drops_by_id[drop])
        names = [tree.grounds[closet].boxes[box].name for closet, box in way]
        assert list(life.path[1 : 1 + len(names)]) == names
        assert life.path[-1].startswith("Box of "), "the provider's box is on the way"
    assert len(far.path) > len(near.path)


def test_one_line_is_enough_and_the_box_that_lives_longest_counts(dye_works, catalogue):
    closets = tuple(one.model_copy(update={"battery_for": "all"}) for one in dye_works.closets)
    project = dye_works.changed(gear=(), placings=(), lifelines=(), closets=closets)
    seated = grounds(project, catalogue)
    head = project.head_end
    drop = next(one.id for one in project.drops if one.kind == "door_station")
    asked = apply_edits(project, [ups(head.id), service(drop, minutes=5)])
    whole = told(asked, catalogue, seated).lives[0]
    lines = [line.id for line in project.lines if line.box != "none"]
    assert len(lines) == 2 and whole.minutes > 0
    off = [AddEntry(list="placings", values={"closet_id": head.id, "thing": f"line/{lines[0]}", "outlet": "mains"})]
    one_line = told(apply_edits(asked, off), catalogue, seated).lives[0]
    assert one_line.minutes >= whole.minutes
    off += [AddEntry(list="placings", values={"closet_id": head.id, "thing": f"line/{lines[1]}", "outlet": "surge"})]
    assert told(apply_edits(asked, off), catalogue, seated).lives[0].minutes == 0


def test_a_camera_reaches_its_recorder_without_the_line(school, catalogue, boxes):
    head, barn = (closet.id for closet in school.closets)
    camera = next(drop.id for drop in school.drops if drop.kind == "camera" and drop.closet_id == barn)
    project = apply_edits(school, [ups(head), ups(barn), service(camera, "recorder", minutes=5)])
    (life,) = told(project, catalogue, boxes).lives
    assert life.minutes > 0 and not any(name.startswith("Box of ") for name in life.path)
    assert any("ecorder" in name for name in life.path)


def test_a_service_whose_way_is_cut_says_so(school, catalogue, boxes):
    bare = school.changed(drops=tuple(drop for drop in school.drops if drop.kind != "nas"))
    phone = in_school(school, "phone")
    project = apply_edits(bare, [service(phone, "store", minutes=5)])
    (life,) = told(project, catalogue, boxes).lives
    assert life.cut.endswith("has no way to what it must reach.") and life.met is False
    no_line = apply_edits(school.changed(lines=()), [service(phone)])
    assert told(no_line, catalogue, boxes).lives[0].cut


def test_the_goal_says_how_long_where_a_service_does_not(school, catalogue, boxes):
    goals = tuple(goal for goal in school.goals if goal.kind != "battery")
    goal = Goal(id=900, kind="battery", level=12.0)
    bare = school.changed(goals=goals, next_id=1000)
    head = school.head_end.id
    phone = in_school(school, "phone")
    unasked = apply_edits(bare, [ups(head), service(phone)])
    assert told(unasked, catalogue, boxes).lives[0].met is None
    asked = apply_edits(bare.changed(goals=(*goals, goal)), [ups(head), service(phone)])
    cut = told(asked, catalogue, boxes)
    assert cut.wanted_min == 12 and cut.lives[0].wanted == 12
    assert cut.lives[0].met is (cut.lives[0].minutes >= 12)
    own = apply_edits(asked, [ChangeEntry(list="lifelines", id=asked.lifelines[0].id, changes={"minutes": 1.0})])
    assert told(own, catalogue, boxes).lives[0].met is True


def test_a_service_is_met_from_its_minutes_on(school, catalogue, boxes):
    head = school.head_end.id
    project = apply_edits(school, [ups(head), service(in_school(school, "phone"), minutes=1)])
    lives = told(project, catalogue, boxes).lives[0].minutes
    for minutes, met in ((lives, True), (lives + 0.02, False)):
        line = ChangeEntry(list="lifelines", id=project.lifelines[0].id, changes={"minutes": minutes})
        assert told(apply_edits(project, [line]), catalogue, boxes).lives[0].met is met


def test_what_is_shed_early_lets_the_others_live_longer(school, catalogue, boxes):
    head = school.head_end.id
    project = apply_edits(school, [ups(head), service(in_school(school, "phone"), minutes=5)])
    before = told(project, catalogue, boxes)
    nas = next(drop.id for drop in school.drops if drop.kind == "nas")
    shed = AddEntry(list="placings", values={"closet_id": head, "thing": f"drop/{nas}", "shed_percent": 90.0})
    after = told(apply_edits(project, [shed]), catalogue, boxes)
    assert after.lives[0].minutes > before.lives[0].minutes
    (cell,) = after.cells
    gone = next(event for event in cell.events if "switched off" in event.text)
    assert gone.left_percent == 90 and gone.load_w == pytest.approx(cell.load_w - 35, abs=0.01)
    assert not any(event.thing == f"drop/{nas}" and "shut down" in event.text for event in cell.events)


def test_ports_of_low_priority_go_off_with_their_devices(school, catalogue, boxes):
    head = school.head_end.id
    point = in_school(school, "access_point")
    project = apply_edits(school, [
        ups(head), service(point, minutes=5), ChangeEntry(list="closets", id=head, changes={"shed_low_percent": 60.0}),
        ChangeDrops(ids=(point,), changes=DropChanges(priority="low")),
    ])  # fmt: skip
    cut = told(project, catalogue, boxes)
    (cell,) = cut.cells
    off = next(event.minute for event in cell.events if event.text.startswith("ports of low priority"))
    assert cut.lives[0].minutes == pytest.approx(off, abs=0.01) and cut.lives[0].dies_first.startswith("the port of")
    critical = apply_edits(project, [ChangeDrops(ids=(point,), changes=DropChanges(priority="critical"))])
    assert told(critical, catalogue, boxes).lives[0].minutes > off


def test_two_ups_of_a_closet_are_one_of_all_their_watt_hours(school, catalogue, boxes):
    head = school.head_end.id
    one = told(apply_edits(school, [ups(head, ah=18.0)]), catalogue, boxes).cells[0]
    two = told(apply_edits(school, [ups(head), ups(head, volts=12.0, ah=18.0)]), catalogue, boxes).cells[0]
    assert two.minutes == pytest.approx(one.minutes, abs=0.01) and two.watts_most == 1800
    assert len(two.ups) == 2


def test_only_what_says_so_is_on_a_battery_for_chosen_things(school, catalogue, boxes):
    head = school.head_end.id
    chosen = apply_edits(school, [ups(head), ChangeEntry(list="closets", id=head, changes={"battery_for": "chosen"})])
    (cell,) = told(chosen, catalogue, boxes).cells
    assert cell.load_w == 0 and cell.minutes == FOR_EVER_MIN
    router = next(
        one.key
        for one in things_of(chosen, catalogue, with_project(chosen, boxes), chosen.head_end)
        if one.kind == "router"
    )
    said = AddEntry(list="placings", values={"closet_id": head, "thing": router, "outlet": "battery"})
    (cell,) = told(apply_edits(chosen, [said]), catalogue, boxes).cells
    assert cell.load_w == pytest.approx(12.5, abs=0.01)
    assert cell.minutes == pytest.approx(Battery(24, 9).minutes(cell.load_w), abs=0.01)


def test_the_same_project_tells_the_same_cut(orchard_school, catalogue):
    seated = grounds(orchard_school, catalogue)
    assert stack_of(orchard_school, catalogue, seated) == stack_of(orchard_school, catalogue, seated)
