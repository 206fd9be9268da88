"""Limits of what closets, links, setting out and pulls are told: from both sides, with a sentence that names the place."""

from __future__ import annotations

import pytest

from baugrund.core.edits import (
    AddDrops,
    AddEntry,
    AddRooms,
    ChangeEntry,
    ChangeSettings,
    NewRoom,
    NewSite,
    PlaceClosets,
    RecordBuilt,
    RemoveEntry,
    RemoveRoom,
    apply_edits,
)
from baugrund.core.errors import InvalidInput, NotFound
from baugrund.core.facts.project import MAX_CLOSETS, empty_project


@pytest.fixture
def project():
    rooms = (NewRoom(name="Hall", outline=((0, 0), (6, 0), (6, 4), (0, 4))), NewRoom(name="Store", floor="Cellar"))
    return apply_edits(empty_project("P", 2026), [AddRooms(rooms=rooms), AddDrops(room="Hall", kind="camera")])


@pytest.mark.parametrize(
    ("field", "least", "most"),
    [
        ("most_closets", 1, 6),
        ("closet_drops", 1, 10_000),
        ("longest_run_m", 5, 90),
        ("closet_minor", 0, 100_000_00),
        ("spare_strands", 0, 24),
        ("strand_end_minor", 0, 100_000_00),
        ("bundle_most", 1, 100),
    ],
)
def test_every_term_has_its_limits(project, field, least, most):
    for value in (least, most):
        assert getattr(apply_edits(project, [ChangeSettings(changes={field: value})]).settings, field) == value
    for value in (least - 1, most + 1):
        with pytest.raises(InvalidInput, match=field):
            apply_edits(project, [ChangeSettings(changes={field: value})])


def test_no_limit_of_drops_is_a_limit_too(project):
    asked = apply_edits(project, [ChangeSettings(changes={"closet_drops": 5})])
    assert apply_edits(asked, [ChangeSettings(changes={"closet_drops": None})]).settings.closet_drops is None


@pytest.mark.parametrize(("field", "value"), [("link_by", "string"), ("most_closets", 2.5), ("keep_head_end", "maybe")])
def test_a_term_of_another_kind_is_refused(project, field, value):
    with pytest.raises(InvalidInput, match=field):
        apply_edits(project, [ChangeSettings(changes={field: value})])


@pytest.mark.parametrize(("metres", "fits"), [(0.01, True), (10_000, True), (0, False), (10_001, False)])
def test_a_measured_link_has_its_limits(project, metres, fits):
    edits = [AddEntry(list="closets", values={"name": "Second", "link_m": metres})]
    if fits:
        assert apply_edits(project, edits).closets[1].link_m == metres
    else:
        with pytest.raises(InvalidInput, match="link_m"):
            apply_edits(project, edits)


def test_a_place_for_a_closet_has_both_x_and_y_or_neither(project):
    room = project.rooms[0].id
    for values in ({}, {"x_m": 1.0, "y_m": 2.0}):
        assert apply_edits(project, [AddEntry(list="candidates", values={"room_id": room, **values})]).candidates
    with pytest.raises(InvalidInput, match="both x and y"):
        apply_edits(project, [AddEntry(list="candidates", values={"room_id": room, "x_m": 1.0})])


def test_as_many_places_as_closets_may_be_named_and_no_more(project):
    room = project.rooms[0].id
    full = apply_edits(project, [AddEntry(list="candidates", values={"room_id": room})] * MAX_CLOSETS)
    assert len(full.candidates) == MAX_CLOSETS
    with pytest.raises(InvalidInput, match=f"candidates: .* {MAX_CLOSETS}"):
        apply_edits(full, [AddEntry(list="candidates", values={"room_id": room})])


def test_strands_come_in_the_numbers_that_cables_have(project):
    for strands in (4, 8, 12, 24):
        values = {"grade": "OS2", "strands": strands}
        assert apply_edits(project, [AddEntry(list="fibres", values=values)]).fibres[0].strands == strands
    for wrong in ({"grade": "OS2", "strands": 6}, {"grade": "OM9"}, {"grade": "OM3", "minor_per_m": -1}):
        with pytest.raises(InvalidInput):
            apply_edits(project, [AddEntry(list="fibres", values=wrong)])


def test_places_go_with_their_room_and_landmarks_with_their_floor(project):
    store = project.rooms[1]
    marked = apply_edits(project, [
        AddEntry(list="candidates", values={"room_id": store.id}),
        AddEntry(list="landmarks", values={"name": "Pipe", "floor_id": store.floor_id, "x_m": 1, "y_m": 1}),
    ])  # fmt: skip
    roomless = apply_edits(marked, [RemoveRoom(id=store.id)])
    assert not roomless.candidates and roomless.landmarks
    assert not apply_edits(roomless, [RemoveEntry(list="floors", id=store.floor_id)]).landmarks


def test_a_closet_that_goes_leaves_what_it_fed_to_the_head_end(project):
    two = apply_edits(project, [AddEntry(list="closets", values={"name": "Second"})])
    second = two.closets[1].id
    three = apply_edits(two, [AddEntry(list="closets", values={"name": "Third", "fed_by_id": second})])
    assert three.closets[2].fed_by_id == second
    rest = apply_edits(three, [RemoveEntry(list="closets", id=second)])
    assert [closet.fed_by_id for closet in rest.closets] == [None, None]


@pytest.mark.parametrize("metres", [-0.1, 1000.1, float("nan")])
def test_a_device_stands_within_a_kilometre_of_its_walls(metres):
    with pytest.raises(ValueError, match="first_m"):
        RecordBuilt(drop_id=1, first_m=metres, second_m=None)
    assert RecordBuilt(drop_id=1, first_m=1000, second_m=0).first_m == 1000


def test_what_is_not_there_cannot_be_placed_or_recorded(project):
    with pytest.raises(NotFound, match="no drop 999"):
        apply_edits(project, [RecordBuilt(drop_id=999, first_m=1, second_m=1)])
    site = NewSite(room_id=project.rooms[0].id, x_m=1, y_m=1, drop_ids=(999,))
    with pytest.raises(NotFound, match="no drop 999"):
        apply_edits(project, [PlaceClosets(sites=(site,))])
    with pytest.raises(ValueError, match="at least 1"):
        PlaceClosets(sites=())
    with pytest.raises(ValueError, match=f"at most {MAX_CLOSETS}"):
        PlaceClosets(sites=(NewSite(room_id=1, x_m=0, y_m=0),) * (MAX_CLOSETS + 1))


def test_the_head_end_stays_the_first_of_the_closets_whatever_moves(project):
    room = project.rooms[1].id
    moved = apply_edits(project, [PlaceClosets(sites=(NewSite(room_id=room, x_m=1, y_m=1),))])
    assert moved.head_end.id == project.head_end.id and moved.head_end.room_id == room
    with pytest.raises(InvalidInput, match="head end"):
        apply_edits(moved, [RemoveEntry(list="closets", id=moved.head_end.id)])
    with pytest.raises(InvalidInput, match="not there"):
        apply_edits(moved, [ChangeEntry(list="closets", id=moved.head_end.id, changes={"fed_by_id": 999})])
