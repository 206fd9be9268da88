"""A panel after any steps: what is true is never ruled out, chances add up, devices and cords are where they were put."""

import random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from baugrund.core.facts.tracing import TraceSheet, TraceStep
from baugrund.core.prove.tracing.advice import NextStep
from baugrund.core.prove.tracing.state import JackPlace, silent, traced
from baugrund.demo.tracer import FIXED, Rates, cords_in_rounds, follow, made_up_panel, minutes_of

SHEET = TraceSheet(id=1, closet_id=1, positions=10, laptop=True, cords=4, panel_size=5)
JACKS = tuple(JackPlace(number, number, 0) for number in range(1, 5))


def step(kind, jack=None, **values):
    return TraceStep(id=1, closet_id=1, kind=kind, jack_id=jack, **values)


def read_at_random(seed, readings):
    """A made-up panel after readings at random, as its instruments told them."""
    draw = random.Random(seed)
    panel = made_up_panel(SHEET, 6, seed, rates=Rates(dead=0.2))
    now = traced(panel.sheet, panel.jacks, [])
    for _ in range(readings):
        jack = draw.choice(panel.jacks).id
        kind = draw.choice(("sweep", "pair", "cords", "link"))
        some = tuple(sorted(draw.sample(panel.wired, 3)))
        asked = {
            "sweep": NextStep(kind="sweep", jack_id=jack),
            "pair": NextStep(kind="pair", jack_id=jack, position=draw.choice(panel.wired)),
            "cords": NextStep(kind="cords", positions=some),
            "link": NextStep(kind="link", jack_id=jack),
        }[kind]
        now = now.after(panel.answer(asked))
    return panel, now


@settings(max_examples=60, deadline=None)
@given(st.integers(0, 10_000), st.integers(0, 30))
def test_what_is_true_is_never_ruled_out_and_what_is_found_is_true(seed, readings):
    panel, now = read_at_random(seed, readings)
    for jack, at in now.found.items():
        assert panel.ends[jack] == at
    for row, jack in zip(now.probable.pairs, now.open_to_all, strict=True):
        at = panel.ends[jack.id]
        if at is not None:
            assert row[now.free_of_exact.index(at)] > 0
            assert at not in now.read[jack.id].excluded
    assert len(set(now.found.values())) == len(now.found)


@settings(max_examples=60, deadline=None)
@given(st.integers(0, 10_000), st.integers(0, 30))
def test_chances_of_a_jack_add_up_to_one_and_those_of_a_position_to_no_more(seed, readings):
    _, now = read_at_random(seed, readings)
    pairs, dead = now.probable.pairs, now.probable.dead
    assert pairs.sum(axis=1) + dead == pytest.approx([1.0] * len(dead))
    assert (pairs.sum(axis=0) <= 1 + 1e-9).all()
    assert set(now.free) | set(now.found.values()) == set(now.wired)


@settings(max_examples=30, deadline=None)
@given(st.integers(0, 10_000), st.integers(0, 20))
def test_steps_taken_one_by_one_and_all_at_once_tell_the_same(seed, readings):
    draw = random.Random(seed)
    steps = [
        draw.choice((
            step("toner", draw.randint(1, 4)), step("sweep", draw.randint(1, 4), position=draw.randint(1, 10)),
            step("laptop", draw.randint(1, 4)), step("cords", positions=(1, 2)), step("remote", draw.randint(1, 4)),
            step("pair", draw.randint(1, 4), position=draw.randint(1, 10), found=False),
        ))
        for _ in range(readings)
    ]  # fmt: skip
    one_by_one = traced(SHEET, JACKS, [])
    for one in steps:
        one_by_one = one_by_one.after(one)
    assert one_by_one == traced(SHEET, JACKS, steps)


def test_a_jack_takes_one_plug_and_a_device_is_in_one_jack():
    now = traced(SHEET, JACKS, [step("toner", 1), step("laptop", 2), step("remote", 1)])
    assert now.devices == {"laptop": 2, "remote": 1}
    assert now.after(step("laptop", 3)).devices == {"laptop": 3, "remote": 1}


def test_one_instrument_is_in_one_place_whatever_it_does():
    single = SHEET.model_copy(update={"one_instrument": True})
    now = traced(single, JACKS, [step("toner", 1), step("remote", 2)])
    assert now.devices == {"toner": 2}
    assert (traced(single, JACKS, [step("toner", 1)]).toning, now.toning) == (True, False)


def test_steps_of_a_jack_that_is_traced_no_more_tell_nothing():
    now = traced(SHEET, JACKS, [step("sweep", 99, position=3), step("pair", 99, position=3, found=True)])
    assert (now.found, now.free) == ({}, tuple(range(1, 11)))


def test_a_jack_that_was_said_to_be_dead_and_then_answers_is_found():
    now = traced(SHEET, JACKS, [step("known", 1)])
    assert (now.dead, silent(now.read[1])) == ({1}, False)
    after = now.after(step("pair", 1, position=2, found=True))
    assert (after.dead, after.found) == (frozenset(), {1: 2})


@pytest.mark.parametrize("routine", [*FIXED, cords_in_rounds])
def test_every_fixed_routine_takes_longer_with_more_jacks(routine):
    few, many = (minutes_of(made_up_panel(SHEET, jacks, 3), routine) for jacks in (3, 9))
    assert 0 < few < many


def test_the_same_seed_makes_the_same_panel_and_the_same_order():
    one, other = (follow(made_up_panel(SHEET, 8, 5)) for _ in range(2))
    assert (one.minutes, one.steps, one.now.found) == (other.minutes, other.steps, other.now.found)
    assert follow(made_up_panel(SHEET, 8, 6)).now.found != one.now.found
