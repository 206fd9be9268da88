"""Who is in which network, what each port carries, what may be opened to whom, and what crosses the router for it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from ..demand.traffic import busy_mbit, keeper
from ..facts.drop import Drop
from ..facts.fact import Fact
from ..facts.kept import kept
from ..facts.patch import Access, Network, Permission, Purpose
from ..facts.project import Project

CAMERA_KINDS = ("camera", "door_station")


@kept
def network_of(project: Project) -> Mapping[int, Network]:
    """The network of every drop: the one that names it, else the first that names its room, else the first that names
    its kind, else the first of all.  Without networks there is nothing to tell."""
    if not project.networks:
        return {}
    by_drop = {number: one for one in reversed(project.networks) for number in one.drop_ids}
    by_room = {number: one for one in reversed(project.networks) for number in one.room_ids}
    by_kind = {kind: one for one in reversed(project.networks) for kind in one.kinds}
    first = project.networks[0]
    return {
        drop.id: by_drop.get(drop.id) or by_room.get(drop.room_id) or by_kind.get(drop.kind) or first
        for drop in project.drops
    }


def management(project: Project) -> Network | None:
    """The network in which boxes are set up: the first of that purpose, else the first of all."""
    named = (one for one in project.networks if one.purpose == "management")
    return next(named, project.networks[0] if project.networks else None)


def networks_sent(project: Project, drop: Drop) -> frozenset[int]:
    """Networks behind the Wi-Fi names that an access point sends."""
    if drop.kind != "access_point":
        return frozenset()
    return frozenset(
        one.network_id
        for one in project.wifi_names
        if one.network_id is not None and (not one.drop_ids or drop.id in one.drop_ids)
    )


@dataclass(frozen=True)
class PortNetworks:
    """What a port carries: its own network without a tag, the others with theirs (IEEE Std 802.1Q)."""

    native: int
    tagged: frozenset[int] = frozenset()

    @property
    def every(self) -> frozenset[int]:
        return self.tagged | {self.native}


@kept
def port_networks(project: Project) -> Mapping[int, PortNetworks]:
    """What the port of every drop carries: its own network, those of the names that it sends, and all that hang behind
    it."""
    home = network_of(project)
    if not home:
        return {}

    def needed(drop: Drop) -> frozenset[int]:
        own = networks_sent(project, drop) | {home[drop.id].id}
        return own.union(*(needed(one) for one in project.behind.get(drop.id, ())))

    return {d.id: PortNetworks(home[d.id].id, needed(d) - {home[d.id].id}) for d in project.drops}


class MatrixCell(Fact):
    """What clients of one network may open to another; replies follow."""

    from_id: int
    to_id: int
    access: Access
    services: tuple[str, ...] = ()
    reason: str = ""
    said: bool
    """Somebody has said it; else it is the usual: all inside a network, nothing between two."""


@kept
def matrix(project: Project) -> tuple[MatrixCell, ...]:
    """Every pair of networks, row by row."""
    said = {(one.from_id, one.to_id): one for one in project.permissions}
    return tuple(
        _cell(one.id, other.id, said.get((one.id, other.id))) for one in project.networks for other in project.networks
    )


def _cell(one: int, other: int, row: Permission | None) -> MatrixCell:
    if row is None:
        return MatrixCell(from_id=one, to_id=other, access="all" if one == other else "nothing", said=False)
    return MatrixCell(
        from_id=one, to_id=other, access=row.access, services=row.services, reason=row.reason, said=True
    )  # fmt: skip


def may_open(project: Project, one: int, other: int, service: str | None = None) -> bool:
    """Whether a client of one network may open a connection to another: any at all, or of a service."""
    cell = next(cell for cell in matrix(project) if (cell.from_id, cell.to_id) == (one, other))
    return cell.access == "all" or (cell.access == "services" and (service is None or service in cell.services))


class CameraSchool(Fact):
    """Where cameras could be, and what the router passes on for it."""

    purpose: Purpose
    network_id: int
    name: str
    is_now: bool
    routed_mbit: float
    """Busy hour: recordings to another network, and each picture looked at once from trusted clients."""


class Routed(Fact):
    """What the router passes between networks at the busy hour [Mbit/s], beside the internet."""

    recordings_mbit: float
    """Streams of cameras that are kept in another network."""
    looking_mbit: float
    """Each camera looked at once from the trusted network, where that is another one."""
    store_mbit: float
    """What NAS and servers give, where the desks are in another network."""
    internet_mbit: float
    """The lines that are no standby, as contracted."""
    throughput_mbit: int | None
    """What the router that stands passes; None: none stands."""
    schools: tuple[CameraSchool, ...]

    @property
    def sum_mbit(self) -> float:
        return self.recordings_mbit + self.looking_mbit + self.store_mbit + self.internet_mbit


def routed(project: Project, throughput_mbit: int | None) -> Routed:
    """What the router passes on."""
    home = {number: network.id for number, network in network_of(project).items()}
    recordings, looking = _cameras_mbit(project, home)
    desks = {home.get(drop.id) for drop in project.drops if drop.kind in ("desk", "jack")}
    stores = [drop for drop in project.drops if drop.kind in ("nas", "server") and project.is_counted(drop)]
    apart = [drop for drop in stores if desks - {home.get(drop.id)}] if project.networks else []
    return Routed(
        recordings_mbit=round(recordings, 2), looking_mbit=round(looking, 2),
        store_mbit=round(sum(busy_mbit(project, drop) for drop in apart), 2),
        internet_mbit=float(sum(line.down_mbit for line in project.lines if not line.standby)),
        throughput_mbit=throughput_mbit, schools=tuple(_schools(project, home)),
    )  # fmt: skip


def _cameras_mbit(project: Project, home: Mapping[int, int]) -> tuple[float, float]:
    """Streams that are kept in another network, and those looked at from another one."""
    trusted = next((one.id for one in project.networks if one.purpose in ("trusted", "work")), None)
    recordings = looking = 0.0
    for drop in project.drops:
        if drop.kind not in CAMERA_KINDS or drop.id not in home or not project.is_counted(drop):
            continue
        at = keeper(project, drop) if drop.kind == "camera" else None
        if at is not None and home[at] != home[drop.id]:
            recordings += drop.busy_mbit
        if trusted is not None and home[drop.id] != trusted:
            looking += drop.busy_mbit
    return recordings, looking


def _schools(project: Project, home: Mapping[int, int]) -> list[CameraSchool]:
    """Cameras and recorders in a network of their own, and with trusted clients."""
    cameras = [drop.id for drop in project.drops if drop.kind in CAMERA_KINDS or drop.kind == "recorder"]
    told = []
    for purpose in ("cameras", "trusted"):
        network = next((one for one in project.networks if one.purpose == purpose), None)
        if network is None and purpose == "trusted":
            network = next((one for one in project.networks if one.purpose == "work"), None)
        if network is None or not cameras:
            continue
        moved = {**home, **dict.fromkeys(cameras, network.id)}
        told.append(
            CameraSchool(
                purpose=network.purpose, network_id=network.id, name=network.name,
                is_now=all(home[number] == network.id for number in cameras),
                routed_mbit=round(sum(_cameras_mbit(project, moved)), 2),
            )
        )  # fmt: skip
    return told
