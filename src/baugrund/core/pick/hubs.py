"""The links of a star, for one set of boxes: which hub, at which rates, at what price.

Sharper than the sums over a set: fast ends at the hub are few, and every link that uses one has its price.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import product

import numpy as np

from ..traffic import LINK_FILL_PERCENT
from .bounds import LinkClass, own_traffic_kbit
from .problem import BoxType, Problem

RATES_MOST = 4096
"""Combinations of link rates looked at; a set with more is left to the packing."""


def least_star_price(group: LinkClass, boxes: Sequence[BoxType]) -> int | None:
    """Least price of a set (router first) over every hub and every rate of its links; None when no star works."""
    if len(boxes) == 1:
        alone = int(group.least_price(group.router_row(boxes[0])[None, :], 1)[0])
        return alone if alone >= 0 else None
    prices = []
    for hub in range(len(boxes)):
        if boxes[hub] not in boxes[:hub]:
            price = _price_at_hub(group, boxes, hub)
            if price is not None:
                prices.append(price)
    return min(prices, default=None)


def _price_at_hub(group: LinkClass, boxes: Sequence[BoxType], hub: int) -> int | None:
    problem = group.problem
    crossing = problem.traffic_kbit - own_traffic_kbit(problem, boxes[0])
    candidates: list[list[tuple[int, int]]] = []
    for place, box in enumerate(boxes[1:], start=1):
        upper = boxes[0] if place == hub else boxes[hub]
        links = _rates_worth_having(problem, upper, box)
        if place == hub:
            links = [(rate, price) for rate, price in links if rate * 10 * LINK_FILL_PERCENT >= crossing]
        if not links:
            return None
        candidates.append(links)
    if math.prod(len(links) for links in candidates) > RATES_MOST:
        return 0
    ends = _fast_ends(problem, boxes[hub])
    router_row = group.router_row(boxes[0])
    rows = []
    for chosen in product(*candidates):
        rates = sorted((rate for rate, _ in chosen), reverse=True)
        if all(sum(end >= rate for end in ends) > place for place, rate in enumerate(rates)):
            rows.append(
                sum(
                    (group.row(b, rate, price) for b, (rate, price) in zip(boxes[1:], chosen, strict=True)),
                    router_row,
                )
            )
    if not rows:
        return None
    found = group.least_price(np.array(rows), len(boxes))
    possible = found[found >= 0]
    return int(possible.min()) if len(possible) else None


def _rates_worth_having(problem: Problem, upper: BoxType, lower: BoxType) -> list[tuple[int, int]]:
    """(rate, price) of the links between two boxes, each faster one dearer."""
    kept: list[tuple[int, int]] = []
    for option in sorted(problem.link_options(upper, lower), key=lambda o: (-o.rate_mbit, o.price_minor)):
        if not kept or option.price_minor < kept[-1][1]:
            kept.append((option.rate_mbit, option.price_minor))
    return kept


def _fast_ends(problem: Problem, box: BoxType) -> list[int]:
    """The fastest rate of each port and slot of a box."""
    ends = [port.speed_mbit for port in box.ports for _ in range(port.count)]
    modules = [module.model.speed_mbit for module in problem.modules]
    for count, speed in box.slots:
        ends += [max((module for module in modules if module <= speed), default=0)] * count
    return ends
