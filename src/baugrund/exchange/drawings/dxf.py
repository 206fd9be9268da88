"""A scene as DXF (R2010): true scale, a drawing unit being a metre, every layer of the scene a layer of the drawing."""

from __future__ import annotations

import io

import ezdxf
from ezdxf import units
from ezdxf.enums import TextEntityAlignment

from .scene import LAYERS, Dot, Scene, Stroke

COLOURS = {
    "FLOORS": 7, "ROOMS": 7, "WALLS": 7, "PATHS": 8, "RUNS": 5, "DROPS": 1, "CLOSETS": 30, "ENTRIES": 30,
    "LANDMARKS": 3, "OPENINGS": 5, "PLOT": 3, "VIEWS": 8, "HATCH": 9, "SIGNAL": 8, "TARGETS": 1, "TEXT": 7,
}  # fmt: skip
"""Colour number of each layer."""
ALIGN = {
    "start": TextEntityAlignment.LEFT, "middle": TextEntityAlignment.CENTER, "end": TextEntityAlignment.RIGHT,
}  # fmt: skip


def write_dxf(scene: Scene) -> str:
    """The scene as the text of a DXF file; y goes up there."""
    drawing = ezdxf.new("R2010", units=units.M)  # type: ignore[attr-defined]
    drawing.header["$LASTSAVEDBY"] = "baugrund"
    for layer in LAYERS:
        drawing.layers.add(layer, color=COLOURS[layer])
    space = drawing.modelspace()
    for shape in scene.shapes:
        at = {"layer": shape.layer}
        if isinstance(shape, Stroke):
            space.add_lwpolyline([(x, -y) for x, y in shape.spots], close=shape.closed, dxfattribs=at)
        elif isinstance(shape, Dot):
            space.add_circle((shape.spot[0], -shape.spot[1]), shape.radius_m, dxfattribs=at)
        else:
            text = space.add_text(shape.text, height=shape.height_m, dxfattribs=at)
            text.set_placement((shape.spot[0], -shape.spot[1]), align=ALIGN[shape.anchor])
    out = io.StringIO()
    drawing.write(out)
    return out.getvalue()
