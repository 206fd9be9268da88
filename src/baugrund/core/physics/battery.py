"""How long a battery lasts.

References
----------
.. [1] Peukert (1897): t = H·(C/(I·H))^k, C in ampere-hours over H hours.
.. [2] VDE-AR-E 2510 and makers' sheets: the life of a lead battery halves per 10 K over 25 °C.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..standards.stack import AGED, PEUKERT, RATED_HOURS, UPS_WARM_C


@dataclass(frozen=True)
class Battery:
    """A battery behind an inverter."""

    volts: float
    ah: float
    """Over 20 hours, new."""
    efficiency: float = 0.85
    own_w: float = 0.0
    """What the UPS takes itself: it joins the load before the inverter."""

    def minutes(self, load_w: float, aged: bool = True, k: float = PEUKERT) -> float:
        """How long it feeds a constant load [min] [1]_; never longer than C/I; without any load for ever."""
        amperes = (load_w + self.own_w) / (self.volts * self.efficiency)
        if amperes <= 0:
            return math.inf
        capacity = self.ah * (AGED if aged else 1.0)
        hours: float = RATED_HOURS * (capacity / (amperes * RATED_HOURS)) ** k
        return 60 * min(hours, capacity / amperes)


def life_share(warmth_c: float) -> float:
    """Share of its life that a battery has at a warmth: half for every 10 K over 25 °C [2]_."""
    share: float = 0.5 ** (max(0.0, warmth_c - UPS_WARM_C) / 10)
    return share
