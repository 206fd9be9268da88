"""Several closets: facts, edits, what the head end's ports carry, and what is said of the others."""

from __future__ import annotations

import pytest

from baugrund.core.demand import demand
from baugrund.core.edits import (
    AddDrops,
    AddEntry,
    AddRooms,
    ChangeDrops,
    ChangeEntry,
    DropChanges,
    NewRoom,
    RemoveEntry,
    apply_edits,
)
from baugrund.core.errors import InvalidInput
from baugrund.core.findings.brief import further_closets, siting
from baugrund.core.findings.finding import Site
from baugrund.core.layout import layout
from baugrund.core.project import MAX_CLOSETS, empty_project
from baugrund.core.reach.runs import runs


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


def test_the_head_end_gives_a_further_closet_one_port_fast_enough_for_its_traffic(project):
    asked = demand(project, 0).live
    assert [(one.drop_id is None, one.closet_id) for one in asked] == [(False, None), (True, project.closets[1].id)]
    link = asked[1].need
    # three cameras of 4 Mbit/s and a desk of 12.5 Mbit/s at the busy hour
    assert (link.traffic_kbit, link.speed_mbit, link.poe_rank) == (
        sum(round(d.busy_mbit * 1000) for d in project.drops[1:]), 1000, 0,
    )  # fmt: skip


@pytest.mark.parametrize(("traffic", "speed"), [(700, 1000), (700.01, 2500), (1750, 2500), (1750.01, 5000)])
def test_a_link_is_filled_to_seventy_percent_and_no_further(project, traffic, speed):
    rest = tuple(drop.id for drop in project.drops[2:])
    idle = ChangeDrops(ids=rest, changes=DropChanges(traffic_mbit=0))
    busy = ChangeDrops(ids=(project.drops[1].id,), changes=DropChanges(traffic_mbit=traffic))
    assert demand(apply_edits(project, [idle, busy]), 0).live[-1].need.speed_mbit == speed


def test_growth_at_the_head_end_is_that_of_its_own_drops(project):
    kinds = {asked.kind for asked in demand(project, 10).reserve}
    assert kinds == {"desk"}


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


def test_each_closet_is_judged_and_a_further_one_tells_what_ends_there(project):
    site = Site(project, (), None)
    assert {finding.key for finding in siting(site)} == {"siting-open-1", f"siting-open-{project.closets[1].id}"}
    (finding,) = further_closets(site)
    assert finding.text.startswith("4 drops end here and share one port of Main closet")
