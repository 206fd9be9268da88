"""What is sent as the body of a request: read in pieces, and refused as soon as it is too large."""

from __future__ import annotations

from fastapi import Request

from baugrund.core.errors import InvalidInput


async def body_of(request: Request, most_bytes: int) -> bytes:
    """The whole body.  Raises InvalidInput when it is larger than ``most_bytes``."""
    content = bytearray()
    async for chunk in request.stream():
        content += chunk
        if len(content) > most_bytes:
            raise InvalidInput(f"The file is larger than {most_bytes:,} bytes.")
    return bytes(content)
