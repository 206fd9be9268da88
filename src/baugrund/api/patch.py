"""Patch: the port list of every closet, networks and what may pass between them, files to take along."""

from __future__ import annotations

from typing import Annotated, Any

from fastapi import APIRouter, Query, Request, Response
from fastapi.concurrency import run_in_threadpool

from baugrund.core.edits import TellDiscovered
from baugrund.core.facts.fact import Fact
from baugrund.core.patch.labelling import labelling
from baugrund.core.patch.told import PatchTold, patch_of
from baugrund.core.stack.told import stack_of
from baugrund.demo.switch import told_by
from baugrund.exchange.address_list import write_addresses_csv
from baugrund.exchange.box_settings import write_box_settings
from baugrund.exchange.cord_list import write_cords_csv
from baugrund.exchange.label_list import write_labels_csv
from baugrund.exchange.neighbour_table import read_neighbours
from baugrund.exchange.port_list import write_ports_csv, write_ports_xlsx
from baugrund.exchange.tables import MAX_BYTES, read_told_table
from baugrund.store.states import Stored

from .context import Context, Works
from .downloads import CSV, JSON, XLSX, as_file, download
from .standing import grounds_for
from .uploads import JsonRoute, body_of, read_apart

router = APIRouter(prefix="/api", tags=["patch"], route_class=JsonRoute)


class PatchFor(PatchTold):
    """The patching of a revision."""

    revision: int


def patch_told(works: Context, stored: Stored, *, better: bool = False) -> PatchTold:
    """The patching of a state on what is held or on the last pick; ``better``: with what would be better."""
    last = works.projects.last_pick(stored.id, stored.project.settings.aim)

    def make() -> PatchTold:
        grounds = grounds_for(works, stored)
        stack = stack_of(stored.project, works.catalogues.of(stored.project), grounds)
        return patch_of(stored.project, grounds, stack, better=better)

    return works.patched.of(stored, last[0] if last else -1, make, better)


def _told(works: Context, project_id: int, *, better: bool = False) -> tuple[Stored, PatchTold]:
    stored = works.projects.load(project_id)
    return stored, patch_told(works, stored, better=better)


@router.get("/projects/{project_id}/patch")
def patch_for(project_id: int, works: Works) -> PatchFor:
    """Port lists, moves, trunks, sheets of boxes, the matrix, and what the router passes between networks."""
    stored, told = _told(works, project_id, better=True)
    return PatchFor(revision=stored.revision, **{name: getattr(told, name) for name in PatchTold.model_fields})


@router.get("/projects/{project_id}/patch/ports.csv", response_class=Response, responses=as_file(CSV))
def ports_csv(project_id: int, works: Works) -> Response:
    """The port list of every closet as CSV."""
    stored, told = _told(works, project_id)
    return download(write_ports_csv(stored.project, told).encode("utf-8-sig"), CSV, f"ports-{project_id}.csv")


@router.get("/projects/{project_id}/patch/ports.xlsx", response_class=Response, responses=as_file(XLSX))
def ports_xlsx(project_id: int, works: Works) -> Response:
    """The same as an XLSX workbook."""
    stored, told = _told(works, project_id)
    return download(write_ports_xlsx(stored.project, told), XLSX, f"ports-{project_id}.xlsx")


@router.get("/projects/{project_id}/patch/settings.json", response_class=Response, responses=as_file(JSON))
def settings_json(project_id: int, works: Works) -> Response:
    """Settings of all boxes: networks, what each port carries, power and its priority."""
    stored, told = _told(works, project_id)
    return download(write_box_settings(stored.project, told.trunks).encode(), JSON, f"settings-{project_id}.json")


@router.get("/projects/{project_id}/patch/addresses.csv", response_class=Response, responses=as_file(CSV))
def addresses_csv(project_id: int, works: Works) -> Response:
    """The address plan as CSV."""
    stored, told = _told(works, project_id)
    text = write_addresses_csv(stored.project, told.addresses)
    return download(text.encode("utf-8-sig"), CSV, f"addresses-{project_id}.csv")


@router.get("/projects/{project_id}/patch/labels.csv", response_class=Response, responses=as_file(CSV))
def labels_csv(project_id: int, works: Works) -> Response:
    """Labels that are new or read otherwise now, for a label printer."""
    stored = works.projects.load(project_id)
    text = write_labels_csv(labelling(stored.project))
    return download(text.encode("utf-8-sig"), CSV, f"labels-{project_id}.csv")


@router.get("/projects/{project_id}/patch/cords.csv", response_class=Response, responses=as_file(CSV))
def cords_csv(project_id: int, works: Works) -> Response:
    """Cords to buy or make, by length and colour, as CSV."""
    _, told = _told(works, project_id)
    return download(write_cords_csv(told.cords).encode("utf-8-sig"), CSV, f"cords-{project_id}.csv")


class NeighboursRead(Fact):
    """The edit that keeps what a table tells."""

    edits: tuple[TellDiscovered, ...]


@router.post("/projects/{project_id}/patch/discovered/read")
async def read_neighbour_table(project_id: int, request: Request, works: Works) -> NeighboursRead:
    """What a CSV, XLSX or JSON file tells of ports; nothing is changed.  The body is the file."""
    table = await read_apart(works, read_told_table, await body_of(request, MAX_BYTES))
    told = (await run_in_threadpool(_told, works, project_id))[1]
    return NeighboursRead(edits=(read_neighbours(table, told),))


@router.get("/projects/{project_id}/patch/simulated-switch")
def simulated_switch(project_id: int, works: Works, seed: Annotated[int, Query(ge=0, le=10**9)] = 1) -> list[Any]:
    """What a simulated switch tells of the ports of this project: as planned, but for a few faults of the seed."""
    stored, told = _told(works, project_id)
    return told_by(stored.project, told, seed)
