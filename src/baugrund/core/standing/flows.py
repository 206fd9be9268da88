"""Traffic link by link: what every link carries, and where the path of each drop is slowest.

A path is as fast as its slowest link.  Of a line rate 0.941 is of use (1448 of 1538 bytes of a full frame).

References
----------
.. [1] IEEE Std 802.3, clause 3: frame of 1,518 bytes, preamble and gap of 20 bytes; IPv4 and TCP headers of 40 bytes
   (RFC 791, RFC 9293) and 12 bytes of time stamps (RFC 7323).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ..demand.traffic import busy_mbit, keeper, kept_mbit
from ..facts.drop import Drop
from ..facts.lines.router import Router
from ..facts.lines.switch import Switch
from ..facts.project import Project
from ..pick.model.seating import Link, TrunkSeat
from .ground import Ground

USEFUL_SHARE = 0.941
"""Share of the line rate that data gets [1]_."""

BoxKey = tuple[int, int]
"""A box by its closet and its place there."""


@dataclass(frozen=True)
class LinkFlow:
    """A link between two boxes, upper nearer the router: rates [Mbit/s] of all its cables together."""

    upper: str
    lower: str
    closet_id: int
    """Closet of the lower box."""
    between_closets: bool
    ends: int
    rate_mbit: int
    now_mbit: float
    """Busy hour of the live drops behind it."""
    then_mbit: float
    """By the horizon, growth counted."""
    fill_percent: float
    """By the horizon."""
    full: bool
    """Over the share of its rate that it should carry at most."""
    drops: int
    over_subscription: float
    """Speeds of the drops behind it, added up, over its rate."""
    recording_mbit: float
    """What the cameras send over it to the recorder."""


@dataclass(frozen=True)
class Throughput:
    """How fast a way is, where it is slowest, and what that leaves of use."""

    rate_mbit: int
    slowest: str
    useful_mbit: float


@dataclass(frozen=True)
class DropFlow:
    """A drop on the list: its speed, and its ways to the internet and to recorder or store, where there are such."""

    drop_id: int
    speed_mbit: int
    busy_mbit: float
    internet: Throughput | None
    recorder: Throughput | None
    store: Throughput | None
    slowed: bool
    """Whether a link, or a room switch, on one of these ways is slower than the drop."""


@dataclass(frozen=True)
class Flows:
    """Every link and every drop whose box is known."""

    links: tuple[LinkFlow, ...]
    drops: tuple[DropFlow, ...]
    recorder: str
    """Where cameras record to; empty: nowhere."""
    store: str


@dataclass(frozen=True)
class Hop:
    """One link on a way: whose it is, how fast, which link of the tree, if it is one, and whether it lies between the
    ends (and is neither a port of theirs nor a line)."""

    name: str
    rate_mbit: int
    link: int | None = None
    between: bool = False
    share: float = USEFUL_SHARE
    """What of its rate is of use; a line brings what it is contracted for."""


def flows(project: Project, grounds: Sequence[Ground]) -> Flows:
    """What every link of the standing boxes carries, and how fast every drop's ways are."""
    tree = Tree(project, grounds)
    built_in = any(_records(box) for ground in grounds for box in ground.boxes)
    store = _target(project, tree, "nas")
    ups = {drop.id: hops for drop in project.drops if (hops := tree.up(drop)) is not None}
    recording = dict.fromkeys(range(len(tree.links)), 0.0)
    for drop in project.drops:
        to_keeper = _to_keeper(project, drop, ups, built_in)
        if project.is_counted(drop):
            for hop in to_keeper:
                if hop.link is not None:
                    recording[hop.link] += drop.busy_mbit
    line = max((one for one in project.lines if not one.standby), key=lambda one: one.down_mbit, default=None)
    line_hop = [] if line is None else [Hop(line.name, line.down_mbit, share=1.0)]
    drops = []
    for drop in project.drops:
        if drop.id in ups and not drop.power_only:
            up = ups[drop.id]
            stores = drop.kind not in ("camera", "nas", "recorder") and store is not None
            ways = (
                [*up, *line_hop] if line else [],
                _to_keeper(project, drop, ups, built_in),
                between(up, store or ()) if stores else [],
            )
            slow = any(hop.between and hop.rate_mbit < drop.speed_mbit for way in ways for hop in way)
            internet, to_recorder, to_store = map(_slowest, ways)
            drops.append(
                DropFlow(drop.id, drop.speed_mbit, busy_mbit(project, drop), internet, to_recorder, to_store, slow)
            )
    told = tuple(tree.flow(number, recording[number]) for number in range(len(tree.links)))
    kept_at = [project.name_of(project.drops_by_id[number]) for number in kept_mbit(project)]
    where = " · ".join(kept_at) or ("built into the router" if built_in else "")
    return Flows(told, tuple(drops), where, _name(project, "nas"))


def _to_keeper(project: Project, drop: Drop, ups: Mapping[int, Sequence[Hop]], built_in: bool) -> list[Hop]:
    """The way of a camera's stream to what keeps it; empty: it is no camera, or nothing keeps it."""
    if drop.kind != "camera" or drop.id not in ups:
        return []
    at = keeper(project, drop)
    if at is None:
        return between(ups[drop.id], ()) if built_in else []
    return between(ups[drop.id], ups[at]) if at in ups else []


def between(one: Sequence[Hop], other: Sequence[Hop]) -> list[Hop]:
    """Hops from one end to another, given the way of both to the router: what they share at its end is left out."""
    mine, theirs = list(one), list(other)
    while mine and theirs and mine[-1] == theirs[-1]:
        mine.pop()
        theirs.pop()
    return [*mine, *reversed(theirs)]


def _slowest(hops: Sequence[Hop]) -> Throughput | None:
    slowest = min(hops, key=lambda hop: hop.rate_mbit, default=None)
    if slowest is None:
        return None
    useful = min(hop.rate_mbit * hop.share for hop in hops)
    return Throughput(slowest.rate_mbit, slowest.name, round(useful, 1))


def _records(box: Router | Switch) -> bool:
    """Whether a recorder is built in."""
    return isinstance(box, Router) and box.recorder_cameras > 0


def _first(project: Project, kind: str) -> Drop | None:
    return next((drop for drop in project.drops if drop.kind == kind), None)


def _target(project: Project, tree: Tree, kind: str) -> tuple[Hop, ...] | None:
    """The way from the first drop of a kind to the router; None: there is none, or it sits nowhere yet."""
    drop = _first(project, kind)
    hops = tree.up(drop) if drop else None
    return None if hops is None else tuple(hops)


def _name(project: Project, kind: str) -> str:
    drop = _first(project, kind)
    return project.name_of(drop) if drop else ""


class Tree:
    """The boxes of all closets as one tree, and where the drops sit in it."""

    def __init__(self, project: Project, grounds: Sequence[Ground]) -> None:
        self.project = project
        self.grounds = {ground.closet.id: ground for ground in grounds if ground.seating}
        self.links: list[tuple[BoxKey, BoxKey, Link | TrunkSeat]] = []
        self.parent: dict[BoxKey, int] = {}
        self.seat: dict[int, tuple[BoxKey, int]] = {}
        """Box and port speed [Mbit/s] of each drop."""
        for number, ground in self.grounds.items():
            assert ground.seating is not None
            for link in ground.seating.links:
                self._add((number, link.upper), (number, link.lower), link)
            for seat in ground.seating.trunks:
                if seat.trunk.closet_id in self.grounds:
                    self._add((number, seat.box), (seat.trunk.closet_id, 0), seat)
            for place in ground.places:
                if place.drop_id is not None:
                    port = ground.seating.boxes[place.box].ports[place.port]
                    self.seat[place.drop_id] = (number, place.box), port.speed_mbit

    def _add(self, upper: BoxKey, lower: BoxKey, link: Link | TrunkSeat) -> None:
        self.parent[lower] = len(self.links)
        self.links.append((upper, lower, link))

    def up(self, drop: Drop) -> list[Hop] | None:
        """The hops from a drop to the router; None: it sits nowhere."""
        if drop.behind_id is not None:
            feeder = self.project.drops_by_id[drop.behind_id]
            further = self.up(feeder)
            here = Hop(self.project.name_of(feeder), min(drop.speed_mbit, feeder.speed_mbit), between=True)
            return None if further is None else [here, *further]
        if drop.id not in self.seat:
            return None
        box, port_mbit = self.seat[drop.id]
        hops = [Hop(f"its port, {self.project.name_of(drop)}", min(drop.speed_mbit, port_mbit))]
        while box in self.parent:
            number = self.parent[box]
            upper, _, link = self.links[number]
            hops.append(
                Hop(f"link {self._box(upper)} – {self._box(box)}", rate_of(link, self._root(box)), number, between=True)
            )
            box = upper
        return hops

    def boxes_of(self, drop: Drop) -> list[BoxKey] | None:
        """The boxes from a drop to the router, its own first; None: it sits nowhere."""
        while drop.behind_id is not None:
            drop = self.project.drops_by_id[drop.behind_id]
        if drop.id not in self.seat:
            return None
        found = [self.seat[drop.id][0]]
        while found[-1] in self.parent:
            found.append(self.links[self.parent[found[-1]]][0])
        return found

    def _box(self, key: BoxKey) -> str:
        return self.grounds[key[0]].boxes[key[1]].name

    def _root(self, key: BoxKey) -> int:
        """Speed of the end of a closet's uplink [Mbit/s]; for other boxes any."""
        seating = self.grounds[key[0]].seating
        uplink = seating.boxes[key[1]].uplink if seating else None
        return uplink.speed_mbit if uplink else 0

    def flow(self, number: int, recording_mbit: float) -> LinkFlow:
        """What one link of the tree carries."""
        upper, lower, link = self.links[number]
        below = {lower}
        while more := {key for key, at in self.parent.items() if self.links[at][0] in below} - below:
            below |= more
        behind = [self.project.drops_by_id[drop_id] for drop_id, (box, _) in self.seat.items() if box in below]
        now = sum(busy_mbit(self.project, one) for drop in behind for one in (drop, *self.project.fed_by(drop)))
        ends = link.trunk.ends if isinstance(link, TrunkSeat) else 1
        rate = rate_of(link, self._root(lower)) * ends
        then = (link.trunk.traffic_kbit if isinstance(link, TrunkSeat) else link.traffic_kbit) / 1000
        return LinkFlow(
            self._box(upper), self._box(lower), lower[0], upper[0] != lower[0], ends, rate, round(now, 2), then,
            round(100 * then / rate, 1), then > rate * self.project.settings.link_fill_percent / 100, len(behind),
            round(sum(drop.speed_mbit for drop in behind) / rate, 1), round(recording_mbit, 2),
        )  # fmt: skip


def rate_of(link: Link | TrunkSeat, lower_mbit: int) -> int:
    """Rate of one cable of a link [Mbit/s]: that of its slower end."""
    if isinstance(link, TrunkSeat):
        return min(link.end.speed_mbit, lower_mbit)
    return link.option.rate_mbit


def slowed(project: Project) -> Mapping[int, tuple[Drop, ...]]:
    """Drops behind a room switch or in-wall access point that is slower than they are, by its number."""
    found: dict[int, tuple[Drop, ...]] = {}
    for number in project.behind:
        feeder = project.drops_by_id[number]
        slow = tuple(drop for drop in project.fed_by(feeder) if drop.speed_mbit > feeder.speed_mbit)
        if slow:
            found[number] = slow
    return found
