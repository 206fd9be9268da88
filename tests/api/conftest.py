"""The application over a real database, called without a server."""

import pytest
from fastapi.testclient import TestClient

from baugrund.api.app import create_app
from baugrund.exchange.project_file import write_project


@pytest.fixture(scope="module")
def app(database, catalogue, database_url):
    return create_app(database, catalogue, database_url)


@pytest.fixture(scope="module")
def http(app):
    with TestClient(app) as client:
        yield client


@pytest.fixture
def house(http, row_house):
    answer = http.post("/api/projects/import", content=write_project(row_house))
    assert answer.status_code == 201
    return answer.json()["id"]


@pytest.fixture
def works(projects, dye_works):
    return projects.create(dye_works)
