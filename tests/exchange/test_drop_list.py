"""The list of drops as a table: what goes out comes in again, and every bad line is named; all or nothing."""

import io
import re
import zipfile

import openpyxl
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from baugrund.core.edits import AddDrops, AddRooms, DropChanges, NewRoom, apply_edits
from baugrund.core.errors import InvalidInput
from baugrund.core.facts.drop_kinds import DROP_KINDS
from baugrund.core.facts.project import empty_project
from baugrund.exchange import tables
from baugrund.exchange.cells import bare, inert
from baugrund.exchange.drop_columns import COLUMNS, HEAD, match_columns
from baugrund.exchange.drop_list import read_list, write_list_csv, write_list_xlsx
from baugrund.exchange.tables import read_table

EMPTY = empty_project("E", 2026)
LEFT_OUT = {"id", "room_id", "closet_id", "own_kind_id", "behind_id", "photos", "supply", "socket", "traffic_mbit"}
LEFT_OUT |= {"built_x_m", "built_y_m", "built_why", "pulled", "phase_id"}
"""What a list does not hold: numbers, what is recorded on site, and what only the project file carries."""


def content(project):
    """Every drop with the name and floor of its room, without what a list does not hold."""
    aims = {view.drop_id: (view.bearing_deg, view.tilt_deg, view.field_deg) for view in reversed(project.views)}
    return sorted(
        (
            (project.floor_name(room), room.name, room.outside, drop.model_dump(exclude=LEFT_OUT), aims.get(drop.id))
            for drop in project.drops
            for room in [project.rooms_by_id[drop.room_id]]
        ),
        key=repr,
    )


def read_back(data, project=EMPTY):
    listed = read_list(read_table(data), project)
    assert listed.preview.wrong == 0, [line for line in listed.preview.lines if line.wrong]
    return apply_edits(project, [listed.edit])


@pytest.mark.parametrize("write", [lambda p: write_list_csv(p).encode("utf-8-sig"), write_list_xlsx])
def test_the_demo_lists_come_in_as_they_went_out(dye_works, row_house, write):
    for project in (dye_works, row_house):
        assert content(read_back(write(project))) == content(project)


words = st.text(st.characters(blacklist_categories=["Cs", "Cc"]), max_size=20)
odd = st.sampled_from(
    ["=1+1", "@x", "-2", "+3", "'=x", "'", "''a", "1e5", "007", "nan", "inf", "1_0", "yes", 'a,b;c"d', "x\ny"]
)
changes = st.builds(
    lambda label, note, purpose, place, speed, poe, draw, run, use, category, xy: DropChanges(
        label=label, note=note, purpose=purpose, place=place, speed_mbit=speed, poe_class=poe, draw_w=draw, run_m=run, in_use=use,
        category=category, x_m=xy, y_m=xy,
    ),
    st.one_of(words, odd), st.one_of(words, odd), words, st.sampled_from(["", "wall", "eaves north"]), st.sampled_from([100, 1000, 2500, 5000, 10000]),
    st.one_of(st.none(), st.integers(0, 8)), st.floats(0, 100).map(lambda value: round(value, 3)),
    st.one_of(st.none(), st.floats(0.1, 900).map(lambda value: round(value, 2))), st.booleans(),
    st.sampled_from(["5", "5e", "6", "6A"]), st.one_of(st.none(), st.integers(-50, 50)),
)  # fmt: skip


@given(st.lists(st.tuples(st.sampled_from(sorted(DROP_KINDS)), changes), min_size=1, max_size=6), st.booleans())
@settings(max_examples=80, deadline=None)
def test_any_list_comes_in_as_it_went_out(drops, packed):
    rooms = AddRooms(rooms=(NewRoom(name="Hall", floor="Ground floor"),))
    edits = [AddDrops(room="Hall", kind=kind, changes=change) for kind, change in drops]
    project = apply_edits(EMPTY, [rooms, *edits])
    data = write_list_xlsx(project) if packed else write_list_csv(project).encode()
    assert content(read_back(data)) == content(project)


@given(st.one_of(words, odd))
def test_no_cell_that_goes_out_is_executed(text):
    out = inert(text)
    assert bare(out) == text
    assert not out.startswith(("=", "@", "\t", "\r"))
    assert not out.startswith(("+", "-")) or out.lstrip("-").replace(".", "", 1).isdecimal()
    for part in re.split(r"[;\t\r\n]", out)[1:]:
        assert not part.strip(" ").startswith(("=", "+", "-", "@")), "also for who splits it elsewhere"


def lines_of(text, project=EMPTY, keys=None):
    return read_list(read_table(text.encode()), project, keys)


def test_heads_are_matched_by_any_usual_name_and_each_once():
    assert match_columns(["Storey", "ROOM", "Device", "Qty", "Watts", "Cable length", "Price", "room"]) == (
        "floor", "room", "kind", "count", "draw_w", "run_m", "", "",
    )  # fmt: skip
    assert match_columns(HEAD) == tuple(column.key for column in COLUMNS)


@pytest.mark.parametrize("separator", [",", ";", "\t"])
def test_any_usual_separator_and_decimal_comma_is_read(separator):
    text = separator.join(["Room", "What", "Count", "Draw W", "Speed"]) + "\n"
    cell = '"15,4"' if separator == "," else "15,4"
    text += separator.join(["Loft", "AP", "2", cell, "2.5 G"])
    added = apply_edits(EMPTY, [lines_of(text).edit])
    assert [(drop.draw_w, drop.speed_mbit) for drop in added.drops] == [(15.4, 2500)] * 2


@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "utf-16", "cp1252"])
def test_other_encodings_are_read_and_said(encoding):
    table = read_table("Room,What\nKüche,desk\n".encode(encoding))
    assert table.lines == (("Küche", "desk"),)
    assert bool(table.note) == (encoding in ("utf-16", "cp1252"))


@pytest.mark.parametrize(
    ("line", "wrong"),
    [
        ("Hall,blob,1,", "What: “blob” is no kind of drop"), (",desk,1,", "Room: none is named"),
        ("Hall,,1,", "What: none is named"), ("Hall,desk,many,", "Count: “many” is not a number"),
        ("Hall,desk,0,", "Count: Input should be greater than or equal to 1"),
        ("Hall,desk,501,", "Count: Input should be less than or equal to 500"),
        ("Hall,desk,1,=SUM(A1)", "Draw W: a formula; paste its value"),
        ("Hall,desk,1,101", "Draw W: Input should be less than or equal to 100"),
        ("Hall,desk,1,nan", "Draw W: Input should be a finite number"),
    ],
)  # fmt: skip
def test_a_line_that_is_wrong_is_named_and_nothing_is_added(line, wrong):
    listed = lines_of(f"Room,What,Count,Draw W\nHall,desk,1,\n{line}\n")
    assert listed.edit is None
    assert [(bad.number, bad.wrong) for bad in listed.preview.lines if bad.wrong] == [(3, (wrong,))]


def test_a_word_for_a_variant_is_a_kind_and_a_form():
    listed = lines_of("Room,What\nHall,dome\nHall,beamer\n")
    assert [(d.kind, d.changes.variant) for d in listed.edit.drops] == [("camera", "dome"), ("screen", "projector")]


def test_columns_can_be_matched_by_hand():
    listed = lines_of("A,B\nHall,desk\n", keys=["room", "kind"])
    assert listed.preview.drops == 1
    for keys, said in (
        (["room", ""], "What"), (["room"], "1 were matched"), (["room", "room"], "What"), (["room", "kind", "x"], "3 were"),
    ):  # fmt: skip
        with pytest.raises(InvalidInput, match=said):
            lines_of("A,B\nHall,desk\n", keys=keys)


def test_ten_thousand_lines_are_the_most():
    line = "Hall,desk\n"
    assert lines_of("Room,What\n" + line * 10_000).preview.drops == 10_000
    with pytest.raises(InvalidInput, match="10,001 lines"):
        lines_of("Room,What\n" + line * 10_001)
    with pytest.raises(InvalidInput, match=r"10,001 drops"):
        one = apply_edits(EMPTY, [AddRooms(rooms=(NewRoom(name="Hall"),)), AddDrops(room="Hall", kind="desk")])
        lines_of("Room,What\n" + line * 10_000, one)


def bomb():
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed:
        packed.writestr("xl/worksheets/sheet1.xml", b"0" * (tables.MAX_UNPACKED_BYTES + 1))
    return out.getvalue()


@pytest.mark.parametrize(
    ("data", "said"),
    [
        (b"", "no table"), (b"\n\n", "no table"), (b"\x00\x01\x02", "neither CSV text"),
        (b"PK\x03\x04rubbish", "cannot be read"), (b"x" * (tables.MAX_BYTES + 1), "bytes"),
        (("a," * 201).encode(), "202 columns"), (b"a\n" + b"y" * 4001, "Line 2: a cell has more"),
        (b'a,b\n"unfinished', "not CSV"), (b"\xff\xfea", "UTF-16"),
    ],
)  # fmt: skip
def test_what_is_no_table_is_refused_in_a_sentence(data, said):
    with pytest.raises(InvalidInput, match=said):
        read_table(data)


def test_a_packed_bomb_is_refused_before_it_unpacks():
    with pytest.raises(InvalidInput, match="unpacks to"):
        read_table(bomb())


def test_a_workbook_with_entities_in_it_is_refused():
    inner = io.BytesIO()
    book = openpyxl.Workbook()
    book.active.append(["Room", "What"])
    book.save(inner)
    out = io.BytesIO()
    with zipfile.ZipFile(inner) as old, zipfile.ZipFile(out, "w") as new:
        for entry in old.infolist():
            text = old.read(entry)
            if entry.filename.endswith("sheet1.xml"):
                text = b'<!DOCTYPE x [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;">]>' + text
            new.writestr(entry.filename, text)
    with pytest.raises(InvalidInput, match=r"damaged|cannot be read"):
        read_table(out.getvalue())


def test_a_formula_in_a_workbook_is_named_with_its_line():
    book = openpyxl.Workbook()
    for row in (["Room", "What", "Count"], ["Hall", "desk", "=1+1"]):
        book.active.append(row)
    out = io.BytesIO()
    book.save(out)
    (line,) = read_list(read_table(out.getvalue()), EMPTY).preview.lines
    assert line.wrong == ("Count: a formula; paste its value",)


@pytest.mark.parametrize(
    ("head", "cell", "field", "value"),
    [
        ("Speed", "2.5 Gbit/s", "speed_mbit", 2500), ("Speed", "100M", "speed_mbit", 100), ("Speed", "1000", "speed_mbit", 1000),
        ("Class", "at", "poe_class", 4), ("Class", "cl. 3", "poe_class", 3), ("Class", "Class 8", "poe_class", 8),
        ("Run", "12,5 m", "run_m", 12.5), ("Watts", "7.4 W", "draw_w", 7.4), ("Live", "nein", "in_use", False),
        ("Live", "X", "in_use", True), ("Jacket", "Outdoor", "outdoor_jacket", True), ("Cat", "6a", "category", "6A"),
        ("Environment", "DAMP", "environment", "damp"), ("Surface", "tile", "surface", "tile"),
    ],
)  # fmt: skip
def test_cells_are_read_as_people_write_them(head, cell, field, value):
    listed = lines_of(f'Room,What,{head}\nHall,camera,"{cell}"\n')
    assert listed.preview.wrong == 0
    assert getattr(listed.edit.drops[0].changes, field) == value


@pytest.mark.parametrize(
    ("head", "cell"),
    [("Speed", "fast"), ("Speed", "300"), ("Class", "9"), ("Class", "what"), ("Run", "0"), ("Live", "maybe"),
     ("Jacket", "paper"), ("Cat", "7"), ("Surface", "ice"), ("Form", "cube")],
)  # fmt: skip
def test_cells_that_cannot_be_taken_name_their_column(head, cell):
    listed = lines_of(f"Room,What,{head}\nHall,camera,{cell}\n")
    (line,) = listed.preview.lines
    assert listed.edit is None
    assert line.wrong
    assert "form 'cube'" in line.wrong[0] if head == "Form" else line.wrong[0].split(":")[0] in HEAD
