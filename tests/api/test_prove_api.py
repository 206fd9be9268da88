"""Prove over HTTP: runs with what was measured, a tester's file in, tests out, a simulated tester through the same door."""

import csv
import io
import json

from .conftest import picked
from .test_api import edit


def measured_of(http, project):
    answer = http.get(f"/api/projects/{project}/prove/tests")
    assert answer.status_code == 200
    return answer.json()


def brought(http, project, content, now="2026-12-01T10:00"):
    address = f"/api/projects/{project}/prove/tests/read?now={now}"
    return http.post(address, content=content, headers={"Content-Type": "text/csv"})


def test_a_simulated_tester_goes_through_the_door_of_files(http, house):
    picked(http, house)
    before = measured_of(http, house)
    measured = http.get(f"/api/projects/{house}/prove/simulated-tester?seed=5&start=2026-11-01T08:00").json()
    assert len(measured) == len(before["runs"])
    read = brought(http, house, json.dumps(measured).encode()).json()
    assert read["left_out"] == [] and len(read["edits"]) == len(measured)
    assert edit(http, house, 0, *read["edits"]).status_code == 200
    after = measured_of(http, house)
    assert after["failed"] >= 5 and after["passed"] + after["failed"] == len(measured)
    rows = list(csv.DictReader(io.StringIO(http.get(f"/api/projects/{house}/prove/tests.csv").text.lstrip("\ufeff"))))
    assert [row["Verdict"] for row in rows] == [run["verdict"] for run in after["runs"]]
    assert http.get(f"/api/projects/{house}/prove/tests.xlsx").content.startswith(b"PK")


def test_lines_that_cannot_be_are_said_and_the_rest_is_kept(http, house):
    rows = list(csv.DictReader(io.StringIO(http.get(f"/api/projects/{house}/prove/tests.csv").text.lstrip("\ufeff"))))
    label = rows[0]["Label"]
    text = f"Label,At,Length m\nnobody,,3\n{label},2026-12-01 10:01,3\n{label},2026-12-01 10:00,3\n"
    read = brought(http, house, text.encode()).json()
    assert len(read["edits"]) == 1
    assert read["left_out"] == ["line 2: Label: no run is labelled nobody",
                                "line 3: At: 2026-12-01 10:01:00 is in the future"]  # fmt: skip
    assert brought(http, house, b"Length\n3\n").status_code == 422
    assert http.get("/api/projects/999999/prove/tests").status_code == 404


def test_a_failed_run_is_a_finding_until_it_is_tested_again(http, house):
    number = measured_of(http, house)["runs"][0]["drop_id"]
    revision = measured_of(http, house)["revision"]

    def add(pins):
        return {"type": "add_entry", "list": "run_tests", "values": {"drop_id": number, "pins": pins}}

    bad = edit(http, house, revision, add([2, 1, 3, 4, 5, 6, 7, 8])).json()
    assert any(one["key"] == "test-reversed" for one in bad["balance"]["findings"])
    good = edit(http, house, revision + 1, add([1, 2, 3, 4, 5, 6, 7, 8])).json()
    assert not any(one["verb"] == "prove" for one in good["balance"]["findings"])
    (run,) = [one for one in measured_of(http, house)["runs"] if one["drop_id"] == number]
    assert run["earlier"] == 2, "the one of before, and the one that failed"


def test_a_panel_is_traced_and_told_with_what_to_do_next(http, house):
    def add(rows, **values):
        return {"type": "add_entry", "list": rows, "values": values}

    assert http.get(f"/api/projects/{house}/prove/tracing").json()["panels"] == []
    closet = http.get(f"/api/projects/{house}/state").json()["project"]["closets"][0]["id"]
    sheet = add("trace_sheets", closet_id=closet, positions=12)
    jacks = [add("traced_jacks", closet_id=closet, name=f"J{number}") for number in range(1, 9)]
    assert edit(http, house, 0, sheet, *jacks).status_code == 200
    panel = http.get(f"/api/projects/{house}/prove/tracing").json()["panels"][0]
    assert (panel["left"], panel["next"]["kind"], panel["error"]) == (8, "remote", 0)
    assert 0 < panel["minutes_two"] < panel["minutes_one"]
    rows = list(csv.DictReader(io.StringIO(http.get(f"/api/projects/{house}/prove/tracing.csv").text.lstrip("\ufeff"))))
    assert [row["State"] for row in rows] == ["open"] * 8


def test_what_was_promised_is_told_and_written_as_files(http, house):
    told = http.get(f"/api/projects/{house}/prove/acceptance").json()
    assert told["passed"] + told["failed"] + told["open"] == len(told["checks"]) > 0
    key = told["checks"][0]["check"]["key"]
    result = {"key": key, "value": -60, "met": True, "at": "2026-07-01T09:00:00", "by": "Ben", "place": "stair"}
    assert edit(http, house, 0, {"type": "add_entry", "list": "acceptance", "values": result}).status_code == 200
    after = http.get(f"/api/projects/{house}/prove/acceptance").json()
    assert after["checks"][0]["results"] == told["checks"][0]["results"] + 1
    checks, results = (
        list(csv.DictReader(io.StringIO(http.get(f"/api/projects/{house}/prove/{name}.csv").text.lstrip("\ufeff"))))
        for name in ("acceptance", "results")
    )
    assert [row["Verdict"] for row in checks] == [one["verdict"] for one in after["checks"]]
    assert (results[-1]["Value"], results[-1]["As it should be"], results[-1]["Place"]) == ("-60", "yes", "stair")
    for name in ("acceptance", "results"):
        assert http.get(f"/api/projects/{house}/prove/{name}.xlsx").content.startswith(b"PK")


def test_a_result_that_says_nothing_is_refused_with_its_reason(http, house):
    refused = edit(http, house, 0, {"type": "add_entry", "list": "acceptance", "values": {"key": "failover"}})
    assert refused.status_code == 422
    assert "a result has a figure" in refused.text


def test_the_order_of_work_is_ticked_through_one_edit_and_told_with_what_comes_next(http, house):
    order = http.get(f"/api/projects/{house}/prove/order").json()
    assert (order["done"], order["again"]) == (order["total"], 0), "the row house is built"
    step = next(
        one for stage in order["phases"][0]["stages"] if stage["stage"] == "terminate" for one in stage["steps"]
    )
    keys = [one["key"] for one in step["subjects"]]
    assert edit(http, house, 0, {"type": "untick_work", "stage": "terminate", "subjects": keys}).status_code == 200
    opened = http.get(f"/api/projects/{house}/prove/order").json()
    assert opened["done"] == order["total"] - len(keys)
    assert opened["phases"][0]["next"] == [step["key"]]
    tick = {"type": "tick_work", "stage": "terminate", "subjects": keys, "at": "2026-11-02T09:30:00", "by": "Ben"}
    assert edit(http, house, 1, tick).status_code == 200
    told = http.get(f"/api/projects/{house}/prove/order.csv").text.lstrip("\ufeff")
    rows = [row for row in csv.DictReader(io.StringIO(told)) if row["Stage"] == "Terminate" and row["By"] == "Ben"]
    assert [row["At"] for row in rows] == ["2026-11-02 09:30"] * len(keys)
    refused = edit(http, house, 2, {**tick, "subjects": ["attic/3"]})
    assert refused.status_code == 422


def test_a_device_is_written_down_at_the_bench_and_codes_are_read(http, house):
    bench = http.get(f"/api/projects/{house}/prove/bench").json()
    device = bench["devices"][0]
    code = http.get("/api/codes/read", params={"text": device["code"]}).json()
    assert code["subject"] == device["subject"]
    label = http.get("/api/codes/read", params={"text": "S/N QX-7 MAC 02-00-5e-00-00-31"}).json()
    write = {"type": "write_bench", "subject": device["subject"],
             "changes": {"serial": label["serial"], "hardware": label["hardware"]}}  # fmt: skip
    assert edit(http, house, 0, write).status_code == 200
    now = http.get(f"/api/projects/{house}/prove/bench").json()["devices"][0]
    assert (now["serial"], now["hardware"]) == ("QX-7", "02:00:5E:00:00:31")
    wrong = edit(http, house, 1, {**write, "changes": {"hardware": "03:00:00:00:00:01"}})
    assert wrong.status_code == 422 and "address of groups" in wrong.text
    assert http.get(f"/api/projects/{house}/prove/bench.xlsx").content.startswith(b"PK")


def test_the_run_through_of_powering_up_begins_where_the_project_says(http, house):
    street = http.get(f"/api/projects/{house}/prove/power-up").json()
    assert street["steps"][0]["subject"].startswith("line/")
    begin = {"type": "change_settings", "changes": {"power_up": "switch"}}
    assert edit(http, house, 0, begin).status_code == 200
    switch = http.get(f"/api/projects/{house}/prove/power-up").json()
    assert (switch["begins"], switch["revision"], len(switch["steps"])) == ("switch", 1, len(street["steps"]))


def test_two_phones_tick_at_once_and_neither_loses_a_tick(http, house):
    order = http.get(f"/api/projects/{house}/prove/order").json()
    steps = [one for stage in order["phases"][0]["stages"] if stage["stage"] == "label" for one in stage["steps"]]
    keys = [one["key"] for step in steps for one in step["subjects"]]
    assert edit(http, house, 0, {"type": "untick_work", "stage": "label", "subjects": keys}).status_code == 200
    halves = (("Ada", keys[::2]), ("Ben", keys[1::2]))
    for name, some in halves:
        # both saw the same revision
        tick = {"type": "tick_work", "stage": "label", "subjects": some, "by": name}
        assert edit(http, house, 1, tick).status_code == 200
    told = http.get(f"/api/projects/{house}/prove/order").json()
    assert told["done"] == told["total"]
    (stage,) = [one for one in told["phases"][0]["stages"] if one["stage"] == "label"]
    by = {one["key"]: one["by"] for step in stage["steps"] for one in step["subjects"]}
    assert by == {key: name for name, some in halves for key in some}


def test_two_phones_write_one_device_down_and_both_fields_stay(http, house):
    subject = http.get(f"/api/projects/{house}/prove/bench").json()["devices"][0]["subject"]
    for revision, changes in ((0, {"serial": "A-1"}), (0, {"version": "7.1"})):
        write = {"type": "write_bench", "subject": subject, "changes": changes}
        assert edit(http, house, revision, write).status_code == 200
    device = http.get(f"/api/projects/{house}/prove/bench").json()["devices"][0]
    assert (device["serial"], device["version"]) == ("A-1", "7.1")


def test_every_list_of_prove_comes_as_csv_and_xlsx_and_no_other(http, house):
    for name in ("order", "bench", "tests", "tracing", "acceptance", "results", "readings"):
        text = http.get(f"/api/projects/{house}/prove/{name}.csv")
        assert text.status_code == 200 and text.text.startswith("\ufeff"), name
        book = http.get(f"/api/projects/{house}/prove/{name}.xlsx")
        assert book.content.startswith(b"PK") and f"{name}-{house}.xlsx" in book.headers["content-disposition"]
    assert http.get(f"/api/projects/{house}/prove/secrets.csv").status_code == 422
    assert http.get("/api/projects/999999/prove/order").status_code == 404
