"""Access points that are fed over the air: the way of each to one that is wired, and what is left on it.

A path has the least of its hops' rates, halved for every hop over air that shares the client's channel.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import NamedTuple

import numpy as np

from ..facts.fact import Fact
from ..facts.project import Project
from ..physics.radio import older, rates_mbit, throughput_mbit
from ..standards.radio import Band
from .airtime import between, on_one_channel
from .field import Prediction
from .obstructions import obstructions
from .radios import Sender


class Hop(Fact):
    """One stretch of a way over the air."""

    from_id: int
    to_id: int
    band: Band
    dbm: float
    """What the one that hears less of the other receives."""
    rate_mbit: float


class MeshLine(Fact):
    """What a band of an access point over the air can pass on for its clients."""

    drop_id: int
    band: Band
    """Of its clients."""
    hops: tuple[Hop, ...]
    """To the one that is wired; empty: it hears none."""
    shared: int
    """Hops on the clients' own channel."""
    rate_mbit: float
    throughput_mbit: float


class _Link(NamedTuple):
    """Two senders of one band that hear each other."""

    one: Sender
    other: Sender
    dbm: float
    rate: float


def meshed(project: Project, prediction: Prediction) -> tuple[MeshLine, ...]:
    """Every band of every access point that is fed over the air, by the way whose slowest hop is fastest."""
    over_air = {station.drop.id for station in prediction.stations if station.drop.over_wifi}
    if not over_air:
        return ()
    senders = [sender for station in prediction.stations for sender in station.senders]
    ways = _widest(over_air, senders, list(_links(project, prediction, senders)))
    return tuple(
        _line(sender, ways.get(sender.drop_id, ())) for sender in senders if sender.drop_id in over_air
    )  # fmt: skip


def path_mbit(rates: Sequence[float], shared: int) -> float:
    """The least of the hops' rates, halved for every one that shares the client's channel [Mbit/s]."""
    return min(rates, default=0.0) * 0.5**shared


def _links(project: Project, prediction: Prediction, senders: Sequence[Sender]) -> Iterator[_Link]:
    levels = between(obstructions(project), prediction.losses, tuple(senders))
    for i, one in enumerate(senders):
        for j, other in enumerate(senders[:i]):
            if one.band != other.band or one.drop_id == other.drop_id:
                continue
            dbm = float(min(levels[i, j], levels[j, i]))
            width, streams = min(one.width_mhz, other.width_mhz), min(one.streams, other.streams)
            generation = older(one.generation, other.generation)
            rate = float(rates_mbit(np.array([dbm]), generation, one.band, width, streams)[0])
            if rate > 0:
                yield _Link(one, other, dbm, rate)


def _widest(
    over_air: set[int], senders: Sequence[Sender], links: Sequence[_Link]
) -> dict[int, tuple[tuple[Sender, Hop], ...]]:
    """For each access point the way to a wired one whose least rate is most, of equals the one of fewest hops."""
    best: dict[int, tuple[float, int]] = {
        sender.drop_id: (float("inf"), 0) for sender in senders if sender.drop_id not in over_air
    }
    ways: dict[int, tuple[tuple[Sender, Hop], ...]] = {number: () for number in best}
    done: set[int] = set()
    while left := [number for number in best if number not in done]:
        here = max(left, key=lambda number: (best[number][0], -best[number][1], -number))
        done.add(here)
        for link in links:
            for near, far in ((link.one, link.other), (link.other, link.one)):
                if near.drop_id != here or far.drop_id in done:
                    continue
                reached = (min(best[here][0], link.rate), best[here][1] + 1)
                known = best.get(far.drop_id)
                if known is None or (reached[0], -reached[1]) > (known[0], -known[1]):
                    hop = Hop(
                        from_id=far.drop_id, to_id=here, band=link.one.band, dbm=round(link.dbm, 2),
                        rate_mbit=round(link.rate, 2),
                    )  # fmt: skip
                    best[far.drop_id], ways[far.drop_id] = reached, ((far, hop), *ways[here])
    return ways


def _line(sender: Sender, way: Sequence[tuple[Sender, Hop]]) -> MeshLine:
    shared = sum(on_one_channel(sender, by) for by, _ in way)
    rate = path_mbit([hop.rate_mbit for _, hop in way], shared)
    return MeshLine(
        drop_id=sender.drop_id, band=sender.band, hops=tuple(hop for _, hop in way), shared=shared,
        rate_mbit=round(rate, 2), throughput_mbit=round(float(throughput_mbit(rate)), 2),
    )  # fmt: skip
