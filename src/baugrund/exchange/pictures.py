"""Pictures that come in: floor plans and photos, made harmless and kept as PNG, JPEG or bare SVG.

PNG and JPEG are drawn anew, so nothing but pixels is kept; of a PDF its first page; of a DXF its lines, to scale; an
SVG keeps shapes and text only.
"""

from __future__ import annotations

import io
import math
import re
from collections.abc import Iterator
from contextlib import closing
from dataclasses import dataclass
from functools import cache
from threading import Lock
from typing import Any
from xml.etree.ElementTree import Element, ParseError, tostring

import defusedxml.ElementTree as safe_xml
import pypdfium2
from defusedxml.common import DefusedXmlException
from PIL import Image, ImageOps, UnidentifiedImageError

from baugrund.core.errors import InvalidInput

MAX_BYTES = 20_000_000
MAX_SIDE_PX = 12_000
MAX_PIXELS = 60_000_000
KEPT_SIDE_PX = 4_000
"""Larger pictures are kept in this size: a plan of 40 m then has a pixel a centimetre."""
PDF_DPI = 150
MAX_SVG_ELEMENTS = 50_000
MAX_DXF_ENTITIES = 200_000
DXF_PAGE_MM = 1_000.0
SVG_VIEW_PX = 2_000.0


@dataclass(frozen=True)
class Picture:
    """A picture to keep; ``m_per_px``: its scale where the file says it."""

    content: bytes
    media_type: str
    width_px: int
    height_px: int
    m_per_px: float | None = None


def read_picture(content: bytes) -> Picture:
    """A picture from the content of a PNG, JPEG, SVG, PDF or DXF file.

    Raises InvalidInput for anything else, for what is too large, damaged, or holds nothing to see.
    """
    if len(content) > MAX_BYTES:
        raise InvalidInput(f"The file has {len(content):,} bytes; {MAX_BYTES:,} are the most for a picture.")
    head = content[:1024].lstrip()
    if content.startswith((b"\x89PNG", b"\xff\xd8\xff")):
        return _from_pixels(content)
    if head.startswith(b"%PDF"):
        return _from_pdf(content)
    if head.startswith(b"<") or head.startswith(b"\xef\xbb\xbf<"):
        return _from_svg(content)
    if re.match(rb"\s*(999|0)\s*\r?\n", content) or content.startswith(b"AutoCAD Binary DXF"):
        return _from_dxf(content)
    raise InvalidInput("This is no PNG, JPEG, SVG, PDF or DXF file.")


def _check_size(width: int, height: int) -> None:
    if width > MAX_SIDE_PX or height > MAX_SIDE_PX or width * height > MAX_PIXELS:
        raise InvalidInput(
            f"The picture has {width:,} × {height:,} pixels; {MAX_SIDE_PX:,} a side and "
            f"{MAX_PIXELS // 1_000_000} million in all are the most."
        )


def _from_pixels(content: bytes) -> Picture:
    try:
        with Image.open(io.BytesIO(content), formats=("PNG", "JPEG")) as opened:
            _check_size(*opened.size)
            opened.load()
            return _kept(ImageOps.exif_transpose(opened), photo=opened.format == "JPEG")
    except InvalidInput:
        raise
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        raise InvalidInput("The picture is damaged: it cannot be read to its end.") from error


def _kept(image: Image.Image, *, photo: bool, m_per_px: float | None = None) -> Picture:
    """Pixels alone, in a size to keep; photos as JPEG, drawings as PNG."""
    before = max(image.size)
    image.thumbnail((KEPT_SIDE_PX, KEPT_SIDE_PX))
    out = io.BytesIO()
    if photo:
        image.convert("RGB").save(out, "JPEG", quality=85)
    else:
        image.convert("RGBA" if "A" in image.getbands() or "transparency" in image.info else "RGB").save(out, "PNG")
    scale = None if m_per_px is None else m_per_px * before / max(image.size)
    return Picture(out.getvalue(), "image/jpeg" if photo else "image/png", *image.size, m_per_px=scale)


_ONE_PDF_AT_A_TIME = Lock()
"""The library that draws PDF pages may be called from one thread at a time only."""


def _from_pdf(content: bytes) -> Picture:
    try:
        with _ONE_PDF_AT_A_TIME, closing(pypdfium2.PdfDocument(content)) as document:
            page = document[0]
            width, height = (side * PDF_DPI / 72 for side in page.get_size())
            shrunk = min(1.0, KEPT_SIDE_PX / max(width, height))
            image = page.render(scale=PDF_DPI / 72 * shrunk).to_pil()
    except (pypdfium2.PdfiumError, IndexError, ValueError, OSError) as error:
        raise InvalidInput("The PDF cannot be read: it is damaged, locked, or has no page.") from error
    return _kept(image, photo=False)


SVG = "http://www.w3.org/2000/svg"
SHAPES = frozenset(
    ("svg", "g", "path", "rect", "circle", "ellipse", "line", "polyline", "polygon", "text", "tspan", "title", "desc",
     "defs", "clipPath", "linearGradient", "radialGradient", "stop", "style")
)  # fmt: skip
ATTRIBUTES = frozenset(
    ("id", "d", "x", "y", "x1", "y1", "x2", "y2", "cx", "cy", "r", "rx", "ry", "dx", "dy", "width", "height", "points",
     "transform", "viewBox", "preserveAspectRatio", "fill", "fill-opacity", "fill-rule", "stroke", "stroke-width",
     "stroke-opacity", "stroke-dasharray", "stroke-linecap", "stroke-linejoin", "stroke-miterlimit", "opacity",
     "font-size", "font-family", "font-weight", "text-anchor", "dominant-baseline", "clip-path", "offset", "stop-color",
     "stop-opacity", "gradientUnits", "gradientTransform", "visibility", "display", "vector-effect", "class")
)  # fmt: skip
MAX_SVG_DEPTH = 100
MAX_SVG_BYTES = 20_000_000
"""Of one that is kept."""
SIZES = (1e-6, 1e9)
"""Sides of a view box that are read as such."""
_REFERS = re.compile(r"url\s*\(\s*['\"]?(?!#)|javascript:|data:|@import|expression\s*\(", re.IGNORECASE)


def _from_svg(content: bytes) -> Picture:
    clean, width, height = harmless_svg(content)
    return Picture(clean, "image/svg+xml", round(width), round(height))


def harmless_svg(content: bytes) -> tuple[bytes, float, float]:
    """An SVG with shapes, text and plain styles only, and its size [px]; one that is harmless stays as it is.

    Raises InvalidInput for what is no SVG, too large, or holds nothing to see.
    """
    try:
        root = safe_xml.fromstring(content, forbid_dtd=True)
    except DefusedXmlException as error:
        raise InvalidInput("The SVG declares entities or a document type; save it without them.") from error
    except (ParseError, ValueError, LookupError) as error:
        raise InvalidInput(f"The SVG is not well-formed XML: {error}.") from error
    if root.tag not in (f"{{{SVG}}}svg", "svg"):
        raise InvalidInput("The file is XML, but not an SVG picture.")
    if sum(1 for _ in root.iter()) > MAX_SVG_ELEMENTS:
        raise InvalidInput(f"The SVG has more than {MAX_SVG_ELEMENTS:,} elements.")
    width, height = _svg_size(root)
    clean = _cleaned(root)
    if not len(clean):
        raise InvalidInput("The SVG holds no shape to see.")
    clean.set("width", f"{width:g}")
    clean.set("height", f"{height:g}")
    if "viewBox" not in clean.attrib:
        clean.set("viewBox", f"0 0 {width:g} {height:g}")
    clean.set("xmlns", SVG)
    kept = bytes(tostring(clean, encoding="utf-8"))
    if len(kept) > MAX_SVG_BYTES:
        raise InvalidInput(f"The drawing has {len(kept):,} bytes; {MAX_SVG_BYTES:,} are the most.")
    return kept, width, height


def _svg_size(root: Element) -> tuple[float, float]:
    """Size in pixels: of the view box, else of width and height."""
    box = [_figure(part) for part in re.split(r"[\s,]+", root.get("viewBox", "").strip()) if part]
    if len(box) == 4 and box[2] > 0 and box[3] > 0:
        width, height = box[2], box[3]
    else:
        width, height = _figure(root.get("width", "")), _figure(root.get("height", ""))
    if not (width > 0 and height > 0):
        raise InvalidInput("The SVG says neither a view box nor a size.")
    if not all(SIZES[0] <= side <= SIZES[1] for side in (width, height)):
        raise InvalidInput(f"The SVG says a size of {width:g} × {height:g}, which is none of a drawing.")
    scale = SVG_VIEW_PX / max(width, height)
    return max(1.0, width * scale), max(1.0, height * scale)


def _figure(text: str) -> float:
    match = re.match(r"\s*([+-]?[\d.]+(?:e[+-]?\d+)?)", text, re.IGNORECASE)
    try:
        number = float(match[1]) if match else 0.0
    except ValueError:
        return 0.0
    return number if math.isfinite(number) else 0.0


def _cleaned(element: Element, depth: int = 0) -> Element:
    """A copy with known shapes and attributes only: no script, no reference to anything outside."""
    if depth > MAX_SVG_DEPTH:
        raise InvalidInput(f"The SVG is nested too deeply; {MAX_SVG_DEPTH} levels are the most.")
    copy = Element(_local(element.tag), dict(_harmless(element)))
    copy.text, copy.tail = element.text, element.tail
    for child in element:
        if isinstance(child.tag, str) and _is_harmless(child):
            copy.append(_cleaned(child, depth + 1))
    return copy


def _is_harmless(element: Element) -> bool:
    """Whether an element is a known shape, or a style sheet of plain rules."""
    name = _local(element.tag)
    if name not in SHAPES or not element.tag.startswith(("{" + SVG, *SHAPES)):
        return False
    rules = element.text or ""
    # an escape could hide a word, and a rule with @ can name another file
    return name != "style" or not (set(rules) & set("@\\<") or _REFERS.search(rules) or len(element))


def _local(tag: str) -> str:
    return tag.rpartition("}")[2]


def _harmless(element: Element) -> Iterator[tuple[str, str]]:
    for name, value in element.attrib.items():
        if name in ATTRIBUTES and not _REFERS.search(value):
            yield name, value
        elif name == "style":
            for part in value.split(";"):
                key, _, setting = part.partition(":")
                if key.strip() in ATTRIBUTES and key.strip() not in element.attrib and not _REFERS.search(setting):
                    yield key.strip(), setting.strip()


METRES_PER_UNIT = {1: 0.0254, 2: 0.3048, 4: 0.001, 5: 0.01, 6: 1.0, 14: 0.1}
"""Metres in a drawing unit, by the number of ``$INSUNITS`` in a DXF file."""


def _from_dxf(content: bytes) -> Picture:
    from ezdxf import bbox, recover
    from ezdxf.addons.drawing import layout, svg
    from ezdxf.addons.drawing.config import BackgroundPolicy, ColorPolicy, Configuration
    from ezdxf.addons.drawing.frontend import Frontend
    from ezdxf.addons.drawing.properties import RenderContext
    from ezdxf.lldxf.const import DXFError

    try:
        document, auditor = recover.read(io.BytesIO(content))
        if auditor.has_errors:
            raise InvalidInput("The DXF file is damaged beyond what can be mended.")
        count = _entities(document)
        if count > MAX_DXF_ENTITIES:
            raise InvalidInput(f"The DXF holds {count:,} entities; {MAX_DXF_ENTITIES:,} are the most.")
        model = document.modelspace()
        extents = bbox.extents(model, fast=True)
        if not extents.has_data or not (extents.size.x > 0 and extents.size.y > 0):
            raise InvalidInput("The DXF holds nothing to see in its model space.")
        backend = svg.SVGBackend()
        looks = Configuration(background_policy=BackgroundPolicy.OFF, color_policy=ColorPolicy.BLACK)
        Frontend(RenderContext(document), backend, config=looks).draw_layout(model)
        page = layout.Page(DXF_PAGE_MM, DXF_PAGE_MM * extents.size.y / extents.size.x, layout.Units.mm)
        drawn = backend.get_string(page, settings=layout.Settings(fit_page=True))
        width = float(extents.size.x) * METRES_PER_UNIT.get(int(document.header.get("$INSUNITS", 0)), 0.0)
    except InvalidInput:
        raise
    except (DXFError, OSError, ValueError, KeyError, TypeError, AttributeError, RecursionError) as error:
        raise InvalidInput("The DXF file cannot be read.") from error
    clean, width_px, height_px = harmless_svg(drawn.encode())
    scale = width / width_px if width > 0 else None
    return Picture(clean, "image/svg+xml", round(width_px), round(height_px), scale)


def check_pixels(content: bytes) -> tuple[int, int]:
    """Width and height of a PNG or JPEG, from its head [px].  Raises InvalidInput."""
    try:
        with Image.open(io.BytesIO(content), formats=("PNG", "JPEG")) as opened:
            _check_size(*opened.size)
            return opened.size
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        raise InvalidInput("A picture is damaged: its head cannot be read.") from error


def _entities(document: Any) -> int:
    """Entities of a DXF with its blocks unfolded: an insert counts as all that its block holds."""
    blocks = document.blocks

    @cache
    def inside(name: str, depth: int) -> int:
        if depth > 20 or name not in blocks:
            return MAX_DXF_ENTITIES + 1
        return _counted(blocks.get(name), depth)

    def _counted(layout: Any, depth: int) -> int:
        total = 0
        for entity in layout:
            rows = 1
            if entity.dxftype() == "INSERT":
                rows = max(1, entity.dxf.get("row_count", 1)) * max(1, entity.dxf.get("column_count", 1))
                total += rows * inside(entity.dxf.name, depth + 1)
            total += rows
            if total > MAX_DXF_ENTITIES:
                return total
        return total

    return _counted(document.modelspace(), 0)
