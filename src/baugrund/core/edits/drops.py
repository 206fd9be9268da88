"""Edits of drops that are on the list: their fields, their places, copies and removal."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Annotated, Literal

from pydantic import Field

from ..errors import NotFound
from ..facts.building import Metres
from ..facts.drop import (
    MAX_PHOTOS,
    Codec,
    Drop,
    Environment,
    FrameRate,
    Height,
    Length,
    Megapixels,
    Priority,
    Quality,
    Share,
    Supply,
    Surface,
    Traffic,
    Watts,
)
from ..facts.drop_kinds import SEEING_KINDS, KindKey
from ..facts.fact import Fact, Id, ModelKey, Note, PictureKey, Text
from ..facts.lines.line import PoeCap, Speed
from ..facts.price import Wanted
from ..facts.project import Project
from ..facts.settings import MAX_DROPS
from ..facts.sight import Bearing
from ..standards.cabling import Category
from ..standards.disks import Raid
from ..words import counted
from .entries import unnamed
from .rows import Changes, found, replaced

Ids = Annotated[tuple[Id, ...], Field(min_length=1, max_length=MAX_DROPS)]


class DropChanges(Changes):
    """Fields of a drop; a run, measurement or traffic of None goes back to the default of the kind."""

    room_id: Id | None = None
    closet_id: Id | None = None
    kind: KindKey | None = None
    variant: Text | None = None
    own_kind_id: Id | None = None
    behind_id: Id | None = None
    label: Text | None = None
    place: Text | None = None
    purpose: Text | None = None
    in_use: bool | None = None
    speed_mbit: Speed | None = None
    poe_class: PoeCap | None = None
    supply: Supply | None = None
    socket: bool | None = None
    power_only: bool | None = None
    draw_w: Watts | None = None
    measured_w: Watts | None = None
    priority: Priority | None = None
    traffic_mbit: Traffic | None = None
    megapixels: Megapixels | None = None
    frames_s: FrameRate | None = None
    codec: Codec | None = None
    quality: Quality | None = None
    recorder_id: Id | None = None
    by_service: bool | None = None
    record_day_percent: Share | None = None
    record_night_percent: Share | None = None
    keep_days: Annotated[float, Field(gt=0, le=3650)] | None = None
    over_wifi: bool | None = None
    disks: Annotated[int, Field(ge=1, le=64)] | None = None
    disk_tb: Annotated[float, Field(gt=0, le=100)] | None = None
    raid: Raid | None = None
    model: ModelKey | None = None
    disk_model: ModelKey | None = None
    lens_model: ModelKey | None = None
    bracket_model: ModelKey | None = None
    run_m: Length | None = None
    category: Category | None = None
    outdoor_jacket: bool | None = None
    screened: bool | None = None
    copper_clad: bool | None = None
    environment: Environment | None = None
    surface: Surface | None = None
    existing: bool | None = None
    large_frames: bool | None = None
    x_m: Metres | None = None
    y_m: Metres | None = None
    height_m: Height | None = None
    bearing_deg: Bearing | None = None
    via_id: Id | None = None
    avoid_ids: Annotated[tuple[Id, ...], Field(max_length=60)] | None = None
    built_x_m: Metres | None = None
    built_y_m: Metres | None = None
    built_why: Text | None = None
    pulled: bool | None = None
    wanted: Wanted | None = None
    phase_id: Id | None = None
    note: Note | None = None
    photos: Annotated[tuple[PictureKey, ...], Field(max_length=MAX_PHOTOS)] | None = None


class ChangeDrops(Fact):
    """Change fields of one drop or of many at once."""

    type: Literal["change_drops"] = "change_drops"
    ids: Ids
    changes: DropChanges

    def apply(self, project: Project) -> Project:
        given = self.changes.given()
        if "room_id" in given:
            found(project.rooms, self.changes.room_id or 0, "room")
            given = {"x_m": None, "y_m": None, **given}
        if "kind" in given:
            given = {"variant": "", "own_kind_id": None, **given}
        if given.get("kind", "camera") not in SEEING_KINDS:
            project = _without_views(project, self.ids)
        if given.get("kind", "access_point") != "access_point":
            project = _without_radios(project, self.ids)
        wanted = {drop_id: _drop(project, drop_id) for drop_id in self.ids}
        return _with_drops(project, [Drop.model_validate({**d.model_dump(), **given}) for d in wanted.values()])

    def summary(self, project: Project) -> str:
        fields = " and ".join(sorted(f.removesuffix("_id").replace("_", " ") for f in self.changes.model_fields_set))
        return f"change {fields} of {counted(len(self.ids), 'drop')}"


class Placed(Fact):
    """A drop and where it is on the plan of its room's floor [m]."""

    id: Id
    room_id: Id
    x_m: Metres
    y_m: Metres


class PlaceDrops(Fact):
    """Put drops where they are on the plan."""

    type: Literal["place_drops"] = "place_drops"
    places: Annotated[tuple[Placed, ...], Field(min_length=1, max_length=MAX_DROPS)]

    def apply(self, project: Project) -> Project:
        moved = []
        for place in self.places:
            found(project.rooms, place.room_id, "room")
            at = place.model_dump(exclude={"id"})
            moved.append(Drop.model_validate({**_drop(project, place.id).model_dump(), **at}))
        return _with_drops(project, moved)

    def summary(self, project: Project) -> str:
        return f"place {counted(len(self.places), 'drop')}"


class DuplicateDrops(Fact):
    """Add a copy of each of these drops, a step aside where it is placed; labels and photos stay with the first."""

    type: Literal["duplicate_drops"] = "duplicate_drops"
    ids: Ids
    aside_m: Metres = 0.5

    def apply(self, project: Project) -> Project:
        copies = []
        for number, drop_id in enumerate(self.ids):
            drop = _drop(project, drop_id)
            aside = {} if drop.x_m is None else {"x_m": drop.x_m + self.aside_m}
            fresh = {"id": project.next_id + number, "label": "", "photos": (), "measured_w": None, "pulled": False}
            copies.append(Drop.model_validate({**drop.model_dump(), **fresh, **aside}))
        copy_of = {drop_id: copy.id for drop_id, copy in zip(self.ids, copies, strict=True)}
        seen = [view for view in project.views if view.drop_id in copy_of]
        views = [
            view.model_copy(update={"id": number, "drop_id": copy_of[view.drop_id], "still": None, "still_day": None})
            for number, view in enumerate(seen, project.next_id + len(copies))
        ]
        return replaced(
            project,
            drops=(*project.drops, *copies),
            views=(*project.views, *views),
            next_id=project.next_id + len(copies) + len(views),
        )

    def summary(self, project: Project) -> str:
        return f"duplicate {counted(len(self.ids), 'drop')}"


class RemoveDrops(Fact):
    """Remove drops."""

    type: Literal["remove_drops"] = "remove_drops"
    ids: Ids

    def apply(self, project: Project) -> Project:
        return without_drops(project, [_drop(project, drop_id).id for drop_id in self.ids])

    def summary(self, project: Project) -> str:
        return f"remove {counted(len(self.ids), 'drop')}"


def _drop(project: Project, number: int) -> Drop:
    drop = project.drops_by_id.get(number)
    if drop is None:
        raise NotFound(f"There is no drop {number}; somebody may have removed it.")
    return drop


def _with_drops(project: Project, changed: Iterable[Drop]) -> Project:
    by_id = {drop.id: drop for drop in changed}
    return replaced(project, drops=tuple(by_id.get(drop.id, drop) for drop in project.drops))


def without_drops(project: Project, numbers: Iterable[int]) -> Project:
    """The project without these drops; what hung behind them gets a run of its own."""
    gone = set(numbers)
    if not gone:
        return project
    rest = replaced(project, drops=tuple(drop for drop in project.drops if drop.id not in gone))
    return unnamed(rest, "drops", gone)


def _without_views(project: Project, numbers: Iterable[int]) -> Project:
    """The project without what these drops see: they go, or are to be something that has no lens."""
    gone = set(numbers)
    return replaced(project, views=tuple(view for view in project.views if view.drop_id not in gone))


def _without_radios(project: Project, numbers: Iterable[int]) -> Project:
    """The project without the radios of these drops and what they hear: they go, or are to be no access points."""
    gone = set(numbers)
    return replaced(
        project,
        radios=tuple(radio for radio in project.radios if radio.drop_id not in gone),
        neighbours=tuple(one for one in project.neighbours if one.drop_id not in gone),
        readings=tuple(
            one.model_copy(update={"drop_id": None}) if one.drop_id in gone else one for one in project.readings
        ),
    )
