"""The four kinds of best: least price, fewest boxes, most room, least power."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from fractions import Fraction
from functools import partial

from ..errors import TookTooLong
from .branching.search import search
from .model.outcomes import Found, Searched
from .model.problem import Problem, with_headroom
from .packs import share_in_packs, sold_by_the_pack
from .site import Site, SiteFound, count_rank, power_rank, price_rank

ROOM_PRICE = Fraction(3, 2)
"""*Most room* may cost up to this many times the least price."""
HALVINGS = 3


def least_price(site: Site, seconds: float | None = None, gap: float = 0.0) -> SiteFound | None:
    """The least price; None when nothing fits.  ``seconds``: the time that each closet may take; ``gap``: how much
    dearer than its bound, as a share, its pick may be to be good enough.

    Raises TookTooLong when neither a pick nor that there is none was found in time.
    """
    found, certain = share_in_packs(site, partial(search, weight="price", seconds=seconds, gap=gap), price_rank)
    if found is None and not certain:
        raise TookTooLong("No pick was found in the time there is. Pins, or fewer units and sockets, shorten it.")
    return found


def fewest_boxes(site: Site, cheapest: SiteFound) -> SiteFound:
    """Fewest routers and switches, and of those the least price."""
    return _or_cheapest(share_in_packs(site, _fewest, count_rank, 1)[0], cheapest, 1)


def _fewest(problem: Problem) -> Searched:
    """The fewest boxes of one closet: of one number after the other, until there is a pick."""
    cheapest = search(problem, "price")
    if cheapest.found is None:
        return cheapest
    certain = True
    most = len(cheapest.found.seating.boxes)
    for count in range(1, most):
        fewer = search(problem, "price", box_count=count)
        if fewer.found:
            return _counted(fewer.found, fewer.certain and certain, count if certain else 1)
        certain &= fewer.certain
    return _counted(cheapest.found, cheapest.certain and certain, most if certain else 1)


def _counted(found: Found, certain: bool, bound: int) -> Searched:
    return Searched(Found(found.seating, certain, bound), certain, bound)


def least_power(site: Site, cheapest: SiteFound) -> SiteFound:
    """Least mains draw with port watts, and of those the least price."""
    return _or_cheapest(share_in_packs(site, lambda problem: search(problem, "power"), power_rank, 1)[0], cheapest, 0)


def _or_cheapest(found: SiteFound | None, cheapest: SiteFound, bound: int) -> SiteFound:
    return found or replace(cheapest, proven=False, bound=bound)


def most_room(site: Site, cheapest: SiteFound) -> SiteFound:
    """Largest least head-room at up to 1.5 times the least price, and of those the least price.

    Halving narrows the head-room down; a last search for strictly more proves that there is none.
    """
    ceiling = int(cheapest.price_minor * ROOM_PRICE)
    margin = site.head_end.margin_percent
    low, high = cheapest.room(margin), Fraction(1)
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        roomier, _ = _with_room(site, middle, ceiling, strict=False)
        if roomier:
            low = max(middle, roomier.room(margin))
        else:
            high = middle
    better, certain = _with_room(site, low, ceiling, strict=True)
    while better:
        low = better.room(margin)
        better, certain = _with_room(site, low, ceiling, strict=True)
    best, _ = share_in_packs(_lowered(site, low, strict=False), _under(ceiling, first_will_do=False), price_rank)
    if best is None or best.price_minor > ceiling:
        return replace(cheapest, proven=False)
    return replace(best, proven=best.proven and certain and cheapest.proven)


def _with_room(site: Site, room: Fraction, ceiling: int, strict: bool) -> tuple[SiteFound | None, bool]:
    """A pick with that much room under the ceiling, if there is one; whether that there is none is certain."""
    # of what is sold by the pack, any pick that shares of packs afford may be none that packs do
    any_will_do = len(site.closets) == 1 and not sold_by_the_pack(site)
    solve = _under(ceiling, first_will_do=any_will_do)
    found, certain = share_in_packs(_lowered(site, room, strict), solve, price_rank, enough=ceiling)
    if found is None or found.price_minor <= ceiling:
        return found, certain
    return None, found.bound > ceiling


def _lowered(site: Site, room: Fraction, strict: bool) -> Site:
    return replace(site, closets=tuple(with_headroom(problem, room, strict) for problem in site.closets))


def _under(ceiling: int, first_will_do: bool) -> Callable[[Problem], Searched]:
    """How to search one closet for no more than the ceiling of the site."""
    return lambda problem: search(problem, "price", price_ceiling=ceiling, first_will_do=first_will_do)
