"""Labels: what stands at both ends of a cable, by its place and never by the device of the day."""

from __future__ import annotations

from collections.abc import Mapping

from ..facts.kept import kept
from ..facts.project import Project


@kept
def labels(project: Project) -> Mapping[int, str]:
    """The label of every cable by the drop's number: as typed, else by the project's school.

    *running*: the number that the drop was given, which no other drop ever gets.  *room*: the room and a number in it.
    *position*: floor, closet, panel and position as patched; until then the drop's number.  Two that would read
    the same get their drop's number.
    """
    found: dict[int, str] = {}
    in_room: dict[int, int] = {}
    closets = {closet.id: place for place, closet in enumerate(project.closets, 1)}
    positions = {
        patch.drop_id: f"{panel_letter(project, patch.closet_id, patch.panel)}{patch.position}"
        for patch in project.patches
        if patch.panel and patch.drop_id is not None
    }
    for drop in sorted(project.drops, key=lambda one: one.id):
        if drop.behind_id is not None:
            continue
        room = project.rooms_by_id[drop.room_id]
        if drop.label:
            found[drop.id] = drop.label
        elif project.settings.labels == "room":
            in_room[room.id] = in_room.get(room.id, 0) + 1
            found[drop.id] = f"{room.name} {in_room[room.id]}"
        elif project.settings.labels == "position":
            level = project.floors_by_id[room.floor_id].level
            found[drop.id] = f"{level}-{closets[drop.closet_id]}-{positions.get(drop.id) or f'{drop.id:03d}'}"
        else:
            found[drop.id] = f"{drop.id:03d}"
    seen: dict[str, int] = {}
    for drop_id, text in list(found.items()):
        if text.casefold() in seen:
            found[drop_id] = f"{text} ({drop_id})"
        seen[text.casefold()] = drop_id
    return found


def panel_letter(project: Project, closet_id: int, panel: str) -> str:
    """What a panel of a closet is called on labels: A, B, C in the order of the list; those counted by their number."""
    kind, _, number = panel.partition("/")
    place = int(number) - 1 if number.isdecimal() else 0
    if kind == "gear":
        listed = [one.id for one in project.gear if one.closet_id == closet_id and one.kind == "panel"]
        place = listed.index(place + 1) if place + 1 in listed else len(listed)
    return letters(place)


def letters(place: int) -> str:
    """A, B, … Z, AA, AB, … by place from 0 on."""
    first, last = divmod(place, 26)
    return (letters(first - 1) if first else "") + chr(ord("A") + last)
