"""Questions: one job each, the newest state counts, and a worker that falls silent is given up."""

from itertools import count

import pytest

from baugrund.store.projects import Projects
from baugrund.store.questions import SILENT_S, Questions

NAME = '{"type": "best"}'


@pytest.fixture
def questions(idle):
    return Questions(idle[0])


@pytest.fixture
def projects(idle):
    return Projects(idle[0])


@pytest.fixture
def house_id(projects, row_house):
    return projects.create(row_house)


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


def asked(questions, project, defer, revision=0):
    """How it stands after asking, the job that became needless, and whether a new job was made."""
    before = count()
    return questions.ask(project, NAME, revision, lambda c: (next(before), defer(c))[1]), next(before) > 0


def job_of(questions, project):
    with questions.database.connection() as connection:
        at = {"project": project, "question": NAME}
        return connection.execute(questions.sql["find"], at).fetchone()["job_id"]


def silent(questions, project, seconds, status="doing"):
    with questions.database.connection() as connection:
        connection.execute(
            "UPDATE questions SET seen_at = now() - make_interval(secs => %s) WHERE project_id = %s", (seconds, project)
        )
        connection.execute(
            "UPDATE procrastinate_jobs SET status = %s WHERE id = (SELECT job_id FROM questions WHERE project_id = %s)",
            (status, project),
        )


def test_a_question_is_asked_once_worked_on_and_settled(questions, house_id, defer):
    assert asked(questions, house_id, defer)[1] is True
    assert asked(questions, house_id, defer)[1] is False
    job = job_of(questions, house_id)
    assert questions.take_up(house_id, NAME, job, 0)
    assert questions.report(house_id, NAME, job, {"best": 5, "bound": 3})
    assert questions.find(house_id, NAME).progress == {"best": 5, "bound": 3}
    questions.settle(house_id, NAME, job, {"answer": None})
    (now, needless), new = asked(questions, house_id, defer)
    assert (now.state, now.reply, needless, new) == ("done", {"answer": None}, None, False)


def test_a_draft_is_seen_until_the_reply_is_there(questions, house_id, defer):
    asked(questions, house_id, defer)
    job = job_of(questions, house_id)
    questions.draft(house_id, NAME, job, {"draft": 0})
    assert questions.find(house_id, NAME).reply is None, "nobody works on it yet"
    questions.take_up(house_id, NAME, job, 0)
    questions.draft(house_id, NAME, job + 1, {"draft": 1})
    assert questions.find(house_id, NAME).reply is None, "another's draft"
    questions.draft(house_id, NAME, job, {"draft": 2})
    seen = questions.find(house_id, NAME)
    assert (seen.state, seen.reply) == ("working", {"draft": 2})
    questions.settle(house_id, NAME, job, {"answer": 3})
    assert questions.find(house_id, NAME).reply == {"answer": 3}
    asked(questions, house_id, defer, 1)
    assert questions.find(house_id, NAME).reply is None


def test_a_newer_revision_is_asked_anew_and_the_older_worker_is_told(questions, house_id, defer):
    asked(questions, house_id, defer)
    old = job_of(questions, house_id)
    questions.take_up(house_id, NAME, old, 0)
    (now, needless), new = asked(questions, house_id, defer, revision=1)
    assert (now.revision, needless, new) == (1, old, True)
    assert not questions.report(house_id, NAME, old, {}), "nobody waits for the old one"
    questions.settle(house_id, NAME, old, {"answer": 1})
    assert questions.find(house_id, NAME).state == "waiting", "what comes too late changes nothing"


def test_an_older_revision_gets_the_reply_of_the_newer_one(questions, house_id, defer):
    asked(questions, house_id, defer, revision=4)
    (now, _), new = asked(questions, house_id, defer, revision=3)
    assert (now.revision, new) == (4, False)


def test_a_worker_that_found_a_newer_state_stamps_its_reply_with_it(questions, house_id, defer):
    asked(questions, house_id, defer, revision=2)
    assert questions.take_up(house_id, NAME, job_of(questions, house_id), 5)
    assert asked(questions, house_id, defer, revision=5)[1] is False


@pytest.mark.parametrize(
    ("seconds", "status", "again"),
    [
        (SILENT_S - 2, "doing", False), (SILENT_S + 2, "doing", True),
        (SILENT_S + 2, "todo", False), (0, "failed", True), (0, "aborted", True),
    ],
)  # fmt: skip
def test_a_question_is_given_to_another_worker_once_its_own_is_gone(questions, house_id, defer, seconds, status, again):
    asked(questions, house_id, defer)
    questions.take_up(house_id, NAME, job_of(questions, house_id), 0)
    silent(questions, house_id, seconds, status)
    assert asked(questions, house_id, defer)[1] is again


def test_a_question_that_was_stopped_stays_so_until_it_is_forgotten(questions, house_id, defer):
    asked(questions, house_id, defer)
    job = job_of(questions, house_id)
    assert questions.stop(house_id, NAME) == job
    assert questions.stop(house_id, NAME) is None, "there is nothing left to stop"
    assert not questions.take_up(house_id, NAME, job, 0)
    (now, _), new = asked(questions, house_id, defer)
    assert (now.state, new) == ("stopped", False)
    questions.forget(house_id, NAME)
    assert asked(questions, house_id, defer)[1] is True


def test_why_there_is_no_reply_is_kept(questions, house_id, defer):
    asked(questions, house_id, defer)
    job = job_of(questions, house_id)
    questions.take_up(house_id, NAME, job, 0)
    questions.settle(house_id, NAME, job, None, "No pick was found.")
    now = questions.find(house_id, NAME)
    assert (now.state, now.told, now.reply) == ("failed", "No pick was found.", None)


def test_questions_go_with_their_project(questions, projects, house_id, defer):
    asked(questions, house_id, defer)
    projects.delete(house_id)
    assert questions.find(house_id, NAME) is None
