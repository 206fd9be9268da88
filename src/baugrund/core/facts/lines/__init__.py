"""The lines of a price list, a module a kind: what is put here is a kind from then on, in files and on screens."""

from __future__ import annotations

from importlib import import_module
from inspect import getmembers, isclass
from pkgutil import iter_modules
from typing import TYPE_CHECKING, Annotated, Union

from pydantic import Field

from .line import Line


def _kinds() -> dict[str, type[Line]]:
    """The kinds by their key, in their order."""
    found: set[type[Line]] = set()
    for module in iter_modules(__path__):
        named = getmembers(import_module(f"{__name__}.{module.name}"), isclass)
        found |= {row for _, row in named if issubclass(row, Line) and "of_kind" in vars(row)}
    return {row.of_kind.one: row for row in sorted(found, key=lambda row: row.of_kind.place)}


KINDS = _kinds()

if TYPE_CHECKING:
    AnyLine = Line
else:
    AnyLine = Annotated[Union[tuple(KINDS.values())], Field(discriminator="kind")]  # noqa: UP007
"""A line of any kind."""
