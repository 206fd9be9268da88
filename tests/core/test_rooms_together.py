"""Which rooms get a switch, chosen together: equal to trying every set of rooms, or told unproven."""

import random
from itertools import combinations

import pytest

from baugrund.core.answers import rooms_together as choosing
from baugrund.core.answers.picker import Picker
from baugrund.core.answers.rooms_together import rooms_together
from baugrund.core.edits import apply_edits
from baugrund.core.pick.best import least_price

from .small import catalogue, ports, router, some_of, switch
from .test_beyond import EIGHT, FED, FIVE, HOME, POWERED, rooms_of


def every_choice(picker, rooms):
    """What every set of rooms costs more than cables alone, by the least pick of each, found anew."""
    project, before = picker.project, picker.answer("least_price").price_minor
    told = {(): 0}
    for size in range(1, len(rooms) + 1):
        for some in combinations(rooms, size):
            taken = apply_edits(project, [room.edit for room in some])
            found = least_price(Picker(taken, picker.catalogue).outlook.site(project.settings.horizon_years)[0])
            if found:
                own = sum(room.one_cable_minor + room.switch_minor - room.cables_minor for room in some)
                told[tuple(room.room_id for room in some)] = own + found.price_minor - before
    return told


@some_of(range(8))
def test_the_choice_equals_trying_every_set_of_rooms(seed):
    rng = random.Random(seed)
    models = [
        router("home", ports(rng.choice([4, 6])), price=100),
        switch("eight", ports(8), price=rng.choice([150, 200, 900])),
        switch("sixteen", ports(16), price=rng.choice([300, 900, 1500])),
        switch("five", ports(5), price=rng.choice([50, 400, 700, 900])),
        POWERED.model_copy(update={"price_minor": rng.choice([260, 1200])}),
        FED.model_copy(update={"price_minor": rng.choice([60, 500])}),
    ]
    picker = Picker(rooms_of([rng.randint(2, 4) for _ in range(rng.choice([3, 4]))]), catalogue(*models))
    found = picker.beyond(picker.answer("least_price"))
    told = every_choice(picker, found.rooms)
    least = min(told.values())
    if found.together:
        assert (found.together.more_minor, found.together.proven) == (least, True)
        assert told[tuple(room.room_id for room in sorted_like(found))] == least
    else:
        assert min(more for some, more in told.items() if len(some) < 2) == least


def sorted_like(found):
    """The rooms of a choice in the order in which every set was tried."""
    return [room for room in found.rooms if room.room_id in found.together.room_ids]


def test_rooms_that_gain_nothing_alone_may_gain_together():
    """Each alone leaves ports enough to want the switch in the closet still; both together do without it."""
    models = [HOME, switch("eight", ports(8), price=3_000), switch("five", ports(5), price=3_100)]
    picker = Picker(rooms_of([3, 3]), catalogue(*models))
    found = picker.beyond(picker.answer("least_price"))
    told = every_choice(picker, found.rooms)
    assert (found.together is not None) == (min(told.values()) < min(m for s, m in told.items() if len(s) < 2))


@pytest.mark.parametrize(("most", "is_proven"), [(24, True), (1, False)])
def test_a_choice_that_is_cut_short_says_so(most, is_proven, monkeypatch):
    monkeypatch.setattr(choosing, "PICKS_MOST", most)
    picker = Picker(rooms_of([4, 4, 4]), catalogue(HOME, EIGHT, FIVE))
    answer = picker.answer("least_price")
    together = picker.beyond(answer).together
    assert together is None or together.proven is is_proven
    assert is_proven is (together is not None and together.proven)


def test_no_more_rooms_are_chosen_from_than_there_is_time_for(monkeypatch):
    monkeypatch.setattr(choosing, "ROOMS_MOST", 2)
    picker = Picker(rooms_of([4, 4, 4]), catalogue(HOME, EIGHT, FIVE))
    answer = picker.answer("least_price")
    rooms = picker.beyond(answer).rooms
    together = rooms_together(picker.outlook, answer.price_minor, rooms)
    assert together.of == 2 and len(together.room_ids) == 2
