"""The port list of every closet, a line a drop, link, feed or port kept for growth."""

from __future__ import annotations

from baugrund.core.facts.project import Project
from baugrund.core.patch.told import PatchTold

from .cells import shown
from .tables import write_csv, write_workbook

HEAD = [
    "Closet", "Label", "What", "Use", "Room", "Position", "Port", "Speed Mbit/s", "PoE class", "Takes W", "Injector",
    "Network", "Tagged", "Run m", "Cord m", "Pinned", "Moved from",
]  # fmt: skip


def write_ports_csv(project: Project, told: PatchTold) -> str:
    """The port list as CSV."""
    return write_csv(HEAD, _rows(project, told))


def write_ports_xlsx(project: Project, told: PatchTold) -> bytes:
    """The same as an XLSX workbook."""
    return write_workbook("Ports", HEAD, _rows(project, told))


def _rows(project: Project, told: PatchTold) -> list[list[str]]:
    number = {network.id: network.number for network in project.networks}
    rows = []
    for here in told.closets:
        short = {face.thing: face.short for face in here.faces}
        for line in here.lines:
            room = project.rooms_by_id[line.room_id].name if line.room_id is not None else ""
            position = f"{short.get(line.was_panel, '?')}{line.was_position}" if line.was_panel else ""
            port = f"{short.get(line.was_box, '?')}/{line.was_port}" if line.was_box and line.was_port else ""
            rows.append([
                here.name, line.label, line.name, line.use, room, line.at_panel, line.at_port, shown(line.speed_mbit),
                shown(line.poe_class), shown(line.watts or None), line.injector,
                shown(number.get(line.network_id or -1)), " ".join(str(number[one]) for one in line.tagged),
                shown(line.run_m), shown(line.cord_m), "yes" if line.fixed else "", f"{position} {port}".strip(),
            ])  # fmt: skip
    return rows
