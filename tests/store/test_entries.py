"""Entries, plans and pictures in the database: kept, undone, merged; what two people change at once."""

import pytest

from baugrund.core.edits import (
    AddDrops,
    AddEntry,
    ChangeEntry,
    ChangeRoom,
    DropChanges,
    Placed,
    PlaceDrops,
    RemoveEntry,
    RoomChanges,
)
from baugrund.core.errors import Conflict, InvalidInput, NotFound
from baugrund.store import pictures as pictures_module
from baugrund.store.changes import TABLES
from baugrund.store.pictures import Pictures

from .test_projects import by_content


@pytest.fixture
def number(projects, dye_works):
    return projects.create(dye_works)


def test_every_list_of_a_project_is_kept(projects, number, dye_works):
    assert by_content(projects.load(number).project) == by_content(dye_works)
    filled = [name for name in TABLES if getattr(dye_works, name) and name != "settings"]
    assert {"goals", "clients", "services", "kit", "measures", "declined", "duties", "entries", "floors"} <= set(filled)


def test_two_people_change_different_fields_of_a_line_and_both_live(projects, number):
    line = projects.load(number).project.lines[0].id
    projects.edit(number, [ChangeEntry(list="lines", id=line, changes={"standby": True})], 0, "ann")
    projects.edit(number, [ChangeEntry(list="lines", id=line, changes={"down_mbit": 700})], 0, "ben")
    after = projects.load(number).project.lines[0]
    assert (after.standby, after.down_mbit) == (True, 700)


def test_the_same_field_of_an_entry_clashes_with_both_values(projects, number):
    goal = projects.load(number).project.goals[0].id
    projects.edit(number, [ChangeEntry(list="goals", id=goal, changes={"level": -60})], 0, "ann")
    with pytest.raises(Conflict) as clash:
        projects.edit(number, [ChangeEntry(list="goals", id=goal, changes={"level": -75})], 0, "ben")
    (field,) = clash.value.clashes
    assert (field.yours, field.theirs, field.by) == (-75, -60, "ann")


def test_two_people_place_different_drops_and_both_live(projects, number):
    first, second = projects.load(number).project.drops[6:8]
    for account, drop in (("ann", first), ("ben", second)):
        place = Placed(id=drop.id, room_id=drop.room_id, x_m=1, y_m=1)
        projects.edit(number, [PlaceDrops(places=(place,))], 0, account)
    placed = projects.load(number).project.drops_by_id
    assert [placed[drop.id].x_m for drop in (first, second)] == [1, 1]


def test_an_outline_is_kept_point_by_point_and_undone(projects, number):
    room = projects.load(number).project.rooms[0]
    outline = ((0.0, 0.0), (8.0, 0.0), (8.0, 5.125), (0.0, 6.0))
    projects.edit(number, [ChangeRoom(id=room.id, changes=RoomChanges(outline=outline))], 0, "ann")
    assert projects.load(number).project.rooms_by_id[room.id].outline == outline
    projects.undo(number, "ann")
    assert projects.load(number).project.rooms_by_id[room.id].outline == room.outline


def test_what_named_an_entry_names_it_again_after_undo(projects, number):
    before = projects.load(number).project
    entry = before.entries[0].id
    projects.edit(number, [RemoveEntry(list="entries", id=entry)], 0, "ann")
    assert projects.load(number).project.lines[0].entry_id is None
    projects.undo(number, "ann")
    assert projects.load(number).project.lines[0].entry_id == entry


def test_an_edit_on_an_entry_that_another_one_removed_is_told(projects, number):
    measure = projects.load(number).project.measures[0].id
    projects.edit(number, [RemoveEntry(list="measures", id=measure)], 0, "ann")
    with pytest.raises(NotFound, match=r"There is no temporary measure \d+; somebody may have removed it\."):
        projects.edit(number, [ChangeEntry(list="measures", id=measure, changes={"ended": True})], 0, "ben")


def test_photos_of_a_drop_are_kept_in_order(projects, number):
    keys = tuple(f"{n:064x}" for n in (3, 1, 2))
    room = projects.load(number).project.rooms[0].id
    projects.edit(number, [AddDrops(room=room, kind="jack", changes=DropChanges(photos=keys))], 0, "ann")
    assert projects.load(number).project.drops[-1].photos == keys


@pytest.fixture
def pictures(database):
    return Pictures(database)


def test_a_picture_is_kept_by_its_content_and_goes_with_its_project(pictures, projects, number):
    key = pictures.keep(number, b"content", "image/png", 3, 4)
    assert pictures.keep(number, b"content", "image/png", 3, 4) == key
    assert pictures.load(number, key).content == b"content"
    projects.delete(number)
    with pytest.raises(NotFound):
        pictures.load(number, key)
    with pytest.raises(NotFound, match="There is no project"):
        pictures.keep(number, b"content", "image/png", 3, 4)


def test_pictures_of_a_project_have_a_limit_from_both_sides(pictures, number, monkeypatch):
    monkeypatch.setattr(pictures_module, "MAX_BYTES_A_PROJECT", 10)
    pictures.keep(number, b"1234567890", "image/png", 1, 1)
    with pytest.raises(InvalidInput, match="the most"):
        pictures.keep(number, b"1", "image/png", 1, 1)


def test_entries_have_a_most_from_both_sides(projects, number):
    there = len(projects.load(number).project.duties)
    many = [AddEntry(list="duties", values={"task": f"T{n}"}) for n in range(200 - there)]
    stored = projects.edit(number, many, 0, "ann")
    assert len(stored.project.duties) == 200
    with pytest.raises(InvalidInput, match="200"):
        projects.edit(number, [AddEntry(list="duties", values={"task": "one more"})], stored.revision, "ann")
