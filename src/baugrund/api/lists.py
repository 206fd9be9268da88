"""The list of drops as a table: out as CSV and XLSX, in with a preview, all or nothing."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Depends, Query, Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import ValidationError

from baugrund.core.edits import AddEntry
from baugrund.core.errors import InvalidInput
from baugrund.core.facts.fact import Fact
from baugrund.exchange.drop_columns import COLUMNS
from baugrund.exchange.drop_list import ListedDrops, Preview, read_list, write_list_csv, write_list_xlsx
from baugrund.exchange.meanings import Answers, Meanings, said_in
from baugrund.exchange.opening_list import read_openings, write_openings_csv
from baugrund.exchange.run_list import write_runs_csv, write_runs_xlsx
from baugrund.exchange.tables import MAX_BYTES, Table, read_table
from baugrund.exchange.target_list import write_targets_csv, write_targets_xlsx

from .context import Account, ChangeId, Works
from .downloads import CSV, XLSX, as_file, download
from .edits import Outcome, outcome
from .uploads import JsonRoute, body_of, read_apart

router = APIRouter(prefix="/api", tags=["lists"], route_class=JsonRoute)

MOST_SAID = 30_000
"""Characters of what is said about a table: more is mended in the file itself."""


def said_of_table(
    answers: Annotated[str, Query(max_length=MOST_SAID, description="JSON of Answers: of values, lines, cells.")] = "",
) -> Answers:
    """What is said about a table.  Raises InvalidInput."""
    try:
        return Answers.model_validate_json(answers) if answers else Answers()
    except ValidationError as error:
        wrong = error.errors(include_url=False)[0]
        raise InvalidInput(f"{'.'.join(map(str, wrong['loc']))}: {wrong['msg']}.", "answers") from error


Said = Annotated[Answers, Depends(said_of_table)]
Matched = Annotated[str | None, Query(max_length=4000, description="Keys of the columns in order, with commas.")]


class ColumnLine(Fact):
    """A column that a list can have."""

    key: str
    head: str


@router.get("/list-columns")
def list_columns() -> list[ColumnLine]:
    return [ColumnLine(key=column.key, head=column.head) for column in COLUMNS]


@router.get("/projects/{project_id}/drops.csv", response_class=Response, responses=as_file(CSV))
def drops_csv(project_id: int, works: Works) -> Response:
    project = works.projects.load(project_id).project
    return download(write_list_csv(project).encode("utf-8-sig"), CSV, f"drops-{project_id}.csv")


@router.get("/projects/{project_id}/drops.xlsx", response_class=Response, responses=as_file(XLSX))
def drops_xlsx(project_id: int, works: Works) -> Response:
    project = works.projects.load(project_id).project
    return download(write_list_xlsx(project), XLSX, f"drops-{project_id}.xlsx")


@router.get("/projects/{project_id}/runs.csv", response_class=Response, responses=as_file(CSV))
def runs_csv(project_id: int, works: Works) -> Response:
    project = works.projects.load(project_id).project
    return download(write_runs_csv(project).encode("utf-8-sig"), CSV, f"runs-{project_id}.csv")


@router.get("/projects/{project_id}/runs.xlsx", response_class=Response, responses=as_file(XLSX))
def runs_xlsx(project_id: int, works: Works) -> Response:
    project = works.projects.load(project_id).project
    return download(write_runs_xlsx(project), XLSX, f"runs-{project_id}.xlsx")


@router.get("/projects/{project_id}/targets.csv", response_class=Response, responses=as_file(CSV))
def targets_csv(project_id: int, works: Works) -> Response:
    project = works.projects.load(project_id).project
    return download(write_targets_csv(project).encode("utf-8-sig"), CSV, f"targets-{project_id}.csv")


@router.get("/projects/{project_id}/targets.xlsx", response_class=Response, responses=as_file(XLSX))
def targets_xlsx(project_id: int, works: Works) -> Response:
    project = works.projects.load(project_id).project
    return download(write_targets_xlsx(project), XLSX, f"targets-{project_id}.xlsx")


class OpeningsRead(Fact):
    """The edits that add what a list of openings and walls holds."""

    edits: tuple[AddEntry, ...]


@router.post("/projects/{project_id}/openings/read")
async def read_opening_list(project_id: int, request: Request, works: Works) -> OpeningsRead:
    """What a CSV or XLSX file of openings and walls would add; nothing is changed.  The body is the file."""
    table = await read_apart(works, read_table, await body_of(request, MAX_BYTES))
    project = (await run_in_threadpool(works.projects.load, project_id)).project
    return OpeningsRead(edits=read_openings(table, project))


@router.get("/projects/{project_id}/openings.csv", response_class=Response, responses=as_file(CSV))
def openings_csv(project_id: int, works: Works) -> Response:
    project = works.projects.load(project_id).project
    return download(write_openings_csv(project).encode("utf-8-sig"), CSV, f"openings-{project_id}.csv")


@router.post("/projects/{project_id}/drops/preview")
async def preview(project_id: int, request: Request, works: Works, answers: Said, columns: Matched = None) -> Preview:
    """What a CSV or XLSX file would add; nothing is changed."""
    table = await read_apart(works, read_table, await body_of(request, MAX_BYTES))
    listed = await run_in_threadpool(_read, works, project_id, table, columns, answers, "")
    return listed.preview


@router.post("/projects/{project_id}/drops/import")
async def import_drops(
    project_id: int,
    request: Request,
    works: Works,
    account: Account,
    answers: Said,
    columns: Matched = None,
    name: Annotated[str, Query(max_length=200)] = "",
    change_id: ChangeId = None,
) -> Outcome:
    """Add what a file lists, all or nothing; what was said of its values is remembered.  The body is the file."""
    table = await read_apart(works, read_table, await body_of(request, MAX_BYTES))

    def add() -> Outcome:
        listed = _read(works, project_id, table, columns, answers, name)
        if listed.edit is None:
            lines = [f"line {line.number}: {line.wrong[0]}" for line in listed.preview.lines if line.wrong]
            raise InvalidInput(f"Nothing was added: {lines[0] if lines else 'no line lists a drop'}.")
        works.meanings.keep("drops", said_in(answers))
        revision = works.projects.load(project_id).revision
        return outcome(works, works.projects.edit(project_id, [listed.edit], revision, account, change_id), account)

    return await run_in_threadpool(add)


def _read(works: Works, project_id: int, table: Table, columns: str | None, answers: Answers, name: str) -> ListedDrops:
    keys = None if columns is None else columns.split(",")
    meanings = Meanings(answers, works.meanings.of("drops"))
    return read_list(table, works.projects.load(project_id).project, keys, name, meanings)
