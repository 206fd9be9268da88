"""Values that follow from a project alone, computed once a project."""

from __future__ import annotations

from collections.abc import Callable
from functools import wraps
from typing import TypeVar

from .project import Project

Value = TypeVar("Value")


def kept(function: Callable[[Project], Value]) -> Callable[[Project], Value]:
    """A function of a project whose value stays with it; ``Project.changed`` keeps none."""
    name = f"_kept_{function.__module__}.{function.__qualname__}"

    @wraps(function)
    def once(project: Project) -> Value:
        if name not in project.__dict__:
            project.__dict__[name] = function(project)
        value: Value = project.__dict__[name]
        return value

    return once
