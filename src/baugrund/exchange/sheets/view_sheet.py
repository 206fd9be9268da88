"""The sheet of views: for every camera its place and aim, its view in plan and standing up, its targets, the still."""

from __future__ import annotations

from base64 import b64encode
from collections.abc import Iterator
from datetime import date
from html import escape
from pathlib import Path

import shapely
from shapely import box

from baugrund.core.facts.path_kinds import LADDER
from baugrund.core.facts.project import Project
from baugrund.core.places.layout import layout
from baugrund.core.sight.scene import scene
from baugrund.core.sight.section import ViewSection, section_of
from baugrund.core.sight.targets import targets_of
from baugrund.core.sight.views import ViewLine, placed_view, views_of

from ..drawings.scene import DROP_M, Dot, Scene, Shape, Stroke, clipped, target_shapes, view_shapes
from ..drawings.svg import write_svg
from .lengths import metres, unit
from .pages import Pictures, sentences, table, write_pdf

DRAWING_MM = 88.0
"""Width of the plan and of the section on the sheet."""
AROUND_M = 1.0
SECTION_M = 15.0
PRIVACY = "Filming people, neighbours or a public way is limited by privacy law and wants notice; local law decides."


def write_view_sheet(project: Project, fonts: Path | None, made: date, pictures: Pictures) -> bytes:
    """Every view whose camera is placed, one after the other, as PDF."""
    views = [view for view in views_of(project) if view.placed]
    body = [sentences((LADDER, PRIVACY))]
    body += [_view(project, view, pictures) for view in views]
    if not views:
        body.append("<p>No camera is placed yet: put one on the plan.</p>")
    return write_pdf(f"{project.name}: views", project.site, body, fonts, made)


def _view(project: Project, view: ViewLine, pictures: Pictures) -> str:
    placed = placed_view(project, view.drop_id, view.view_id)
    assert placed is not None
    plan = write_svg(Scene(f"{view.name}: plan", tuple(_plan(project, view))), DRAWING_MM)
    standing = section_of(placed, scene(project), SECTION_M)
    section = write_svg(Scene(f"{view.name}: section", tuple(_section(standing))), DRAWING_MM)
    drawings = f"<div class=pair>{plan}{section}</div>"
    parts = [f"<h2>{escape(view.name)}</h2>", _facts(project, view), drawings, _targets(project, view)]
    row = placed.view
    if row and row.unseen:
        parts.append(f"<p class=said>Unseen from there: {escape(row.unseen)}</p>")
    if row and row.still and (kept := pictures(row.still)):
        day = f", {row.still_day.isoformat()}" if row.still_day else ""
        parts.append(f'<p>Still{day}</p><img src="data:{kept[0]};base64,{b64encode(kept[1]).decode()}" alt="still">')
    return f"<section class=keep>{''.join(parts)}</section>"


def _facts(project: Project, view: ViewLine) -> str:
    in_unit = unit(project)
    room = project.rooms_by_id[project.drops_by_id[view.drop_id].room_id].name
    reach = ", ".join(f"{band.detail} {metres(project, band.reach_m)}" for band in view.bands)
    blind = "all of it" if view.blind_m is None else f"{metres(project, view.blind_m, 2)} {in_unit}"
    heads = [
        "Room",
        f"Height {in_unit}",
        "Bearing °",
        "Tilt °",
        "Angle °",
        "Pixels",
        f"Reaches {in_unit}",
        "Blind ground",
    ]
    row = [
        escape(room), metres(project, view.height_m, 2), f"{view.bearing_deg:g}", f"{view.tilt_deg:g}",
        f"{view.across_deg:g} × {view.down_deg:g}", f"{view.across_px} × {view.down_px}", reach, blind,
    ]  # fmt: skip
    usual = f"<p>Usual for its form, typed by nobody: {_fields(view.usual)}.</p>" if view.usual else ""
    return table(heads, [row]) + usual


def _fields(names: tuple[str, ...]) -> str:
    return ", ".join(WORDS.get(name, name) for name in names)


WORDS = {
    "across_px": "pixels across", "down_px": "pixels down", "field_deg": "angle across", "projection": "kind of lens",
    "bearing_deg": "bearing", "tilt_deg": "tilt", "light_m": "own light", "bracket_m": "bracket",
}  # fmt: skip


def _targets(project: Project, view: ViewLine) -> str:
    rows = [
        [
            escape(target.name), f"{target.wanted} {target.wanted_px_m:g}", f"{one.px_m:.0f}", f"{one.seen:.0%}",
            f"{one.steep_deg:.0f}", "yes" if view.drop_id in target.met_by else "no", escape(one.blocked_by),
        ]
        for target in targets_of(project)
        for one in target.sightings
        if (one.drop_id, one.view_id) == (view.drop_id, view.view_id) and one.seen > 0
    ]  # fmt: skip
    heads = ["Target", "Wanted px/m", "px/m", "Seen", "Down °", "Met", "Hidden by"]
    return table(heads, rows, frozenset((2, 3, 4))) if rows else ""


def _plan(project: Project, view: ViewLine) -> Iterator[Shape]:
    """The view with the walls, openings and targets around what it recognises."""
    spots = [(view.x_m, view.y_m), *(spot for band in view.bands[1:2] for ring in band.rings for spot in ring)]
    west, north, east, south = shapely.MultiPoint(spots).bounds
    frame = box(west - AROUND_M, north - AROUND_M, east + AROUND_M, south + AROUND_M)
    shapes: list[Shape] = [
        Stroke("WALLS", (piece.start, piece.end)) for piece in layout(project).walls if piece.floor_id == view.floor_id
    ]
    shapes += [
        Stroke("OPENINGS", (opening.start, opening.end))
        for opening in scene(project).openings
        if opening.floor_id == view.floor_id
    ]
    for shape in (*shapes, *view_shapes(view)):
        yield from clipped(shape, frame)
    yield Dot("DROPS", (view.x_m, view.y_m), DROP_M)
    for target in project.targets:
        if target.floor_id == view.floor_id and frame.contains(shapely.Point(target.points[0])):
            yield from target_shapes(target)


def _section(standing: ViewSection) -> Iterator[Shape]:
    """A view standing up; elevations go up, which is down the page for a scene."""
    yield Stroke("FLOORS", ((-AROUND_M, -standing.floor_m), (standing.reach_m, -standing.floor_m)))
    for wall in standing.walls:
        yield Stroke("WALLS", ((wall.along_m, -wall.low_m), (wall.along_m, -wall.high_m)))
    for slab in standing.slabs:
        yield Stroke("FLOORS", ((slab.from_m, -slab.z_m), (slab.to_m, -slab.z_m)))
    for band in standing.bands:
        for ring in band.rings:
            yield Stroke("VIEWS", tuple((x, -z) for x, z in ring), closed=True)
    yield Dot("DROPS", (0.0, -standing.z_m), DROP_M)
