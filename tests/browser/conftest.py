"""A real server over a real database, and Debian's Chromium."""

import shutil
import threading
import time

import pytest
from playwright.sync_api import expect

from baugrund.api.app import create_app
from baugrund.launch.serve import choose_port, server_of

from ..conftest import ROOT

CHROMIUM = shutil.which("chromium-headless-shell") or shutil.which("chromium")
"""The one without a window takes half of the work for the same pages."""

expect.set_options(timeout=120_000)


@pytest.fixture(scope="session")
def browser_type_launch_args():
    quiet = ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
             "--disable-component-update", "--disable-sync"]  # fmt: skip
    return {"executable_path": CHROMIUM, "args": quiet}


@pytest.fixture(scope="session")
def browser_context_args(server):
    return {"base_url": server, "viewport": {"width": 1280, "height": 800}}


@pytest.fixture(scope="session")
def server(database, catalogue, database_url, working):
    """The address of a running program."""
    listening = choose_port(None)
    app = create_app(database, catalogue, database_url, ROOT / "web" / "dist")
    running = server_of(app)
    thread = threading.Thread(target=running.run, args=([listening],), daemon=True)
    thread.start()
    while not running.started:
        time.sleep(0.02)
    yield f"http://127.0.0.1:{listening.getsockname()[1]}"
    running.should_exit = True
    thread.join(5)


@pytest.fixture(autouse=True)
def nobody_waits(database):
    """What a test has asked for and nobody waits for any more is not searched on, beside the tests after it."""
    yield
    with database.connection() as connection:
        connection.execute("UPDATE questions SET state = 'stopped' WHERE state IN ('waiting', 'working')")


@pytest.fixture
def page(page):
    """A page on which an error in the console fails the test."""
    errors = []
    page.on("pageerror", lambda error: errors.append(str(error)))
    page.set_default_timeout(120_000)
    yield page
    assert errors == []


@pytest.fixture
def house(projects, row_house):
    return projects.create(row_house)


@pytest.fixture
def works(projects, dye_works):
    return projects.create(dye_works)


@pytest.fixture
def school(projects, orchard_school):
    return projects.create(orchard_school)
