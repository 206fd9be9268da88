"""Hostile and clumsy files: each answers with one sentence, within its seconds and its memory."""

import base64
import io
import json
import os
import signal
import time
import zipfile
from hashlib import sha256

import openpyxl
import pytest

from baugrund.core.errors import InvalidInput
from baugrund.exchange import apart as apart_module
from baugrund.exchange.apart import apart
from baugrund.exchange.pictures import harmless_svg, read_picture
from baugrund.exchange.project_file import read_project_file, write_project
from baugrund.exchange.tables import read_table

SVG = "http://www.w3.org/2000/svg"


def endless(content):
    while True:
        pass


def greedy(content):
    return [bytearray(100_000_000) for _ in range(100)]


def falling(content):
    os.kill(os.getpid(), signal.SIGSEGV)


def odd(content):
    raise ZeroDivisionError


def test_a_reader_gives_back_what_it_read():
    assert apart(read_table, b"Room,What\nStudy,desk\n") == read_table(b"Room,What\nStudy,desk\n")


def test_what_is_wrong_with_a_file_is_told_as_the_reader_tells_it():
    with pytest.raises(InvalidInput) as alone:
        read_picture(b"no picture")
    with pytest.raises(InvalidInput) as told:
        apart(read_picture, b"no picture")
    assert str(told.value) == str(alone.value)


@pytest.mark.parametrize(
    ("read", "why"), [(greedy, "memory"), (falling, "memory"), (odd, "damaged")], ids=["greedy", "falling", "odd"]
)
def test_a_reader_that_fails_takes_only_its_file_with_it(read, why):
    with pytest.raises(InvalidInput, match=why):
        apart(read, b"")


def test_a_reader_that_does_not_end_is_ended(monkeypatch):
    monkeypatch.setattr(apart_module, "WITHIN_S", 1.0)
    with pytest.raises(InvalidInput, match="cannot be read"):
        apart(endless, b"")


def pdf_that_draws_itself():
    parts = [
        b"1 0 obj<</Type/Catalog/Pages 2 0 R>>endobj",
        b"2 0 obj<</Type/Pages/Kids[3 0 R]/Count 1>>endobj",
        b"3 0 obj<</Type/Page/Parent 2 0 R/MediaBox[0 0 200 200]/Resources<</XObject<</F 5 0 R>>>>/Contents 4 0 R>>endobj",
        b"4 0 obj<</Length 5>>stream\n/F Do\nendstream endobj",
        b"5 0 obj<</Type/XObject/Subtype/Form/BBox[0 0 200 200]/Resources<</XObject<</F 5 0 R>>>>/Length 11>>stream\n"
        b"/F Do /F Do\nendstream endobj",
    ]
    return b"%PDF-1.4\n" + b"\n".join(parts) + b"\ntrailer<</Root 1 0 R>>\n%%EOF"


def workbook_with_one_long_row():
    book = openpyxl.Workbook(write_only=True)
    sheet = book.create_sheet("x")
    sheet.append(["x" * 30_000] * 2_000)
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def nested_groups(count):
    return f"<svg xmlns='{SVG}' viewBox='0 0 9 9'>{'<g>' * count}<path d='M0 0h1'/>{'</g>' * count}</svg>".encode()


def of_view_box(box):
    return f"<svg xmlns='{SVG}' viewBox='{box}'><path d='M0 0h1'/></svg>".encode()


def dxf_with_a_damaged_hatch():
    lines = [
        0,
        "SECTION",
        2,
        "ENTITIES",
        0,
        "HATCH",
        8,
        "0",
        10,
        "nan",
        20,
        "inf",
        91,
        999999999,
        92,
        2,
        93,
        -5,
        0,
        "ENDSEC",
        0,
        "EOF",
    ]
    return "\n".join(map(str, lines)).encode()


@pytest.mark.parametrize(
    "content",
    [
        pdf_that_draws_itself(), nested_groups(20_000), nested_groups(200), of_view_box("0 0 1e-320 1e-320"),
        of_view_box("0 0 1e300 1e-300"), of_view_box("0 0 1e308 1e308"), dxf_with_a_damaged_hatch(),
    ],
    ids=["pdf", "20,000 groups", "200 groups", "1e-320", "a strip", "1e308", "hatch"],
)  # fmt: skip
def test_a_hostile_picture_is_refused_or_kept_harmless(content):
    begun = time.monotonic()
    try:
        kept = apart(read_picture, content)
    except InvalidInput as error:
        assert error.sentence.endswith(".")
    else:
        assert kept.width_px >= 1
    assert time.monotonic() - begun < 2 * apart_module.WITHIN_S, "its own limit ends it"


def test_one_endless_row_of_a_workbook_is_read_or_told():
    try:
        assert apart(read_table, workbook_with_one_long_row())
    except InvalidInput as error:
        assert error.sentence.endswith(".")


@pytest.mark.parametrize("text", ["inf", "nan", "1e999", "-inf", "NaN", "Infinity"])
def test_what_is_no_number_in_a_list_is_told(text, row_house):
    from baugrund.exchange.drop_list import read_list

    table = read_table(f"Room,What,Count,Draw W,Run m\nKitchen,desk,{text},{text},{text}\n".encode())
    (line,) = read_list(table, row_house, None).preview.lines
    assert line.wrong


def project_with(content, row_house, key=None):
    """A project file with an SVG under its first floor."""
    key = key or sha256(content).hexdigest()
    file = json.loads(write_project(row_house))
    floor = {"picture": key, "picture_width_px": 40, "picture_height_px": 30, "picture_m_per_px": 0.1}
    file["project"]["floors"][0].update(floor)
    file["pictures"] = [
        {"key": key, "media_type": "image/svg+xml", "width_px": 40, "height_px": 30,
         "content": base64.b64encode(content).decode()}
    ]  # fmt: skip
    return json.dumps(file).encode()


def test_a_script_in_a_picture_of_a_project_file_is_gone_and_the_floor_names_the_picture_still(row_house):
    evil = f"""<svg xmlns='{SVG}' width='40' height='30'><script>steal()</script><style>@import 'http://x/';</style>
        <rect width='40' height='30' fill='red' onload='steal()'/><image href='http://127.0.0.1:9/x'/></svg>""".encode()
    file = read_project_file(project_with(evil, row_house))
    (picture,) = file.pictures
    for word in (b"script", b"onload", b"http://127", b"import"):
        assert word not in picture.content
    assert sha256(picture.content).hexdigest() == picture.key == file.project.floors[0].picture


def test_a_picture_that_is_harmless_stays_as_it_is(row_house):
    drawn = f"""<svg xmlns='{SVG}' viewBox='0 0 40 30'><style>.a {{stroke: black}}</style>
        <path class='a' d='M0 0h40' style='fill:none'/></svg>""".encode()
    once = harmless_svg(drawn)[0]
    assert harmless_svg(once)[0] == once
    file = read_project_file(project_with(once, row_house))
    assert file.pictures[0].content == once
    assert b"stroke: black" in once


@pytest.mark.parametrize("text", ["{}", '{"format": "baugrund-project"}', '{"format": "baugrund-project", "version": 1}',
                                  '{"format": "baugrund-project", "version": 1, "project": []}'])  # fmt: skip
def test_a_project_file_with_nothing_in_it_is_told(text):
    with pytest.raises(InvalidInput):
        read_project_file(text.encode())


def test_a_workbook_that_lies_about_its_size_is_told():
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as packed:
        packed.writestr("xl/workbook.xml", "<")
    with pytest.raises(InvalidInput):
        apart(read_table, out.getvalue())
