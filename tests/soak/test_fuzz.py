"""Every operation of the OpenAPI document with generated input on rows that are there: no failure, nothing undescribed."""

import json
from collections import Counter
from random import Random

import httpx
import pytest
import schemathesis
from hypothesis import HealthCheck, Phase, given, settings
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_schema_conformance,
    status_code_conformance,
)

from baugrund.api.app import create_app

EXAMPLES, EXAMPLES_LONG = 3, 75
"""For each of some seventy operations."""
CHECKS = [not_a_server_error, status_code_conformance, content_type_conformance, response_schema_conformance]
NUMBERS = {
    "room_id": "rooms", "closet_id": "closets", "floor_id": "floors", "fed_by_id": "closets", "behind_id": "drops",
    "via_id": "paths", "own_kind_id": "own_kinds", "building_id": "buildings", "to_floor_id": "floors",
    "recorder_id": "drops", "drop_id": "drops", "path_id": "paths",
}  # fmt: skip
"""Fields that name a row, and of which list."""
WAITED_FOR = ("/parts.csv", "/pdf", "/prices.{kind}")
description = schemathesis.openapi.from_dict(create_app(None, None).openapi())


class Rows:
    """A copy of a project and a catalogue of one's own, to be edited and removed."""

    def __init__(self, stand):
        self.base, self.random = stand.base, Random(1)
        first = httpx.get(f"{stand.base}/api/projects").json()[-1]["id"]
        self.file = httpx.get(f"{stand.base}/api/projects/{first}/export").content
        self.catalogue = httpx.get(f"{stand.base}/api/catalogues").json()[0]["id"]
        models = httpx.get(f"{stand.base}/api/catalogues/{self.catalogue}").json()["catalogue"]["models"]
        self.models = [model["key"] for model in models]
        self.renew()

    def renew(self):
        """A copy as it was; the last one may be gone by now."""
        answer = httpx.post(f"{self.base}/api/projects/import", content=self.file, timeout=60)
        self.id = answer.json()["id"]
        self.project = httpx.get(f"{self.base}/api/projects/{self.id}").json()["project"]

    def one_of(self, rows):
        there = self.project.get(rows) or [{"id": 1}]
        return self.random.choice(there)["id"]

    def bound(self, value, key=""):
        """The same with numbers of rows that are there in place of made-up ones, mostly."""
        if isinstance(value, dict):
            return {name: self.bound(inner, name) for name, inner in value.items()}
        if isinstance(value, list):
            inner_key = "drop_id" if key == "ids" else key
            return [self.bound(inner, inner_key) for inner in value]
        if self.random.random() < 0.1:
            return value
        if key in NUMBERS and isinstance(value, int):
            return self.one_of(NUMBERS[key])
        if key == "model" and isinstance(value, str):
            return self.random.choice(self.models)
        return 0 if key == "seen_revision" else value

    def bind(self, case):
        """Put what is there in the place of what the case made up."""
        places = {
            "project_id": self.id, "catalogue_id": self.catalogue, "floor_id": self.one_of("floors"),
            "closet_id": self.one_of("closets"), "drop_id": self.one_of("drops"),
            "model": self.random.choice(self.models), "key": "ports",
        }  # fmt: skip
        case.path_parameters = {
            name: places[name] if name in places and self.random.random() < 0.9 else value
            for name, value in case.path_parameters.items()
        }
        if isinstance(case.body, dict | list):
            case.body = json.loads(json.dumps(self.bound(case.body)))


@pytest.fixture(scope="module")
def rows(stand):
    return Rows(stand)


@pytest.mark.parametrize(
    "operation", [result.ok() for result in description.get_all_operations()], ids=lambda operation: operation.label
)
def test_no_input_makes_the_server_stumble(stand, rows, long, operation):
    if "/events" in operation.path:
        pytest.skip("a stream has no end")
    if operation.path.endswith(WAITED_FOR) and not long:
        pytest.skip("it waits for a reply, which takes long while all kinds of them are asked for")
    rows.renew()
    statuses = Counter()

    @given(case=operation.as_strategy())
    @settings(
        max_examples=EXAMPLES_LONG if long else EXAMPLES, deadline=None, phases=[Phase.generate],
        suppress_health_check=list(HealthCheck), derandomize=not long,
    )  # fmt: skip
    def holds(case):
        rows.bind(case)
        answer = case.call(base_url=stand.base, timeout=90)
        statuses[answer.status_code] += 1
        case.validate_response(answer, checks=CHECKS)

    holds()
    print(operation.label, dict(statuses))
