"""A scene as SVG: in millimetres of paper at a round scale, a unit of its own coordinates being a metre."""

from __future__ import annotations

from collections.abc import Iterator
from html import escape

from .scene import LAYERS, TITLE_M, Dot, Layer, Scene, Shape, Stroke

SCALES = (20, 50, 100, 200, 500, 1000)
PAPER_MM = 400.0
"""The drawing comes out no wider than this: an A3 sheet with its margins."""
MARGIN_M = 1.2
TEXT_AT_SCALE = 0.0095
"""Texts are so large in the scene that they are read well at about 1:100; at another scale they grow with it."""
LOOKS: dict[Layer, tuple[str, float, str]] = {
    "FLOORS": ("#23282c", 0.04, "none"), "ROOMS": ("#23282c", 0.03, "none"),
    "WALLS": ("#23282c", 0.02, "#e7dfcb"), "PATHS": ("#676256", 0.09, "none"),
    "RUNS": ("#3f5b6b", 0.02, "none"), "DROPS": ("#97451f", 0.02, "#97451f"),
    "CLOSETS": ("#23282c", 0.04, "#e7dfcb"), "ENTRIES": ("#23282c", 0.03, "#fbf9f2"),
    "OPENINGS": ("#3f5b6b", 0.07, "none"), "PLOT": ("#4d5a2e", 0.06, "none"), "VIEWS": ("#23282c", 0.02, "none"),
    "HATCH": ("#676256", 0.01, "none"), "SIGNAL": ("#23282c", 0.03, "none"),
    "TARGETS": ("#97451f", 0.05, "none"), "LANDMARKS": ("#4d5a2e", 0.04, "none"), "TEXT": ("none", 0.0, "#23282c"),
}  # fmt: skip
"""Per layer: colour of lines, their width [m], colour of what is filled."""


def write_svg(scene: Scene, paper_mm: float = PAPER_MM) -> str:
    """The scene with its title, its scale in words and as a bar, no wider than the paper."""
    west, north, east, south = scene.bounds()
    x, y = west - MARGIN_M, north - MARGIN_M - TITLE_M
    width, height = east - west + 2 * MARGIN_M, south - north + 2 * MARGIN_M + 2 * TITLE_M
    scale = scale_of(width, paper_mm)
    large = scale * TEXT_AT_SCALE
    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width * 1000 / scale:.2f}mm" '
        f'height="{height * 1000 / scale:.2f}mm" viewBox="{x:.3f} {y:.3f} {width:.3f} {height:.3f}" '
        'font-family="Archivo, sans-serif">',
        f"<title>{escape(scene.title)}</title>",
        *layers(scene, large),
        f'<text x="{west:.3f}" y="{north - MARGIN_M / 2:.3f}" font-size="{TITLE_M * large:.3f}" fill="#23282c">'
        f"{escape(scene.title)}, 1:{scale}</text>",
        *_bar(west, south + MARGIN_M * 0.6, large),
        "</svg>",
    ]
    return "\n".join(parts) + "\n"


def scale_of(width_m: float, paper_mm: float = PAPER_MM) -> int:
    """The largest round scale at which a drawing of this width fits the paper."""
    return next((scale for scale in SCALES if width_m * 1000 / scale <= paper_mm), SCALES[-1])


def layers(scene: Scene, large: float) -> Iterator[str]:
    """The layers of a scene as groups, empty ones left out; texts so many times as large as in the scene."""
    for layer in LAYERS:
        shapes = [shape for shape in scene.shapes if shape.layer == layer]
        if shapes:
            stroke, wide, fill = LOOKS[layer]
            yield f'<g id="{layer}" stroke="{stroke}" stroke-width="{wide}" fill="{fill}" stroke-linejoin="round">'
            yield from (_shape(shape, large) for shape in shapes)
            yield "</g>"


def _shape(shape: Shape, large: float) -> str:
    if isinstance(shape, Stroke):
        points = " ".join(f"{x:.3f},{y:.3f}" for x, y in shape.spots)
        return f'<{"polygon" if shape.closed else "polyline"} points="{points}"/>'
    if isinstance(shape, Dot):
        return f'<circle cx="{shape.spot[0]:.3f}" cy="{shape.spot[1]:.3f}" r="{shape.radius_m}"/>'
    return (
        f'<text x="{shape.spot[0]:.3f}" y="{shape.spot[1]:.3f}" font-size="{shape.height_m * large:.3f}" '
        f'text-anchor="{shape.anchor}">{escape(shape.text)}</text>'
    )


def _bar(x: float, y: float, large: float) -> Iterator[str]:
    """A bar of five metres."""
    yield f'<g stroke="#23282c" stroke-width="0.04"><path d="M{x:.3f} {y:.3f}h5M{x:.3f} {y:.3f}v-0.2m5 0v0.2"/></g>'
    yield f'<text x="{x + 5.15:.3f}" y="{y:.3f}" font-size="{0.3 * large:.3f}" fill="#23282c">5 m</text>'
