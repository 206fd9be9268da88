"""Word of edits and of questions as server-sent events: of one project, or of all."""

from __future__ import annotations

import asyncio
from collections.abc import AsyncIterator
from typing import Any

from fastapi import APIRouter
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import StreamingResponse

from .context import Context, Works
from .notices import EVERYTHING

router = APIRouter(prefix="/api", tags=["events"])

HEARTBEAT_S = 15.0
EVENTS = "text/event-stream"
EVENT_STREAM: dict[int | str, dict[str, Any]] = {200: {"content": {EVENTS: {"schema": {"type": "string"}}}}}


@router.get("/projects/{project_id}/events", response_class=StreamingResponse, responses=EVENT_STREAM)
async def events(project_id: int, works: Works) -> StreamingResponse:
    """Events of a project: one for each edit by anybody, and for each question that is further."""
    await run_in_threadpool(works.projects.revision, project_id)
    return StreamingResponse(_stream(works, f"project {project_id}"), media_type=EVENTS)


@router.get("/events", response_class=StreamingResponse, responses=EVENT_STREAM)
async def all_events(works: Works) -> StreamingResponse:
    """Events of all projects and catalogues: one stream for all tabs of a browser."""
    return StreamingResponse(_stream(works, EVERYTHING), media_type=EVENTS)


async def _stream(works: Context, about: str) -> AsyncIterator[str]:
    async with works.notices.of(about) as heard:
        yield ": listening\n\n"
        while True:
            try:
                async with asyncio.timeout(HEARTBEAT_S):
                    notice = await heard.get()
                yield f"data: {notice}\n\n"
            except TimeoutError:
                yield ": still here\n\n"
