"""First picks: sets that the relaxation, made whole, says are enough, around the hubs that promise most.

They prove nothing; they set the mark that the search measures all others by.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from fractions import Fraction
from functools import cached_property

from .bounds import link_classes
from .packing import Packing
from .problem import Problem, with_headroom
from .relaxation import Relaxation
from .seating import Seating
from .sets import Node, Sets, Star
from .supply import BoxType

HUBS_TRIED = 8
MENDS_TRIED = 40
"""Boxes that are tried to mend a set with, the cheapest first."""
ROOM_TRIED = (Fraction(0), Fraction(1, 40), Fraction(1, 10), Fraction(1, 4))
"""Room in every limit that is asked for in turn; under a ceiling none is asked for."""


def first_picks(sets: Sets, stars: Sequence[Star]) -> Iterator[Seating | None]:
    """Picks that are quickly found, or not, around one hub after the other, with ever more room asked for.

    ``stars``: every hub, bounded.
    """
    rooms = [_Room(sets, stars)]
    if sets.price_ceiling is None:
        rooms += [_Room(sets, None, room) for room in ROOM_TRIED[1:]]
    for rank in range(HUBS_TRIED):
        for room in rooms:
            yield from room.picks(rank)


class _Room:
    """The same problem with so much room asked for in every limit."""

    def __init__(self, sets: Sets, stars: Sequence[Star] | None, room: Fraction = ROOM_TRIED[0]) -> None:
        self.sets, self.room = sets, room
        self._given = stars

    @cached_property
    def _problem(self) -> Problem:
        return with_headroom(self.sets.problem, self.room) if self.room else self.sets.problem

    @cached_property
    def _stars(self) -> list[Star]:
        """The hubs that can be one, the least bound first."""
        if len(self._problem.boxes) < len(self.sets.problem.boxes):
            return []
        stars = self._given
        if stars is None:
            stars = [star for group in link_classes(self._problem) for star in self.sets.stars(group)]
        return sorted(stars, key=lambda star: star.least)

    def picks(self, rank: int) -> Iterator[Seating | None]:
        """What is found around the hub of this rank."""
        if rank >= len(self._stars):
            return
        star = self._stars[rank]
        true = dict(zip(self._problem.boxes, self.sets.problem.boxes, strict=True))
        for node in self.sets.starts(self.sets.relaxation(star.group, star.hub), true):
            yield _pick(self.sets, node, true)


def _pick(sets: Sets, node: Node, true: Mapping[BoxType, BoxType]) -> Seating | None:
    """A set that sums say is enough, packed; where its seats say otherwise, with the cheapest box that mends it."""
    relaxation = node.relaxation
    counts = relaxation.whole(node.least, node.most)
    if counts is None:
        return None
    node = node.with_counts(counts)
    more = [node, *(node.with_one_more(place) for place in range(relaxation.first_switch, len(relaxation.boxes)))]
    more.sort(key=lambda one: sum(box.cost_minor for box in relaxation.set_of(one.least)))
    for one in more[:MENDS_TRIED]:
        boxes = sets.whole(relaxation, one.least) if (one.least <= one.most).all() else None
        packing = _packing(sets, relaxation, boxes, true) if boxes else None
        if packing and packing.least is not None:
            return packing.quick()
    return None


def _packing(
    sets: Sets, relaxation: Relaxation, boxes: tuple[BoxType, ...], true: Mapping[BoxType, BoxType]
) -> Packing:
    hub = None if relaxation.hub is None else boxes.index(relaxation.hub)
    return Packing(sets.problem, [true[box] for box in boxes], hub, sets.weight)
