"""Disks of recorders: what a volume of equal disks holds, and how much of it is filled.

References
----------
.. [1] SNIA, Common RAID Disk Data Format: levels 1, 5, 6 and 10 over equal disks.
"""

from __future__ import annotations

from typing import Literal, get_args

Raid = Literal["none", "1", "5", "6", "10"]
LEVELS: tuple[Raid, ...] = get_args(Raid)

FILLED_SHARE = 0.9
"""So much of a volume is filled, *default*."""
TB_BYTES = 10**12
SECONDS_A_DAY = 86_400
DAY_HOURS = 12
"""Hours of a day that count as day; the others are night, *default*."""
DAYS_DEFAULT = 30.0
"""Days that recordings are kept where nobody has said, *default*."""


def fits_level(raid: Raid, disks: int) -> bool:
    """Whether a level takes so many disks: 1 exactly two, 5 from three, 6 from four, 10 even from four, none one."""
    return {
        "none": disks == 1, "1": disks == 2, "5": disks >= 3, "6": disks >= 4, "10": disks >= 4 and disks % 2 == 0,
    }[raid]  # fmt: skip


def usable_tb(raid: Raid, disks: int, disk_tb: float) -> float:
    """What a volume of equal disks holds [TB] [1]_; 0 where the level does not take so many."""
    if not fits_level(raid, disks):
        return 0.0
    return disk_tb * {"none": 1, "1": 1, "5": disks - 1, "6": disks - 2, "10": disks / 2}[raid]


def outlives_a_disk(raid: Raid) -> bool:
    """Whether a volume outlives the loss of one of its disks."""
    return raid != "none"


def stored_tb(mbit: float, duty: float, days: float) -> float:
    """What a stream comes to [TB]: Mbit/s × duty × 86 400 × days / 8 / 10⁶."""
    return mbit * duty * SECONDS_A_DAY * days / 8 / 1e6
