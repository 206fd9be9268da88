"""Errors as problem details (RFC 9457)."""

from __future__ import annotations

from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse

from baugrund.core.errors import BaugrundError, Conflict, InvalidInput, NotFound, NothingToUndo, TookTooLong

STATUS = {InvalidInput: 422, NotFound: 404, Conflict: 409, NothingToUndo: 409, TookTooLong: 503}


def problem(status: int, title: str, detail: str, **more: Any) -> JSONResponse:
    body = {"type": "about:blank", "title": title, "status": status, "detail": detail, **more}
    return JSONResponse(body, status_code=status, media_type="application/problem+json")


def add_problem_handlers(app: FastAPI) -> None:
    """Every error that a user can cause is one sentence."""

    @app.exception_handler(BaugrundError)
    def _told(_: Request, error: BaugrundError) -> JSONResponse:
        status = next((code for kind, code in STATUS.items() if isinstance(error, kind)), 500)
        more: dict[str, Any] = {}
        if isinstance(error, Conflict):
            more["revision"] = error.revision
            more["clashes"] = [
                {"what": c.what, "yours": c.yours, "theirs": c.theirs, "by": c.by} for c in error.clashes
            ]
        return problem(status, type(error).__name__, error.sentence, **more)

    @app.exception_handler(RequestValidationError)
    def _invalid(_: Request, error: RequestValidationError) -> JSONResponse:
        first = error.errors()[0]
        place = ".".join(str(step) for step in first["loc"] if step != "body")
        message = str(first["msg"]).removeprefix("Value error, ")
        return problem(422, "InvalidInput", f"{place}: {message}." if place else f"{message}.")
