"""The four kinds of best: least price, fewest boxes, most room, least power."""

from __future__ import annotations

from fractions import Fraction

from .problem import Problem, with_headroom
from .search import Found, Searched, least, search

ROOM_PRICE = Fraction(3, 2)
"""*Most room* may cost up to this many times the least price."""
HALVINGS = 3


def least_price(problem: Problem) -> Found | None:
    """The least price; None when nothing fits."""
    return least(problem, "price")


def fewest_boxes(problem: Problem, cheapest: Found) -> Found:
    """Fewest routers and switches, and of those the least price."""
    certain = True
    for count in range(1, len(cheapest.seating.boxes)):
        fewer = search(problem, "price", box_count=count)
        if fewer.found:
            return Found(fewer.found.seating, fewer.certain and certain, count if certain else 1)
        certain &= fewer.certain
    return Found(cheapest.seating, cheapest.proven and certain, len(cheapest.seating.boxes) if certain else 1)


def least_power(problem: Problem, cheapest: Found) -> Found:
    """Least mains draw with port watts, and of those the least price."""
    return search(problem, "power").found or Found(cheapest.seating, False, 0)


def most_room(problem: Problem, cheapest: Found) -> Found:
    """Largest least head-room at up to 1.5 times the least price, and of those the least price.

    Halving narrows the head-room down; a last search for strictly more proves that there is none.
    """
    ceiling = int(cheapest.seating.price_minor * ROOM_PRICE)
    low, high = cheapest.seating.room(problem.margin_percent), Fraction(1)
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        roomier = _with_room(problem, middle, ceiling, strict=False).found
        if roomier:
            low = max(middle, roomier.seating.room(problem.margin_percent))
        else:
            high = middle
    while (better := _with_room(problem, low, ceiling, strict=True)).found:
        low = better.found.seating.room(problem.margin_percent)
    best = search(with_headroom(problem, low), "price", price_ceiling=ceiling).found
    if best is None:
        return Found(cheapest.seating, False, cheapest.bound)
    return Found(best.seating, best.proven and better.certain and cheapest.proven, best.bound)


def _with_room(problem: Problem, room: Fraction, ceiling: int, strict: bool) -> Searched:
    lowered = with_headroom(problem, room, strict)
    return search(lowered, "price", price_ceiling=ceiling, first_will_do=True)
