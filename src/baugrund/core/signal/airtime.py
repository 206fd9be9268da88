"""Clients over the site, and the airtime that they ask of every access point.

A client is spread over the cells of its rooms.  In each it uses the highest of its bands that reaches what is asked
there, else the one that it hears best, at the rate that its level, its own width, generation and streams allow.  An
access point gives time to its own clients, and waits for every other that it hears on its channel.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from ..facts.brief import WIFI_GOALS, Goal, WirelessClients
from ..facts.building import RoomUse
from ..facts.fact import Fact
from ..facts.project import Project
from ..facts.signal import NEIGHBOUR_BUSY_PERCENT
from ..physics.radio import Floats, modulation_of, older, rates_mbit, throughput_mbit
from ..standards.radio import BANDS, BANDS_OF, HEARD_DBM, Band, Block, Generation, Width, block_of
from .field import Field, Losses, Prediction, antenna_db, in_the_way_db, received_dbm
from .goals import cells_of, level_of, rooms_of
from .obstructions import Obstructions, crossings, obstructions
from .radios import Sender

DEMAND_MBIT = 3.0
"""What a client of whom nobody has said more asks at the busy hour, *default* [Mbit/s]."""
REACHED_DBM = -70.0
"""What a client wants where no goal asks for more, *default*."""
WIDEST: dict[Generation, Width] = {"802.11n": 40, "802.11ac": 80, "802.11ax": 80, "802.11be": 160}
"""Widest channel of a client of whom nobody has said it, *default*."""
USE_WEIGHTS: dict[RoomUse, float] = {
    "": 1.0, "living": 1.0, "work": 1.0, "sleeping": 0.5, "way": 0.2, "wet": 0.1, "store": 0.1, "plant": 0.05,
}  # fmt: skip
"""How many clients a square metre of a room draws by its use, *default*."""


class ClientLine(Fact):
    """A kind of clients: how many there are at the busy hour, and how many of them nobody serves."""

    clients_id: int
    at_once: float
    demand_mbit: float
    """Of one."""
    without_room: bool
    """None of their rooms is drawn: nothing is predicted for them."""
    unserved: float
    """Of them, how many hear no access point well enough to associate."""


class RadioLine(Fact):
    """A band of an access point: what it serves, what it hears, and what is left of its time."""

    drop_id: int
    band: Band
    channel: int | None
    width_mhz: int
    power_dbm: float
    """Conducted, as it is set or as its model has it."""
    usual_power_dbm: float
    """As its model has it."""
    eirp_dbm: float
    associated: float
    """Clients at the busy hour."""
    demand_mbit: float
    """What they ask together."""
    throughput_mbit: float | None
    """What one of them could have alone, as their demand is mixed; None: nobody is there."""
    own: float
    """Share of its time that its own clients take."""
    shared: float
    """Share that others take whom it hears on its channel, neighbours among them."""
    neighbours: float
    """The part of that which neighbours take: it does not grow with the site."""
    by_horizon: float
    """Own and shared once the site has grown."""
    heard: tuple[int, ...]
    """Access points that it hears at −82 dBm or better on MHz of its channel."""
    slow_behind: float
    """Share of its own time that clients of an older generation than its own take."""

    @property
    def total(self) -> float:
        return self.own + self.shared

    def grown(self, times: float) -> float:
        """Own and shared once what clients ask has grown so many times."""
        return (self.total - self.neighbours) * times + self.neighbours


@dataclass(frozen=True)
class Airtime:
    """The airtime of a project."""

    clients: tuple[ClientLine, ...]
    radios: tuple[RadioLine, ...]


def at_once(clients: WirelessClients) -> int:
    """How many of them there are at the busy hour."""
    return clients.count if clients.at_once is None else clients.at_once


def bands_of_clients(clients: WirelessClients) -> tuple[Band, ...]:
    """Bands that they use."""
    wanted: Mapping[Band, bool] = {"2.4": clients.band_2, "5": clients.band_5, "6": clients.band_6}
    return tuple(band for band in BANDS if wanted[band] and band in ("2.4", *BANDS_OF[clients.generation]))


def airtime(project: Project, prediction: Prediction) -> Airtime:
    """The clients of Brief over the rooms, and every radio's time."""
    senders = [sender for station in prediction.stations for sender in station.senders]
    served: dict[tuple[int, Band], list[_Served]] = defaultdict(list)
    lines = []
    fields, goals = tuple(prediction.fields.values()), tuple(g for g in project.goals if g.kind in WIFI_GOALS)
    places = tuple(Place(room.id, room.use, room.outside) for room in project.rooms)
    for clients in project.clients:
        some, unserved, without = _spread(fields, places, goals, clients)
        for key, part in some.items():
            served[key].append(part)
        lines.append(
            ClientLine(
                clients_id=clients.id, at_once=at_once(clients), demand_mbit=clients.demand_mbit or DEMAND_MBIT,
                without_room=without, unserved=round(unserved, 3),
            )
        )  # fmt: skip
    own = {key: sum(part.time for part in parts) for key, parts in served.items()}
    heard = hears(project, prediction.losses, senders)
    taken = neighbours_share(project, senders)
    grown = (1 + project.settings.growth_percent / 100) ** project.settings.horizon_years
    radios = []
    for number, sender in enumerate(senders):
        key = (sender.drop_id, sender.band)
        others = [senders[n] for n in np.nonzero(heard[number])[0] if on_one_channel(sender, senders[n])]
        from_others = sum(own.get((other.drop_id, other.band), 0.0) for other in others)
        mine, parts = own.get(key, 0.0), served.get(key, [])
        demand = sum(part.demand_mbit for part in parts)
        radios.append(
            RadioLine(
                drop_id=sender.drop_id, band=sender.band, channel=sender.channel, width_mhz=sender.width_mhz,
                power_dbm=sender.power_dbm, usual_power_dbm=sender.usual_power_dbm, eirp_dbm=sender.eirp_dbm,
                associated=round(sum(part.count for part in parts), 3),
                demand_mbit=round(demand, 3), throughput_mbit=round(demand / mine, 2) if mine else None,
                own=round(mine, 5), shared=round(from_others + taken[number], 5),
                neighbours=round(float(taken[number]), 5),
                by_horizon=round((mine + from_others) * grown + taken[number], 5),
                heard=tuple(other.drop_id for other in others),
                slow_behind=round(sum(part.slow for part in parts) / mine, 4) if mine else 0.0,
            )
        )  # fmt: skip
    return Airtime(tuple(lines), tuple(radios))


@dataclass(frozen=True)
class _Served:
    """What one kind of clients is to one radio."""

    count: float
    demand_mbit: float
    time: float
    """Σ demand ÷ throughput."""
    slow: float
    """The part of it that goes to those of an older generation."""


class Place(NamedTuple):
    """What clients go by of a room."""

    room_id: int
    use: RoomUse
    outside: bool


@lru_cache(maxsize=256)
def _spread(
    fields: tuple[Field, ...], places: tuple[Place, ...], goals: tuple[Goal, ...], clients: WirelessClients
) -> tuple[Mapping[tuple[int, Band], _Served], float, bool]:
    """Who serves them and how much, how many nobody serves, and whether none of their rooms is drawn; kept from one
    state of a project to the next while nothing of that is another."""
    by_floor: dict[int, dict[Band, Field]] = defaultdict(dict)
    for field in fields:
        by_floor[field.cells.floor_id][field.band] = field
    weights = {floor: _weights(places, of[BANDS[0]], clients) for floor, of in by_floor.items()}
    total = sum(float(weight.sum()) for weight in weights.values())
    if not total:
        return {}, 0.0, True
    demand = clients.demand_mbit or DEMAND_MBIT
    sums: dict[tuple[int, Band], list[float]] = defaultdict(lambda: [0.0, 0.0])
    unserved = 0.0
    for floor, weight in weights.items():
        count = weight / total * at_once(clients)
        served = np.zeros(len(count), dtype=np.bool_)
        for sender, chosen, rates in _served_by(places, by_floor[floor], goals, clients):
            serves = chosen & (rates > 0)
            served |= serves
            of = sums[sender.drop_id, sender.band]
            of[0] += float(count[serves].sum())
            of[1] += float((count[serves] * demand / throughput_mbit(rates[serves])).sum())
        unserved += float(count[~served].sum())
    generations = {sender.drop_id: sender.generation for field in fields for sender in field.senders}
    return {
        (drop, band): _Served(
            count, count * demand, time,
            time if modulation_of(clients.generation, band) is not modulation_of(generations[drop], band) else 0.0,
        )
        for (drop, band), (count, time) in sums.items()
        if count
    }, unserved, False  # fmt: skip


def _weights(places: Sequence[Place], field: Field, clients: WirelessClients) -> Floats:
    """How many of these clients a cell of a floor draws, to scale."""
    rooms = {place.room_id: place for place in places}

    def weight(room_id: int) -> float:
        if clients.room_ids:
            return 1.0 if room_id in clients.room_ids else 0.0
        return 0.0 if rooms[room_id].outside else USE_WEIGHTS[rooms[room_id].use]

    by_room = {number: weight(number) for number in np.unique(field.cells.room_of).tolist()}
    return np.array([by_room[number] for number in field.cells.room_of.tolist()]) * field.cells.step_m**2


def _served_by(
    places: Sequence[Place], of: Mapping[Band, Field], goals: Sequence[Goal], clients: WirelessClients
) -> Iterator[tuple[Sender, NDArray[np.bool_], Floats]]:
    """For each sender the cells that these clients use it in, and their rate there [Mbit/s]."""
    fields = [of[band] for band in bands_of_clients(clients) if of[band].senders]
    if not fields:
        return
    levels = np.array([field.strongest for field in fields])
    reached = levels >= _wanted(places, goals, fields[0])
    highest = len(fields) - 1 - np.argmax(reached[::-1], axis=0)
    band = np.where(reached.any(axis=0), highest, np.argmax(levels, axis=0))
    for number, field in enumerate(fields):
        for index, sender in enumerate(field.senders):
            chosen = (band == number) & (field.answers == index)
            if chosen.any():
                yield sender, chosen, client_rates(clients, sender, field.levels[index])


def _wanted(places: Sequence[Place], goals: Sequence[Goal], field: Field) -> Floats:
    """The strictest level that a goal asks for in each cell."""
    wanted = np.full(len(field.cells.points), REACHED_DBM)
    asked = np.full(len(field.cells.points), -np.inf)
    inside = [place.room_id for place in places if not place.outside]
    for goal in goals:
        here = cells_of(goal, rooms_of(goal, inside), field)
        asked[here] = np.maximum(asked[here], level_of(goal))
    return np.where(np.isfinite(asked), asked, wanted)


def client_rates(clients: WirelessClients, sender: Sender, levels: Floats) -> Floats:
    """Rates at levels [Mbit/s]: of the older generation, the narrower channel, the fewer streams of the two."""
    generation = older(clients.generation, sender.generation)
    width = min(sender.width_mhz, clients.width_mhz or WIDEST[clients.generation])
    return rates_mbit(levels, generation, sender.band, width, min(clients.streams, sender.streams))


def on_one_channel(one: Sender, other: Sender) -> bool:
    """Whether any MHz is of both; a channel that is not set may be any, so it counts."""
    if one.band != other.band:
        return False
    return one.block is None or other.block is None or one.block.overlaps(other.block)


def hears(project: Project, losses: Losses, senders: Sequence[Sender]) -> NDArray[np.bool_]:
    """Which sender hears which other one at −82 dBm or better: a row who listens, each direction on its own."""
    levels = between(obstructions(project), losses, tuple(senders))
    heard = levels >= HEARD_DBM
    np.fill_diagonal(heard, False)
    return np.asarray(heard)


@lru_cache(maxsize=16)
def between(of: Obstructions, losses: Losses, senders: tuple[Sender, ...]) -> Floats:
    """What each sender (a row) receives of each other one of its band [dBm], by both their antennas."""
    levels = np.full((len(senders), len(senders)), -np.inf)
    spots = list(dict.fromkeys(sender.spot for sender in senders))
    place = {spot: number for number, spot in enumerate(spots)}
    points = np.array(spots).reshape(-1, 3)
    crossed = {spot: crossings(of, spot, points) for spot in spots}
    for number, sender in enumerate(senders):
        others = [n for n, other in enumerate(senders) if other.band == sender.band]
        there = [place[senders[n].spot] for n in others]
        way = in_the_way_db(of, crossed[sender.spot], losses, sender.band)
        levels[others, number] = received_dbm(sender, points, way)[there]
    for number, sender in enumerate(senders):
        levels[number] += sender.gain_dbi - antenna_db(sender, points)[[place[other.spot] for other in senders]]
    return levels


def neighbours_share(project: Project, senders: Sequence[Sender]) -> Floats:
    """Share of each sender's time that neighbours take whom it hears on its channel."""
    return np.array([neighbours_on(project, sender, sender.block) for sender in senders])


def neighbours_on(project: Project, sender: Sender, block: Block | None) -> float:
    """Share of a sender's time that neighbours would take whom it hears on a channel; None: it may be any."""
    taken = 0.0
    for neighbour in project.neighbours:
        if (neighbour.drop_id, neighbour.band) != (sender.drop_id, sender.band) or neighbour.dbm < HEARD_DBM:
            continue
        theirs = block_of(project.settings.region, neighbour.band, neighbour.channel, neighbour.width_mhz)
        if block is None or theirs is None or block.overlaps(theirs):
            busy = NEIGHBOUR_BUSY_PERCENT if neighbour.busy_percent is None else neighbour.busy_percent
            taken += busy / 100
    return taken


def fullest(found: Airtime) -> RadioLine | None:
    """The radio that has least time left."""
    return max(found.radios, key=lambda line: line.total, default=None)
