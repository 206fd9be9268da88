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
                shown(one.mains_w), one.plug, plugged_into(here, one),
            ])  # fmt: skip
    return rows


def plugged_into(here: ClosetStack, thing: Thing) -> str:
    """The strip or the kind of outlet that a thing is plugged into; empty: it has no plug."""
    if not thing.sockets:
        return ""
    return next((one.name for one in here.things if one.key == thing.strip), thing.outlet)


def fitted(here: ClosetStack) -> Iterator[tuple[int, Thing]]:
    """The things of a closet in the order of fitting, each with its step."""
    return enumerate(sorted(here.things, key=_order), 1)


def _order(thing: Thing) -> tuple[bool, int, float, str]:
    """The lowest first, of loose things the heaviest."""
    return (not thing.units, thing.unit or 99, -thing.mass_kg, thing.key)
