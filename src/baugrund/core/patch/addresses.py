"""The address plan: a prefix for every network by its hosts and growth, gateway, leases, and what keeps its address.

The smallest IPv4 prefix p with 2^(32 − p) ≥ hosts · (1 + growth) + 3: the network's own address, broadcast, gateway.
Prefixes that nobody typed are taken from the site's base: with the network's number as third octet where it is a /24 or
longer and the number at most 255, else the lowest block that is free.  None overlaps another one, a provider's box or
a tunnel.

References
----------
.. [1] RFC 4632: prefixes; RFC 1918: private networks; RFC 4291, 2.5.1: a /64 a network.
"""

from __future__ import annotations

import math
import re
import unicodedata
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from fractions import Fraction
from ipaddress import IPv4Address, IPv4Network, IPv6Network

from pydantic import field_serializer

from ..edits import KeepAddresses, as_sent
from ..edits.networks import KeptPrefix, NewAddress
from ..facts.fact import Fact
from ..facts.patch import Network
from ..facts.project import Project
from ..places.labels import labels
from ..stack.told import Stack
from ..standards.addresses import LONGEST
from ..standing.ground import Ground
from .networks import management, network_of

KEEPS = (
    "camera", "door_station", "printer", "nas", "recorder", "server", "access_point", "controller", "reader", "hub",
)  # fmt: skip
"""Kinds whose address is kept, for others look for them there, *default*."""


def prefix_length(hosts: int, growth_percent: float) -> int:
    """Length of the smallest prefix that holds so many hosts with their growth."""
    wanted = hosts * (1 + Fraction(str(growth_percent)) / 100) + 3
    return min(LONGEST, 32 - (math.ceil(wanted) - 1).bit_length())


@dataclass(frozen=True)
class Asks:
    """Something that keeps its address: a drop, or a box of a closet."""

    network_id: int
    name: str
    drop_id: int | None = None
    closet_id: int | None = None
    thing: str = ""


class KeptAddress(Fact):
    """An address that something keeps."""

    network_id: int | None
    """The network in whose prefix it is; None: in none."""
    address: str
    name: str
    host: str
    """Its name as a name service takes it (RFC 1123)."""
    drop_id: int | None = None
    closet_id: int | None = None
    thing: str = ""
    reserved_id: int | None = None
    """The row that says so; None: it is proposed."""


class NetworkPlan(Fact):
    """The addresses of a network."""

    network_id: int
    counted: int
    """Hosts as they are counted: drops, boxes, and wireless clients that join its names."""
    hosts: int
    """Those that the plan is made for: as typed, else as counted."""
    wanted: int
    """Addresses with growth, and three more."""
    prefix: str
    """Empty: the base has no block left."""
    typed: bool
    holds: int
    """Addresses of the prefix."""
    gateway: str = ""
    first_lease: str = ""
    last_lease: str = ""
    leases: int = 0
    prefix6: str = ""


class AddressPlan(Fact):
    """The address plan of a site."""

    networks: tuple[NetworkPlan, ...]
    kept: tuple[KeptAddress, ...]
    wrong: tuple[str, ...]
    """What does not hold, a sentence each."""
    edit: KeepAddresses | None
    """Keeps everything as it is proposed, so that it stays when hosts come and go; None: all is kept."""

    @field_serializer("edit")
    def _send(self, edit: KeepAddresses | None) -> dict[str, object] | None:
        return as_sent(edit) if edit else None


def managed_boxes(project: Project, grounds: Sequence[Ground], stack: Stack) -> list[tuple[int, str, str]]:
    """Boxes that have an address, by closet, key and name: managed ones but the router, which is the gateway."""
    found = []
    for ground in grounds:
        here = next(one for one in stack.closets if one.closet_id == ground.closet.id)
        for thing in here.things:
            if thing.box is not None and thing.kind == "switch" and ground.boxes[thing.box].managed:
                name = f"{thing.name}, {ground.closet.name}" if len(project.closets) > 1 else thing.name
                found.append((ground.closet.id, thing.key, name))
    return found


def address_plan(project: Project, boxes: Sequence[tuple[int, str, str]]) -> AddressPlan:
    """The plan of a project.  ``boxes``: managed boxes that stand, by closet, key and name; the router is no host."""
    asks = list(_asks(project, boxes))
    counted = _counted(project, boxes)
    blocks = _prefixes(project, counted)
    six = _prefixes6(project)
    kept: list[KeptAddress] = []
    plans = []
    for network in project.networks:
        block = blocks.get(network.id)
        plan = _bare(network, counted[network.id], block, six.get(network.id, ""))
        if block is not None:
            gateway = IPv4Address(network.gateway) if network.gateway else block[1]
            asking = [one for one in asks if one.network_id == network.id]
            here = list(_kept_in(project, network, block, gateway, asking))
            kept += here
            plan = _with_leases(plan, block, gateway, here, network)
        plans.append(plan)
    kept += _elsewhere(project, kept)
    return AddressPlan(
        networks=tuple(plans), kept=tuple(kept), wrong=tuple(_wrong(project, plans, kept)),
        edit=_taken(project, plans, kept),
    )  # fmt: skip


def _asks(project: Project, boxes: Sequence[tuple[int, str, str]]) -> Iterator[Asks]:
    own = management(project)
    if own is None:
        return
    for closet_id, thing, name in boxes:
        yield Asks(own.id, name, closet_id=closet_id, thing=thing)
    home = network_of(project)
    for drop in sorted(project.drops, key=lambda one: (KEEPS.index(one.kind) if one.kind in KEEPS else 99, one.id)):
        if drop.kind in KEEPS and not drop.power_only:
            yield Asks(home[drop.id].id, project.name_of(drop), drop_id=drop.id)


def _counted(project: Project, boxes: Sequence[tuple[int, str, str]]) -> Mapping[int, int]:
    """Hosts of every network: its drops but those that are power alone or spare, boxes, and wireless clients."""
    found = dict.fromkeys((network.id for network in project.networks), 0)
    for drop_id, network in network_of(project).items():
        drop = project.drops_by_id[drop_id]
        found[network.id] += drop.in_use and not drop.power_only
    own = management(project)
    if own is None:
        return found
    found[own.id] += len(boxes)
    names = {name.id: name.network_id for name in project.wifi_names}
    first = next((number for number in names.values() if number is not None), project.networks[0].id)
    for clients in project.clients:
        joined = names.get(clients.wifi_name_id) if clients.wifi_name_id is not None else None
        found[joined if joined is not None else first] += clients.count
    return found


def _prefixes(project: Project, counted: Mapping[int, int]) -> dict[int, IPv4Network]:
    """The prefix of every network, typed ones first; missing: the base has no block left."""
    taken = [IPv4Network(one.prefix) for one in project.tunnels]
    taken += [IPv4Network(line.box_prefix) for line in project.lines if line.box_prefix]
    found = {one.id: IPv4Network(one.prefix) for one in project.networks if one.prefix}
    taken += found.values()
    base = IPv4Network(project.settings.address_base) if project.settings.address_base else None
    for network in project.networks:
        if network.id in found or base is None:
            continue
        length = prefix_length(_hosts(network, counted), network.growth_percent)
        block = _free(base, length, network.number, taken)
        if block is not None:
            found[network.id] = block
            taken.append(block)
    return found


def _hosts(network: Network, counted: Mapping[int, int]) -> int:
    return counted[network.id] if network.hosts is None else network.hosts


def _free(base: IPv4Network, length: int, number: int, taken: Sequence[IPv4Network]) -> IPv4Network | None:
    """A block of a length in the base that overlaps none: with the number as third octet, else the lowest."""
    if length < base.prefixlen:
        return None
    if length >= 24 and number <= 255:
        named = IPv4Network((int(base.network_address) & 0xFFFF0000 | number << 8, length))
        if named.subnet_of(base) and not any(named.overlaps(one) for one in taken):
            return named
    size, at = 1 << (32 - length), int(base.network_address)
    while at <= int(base.broadcast_address):
        block = IPv4Network((at, length))
        over = [one for one in taken if one.overlaps(block)]
        if not over:
            return block
        # the next aligned block behind all that is in the way
        end = max(int(one.broadcast_address) for one in over) + 1
        at = max(at + size, -(-end // size) * size)
    return None


def _prefixes6(project: Project) -> dict[int, str]:
    """A /64 of the site's IPv6 prefix for every network: of its number where there are so many, else the next free."""
    found = {one.id: one.prefix6 for one in project.networks if one.prefix6}
    if not project.settings.prefix6:
        return found
    site = IPv6Network(project.settings.prefix6)
    many = 1 << (64 - site.prefixlen)
    taken = [IPv6Network(text) for text in found.values()]
    for network in project.networks:
        if network.id in found:
            continue
        places = (network.number, *range(min(many, len(project.networks) + len(taken) + 1)))
        for place in places:
            block = IPv6Network((int(site.network_address) + (place << 64), 64)) if place < many else None
            if block is not None and not any(block.overlaps(one) for one in taken):
                found[network.id] = str(block)
                taken.append(block)
                break
    return found


def _bare(network: Network, counted: int, block: IPv4Network | None, prefix6: str) -> NetworkPlan:
    hosts = counted if network.hosts is None else network.hosts
    wanted = math.ceil(hosts * (1 + Fraction(str(network.growth_percent)) / 100) + 3)
    return NetworkPlan(
        network_id=network.id, counted=counted, hosts=hosts, wanted=wanted, prefix=str(block) if block else "",
        typed=bool(network.prefix), holds=block.num_addresses if block else 0, prefix6=prefix6,
    )  # fmt: skip


def _kept_in(
    project: Project, network: Network, block: IPv4Network, gateway: IPv4Address, asks: Sequence[Asks]
) -> Iterator[KeptAddress]:
    """Who keeps an address of a network: as reserved, else the next free one from the first on."""
    called = labels(project)
    rows = {(row.drop_id, row.closet_id if row.thing else None, row.thing): row for row in project.reserved}
    taken = {IPv4Address(row.address) for row in project.reserved} | {gateway}
    coming = (at for at in block.hosts() if at not in taken)
    for one in asks:
        row = rows.get((one.drop_id, one.closet_id if one.thing else None, one.thing))
        at = IPv4Address(row.address) if row else next(coming, None)
        if at is None:
            return
        label = called.get(one.drop_id, "") if one.drop_id is not None else ""
        yield KeptAddress(
            network_id=network.id if at in block else None, address=str(at), name=one.name,
            host=host_name(f"{label} {one.name}" if label and label != one.name else one.name), drop_id=one.drop_id,
            closet_id=one.closet_id, thing=one.thing, reserved_id=row.id if row else None,
        )  # fmt: skip


def _elsewhere(project: Project, kept: Sequence[KeptAddress]) -> Iterator[KeptAddress]:
    """Reserved addresses of what asks for none by itself."""
    told = {one.reserved_id for one in kept}
    blocks = {network.id: network.prefix for network in project.networks}
    for row in project.reserved:
        if row.id in told:
            continue
        at = IPv4Address(row.address)
        inside = next((number for number, text in blocks.items() if text and at in IPv4Network(text)), None)
        drop = project.drops_by_id.get(row.drop_id) if row.drop_id is not None else None
        name = row.name or (project.name_of(drop) if drop else row.thing)
        yield KeptAddress(network_id=inside, address=row.address, name=name, host=host_name(name), drop_id=row.drop_id,
                          closet_id=row.closet_id, thing=row.thing, reserved_id=row.id)  # fmt: skip


def host_name(text: str) -> str:
    """A text as the name of a host: letters, digits and hyphens, 63 at most (RFC 1123)."""
    plain = unicodedata.normalize("NFKD", text).encode("ascii", "ignore").decode().casefold()
    return re.sub(r"[^a-z0-9]+", "-", plain).strip("-")[:63].rstrip("-") or "host"


def _with_leases(
    plan: NetworkPlan, block: IPv4Network, gateway: IPv4Address, here: Sequence[KeptAddress], network: Network
) -> NetworkPlan:
    """Leases are what is left behind kept addresses and their growth, as far as those who lease have room."""
    first, last = int(block.network_address) + 1, int(block.broadcast_address) - 1
    kept = [int(IPv4Address(one.address)) for one in here if one.network_id == network.id]
    growth = 1 + Fraction(str(network.growth_percent)) / 100
    leasing = math.ceil(max(0, plan.hosts - len(kept)) * growth)
    behind = max([int(gateway) if int(gateway) < last else first, *(at for at in kept if at < last), first]) + 1
    start = max(behind, min(first + 1 + math.ceil(len(kept) * growth), last - leasing + 1))
    if start > last:
        return plan.model_copy(update={"gateway": str(gateway)})
    return plan.model_copy(
        update={
            "gateway": str(gateway), "first_lease": str(IPv4Address(start)), "last_lease": str(IPv4Address(last)),
            "leases": last - start + 1 - (start <= int(gateway) <= last),
        }
    )  # fmt: skip


def _wrong(project: Project, plans: Sequence[NetworkPlan], kept: Sequence[KeptAddress]) -> Iterator[str]:
    """What does not hold: overlaps, hosts over what a prefix holds, addresses out of place."""
    names = {network.id: network.name for network in project.networks}
    blocks = [(f"{names[one.network_id]} ({one.prefix})", IPv4Network(one.prefix)) for one in plans if one.prefix]
    others = [(f"the tunnel {one.name} ({one.prefix})", IPv4Network(one.prefix)) for one in project.tunnels]
    others += [
        (f"the provider's box of {line.name} ({line.box_prefix})", IPv4Network(line.box_prefix))
        for line in project.lines
        if line.box_prefix
    ]
    for place, (one, block) in enumerate(blocks):
        for other, further in [*blocks[:place], *others]:
            if block.overlaps(further):
                yield f"{one} overlaps {other}."
    for plan in plans:
        name = names[plan.network_id]
        if not plan.prefix:
            yield f"{name} finds no block of {plan.wanted} addresses in {project.settings.address_base or 'no base'}."
        elif plan.wanted > plan.holds:
            yield f"{name} wants {plan.wanted} addresses with growth; {plan.prefix} holds {plan.holds}."
        if plan.prefix and plan.gateway and not _is_host(IPv4Network(plan.prefix), IPv4Address(plan.gateway)):
            yield f"The gateway {plan.gateway} of {name} is no host of {plan.prefix}."
    at = {plan.network_id: IPv4Network(plan.prefix) for plan in plans if plan.prefix}
    gateways = {plan.gateway: names[plan.network_id] for plan in plans if plan.gateway}
    for row in kept:
        inside = at.get(row.network_id or -1)
        if inside is None or not _is_host(inside, IPv4Address(row.address)):
            yield f"{row.name} keeps {row.address}, which is no host of its network."
        elif row.address in gateways:
            yield f"{row.name} keeps {row.address}, which is the gateway of {gateways[row.address]}."


def _is_host(block: IPv4Network, at: IPv4Address) -> bool:
    return at in block and at not in (block.network_address, block.broadcast_address)


def _taken(project: Project, plans: Sequence[NetworkPlan], kept: Sequence[KeptAddress]) -> KeepAddresses | None:
    """The edit that keeps what is only proposed; None: nothing is."""
    networks = {network.id: network for network in project.networks}
    prefixes = tuple(
        KeptPrefix(network_id=plan.network_id, prefix=plan.prefix, prefix6=plan.prefix6)
        for plan in plans
        if (plan.prefix and not networks[plan.network_id].prefix)
        or (plan.prefix6 and not networks[plan.network_id].prefix6)
    )
    addresses = tuple(
        NewAddress(address=one.address, drop_id=one.drop_id, closet_id=one.closet_id, thing=one.thing)
        for one in kept
        if one.reserved_id is None
    )
    return KeepAddresses(prefixes=prefixes, addresses=addresses) if prefixes or addresses else None
