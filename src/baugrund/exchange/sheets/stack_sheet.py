"""The sheets of the stack: elevations with the loading list, and the paper pattern of wall panels at true size."""

from __future__ import annotations

import math
from collections.abc import Iterator
from datetime import date
from html import escape
from pathlib import Path

from baugrund.core.facts.building import Closet
from baugrund.core.facts.project import Project
from baugrund.core.stack.flat import area_of, blocks_of, footprint
from baugrund.core.stack.told import ClosetStack, Stack

from ..drawings.elevation import elevation
from ..drawings.svg import write_svg
from ..loading_list import fitted, plugged_into
from .pages import sentences, table, write_pdf

DRAWING_MM = 180.0
TILE_MM = (170, 225)
"""What of a pattern stands on one sheet."""
CROSS_MM, HOLE_MM, INSET_MM = 4.0, 2.5, 10.0
"""Drill holes: the size of their crosses and rings, and how far in from the corners of a box."""
CAUTIONS = (
    "Racks and panels go into studs or masonry, never into plasterboard alone; two people lift a rack or a UPS.",
    "Heavy things first and lowest. Bonding, sockets and circuits are work for a licensed electrician; the local code "
    "decides.",
    "Batteries are never opened and want air; what hangs on them goes off when they are empty.",
)  # fmt: skip
TRUE_SIZE = (
    "Print at 100 %, without fitting to the page. The bar is 100 mm long: measure it before anything is drilled."
)


def write_stack_sheet(project: Project, told: Stack, fonts: Path | None, made: date) -> bytes:
    """Every closet from front and side at a stated scale, then what stands there in the order of fitting, as PDF."""
    body = [sentences(CAUTIONS)]
    for here in told.closets:
        closet = project.closets_by_id[here.closet_id]
        drawing = write_svg(elevation(project, closet, here), DRAWING_MM)
        body.append(f"<section class=keep><h2>{escape(closet.name)}</h2>{drawing}</section>")
        body.append(sentences([one.text for one in here.broken if one.rule != "place"]))
        rows = [
            [str(step), escape(one.name), "" if one.unit is None else str(one.unit), f"{one.depth_mm}",
             f"{one.mass_kg:g}", f"{one.mains_w:.1f}", escape(plugged_into(here, one))]
            for step, one in fitted(here)
        ]  # fmt: skip
        heads = ["Step", "Thing", "Unit", "Depth mm", "Mass kg", "Mains W", "Plugged into"]
        body.append(table(heads, rows, frozenset((0, 2, 3, 4, 5))) if rows else "<p>Nothing stands here yet.</p>")
    return write_pdf(f"{project.name}: closets", project.site, body, fonts, made)


def write_pattern_sheet(project: Project, told: Stack, fonts: Path | None, made: date) -> bytes:
    """The face of every wall panel at true size over as many sheets as it takes, with drill holes, as PDF."""
    body = [sentences((TRUE_SIZE,))]
    for here in told.closets:
        closet = project.closets_by_id[here.closet_id]
        if closet.housing == "panel":
            body += _tiles(project, closet, here)
    if len(body) == 1:
        body.append("<p>No closet of this project is a wall panel.</p>")
    return write_pdf(f"{project.name}: paper pattern 1 : 1", project.site, body, fonts, made)


def _tiles(project: Project, closet: Closet, here: ClosetStack) -> Iterator[str]:
    wide, high = area_of(closet)
    inside = "".join(_face(project, closet, here))
    across, down = math.ceil(wide / TILE_MM[0]), math.ceil(high / TILE_MM[1])
    for row in range(down):
        for column in range(across):
            x, y = column * TILE_MM[0], row * TILE_MM[1]
            place = (
                f"{escape(closet.name)}, sheet {row * across + column + 1} of {across * down}: {x} mm from the left, "
                f"{y} mm from the top"
            )
            yield (
                f'<section style="break-before: page"><p>{place}</p>'
                f'<svg xmlns="http://www.w3.org/2000/svg" width="{TILE_MM[0]}mm" height="{TILE_MM[1] + 12}mm" '
                f'viewBox="{x} {y} {TILE_MM[0]} {TILE_MM[1] + 12}">'
                f'<svg x="{x}" y="{y}" width="{TILE_MM[0]}" height="{TILE_MM[1]}" '
                f'viewBox="{x} {y} {TILE_MM[0]} {TILE_MM[1]}">{inside}</svg>'
                f'<rect x="{x}" y="{y}" width="{TILE_MM[0]}" height="{TILE_MM[1]}" fill="none" stroke="#676256" '
                'stroke-width="0.2" stroke-dasharray="2 2"/>'
                f'<path d="M{x + 5} {y + TILE_MM[1] + 8}h100" stroke="#23282c" stroke-width="0.4"/>'
                f'<text x="{x + 108}" y="{y + TILE_MM[1] + 9}" font-size="3.4">100 mm</text></svg></section>'
            )


def _face(project: Project, closet: Closet, here: ClosetStack) -> Iterator[str]:
    wide, high = area_of(closet)
    yield f'<rect width="{wide}" height="{high}" fill="none" stroke="#23282c" stroke-width="0.6"/>'
    for block in blocks_of(project, closet):
        yield (
            f'<rect x="{block.x_mm}" y="{block.y_mm}" width="{block.width_mm}" height="{block.height_mm}" '
            f'fill="#d8d0bd" stroke="#23282c" stroke-width="0.3"/>'
            f'<text x="{block.x_mm + 2}" y="{block.y_mm + 6}" font-size="4">{escape(block.name)}</text>'
        )
    for thing in here.things:
        if thing.x_mm is None or thing.y_mm is None:
            continue
        across, down = footprint(closet, thing, thing.turned)
        yield (
            f'<rect x="{thing.x_mm}" y="{thing.y_mm}" width="{across}" height="{down}" fill="none" stroke="#23282c" '
            f'stroke-width="0.4"/><text x="{thing.x_mm + 4}" y="{thing.y_mm + 8}" font-size="5">'
            f"{escape(thing.name)}</text>"
        )
        for x in (thing.x_mm + INSET_MM, thing.x_mm + across - INSET_MM):
            for y in (thing.y_mm + INSET_MM, thing.y_mm + down - INSET_MM):
                yield (
                    f'<path d="M{x - CROSS_MM} {y}h{2 * CROSS_MM}M{x} {y - CROSS_MM}v{2 * CROSS_MM}" stroke="#97451f" '
                    f'stroke-width="0.25"/><circle cx="{x}" cy="{y}" r="{HOLE_MM}" fill="none" stroke="#97451f" '
                    'stroke-width="0.25"/>'
                )
