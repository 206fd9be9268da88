"""The application: routers, problem details, and the built front end."""

from __future__ import annotations

from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path

from fastapi import FastAPI
from fastapi.middleware.gzip import GZipMiddleware
from fastapi.responses import FileResponse, HTMLResponse, Response
from fastapi.staticfiles import StaticFiles

from baugrund.core.errors import NotFound
from baugrund.core.facts.catalogue import Catalogue
from baugrund.store.catalogues import Catalogues
from baugrund.store.database import Database
from baugrund.store.meanings import RememberedMeanings
from baugrund.store.pictures import Pictures
from baugrund.store.projects import Projects
from baugrund.tasks.queue import Queue

from . import (
    asking,
    brief,
    closets,
    cover,
    drawings,
    edits,
    events,
    lists,
    load,
    patch,
    picks,
    pictures,
    price,
    price_files,
    projects,
    prove,
    pulls,
    reach,
    sheets,
    signal,
    stack,
    walk,
)
from . import catalogues as price_lists
from .context import Context
from .described import describe
from .guard import Guard, page_policy
from .notices import Notices
from .problems import add_problem_handlers

NONCE = "NONCE-OF-THIS-PAGE"
"""What stands in the built page in place of its nonce (``web/vite.config.ts``)."""


def create_app(
    database: Database | None, catalogue: Catalogue | None, database_url: str = "", front_end: Path | None = None
) -> FastAPI:
    """The application over a database and a catalogue; without them only its description can be had."""

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        if database is None or catalogue is None:
            yield
            return
        catalogues, notices = Catalogues(database, catalogue), Notices(database_url)
        catalogues.keep_shipped()
        app.state.context = Context(
            Projects(database, catalogues.of), catalogues, notices, Pictures(database), Queue(database),
            RememberedMeanings(database),
        )  # fmt: skip
        async with notices.running():
            yield

    # the usual pages about an API fetch their scripts from elsewhere
    app = FastAPI(title="Baugrund", version="1", lifespan=lifespan, docs_url=None, redoc_url=None)
    add_problem_handlers(app)
    describe(app)
    rooms = (
        projects, edits, events, asking, brief, walk, cover, signal, reach, closets, pulls, sheets, drawings, load,
        lists, pictures, picks, stack, patch, price, prove, price_lists, price_files,
    )  # fmt: skip
    for room in rooms:
        app.include_router(room.router)
    if front_end is not None:
        _serve_front_end(app, front_end)
    app.add_middleware(Guard)
    return app


def _serve_front_end(app: FastAPI, front_end: Path) -> None:
    app.add_middleware(GZipMiddleware, minimum_size=1000)
    app.mount("/assets", StaticFiles(directory=front_end / "assets"), name="assets")
    files = {file.name: file for file in front_end.iterdir() if file.is_file()}
    start = files["index.html"].read_text("utf-8")

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> Response:
        """Every address that is not the API's is one of the front end's."""
        if path.startswith("api/"):
            raise NotFound(f"There is nothing at /{path[:200]}.")
        if path in files and path != "index.html":
            return FileResponse(files[path])
        nonce, policy = page_policy()
        headers = {"Cache-Control": "no-cache", "Content-Security-Policy": policy}
        return HTMLResponse(start.replace(NONCE, nonce), headers=headers)
