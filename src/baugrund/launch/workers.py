"""Workers: processes that take questions off the queue, any number, on any machine that reaches the database."""

from __future__ import annotations

import os
import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from baugrund.core.catalogue import Catalogue
from baugrund.core.pick.helping import helped_by
from baugrund.core.pick.linear import load_machine_code
from baugrund.store.catalogues import Catalogues
from baugrund.store.database import open_database
from baugrund.store.projects import Projects
from baugrund.tasks.desk import Desk, worker_app
from baugrund.tasks.pickers import Pickers
from baugrund.tasks.queue import BRIEF

WORKERS = 2
BRIEF_WORKERS = 1
"""Beside them, for what takes but seconds: it never waits until a long search is done."""
HELPERS = 1 if (os.cpu_count() or 1) > 1 else 0
"""Of each worker that takes what may take long: where there are cores for it, a search is made in two halves."""
ENDS_WITHIN_S = 5
NICENESS = 10


def work(url: str, catalogue: Catalogue, fonts: Path | None, only_brief: bool = False) -> None:
    """Take questions off the queue until told to end; one that is begun then goes back.

    A worker lets whoever sits at a screen go first.  ``fonts``: those of printed sheets; ``only_brief``: leaves what
    may take long to others.
    """
    os.nice(NICENESS)
    database = open_database(url, most_connections=2)
    try:
        catalogues = Catalogues(database, catalogue)
        app = worker_app(url, Desk(database, catalogues, Pickers(Projects(database), catalogues), fonts))
        load_machine_code()
        with helped_by(0 if only_brief else HELPERS):
            app.run_worker(
                queues=[BRIEF] if only_brief else None,
                concurrency=1,
                fetch_job_polling_interval=2.0,
                abort_job_polling_interval=1.0,
                shutdown_graceful_timeout=0.5,
                delete_jobs="always",
                update_heartbeat_interval=3.0,
                stalled_worker_timeout=12.0,
            )
    finally:
        database.close()


@contextmanager
def workers(url: str, count: int = WORKERS, brief: int = 0) -> Iterator[list[subprocess.Popen[bytes]]]:
    """So many workers beside this process, and more for what is ``brief``; they end with it, however it ends."""
    command = ["setpriv", "--pdeathsig", "TERM", sys.executable, "-m", "baugrund.cli", "worker"]
    environment = {**os.environ, "DATABASE_URL": url}
    commands = [command] * count + [[*command, "--only-brief"]] * brief
    started = [subprocess.Popen(one, env=environment, start_new_session=True) for one in commands]
    try:
        yield started
    finally:
        for worker in started:
            worker.terminate()
        for worker in started:
            try:
                worker.wait(ENDS_WITHIN_S)
            except subprocess.TimeoutExpired:
                worker.kill()
                worker.wait()
