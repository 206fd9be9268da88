"""The application over a real database, called without a server."""

import pytest
from fastapi.testclient import TestClient

from baugrund.api.app import create_app
from baugrund.exchange.project_file import write_project

from ..waiting import until


@pytest.fixture(scope="module")
def app(database, catalogue, database_url):
    return create_app(database, catalogue, database_url)


@pytest.fixture(scope="module")
def http(app, working):
    with TestClient(app, base_url="http://127.0.0.1") as client:
        yield client


@pytest.fixture
def house(http, row_house):
    answer = http.post("/api/projects/import", content=write_project(row_house))
    assert answer.status_code == 201
    return answer.json()["id"]


@pytest.fixture
def works(projects, dye_works):
    return projects.create(dye_works)


@pytest.fixture
def school(projects, orchard_school):
    return projects.create(orchard_school)


def ended(found):
    """What is told of a search, once nobody works on it any more; nothing before."""
    underway = found["underway"]
    return None if underway and underway["state"] in ("waiting", "working") else found


def replied(http, path):
    """What the search behind an address comes to."""
    return until(lambda: ended(http.get(path).json()))


def picked(http, project, aim="least_price"):
    return replied(http, f"/api/projects/{project}/picks/{aim}")
