"""The lines of a port list: every drop, link, feed and spare from its jack to its port."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from ..facts.fact import Fact
from ..facts.patch import Patch
from ..facts.project import Project
from ..places.labels import labels
from ..reach.runs import lengths
from .ends import Use
from .networks import port_networks
from .patching import Patching
from .ports import ports_of
from .positions import Position


class PortLine(Fact):
    """A line of the port list, from the jack to the port."""

    key: str
    use: Use
    end: str = ""
    """What is patched where it is no drop."""
    drop_id: int | None = None
    label: str = ""
    """What stands at both ends of its cable."""
    name: str
    kind: str = ""
    room_id: int | None = None
    run_m: float | None = None
    panel: str = ""
    position: int | None = None
    box: str = ""
    port: int | None = None
    at_panel: str = ""
    """Panel and position in one word: A14."""
    at_port: str = ""
    """Box and port in one word: 2/14, of WAN ports 1/W1, of slots 1/S1; empty: it has none."""
    speed_mbit: int | None = None
    poe_class: int | None = None
    """Of the port; None: it gives no power."""
    watts: float = 0.0
    """What the drop takes from this port, by the school, without margin [W]."""
    injector: str = ""
    """The injector between port and cable."""
    cord_m: float | None = None
    network_id: int | None = None
    """Its own network; None: it is no drop, or there are no networks."""
    tagged: tuple[int, ...] = ()
    """Other networks that its port carries."""
    fixed: bool = False
    was_panel: str = ""
    was_position: int | None = None
    was_box: str = ""
    was_port: int | None = None
    """Where it is plugged, where that differs."""
    moves: bool = False
    """It is plugged elsewhere, and has to be moved."""


def lines_of(project: Project, patching: Patching, plugged: Patching | None = None) -> Iterator[PortLine]:
    """Every line, in the order of panels and positions, then what has none.  ``plugged``: knows what is plugged."""
    plugged = plugged or patching
    found = [*_of_drops(project, patching, plugged), *_of_ends(project, patching, plugged), *_in_reserve(patching)]
    order = {key: place for place, (key, _) in enumerate(patching.panels)}
    yield from sorted(
        found, key=lambda one: (order.get(one.panel, len(order)), one.position or 0, one.box, one.port or 0, one.key)
    )


def _of_drops(project: Project, patching: Patching, plugged: Patching) -> Iterator[PortLine]:
    called, run_m, carried = labels(project), lengths(project), port_networks(project)
    seats = {place.drop_id: (place, need) for place, need in patching.places if place.drop_id is not None}
    for drop in patching.drops:
        position = patching.positions.get(f"drop/{drop.id}", ("", None))
        cord = patching.cords.get(drop.id)
        place, need = seats.get(drop.id, (None, None))
        port = ports_of(patching.seating.boxes[cord.box].model)[cord.port - 1] if cord and patching.seating else None
        was = plugged.by_drop.get(drop.id)
        box = patching.keys[cord.box] if cord else ""
        start = patching.start_of(drop)
        moved = was is not None and (
            (bool(was.panel) and (was.panel, was.position) != position)
            or (bool(was.box) and (was.box, was.port) != (box, cord.port if cord else None))
        )
        yield PortLine(
            key=f"drop/{drop.id}", use="drop" if cord else "cable", drop_id=drop.id, label=called.get(drop.id, ""),
            name=project.name_of(drop), kind=drop.kind, room_id=drop.room_id, run_m=run_m.get(drop.id),
            panel=position[0], position=position[1], box=box, port=cord.port if cord else None,
            at_panel=_at_panel(patching, position), at_port=f"{patching.short[box]}/{cord.port}" if cord else "",
            speed_mbit=port.speed_mbit if port else None,
            poe_class=port.poe_class if port else None,
            watts=need.power_mw / 1000 if need and place and place.powered else 0.0,
            injector=(place.injector or "") if place else "",
            cord_m=patching.cord_m(start, box) if cord and start else None, fixed=bool(was and was.fixed),
            network_id=carried[drop.id].native if carried else None,
            tagged=tuple(sorted(carried[drop.id].tagged)) if carried else (), **_was(was, moved),
        )  # fmt: skip


def _of_ends(project: Project, patching: Patching, plugged: Patching) -> Iterator[PortLine]:
    names = {thing.key: thing.name for thing in patching.things}
    for one in patching.ends:
        box = patching.keys[one.box]
        position = patching.positions.get(one.end, ("", None)) if one.on_panel else ("", None)
        was = plugged.end_row(box, one.end)
        moved = was is not None and (
            (was.panel, was.position) != position if was.panel else was.port is not None and was.port != one.port
        )
        yield PortLine(
            key=f"{box}>{one.end}", end=one.end, use=one.use, name=_named(project, names, one.end),
            panel=position[0], position=position[1],
            box=box, port=one.port, at_panel=_at_panel(patching, position),
            at_port=f"{patching.short[box]}/{one.other or one.port}", speed_mbit=one.speed_mbit or None,
            cord_m=patching.cord_m(position[0] or one.end, box), fixed=bool(was and was.fixed), **_was(was, moved),
        )  # fmt: skip


def _at_panel(patching: Patching, position: Position | tuple[str, None]) -> str:
    return f"{patching.short[position[0]]}{position[1]}" if position[0] else ""


def _was(was: Patch | None, moved: bool) -> dict[str, Any]:
    """Where something is plugged that has to be moved."""
    if was is None or not moved:
        return {}
    return {
        "moves": True, "was_panel": was.panel, "was_position": was.position, "was_box": was.box, "was_port": was.port,
    }  # fmt: skip


def _named(project: Project, names: dict[str, str], end: str) -> str:
    kind, _, rest = end.partition("/")
    if kind == "closet":
        number, _, cable = rest.partition("/")
        closet = project.closets_by_id.get(int(number))
        return f"{closet.name if closet else 'Closet'}, cable {cable}"
    if kind == "line":
        return next((line.name for line in project.lines if line.id == int(rest)), "Line")
    return names.get(end, end)


def _in_reserve(patching: Patching) -> Iterator[PortLine]:
    """Ports that growth will want."""
    for number, (place, need) in enumerate(patching.places):
        cord = patching.cords.get(-1 - number) if place.drop_id is None else None
        if cord is not None and patching.seating is not None:
            port = ports_of(patching.seating.boxes[cord.box].model)[cord.port - 1]
            yield PortLine(
                key=f"reserve/{number}", use="reserve", name="", kind=place.kind, box=patching.keys[cord.box],
                port=cord.port, at_port=f"{patching.short[patching.keys[cord.box]]}/{cord.port}",
                speed_mbit=port.speed_mbit, poe_class=port.poe_class,
                watts=need.power_mw / 1000 if place.powered else 0.0, injector=place.injector or "",
            )  # fmt: skip
