"""What only Patch, Price and Prove know: it changes no search before them, and every one of theirs."""

import pytest

from baugrund.core.answers.picker import Picker
from baugrund.core.edits import AddEntry, ChangeDrops, ChangeEntry, ChangeRoom, ChangeSettings, DropChanges, apply_edits
from baugrund.core.facts.price import PriceTerms
from baugrund.core.facts.project import NUMBERED
from baugrund.tasks.questions import (
    FIELDS_AFTER,
    LISTS_AFTER,
    BestOf,
    BestViewsOf,
    ChannelsOf,
    FlipsOf,
    KeptOf,
    PhasesByBudgetOf,
    PhasesOf,
    SheetOf,
    SitesOf,
    StackOf,
    StepsOf,
    VisitsOf,
    mark_of_question,
)

BEFORE = (BestOf(aim="least_price"), StepsOf(aim="least_price"), FlipsOf(), StackOf())
SEARCHES = (*BEFORE, SitesOf(), BestViewsOf(), ChannelsOf())
AFTER = (PhasesOf(), PhasesByBudgetOf(), VisitsOf(), KeptOf())
ROWS = {
    "phases": {"name": "Roof"}, "part_terms": {"part": "part/jack", "price_minor": 5},
    "task_terms": {"task": "test", "who": "owner"}, "extra_work": {"name": "Folder", "count": 2},
    "worked": {"task": "test", "hours": 2, "count": 9}, "crews": {"name": "Van", "people": 3},
    "waits": {"name": "Plaster"}, "stage_orders": {"first": "test", "second": "close"}, "offers": {"number": "77"},
    "paid": {"part": "part/jack", "paid_minor": 9}, "own_tools": {"tool": "ladder", "there": True},
    "running": {"name": "Till", "kind": "wired"}, "move_terms": {"step": "off", "minutes": 9},
}  # fmt: skip


@pytest.mark.parametrize("rows", sorted(ROWS))
def test_a_list_of_price_changes_no_search_and_every_question_of_price(rows, row_house, catalogue):
    said = apply_edits(row_house, [AddEntry(list=rows, values=ROWS[rows])])
    for question in BEFORE:
        assert mark_of_question(question, said, catalogue) == mark_of_question(question, row_house, catalogue)
    for question in AFTER:
        assert mark_of_question(question, said, catalogue) != mark_of_question(question, row_house, catalogue)


def test_every_list_after_the_pick_is_a_list_of_the_project():
    assert set(ROWS) < LISTS_AFTER <= set(NUMBERED)


def test_a_test_of_a_run_changes_no_search(row_house, catalogue):
    number = row_house.drops[0].id
    said = apply_edits(row_house, [AddEntry(list="run_tests", values={"drop_id": number, "speed_mbit": 100})])
    for question in BEFORE:
        assert mark_of_question(question, said, catalogue) == mark_of_question(question, row_house, catalogue)


PROVEN = {
    "trace_sheets": {"closet_id": 1, "positions": 24}, "acceptance": {"key": "failover", "value": 9},
    "sign_offs": {"name": "Ruth"},
}  # fmt: skip


@pytest.mark.parametrize("rows", sorted(PROVEN))
def test_what_is_traced_and_accepted_changes_no_search(rows, row_house, catalogue):
    said = apply_edits(row_house, [AddEntry(list=rows, values=PROVEN[rows])])
    for question in BEFORE:
        assert mark_of_question(question, said, catalogue) == mark_of_question(question, row_house, catalogue)
    record = SheetOf(sheet="acceptance")
    assert mark_of_question(record, said, catalogue) != mark_of_question(record, row_house, catalogue)


FIELDS = {
    "wanted": lambda p: ChangeDrops(ids=(p.drops[0].id,), changes=DropChanges(wanted="could")),
    "let_in_by": lambda p: ChangeRoom(id=p.rooms[0].id, changes={"let_in_by": "Ada"}),
    "tax": lambda p: ChangeSettings(changes={"tax_percent": 7}),
    "margin": lambda p: ChangeSettings(changes={"margin_parts_percent": 40}),
    "owner": lambda p: ChangeSettings(changes={"owner_minor": 900}),
    "day": lambda p: ChangeSettings(changes={"day_h": 6}),
    "begins": lambda p: ChangeSettings(changes={"first_day": "2027-03-01"}),
    "budget tax": lambda p: ChangeSettings(changes={"budget_with_tax": True}),
}


@pytest.mark.parametrize("field", sorted(FIELDS))
def test_a_field_that_only_price_reads_changes_no_search(field, row_house, catalogue):
    said = apply_edits(row_house, [FIELDS[field](row_house)])
    for question in SEARCHES:
        assert mark_of_question(question, said, catalogue) == mark_of_question(question, row_house, catalogue), question
    assert mark_of_question(KeptOf(), said, catalogue) != mark_of_question(KeptOf(), row_house, catalogue)


@pytest.mark.parametrize("changes", [{"difficulty_percent": 150}, {"hour_minor": 9_000}, {"budget_minor": 77_700}])
def test_settings_that_searches_read_change_them(changes, row_house, catalogue):
    said = apply_edits(row_house, [ChangeSettings(changes=changes)])
    for question in SEARCHES:
        assert mark_of_question(question, said, catalogue) != mark_of_question(question, row_house, catalogue)


def test_the_pick_is_the_same_whatever_price_says(row_house, catalogue):
    said = apply_edits(row_house, [AddEntry(list=rows, values=values) for rows, values in ROWS.items()])
    said = apply_edits(said, [make(said) for make in FIELDS.values()])
    plain, after = (Picker(project, catalogue).answer("least_price") for project in (row_house, said))
    assert after == plain


def test_only_the_difficulty_of_price_s_terms_is_read_before():
    assert FIELDS_AFTER["settings"] == set(PriceTerms.model_fields) - {"difficulty_percent"}


def test_where_kit_goes_changes_no_search(dye_works, catalogue):
    said = apply_edits(dye_works, [ChangeEntry(list="kit", id=dye_works.kit[0].id, changes={"goes": "sold"})])
    for question in SEARCHES:
        assert mark_of_question(question, said, catalogue) == mark_of_question(question, dye_works, catalogue)
