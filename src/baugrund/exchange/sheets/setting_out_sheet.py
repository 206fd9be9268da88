"""The setting-out sheet: every device on ceiling and wall from two walls and a landmark, with the plan of its floor."""

from __future__ import annotations

from datetime import date
from html import escape
from pathlib import Path

from baugrund.core.facts.building import Floor
from baugrund.core.facts.path_kinds import HIDDEN, LADDER, LOFT
from baugrund.core.facts.project import Project
from baugrund.core.places.labels import labels
from baugrund.core.places.setting_out import FromLandmark, Offset, SetOut, set_out
from baugrund.core.words import counted

from ..drawings.scene import plan_scene
from ..drawings.svg import write_svg
from .lengths import metres, unit
from .pages import sentences, table, write_pdf

PLAN_MM = 182.0
"""Width of a plan on the sheet."""
CAUTIONS = (
    HIDDEN,
    LOFT,
    LADDER,
)


def write_setting_out_sheet(project: Project, fonts: Path | None, made: date) -> bytes:
    """All devices that are set out, floor by floor, as PDF."""
    devices = set_out(project)
    what = f"{counted(len(devices), 'device')}; walls are named as they lie on the plan."
    lead = f"{project.site}. {what}" if project.site else what
    body = [sentences(CAUTIONS)]
    for floor in project.floors:
        here = [device for device in devices if device.floor_id == floor.id]
        if here:
            body.append(_floor(project, floor, here))
    if not devices:
        body.append("<p>No device is set out yet: place an access point or a camera on the plan.</p>")
    return write_pdf(f"{project.name}: setting out", lead, body, fonts, made)


def _floor(project: Project, floor: Floor, devices: list[SetOut]) -> str:
    in_unit = unit(project)
    heads = ["Label", "Device", f"Height {in_unit}", "First wall", "Second wall", "Landmark", "As built", "Why moved"]
    rows = [_device(project, device) for device in devices]
    drawing = write_svg(plan_scene(project, floor), PLAN_MM)
    return f"<h2>{escape(floor.name)}</h2>{drawing}{table(heads, rows, frozenset((2,)))}"


def _device(project: Project, device: SetOut) -> list[str]:
    drop = project.drops_by_id[device.drop_id]
    room = project.rooms_by_id[device.room_id]
    label = labels(project).get(drop.id, "")
    name = f"{drop.kind_row.name}, {room.name}"
    if not device.placed:
        name += " (not placed yet)"
    built = "" if device.built is None else f"moved {metres(project, device.moved_m, 2)} {unit(project)}"
    return [
        f"<b>{escape(label)}</b>", escape(name),
        "ceiling" if device.mount == "ceiling" else metres(project, device.height_m, 2),
        _offset(project, device.first), _offset(project, device.second), _landmark(project, device.landmark),
        escape(built), escape(device.built_why),
    ]  # fmt: skip


def _offset(project: Project, offset: Offset) -> str:
    return f"<b>{metres(project, offset.m, 2)}</b> from {offset.wall.side}"


def _landmark(project: Project, found: FromLandmark | None) -> str:
    if found is None:
        return ""
    across = f"{metres(project, abs(found.right_m), 2)} {'right' if found.right_m >= 0 else 'left'}"
    down = f"{metres(project, abs(found.down_m), 2)} {'down' if found.down_m >= 0 else 'up'}"
    return f"{escape(found.landmark.name)}: {across}, {down}; straight {metres(project, found.straight_m, 2)}"
