"""Power-up and overload drill: who is fed, who is refused, and who goes when a supply is lost."""

import pytest

from baugrund.core.answers.picker import balance
from baugrund.core.edits import AddDrops, AddRooms, ChangeDrops, ChangeSettings, DropChanges, NewRoom, apply_edits
from baugrund.core.facts.project import empty_project
from baugrund.core.pick.standing import Boxes
from baugrund.core.standing.drill import Ask, drills, power_up, shed
from baugrund.core.standing.ground import grounds_of

from .small import catalogue, ports, router, switch


def asks(*some):
    return [Ask(number, "camera", priority, watts) for number, (priority, watts) in enumerate(some)]


def fed(steps):
    return [step.ask.drop_id for step in steps if step.fed]


def test_devices_come_up_by_priority_then_by_port():
    steps = power_up(asks(("low", 5), ("critical", 5), ("high", 5), ("low", 5)), 20)
    assert [step.ask.drop_id for step in steps] == [1, 2, 0, 3]
    assert [step.given_w for step in steps] == [5, 10, 15, 20]


@pytest.mark.parametrize(("budget", "who"), [(30, [0, 1, 2]), (29.9, [0, 1]), (19.9, [0, 2]), (9.9, []), (10, [0])])
def test_one_that_asks_for_more_than_is_left_is_refused_and_the_next_is_asked(budget, who):
    steps = power_up(asks(("low", 10), ("low", 10), ("low", 9.9 if budget == 19.9 else 10)), budget)
    assert fed(steps) == who


def test_the_last_ones_fed_are_shed_first_until_the_rest_suffices():
    steps = power_up(asks(("critical", 40), ("low", 30), ("low", 20), ("high", 10)), 100)
    assert fed(steps) == [0, 3, 1, 2]
    assert [ask.drop_id for ask in shed(steps, 100)] == []
    assert [ask.drop_id for ask in shed(steps, 80)] == [2]
    assert [ask.drop_id for ask in shed(steps, 79.9)] == [2, 1]
    assert [ask.drop_id for ask in shed(steps, 0)] == [2, 1, 3, 0]


def test_worked_budget_of_two_supplies_and_of_the_one_that_is_left():
    two = switch("two", ports(8, poe=6), watts=460, own_draw_w=40, supplies_w=(250, 250))
    assert [two.budget_without_w(lost) for lost in (0, 1)] == [210, 210]
    uneven = switch("uneven", ports(8, poe=6), watts=100, own_draw_w=40, supplies_w=(250, 120))
    assert [uneven.budget_without_w(lost) for lost in (0, 1)] == [80, 100]


@pytest.mark.parametrize(("budget", "ok"), [(460, True), (460.1, False)])
def test_a_budget_is_no_more_than_the_supplies_leave(budget, ok):
    def made():
        return switch("two", ports(8, poe=6), watts=budget, own_draw_w=40, supplies_w=(250, 250))

    if ok:
        assert made().poe_budget_w == budget
    else:
        with pytest.raises(ValueError, match=r"a PoE budget of 460\.1 W, but its supplies leave 460 W for it"):
            made()


def yard(cameras):
    """Cameras of 7.5 W at the port each (7.4 W behind 38 m), two watts short of what stands."""
    return apply_edits(empty_project("Yard", 2026), [
        AddRooms(rooms=(NewRoom(name="Yard"),)), ChangeSettings(changes={"growth_percent": 20, "horizon_years": 1}),
        AddDrops(room="Yard", kind="camera", count=cameras, changes=DropChanges(run_m=38, draw_w=7.4)),
    ])  # fmt: skip


def drilled(project, **terms):
    models = catalogue(
        router("home", ports(4)), switch("eight", ports(2), ports(8, poe=3), watts=75, supplies_w=(35, 50))
    )
    grounds = grounds_of(project, models, {1: Boxes(("home", "eight"))})
    return drills(project, grounds, **({"with_reserve": False} | terms))


def test_a_box_that_bears_all_feeds_all_and_a_smaller_budget_shows_who_is_refused():
    project = yard(6)
    (box,) = drilled(project)
    assert (box.name, box.budget_w, len(box.steps), fed(box.steps)) == ("eight", 75, 6, [d.id for d in project.drops])
    assert box.steps[-1].given_w == 45.0
    (small,) = drilled(project, budget_w=29.9)
    assert fed(small.steps) == [drop.id for drop in project.drops[:3]]
    first = apply_edits(project, [ChangeDrops(ids=(project.drops[5].id,), changes=DropChanges(priority="critical"))])
    (changed,) = drilled(first, budget_w=29.9)
    assert fed(changed.steps) == [project.drops[5].id, project.drops[0].id, project.drops[1].id]


def test_growth_asks_last_and_a_lost_supply_sheds_from_the_end():
    project = yard(6)
    (box,) = drilled(project, with_reserve=True)
    # 20 % for a year: 7.2, so one camera is in reserve
    assert [step.ask.drop_id for step in box.steps[-2:]] == [project.drops[-1].id, None]
    # 35 W and 50 W less 5 W of its own: 45 or 30 W are left, for 7 cameras of 7.5 W
    assert [(lost.supply_w, lost.left_w, len(lost.shed)) for lost in box.lost] == [(35, 45, 1), (50, 30, 3)]


def test_nothing_comes_up_before_boxes_stand():
    project = yard(2)
    assert drills(project, grounds_of(project, catalogue(router("home", ports(4))), {}), with_reserve=False) == ()


def test_a_box_that_reserves_by_class_feeds_fewer():
    project = yard(6)
    (box,) = drilled(project)
    # six cameras of class 3 draw 7.5 W each, but 15.4 W are reserved for each: four of them in 75 W
    assert [len(fed(steps)) for steps in (box.steps, box.by_class)] == [6, 4]
    assert box.by_class[0].ask.watts == 15.4
    reserving = switch(
        "eight", ports(2), ports(8, poe=6), watts=75, supplies_w=(35, 50), poe_allocation="class"
    )  # fmt: skip
    grounds = grounds_of(project, catalogue(router("home", ports(4)), reserving), {1: Boxes(("home", "eight"))})
    (newer,) = drills(project, grounds, with_reserve=False)
    # a port of type 3 reserves 14 W for class 3: five of them
    assert newer.steps == newer.by_class and len(fed(newer.steps)) == 5


@pytest.mark.parametrize(("allocation", "cameras", "gone"), [("class", 5, 0), ("class", 6, 1), ("draw", 6, 0)])
def test_a_box_that_refuses_devices_by_class_is_a_finding(allocation, cameras, gone):
    project = yard(cameras)
    reserving = switch("eight", ports(2), ports(8, poe=6), watts=75, poe_allocation=allocation)
    models = catalogue(router("home", ports(4)), reserving)
    told = balance(project, models, {1: Boxes(("home", "eight"))}).findings
    refused = [finding for finding in told if finding.key.startswith("refused-")]
    assert [len(finding.drop_ids) for finding in refused] == ([gone] if gone else [])
    assert not refused or (refused[0].subject, refused[0].weight) == ("eight", "strains")
