"""Wall panels and shelves with a wall plate: what lies on them, what is in the way, and where everything fits.

In a wall panel boxes lie flat, side by side or turned by a quarter, each with room for its plugs along one edge.  On a
shelf they stand side by side.  OR-Tools CP-SAT finds the places.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import combinations
from typing import NamedTuple

from ortools.sat.python import cp_model

from ..facts.building import Closet
from ..facts.fact import Fact
from ..facts.project import Project
from ..facts.stack import PanelBlock
from ..standards.stack import CORD_MM, SHELF_WIDTH_MM, UNIT_MM
from .rules import Broken
from .things import Thing

SECONDS = 2.0


class Rectangle(NamedTuple):
    """Upper left corner and size [mm]."""

    x: int
    y: int
    width: int
    height: int

    def overlaps(self, other: Rectangle) -> bool:
        return (
            self.x < other.x + other.width and other.x < self.x + self.width
            and self.y < other.y + other.height and other.y < self.y + self.height
        )  # fmt: skip


class FlatPut(Fact):
    """Where a thing lies in a wall panel, or stands on a shelf."""

    thing: str
    x_mm: int
    y_mm: int
    turned: bool


class FlatArrangement(Fact):
    """Everything of a wall panel or a shelf in its place."""

    puts: tuple[FlatPut, ...]
    left_out: tuple[str, ...]
    proven: bool
    """No arrangement takes more boxes of the pick, and with so many of them more things."""


def area_of(closet: Closet) -> tuple[int, int]:
    """Width and height of the free area [mm]."""
    width = closet.panel_width_mm or SHELF_WIDTH_MM
    return width, closet.panel_height_mm or round(closet.units * UNIT_MM)


def footprint(closet: Closet, thing: Thing, turned: bool) -> tuple[int, int]:
    """What a thing covers [mm]: flat on the panel with plugs along one edge, or upright on the shelf."""
    if closet.housing == "shelf":
        return thing.width_mm, thing.height_mm
    deep = thing.depth_mm + (CORD_MM if thing.plug != "none" or thing.corded else 0)
    return (deep, thing.width_mm) if turned else (thing.width_mm, deep)


def stands_out_mm(closet: Closet, thing: Thing) -> int:
    """How far it stands out of the wall [mm]."""
    return thing.depth_mm + CORD_MM if closet.housing == "shelf" else thing.height_mm


def blocks_of(project: Project, closet: Closet) -> tuple[PanelBlock, ...]:
    return tuple(one for one in project.panel_blocks if one.closet_id == closet.id)


def place_of(closet: Closet, thing: Thing) -> Rectangle | None:
    """Where a thing lies in a wall panel, or stands on the board of a shelf; None: nobody has said."""
    if thing.x_mm is None or thing.y_mm is None:
        return None
    across, down = footprint(closet, thing, thing.turned)
    y = area_of(closet)[1] - down if closet.housing == "shelf" else thing.y_mm
    return Rectangle(thing.x_mm, y, across, down)


def flat_broken(project: Project, closet: Closet, things: Sequence[Thing]) -> tuple[Broken, ...]:
    """Everything that stands wrong in a wall panel or on a shelf."""
    return tuple(_broken(project, closet, things))


def _broken(project: Project, closet: Closet, things: Sequence[Thing]) -> Iterator[Broken]:
    width, height = area_of(closet)
    spots = {one.key: place_of(closet, one) for one in things}
    for one in things:
        at, out = spots[one.key], stands_out_mm(closet, one)
        if out > closet.depth_mm:
            yield Broken(rule="depth", things=(one.key,),
                         text=f"{one.name} stands out {out} mm; there are {closet.depth_mm} mm.")  # fmt: skip
        if at is None:
            yield Broken(rule="place", things=(one.key,), text=f"{one.name} has no place yet.")
            continue
        if at.x + at.width > width or at.y < 0 or at.y + at.height > height:
            yield Broken(rule="area", things=(one.key,),
                         text=f"{one.name} ends beyond the free area of {width} × {height} mm.")  # fmt: skip
        for block in blocks_of(project, closet):
            if at.overlaps(Rectangle(block.x_mm, block.y_mm, block.width_mm, block.height_mm)):
                yield Broken(rule="block", things=(one.key,), text=f"{one.name} lies over {block.name}.")
    for one, other in combinations(things, 2):
        a, b = spots[one.key], spots[other.key]
        if a and b and a.overlaps(b):
            yield Broken(rule="overlap", things=(one.key, other.key),
                         text=f"{one.name} and {other.name} are in one another's place.")  # fmt: skip
    mass = sum(one.mass_kg for one in things)
    if mass > closet.load_kg + 1e-9:
        yield Broken(rule="load", things=(), text=f"{mass:g} kg stand in it; it carries {closet.load_kg:g} kg.")


def lay_out(project: Project, closet: Closet, things: Sequence[Thing]) -> FlatArrangement:
    """Places for as many of the pick's boxes as fit, then for as many other things; those that are fixed stay."""
    width, height = area_of(closet)
    model = cp_model.CpModel()
    wide: list[cp_model.IntervalVar] = []
    high: list[cp_model.IntervalVar] = []
    for block in blocks_of(project, closet):
        wide.append(model.new_fixed_size_interval_var(block.x_mm, block.width_mm, ""))
        high.append(model.new_fixed_size_interval_var(block.y_mm, block.height_mm, ""))
    corners: dict[str, tuple[cp_model.IntVar, cp_model.IntVar]] = {}
    there: dict[tuple[str, bool], cp_model.IntVar] = {}
    for one in things:
        x, y = model.new_int_var(0, width, ""), model.new_int_var(0, height, "")
        corners[one.key] = x, y
        for turned in (False, True) if closet.housing == "panel" else (False,):
            across, down = footprint(closet, one, turned)
            flag = there[one.key, turned] = model.new_bool_var("")
            wide.append(model.new_optional_fixed_size_interval_var(x, across, flag, ""))
            high.append(model.new_optional_fixed_size_interval_var(y, down, flag, ""))
            model.add(x + across <= width).only_enforce_if(flag)
            model.add(y + down <= height).only_enforce_if(flag)
            if stands_out_mm(closet, one) > closet.depth_mm:
                model.add(flag == 0)
            if closet.housing == "shelf":
                model.add(y == height - down).only_enforce_if(flag)
        flags = [flag for (key, _), flag in there.items() if key == one.key]
        model.add(sum(flags) <= 1)
        if one.fixed and (at := place_of(closet, one)):
            # what is fixed where it cannot be is left out, and the rest is laid out all the same
            stays = there[one.key, one.turned and closet.housing == "panel"]
            model.add(x == at.x).only_enforce_if(stays)
            model.add(y == at.y).only_enforce_if(stays)
            model.add(sum(flags) == stays)
    model.add_no_overlap_2d(wide, high)
    mass = sum(round(one.mass_kg * 1000) * there[one.key, turned] for one in things for turned in (False, True)
               if (one.key, turned) in there)  # fmt: skip
    model.add(mass <= round(closet.load_kg * 1000))
    reach = sum(x + y for x, y in corners.values())
    more = len(things) + 1
    weights = {one.key: more**2 if one.fixed else more if one.box is not None else 1 for one in things}
    count = sum(weights[key] * flag for (key, _), flag in there.items())
    model.maximize(count * (len(things) + 1) * (width + height + 1) - reach)
    solver = cp_model.CpSolver()
    solver.parameters.num_workers = 1
    solver.parameters.max_deterministic_time = SECONDS
    state = solver.solve(model)
    if state not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        return FlatArrangement(puts=(), left_out=tuple(one.key for one in things), proven=False)
    puts = tuple(
        FlatPut(thing=key, x_mm=solver.value(corners[key][0]), y_mm=solver.value(corners[key][1]), turned=turned)
        for (key, turned), flag in there.items()
        if solver.value(flag)
    )
    put = {one.thing for one in puts}
    left = tuple(one.key for one in things if one.key not in put)
    return FlatArrangement(puts=puts, left_out=left, proven=state == cp_model.OPTIMAL or not left)
