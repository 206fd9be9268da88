"""What does not hold between networks: who is cut off, who reaches too much, what cannot keep them apart."""

from __future__ import annotations

from collections.abc import Iterator

from ..demand.traffic import keeper
from ..edits import SetPermission
from ..facts.patch import Network
from ..facts.project import Project
from ..patch.addresses import address_plan, managed_boxes
from ..patch.networks import (
    management,
    may_open,
    network_of,
    networks_sent,
    port_networks,
    routed,
)
from ..patch.told import patch_of
from ..standards.addresses import behind_translation
from ..standing.ground import router_of
from ..words import counted
from .finding import Finding, Settle, SiteState

CLIENTS = ("desk", "jack", "console", "phone", "screen")
"""Kinds at which somebody sits, or that clients' own devices are plugged into."""


def cut_off(site: SiteState) -> Iterator[Finding]:
    """Recorders that do not reach their cameras, and printers that nobody reaches."""
    project, home = site.project, network_of(site.project)
    if not home:
        return
    apart: dict[tuple[int, int], list[int]] = {}
    for drop in project.drops:
        at = keeper(project, drop) if drop.kind == "camera" else None
        if at is not None and not _reach_each_other(project, home[at].id, home[drop.id].id):
            apart.setdefault((at, home[drop.id].id), []).append(drop.id)
    for (at, number), cameras in apart.items():
        recorder, network = project.drops_by_id[at], _network(project, number)
        yield Finding(
            key=f"recorder-cut-off-{at}-{number}", weight="breaks", subject=project.name_of(recorder), verb="patch",
            text=f"in {home[at].name} cannot open a stream to"
            f" {counted(len(cameras), 'camera')} in {network.name}: nothing of them is recorded.",
            drop_ids=(at, *cameras),
            settle=Settle(
                label="Let the recorder open streams",
                edit=SetPermission(from_id=home[at].id, to_id=number, access="services", services=("video",),
                                   reason="The recorder fetches what cameras film."),
            ),
        )  # fmt: skip
    yield from _printers(project)


def _reach_each_other(project: Project, one: int, other: int) -> bool:
    """Whether a recorder fetches a camera's stream, or the camera brings it."""
    return may_open(project, one, other, "video") or may_open(project, other, one, "video")


def _printers(project: Project) -> Iterator[Finding]:
    homes = network_of(project)
    with_clients = {homes[drop.id].id for drop in project.drops if drop.kind in CLIENTS}
    with_clients |= {one.network_id for one in project.wifi_names if one.network_id is not None}
    for drop in project.drops:
        if drop.kind != "printer":
            continue
        at = homes[drop.id]
        if not any(may_open(project, number, at.id, "printing") for number in with_clients):
            yield Finding(
                key=f"printer-unreached-{drop.id}", weight="breaks", subject=project.name_of(drop), verb="patch",
                text=f"is reached by nobody: no network with people in it may print to {at.name}.",
                drop_ids=(drop.id,),
            )  # fmt: skip


def open_too_far(site: SiteState) -> Iterator[Finding]:
    """Guests who reach something, and addresses of boxes that others than trusted people may open."""
    project = site.project
    boxes = management(project)
    for network in project.networks:
        others = [one for one in project.networks if one is not network and may_open(project, network.id, one.id)]
        if network.purpose == "guests" and others:
            yield Finding(
                key=f"guests-reach-{network.id}", weight="strains", subject=network.name, verb="patch",
                text=f"may open connections to {_list(others)}, and guests are in it.",
                settle=_shut(network, others[0]),
            )  # fmt: skip
        elif boxes in others and network.purpose not in ("trusted", "work") and boxes is not None:
            yield Finding(
                key=f"boxes-open-{network.id}", weight="strains", subject=boxes.name, verb="patch",
                text=f"has the addresses at which boxes are set up, and {network.name} may open them.",
                settle=_shut(network, boxes),
            )  # fmt: skip
    if boxes is not None and len(project.networks) > 1:
        home = network_of(project)
        clients = tuple(drop.id for drop in project.drops if drop.kind in CLIENTS and home[drop.id] is boxes)
        if clients:
            yield Finding(
                key="boxes-with-clients", weight="strains", subject=boxes.name, verb="patch",
                text=f"has the addresses at which boxes are set up, and {counted(len(clients), 'client drop')}"
                " in it can open them.",
                drop_ids=clients,
            )  # fmt: skip


def _shut(one: Network, other: Network) -> Settle:
    return Settle(
        label=f"Let {one.name} open nothing in {other.name}",
        edit=SetPermission(from_id=one.id, to_id=other.id, access="nothing"),
    )


def wifi(site: SiteState) -> Iterator[Finding]:
    """Wi-Fi names with no network behind them; guest networks of which nobody says how guests come in."""
    for name in site.project.wifi_names:
        if name.network_id is None:
            yield Finding(
                key=f"wifi-without-network-{name.id}", weight="breaks", subject=name.name, verb="patch",
                text="has no network behind it: who joins it reaches nothing.",
            )  # fmt: skip
    for network in site.project.networks:
        if network.purpose == "guests" and not network.way_in:
            yield Finding(
                key=f"guests-way-in-{network.id}", weight="note", subject=network.name, verb="patch",
                text="does not say how guests come in.",
            )  # fmt: skip


def services_outside(site: SiteState) -> Iterator[Finding]:
    """Cameras whose recordings go to an outside service, in a network that does not reach the internet."""
    home = network_of(site.project)
    for network in site.project.networks:
        cut = tuple(d.id for d in site.project.drops if d.by_service and not network.internet and home[d.id] is network)
        if cut:
            yield Finding(
                key=f"service-cut-off-{network.id}", weight="breaks", subject=network.name, verb="patch",
                text=f"may not open connections to the internet, and an outside service records"
                f" {counted(len(cut), 'camera')} in it.",
                drop_ids=cut,
            )  # fmt: skip


def kept_apart(site: SiteState) -> Iterator[Finding]:
    """Plain switches and routers that cannot keep so many networks apart, or pass so much between them."""
    project = site.project
    if len(project.networks) < 2:
        return
    yield from _room_switches(project)
    router = router_of(site.grounds)
    if router is not None and router.networks is not None and router.networks < len(project.networks):
        yield Finding(
            key="router-networks", weight="breaks", subject=router.name, verb="patch",
            text=f"keeps {counted(router.networks, 'network')} apart; there are {len(project.networks)}.",
        )  # fmt: skip
    if router is not None:
        told = routed(project, router.throughput_mbit)
        if told.sum_mbit > router.throughput_mbit:
            yield Finding(
                key="router-between-networks", weight="strains", subject=router.name, verb="load",
                text=f"has {told.sum_mbit:g} Mbit/s to pass between networks and to the internet"
                f" at the busy hour; it passes {router.throughput_mbit}.",
            )  # fmt: skip
    if site.stack is not None and any(not box.managed for ground in site.grounds for box in ground.boxes):
        for box in patch_of(project, site.grounds, site.stack, better=False).trunks.plain:
            here = next(one for one in site.stack.closets if one.closet_id == box.closet_id)
            thing = next(one for one in here.things if one.key == box.thing)
            yield Finding(
                key=f"plain-switch-{box.closet_id}-{box.thing}", weight="breaks", subject=thing.name, verb="patch",
                text=f"in {project.closets_by_id[box.closet_id].name} is a plain switch: it cannot keep"
                " apart the networks that would have to pass it.",
            )  # fmt: skip


def addresses(site: SiteState) -> Iterator[Finding]:
    """What does not hold in the address plan; two routers that translate addresses in series."""
    project = site.project
    if project.networks and site.stack is not None:
        plan = address_plan(project, managed_boxes(project, site.grounds, site.stack))
        for number, text in enumerate(plan.wrong):
            yield Finding(key=f"addresses-{number}", weight="breaks", subject="Addresses", verb="patch", text=text)
    for line in project.lines:
        if line.wan_address and behind_translation(line.wan_address) and not line.series_kept:
            yield Finding(
                key=f"translated-twice-{line.id}", weight="strains", subject=line.name, verb="patch",
                text=f"gives the router's WAN port {line.wan_address}: addresses are translated twice in series.",
            )  # fmt: skip


def _room_switches(project: Project) -> Iterator[Finding]:
    """Room switches with several networks behind them."""
    carried = port_networks(project)
    for drop in project.drops:
        if drop.kind == "room_switch" and carried[drop.id].tagged and not networks_sent(project, drop):
            yield Finding(
                key=f"room-switch-networks-{drop.id}", weight="strains", subject=project.name_of(drop), verb="patch",
                text=f"has {len(carried[drop.id].every)} networks behind it: it has to be a"
                " managed switch, or what hangs there has to be in one network.",
                drop_ids=(drop.id, *(one.id for one in project.fed_by(drop))),
            )  # fmt: skip


def _network(project: Project, number: int) -> Network:
    return next(one for one in project.networks if one.id == number)


def _list(networks: list[Network]) -> str:
    names = [one.name for one in networks]
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"
