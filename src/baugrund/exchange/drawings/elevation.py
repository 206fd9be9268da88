"""A closet to scale: from the front, and from the side with depth, cord space and door; a wall panel by its face."""

from __future__ import annotations

from collections.abc import Iterator

from baugrund.core.facts.building import Closet
from baugrund.core.facts.project import Project
from baugrund.core.stack.flat import area_of, blocks_of, place_of
from baugrund.core.stack.things import Thing
from baugrund.core.stack.told import ClosetStack
from baugrund.core.standards.stack import CORD_MM, UNIT_MM

from .scene import Scene, Shape, Stroke, Text

WIDTH_MM = 482.6
GAP_M = 0.35
TEXT_M = 0.022
OFF_M = 0.01
"""Between a rack and the wall or floor that it is fixed to, as drawn."""
FIXED_AT = (0.12, 0.88)
"""Where along its height it is screwed, as drawn."""


def elevation(project: Project, closet: Closet, here: ClosetStack) -> Scene:
    """The scene of a closet, in metres, y down."""
    shapes = _rack(closet, here) if closet.housing == "rack" else _flat(project, closet, here)
    return Scene(f"{project.name}: {closet.name}", tuple(shapes))


def _box(layer: str, x: float, y: float, width: float, height: float) -> Stroke:
    corners = ((x, y), (x + width, y), (x + width, y + height), (x, y + height))
    return Stroke(layer, corners, closed=True)  # type: ignore[arg-type]


def _rack(closet: Closet, here: ClosetStack) -> Iterator[Shape]:
    """Front on the left, with units counted from the bottom; side on the right, the door before it."""
    wide, high, unit = WIDTH_MM / 1000, closet.units * UNIT_MM / 1000, UNIT_MM / 1000
    left = wide + GAP_M
    deep, cords = closet.depth_mm / 1000, closet.cord_space_mm / 1000
    yield _box("CLOSETS", 0, 0, wide, high)
    yield _box("CLOSETS", left, 0, cords + deep, high)
    yield Stroke("WALLS", ((left + cords, 0), (left + cords, high)))
    yield from _place(closet, left, left + cords + deep, high)
    for number in range(1, closet.units + 1):
        yield Text("TEXT", (-0.03, high - (number - 0.3) * unit), str(number), TEXT_M * 0.8, "end")
    for thing in here.things:
        if thing.units and thing.unit is not None:
            top = high - (thing.unit - 1 + thing.units) * unit
            tall = thing.units * unit
            long = thing.depth_mm / 1000
            front = thing.face == "front"
            if front:
                yield _box("DROPS", 0, top, wide, tall)
                yield Text("TEXT", (0.02, top + tall / 2 + TEXT_M / 3), thing.name, TEXT_M)
            at = left + cords if front else left + cords + deep - long
            yield _box("DROPS", at, top, long, tall)
            if not thing.hangs:
                end = at + long if front else at
                over = CORD_MM / 1000 if front else -CORD_MM / 1000
                yield Stroke("HATCH", ((end, top + tall / 2), (end + over, top + tall / 2)))
        elif not thing.units:
            yield from _on_shelf(closet, here, thing, high, unit)


def _place(closet: Closet, left: float, right: float, high: float) -> Iterator[Shape]:
    """What a rack is fixed to or stands on, from the side, and where its cables come in."""
    if closet.fixing in ("floor", "frame"):
        yield Stroke("WALLS", ((left - OFF_M, high + OFF_M), (right + OFF_M, high + OFF_M)))
    elif closet.fixing:
        yield Stroke("WALLS", ((right + OFF_M, -OFF_M), (right + OFF_M, high + OFF_M)))
        for share in FIXED_AT:
            yield Stroke("HATCH", ((right, share * high), (right + OFF_M, share * high)))
    if closet.fixing:
        yield Text("TEXT", (right + OFF_M, high + OFF_M + 1.5 * TEXT_M), closet.fixing, TEXT_M, "end")
    if closet.entry:
        edge, way = (0.0, -1) if closet.entry == "top" else (high, 1)
        for number in range(3):
            x = right - 0.03 - 0.014 * number
            yield Stroke("HATCH", ((x, edge + way * 0.056), (x, edge - way * 0.014)))
        yield Text("TEXT", (right - 0.08, edge + way * 0.03 + TEXT_M / 3), "cables", TEXT_M, "end")


def _on_shelf(closet: Closet, here: ClosetStack, thing: Thing, high: float, unit: float) -> Iterator[Shape]:
    shelf = next((one for one in here.things if one.key == thing.on and one.unit is not None), None)
    if shelf is None or shelf.unit is None:
        return
    floor = high - (shelf.unit - 1) * unit - 0.004
    x, tall = 0.02 + (thing.x_mm or 0) / 1000, thing.height_mm / 1000
    yield _box("TARGETS", x, floor - tall, thing.width_mm / 1000, tall)
    yield Text("TEXT", (x + 0.005, floor - tall / 2 + TEXT_M / 3), thing.name, TEXT_M * 0.8)


def _flat(project: Project, closet: Closet, here: ClosetStack) -> Iterator[Shape]:
    wide, high = (size / 1000 for size in area_of(closet))
    yield _box("CLOSETS", 0, 0, wide, high)
    for block in blocks_of(project, closet):
        yield _box("WALLS", block.x_mm / 1000, block.y_mm / 1000, block.width_mm / 1000, block.height_mm / 1000)
        yield Text("TEXT", (block.x_mm / 1000, block.y_mm / 1000 + TEXT_M), block.name, TEXT_M)
    for thing in here.things:
        if at := place_of(closet, thing):
            x, y = at.x / 1000, at.y / 1000
            yield _box("DROPS", x, y, at.width / 1000, at.height / 1000)
            yield Text("TEXT", (x + 0.005, y + TEXT_M * 1.2), thing.name, TEXT_M)
