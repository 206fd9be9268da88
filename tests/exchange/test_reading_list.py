"""Readings of a survey as a list: what goes out comes in, and what cannot be is told line by line."""

import csv
import io

import pytest

from baugrund.core.edits import apply_edits
from baugrund.core.errors import InvalidInput
from baugrund.core.signal.survey import survey_of
from baugrund.exchange.reading_list import read_readings, readings_table
from baugrund.exchange.tables import read_table


def test_the_readings_of_the_demo_come_in_as_they_went_out(dye_works, catalogue):
    text = readings_table(dye_works, survey_of(dye_works, catalogue)).csv().decode("utf-8-sig")
    edits = read_readings(read_table(text.encode("utf-8-sig")), dye_works)
    again = apply_edits(dye_works.changed(readings=()), list(edits)).readings
    bare = [one.model_dump(exclude={"id"}) for one in dye_works.readings]
    assert [one.model_dump(exclude={"id"}) for one in again] == bare
    first = next(csv.DictReader(io.StringIO(text)))
    assert float(first["Error dB"]) == pytest.approx(float(first["dBm"]) - float(first["Predicted dBm"]), abs=0.01)


def test_per_cent_count_with_their_scale_alone(dye_works):
    head = "Floor,X m,Y m,Band,Quality,0 % is dBm,100 % is dBm\n"
    (edit,) = read_readings(read_table(f"{head}Shop floor,1,2,5 GHz,40,-100,-50\n".replace("Shop", "Ground").replace(
        "Ground floor", dye_works.floors[1].name).encode()), dye_works)  # fmt: skip
    assert edit.values["dbm"] == -80.0 and edit.values["band"] == "5"
    with pytest.raises(InvalidInput, match="line 2: Signal %: per cent of a device count only with"):
        read_readings(read_table(f"{head}{dye_works.floors[1].name},1,2,5,40,,\n".encode()), dye_works)


@pytest.mark.parametrize(("line", "sentence"), [
    ("Ground floor,1,2,5,-130,", "line 2: dBm: Input should be greater than or equal to -120"),
    ("Ground floor,1,2,5,3,", "line 2: dBm: Input should be less than or equal to 0"),
    ("Roof,1,2,5,-60,", "line 2: Floor: there is no floor “Roof”"),
    ("Ground floor,1,2,7,-60,", "line 2: Band GHz:"),
    ("Ground floor,9999,2,5,-60,", "line 2: X m:"),
    ("Ground floor,1,2,5,-60,Lighthouse", "line 2: Access point: there is none called “Lighthouse”"),
    ("Ground floor,1,2,5,,", "line 2: dBm is empty"),
])  # fmt: skip
def test_a_line_that_cannot_be_is_told_and_nothing_is_added(dye_works, line, sentence):
    table = read_table(f"Floor,X m,Y m,Band,dBm,Access point\n{line}\nGround floor,1,2,5,-60,\n".encode())
    with pytest.raises(InvalidInput) as told:
        read_readings(table, dye_works)
    assert sentence in str(told.value) and "Nothing was added" in str(told.value)
