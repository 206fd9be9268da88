"""Sets that a bound leaves open are listed as trying every one finds them."""

import random
from collections import Counter
from itertools import combinations_with_replacement

import numpy as np
import pytest

from baugrund.core.pick import listing
from baugrund.core.pick.listing import listed


def every_set(weights, room, least, most, first_switch, boxes):
    """By trying all: just one root, then switches in any number."""
    found = set()
    for root in range(first_switch):
        for rest in combinations_with_replacement(range(first_switch, len(weights)), boxes - 1):
            counts = Counter((root, *rest))
            inside = all(least[place] <= counts[place] <= most[place] for place in range(len(weights)))
            if inside and sum(weights[place] * count for place, count in counts.items()) <= room:
                found.add(tuple(counts[place] for place in range(len(weights))))
    return found


@pytest.mark.parametrize("seed", range(60))
def test_all_sets_are_listed_once_and_no_others(seed):
    rng = random.Random(seed)
    roots, switches, boxes = rng.randint(1, 3), rng.randint(1, 5), rng.randint(1, 5)
    # whole weights, some under 0 as reduced costs with a ceiling can be: sums are exact
    weights = np.array([float(rng.randint(-3, 12)) for _ in range(roots + switches)])
    most = np.array([*[1.0] * roots, *(float(rng.choice([0, 1, 2, 9])) for _ in range(switches))])
    least = np.zeros(roots + switches)
    if rng.random() < 0.5:
        least[rng.randrange(roots)] = 1
    if rng.random() < 0.5:
        place = roots + rng.randrange(switches)
        least[place] = min(1.0, most[place])
    if least[:roots].any():
        most[:roots] = least[:roots]
    room = float(rng.randint(0, 40))
    counts = listed(weights, room, least, most, roots, boxes)
    rows = [tuple(int(count) for count in row) for row in counts]
    assert len(rows) == len(set(rows))
    assert set(rows) == every_set(weights, room, least, most, roots, boxes)


def test_where_there_are_too_many_none_is_listed(monkeypatch):
    weights, most = np.zeros(6), np.array([1.0, 5, 5, 5, 5, 5])
    # one root and four of five switches in any number: 70 sets
    assert len(listed(weights, 0.0, np.zeros(6), most, 1, 5)) == 70
    monkeypatch.setattr(listing, "SETS_MOST", 70)
    assert len(listed(weights, 0.0, np.zeros(6), most, 1, 5)) == 70
    monkeypatch.setattr(listing, "SETS_MOST", 69)
    assert listed(weights, 0.0, np.zeros(6), most, 1, 5) is None
