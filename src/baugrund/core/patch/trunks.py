"""Which networks cross which link because something behind it needs them, and the sheet of every box.

The router is the gateway of every network, so a link carries what anything below it needs, and nothing else.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from collections.abc import Set as AbstractSet
from typing import Literal

from ..facts.fact import Fact
from ..facts.patch import Network
from ..facts.project import Project
from .lines import PortLine
from .networks import PortNetworks, management, port_networks
from .patching import Patching


class BoxKey(Fact):
    """A box by its closet and its key there."""

    closet_id: int
    thing: str


class PortSetting(Fact):
    """How one port is set."""

    port: str
    """As it stands on the box: a number, W1 of WAN ports, S1 of slots."""
    use: Literal["drop", "link", "uplink", "feed", "free"]
    label: str = ""
    """What stands on the cable."""
    what: str = ""
    native: int | None = None
    """Number of the network without a tag; None: no network, it is off or a line."""
    tagged: tuple[int, ...] = ()
    """Numbers of networks with a tag."""
    power: bool = False
    priority: str = ""
    """Whose power goes last when watts are short: critical, high or low."""


class BoxSheet(Fact):
    """How a box is set: its networks and every port."""

    closet_id: int
    thing: str
    name: str
    short: str
    managed: bool
    networks: tuple[int, ...]
    """Numbers of all networks that it carries."""
    ports: tuple[PortSetting, ...]


class DeviceSheet(Fact):
    """How an access point or a room switch is set: its own network, and the others that it passes on."""

    drop_id: int
    name: str
    native: int
    tagged: tuple[int, ...]
    managed: bool
    """Whether it is told to keep networks apart; room switches are not, unless they are known to."""


class CableLine(Fact):
    """One of several cables of a link, and the networks that cross it; none of them without a tag where another cable
    carries the one that boxes are set up in."""

    cable: int
    native: int | None
    tagged: tuple[int, ...]


class TrunkLine(Fact):
    """A link, and the networks that cross it."""

    upper: BoxKey
    lower: BoxKey
    native: int
    tagged: tuple[int, ...]
    ends: int = 1
    """Cables of the link."""
    bundle: bool = False
    """Several cables that carry everything together."""
    cables: tuple[CableLine, ...] = ()
    """Several cables that each carry networks of their own."""


class Trunks(Fact):
    """What crosses every link, and how every box is set."""

    links: tuple[TrunkLine, ...]
    boxes: tuple[BoxSheet, ...]
    devices: tuple[DeviceSheet, ...]
    plain: tuple[BoxKey, ...]
    """Plain switches that would have to carry several networks."""


def trunks_of(project: Project, patchings: Sequence[Patching], lines: Mapping[int, Sequence[PortLine]]) -> Trunks:
    """The trunks of a site.  ``lines``: the port list of each closet."""
    own = management(project)
    if own is None:
        return Trunks(links=(), boxes=(), devices=(), plain=())
    number = {network.id: network.number for network in project.networks}
    by_port = port_networks(project)
    above = dict(_above(project, patchings))
    needs = dict(_needs(patchings, by_port, own.id))
    below = {key: set(some) for key, some in needs.items()}
    # what a box needs, every box on its way to the root passes on
    for key, some in needs.items():
        at = key
        while at in above:
            at = above[at]
            below[at] |= some
    ends = {
        (fed, here.closet.id): seat.trunk.ends
        for here in patchings
        if here.seating
        for seat in here.seating.trunks
        for fed in (seat.trunk.closet_id,)
    }
    links = tuple(
        _link(project, upper, lower, own, below[lower], ends.get((lower.closet_id, upper.closet_id), 1))
        for lower, upper in sorted(above.items(), key=lambda pair: (pair[0].closet_id, pair[0].thing))
    )
    crossing = {frozenset((line.upper, line.lower)): line for line in links}
    boxes, plain = [], []
    for patching in patchings:
        for thing in patching.boxes:
            key = BoxKey(closet_id=patching.closet.id, thing=thing.key)
            assert patching.seating is not None
            managed = patching.seating.boxes[patching.at_box[thing.key]].model.managed
            carried = tuple(sorted(number[one] for one in below.get(key, set())))
            here = [line for line in lines[patching.closet.id] if line.box == thing.key and line.use != "reserve"]
            settings = tuple(_setting(project, patching, line, by_port, number, crossing) for line in here)
            boxes.append(
                BoxSheet(closet_id=key.closet_id, thing=thing.key, name=thing.name, short=patching.short[thing.key],
                         managed=managed, networks=carried, ports=settings)
            )  # fmt: skip
            if not managed and len(carried) > 1:
                plain.append(key)
    return Trunks(
        links=links, boxes=tuple(boxes), devices=tuple(_devices(project, by_port, number)), plain=tuple(plain)
    )


def _link(
    project: Project, upper: BoxKey, lower: BoxKey, own: Network, needed: AbstractSet[int], ends: int
) -> TrunkLine:
    """What crosses a link; of several cables what each carries, where somebody has said it."""
    number = {network.id: network.number for network in project.networks}
    tagged = tuple(sorted(number[one] for one in needed - {own.id}))
    said = {
        row.cable: set(row.network_ids) & needed for row in project.cable_networks if row.closet_id == lower.closet_id
    }
    said = {cable: some for cable, some in said.items() if cable <= ends and some} if ends > 1 else {}
    cables = []
    if said:
        rest = needed - set().union(*said.values())
        said[1] = said.get(1, set()) | rest
        for cable in range(1, ends + 1):
            some = said.get(cable, set())
            cables.append(
                CableLine(cable=cable, native=own.number if own.id in some else None,
                          tagged=tuple(sorted(number[one] for one in some - {own.id})))
            )  # fmt: skip
    return TrunkLine(upper=upper, lower=lower, native=own.number, tagged=tagged, ends=ends,
                     bundle=ends > 1 and not cables, cables=tuple(cables))  # fmt: skip


def _above(project: Project, patchings: Sequence[Patching]) -> Iterator[tuple[BoxKey, BoxKey]]:
    """The box that each box hangs from, over all closets."""
    for patching in patchings:
        if patching.seating is None:
            continue
        here = [BoxKey(closet_id=patching.closet.id, thing=key) for key in patching.keys]
        for link in patching.seating.links:
            yield here[link.lower], here[link.upper]
        for seat in patching.seating.trunks:
            fed = next((one for one in patchings if one.closet.id == seat.trunk.closet_id and one.keys), None)
            if fed is not None:
                yield BoxKey(closet_id=fed.closet.id, thing=fed.keys[0]), here[seat.box]


def _needs(
    patchings: Sequence[Patching], by_port: Mapping[int, PortNetworks], own: int
) -> Iterator[tuple[BoxKey, frozenset[int]]]:
    """What is needed at every box: the networks of its drops, and the one in which it is set up itself."""
    for patching in patchings:
        found: dict[int, set[int]] = {place: set() for place in range(len(patching.keys))}
        for drop_id, cord in patching.cords.items():
            if drop_id in by_port:
                found[cord.box] |= by_port[drop_id].every
        for place, key in enumerate(patching.keys):
            managed = patching.seating is not None and patching.seating.boxes[place].model.managed
            yield (
                BoxKey(closet_id=patching.closet.id, thing=key),
                frozenset(found[place] | ({own} if managed else set())),
            )


def _setting(
    project: Project, patching: Patching, line: PortLine, by_port: Mapping[int, PortNetworks],
    number: Mapping[int, int], crossing: Mapping[frozenset[BoxKey], TrunkLine],
) -> PortSetting:  # fmt: skip
    port = line.at_port.partition("/")[2]
    use: Literal["drop", "link", "uplink", "feed"] = line.use if line.use in ("link", "uplink", "feed") else "drop"
    if line.drop_id is not None and line.drop_id in by_port:
        carries = by_port[line.drop_id]
        drop = project.drops_by_id[line.drop_id]
        return PortSetting(
            port=port, use=use, label=line.label, what=line.name, native=number[carries.native],
            tagged=tuple(sorted(number[one] for one in carries.tagged)), power=line.watts > 0, priority=drop.priority,
        )  # fmt: skip
    here = BoxKey(closet_id=patching.closet.id, thing=line.box)
    link = next((one for pair, one in crossing.items() if here in pair and _is_other(pair, here, line.end)), None)
    number_of = line.end.rpartition("/")[2] if line.end.startswith("closet/") else ""
    cable = next((one for one in link.cables if str(one.cable) == number_of), None) if link else None
    crossed: TrunkLine | CableLine | None = cable or link
    return PortSetting(
        port=port, use=use, what=line.name, native=crossed.native if crossed else None,
        tagged=crossed.tagged if crossed else (),
    )  # fmt: skip


def _is_other(pair: frozenset[BoxKey], here: BoxKey, end: str) -> bool:
    """Whether the far end of a link is what a cord is patched to: a box of this closet, or any of another closet."""
    other = next(one for one in pair if one != here)
    kind, _, rest = end.partition("/")
    if kind == "closet":
        return other.closet_id == int(rest.partition("/")[0])
    return other == BoxKey(closet_id=here.closet_id, thing=end)


def _devices(project: Project, by_port: Mapping[int, PortNetworks], number: Mapping[int, int]) -> Iterator[DeviceSheet]:
    for drop in project.drops:
        carries = by_port[drop.id]
        if carries.tagged or drop.lan_ports:
            yield DeviceSheet(
                drop_id=drop.id, name=project.name_of(drop), native=number[carries.native],
                tagged=tuple(sorted(number[one] for one in carries.tagged)), managed=drop.kind == "access_point",
            )  # fmt: skip
