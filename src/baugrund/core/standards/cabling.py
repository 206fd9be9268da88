"""Copper cabling: resistance, length and speed limits.

References
----------
.. [1] ANSI/TIA-568.2, permanent link and channel lengths, DC resistance of horizontal cable and cords.
.. [2] IEC 60028, temperature coefficient of the resistance of annealed copper.
.. [3] TSB-155 (10 Gbit/s over category 6) and TSB-5021 (2.5 and 5 Gbit/s over installed cable).
.. [4] ISO/IEC 11801-1, length of links at higher temperature.
.. [5] ANSI/TIA-568.0, bend radius, pull and fill of pathways; the fill shares are *defaults* of practice.
"""

from __future__ import annotations

import math
from typing import Literal

FIXED_OHM_PER_M = 0.0938
"""Most DC resistance of one conductor of category 5e, 6, 6A horizontal cable at 20 °C [ohm/m] [1]_."""
CORD_OHM_PER_M = 0.14
"""Most DC resistance of one conductor of a cord [ohm/m] [1]_."""
THIN_CORD_OHM_PER_M = 0.2129
"""DC resistance of one conductor of a thin cord, 28 AWG (0.321 mm, ASTM B258), at 20 °C [ohm/m] [2]_."""
CONTACT_OHM = 0.2
"""Resistance of one mated contact [ohm], *default*."""
COPPER_PER_K = 0.00393
"""Relative change of copper's resistance per kelvin from 20 °C [1/K] [2]_."""

FIXED_LINK_MAX_M = 90.0
"""Longest fixed link [m] [1]_."""
FIRST_HEAT_PER_K, FURTHER_HEAT_PER_K, SCREENED_HEAT_PER_K = 0.004, 0.006, 0.002
"""What each kelvin takes of the length: over 20 and over 40 °C unscreened, over 20 °C screened [4]_."""
CORDS_DEFAULT_M = 4.0
CONTACTS_DEFAULT = 4

Category = Literal["5", "5e", "6", "6A"]
CATEGORIES: tuple[Category, ...] = ("5", "5e", "6", "6A")

FASTEST_MBIT: dict[Category, tuple[tuple[float, int], ...]] = {
    "5": ((100.0, 100),),
    "5e": ((50.0, 5_000), (100.0, 2_500)),
    "6": ((55.0, 10_000), (100.0, 5_000)),
    "6A": ((100.0, 10_000),),
}
"""For each category: (channel up to this length [m], carries this many Mbit/s) [3]_."""


def fastest_mbit(category: Category, channel_m: float) -> int:
    """Highest Ethernet speed [Mbit/s] that ``category`` carries over ``channel_m`` [m] [3]_; 0 over 100 m."""
    for up_to_m, speed_mbit in FASTEST_MBIT[category]:
        if channel_m <= up_to_m:
            return speed_mbit
    return 0


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
BEND_TIMES = 4
"""Least bend radius, in diameters of the cable [5]_."""
PULL_MAX_N = 110.0
"""Strongest pull on one cable [N] [5]_."""
BUNDLE_WIDTH = 1.2


def conduit_holds(inner_mm: float, cable_mm: float) -> int:
    """How many equal cables a conduit of an inner diameter takes [5]_."""
    ratio = (inner_mm / cable_mm) ** 2
    many = math.floor(FILL[2] * ratio + 1e-9)
    if many > 2:
        return many
    if FILL[1] * ratio >= 2.0:
        return 2
    return int(FILL[0] * ratio >= 1.0)


def bundle_mm(cables: int, cable_mm: float) -> float:
    """Diameter of a round bundle of equal cables [mm]."""
    return BUNDLE_WIDTH * cable_mm * math.sqrt(cables)
