"""Questions: one job each, the newest state counts, and a worker that falls silent is given up."""

from itertools import count

import pytest

from baugrund.core.facts.project import empty_project
from baugrund.store.catalogues import Catalogues
from baugrund.store.projects import Projects
from baugrund.store.questions import SILENT_S, About, Questions
from baugrund.tasks.questions import BestOf, name_of
from baugrund.tasks.queue import Queue

NAME = '{"type": "best"}'


@pytest.fixture
def questions(idle):
    return Questions(idle[0])


@pytest.fixture
def projects(idle):
    return Projects(idle[0])


@pytest.fixture
def house(projects, row_house):
    return About(project=projects.create(row_house))


@pytest.fixture
def defer():
    """Puts rows into the queue's table as the queue does; nobody takes them off."""

    def put(connection):
        row = connection.execute(
            "INSERT INTO procrastinate_jobs (queue_name, task_name, args, status) "
            "VALUES ('nobody', 'nothing', '{}', 'todo') RETURNING id"
        ).fetchone()
        return row["id"]

    return put


def asked(questions, about, defer, revision=0):
    """How it stands after asking, the job that became needless, and whether a new job was made."""
    before = count()
    return questions.ask(about, NAME, revision, lambda c: (next(before), defer(c))[1]), next(before) > 0


def job_of(questions, about):
    with questions.database.connection() as connection:
        at = {**about.at(NAME), "silent_s": SILENT_S}
        return connection.execute(questions.sql["find"], at).fetchone()["job_id"]


def silent(questions, about, seconds, status="doing"):
    """The worker that has the job gave its last heartbeat so long ago; None: it is gone from the list."""
    with questions.database.connection() as connection:
        worker = connection.execute(
            "INSERT INTO procrastinate_workers (last_heartbeat) VALUES (now() - make_interval(secs => %s)) RETURNING id",
            (seconds or 0,),
        ).fetchone()["id"]
        connection.execute(
            "UPDATE procrastinate_jobs SET status = %s, worker_id = %s "
            "WHERE id = (SELECT job_id FROM questions WHERE about = %s)",
            (status, worker, str(about)),
        )
        if seconds is None:
            connection.execute("DELETE FROM procrastinate_workers WHERE id = %s", (worker,))


def test_a_question_is_asked_once_worked_on_and_settled(questions, house, defer):
    assert asked(questions, house, defer)[1] is True
    assert asked(questions, house, defer)[1] is False
    job = job_of(questions, house)
    assert questions.take_up(house, NAME, job, 0)
    assert questions.report(house, NAME, job, {"best": 5, "bound": 3})
    assert questions.find(house, NAME).progress == {"best": 5, "bound": 3}
    questions.settle(house, NAME, job, {"answer": None})
    (now, needless), new = asked(questions, house, defer)
    assert (now.state, now.reply, needless, new) == ("done", {"answer": None}, None, False)


def test_a_draft_is_seen_until_the_reply_is_there(questions, house, defer):
    asked(questions, house, defer)
    job = job_of(questions, house)
    questions.draft(house, NAME, job, {"draft": 0})
    assert questions.find(house, NAME).reply is None, "nobody works on it yet"
    questions.take_up(house, NAME, job, 0)
    questions.draft(house, NAME, job + 1, {"draft": 1})
    assert questions.find(house, NAME).reply is None, "another's draft"
    questions.draft(house, NAME, job, {"draft": 2})
    seen = questions.find(house, NAME)
    assert (seen.state, seen.reply) == ("working", {"draft": 2})
    questions.settle(house, NAME, job, {"answer": 3})
    assert questions.find(house, NAME).reply == {"answer": 3}
    asked(questions, house, defer, 1)
    assert questions.find(house, NAME).reply is None


def test_a_newer_revision_is_asked_anew_and_the_older_worker_is_told(questions, house, defer):
    asked(questions, house, defer)
    old = job_of(questions, house)
    questions.take_up(house, NAME, old, 0)
    (now, needless), new = asked(questions, house, defer, revision=1)
    assert (now.revision, needless, new) == (1, old, True)
    assert not questions.report(house, NAME, old, {}), "nobody waits for the old one"
    questions.settle(house, NAME, old, {"answer": 1})
    assert questions.find(house, NAME).state == "waiting", "what comes too late changes nothing"


def test_an_older_revision_gets_the_reply_of_the_newer_one(questions, house, defer):
    asked(questions, house, defer, revision=4)
    (now, _), new = asked(questions, house, defer, revision=3)
    assert (now.revision, new) == (4, False)


def test_a_worker_that_found_a_newer_state_stamps_its_reply_with_it(questions, house, defer):
    asked(questions, house, defer, revision=2)
    assert questions.take_up(house, NAME, job_of(questions, house), 5)
    assert asked(questions, house, defer, revision=5)[1] is False


@pytest.mark.parametrize(
    ("seconds", "status", "again"),
    [
        (SILENT_S - 2, "doing", False), (SILENT_S + 2, "doing", True),
        (SILENT_S + 2, "todo", False), (0, "failed", True), (0, "aborted", True), (None, "doing", True),
    ],
)  # fmt: skip
def test_a_question_is_given_to_another_worker_once_its_own_is_gone(questions, house, defer, seconds, status, again):
    asked(questions, house, defer)
    questions.take_up(house, NAME, job_of(questions, house), 0)
    silent(questions, house, seconds, status)
    assert asked(questions, house, defer)[1] is again


def test_a_question_says_whether_any_worker_is_there(idle):
    questions, project = Questions(idle[0]), Projects(idle[0]).create(empty_project("Waits", 2026))
    queue, house = Queue(idle[0]), About(project=project)
    queue.ask(Projects(idle[0]).load(project), BestOf(aim="least_price"))
    name = name_of(BestOf(aim="least_price"))
    assert questions.find(house, name).attended is False
    with idle[0].connection() as connection:
        connection.execute("INSERT INTO procrastinate_workers DEFAULT VALUES")
    assert questions.find(house, name).attended is True


def test_a_question_that_was_stopped_stays_so_until_it_is_forgotten(questions, house, defer):
    asked(questions, house, defer)
    job = job_of(questions, house)
    assert questions.stop(house, NAME) == job
    assert questions.stop(house, NAME) is None, "there is nothing left to stop"
    assert not questions.take_up(house, NAME, job, 0)
    (now, _), new = asked(questions, house, defer)
    assert (now.state, new) == ("stopped", False)
    questions.forget(house, NAME)
    assert asked(questions, house, defer)[1] is True


def test_why_there_is_no_reply_is_kept(questions, house, defer):
    asked(questions, house, defer)
    job = job_of(questions, house)
    questions.take_up(house, NAME, job, 0)
    questions.settle(house, NAME, job, None, "No pick was found.")
    now = questions.find(house, NAME)
    assert (now.state, now.told, now.reply) == ("failed", "No pick was found.", None)


def test_questions_go_with_their_project(questions, projects, house, defer):
    asked(questions, house, defer)
    projects.delete(house.project)
    assert questions.find(house, NAME) is None


def test_a_catalogue_is_asked_about_beside_a_project_of_its_number(questions, defer, catalogue):
    lists = Catalogues(questions.database, catalogue)
    about = About(catalogue=lists.create(catalogue.model_copy(update={"name": "Van"}), "ann"))
    project = About(project=about.catalogue)
    assert asked(questions, about, defer)[1] is True
    assert questions.find(project, NAME) is None
    questions.take_up(about, NAME, job_of(questions, about), 0)
    questions.settle(about, NAME, job_of(questions, about), {"lines": 3})
    assert questions.find(about, NAME).reply == {"lines": 3}
    lists.delete(about.catalogue)
    assert questions.find(about, NAME) is None, "it went with its catalogue"


@pytest.mark.parametrize(("hours", "state", "there"), [(23, "done", True), (25, "done", False), (25, "working", True)])
def test_what_was_asked_about_a_catalogue_is_kept_for_a_day(questions, defer, catalogue, hours, state, there):
    lists = Catalogues(questions.database, catalogue)
    about = About(catalogue=lists.create(catalogue.model_copy(update={"name": f"Van {hours} {state}"}), "ann"))
    asked(questions, about, defer)
    with questions.database.connection() as connection:
        connection.execute(
            "UPDATE questions SET state = %s, seen_at = now() - make_interval(hours => %s) WHERE about = %s",
            (state, hours, str(about)),
        )
    questions.forget_older(about.catalogue)
    assert (questions.find(about, NAME) is not None) is there
