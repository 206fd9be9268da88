"""Traffic hop by hop: what links carry, where ways are slowest, what cameras send to the recorder."""

import pytest

from baugrund.core.edits import (
    AddDrops,
    AddEntry,
    AddRooms,
    ChangeDrops,
    ChangeSettings,
    DropChanges,
    NewRoom,
    apply_edits,
)
from baugrund.core.facts.project import empty_project
from baugrund.core.findings import SiteState
from baugrund.core.findings.traffic import slow_in_the_middle
from baugrund.core.pick.standing import Boxes
from baugrund.core.standing.flows import Hop, between, flows
from baugrund.core.standing.ground import grounds_of

from .small import catalogue, line, ports, router, switch

LIST = catalogue(
    router("home", ports(8), price=100),
    switch("eight", ports(8)),
    switch("fast", ports(8, 2500), price=300),
)


def shop(*edits):
    """Two desks, a NAS and a recorder at the router; four cameras in a shed with a closet of its own."""
    start = apply_edits(empty_project("Shop", 2026), [
        ChangeSettings(changes={"growth_percent": 0}),
        AddRooms(rooms=(NewRoom(name="Shop"), NewRoom(name="Shed"))),
        AddEntry(list="closets", values={"name": "Shed closet"}), line("Fibre", 500, 100),
    ])  # fmt: skip
    room, shed = (one.id for one in start.rooms)
    far = start.closets[1].id
    powered = DropChanges(closet_id=far, poe_class=None, speed_mbit=100)
    return apply_edits(start, [
        AddDrops(room=room, kind="desk"), AddDrops(room=room, kind="nas"), AddDrops(room=room, kind="recorder"),
        AddDrops(room=shed, kind="camera", count=4, changes=powered), *edits,
    ])  # fmt: skip


def flowing(project):
    far = project.closets[1].id
    standing = {1: Boxes(("home",)), far: Boxes(("eight",))}
    return flows(project, grounds_of(project, LIST, standing))


def test_a_link_carries_what_is_behind_it_and_what_the_cameras_record():
    project = shop()
    (link,) = flowing(project).links
    assert (link.upper, link.lower, link.between_closets, link.drops) == ("home", "eight", True, 4)
    # four cameras of 6 Mbit/s
    assert (link.now_mbit, link.then_mbit, link.recording_mbit) == (24.0, 24.0, 24.0)
    assert link.fill_percent == 2.4 and not link.full
    # four ports of 100 Mbit/s over one link of 1 Gbit/s
    assert link.over_subscription == 0.4


def test_a_way_is_as_fast_as_its_slowest_hop_and_941_of_a_gigabit_are_of_use():
    project = shop()
    by_kind = {project.drops_by_id[one.drop_id].kind: one for one in flowing(project).drops}
    desk, camera = by_kind["desk"], by_kind["camera"]
    assert (desk.internet.rate_mbit, desk.internet.slowest) == (500, "Fibre")
    assert (desk.store.rate_mbit, desk.store.useful_mbit) == (1000, pytest.approx(941))
    assert desk.recorder is None
    assert camera.recorder.rate_mbit == 100 and camera.recorder.slowest.startswith("its port")
    assert camera.store is None


def test_a_standby_line_is_no_way_and_without_a_line_there_is_none():
    project = shop()
    only = {**project.model_dump(), "lines": [{**project.lines[0].model_dump(), "standby": True}]}
    assert all(one.internet is None for one in flowing(type(project).model_validate(only)).drops)


def test_what_two_ways_share_towards_the_router_is_not_on_the_way_between_them():
    shared = [Hop("c", 1000, 1), Hop("d", 1000, 0)]
    one, other = [Hop("a", 100), *shared], [Hop("b", 2500), Hop("e", 1000, 2), *shared]
    assert [hop.name for hop in between(one, other)] == ["a", "e", "b"]
    assert [hop.name for hop in between(one, [])] == ["a", "c", "d"]


@pytest.mark.parametrize(("mbit", "slows"), [(100, True), (1000, False)])
def test_the_old_switch_in_the_middle_is_found_named_and_settled(mbit, slows):
    middle = AddDrops(room="Shop", kind="room_switch", changes=DropChanges(speed_mbit=mbit, label="Old switch"))
    project = shop(middle)
    old = project.drops[-1].id
    project = apply_edits(project, [
        AddDrops(room="Shop", kind="desk", count=2, changes=DropChanges(behind_id=old)),
        AddDrops(room="Shop", kind="printer", changes=DropChanges(behind_id=old, speed_mbit=100)),
    ])  # fmt: skip
    found = list(slow_in_the_middle(SiteState(project, {}, {})))
    assert bool(found) is slows
    desk = next(one for one in flowing(project).drops if one.drop_id == project.drops[-2].id)
    assert (desk.store.rate_mbit, desk.internet.rate_mbit) == (mbit, min(mbit, 500))
    if slows:
        assert found[0].subject == desk.store.slowest == "Old switch"
        assert found[0].text == "carries 100 M and slows 2 drops behind it, the fastest of which does 1 G."
        settled = apply_edits(project, [found[0].settle.edit])
        assert not list(slow_in_the_middle(SiteState(settled, {}, {})))


def test_a_recorder_built_into_the_router_is_where_cameras_record_to():
    project = shop()
    recorder = next(drop for drop in project.drops if drop.kind == "recorder")
    gone = project.changed(drops=tuple(drop for drop in project.drops if drop is not recorder))
    far = project.closets[1].id
    for cameras, told in ((8, "built into the router"), (0, "")):
        models = catalogue(router("home", ports(8), recorder_cameras=cameras), switch("eight", ports(8)))
        found = flows(gone, grounds_of(gone, models, {1: Boxes(("home",)), far: Boxes(("eight",))}))
        assert found.recorder == told
        assert found.links[0].recording_mbit == (24.0 if cameras else 0.0)


def test_nothing_flows_before_boxes_stand():
    project = shop()
    assert flows(project, grounds_of(project, LIST, {})) == flows(project, ())
    full = apply_edits(project, [
        ChangeDrops(ids=tuple(d.id for d in project.drops if d.kind == "camera"), changes=DropChanges(traffic_mbit=180)),
    ])  # fmt: skip
    # 720 of 1,000 Mbit/s are over 70 %: Reach would make the link faster, and these ports cannot
    assert flowing(full).links == ()
