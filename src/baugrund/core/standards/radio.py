"""Wi-Fi as data: bands, channels by region, what materials and floors take, rates by received level.

Losses in dB, levels in dBm, frequencies and widths in MHz.  Regional lists are as of `LISTS_AS_OF`; local rules come
first.

References
----------
.. [1] IEEE Std 802.11-2020, 15, 19, 21 and IEEE Std 802.11ax-2021, 27: channels, rates, tones.
.. [2] ETSI EN 300 328, EN 301 893, EN 303 687; 47 CFR 15.247 and 15.407: bands, limits of EIRP, radar channels.
.. [3] COST 231 final report, 4.7: losses of walls and floors, of the order of what it gives; *defaults*, which readings
   on site correct.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

from .walls import Material

Band = Literal["2.4", "5", "6"]
BANDS: tuple[Band, ...] = get_args(Band)
"""In GHz, from the lowest."""
Generation = Literal["802.11n", "802.11ac", "802.11ax", "802.11be"]
GENERATIONS: tuple[Generation, ...] = get_args(Generation)
"""From the oldest."""
Width = Literal[20, 40, 80, 160]
WIDTHS: tuple[Width, ...] = get_args(Width)
Region = Literal["etsi", "fcc"]
FloorMake = Literal["timber", "hollow_block", "concrete"]
FLOOR_MAKES: tuple[FloorMake, ...] = get_args(FloorMake)
LISTS_AS_OF = "2026-11-01"

ByBand = tuple[float, float, float]
"""At 2.4, 5 and 6 GHz."""

BEFORE_A_CHANNEL_MHZ: dict[Band, float] = {"2.4": 2437.0, "5": 5500.0, "6": 6000.0}
"""Frequency of a prediction as long as no channel is set, *default*."""

WALL_LOSS_DB: dict[Material, ByBand] = {
    "plasterboard": (3, 4, 5),
    "timber": (3, 4, 5),
    "glass": (2, 3, 4),
    "coated_glass": (15, 20, 23),
    "brick": (6, 8, 9),
    "block": (8, 14, 16),
    "concrete": (13, 22, 26),
    "metal": (25, 30, 30),
}
"""What a wall or what fills an opening takes off, *default* [3]_."""

FLOOR_LOSS_DB: dict[FloorMake, ByBand] = {
    "timber": (6, 8, 9),
    "hollow_block": (10, 14, 16),
    "concrete": (18, 24, 28),
}
"""Lf of one floor by what it is made of, *default* [3]_."""

CLIENT_EIRP_DBM = 14.0
"""What a client sends, *default*."""
CLIENT_HEIGHT_M = 1.0
"""Height of a client above its floor, *default* [m]."""
HEARD_DBM = -82.0
"""What an access point must receive to use it; two on one channel that hear each other so share their airtime."""
USEFUL = 0.55
"""Share of a rate that is left for data, *default*."""
AIRTIME_MOST = 0.7
"""Share of its airtime that an access point is planned for, *default*."""


@dataclass(frozen=True)
class Step:
    """A modulation and coding scheme: the least level at 20 MHz [dBm], and bits × code on a tone and symbol."""

    index: int
    least_dbm: float
    bits: float


STEPS = tuple(
    Step(index, least, bits)
    for index, (least, bits) in enumerate(
        (
            (-82, 0.5), (-79, 1.0), (-77, 1.5), (-74, 2.0), (-70, 3.0), (-66, 4.0), (-65, 4.5), (-64, 5.0),
            (-59, 6.0), (-57, 20 / 3), (-54, 7.5), (-52, 25 / 3),
        )
    )
)  # fmt: skip
"""MCS 0 to 11 of 802.11ax; older generations end earlier, and 802.11be counts no further [1]_."""
DOUBLING_DB = 3.0
"""What each doubling of the width asks for on top."""


@dataclass(frozen=True)
class Modulation:
    """How a generation fills a channel: tones by width, length of a symbol [µs], the last step."""

    tones: dict[Width, int]
    symbol_us: float
    last: int

    @property
    def widest(self) -> Width:
        return max(self.tones)


OF_HE = Modulation({20: 234, 40: 468, 80: 980, 160: 1960}, 13.6, 11)
MODULATIONS: dict[Generation, Modulation] = {
    "802.11n": Modulation({20: 52, 40: 108}, 3.6, 7),
    "802.11ac": Modulation({20: 52, 40: 108, 80: 234, 160: 468}, 3.6, 9),
    "802.11ax": OF_HE,
    "802.11be": OF_HE,
}
"""Data tones and symbols with the short guard [1]_."""
BANDS_OF: dict[Generation, tuple[Band, ...]] = {
    "802.11n": ("2.4", "5"),
    "802.11ac": ("5",),
    "802.11ax": ("2.4", "5", "6"),
    "802.11be": ("2.4", "5", "6"),
}
"""Bands that a generation works in; 802.11ac is 802.11n at 2.4 GHz."""


@dataclass(frozen=True)
class Block:
    """A channel as wide as it is used: its 20 MHz channels, and what holds for them."""

    band: Band
    width: Width
    channels: tuple[int, ...]
    radar: bool
    """Radar comes first there: an access point listens before it sends, and leaves when it hears one."""
    indoor: bool
    """For inside only."""
    eirp_dbm: float
    """Most that may be sent [dBm EIRP]."""

    @property
    def first(self) -> int:
        """The channel that names it: its first one of 20 MHz."""
        return self.channels[0]

    @property
    def low_mhz(self) -> float:
        return channel_mhz(self.band, self.channels[0]) - 10

    @property
    def high_mhz(self) -> float:
        return channel_mhz(self.band, self.channels[-1]) + 10

    def overlaps(self, other: Block) -> bool:
        """Whether any MHz is of both."""
        return self.band == other.band and self.low_mhz < other.high_mhz and other.low_mhz < self.high_mhz


@dataclass(frozen=True)
class Range:
    """A run of 20 MHz channels of a band with what holds there."""

    channels: tuple[int, ...]
    eirp_dbm: float
    radar: bool = False
    indoor: bool = False
    widest: Width = 160


def _every_fourth(first: int, last: int) -> tuple[int, ...]:
    return tuple(range(first, last + 1, 4))


RANGES: dict[Region, dict[Band, tuple[Range, ...]]] = {
    "etsi": {
        "2.4": (Range(tuple(range(1, 14)), 20.0, widest=40),),
        "5": (
            Range(_every_fourth(36, 48), 23.0, indoor=True),
            Range(_every_fourth(52, 64), 23.0, radar=True, indoor=True),
            Range(_every_fourth(100, 140), 30.0, radar=True),
        ),
        "6": (Range(_every_fourth(1, 93), 23.0, indoor=True),),
    },
    "fcc": {
        "2.4": (Range(tuple(range(1, 12)), 36.0, widest=40),),
        "5": (
            Range(_every_fourth(36, 48), 36.0),
            Range(_every_fourth(52, 64), 30.0, radar=True),
            Range(_every_fourth(100, 144), 30.0, radar=True),
            Range(_every_fourth(149, 165), 36.0),
        ),
        "6": (Range(_every_fourth(1, 233), 30.0, indoor=True),),
    },
}
"""20 MHz channels by region with their limits, as of `LISTS_AS_OF` [2]_."""

_FIRST_OF_BLOCKS: dict[Band, dict[Width, tuple[int, ...]]] = {
    "5": {
        40: (36, 44, 52, 60, 100, 108, 116, 124, 132, 140, 149, 157),
        80: (36, 52, 100, 116, 132, 149),
        160: (36, 100),
    },
    "6": {
        40: tuple(range(1, 230, 8)),
        80: tuple(range(1, 222, 16)),
        160: tuple(range(1, 206, 32)),
    },
}
"""Where wider channels begin [1]_."""


def channel_mhz(band: Band, channel: int) -> float:
    """Centre of a 20 MHz channel [MHz]: 2407 + 5n (14 is no channel here), 5000 + 5n, 5950 + 5n."""
    return {"2.4": 2407.0, "5": 5000.0, "6": 5950.0}[band] + 5 * channel


def blocks(region: Region, band: Band, width: Width) -> tuple[Block, ...]:
    """Every channel of a width that a region allows, by its first 20 MHz channel.

    At 2.4 GHz 40 MHz are a channel and the fourth above it.
    """
    of = {channel: part for part in RANGES[region][band] for channel in part.channels}
    step = {"2.4": 1, "5": 4, "6": 4}[band]
    if width == 20:
        firsts = tuple(of)
    elif band == "2.4":
        firsts = tuple(of) if width == 40 else ()
        step = 4
    else:
        firsts = _FIRST_OF_BLOCKS[band][width]
    found = []
    for first in firsts:
        channels = tuple(first + step * n for n in range(width // 20))
        parts = [of[channel] for channel in channels if channel in of]
        if len(parts) == len(channels):
            found.append(
                Block(
                    band, width, channels, any(part.radar for part in parts), any(part.indoor for part in parts),
                    min(part.eirp_dbm for part in parts),
                )
            )  # fmt: skip
    return tuple(found)


def block_of(region: Region, band: Band, channel: int, width: Width) -> Block | None:
    """The channel of a width that a 20 MHz channel is in; None: the region has none."""
    within = [block for block in blocks(region, band, width) if channel in block.channels]
    if band == "2.4":
        within = [block for block in within if block.first == channel]
    return within[0] if within else None


LOWEST_MBIT: dict[Band, float] = {"2.4": 1.0, "5": 6.0, "6": 6.0}
"""The lowest rate of a band, at which beacons are sent where it stays switched on (IEEE Std 802.11-2020, 15 and 17)."""
LOW_RATES_OFF_MBIT = 12.0
"""The lowest rate where those under it are switched off, *default*."""
