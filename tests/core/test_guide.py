"""The guide followed: a finding and a kind of drop are added where it says, and are there everywhere."""

from baugrund.core import findings as findings_room
from baugrund.core.answers.picker import balance
from baugrund.core.findings import Finding
from baugrund.core.plan import plan

from ..copies import in_a_copy


def many_desks(site):
    """A made-up finding."""
    desks = tuple(drop.id for drop in site.project.drops if drop.kind == "desk")
    if len(desks) > 1:
        yield Finding(
            key="desks", weight="note", subject="Desks", verb="walk", text="there are several.", drop_ids=desks
        )


def test_a_made_up_finding_is_named_in_one_list_and_told_everywhere(row_house, catalogue, monkeypatch):
    before = balance(row_house, catalogue, None).findings
    monkeypatch.setattr(findings_room, "CHECKS", (*findings_room.CHECKS, many_desks))
    (new,) = [finding for finding in balance(row_house, catalogue, None).findings if finding not in before]
    assert (new.key, new.verb) == ("desks", "walk")
    assert new in plan(row_house, catalogue, proposals=False).findings


USED = """
from baugrund.core.answers.picker import pick
from baugrund.core.edits import AddRooms, ChangeSettings, NewRoom, SetGrowth, SetTally, apply_edits
from baugrund.core.demand.needs import demands
from baugrund.core.facts.drop_kinds import DROP_KINDS
from baugrund.core.facts.project import empty_project
from baugrund.core.plan import plan
from baugrund.core.walk.quick_line import understand
from baugrund.demo import CATALOGUE
from baugrund.exchange.catalogue_file import read_catalogue
from baugrund.exchange.project_file import read_project, write_project

project = apply_edits(empty_project("Kettles", 2026), [AddRooms(rooms=(NewRoom(name="Kitchen"),))])
room = project.rooms[0].id
project = apply_edits(project, [
    SetTally(room_id=room, kind="kettle", count=3), SetGrowth(kind="kettle", percent=20.0),
    ChangeSettings(changes={"horizon_years": 5})])
assert read_project(write_project(project).encode()) == project
said = understand("4 kettles kitchen", project, None)
(edit,) = said.edits
assert (edit.type, edit.kind, edit.count) == ("add_drops", "kettle", 4), said
assert [asked.kind for asked in demands(project, 5)[1].reserve] == ["kettle"] * 4
catalogue = read_catalogue(CATALOGUE)
assert pick(project, catalogue, ("least_price",)).answers
assert plan(project, catalogue, proposals=False).walk.tally[room] == {"kettle": 3}
"""


def test_a_made_up_kind_of_drop_is_a_row_in_one_table(tmp_path):
    def add(copy):
        table = copy / "core" / "facts" / "drop_kinds.py"
        text = table.read_text()
        key, first = 'KindKey = Literal[\n    "desk",', '        DropKind("desk",'
        assert text.count(key) == text.count(first) == 1
        row = '        DropKind("kettle", "Kettle", "Kettles", "Kett", (), "bench", 100, None, 0, 1, 10),\n'
        table.write_text(text.replace(key, key.replace('"desk"', '"kettle", "desk"')).replace(first, row + first))

    in_a_copy(tmp_path, add, USED)
