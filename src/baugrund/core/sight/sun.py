"""The sun in a view: on how many days of a year, and when, it stands low inside the frame.

A day counts if at any whole minute of it the sun's centre is between 0 and `LOW_SUN_DEG` up and inside the frame;
pieces and the horizon are not looked at.

References
----------
.. [1] The sun's path is that of ``astral``, refraction among it, asked every `STEP_MIN` minutes; between these a curve
   through four of them, which is true to a thousandth of a degree.
"""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta
from functools import lru_cache
from typing import NamedTuple
from zoneinfo import ZoneInfo

import numpy as np
from astral import Observer, refraction_at_zenith
from astral.sun import zenith_and_azimuth
from numpy.typing import NDArray

from ..facts.fact import Fact
from ..facts.project import Project
from ..physics.optics import Floats, Lens
from ..standards.detail import LOW_SUN_DEG

STEP_MIN = 20
DAY_MIN = 24 * 60


class SunMonth(Fact):
    """A month in which the sun stands in a view: on how many days, and between which times of the site's clock."""

    month: int
    days: int
    earliest: str
    latest: str


class SunLine(Fact):
    """The low sun in one view over a year."""

    year: int
    days: int
    months: tuple[SunMonth, ...]


class LowSun(NamedTuple):
    """The whole minutes of a year at which the sun is low: towards it (x to the east, y to the north, z up), the day of
    the year, and the minute of the day, by the site's clock."""

    towards: Floats
    days: NDArray[np.int64]
    minutes: NDArray[np.int64]


def sun_in(project: Project, lens: Lens) -> SunLine | None:
    """The low sun in a view; None where nobody has said where the site is, or where north is on its plan."""
    terms = project.settings
    if terms.latitude_deg is None or terms.longitude_deg is None or terms.north_deg is None:
        return None
    year = terms.start_year
    low = low_sun(terms.latitude_deg, terms.longitude_deg, terms.time_zone, year)
    # from east and north to right and down on the plan
    north = np.radians(terms.north_deg)
    east, upward = low.towards[:, 0], low.towards[:, 1]
    right = east * np.cos(north) + upward * np.sin(north)
    down = east * np.sin(north) - upward * np.cos(north)
    seen = lens.has_in_frame(np.stack([right, down, low.towards[:, 2]], axis=1))
    days, minutes = low.days[seen], low.minutes[seen]
    first = date(year, 1, 1)
    months = np.array([(first + timedelta(days=int(day))).month for day in range(366)])[days]
    return SunLine(
        year=year,
        days=len(np.unique(days)),
        months=tuple(
            SunMonth(
                month=month,
                days=len(np.unique(days[months == month])),
                earliest=_clock(minutes[months == month].min()),
                latest=_clock(minutes[months == month].max()),
            )
            for month in range(1, 13)
            if (months == month).any()
        ),
    )


def _clock(minute: np.int64) -> str:
    return f"{minute // 60:02d}:{minute % 60:02d}"


@lru_cache(maxsize=4)
def low_sun(latitude_deg: float, longitude_deg: float, time_zone: str, year: int) -> LowSun:
    """The minutes of a year at which the sun is between 0 and `LOW_SUN_DEG` up at a place [1]_."""
    zone = ZoneInfo(time_zone)
    start = datetime(year, 1, 1, tzinfo=zone).astimezone(UTC)
    minutes = int((datetime(year + 1, 1, 1, tzinfo=zone).astimezone(UTC) - start).total_seconds()) // 60
    rows = _true_path(latitude_deg, longitude_deg, start, minutes)
    zenith = np.degrees(np.arccos(np.clip(rows[:, 2], -1, 1)))
    # how refraction lifts the sun, by its true zenith
    table = np.arange(60.0, 100.0, 0.01)
    zenith -= np.interp(zenith, table, [refraction_at_zenith(float(one)) for one in table])
    low = np.flatnonzero((zenith <= 90) & (zenith >= 90 - LOW_SUN_DEG))
    flat = np.hypot(rows[low, 0], rows[low, 1])
    raised = np.radians(90 - zenith[low])
    towards = np.stack(
        [rows[low, 0] / flat * np.cos(raised), rows[low, 1] / flat * np.cos(raised), np.sin(raised)], axis=1
    )
    local = low + _offsets(start, minutes, zone)[low]
    first = _offsets(start, 1, zone)[0]
    return LowSun(towards, (local - first) // DAY_MIN, (local - first) % DAY_MIN)


def _true_path(latitude_deg: float, longitude_deg: float, start: datetime, minutes: int) -> Floats:
    """Towards the sun at every minute, without refraction: to the east, to the north, up."""
    here = Observer(latitude_deg, longitude_deg)
    asked = []
    for step in range(-1, minutes // STEP_MIN + 3):
        zenith, azimuth = np.radians(zenith_and_azimuth(here, start + timedelta(minutes=step * STEP_MIN), False))
        asked.append((np.sin(zenith) * np.sin(azimuth), np.sin(zenith) * np.cos(azimuth), np.cos(zenith)))
    known = np.array(asked)
    at, share = np.divmod(np.arange(minutes), STEP_MIN)
    u = (share / STEP_MIN)[:, None]
    weights = (
        -u * (u - 1) * (u - 2) / 6, (u + 1) * (u - 1) * (u - 2) / 2,
        -(u + 1) * u * (u - 2) / 2, (u + 1) * u * (u - 1) / 6,
    )  # fmt: skip
    path = np.zeros((minutes, 3))
    for number, weight in enumerate(weights):
        path += weight * known[at + number]
    path /= np.sqrt((path**2).sum(axis=1))[:, None]
    return path


def _offsets(start: datetime, minutes: int, zone: ZoneInfo) -> NDArray[np.int64]:
    """Minutes that the site's clock is ahead of UTC, minute by minute; looked up at every quarter of an hour."""
    quarters = range(0, minutes, 15)
    known = [(start + timedelta(minutes=at)).astimezone(zone).utcoffset() or timedelta() for at in quarters]
    return np.repeat([int(one.total_seconds()) // 60 for one in known], 15)[:minutes]
