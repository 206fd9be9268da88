"""Cover: what cameras see, on the plan and standing up, the targets, the low sun, and who sees a spot."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query

from baugrund.core.errors import NotFound
from baugrund.core.facts.fact import Fact
from baugrund.core.footage.kept import Footage, footage_of
from baugrund.core.footage.recorders import RecorderPick, least_recorders
from baugrund.core.sight.models import ModelOffers, offers_of
from baugrund.core.sight.scene import scene
from baugrund.core.sight.section import ViewSection, section_of
from baugrund.core.sight.spot import SpotSeen, seen_from
from baugrund.core.sight.targets import TargetLine, targets_of
from baugrund.core.sight.views import FACE_M, SunInView, ViewLine, placed_view, suns_of, views_at
from baugrund.core.siting.cameras import BestViews
from baugrund.core.standing.ground import router_of
from baugrund.tasks.questions import BestViewsOf

from .asking import Underway, asked
from .context import Works
from .standing import grounds_for
from .uploads import JsonRoute

router = APIRouter(prefix="/api", tags=["cover"], route_class=JsonRoute)
Height = Annotated[float, Query(ge=0, le=30)]
"""Above its floor [m]."""
Number = Annotated[int, Query(ge=1, le=2_000_000_000)]
SECTION_TO_M = 40.0


class CoverFor(Fact):
    """What cameras see in a revision."""

    revision: int
    views: tuple[ViewLine, ...]
    targets: tuple[TargetLine, ...]


@router.get("/projects/{project_id}/cover")
def cover_for(project_id: int, works: Works, height_m: Height = FACE_M) -> CoverFor:
    """Every view with its bands at a height above its floor, and every target."""
    stored = works.projects.load(project_id)
    return CoverFor(
        revision=stored.revision, views=views_at(stored.project, height_m), targets=targets_of(stored.project),
    )  # fmt: skip


@router.get("/projects/{project_id}/cover/models")
def cover_models(project_id: int, works: Works) -> ModelOffers:
    """What the price lists of a project offer for cameras, and what a drop and its view become by it."""
    return offers_of(works.catalogues.of(works.projects.load(project_id).project))


class FootageFor(Footage):
    """What is kept in a revision, and the recorders and disks that would keep all of it for the least price."""

    revision: int
    least: RecorderPick
    names: dict[str, str]
    """Names of the lines of the least price by their keys."""


@router.get("/projects/{project_id}/footage")
def footage_for(project_id: int, works: Works) -> FootageFor:
    """What every camera leaves behind, what recorders keep, and what would keep it for the least price."""
    stored = works.projects.load(project_id)
    catalogue = works.catalogues.of(stored.project)
    least = least_recorders(stored.project, catalogue, router_of(grounds_for(works, stored)))
    found = footage_of(stored.project)
    keys = {key for box in least.boxes for key in (box.recorder, box.disk)}
    return FootageFor(
        revision=stored.revision, least=least, **{name: getattr(found, name) for name in Footage.model_fields},
        names={key: line.name for key in keys if (line := catalogue.get(key))},
    )  # fmt: skip


class BestViewsFor(Fact):
    """The best places for cameras in a revision; none until they are found."""

    revision: int
    reply: BestViews | None
    underway: Underway | None = None


@router.get("/projects/{project_id}/cover/best")
def best_for(project_id: int, works: Works) -> BestViewsFor:
    """Where cameras meet all targets, as far as it is known; asking puts the search on the queue."""
    revision, reply, underway = asked(works, works.projects.load(project_id), BestViewsOf(), BestViews)
    return BestViewsFor(revision=revision, reply=reply, underway=underway)


@router.get("/projects/{project_id}/cover/sun")
def cover_sun(project_id: int, works: Works) -> list[SunInView]:
    """The low sun in every view, over a year."""
    return list(suns_of(works.projects.load(project_id).project))


@router.get("/projects/{project_id}/cover/section")
def cover_section(
    project_id: int, drop_id: Number, works: Works, view_id: Number | None = None, most_m: Height = SECTION_TO_M
) -> ViewSection:
    """A view cut open along its bearing.  NotFound: nothing there sees, or nobody has placed it."""
    project = works.projects.load(project_id).project
    placed = placed_view(project, drop_id, view_id)
    if placed is None or not placed.placed:
        raise NotFound(f"Drop {drop_id} has no view that could be cut open: it is no camera, or not on the plan.")
    return section_of(placed, scene(project), most_m)


@router.get("/projects/{project_id}/cover/spot")
def cover_spot(
    project_id: int,
    floor_id: Number,
    x_m: Annotated[float, Query(ge=-5000, le=5000)],
    y_m: Annotated[float, Query(ge=-5000, le=5000)],
    works: Works,
    height_m: Height = FACE_M,
) -> list[SpotSeen]:
    """Which views see a spot at a height above its floor, and how well; the best first."""
    project = works.projects.load(project_id).project
    if floor_id not in project.floors_by_id:
        raise NotFound(f"There is no floor {floor_id}; somebody may have removed it.")
    return list(seen_from(project, floor_id, (x_m, y_m), height_m))
