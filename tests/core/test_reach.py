"""Reach: paths joined into a network, runs along them, checked by hand and against NetworkX."""

from __future__ import annotations

import networkx as nx
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from baugrund.core.cabling.pulls import run_hours
from baugrund.core.edits import (
    AddDrops,
    AddEntry,
    AddRooms,
    ChangeDrops,
    ChangeEntry,
    ChangeSettings,
    DropChanges,
    NewRoom,
    RemoveEntry,
    RemoveRoom,
    apply_edits,
)
from baugrund.core.errors import InvalidInput
from baugrund.core.facts.project import empty_project
from baugrund.core.reach.router import LOOSE_COUNTS, Target
from baugrund.core.reach.runs import closet_spots, lengths, router, runs

TALL = ((0, 0), (40, 0), (40, 20), (0, 20))


def hall(*edits, floors=("Ground floor",), state="open"):
    """One room of 40 by 20 m a floor, 2.6 m high; the closet in the corner of the first, at 1 m."""
    rooms = [NewRoom(name=name, floor=name, outline=TALL) for name in floors]
    project = apply_edits(empty_project("Hall", 2026), [AddRooms(rooms=rooms)])
    here = ChangeEntry(list="closets", id=1, changes={"room_id": project.rooms[0].id, "x_m": 1, "y_m": 1})
    open_walls = ChangeEntry(list="buildings", id=project.buildings[0].id, changes={"state": state})
    return apply_edits(project, [here, open_walls, *edits])


def path(project, *points, floor=0, to=None, **values):
    other = None if to is None else project.floors[to].id
    given = {"name": f"Path {project.next_id}", "floor_id": project.floors[floor].id, "to_floor_id": other,
             "points": [list(point) for point in points], **values}  # fmt: skip
    return apply_edits(project, [AddEntry(list="paths", values=given)])


def drop(project, x, y, floor=0, **changes):
    spot = DropChanges(x_m=x, y_m=y, **{"height_m": 0.3, **changes})
    return apply_edits(project, [AddDrops(room=project.rooms[floor].id, kind="desk", changes=spot)])


def run_of(project):
    return runs(project)[project.drops[-1].id]


def test_with_nothing_drawn_a_run_goes_up_along_at_right_angles_and_down():
    run = run_of(drop(hall(), 11, 6))
    # up 1.6, 10 + 5 along the ceiling, down 2.3; loops of 3 and 0.5
    assert run.state == "loose"
    assert run.length_m == pytest.approx(1.6 + 15 + 2.3 + 3.5)
    assert [round(stretch.length_m, 2) for stretch in run.stretches] == [1.6, 15, 2.3, 3, 0.5]


def test_a_run_goes_to_the_path_along_it_and_down():
    """A tray at 2.5 m from (1, 3) to (31, 3); the closet is 2 m beside it, the drop 4 m."""
    project = drop(path(hall(), (1, 3), (31, 3), height_m=2.5), 21, 7)
    run = run_of(project)
    # up 1.5 to the tray's height, 2 m to it; 20 m along; 4 m, down 2.2; loops 3.5
    assert run.state == "paths"
    assert run.path_ids == (project.paths[0].id,)
    assert run.length_m == pytest.approx(1.5 + 2 + 20 + 4 + 2.2 + 3.5)
    assert sum(stretch.length_m for stretch in run.stretches) == pytest.approx(run.length_m)


def test_a_riser_leads_to_the_next_floor_and_its_length_is_the_rise():
    project = path(hall(floors=("Ground floor", "First floor")), (1, 1), to=1, kind="riser")
    project = drop(path(project, (1, 1), (20, 1), floor=1), 20, 3, floor=1)
    run = run_of(project)
    # up 1.5; riser 2.9; along 19; 2 m, down 2.2; loops
    assert run.state == "paths"
    assert run.length_m == pytest.approx(1.5 + 2.9 + 19 + 2 + 2.2 + 3.5)
    assert [s.text for s in run.stretches if s.path_id] == [
        f"{project.paths[0].name}, to First floor",
        project.paths[1].name,
    ]


def test_paths_that_lead_nowhere_leave_a_run_lost_but_measured():
    project = hall(floors=("Ground floor", "First floor"))
    project = drop(path(project, (1, 1), (20, 1), floor=1), 20, 3, floor=1)
    run = run_of(project)
    assert run.state == "lost"
    # up 1.6 and 2.9 through the floor at the closet, 19 + 2 along, down 2.3
    assert run.length_m == pytest.approx(1.6 + 2.9 + 21 + 2.3 + 3.5)


def test_paths_join_where_they_cross_touch_or_come_near_and_no_further():
    def length(gap):
        project = path(hall(), (1, 1), (20, 1), height_m=2.6)
        return run_of(drop(path(project, (20, 1 + gap), (20, 15), height_m=2.6), 20, 15))

    assert length(0.3).path_ids == length(0).path_ids
    assert len(length(0.3).path_ids) == 2
    # beyond that, loose ground is crossed (or the second path not used): never both paths joined
    assert len(length(0.31).path_ids) < 2
    crossing = path(path(hall(), (1, 1), (30, 1), height_m=2.6), (20, 0), (20, 15), height_m=2.6)
    assert len(run_of(drop(crossing, 20, 15)).path_ids) == 2


def test_a_measured_length_stands_over_the_computed_one():
    project = drop(hall(), 11, 6, run_m=30)
    run = run_of(project)
    assert (run.state, run.length_m, run.computed_m) == ("typed", 30, pytest.approx(22.4))
    assert lengths(project)[run.drop_id] == 30


def test_a_run_is_kept_off_a_path_and_forced_onto_one():
    project = path(path(hall(), (1, 3), (31, 3), height_m=2.6), (1, 7), (31, 7), height_m=2.6)
    near, far = (one.id for one in project.paths)
    project = path(path(project, (1, 1), (1, 7), height_m=2.6), (31, 3), (31, 7), height_m=2.6)
    project = drop(project, 31, 4)
    assert near in run_of(project).path_ids
    told = apply_edits(project, [ChangeDrops(ids=(project.drops[0].id,), changes=DropChanges(avoid_ids=(near,)))])
    assert far in run_of(told).path_ids
    assert near not in run_of(told).path_ids
    forced = apply_edits(project, [ChangeDrops(ids=(project.drops[0].id,), changes=DropChanges(via_id=far))])
    assert far in run_of(forced).path_ids
    assert run_of(forced).length_m == pytest.approx(run_of(told).length_m)
    with pytest.raises(InvalidInput, match="forced onto a path and kept off it"):
        apply_edits(forced, [ChangeDrops(ids=(project.drops[0].id,), changes=DropChanges(avoid_ids=(far,)))])


def test_a_forced_path_that_leads_nowhere_leaves_the_run_lost():
    project = path(path(hall(), (1, 1), (20, 1)), (5, 15), (9, 15))
    lone = project.paths[1].id
    project = drop(project, 20, 3, via_id=lone)
    # the lone path can be reached over loose ground, so it is taken
    assert run_of(project).state == "paths"
    upstairs = path(drop(hall(floors=("Ground floor", "First floor")), 20, 3), (1, 1), (20, 1), floor=1)
    told = apply_edits(
        upstairs, [ChangeDrops(ids=(upstairs.drops[0].id,), changes=DropChanges(via_id=upstairs.paths[0].id))]
    )
    assert run_of(told).state == "lost"


def test_the_detour_of_a_building_counts_along_it_and_not_up_or_down():
    project = drop(hall(), 11, 6)
    longer = ChangeEntry(list="buildings", id=project.buildings[0].id, changes={"detour": 1.2})
    assert run_of(apply_edits(project, [longer])).length_m == pytest.approx(22.4 + 0.2 * 15)


def test_by_hours_the_easier_path_is_taken_though_it_is_longer():
    project = path(hall(state="finished"), (1, 1), (31, 1), height_m=2.6, kind="drilled")
    project = path(project, (1, 1), (1, 9), (31, 9), (31, 1), height_m=2.6, kind="tray")
    project = drop(project, 31, 1)
    drilled, tray = (one.id for one in project.paths)
    assert run_of(project).path_ids == (drilled,)
    for by in ("hours", "cost"):
        assert run_of(apply_edits(project, [ChangeSettings(changes={"route_by": by})])).path_ids == (tray,)
    rate = AddEntry(list="path_rates", values={"kind": "drilled", "hours_per_m": 0.01})
    eased = apply_edits(project, [ChangeSettings(changes={"route_by": "hours"}), rate])
    assert run_of(eased).path_ids == (drilled,)


def test_a_device_that_was_moved_on_site_takes_its_run_along():
    project = drop(hall(), 11, 6)
    moved = ChangeDrops(ids=(project.drops[0].id,), changes=DropChanges(built_x_m=12, built_y_m=6, built_why="a joist"))
    assert run_of(apply_edits(project, [moved])).length_m == pytest.approx(22.4 + 1)


def test_a_floor_goes_with_its_paths_and_what_led_only_to_it():
    project = path(hall(floors=("Ground floor", "First floor")), (1, 1), to=1, kind="riser")
    project = path(project, (1, 1), (9, 1), to=1)
    project = path(project, (1, 1), (9, 1), floor=1)
    empty = apply_edits(project, [RemoveEntry(list="paths", id=project.paths[2].id)])
    gone = apply_edits(
        project, [RemoveRoom(id=project.rooms[1].id), RemoveEntry(list="floors", id=project.floors[1].id)]
    )
    assert [one.to_floor_id for one in gone.paths] == [None]
    assert len(empty.paths) == 2


@pytest.mark.parametrize(
    ("values", "said"),
    [
        ({"points": [[1, 1]]}, "must go on to another floor"),
        ({"points": [[1, 1], [2, 2]], "to_floor_id": "same"}, "cannot go on to the floor"),
        ({"points": [[1, 1], [2, 2]], "width_mm": 50}, "both width and depth"),
        ({"points": []}, "at least 1"),
        ({"points": [[n, 0] for n in range(61)]}, "at most 60"),
        ({"points": [[1, 1], [2, 2]], "kind": "air_duct"}, "kind"),
    ],
)
def test_a_path_that_cannot_be_is_refused(values, said):
    project = hall()
    floor = project.floors[0].id
    given = {"name": "P", "floor_id": floor, **values}
    if given.get("to_floor_id") == "same":
        given["to_floor_id"] = floor
    with pytest.raises(InvalidInput, match=said):
        apply_edits(project, [AddEntry(list="paths", values=given)])


def test_faults_of_the_drawing_are_named():
    project = path(path(path(hall(), (1, 1), (20, 1)), (5, 15), (9, 15)), (3, 3), (3, 3))
    faults = {fault.path_id: fault.text for fault in router(project).network.faults}
    assert "joins no other path" in faults[project.paths[1].id]
    assert "has no length" in faults[project.paths[2].id]


spots = st.tuples(st.integers(0, 40), st.integers(0, 20))


@given(st.lists(st.tuples(spots, spots), min_size=1, max_size=7), spots)
@settings(max_examples=120, deadline=None)
def test_every_way_weighs_what_networkx_finds_over_a_grid_of_all_that_may_be_walked(drawn, end):
    """Paths at right angles on whole metres at the ceiling: a grid where a drawn metre weighs 1 and a loose one 3."""
    project = hall()
    grid = nx.grid_2d_graph(41, 21)
    nx.set_edge_attributes(grid, LOOSE_COUNTS, "weight")
    drawn_some = False
    for (x, y), (u, v) in drawn:
        corners = [(x, y), (u, y)] if abs(u - x) >= abs(v - y) else [(x, y), (x, v)]
        if corners[0] == corners[1]:
            continue
        drawn_some = True
        project = path(project, *corners, height_m=2.6)
        (ax, ay), (bx, by) = sorted(corners)
        for k in range(max(bx - ax, by - ay)):
            a = (ax + k, ay) if bx > ax else (ax, ay + k)
            b = (ax + k + 1, ay) if bx > ax else (ax, ay + k + 1)
            grid.edges[a, b]["weight"] = 1.0
    if not drawn_some:
        return
    project = drop(project, *end, height_m=2.6)
    run = run_of(project)
    finder = router(project)
    way = finder.ways([Target(closet_spots(project)[1], project.floors[0].id, *map(float, end), 2.6)])[0]
    weight = sum(leg.length_m * (1.0 if leg.path else LOOSE_COUNTS) for leg in way.legs) - 1.6 * LOOSE_COUNTS
    # a way that leaves paths and comes back to them is not looked for; every other is
    assert weight >= nx.dijkstra_path_length(grid, (1, 1), end) - 1e-6
    assert run.length_m >= 1.6 + abs(end[0] - 1) + abs(end[1] - 1) + 3.5 - 1e-6
    joined = nx.Graph()
    for first, second, data in finder.network.graph.edges(data=True):
        joined.add_edge(first, second, weight=data["length_m"])
    best = min(
        LOOSE_COUNTS * (abs(sx - 1) + abs(sy - 1) + abs(tx - end[0]) + abs(ty - end[1])) + far
        for start, reached in nx.all_pairs_dijkstra_path_length(joined)
        for (_, sx, sy, _) in [finder.network.spots[start]]
        for other, far in reached.items()
        for (_, tx, ty, _) in [finder.network.spots[other]]
    )
    direct = LOOSE_COUNTS * (abs(end[0] - 1) + abs(end[1] - 1))
    assert weight <= min(best, direct) + 1e-6, "and never worse than over any pair of corners"


KINDS = ("tray", "skirting", "loft", "conduit", "joist_bay")
lines = st.lists(st.tuples(spots, spots, st.sampled_from(KINDS), st.integers(0, 1)), max_size=6)
risers = st.lists(spots, max_size=2)


@given(lines, risers, st.lists(st.tuples(spots, st.integers(0, 1)), min_size=1, max_size=4))
@settings(max_examples=60, deadline=None)
def test_every_run_holds_together_whatever_is_drawn(drawn, up, ends):
    """Pieces follow on one another from the closet to the drop, add up, and are never shorter than the straight line."""
    project = hall(floors=("Ground floor", "First floor"))
    for start, end, kind, floor in drawn:
        if start != end:
            project = path(project, start, end, kind=kind, floor=floor)
    for at in up:
        project = path(project, at, to=1, kind="riser")
    for spot, floor in ends:
        project = drop(project, *spot, floor=floor)
    level = {0: 0.0, 1: 2.9}
    found = runs(project)
    for one, (spot, floor) in zip(project.drops, ends, strict=True):
        run = found[one.id]
        assert run.line.corners[0] == (1, 1, 1.0)
        assert run.line.corners[-1] == pytest.approx((*spot, level[floor] + 0.3))
        assert sum(s.length_m for s in run.stretches) == pytest.approx(run.length_m, abs=0.051)
        straight = sum((a - b) ** 2 for a, b in zip(run.line.corners[0], run.line.corners[-1], strict=True)) ** 0.5
        # ends that lie within 0.3 m of each other are joined without a piece of their own
        assert run.length_m >= straight + 3.5 - 0.3 * len(run.path_ids) - 0.051
        assert run_hours(project)[run.drop_id] > 0
        assert set(run.path_ids) <= {one.id for one in project.paths}
    again = runs(project.changed())
    assert again == found, "the same project has the same runs"


@given(st.lists(spots, min_size=1, max_size=8), spots)
@settings(max_examples=40, deadline=None)
def test_moving_one_drop_leaves_all_other_runs_as_they_were(places, to):
    project = path(hall(), (1, 10), (39, 10))
    for spot in places:
        project = drop(project, *spot)
    before = runs(project)
    moved = project.drops[0]
    place = DropChanges(x_m=to[0], y_m=to[1])
    after = runs(apply_edits(project, [ChangeDrops(ids=(moved.id,), changes=place)]))
    assert {k: v for k, v in after.items() if k != moved.id} == {k: v for k, v in before.items() if k != moved.id}


@pytest.mark.parametrize(
    ("field", "least", "most"),
    [
        ("closet_loop_m", 0, 20), ("jack_loop_m", 0, 20), ("ceiling_loop_m", 0, 20),
        ("hour_minor", 0, 10_000_000),
    ],
)  # fmt: skip
def test_every_term_of_reach_has_its_limits(field, least, most):
    project = hall()
    for value in (least, most):
        changed = apply_edits(project, [ChangeSettings(changes={field: value})])
        assert getattr(changed.settings, field) == value
    for value in (least - 1, most + 1):
        with pytest.raises(InvalidInput, match=field):
            apply_edits(project, [ChangeSettings(changes={field: value})])


@pytest.mark.parametrize(("place", "kind", "loop"), [("ceiling", "access_point", 1.5), ("wall", "access_point", 0.5),
                                                     ("", "camera", 1.5), ("wall", "desk", 0.5)])  # fmt: skip
def test_a_device_on_the_ceiling_keeps_a_longer_loop_than_a_jack(place, kind, loop):
    project = hall()
    spot = DropChanges(x_m=5, y_m=5, place=place)
    project = apply_edits(project, [AddDrops(room=project.rooms[0].id, kind=kind, changes=spot)])
    assert run_of(project).stretches[-1].length_m == loop


def test_a_run_is_a_guess_while_its_closet_has_no_room_and_stays_what_was_typed():
    nowhere = ChangeEntry(list="closets", id=1, changes={"room_id": None, "x_m": None, "y_m": None})
    project = apply_edits(drop(drop(hall(), 5, 5), 6, 6, run_m=17), [nowhere])
    guess, typed = runs(project).values()
    assert (guess.state, guess.length_m, guess.line.corners) == ("guess", project.drops[0].kind_row.run_m, ())
    assert (typed.state, typed.length_m) == ("typed", 17)


def test_difficulty_grows_with_the_state_of_the_walls():
    assert [run_of(drop(hall(state=state), 11, 6)).difficulty for state in ("open", "mixed", "finished")] == [1, 3, 4]


def test_ways_are_the_same_however_many_are_looked_at_in_one_go(monkeypatch):
    project = path(path(hall(), (1, 3), (31, 3)), (10, 3), (10, 18))
    for x in range(2, 39, 3):
        project = drop(project, x, 1 + x % 18)
    at_once = runs(project)
    monkeypatch.setattr("baugrund.core.reach.router.PAIRS_AT_ONCE", 6)
    moved = apply_edits(project, [ChangeEntry(list="closets", id=1, changes={"x_m": 1.5})])
    back = apply_edits(moved, [ChangeEntry(list="closets", id=1, changes={"x_m": 1})])
    router(back)._known.clear()
    assert {number: run.length_m for number, run in runs(back).items()} == {
        number: run.length_m for number, run in at_once.items()
    }


@given(st.lists(st.tuples(spots, spots), min_size=1, max_size=5), st.lists(spots, min_size=2, max_size=4), spots)
@settings(max_examples=40, deadline=None)
def test_a_run_is_the_same_whatever_else_starts_from_the_paths(drawn, others, end):
    """Where other closets stand changes nothing: what one place would cost is what it costs once it is taken."""
    project = hall()
    for start, stop in drawn:
        if start != stop:
            project = path(project, start, stop, kind="skirting")
    project = drop(project, *end)
    before = run_of(project)
    for x, y in others:
        room = project.rooms[0].id
        values = {"name": "Another", "room_id": room, "x_m": x, "y_m": y}
        project = apply_edits(project, [AddEntry(list="closets", values=values)])
    assert run_of(project) == before


def test_a_run_along_the_piece_beside_its_closet_goes_no_further_than_its_drop():
    """Closet and drop both beside the middle of one straight path: on at (1, 1), off at (9, 1)."""
    project = path(hall(), (0, 2), (40, 2), height_m=2.6)
    run = run_of(drop(project, 9, 3))
    assert run.length_m == pytest.approx(1.6 + 1 + 8 + 1 + 2.3 + 3.5)


def test_a_run_is_forced_onto_the_part_of_a_path_that_lies_between():
    project = path(
        path(hall(), (0, 2), (40, 2), height_m=2.6, name="Near"), (1, 12), (40, 12), height_m=2.6, name="Far"
    )
    project = drop(project, 9, 3)
    far = next(one.id for one in project.paths if one.name == "Far")
    forced = apply_edits(project, [ChangeDrops(ids=(project.drops[0].id,), changes=DropChanges(via_id=far))])
    run = run_of(forced)
    assert far in run.path_ids
    # up, 11 m over to the far path, 8 m along it, 9 m back, down
    assert run.length_m == pytest.approx(1.6 + 11 + 8 + 9 + 2.3 + 3.5)


def test_a_run_of_another_floor_is_forced_onto_a_path_of_the_first():
    project = path(hall(floors=("Ground floor", "First floor")), (1, 2), (30, 2), (30, 10), name="Round", height_m=2.5)
    project = path(path(project, (1, 2), (1, 10), (30, 10), name="Short", height_m=2.5), (30, 10), to=1, kind="riser")
    project = path(project, (30, 10), (35, 10), floor=1, name="Upstairs", height_m=2.5)
    project = drop(project, 35, 11, floor=1)
    names = {one.name: one.id for one in project.paths}
    for name in ("Round", "Short"):
        forced = apply_edits(
            project, [ChangeDrops(ids=(project.drops[0].id,), changes=DropChanges(via_id=names[name]))]
        )
        assert names[name] in run_of(forced).path_ids
        assert run_of(forced).state == "paths"
