"""Edits: everything that can change a project, each a value with a pure effect.

To add one: a class with a ``type``, an ``apply`` and a ``summary`` sentence in ``listing``, ``terms`` or ``entries``,
and its name in ``Edit``.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, Any

from pydantic import Field, ValidationError

from ..errors import InvalidInput
from ..facts.project import MAX_ROOMS, Project
from ..facts.settings import MAX_DROPS
from .closets import NewSite, PlaceClosets
from .drops import ChangeDrops, DropChanges, DuplicateDrops, Placed, PlaceDrops, RemoveDrops
from .entries import AddEntry, ChangeEntry, RemoveEntry
from .listing import (
    AddDrops,
    AddList,
    AddRooms,
    ChangeRoom,
    NewAim,
    NewDrop,
    NewRoom,
    RemoveRoom,
    RoomChanges,
    SetTally,
)
from .networks import CamerasInto, KeepAddresses, MoveToNetwork, SetPermission, UseNetworks
from .order_of_work import TickWork, UntickWork, WriteBench
from .patching import PatchCords, PinCord, PutLabels, TellDiscovered
from .room_switch import UseRoomSwitch
from .setting_out import RecordBuilt
from .terms import ChangeSettings, Held, Hold, Rename, SetGrowth, SetStance

__all__ = [
    "AddDrops",
    "AddEntry",
    "AddList",
    "AddRooms",
    "CamerasInto",
    "ChangeDrops",
    "ChangeEntry",
    "ChangeRoom",
    "ChangeSettings",
    "DropChanges",
    "DuplicateDrops",
    "Edit",
    "Held",
    "Hold",
    "KeepAddresses",
    "MoveToNetwork",
    "NewAim",
    "NewDrop",
    "NewRoom",
    "NewSite",
    "PatchCords",
    "PinCord",
    "PlaceClosets",
    "PlaceDrops",
    "Placed",
    "PutLabels",
    "RecordBuilt",
    "RemoveDrops",
    "RemoveEntry",
    "RemoveRoom",
    "Rename",
    "RoomChanges",
    "SetGrowth",
    "SetPermission",
    "SetStance",
    "SetTally",
    "TellDiscovered",
    "TickWork",
    "UntickWork",
    "UseNetworks",
    "UseRoomSwitch",
    "WriteBench",
    "apply_edits",
    "as_sent",
    "plain_sentence",
]

Edit = Annotated[
    Rename | ChangeSettings | AddRooms | ChangeRoom | RemoveRoom | AddDrops | SetTally | AddList
    | ChangeDrops | PlaceDrops | DuplicateDrops | RemoveDrops | AddEntry | ChangeEntry | RemoveEntry | SetGrowth
    | SetStance | Hold | PlaceClosets | RecordBuilt | UseRoomSwitch
    | PatchCords | PinCord | PutLabels | TellDiscovered | UseNetworks | SetPermission | MoveToNetwork | CamerasInto
    | KeepAddresses | TickWork | UntickWork | WriteBench,
    Field(discriminator="type"),
]  # fmt: skip


def as_sent(edit: Edit) -> dict[str, Any]:
    """An edit as it is sent and journalled: only the fields that are set, for unset ones mean *leave it*."""
    return {"type": edit.type, **edit.model_dump(mode="json", exclude_unset=True)}


def apply_edits(project: Project, edits: Sequence[Edit]) -> Project:
    """The project after a list of edits, all or nothing.

    Raises NotFound for something that is not there, InvalidInput for a value out of range.
    """
    try:
        for edit in edits:
            project = edit.apply(project)
            _refuse_too_many(project)
        # every edit has checked the rows that it made; what they name, their numbers and their counts are checked here
        return Project.model_validate({name: getattr(project, name) for name in Project.model_fields})
    except ValidationError as error:
        raise InvalidInput(plain_sentence(error)) from error


def _refuse_too_many(project: Project) -> None:
    """The limits that a long list of edits could grow far beyond before all is checked."""
    for name, most in (("rooms", MAX_ROOMS), ("drops", MAX_DROPS)):
        count = len(getattr(project, name))
        if count > most:
            raise InvalidInput(f"That would be {count:,} {name}; a project holds {most:,} at most.")


def plain_sentence(error: ValidationError) -> str:
    """The first complaint of a validation, as one sentence with its place."""
    first = error.errors(include_url=False, include_context=False)[0]
    place = ""
    for step in first["loc"]:
        place += f"[{step}]" if isinstance(step, int) else f".{step}" if place else str(step)
    message = first["msg"].removeprefix("Value error, ")
    value = first.get("input")
    shown = f" (it is {value!r})" if isinstance(value, int | float | str) and len(str(value)) < 60 else ""
    return f"{place}: {message}{shown}." if place else f"{message}."
