"""Projects: list, create, open, import, export, delete."""

from __future__ import annotations

from base64 import b64encode
from contextlib import suppress
from datetime import UTC, datetime
from typing import Annotated, Any, cast

from fastapi import APIRouter, Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import Field

from baugrund.core.errors import NotFound
from baugrund.core.facts.fact import Fact, Name, Text
from baugrund.core.facts.project import Project, empty_project
from baugrund.exchange.project_file import (
    MAX_BYTES,
    FilePicture,
    named_pictures,
    read_project_file,
    write_project,
)

from .context import Account, ChangeId, Works
from .downloads import JSON, as_file
from .uploads import JsonRoute, body_of, read_apart

router = APIRouter(prefix="/api/projects", tags=["projects"], route_class=JsonRoute)


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
def create_project(new: NewProject, works: Works, account: Account, change_id: ChangeId = None) -> Created:
    year = new.start_year or datetime.now(UTC).year
    project = works.catalogues.priced(empty_project(new.name, year, new.site), (), account)
    return Created(id=works.projects.create(project, change_id))


@router.post("/import", status_code=201)
async def import_project(request: Request, works: Works, account: Account, change_id: ChangeId = None) -> Created:
    """The body is a project file.  All or nothing."""
    file = await read_apart(works, read_project_file, await body_of(request, MAX_BYTES))

    def bring() -> Created:
        with works.projects.database.connection():
            number = works.projects.create(works.catalogues.priced(file.project, file.catalogues, account), change_id)
            for picture in file.pictures:
                works.pictures.keep(number, picture.content, picture.media_type, picture.width_px, picture.height_px)
        return Created(id=number)

    return await run_in_threadpool(bring)


@router.get("/{project_id}")
def open_project(project_id: int, works: Works) -> ProjectState:
    stored = works.projects.load(project_id)
    return ProjectState(id=stored.id, revision=stored.revision, project=stored.project)


@router.get("/{project_id}/export", response_class=Response, responses=as_file(JSON))
def export_project(project_id: int, works: Works) -> Response:
    """The project file, with the pictures that the project names."""
    stored = works.projects.load(project_id)
    pictures = []
    for key in named_pictures(stored.project):
        with suppress(NotFound):
            kept = works.pictures.load(project_id, key)
            pictures.append(
                FilePicture(
                    key=key,
                    media_type=cast(Any, kept.media_type),
                    width_px=kept.width_px,
                    height_px=kept.height_px,
                    content=b64encode(kept.content),
                )
            )
    headers = {"Content-Disposition": f'attachment; filename="project-{project_id}.json"'}
    text = write_project(stored.project, tuple(pictures), works.catalogues.brought_by(stored.project))
    return Response(text, media_type="application/json", headers=headers)


@router.delete("/{project_id}", status_code=204)
def delete_project(project_id: int, works: Works) -> None:
    works.projects.delete(project_id)
