"""Where drops and links were: what an answer remembers, and what the next seating keeps."""

from __future__ import annotations

from dataclasses import dataclass

from ..facts.fact import Fact
from .links import LinkOption
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
