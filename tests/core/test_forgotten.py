"""What a list forgets, each on both sides of the point at which it is said, and each with what settles it."""

import pytest

from baugrund.core.edits import AddDrops, AddRooms, ChangeDrops, DropChanges, NewRoom, Placed, PlaceDrops, apply_edits
from baugrund.core.facts.project import empty_project
from baugrund.core.findings import CHECKS, SiteState, findings

from .small import line

SQUARE = ((0.0, 0.0), (4.0, 0.0), (4.0, 4.0), (0.0, 4.0))
ROOMS = AddRooms(
    rooms=(
        NewRoom(name="Office", floor="Ground floor", use="work", outline=SQUARE),
        NewRoom(name="Den", floor="Ground floor", use="work"),
        NewRoom(name="Loft", floor="Attic"),
        NewRoom(name="Yard", floor="Outside", outside=True),
    )
)


def site(*edits):
    return apply_edits(empty_project("F", 2026), [ROOMS, line("L", 100, way_planned=True), *edits])


def found(project, key):
    return next((f for f in findings(SiteState(project, {}, {})) if f.key == key or f.key.startswith(f"{key}-")), None)


def put(kind, count=1, room="Office", **changes):
    return AddDrops(room=room, kind=kind, count=count, changes=DropChanges(**changes))


@pytest.mark.parametrize(
    ("before", "after", "key"),
    [
        ((put("access_point", 2),), (put("access_point", 3),), "no-controller"),
        ((put("desk", 7), put("hub")), (put("desk", 8),), "no-hub"),
        ((put("desk", 3), put("jack", 9)), (put("desk", 4), put("jack", 4)), "no-nas"),
        ((put("desk"), put("desk", room="Den")), (put("desk"),), "bare-rooms"),
        ((put("jack", 7),), (put("jack", 8),), "no-spare"),
        ((put("jack"),), (put("camera"),), "no-recorder"),
    ],
)
def test_what_is_forgotten_is_said_and_what_settles_it_settles_it(before, after, key):
    assert found(site(*before), key) is None
    project = site(*after)
    finding = found(project, key)
    assert finding is not None
    while finding is not None:
        settled = apply_edits(project, [finding.settle.edit])
        assert settled != project
        project, finding = settled, found(settled, key)
        if key == "no-spare" and finding:
            assert "Ground floor" not in finding.text


def test_a_spare_is_wanted_on_every_floor_but_not_outside():
    project = site(put("jack", 8), put("camera", room="Yard"))
    assert found(project, "no-spare").text == "no drop is kept spare on Ground floor, Attic."
    assert found(apply_edits(project, [put("spare"), put("spare", room="Loft")]), "no-spare") is None


@pytest.mark.parametrize(
    ("changes", "weight"),
    [({}, "note"), ({"socket": False}, "strains"), ({"socket": True}, None), ({"poe_class": 3, "draw_w": 6.0}, None)],
)
def test_a_room_switch_wants_a_socket_or_is_fed_over_the_cable(changes, weight):
    project = site(put("room_switch", **changes))
    finding = found(project, "socket")
    assert (finding and finding.weight) == weight
    if finding:
        assert "licensed electrician" in finding.text
        assert found(apply_edits(project, [finding.settle.edit]), "socket") is None


def test_passive_gear_is_never_on_a_standard_port():
    assert "can destroy" in found(site(put("camera", supply="passive", poe_class=None)), "passive").text
    both = site(put("camera", supply="passive"))
    finding = found(both, "powered-twice")
    settled = apply_edits(both, [finding.settle.edit])
    assert found(settled, "powered-twice") is None
    assert settled.drops[0].poe_class is None
    assert found(site(put("camera", supply="transformer")), "powered-twice") is None


@pytest.mark.parametrize(("x", "said"), [(4.05, False), (4.06, True), (-0.05, False), (-0.06, True)])
def test_a_drop_that_stands_outside_its_room_is_led_back(x, said):
    project = site(put("jack"))
    drop, room = project.drops[0], project.rooms[0]
    placed = apply_edits(project, [PlaceDrops(places=(Placed(id=drop.id, room_id=room.id, x_m=x, y_m=2),))])
    finding = found(placed, "astray")
    assert (finding is not None) == said
    if finding:
        assert finding.text == "stands outside Office on the plan."
        assert found(apply_edits(placed, [finding.settle.edit]), "astray") is None


def test_a_narrow_uplink_in_front_of_fast_drops_is_told():
    project = site(put("room_switch", speed_mbit=1000), put("jack", speed_mbit=2500), put("jack", speed_mbit=1000))
    switch, fast, slow = (drop.id for drop in project.drops)
    behind = DropChanges(behind_id=switch)
    assert found(apply_edits(project, [ChangeDrops(ids=(slow,), changes=behind)]), "narrow") is None
    finding = found(apply_edits(project, [ChangeDrops(ids=(fast, slow), changes=behind)]), "narrow")
    assert finding.drop_ids == (fast,)


def test_a_run_behind_a_room_switch_is_not_held_against_the_closet():
    project = site(put("room_switch"), put("jack", run_m=95))
    switch, jack = (drop.id for drop in project.drops)
    assert found(project, "long") is not None
    assert (
        found(apply_edits(project, [ChangeDrops(ids=(jack,), changes=DropChanges(behind_id=switch))]), "long") is None
    )


def test_devices_without_a_surface_are_counted():
    finding = found(site(put("camera", 2), put("camera", surface="masonry"), put("desk")), "surfaces")
    assert len(finding.drop_ids) == 2


def test_watts_behind_an_in_wall_access_point_count_against_its_class():
    project = site(put("access_point", variant="in_wall"), put("phone", draw_w=6.4), put("phone", draw_w=6.4))
    first, *phones = (drop.id for drop in project.drops)
    one = apply_edits(project, [ChangeDrops(ids=(phones[0],), changes=DropChanges(behind_id=first))])
    assert found(one, "class") is None
    two = apply_edits(project, [ChangeDrops(ids=tuple(phones), changes=DropChanges(behind_id=first))])
    assert found(two, "class").text.startswith("draws 26.3 W; class 4 gives a device 25.5 W at most")


@pytest.mark.parametrize("check", CHECKS, ids=lambda check: check.__name__)
def test_no_check_fails_on_an_empty_project_or_on_the_demo(check, dye_works, row_house):
    for project in (empty_project("E", 2026), dye_works, row_house):
        for finding in check(SiteState(project, {}, {})):
            assert finding.text
            assert finding.subject


def test_the_demo_has_its_honest_mistakes(dye_works):
    keys = {finding.key.rpartition("-")[0] or finding.key for finding in findings(SiteState(dye_works, {}, {}))}
    assert keys >= {"class", "long", "jacket", "series", "wifi", "way", "nameplate", "temporary"}
