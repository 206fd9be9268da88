"""Where drops and links were: what an answer remembers, and what the next seating keeps."""

from __future__ import annotations

from dataclasses import dataclass

from ..facts import Fact
from .problem import LinkEnd, LinkOption


class Place(Fact):
    """Where one drop sits, the link to a further closet (``closet_id``), or (neither) a drop in reserve."""

    drop_id: int | None
    closet_id: int | None = None
    kind: str
    box: int
    port: int
    powered: bool
    """Whether it draws power from that port."""
    injector: str | None

    @property
    def in_reserve(self) -> bool:
        return self.drop_id is None and self.closet_id is None


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

        def same(end: LinkEnd, port: int | None, module: str | None) -> bool:
            return end.port == port and (end.module.model.key if end.module else None) == module

        return same(option.upper, self.upper_port, self.upper_module) and same(
            option.lower, self.lower_port, self.lower_module
        )


@dataclass(frozen=True)
class Before:
    """Links and places of an earlier seating in the same boxes."""

    links: tuple[LinkEnds, ...]
    places: tuple[Place, ...]
