"""The page about the house says what is there."""

import re

from .house_drawing import DRAWING, ROOT, SOURCE, drawn, layers


def test_the_drawing_of_the_house_is_that_of_its_imports():
    def shape(text):
        return re.sub(r">[\d,]+ lines<", "><", text)

    assert shape(DRAWING.read_text()) == shape(drawn()), "python -m tests.house_drawing draws it anew"


def test_every_room_of_the_core_has_a_place_in_the_order():
    rooms = {room for row in layers() for room in row}
    there = {f"baugrund.core.{folder.name}" for folder in (SOURCE / "baugrund" / "core").iterdir() if folder.is_dir()}
    assert {room for room in there if "__" not in room} <= rooms


def test_the_page_names_files_that_are_there():
    page = (ROOT / "docs" / "house.md").read_text()
    core = SOURCE / "baugrund" / "core"
    named = re.findall(r"`core/([a-z_/]+\.py)`", page)
    assert [name for name in named if not (core / name).exists()] == []
