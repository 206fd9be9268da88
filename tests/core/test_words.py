"""Figures in words, the same everywhere."""

import pytest

from baugrund.core.words import counted, joined, money, speed, watts


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
