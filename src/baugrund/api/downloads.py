"""Files to take away."""

from __future__ import annotations

from fastapi import Response

CSV = "text/csv"
JSON = "application/json"
XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
PDF = "application/pdf"
SVG = "image/svg+xml"
DXF = "image/vnd.dxf"


def download(content: bytes, media_type: str, name: str) -> Response:
    """A file with its name."""
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return Response(content, media_type=media_type, headers=headers)
