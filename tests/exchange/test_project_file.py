"""The project file: lossless round trips, and every kind of bad file refused with one sentence."""

import csv
import io
import json

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from baugrund.core.answers.picker import pick
from baugrund.core.errors import InvalidInput
from baugrund.core.facts.drop import Drop
from baugrund.core.facts.project import empty_project
from baugrund.core.plan import schema as plan_schema
from baugrund.exchange.bill_of_materials import write_bill
from baugrund.exchange.catalogue_file import schema as catalogue_schema
from baugrund.exchange.cells import inert
from baugrund.exchange.project_file import MAX_BYTES, read_project, schema, write_project

from ..conftest import ROOT
from ..core.test_edits import any_edit


def test_demo_projects_round_trip(dye_works, row_house):
    for project in (dye_works, row_house):
        assert read_project(write_project(project).encode()) == project


def test_files_from_before_holdings_had_a_closet_hold_for_the_head_end():
    data = json.loads(write_project(empty_project("Old", 2026)))
    head, number = data["project"]["closets"][0]["id"], data["project"]["next_id"]
    data["project"]["stances"] = [
        {"model": "switch-8", "pinned": 1, "excluded": False, "held": 2}, {"model": "switch-5", "held": 0},
    ]  # fmt: skip
    del data["project"]["holdings"]
    read = read_project(json.dumps(data).encode())
    assert read.held == {head: {"switch-8": 2}}
    assert (read.pinned("switch-8"), read.next_id) == (1, number + 1)


texts = st.text(
    st.characters(blacklist_categories=["Cs"], blacklist_characters=[chr(c) for c in range(32)]), max_size=40
)


@given(
    st.lists(
        st.tuples(
            texts,
            st.sampled_from([100, 1000, 2500]),
            st.one_of(st.none(), st.integers(0, 8)),
            st.floats(0.01, 10_000),
            st.booleans(),
        ),
        max_size=8,
    ),
    texts,
)
@settings(max_examples=60, deadline=None)
def test_any_project_round_trips(drops, site):
    project = empty_project("P", 2026, site).model_copy(update={"next_id": 100})
    floor = {"id": 3, "name": "F"}
    room = {"id": 2, "name": "R", "floor_id": 3}
    rows = [
        Drop(id=10 + n, room_id=2, closet_id=1, kind="jack", label=label, speed_mbit=speed, poe_class=poe, run_m=run,
             in_use=use)
        for n, (label, speed, poe, run, use) in enumerate(drops)
    ]  # fmt: skip
    project = type(project).model_validate(
        {**project.model_dump(), "floors": [floor], "rooms": [room], "drops": [r.model_dump() for r in rows]}
    )
    assert read_project(write_project(project).encode()) == project


def changed(dye_works, change):
    data = json.loads(write_project(dye_works))
    change(data)
    return json.dumps(data).encode()


def set_at(*path_and_value):
    *path, last, value = path_and_value

    def change(data):
        for step in path:
            data = data[step]
        data[last] = value

    return change


@pytest.mark.parametrize(
    ("change", "said"),
    [
        (set_at("version", 2), "version: This file has version 2; this program reads version 1"),
        (set_at("format", "other"), "not a Baugrund project file"),
        (set_at("project", "drops", 0, "run_m", -3), r"project.drops\[0\].run_m"),
        (set_at("project", "drops", 0, "draw_w", -0.1), r"project.drops\[0\].draw_w"),
        (set_at("project", "drops", 3, "room_id", 4040), r"drops\[3\] names room 4040, which is not there"),
        (set_at("project", "drops", 0, "closet_id", 77), r"drops\[0\] names closet 77"),
        (set_at("project", "drops", 0, "colour", "red"), r"project.drops\[0\].colour"),
        (set_at("project", "rooms", 0, "name", ""), r"project.rooms\[0\].name"),
        (set_at("project", "next_id", 1), "next_id is 1"),
        (set_at("project", "closets", []), "project.closets"),
        (set_at("project", "settings", "horizon_years", 11), "project.settings.horizon_years"),
        (lambda data: data["project"]["drops"].append(data["project"]["drops"][0]), "drops holds .* twice"),
    ],
)
def test_a_bad_file_is_refused_naming_the_place(dye_works, change, said):
    with pytest.raises(InvalidInput, match=said) as told:
        read_project(changed(dye_works, change))
    assert "\n" not in told.value.sentence


@pytest.mark.parametrize(
    ("content", "said"),
    [
        (b"{", "not JSON: line 1"),
        (b"\xff\xfe", "not UTF-8"),
        (b"[]", "not a Baugrund project file"),
        (b'{"format": "baugrund-project", "version": 1, "project": NaN}', "NaN, which is not a finite number"),
        (b'{"x": -Infinity}', "-Infinity"),
        (b"[" * 100_000, "nested too deeply"),
        (b"[" * 30 + b"]" * 30, "20 levels are the most"),
        (b'{"format": "baugrund-project", "version": 1, "project": {"next_id": 1e999}}', "project"),
        (b" " * (MAX_BYTES + 1), "60,000,000 are the most"),
    ],
)
def test_what_is_no_project_file_is_refused(content, said):
    with pytest.raises(InvalidInput, match=said):
        read_project(content)


@pytest.mark.parametrize(("count", "accepted"), [(10_000, True), (10_001, False)])
def test_ten_thousand_drops_are_the_most(count, accepted):
    drop = {"room_id": 2, "closet_id": 1, "kind": "jack", "speed_mbit": 1000}
    project = {
        "name": "Big", "settings": {"start_year": 2026}, "next_id": 20_001, "closets": [{"id": 1, "name": "C"}],
        "floors": [{"id": 20_000, "name": "F"}], "rooms": [{"id": 2, "name": "R", "floor_id": 20_000}],
        "drops": [{"id": 3 + n, **drop} for n in range(count)],
    }  # fmt: skip
    content = json.dumps({"format": "baugrund-project", "version": 1, "project": project}).encode()
    if accepted:
        assert len(read_project(content).drops) == count
    else:
        with pytest.raises(InvalidInput, match=r"project.drops: 10,001 drops; a project holds 10,000 at most"):
            read_project(content)


def test_published_schemas_are_those_of_the_program():
    for name, made in (("project", schema()), ("catalogue", catalogue_schema()), ("plan", plan_schema())):
        assert json.loads((ROOT / "docs" / "formats" / f"{name}.schema.json").read_text("utf-8")) == made


def test_the_bill_adds_up_and_carries_no_formula(row_house, catalogue):
    answer = pick(row_house, catalogue, ("least_price",)).answers[0]
    lines = list(csv.DictReader(io.StringIO(write_bill(answer, "EUR"))))
    assert sum(float(line["price"]) for line in lines[:-1]) == float(lines[-1]["price"]) == answer.price_minor / 100
    assert [inert(text) for text in ("=1+1", "+a", "-a", "@a", "plain")] == ["'=1+1", "'+a", "'-a", "'@a", "plain"]


@given(st.lists(any_edit, max_size=20))
@settings(max_examples=60, deadline=None)
def test_whatever_edits_lead_to_comes_in_as_it_went_out(edits):
    from baugrund.core.edits import AddRooms, NewRoom, apply_edits
    from baugrund.core.errors import BaugrundError

    project = apply_edits(empty_project("P", 2026), [AddRooms(rooms=(NewRoom(name="R"),))])
    for edit in edits:
        try:
            project = apply_edits(project, [edit])
        except BaugrundError:
            continue
    assert read_project(write_project(project).encode()) == project
