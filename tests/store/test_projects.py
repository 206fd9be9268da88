"""Edits through the one door, against a real PostgreSQL."""

import signal
import subprocess
import sys
import threading
import uuid
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from uuid import uuid4

import psycopg
import pytest

from baugrund.core.answers.picker import pick
from baugrund.core.edits import (
    AddDrops,
    AddEntry,
    AddRooms,
    ChangeDrops,
    ChangeRoom,
    DropChanges,
    NewRoom,
    RemoveDrops,
    RemoveRoom,
    Rename,
    RoomChanges,
    SetTally,
)
from baugrund.core.errors import Conflict, InvalidInput, NotFound, NothingToUndo
from baugrund.core.facts.project import empty_project
from baugrund.store.database import migrate, open_database
from baugrund.store.projects import Projects

from ..conftest import made_database


def by_content(project):
    """A project as data without the order in which rows were added."""
    facts = project.model_dump()
    for rows in ("drops", "rooms", "stances", "growth_rates", "additions", "lines"):
        facts[rows] = sorted(facts[rows], key=repr)
    return facts


@pytest.fixture
def house(projects, row_house):
    return projects.create(row_house)


def test_a_project_comes_back_as_it_was_kept(projects, dye_works):
    stored = projects.load(projects.create(dye_works))
    assert by_content(stored.project) == by_content(dye_works)
    assert stored.revision == 0


def test_migrations_run_once(database):
    assert migrate(database) == []


def test_what_was_held_before_holdings_had_a_closet_is_held_for_the_head_end(postgres_url, row_house):
    name = f"baugrund_test_{uuid.uuid4().hex[:12]}"
    with psycopg.connect(postgres_url, autocommit=True) as connection:
        connection.execute(f"CREATE DATABASE {name}")
    pool = open_database(postgres_url.rsplit("/", 1)[0] + f"/{name}")
    try:
        number = Projects(pool).create(row_house)
        with pool.connection() as connection:
            connection.execute("DROP TABLE holdings")
            connection.execute("ALTER TABLE stances ADD COLUMN held integer NOT NULL DEFAULT 0")
            connection.execute("ALTER TABLE additions DROP COLUMN closet_id")
            connection.execute("ALTER TABLE drops DROP COLUMN priority")
            connection.execute(
                "INSERT INTO stances VALUES (%s, 'switch-8', 0, false, 2), (%s, 'switch-5', 1, false, 1)", (number,) * 2
            )
            connection.execute("DELETE FROM migrations WHERE name LIKE '0004%'")
        assert migrate(pool) == ["0004_site.sql"]
        project = Projects(pool).load(number).project
        assert project.held == {row_house.head_end.id: {"switch-8": 2, "switch-5": 1}}
        assert [stance.model for stance in project.stances] == ["switch-5"]
        assert project.next_id == row_house.next_id + 2
    finally:
        pool.close()
        with psycopg.connect(postgres_url, autocommit=True) as connection:
            connection.execute(f"DROP DATABASE {name} WITH (FORCE)")


def test_any_text_survives_but_nul_is_refused(projects):
    name = "Töpferei 陶芸 🏺 עברית \u202e x́"
    number = projects.create(empty_project(name, 2026))
    projects.edit(number, [AddRooms(rooms=(NewRoom(name="Küche “A” \\ '; DROP TABLE drops"),))], 0, "a")
    project = projects.load(number).project
    assert (project.name, project.rooms[0].name) == (name, "Küche “A” \\ '; DROP TABLE drops")
    with pytest.raises(ValueError, match=r"U\+0000"):
        NewRoom(name="a\x00b")


def test_edits_that_touch_other_rows_merge_on_a_stale_revision(projects, house):
    first, second = projects.load(house).project.drops[:2]
    projects.edit(house, [ChangeDrops(ids=(first.id,), changes=DropChanges(run_m=31))], 0, "ann")
    merged = projects.edit(house, [ChangeDrops(ids=(second.id,), changes=DropChanges(run_m=32))], 0, "ben")
    assert [d.run_m for d in merged.project.drops[:2]] == [31, 32]
    assert merged.revision == 2


def test_other_fields_of_the_same_row_merge(projects, house):
    drop = projects.load(house).project.drops[0]
    projects.edit(house, [ChangeDrops(ids=(drop.id,), changes=DropChanges(run_m=31))], 0, "ann")
    merged = projects.edit(house, [ChangeDrops(ids=(drop.id,), changes=DropChanges(label="north"))], 0, "ben")
    assert (merged.project.drops[0].run_m, merged.project.drops[0].label) == (31, "north")


def test_the_same_field_clashes_with_both_values_and_changes_nothing(projects, house):
    drop = projects.load(house).project.drops[0]
    projects.edit(house, [ChangeDrops(ids=(drop.id,), changes=DropChanges(run_m=31))], 0, "ann")
    with pytest.raises(Conflict) as told:
        projects.edit(house, [ChangeDrops(ids=(drop.id,), changes=DropChanges(run_m=40))], 0, "ben")
    clash = told.value.clashes[0]
    assert (clash.yours, clash.theirs, clash.by) == (40, 31, "ann")
    assert projects.load(house).project.drops[0].run_m == 31
    same = projects.edit(house, [ChangeDrops(ids=(drop.id,), changes=DropChanges(run_m=31))], 0, "ben")
    assert same.revision == 1


def test_the_same_tally_cell_clashes(projects, house):
    room = projects.load(house).project.rooms[1]
    projects.edit(house, [SetTally(room_id=room.id, kind="desk", count=3)], 0, "ann")
    with pytest.raises(Conflict, match="tally of desk in Kitchen"):
        projects.edit(house, [SetTally(room_id=room.id, kind="desk", count=2)], 0, "ben")
    assert sum(d.room_id == room.id and d.kind == "desk" for d in projects.load(house).project.drops) == 3


def test_tallies_of_kinds_of_ones_own_clash_by_their_own_names(projects, house):
    room = projects.load(house).project.rooms[1]
    kinds = [AddEntry(list="own_kinds", values={"name": name, "base": "desk"}) for name in ("Till", "Counter")]
    till, counter = (kind.id for kind in projects.edit(house, kinds, 0, "ann").project.own_kinds)
    projects.edit(house, [SetTally(room_id=room.id, kind="desk", own_kind_id=till, count=3)], 1, "ann")
    projects.edit(house, [SetTally(room_id=room.id, kind="desk", own_kind_id=counter, count=2)], 1, "ben")
    with pytest.raises(Conflict, match="tally of Till in Kitchen"):
        projects.edit(house, [SetTally(room_id=room.id, kind="desk", own_kind_id=till, count=2)], 1, "ben")


def test_a_change_that_is_sent_again_is_made_once(projects, house):
    room, first, second = [AddRooms(rooms=(NewRoom(name="Once"),))], uuid4(), uuid4()
    made = projects.edit(house, room, 0, "ann", first)
    assert projects.edit(house, room, 0, "ann", first) == made
    undone = projects.undo(house, "ann", second)
    assert projects.undo(house, "ann", second) == undone
    assert undone.revision == 2
    assert len(projects.history(house)) == 2


def test_the_id_of_a_change_stands_for_one_change_only(projects, house):
    one = uuid4()
    projects.edit(house, [Rename(name="Mine")], 0, "ann", one)
    with pytest.raises(InvalidInput, match="another change"):
        projects.undo(house, "ann", one)
    with pytest.raises(InvalidInput, match="another change"):
        projects.edit(house, [Rename(name="Theirs")], 1, "ben", one)


def test_a_change_sent_twice_at_once_is_made_once(projects, house):
    one = uuid4()
    with ThreadPoolExecutor(6) as pool:
        sent = [
            pool.submit(projects.edit, house, [AddRooms(rooms=(NewRoom(name="Once"),))], 0, "ann", one)
            for _ in range(6)
        ]
        assert {done.result().revision for done in sent} == {1}


def test_a_project_that_is_created_again_under_its_id_is_the_same(projects):
    one = uuid4()
    assert projects.create(empty_project("Once", 2026), one) == projects.create(empty_project("Once", 2026), one)


def test_undo_of_a_rename_does_not_overwrite_the_name_that_somebody_gave_since(projects, house):
    projects.edit(house, [Rename(name="Mine")], 0, "ann")
    projects.edit(house, [Rename(name="Theirs")], 1, "ben")
    with pytest.raises(Conflict, match="name of"):
        projects.undo(house, "ann")
    assert projects.load(house).project.name == "Theirs"


def test_whoever_holds_the_only_connection_is_handed_it_again(postgres_url):
    with made_database(postgres_url) as url, closing(open_database(url, most_connections=1)) as database:
        with database.connection() as outer, database.connection() as inner:
            assert inner is outer
        with pytest.raises(InvalidInput), database.connection():
            Projects(database).create(empty_project("Half", 2026))
            raise InvalidInput("The rest of it cannot be read.")
        assert Projects(database).all() == []


def test_editing_what_somebody_removed_is_told(projects, house):
    drop = projects.load(house).project.drops[0]
    projects.edit(house, [RemoveDrops(ids=(drop.id,))], 0, "ann")
    with pytest.raises(NotFound, match="somebody may have removed it"):
        projects.edit(house, [ChangeDrops(ids=(drop.id,), changes=DropChanges(run_m=9))], 0, "ben")


def test_an_edit_list_is_all_or_nothing(projects, house):
    before = projects.load(house)
    with pytest.raises(NotFound):
        projects.edit(house, [Rename(name="New"), RemoveDrops(ids=(999_999,))], 0, "ann")
    with pytest.raises(InvalidInput):
        projects.edit(house, [AddRooms(rooms=tuple(NewRoom(name="r") for _ in range(200)))] * 11, 0, "ann")
    assert projects.load(house) == before


def test_undo_and_redo_walk_the_journal_and_say_what_they_do(projects, house):
    start = projects.load(house).project
    room = start.rooms[0]
    edits = [
        SetTally(room_id=room.id, kind="camera", count=4),
        ChangeRoom(id=room.id, changes=RoomChanges(name="Salon")),
        RemoveRoom(id=start.rooms[3].id),
    ]
    states = [start]
    for edit in edits:
        states.append(projects.edit(house, [edit], len(states) - 1, "ann").project)
    assert projects.steps(house, "ann").undo == "remove Study with 3 drops"
    for state in reversed(states[:-1]):
        undone = projects.undo(house, "ann").project
        assert by_content(undone) == by_content(state) | {"next_id": undone.next_id}
    with pytest.raises(NothingToUndo):
        projects.undo(house, "ann")
    for state in states[1:]:
        assert by_content(projects.redo(house, "ann").project)["drops"] == by_content(state)["drops"]
    projects.undo(house, "ann")
    projects.edit(house, [Rename(name="Other")], 9, "ann")
    with pytest.raises(NothingToUndo):
        projects.redo(house, "ann")


def test_undo_does_not_overwrite_what_others_changed_since(projects, house):
    drop = projects.load(house).project.drops[0]
    projects.edit(house, [ChangeDrops(ids=(drop.id,), changes=DropChanges(run_m=31))], 0, "ann")
    projects.edit(house, [ChangeDrops(ids=(drop.id,), changes=DropChanges(run_m=50))], 1, "ben")
    with pytest.raises(Conflict):
        projects.undo(house, "ann")
    assert projects.load(house).project.drops[0].run_m == 50
    projects.undo(house, "ben")
    assert projects.undo(house, "ann").project.drops[0].run_m == drop.run_m


def test_undoing_a_room_that_others_filled_is_refused_whole(projects, house):
    added = projects.edit(house, [AddRooms(rooms=(NewRoom(name="Attic"),))], 0, "ann").project.rooms[-1]
    projects.edit(house, [AddDrops(room=added.id, kind="desk")], 1, "ben")
    with pytest.raises(InvalidInput, match="later edits build on it"):
        projects.undo(house, "ann")
    assert projects.load(house).project.rooms[-1] == added


def test_numbers_are_never_given_twice(projects, house):
    room = projects.load(house).project.rooms[0]
    first = projects.edit(house, [AddDrops(room=room.id, kind="desk")], 0, "ann").project.drops[-1].id
    projects.undo(house, "ann")
    assert projects.edit(house, [AddDrops(room=room.id, kind="desk")], 2, "ann").project.drops[-1].id > first


def test_many_people_at_once_lose_nothing(projects, house):
    rooms = projects.load(house).project.rooms
    before = len(projects.load(house).project.drops)

    def work(room):
        for _ in range(5):
            projects.edit(house, [AddDrops(room=room.id, kind="jack")], 0, f"p{room.id}")

    threads = [threading.Thread(target=work, args=(room,)) for room in rooms[:6]]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    stored = projects.load(house)
    assert (len(stored.project.drops) - before, stored.revision) == (30, 30)


def test_the_last_pick_is_kept_until_a_newer_one(projects, house, row_house, catalogue):
    answer = pick(row_house, catalogue, ("least_price",)).answers[0]
    projects.keep_pick(house, 3, answer)
    projects.keep_pick(house, 2, answer.model_copy(update={"price_minor": 1}))
    assert projects.last_pick(house, "least_price") == (3, answer)
    assert projects.last_pick(house, "most_room") is None


KILLED = """
import os, signal, sys
from baugrund.core.edits import AddRooms, NewRoom
from baugrund.store.database import open_database
from baugrund.store.projects import Projects
projects = Projects(open_database(sys.argv[1]))
for number in range(1000):
    projects.edit(int(sys.argv[2]), [AddRooms(rooms=(NewRoom(name=f"room {number}"),))], number, "ann")
    print(number, flush=True)
"""


def test_a_killed_program_loses_no_acknowledged_edit(projects, database_url):
    number = projects.create(empty_project("Killed", 2026))
    child = subprocess.Popen(
        [sys.executable, "-c", KILLED, database_url, str(number)], stdout=subprocess.PIPE, text=True
    )
    acknowledged = -1
    for line in child.stdout:
        acknowledged = int(line)
        if acknowledged == 12:
            child.send_signal(signal.SIGKILL)
            break
    acknowledged = max([acknowledged, *(int(line) for line in child.stdout)])
    child.wait()
    names = [room.name for room in projects.load(number).project.rooms]
    assert names[: acknowledged + 1] == [f"room {n}" for n in range(acknowledged + 1)]
    assert len(names) - acknowledged in (1, 2)


def test_undo_leaves_other_fields_of_the_line_as_others_left_them(projects, house):
    drop = projects.load(house).project.drops[0]
    projects.edit(house, [ChangeDrops(ids=(drop.id,), changes=DropChanges(run_m=31))], 0, "ann")
    projects.edit(house, [ChangeDrops(ids=(drop.id,), changes=DropChanges(label="Mine"))], 1, "ben")
    undone = projects.undo(house, "ann").project.drops[0]
    assert (undone.run_m, undone.label) == (drop.run_m, "Mine")
    redone = projects.redo(house, "ann").project.drops[0]
    assert (redone.run_m, redone.label) == (31, "Mine")


def test_a_journal_older_than_a_column_is_undone_with_the_usual_value(projects, house):
    drop = projects.load(house).project.drops[0]
    projects.edit(house, [RemoveDrops(ids=(drop.id,))], 0, "ann")
    with projects.database.connection() as connection:
        older = "UPDATE journal SET changes = changes #- '{0,2,via_id}' #- '{0,2,avoid_ids}' WHERE project_id = %s"
        connection.execute(older, (house,))
    assert projects.undo(house, "ann").project.drops_by_id[drop.id] == drop
