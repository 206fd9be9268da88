"""Price lists as files: what goes out comes in again, and what is wrong is told line by line."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from baugrund.core.errors import InvalidInput
from baugrund.core.facts.catalogue import Catalogue
from baugrund.core.facts.lines.switch import Switch
from baugrund.exchange.price_columns import price_columns
from baugrund.exchange.price_table import (
    LINES_MOST,
    cells_of,
    read_cells,
    read_prices,
    write_prices_csv,
    write_prices_json,
    write_prices_xlsx,
)

HEAD = "kind,name,price,ports,PoE budget W,own draw W,form,depth mm,mass kg,fanless,managed,large frames"
GOOD = "switch,Plain eight,19.90,8 × 1000,,4,shelf,120,0.4,yes,no,no"


def read(*lines, currency="EUR"):
    return read_prices("\n".join([HEAD, *lines]).encode(), currency)


def wrong(*lines):
    return {line.number: "; ".join(line.wrong) for line in read(*lines).lines if line.wrong}


@pytest.mark.parametrize("write", [write_prices_csv, write_prices_xlsx, write_prices_json])
def test_the_shipped_catalogue_comes_in_as_it_went_out(write, catalogue):
    out = write(catalogue)
    assert read_prices(out if isinstance(out, bytes) else out.encode(), "EUR").models == catalogue.models


def test_a_line_is_read_as_it_is_said():
    (model,) = read(GOOD).models
    assert (model.key, model.price_minor, model.port_count, model.fanless) == ("plain-eight", 1990, 8, True)


@pytest.mark.parametrize(
    ("line", "told"),
    [
        ("switch,A,10,8 × 1000 class 4,,4,shelf,120,0.4,yes,no,no", "A: 8 powered ports but a PoE budget of 0 W"),
        ("switch,A,10,8 × 1000,60,4,shelf,120,0.4,yes,no,no", "A: a PoE budget of 60 W but no powered port"),
        ("switch,A,10,eight,,4,shelf,120,0.4,yes,no,no", "Ports: “eight” is not written like “16 × 1000 class 4”"),
        ("switch,A,ten,8 × 1000,,4,shelf,120,0.4,yes,no,no", "Price: “ten” is not a number"),
        ("switch,A,1.234,8 × 1000,,4,shelf,120,0.4,yes,no,no", "Price: “1.234” may mean thousands or a fraction; write it with two decimals and no grouping"),
        ("switch,A,10,8 × 1000,,4,wall,120,0.4,yes,no,no", "Form: “wall” is none of shelf, rack"),
        ("switch,A,10,8 × 1000,,4,shelf,120,0.4,perhaps,no,no", "Fanless: “perhaps” is neither yes nor no"),
        ("switch,A,10,8 × 1234,,4,shelf,120,0.4,yes,no,no", "Speed Mbit/s: Input should be 100, 1000, 2500, 5000 or 10000"),
        ("switch,A,-1,8 × 1000,,4,shelf,120,0.4,yes,no,no", "Price: Input should be greater than or equal to 0"),
        ("switch,A,10,8 × 1000,,4,shelf,,0.4,yes,no,no", "Depth mm: nothing is there"),
        ("module,A,10,8 × 1000,,,,,,,,", "Medium: nothing is there; Speed Mbit/s: nothing is there; Reach m: nothing is there; Ports: a module has none"),
        ("switch,=1+1,10,8 × 1000,,4,shelf,120,0.4,yes,no,no", "Name: a formula; paste its value"),
        ("switch,A,10,8 × 1000 class 9,120,4,shelf,120,0.4,yes,no,no", "PoE class: Input should be less than or equal to 8"),
    ],
)  # fmt: skip
def test_impossible_figures_are_told_with_their_line_and_column(line, told):
    assert wrong(GOOD, line) == {3: told}
    assert read(GOOD, line).models == ()


def test_names_and_keys_that_stand_twice_are_told_with_the_first_line():
    assert wrong(GOOD, GOOD) == {
        3: "Key: “plain-eight” stands on line 2 already; Name: “Plain eight” stands on line 2 already"
    }


def test_all_that_is_wrong_with_a_line_is_told_at_once_and_a_wrong_line_still_has_its_name():
    head = "kind,name,key,price,currency,completes"
    lines = [head, "spare,Ears,ears,-9,CHF,ears", "spare,Ears,,9,EUR,ears", "spare,Ears,rails,nine,EUR,rails"]
    told = [line.wrong for line in read_prices("\n".join(lines).encode(), "EUR").lines]
    low = "Price: Input should be greater than or equal to 0"
    twice = "Name: “Ears” stands on line 2 already"
    assert told == [
        (low, "Currency: CHF; this list is in EUR"),
        ("Key: “ears” stands on line 2 already", twice),
        ("Price: “nine” is not a number", twice),
    ]


def test_a_mix_of_currencies_is_told_line_by_line():
    lines = ["kind,name,price,currency,completes", "spare,Ears,9,EUR,ears", "spare,Rails,9,CHF,rails"]
    file = read_prices("\n".join(lines).encode(), "EUR")
    assert [line.wrong for line in file.lines] == [(), ("Currency: CHF; this list is in EUR",)]


def test_a_file_in_another_currency_is_refused_whole(catalogue):
    with pytest.raises(InvalidInput, match="The file is in EUR; this list is in CHF"):
        read_prices(write_prices_json(catalogue).encode(), "CHF")


def test_as_many_lines_as_a_catalogue_holds_and_one_more():
    def lines(count):
        return ["kind,name,price,completes", *(f"spare,Ears {n},9,ears" for n in range(count))]

    assert len(read_prices("\n".join(lines(LINES_MOST)).encode(), "EUR").models) == LINES_MOST
    with pytest.raises(InvalidInput, match="5,001 lines; a catalogue holds 5,000 at most"):
        read_prices("\n".join(lines(LINES_MOST + 1)).encode(), "EUR")
    with pytest.raises(InvalidInput, match=r"100,000 lines|the most"):
        read_prices("\n".join(lines(100_000)).encode(), "EUR")


@pytest.mark.parametrize(
    "content", [b"", b"[]", b'{"models": 3}', b"{", b"kind,price\nspare,3", b"\xff\xfe\x00", b'{"models": [3]}']
)
def test_what_is_no_price_list_is_refused_or_told(content):
    try:
        assert read_prices(content, "EUR").wrong
    except InvalidInput as error:
        assert error.sentence.endswith(".")


def test_every_field_of_every_kind_has_a_column(catalogue):
    known = {column.key for column in price_columns()}
    for model in catalogue.models:
        assert set(type(model).model_fields) <= known


@settings(max_examples=200)
@given(
    st.integers(1, 64), st.sampled_from([100, 1000, 2500, 10000]), st.integers(0, 8), st.floats(1, 4000).map(lambda w: round(w, 1)),
    st.text(st.characters(codec="utf-8", exclude_categories=("C", "Z")), min_size=1, max_size=30), st.integers(0, 10**8), st.booleans(),
)  # fmt: skip
def test_cells_say_the_model_that_they_came_from(count, speed, poe, watts, name, price, yes):
    model = Switch(
        key="a", name=name, price_minor=price, in_stock=yes, own_draw_w=1.5, form="rack", depth_mm=200, mass_kg=1.25,
        fanless=yes, managed=not yes, large_frames=yes, poe_budget_w=watts, lacks=("ears", "supply"),
        ports=({"count": count, "speed_mbit": speed, "poe_class": poe},), slots=({"count": 2, "speed_mbit": 10000},),
    )  # fmt: skip
    assert read_cells(cells_of(model, "EUR"), "EUR") == model


def test_cells_that_are_wrong_are_told_together():
    with pytest.raises(InvalidInput, match="Form: “wall” is none of shelf, rack; Depth mm: “x” is not a number"):
        read_cells({"kind": "switch", "name": "A", "price_minor": "1", "form": "wall", "depth_mm": "x"}, "EUR")


def test_an_empty_catalogue_goes_out_as_its_head():
    empty = Catalogue(name="Own stock", currency="EUR", priced_on="2026-03-01", models=())
    assert write_prices_csv(empty).splitlines()[0].startswith("Kind,Key,Name,Price")
