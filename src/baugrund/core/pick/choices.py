"""Boxes together with their links: all that a relaxation chooses from, and what each gives and takes."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np

from .bounds import LinkClass
from .box_rows import ENDS
from .box_rows import Rows as Figures
from .figures import Flags, Places
from .links import LinkWay, Ways
from .problem import Weight
from .stand_ins import Placed
from .supply import BoxType


@dataclass(frozen=True, eq=False)
class Choices:
    """Roots first, where they have a link, then hubs, then switches, each once for every way that its link may be
    made."""

    place: Places
    """Of the box of each, among the boxes of the relaxation."""
    ways: Ways
    """The link of each to the hub."""
    in_hub_slot: Flags
    """Whether that ends in a slot of the hub."""
    is_hub: Flags
    """Whether this is the one copy of a box that is the hub."""
    table: Figures

    def __len__(self) -> int:
        return len(self.place)


def choices(group: LinkClass, roots: Sequence[BoxType], hubs: Sequence[BoxType], weight: Weight) -> Choices:
    """Those of some roots of a link class and all switches: with links to one of these hubs, or (without any) to
    anything."""
    return _around(group, roots, hubs, weight) if hubs else _loose(group, roots)


def _loose(group: LinkClass, roots: Sequence[BoxType]) -> Choices:
    hung = group.hung_anyhow
    place = np.concatenate([np.arange(len(roots)), hung.place + len(roots)])
    none = np.zeros(len(place), dtype=np.bool_)
    table = np.vstack([group.rows.roots([(root, None) for root in roots]), hung.rows])
    return Choices(place, Ways.none(len(place)), none, none, table)


def _around(group: LinkClass, roots: Sequence[BoxType], hubs: Sequence[BoxType], weight: Weight) -> Choices:
    """Roots with their link to the hub, hubs, and switches with every link worth having, but for those that a cheaper
    box stands in for.  Links that end in slots may want other slots than each of the hubs has."""
    rows, stand_ins = group.rows, group.stand_ins if weight == "price" else None
    slowest = min((port.speed_mbit for hub in hubs for port in hub.ports if port.count), default=0)
    at = {box: place for place, box in enumerate((*roots, *group.problem.switches))}
    hung, first = rows.hung(hubs), len(roots)
    is_worse = np.zeros((len(at), 2, 2), dtype=np.bool_)
    for box, lower_in_slot, upper_in_slot in stand_ins.leaves(slowest) if stand_ins else ():
        is_worse[at[box], int(lower_in_slot), int(upper_in_slot)] = True
    ways = hung.ways
    kept = ~is_worse[hung.place + first, ways.lower_in_slot.astype(np.intp), ways.upper_in_slot.astype(np.intp)]
    leaves, ways = hung.place[kept] + first, ways.at(kept)
    rooted: dict[tuple[BoxType, LinkWay], Figures] = {}
    if not hubs[0].is_root:
        rooted = _rooted(group, roots, hubs, stand_ins.roots(slowest) if stand_ins else frozenset())
    above, count = Ways.of([way for _, way in rooted]), len(rooted)
    place = [*(at[root] for root, _ in rooted), *(at[hub] for hub in hubs)]
    is_hub = np.zeros(len(place) + len(leaves), dtype=np.bool_)
    is_hub[count : len(place)] = True
    no_links = np.zeros(len(hubs), dtype=np.bool_)
    return Choices(
        np.concatenate([np.array(place, dtype=np.intp), leaves]),
        above.and_also(Ways.none(len(hubs))).and_also(ways),
        np.concatenate([above.lower_in_slot, no_links, ways.upper_in_slot]),
        is_hub,
        np.vstack([*rooted.values(), rows.bare(hubs), hung.rows[kept]]),
    )


def _rooted(
    group: LinkClass, roots: Sequence[BoxType], hubs: Iterable[BoxType], worse: Placed
) -> dict[tuple[BoxType, LinkWay], Figures]:
    """What roots give and take with their link to any of some hubs: the most slots for links to other closets that any
    of them leaves."""
    found: dict[tuple[BoxType, LinkWay], Figures] = {}
    for hub in group.rows.unlike(hubs):
        for (root, way), row in zip(*group.rows.rooted(roots, hub), strict=True):
            if (root, way.upper_in_slot, way.lower_in_slot) not in worse:
                found[root, way] = max(found.get((root, way), row), row, key=lambda one: one[ENDS])
    return found
