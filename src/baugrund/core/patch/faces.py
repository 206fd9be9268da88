"""The front of panels and boxes: ports in their groups and rows, and who has each."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

from ..facts.fact import Fact
from ..stack.things import Thing
from .lines import PortLine
from .patching import Patching
from .ports import ports_of


class PortFace(Fact):
    """A port of a box, slot or WAN port, where it stands on its face."""

    name: str
    number: int | None
    column: int
    row: int
    speed_mbit: int
    poe_class: int | None = None
    line: str = ""
    """The line of the port list that has it; empty: nobody."""


class Face(Fact):
    """The front of a panel or box: its ports in their groups and rows."""

    thing: str
    name: str
    short: str
    """What stands on labels for it: A, B of panels, 1, 2 of boxes."""
    kind: str
    columns: int
    rows: int
    ports: tuple[PortFace, ...]


def faces_of(patching: Patching, lines: Sequence[PortLine]) -> Iterator[Face]:
    """Panels, then boxes, as they stand from the top down where that is known."""
    at_position = {(line.panel, line.position): line.key for line in lines if line.panel}
    at_port = {line.at_port: line.key for line in lines if line.at_port}
    high = {thing.key: thing.unit or 0 for thing in patching.things}
    faces = []
    for thing in patching.things:
        if thing.kind == "panel" and thing.positions:
            columns = thing.positions if thing.positions <= 24 else -(-thing.positions // 2)
            ports = tuple(
                PortFace(name=str(n + 1), number=n + 1, column=n % columns, row=n // columns, speed_mbit=0,
                         line=at_position.get((thing.key, n + 1), ""))
                for n in range(thing.positions)
            )  # fmt: skip
            faces.append(
                Face(
                    thing=thing.key, name=thing.name, short=patching.short[thing.key], kind="panel", columns=columns,
                    rows=-(-thing.positions // columns), ports=ports,
                )
            )  # fmt: skip
        elif thing.box is not None and patching.seating is not None:
            faces.append(_of_box(patching, thing, at_port))
    yield from sorted(faces, key=lambda face: -high[face.thing])


def _of_box(patching: Patching, thing: Thing, at_port: Mapping[str, str]) -> Face:
    assert patching.seating is not None
    model, short = patching.seating.boxes[patching.at_box[thing.key]].model, patching.short[thing.key]
    ports = [
        PortFace(name=str(p.number), number=p.number, column=p.column, row=p.row, speed_mbit=p.speed_mbit,
                 poe_class=p.poe_class, line=at_port.get(f"{short}/{p.number}", ""))
        for p in ports_of(model)
    ]  # fmt: skip
    column = max((port.column for port in ports), default=-1) + 1
    beside = [(f"W{n + 1}", mbit) for n, mbit in enumerate(getattr(model, "wan_mbit", ()))]
    beside += [
        (f"S{n + 1}", mbit) for n, mbit in enumerate(slot.speed_mbit for slot in model.slots for _ in range(slot.count))
    ]
    for place, (called, mbit) in enumerate(beside):
        ports.append(
            PortFace(name=called, number=None, column=column + place, row=0, speed_mbit=mbit,
                     line=at_port.get(f"{short}/{called}", ""))
        )  # fmt: skip
    return Face(
        thing=thing.key, name=thing.name, short=short, kind=thing.kind, columns=column + len(beside),
        rows=max(port.row for port in ports) + 1, ports=tuple(ports),
    )  # fmt: skip
