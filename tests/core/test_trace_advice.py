"""What is advised next, step by step by hand: for one person and for two, with and without a live switch."""

import pytest

from baugrund.core.facts.tracing import TraceSheet, TraceStep
from baugrund.core.prove.tracing.advice import left_by_round, minutes_left, next_step, ways_of
from baugrund.core.prove.tracing.minutes import way
from baugrund.core.prove.tracing.state import JackPlace, traced

FLOORS = (JackPlace(1, 1, 0), JackPlace(2, 1, 0), JackPlace(3, 2, 1), JackPlace(4, 3, 2))
MANY = tuple(JackPlace(number, (number + 1) // 2, 0) for number in range(1, 61))


def sheet(positions=60, **values):
    return TraceSheet(id=1, closet_id=1, positions=positions, **values)


def step(kind, jack=None, **values):
    return TraceStep(id=1, closet_id=1, kind=kind, jack_id=jack, **values)


def advised(at_hand, jacks, *steps, at=None):
    found = next_step(traced(at_hand, jacks, steps), at)
    return None if found is None else (found.kind, found.jack_id, found.position or found.positions or None)


@pytest.mark.parametrize(
    ("one", "other", "minutes"),
    [
        (None, FLOORS[0], 1.0), (None, FLOORS[3], 2.0), (FLOORS[0], FLOORS[1], 0.0), (FLOORS[0], FLOORS[2], 1.5),
        (FLOORS[3], FLOORS[0], 2.0), (None, None, 0.0), (FLOORS[2], None, 1.5), (FLOORS[0], FLOORS[0], 0.0),
    ],
)  # fmt: skip
def test_ways_take_a_minute_and_half_a_minute_a_floor_and_none_inside_a_room(one, other, minutes):
    assert way(one, other) == minutes


def test_two_jacks_of_no_known_room_lie_a_way_apart():
    assert way(JackPlace(1, None, 0), JackPlace(2, None, 0)) == 1.0


def test_one_toned_jack_is_swept_for_tested_where_it_was_heard_then_beside_it():
    at_hand, toner = sheet(), step("toner", 1)
    assert advised(at_hand, MANY) == ("toner", 1, None)
    assert advised(at_hand, MANY, toner) == ("sweep", 1, None)
    heard = (toner, step("sweep", 1, position=20))
    assert advised(at_hand, MANY, *heard) == ("pair", 1, 20)
    missed = (*heard, step("pair", 1, position=20, found=False))
    assert advised(at_hand, MANY, *missed) == ("pair", 1, 19)
    beside = (*missed, step("pair", 1, position=19, found=False))
    assert advised(at_hand, MANY, *beside) == ("pair", 1, 21)
    found = (*beside, step("pair", 1, position=21, found=True))
    # the next jack of the same room
    assert advised(at_hand, MANY, *found) == ("toner", 2, None)


def test_a_silent_jack_is_swept_for_again_and_then_left_as_dead():
    silent = (step("toner", 1), step("sweep", 1))
    assert advised(sheet(), MANY, *silent) == ("sweep", 1, None)
    assert advised(sheet(), MANY, *silent, step("sweep", 1)) == ("toner", 2, None)


def test_a_tone_without_a_tester_needs_a_chance_that_is_accepted():
    bare = {"tester": False, "positions": 60}
    assert advised(TraceSheet(id=1, closet_id=1, **bare), MANY) is None
    accepting = TraceSheet(id=1, closet_id=1, accept=0.95, **bare)
    assert advised(accepting, MANY) == ("toner", 1, None)
    heard = (step("toner", 1), step("sweep", 1, position=20))
    assert advised(accepting, MANY, *heard) == ("sweep", 1, None)


def test_cords_are_plugged_before_a_tour_and_every_jack_on_it_is_read():
    switch = sheet(positions=12, laptop=True, cords=24)
    few = MANY[:12]
    kind, jack, positions = advised(switch, few)
    assert (kind, jack, positions) == ("cords", None, tuple(range(1, 13)))
    cords = step("cords", positions=positions)
    assert advised(switch, few, cords) == ("link", 1, None)
    assert advised(switch, few, cords, step("link", 1, position=7), at=few[0]) == ("link", 2, None)


def test_the_lights_of_a_switch_are_read_at_the_panel():
    switch = sheet(positions=12, laptop=True, cords=24, reads_table=False)
    few = MANY[:12]
    cords = step("cords", positions=tuple(range(1, 13)))
    first = advised(switch, few, cords)
    assert first[0] in ("laptop", "toner")
    device = (cords, step("laptop", 1))
    assert advised(switch, few, *device)[0] in ("link", "toner")


def test_one_moved_cord_goes_from_position_to_position():
    alone = sheet(positions=4, toner=False, tester=False, laptop=True, cords=1, reads_table=False)
    few = FLOORS
    assert advised(alone, few) == ("laptop", 1, None)
    laptop = step("laptop", 1)
    assert advised(alone, few, laptop) == ("cords", None, (1,))
    first = (laptop, step("cords", positions=(1,)))
    assert advised(alone, few, *first) == ("link", 1, None)
    assert advised(alone, few, *first, step("link", 1)) == ("cords", None, (2,))
    answered = (*first, step("link", 1, position=1))
    assert advised(alone, few, *answered)[0] == "laptop"


def test_what_is_settled_is_advised_no_more_and_all_settled_is_the_end():
    known = [step("known", number, position=number) for number in (1, 2, 3)]
    assert advised(sheet(4), FLOORS, *known)[1] == 4
    assert advised(sheet(4), FLOORS, *known, step("known", 4)) is None
    assert minutes_left(traced(sheet(4), FLOORS, [*known, step("known", 4)]), 1) == 0


def test_fewer_jacks_never_take_longer_and_more_at_hand_never_takes_longer():
    ways = ways_of(MANY, 1)
    bare = left_by_round(sheet(), 60, ways)
    switch = left_by_round(sheet(laptop=True, cords=24), 60, ways)
    lights = left_by_round(sheet(laptop=True, cords=24, reads_table=False), 60, ways)
    for table in (bare, switch, lights):
        minutes = [one.minutes for one in table]
        assert minutes == sorted(minutes)
    for with_table, by_light, without in zip(switch, lights, bare, strict=True):
        assert with_table.minutes <= by_light.minutes <= without.minutes


def test_minutes_left_by_hand_for_a_tester_alone():
    # ways 1.0 there and back, set up 1.0, half a minute for each of one and a half positions in the mean, and of one
    alone = sheet(2, toner=False)
    one_room = MANY[:2]
    assert left_by_round(alone, 2, ways_of(one_room, 1))[2].minutes == pytest.approx((3 + 0.75) + (3 + 0.5))
    assert left_by_round(alone, 2, ways_of(one_room, 2))[2].minutes == pytest.approx((1 + 0.75) + (1 + 0.5))
