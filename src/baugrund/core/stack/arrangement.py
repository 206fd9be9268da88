"""Where everything of a rack stands best: no rule broken, and the wishes met as far as can be.

On one face the best of all is found by dynamic programming (`row_layout`); where something may hang behind, or more
stands than subsets can be tried of, OR-Tools CP-SAT places it (`rack_model`), proven or with its bound.
What is screwed in or pinned stays; what a better arrangement would move is told beside.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np

from ..facts.building import Closet
from ..facts.fact import Fact
from .cords import Cords
from .rack_model import Found, Place, RackModel
from .row_layout import Pairs, best_row
from .rules import REAR_KINDS, Broken, Score, Weights, broken, score, side_by_side, under_weight
from .swapping import improved
from .things import Thing

SECONDS = 2.0
"""Deterministic time of a search."""


class Put(Fact):
    """Where an arrangement puts a thing."""

    thing: str
    unit: int | None
    """The lowest unit that it takes; None: on a shelf."""
    face: str
    on: str
    x_mm: int | None
    moves: bool
    """It stands elsewhere now."""


class Arrangement(Fact):
    """Everything of a rack in its place."""

    puts: tuple[Put, ...]
    left_out: tuple[str, ...]
    """Things for which there is no place."""
    score: Score
    bound: float
    """No arrangement that leaves no more out weighs less."""
    proven: bool


class Arranged(Fact):
    """How a rack stands, how best with what is fixed in its place, and how it would stand if all could move."""

    now: Score
    broken: tuple[Broken, ...]
    steady: Arrangement | None
    better: Arrangement | None
    """None: it is no better than the steady one."""


def arranged(closet: Closet, things: Sequence[Thing], cords: Sequence[Cords], weights: Weights) -> Arranged:
    """The best arrangement of a rack."""
    steady = arrange(closet, things, cords, weights)
    better = None
    if any(thing.fixed for thing in things):
        loose = [thing.model_copy(update={"fixed": False}) for thing in things]
        better = arrange(closet, loose, cords, weights)
        if steady and better and (len(better.left_out), better.score.total) >= (
            len(steady.left_out), steady.score.total - 1e-6,
        ):  # fmt: skip
            better = None
    return Arranged(now=score(things, cords, weights), broken=broken(closet, things), steady=steady, better=better)


def arrange(
    closet: Closet, things: Sequence[Thing], cords: Sequence[Cords], weights: Weights, seconds: float = SECONDS
) -> Arrangement | None:
    """The best places of everything; None: what is fixed contradicts itself."""
    found = None if _has_rear(closet, things) else _in_a_row(closet, things, cords, weights)
    found = found or RackModel(closet, things, cords, weights).solve(seconds)
    if found is None:
        return None
    places = _from_left(things, found.places)
    placed = [_put_at(thing, places.get(thing.key)) for thing in things]
    left = tuple(thing.key for thing in things if thing.key not in places)
    if not found.proven:
        placed = improved(closet, placed, cords, weights)
    puts = tuple(
        Put(
            thing=after.key, unit=after.unit, face=after.face, on=after.on, x_mm=after.x_mm,
            moves=before.unit is not None and (before.unit, before.face, before.on) != (
                after.unit, after.face, after.on
            ),
        )
        for before, after in zip(things, placed, strict=True)
        if after.key in places
    )  # fmt: skip
    told = score(placed, cords, weights)
    bound = told.total if found.proven else min(told.total, found.bound)
    return Arrangement(puts=puts, left_out=left, score=told, bound=round(bound, 4), proven=found.proven)


def _has_rear(closet: Closet, things: Sequence[Thing]) -> bool:
    """Whether something hangs on the rear rails, or may."""
    rails = [one for one in things if one.units]
    if any(one.fixed and one.face == "rear" for one in rails):
        return True
    return bool(closet.both_sides) and any(one.kind in REAR_KINDS and not one.fixed for one in rails)


def _in_a_row(closet: Closet, things: Sequence[Thing], cords: Sequence[Cords], weights: Weights) -> Found | None:
    """The best of all on one face; None: there is too much to try."""
    number = {thing.key: place for place, thing in enumerate(things)}
    ties = np.zeros((len(things), len(things)))
    for cord in cords:
        if cord.one in number and cord.other in number and cord.one != cord.other:
            one, other = number[cord.one], number[cord.other]
            ties[one, other] += weights.cords * cord.many / 2
            ties[other, one] = ties[one, other]
    under = np.array([[under_weight(low, high, weights) for high in things] for low in things])
    row = best_row(closet, things, Pairs(ties, under))
    if row is None:
        return None
    places = {things[n].key: Place(unit, "front", "", None) for n, unit in row.units.items()}
    places |= {things[n].key: Place(None, "front", things[shelf].key, None) for n, shelf in row.shelves.items()}
    return Found(places, row.total, True)


def _put_at(thing: Thing, place: Place | None) -> Thing:
    told = place._asdict() if place else {"unit": None, "face": "front", "on": "", "x_mm": None}
    return thing.model_copy(update=told)


def _from_left(things: Sequence[Thing], places: Mapping[str, Place]) -> dict[str, Place]:
    """Places with how far from the left everything on a shelf stands."""
    found = dict(places)
    for shelf in (one for one in things if one.kind == "shelf"):
        left = 0
        here = [one for one in things if one.key in places and places[one.key].on == shelf.key]
        for one in side_by_side(here) or here:
            found[one.key] = places[one.key]._replace(x_mm=left)
            left += one.width_mm
    return found
