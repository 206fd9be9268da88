"""Pictures: floor plans and photos, made harmless on the way in."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Path, Request, Response
from fastapi.concurrency import run_in_threadpool

from baugrund.core.facts.fact import Fact
from baugrund.exchange.pictures import MAX_BYTES, read_picture

from .context import Works
from .downloads import SVG, as_file
from .uploads import JsonRoute, body_of, read_apart

router = APIRouter(prefix="/api/projects/{project_id}/pictures", tags=["pictures"], route_class=JsonRoute)

HARMLESS = {
    "Content-Security-Policy": "default-src 'none'; style-src 'unsafe-inline'; sandbox",
    "X-Content-Type-Options": "nosniff",
    "Cache-Control": "private, max-age=31536000, immutable",
}


class KeptPictureLine(Fact):
    """A picture that was kept; ``m_per_px``: its scale where the file says it."""

    key: str
    width_px: int
    height_px: int
    m_per_px: float | None


@router.post("", status_code=201)
async def keep_picture(project_id: int, request: Request, works: Works) -> KeptPictureLine:
    """The body is a PNG, JPEG, SVG, PDF or DXF file."""
    picture = await read_apart(works, read_picture, await body_of(request, MAX_BYTES))
    kept = picture.content, picture.media_type, picture.width_px, picture.height_px
    key = await run_in_threadpool(works.pictures.keep, project_id, *kept)
    return KeptPictureLine(
        key=key, width_px=picture.width_px, height_px=picture.height_px, m_per_px=picture.m_per_px
    )  # fmt: skip


@router.get("/{key}", response_class=Response, responses=as_file("image/png", "image/jpeg", SVG))
def show_picture(project_id: int, key: Annotated[str, Path(pattern=r"^[0-9a-f]{64}$")], works: Works) -> Response:
    kept = works.pictures.load(project_id, key)
    return Response(kept.content, media_type=kept.media_type, headers=HARMLESS)
