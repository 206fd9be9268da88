"""Workers: processes that take questions off the queue, any number, on any machine that reaches the database."""

from __future__ import annotations

import os
import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager

from baugrund.core.catalogue import Catalogue
from baugrund.store.catalogues import Catalogues
from baugrund.store.database import open_database
from baugrund.store.projects import Projects
from baugrund.tasks.pickers import Pickers
from baugrund.tasks.queue import worker_app

WORKERS = 2
ENDS_WITHIN_S = 5
NICENESS = 10


def work(url: str, catalogue: Catalogue) -> None:
    """Take questions off the queue until told to end; one that is begun then goes back.

    A worker lets whoever sits at a screen go first.
    """
    os.nice(NICENESS)
    database = open_database(url, most_connections=2)
    try:
        app = worker_app(url, database, Pickers(Projects(database), Catalogues(database, catalogue)))
        app.run_worker(
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
def workers(url: str, count: int = WORKERS) -> Iterator[list[subprocess.Popen[bytes]]]:
    """So many workers beside this process; they end with it, however it ends."""
    command = ["setpriv", "--pdeathsig", "TERM", sys.executable, "-m", "baugrund.cli", "worker"]
    environment = {**os.environ, "DATABASE_URL": url}
    started = [subprocess.Popen(command, env=environment, start_new_session=True) for _ in range(count)]
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
