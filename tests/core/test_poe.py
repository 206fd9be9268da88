"""Power over Ethernet against the worked figures of IEEE 802.3 and ANSI/TIA-568.2."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from baugrund.core.physics.poe import (
    USUAL_TERMS,
    bundle_rise_k,
    feed,
    feed_faults,
    half_watts_up_mw,
    heat_w_per_m,
    loop_resistance_ohm,
    poe_left_w,
    port_watts,
)
from baugrund.core.pick.model.supply import mains_mw
from baugrund.core.standards.cabling import bundle_mm, fastest_mbit, longest_cords_m, sure_mbit
from baugrund.core.standards.poe_classes import POE_CLASSES, rank, reserved_w, smallest_class_for


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
    loop = USUAL_TERMS.loop_ohm(4, 38)
    assert round(loop, 3) == 4.924
    assert port_watts("class", 4, 13.2, loop) == 30.0
    assert round(port_watts("rated", 4, 13.2, loop), 3) == 13.520
    assert port_watts("measured", 4, 13.2, loop, measured_w=9.1) == 9.1
    assert round(port_watts("measured", 4, 13.2, loop), 3) == 13.520


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
    assert (sure_mbit("5e", 50), sure_mbit("5e", 50.1), fastest_mbit("5e", 100)) == (5_000, 2_500, 5_000)
    assert (sure_mbit("5", 100), fastest_mbit("5", 100)) == (100, 1_000)
    assert [fastest_mbit("6", channel, dense=True) for channel in (37, 37.1)] == [10_000, 5_000]
    assert fastest_mbit("6A", 100, dense=True) == 10_000


@pytest.mark.parametrize(
    ("fixed", "cords", "longest"),
    [(90, "usual", 10.0), (90, "awg26", 8.0), (90, "thin", 6.15), (80, "thin", 10.0), (84, "thin", 9.23)],
)
def test_worked_cords(fixed, cords, longest):
    assert round(longest_cords_m(fixed, cords), 2) == longest


def test_ports_of_types_3_and_4_reserve_less_for_classes_2_and_3():
    assert [reserved_w(2, cap) for cap in (None, 4, 5, 8)] == [7.0, 7.0, 6.7, 6.7]
    assert [reserved_w(3, cap) for cap in (3, 6)] == [15.4, 14.0]
    assert reserved_w(4, 8) == 30.0


@pytest.mark.parametrize(("cables", "rise"), [(24, 6.3), (100, 16.4)])
def test_worked_bundles(cables, rise):
    # 6 mm cables at 9.38 Ω/100 m, 0.96 A per pair set, four pairs
    assert round(bundle_rise_k(cables * heat_w_per_m(0.96, 4), bundle_mm([6.0] * cables)), 1) == rise


def test_a_bundle_on_two_pairs_stays_cooler_and_a_larger_one_gets_warmer():
    assert heat_w_per_m(0.96, 2) == pytest.approx(heat_w_per_m(0.96, 4) / 2)
    rises = [bundle_rise_k(n * heat_w_per_m(0.6, 4), bundle_mm([6.0] * n)) for n in (1, 7, 24, 48, 100)]
    assert rises == sorted(rises)


def test_two_supplies_and_one_lost():
    assert poe_left_w([250, 250], 40) == 460
    assert poe_left_w([250, 250], 40, lost=1) == 210
    assert poe_left_w([150, 250], 40, lost=1) == 110
    assert poe_left_w([30], 40, lost=0) == 0


def test_mains_draw_behind_the_supply():
    # own 30 W and 150 W of PoE at 88 %: 204.5 W
    assert round(mains_mw(30_000 + 150_000, 88) / 1000, 1) == 204.5


@pytest.mark.parametrize(("celsius", "factor"), [(20, 1.0), (50, 1.1179), (0, 0.9214)])
def test_warm_copper_resists_more(celsius, factor):
    warm = loop_resistance_ohm(100, cords_m=0, contacts=0, temperature_c=celsius)
    assert warm == pytest.approx(9.38 * factor)


@given(st.floats(1, 90), st.integers(1, 8))
def test_a_longer_run_never_takes_fewer_watts_at_the_port(run_m, poe_class):
    draw = POE_CLASSES[poe_class].device_w / 2
    near, far = (
        port_watts("rated", poe_class, draw, USUAL_TERMS.loop_ohm(poe_class, metres)) for metres in (run_m, run_m + 5)
    )
    assert draw <= near <= far


def test_what_cannot_be_delivered_counts_what_the_class_reserves():
    assert port_watts("rated", 4, 25.5, USUAL_TERMS.loop_ohm(4, 5000)) == 30.0
