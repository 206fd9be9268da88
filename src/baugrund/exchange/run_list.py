"""The list of runs as a table: every run with its ends, length, cable and pieces, as CSV or XLSX."""

from __future__ import annotations

from baugrund.core.cabling.fill import cable_of
from baugrund.core.cabling.pulls import run_hours
from baugrund.core.facts.project import Project
from baugrund.core.reach.runs import runs

from .tables import write_csv, write_workbook

HEAD = ["Floor", "Room", "Drop", "Closet", "Cable", "Run m", "Measured", "Hours", "Warmest °C", "Way"]


def _lines(project: Project) -> list[list[str]]:
    order = {room.id: place for place, room in enumerate(project.rooms)}
    found, hours = runs(project), run_hours(project)
    lines = []
    for drop in sorted(project.drops, key=lambda drop: (order[drop.room_id], drop.id)):
        run = found.get(drop.id)
        if run is None:
            continue
        room = project.rooms_by_id[drop.room_id]
        way = "; ".join(f"{stretch.text} {stretch.length_m:.1f}" for stretch in run.stretches)
        lines.append([
            project.floor_name(room), room.name, drop.label or drop.kind_row.name,
            project.closets_by_id[run.closet_id].name, cable_of(project, drop).name, f"{run.length_m:g}",
            "yes" if run.state == "typed" else "no", f"{hours.get(run.drop_id, 0.0):.2f}", f"{run.temperature_c:g}",
            way,
        ])  # fmt: skip
    return lines


def write_runs_csv(project: Project) -> str:
    """All runs, one a line, as CSV; pieces from the closet on, in metres."""
    return write_csv(HEAD, _lines(project))


def write_runs_xlsx(project: Project) -> bytes:
    """All runs, one a line, as an XLSX workbook."""
    return write_workbook("Runs", HEAD, _lines(project))
