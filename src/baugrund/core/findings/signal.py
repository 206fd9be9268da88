"""Checks of Wi-Fi: goals that are not met, access points in the wrong place, airtime, channels."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache

import numpy as np

from ..facts.brief import GOALS, WIFI_GOALS
from ..facts.project import Project
from ..facts.signal import Radio
from ..physics.radio import rates_mbit, throughput_mbit
from ..signal.airtime import RadioLine
from ..signal.field import Field, Grid, predicted
from ..signal.goals import GoalLine
from ..signal.obstructions import Obstructions, crossings, obstructions
from ..signal.radios import Sender, Station
from ..signal.told import Signal, StationLine, signal_of
from ..standards.radio import AIRTIME_MOST, RANGES
from ..standards.walls import MATERIALS
from ..words import counted, joined
from .finding import Finding, Settle, SiteState, Weight

OVER_ANOTHER = 0.9
OVER_DBM = -50.0
"""An access point is too much over another one where it is heard so well in such a share of the other's cells."""
BEHIND_METAL = 0.5
"""Share of the cells around an access point that it sends to through metal, from which it is told."""
AROUND_M = 12.0
"""How far around an access point is looked for metal [m]."""
USABLE_OF_PORT = 0.941
SLOW_SHARE = 0.5
"""Share of a radio's own time that older clients take, from which it is told."""
FASTEST = np.array([0.0])
"""A level at which every rate is had [dBm]."""


def _told(site: SiteState) -> Signal | None:
    """What Wi-Fi reaches; None: there is no access point, or no goal and no client to be served."""
    has = any(drop.kind == "access_point" for drop in site.project.drops)
    asks = site.project.clients or any(goal.kind in WIFI_GOALS for goal in site.project.goals)
    return signal_of(site.project, site.catalogue) if has or asks else None


def _on(project: Project, drop_id: int, key: str, weight: Weight, text: str, settle: Settle | None = None) -> Finding:
    return Finding(
        key=f"{key}-{drop_id}", weight=weight, subject=project.name_of(project.drops_by_id[drop_id]), text=text,
        verb="cover", drop_ids=(drop_id,), settle=settle,
    )  # fmt: skip


def goals(site: SiteState) -> Iterator[Finding]:
    """Goals of Wi-Fi that too little of their area meets."""
    told = _told(site)
    for line in told.goals if told else ():
        if line.met is False:
            yield Finding(
                key=f"wifi-goal-{line.goal_id}", weight="breaks", subject=_where(site.project, line),
                text=_short(site.project, line), verb="cover",
                drop_ids=(line.worst.drop_id,) if line.worst and line.worst.drop_id else (),
                settle=Settle(label="Move or add an access point", verb="cover"),
            )  # fmt: skip


def _where(project: Project, line: GoalLine) -> str:
    goal = next(goal for goal in project.goals if goal.id == line.goal_id)
    if not goal.room_ids:
        return GOALS[goal.kind][0]
    return joined([project.rooms_by_id[number].name for number in goal.room_ids][:3])


def _short(project: Project, line: GoalLine) -> str:
    band = f" at {line.band} GHz" if line.band else ""
    text = (
        f"{100 * (line.share or 0):.0f} % of it hears {line.level_dbm:g} dBm{band} or better; "
        f"{100 * line.share_wanted:g} % is wanted."
    )
    worst = line.worst
    if worst is None or worst.dbm is None:
        return f"{text} No access point sends there."
    hidden = f", behind {worst.hidden_by}" if worst.hidden_by else ""
    return f"{text} The least is {worst.dbm:.0f} dBm at {worst.x_m:g} m, {worst.y_m:g} m{hidden}."


def places(site: SiteState) -> Iterator[Finding]:
    """Access points that are nowhere, behind metal, too much over another one, or needless."""
    told = _told(site)
    if told is None:
        return
    project, prediction = site.project, predicted(site.project, site.catalogue)
    for drop_id in told.nowhere:
        yield _on(
            project, drop_id, "ap-nowhere", "note",
            "is nowhere on the plan, and its room is not drawn: nothing is predicted of it.",
            Settle(label="Place it", verb="walk"),
        )  # fmt: skip
    fields = list(prediction.fields.values())
    answering = {field.senders[n].drop_id for field in fields for n in np.unique(field.answers) if n >= 0}
    for station in prediction.stations:
        if not station.senders:
            yield _on(project, station.drop.id, "ap-silent", "strains", "has no band switched on.")
        elif station.drop.id not in answering and fields:
            yield _on(
                project, station.drop.id, "ap-needless", "strains",
                "answers nowhere: others are stronger in every drawn room, in every band.",
            )  # fmt: skip
        if share := _through_metal(project, station, fields):
            yield _on(
                project, station.drop.id, "ap-metal", "strains",
                f"sends through metal to {share:.0%} of what is within {AROUND_M:g} m of it. Hang it on the other "
                "side.",
            )  # fmt: skip
    yield from _over_another(project, fields)


def _through_metal(project: Project, station: Station, fields: list[Field]) -> float:
    """Share of the cells around an access point, on its floor, that lie behind metal; 0: too few to tell."""
    field = next((one for one in fields if one.cells.floor_id == station.floor_id), None)
    of = obstructions(project)
    if field is None or not any(piece.material == "metal" for piece in of.pieces):
        return 0.0
    share = _metal_share(of, station.spot, field.cells)
    return share if share >= BEHIND_METAL else 0.0


@lru_cache(maxsize=512)
def _metal_share(of: Obstructions, spot: tuple[float, float, float], cells: Grid) -> float:
    points = cells.points
    near = points[np.hypot(points[:, 0] - spot[0], points[:, 1] - spot[1]) <= AROUND_M]
    if not len(near):
        return 0.0
    metal = of.of_material[:, MATERIALS.index("metal")] > 0
    return float(crossings(of, spot, near).stretches[:, metal].any(axis=1).mean())


def _over_another(project: Project, fields: list[Field]) -> Iterator[Finding]:
    """Pairs where one is heard well nearly everywhere that the other answers, in every band of both."""
    seen: dict[tuple[int, int], list[bool]] = {}
    for number, other, is_over in (pair for field in fields for pair in _pairs(field)):
        seen.setdefault((number, other), []).append(is_over)
    for (one, other), over in seen.items():
        if all(over) and (one < other or not all(seen.get((other, one), [False]))):
            yield Finding(
                key=f"ap-over-{one}-{other}", weight="strains",
                subject=project.name_of(project.drops_by_id[one]), verb="cover", drop_ids=(one, other),
                text=f"{project.name_of(project.drops_by_id[other])} is heard at {OVER_DBM:g} dBm or better in "
                     f"{OVER_ANOTHER:.0%} of where this one answers: phones cling to the wrong one. Send less, or "
                     "move one.",
            )  # fmt: skip


def _pairs(field: Field) -> Iterator[tuple[int, int, bool]]:
    for number, sender in enumerate(field.senders):
        here = field.levels[:, field.answers == number]
        if here.shape[1]:
            shares = (here >= OVER_DBM).mean(axis=1)
            for other, share in enumerate(shares):
                if other != number:
                    yield sender.drop_id, field.senders[other].drop_id, bool(share >= OVER_ANOTHER)


def clients(site: SiteState) -> Iterator[Finding]:
    """Clients that nobody serves, airtime that is used up, old clients before new ones."""
    told = _told(site)
    if told is None:
        return
    names = {clients.id: clients.name for clients in site.project.clients}
    for line in told.clients:
        if line.without_room:
            yield Finding(
                key=f"clients-nowhere-{line.clients_id}", weight="note", subject=names[line.clients_id], verb="cover",
                text="none of their rooms is drawn: no airtime is counted for them.",
            )  # fmt: skip
        elif line.unserved >= 0.5:
            yield Finding(
                key=f"clients-unserved-{line.clients_id}", weight="strains", subject=names[line.clients_id],
                verb="cover",
                text=f"about {line.unserved:.0f} of {line.at_once:g} hear no access point well enough to associate.",
            )  # fmt: skip
    for station in told.stations:
        for radio in station.radios:
            yield from _time(site.project, radio)


def _time(project: Project, radio: RadioLine) -> Iterator[Finding]:
    if max(radio.total, radio.by_horizon) > AIRTIME_MOST:
        when, share = ("", radio.total) if radio.total > AIRTIME_MOST else (" by the horizon", radio.by_horizon)
        others = f" Others on its channel take {radio.shared:.1%} today." if radio.shared else ""
        unset = "" if radio.channel else " No channel is set: all that it hears counts."
        yield _on(
            project, radio.drop_id, f"airtime-{radio.band}", "strains",
            f"{share:.1%} of its airtime at {radio.band} GHz is asked{when}; {AIRTIME_MOST:.0%} is the most.{others}"
            f"{unset}",
        )  # fmt: skip
    if SLOW_SHARE <= radio.slow_behind < 1 and radio.own >= AIRTIME_MOST / 10:
        yield _on(
            project, radio.drop_id, f"slow-{radio.band}", "note",
            f"{radio.slow_behind:.0%} of the time that its clients take at {radio.band} GHz goes to those of an older "
            "generation: fast ones wait behind them.",
        )  # fmt: skip


def settings(site: SiteState) -> Iterator[Finding]:
    """Channels that the region has not, more power than it allows, and a port that is slower than the air."""
    told = _told(site)
    if told is None:
        return
    project = site.project
    for station in predicted(project, site.catalogue).stations:
        for sender in station.senders:
            yield from _legal(project, sender)
        yield from _port(project, station)
    yield from _off(project, told)


def _legal(project: Project, sender: Sender) -> Iterator[Finding]:
    region = project.settings.region
    if sender.channel is not None and sender.block is None:
        yield _on(
            project, sender.drop_id, f"channel-{sender.band}", "breaks",
            f"channel {sender.channel} of {sender.width_mhz} MHz is not allowed at {sender.band} GHz in this region "
            f"({region.upper()}).",
        )  # fmt: skip
    most = sender.block.eirp_dbm if sender.block else max(part.eirp_dbm for part in RANGES[region][sender.band])
    if sender.eirp_dbm > most:
        yield _on(
            project, sender.drop_id, f"eirp-{sender.band}", "breaks",
            f"sends {sender.eirp_dbm:g} dBm EIRP at {sender.band} GHz; {most:g} dBm is the most there in this region "
            f"({region.upper()}). Local rules come first.",
        )  # fmt: skip
    room = project.rooms_by_id[project.drops_by_id[sender.drop_id].room_id]
    if sender.block and sender.block.indoor and room.outside:
        yield _on(
            project, sender.drop_id, f"indoor-{sender.band}", "breaks",
            f"hangs outside, and channel {sender.channel} is for inside only in this region ({region.upper()}).",
        )  # fmt: skip


def _port(project: Project, station: Station) -> Iterator[Finding]:
    drop = station.drop
    air = sum(
        float(throughput_mbit(rates_mbit(FASTEST, s.generation, s.band, s.width_mhz, s.streams))[0])
        for s in station.senders
    )
    if station.listed and drop.speed_mbit < station.model.port_mbit and air > USABLE_OF_PORT * drop.speed_mbit:
        yield _on(
            project, drop.id, "ap-port", "note",
            f"its air carries up to {air:.0f} Mbit/s and its own port {station.model.port_mbit:,} Mbit/s; the drop is "
            f"planned at {drop.speed_mbit:,} Mbit/s.",
        )  # fmt: skip


def _off(project: Project, told: Signal) -> Iterator[Finding]:
    """Radios that are set for a band that the model has not."""
    known: dict[int, StationLine] = {station.drop_id: station for station in told.stations}
    lost: list[Radio] = [
        radio
        for radio in project.radios
        if radio.on and radio.drop_id in known and radio.band not in known[radio.drop_id].bands
    ]
    for radio in lost:
        yield _on(
            project, radio.drop_id, f"no-band-{radio.band}", "note",
            f"is set for {radio.band} GHz, which its model has not. It has "
            f"{counted(len(known[radio.drop_id].bands), 'band')}.",
        )  # fmt: skip
