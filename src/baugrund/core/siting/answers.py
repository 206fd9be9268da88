"""Siting told: good closets of each number, what is there now beside them, and every place compared alone.

Sets are searched for with hours that are estimated run by run; what is told of a set, and ranked by, is exact: its runs
bundled as they would be pulled, its links, the switches of its further closets.
"""

from __future__ import annotations

from collections.abc import Generator, Sequence
from dataclasses import replace
from typing import TypeVar

import numpy as np

from ..cabling.links import links as links_of
from ..cabling.pulls import pulled_h
from ..cabling.work import ways_h
from ..demand.needs import demands
from ..edits.closets import NewSite, PlaceClosets
from ..facts.catalogue import Catalogue
from ..facts.fact import Fact
from ..facts.project import Project
from ..pick.branching.search import search
from ..pick.model.trunks import trunks
from ..pick.site import site_of
from ..watch import Share
from .costs import OUT_OF_REACH, Costs, costs
from .places import Place, places
from .search import Chosen, Limits, best_of_size

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


class ClosetSite(Fact):
    """A closet of an answer: where, and which drops end there."""

    place: int
    drop_ids: tuple[int, ...]
    longest_m: float
    link_m: float
    """To the head end; 0 for the head end itself."""


class Sites(Fact):
    """A whole answer.  ``bound_minor``: no set of so many closets costs less; ``proven``: it costs just that."""

    closets: tuple[ClosetSite, ...]
    """The head end first."""
    cable_m: float
    longest_m: float
    cable_minor: int
    hours: float
    """Of all runs as they are pulled together, and of laying the ways [h]."""
    labour_minor: int
    links_minor: int
    entry_minor: int
    closets_minor: int
    """Housing and socket of every further closet."""
    switches_minor: int
    """The least switches that carry what ends in the further closets."""
    switches_known: bool
    """Whether that is exact; else it is what they cost at the least."""
    total_minor: int
    beyond: tuple[int, ...]
    bound_minor: int
    proven: bool


class LeftOut(Fact):
    """A place that is left out, and what is wrong with it."""

    place: int
    why: str


class Siting(Fact):
    """Places compared, the best of each number of closets, and what stands now; all for the same limits."""

    places: tuple[PlaceLine, ...]
    best: tuple[Sites, ...]
    """One for each number of closets, from one up."""
    now: Sites | None
    """The closets there are, every drop where it ends; None: not all of them have a room."""
    left_out: tuple[LeftOut, ...]
    """Places that no answer takes, and why."""
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
    limits = Limits(
        terms.closet_minor + _cheapest_switch_minor(project, catalogue), terms.closet_drops,
        None if fixed is None else passing.index(fixed),
    )  # fmt: skip
    few = _columns(priced, passing)
    teller = _Teller(project, catalogue, compared, priced, limits)
    best = []
    for size in range(1, min(terms.most_closets, len(passing)) + 1):
        part = 0.4 / terms.most_closets
        chosen = yield from _share(best_of_size(few, size, limits), 0.6 + part * (size - 1), part / 2)
        bound = chosen
        if few.least is not None:
            least = replace(few, money=few.least)
            bound = yield from _share(best_of_size(least, size, limits), 0.6 + part * (size - 0.5), part / 2)
        best.append(teller.sites(_spread(replace(chosen, bound=bound.bound), passing)))
    reached = few.money.min(axis=1, initial=OUT_OF_REACH) < OUT_OF_REACH
    return Siting(
        places=tuple(_line(project, priced, number, place) for number, place in enumerate(compared)),
        best=tuple(best),
        now=_now(project, priced, compared, teller),
        left_out=tuple(
            LeftOut(place=n, why=", ".join(place.faults) or "ruled out")
            for n, place in enumerate(compared)
            if n not in passing
        ),
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
        priced.entry_m[columns], None if priced.least is None else priced.least[:, columns],
    )  # fmt: skip


def _spread(chosen: Chosen, passing: Sequence[int]) -> Chosen:
    """A set of passing places with the numbers that they have among all."""
    return Chosen(
        tuple(passing[n] for n in chosen.places), passing[chosen.head],
        tuple(passing[n] if n >= 0 else -1 for n in chosen.of_drop), chosen.total, chosen.bound,
    )  # fmt: skip


EXACT_DROPS = 300
"""With more drops the switches of further closets are told at the least they cost."""
SWITCH_S = 2.0
"""Time that finding the switches of one closet may take."""


def _cheapest_switch_minor(project: Project, catalogue: Catalogue) -> int:
    """What no switch for a closet costs less than [minor]; 0: none is sold."""
    able = [
        switch.price_minor
        for switch in catalogue.switches
        if switch.in_stock and not switch.is_for_rooms and (switch.managed or not project.settings.separate_networks)
    ]
    return 0 if project.owned else min(able, default=0)


class _Teller:
    """Tells sets of places exactly."""

    def __init__(
        self, project: Project, catalogue: Catalogue, compared: Sequence[Place], priced: Costs, limits: Limits
    ) -> None:
        self.project, self.catalogue, self.compared = project, catalogue, compared
        self.priced, self.limits = priced, limits
        self.ways_h = sum(ways_h(project).values())

    def sites(self, chosen: Chosen) -> Sites:
        """A set of places with all that it costs; drops that a place does not reach are told, and cost what they do
        where they end there all the same."""
        priced, terms = self.priced, self.project.settings
        served = np.array(chosen.of_drop)
        rows = np.nonzero(served >= 0)[0]
        at = (rows, served[rows])
        ends = zip(priced.drop_ids, priced.money, chosen.of_drop, strict=True)
        beyond = tuple(number for number, row, end in ends if end < 0 or row[end] >= OUT_OF_REACH)
        lengths = priced.length_m[at]
        cable = int(priced.cable_minor[at].sum())
        further = [place for place in chosen.places if place != chosen.head]
        sites = []
        hours = self.ways_h
        for place in (chosen.head, *further):
            mine = np.nonzero(served == place)[0]
            numbers = tuple(priced.drop_ids[n] for n in mine)
            pulled = [priced.runs[place][number] for number in numbers if number in priced.runs[place]]
            hours += pulled_h(self.project, pulled, self.compared[place].room_id)
            sites.append(
                ClosetSite(
                    place=place, drop_ids=numbers,
                    longest_m=round(float(priced.length_m[mine, place].max(initial=0.0)), 1),
                    link_m=0.0 if place == chosen.head else float(priced.link_m[place, chosen.head]),
                )
            )  # fmt: skip
        links = int(sum(priced.links[place, chosen.head] for place in further))
        entry, labour = int(priced.entry[chosen.head]), round(hours * terms.hour_minor)
        closets = terms.closet_minor * len(further)
        switches, known = self._switches_minor(sites)
        ways_minor = int(self.ways_h * terms.hour_minor)
        total = cable + labour + links + entry + closets + switches
        bound = max(0, chosen.bound - OUT_OF_REACH * len(beyond)) + ways_minor
        return Sites(
            closets=tuple(sites), cable_m=round(float(lengths.sum()), 1),
            longest_m=round(float(lengths.max(initial=0.0)), 1), cable_minor=cable, hours=round(hours, 2),
            labour_minor=labour, links_minor=links, entry_minor=entry, closets_minor=closets,
            switches_minor=switches, switches_known=known, total_minor=total, beyond=beyond,
            bound_minor=min(bound, total), proven=bound >= total,
        )  # fmt: skip

    def _switches_minor(self, sites: Sequence[ClosetSite]) -> tuple[int, bool]:
        """The least switches of the further closets, as they would be picked; whether that is exact."""
        least = (self.limits.further_minor - self.project.settings.closet_minor) * (len(sites) - 1)
        if len(sites) == 1:
            return 0, True
        if len(self.project.drops) > EXACT_DROPS:
            return least, False
        new = [
            NewSite(
                room_id=self.compared[site.place].room_id, x_m=self.compared[site.place].spot.x_m,
                y_m=self.compared[site.place].spot.y_m, drop_ids=site.drop_ids,
            )
            for site in sites
        ]  # fmt: skip
        placed = PlaceClosets(sites=tuple(new)).apply(self.project)
        asked = demands(placed, placed.settings.horizon_years)
        problems = site_of(
            placed, self.catalogue, asked, trunks(placed, asked, links_of(placed, self.catalogue))
        ).closets
        found = [search(problem, "price", seconds=SWITCH_S).found for problem in problems[1:]]
        if None in found or not all(one.proven for one in found if one):
            return least, False
        return sum(one.seating.price_minor for one in found if one), True


def _now(project: Project, priced: Costs, compared: Sequence[Place], teller: _Teller) -> Sites | None:
    """The closets as they stand, with every drop where it ends."""
    at = {place.closet_id: number for number, place in enumerate(compared) if place.closet_id is not None}
    if any(closet.id not in at for closet in project.closets):
        return None
    ends = (at[project.drops_by_id[drop_id].closet_id] for drop_id in priced.drop_ids)
    of_drop = tuple(ends)
    head = at[project.head_end.id]
    return teller.sites(Chosen(tuple(sorted(at.values())), head, of_drop, 0, 0))


def _line(project: Project, priced: Costs, number: int, place: Place) -> PlaceLine:
    reached = priced.money[:, number] < OUT_OF_REACH
    there = {drop_id for drop_id, ok in zip(priced.drop_ids, reached, strict=True) if ok}
    pulled = [run for drop_id, run in priced.runs[number].items() if drop_id in there]
    hours = pulled_h(project, pulled, place.room_id) + sum(ways_h(project).values())
    lengths = priced.length_m[:, number]
    answers = place.answers
    return PlaceLine(
        number=number, room_id=place.room_id, floor_id=place.spot.floor_id, x_m=round(place.spot.x_m, 2),
        y_m=round(place.spot.y_m, 2), closet_id=place.closet_id, candidate_id=place.candidate_id,
        faults=place.faults, cool=answers.cool, dry=answers.dry, both_sides=answers.both_sides,
        room_to_grow=answers.room_to_grow, socket=place.socket, sleeping_m=place.sleeping_m,
        cable_m=round(float(lengths[reached].sum()), 1), longest_m=round(float(lengths.max(initial=0.0)), 1),
        hours=round(hours, 2), entry_m=round(float(priced.entry_m[number]), 1),
        beyond=int((~reached).sum()),
        total_minor=int(priced.cable_minor[reached, number].sum() + priced.entry[number])
        + round(hours * project.settings.hour_minor),
    )  # fmt: skip
