"""A scene: what is drawn of a project, in metres, y down, on named layers."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

import shapely
from shapely import LinearRing, LineString, MultiLineString, Point, Polygon, box
from shapely.geometry.base import BaseGeometry

from baugrund.core.facts.building import Floor
from baugrund.core.facts.project import Project
from baugrund.core.facts.sight import Target
from baugrund.core.places.labels import labels
from baugrund.core.places.layout import layout
from baugrund.core.places.walls import WallPiece
from baugrund.core.reach.network import lines_of
from baugrund.core.reach.runs import runs
from baugrund.core.sight.views import ViewLine, views_of
from baugrund.core.signal.contours import picture
from baugrund.core.signal.field import Field

Layer = Literal[
    "FLOORS", "ROOMS", "WALLS", "OPENINGS", "PLOT", "VIEWS", "SIGNAL", "TARGETS", "PATHS", "RUNS", "DROPS", "CLOSETS",
    "ENTRIES", "LANDMARKS", "HATCH", "TEXT",
]  # fmt: skip
LAYERS: tuple[Layer, ...] = (
    "FLOORS", "ROOMS", "PLOT", "VIEWS", "HATCH", "SIGNAL", "WALLS", "OPENINGS", "PATHS", "RUNS", "LANDMARKS", "ENTRIES",
    "CLOSETS", "TARGETS", "DROPS", "TEXT",
)  # fmt: skip
"""In the order in which they lie on each other."""
Spot = tuple[float, float]

NAME_M, LABEL_M, TITLE_M = 0.32, 0.2, 0.45
"""Height of the names of rooms, of labels, and of the title [m]."""
SEEN_TO_M = 12.0
"""A view is drawn so far beyond what its floor holds [m]."""
DROP_M, CLOSET_M, CROSS_M = 0.09, 0.5, 0.2
HATCHES_M: tuple[tuple[float | None, float], ...] = ((None, 0.15), (-80.0, 0.3), (-70.0, 0.6))
"""Between two strokes of a hatch, by the level from which on an area hears [m]: the less, the closer."""
LABELLED_FROM = 8
"""A contour line with more corners has its dBm written on it."""
GROUND_M = 2.0
"""The line of the ground goes so far beyond the buildings."""


@dataclass(frozen=True)
class Stroke:
    """A line along spots; ``closed``: back to the first."""

    layer: Layer
    spots: tuple[Spot, ...]
    closed: bool = False


@dataclass(frozen=True)
class Dot:
    layer: Layer
    spot: Spot
    radius_m: float


@dataclass(frozen=True)
class Text:
    layer: Layer
    spot: Spot
    text: str
    height_m: float
    anchor: Literal["start", "middle", "end"] = "start"


Shape = Stroke | Dot | Text


@dataclass(frozen=True)
class Scene:
    """What is drawn, and what it is called."""

    title: str
    shapes: tuple[Shape, ...]

    def bounds(self) -> tuple[float, float, float, float]:
        """Least and greatest x and y of all that is drawn [m]: west, north, east, south."""
        spots = [
            spot for shape in self.shapes for spot in (shape.spots if isinstance(shape, Stroke) else (shape.spot,))
        ]
        xs, ys = [x for x, _ in spots] or [0.0], [y for _, y in spots] or [0.0]
        return min(xs), min(ys), max(xs), max(ys)


def plan_scene(project: Project, floor: Floor) -> Scene:
    """The plan of a floor: rooms, walls, paths, the part of every run that lies on it, drops with their labels."""
    return Scene(f"{project.name}: plan, {floor.name}", tuple(_plan(project, floor)))


def sight_scene(project: Project, floor: Floor) -> Scene:
    """The plan of a floor with the boundary, what cameras see as far as `SEEN_TO_M` around its rooms, and targets."""
    plan = plan_scene(project, floor)
    west, north, east, south = plan.bounds()
    frame = box(west - SEEN_TO_M, north - SEEN_TO_M, east + SEEN_TO_M, south + SEEN_TO_M)
    seen = tuple(part for shape in _sight(project, floor) for part in clipped(shape, frame))
    return Scene(f"{project.name}: views, {floor.name}", plan.shapes + seen)


def signal_scene(project: Project, floor: Floor, field: Field) -> Scene:
    """The plan of a floor with the level of who answers in a band as contour lines, and the access points."""
    return Scene(
        f"{project.name}: signal at {field.band} GHz, {floor.name}",
        tuple(shape for shape in _plan(project, floor) if shape.layer in ("ROOMS", "WALLS", "OPENINGS"))
        + tuple(_room_names(project, floor)) + tuple(_signal(project, floor, field)),
    )  # fmt: skip


def _signal(project: Project, floor: Floor, field: Field) -> Iterator[Shape]:
    """Contour lines with their dBm, what fills rooms, and access points with channel and width."""
    for obstacle in project.obstacles:
        if obstacle.floor_id == floor.id:
            yield Stroke("SIGNAL", obstacle.outline, closed=True)
    rooms = [room for room in project.rooms if room.floor_id == floor.id and room.outline]
    inside = shapely.union_all([Polygon(room.outline) for room in rooms])
    drawn = picture(field, "strongest")
    for area in drawn.areas:
        gap = next((gap for level, gap in HATCHES_M if level == area.from_dbm), None)
        if gap is not None:
            yield from _hatched(_filled(area.rings).intersection(inside), gap)
    for contour in drawn.contours:
        for line in contour.lines:
            for part in shapely.get_parts(LineString(line).intersection(inside)):
                spots = tuple((x, y) for x, y in part.coords)
                yield Stroke("SIGNAL", spots)
                if len(spots) > LABELLED_FROM:
                    yield Text("TEXT", spots[len(spots) // 2], f"{contour.dbm:g} dBm", NAME_M, "middle")
    for sender in field.senders:
        if sender.floor_id == floor.id:
            x, y, _ = sender.spot
            yield Dot("DROPS", (x, y), DROP_M * 1.5)
            channel = "not set" if sender.channel is None else str(sender.channel)
            name = project.name_of(project.drops_by_id[sender.drop_id])
            yield Text("TEXT", (x + DROP_M * 2, y - DROP_M), f"{name}: {channel}/{sender.width_mhz}", LABEL_M)


def _filled(rings: Sequence[tuple[tuple[float, float], ...]]) -> BaseGeometry:
    """Rings as a shape, filled even-odd."""
    shape: BaseGeometry = Polygon()
    for ring in rings:
        if len(ring) > 3:
            shape = shape.symmetric_difference(Polygon(ring).buffer(0))
    return shape


def _hatched(shape: BaseGeometry, gap_m: float) -> Iterator[Shape]:
    """Strokes at 45° through a shape."""
    if shape.is_empty:
        return
    west, north, east, south = shape.bounds
    reach = east - west + south - north
    count = math.ceil(reach / (gap_m * math.sqrt(2))) + 1
    start = math.floor((west - south) / (gap_m * math.sqrt(2)))
    lines = [
        LineString([(offset + north, north), (offset + south, south)])
        for offset in ((start + n) * gap_m * math.sqrt(2) for n in range(count + 1))
    ]
    for part in shapely.get_parts(MultiLineString(lines).intersection(shape)):
        if isinstance(part, LineString):
            yield Stroke("HATCH", tuple((round(x, 3), round(y, 3)) for x, y in part.coords))


def clipped(shape: Shape, frame: Polygon) -> Iterator[Shape]:
    """The part of a shape that lies in a frame; what is a line is cut, the rest is in or out."""
    if not isinstance(shape, Stroke):
        if frame.contains(Point(shape.spot)):
            yield shape
        return
    line = LinearRing(shape.spots) if shape.closed else LineString(shape.spots)
    if frame.contains(line):
        yield shape
        return
    for part in shapely.get_parts(shapely.line_merge(line.intersection(frame))):
        if isinstance(part, LineString) and not part.is_empty:
            yield Stroke(shape.layer, tuple((x, y) for x, y in part.coords))


def section_scene(project: Project, axis: Literal[0, 1]) -> Scene:
    """The site cut open, seen along y (axis 0) or along x (axis 1); up is up."""
    seen = "along the plan" if axis == 0 else "across the plan"
    return Scene(f"{project.name}: section {seen}", tuple(_section(project, axis)))


def _plan(project: Project, floor: Floor) -> Iterator[Shape]:
    placed = layout(project)
    for room in placed.rooms:
        if room.floor_id == floor.id:
            yield Stroke("ROOMS", room.outline, closed=True)
    yield from _room_names(project, floor)
    for piece in placed.walls:
        if piece.floor_id == floor.id:
            yield Stroke("WALLS", _face(piece), closed=True)
    for opening in placed.openings:
        if opening.floor_id == floor.id:
            yield Stroke("OPENINGS", (opening.start, opening.end))
    for path in project.paths:
        if path.floor_id == floor.id and len(path.points) > 1:
            yield Stroke("PATHS", path.points)
            yield Text("TEXT", (path.points[0][0], path.points[0][1] - 0.1), path.name, LABEL_M)
    for a, b in _level_pieces(project, floor):
        yield Stroke("RUNS", (a, b))
    yield from _fixed(project, floor)


def _room_names(project: Project, floor: Floor) -> Iterator[Shape]:
    names = {room.id: room.name for room in project.rooms}
    for room in layout(project).rooms:
        if room.floor_id == floor.id:
            x, y = min(room.outline, key=lambda spot: (spot[0] + spot[1], spot))
            yield Text("TEXT", (x + NAME_M, y + NAME_M * 2.2), f"{names[room.id]}, {room.area_m2:.1f} m²", NAME_M)


def _sight(project: Project, floor: Floor) -> Iterator[Shape]:
    """The boundary, what every camera of a floor sees by its bands, and what must be seen."""
    for plot in project.plots:
        yield Stroke("PLOT", plot.outline, closed=True)
    for view in views_of(project):
        if view.floor_id == floor.id:
            yield from view_shapes(view)
    for target in project.targets:
        if target.floor_id == floor.id:
            yield from target_shapes(target)


def view_shapes(view: ViewLine) -> Iterator[Shape]:
    """The bands of a view as their edges."""
    for band in view.bands:
        yield from (Stroke("VIEWS", ring, closed=True) for ring in band.rings)


def target_shapes(target: Target) -> Iterator[Shape]:
    """A target and its name."""
    if target.shape == "spot":
        yield Dot("TARGETS", target.points[0], CROSS_M / 2)
    else:
        yield Stroke("TARGETS", target.points, closed=target.shape == "area")
    x, y = target.points[0]
    yield Text("TEXT", (x + DROP_M * 2, y - DROP_M), target.name, LABEL_M)


def _face(piece: WallPiece) -> tuple[Spot, ...]:
    """The four corners of a piece of wall as it lies on the plan."""
    (x, y), (to_x, to_y) = piece.start, piece.end
    half = piece.thickness_mm / 2000 / piece.length_m
    off_x, off_y = -(to_y - y) * half, (to_x - x) * half
    return ((x + off_x, y + off_y), (to_x + off_x, to_y + off_y), (to_x - off_x, to_y - off_y), (x - off_x, y - off_y))


def _fixed(project: Project, floor: Floor) -> Iterator[Shape]:
    """What stands on a floor: drops, closets, entries, landmarks, each with its name."""
    placed = layout(project)
    called = labels(project)
    for drop in placed.drops:
        if drop.floor_id == floor.id:
            yield Dot("DROPS", (drop.x_m, drop.y_m), DROP_M)
            if drop.id in called:
                yield Text("TEXT", (drop.x_m + DROP_M * 1.4, drop.y_m - DROP_M), called[drop.id], LABEL_M)
    closets = {closet.id: closet.name for closet in project.closets}
    for point in placed.closets:
        if point.floor_id == floor.id:
            yield _square("CLOSETS", (point.x_m, point.y_m), CLOSET_M)
            yield Text("TEXT", (point.x_m + CLOSET_M * 0.7, point.y_m), closets[point.id], LABEL_M)
    entries = {entry.id: entry.name for entry in project.entries}
    for point in placed.entries:
        if point.floor_id == floor.id:
            yield _square("ENTRIES", (point.x_m, point.y_m), CLOSET_M / 2)
            yield Text("TEXT", (point.x_m + CLOSET_M / 2, point.y_m), entries[point.id], LABEL_M)
    for mark in project.landmarks:
        if mark.floor_id == floor.id:
            yield from _cross((mark.x_m, mark.y_m), mark.name)


def _level_pieces(project: Project, floor: Floor) -> Iterator[tuple[Spot, Spot]]:
    """The level pieces of all runs that lie on a floor, each once."""
    seen: set[tuple[Spot, Spot]] = set()
    for run in runs(project).values():
        for (a, b), floor_id in zip(pairwise(run.line.corners), run.line.floor_ids, strict=True):
            spots = (a[:2], b[:2])
            if floor_id == floor.id and a[:2] != b[:2] and spots not in seen:
                seen.add(spots)
                yield spots


def _section(project: Project, axis: Literal[0, 1]) -> Iterator[Shape]:
    placed = layout(project)
    floors = {floor.id: floor for floor in project.floors}
    level = {storey.id: storey.elevation_m for storey in placed.storeys}
    west, east = float("inf"), float("-inf")
    for floor in project.floors:
        ends = [spot[axis] for room in placed.rooms if room.floor_id == floor.id for spot in room.outline]
        if not ends:
            continue
        west, east = min(west, *ends), max(east, *ends)
        top = level[floor.id] + floor.height_m
        if floor.building_id is not None:
            yield _box("FLOORS", min(ends), max(ends), level[floor.id], top)
            yield _box("FLOORS", min(ends), max(ends), top, top + floor.slab_m)
        yield Text("TEXT", (min(ends) - 0.2, -(level[floor.id] + floor.height_m / 2)),
                   f"{floor.name} {floor.height_m:g} m", LABEL_M, "end")  # fmt: skip
    for room in placed.rooms:
        ends = [spot[axis] for spot in room.outline]
        bottom = level[room.floor_id]
        yield _box("ROOMS", min(ends), max(ends), bottom, bottom + floors[room.floor_id].height_m)
    if west <= east:
        yield Stroke("FLOORS", ((west - GROUND_M, 0.0), (east + GROUND_M, 0.0)))
    for line in lines_of(project.paths, floors, level).values():
        yield Stroke("PATHS", _seen(line, axis))
    for run in runs(project).values():
        if run.legs:
            yield Stroke("RUNS", _seen(run.line.corners, axis))
    for drop in placed.drops:
        yield Dot("DROPS", ((drop.x_m, drop.y_m)[axis], -(level[drop.floor_id] + drop.height_m)), DROP_M)
    for point in placed.closets:
        at = (point.x_m, point.y_m)[axis]
        yield _box("CLOSETS", at - 0.25, at + 0.25, level[point.floor_id], level[point.floor_id] + 1.6)


def _seen(line: Sequence[tuple[float, float, float]], axis: Literal[0, 1]) -> tuple[Spot, ...]:
    return tuple((corner[axis], -corner[2]) for corner in line)


def _box(layer: Layer, left: float, right: float, bottom: float, top: float) -> Stroke:
    return Stroke(layer, ((left, -bottom), (right, -bottom), (right, -top), (left, -top)), closed=True)


def _square(layer: Layer, at: Spot, side: float) -> Stroke:
    x, y, half = at[0], at[1], side / 2
    return Stroke(layer, ((x - half, y - half), (x + half, y - half), (x + half, y + half), (x - half, y + half)), True)


def _cross(at: Spot, name: str) -> Iterator[Shape]:
    x, y = at
    yield Stroke("LANDMARKS", ((x - CROSS_M, y - CROSS_M), (x + CROSS_M, y + CROSS_M)))
    yield Stroke("LANDMARKS", ((x - CROSS_M, y + CROSS_M), (x + CROSS_M, y - CROSS_M)))
    yield Text("TEXT", (x + CROSS_M * 1.3, y + LABEL_M / 3), name, LABEL_M)
