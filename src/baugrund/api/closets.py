"""Closets: where they stand best, and how they are linked."""

from __future__ import annotations

from fastapi import APIRouter

from baugrund.core.cabling.links import Link, links
from baugrund.core.facts.fact import Fact
from baugrund.core.siting.answers import Siting
from baugrund.tasks.questions import SitesOf

from .asking import Underway, asked
from .context import Works
from .uploads import JsonRoute

router = APIRouter(prefix="/api", tags=["closets"], route_class=JsonRoute)


class SitingFor(Fact):
    """The places of a revision compared, as soon as they are."""

    revision: int
    reply: Siting | None
    recommended: int | None
    """The number of closets that leaves fewest drops out of reach, then costs least."""
    underway: Underway | None = None


class LinksFor(Fact):
    """The links between the closets of a revision."""

    revision: int
    links: tuple[Link, ...]


@router.get("/projects/{project_id}/siting")
def siting_for(project_id: int, works: Works) -> SitingFor:
    """Where closets stand best, as far as it is known; asking puts the comparison on the queue."""
    revision, reply, underway = asked(works, works.projects.load(project_id), SitesOf(), Siting)
    best = reply.recommended if reply else None
    return SitingFor(revision=revision, reply=reply, recommended=best, underway=underway)


@router.get("/projects/{project_id}/links")
def links_for(project_id: int, works: Works) -> LinksFor:
    stored = works.projects.load(project_id)
    return LinksFor(revision=stored.revision, links=links(stored.project, works.catalogues.of(stored.project)))
