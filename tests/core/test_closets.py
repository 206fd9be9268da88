"""Several closets: facts, edits, what the head end's ports carry, and what is said of the others."""

from __future__ import annotations

import pytest

from baugrund.core.answers.picker import pick
from baugrund.core.demand.needs import demands
from baugrund.core.edits import (
    AddDrops,
    AddEntry,
    AddRooms,
    ChangeDrops,
    ChangeEntry,
    DropChanges,
    Held,
    Hold,
    NewRoom,
    RemoveEntry,
    apply_edits,
)
from baugrund.core.errors import InvalidInput
from baugrund.core.facts.project import MAX_CLOSETS, empty_project
from baugrund.core.findings.brief import idle_closets, siting
from baugrund.core.findings.finding import SiteState
from baugrund.core.pick.model.trunks import trunks
from baugrund.core.places.layout import layout
from baugrund.core.reach.runs import runs

from .small import planned


def drawn_runs(project):
    return [run for run in runs(project).values() if run.line.corners]


@pytest.fixture
def project():
    """Three cameras and a desk in a shed with a closet of its own, a desk in the house at the head end."""
    start = apply_edits(
        empty_project("Two closets", 2026),
        [
            AddRooms(rooms=(NewRoom(name="Hall"), NewRoom(name="Shed"))),
            AddEntry(list="closets", values={"name": "Far"}),
        ],
    )
    hall, shed = (room.id for room in start.rooms)
    far = start.closets[1].id
    with_drops = apply_edits(
        start,
        [
            AddDrops(room=hall, kind="desk"),
            AddDrops(room=shed, kind="camera", count=3, changes=DropChanges(closet_id=far)),
            AddDrops(room=shed, kind="desk"),
        ],
    )
    here = ChangeEntry(list="closets", id=1, changes={"room_id": hall})
    return apply_edits(with_drops, [here, ChangeEntry(list="closets", id=far, changes={"room_id": shed})])


def test_a_new_drop_ends_where_the_last_one_of_its_room_does(project):
    far = project.closets[1].id
    assert [drop.closet_id for drop in project.drops] == [1, far, far, far, far]


def link_of(project, years=0):
    (link,) = trunks(project, demands(project, years), ()).values()
    return link


def test_every_closet_asks_for_the_ports_of_its_own_drops(project):
    asked = demands(project, 0)
    assert {number: len(demand.live) for number, demand in asked.items()} == {1: 1, project.closets[1].id: 4}


def test_a_link_that_nobody_measured_is_copper_fast_enough_for_the_traffic_behind_it(project):
    link = link_of(project)
    # three cameras of 6 Mbit/s and a desk of 12.5 Mbit/s at the busy hour
    assert link.traffic_kbit == sum(round(d.busy_mbit * 1000) for d in project.drops[1:]) == 30_500
    assert (link.medium, link.speed_mbit, link.ends, link.large_frames) == ("copper", 1000, 1, False)


@pytest.mark.parametrize(("traffic", "speed"), [(700, 1000), (700.01, 2500), (1750, 2500), (1750.01, 5000)])
def test_a_link_is_filled_to_seventy_percent_and_no_further(project, traffic, speed):
    rest = tuple(drop.id for drop in project.drops[2:])
    idle = ChangeDrops(ids=rest, changes=DropChanges(traffic_mbit=0))
    busy = ChangeDrops(ids=(project.drops[1].id,), changes=DropChanges(traffic_mbit=traffic))
    assert link_of(apply_edits(project, [idle, busy])).speed_mbit == speed


def test_frames_cross_a_link_as_large_ones_only_when_both_sides_ask_for_them(project):
    def asking(*drops):
        return apply_edits(
            project, [ChangeDrops(ids=tuple(d.id for d in drops), changes=DropChanges(large_frames=True))]
        )

    assert not link_of(asking(*project.drops[1:3])).large_frames
    assert link_of(asking(*project.drops[:2])).large_frames


def test_growth_is_that_of_each_closets_own_drops_and_what_is_planned_for_it(project):
    far = project.closets[1].id
    more = AddEntry(list="additions", values={"kind": "phone", "count": 2, "years": 3, "closet_id": far})
    grown = apply_edits(project, [more, planned("reader", 1, 3)])
    kinds = {number: {asked.kind for asked in demand.reserve} for number, demand in demands(grown, 10).items()}
    # 5 % over ten years: the two desks of the site are one more, a tie that the closet listed first gets; three cameras are
    # one more, where they all are
    assert kinds == {1: {"desk", "reader"}, far: {"camera", "phone"}}
    gone = apply_edits(grown, [RemoveEntry(list="closets", id=far)])
    assert [addition.closet_id for addition in gone.additions] == [None, None]


def test_the_boxes_of_every_closet_hang_in_one_tree(project, catalogue):
    answer = pick(project, catalogue, ("least_price",)).answers[0]
    assert [closet.name for closet in answer.closets] == ["Main closet", "Far"]
    assert answer.boxes[0].model.startswith("router")
    uplink = next(link for link in answer.links if link.closet_id == project.closets[1].id)
    assert (answer.boxes[uplink.upper].closet_id, answer.boxes[uplink.lower].closet_id) == (1, project.closets[1].id)
    assert {link.lower for link in answer.links} == set(range(1, len(answer.boxes)))
    at = {drop.id: drop.closet_id for drop in project.drops}
    assert all(answer.boxes[place.box].closet_id == at[place.drop_id] for place in answer.places if place.drop_id)
    assert sum(closet.price_minor for closet in answer.closets) == answer.price_minor


def test_what_is_held_for_a_closet_goes_with_it(project):
    far = project.closets[1].id
    held = apply_edits(project, [Hold(models=(Held(closet_id=far, model="switch-8m", count=1),))])
    assert held.held == {far: {"switch-8m": 1}}
    assert apply_edits(held, [RemoveEntry(list="closets", id=far)]).held == {}


def test_removing_a_closet_brings_its_drops_to_the_head_end_and_undoes_whole(project):
    rest = apply_edits(project, [RemoveEntry(list="closets", id=project.closets[1].id)])
    assert {drop.closet_id for drop in rest.drops} == {1}


def test_the_head_end_cannot_be_removed(project):
    with pytest.raises(InvalidInput, match="is the head end; a project keeps one"):
        apply_edits(project, [RemoveEntry(list="closets", id=1)])


def test_a_project_holds_sixty_closets_and_no_more():
    full = [AddEntry(list="closets", values={"name": f"Closet {n}"}) for n in range(MAX_CLOSETS - 1)]
    project = apply_edits(empty_project("Many", 2026), full)
    with pytest.raises(InvalidInput, match="at most 60"):
        apply_edits(project, full[:1])


def test_every_run_goes_to_the_closet_that_its_drop_names(project):
    placed = layout(project)
    at = {point.id: (point.x_m, point.y_m) for point in placed.closets}
    for way in drawn_runs(project):
        assert way.line.corners[0][:2] == at[project.drops_by_id[way.drop_id].closet_id]


def test_each_closet_is_judged_and_one_where_nothing_ends_is_told(project):
    site = SiteState(project, {}, {})
    assert {finding.key for finding in siting(site)} == {"siting-open-1", f"siting-open-{project.closets[1].id}"}
    assert list(idle_closets(site)) == []
    idle = apply_edits(project, [AddEntry(list="closets", values={"name": "Idle"})])
    assert [finding.subject for finding in idle_closets(SiteState(idle, {}, {}))] == ["Idle"]
