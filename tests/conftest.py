"""What the tests share: a real PostgreSQL, the shipped catalogue, the demo projects."""

import os
import uuid
from contextlib import contextmanager
from pathlib import Path

import psycopg
import pytest

from baugrund.core.pick.branching import search
from baugrund.demo import CATALOGUE, PROJECTS
from baugrund.exchange.catalogue_file import read_catalogue
from baugrund.exchange.project_file import read_project
from baugrund.launch.postgres import running
from baugrund.launch.workers import workers
from baugrund.store.database import open_database
from baugrund.store.projects import Projects

from .waiting import PATIENCE_S

ROOT = Path(__file__).resolve().parents[1]


@pytest.fixture(scope="session", autouse=True)
def patient():
    """A slow machine proves what a fast one does, only later."""
    with pytest.MonkeyPatch.context() as patched:
        patched.setattr(search, "TIME_LIMIT_S", PATIENCE_S)
        yield


@pytest.fixture(scope="session")
def postgres_url():
    existing = os.environ.get("DATABASE_URL")
    if existing:
        yield existing
        return
    with running(ROOT / "data" / os.environ.get("TEST_POSTGRES", "test-postgres")) as url:
        yield url


@contextmanager
def made_database(postgres_url):
    """The address of a new database, removed at the end."""
    name = f"baugrund_test_{uuid.uuid4().hex[:12]}"
    with psycopg.connect(postgres_url, autocommit=True) as connection:
        connection.execute(f"CREATE DATABASE {name}")
    yield postgres_url.rsplit("/", 1)[0] + f"/{name}"
    with psycopg.connect(postgres_url, autocommit=True) as connection:
        connection.execute(f"DROP DATABASE {name} WITH (FORCE)")


@pytest.fixture(scope="session")
def database_url(postgres_url):
    """A database of its own for this run."""
    with made_database(postgres_url) as url:
        yield url


@pytest.fixture
def idle(postgres_url):
    """A database that no worker looks at, and its address."""
    with made_database(postgres_url) as url:
        pool = open_database(url)
        yield pool, url
        pool.close()


@pytest.fixture(scope="session")
def database(database_url):
    pool = open_database(database_url)
    yield pool
    pool.close()


@pytest.fixture(scope="session")
def working(database, database_url):
    """Two workers on the queue, as a server starts them."""
    with workers(database_url) as started:
        yield started


@pytest.fixture
def nothing_found(database):
    """No search was ever ended: each takes its time again."""
    with database.connection() as connection:
        connection.execute("DELETE FROM replies")


class Checked(Projects):
    """Whenever a project is read, what is kept of it in memory must be what its rows say."""

    def load(self, project_id):
        stored = super().load(project_id)
        assert Projects(self.database).load(project_id) == stored
        return stored


@pytest.fixture
def projects(database):
    return Checked(database)


@pytest.fixture(scope="session")
def catalogue():
    return read_catalogue(CATALOGUE)


@pytest.fixture(scope="session")
def dye_works():
    return read_project(PROJECTS[0].read_bytes())


def without_networks(project):
    """A project of which nobody has said networks, labels or ports."""
    gone = dict.fromkeys(("networks", "wifi_names", "permissions", "patches", "reserved", "printed", "cord_colours",
                          "discovered"), ())  # fmt: skip
    clients = tuple(one.model_copy(update={"wifi_name_id": None}) for one in project.clients)
    return project.changed(clients=clients, **gone)


@pytest.fixture(scope="session")
def orchard_school():
    """Two closets: its searches are the longest of the demo projects."""
    return read_project(PROJECTS[2].read_bytes())


@pytest.fixture(scope="session")
def row_house():
    return read_project(PROJECTS[1].read_bytes())
