"""Links between closets: how long, how fast, of fibre or copper, with what spares, at what price, and why.

Every way to do it is told beside the one chosen.  A link carries the busy-hour traffic that crosses it, growth by the
horizon among it, at 70 % of its rate (*default*); its price is that of cable, modules, finished strands and hours, for
the ports at both ends belong to the boxes.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from math import ceil
from typing import Literal

from ..demand.needs import crossing_kbit, demands
from ..demand.traffic import COPPER_MBIT, feeder, rate_for_mbit
from ..facts.building import Closet
from ..facts.catalogue import Catalogue
from ..facts.kept import kept
from ..facts.lines.module import Module
from ..facts.project import Project
from ..reach.cable_types import CableType, cable_type
from ..reach.legs import Line, line_of
from ..reach.router import Target
from ..reach.runs import Run, Stretch, closet_spots, heat_counted_m, router, teller
from ..standards.cabling import FIXED_LINK_MAX_M, Category, fastest_mbit
from ..standards.fibre import APPLICATIONS, Application, FibreGrade, is_singlemode, loss_db
from ..words import counted, speed
from .work import rates_of

MOST_PULLS = 8
STRANDS = (4, 8, 12, 24)
USUAL_FIBRE_MINOR = {"OM3": 90, "OM4": 130, "OS2": 80}
"""Price of a metre of four strands [minor units], *default*; each further four take half of it more."""

Medium = Literal["copper", "fibre"]


@dataclass(frozen=True)
class LinkPart:
    """Something that a link takes: how many (or metres), and what one costs [minor units]."""

    name: str
    count: float
    unit: str
    each_minor: int

    @property
    def total_minor(self) -> int:
        return round(self.count * self.each_minor)


@dataclass(frozen=True)
class Option:
    """One way to make a link.  ``why_not``: the reason that it cannot be; empty: it can."""

    medium: Medium
    name: str
    speed_mbit: int
    pulls: int
    strands: int
    parts: tuple[LinkPart, ...]
    hours: float
    total_minor: int
    why_not: str = ""
    grade: FibreGrade | None = None
    pairs: int = 0
    """Pairs of strands that are lit."""
    loss_db: float | None = None
    allowed_db: float | None = None

    @property
    def works(self) -> bool:
        return not self.why_not


@dataclass(frozen=True)
class Link:
    """A link from a closet to the one that feeds it; ``chosen``: place in ``options``; None: none of them can be."""

    closet_id: int
    to_id: int
    length_m: float
    measured: bool
    stretches: tuple[Stretch, ...]
    line: Line
    traffic_mbit: float
    """Busy hour by the horizon [Mbit/s]."""
    between_buildings: bool
    options: tuple[Option, ...]
    chosen: int | None
    why: str


@dataclass(frozen=True)
class Stretched:
    """What a link must do, and over what way."""

    length_m: float
    warm_m: float
    """Its length with every warm metre counted as what it takes of 90 m at 20 °C [m]."""
    first_h: float
    """To pull the first cable of it [h]."""
    further_h: float
    """Each further one [h]."""
    traffic_kbit: int
    between_buildings: bool
    outside: bool


@kept
def _ways(project: Project) -> Mapping[int, tuple[tuple[Stretch, ...], Line]]:
    """Pieces and corners of the way of every link, where both closets have a room."""
    starts, finder, tell = closet_spots(project), router(project), teller(project)
    found = {}
    for closet in project.closets[1:]:
        to = feeder(project, closet)
        if closet.id in starts and to in starts:
            spot = starts[closet.id]
            way = finder.ways([Target(starts[to], spot.floor_id, spot.x_m, spot.y_m, spot.z_m)])[0]
            found[closet.id] = (tell.way(way, 2 * project.settings.closet_loop_m), line_of(way.legs))
    return found


def links(project: Project, catalogue: Catalogue) -> tuple[Link, ...]:
    """The link of every further closet whose length is known: by both rooms, or as measured."""
    ways = _ways(project)
    asked = demands(project, project.settings.horizon_years)
    found = []
    for closet in project.closets[1:]:
        if closet.id in ways or closet.link_m is not None:
            traffic_kbit = crossing_kbit(project, asked, closet.id)
            found.append(_link(project, catalogue, closet, traffic_kbit, *ways.get(closet.id, ((), Line()))))
    return tuple(found)


def _link(
    project: Project, catalogue: Catalogue, closet: Closet, traffic: int, stretches: tuple[Stretch, ...],
    line: Line,
) -> Link:  # fmt: skip
    to = project.closets_by_id[feeder(project, closet)]
    told = round(sum(stretch.length_m for stretch in stretches), 1)
    length = told if closet.link_m is None else closet.link_m
    run = Run(0, to.id, "paths", length, told, stretches, 1)
    asked = Stretched(
        length, heat_counted_m(run, screened=False), *rates_of(project).link_h(run, closet.room_id, to.room_id),
        traffic, _apart(project, closet, to), run.outside_m > 0,
    )  # fmt: skip
    options = ways_to_link(project, catalogue, asked)
    chosen, why = choose(options, closet.link or project.settings.link_by, asked, own=bool(closet.link))
    return Link(
        closet.id, to.id, length, closet.link_m is not None, stretches,
        line,
        traffic / 1000,
        asked.between_buildings, options, chosen, why,
    )  # fmt: skip


def _apart(project: Project, one: Closet, other: Closet) -> bool:
    """Whether two closets stand in different buildings."""
    rooms = [project.rooms_by_id.get(closet.room_id or 0) for closet in (one, other)]
    sites = [None if room is None else project.floors_by_id[room.floor_id].building_id for room in rooms]
    return None not in rooms and sites[0] != sites[1]


def ways_to_link(project: Project, catalogue: Catalogue, asked: Stretched) -> tuple[Option, ...]:
    """Every way to make a link, copper first; those that cannot be with the reason."""
    return (*_over_copper(project, asked), *_over_fibre(project, catalogue, asked))


def cheapest_minor(options: Sequence[Option]) -> int | None:
    """Price of the cheapest way that can be; None: there is none."""
    return min((option.total_minor for option in options if option.works), default=None)


def choose(options: Sequence[Option], rule: str, asked: Stretched, *, own: bool) -> tuple[int | None, str]:
    """The option taken under a rule, and why.

    Between buildings it is fibre whatever the rule, unless copper was asked for this very link.
    """
    working = [number for number, option in enumerate(options) if option.works]
    if not working:
        return None, "nothing carries it: " + "; ".join(f"{one.name}: {one.why_not}" for one in options)
    best = min(working, key=lambda number: options[number].total_minor)
    if asked.between_buildings and not (own and rule == "copper"):
        rule, reason = "fibre", "between buildings it is fibre: copper would carry lightning and earth potential"
    elif own:
        reason = f"{rule} is asked for this link"
    else:
        reason = {"price": "the least price", "fibre": "the project takes fibre", "copper": "the project takes copper"}[
            rule
        ]
    of_kind = [number for number in working if options[number].medium == rule]
    if rule == "price" or of_kind:
        taken = min(of_kind or working, key=lambda number: options[number].total_minor)
        return taken, reason
    left = next((one.why_not for one in options if one.medium == rule), "there is none")
    return best, f"{reason}, but {left}"


# ---- copper


def _over_copper(project: Project, asked: Stretched) -> Iterator[Option]:
    needed = rate_for_mbit(asked.traffic_kbit, project.settings.link_fill_percent)
    channel = asked.length_m + project.settings.cords_m
    for category in ("6", "6A"):
        fastest = fastest_mbit(category, channel)
        rates = [rate for rate in COPPER_MBIT if rate <= fastest]
        one = next((rate for rate in rates if rate >= needed), None)
        if one is not None:
            yield _copper(project, asked, category, one, 1)
        if one != 1_000 and 1_000 in rates:
            pulls = ceil(needed / 1_000)
            if pulls <= MOST_PULLS:
                yield _copper(project, asked, category, 1_000, pulls)
        if not rates:
            yield _copper(project, asked, category, 0, 1)


def _copper(project: Project, asked: Stretched, category: Category, rate: int, pulls: int) -> Option:
    cable = cable_type(project, category, outdoor=asked.outside)
    by_task = rates_of(project).hours
    ends = 2 * by_task["punch_down" if project.settings.termination == "panel" else "terminate"] + by_task["test"]
    hours = round(asked.first_h + asked.further_h * (pulls - 1) + ends * pulls, 2)
    why_not = ""
    if asked.length_m > FIXED_LINK_MAX_M:
        why_not = f"{asked.length_m:g} m; a fixed link is {FIXED_LINK_MAX_M:g} m at most"
    elif asked.warm_m > FIXED_LINK_MAX_M:
        why_not = f"with its warm stretches it counts as {asked.warm_m:.1f} m of {FIXED_LINK_MAX_M:g} m"
    parts = (_by_the_metre(cable, asked.length_m * pulls), LinkPart("jack", 2 * pulls, "", 0))
    name = cable.name if not rate else f"{cable.name}, {speed(rate)}"
    if pulls > 1:
        name = f"{counted(pulls, 'pull')} of {name} each"
    return _option(project, "copper", name, rate, pulls=pulls, strands=0, parts=parts, hours=hours, why_not=why_not)


def _by_the_metre(cable: CableType, metres: float) -> LinkPart:
    return LinkPart(cable.name, round(metres, 1), "m", round(cable.minor_per_m))


# ---- fibre


def _over_fibre(project: Project, catalogue: Catalogue, asked: Stretched) -> Iterator[Option]:
    needed = rate_for_mbit(asked.traffic_kbit, project.settings.link_fill_percent)
    slowest = min((one.speed_mbit for one in APPLICATIONS if one.speed_mbit >= needed), default=None)
    fastest = max(one.speed_mbit for one in APPLICATIONS)
    for application in APPLICATIONS:
        if application.speed_mbit == (slowest or fastest):
            yield _fibre(project, catalogue, asked, application, max(1, ceil(needed / application.speed_mbit)))


def _fibre(project: Project, catalogue: Catalogue, asked: Stretched, application: Application, pairs: int) -> Option:
    terms = project.settings
    grade = application.grade
    strands = next((many for many in STRANDS if many >= 2 * pairs + terms.spare_strands), STRANDS[-1])
    module = _module(catalogue, application, asked.length_m, 2 * pairs)
    lost = loss_db(asked.length_m, grade, terms.mated_pairs, indoor=not asked.outside)
    parts = [
        LinkPart(
            f"fibre {grade}, {strands} strands",
            round(asked.length_m, 1),
            "m",
            fibre_minor_per_m(project, grade, strands),
        ),
        LinkPart("strand finished at one end", 2 * strands, "", terms.strand_end_minor),
    ]
    why_not = ""
    if asked.length_m > application.reach_m:
        why_not = f"{asked.length_m:g} m; {application.name} over {grade} reaches {application.reach_m:g} m"
    elif lost > application.allowed_db:
        why_not = f"loses {lost:.2f} dB; {application.name} over {grade} allows {application.allowed_db:g} dB"
    elif module is None:
        why_not = f"the catalogue has no module for {application.name} over {asked.length_m:g} m"
    if module is not None:
        parts.append(LinkPart(module.name, 2 * pairs, "", round(module.price_of(2 * pairs) / (2 * pairs))))
    name = f"{grade}, {strands} strands, {application.name}" + (f", {pairs} links" if pairs > 1 else "")
    by_task = rates_of(project).hours
    hours = round(asked.first_h + 2 * strands * by_task["fibre_end"] + by_task["test"], 2)
    made = _option(
        project, "fibre", name, application.speed_mbit, pulls=1, strands=strands, parts=tuple(parts), hours=hours,
        why_not=why_not,
    )  # fmt: skip
    return replace(made, grade=grade, pairs=pairs, loss_db=round(lost, 2), allowed_db=application.allowed_db)


def _module(catalogue: Catalogue, application: Application, length_m: float, count: int) -> Module | None:
    """What so many ends of a link cost least with."""
    medium = "fibre-singlemode" if is_singlemode(application.grade) else "fibre-multimode"
    fitting = [
        module
        for module in catalogue.modules
        if module.medium == medium and module.speed_mbit == application.speed_mbit
        and module.reach_on(application.grade) >= length_m and module.in_stock
    ]  # fmt: skip
    return min(fitting, key=lambda module: module.price_of(count), default=None)


def fibre_minor_per_m(project: Project, grade: FibreGrade, strands: int) -> int:
    """Price of a metre of fibre cable [minor units]: the project's own, else usual for its grade and strands."""
    for fibre in project.fibres:
        if (fibre.grade, fibre.strands) == (grade, strands):
            return fibre.minor_per_m
    return round(USUAL_FIBRE_MINOR[grade] * (1 + (strands / 4 - 1) / 2))


def _option(
    project: Project, medium: Medium, name: str, rate: int, *, pulls: int, strands: int, parts: tuple[LinkPart, ...],
    hours: float, why_not: str,
) -> Option:  # fmt: skip
    total = sum(part.total_minor for part in parts) + round(hours * project.settings.hour_minor)
    return Option(medium, name, rate, pulls, strands, parts, hours, total, why_not)
