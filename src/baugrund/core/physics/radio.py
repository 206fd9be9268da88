"""What is left of a radio signal on its way, and how fast it carries then.

Losses in dB, levels in dBm, distances in metres, frequencies in MHz.

References
----------
.. [1] Recommendation ITU-R P.525: free space loss.
.. [2] COST 231 final report, 4.7: several floors, L = Lf · n^((n + 2)/(n + 1) − 0.46).
.. [3] IEEE Std 802.11-2020 and 802.11ax-2021: rate = tones · bits · code · streams / symbol.
"""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from ..standards.radio import (
    DOUBLING_DB,
    GENERATIONS,
    MODULATIONS,
    STEPS,
    USEFUL,
    Band,
    Generation,
    Modulation,
    Step,
    Width,
)

Floats = NDArray[np.float64]
BEACON_BYTES = 300
"""Length of a beacon with its header, *default*."""
LEAST_M = 1.0
"""Nearer than this counts as this [m]: closer to an antenna the formula does not hold."""


def free_space_db(distance_m: Floats | float, mhz: float) -> Floats:
    """Free space loss 20·log₁₀(d) + 20·log₁₀(f) − 27.55 [1]_, d from 1 m on."""
    away = np.maximum(np.asarray(distance_m, dtype=np.float64), LEAST_M)
    return 20 * np.log10(away) + (20 * math.log10(mhz) - 27.55)


def floors_db(mean_db: Floats | float, count: Floats | float) -> Floats:
    """Loss of several floors of a mean Lf [2]_; none takes nothing."""
    n = np.asarray(count, dtype=np.float64)
    return np.where(n > 0, mean_db * np.maximum(n, 1) ** ((n + 2) / (n + 1) - 0.46), 0.0)


Pattern = tuple[tuple[float, float], ...]
"""Angles [deg] with the dB under the peak there, by angle; straight lines between."""


def under_peak_db(pattern: Pattern, angle_deg: Floats) -> Floats:
    """What a pattern takes off at angles; beyond its ends as at them."""
    if not pattern:
        return np.zeros_like(angle_deg)
    angles, drops = zip(*pattern, strict=True)
    return np.asarray(np.interp(angle_deg, angles, drops), dtype=np.float64)


def modulation_of(generation: Generation, band: Band) -> Modulation:
    """How a generation fills a channel of a band: 802.11ac is 802.11n at 2.4 GHz."""
    return MODULATIONS["802.11n" if generation == "802.11ac" and band == "2.4" else generation]


def older(one: Generation, other: Generation) -> Generation:
    """The generation that two speak with one another."""
    return min(one, other, key=GENERATIONS.index)


def steps_of(generation: Generation, band: Band) -> tuple[Step, ...]:
    """The steps that a generation knows in a band."""
    return STEPS[: modulation_of(generation, band).last + 1]


def least_dbm(step: Step, width: Width) -> float:
    """The least level of a step at a width: 3 dB more for each doubling."""
    return step.least_dbm + DOUBLING_DB * math.log2(width / 20)


def rate_mbit(generation: Generation, band: Band, width: Width, streams: int, step: Step) -> float:
    """Rate of a step [Mbit/s] [3]_."""
    how = modulation_of(generation, band)
    return how.tones[width] * step.bits * streams / how.symbol_us


def rates_mbit(levels_dbm: Floats, generation: Generation, band: Band, width: Width, streams: int) -> Floats:
    """The fastest rate at each level [Mbit/s]; 0: under the first step, nothing associates."""
    width = min(width, modulation_of(generation, band).widest)
    steps = steps_of(generation, band)
    limits = [least_dbm(step, width) for step in steps]
    rates = np.array([0.0, *(rate_mbit(generation, band, width, streams, step) for step in steps)])
    return np.asarray(rates[np.searchsorted(limits, levels_dbm, side="right")], dtype=np.float64)


def beacon_share(rate_mbit: float, is_dsss: bool) -> float:
    """Share of the air that the beacons of one name take at a rate: every 102.4 ms one of `BEACON_BYTES` after its
    preamble, 192 µs long or 20 µs in OFDM [3]_."""
    preamble_us = 192.0 if is_dsss else 20.0
    return (preamble_us + 8 * BEACON_BYTES / rate_mbit) / 102_400


def throughput_mbit(rate: Floats | float) -> Floats:
    """What is left of a rate for data."""
    return np.asarray(rate, dtype=np.float64) * USEFUL
