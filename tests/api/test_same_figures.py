"""One project, one answer, one set of figures: the server, its workers with a helper, and the command agree."""

import pytest

from baugrund.core.plan import plan

from .conftest import picked, replied


@pytest.mark.parametrize("name", ["dye_works", "orchard_school"])
def test_server_and_command_tell_the_same_field_by_field(http, projects, catalogue, request, name):
    project = request.getfixturevalue(name)
    number = projects.create(project)
    told = plan(project, catalogue).model_dump(mode="json")
    for answer in told["pick"]["picks"]["answers"]:
        assert picked(http, number, answer["aim"])["answer"] == answer, answer["aim"]
    aim = project.settings.aim
    reasons = replied(http, f"/api/projects/{number}/picks/{aim}/reasons")["reply"]
    assert reasons == {"models": told["pick"]["why_not"]}
    balance = http.get(f"/api/projects/{number}/state").json()["balance"]
    assert balance["closets"] == told["ground"]["closets"]
    assert balance["findings"] == told["findings"]
    for part, address in (("power", "load"), ("traffic", "traffic")):
        got = http.get(f"/api/projects/{number}/{address}").json()
        got = got.get("flows", {key: value for key, value in got.items() if key != "revision"})
        assert got == told["load"][part], address
    signal = http.get(f"/api/projects/{number}/signal").json()
    assert {key: signal[key] for key in told["cover"]["signal"]} == told["cover"]["signal"]
    stack = http.get(f"/api/projects/{number}/stack").json()
    assert all(stack[key] == told["stack"][key] for key in ("closets", "power_cut"))
    reach = http.get(f"/api/projects/{number}/reach").json()
    assert {key: value for key, value in reach.items() if key != "revision"} == told["reach"]["measured"]
