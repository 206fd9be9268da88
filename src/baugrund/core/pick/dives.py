"""First picks: dives along the relaxation, box by box, around the hubs that promise most.

They prove nothing; they set the mark that the search measures all others by.
"""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator, Mapping
from fractions import Fraction

import numpy as np

from .bounds import link_classes
from .greedy import quick_seating
from .problem import with_headroom
from .seating import Seating
from .sets import Node, Sets, Star
from .supply import BoxType

MOST_BOXES = 24
"""Boxes that a dive adds before it gives up."""
HUBS_TRIED = 3
HUBS_WITHOUT_ROOM = 1
"""Hubs that are tried with no room asked for, while they give nothing: large lists hardly ever seat without."""
HUBS_LOOKED_AT = 16
"""Hubs that are looked at to find so many that can be one at all."""
ROOM_TRIED = (Fraction(0), Fraction(1, 10), Fraction(1, 4))
"""Room in every limit that dives ask for in turn, until one finds a pick; under a ceiling none is asked for."""


def first_picks(
    sets: Sets, stars: list[Star], may_improve: Callable[[float], bool], ends_at: float
) -> Iterator[Seating]:
    """Picks found by diving; with ever more room asked for, while there are none.

    ``stars``: every hub, bounded; ``may_improve`` says whether a bound is under the best pick so far.
    """
    found = False
    for room in ROOM_TRIED if sets.price_ceiling is None else ROOM_TRIED[:1]:
        roomy = with_headroom(sets.problem, room) if room else sets.problem
        if len(roomy.boxes) < len(sets.problem.boxes):
            return
        true = dict(zip(roomy.boxes, sets.problem.boxes, strict=True))
        if room:
            stars = [star for group in link_classes(roomy) for star in sets.stars(group)]
        tried = 0
        for star in sorted(stars, key=lambda star: star.least)[:HUBS_LOOKED_AT]:
            if not may_improve(star.least):
                break
            relaxation = sets.relaxation(star.group, star.hub)
            starts = [node for node in sets.starts(relaxation, true) if relaxation.bound(node.base, node.start)]
            for node in starts:
                seating = _dive(sets, node, true)
                if seating:
                    found = True
                    yield seating
            tried += bool(starts)
            if tried == (HUBS_TRIED if found or room else HUBS_WITHOUT_ROOM) or time.monotonic() > ends_at:
                break
        if found or not tried or time.monotonic() > ends_at:
            return


def _dive(sets: Sets, node: Node, true: Mapping[BoxType, BoxType]) -> Seating | None:
    """Follow the relaxation to the first set that seats all drops."""
    first = node.relaxation.first_switch
    for _ in range(MOST_BOXES):
        boxes = [true[box] for box in node.boxes]
        quick = quick_seating(sets.problem, boxes, node.hub) if sets.is_whole(node) else None
        if quick or not node.relaxation.bound(node.base, first):
            return quick
        over = node.relaxation.takes() - np.array(node.base)
        if node.has_root:
            over[:first] = 0.0
        else:
            over[first:] = 0.0
        place = int(np.argmax(over))
        further = sets.more(node, place, first) if over[place] > 1e-3 else None
        if further is None:
            return None
        node = further
    return None
