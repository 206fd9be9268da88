"""Rooms typed or pasted as a list, with their sizes."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from baugrund.core.walk.room_list import understand_rooms


def rooms(text, **more):
    heard = understand_rooms(text, "Ground floor", **more)
    assert heard.complaint == ""
    return [(room.name, room.floor, room.width_m, room.depth_m) for room in heard.edit.rooms]


def test_names_and_sizes_are_read_in_any_usual_way():
    assert rooms("Kitchen 4x3, Hall 2.5 x 6; Study") == [
        ("Kitchen", "Ground floor", 4, 3), ("Hall", "Ground floor", 2.5, 6), ("Study", "Ground floor", None, None),
    ]  # fmt: skip
    assert rooms("Bay 12 4,5 × 3,2 m") == [("Bay 12", "Ground floor", 4.5, 3.2)]
    assert rooms("Room 3") == [("Room 3", "Ground floor", None, None)]


def test_a_list_from_a_spreadsheet_names_floors_and_sizes():
    assert rooms("Hall\tCellar\t4\t3,5\nBarn, old\t\t\t\n") == [
        ("Hall", "Cellar", 4, 3.5), ("Barn, old", "Ground floor", None, None),
    ]  # fmt: skip


def test_feet_become_metres_in_an_imperial_project():
    assert rooms("Shop 10x20", imperial=True) == [("Shop", "Ground floor", 3.048, 6.096)]


@pytest.mark.parametrize(
    ("text", "complaint"),
    [("", ""), ("Hall 0x4", "“Hall 0x4”: width_m: Input should be greater than or equal to 0.3"),
     ("Hall\tUp\twide\t3", "width_m: Input should be a valid number"), ("R\n" * 201, "201 rooms; 200 at once")],
)  # fmt: skip
def test_what_is_odd_is_told_and_nothing_is_added(text, complaint):
    heard = understand_rooms(text)
    assert heard.edit is None
    assert complaint in heard.complaint


def test_two_hundred_rooms_at_once_are_taken():
    assert len(rooms("R\n" * 200)) == 200


@given(st.text(max_size=60))
def test_any_text_is_understood_or_complained_about(text):
    heard = understand_rooms(text)
    assert (heard.edit is None) or (heard.complaint == "" and heard.told)
