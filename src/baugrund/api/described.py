"""The OpenAPI document: what FastAPI tells of the routes, and every problem as it is answered."""

from __future__ import annotations

from typing import Any

from fastapi import FastAPI
from fastapi.openapi.utils import get_openapi

from .problems import PROBLEM, Problem

TOLD = {
    "400": "What was sent is no HTTP request that can be read, or broke off.",
    "403": "A page of another origin asked.",
    "404": "What is named is not there.",
    "405": "Nothing at this address is asked in this way.",
    "408": "The rest of the body did not come.",
    "409": "Somebody changed the same meanwhile, there is nothing to undo, or a reply is not there yet.",
    "415": "JSON is sent as application/json.",
    "421": "The request names another host.",
    "422": "What was sent cannot be read or breaks a limit; the sentence says where.",
    "500": "The server failed.",
    "503": "The database is away, or a search found nothing in its time: ask again.",
}
ANY = ("400", "403", "404", "405", "409", "421", "422", "500", "503")
"""What every operation may answer."""
OF_CHANGES = ("408", "415")
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
    document["components"]["responses"] = {
        f"Problem{status}": {"description": told, "content": content} for status, told in TOLD.items()
    }
    for operations in document["paths"].values():
        for method, operation in operations.items():
            for status in (*ANY, *(OF_CHANGES if method in CHANGES else ())):
                operation["responses"][status] = {"$ref": f"#/components/responses/Problem{status}"}
    return document
