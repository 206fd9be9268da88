"""Siting: the best closets of each number, against enumeration of every set and every way to share out the drops."""

from __future__ import annotations

import itertools

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from baugrund.core.cabling.pulls import total_h
from baugrund.core.edits import (
    AddDrops,
    AddEntry,
    AddRooms,
    ChangeDrops,
    ChangeEntry,
    ChangeRoom,
    ChangeSettings,
    DropChanges,
    NewRoom,
    NewSite,
    PlaceClosets,
    RoomChanges,
    apply_edits,
)
from baugrund.core.errors import NotFound
from baugrund.core.facts.project import empty_project
from baugrund.core.places.layout import layout
from baugrund.core.reach.runs import runs
from baugrund.core.siting.answers import siting
from baugrund.core.siting.costs import OUT_OF_REACH, Costs
from baugrund.core.siting.places import MAX_PLACES, places
from baugrund.core.siting.search import Limits, best_of_size, evaluate

from .small import line


def finish(steps):
    """The value at the end of a piece of work that tells how far it is."""
    while True:
        try:
            next(steps)
        except StopIteration as done:
            return done.value


def case(seed, drops=6, many=5):
    """A made-up matrix: some runs out of reach, links unlike in both directions."""
    draw = np.random.default_rng(seed)
    money = draw.integers(0, 40, (drops, many)) * 10
    money[draw.random((drops, many)) < 0.25] = OUT_OF_REACH
    links = draw.integers(0, 30, (many, many)) * 10
    np.fill_diagonal(links, 0)
    nothing = np.zeros((drops, many))
    return Costs(
        tuple(range(drops)), money.astype(np.int64), nothing, nothing.astype(np.int64), nothing,
        links.astype(np.int64), np.zeros((many, many)), draw.integers(0, 20, many).astype(np.int64), np.zeros(many),
    )  # fmt: skip


def by_enumeration(costs, size, limits):
    """The least cost over every set, head end, and way to share out the drops, each drop in a closet or in none."""
    drops, many = costs.money.shape
    best = None
    for some in itertools.combinations(range(many), size):
        if limits.fixed is not None and limits.fixed not in some:
            continue
        runs_least = None
        for ends in itertools.product((*some, -1), repeat=drops):
            if limits.most_drops and any(ends.count(place) > limits.most_drops for place in some):
                continue
            cost = sum(
                OUT_OF_REACH if end < 0 else int(costs.money[row, end]) for row, end in enumerate(ends)
            )  # fmt: skip
            runs_least = cost if runs_least is None else min(runs_least, cost)
        heads = [limits.fixed] if limits.fixed is not None else some
        linked = min(
            int(costs.entry[head]) + sum(int(costs.links[other, head]) for other in some if other != head)
            for head in heads
        )
        total = runs_least + linked + limits.further_minor * (size - 1)
        best = total if best is None else min(best, total)
    return best


@pytest.mark.parametrize("size", [1, 2, 3])
@pytest.mark.parametrize("most", [None, 2, 3])
@pytest.mark.parametrize("fixed", [None, 2])
def test_the_best_set_is_that_of_enumeration(size, most, fixed):
    for seed in range(8):
        costs = case(seed * 31 + size)
        limits = Limits(50, most, fixed)
        found = finish(best_of_size(costs, size, limits))
        assert found.total == by_enumeration(costs, size, limits)
        assert found.proven
        assert fixed is None or found.head == fixed
        assert len(set(found.places)) == size
        told = sum(OUT_OF_REACH if end < 0 else int(costs.money[row, end]) for row, end in enumerate(found.of_drop))
        heads = costs.heads[list(found.places), found.head].sum()
        assert told + heads + 50 * (size - 1) == found.total, "the cost is that of what is told"
        if most:
            assert max(found.of_drop.count(place) for place in found.places) <= most


@settings(max_examples=40, deadline=None)
@given(seed=st.integers(0, 10_000), size=st.integers(1, 4), further=st.integers(0, 400))
def test_no_set_costs_less_than_the_best(seed, size, further):
    costs = case(seed, drops=12, many=8)
    limits = Limits(further)
    found = finish(best_of_size(costs, size, limits))
    least = min(evaluate(costs, some, limits).total for some in itertools.combinations(range(8), size))
    assert found.total == least


def test_a_search_out_of_time_tells_a_bound_that_holds():
    costs = case(5, drops=40, many=20)
    proven = finish(best_of_size(costs, 4, Limits(10, 8)))
    cut = finish(best_of_size(costs, 4, Limits(10, 8, seconds=0.0)))
    assert cut.bound <= proven.total <= cut.total
    assert proven.proven


ROOMS = (
    ("Plant", "plant", 0), ("Store", "store", 40), ("Bath", "wet", 80), ("Bedroom", "sleeping", 90), ("Far", "work", 150),
)  # fmt: skip


def site(*edits):
    """Rooms of 10 by 10 m in a row at the given x, the closet in the first, four desks in each."""
    project = empty_project("Row", 2026)
    rooms = [
        NewRoom(name=name, outline=((x, 0), (x + 10, 0), (x + 10, 10), (x, 10))) for name, _, x in ROOMS
    ]  # fmt: skip
    project = apply_edits(project, [AddRooms(rooms=tuple(rooms))])
    uses = [
        ChangeRoom(id=room.id, changes=RoomChanges(use=use))
        for room, (_, use, _) in zip(project.rooms, ROOMS, strict=True)
    ]
    desks = [AddDrops(room=room.id, kind="desk", count=4) for room in project.rooms]
    head = ChangeEntry(list="closets", id=1, changes={"room_id": project.rooms[0].id})
    return apply_edits(project, [*uses, *desks, head, *edits])


def names(project, answer, sites):
    return [project.rooms_by_id[answer.places[one.place].room_id].name for one in sites.closets]


def solved(project, catalogue):
    return finish(siting(project, catalogue))


def test_rooms_that_do_not_suit_a_closet_are_no_places_for_one():
    project = site()
    named = {project.rooms_by_id[place.room_id].name: place for place in places(project)}
    assert set(named) == {"Plant", "Store", "Far"}
    assert named["Far"].sleeping_m == 50.0
    room = {room.name: room.id for room in project.rooms}
    asked = apply_edits(project, [
        AddEntry(list="candidates", values={"room_id": room["Bedroom"]}),
        AddEntry(list="candidates", values={"room_id": room["Store"], "ruled_out": True}),
        AddEntry(list="candidates", values={"room_id": room["Far"], "cool": False, "socket": True}),
    ])  # fmt: skip
    judged = {asked.rooms_by_id[place.room_id].name: place for place in places(asked)}
    assert set(judged) == {"Plant", "Bedroom", "Far"}
    assert judged["Bedroom"].faults == ("is a sleeping room",)
    assert judged["Far"].faults == ("may get warmer than 30 °C",)
    assert judged["Far"].socket


def test_a_second_closet_serves_what_the_first_does_not_reach(catalogue):
    project = site(ChangeSettings(changes={"closet_minor": 4_000_00}))
    answer = solved(project, catalogue)
    one, two, three = answer.best
    assert len(one.beyond) > 0 and not two.beyond
    assert answer.recommended == 2
    assert (two.closets_minor, three.closets_minor) == (4_000_00, 8_000_00)
    assert 0 < two.switches_minor < three.switches_minor and two.switches_known
    assert set(names(project, answer, two)) <= {"Plant", "Store", "Far"}
    assert all(sites.bound_minor <= sites.total_minor for sites in answer.best)
    assert two.total_minor < three.total_minor
    assert two.total_minor == (
        two.cable_minor + two.labour_minor + two.links_minor + two.entry_minor + two.closets_minor
        + two.switches_minor
    )  # fmt: skip
    assert sorted(number for one in two.closets for number in one.drop_ids) == [drop.id for drop in project.drops]


def test_lengths_told_are_those_of_the_runs(catalogue):
    """The closets as they stand cost what their runs measure: nothing is computed twice in two ways."""
    project = site()
    answer = solved(project, catalogue)
    measured = runs(project)
    assert answer.now.cable_m == pytest.approx(sum(run.length_m for run in measured.values()), abs=0.1)
    assert answer.now.longest_m == max(run.length_m for run in measured.values())
    assert answer.now.hours == pytest.approx(total_h(project), abs=0.01)
    head = next(place for place in answer.places if place.closet_id == 1)
    assert head.longest_m == max(run.length_m for run in measured.values())
    assert head.beyond == len(answer.now.beyond) == sum(run.length_m > 90 for run in measured.values())


def test_limits_of_the_user_hold_from_both_sides(catalogue):
    project = site(ChangeSettings(changes={"closet_drops": 10, "most_closets": 2}))
    answer = solved(project, catalogue)
    assert len(answer.best) == 2
    assert [len(one.drop_ids) for one in answer.best[1].closets] == [10, 10]
    longest = answer.best[1].longest_m
    short = solved(apply_edits(project, [ChangeSettings(changes={"longest_run_m": longest})]), catalogue)
    assert short.best[1].longest_m <= longest
    assert not short.best[1].beyond
    shorter = solved(apply_edits(project, [ChangeSettings(changes={"longest_run_m": 20.0})]), catalogue)
    assert shorter.best[1].longest_m <= 20.0
    assert shorter.nowhere and set(shorter.nowhere) <= set(shorter.best[1].beyond)


def test_a_head_end_that_stays_is_the_head_end_of_every_answer(catalogue):
    kept = solved(site(ChangeSettings(changes={"keep_head_end": True})), catalogue)
    assert all(kept.places[sites.closets[0].place].closet_id == 1 for sites in kept.best)


def test_cable_that_is_there_costs_nothing_where_it_ends(catalogue):
    project = site()
    first = project.drops[0]
    there = apply_edits(project, [ChangeDrops(ids=(first.id,), changes=DropChanges(existing=True))])
    before, after = solved(project, catalogue).now, solved(there, catalogue).now
    saved = before.cable_minor + before.labour_minor - after.cable_minor - after.labour_minor
    assert saved > 0 and after.cable_m == before.cable_m
    assert before.hours - after.hours == pytest.approx(total_h(project) - total_h(there), abs=0.01)


def test_the_way_of_the_line_counts_for_the_head_end(catalogue):
    project = site()
    far = project.rooms[-1].id
    entry = AddEntry(list="entries", values={"name": "Street", "room_id": far, "x_m": 155, "y_m": 5})
    entered = apply_edits(project, [entry])
    lined = apply_edits(entered, [line("Line", 100, entry_id=entered.entries[0].id)])
    by_room = {lined.rooms_by_id[place.room_id].name: place for place in solved(lined, catalogue).places}
    assert by_room["Far"].entry_m < by_room["Store"].entry_m < by_room["Plant"].entry_m


def test_no_more_places_than_can_be_compared_closets_first():
    rooms = tuple(NewRoom(name=f"Room {n}") for n in range(MAX_PLACES + 5))
    project = apply_edits(empty_project("Many", 2026), [AddRooms(rooms=rooms)])
    last = project.rooms[-1].id
    project = apply_edits(project, [ChangeEntry(list="closets", id=1, changes={"room_id": last})])
    found = places(project)
    assert len(found) == MAX_PLACES
    assert found[0].closet_id == 1


# ---- taking an answer


def test_taking_an_answer_moves_adds_and_removes_closets():
    project = site()
    room = {room.name: room.id for room in project.rooms}
    ids = [drop.id for drop in project.drops]
    two = PlaceClosets(sites=(
        NewSite(room_id=room["Store"], x_m=45, y_m=5, drop_ids=tuple(ids[:12])),
        NewSite(room_id=room["Far"], x_m=155, y_m=5, drop_ids=tuple(ids[12:])),
    ))  # fmt: skip
    after = apply_edits(project, [two])
    assert [closet.room_id for closet in after.closets] == [room["Store"], room["Far"]]
    assert [closet.name for closet in after.closets] == [project.head_end.name, "Far closet"]
    assert {drop.closet_id for drop in after.drops[12:]} == {after.closets[1].id}
    one = PlaceClosets(sites=(NewSite(room_id=room["Plant"], x_m=5, y_m=5),))
    back = apply_edits(after, [one])
    assert len(back.closets) == 1
    assert {drop.closet_id for drop in back.drops} == {1}
    assert two.summary(project) == "place 2 closets"
    with pytest.raises(NotFound):
        apply_edits(project, [PlaceClosets(sites=(NewSite(room_id=9999, x_m=0, y_m=0),))])


def test_what_was_answered_of_a_place_comes_along_and_a_measured_run_does_not():
    project = site()
    far = project.rooms[-1]
    asked = apply_edits(project, [
        AddEntry(list="candidates", values={"room_id": far.id, "dry": True, "cool": True}),
        ChangeEntry(list="closets", id=1, changes={"dry": False}),
        ChangeDrops(ids=(project.drops[0].id,), changes=DropChanges(run_m=12.0)),
    ])  # fmt: skip
    moved = apply_edits(asked, [PlaceClosets(sites=(NewSite(room_id=far.id, x_m=155, y_m=5),))])
    assert (moved.head_end.dry, moved.head_end.cool, moved.head_end.both_sides) == (True, True, None)
    left = [(one.room_id, one.dry) for one in moved.candidates if one.room_id == project.rooms[0].id]
    assert left == [(project.rooms[0].id, False)], "what was answered of the place that it leaves stays known"
    named = apply_edits(asked, [ChangeEntry(list="closets", id=1, changes={"name": "Plant closet"})])
    there = PlaceClosets(sites=(NewSite(room_id=far.id, x_m=155, y_m=5),))
    assert apply_edits(named, [there]).head_end.name == "Far closet"
    sites = (NewSite(room_id=project.rooms[0].id, x_m=1, y_m=1),
             NewSite(room_id=far.id, x_m=155, y_m=5, drop_ids=(project.drops[0].id,)))  # fmt: skip
    assert apply_edits(asked, [PlaceClosets(sites=sites)]).drops[0].run_m is None
    assert moved.drops[0].run_m is None, "measured to a place where its closet no longer stands"
    here = layout(asked).closets[0]
    same = PlaceClosets(sites=(NewSite(room_id=asked.rooms[0].id, x_m=here.x_m, y_m=here.y_m),))
    assert apply_edits(asked, [same]).drops[0].run_m == 12.0
