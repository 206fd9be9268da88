"""Workers: they end with whoever started them, whatever happens to it, and say what they miss."""

import os
import signal
import subprocess
import sys
import textwrap
import time
from pathlib import Path

from baugrund.launch import workers as launch_workers
from baugrund.launch.workers import workers

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
