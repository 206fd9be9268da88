"""Powering up: the order from the street and from the switch, what each box gives, and cabling that is wrong."""

from dataclasses import replace

import pytest

from baugrund.core.edits import (
    AddDrops,
    AddEntry,
    AddRooms,
    ChangeDrops,
    ChangeEntry,
    ChangeSettings,
    DropChanges,
    NewRoom,
    WriteBench,
    apply_edits,
)
from baugrund.core.facts.project import empty_project
from baugrund.core.findings import findings
from baugrund.core.findings.finding import SiteState
from baugrund.core.prove.power_up import from_the_root, power_up_of
from baugrund.core.standards.moving import LINE_MIN, RESTART_MIN, ROUTER_MIN
from baugrund.core.standing.drill import drills

from .priced import stood


@pytest.fixture(scope="module")
def stand(orchard_school, catalogue):
    return stood(orchard_school, catalogue)


def kinds(told, stand):
    things = {f"thing/{one.closet_id}/{thing.key}": thing.kind for one in stand[1].closets for thing in one.things}
    return [things.get(step.subject, step.subject.partition("/")[0]) for step in told.steps]


def test_from_the_street_the_line_comes_first_then_the_router_switches_and_devices(orchard_school, stand):
    told = power_up_of(orchard_school, *stand)
    order = list(dict.fromkeys(kinds(told, stand)))
    assert order == ["line", "router", "switch", "drop"]
    assert told.steps[0].wait_min == LINE_MIN[orchard_school.lines[0].kind]
    assert told.steps[1].wait_min == ROUTER_MIN
    assert told.minutes == pytest.approx(sum(step.wait_min for step in told.steps))


def test_a_project_may_begin_at_the_switch(orchard_school, stand):
    own = apply_edits(orchard_school, [ChangeSettings(changes={"power_up": "switch"})])
    assert list(dict.fromkeys(kinds(power_up_of(own, *stand), stand))) == ["switch", "router", "line", "drop"]


def test_every_box_comes_up_after_the_one_that_it_hangs_from(orchard_school, stand):
    told = power_up_of(orchard_school, *stand)
    place = {step.subject: at for at, step in enumerate(told.steps)}
    for ground in stand[0]:
        here = next(one for one in stand[1].closets if one.closet_id == ground.closet.id)
        keys = {thing.box: f"thing/{ground.closet.id}/{thing.key}" for thing in here.things if thing.box is not None}
        for link in ground.seating.links:
            assert place[keys[link.upper]] < place[keys[link.lower]]
    closets = [step.closet_id for step in told.steps if step.subject.startswith("thing/")]
    assert list(dict.fromkeys(closets)) == [closet.id for closet in from_the_root(orchard_school)]


def test_devices_come_up_as_their_box_feeds_them_with_what_it_gives_then(orchard_school, stand):
    told = {step.subject: step for step in power_up_of(orchard_school, *stand).steps}
    for drill in drills(orchard_school, stand[0], with_reserve=False):
        for answered in drill.steps:
            step = told[f"drop/{answered.ask.drop_id}"]
            assert (step.watts, step.given_w, step.budget_w) == (
                answered.ask.watts, answered.given_w, drill.budget_w
            )  # fmt: skip
            assert step.wait_min == RESTART_MIN.get(answered.ask.kind, 1.0)


def test_every_device_in_use_comes_up_once(dye_works, catalogue):
    told = power_up_of(dye_works, *stood(dye_works, catalogue))
    subjects = [step.subject for step in told.steps]
    assert len(subjects) == len(set(subjects))
    cameras = {f"drop/{drop.id}" for drop in dye_works.drops if drop.kind == "camera" and drop.in_use}
    assert cameras <= set(subjects)


def wrong(project, stand):
    return [one.text for one in power_up_of(project, *stand).wrong]


def found(project, stand, here, port, name, **values):
    ground = stand[0][0]
    told = next(one for one in stand[1].closets if one.closet_id == ground.closet.id)
    box = [thing for thing in told.things if thing.box is not None][here]
    return AddEntry(list="discovered", values={"closet_id": ground.closet.id, "box": box.key, "port": port,
                                               "name": name, **values})  # fmt: skip


def boxes(stand):
    return [thing for thing in stand[1].closets[0].things if thing.box is not None]


def test_a_house_that_is_wired_right_names_nothing(orchard_school, stand):
    assert wrong(orchard_school, stand) == []


def test_a_switch_between_the_line_and_the_router_is_named(orchard_school, stand, catalogue):
    line = orchard_school.lines[0]
    told = apply_edits(orchard_school, [found(orchard_school, stand, 1, 3, line.name)])
    assert wrong(told, stand) == [f"{line.name} answers on port 3 of {boxes(stand)[1].name}."]
    site = SiteState(project=told, capacities={}, borne={}, catalogue=catalogue, stack=stand[1], grounds=stand[0])
    assert [row.weight for row in findings(site) if row.key == "miswired"] == ["breaks"]
    patched = apply_edits(orchard_school, [
        AddEntry(list="patches", values={"closet_id": orchard_school.closets[0].id, "end": f"line/{line.id}",
                                         "box": boxes(stand)[1].key, "port": 2}),
    ])  # fmt: skip
    assert wrong(patched, stand) == [f"{line.name} is plugged into port 2 of {boxes(stand)[1].name}."]
    down = apply_edits(orchard_school, [found(orchard_school, stand, 1, 3, line.name, up=False)])
    assert wrong(down, stand) == []


def test_two_routers_in_series_are_named_unless_they_are_kept(orchard_school, stand):
    line = orchard_school.lines[0]
    routing = apply_edits(orchard_school, [ChangeEntry(list="lines", id=line.id, changes={"box": "routing"})])
    assert len(wrong(routing, stand)) == 1 and "translated twice" in wrong(routing, stand)[0]
    kept = apply_edits(routing, [ChangeEntry(list="lines", id=line.id, changes={"series_kept": True})])
    assert wrong(kept, stand) == []


def test_a_cable_beyond_those_of_the_plan_closes_a_loop(orchard_school, stand):
    one, two = boxes(stand)[:2]
    linked = {frozenset((link.upper, link.lower)) for link in stand[0][0].seating.links}
    assert frozenset((1, 2)) not in linked and frozenset((0, 1)) in linked
    planned = apply_edits(orchard_school, [found(orchard_school, stand, 1, 8, one.name)])
    assert wrong(planned, stand) == []
    twice = apply_edits(planned, [found(orchard_school, stand, 1, 7, one.name)])
    assert wrong(twice, stand) == [
        f"2 cables join {one.name} and {two.name}; the plan has 1: a loop that is no bundle."
    ]
    itself = apply_edits(orchard_school, [found(orchard_school, stand, 1, 6, two.name)])
    assert wrong(itself, stand) == [f"A cord joins two ports of {two.name}: a loop."]


def test_a_box_is_known_by_the_address_that_was_read_at_the_bench(orchard_school, stand):
    two, three = boxes(stand)[1:3]
    known = apply_edits(orchard_school, [
        WriteBench(subject=f"thing/{orchard_school.closets[0].id}/{three.key}",
                   changes={"hardware": "02:cc:00:00:00:01"}),
        found(orchard_school, stand, 1, 6, "", hardware="02:cc:00:00:00:01"),
    ])  # fmt: skip
    assert len(wrong(known, stand)) == 1 and "the plan has none: a loop" in wrong(known, stand)[0]
    assert two.name in wrong(known, stand)[0] and three.name in wrong(known, stand)[0]


def test_what_an_injector_feeds_is_switched_on_there(row_house, catalogue):
    hall = apply_edits(empty_project("P", 2026), [
        ChangeSettings(changes={"horizon_years": 0, "growth_percent": 0, "separate_networks": False}),
        AddRooms(rooms=(NewRoom(name="Hall"),)), AddDrops(room="Hall", kind="camera"),
    ])  # fmt: skip
    told = power_up_of(hall, *stood(hall, catalogue))
    assert [step.do for step in told.steps if step.subject.startswith("drop/")] == ["Switch its injector on."]


def test_a_box_that_has_not_enough_watts_says_which_device_it_refuses(orchard_school, stand):
    least = min((drill for drill in drills(orchard_school, stand[0], with_reserve=False)), key=lambda one: one.budget_w)
    fed = [answered.ask.drop_id for answered in least.steps]
    hungry = apply_edits(orchard_school, [ChangeDrops(ids=(fed[-1],), changes=DropChanges(draw_w=least.budget_w))])
    told = {step.subject: step.do for step in power_up_of(hungry, stand[0], stand[1]).steps}
    grounds = stand[0]
    refused = [
        answered.ask.drop_id for drill in drills(hungry, grounds, with_reserve=False) for answered in drill.steps
        if not answered.fed
    ]  # fmt: skip
    assert all("refuses it" in told[f"drop/{number}"] for number in refused)
    assert all("refuses" not in do for key, do in told.items() if key not in {f"drop/{number}" for number in refused})


def test_a_providers_box_in_another_closet_than_the_router_is_named(orchard_school, stand):
    there = orchard_school.closets[1]
    gear = {"closet_id": there.id, "kind": "provider_box", "name": "Box"}
    moved = apply_edits(orchard_school, [AddEntry(list="gear", values=gear)])
    assert wrong(moved, stand) == [f"Box stands in {there.name}, the router in {orchard_school.head_end.name}."]


def test_every_step_says_what_is_seen_and_where_to_look_otherwise(dye_works, catalogue):
    for step in power_up_of(dye_works, *stood(dye_works, catalogue)).steps:
        assert step.seen.endswith(".") and step.otherwise.endswith(".") and step.wait_min > 0


def test_what_hangs_behind_a_room_switch_is_not_said_to_have_an_injector(orchard_school, stand):
    room = orchard_school.rooms[0].name
    behind = apply_edits(orchard_school, [AddDrops(room=room, kind="room_switch"), AddDrops(room=room, kind="camera")])
    above, camera = behind.drops[-2:]
    hung = apply_edits(behind, [ChangeDrops(ids=(camera.id,), changes=DropChanges(behind_id=above.id))])
    told = {step.subject: step.do for step in power_up_of(hung, *stand).steps}
    assert told[f"drop/{camera.id}"] == f"Switch it on behind {hung.name_of(above)}."
    assert told[f"drop/{camera.id}"] != power_up_of(behind, *stand).steps[-1].do == "Switch on what feeds it."


def test_of_boxes_whose_links_nobody_knows_no_cable_is_called_a_loop(orchard_school, stand):
    grounds = tuple(replace(ground, seating=None) for ground in stand[0])
    one = boxes(stand)[0]
    twice = apply_edits(orchard_school, [found(orchard_school, stand, 1, port, one.name) for port in (7, 8)])
    assert wrong(twice, (grounds, stand[1])) == []
    assert len(wrong(twice, stand)) == 1
