"""The nearest stand-in for a model that is not to be had, and what it moves in the design."""

from __future__ import annotations

from collections.abc import Iterator

from ..facts.catalogue import Catalogue
from ..facts.fact import Fact
from ..facts.lines.box import Box, PortGroup
from ..facts.lines.router import Router
from ..standards.poe_classes import rank
from ..words import counted, money, watts


class Substitute(Fact):
    """A model in place of another."""

    model: str
    name: str
    keeps_labels: bool
    """Every port number stays: each port of the old one is there at the same place, as fast and as strong."""
    more_minor: int
    moved: tuple[str, ...]
    """What else changes, a phrase each."""

    def sentence(self, currency: str) -> str:
        """The stand-in in a phrase."""
        labels = "keeps every label" if self.keeps_labels else "moves labels"
        price = money(abs(self.more_minor), currency)
        difference = f"{price} {'more' if self.more_minor > 0 else 'less'}" if self.more_minor else "the same price"
        return ", ".join([f"{self.name}: {labels}", difference, *self.moved])


def substitute(catalogue: Catalogue, key: str, living_space: bool = False) -> Substitute | None:
    """The nearest model in stock that does what this one does; None when none does, or it is no box.

    Nearest: it keeps every label, then costs least.  What does all that the old one did: as many ports and slots of
    each speed and class, watts, management, large frames, WAN ports and throughput, no fan where none may be.
    """
    old = catalogue.get(key)
    if not isinstance(old, Box):
        return None
    able = [
        model
        for model in catalogue.models
        if isinstance(model, Box) and model.key != key and model.in_stock and _does(model, old, living_space)
    ]
    if not able:
        return None
    nearest = min(able, key=lambda model: (not _keeps_labels(model, old), model.price_minor))
    return Substitute(
        model=nearest.key,
        name=nearest.name,
        keeps_labels=_keeps_labels(nearest, old),
        more_minor=nearest.price_minor - old.price_minor,
        moved=tuple(_moved(nearest, old)),
    )


def _ports(box: Box) -> list[tuple[int, int]]:
    """Speed and class of every port in the order of its number."""
    return [(group.speed_mbit, rank(group.poe_class)) for group in box.ports for _ in range(group.count)]


def _does(new: Box, old: Box, living_space: bool) -> bool:
    if type(new) is not type(old):
        return False
    if isinstance(old, Router) and isinstance(new, Router):
        pairs = zip(sorted(old.wan_mbit, reverse=True), sorted(new.wan_mbit, reverse=True), strict=False)
        if len(new.wan_mbit) < len(old.wan_mbit) or any(there < asked for asked, there in pairs):
            return False
        if new.throughput_mbit < old.throughput_mbit or new.recorder_cameras < old.recorder_cameras:
            return False
    slots = sum(slot.count for slot in new.slots) >= sum(slot.count for slot in old.slots)
    return (
        slots
        and new.poe_budget_w >= old.poe_budget_w
        and new.managed >= old.managed
        and new.large_frames >= old.large_frames
        and (new.fanless or not (old.fanless and living_space))
        and all(_at_least(new, group) >= _at_least(old, group) for group in old.ports)
    )


def _at_least(box: Box, asked: PortGroup) -> int:
    """Ports of a box that are as fast and as strong as those of a group."""
    cap = rank(asked.poe_class)
    return sum(g.count for g in box.ports if g.speed_mbit >= asked.speed_mbit and rank(g.poe_class) >= cap)


def _keeps_labels(new: Box, old: Box) -> bool:
    before, after = _ports(old), _ports(new)
    return len(after) >= len(before) and all(
        there[0] >= asked[0] and there[1] >= asked[1] for asked, there in zip(before, after, strict=False)
    )


def _moved(new: Box, old: Box) -> Iterator[str]:
    for more, word in ((new.units - old.units, "unit"), (new.sockets - old.sockets, "socket")):
        if more:
            yield f"{counted(abs(more), word)} {'more' if more > 0 else 'fewer'}"
    deeper = new.depth_mm - old.depth_mm
    if deeper > 0:
        yield f"{deeper} mm deeper"
    draw = new.own_draw_mw - old.own_draw_mw
    if draw:
        yield f"{watts(abs(draw))} of own draw {'more' if draw > 0 else 'less'}"
    if new.form != old.form:
        yield "19 inches wide" if new.form == "rack" else "stands on a shelf"
    if not new.fanless and old.fanless:
        yield "has a fan"
