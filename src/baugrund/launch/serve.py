"""Serve everything on one loopback address."""

from __future__ import annotations

import os
import signal
import socket
import sys
import threading
from collections.abc import Iterator
from contextlib import contextmanager, nullcontext
from pathlib import Path

import uvicorn
from fastapi import FastAPI

from baugrund.api.app import create_app
from baugrund.core.facts.catalogue import Catalogue
from baugrund.demo import CATALOGUE, PROJECTS
from baugrund.exchange.catalogue_file import read_catalogue
from baugrund.exchange.project_file import read_project
from baugrund.store.catalogues import Catalogues
from baugrund.store.database import Database, alone, open_database
from baugrund.store.projects import Projects

from .collector import collect_seldom
from .patience import PatientProtocol
from .postgres import StartFailed, running
from .workers import BRIEF_WORKERS, workers

FIRST_PORT = 7411
"""Port tried first when none is asked for."""
BACKLOG = 2048
ENDS_WITHIN_S = 5.0
"""How long requests may take that were begun before the end [s]."""
DEMO_LOCK = 7_214_002
"""Key of the advisory lock under which demo projects are loaded."""


def load_demo(database: Database, fresh: bool, catalogue: Catalogue) -> int:
    """Load the demo projects when there is no project, or (``fresh``) after removing all; returns how many.

    All or nothing; of two servers that start at once one loads them.
    """
    projects, catalogues = Projects(database), Catalogues(database, catalogue)
    with alone(database, DEMO_LOCK):
        existing = projects.all()
        if existing and not fresh:
            return 0
        for project in existing:
            projects.delete(project.id)
        # the list shows the one changed last first
        for file in reversed(PROJECTS):
            projects.create(catalogues.priced(read_project(file.read_bytes()), (), "Baugrund"))
    return len(PROJECTS)


def choose_port(asked: int | None) -> socket.socket:
    """A socket that listens at the port asked for, or at the first free one.  Raises StartFailed when that is taken."""
    for port in [asked] if asked else range(FIRST_PORT, FIRST_PORT + 100):
        listening = socket.socket()
        listening.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            listening.bind(("127.0.0.1", port))
            listening.listen(BACKLOG)
        except OSError:
            listening.close()
            continue
        return listening
    raise StartFailed(f"Port {asked or FIRST_PORT} is taken. Choose another one with --port.")


@contextmanager
def terminated_like_interrupted() -> Iterator[None]:
    """A TERM or hang-up before the server listens ends the program as Ctrl-C does, so that all is stopped."""

    def interrupt(*_: object) -> None:
        raise KeyboardInterrupt

    if threading.current_thread() is threading.main_thread():
        for number in (signal.SIGTERM, signal.SIGHUP):
            signal.signal(number, interrupt)
    yield


def server_of(app: FastAPI) -> uvicorn.Server:
    """A server of the application, to be run on a listening socket."""
    config = uvicorn.Config(
        app, log_level="warning", timeout_graceful_shutdown=2, http=PatientProtocol, server_header=False
    )
    return uvicorn.Server(config)


def run_until_interrupted(server: uvicorn.Server, listening: socket.socket) -> bool:
    """Run a server until it is told to end; whether all of it ended in time."""
    thread = threading.Thread(target=server.run, args=([listening],), daemon=True)
    thread.start()
    try:
        while thread.is_alive():
            thread.join(1.0)
    except KeyboardInterrupt:
        server.should_exit = True
        thread.join(ENDS_WITHIN_S)
    return not thread.is_alive()


def serve(folder: Path, front_end: Path, port: int | None, *, demo: bool, fresh: bool) -> None:
    """Run until interrupted; ends all that it started and nothing else."""
    is_over = True
    listening = choose_port(port)
    address = f"http://127.0.0.1:{listening.getsockname()[1]}"
    existing = os.environ.get("DATABASE_URL")
    with terminated_like_interrupted(), nullcontext(existing) if existing else running(folder / "postgres") as url:
        assert url is not None
        database = open_database(url)
        try:
            catalogue = read_catalogue(CATALOGUE)
            if demo:
                count = load_demo(database, fresh, catalogue)
                print(f"  {count} demo projects loaded" if count else "  demo data kept", flush=True)
            app = create_app(database, catalogue, url, front_end)
            collect_seldom()
            with workers(url, brief=BRIEF_WORKERS):
                print(f"\nBaugrund is at {address}  (Ctrl-C ends it)\n", flush=True)
                is_over = run_until_interrupted(server_of(app), listening)
        except KeyboardInterrupt:
            pass
        finally:
            database.close()
            listening.close()
    print("stopped", file=sys.stderr)
    if not is_over:
        # what still computes for a request that nobody waits for would hold the process
        sys.stderr.flush()
        os._exit(0)
