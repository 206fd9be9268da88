"""Optical fibre: how far, how fast, and how much light may be lost.

References
----------
.. [1] IEEE Std 802.3, clause 38 (1000BASE-SX), 59 (1000BASE-LX10), 52 (10GBASE-SR and -LR): reach and channel loss.
.. [2] ANSI/TIA-568.3 and ISO/IEC 11801-1, loss of cable, mated pairs and splices.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

FibreGrade = Literal["OM3", "OM4", "OS2"]

MATED_PAIR_DB = 0.75
"""Loss of a mated pair of connectors [2]_."""
SPLICE_DB = 0.3
MULTIMODE_DB_PER_KM, SINGLEMODE_DB_PER_KM, SINGLEMODE_INDOOR_DB_PER_KM = 3.0, 0.5, 1.0
"""Loss of cable [dB/km]: OM at 850 nm, OS2 at 1310 nm outside and inside [2]_."""
MATED_PAIRS_DEFAULT = 2
"""A panel at each end, *default*."""


@dataclass(frozen=True)
class Application:
    """A way to light a fibre: its name, speed [Mbit/s], grade, reach [m], and the loss allowed [dB] [1]_."""

    name: str
    speed_mbit: int
    grade: FibreGrade
    reach_m: float
    allowed_db: float


APPLICATIONS = (
    Application("1000BASE-SX", 1_000, "OM3", 550.0, 3.56),
    Application("1000BASE-SX", 1_000, "OM4", 550.0, 3.56),
    Application("1000BASE-LX10", 1_000, "OS2", 10_000.0, 6.0),
    Application("10GBASE-SR", 10_000, "OM3", 300.0, 2.6),
    Application("10GBASE-SR", 10_000, "OM4", 400.0, 2.9),
    Application("10GBASE-LR", 10_000, "OS2", 10_000.0, 6.2),
)


def standard_reach_m(speed_mbit: int, grade: FibreGrade) -> float | None:
    """How far a speed reaches over a grade [m] [1]_; None: no application lights it so."""
    return next((one.reach_m for one in APPLICATIONS if (one.speed_mbit, one.grade) == (speed_mbit, grade)), None)


def is_singlemode(grade: FibreGrade) -> bool:
    return grade == "OS2"


def loss_db(
    length_m: float, grade: FibreGrade, mated_pairs: int = MATED_PAIRS_DEFAULT, splices: int = 0, *, indoor: bool = True
) -> float:
    """Loss of a fibre link [dB]: ``α·L + 0.75·mated pairs + 0.3·splices`` [2]_."""
    if is_singlemode(grade):
        per_km = SINGLEMODE_INDOOR_DB_PER_KM if indoor else SINGLEMODE_DB_PER_KM
    else:
        per_km = MULTIMODE_DB_PER_KM
    return per_km * length_m / 1000 + MATED_PAIR_DB * mated_pairs + SPLICE_DB * splices
