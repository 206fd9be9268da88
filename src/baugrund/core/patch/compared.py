"""What a switch told of its ports beside what is plugged as far as anybody knows: every difference, and two ways to
settle it: mend it on site, or take it as built.  Neither side is overwritten."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from typing import Literal

from pydantic import field_serializer

from ..edits import AddDrops, ChangeDrops, DropChanges, Edit, MoveToNetwork, PinCord, as_sent
from ..facts.drop import Drop
from ..facts.fact import Fact
from ..facts.lines.line import SPEEDS
from ..facts.order_of_work import drop_of
from ..facts.patch import Discovered
from ..facts.project import Project
from ..places.labels import labels
from ..words import speed
from .addresses import host_name
from .lines import PortLine
from .networks import network_of

WATTS_OVER = 1.0
"""A device that takes so much more than is counted for it is told [W], *default*."""

DifferenceKind = Literal["swapped", "dead", "slow", "network", "unknown", "watts"]


class PortDifference(Fact):
    """Where a port is not as planned."""

    row_id: int
    """The row of what was discovered."""
    closet_id: int
    at_port: str
    kind: DifferenceKind
    text: str
    drop_ids: tuple[int, ...] = ()
    mend: bool
    """It is on the list of what is mended on site."""
    take: tuple[Edit, ...]
    """Takes it as built; empty: it can only be mended."""

    @field_serializer("take")
    def _send(self, take: tuple[Edit, ...]) -> list[dict[str, object]]:
        return [as_sent(edit) for edit in take]


class Compared(Fact):
    """What was discovered beside the plan."""

    told: int
    """Ports of which something was told."""
    same: int
    """Of those as planned."""
    differences: tuple[PortDifference, ...]


def compared(project: Project, lines: Mapping[int, Sequence[PortLine]]) -> Compared:
    """Every difference between what was discovered and the port lists of the closets."""
    at: dict[tuple[int, str, int | None], PortLine] = {
        (closet, line.box, line.port): line for closet, some in lines.items() for line in some if line.port
    }
    named = _named(project)
    found: list[PortDifference] = []
    for row in project.discovered:
        found += _of_port(project, row, at.get((row.closet_id, row.box, row.port)), named, at)
    ports = {(one.closet_id, one.at_port) for one in found}
    return Compared(told=len(project.discovered), same=len(project.discovered) - len(ports), differences=tuple(found))


def _named(project: Project) -> Mapping[str, Drop]:
    """Drops by all that their device may call itself: label, name, both as names of hosts, and the hardware address
    that was read at the bench."""
    called = labels(project)
    found: dict[str, Drop] = {}
    for row in project.benched:
        drop = project.drops_by_id.get(drop_of(row.subject) or 0)
        if drop is not None and row.hardware:
            found[row.hardware.casefold()] = drop
    for drop in project.drops:
        name, label = project.name_of(drop), called.get(drop.id, "")
        for text in (label, name, host_name(name), host_name(f"{label} {name}" if label != name else name)):
            if text:
                found.setdefault(text.casefold(), drop)
    return found


def _of_port(
    project: Project, row: Discovered, line: PortLine | None, named: Mapping[str, Drop],
    at: Mapping[tuple[int, str, int | None], PortLine],
) -> Iterator[PortDifference]:  # fmt: skip
    port = line.at_port if line else _port_name(row, at)
    planned = project.drops_by_id.get(line.drop_id or -1) if line else None
    hardware = row.hardware.replace("-", ":").casefold()
    answers = named.get(hardware) or named.get((row.name or row.hardware).casefold())

    def told(kind: DifferenceKind, text: str, take: Sequence[Edit] = (), drops: Sequence[Drop] = ()) -> PortDifference:
        return PortDifference(row_id=row.id, closet_id=row.closet_id, at_port=port, kind=kind, text=text, mend=row.mend,
                          take=tuple(take), drop_ids=tuple(drop.id for drop in drops))  # fmt: skip

    if line is not None and line.use in ("link", "uplink"):
        if not row.up:
            yield told("dead", f"Port {port} is dead; the link to {line.name} should be there.")
        return
    if not row.up:
        if planned is not None and planned.in_use:
            out = ChangeDrops(ids=(planned.id,), changes=DropChanges(in_use=False))
            yield told("dead", f"Port {port} is dead; {_name(project, planned)} should be there.", [out], [planned])
        return
    if answers is not None and answers is not planned:
        here = PinCord(drop_id=answers.id, box=row.box, port=row.port, fixed=False)
        instead = f", where {_name(project, planned)} should be" if planned else ", which should be free"
        take = [here] if answers.has_run and answers.closet_id == row.closet_id else []
        yield told("swapped", f"{_name(project, answers)} answers on port {port}{instead}.", take,
                   [answers, planned] if planned else [answers])  # fmt: skip
        return
    if planned is None:
        yield told("unknown", f"{row.name or 'Something without a name'} answers on port {port}, which should be free.",
                   _added(project, row))  # fmt: skip
        return
    yield from _of_device(project, row, line, planned, told)


def _of_device(
    project: Project, row: Discovered, line: PortLine | None, planned: Drop, told: Callable[..., PortDifference]
) -> Iterator[PortDifference]:
    """What is other about the device that should be there: its speed, its network, what it takes."""
    name = _name(project, planned)
    wanted = min(planned.speed_mbit, line.speed_mbit or planned.speed_mbit) if line else planned.speed_mbit
    if row.speed_mbit is not None and 0 < row.speed_mbit < wanted:
        slower = [one for one in SPEEDS if one == row.speed_mbit]
        take = [ChangeDrops(ids=(planned.id,), changes=DropChanges(speed_mbit=one)) for one in slower]
        yield told("slow", f"{name} runs at {speed(row.speed_mbit)}; {speed(wanted)} is expected.", take, [planned])
    home = network_of(project).get(planned.id)
    if row.number is not None and home is not None and row.number != home.number:
        there = next((one for one in project.networks if one.number == row.number), None)
        moves = [MoveToNetwork(drop_ids=(planned.id,), network_id=there.id)] if there else []
        of = f"{row.number} {there.name}" if there else f"{row.number}, which is none of this site"
        yield told("network", f"{name} is in network {of}; it belongs in {home.number} {home.name}.", moves, [planned])
    counted = line.watts if line else 0.0
    if row.watts is not None and counted and row.watts > counted + WATTS_OVER:
        measured = ChangeDrops(ids=(planned.id,), changes=DropChanges(measured_w=round(row.watts, 1)))
        yield told("watts", f"{name} takes {row.watts:g} W; {counted:g} W are counted for it.", [measured], [planned])


def _added(project: Project, row: Discovered) -> list[Edit]:
    """An unknown device as a drop in the closet's own room, on the port where it answers."""
    closet = project.closets_by_id[row.closet_id]
    if closet.room_id is None:
        return []
    said = {"closet_id": closet.id, "label": row.name or row.hardware}
    known = {"speed_mbit": row.speed_mbit} if row.speed_mbit in SPEEDS else {}
    changes = DropChanges.model_validate({**said, **known})
    return [AddDrops(room=closet.room_id, kind="jack", changes=changes)]


def _name(project: Project, drop: Drop) -> str:
    label = labels(project).get(drop.id, "")
    name = project.name_of(drop)
    return name if not label or label == name else f"{name} ({label})"


def _port_name(row: Discovered, at: Mapping[tuple[int, str, int | None], PortLine]) -> str:
    """A port that nobody has as it stands on its box: by any other line of the same box."""
    other = next((line for (closet, box, _), line in at.items() if (closet, box) == (row.closet_id, row.box)), None)
    return f"{other.at_port.partition('/')[0]}/{row.port}" if other else str(row.port)
