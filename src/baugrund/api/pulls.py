"""Work on site: the pull schedule, setting out, and what goes in beside the cable."""

from __future__ import annotations

from fastapi import APIRouter, Response

from baugrund.core.cabling.parts import PartLine, part_list
from baugrund.core.cabling.pulls import Bundle, schedule, total_h
from baugrund.core.cabling.work import ways_h
from baugrund.core.facts.fact import Fact
from baugrund.core.places.labels import labels
from baugrund.core.places.setting_out import SetOut, set_out
from baugrund.exchange.part_list import write_parts_csv

from .context import Works
from .downloads import CSV, as_file, download
from .uploads import JsonRoute

router = APIRouter(prefix="/api", tags=["site"], route_class=JsonRoute)


class WayToLay(Fact):
    """A way that is laid before anything is pulled through it."""

    path_id: int
    hours: float


class PullsFor(Fact):
    """The pull schedule of a revision."""

    revision: int
    bundles: tuple[Bundle, ...]
    ways: tuple[WayToLay, ...]
    hours: float
    """Of all bundles and ways [h]."""


class SettingOutFor(Fact):
    """What is set out in a revision, and the label of each."""

    revision: int
    devices: tuple[SetOut, ...]
    labels: dict[int, str]


@router.get("/projects/{project_id}/pulls")
def pulls_for(project_id: int, works: Works) -> PullsFor:
    stored = works.projects.load(project_id)
    ways = tuple(WayToLay(path_id=number, hours=round(hours, 2)) for number, hours in ways_h(stored.project).items())
    return PullsFor(
        revision=stored.revision, bundles=schedule(stored.project), ways=ways, hours=round(total_h(stored.project), 2)
    )


@router.get("/projects/{project_id}/setting-out")
def setting_out_for(project_id: int, works: Works) -> SettingOutFor:
    stored = works.projects.load(project_id)
    devices = set_out(stored.project)
    called = labels(stored.project)
    return SettingOutFor(
        revision=stored.revision, devices=devices,
        labels={device.drop_id: called.get(device.drop_id, "") for device in devices},
    )  # fmt: skip


@router.get("/projects/{project_id}/cable-parts")
def cable_parts(project_id: int, works: Works) -> list[PartLine]:
    """What goes in beside the cable."""
    stored = works.projects.load(project_id)
    return list(part_list(stored.project, works.catalogues.of(stored.project)))


@router.get("/projects/{project_id}/cable-parts.csv", response_class=Response, responses=as_file(CSV))
def cable_parts_csv(project_id: int, works: Works) -> Response:
    stored = works.projects.load(project_id)
    parts = part_list(stored.project, works.catalogues.of(stored.project))
    return download(write_parts_csv(parts).encode("utf-8-sig"), CSV, f"cable-parts-{project_id}.csv")
