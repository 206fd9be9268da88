"""Closets: where they stand best, told while it is found, and how they are linked."""

from __future__ import annotations

from collections.abc import Iterator

from fastapi import APIRouter
from fastapi.responses import StreamingResponse

from baugrund.core.facts import Fact
from baugrund.core.reach.links import Link, links
from baugrund.core.siting.answers import Siting, siting

from .context import Works

router = APIRouter(prefix="/api", tags=["closets"])
STEP = 0.005
"""Progress is told when it has grown by so much, or when something else is worked on."""


class SitingStep(Fact):
    """How far the comparison is [0 to 1] and what is worked on; the last one carries the result."""

    revision: int
    share: float
    text: str = ""
    siting: Siting | None = None
    recommended: int | None = None
    """The number of closets that leaves fewest drops out of reach, then costs least."""


class LinksFor(Fact):
    """The links between the closets of a revision."""

    revision: int
    links: tuple[Link, ...]


@router.get(
    "/projects/{project_id}/siting",
    response_class=StreamingResponse,
    responses={200: {"model": SitingStep, "description": "A line of JSON a step; who stops reading ends it."}},
)
def siting_for(project_id: int, works: Works) -> StreamingResponse:
    stored = works.projects.load(project_id)

    def steps() -> Iterator[str]:
        work = siting(stored.project, works.catalogues.of(stored.project))
        told = SitingStep(revision=stored.revision, share=0.0)
        while True:
            try:
                progress = next(work)
            except StopIteration as done:
                found: Siting = done.value
                last = SitingStep(revision=stored.revision, share=1.0, siting=found, recommended=found.recommended)
                yield last.model_dump_json() + "\n"
                return
            if progress.share >= told.share + STEP or progress.text != told.text:
                told = SitingStep(revision=stored.revision, share=round(progress.share, 3), text=progress.text)
                yield told.model_dump_json() + "\n"

    return StreamingResponse(steps(), media_type="application/x-ndjson")


@router.get("/projects/{project_id}/links")
def links_for(project_id: int, works: Works) -> LinksFor:
    stored = works.projects.load(project_id)
    return LinksFor(revision=stored.revision, links=links(stored.project, works.catalogues.of(stored.project)))
