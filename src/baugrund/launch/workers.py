"""Workers: processes that take questions off the queue, any number, on any machine that reaches the database."""

from __future__ import annotations

import logging
import os
import subprocess
import sys
import threading
import time
from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path

from baugrund.core.facts.catalogue import Catalogue
from baugrund.store.catalogues import Catalogues
from baugrund.store.database import open_database
from baugrund.store.projects import Projects
from baugrund.store.questions import SILENT_S
from baugrund.tasks.desk import Desk, worker_app
from baugrund.tasks.pickers import Pickers
from baugrund.tasks.queue import BRIEF

from .collector import collect_seldom

log = logging.getLogger(__name__)

WORKERS = 2
BRIEF_WORKERS = 1
"""Beside them, for what takes but seconds: it never waits until a long search is done."""
ENDS_WITHIN_S = 5
LOOK_EVERY_S = 0.5
AGAIN_AFTER_S, AGAIN_MOST_S = 1.0, 15.0
"""How long after its beginning a worker that ended is begun again at the soonest [s]; doubled each time."""
LIVED_LONG_S = 60.0
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
        collect_seldom()
        app.run_worker(
            queues=[BRIEF] if only_brief else None,
            concurrency=1,
            fetch_job_polling_interval=2.0,
            abort_job_polling_interval=1.0,
            shutdown_graceful_timeout=0.5,
            delete_jobs="always",
            update_heartbeat_interval=3.0,
            stalled_worker_timeout=SILENT_S,
        )
    finally:
        database.close()


class _Kept:
    """A worker process that is begun again whenever it ends."""

    def __init__(self, command: Sequence[str], environment: Mapping[str, str]) -> None:
        self.command, self.environment = command, environment
        self.wait_s = AGAIN_AFTER_S
        self.begin()

    def begin(self) -> None:
        self.process = subprocess.Popen(self.command, env=self.environment, start_new_session=True)
        self.begun_at = time.monotonic()

    def look_after(self) -> None:
        """Begin it again if it has ended: at once if it lived long, else after ever longer."""
        if self.process.poll() is None:
            return
        lived_s = time.monotonic() - self.begun_at
        if lived_s > LIVED_LONG_S:
            self.wait_s = AGAIN_AFTER_S
        if lived_s >= self.wait_s:
            log.warning("a worker ended with %s; another one is begun", self.process.returncode)
            self.wait_s = min(2 * self.wait_s, AGAIN_MOST_S)
            self.begin()


@dataclass(frozen=True)
class Workers:
    """Workers beside this process."""

    kept: list[_Kept]

    @property
    def processes(self) -> list[subprocess.Popen[bytes]]:
        """Those that run now."""
        return [one.process for one in self.kept]


@contextmanager
def workers(url: str, count: int = WORKERS, brief: int = 0) -> Iterator[Workers]:
    """So many workers beside this process, and more for what is ``brief``.

    One that ends is begun again; all end with this process, however it ends.
    """
    command = ["setpriv", "--pdeathsig", "TERM", sys.executable, "-m", "baugrund.cli", "worker"]
    commands = [command] * count + [[*command, "--only-brief"]] * brief
    started = Workers([_Kept(one, {**os.environ, "DATABASE_URL": url}) for one in commands])
    is_over = threading.Event()

    def look_after_all() -> None:
        while not is_over.wait(LOOK_EVERY_S):
            for one in started.kept:
                one.look_after()

    watcher = threading.Thread(target=look_after_all, daemon=True)
    watcher.start()
    try:
        yield started
    finally:
        is_over.set()
        watcher.join()
        _end(started)


def _end(started: Workers) -> None:
    for process in started.processes:
        process.terminate()
    for process in started.processes:
        try:
            process.wait(ENDS_WITHIN_S)
        except subprocess.TimeoutExpired:
            process.kill()
            process.wait()
