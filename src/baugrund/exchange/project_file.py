"""The project file: JSON with a version, described by ``docs/formats/project.schema.json``."""

from __future__ import annotations

import json
from typing import Any, Literal

from pydantic import ValidationError

from baugrund.core.edits import plain_sentence
from baugrund.core.errors import InvalidInput
from baugrund.core.facts import Fact
from baugrund.core.project import MAX_DROPS, Project

VERSION = 1
MAX_BYTES = 8_000_000
MAX_DEPTH = 20


class ProjectFile(Fact):
    """A whole project in one file."""

    format: Literal["baugrund-project"] = "baugrund-project"
    version: Literal[1] = 1
    project: Project


def schema() -> dict[str, Any]:
    """The JSON Schema of the project file."""
    return ProjectFile.model_json_schema()


def write_project(project: Project) -> str:
    """The project as the text of a file."""
    return ProjectFile(project=project).model_dump_json(indent=2) + "\n"


def read_project(content: bytes) -> Project:
    """A project from the content of a file.

    Raises InvalidInput with one sentence naming place and limit: not JSON, too large, unknown version, too many
    drops, values out of range, references to nothing.
    """
    data = _parsed(content)
    if not isinstance(data, dict) or data.get("format") != "baugrund-project":
        raise InvalidInput('This is not a Baugrund project file: "format" is not "baugrund-project".')
    version = data.get("version")
    if version != VERSION or isinstance(version, bool):
        raise InvalidInput(f"This file has version {version!r}; this program reads version {VERSION}.", "version")
    drops = data["project"].get("drops") if isinstance(data.get("project"), dict) else None
    if isinstance(drops, list) and len(drops) > MAX_DROPS:
        raise InvalidInput(f"{len(drops):,} drops; a project holds {MAX_DROPS:,} at most.", "project.drops")
    try:
        return ProjectFile.model_validate_json(json.dumps(data)).project
    except ValidationError as error:
        raise InvalidInput(plain_sentence(error)) from error
    except (ValueError, OverflowError) as error:
        raise InvalidInput(f"The file holds a number or text that cannot be kept: {error}.") from error


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
