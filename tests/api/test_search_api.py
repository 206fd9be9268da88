"""Searches on the queue: asked once, told as they go, stopped, taken over when a worker dies."""

import os
import signal
from types import SimpleNamespace

import pytest

from baugrund.api.picks import pick_for
from baugrund.core.answers.picker import Picker
from baugrund.core.edits import ChangeSettings
from baugrund.launch.workers import workers
from baugrund.store.catalogues import Catalogues
from baugrund.store.projects import Projects
from baugrund.store.questions import About, Questions, StoredQuestion
from baugrund.tasks.desk import Desk
from baugrund.tasks.questions import BestOf, Found, PriceOf, SheetOf, SitesOf, name_of, named
from baugrund.tasks.queue import Queue

from ..waiting import until
from .conftest import picked, replied
from .test_api import edit

HARD = BestOf(aim="most_room")

pytestmark = pytest.mark.usefixtures("nothing_found")


def jobs(database):
    with database.connection() as connection:
        return connection.execute(
            "SELECT id, status::text, args FROM procrastinate_jobs WHERE task_name = 'answer'"
        ).fetchall()


def test_a_question_is_kept_under_a_text_that_tells_it():
    for question in (HARD, PriceOf(aim="least_price", model="switch-48"), SitesOf(), SheetOf(sheet="pulls")):
        assert named(name_of(question)) == question


def test_who_asks_again_waits_for_the_same_job(idle, orchard_school):
    database, _ = idle
    projects, queue = Projects(database), Queue(database)
    stored = projects.load(projects.create(orchard_school))
    assert [queue.ask(stored, HARD).state for _ in range(3)] == ["waiting"] * 3
    assert len(jobs(database)) == 1


def test_a_newer_state_makes_the_older_search_needless(idle, orchard_school):
    database, _ = idle
    projects, queue = Projects(database), Queue(database)
    number = projects.create(orchard_school)
    queue.ask(projects.load(number), HARD)
    projects.edit(number, orchard_school_change(), 0, "ann")
    assert queue.ask(projects.load(number), HARD).revision == 1
    assert sorted(job["status"] for job in jobs(database)) == ["cancelled", "todo"]


def orchard_school_change():
    from baugrund.core.edits import ChangeSettings

    return [ChangeSettings(changes={"aim": "least_power"})]


def test_the_pick_that_is_followed_comes_first(idle, orchard_school):
    database, _ = idle
    projects, queue = Projects(database), Queue(database)
    stored = projects.load(projects.create(orchard_school))
    queue.ask(stored, HARD)
    queue.ask(stored, BestOf(aim=orchard_school.settings.aim))
    with database.connection() as connection:
        first = connection.execute("SELECT args FROM procrastinate_jobs ORDER BY priority DESC, id LIMIT 1").fetchone()
    assert orchard_school.settings.aim in first["args"]["question"]


def test_what_takes_but_seconds_is_done_though_every_worker_is_at_a_long_search(idle, orchard_school):
    database, url = idle
    projects, queue, questions = Projects(database), Queue(database), Questions(database)
    stored = projects.load(projects.create(orchard_school))
    queue.ask(stored, HARD)
    queue.ask(stored, BestOf(aim="fewest_boxes"))
    with workers(url, 0, brief=1):
        queue.ask(stored, SitesOf())
        until(lambda: questions.find(About(project=stored.id), name_of(SitesOf())).state == "done")
    assert questions.find(About(project=stored.id), name_of(HARD)).state == "waiting", (
        "the long ones are left to others"
    )


def test_two_workers_share_the_questions(idle, orchard_school):
    database, url = idle
    projects, queue, questions = Projects(database), Queue(database), Questions(database)
    stored = projects.load(projects.create(orchard_school))
    asked = [BestOf(aim=aim) for aim in ("most_room", "fewest_boxes")]
    for question in asked:
        queue.ask(stored, question)
    with workers(url, 2):
        until(
            lambda: (
                {questions.find(About(project=stored.id), name_of(question)).state for question in asked} == {"working"}
            )
        )
        until(
            lambda: (
                {questions.find(About(project=stored.id), name_of(question)).state for question in asked} == {"done"}
            )
        )


def test_a_search_that_its_worker_did_not_survive_is_taken_over(idle, orchard_school):
    database, url = idle
    projects, queue, questions = Projects(database), Queue(database), Questions(database)
    stored = projects.load(projects.create(orchard_school))
    queue.ask(stored, HARD)
    with workers(url, 1) as started:
        until(lambda: questions.find(About(project=stored.id), name_of(HARD)).state == "working")
        os.kill(started.processes[0].pid, signal.SIGKILL)
    with workers(url, 1):
        asked = until(lambda: (now := queue.ask(stored, HARD)).state == "done" and now)
    assert asked.reply["answer"]["proven"] is True


def test_a_search_goes_on_after_its_workers_were_ended_and_started_again(idle, orchard_school):
    database, url = idle
    projects, queue, questions = Projects(database), Queue(database), Questions(database)
    stored = projects.load(projects.create(orchard_school))
    queue.ask(stored, HARD)
    with workers(url, 1):
        until(lambda: questions.find(About(project=stored.id), name_of(HARD)).state == "working")
    assert [job["status"] for job in jobs(database)] == ["todo"]
    with workers(url, 1):
        until(lambda: questions.find(About(project=stored.id), name_of(HARD)).state == "done")


def test_a_search_tells_how_far_it_is_and_stops_when_told(http, school):
    path, question = f"/api/projects/{school}/picks/most_room", {"type": "best", "aim": "most_room"}
    until(lambda: http.get(path).json()["underway"]["bound"])
    assert http.post(f"/api/projects/{school}/search/stop", json=question).status_code == 204
    assert http.get(path).json()["underway"]["state"] == "stopped"
    assert http.get(f"{path}/parts.csv").status_code == 409
    assert picked(http, school)["answer"], "another question is not stopped with it"
    assert http.post(f"/api/projects/{school}/search/again", json=question).status_code == 204
    assert http.get(path).json()["underway"]["state"] in ("waiting", "working")
    assert replied(http, path)["answer"]


def test_in_a_copy_and_after_an_undo_the_reply_is_there_without_a_search(projects, database, row_house, catalogue):
    def desk(picker_of):
        return Desk(database, Catalogues(database, catalogue), picker_of)

    def reply(of, project):
        return of.of_project(projects.load(project), name_of(BestOf(aim="least_price")), 0)

    first = projects.create(row_house)
    found = reply(desk(lambda stored: Picker(stored.project, catalogue)), first)
    # nobody searches any more: there is no picker
    at_rest = desk(None)
    copy = projects.create(row_house.changed(name="A copy"))
    assert reply(at_rest, copy) == found
    assert projects.last_pick(copy, "least_price") == (0, found.answer)
    projects.edit(first, [ChangeSettings(changes={"growth_percent": 9})], 0, "ann")
    with pytest.raises(TypeError):
        reply(at_rest, first)
    projects.undo(first, "ann")
    assert reply(at_rest, first) == found


def test_a_draft_comes_with_word_of_the_search_that_goes_on(row_house, catalogue):
    answer = Picker(row_house, catalogue).answer("least_price")
    draft = StoredQuestion(4, "working", 1.0, None, Found(answer=answer).model_dump(mode="json"))
    works = SimpleNamespace(
        projects=SimpleNamespace(load=lambda _: SimpleNamespace(id=1)), queue=SimpleNamespace(ask=lambda *_: draft)
    )
    told = pick_for(1, "least_price", works)
    assert (told.revision, told.answer, told.underway.state) == (4, answer, "working")


def test_an_edit_is_answered_while_a_search_runs_and_the_search_begins_anew(http, works):
    path = f"/api/projects/{works}/picks/most_room"
    http.get(path)
    assert edit(http, works, 0, {"type": "change_settings", "changes": {"budget_minor": 500_000}}).status_code == 200
    found = replied(http, path)
    assert found["revision"] == 1 and found["answer"]


def test_the_price_of_a_model_that_is_not_there_is_refused(http, house):
    answer = http.get(f"/api/projects/{house}/picks/least_price/why-not/switch-of-clay")
    assert (answer.status_code, answer.json()["detail"]) == (404, "The catalogue has no model switch-of-clay.")


def test_the_years_ahead_and_what_flips_the_pick_are_told(http, house):
    answer = picked(http, house)["answer"]
    ahead = replied(http, f"/api/projects/{house}/picks/least_price/ahead")["reply"]
    first_short = next(line["year"] for line in ahead["years"] if line["lacks"])
    assert first_short == answer["full_year"]
    ahead |= replied(http, f"/api/projects/{house}/picks/least_price/steps")["reply"]
    assert all(
        step["now_minor"] + step["then_minor"] == answer["price_minor"] + step["more_minor"] for step in ahead["steps"]
    )
    flips = replied(http, f"/api/projects/{house}/flips")["reply"]["flips"]
    assert {(flip["what"], flip["cheaper"]) for flip in flips} == {
        (w, c) for w in ("growth", "margin", "ports") for c in (True, False)
    }
    for flip in flips:
        assert flip["at"] is None or (flip["price_minor"] < answer["price_minor"]) == flip["cheaper"]


def test_a_reply_that_an_older_program_kept_is_found_again(http, house, database):
    picked(http, house)
    with database.connection() as connection:
        connection.execute(
            'UPDATE questions SET reply = \'{"answer": {"aim": "least_price"}}\' WHERE project_id = %s', (house,)
        )
    assert picked(http, house)["answer"]["proven"] is True
