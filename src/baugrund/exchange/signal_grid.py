"""The predicted levels of a floor as a table: a line a cell, a column an access point."""

from __future__ import annotations

from collections.abc import Iterator

from baugrund.core.facts.project import Project
from baugrund.core.signal.field import Field

from .tables import write_csv


def write_grid_csv(project: Project, field: Field) -> str:
    """Cells of a floor in a band as CSV: the centre [m], its room, the strongest, who answers, every level [dBm]."""
    names = [project.name_of(project.drops_by_id[sender.drop_id]) for sender in field.senders]
    head = ["x m", "y m", "Room", "Strongest dBm", "Answers", *(f"{name} dBm" for name in names)]
    return write_csv(head, list(_lines(project, field, names)))


def _lines(project: Project, field: Field, names: list[str]) -> Iterator[list[str]]:
    rooms = {room.id: room.name for room in project.rooms}
    for cell, (x, y, _) in enumerate(field.cells.points):
        answers = int(field.answers[cell])
        best = [f"{field.strongest[cell]:.1f}", names[answers]] if answers >= 0 else ["", ""]
        levels = [f"{level:.1f}" for level in field.levels[:, cell]]
        yield [f"{x:g}", f"{y:g}", rooms[int(field.cells.room_of[cell])], *best, *levels]
