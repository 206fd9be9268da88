"""Bodies of requests: read in pieces, refused as soon as they are too large, given up when they stall."""

from __future__ import annotations

import asyncio
import email.message
from collections.abc import Callable, Coroutine
from typing import Any, TypeVar

from anyio import to_thread
from fastapi import Request, Response
from fastapi.routing import APIRoute
from starlette.exceptions import HTTPException
from starlette.requests import ClientDisconnect
from starlette.types import Message

from baugrund.core.errors import InvalidInput
from baugrund.exchange.apart import apart

from .context import Context

Read = TypeVar("Read")

PATIENCE_S = 15.0
"""How long the next piece of a body is waited for [s]."""
MOST_JSON_BYTES = 4_000_000


async def body_of(request: Request, most_bytes: int) -> bytes:
    """The whole body.

    Raises InvalidInput when it is larger than ``most_bytes``, HTTPException (408) when it stops coming.
    """
    content = bytearray()
    pieces = request.stream()
    try:
        while True:
            async with asyncio.timeout(PATIENCE_S):
                content += await anext(pieces)
            if len(content) > most_bytes:
                raise InvalidInput(f"What was sent is larger than {most_bytes:,} bytes.")
    except StopAsyncIteration:
        return bytes(content)
    except TimeoutError as error:
        told = f"The rest of what was sent did not come within {PATIENCE_S:g} s."
        raise HTTPException(408, told, {"Connection": "close"}) from error
    except ClientDisconnect as error:
        raise HTTPException(400, "The connection ended before all was sent.") from error


async def read_apart(works: Context, read: Callable[[bytes], Read], content: bytes) -> Read:
    """The result of a reader on a file, computed in a process of its own.  Raises as ``apart`` does."""
    return await to_thread.run_sync(apart, read, content, limiter=works.readers)


class JsonRoute(APIRoute):
    """A route that takes JSON as JSON only, and never more of it than is read at once."""

    def get_route_handler(self) -> Callable[[Request], Coroutine[Any, Any, Response]]:
        handle = super().get_route_handler()

        async def handle_json(request: Request) -> Response:
            if self.body_field is None:
                return await handle(request)
            if not _is_json(request.headers.get("content-type", "")):
                raise HTTPException(415, "Send JSON here, with the content type application/json.")
            content = await body_of(request, MOST_JSON_BYTES)

            async def read() -> Message:
                return {"type": "http.request", "body": content}

            return await handle(Request(request.scope, read))

        return handle_json


def _is_json(content_type: str) -> bool:
    message = email.message.Message()
    message["content-type"] = content_type
    return message.get_content_type() == "application/json"
