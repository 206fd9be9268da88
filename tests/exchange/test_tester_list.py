"""Files of testers: labels found, readings read as they are written, lines that cannot be said and the rest kept."""

import csv
import io
import json
from datetime import datetime

import pytest

from baugrund.core.edits import apply_edits
from baugrund.core.errors import InvalidInput
from baugrund.core.places.labels import labels
from baugrund.core.prove.run_tests import run_tests_of
from baugrund.demo.tester import FAULTS, measured_by
from baugrund.exchange.tables import read_told_table
from baugrund.exchange.tester_list import read_tests, table_of_tests

NOW = datetime(2026, 6, 30, 12)


@pytest.fixture(scope="module")
def house(row_house):
    project = row_house.changed(run_tests=())
    return project, run_tests_of(project, ())


def read(house, text, now=NOW):
    project, told = house
    return read_tests(read_told_table(text.encode()), project, told, now)


def label_of(house, place=0):
    project, told = house
    number = told.runs[place].drop_id
    return labels(project)[number], number


def test_a_line_becomes_a_test_of_the_run_with_its_label(house):
    label, number = label_of(house)
    head = "Label,Time,Operator,Measured from,Wire map,Shorts,Split,Length,Fault m,Resistance,Link,Volts,Watts,Remark"
    line = f"{label.lower()},2026-06-12 14:30,Ada,place,1 2 3 x 5 6 7 8,7-8,3-6/4-5,20.5 m,0.4,3.9,100M,48.1,7.2,by the door"
    (edit,), left = read(house, f"{head}\n{line}\n")
    assert left == () and edit.list == "run_tests"
    assert edit.values == {
        "drop_id": number, "at": "2026-06-12T14:30:00", "by": "Ada", "from_place": True,
        "pins": [1, 2, 3, 0, 5, 6, 7, 8], "shorts": [[7, 8]], "split": [[2, 3]], "length_m": 20.5, "fault_m": 0.4,
        "loop_ohm": 3.9, "speed_mbit": 100, "poe_v": 48.1, "poe_w": 7.2, "note": "by the door",
    }  # fmt: skip


@pytest.mark.parametrize(
    ("text", "pins"),
    [
        ("12345678", [1, 2, 3, 4, 5, 6, 7, 8]), ("1-2-3-4-5-6-7-8", None), ("1 2 3 6 5 4 7 8", [1, 2, 3, 6, 5, 4, 7, 8]),
        ("123--678", [1, 2, 3, 0, 0, 6, 7, 8]), ("1:1 2:2 3:3 4:x 5:5 6:6 7:7 8:8", [1, 2, 3, 0, 5, 6, 7, 8]),
        ("8=8, 7=7, 6=6, 5=5, 4=4, 3=3, 2=1, 1=2", [2, 1, 3, 4, 5, 6, 7, 8]),
        ("123456789", None), ("1234567", None), ("12345679", None), ("", None),
    ],
)  # fmt: skip
def test_wire_maps_are_read_as_testers_write_them(house, text, pins):
    label, _ = label_of(house)
    edits, left = read(house, f'Label,Wire map,Length\n{label},"{text}",9\n')
    if pins is None and text:
        assert edits == () and "Wire map" in left[0]
    else:
        assert edits[0].values.get("pins") == pins


@pytest.mark.parametrize(
    ("line", "said"),
    [
        ("nobody,,10,1000,", "Label: no run is labelled nobody"),
        (",,10,1000,", "Label is empty"),
        ("{label},,-1,1000,", "Length m: Input should be greater than or equal to 0"),
        ("{label},,long,1000,", "Length m: “long” is not a number"),
        ("{label},2026-07-01 08:00,10,1000,", "At: 2026-07-01 08:00:00 is in the future"),
        ("{label},soon,10,1000,", "At: “soon” is no time"),
        ("{label},,10,1000,11-2", "Shorts"),
        ("{label},,10,1000,3-3", "a pin touches another one"),
    ],
)
def test_a_line_that_cannot_be_is_said_and_the_others_are_kept(house, line, said):
    label, _ = label_of(house)
    good, _ = label_of(house, 1)
    text = f"Label,Time,Length,Speed,Shorts\n{line.format(label=label)}\n{good},,12,1G,\n"
    edits, left = read(house, text)
    assert [edit.values["speed_mbit"] for edit in edits] == [1000]
    assert len(left) == 1 and left[0].startswith("line 2: ") and said in left[0]


def test_a_link_faster_than_its_port_is_said(dye_works, catalogue):
    from ..core.priced import stood

    project = dye_works.changed(run_tests=())
    told = run_tests_of(project, stood(project, catalogue)[0])
    run = next(one for one in told.runs if one.expected.port_mbit == 1000)
    name = labels(project)[run.drop_id]
    for speed, kept in (("1000", 1), ("2500", 0)):
        table = read_told_table(f"Label,Speed\n{name},{speed}\n".encode())
        edits, left = read_tests(table, project, told, NOW)
        assert len(edits) == kept and (kept or "faster than its port" in left[0])


def test_a_name_that_several_runs_have_names_none_of_them(house):
    _, told = house
    names = [run.name for run in told.runs]
    shared = next(name for name in names if names.count(name) > 1)
    alone = next(name for name in names if names.count(name) == 1)
    edits, left = read(house, f'Label,Length\n"{shared}",9\n"{alone}",9\n')
    assert left == (f"line 2: Label: several runs are called {shared}; their labels tell them apart",)
    assert len(edits) == 1


def test_a_file_without_labels_is_no_tests(house):
    with pytest.raises(InvalidInput, match="no column Label"):
        read(house, "Length,Speed\n10,1000\n")


def test_a_tester_may_tell_json(house):
    label, number = label_of(house)
    for told in ([{"label": label, "length": 10}], {"tester": "x", "tests": [{"label": label, "length": 10}]}):
        (edit,), _ = read(house, json.dumps(told))
        assert (edit.values["drop_id"], edit.values["length_m"]) == (number, 10)


@pytest.mark.parametrize("seed", [1, 7, 2026])
def test_the_simulated_tester_measures_the_plan_with_faults_that_are_found(house, seed):
    project, told = house
    rows = measured_by(project, told, seed, datetime(2026, 6, 1, 8))
    assert rows == measured_by(project, told, seed, datetime(2026, 6, 1, 8)), "the same seed, the same readings"
    edits, left = read_tests(read_told_table(json.dumps(rows).encode()), project, told, NOW)
    assert left == () and len(edits) == len(told.runs)
    after = run_tests_of(apply_edits(project, list(edits)), ())
    found = {one.key for run in after.runs for one in run.diagnoses}
    assert {"open", "reversed", "a_against_b", "split", "short", "copper_clad", "no_link"} <= found
    clean = measured_by(project, told, seed, datetime(2026, 6, 1, 8), faults=())
    edits, _ = read_tests(read_told_table(json.dumps(clean).encode()), project, told, NOW)
    fine = run_tests_of(apply_edits(project, list(edits)), ())
    assert (fine.passed, fine.failed) == (len(told.runs), 0)
    assert after.failed >= len(FAULTS) - 2


def test_what_goes_out_reads_in_again(house):
    project, told = house
    rows = measured_by(project, told, 3, datetime(2026, 6, 1, 8))
    edits, _ = read_tests(read_told_table(json.dumps(rows).encode()), project, told, NOW)
    tested = apply_edits(project, list(edits))
    text = table_of_tests(tested, run_tests_of(tested, ())).csv().decode("utf-8-sig")
    again, left = read_tests(read_told_table(text.encode()), project, told, NOW)
    assert left == ()
    keep = ("drop_id", "pins", "length_m", "loop_ohm", "speed_mbit", "poe_v", "at")
    assert [{key: edit.values.get(key) for key in keep} for edit in again] == [
        {key: edit.values.get(key) for key in keep} for edit in edits
    ]
    verdicts = {row["Verdict"] for row in csv.DictReader(io.StringIO(text))}
    assert verdicts == {"passed", "failed"}
    assert table_of_tests(tested, run_tests_of(tested, ())).xlsx().startswith(b"PK")


@pytest.mark.parametrize(
    ("text", "place"),
    [("closet", False), ("Panel", False), ("place", True), ("JACK", True), ("device", True), ("roof", None)],
)
def test_the_end_that_was_measured_from_is_read_by_its_usual_names(house, text, place):
    label, _ = label_of(house)
    edits, left = read(house, f"Label,From,Length\n{label},{text},9\n")
    if place is None:
        assert edits == () and "neither closet nor place" in left[0]
    else:
        assert edits[0].values["from_place"] is place
