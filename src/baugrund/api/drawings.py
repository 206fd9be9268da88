"""Plan and section as drawings to take along: SVG at a round scale, DXF in metres."""

from __future__ import annotations

from typing import Literal

from fastapi import APIRouter, Response

from baugrund.core.errors import NotFound
from baugrund.core.facts.project import Project
from baugrund.exchange.drawings.dxf import write_dxf
from baugrund.exchange.drawings.scene import Scene, plan_scene, section_scene, sight_scene
from baugrund.exchange.drawings.svg import write_svg

from .context import Works
from .downloads import DXF, SVG, as_file, download
from .uploads import JsonRoute

router = APIRouter(prefix="/api", tags=["drawings"], route_class=JsonRoute)
Format = Literal["svg", "dxf"]


@router.get(
    "/projects/{project_id}/floors/{floor_id}/plan.{form}", response_class=Response, responses=as_file(SVG, DXF)
)
def plan(project_id: int, floor_id: int, form: Format, works: Works, sight: bool = False) -> Response:
    """The plan of a floor with its paths, runs, drops and closets; ``sight``: with views and targets too."""
    project = works.projects.load(project_id).project
    floor = project.floors_by_id.get(floor_id)
    if floor is None:
        raise NotFound(f"There is no floor {floor_id}; somebody may have removed it.")
    drawn = sight_scene if sight else plan_scene
    return _drawn(project, drawn(project, floor), form, f"{'views' if sight else 'plan'}-{project_id}-{floor_id}")


@router.get("/projects/{project_id}/section.{form}", response_class=Response, responses=as_file(SVG, DXF))
def section(project_id: int, form: Format, works: Works, axis: Literal["along", "across"] = "along") -> Response:
    """The site cut open, with every run and path as it lies."""
    project = works.projects.load(project_id).project
    return _drawn(project, section_scene(project, 0 if axis == "along" else 1), form, f"section-{project_id}")


def _drawn(project: Project, scene: Scene, form: Format, name: str) -> Response:
    if form == "dxf":
        return download(write_dxf(scene).encode(), DXF, f"{name}.dxf")
    return download(write_svg(scene).encode(), SVG, f"{name}.svg")
