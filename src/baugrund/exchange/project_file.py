"""The project file: JSON with a version, described by ``docs/formats/project.schema.json``."""

from __future__ import annotations

import json
from hashlib import sha256
from typing import Annotated, Any, Literal

from pydantic import Base64Bytes, Field, ValidationError, model_validator

from baugrund.core.edits import plain_sentence
from baugrund.core.errors import InvalidInput
from baugrund.core.facts.catalogue import Catalogue
from baugrund.core.facts.fact import Fact, PictureKey
from baugrund.core.facts.project import Project
from baugrund.core.facts.settings import MAX_DROPS

from .pictures import check_pixels, harmless_svg

VERSION = 1
MAX_BYTES = 60_000_000
"""Enough for ten thousand drops and all the pictures that a project may keep."""
MAX_DEPTH = 20
MAX_PICTURES = 5_000


STARTS = {"image/png": b"\x89PNG\r\n\x1a\n", "image/jpeg": b"\xff\xd8\xff", "image/svg+xml": b"<"}


class FilePicture(Fact):
    """A picture that the project names, by the SHA-256 of its content."""

    key: PictureKey
    media_type: Literal["image/png", "image/jpeg", "image/svg+xml"]
    width_px: Annotated[int, Field(ge=1, le=20_000)]
    height_px: Annotated[int, Field(ge=1, le=20_000)]
    content: Base64Bytes

    @model_validator(mode="after")
    def _is_what_it_says(self) -> FilePicture:
        if sha256(self.content).hexdigest() != self.key:
            raise ValueError("the content of the picture does not have its key")
        if not self.content.startswith(STARTS[self.media_type]):
            raise ValueError(f"the content of the picture is not {self.media_type}")
        return self


class ProjectFile(Fact):
    """A whole project in one file, with the pictures that it names."""

    format: Literal["baugrund-project"] = "baugrund-project"
    version: Literal[1] = 1
    project: Project
    pictures: Annotated[tuple[FilePicture, ...], Field(max_length=MAX_PICTURES)] = ()
    catalogues: Annotated[tuple[Catalogue, ...], Field(max_length=8)] = ()
    """What the project is priced with; none: the catalogue that ships with the program that reads the file."""


def named_pictures(project: Project) -> tuple[str, ...]:
    """Keys of the pictures that a project names: under its plans, photos of drops and tests, stills of cameras."""
    plans = [floor.picture for floor in project.floors if floor.picture]
    photos = [row.photos for row in project.drops] + [row.photos for row in project.run_tests]
    stills = [view.still for view in project.views if view.still]
    return tuple(dict.fromkeys([*plans, *(key for some in photos for key in some), *stills]))


def schema() -> dict[str, Any]:
    """The JSON Schema of the project file."""
    return ProjectFile.model_json_schema()


def write_project(
    project: Project, pictures: tuple[FilePicture, ...] = (), catalogues: tuple[Catalogue, ...] = ()
) -> str:  # fmt: skip
    """The project as the text of a file.  Price lists are numbers of one database: their content goes instead."""
    project = project.changed(price_lists=())
    return ProjectFile(project=project, pictures=pictures, catalogues=catalogues).model_dump_json(indent=2) + "\n"


def read_project(content: bytes) -> Project:
    """A project from the content of a file, without its pictures.  Raises as ``read_project_file`` does."""
    return read_project_file(content).project


def read_project_file(content: bytes) -> ProjectFile:
    """A project and its pictures from the content of a file.

    Raises InvalidInput with one sentence naming place and limit: not JSON, too large, unknown version, too many
    drops, values out of range, references to nothing.
    """
    data = _parsed(content)
    if not isinstance(data, dict) or data.get("format") != "baugrund-project":
        raise InvalidInput('This is not a Baugrund project file: "format" is not "baugrund-project".')
    version = data.get("version")
    if version != VERSION or isinstance(version, bool):
        raise InvalidInput(f"This file has version {version!r}; this program reads version {VERSION}.", "version")
    if not isinstance(data.get("project"), dict):
        raise InvalidInput("The file holds no project.", "project")
    drops = data["project"].get("drops")
    if isinstance(drops, list) and len(drops) > MAX_DROPS:
        raise InvalidInput(f"{len(drops):,} drops; a project holds {MAX_DROPS:,} at most.", "project.drops")
    _hold_by_closet(data["project"])
    _without_old_terms(data["project"])
    data["project"].pop("price_lists", None)
    try:
        return _with_harmless_pictures(ProjectFile.model_validate_json(json.dumps(data)))
    except ValidationError as error:
        raise InvalidInput(plain_sentence(error)) from error
    except (ValueError, OverflowError) as error:
        raise InvalidInput(f"The file holds a number or text that cannot be kept: {error}.") from error


def _with_harmless_pictures(file: ProjectFile) -> ProjectFile:
    """The same with every SVG as it is kept; one that changes by that gets another key, wherever it is named."""
    pictures, keys = [], {}
    for picture in file.pictures:
        if picture.media_type == "image/svg+xml":
            clean, _, _ = harmless_svg(picture.content)
        else:
            check_pixels(picture.content)
            clean = picture.content
        key = keys[picture.key] = sha256(clean).hexdigest()
        pictures.append(picture.model_copy(update={"key": key, "content": clean}))
    if all(old == new for old, new in keys.items()):
        return file
    floors = tuple(
        floor.model_copy(update={"picture": keys.get(floor.picture, floor.picture)}) if floor.picture else floor
        for floor in file.project.floors
    )
    photographed = {
        name: tuple(
            row.model_copy(update={"photos": tuple(keys.get(key, key) for key in row.photos)}) if row.photos else row
            for row in getattr(file.project, name)
        )
        for name in ("drops", "run_tests")
    }
    views = tuple(
        view.model_copy(update={"still": keys.get(view.still, view.still)}) if view.still else view
        for view in file.project.views
    )
    project = file.project.changed(floors=floors, views=views, **photographed)
    return file.model_copy(update={"project": project, "pictures": tuple(pictures)})


def _hold_by_closet(project: dict[str, Any]) -> None:
    """Files written before holdings had a closet say *held* with the stance of a model: for the head end."""
    stances, closets, number = project.get("stances"), project.get("closets"), project.get("next_id")
    if not isinstance(stances, list) or not isinstance(closets, list) or not isinstance(number, int):
        return
    for stance in stances:
        count = stance.pop("held", 0) if isinstance(stance, dict) else 0
        if count and closets and isinstance(closets[0], dict):
            held = {"id": number, "closet_id": closets[0].get("id"), "model": stance.get("model"), "count": count}
            project.setdefault("holdings", []).append(held)
            number += 1
    project["next_id"] = number


OLD_TERMS = ("hours_per_end", "further_percent")
"""Terms of files from before every task had its own hours; nothing stands for them any more."""


def _without_old_terms(project: dict[str, Any]) -> None:
    settings = project.get("settings")
    if isinstance(settings, dict):
        for name in OLD_TERMS:
            settings.pop(name, None)


def _parsed(content: bytes) -> Any:
    if len(content) > MAX_BYTES:
        raise InvalidInput(f"The file has {len(content):,} bytes; {MAX_BYTES:,} are the most.")
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise InvalidInput(f"The file is not UTF-8 text: byte {error.start:,} is odd.") from error

    def refuse(constant: str) -> None:
        raise InvalidInput(f"The file holds {constant}, which is not a finite number.")

    try:
        data = json.loads(text, parse_constant=refuse)
    except RecursionError as error:
        raise InvalidInput(f"The file is nested too deeply; {MAX_DEPTH} levels are the most.") from error
    except json.JSONDecodeError as error:
        raise InvalidInput(f"The file is not JSON: line {error.lineno}, column {error.colno}: {error.msg}.") from error
    except ValueError as error:
        raise InvalidInput(f"The file holds a number that is too long: {error}.") from error
    if _depth(data) > MAX_DEPTH:
        raise InvalidInput(f"The file is nested too deeply; {MAX_DEPTH} levels are the most.")
    return data


def _depth(data: Any) -> int:
    depth, level = 0, [data]
    while level and depth <= MAX_DEPTH:
        depth += 1
        level = [
            item
            for value in level
            if isinstance(value, dict | list)
            for item in (value.values() if isinstance(value, dict) else value)
        ]
    return depth
