"""Openings and walls as a list."""

import pytest

from baugrund.core.edits import apply_edits
from baugrund.core.errors import InvalidInput
from baugrund.exchange.opening_list import read_openings, write_openings_csv
from baugrund.exchange.tables import read_table


def content(project):
    return [
        sorted((row.model_dump(exclude={"id"}) for row in rows), key=repr) for rows in (project.openings, project.walls)
    ]


def test_the_openings_and_walls_of_the_demo_come_in_as_they_went_out(dye_works, orchard_school):
    for project in (dye_works, orchard_school):
        bare = project.changed(openings=(), walls=())
        table = read_table(write_openings_csv(project).encode("utf-8-sig"))
        assert content(apply_edits(bare, read_openings(table, bare))) == content(project)


@pytest.mark.parametrize(("line", "sentence"), [
    ("door,Attic,1,2", "line 2: Floor: there is no floor “Attic”"),
    ("hole,Ground floor,1,2", "line 2: Kind: “hole” is none of window, door, gate, hatch, wall"),
    ("door,Ground floor,x,2", "line 2: X m: “x” is not a number"),
    ("door,Ground floor,,2", "line 2: X m: Field required"),
    (",Ground floor,1,2", "line 2: Kind is empty"),
])  # fmt: skip
def test_a_line_that_cannot_be_is_told_and_nothing_is_added(dye_works, line, sentence):
    table = read_table(f"Kind,Floor,X m,Y m\n{line}\ndoor,Ground floor,3,4\n".encode())
    with pytest.raises(InvalidInput) as told:
        read_openings(table, dye_works)
    assert sentence in str(told.value)


def test_a_list_without_kinds_says_which_columns_there_are(dye_works):
    with pytest.raises(InvalidInput, match="no column Kind"):
        read_openings(read_table(b"Floor,X m\nGround floor,1\n"), dye_works)
