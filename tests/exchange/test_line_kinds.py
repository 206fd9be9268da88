"""A kind of line is a module: one put into the folder is in files, tables and picks from then on, and nothing else
changes."""

from baugrund.core.facts.lines import KINDS
from baugrund.exchange.price_columns import COLUMNS

from ..copies import in_a_copy

MADE_UP = '''
from typing import Annotated, Literal

from pydantic import Field

from .line import Column, Kind, Line


class Hook(Line):
    """Something to hang cables on."""

    of_kind = Kind(99, "hook", "hooks", ("peg",))

    kind: Literal["hook"] = "hook"
    bears_kg: Annotated[float, Field(gt=0, le=500), Column("Bears kg", ("load",))]
    shape: Annotated[Literal["round", "square"], Column("Shape", words={"circular": "round"})] = "round"
    screwed: Annotated[bool | None, Column("Screwed")] = None
    sizes_mm: Annotated[tuple[int, ...], Field(max_length=3), Column("Sizes mm")] = ()
'''
USED = """
from baugrund.core.answers.picker import pick, reasons
from baugrund.core.facts.catalogue import Catalogue
from baugrund.demo import CATALOGUE, PROJECTS
from baugrund.exchange.catalogue_file import read_catalogue
from baugrund.exchange.price_columns import line_kinds, price_columns
from baugrund.exchange.price_table import read_prices, write_prices_csv, write_prices_json
from baugrund.exchange.project_file import read_project

text = "type,Name,Price,load,Shape,Screwed,Sizes mm\\npeg,Large peg,4.50,12,circular,yes,20; 30\\nhook,Small hook,2,3.5,square,,\\n"
file = read_prices(text.encode(), "EUR")
assert not file.wrong, file.lines
large, small = file.models
assert (large.kind, large.key, large.price_minor, large.bears_kg, large.shape, large.screwed, large.sizes_mm) == (
    "hook", "large-peg", 450, 12, "round", True, (20, 30))
wrong = read_prices(b"Kind,Name,Price,Bears kg,PoE class\\nhook,A,1,900,\\nhook,B,1,2,4\\n", "EUR").lines
assert [line.wrong for line in wrong] == [
    ("Bears kg: Input should be less than or equal to 500",), ("PoE class: a hook has none",)]
listed = read_catalogue(CATALOGUE)
both = Catalogue.model_validate(listed.model_copy(update={"models": (*listed.models, *file.models)}).model_dump())
again = read_prices(write_prices_csv(both).encode(), "EUR")
assert again.models == both.models and read_prices(write_prices_json(both).encode(), "EUR").models == both.models
assert {"key": "hook", "many": "hooks", "in_picks": False} in [kind.model_dump() for kind in line_kinds()]
assert next(column for column in price_columns() if column.key == "bears_kg").kinds == ("hook",)
project = read_project(next(path for path in PROJECTS if "row_house" in path.name).read_bytes())
(before,), (after,) = (pick(project, one, ("least_price",)).answers for one in (listed, both))
assert before.model_dump() == after.model_dump()
assert all(why.kind != "hook" for why in reasons(project, both, after))
"""


def test_a_made_up_kind_is_added_in_one_file(tmp_path):
    def add(copy):
        (copy / "core" / "facts" / "lines" / "hook.py").write_text(MADE_UP)

    in_a_copy(tmp_path, add, USED)


def test_every_field_of_every_kind_has_a_column_of_its_own_head():
    keys = {column.key for column in COLUMNS}
    assert all(set(row.model_fields) <= keys for row in KINDS.values())
    heads = [column.head for column in COLUMNS]
    assert len(heads) == len(set(heads))


def test_no_two_kinds_stand_in_one_place_of_a_list():
    places = [row.of_kind.place for row in KINDS.values()]
    assert len(places) == len(set(places))
