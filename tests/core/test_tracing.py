"""Unlabelled cable traced: probabilities against all ways summed one by one, minutes by hand, advice on simulators."""

import random
from math import perm

import numpy as np
import pytest

from baugrund.core.errors import InvalidInput
from baugrund.core.facts.tracing import TraceSheet, TraceStep
from baugrund.core.prove.tracing import matching
from baugrund.core.prove.tracing.advice import NextStep, left_by_round, next_step, ways_of
from baugrund.core.prove.tracing.matching import posterior
from baugrund.core.prove.tracing.minutes import minutes_of
from baugrund.core.prove.tracing.state import JackPlace, traced
from baugrund.demo.tracer import Rates, cords_in_rounds, follow, made_up_panel, tone_and_confirm
from baugrund.demo.tracer import minutes_of as routine_minutes
from baugrund.launch.bench_tracing import sheet_of

ONE_FLOOR = tuple(JackPlace(number, number, 0) for number in range(1, 8))


def step(kind, jack=None, **values):
    return TraceStep(id=1, closet_id=1, kind=kind, jack_id=jack, **values)


def sheet(positions=8, **values):
    return TraceSheet(id=1, closet_id=1, positions=positions, **values)


def by_enumeration(live, dead):
    """Every way of ending on positions, one by one."""
    jacks, positions = live.shape
    pairs, gone, whole = np.zeros_like(live), np.zeros_like(dead), 0.0

    def go_on(jack, taken, weight, ways):
        nonlocal whole
        if weight == 0:
            return
        if jack == jacks:
            weight /= perm(positions, len(taken))
            whole += weight
            for one, at in enumerate(ways):
                if at is None:
                    gone[one] += weight
                else:
                    pairs[one, at] += weight
            return
        go_on(jack + 1, taken, weight * dead[jack], [*ways, None])
        for at in set(range(positions)) - taken:
            go_on(jack + 1, taken | {at}, weight * live[jack, at], [*ways, at])

    go_on(0, frozenset(), 1.0, [])
    return pairs / whole, gone / whole


def drawn(seed, jacks, positions):
    draw = np.random.default_rng(seed)
    live = 0.97 * draw.random((jacks, positions)) * (draw.random((jacks, positions)) < 0.7)
    return live, 0.03 * draw.random(jacks) + 1e-3


@pytest.mark.parametrize(
    ("seed", "jacks", "positions"), [(1, 1, 1), (2, 3, 5), (3, 5, 5), (4, 4, 7), (5, 6, 6), (6, 7, 7)]
)
def test_chances_are_those_of_all_ways_summed(seed, jacks, positions):
    live, dead = drawn(seed, jacks, positions)
    pairs, gone = by_enumeration(live, dead)
    told = posterior(live, dead)
    assert told.error == 0
    assert np.abs(told.pairs - pairs).max() < 1e-12
    assert np.abs(told.dead - gone).max() < 1e-12


@pytest.mark.parametrize("seed", range(4))
def test_the_chain_tells_the_same_within_the_error_that_it_tells(seed, monkeypatch):
    live, dead = drawn(10 + seed, 6, 7)
    exact = posterior(live, dead)
    monkeypatch.setattr(matching, "EXACT_POSITIONS", 0)
    told = posterior(live, dead)
    off = max(np.abs(told.pairs - exact.pairs).max(), np.abs(told.dead - exact.dead).max())
    assert 0 < told.error < 0.02
    assert off < 1.5 * told.error


def test_readings_of_jacks_are_those_of_the_reference_and_shrink_the_candidates_of_all_others():
    now = traced(sheet(9), ONE_FLOOR, [step("toner", 1), step("sweep", 1, position=5)])
    # 0.70 there, 0.125 on each neighbour, 0.025 two off; nobody else has read anything
    chances = dict(now.candidates(1))
    assert [round(chances[at], 3) for at in (3, 4, 5, 6, 7)] == [0.025, 0.125, 0.7, 0.125, 0.025]
    before = dict(now.candidates(2))[4]
    after = traced(sheet(), ONE_FLOOR, [step("remote", 1), step("pair", 1, position=4, found=True)])
    assert 4 not in dict(after.candidates(2))
    assert before < dict(after.candidates(2))[5]
    assert after.found == {1: 4}
    assert after.free == (1, 2, 3, 5, 6, 7, 8)


def test_a_second_sweep_at_the_same_jack_is_believed_by_half():
    now = traced(sheet(), ONE_FLOOR, [step("sweep", 1, position=4), step("sweep", 1, position=4)])
    chances = dict(now.candidates(1))
    right, beside = 0.7 * (0.5 + 0.5 * 0.7), 0.125 * (0.5 + 0.5 * 0.125)
    assert chances[4] / chances[3] == pytest.approx(right / beside, rel=1e-3)


def test_a_tone_is_not_mistaken_for_a_position_of_the_next_panel():
    now = traced(sheet(panel_size=4), ONE_FLOOR, [step("sweep", 1, position=4)])
    chances = dict(now.candidates(1))
    assert chances[3] > 0.1
    assert chances[5] < 1e-4


def test_positions_without_a_cable_are_passed_over():
    now = traced(sheet(empty=(5,)), ONE_FLOOR, [step("sweep", 1, position=4)])
    chances = dict(now.candidates(1))
    assert 5 not in chances
    assert chances[6] == pytest.approx(chances[3], rel=1e-3)


def test_a_jack_is_dead_after_two_silent_sweeps_and_not_after_one():
    silent = step("sweep", 1)
    once = traced(sheet(), ONE_FLOOR, [silent])
    twice = traced(sheet(), ONE_FLOOR, [silent, silent])
    heard = traced(sheet(), ONE_FLOOR, [silent, silent, step("sweep", 1, position=2)])
    assert (once.dead, twice.dead, heard.dead) == (frozenset(), {1}, frozenset())
    # 0.03 against 0.97 · 0.02²
    assert twice.probable.dead[0] == pytest.approx(0.03 / (0.03 + 0.97 * 0.02**2), abs=2e-3)


def test_a_jack_that_answers_nowhere_is_dead():
    no = [step("pair", 1, position=at, found=False) for at in range(1, 9)]
    assert traced(sheet(), ONE_FLOOR, no[:-1]).dead == frozenset()
    assert traced(sheet(), ONE_FLOOR, no).dead == {1}


def test_cords_that_stay_dark_rule_out_their_positions():
    now = traced(sheet(), ONE_FLOOR, [step("cords", positions=(1, 2, 3)), step("link", 1), step("link", 2, position=3)])
    assert {at for at, _ in now.candidates(1)} == {4, 5, 6, 7, 8}
    assert now.found == {2: 3}


def test_a_pair_is_taken_for_found_at_the_chance_that_is_accepted_and_not_below():
    alone = ONE_FLOOR[:1]
    no = [step("pair", 1, position=2, found=False)]
    chance = dict(traced(sheet(2), alone, no).candidates(1))[1]
    # one of two positions, or dead: 0.97 / 2 against 0.03
    assert chance == pytest.approx(0.485 / 0.515)
    assert traced(sheet(2, accept=chance - 1e-9), alone, no).found == {1: 1}
    assert traced(sheet(2, accept=chance + 1e-9), alone, no).found == {}


def test_readings_that_contradict_each_other_are_told():
    here = [step("pair", jack, position=at, found=False) for jack in (1, 2) for at in range(1, 9) if at != 3]
    heard = [step("sweep", jack, position=3) for jack in (1, 2)]
    with pytest.raises(InvalidInput, match="contradict each other"):
        assert traced(sheet(), ONE_FLOOR, [*here, *heard]).probable


def test_minutes_are_those_of_the_reference():
    jacks = (JackPlace(1, 1, 2), JackPlace(2, 1, 2), JackPlace(3, 2, 0))
    done = [step("toner", 1), step("sweep", 1, position=4), step("pair", 1, position=4, found=True)]
    # to the room two floors up 2.0, set up 1.0, back 2.0, sweep 1.5, test 0.5
    assert minutes_of(sheet(), jacks, done) == pytest.approx(7.0)
    assert minutes_of(sheet(one_instrument=True), jacks, done) == pytest.approx(8.0)
    assert minutes_of(sheet(people=2), jacks, done) == pytest.approx(3.0)
    cords = [step("cords", positions=(1, 2)), step("link", 1), step("link", 2), step("link", 3)]
    # two cords 1.4, way 2.0, three times 1.2, no way inside a room, one floor and two more 2.0
    assert minutes_of(sheet(), jacks, cords) == pytest.approx(1.4 + 2.0 + 3.6 + 2.0)
    # two people: the cords are plugged while the laptop goes in
    assert minutes_of(sheet(people=2), jacks, cords) == pytest.approx(1.4 + 0.2 + 1.2 + 2.0 + 1.2)


def test_nothing_at_hand_advises_nothing_and_a_tester_alone_goes_position_by_position():
    bare = sheet(toner=False, tester=False)
    assert next_step(traced(bare, ONE_FLOOR, []), None) is None
    alone = traced(sheet(toner=False), ONE_FLOOR, [])
    assert next_step(alone, None).kind == "remote"
    assert {one.name for one in left_by_round(sheet(toner=False), 5, ways_of(ONE_FLOOR, 1))[1:]} == {"pair"}


@pytest.mark.parametrize(
    ("table", "people", "asked"), [(True, 1, 0.75), (True, 2, 0.85), (False, 1, 0.90), (None, 1, 1.0)]
)
def test_the_advised_order_ends_sooner_than_tone_and_confirm_and_finds_every_jack(table, people, asked):
    ratios = []
    for seed in range(3):
        asked_of = sheet_of(table, people)
        outcome = follow(made_up_panel(asked_of, 84, seed))
        assert (outcome.wrong, outcome.now.left) == (0, ())
        ratios.append(outcome.minutes / routine_minutes(made_up_panel(asked_of, 84, seed), tone_and_confirm))
    assert sorted(ratios)[1] <= asked


@pytest.mark.parametrize("people", [1, 2])
def test_the_advised_order_is_not_worse_than_cords_moved_in_rounds(people):
    asked_of = sheet_of(True, people)
    times = [
        follow(made_up_panel(asked_of, 84, seed)).minutes
        / routine_minutes(made_up_panel(asked_of, 84, seed), cords_in_rounds)
        for seed in range(3)
    ]
    assert sorted(times)[1] <= 1


def test_chances_told_hold_on_instruments_that_err_otherwise_than_the_worksheet_takes_for_granted():
    right = told = 0
    draw = random.Random(4)
    for seed in range(400):
        good = draw.uniform(0.55, 0.85)
        rates = Rates(good, 0.8 * (1 - good), 0.2 * (1 - good), draw.uniform(0.3, 0.7), draw.uniform(0.01, 0.06), 0.03)
        panel = made_up_panel(sheet(10), 8, seed, rates=rates)
        now = traced(panel.sheet, panel.jacks, [])
        for _ in range(draw.randint(6, 24)):
            if not now.left:
                break
            jack = draw.choice(now.left).id
            now = now.after(panel.answer(NextStep(kind="sweep", jack_id=jack)))
            if draw.random() < 0.5:
                now = now.after(panel.answer(NextStep(kind="pair", jack_id=jack, position=now.by_itself(jack)[0])))
        for row, jack in zip(now.probable.pairs, now.open_to_all, strict=True):
            for at, chance in zip(now.free_of_exact, row, strict=True):
                if 0.95 <= chance <= 0.99:
                    told += 1
                    right += panel.ends[jack.id] == at
    assert told > 100
    assert right / told >= 0.93


def test_the_advised_order_comes_to_an_end_whatever_is_at_hand():
    for seed in range(40):
        draw = random.Random(seed)
        at_hand = sheet(
            30, toner=draw.random() < 0.7, tester=draw.random() < 0.7, one_instrument=draw.random() < 0.3, laptop=True,
            cords=draw.choice((1, 2, 5, 24)), reads_table=draw.random() < 0.5, people=draw.choice((1, 2)),
            accept=draw.choice((1.0, 1.0, 0.95)), panel_size=draw.choice((12, 24)),
        )  # fmt: skip
        panel = made_up_panel(at_hand, draw.choice((1, 2, 9, 12)), seed, rates=Rates(dead=0.2))
        outcome = follow(panel)
        assert outcome.now.left == ()
        assert at_hand.accept < 1 or outcome.wrong == 0
