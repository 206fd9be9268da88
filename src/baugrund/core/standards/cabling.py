"""Copper cabling: resistance, length and speed limits.

References
----------
.. [1] ANSI/TIA-568.2, permanent link and channel lengths, DC resistance of horizontal cable and cords.
.. [2] IEC 60028, temperature coefficient of the resistance of annealed copper.
.. [3] TSB-155 (10 Gbit/s over category 6) and TSB-5021 (2.5 and 5 Gbit/s over installed cable).
.. [4] ISO/IEC 11801-1, length of links at higher temperature.
.. [5] ANSI/TIA-568.0, bend radius, pull and fill of pathways; the fill shares are *defaults* of practice.
.. [6] ASTM B286, stranded copper conductors: 28 AWG of seven strands.
.. [7] ASTM B566, copper-clad aluminium wire of 10 % copper by volume, against ASTM B3.
.. [8] ANSI/TIA-568.2, connecting hardware: DC resistance.
.. [9] TIA TSB-155: 10 Gbit/s over category 6 in bundles without mitigation.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Literal

FIXED_OHM_PER_M = 0.0938
"""Most DC resistance of one conductor of category 5e, 6, 6A horizontal cable at 20 °C [ohm/m] [1]_."""
CORD_OHM_PER_M = 0.14
"""Most DC resistance of one conductor of a cord [ohm/m] [1]_."""
THIN_CORD_OHM_PER_M = 0.222
"""DC resistance of one stranded conductor of a thin cord, 28 AWG, at 20 °C [ohm/m] [6]_."""
CLAD_TIMES = 1.6
"""Resistance of a conductor of copper-clad aluminium over that of a copper one of the same gauge [7]_."""
CONTACT_OHM = 0.2
"""Most resistance of one mated contact [ohm] [8]_."""
COPPER_PER_K = 0.00393
"""Relative change of copper's resistance per kelvin from 20 °C [1/K] [2]_."""

FIXED_LINK_MAX_M = 90.0
"""Longest fixed link [m] [1]_."""
FIRST_HEAT_PER_K, FURTHER_HEAT_PER_K, SCREENED_HEAT_PER_K = 0.004, 0.006, 0.002
"""What each kelvin takes of the length: over 20 and over 40 °C unscreened, over 20 °C screened [4]_."""
CORDS_DEFAULT_M = 4.0
"""Cords of a channel together [m], *default*."""
CONTACTS_DEFAULT = 4
"""Mated contacts of one loop of a channel, *default*."""

Cords = Literal["usual", "awg26", "thin"]
"""Cords by gauge: 24, 26 and 28 AWG."""
CORD_LOSS: dict[Cords, float] = {"usual": 0.2, "awg26": 0.5, "thin": 0.95}
"""How much more a metre of cord loses than a metre of fixed cable, by gauge, as a share [1]_."""
CORDS_MAX_M = 10.0
"""Longest cords of a channel together, however short its fixed part [m] [1]_."""


def longest_cords_m(fixed_m: float, cords: Cords) -> float:
    """Longest cords of a channel together [m]: ``C = (102 − H)/(1 + D)`` [1]_, and never more than 10 m.

    ``fixed_m`` is the fixed part H [m]; D by the gauge of the ``cords``.
    """
    return min(CORDS_MAX_M, (102.0 - fixed_m) / (1.0 + CORD_LOSS[cords]))


Category = Literal["5", "5e", "6", "6A"]
CATEGORIES: tuple[Category, ...] = ("5", "5e", "6", "6A")

FASTEST_MBIT: dict[Category, tuple[tuple[float, int], ...]] = {
    "5": ((100.0, 1_000),),
    "5e": ((100.0, 5_000),),
    "6": ((55.0, 10_000), (100.0, 5_000)),
    "6A": ((100.0, 10_000),),
}
"""For each category: (channel up to this length [m], carries this many Mbit/s at best) [3]_."""
SURE_MBIT: dict[Category, tuple[tuple[float, int], ...]] = {
    "5": ((100.0, 100),),
    "5e": ((50.0, 5_000), (100.0, 2_500)),
    "6": FASTEST_MBIT["6"],
    "6A": FASTEST_MBIT["6A"],
}
"""The same, but what is carried without a warning: category 5 is measured before it serves for more than 100 Mbit/s,
category 5e over 50 m before it serves for 5 Gbit/s [3]_."""
DENSE_CABLES = 7
"""From so many cables of 10 Gbit/s in one bundle on it is dense: six around one, *default*."""
DENSE_MAX_M = 37.0
"""Longest channel of category 6 that carries 10 Gbit/s in a dense bundle [m] [9]_."""


def fastest_mbit(category: Category, channel_m: float, *, dense: bool = False) -> int:
    """Highest Ethernet speed [Mbit/s] that ``category`` carries at best over ``channel_m`` [m] [3]_; 0 over 100 m.

    ``dense``: it lies in a dense bundle with others of 10 Gbit/s [9]_.
    """
    return _carried(FASTEST_MBIT, category, channel_m, dense)


def sure_mbit(category: Category, channel_m: float, *, dense: bool = False) -> int:
    """Highest Ethernet speed [Mbit/s] that ``category`` carries over ``channel_m`` [m] without a warning [3]_."""
    return _carried(SURE_MBIT, category, channel_m, dense)


def _carried(
    table: dict[Category, tuple[tuple[float, int], ...]], category: Category, channel_m: float, dense: bool
) -> int:
    fastest = next((speed_mbit for up_to_m, speed_mbit in table[category] if channel_m <= up_to_m + 1e-9), 0)
    if dense and category == "6" and channel_m > DENSE_MAX_M + 1e-9:
        return min(fastest, 5_000)
    return fastest


def longest_link_m(temperature_c: float, *, screened: bool = False) -> float:
    """Longest fixed link at a temperature [m]: 90 m at 20 °C and below, less where it is warmer [4]_."""
    over_20 = max(0.0, temperature_c - 20.0)
    if screened:
        return FIXED_LINK_MAX_M * (1.0 - SCREENED_HEAT_PER_K * over_20)
    first, further = min(over_20, 20.0), max(0.0, over_20 - 20.0)
    return FIXED_LINK_MAX_M * (1.0 - FIRST_HEAT_PER_K * first - FURTHER_HEAT_PER_K * further)


FILL = (0.53, 0.31, 0.40)
"""Share of a conduit's section that one, two, or more cables may take [5]_, *default*."""
TRAY_FILL = 0.40
MOST_BENDS = 2
"""Right-angled bends between two pull points [5]_."""
PULL_MAX_M = 30.0
"""Longest way between two pull points [m] [5]_."""
BEND_TIMES = 4
"""Least bend radius, in diameters of the cable [5]_."""
PULL_MAX_N = 110.0
"""Strongest pull on one cable [N] [5]_."""
BUNDLE_WIDTH = 1.2
"""Diameter of a bundle over ``d·√N``, of N cables of diameter d, *default*."""


def conduit_holds(inner_mm: float, cable_mm: float) -> int:
    """How many equal cables a conduit of an inner diameter takes [5]_."""
    ratio = (inner_mm / cable_mm) ** 2
    many = math.floor(FILL[2] * ratio + 1e-9)
    if many > 2:
        return many
    if FILL[1] * ratio >= 2.0:
        return 2
    return int(FILL[0] * ratio >= 1.0)


def bundle_mm(diameters_mm: Sequence[float]) -> float:
    """Diameter of a round bundle of cables [mm]: ``1.2·√Σd²``, which for N equal ones is ``1.2·d·√N``."""
    return BUNDLE_WIDTH * math.sqrt(sum(diameter**2 for diameter in diameters_mm))


def fill_share(cables: int) -> float:
    """Share of a conduit's section that so many cables may take [5]_."""
    return FILL[min(max(cables, 1), 3) - 1]
