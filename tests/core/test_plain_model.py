"""The pick equals the plain mixed-integer model, on both of its solvers, wherever that proves."""

from dataclasses import replace

import pytest

from baugrund.core.pick.best import least_price
from baugrund.launch.plain_model import plain_least_price

from .small import alone
from .test_pick import random_problem


def plain_case(seed):
    """A small star without drops that ask for large frames or pins."""
    asked = random_problem(seed + 5_000)
    needs = {}
    for need, count in asked.needs:
        bare = replace(need, large_frames=False)
        needs[bare] = needs.get(bare, 0) + count
    return replace(asked, needs=tuple(sorted(needs.items(), reverse=True)), chain_allowed=False, pins={})


@pytest.mark.parametrize("backend", ["SAT", "HIGHS"])
def test_the_least_price_is_that_of_the_plain_model(backend):
    proven = solvable = 0
    for seed in range(40):
        asked = plain_case(seed)
        plain = plain_least_price(asked, backend, 10.0, 3)
        if not plain.proven:
            continue
        proven += 1
        found = least_price(alone(asked))
        assert (found.price_minor if found else None) == plain.price_minor, seed
        solvable += found is not None
    assert proven >= 36
    assert solvable >= 15
