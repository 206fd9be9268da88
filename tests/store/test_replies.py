"""Replies that are found again by what was asked of what."""

import pytest

from baugrund.core.edits import ChangeSettings, PutLabels, Rename, UseNetworks, apply_edits
from baugrund.store import replies as module
from baugrund.store.replies import Replies
from baugrund.tasks.questions import BestOf, BestViewsOf, SheetOf, SitesOf, is_proven, mark_of_question, reply_type


@pytest.fixture
def replies(database):
    with database.connection() as connection:
        connection.execute("DELETE FROM replies")
    return Replies(database)


def test_the_first_reply_under_a_mark_stands(replies):
    assert replies.find("a") is None
    replies.keep("a", {"price": 1})
    replies.keep("a", {"price": 2})
    assert replies.find("a") == {"price": 1}


def test_the_one_that_nobody_saw_for_longest_goes_first(replies, monkeypatch):
    monkeypatch.setattr(module, "MOST", 2)
    for mark in ("a", "b"):
        replies.keep(mark, {})
    assert replies.find("a") == {}
    replies.keep("c", {})
    assert [mark for mark in "abc" if replies.find(mark) is not None] == ["a", "c"]


def test_a_mark_is_that_of_the_content_and_not_of_the_name(row_house, catalogue):
    asked = BestOf(aim="least_price")
    mark = mark_of_question(asked, row_house, catalogue)
    assert mark_of_question(asked, apply_edits(row_house, [Rename(name="Other")]), catalogue) == mark
    dearer = tuple(one.model_copy(update={"price_minor": one.price_minor + 1}) for one in catalogue.models)
    others = [
        mark_of_question(BestOf(aim="fewest_boxes"), row_house, catalogue),
        mark_of_question(SitesOf(), row_house, catalogue),
        mark_of_question(asked, apply_edits(row_house, [ChangeSettings(changes={"growth_percent": 6})]), catalogue),
        mark_of_question(asked, row_house, catalogue.model_copy(update={"models": dearer})),
    ]
    assert len({mark, *others}) == 5
    networked = apply_edits(row_house, [UseNetworks(template="home"), PutLabels()])
    assert mark_of_question(asked, networked, catalogue) == mark, "no pick looks at what only Patch knows"
    for other in (SheetOf(sheet="networks"), BestViewsOf()):
        assert mark_of_question(other, networked, catalogue) != mark_of_question(other, row_house, catalogue)
    assert not SheetOf(sheet="pulls").lasts and reply_type(SitesOf()).__name__ == "Siting"


@pytest.mark.parametrize(("reply", "proven"), [
    ({"answer": {"proven": True}}, True), ({"answer": None}, True), ({"a": [{"b": {"proven": False}}]}, False),
    ({"closets": [{"rack": {"steady": {"proven": False}}}]}, False), ({"text": "not proven"}, True),
])  # fmt: skip
def test_only_what_is_proven_is_kept(reply, proven):
    assert is_proven(reply) is proven
