"""What one part says holds in the others, on projects drawn at random: sitings stand as promised, pulls hold every run once."""

from __future__ import annotations

import os
from collections import Counter
from itertools import pairwise

from hypothesis import given, settings
from hypothesis import strategies as st

from baugrund.core.cabling.pulls import schedule
from baugrund.core.edits import (
    AddDrops,
    AddEntry,
    AddRooms,
    ChangeEntry,
    ChangeSettings,
    DropChanges,
    NewRoom,
    NewSite,
    PlaceClosets,
    apply_edits,
)
from baugrund.core.facts.project import empty_project
from baugrund.core.reach.runs import runs
from baugrund.core.siting.answers import siting

from .test_siting import finish

SIDE = 20
spots = st.tuples(st.integers(0, 4 * SIDE), st.integers(0, SIDE))


@st.composite
def projects(draw):
    """Four rooms in a row, paths of any kind across them, desks anywhere, the closet in one of the rooms."""
    rooms = tuple(
        NewRoom(name=f"R{n}", outline=((n * SIDE, 0), ((n + 1) * SIDE, 0), ((n + 1) * SIDE, SIDE), (n * SIDE, SIDE)))
        for n in range(4)
    )
    project = apply_edits(empty_project("P", 2026), [AddRooms(rooms=rooms)])
    floor = project.floors[0].id
    edits = []
    kinds = st.sampled_from(["tray", "conduit", "skirting", "loft", "drilled"])
    for start, end, kind in draw(st.lists(st.tuples(spots, spots, kinds), max_size=5)):
        if start != end:
            values = {
                "name": f"{kind} {len(edits)}",
                "kind": kind,
                "floor_id": floor,
                "points": [list(start), list(end)],
            }
            edits.append(AddEntry(list="paths", values=values))
    for x, y in draw(st.lists(spots, min_size=1, max_size=9)):
        room = project.rooms[min(3, x // SIDE)]
        edits.append(AddDrops(room=room.id, kind="desk", changes=DropChanges(x_m=x, y_m=y, height_m=0.3)))
    head = draw(st.sampled_from(project.rooms)).id
    by = draw(st.sampled_from(["length", "hours", "cost"]))
    terms = {"route_by": by, "bundle_most": draw(st.integers(1, 6)), "closet_minor": 20_000, "most_closets": 2}
    return apply_edits(
        project, [*edits, ChangeEntry(list="closets", id=1, changes={"room_id": head}), ChangeSettings(changes=terms)]
    )


@settings(max_examples=25 if os.environ.get("SOAK") else 10, deadline=None)
@given(projects())
def test_a_siting_that_is_taken_costs_what_it_promised(catalogue, project):
    for promised in (answer := finish(siting(project, catalogue))).best:
        sites = tuple(
            NewSite(room_id=place.room_id, x_m=place.x_m, y_m=place.y_m, drop_ids=site.drop_ids)
            for site in promised.closets
            for place in [answer.places[site.place]]
        )
        taken = apply_edits(project, [PlaceClosets(sites=sites)])
        stands = finish(siting(taken, catalogue)).now
        all_but_switches = [sites.total_minor - sites.switches_minor for sites in (promised, stands)]
        assert abs(all_but_switches[1] - all_but_switches[0]) <= 1 + promised.total_minor // 10_000
        if promised.switches_known and stands.switches_known:
            assert stands.switches_minor == promised.switches_minor
        assert stands.beyond == promised.beyond
        measured = sum(run.length_m for run in runs(taken).values() if run.drop_id not in promised.beyond)
        assert abs(measured - promised.cable_m) <= 0.1 * len(project.drops)


@settings(max_examples=60, deadline=None)
@given(projects())
def test_every_run_is_pulled_once_and_cut_whole_from_one_box(project):
    found = runs(project)
    cables = [cable for bundle in schedule(project) for cable in bundle.cables]
    assert Counter(cable.drop_id for cable in cables) == Counter(dict.fromkeys(found, 1))
    boxes = {}
    for cable in cables:
        assert cable.length_m == found[cable.drop_id].length_m
        boxes.setdefault(cable.box, []).append((cable.from_m, cable.to_m))
    for cuts in boxes.values():
        assert all(end <= start for (_, end), (start, _) in pairwise(sorted(cuts)))
        assert min(start for start, _ in cuts) >= 0 and max(end for _, end in cuts) <= 305.0


@settings(max_examples=60, deadline=None)
@given(projects())
def test_a_bundle_is_led_by_its_longest_and_never_takes_longer_than_one_by_one(project):
    most = project.settings.bundle_most
    firsts = []
    for bundle in schedule(project):
        lengths = [cable.length_m for cable in bundle.cables]
        assert lengths[0] == max(lengths) and len(lengths) <= most
        assert bundle.cables[0].leaves_at == ""
        assert bundle.hours <= bundle.alone_h + 0.01
        together = [cable.leaves_m for cable in bundle.cables[1:]]
        assert all(0 < metres <= bundle.cables[0].length_m for metres in together)
        firsts.append(lengths[0])
    assert firsts == sorted(firsts, reverse=True)
