"""Grounds of a state before: closets that an edit does not touch stand as they did, and every fact that counts does."""

import pytest

from baugrund.core.answers.picker import Picker, standing_boxes
from baugrund.core.edits import AddDrops, AddEntry, ChangeDrops, ChangeEntry, ChangeSettings, DropChanges, apply_edits
from baugrund.core.standing import ground
from baugrund.core.standing.ground import grounds_of


@pytest.fixture(scope="module")
def stands(dye_works, catalogue):
    """The boxes of its least price, and the ground on them."""
    followed = Picker(dye_works, catalogue).answer("least_price").standing()
    return followed, grounds_of(dye_works, catalogue, standing_boxes(dye_works, catalogue, followed))


def seatings(grounds):
    """What is told of each closet: where drops sit, until when the boxes do, and why not longer."""
    return [(one.closet.id, one.places, one.stand.full, one.stand.short, one.stand.why) for one in grounds]


CHANGES = {
    "a run": lambda p: ChangeDrops(ids=(p.drops[0].id,), changes=DropChanges(run_m=61.5)),
    "a drop more": lambda p: AddDrops(room=p.rooms[0].id, kind="desk", count=1),
    "many drops more": lambda p: AddDrops(room=p.rooms[0].id, kind="desk", count=60),
    "growth": lambda p: ChangeSettings(changes={"growth_percent": 40}),
    "margin": lambda p: ChangeSettings(changes={"margin_percent": 60.0}),
    "how full links are": lambda p: ChangeSettings(changes={"link_fill_percent": 10}),
    "sockets of a closet": lambda p: ChangeEntry(list="closets", id=p.head_end.id, changes={"sockets": 1}),
    "a faster line": lambda p: AddEntry(list="lines", values={"name": "New", "down_mbit": 9_000, "up_mbit": 9_000}),
    "a closet's name": lambda p: ChangeEntry(list="closets", id=p.head_end.id, changes={"name": "Other"}),
}


@pytest.mark.parametrize("change", CHANGES)
def test_begun_from_the_grounds_before_all_is_told_as_anew(dye_works, catalogue, stands, change):
    followed, before = stands
    after = apply_edits(dye_works, [CHANGES[change](dye_works)])
    standing = standing_boxes(after, catalogue, followed)
    assert seatings(grounds_of(after, catalogue, standing, before)) == seatings(grounds_of(after, catalogue, standing))


def test_a_closet_that_nothing_touches_is_not_seated_again(dye_works, catalogue, stands, monkeypatch):
    followed, before = stands
    drop = dye_works.drops[0]
    after = apply_edits(dye_works, [ChangeDrops(ids=(drop.id,), changes=DropChanges(place="by the window"))])
    monkeypatch.setattr(ground, "_stand", lambda *_: pytest.fail("seated again"))
    again = grounds_of(after, catalogue, standing_boxes(after, catalogue, followed), before)
    assert [one.stand for one in again] == [one.stand for one in before]
    assert all(one.project is after for one in again)


def test_of_another_price_list_nothing_is_taken_over(dye_works, catalogue, stands):
    followed, before = stands
    other = catalogue.model_copy()
    standing = standing_boxes(dye_works, other, followed)
    anew = grounds_of(dye_works, other, standing, before)
    assert not any(one.stand is old.stand for one, old in zip(anew, before, strict=True))
    assert seatings(anew) == seatings(before)
