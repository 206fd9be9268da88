"""The catalogue file: JSON, described by ``docs/formats/catalogue.schema.json``."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from pydantic import ValidationError

from baugrund.core.edits import plain_sentence
from baugrund.core.errors import InvalidInput
from baugrund.core.facts.catalogue import Catalogue


def schema() -> dict[str, Any]:
    """The JSON Schema of the catalogue file."""
    return Catalogue.model_json_schema()


def read_catalogue(path: Path) -> Catalogue:
    """A catalogue from a file.  Raises InvalidInput with the first thing that is wrong."""
    try:
        return Catalogue.model_validate_json(path.read_bytes())
    except ValidationError as error:
        raise InvalidInput(plain_sentence(error), path.name) from error
