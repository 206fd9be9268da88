"""States kept in memory: never other than the rows, never of a state that was not committed, known by the revision."""

import threading

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from baugrund.core.edits import AddRooms, ChangeSettings, NewRoom, RemoveRoom, apply_edits
from baugrund.core.errors import BaugrundError, InvalidInput, NotFound
from baugrund.core.facts.kept import kept
from baugrund.core.facts.project import empty_project
from baugrund.store.projects import Projects
from baugrund.store.states import STATES_KEPT, States, Stored

from ..core.test_edits import any_edit


def rooms(*names):
    return AddRooms(rooms=tuple(NewRoom(name=name) for name in names))


@given(st.lists(any_edit, min_size=1, max_size=10), st.booleans())
@settings(
    max_examples=25, deadline=None, derandomize=True, suppress_health_check=[HealthCheck.function_scoped_fixture]
)  # fmt: skip
def test_what_is_kept_after_an_edit_is_what_its_rows_say(projects, edits, undone):
    number = projects.create(apply_edits(empty_project("P", 2026), [rooms("R")]))
    for edit in edits:
        try:
            stored = projects.edit(number, [edit], projects.load(number).revision, "ann")
        except BaugrundError:
            continue
        if undone and projects.steps(number, "ann").undo:
            stored = projects.undo(number, "ann")
        assert projects.load(number) == stored, "the fixture holds both against the rows"


def test_an_edit_by_another_server_is_seen(projects, database):
    number = projects.create(empty_project("P", 2026))
    assert projects.load(number).revision == 0
    Projects(database).edit(number, [rooms("Attic")], 0, "ben")
    stored = projects.load(number)
    assert (stored.revision, [room.name for room in stored.project.rooms]) == (1, ["Attic"])
    assert [room.name for room in projects.edit(number, [rooms("Cellar")], 1, "ann").project.rooms] == [
        "Attic",
        "Cellar",
    ]


def test_a_state_that_was_refused_is_not_kept(database):
    def no(_):
        raise InvalidInput("No.", "name")

    projects = Projects(database)
    number = projects.create(empty_project("P", 2026))
    projects.edit(number, [rooms("Attic")], 0, "ann")
    projects.edit(number, [RemoveRoom(id=projects.load(number).project.rooms[0].id)], 1, "ann")
    projects.allowed = no
    with pytest.raises(InvalidInput):
        projects.undo(number, "ann")
    projects.allowed = lambda _: None
    after = projects.edit(number, [rooms("Cellar")], 2, "ann")
    assert (after.revision, [room.name for room in after.project.rooms]) == (3, ["Cellar"])
    assert Projects(database).load(number) == projects.load(number) == after


def test_a_project_that_is_removed_is_gone_though_it_was_kept(projects, row_house):
    number = projects.create(row_house)
    projects.load(number)
    projects.delete(number)
    with pytest.raises(NotFound):
        projects.load(number)


def test_everyone_gets_an_object_of_his_own_with_what_was_computed_before(projects, row_house):
    times = []

    @kept
    def computed(project):
        times.append(project)
        return len(project.drops)

    number = projects.create(row_house)
    first = projects.load(number).project
    assert computed(first) == 18
    second = projects.load(number).project
    assert second is not first and computed(second) == 18 and len(times) == 1
    later = projects.edit(number, [ChangeSettings(changes={"budget_minor": 30})], 0, "ann").project
    assert computed(later) == 18 and len(times) == 2, "nothing is carried over an edit"


def test_only_the_last_states_are_kept():
    states = States()
    for number in range(STATES_KEPT + 1):
        states.keep(Stored(number, 3, empty_project(f"P{number}", 2026)))
    assert states.at(0, 3) is None
    assert states.at(1, 3).project.name == "P1"
    assert states.at(1, 2) is None and states.at(1, 4) is None


def test_a_state_that_was_read_late_does_not_replace_a_newer_one():
    states = States()
    newer, older = (Stored(1, revision, empty_project(f"at {revision}", 2026)) for revision in (5, 4))
    states.keep(newer)
    assert states.keep(older) is older
    assert states.at(1, 5).project.name == "at 5"


def test_threads_share_the_states(projects, row_house):
    number = projects.create(row_house)
    seen = []
    threads = [threading.Thread(target=lambda: seen.append(projects.load(number))) for _ in range(8)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert len(seen) == 8 and all(stored.project == row_house for stored in seen)
