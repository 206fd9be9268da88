"""Copper cabling: resistance, length and speed limits.

References
----------
.. [1] ANSI/TIA-568.2, permanent link and channel lengths, DC resistance of horizontal cable and cords.
.. [2] IEC 60028, temperature coefficient of the resistance of annealed copper.
.. [3] TSB-155 (10 Gbit/s over category 6) and TSB-5021 (2.5 and 5 Gbit/s over installed cable).
"""

from __future__ import annotations

from typing import Literal

FIXED_OHM_PER_M = 0.0938
"""Most DC resistance of one conductor of category 5e, 6, 6A horizontal cable at 20 °C [ohm/m] [1]_."""
CORD_OHM_PER_M = 0.14
"""Most DC resistance of one conductor of a cord [ohm/m] [1]_."""
CONTACT_OHM = 0.2
"""Resistance of one mated contact [ohm], *default*."""
COPPER_PER_K = 0.00393
"""Relative change of copper's resistance per kelvin from 20 °C [1/K] [2]_."""

FIXED_LINK_MAX_M = 90.0
"""Longest fixed link [m] [1]_."""
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
