"""The sheet of signal: every floor and band as contour lines, access points with their channels, goals."""

from __future__ import annotations

from datetime import date
from html import escape
from pathlib import Path

from baugrund.core.facts.catalogue import Catalogue
from baugrund.core.facts.project import Project
from baugrund.core.signal.field import Field, predicted
from baugrund.core.signal.told import Signal, signal_of

from ..drawings.scene import signal_scene
from ..drawings.svg import write_svg
from .pages import sentences, table, write_pdf

DRAWING_MM = 180.0
"""Width of a floor on the sheet."""
PREDICTED = "Levels are predicted from walls and floors as they are listed; only a survey on site tells what is heard."
LAW = "Limits of power and channels are law and differ by country: local rules come first."


def write_signal_sheet(project: Project, catalogue: Catalogue, fonts: Path | None, made: date) -> bytes:
    """Access points, goals, then every floor in every band that anything sends in, as PDF."""
    told, prediction = signal_of(project, catalogue), predicted(project, catalogue)
    body = [sentences((PREDICTED, LAW)), _stations(project, told), _goals(project, told)]
    for field in prediction.fields.values():
        if field.senders:
            body.append(_floor(project, field))
    if not told.stations:
        body.append("<p>No access point is on the plan yet.</p>")
    return write_pdf(f"{project.name}: signal", project.site, body, fonts, made)


def _floor(project: Project, field: Field) -> str:
    floor = project.floors_by_id[field.cells.floor_id]
    drawing = write_svg(signal_scene(project, floor, field), DRAWING_MM)
    heading = f"<h2>{escape(floor.name)}, {field.band} GHz</h2>"
    return f"<section class=keep>{heading}{drawing}</section>"


def _stations(project: Project, told: Signal) -> str:
    rows = [
        [
            escape(station.name), escape(station.model or "usual"), escape(project.floors_by_id[station.floor_id].name),
            f"{station.height_m:g}", f"{radio.band} GHz", "not set" if radio.channel is None else str(radio.channel),
            str(radio.width_mhz), f"{radio.eirp_dbm:g}", f"{100 * radio.total:.1f}",
        ]
        for station in told.stations
        for radio in station.radios
    ]  # fmt: skip
    heads = ["Access point", "Model", "Floor", "Height m", "Band", "Channel", "MHz", "EIRP dBm", "Airtime %"]
    return table(heads, rows, frozenset((3, 5, 6, 7, 8))) if rows else ""


def _goals(project: Project, told: Signal) -> str:
    goals = {goal.id: goal for goal in project.goals}
    rows = []
    for line in told.goals:
        rooms = ", ".join(project.rooms_by_id[number].name for number in goals[line.goal_id].room_ids)
        worst = line.worst
        rows.append([
            escape(rooms or "all rooms inside"), f"{line.level_dbm:g} dBm", f"{100 * line.share_wanted:g} %",
            "not drawn" if line.share is None else f"{100 * line.share:.1f} %",
            "" if worst is None or worst.dbm is None else f"{worst.dbm:.0f} dBm",
            escape(worst.hidden_by) if worst else "",
        ])  # fmt: skip
    heads = ["Goal", "Wanted", "In", "Met in", "Least", "Behind"]
    return table(heads, rows, frozenset((1, 2, 3, 4))) if rows else ""
