"""What takes ports of a closet's boxes beside drops: ends of links and feeds, each with its port or slot."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from ..facts.lines.router import Router
from ..facts.patch import Patch
from ..facts.project import Project
from ..pick.model.seating import Seating
from ..pick.model.supply import LinkEnd
from ..standing.ground import Ground
from .ports import numbers_of

Use = Literal["drop", "link", "uplink", "feed", "reserve", "cable"]


@dataclass(frozen=True)
class EndOf:
    """One end of a link, or a feed: what it is patched to (``end``), at which box, on which port (a number), slot
    (``S1``) or WAN port (``W1``)."""

    end: str
    use: Use
    box: int
    port: int | None = None
    other: str = ""
    """Name of the port where it is none that drops could take."""
    speed_mbit: int = 0
    on_panel: bool = False
    """Whether its cable comes from outside the closet, and ends on a panel where it is copper."""


@dataclass(frozen=True)
class _Wanted:
    end: str
    use: Use
    box: int
    at: LinkEnd
    on_panel: bool


def ends_of(
    project: Project, ground: Ground, keys: Sequence[str], patched: Mapping[tuple[str, str], Patch]
) -> list[EndOf]:
    """Every end of a link and every feed in a closet.  ``keys``: its boxes as things; ``patched``: by box and end.

    An end stays on its port while that is one of the group where the pick has it; else it takes the highest number
    that no drop is patched to.
    """
    seating = ground.stand.seated
    if seating is None:
        return []
    taken = {(one.box, one.port) for one in project.patches if one.closet_id == ground.closet.id and one.box}
    by_drops = {(o.box, o.port) for o in project.patches if o.closet_id == ground.closet.id and o.drop_id is not None}
    found: list[EndOf] = []
    slots: dict[int, int] = {}
    given: set[tuple[int, int]] = set()
    waiting: list[_Wanted] = []
    for one in _wanted(project, ground, keys):
        if one.at.port is None:
            slots[one.box] = slots.get(one.box, 0) + 1
            found.append(
                EndOf(one.end, one.use, one.box, other=f"S{slots[one.box]}", speed_mbit=one.at.speed_mbit,
                      on_panel=one.on_panel and one.at.medium == "copper")
            )  # fmt: skip
            continue
        was = patched.get((keys[one.box], one.end))
        if was is not None and was.port in _numbers(seating, one) and (one.box, was.port) not in given:
            given.add((one.box, was.port))
            found.append(_on_port(one, was.port))
        else:
            waiting.append(one)
    for one in waiting:
        numbers = [n for n in _numbers(seating, one) if (one.box, n) not in given]
        clear = [n for n in numbers if (keys[one.box], n) not in taken]
        clear = clear or [n for n in numbers if (keys[one.box], n) not in by_drops] or numbers
        given.add((one.box, clear[-1]))
        found.append(_on_port(one, clear[-1]))
    return found + list(_feeds(project, ground))


def _on_port(one: _Wanted, number: int) -> EndOf:
    return EndOf(one.end, one.use, one.box, number, speed_mbit=one.at.speed_mbit, on_panel=one.on_panel)


def _numbers(seating: Seating, one: _Wanted) -> tuple[int, ...]:
    """Numbers of the group where an end is."""
    box = seating.boxes[one.box]
    kind = box.ports[one.at.port or 0]
    return numbers_of(box.model)[kind.speed_mbit, kind.poe_rank]


def _wanted(project: Project, ground: Ground, keys: Sequence[str]) -> Iterator[_Wanted]:
    seating = ground.stand.seated
    assert seating is not None
    for link in seating.links:
        yield _Wanted(keys[link.lower], "link", link.upper, link.option.upper, False)
        yield _Wanted(keys[link.upper], "uplink", link.lower, link.option.lower, False)
    for seat in seating.trunks:
        for cable in range(1, seat.trunk.ends + 1):
            yield _Wanted(f"closet/{seat.trunk.closet_id}/{cable}", "link", seat.box, seat.end, True)
    uplink, above = seating.boxes[0].uplink, ground.closet.fed_by_id or project.head_end.id
    for cable in range(1, seating.boxes[0].uplink_ends + 1):
        if uplink is not None:
            yield _Wanted(f"closet/{above}/{cable}", "uplink", 0, uplink, True)


def _feeds(project: Project, ground: Ground) -> Iterator[EndOf]:
    """Lines on the router's WAN ports, those of the main line first."""
    if ground.closet is not project.head_end or not ground.boxes or not isinstance(ground.boxes[0], Router):
        return
    wan = ground.boxes[0].wan_mbit
    for place, line in enumerate(sorted(project.lines, key=lambda one: one.standby)):
        if place < len(wan):
            yield EndOf(
                f"line/{line.id}", "feed", 0, other=f"W{place + 1}", speed_mbit=wan[place], on_panel=line.box != "none"
            )
