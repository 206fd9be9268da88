"""Power over Ethernet against the worked figures of IEEE 802.3 and ANSI/TIA-568.2."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from baugrund.core.poe import feed, feed_faults, half_watts_up_mw, loop_resistance_ohm, port_watts
from baugrund.core.standards.cabling import fastest_mbit
from baugrund.core.standards.poe_classes import POE_CLASSES, rank, smallest_class_for


@pytest.mark.parametrize(
    ("device_w", "fixed_m", "cords_m", "contacts", "celsius", "port_v", "pairs", "loop", "port_w", "device_v"),
    [
        (13.2, 38, 0, 0, 20, 53, 2, 3.564, 13.429, 52.10),
        (13.2, 38, 4, 4, 20, 53, 2, 4.924, 13.520, 51.74),
        (21.0, 72, 5, 4, 50, 50, 2, 9.050, 22.898, 45.86),
        (51.0, 60, 4, 4, 30, 53, 4, 3.605, 54.862, 49.27),
        (25.5, 90, 10, 4, 20, 53, 2, 10.642, 28.599, 47.26),
    ],
)
def test_worked_runs(device_w, fixed_m, cords_m, contacts, celsius, port_v, pairs, loop, port_w, device_v):
    ohm = loop_resistance_ohm(fixed_m, cords_m=cords_m, contacts=contacts, temperature_c=celsius, pairs=pairs)
    steady = feed(device_w, ohm, port_v)
    assert round(ohm, 3) == loop
    assert round(steady.port_w, 3) == port_w
    assert round(steady.device_v, 2) == device_v


@pytest.mark.parametrize("row", POE_CLASSES.values(), ids=lambda row: f"class {row.number}")
def test_device_limit_behind_the_worst_loop_needs_what_the_port_reserves(row):
    steady = feed(row.device_w, row.worst_loop_ohm, row.worst_port_v)
    assert abs(steady.port_w - row.port_w) < 0.1


def test_a_load_that_no_current_can_carry_has_no_feed():
    assert feed(25.5, 20, 44) is None
    assert "25.5 W cannot get through 20.0 Ω at 44 V" in feed_faults(25.5, POE_CLASSES[4], 20, 44)


@given(st.floats(0.1, 71), st.floats(0, 12), st.floats(44, 57))
def test_a_feed_balances_power(device_w, loop, port_v):
    steady = feed(device_w, loop, port_v)
    if steady is None:
        assert port_v**2 < 4 * loop * device_w
    else:
        assert math.isclose(steady.port_w, device_w + steady.current_a**2 * loop, rel_tol=1e-9)
        assert math.isclose(steady.device_v * steady.current_a, device_w, rel_tol=1e-9)


def test_volts_and_amperes_are_checked_on_both_sides_of_their_limits():
    class_4 = POE_CLASSES[4]
    assert feed_faults(25.5, class_4, 12.5, 50) == []
    assert any("V arrive" in fault for fault in feed_faults(25.5, class_4, 13.0, 50))
    assert any("A flow" in fault for fault in feed_faults(31.0, class_4, 1.0, 50))
    assert feed_faults(51.0, POE_CLASSES[6], 3.605, 53) == []


def test_three_schools_of_adding_up():
    assert port_watts("class", 4, 13.2, 38) == 30.0
    assert round(port_watts("rated", 4, 13.2, 38), 3) == 13.520
    assert port_watts("measured", 4, 13.2, 38, measured_w=9.1) == 9.1
    assert round(port_watts("measured", 4, 13.2, 38), 3) == 13.520


@pytest.mark.parametrize(("watts", "milliwatts"), [(13.52, 14_000), (13.5, 13_500), (13.500001, 14_000), (0, 0)])
def test_half_watts_round_up(watts, milliwatts):
    assert half_watts_up_mw(watts) == milliwatts


def test_classes_compare_with_class_0_as_3():
    assert [rank(c) for c in (None, 0, 1, 3, 8)] == [0, 3, 1, 3, 8]
    assert smallest_class_for(12.95) == 3
    assert smallest_class_for(12.96) == 4
    assert smallest_class_for(71.3) == 8
    assert smallest_class_for(71.4) is None


def test_speed_over_length_on_both_sides():
    assert fastest_mbit("6", 55) == 10_000
    assert fastest_mbit("6", 55.1) == 5_000
    assert fastest_mbit("6A", 100) == 10_000
    assert fastest_mbit("6A", 100.1) == 0
    assert fastest_mbit("5e", 50.1) == 2_500
