"""Errors as problem details (RFC 9457)."""

from __future__ import annotations

import logging
from typing import Any

import psycopg
from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from procrastinate.exceptions import ConnectorException
from pydantic import BaseModel, Field
from starlette.exceptions import HTTPException

from baugrund.core.errors import BaugrundError, Conflict, InvalidInput, NotFound, NothingToUndo, NotReady, TookTooLong

log = logging.getLogger(__name__)

STATUS = {InvalidInput: 422, NotFound: 404, Conflict: 409, NothingToUndo: 409, NotReady: 409, TookTooLong: 503}
PROBLEM = "application/problem+json"
AGAIN_AFTER_S = 2
"""When to ask again where the database is away [s]."""


class Clash(BaseModel):
    """A field that two people set."""

    what: str
    yours: Any
    theirs: Any
    by: str


class Problem(BaseModel):
    """Why there is no other answer, in a sentence (RFC 9457)."""

    type: str
    title: str
    status: int
    detail: str
    revision: int | None = Field(None, description="Of a conflict: the revision that the project has now.")
    clashes: list[Clash] | None = Field(None, description="Of a conflict: the fields that somebody else set.")


def problem(
    status: int, title: str, detail: str, headers: dict[str, str] | None = None, **more: Any
) -> JSONResponse:  # fmt: skip
    """The answer that tells a problem."""
    body = {"type": "about:blank", "title": title, "status": status, "detail": detail, **more}
    return JSONResponse(body, status_code=status, headers=headers, media_type=PROBLEM)


def add_problem_handlers(app: FastAPI) -> None:
    """Every error is one sentence."""

    @app.exception_handler(BaugrundError)
    def _told(_: Request, error: BaugrundError) -> JSONResponse:
        status = next((code for kind, code in STATUS.items() if isinstance(error, kind)), 500)
        more: dict[str, Any] = {}
        if isinstance(error, Conflict):
            more["revision"] = error.revision
            more["clashes"] = [
                {"what": c.what, "yours": c.yours, "theirs": c.theirs, "by": c.by} for c in error.clashes
            ]
        headers = {"Retry-After": str(AGAIN_AFTER_S)} if status == 503 else None
        return problem(status, type(error).__name__, error.sentence, headers, **more)

    @app.exception_handler(RequestValidationError)
    def _invalid(_: Request, error: RequestValidationError) -> JSONResponse:
        first = error.errors()[0]
        place = ".".join(str(step) for step in first["loc"] if step != "body")
        message = str(first["msg"]).removeprefix("Value error, ")
        return problem(422, "InvalidInput", f"{place}: {message}." if place else f"{message}.")

    @app.exception_handler(HTTPException)
    def _refused(_: Request, error: HTTPException) -> JSONResponse:
        return problem(error.status_code, "Refused", str(error.detail), dict(error.headers or {}))

    @app.exception_handler(psycopg.OperationalError)
    @app.exception_handler(psycopg.InterfaceError)
    @app.exception_handler(ConnectorException)
    def _database_is_away(_: Request, error: Exception) -> JSONResponse:
        log.warning("the database is away: %s", error)
        told = "The database does not answer; try again in a moment."
        return problem(503, "DatabaseAway", told, {"Retry-After": str(AGAIN_AFTER_S)})

    @app.exception_handler(Exception)
    def _failed(request: Request, error: Exception) -> JSONResponse:
        log.error("%s %s", request.method, request.url.path, exc_info=error)
        return problem(
            500,
            "Failed",
            "The server failed at this; its log says why. Look whether it was done before you do it again.",
        )
