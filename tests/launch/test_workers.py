"""Workers: they end with whoever started them, whatever happens to it, and say what they miss."""

import os
import signal
import subprocess
import sys
import textwrap
import time
from pathlib import Path

import pytest

from baugrund.core.edits import SetTally, apply_edits
from baugrund.launch import workers as launch_workers
from baugrund.launch.workers import workers
from baugrund.store.projects import Projects
from baugrund.store.questions import About, Questions
from baugrund.tasks.questions import BestOf, name_of
from baugrund.tasks.queue import Queue

from ..waiting import until


def is_there(pid):
    """Whether a process runs (a dead one that nobody has looked after does not)."""
    try:
        return Path(f"/proc/{pid}/stat").read_text().rsplit(")", 1)[1].split()[0] != "Z"
    except FileNotFoundError:
        return False


def gone(pid):
    return until(lambda: not is_there(pid))


def test_workers_end_with_the_block_that_began_them(database, database_url):
    with workers(database_url, 2) as started:
        pids = [worker.pid for worker in started.processes]
        assert all(is_there(pid) for pid in pids)
    assert all(gone(pid) for pid in pids)


def test_workers_end_when_their_server_is_killed(database, database_url):
    code = f"""
        import time
        from baugrund.launch.workers import workers
        with workers({database_url!r}, 1) as started:
            print(started.processes[0].pid, flush=True)
            time.sleep(60)
    """
    server = subprocess.Popen([sys.executable, "-c", textwrap.dedent(code)], stdout=subprocess.PIPE, text=True)
    pid = int(server.stdout.readline())
    assert is_there(pid)
    time.sleep(0.5)
    os.kill(server.pid, signal.SIGKILL)
    server.wait()
    assert gone(pid)


def test_a_worker_that_dies_is_begun_again(database, database_url, monkeypatch):
    monkeypatch.setattr(launch_workers, "AGAIN_AFTER_S", 0.1)
    with workers(database_url, 1) as started:
        first = started.processes[0].pid
        os.kill(first, signal.SIGKILL)
        second = until(lambda: (now := started.processes[0].pid) != first and now)
        assert is_there(second)
    assert gone(second)


def test_a_worker_without_a_database_says_so():
    left = {name: value for name, value in os.environ.items() if name != "DATABASE_URL"}
    said = subprocess.run(
        [sys.executable, "-m", "baugrund.cli", "worker"], env=left, capture_output=True, text=True, check=False
    )
    assert (said.returncode, said.stderr) == (1, "baugrund: Name the database in DATABASE_URL.\n")


@pytest.fixture
def machines(database_url):
    """Two machines' worth of processes, of which each knows nothing but the database."""

    def begin():
        command = [sys.executable, "-m", "baugrund.cli", "worker"]
        return subprocess.Popen(command, env={**os.environ, "DATABASE_URL": database_url}, start_new_session=True)

    begun = [begin(), begin()]
    yield begun
    for one in begun:
        if one.poll() is None:
            os.killpg(one.pid, signal.SIGKILL)
        one.wait()


def test_where_one_of_two_machines_is_gone_the_other_one_answers_for_both(database, row_house, machines):
    """All of it ends at once, whatever it was at: each question is answered by who is left, and none twice."""
    projects, queue, questions = Projects(database), Queue(database), Questions(database)
    room, asked = row_house.rooms[0], BestOf(aim="least_price")
    grown = [apply_edits(row_house, [SetTally(room_id=room.id, kind="jack", count=3 + n)]) for n in range(6)]
    stored = [projects.load(projects.create(project)) for project in grown]
    for one in stored:
        queue.ask(one, asked)

    def states():
        return [questions.find(About(project=one.id), name_of(asked)).state for one in stored]

    until(lambda: "working" in states() or "done" in states())
    os.killpg(machines[0].pid, signal.SIGKILL)
    replies = until(lambda: all((one := queue.ask(each, asked)).state == "done" and one.reply for each in stored))
    assert replies and machines[1].poll() is None
    answers = [questions.find(About(project=one.id), name_of(asked)).reply["answer"] for one in stored]
    assert all(answer["proven"] for answer in answers)
    assert [answer["price_minor"] for answer in answers] == sorted(answer["price_minor"] for answer in answers)
