"""Projects: list, create, open, import, export, delete."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Annotated

from fastapi import APIRouter, Request, Response
from pydantic import Field

from baugrund.core.facts import Fact, Name, Text
from baugrund.core.project import Project, empty_project
from baugrund.exchange.project_file import MAX_BYTES, read_project, write_project

from .context import Works
from .uploads import body_of

router = APIRouter(prefix="/api/projects", tags=["projects"])


class ProjectLine(Fact):
    """A line of the list of projects."""

    id: int
    name: str
    site: str
    revision: int
    changed_at: datetime
    drops: int
    rooms: int


class NewProject(Fact):
    """What a new project starts from."""

    name: Name
    site: Text = ""
    start_year: Annotated[int, Field(ge=2000, le=2200)] | None = None


class Created(Fact):
    """The number of a project that was created."""

    id: int


class ProjectState(Fact):
    """A project as it stands."""

    id: int
    revision: int
    project: Project


@router.get("")
def list_projects(works: Works) -> list[ProjectLine]:
    return [ProjectLine.model_validate(vars(line)) for line in works.projects.all()]


@router.post("", status_code=201)
def create_project(new: NewProject, works: Works) -> Created:
    year = new.start_year or datetime.now(UTC).year
    return Created(id=works.projects.create(empty_project(new.name, year, new.site)))


@router.post("/import", status_code=201)
async def import_project(request: Request, works: Works) -> Created:
    """The body is a project file."""
    project = read_project(await body_of(request, MAX_BYTES))
    return Created(id=works.projects.create(project))


@router.get("/{project_id}")
def open_project(project_id: int, works: Works) -> ProjectState:
    stored = works.projects.load(project_id)
    return ProjectState(id=stored.id, revision=stored.revision, project=stored.project)


@router.get("/{project_id}/export", response_class=Response)
def export_project(project_id: int, works: Works) -> Response:
    """The project file."""
    stored = works.projects.load(project_id)
    headers = {"Content-Disposition": f'attachment; filename="project-{project_id}.json"'}
    return Response(write_project(stored.project), media_type="application/json", headers=headers)


@router.delete("/{project_id}", status_code=204)
def delete_project(project_id: int, works: Works) -> None:
    works.projects.delete(project_id)
