"""How probable each pair of jack and position is, over all ways in which jacks may end on positions of their own.

A way gives every jack that is not dead a position, none twice.  Its weight is the product of what the readings of each
jack say of its place (or of being dead), divided by the number of ways in which so many jacks may end on the positions
(k of P: P!/(P − k)!), so that before any reading every way of the same jacks is as probable.

Up to ``EXACT_POSITIONS`` positions all ways are summed, by dynamic programming over sets of positions.  Beyond, a
Markov chain over ways is run (one jack goes to a free position or dies; two jacks swap), from a fixed seed, and the
error of what it tells is that of the means of its batches.

References
----------
.. [1] M. Jerrum, A. Sinclair, "Approximating the permanent", SIAM J. Comput. 18 (1989), 1149.
.. [2] C. J. Geyer, "Practical Markov chain Monte Carlo", Statist. Sci. 7 (1992), 473: means of batches.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import linear_sum_assignment

from ...compiled import compiled
from ...errors import InvalidInput

EXACT_POSITIONS = 12
BATCHES = 20
MOVES_OF_A_BATCH = 20_000
_NEVER = 1e9
"""Stands for the logarithm of nothing in the assignment that a chain begins with."""

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Posterior:
    """Probabilities after all readings."""

    pairs: Floats
    """Jacks by positions."""
    dead: Floats
    error: float
    """Twice the largest standard error of any of them; 0: they are exact."""


def posterior(live: Floats, dead: Floats) -> Posterior:
    """Probabilities of pairs.

    Parameters
    ----------
    live : (jacks, positions)
        How probable the readings of a jack are if it ends there, times that it is not dead.
    dead : (jacks,)
        The same if it is dead.

    Raises
    ------
    InvalidInput
        If no way fits all readings.

    """
    jacks, positions = live.shape
    if jacks == 0:
        return Posterior(live.copy(), dead.copy(), 0.0)
    start = _likely_way(live, dead)
    if positions <= EXACT_POSITIONS:
        return _summed(live, dead)
    weights = np.column_stack([live, dead])
    weights /= weights.sum(axis=1, keepdims=True)
    counts = np.zeros((BATCHES, jacks, positions + 1))
    _walk(weights, weights.cumsum(axis=1), start, MOVES_OF_A_BATCH, counts)
    means = counts / counts.sum(axis=2, keepdims=True)
    spread = means.std(axis=0, ddof=1) / np.sqrt(BATCHES)
    mean = means.mean(axis=0)
    return Posterior(mean[:, :-1], mean[:, -1], float(2 * spread.max()))


def _likely_way(live: Floats, dead: Floats) -> NDArray[np.int64]:
    """The most probable way but for the number of dead ones: a position of each jack, the count of positions: dead."""
    jacks, positions = live.shape
    with np.errstate(divide="ignore"):
        cost = np.full((jacks, positions + jacks), _NEVER)
        cost[:, :positions] = -np.log(live)
        cost[np.arange(jacks), positions + np.arange(jacks)] = -np.log(dead)
    cost = np.minimum(cost, _NEVER)
    rows, columns = linear_sum_assignment(cost)
    if cost[rows, columns].max() >= _NEVER:
        raise InvalidInput(
            "The readings contradict each other: no way of ending on positions fits all of them.", "readings"
        )
    return np.asarray(np.minimum(columns, positions), dtype=np.int64)


def _summed(live: Floats, dead: Floats) -> Posterior:
    """The same by summing all ways: before and after each jack, over the sets of positions that are taken."""
    jacks, positions = live.shape
    sets = 1 << positions
    taken = np.arange(sets)
    without = [taken[(taken >> place) & 1 == 0] for place in range(positions)]
    before = np.zeros((jacks + 1, sets))
    before[0, 0] = 1.0
    for jack in range(jacks):
        before[jack + 1] = before[jack] * dead[jack]
        for place in range(positions):
            free = without[place]
            before[jack + 1, free | (1 << place)] += before[jack, free] * live[jack, place]
        # what is common to all ways does not matter: it is kept from running out of range
        before[jack + 1] /= before[jack + 1].max()
    many = np.array([int(one).bit_count() for one in taken])
    ways = np.cumprod(np.concatenate([[1.0], positions - np.arange(positions, dtype=float)]))
    after = 1.0 / ways[many]
    pairs, gone = np.zeros_like(live), np.zeros_like(dead)
    for jack in reversed(range(jacks)):
        gone[jack] = float(before[jack] @ after) * dead[jack]
        here = after * dead[jack]
        for place in range(positions):
            free = without[place]
            there = after[free | (1 << place)] * live[jack, place]
            pairs[jack, place] = float(before[jack, free] @ there)
            here[free] += there
        after = here / here.max()
        whole = gone[jack] + pairs[jack].sum()
        pairs[jack] /= whole
        gone[jack] /= whole
    return Posterior(pairs, gone, 0.0)


@compiled
def _walk(  # noqa: C901
    weights: Floats, sums: Floats, start: NDArray[np.int64], moves: int, counts: Floats
) -> None:
    """Run the chain and count where each jack is, batch by batch, after a batch that is not counted.

    A jack is drawn, and a place for it by its own weights; who sits there takes its place.  So a move to a free
    position needs no second draw, but for how many jacks are dead.
    """
    np.random.seed(1)
    jacks, places = weights.shape
    positions = places - 1
    at = start.copy()
    owner = np.full(positions, -1)
    alive = 0
    for jack in range(jacks):
        if at[jack] < positions:
            owner[at[jack]] = jack
            alive += 1
    since = np.zeros(jacks, dtype=np.int64)
    for batch in range(-1, counts.shape[0]):
        for move in range(moves):
            jack = np.random.randint(jacks)
            here = at[jack]
            there = np.searchsorted(sums[jack], np.random.random() * sums[jack, positions], side="right")
            if there == here:
                continue
            ratio = 1.0
            other = owner[there] if there < positions else -1
            if other >= 0 and here == positions:
                ratio = weights[other, here] / weights[jack, here]
            elif other >= 0:
                new, old = weights[jack, there] * weights[other, here], weights[jack, here] * weights[other, there]
                back = weights[jack, here] + weights[other, there]
                ratio = new / old * back / (weights[jack, there] + weights[other, here])
            elif there == positions:
                ratio = positions - alive + 1.0
            elif here == positions:
                ratio = 1.0 / (positions - alive)
            if ratio < 1.0 and np.random.random() >= ratio:
                continue
            if batch >= 0:
                counts[batch, jack, here] += move - since[jack]
                if other >= 0:
                    counts[batch, other, there] += move - since[other]
            since[jack] = move
            at[jack] = there
            if here < positions:
                owner[here] = other
            elif other < 0:
                alive += 1
            if there < positions:
                owner[there] = jack
            else:
                alive -= 1
            if other >= 0:
                since[other] = move
                at[other] = here
        for jack in range(jacks):
            if batch >= 0:
                counts[batch, jack, at[jack]] += moves - since[jack]
            since[jack] = 0
