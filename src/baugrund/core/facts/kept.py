"""Values that follow from a project alone, computed once a project."""

from __future__ import annotations

from collections.abc import Callable
from functools import wraps
from typing import TypeVar

from .project import Project

Value = TypeVar("Value")
Beside = TypeVar("Beside")


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


def kept_beside(function: Callable[[Project, Beside], Value]) -> Callable[[Project, Beside], Value]:
    """A function of a project and one thing more, as its catalogue, whose last value stays with the project."""
    name = f"_kept_{function.__module__}.{function.__qualname__}"

    @wraps(function)
    def once(project: Project, beside: Beside) -> Value:
        last = project.__dict__.get(name)
        if last is None or last[0] is not beside:
            last = project.__dict__[name] = (beside, function(project, beside))
        value: Value = last[1]
        return value

    return once
