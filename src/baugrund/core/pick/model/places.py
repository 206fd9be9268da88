"""Where drops and links were: what an answer remembers, and what the next seating keeps."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ...demand.needs import Demand, DropNeed
from ...facts.fact import Fact
from .links import LinkOption
from .seating import Seat, Seating
from .supply import LinkEnd


class Place(Fact):
    """Where one drop sits, or (without a number) one in reserve."""

    drop_id: int | None
    kind: str
    box: int
    port: int
    powered: bool
    """Whether it draws power from that port."""
    injector: str | None

    @property
    def in_reserve(self) -> bool:
        return self.drop_id is None


class LinkEnds(Fact):
    """Which port group, or which module in a slot, a link ends in on either side."""

    upper: int
    lower: int
    upper_port: int | None
    lower_port: int | None
    upper_module: str | None
    lower_module: str | None

    def fits(self, option: LinkOption) -> bool:
        """Whether a way to link the boxes has these very ends."""

        return is_end(option.upper, self.upper_port, self.upper_module) and is_end(
            option.lower, self.lower_port, self.lower_module
        )


def is_end(end: LinkEnd, port: int | None, module: str | None) -> bool:
    """Whether an end is this port group, or a slot with this module."""
    return end.port == port and (end.module.model.key if end.module else None) == module


@dataclass(frozen=True)
class TrunkEnds:
    """At which box, on which port group or with which module the link to a fed closet ended."""

    closet_id: int
    box: int
    port: int | None
    module: str | None

    def fits(self, box: int, end: LinkEnd) -> bool:
        """Whether that is this very end."""
        return box == self.box and is_end(end, self.port, self.module)


@dataclass(frozen=True)
class Before:
    """Links and places of an earlier seating in the same boxes."""

    links: tuple[LinkEnds, ...]
    places: tuple[Place, ...]
    trunks: tuple[TrunkEnds, ...] = ()


def places_of(seating: Seating, demand: Demand) -> tuple[Place, ...]:
    """Equal needs are filled in the order of the list, those live first; a place for each seat of `seats_in_order`."""
    waiting: dict[object, list[DropNeed]] = {}
    for asked in reversed(demand.all):
        waiting.setdefault(asked.need, []).append(asked)
    places = []
    for seat in seats_in_order(seating):
        asked = waiting[seat.need].pop()
        injector = seat.injector.model.key if seat.injector else None
        powered = bool(seat.need.poe_rank) and injector is None
        places.append(
            Place(
                drop_id=asked.drop_id, kind=asked.kind, box=seat.box, port=seat.port, powered=powered, injector=injector
            )
        )
    return tuple(places)


def seats_in_order(seating: Seating) -> Iterator[Seat]:
    """The seat of every single drop, in the order of its places."""
    for seat in sorted(seating.seats, key=lambda s: (s.injector is not None, s.box, s.port)):
        yield from [seat] * seat.count
