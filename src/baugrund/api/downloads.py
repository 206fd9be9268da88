"""Files to take away."""

from __future__ import annotations

from typing import Any

from fastapi import Response

CSV = "text/csv"
JSON = "application/json"
XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
PDF = "application/pdf"
SVG = "image/svg+xml"
DXF = "image/vnd.dxf"
ICS = "text/calendar"


def download(content: bytes, media_type: str, name: str) -> Response:
    """A file with its name."""
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return Response(content, media_type=media_type, headers=headers)


def as_file(*media_types: str) -> dict[int | str, dict[str, Any]]:
    """What the OpenAPI document says of a route that answers with a file of one of these types."""
    text = {"schema": {"type": "string", "format": "binary"}}
    return {200: {"description": "The file.", "content": {name: {} if name == JSON else text for name in media_types}}}
