"""Figures in words, the same everywhere."""

import pytest

from baugrund.core.facts.drop_kinds import DROP_KINDS
from baugrund.core.words import counted, joined, money, small, speed, watts


@pytest.mark.parametrize(
    ("minor", "currency", "said"),
    [
        (123_400, "EUR", "€ 1,234"),
        (1_250, "EUR", "€ 12.50"),
        (0, "GBP", "£ 0"),
        (100, "NOK", "NOK 1"),
        (5, "USD", "$ 0.05"),
        (1_250, "JPY", "¥ 1,250"),
        (1_250, "KWD", "KWD 1.250"),
    ],
)
def test_money(minor, currency, said):
    assert money(minor, currency) == said


@pytest.mark.parametrize(
    ("count", "said"), [(0, "0 switches"), (1, "1 switch"), (2, "2 switches"), (12_000, "12,000 switches")]
)
def test_counts(count, said):
    assert counted(count, "switch", "switches") == said


def test_speeds_watts_and_lists():
    assert [speed(mbit) for mbit in (100, 1000, 2500, 10_000)] == ["100 M", "1 G", "2.5 G", "10 G"]
    assert [watts(mw) for mw in (500, 13_520, 120_000)] == ["0.5 W", "13.5 W", "120 W"]
    assert [joined(parts) for parts in (["a"], ["a", "b"], ["a", "b", "c"])] == ["a", "a and b", "a, b and c"]


@pytest.mark.parametrize(
    ("name", "told"),
    [("Camera", "camera"), ("Access point", "access point"), ("NAS", "NAS"), ("UPS, small", "UPS, small"),
     ("Wall jack", "wall jack"), ("8-port switch", "8-port switch"), ("", "")],
)  # fmt: skip
def test_a_name_within_a_sentence_begins_small_but_for_an_abbreviation(name, told):
    assert small(name) == told


def test_kinds_are_counted_by_their_names():
    told = [DROP_KINDS[kind].many(count) for kind, count in (("camera", 1), ("camera", 3), ("nas", 1), ("nas", 2))]
    assert told == ["1 camera", "3 cameras", "1 NAS", "2 NAS"]
