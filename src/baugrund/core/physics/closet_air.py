"""Warmth and sound of a closet.

References
----------
.. [1] IEC TR 60890: heat through the skin of an enclosure, 5.5 W/(m²·K).
.. [2] Air of 1.2 kg/m³ and 1005 J/(kg·K).
.. [3] ISO 3744: levels add as energies; 6 dB less for twice the distance in the open.
"""

from __future__ import annotations

import math
from collections.abc import Iterable

SKIN_W_M2_K = 5.5
AIR_J_M3_K = 1.2 * 1005
BTU_H_PER_W = 3.412


def rise_k(watts: float, area_m2: float, fans_m3_h: float = 0.0) -> float:
    """How much warmer the top of a closed box gets [K]: by its skin [1]_, and by half of its fans' free air [2]_."""
    carried = SKIN_W_M2_K * area_m2 + AIR_J_M3_K * fans_m3_h / 2 / 3600
    return watts / carried if carried > 0 else (math.inf if watts > 0 else 0.0)


def air_m3_h(watts: float, rise: float) -> float:
    """Air that carries so many watts at a rise [m³/h] [2]_."""
    return watts * 3600 / (AIR_J_M3_K * rise)


def together_dba(levels: Iterable[float]) -> float:
    """Levels of several things at once [dB(A)] [3]_; none is silence, −inf."""
    energy = sum(10 ** (level / 10) for level in levels)
    return 10 * math.log10(energy) if energy > 0 else -math.inf


def heard_dba(level: float, distance_m: float, through_db: float = 0.0) -> float:
    """A level at 1 m as it is heard further away [dB(A)]: under 1 m counts as 1 m."""
    return level - 20 * math.log10(max(distance_m, 1.0)) - through_db
