"""Other people's tables: their values are matched as their columns are, settled once, mended or left out by line."""

import pytest

from baugrund.core.edits import AddEntry, apply_edits
from baugrund.core.errors import InvalidInput
from baugrund.core.facts.project import empty_project
from baugrund.exchange.drop_columns import match_columns
from baugrund.exchange.drop_list import read_list
from baugrund.exchange.meanings import LEAVE_OUT, Answers, Meanings, Meant, Mended, said_in
from baugrund.exchange.price_table import read_prices
from baugrund.exchange.tables import read_table

EMPTY = empty_project("E", 2026)
PLAIN = '''Location,Floor,Device,Qty,PoE,Watts,Speed,Remarks
Office,Ground floor,PC,4,no,,1G,by the window
Office,Ground floor,VoIP phone,4,yes,"6,5",100,
Office,Ground floor,WiFi AP,1,PoE+,,2.5G,
Lounge,Ground floor,"TV 65""",1,,,1 Gbit,
Yard,Outside,IP camera bullet,3,802.3at,12 W,100M,
Gate,Outside,Door intercom,1,yes,7,100,
Office,Ground floor,File server,1,-,,10G,
Attic,Loft,Desk,2,,,10/100/1000,spare
'''


def read(text, project=EMPTY, remembered=None, **said):
    return read_list(read_table(text.encode()), project, meanings=Meanings(Answers(**said), remembered))


def values(listed):
    return {(value.column, value.value): value for value in listed.preview.values}


def test_the_columns_of_a_plain_list_are_matched():
    head = PLAIN.splitlines()[0].split(",")
    assert match_columns(head) == ("room", "floor", "kind", "count", "poe_class", "draw_w", "speed_mbit", "note")


def test_a_plain_list_comes_in_without_a_word():
    listed = read(PLAIN)
    assert listed.preview.wrong == 0
    project = apply_edits(EMPTY, [listed.edit])
    got = {(drop.kind, drop.variant, drop.poe_class, drop.draw_w, drop.speed_mbit) for drop in project.drops}
    assert ("phone", "", 3, 6.5, 100) in got
    assert ("access_point", "", 4, 15.8, 2500) in got
    assert ("screen", "television", None, 0.0, 1000) in got
    assert ("camera", "bullet", 4, 12.0, 100) in got
    assert ("door_station", "intercom", 3, 7.0, 100) in got
    assert {(kind, speed) for kind, _, poe_class, _, speed in got if poe_class is None} == {
        ("desk", 1000), ("screen", 1000), ("server", 10000),
    }  # fmt: skip
    assert len(project.drops) == 17
    assert [drop.note for drop in project.drops if drop.kind == "screen"] == ['TV 65"']


def test_what_was_guessed_is_shown_with_its_guess_once_for_all_lines():
    found = values(read(PLAIN + "Hall,,VoIP phone,1,yes,,100,\n"))
    phone = found["kind", "VoIP phone"]
    assert (phone.head, phone.told, phone.lines, phone.means) == ("Device", "Phone", 2, "")
    assert found["poe_class", "802.3at"].told == "class 4"
    assert found["speed_mbit", "10/100/1000"].told == "1 G"
    assert ("kind", "PC") not in found and ("draw_w", "6,5") not in found


@pytest.mark.parametrize(
    ("cell", "poe_class"),
    [("yes", 3), ("no", None), ("n/a", None), ("802.3af", 3), ("PoE", 3), ("PoE+", 4), ("at", 4), ("PoE++", 6), ("bt", 6),
     ("60 W", 6), ("15.4W", 3), ("15.5 W", 4), ("class 8", 8), ("", 3)],
)  # fmt: skip
def test_power_is_read_as_people_write_it(cell, poe_class):
    (drop,) = apply_edits(EMPTY, [read(f"Room,What,PoE\nHall,camera,{cell}\n").edit]).drops
    assert drop.poe_class == poe_class


def test_a_powered_device_gets_a_class_that_gives_its_watts():
    (drop,) = apply_edits(EMPTY, [read("Room,What,PoE,Watts\nHall,camera,yes,30\n").edit]).drops
    assert (drop.poe_class, drop.draw_w) == (5, 30.0)
    (drop,) = apply_edits(EMPTY, [read("Room,What,PoE\nHall,printer,yes\n").edit]).drops
    assert (drop.poe_class, drop.draw_w) == (4, 0.0)


@pytest.mark.parametrize(
    ("head", "cell", "poe_class", "told"),
    [("PoE", "1", 3, "powered"), ("PoE", "0", None, "not powered"), ("Class", "1", 1, ""), ("PoE class", "0", 0, "")],
)
def test_0_and_1_say_whether_under_poe_and_are_classes_under_class(head, cell, poe_class, told):
    listed = read(f"Room,What,{head}\nHall,camera,{cell}\n")
    assert apply_edits(EMPTY, [listed.edit]).drops[0].poe_class == poe_class
    assert [value.told for value in listed.preview.values] == ([told] if told else [])


def test_a_cell_of_a_column_that_is_not_there_is_not_mended():
    with pytest.raises(InvalidInput, match="Line 2 is mended in “colour”"):
        read(PLAIN, mended=(Mended(line=2, column="colour", text="red"),))
    with pytest.raises(InvalidInput, match="no such column"):
        prices(mended=(Mended(line=3, column="colour", text="red"),))


def test_an_empty_class_is_unpowered_where_the_list_went_out_from_here():
    (drop,) = apply_edits(EMPTY, [read("Room,What,PoE class\nHall,camera,\n").edit]).drops
    assert drop.poe_class is None


@pytest.mark.parametrize(
    ("cell", "mbit"), [("10G", 10000), ("10", 10000), ("2.5", 2500), ("1 GbE", 1000), ("100", 100), ("11", None)]
)
def test_speeds_are_read_as_people_write_them(cell, mbit):
    listed = read(f"Room,What,Speed\nHall,desk,{cell}\n")
    assert [drop.changes.speed_mbit for drop in listed.edit.drops] == [mbit] if mbit else listed.edit is None


def test_a_value_that_nobody_understands_is_settled_once_for_all_lines():
    text = "Room,Device\nHall,Gadget\nLab,gadget \nLab,desk\n"
    listed = read(text)
    assert (listed.preview.wrong, listed.edit) == (2, None)
    (value,) = listed.preview.values
    assert (value.value, value.lines, value.told) == ("Gadget", 2, "") and "Hub" in value.choices
    said = (Meant(column="kind", value="Gadget", means="Hub"),)
    settled = read(text, meanings=said)
    assert [new.kind for new in settled.edit.drops] == ["hub", "hub", "desk"]
    assert values(settled)["kind", "Gadget"].means == "Hub"
    # the next list: remembered, until something else is said
    again = said_in(Answers(meanings=said))
    assert [new.kind for new in read(text, remembered=again).edit.drops] == ["hub", "hub", "desk"]
    forgot = (Meant(column="kind", value="Gadget", means=""),)
    assert read(text, remembered=again, meanings=forgot).edit is None


def test_lines_are_left_out_by_themselves_or_by_a_value():
    text = "Room,Device\nHall,Gadget\nLab,desk\nAttic,desk\n"
    said = (Meant(column="kind", value="Gadget", means=LEAVE_OUT),)
    listed = read(text, meanings=said, left_out=(4,))
    assert [line.left_out for line in listed.preview.lines] == [True, False, True]
    assert [new.room for new in listed.edit.drops] == ["Lab"] and listed.preview.new_rooms == ("Lab",)


def test_a_line_is_mended_in_place_and_shows_its_cells():
    text = "Room,Device,Watts\nHall,Gadget,many\n"
    (line,) = read(text).preview.lines
    assert line.cells == {"room": "Hall", "kind": "Gadget", "draw_w": "many"}
    mended = (Mended(line=2, column="kind", text="camera"), Mended(line=2, column="draw_w", text="6,5"))
    (new,) = read(text, mended=mended).edit.drops
    assert (new.kind, new.changes.draw_w) == ("camera", 6.5)


def test_a_closet_that_is_not_there_is_another_one_or_left_out():
    text = "Room,What,Closet\nHall,desk,Cupboard\n"
    (value,) = read(text).preview.values
    assert value.choices == (EMPTY.head_end.name,)
    said = (Meant(column="closet", value="Cupboard", means=EMPTY.head_end.name),)
    assert read(text, meanings=said).edit is not None


def test_kinds_of_ones_own_are_known():
    project = apply_edits(EMPTY, [AddEntry(list="own_kinds", values={"name": "Blind motor", "base": "hub"})])
    (drop,) = apply_edits(project, [read("Room,What\nHall,blind motor left\n", project).edit]).drops
    assert (drop.kind, drop.own_kind_id) == ("hub", project.own_kinds[0].id)


PRICES = """Type;SKU;Description;Net price;Stock;Completes
Accessory;A1;Long rail;€ 9,00;available;rails
Thing;A2;Wide ears;8,50 EUR;sold out;ears
"""


def prices(**said):
    return read_prices(PRICES.encode(), "EUR", Meanings(Answers(**said)))


def test_the_values_of_a_price_list_are_matched_and_settled_likewise():
    file = prices()
    told = {(value.column, value.value): value.told for value in file.values}
    assert told == {
        ("kind", "Thing"): "", ("kind", "Accessory"): "spare", ("in_stock", "available"): "yes",
        ("in_stock", "sold out"): "no",
    }  # fmt: skip
    assert not file.lines[0].wrong
    assert file.lines[1].cells["kind"] == "Thing"
    settled = prices(meanings=(Meant(column="kind", value="Thing", means="spare"),))
    assert [(model.key, model.price_minor, model.in_stock) for model in settled.models] == [
        ("a1", 900, True), ("a2", 850, False),
    ]  # fmt: skip
    mended = prices(mended=(Mended(line=3, column="kind", text="spare"),))
    assert mended.models == settled.models
    assert [model.key for model in prices(left_out=(3,)).models] == ["a1"]


def test_a_price_in_another_currency_is_not_taken():
    file = read_prices(PRICES.replace("€", "$").encode(), "EUR")
    assert file.lines[0].wrong == ("Price: “$9,00” is not a number",)
