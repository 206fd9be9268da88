"""A draft is told where proving the pick takes long: complete, never dearer bounds, and where the proof begins."""

from dataclasses import replace

import pytest

from baugrund.core.answers import picker
from baugrund.core.answers.picker import Picker
from baugrund.core.errors import TookTooLong
from baugrund.core.pick.best import least_price


@pytest.fixture
def unproven(monkeypatch):
    """Nothing is proven in the time that a draft has; what searches begin from is noted."""
    begun = []

    def found(site, seconds=None, gap=0.0):
        if seconds is None:
            begun.append([problem.hint for problem in site.closets])
            return least_price(site)
        return replace(least_price(site), proven=False, bound=1)

    monkeypatch.setattr(picker, "least_price", found)
    monkeypatch.setattr(picker, "DRAFT_CLOSETS", 2)
    return begun


def test_a_draft_has_every_closet_and_the_proof_begins_from_it(orchard_school, catalogue, unproven):
    picker = Picker(orchard_school, catalogue)
    draft = picker.draft("least_price")
    assert (len(draft.closets), draft.proven, draft.bound) == (2, False, 1)
    answer = picker.answer("least_price")
    assert answer.proven and answer.price_minor <= draft.price_minor
    assert unproven == [[tuple(boxes.boxes) for boxes in draft.standing().values()]]


@pytest.mark.parametrize("aim", ["fewest_boxes", "most_room", "least_power"])
def test_only_the_least_price_has_a_draft(orchard_school, catalogue, unproven, aim):
    assert Picker(orchard_school, catalogue).draft(aim) is None


@pytest.mark.parametrize(
    ("closets", "drops", "has_one"), [(2, 999, True), (3, 999, False), (3, 38, True), (3, 39, False)]
)
def test_a_small_site_has_no_draft(orchard_school, catalogue, unproven, monkeypatch, closets, drops, has_one):
    # two closets, 33 drops and 5 in reserve
    monkeypatch.setattr(picker, "DRAFT_CLOSETS", closets)
    monkeypatch.setattr(picker, "DRAFT_DROPS", drops)
    assert (Picker(orchard_school, catalogue).draft("least_price") is not None) is has_one


def test_what_is_proven_in_a_moment_or_not_found_at_all_has_no_draft(orchard_school, catalogue, monkeypatch):
    monkeypatch.setattr(picker, "DRAFT_CLOSETS", 1)
    monkeypatch.setattr(picker, "least_price", lambda site, seconds=None, gap=0.0: least_price(site))
    assert Picker(orchard_school, catalogue).draft("least_price") is None

    def late(site, seconds=None, gap=0.0):
        raise TookTooLong("late")

    monkeypatch.setattr(picker, "least_price", late)
    assert Picker(orchard_school, catalogue).draft("least_price") is None
