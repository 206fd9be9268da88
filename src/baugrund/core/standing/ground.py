"""The boxes that stand in each closet, and until when they carry its drops: what capacities are computed from."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import cache

from ..cabling.links import links
from ..demand.needs import Demand, Demands, demands
from ..facts.brief import YEARS_AHEAD
from ..facts.building import Closet
from ..facts.catalogue import Catalogue
from ..facts.lines.injector import Injector
from ..facts.lines.module import Module
from ..facts.lines.router import Router
from ..facts.lines.switch import Switch
from ..facts.project import Project
from ..pick.model.links import Trunk
from ..pick.model.places import Place, places_of
from ..pick.model.seating import Seating
from ..pick.model.trunks import trunks
from ..pick.site import Site, site_of
from ..pick.standing import Boxes, Given, Standing, bears, first_short, first_year, given, models_in, seat_in, shortages


@dataclass(frozen=True)
class Ground:
    """What the capacities of one closet are computed from, gathered once."""

    project: Project
    catalogue: Catalogue
    closet: Closet
    standing: Boxes
    boxes: tuple[Router | Switch, ...]
    injectors: tuple[tuple[Injector, int], ...]
    modules: int
    years: tuple[Demand, ...]
    """Demand for each year from today to ten years on."""
    links: tuple[tuple[Trunk, ...], ...]
    """Links to closets that it feeds for each of those years, and last the one that feeds it."""
    seating: Seating | None
    """Of all drops by the horizon; None: the boxes do not bear them."""
    places: tuple[Place, ...]
    stand: Stand
    capacities: tuple[int, ...]
    """What the closet has of each resource, as the pick looks at it."""

    @property
    def today(self) -> Demand:
        return self.years[0]

    @property
    def then(self) -> Demand:
        return self.years[self.project.settings.horizon_years]

    @property
    def injector_count(self) -> int:
        return sum(count for _, count in self.injectors)

    @property
    def port_ends(self) -> int:
        """Ports that links between the boxes and to other closets take: those that no module takes to a slot."""
        ends = 2 * (len(self.boxes) - 1) + sum(trunk.ends for trunk in self.links[self.project.settings.horizon_years])
        return max(0, ends - self.modules)


@dataclass(frozen=True)
class Stand:
    """Until when the boxes of a closet bear its drops, by seatings and not by sums."""

    seated: Seating | None
    """Of the horizon, or of the last year before it that is borne; None: not even today is."""
    places: tuple[Place, ...]
    full: int | None
    """First year from the start that no seating carries; None: none within ten years."""
    short: frozenset[str]
    """Capacities of which more alone would carry that year."""
    why: str
    """What runs out first then, in words."""


def router_of(grounds: Sequence[Ground]) -> Router | None:
    """The router that stands; None: nothing stands yet."""
    return next((box for ground in grounds for box in ground.boxes if isinstance(box, Router)), None)


def grounds_of(
    project: Project, catalogue: Catalogue, standing: Standing, known: Sequence[Ground] = ()
) -> tuple[Ground, ...]:
    """The ground of every closet in which, or behind which, something ends; the head end always.

    ``known``: grounds of a state before; a closet stands as there where nothing differs that its seatings follow from.
    """
    years = [demands(project, year) for year in range(YEARS_AHEAD + 1)]
    made = links(project, catalogue)
    fed = [trunks(project, of, made) for of in years]
    horizon = project.settings.horizon_years
    part = catalogue.part(models_in(standing))
    before = {ground.closet.id: ground for ground in known}

    @cache
    def site(year: int) -> Site:
        return site_of(project, part, years[year], fed[year])

    return tuple(
        _ground(
            project,
            catalogue,
            place,
            site,
            standing.get(problem.closet_id, Boxes(())),
            years=years,
            fed=fed,
            known=before.get(problem.closet_id),
        )
        for place, problem in enumerate(site(horizon).closets)
    )


def _ground(
    project: Project, catalogue: Catalogue, place: int, site: Callable[[int], Site], standing: Boxes, *,
    years: Sequence[Demands], fed: Sequence[Mapping[int, Trunk]], known: Ground | None,
) -> Ground:  # fmt: skip
    horizon = project.settings.horizon_years
    problem = site(horizon).closets[place]
    number = problem.closet_id
    below = [trunk.closet_id for trunk in problem.trunks] + ([number] if problem.uplink else [])
    boxes = [catalogue.get(key) for key in standing.boxes]
    kept = tuple(box for box in boxes if isinstance(box, Router | Switch))
    if len(kept) < len(boxes):
        kept = ()
    beside = [(catalogue.get(key), count) for key, count in standing.extras]
    asked = years[horizon][number]

    @cache
    def narrowed(year: int) -> Given | None:
        here = next((one for one in site(year).closets if one.closet_id == number), None)
        return given(here, standing) if here else None

    demanded = tuple(of[number] for of in years)
    joined = tuple(tuple(some[one] for one in below if one in some) for some in fed)
    if known and _is_same(known, project, catalogue, standing, problem.capacities, demanded, joined):
        stand = known.stand
    else:
        stand = _stand(standing, horizon, narrowed, lambda year: years[year][number]) if kept else NOTHING
    seating = stand.seated if stand.full is None or stand.full > horizon else None
    return Ground(
        project=project,
        catalogue=catalogue,
        closet=project.closets_by_id[number],
        standing=standing,
        boxes=kept,
        injectors=tuple((model, count) for model, count in beside if isinstance(model, Injector)),
        modules=sum(count for model, count in beside if isinstance(model, Module)),
        years=demanded,
        links=joined,
        seating=seating,
        places=places_of(seating, asked) if seating else (),
        stand=stand,
        capacities=problem.capacities,
    )


def _is_same(
    known: Ground, project: Project, catalogue: Catalogue, standing: Boxes, capacities: tuple[int, ...],
    years: tuple[Demand, ...], links: tuple[tuple[Trunk, ...], ...],
) -> bool:  # fmt: skip
    """Whether nothing differs that the seatings of a closet follow from."""
    was = known.project
    return (
        known.catalogue is catalogue
        and known.closet == project.closets_by_id[known.closet.id]
        and (was.settings, was.stances, was.owned, was.lines)
        == (project.settings, project.stances, project.owned, project.lines)
        and (known.standing, known.capacities, known.links) == (standing, capacities, links)
        and known.years == years
    )


COUNTED_SHORT = {"ports": "ports", "powered ports": "powered", "watts": "watts", "uplinks": "uplink"}
"""Capacities by what runs out first, where counting alone tells it."""
NOTHING = Stand(None, (), None, frozenset(), "")


def _stand(
    standing: Boxes, horizon: int, narrowed: Callable[[int], Given | None], demand: Callable[[int], Demand]
) -> Stand:
    """Until when boxes bear the drops; demand only grows, so halving finds the first year that is not borne."""

    def is_borne(year: int) -> bool:
        here = narrowed(year)
        return here is not None and bears(here, standing.before, demand(year))

    full = first_year(is_borne, YEARS_AHEAD)
    last = horizon if full is None else min(horizon, full - 1)
    here = narrowed(last) if last >= 0 else None
    seating = seat_in(here, standing.before, demand(last)) if here else None
    over = narrowed(full) if full is not None else None
    why = first_short(over) if over else "boxes"
    short = frozenset[str]()
    if over:
        short = frozenset({COUNTED_SHORT[why]}) if why in COUNTED_SHORT else shortages(over)
    return Stand(seating, places_of(seating, demand(last)) if seating else (), full, short, why)
