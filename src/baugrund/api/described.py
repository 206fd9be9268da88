"""The OpenAPI document: what FastAPI tells of the routes, and every problem as it is answered."""

from __future__ import annotations

from typing import Any

from fastapi import FastAPI
from fastapi.openapi.utils import get_openapi

from .problems import PROBLEM, Problem

TOLD = {
    "404": "What is named is not there.",
    "409": "Somebody changed the same meanwhile, or there is nothing to undo.",
    "422": "What was sent cannot be read or breaks a limit; the sentence says where.",
    "503": "The database is away, or a reply takes too long: ask again.",
    "default": "A request that no page of this program sends, or a fault of the server.",
}
CHANGES = ("post", "put", "delete")
FASTAPIS_OWN = ("HTTPValidationError", "ValidationError")


def describe(app: FastAPI) -> None:
    """Let the document name every answer, problems among them."""

    def document() -> dict[str, Any]:
        if app.openapi_schema is None:
            app.openapi_schema = _with_problems(get_openapi(title=app.title, version=app.version, routes=app.routes))
        return app.openapi_schema

    app.openapi = document  # type: ignore[method-assign]


def _with_problems(document: dict[str, Any]) -> dict[str, Any]:
    schemas = document["components"]["schemas"]
    for name in FASTAPIS_OWN:
        schemas.pop(name, None)
    problem = Problem.model_json_schema(ref_template="#/components/schemas/{model}")
    schemas.update(problem.pop("$defs"))
    schemas["Problem"] = problem
    content = {PROBLEM: {"schema": {"$ref": "#/components/schemas/Problem"}}}
    for path, operations in document["paths"].items():
        for method, operation in operations.items():
            for status in _statuses(path, method, operation):
                operation["responses"][status] = {"description": TOLD[status], "content": content}
    return document


def _statuses(path: str, method: str, operation: dict[str, Any]) -> list[str]:
    statuses = ["503", "default"]
    if "{" in path:
        statuses.append("404")
    if method in CHANGES and "{" in path:
        statuses.append("409")
    if operation.get("parameters") or method in CHANGES:
        statuses.append("422")
    return statuses
