"""Sets that cost no more than a cutoff are listed, as trying every one finds them: none is lost, none is dearer."""

import math
import random
from collections import Counter
from itertools import combinations_with_replacement, product

import numpy as np
import pytest

from baugrund.core.pick.enumeration import enumeration as listing
from baugrund.core.pick.enumeration.enumeration import Covers, Enumeration, Pieces, Start

from .small import in_blocks


class Case:
    """Two or three covers over a few boxes, each to be had on a port or in one of few slots of the centre."""

    def __init__(self, seed: int) -> None:
        rng = random.Random(seed)
        self.boxes, self.covers = rng.randint(2, 5), rng.randint(1, 3)
        roots, self.number = rng.randint(1, 2), rng.randint(1, 5)
        self.size = roots + self.boxes
        self.starts = []
        for root in range(roots):
            counts = np.zeros(self.size)
            counts[root] = 1
            self.starts.append(Start(counts, root, rng.choice([0, 1, 2, 9])))
        in_slot = [rng.random() < 0.4 for _ in range(self.boxes)]
        self.places = [roots + box for box in range(self.boxes) for _ in range(1 + in_slot[box])]
        self.in_slot = [later for box in range(self.boxes) for later in ([False, True] if in_slot[box] else [False])]
        pieces = len(self.places)
        self.costs = [[rng.randint(-2, 12) for _ in range(pieces)] for _ in range(self.covers)]
        self.gives = [[rng.randint(0, 5) for _ in range(pieces)] for _ in range(self.covers)]
        self.start_costs = [[rng.randint(0, 9) for _ in range(roots)] for _ in range(self.covers)]
        self.start_gives = [[rng.randint(0, 3) for _ in range(roots)] for _ in range(self.covers)]
        self.constants = [rng.randint(0, 3) for _ in range(self.covers)]
        self.asked = [rng.randint(0, 14) for _ in range(self.covers)]
        self.mends = [rng.choice([math.inf, 1, 3]) for _ in range(self.covers)]
        self.most = np.array([*[1.0] * roots, *(float(rng.choice([1, 2, 9])) for _ in range(self.boxes))])
        self.least = np.zeros(self.size)
        if rng.random() < 0.4:
            self.least[roots + rng.randrange(self.boxes)] = 1
        self.cutoff = float(rng.randint(5, 45))

    def listing(self, times: float = 1.0) -> Enumeration:
        """``times``: what every cost is multiplied by."""
        pieces = Pieces(self.starts, np.array(self.places), np.array(self.in_slot))
        given = (self.constants, self.asked, self.mends, self.start_costs, self.start_gives, self.costs, self.gives)
        factors = (times, 1.0, times, times, 1.0, times, 1.0)
        covers = Covers(*(np.array(some, dtype=float) * factor for some, factor in zip(given, factors, strict=True)))
        return Enumeration(pieces, covers, self.least, self.most, self.number)

    def bound(self, start: int, came: tuple[int, ...]) -> float:
        """By every cover: what its pieces cost, and what mends what is lacking."""
        found = -math.inf
        for cover in range(self.covers):
            cost = self.constants[cover] + self.start_costs[cover][start] + sum(self.costs[cover][k] for k in came)
            given = self.start_gives[cover][start] + sum(self.gives[cover][k] for k in came)
            lacking = max(self.asked[cover] - given, 0)
            found = max(found, cost + (lacking * self.mends[cover] if lacking else 0))
        return found

    def every_set(self) -> dict[tuple[int, ...], float]:
        """The least bound of each set of boxes, the root first, over all ways to make it."""
        found: dict[tuple[int, ...], float] = {}
        for start in range(len(self.starts)):
            for came in combinations_with_replacement(range(len(self.places)), self.number - 1):
                counts = Counter([start, *(self.places[k] for k in came)])
                inside = all(
                    self.least[box] <= counts[box] <= self.most[box] for box in range(len(self.starts), self.size)
                )
                if inside and sum(self.in_slot[k] for k in came) <= self.starts[start].slots:
                    key = tuple(counts[box] for box in range(self.size))
                    found[key] = min(found.get(key, math.inf), self.bound(start, came))
        return found


@in_blocks(6)
def test_every_set_under_the_mark_is_listed_and_bounded_no_higher_than_it_is(block):
    seen = 0
    for seed in range(block * 50, block * 50 + 50):
        case = Case(seed)
        listed = case.listing().up_to(case.cutoff)
        rows: dict[tuple[int, ...], float] = {}
        for row, bound in zip(listed.counts.tolist(), listed.bounds.tolist(), strict=True):
            rows[tuple(row)] = min(rows.get(tuple(row), math.inf), bound)
        every = case.every_set()
        assert {key for key, bound in every.items() if bound <= case.cutoff} <= set(rows) <= set(every)
        assert all(bound <= min(every[key], case.cutoff) for key, bound in rows.items())
        # boxes that must be in count as what is best of their ways: without any, bounds are no lower either
        if not case.least.any():
            assert all(bound <= case.cutoff for bound in (every[key] for key in rows))
        left_out = [bound for key, bound in every.items() if key not in rows]
        assert listed.others <= min(left_out, default=math.inf)
        seen += len(rows)
    assert seen > 100


@pytest.mark.parametrize("seed", range(40))
def test_coarser_steps_lose_none(seed, monkeypatch):
    case = Case(seed)
    monkeypatch.setattr(listing, "ENTRIES_MOST", 40)
    again, every, rows = case.listing(), case.every_set(), set()
    # a cutoff that rises lists what is new to it
    for cutoff in (case.cutoff - 8, case.cutoff - 4, case.cutoff - 2, case.cutoff, case.cutoff + 5):
        listed = again.up_to(cutoff)
        fresh = [tuple(row) for row in listed.counts.tolist()]
        rows |= set(fresh)
        assert {key for key, bound in every.items() if bound <= cutoff} <= rows <= set(every)
        assert listed.others <= min((bound for key, bound in every.items() if key not in rows), default=math.inf)


@pytest.mark.parametrize("seed", range(30))
def test_sums_of_any_currency_lose_none(seed):
    """Prices of many digits are counted in coarser units, rounded down: none is lost, and what is left out is told."""
    case, times = Case(seed), 3e8
    listed = case.listing(times).up_to(case.cutoff * times)
    rows = {tuple(row) for row in listed.counts.tolist()}
    every = case.every_set()
    assert {key for key, bound in every.items() if bound <= case.cutoff} <= rows
    left_out = [bound * times for key, bound in every.items() if key not in rows]
    assert listed.others <= min(left_out, default=math.inf)


def test_no_more_are_begun_than_is_said():
    """Where more would be, nothing is listed, and it can be asked again."""
    case = Case(3)
    begun = case.listing().up_to(case.cutoff).looked_at
    again = case.listing()
    assert again.up_to(case.cutoff, begun - 1) is None
    assert len(again.up_to(case.cutoff, begun).counts) == len(case.listing().up_to(case.cutoff).counts) > 0


def test_what_was_listed_is_not_listed_again():
    case = Case(3)
    at_once, bit_by_bit = case.listing().up_to(case.cutoff), case.listing()
    less = bit_by_bit.up_to(case.cutoff - 3)
    more = bit_by_bit.up_to(case.cutoff)
    assert len(less.counts) and len(more.counts)
    assert sorted([*less.counts.tolist(), *more.counts.tolist()]) == sorted(at_once.counts.tolist())
    assert not len(bit_by_bit.up_to(case.cutoff).counts)


def test_each_set_tells_its_start_and_what_came():
    for seed in range(30):
        case = Case(seed)
        listed = case.listing().up_to(case.cutoff)
        for counts, start, came in zip(listed.counts, listed.starts, listed.came, strict=True):
            told = case.starts[start].counts + case.listing().must_be_in(np.array([start]))[0]
            for piece in came[came < len(case.places)]:
                told[case.places[piece]] += 1
            assert told.tolist() == counts.tolist()


def many() -> Enumeration:
    """One root and four of five switches in any number, all for nothing: 70 sets."""
    pieces = Pieces([Start(np.array([1.0, 0, 0, 0, 0, 0]), 0, 0)], np.arange(1, 6), np.zeros(5, dtype=bool))
    none, row = np.zeros(1), np.zeros((1, 1))
    covers = Covers(none, none, none, row, row, np.zeros((1, 5)), np.zeros((1, 5)))
    return Enumeration(pieces, covers, np.zeros(6), np.array([1.0, 9, 9, 9, 9, 9]), 5)


def test_where_there_are_too_many_none_is_listed(monkeypatch):
    begun = sum(math.comb(5 + number - 1, number) for number in range(1, 5))
    found = many().up_to(0.0)
    assert (len(found.counts), found.looked_at, found.others) == (70, begun, math.inf)
    monkeypatch.setattr(listing, "CANDIDATES_MOST", begun)
    assert len(many().up_to(0.0).counts) == 70
    monkeypatch.setattr(listing, "CANDIDATES_MOST", begun - 1)
    assert many().up_to(0.0) is None


def test_no_more_sets_are_listed_at_once_than_can_be_looked_at(monkeypatch):
    whole = Case(3).listing().up_to(1e6)
    monkeypatch.setattr(listing, "SETS_MOST", len(whole.bounds))
    assert len(Case(3).listing().up_to(1e6).bounds) == len(whole.bounds)
    monkeypatch.setattr(listing, "SETS_MOST", len(whole.bounds) - 1)
    assert Case(3).listing().up_to(1e6) is None


def test_a_hub_has_no_more_links_in_slots_than_it_has_slots():
    """One box in two ways, in a slot for nothing and on a port for 5: with two slots the third is on a port."""
    for slots, least in product((0, 1, 2, 3), (10.0, 100.0)):
        pieces = Pieces([Start(np.array([1.0, 0]), 0, slots)], np.array([1, 1]), np.array([False, True]))
        covers = Covers(np.zeros(1), np.array([3.0]), np.full(1, np.inf), np.zeros((1, 1)), np.zeros((1, 1)),
                        np.array([[5.0, 0.0]]), np.ones((1, 2)))  # fmt: skip
        listed = Enumeration(pieces, covers, np.zeros(2), np.array([1.0, 9.0]), 4).up_to(least)
        cheapest = min((bound for bound in listed.bounds), default=None)
        assert cheapest == (5.0 * (3 - slots) if 5.0 * (3 - slots) <= least else None)
