"""Power of access points once their channels are given out: lowered where others then share less and no goal is lost.

One access point after another goes down by one `STEP_DB` or more as long as the band's airtime, own and shared, gets
less and every goal that is met stays met.  What no single step makes better is found, not proven.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import NamedTuple

from ..facts.fact import Fact
from ..facts.project import Project
from ..signal.airtime import airtime
from ..signal.field import Prediction, field_of
from ..signal.goals import goal_lines
from ..signal.radios import Sender
from ..standards.radio import Band, Block, Width, block_of

STEP_DB = 3.0
LOWEST_DB = 9.0
"""So far under what its model sends an access point goes down at the most [dB]."""
TRIES_MOST = 120
LEAST = 0.002
"""A step that leaves no more than this of the airtime is not taken, *default*."""


class PowerSet(Fact):
    """The conducted power of an access point in a plan [dBm], and what it sends now."""

    drop_id: int
    power_dbm: float
    was_dbm: float


class Powers(NamedTuple):
    """Powers that differ from those now, and the band's airtime with all of them: own and shared."""

    sets: tuple[PowerSet, ...]
    own: float
    shared: float
    saves: float = 0.0
    """Of what it is with those channels and the powers of now."""


class _Told(NamedTuple):
    own: float
    shared: float
    met: frozenset[int]


def lowered(project: Project, prediction: Prediction, band: Band, width: Width, first: Mapping[int, int]) -> Powers:
    """Powers of a band at a width and the channels of its access points, by their numbers."""
    region = project.settings.region
    blocks = {number: block_of(region, band, channel, width) for number, channel in first.items()}
    here = _as_planned(prediction, band, width, first, blocks)
    best = before = _told(project, here, band)
    was = {one.drop_id: one for one in _of_band(here, band)}
    power = {number: sender.power_dbm for number, sender in was.items()}
    fixed = {one.drop_id for one in project.radios if one.band == band and one.power_dbm is not None and one.kept}
    tries = 0
    again = True
    while again and tries < TRIES_MOST:
        again = False
        for number in sorted(power, key=lambda n: (-power[n], n)):
            if number in fixed:
                continue
            start, lowest = power[number], was[number].usual_power_dbm - LOWEST_DB
            # one step may change nothing yet, and the next one free a channel
            for steps in range(1, math.floor((start - lowest) / STEP_DB + 1e-9) + 1):
                tries += 1
                lower = start - steps * STEP_DB
                told = _told(project, _with_power(here, band, {**power, number: lower}), band)
                if not told.met >= best.met:
                    break
                if told.own + told.shared < best.own + best.shared - LEAST:
                    best, again = told, True
                    power[number] = lower
    sets = tuple(
        PowerSet(drop_id=number, power_dbm=dbm, was_dbm=was[number].power_dbm)
        for number, dbm in power.items()
        if dbm != was[number].power_dbm
    )
    saves = before.own + before.shared - best.own - best.shared
    return Powers(sets, round(best.own, 5), round(best.shared, 5), round(saves, 5))


def _of_band(prediction: Prediction, band: Band) -> Sequence[Sender]:
    return [sender for station in prediction.stations for sender in station.senders if sender.band == band]


def _as_planned(
    prediction: Prediction, band: Band, width: Width, first: Mapping[int, int], blocks: Mapping[int, Block | None]
) -> Prediction:
    """The prediction with the channels and the width of a plan."""

    def planned(sender: Sender) -> Sender:
        if sender.band != band or sender.drop_id not in first:
            return sender
        number = sender.drop_id
        return replace(sender, width_mhz=width, channel=first[number], block=blocks[number])

    stations = tuple(replace(station, senders=tuple(map(planned, station.senders))) for station in prediction.stations)
    return replace(prediction, stations=stations)


def _with_power(of: Prediction, band: Band, power: Mapping[int, float]) -> Prediction:
    stations = tuple(
        replace(
            station,
            senders=tuple(
                replace(one, power_dbm=power[one.drop_id]) if one.band == band else one for one in station.senders
            ),
        )
        for station in of.stations
    )
    return replace(of, stations=stations)


def _told(project: Project, of: Prediction, band: Band) -> _Told:
    """Own and shared airtime of a band, and the goals that are met."""
    fields = {
        key: field
        for key in of.fields
        if (field := field_of(project, of.stations, *key, of.step_m, of.losses)) is not None
    }
    there = replace(of, fields=fields)
    radios = [radio for radio in airtime(project, there).radios if radio.band == band]
    met = frozenset(line.goal_id for line in goal_lines(project, there) if line.met)
    return _Told(sum(radio.own for radio in radios), sum(radio.shared for radio in radios), met)
