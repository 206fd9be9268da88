"""Wire maps: every fault at every pin recognised for what it is, and nothing seen where nothing is."""

from itertools import combinations, permutations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from baugrund.core.prove.wire_map import PAIRS, faults_of

STRAIGHT = (1, 2, 3, 4, 5, 6, 7, 8)
PINS = range(1, 9)


def mapped(**ends):
    """A straight map but for some pins: ``p1=2`` ends on 2."""
    changed = {int(name[1:]): far for name, far in ends.items()}
    return tuple(changed.get(pin, pin) for pin in PINS)


def swapped(*pairs):
    """A straight map with pins exchanged."""
    pins = list(STRAIGHT)
    for one, other in pairs:
        pins[one - 1], pins[other - 1] = pins[other - 1], pins[one - 1]
    return tuple(pins)


def kinds(*args, **more):
    return [(fault.kind, fault.pins) for fault in faults_of(*args, **more)]


def test_a_straight_map_has_no_fault():
    assert faults_of(STRAIGHT) == ()


@pytest.mark.parametrize("pin", PINS)
def test_an_open_pin_is_told_by_its_number(pin):
    (fault,) = faults_of(mapped(**{f"p{pin}": 0}))
    assert (fault.kind, fault.pins, fault.text) == ("open", (pin,), f"pin {pin} is open")


@pytest.mark.parametrize("pair", PAIRS)
def test_an_open_pair_is_one_fault(pair):
    (fault,) = faults_of(mapped(**{f"p{pin}": 0 for pin in pair}))
    assert (fault.kind, fault.pins) == ("open", pair) and fault.text == f"pair {pair[0]}-{pair[1]} is open"


@pytest.mark.parametrize(("one", "other"), list(combinations(PINS, 2)))
def test_every_two_pins_that_touch_are_told(one, other):
    assert kinds(STRAIGHT, [(one, other)]) == [("short", (one, other))]


@pytest.mark.parametrize("pair", PAIRS)
def test_a_reversed_pair(pair):
    assert kinds(swapped(pair)) == [("reversed", pair)]


@pytest.mark.parametrize(("one", "other"), list(combinations(PAIRS, 2)))
def test_crossed_pairs_and_t568a_against_t568b(one, other):
    pins = swapped((one[0], other[0]), (one[1], other[1]))
    is_a_b = {one, other} == {(1, 2), (3, 6)}
    assert kinds(pins) == [("a_against_b" if is_a_b else "crossed", (*one, *other))]
    # the same with one pair turned round as well is no mere difference of standards
    turned = swapped((one[0], other[1]), (one[1], other[0]))
    ((kind, where),) = kinds(turned)
    assert kind == "crossed" and where == (*one, *other)


def test_the_map_of_the_reference_is_a_against_b():
    # 1 → 3, 2 → 6, 3 → 1, 6 → 2
    (fault,) = faults_of((3, 6, 1, 4, 5, 2, 7, 8))
    assert fault.kind == "a_against_b" and fault.text == "one end is T568A, the other T568B"


@pytest.mark.parametrize(
    ("one", "other"), [two for two in combinations(PINS, 2) if not any(set(two) == set(pair) for pair in PAIRS)]
)
def test_single_wires_exchanged_across_pairs_are_miswired(one, other):
    ((kind, where),) = kinds(swapped((one, other)))
    assert (kind, where) == ("miswired", (one, other))


@pytest.mark.parametrize(("first", "second"), list(combinations(range(1, 5), 2)))
def test_split_pairs_are_straight_and_only_crosstalk_tells_them(first, second):
    assert kinds(STRAIGHT) == []
    ((kind, where),) = kinds(STRAIGHT, split=[(first, second)])
    assert kind == "split" and where == (*PAIRS[first - 1], *PAIRS[second - 1])


def test_several_faults_are_all_told():
    pins = list(swapped((1, 2)))
    pins[6] = 0
    assert kinds(pins, [(4, 5)]) == [("open", (7,)), ("short", (4, 5)), ("reversed", (1, 2))]


def test_pairs_that_go_round_in_a_ring_are_miswired():
    # 1-2 ends on 3-6, 3-6 on 4-5, 4-5 on 1-2
    ((kind, where),) = kinds((3, 6, 4, 1, 2, 5, 7, 8))
    assert kind == "miswired" and set(where) == {1, 2, 3, 4, 5, 6}


@given(st.permutations(list(STRAIGHT)), st.sets(st.integers(0, 7), max_size=3))
def test_every_pin_that_does_not_end_on_itself_is_in_some_fault(pins, opened):
    ends = [0 if place in opened else far for place, far in enumerate(pins)]
    told = {pin for fault in faults_of(ends) for pin in fault.pins}
    assert told == {pin for pin in PINS if ends[pin - 1] != pin}


def test_no_map_is_called_straight_but_the_straight_one():
    """Over all 40,320 ways to join eight pins, in steps that keep the test short."""
    for place, pins in enumerate(permutations(STRAIGHT)):
        if place % 7 == 0 or place < 40:
            assert (faults_of(pins) == ()) == (pins == STRAIGHT)
