"""Stack: what stands in every closet, what could stand better, and elevations to take along."""

from __future__ import annotations

from typing import Literal

from fastapi import APIRouter, Response

from baugrund.core.errors import NotFound
from baugrund.core.facts.fact import Fact
from baugrund.core.stack.proposals import StackProposals
from baugrund.core.stack.told import Stack, stack_of
from baugrund.exchange.drawings.dxf import write_dxf
from baugrund.exchange.drawings.elevation import elevation
from baugrund.exchange.drawings.svg import write_svg
from baugrund.exchange.loading_list import write_loading_csv, write_loading_xlsx
from baugrund.store.states import Stored
from baugrund.tasks.questions import StackOf

from .asking import Underway, asked
from .context import Context, Works
from .downloads import CSV, DXF, SVG, XLSX, as_file, download
from .standing import grounds_for
from .uploads import JsonRoute

router = APIRouter(prefix="/api", tags=["stack"], route_class=JsonRoute)


class GearLine(Fact):
    """A line of the price lists that a thing in a closet can be."""

    key: str
    name: str
    kind: str
    price_minor: int


class StackFor(Stack):
    """What stands in a revision, and what can be chosen."""

    revision: int
    lines: tuple[GearLine, ...]


GEAR_KINDS = {
    "patch panel": "panel", "shelf": "shelf", "power strip": "strip", "ups": "ups", "fan unit": "fan",
    "cable manager": "manager", "recorder": "recorder", "housing": "housing",
}  # fmt: skip


def _told(works: Context, project_id: int) -> tuple[Stored, Stack]:
    """A project as it stands, with what stands in its closets."""
    stored = works.projects.load(project_id)
    return stored, stack_of(stored.project, works.catalogues.of(stored.project), grounds_for(works, stored))


@router.get("/projects/{project_id}/stack")
def stack_for(project_id: int, works: Works) -> StackFor:
    """What stands in every closet, what breaks, warmth, noise, mains, and the power cut."""
    stored, told = _told(works, project_id)
    return StackFor(
        revision=stored.revision, closets=told.closets, power_cut=told.power_cut,
        lines=tuple(
            GearLine(key=line.key, name=line.name, kind=GEAR_KINDS[line.kind], price_minor=line.price_minor)
            for line in works.catalogues.of(stored.project).models
            if line.kind in GEAR_KINDS and line.in_stock
        ),
    )  # fmt: skip


class StackProposalsFor(Fact):
    """What could stand better in a revision; none until it is found."""

    revision: int
    reply: StackProposals | None
    underway: Underway | None = None


@router.get("/projects/{project_id}/stack/proposals")
def proposals_for(project_id: int, works: Works) -> StackProposalsFor:
    """Arrangements, the housing and the UPS of the least price; asking puts the search on the queue."""
    revision, reply, underway = asked(works, works.projects.load(project_id), StackOf(), StackProposals)
    return StackProposalsFor(revision=revision, reply=reply, underway=underway)


@router.get(
    "/projects/{project_id}/closets/{closet_id}/elevation.{form}", response_class=Response,
    responses=as_file(SVG, DXF),
)  # fmt: skip
def elevation_of(project_id: int, closet_id: int, form: Literal["svg", "dxf"], works: Works) -> Response:
    """A closet from the front and from the side, to scale."""
    stored, told = _told(works, project_id)
    closet = stored.project.closets_by_id.get(closet_id)
    if closet is None:
        raise NotFound(f"There is no closet {closet_id}; somebody may have removed it.")
    here = next(one for one in told.closets if one.closet_id == closet_id)
    scene = elevation(stored.project, closet, here)
    if form == "dxf":
        return download(write_dxf(scene).encode(), DXF, f"elevation-{project_id}-{closet_id}.dxf")
    return download(write_svg(scene).encode(), SVG, f"elevation-{project_id}-{closet_id}.svg")


@router.get("/projects/{project_id}/stack/loading.csv", response_class=Response, responses=as_file(CSV))
def loading_csv(project_id: int, works: Works) -> Response:
    """Everything of every closet in the order of fitting as CSV: from the floor up, the heaviest first."""
    stored, told = _told(works, project_id)
    return download(write_loading_csv(stored.project, told).encode("utf-8-sig"), CSV, f"loading-{project_id}.csv")


@router.get("/projects/{project_id}/stack/loading.xlsx", response_class=Response, responses=as_file(XLSX))
def loading_xlsx(project_id: int, works: Works) -> Response:
    """The same as an XLSX workbook."""
    stored, told = _told(works, project_id)
    return download(write_loading_xlsx(stored.project, told), XLSX, f"loading-{project_id}.xlsx")
