"""Sensitivity: how little must change until the least pick becomes another one, cheaper or dearer."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace
from typing import Literal

from ..demand.needs import Need
from ..errors import TookTooLong
from ..facts.fact import Fact
from ..pick.best import least_price
from ..pick.site import Site
from ..watch import counted_off
from ..words import counted, money
from .years import Outlook

PORTS_MOST = 32
"""More plain ports than so many are not looked at."""
GROWTH_MOST = 30
MARGIN_MOST = 60
"""Growth a year and margin [%] are not raised further than this above what they are."""
PLAIN = Need(0, 1000, 0, 0)
"""A plain port: 1 Gbit/s, no power, no traffic counted."""


What = Literal["growth", "margin", "ports"]


class Flip(Fact):
    """The least change of one thing, the others as they are, with which the least price changes."""

    what: What
    cheaper: bool
    now: float
    at: float | None
    """None: it stays the same as far as was looked."""
    price_minor: int
    sentence: str


def flips(outlook: Outlook, price_minor: int) -> Iterator[Flip]:
    """What would make the least price another, in both directions: growth, margin on watts, plain ports."""
    project = outlook.project
    settings = project.settings
    currency = settings.currency

    def of(**changes: float) -> Site:
        changed = project.changed(settings=settings.model_copy(update=changes))
        return outlook.site(settings.horizon_years, changed)[0]

    def growth(percent: int) -> Site:
        return of(growth_percent=float(percent))

    def margin(percent: int) -> Site:
        return of(margin_percent=float(percent))

    def ports(more: int) -> Site:
        site = outlook.site(settings.horizon_years)[0]
        return _with_needs(site, [PLAIN] * max(0, more), reserve[: max(0, -more)])

    reserve = _plain_reserve(outlook)
    less, more = _both(settings.growth_percent, GROWTH_MOST)
    thinner, thicker = _both(settings.margin, MARGIN_MOST)
    looked: list[tuple[What, float, Callable[[int], Site], bool, range]] = [
        ("growth", settings.growth_percent, growth, True, less),
        ("growth", settings.growth_percent, growth, False, more),
        ("margin", settings.margin, margin, True, thinner),
        ("margin", settings.margin, margin, False, thicker),
        ("ports", 0, ports, True, range(-1, -len(reserve) - 1, -1)),
        ("ports", 0, ports, False, range(1, PORTS_MOST + 1)),
    ]
    for what, now, site, cheaper, values in counted_off([one for one in looked if one[-1]]):
        at, price = _first(values, site, price_minor, cheaper) or (None, price_minor)
        sentence = _told(what, now, at, values[-1], price, price_minor, currency)
        yield Flip(what=what, cheaper=cheaper, now=now, at=at, price_minor=price, sentence=sentence)


def _both(now: float, most: int) -> tuple[range, range]:
    """Whole figures below what is now, down to 0, and above it."""
    return range(math.ceil(now) - 1, -1, -1), range(math.floor(now) + 1, math.floor(now) + most + 1)


def _plain_reserve(outlook: Outlook) -> list[Need]:
    """The plain drops in reserve at the head end, the least asking first."""
    asked = outlook.site(outlook.project.settings.horizon_years)[1]
    reserve = asked[outlook.project.head_end.id].reserve
    return sorted(one.need for one in reserve if not one.need.poe_rank)


def _with_needs(site: Site, more: Sequence[Need], fewer: Sequence[Need]) -> Site:
    """The site with so many drops more at the head end, and these fewer."""
    needs = Counter(dict(site.head_end.needs)) + Counter(more) - Counter(fewer)
    head_end = replace(site.head_end, needs=tuple(sorted(needs.items(), reverse=True)))
    return replace(site, closets=(head_end, *site.closets[1:]))


def _first(
    values: Sequence[int], site: Callable[[int], Site], price_minor: int, cheaper: bool
) -> tuple[int, int] | None:  # fmt: skip
    """The first of the values at which the least price is another, and what it is then; None: none of them.

    The price only grows with what is asked, so halving finds it; where nothing fits any more, it is another.
    """

    def price(value: int) -> int | None:
        try:
            found = least_price(site(value))
        except TookTooLong:
            return price_minor
        return found.price_minor if found else None

    def differs(told: int | None) -> bool:
        return told is None or (told < price_minor if cheaper else told > price_minor)

    low, high = 0, len(values) - 1
    last = price(values[high])
    if not differs(last):
        return None
    while low < high:
        middle = (low + high) // 2
        told = price(values[middle])
        if differs(told):
            high, last = middle, told
        else:
            low = middle + 1
    return values[high], -1 if last is None else last


def _told(
    what: str, now: float, at: int | None, looked: int, price_minor: int, before_minor: int, currency: str
) -> str:  # fmt: skip
    if at is None:
        return f"{_asked(what, looked, now)}: still the same pick."
    if price_minor < 0:
        return f"{_asked(what, at, now)}: nothing fits any more."
    difference = money(abs(price_minor - before_minor), currency)
    direction = "less" if price_minor < before_minor else "more"
    return f"{_asked(what, at, now)}: {money(price_minor, currency)}, {difference} {direction}."


def _asked(what: str, value: int, now: float) -> str:
    if what == "growth":
        return f"{value} % growth a year in place of {now:g} %"
    if what == "margin":
        return f"A margin of {value} % on watts in place of {now:g} %"
    return f"{counted(abs(value), 'plain port')} {'more' if value > 0 else 'fewer in reserve'}"
