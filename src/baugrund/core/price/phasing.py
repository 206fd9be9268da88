"""The project as it stands at the end of each phase: a project of its own, of what is built until then."""

from __future__ import annotations

from collections.abc import Iterator

from ..edits import RemoveDrops
from ..facts.building import Closet
from ..facts.drop import Drop
from ..facts.price import Phase
from ..facts.project import Project


def place_of(project: Project, drop: Drop) -> int:
    """The phase in which a drop is built, by its place in the list: its own, never before what feeds it; the first
    where nobody has said."""
    places = {phase.id: place for place, phase in enumerate(project.phases)}
    own = places.get(drop.phase_id or 0, 0)
    above = project.drops_by_id.get(drop.behind_id or 0)
    return max(own, place_of(project, above)) if above else own


def closet_place(project: Project, closet: Closet) -> int:
    """The phase in which a closet is built, by its place: its own, else that of the first drop that ends in it."""
    for place, phase in enumerate(project.phases):
        if phase.id == closet.phase_id:
            return place
    ending = (place_of(project, drop) for drop in project.drops if drop.closet_id == closet.id and drop.has_run)
    return min(ending, default=0)


def until_phase(project: Project, place: int) -> Project:
    """The project as it is built by the end of a phase: without the drops of later ones, and in no phases itself."""
    later = [drop.id for drop in project.drops if place_of(project, drop) > place]
    until = RemoveDrops(ids=tuple(later)).apply(project) if later else project
    return until.changed(phases=())


def in_phases(project: Project) -> Iterator[tuple[Phase | None, Project, int]]:
    """Every phase with the project as it stands at its end, and how many drops it brings; without phases all at
    once."""
    if not project.phases:
        yield None, project, len(project.drops)
        return
    places = [place_of(project, drop) for drop in project.drops]
    for place, phase in enumerate(project.phases):
        yield phase, until_phase(project, place), places.count(place)
