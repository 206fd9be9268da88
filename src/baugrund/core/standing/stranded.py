"""Fast ports with nothing as fast beside them: paid for, and used as slow ones."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from ..facts.catalogue import Catalogue
from ..facts.fact import Fact
from ..facts.lines.router import Router
from ..facts.lines.switch import Switch
from ..pick.model.links import link_options
from ..pick.model.seating import Seating
from ..pick.model.supply import BoxType, ModuleType, box_type, link_ends
from ..words import counted, money, speed
from .ground import Ground

FAST_MBIT = 2500
"""From here a port is a fast one [Mbit/s]."""


class Stranded(Fact):
    """A box with fast ports and no fast partner."""

    closet_id: int
    place: int
    name: str
    sentence: str


def stranded(grounds: Sequence[Ground], catalogue: Catalogue, currency: str) -> tuple[Stranded, ...]:
    """Every box that stands with fast ports and nothing as fast on them, and the cheapest way to use one."""
    return tuple(
        one for ground in grounds if ground.seating for one in _of(ground, ground.seating, catalogue, currency)
    )


def _of(ground: Ground, seating: Seating, catalogue: Catalogue, currency: str) -> Iterator[Stranded]:
    modules = [
        ModuleType(index, model, model.piece_minor, None)
        for index, model in enumerate(catalogue.modules)
        if model.in_stock
    ]
    for place, box in enumerate(seating.boxes):
        fast = [port for port in box.ports if port.speed_mbit >= FAST_MBIT]
        if not fast or _has_partner(seating, place):
            continue
        count, best = sum(port.count for port in fast), max(port.speed_mbit for port in fast)
        way = _cheapest_way(seating, place, modules, catalogue, currency)
        yield Stranded(
            closet_id=ground.closet.id,
            place=place,
            name=box.model.name,
            sentence=f"{counted(count, 'port')} of {speed(best)}, and nothing on them is as fast. {way}",
        )


def _has_partner(seating: Seating, place: int) -> bool:
    """Whether a drop, or a link to another box or closet, runs fast on this box."""
    box = seating.boxes[place]
    drops = any(seat.box == place and seat.need.speed_mbit >= FAST_MBIT for seat in seating.seats)
    links = any(place in (link.upper, link.lower) and link.option.rate_mbit >= FAST_MBIT for link in seating.links)
    trunks = any(seat.box == place and seat.end.speed_mbit >= FAST_MBIT for seat in seating.trunks)
    uplink = place == 0 and box.uplink is not None and box.uplink.speed_mbit >= FAST_MBIT
    return drops or links or trunks or uplink


def _cheapest_way(
    seating: Seating, place: int, modules: Sequence[ModuleType], catalogue: Catalogue, currency: str
) -> str:  # fmt: skip
    box = seating.boxes[place]
    ways = [
        (option.price_minor, -option.rate_mbit, other.model.name)
        for number, other in enumerate(seating.boxes)
        if number != place
        for option in link_options(link_ends(modules, other), link_ends(modules, box))
        if option.rate_mbit >= FAST_MBIT
    ]
    if ways:
        price, rate, name = min(ways)
        cost = f"{money(price, currency)} in modules" if price else "nothing to buy"
        return f"The cheapest way to use one: a link of {speed(-rate)} to {name}, {cost}."
    partner = _partner(seating, place)
    bought = [
        (model.price_minor + option.price_minor, model.name)
        for model in (catalogue.routers if partner and isinstance(partner.model, Router) else catalogue.switches)
        if model.in_stock and not model.is_for_rooms
        for option in link_options(link_ends(modules, _bought(model)), link_ends(modules, box))
        if option.rate_mbit >= FAST_MBIT
    ]
    if not bought:
        return "Nothing in stock is as fast."
    price, name = min(bought)
    return f"The least partner as fast is {name}, {money(price, currency)} with its modules."


def _bought(model: Router | Switch) -> BoxType:
    return box_type(model, 0, model.price_minor, None, 0.0)


def _partner(seating: Seating, place: int) -> BoxType | None:
    """The box above, or one below."""
    for link in seating.links:
        if link.lower == place:
            return seating.boxes[link.upper]
    return next((seating.boxes[link.lower] for link in seating.links if link.upper == place), None)
