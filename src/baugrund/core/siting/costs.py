"""What every run, link and line would cost from every place for a closet.

Money in minor units, whole numbers: no float decides which places are best.  A run costs its cable by the metre and its
hours: as one of those that are pulled to its room together, an estimate, for what shares its way is known only once it
is settled which drops end where (``answers`` tells that exactly).  Cable that is there already costs nothing where it
ends, and is pulled anew anywhere else.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Generator, Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..cabling.fill import cable_of
from ..cabling.links import Stretched, cheapest_minor, ways_to_link
from ..cabling.work import rates_of
from ..demand.traffic import busy_kbit
from ..facts.catalogue import Catalogue
from ..facts.drop import Drop
from ..facts.project import Project
from ..places.layout import layout
from ..reach.cable_types import cable_type
from ..reach.router import Router, Target
from ..reach.runs import Run, Teller, heat_counted_m, router, runs, targets_of, teller
from ..standards.cabling import FIXED_LINK_MAX_M
from ..watch import Share
from .places import Place

OUT_OF_REACH = 10**10
"""What a drop out of reach counts: more than any run, so that the fewest of them come first."""


NOT_BUILT: dict[str, None] = {"built_x_m": None, "built_y_m": None}
"""Fields of a drop that is planned anew: where it came to stand before counts no longer."""


@dataclass(frozen=True)
class Costs:
    """Rows are drops, columns places; ``links`` from the place of a row to a head end in the column."""

    drop_ids: tuple[int, ...]
    money: NDArray[np.int64]
    length_m: NDArray[np.float64]
    cable_minor: NDArray[np.int64]
    hours: NDArray[np.float64]
    links: NDArray[np.int64]
    link_m: NDArray[np.float64]
    entry: NDArray[np.int64]
    """Cost of bringing the provider's lines from where they enter to a head end there."""
    entry_m: NDArray[np.float64]
    least: NDArray[np.int64] | None = None
    """What each run costs at the least, however many are pulled along with it; None: as in ``money``."""
    runs: tuple[Mapping[int, Run], ...] = ()
    """The runs that are pulled to each place, by the drop's number."""

    @property
    def heads(self) -> NDArray[np.int64]:
        """``links`` with the cost of the provider's lines on the diagonal: where another place is the head end."""
        both = self.links.copy()
        np.fill_diagonal(both, self.entry)
        return both


def costs(project: Project, catalogue: Catalogue, places: Sequence[Place]) -> Generator[Share, None, Costs]:
    """The costs for these places, column by column.  Yields how far it is."""
    finder = router(project)
    tell = teller(project)
    drops = [drop for drop in project.drops if drop.has_run]
    shape = (len(drops), len(places))
    money, cable = np.full(shape, OUT_OF_REACH, dtype=np.int64), np.zeros(shape, dtype=np.int64)
    least = np.full(shape, OUT_OF_REACH, dtype=np.int64)
    length, hours = np.zeros(shape), np.zeros(shape)
    pulled: list[dict[int, Run]] = [{} for _ in places]
    row = {drop.id: number for number, drop in enumerate(drops)}
    cables = {drop.id: cable_of(project, drop).minor_per_m for drop in drops}
    price = RunPrice(project)
    beside = Counter(drop.room_id for drop in drops if not drop.existing)
    for column, place in enumerate(places):
        yield Share(column / len(places), f"measuring runs from {project.rooms_by_id[place.room_id].name}")
        targets = targets_of(project, lambda _, spot=place.spot: spot)  # type: ignore[misc]
        for drop_id, way in zip(targets, finder.ways(list(targets.values())), strict=True):
            drop = project.drops_by_id[drop_id]
            at = (row[drop_id], column)
            ends_here = place.closet_id == drop.closet_id
            run = tell.tell(drop if ends_here or drop.run_m is None else drop.model_copy(update={"run_m": None}), way)
            if drop.existing and ends_here:
                money[at], least[at], length[at] = 0, 0, run.length_m
                continue
            pulled[column][drop_id] = run
            length[at] = run.length_m
            hours[at] = price.hours(drop, run, place.room_id, beside[drop.room_id] or 1)
            cable[at] = round(run.length_m * cables[drop_id])
            reached = heat_counted_m(run, screened=drop.screened) <= FIXED_LINK_MAX_M
            if reached and run.length_m <= project.settings.longest_run_m + 1e-9:
                money[at] = cable[at] + round(hours[at] * price.hour_minor)
                least[at] = cable[at] + int(price.rates.least_h(drop, run) * price.hour_minor)
    yield Share(1.0, "measuring links and lines")
    links, link_m = _links(project, catalogue, places, finder, tell, price)
    entry, entry_m = _entries(project, places, finder, tell, price)
    numbers = tuple(drop.id for drop in drops)
    return Costs(numbers, money, length, cable, hours, links, link_m, entry, entry_m, least, tuple(pulled))


class RunPrice:
    """Hours and money of a run under the project's terms."""

    def __init__(self, project: Project) -> None:
        self.hour_minor = project.settings.hour_minor
        self.minor_per_m = cable_type(project, "6").minor_per_m
        self.rates = rates_of(project)

    def hours(self, drop: Drop, run: Run, closet_room: int | None, cables: int) -> float:
        """Hours of a run that is pulled together with so many like it, itself among them."""
        return self.rates.shared_h(drop, run, closet_room, cables)


def prices_of_runs(project: Project, drops: tuple[Drop, ...]) -> list[tuple[float, int]]:
    """Length of the run to each of some drops that nobody has listed yet [m], and what its cable and hours cost, pulled
    alone [minor]."""
    with_all = project.changed(drops=drops, views=(), radios=(), next_id=project.next_id + len(drops))
    found, price = runs(with_all), RunPrice(project)
    priced: list[tuple[float, int]] = []
    for drop in drops:
        run = found[drop.id]
        closet = project.closets_by_id[drop.closet_id]
        hours = price.hours(drop, run, closet.room_id, 1)
        cable = round(run.length_m * cable_of(project, drop).minor_per_m)
        priced.append((run.length_m, cable + round(hours * price.hour_minor)))
    return priced


def closet_for(project: Project, room_id: int) -> int:
    """Where a new drop of a room ends: with what is listed there, else at the head end."""
    last = next((drop for drop in reversed(project.drops) if drop.room_id == room_id), None)
    return last.closet_id if last else project.head_end.id


def _links(
    project: Project, catalogue: Catalogue, places: Sequence[Place], finder: Router, tell: Teller, price: RunPrice
) -> tuple[NDArray[np.int64], NDArray[np.float64]]:
    """Links from every place to every other, for the traffic of the whole site: on the safe side whoever ends where."""
    many = len(places)
    money, length = np.full((many, many), OUT_OF_REACH, dtype=np.int64), np.zeros((many, many))
    traffic = sum(busy_kbit(project, drop) for drop in project.drops if project.is_live(drop))
    building = [project.floors_by_id[place.spot.floor_id].building_id for place in places]
    known: dict[tuple[object, ...], int] = {}
    for head in range(many):
        targets = [Target(places[head].spot, p.spot.floor_id, p.spot.x_m, p.spot.y_m, p.spot.z_m) for p in places]
        for other, way in enumerate(finder.ways(targets)):
            stretches = tell.way(way, 2 * project.settings.closet_loop_m)
            metres = round(sum(stretch.length_m for stretch in stretches), 1)
            run = Run(0, head, "paths", metres, metres, stretches, 1)
            hours = price.rates.link_h(run, places[other].room_id, places[head].room_id)
            asked = Stretched(
                metres, heat_counted_m(run, screened=False), *hours, traffic, building[head] != building[other],
                run.outside_m > 0,
            )  # fmt: skip
            key = (metres, asked.warm_m, *(round(one, 3) for one in hours), asked.between_buildings, asked.outside)
            if key not in known:
                options = ways_to_link(project, catalogue, asked)
                fitting = [o for o in options if o.medium == "fibre" or not asked.between_buildings]
                known[key] = cheapest_minor(fitting) or OUT_OF_REACH
            money[other, head], length[other, head] = known[key], metres
    return money, length


def _entries(
    project: Project, places: Sequence[Place], finder: Router, tell: Teller, price: RunPrice
) -> tuple[NDArray[np.int64], NDArray[np.float64]]:
    """The way of every internet line from where it enters to every place, as a cable of category 6."""
    money, length = np.zeros(len(places), dtype=np.int64), np.zeros(len(places))
    room_of = {entry.id: entry.room_id for entry in project.entries}
    entered = {line.entry_id for line in project.lines if line.entry_id is not None}
    for point in layout(project).entries:
        if point.id not in entered:
            continue
        z = finder.network.elevation[point.floor_id] + ENTRY_HEIGHT_M
        for head, place in enumerate(places):
            way = finder.ways([Target(place.spot, point.floor_id, point.x_m, point.y_m, z)])[0]
            stretches = tell.way(way, 2 * project.settings.closet_loop_m)
            metres = sum(stretch.length_m for stretch in stretches)
            run = Run(0, head, "paths", metres, metres, stretches, 1)
            first_h, _ = price.rates.link_h(run, room_of[point.id], place.room_id)
            by_task = price.rates.hours
            hours = first_h + by_task["terminate"] + by_task["punch_down"] + by_task["test"]
            length[head] += round(metres, 1)
            money[head] += round(metres * price.minor_per_m) + round(hours * price.hour_minor)
    return money, length


ENTRY_HEIGHT_M = 0.5
"""Height of the point where a line enters [m], *default*."""
