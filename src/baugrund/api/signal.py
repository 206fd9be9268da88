"""Cover: what Wi-Fi reaches, drawn and in figures, and what is heard at a spot."""

from __future__ import annotations

import math
from itertools import pairwise
from typing import Annotated, Literal

from fastapi import APIRouter, Query, Request, Response
from fastapi.concurrency import run_in_threadpool

from baugrund.core.edits import AddEntry
from baugrund.core.errors import InvalidInput, NotFound
from baugrund.core.facts.fact import Fact
from baugrund.core.facts.lines.access_point import AccessPoint
from baugrund.core.facts.project import Project
from baugrund.core.signal.contours import Picture, Shown, picture
from baugrund.core.signal.field import Field, field_of, losses_of, usual_step_m
from baugrund.core.signal.looks import Moved, moved_for_looks
from baugrund.core.signal.radios import stations
from baugrund.core.signal.roaming import Roamed, roamed
from baugrund.core.signal.spot import Heard, heard_at
from baugrund.core.signal.survey import Survey, survey_of
from baugrund.core.signal.told import Signal, signal_of
from baugrund.core.signal.upright import Axis, SignalCut, signal_cut
from baugrund.core.siting.channels import Channels
from baugrund.core.siting.stations import BestStations
from baugrund.core.standards.radio import BANDS, CLIENT_HEIGHT_M, WIDTHS, Band, Width, blocks
from baugrund.exchange.channel_list import write_channels_csv
from baugrund.exchange.drawings.dxf import write_dxf
from baugrund.exchange.drawings.scene import signal_scene
from baugrund.exchange.drawings.svg import write_svg
from baugrund.exchange.reading_list import read_readings, readings_table
from baugrund.exchange.signal_grid import write_grid_csv
from baugrund.exchange.tables import MAX_BYTES, read_table
from baugrund.tasks.questions import BestStationsOf, ChannelsOf

from .asking import Underway, asked
from .context import Works
from .cover import Height, Number
from .downloads import CSV, DXF, SVG, as_file, download
from .uploads import JsonRoute, body_of, read_apart

router = APIRouter(prefix="/api", tags=["signal"], route_class=JsonRoute)
Step = Annotated[float, Query(ge=0.1, le=10)]
ACROSS_M = 5000.0
Across = Annotated[float, Query(ge=-ACROSS_M, le=ACROSS_M)]


class ModelChoice(Fact):
    """An access point of the price lists."""

    key: str
    name: str
    form: str
    price_minor: int


class ChannelChoice(Fact):
    """A channel that the region allows."""

    band: Band
    width_mhz: Width
    channel: int
    """Its first 20 MHz channel."""
    radar: bool
    indoor: bool


class SignalFor(Signal):
    """What Wi-Fi reaches in a revision, and what can be chosen."""

    revision: int
    models: tuple[ModelChoice, ...]
    channels: tuple[ChannelChoice, ...]


@router.get("/projects/{project_id}/signal")
def signal_for(project_id: int, works: Works) -> SignalFor:
    """Access points with their radios and airtime, goals, rooms, clients."""
    stored = works.projects.load(project_id)
    catalogue = works.catalogues.of(stored.project)
    found = signal_of(stored.project, catalogue)
    lines = [line for line in catalogue.models if isinstance(line, AccessPoint)]
    region = stored.project.settings.region
    return SignalFor(
        revision=stored.revision, **{name: getattr(found, name) for name in Signal.model_fields},
        models=tuple(
            ModelChoice(key=line.key, name=line.name, form=line.ap_form, price_minor=line.price_minor)
            for line in lines
        ),
        channels=tuple(
            ChannelChoice(
                band=band, width_mhz=width, channel=block.first, radar=block.radar, indoor=block.indoor
            )
            for band in BANDS for width in WIDTHS for block in blocks(region, band, width)
        ),
    )  # fmt: skip


class ChannelsFor(Fact):
    """The best channels in a revision; none until they are found."""

    revision: int
    reply: Channels | None
    underway: Underway | None = None


class BestStationsFor(Fact):
    """The best places for access points in a revision; none until they are found."""

    revision: int
    reply: BestStations | None
    underway: Underway | None = None


@router.get("/projects/{project_id}/signal/channels.csv", response_class=Response, responses=as_file(CSV))
def channels_csv(project_id: int, works: Works) -> Response:
    """Every radio with its channel and airtime as CSV."""
    project = works.projects.load(project_id).project
    told = signal_of(project, works.catalogues.of(project))
    return download(write_channels_csv(told).encode("utf-8-sig"), CSV, f"channels-{project_id}.csv")


@router.get("/projects/{project_id}/signal/channels")
def channels_for(project_id: int, works: Works) -> ChannelsFor:
    """Channels of least shared airtime, as far as they are known; asking puts the search on the queue."""
    revision, reply, underway = asked(works, works.projects.load(project_id), ChannelsOf(), Channels)
    return ChannelsFor(revision=revision, reply=reply, underway=underway)


@router.get("/projects/{project_id}/signal/best")
def stations_for(project_id: int, works: Works) -> BestStationsFor:
    """Where access points meet all goals, as far as it is known; asking puts the search on the queue."""
    revision, reply, underway = asked(works, works.projects.load(project_id), BestStationsOf(), BestStations)
    return BestStationsFor(revision=revision, reply=reply, underway=underway)


@router.get("/projects/{project_id}/signal/picture")
def signal_picture(
    project_id: int, floor_id: Number, band: Band, works: Works, shown: Shown = "strongest", step_m: Step | None = None
) -> Picture:
    """A floor in a band as contour lines and areas.  InvalidInput: the cells would be too many."""
    return picture(_field(works, project_id, floor_id, band, step_m), shown)


@router.get("/projects/{project_id}/signal/cut")
def cut_open(
    project_id: int, band: Band, axis: Axis, at_m: Across, works: Works, shown: Shown = "strongest"
) -> SignalCut:
    """What is heard on an upright cut along an axis of the plan, at a place of the other one."""
    project = works.projects.load(project_id).project
    return signal_cut(project, works.catalogues.of(project), band, axis, at_m, shown)


@router.get("/projects/{project_id}/signal/moved")
def looks(
    project_id: int, drop_id: Number, works: Works, x_m: Across | None = None, y_m: Across | None = None
) -> list[Moved]:
    """What moving an access point for its looks costs of every goal: to the middle of its room, in line with the next
    one, or to a spot."""
    project = works.projects.load(project_id).project
    if drop_id not in project.drops_by_id:
        raise NotFound(f"There is no drop {drop_id}; somebody may have removed it.")
    spot = None if x_m is None or y_m is None else (x_m, y_m)
    return list(moved_for_looks(project, works.catalogues.of(project), drop_id, spot))


@router.get("/projects/{project_id}/signal/plan.{form}", response_class=Response, responses=as_file(SVG, DXF))
def signal_plan(project_id: int, form: Literal["svg", "dxf"], floor_id: Number, band: Band, works: Works) -> Response:
    """A floor in a band as a drawing to take along: contour lines and access points."""
    field = _field(works, project_id, floor_id, band, None)
    project = works.projects.load(project_id).project
    scene = signal_scene(project, project.floors_by_id[floor_id], field)
    name = f"signal-{project_id}-{floor_id}-{band.replace('.', '')}"
    if form == "dxf":
        return download(write_dxf(scene).encode(), DXF, f"{name}.dxf")
    return download(write_svg(scene).encode(), SVG, f"{name}.svg")


@router.get("/projects/{project_id}/signal/grid.csv", response_class=Response, responses=as_file(CSV))
def signal_grid(project_id: int, floor_id: Number, band: Band, works: Works, step_m: Step | None = None) -> Response:
    """The levels at the centre of every cell of a floor as CSV."""
    field = _field(works, project_id, floor_id, band, step_m)
    project = works.projects.load(project_id).project
    return download(write_grid_csv(project, field).encode("utf-8-sig"), CSV, f"signal-{project_id}-{floor_id}.csv")


Corners = Annotated[str, Query(max_length=2000, pattern=r"^-?[0-9.]+ -?[0-9.]+(,-?[0-9.]+ -?[0-9.]+)+$")]
"""Corners of a walk: x and y with a space between, corners with commas [m]."""
WALK_MOST_M = 2000.0


@router.get("/projects/{project_id}/signal/walk")
def signal_walk(project_id: int, floor_id: Number, band: Band, corners: Corners, works: Works) -> Roamed:
    """A phone carried along a walk: which access point it is with, and where it clings.  InvalidInput: no such walk."""
    stored = works.projects.load(project_id)
    _is_there(stored.project, floor_id)
    try:
        spots = [(float(x), float(y)) for x, y in (corner.split() for corner in corners.split(","))]
    except ValueError:
        raise InvalidInput(
            f"The corners {corners!r} are no walk; they are written like 1 2, 3.5 4.", "corners"
        ) from None
    if sum(math.dist(a, b) for a, b in pairwise(spots)) > WALK_MOST_M or max(map(abs, sum(spots, ()))) > ACROSS_M:
        raise InvalidInput(f"A walk is {WALK_MOST_M:g} m long at the most, and within {ACROSS_M:g} m.", "corners")
    found = roamed(stored.project, works.catalogues.of(stored.project), floor_id, band, spots)
    if found is None:
        raise NotFound(f"No access point sends at {band} GHz.")
    return found


class SurveyFor(Survey):
    """The readings of a revision beside what is predicted."""

    revision: int


class ReadingsRead(Fact):
    """The edits that add what a list of readings holds."""

    edits: tuple[AddEntry, ...]


@router.get("/projects/{project_id}/signal/survey")
def survey_for(project_id: int, works: Works) -> SurveyFor:
    """Every reading beside its prediction, and the losses that would bring them together."""
    stored = works.projects.load(project_id)
    found = survey_of(stored.project, works.catalogues.of(stored.project))
    return SurveyFor(revision=stored.revision, **{name: getattr(found, name) for name in Survey.model_fields})


@router.post("/projects/{project_id}/signal/readings/read")
async def read_reading_list(project_id: int, request: Request, works: Works) -> ReadingsRead:
    """What a CSV or XLSX file of readings would add; nothing is changed.  The body is the file."""
    table = await read_apart(works, read_table, await body_of(request, MAX_BYTES))
    project = (await run_in_threadpool(works.projects.load, project_id)).project
    return ReadingsRead(edits=read_readings(table, project))


@router.get("/projects/{project_id}/signal/readings.csv", response_class=Response, responses=as_file(CSV))
def readings_csv(project_id: int, works: Works) -> Response:
    """All readings with what is predicted there as CSV."""
    project = works.projects.load(project_id).project
    survey = survey_of(project, works.catalogues.of(project))
    return download(readings_table(project, survey).csv(), CSV, f"readings-{project_id}.csv")


@router.get("/projects/{project_id}/signal/spot")
def signal_spot(
    project_id: int, floor_id: Number, x_m: Across, y_m: Across, works: Works, height_m: Height = CLIENT_HEIGHT_M
) -> list[Heard]:
    """What is heard at a spot at a height above its floor, with the loss piece by piece; the strongest first."""
    stored = works.projects.load(project_id)
    _is_there(stored.project, floor_id)
    return list(heard_at(stored.project, works.catalogues.of(stored.project), floor_id, (x_m, y_m), height_m))


def _is_there(project: Project, floor_id: int) -> None:
    if floor_id not in project.floors_by_id:
        raise NotFound(f"There is no floor {floor_id}; somebody may have removed it.")


def _field(works: Works, project_id: int, floor_id: int, band: Band, step_m: float | None) -> Field:
    project = works.projects.load(project_id).project
    _is_there(project, floor_id)
    around = stations(project, works.catalogues.of(project))
    step = usual_step_m(project, len(around)) if step_m is None else step_m
    field = field_of(project, around, floor_id, band, step, losses_of(project))
    if field is None:
        name = project.floors_by_id[floor_id].name
        raise NotFound(f"No room of {name} is drawn: nothing is predicted there. Draw its rooms in Walk.")
    return field
