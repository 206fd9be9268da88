"""Boxes together with their links: all that a relaxation chooses from, and what each gives and takes."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np

from ..model.arrays import Flags, Places
from ..model.links import LinkWay, Ways
from ..model.problem import Weight
from ..model.supply import BoxType
from ..presolve.instance_dominance import Placed
from .box_rows import ENDS
from .box_rows import Rows as Figures
from .link_class import LinkClass


@dataclass(frozen=True, eq=False)
class Choices:
    """Roots first, where they have a link, then centres, then switches, each once for every way that its link may be
    made."""

    place: Places
    """Of the box of each, among the boxes of the relaxation."""
    ways: Ways
    """The link of each to the centre."""
    in_centre_slot: Flags
    """Whether that ends in a slot of the centre."""
    is_centre: Flags
    """Whether this is the one copy of a box that is the centre."""
    table: Figures

    def __len__(self) -> int:
        return len(self.place)


def choices(group: LinkClass, roots: Sequence[BoxType], centres: Sequence[BoxType], weight: Weight) -> Choices:
    """Those of some roots of a link class and all switches: with links to one of these centres, or (without any) to
    anything."""
    return _around_centres(group, roots, centres, weight) if centres else _loose(group, roots)


def _loose(group: LinkClass, roots: Sequence[BoxType]) -> Choices:
    hung = group.hung_anyhow
    place = np.concatenate([np.arange(len(roots)), hung.place + len(roots)])
    none = np.zeros(len(place), dtype=np.bool_)
    table = np.vstack([group.rows.roots([(root, None) for root in roots]), hung.rows])
    return Choices(place, Ways.none(len(place)), none, none, table)


def _around_centres(group: LinkClass, roots: Sequence[BoxType], centres: Sequence[BoxType], weight: Weight) -> Choices:
    """Roots with their link to the centre, centres, and switches with every link worth having, but for those that a
    cheaper box stands in for.  Links that end in slots may want other slots than each of the centres has."""
    rows, stand_ins = group.rows, group.stand_ins if weight == "price" else None
    slowest = min((port.speed_mbit for centre in centres for port in centre.ports if port.count), default=0)
    at = {box: place for place, box in enumerate((*roots, *group.problem.switches))}
    hung, first = rows.hung(centres), len(roots)
    is_worse = np.zeros((len(at), 2, 2), dtype=np.bool_)
    for box, lower_in_slot, upper_in_slot in stand_ins.leaves(slowest) if stand_ins else ():
        is_worse[at[box], int(lower_in_slot), int(upper_in_slot)] = True
    ways = hung.ways
    kept = ~is_worse[hung.place + first, ways.lower_in_slot.astype(np.intp), ways.upper_in_slot.astype(np.intp)]
    leaves, ways = hung.place[kept] + first, ways.at(kept)
    rooted: dict[tuple[BoxType, LinkWay], Figures] = {}
    if not centres[0].is_root:
        rooted = _rooted(group, roots, centres, stand_ins.roots(slowest) if stand_ins else frozenset())
    above, count = Ways.of([way for _, way in rooted]), len(rooted)
    place = [*(at[root] for root, _ in rooted), *(at[centre] for centre in centres)]
    is_centre = np.zeros(len(place) + len(leaves), dtype=np.bool_)
    is_centre[count : len(place)] = True
    no_links = np.zeros(len(centres), dtype=np.bool_)
    return Choices(
        np.concatenate([np.array(place, dtype=np.intp), leaves]),
        above.and_also(Ways.none(len(centres))).and_also(ways),
        np.concatenate([above.lower_in_slot, no_links, ways.upper_in_slot]),
        is_centre,
        np.vstack([*rooted.values(), rows.bare(centres), hung.rows[kept]]),
    )


def _rooted(
    group: LinkClass, roots: Sequence[BoxType], centres: Iterable[BoxType], worse: Placed
) -> dict[tuple[BoxType, LinkWay], Figures]:
    """What roots give and take with their link to any of some centres: the most slots for links to other closets
    that any of them leaves."""
    found: dict[tuple[BoxType, LinkWay], Figures] = {}
    for centre in group.rows.unlike(centres):
        for (root, way), row in zip(*group.rows.rooted(roots, centre), strict=True):
            if (root, way.upper_in_slot, way.lower_in_slot) not in worse:
                found[root, way] = max(found.get((root, way), row), row, key=lambda one: one[ENDS])
    return found
