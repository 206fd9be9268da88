"""Siting told: the best closets of each number, what is there now beside them, and every place compared alone."""

from __future__ import annotations

from collections.abc import Generator, Sequence
from typing import TypeVar

import numpy as np

from ..catalogue import Catalogue
from ..facts import Fact
from ..project import Project
from ..watch import Share
from .costs import OUT_OF_REACH, Costs, costs
from .places import Place, places
from .search import Chosen, Limits, best_of_size, evaluate

T = TypeVar("T")


class PlaceLine(Fact):
    """A place for a closet with what a head end there, alone, would mean.  Money in minor units."""

    number: int
    room_id: int
    floor_id: int
    x_m: float
    y_m: float
    closet_id: int | None
    candidate_id: int | None
    faults: tuple[str, ...]
    cool: bool | None
    dry: bool | None
    both_sides: bool | None
    room_to_grow: bool | None
    socket: bool | None
    sleeping_m: float | None
    cable_m: float
    longest_m: float
    hours: float
    entry_m: float
    beyond: int
    """Drops that it does not reach."""
    total_minor: int


class Site(Fact):
    """A closet of an answer: where, and which drops end there."""

    place: int
    drop_ids: tuple[int, ...]
    longest_m: float
    link_m: float
    """To the head end; 0 for the head end itself."""


class Sites(Fact):
    """A whole answer.  ``bound_minor``: no set of so many closets costs less; equal to the total where it is proven."""

    closets: tuple[Site, ...]
    """The head end first."""
    cable_m: float
    longest_m: float
    cable_minor: int
    hours: float
    labour_minor: int
    links_minor: int
    entry_minor: int
    closets_minor: int
    total_minor: int
    beyond: tuple[int, ...]
    bound_minor: int
    proven: bool


class Siting(Fact):
    """Places compared, the best of each number of closets, and what stands now; all for the same limits."""

    places: tuple[PlaceLine, ...]
    best: tuple[Sites, ...]
    """One for each number of closets, from one up."""
    now: Sites | None
    """The closets there are, every drop where it ends; None: not all of them have a room."""
    nowhere: tuple[int, ...]
    """Drops that no place reaches."""

    @property
    def recommended(self) -> int | None:
        """The number of closets that leaves fewest drops out of reach, then costs least."""
        if not self.best:
            return None
        sites = min(self.best, key=lambda one: (len(one.beyond), one.total_minor))
        return len(sites.closets)


def siting(project: Project, catalogue: Catalogue) -> Generator[Share, None, Siting]:
    """Where closets stand best.  Yields how far it is; stop asking, and it stops."""
    compared = places(project)
    found = costs(project, catalogue, compared)
    priced = yield from _share(found, 0.0, 0.6)
    terms = project.settings
    head = next((n for n, place in enumerate(compared) if place.closet_id == project.head_end.id), None)
    fixed = head if terms.keep_head_end else None
    passing = [n for n, place in enumerate(compared) if place.passes or n == fixed]
    limits = Limits(terms.closet_minor, terms.closet_drops, None if fixed is None else passing.index(fixed))
    few = _columns(priced, passing)
    best = []
    for size in range(1, min(terms.most_closets, len(passing)) + 1):
        part = 0.4 / terms.most_closets
        chosen = yield from _share(best_of_size(few, size, limits), 0.6 + part * (size - 1), part)
        best.append(_told(project, priced, _spread(chosen, passing), limits))
    reached = few.money.min(axis=1, initial=OUT_OF_REACH) < OUT_OF_REACH
    return Siting(
        places=tuple(_line(priced, number, place) for number, place in enumerate(compared)),
        best=tuple(best),
        now=_now(project, priced, compared, limits),
        nowhere=tuple(drop for drop, ok in zip(priced.drop_ids, reached, strict=True) if not ok),
    )


def _share(steps: Generator[Share, None, T], start: float, part: float) -> Generator[Share, None, T]:
    """A part of the work as a share of the whole."""
    while True:
        try:
            step = next(steps)
        except StopIteration as done:
            value: T = done.value
            return value
        yield Share(start + part * step.share, step.text)


def _columns(priced: Costs, some: Sequence[int]) -> Costs:
    columns = list(some)
    both = np.ix_(columns, columns)
    return Costs(
        priced.drop_ids, priced.money[:, columns], priced.length_m[:, columns], priced.cable_minor[:, columns],
        priced.hours[:, columns], priced.links[both], priced.link_m[both], priced.entry[columns],
        priced.entry_m[columns],
    )  # fmt: skip


def _spread(chosen: Chosen, passing: Sequence[int]) -> Chosen:
    """A set of passing places with the numbers that they have among all."""
    return Chosen(
        tuple(passing[n] for n in chosen.places), passing[chosen.head],
        tuple(passing[n] if n >= 0 else -1 for n in chosen.of_drop), chosen.total, chosen.bound,
    )  # fmt: skip


def _told(project: Project, priced: Costs, chosen: Chosen, limits: Limits) -> Sites:
    served = np.array(chosen.of_drop)
    rows = np.nonzero(served >= 0)[0]
    at = (rows, served[rows])
    beyond = tuple(priced.drop_ids[n] for n in np.nonzero(served < 0)[0])
    lengths = priced.length_m[at]
    cable, hours = int(priced.cable_minor[at].sum()), float(priced.hours[at].sum())
    further = [place for place in chosen.places if place != chosen.head]
    links = int(sum(priced.links[place, chosen.head] for place in further))
    entry = int(priced.entry[chosen.head])
    closets = limits.further_minor * len(further)
    labour = int(priced.money[at].sum()) - cable
    sites = []
    for place in (chosen.head, *further):
        mine = np.nonzero(served == place)[0]
        sites.append(
            Site(
                place=place, drop_ids=tuple(priced.drop_ids[n] for n in mine),
                longest_m=round(float(priced.length_m[mine, place].max(initial=0.0)), 1),
                link_m=0.0 if place == chosen.head else float(priced.link_m[place, chosen.head]),
            )
        )  # fmt: skip
    missed = OUT_OF_REACH * len(beyond)
    return Sites(
        closets=tuple(sites), cable_m=round(float(lengths.sum()), 1),
        longest_m=round(float(lengths.max(initial=0.0)), 1), cable_minor=cable, hours=round(hours, 1),
        labour_minor=labour, links_minor=links, entry_minor=entry, closets_minor=closets,
        total_minor=cable + labour + links + entry + closets, beyond=beyond,
        bound_minor=max(0, chosen.bound - missed), proven=chosen.proven,
    )  # fmt: skip


def _now(project: Project, priced: Costs, compared: Sequence[Place], limits: Limits) -> Sites | None:
    """The closets as they stand, with every drop where it ends."""
    at = {place.closet_id: number for number, place in enumerate(compared) if place.closet_id is not None}
    if any(closet.id not in at for closet in project.closets):
        return None
    ends = (at[project.drops_by_id[drop_id].closet_id] for drop_id in priced.drop_ids)
    of_drop = tuple(column if priced.money[row, column] < OUT_OF_REACH else -1 for row, column in enumerate(ends))
    head = at[project.head_end.id]
    chosen = evaluate(priced, tuple(sorted(at.values())), Limits(limits.further_minor, None, head))
    return _told(project, priced, Chosen(chosen.places, head, of_drop, chosen.total, chosen.total), limits)


def _line(priced: Costs, number: int, place: Place) -> PlaceLine:
    reached = priced.money[:, number] < OUT_OF_REACH
    lengths = priced.length_m[:, number]
    answers = place.answers
    return PlaceLine(
        number=number, room_id=place.room_id, floor_id=place.spot.floor_id, x_m=round(place.spot.x_m, 2),
        y_m=round(place.spot.y_m, 2), closet_id=place.closet_id, candidate_id=place.candidate_id,
        faults=place.faults, cool=answers.cool, dry=answers.dry, both_sides=answers.both_sides,
        room_to_grow=answers.room_to_grow, socket=place.socket, sleeping_m=place.sleeping_m,
        cable_m=round(float(lengths[reached].sum()), 1), longest_m=round(float(lengths.max(initial=0.0)), 1),
        hours=round(float(priced.hours[reached, number].sum()), 1), entry_m=round(float(priced.entry_m[number]), 1),
        beyond=int((~reached).sum()),
        total_minor=int(priced.money[reached, number].sum() + priced.entry[number]),
    )  # fmt: skip
