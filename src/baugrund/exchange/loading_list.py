"""The loading list: everything of every closet in the order of fitting."""

from __future__ import annotations

from collections.abc import Iterator

from baugrund.core.facts.project import Project
from baugrund.core.stack.things import Thing
from baugrund.core.stack.told import ClosetStack, Stack

from .cells import shown
from .tables import write_csv, write_workbook

HEAD = [
    "Closet", "Step", "Thing", "Kind", "Unit", "Face", "On", "Units", "Depth mm", "Mass kg", "Mains W", "Plug",
    "Plugged into",
]  # fmt: skip


def write_loading_csv(project: Project, stack: Stack) -> str:
    """What stands in every closet as CSV: what is screwed to the rails from the floor up, then what stands on shelves,
    the heaviest first."""
    return write_csv(HEAD, _rows(project, stack))


def write_loading_xlsx(project: Project, stack: Stack) -> bytes:
    """The same as an XLSX workbook."""
    return write_workbook("Loading list", HEAD, _rows(project, stack))


def _rows(project: Project, stack: Stack) -> list[list[str]]:
    rows = []
    for here in stack.closets:
        names = {one.key: one.name for one in here.things}
        for step, one in fitted(here):
            rows.append([
                project.closets_by_id[here.closet_id].name, str(step), one.name, one.kind, shown(one.unit), one.face,
                names.get(one.on, ""), shown(one.units or None), shown(one.depth_mm), shown(one.mass_kg),
                shown(one.mains_w), one.plug, one.outlet if one.sockets else "",
            ])  # fmt: skip
    return rows


def fitted(here: ClosetStack) -> Iterator[tuple[int, Thing]]:
    """The things of a closet in the order of fitting, each with its step."""
    return enumerate(sorted(here.things, key=_order), 1)


def _order(thing: Thing) -> tuple[bool, int, float, str]:
    """The lowest first, of loose things the heaviest."""
    return (not thing.units, thing.unit or 99, -thing.mass_kg, thing.key)
