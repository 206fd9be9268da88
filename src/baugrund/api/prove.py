"""Prove: runs as they were tested, files of testers in, files of tests out, and a simulated tester."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any

from fastapi import APIRouter, Query, Request, Response
from fastapi.concurrency import run_in_threadpool

from baugrund.core.edits import AddEntry
from baugrund.core.facts.fact import Fact
from baugrund.core.prove.acceptance import Acceptance, acceptance_of
from baugrund.core.prove.run_tests import RunTests, run_tests_of
from baugrund.core.prove.tracing.told import Tracing, tracing_of
from baugrund.core.stack.told import Stack, stack_of
from baugrund.demo.tester import measured_by
from baugrund.exchange.acceptance_list import (
    write_acceptance_csv,
    write_acceptance_xlsx,
    write_results_csv,
    write_results_xlsx,
)
from baugrund.exchange.tables import MAX_BYTES, read_told_table
from baugrund.exchange.tester_list import read_tests, write_tests_csv, write_tests_xlsx
from baugrund.exchange.trace_list import write_tracing_csv
from baugrund.store.states import Stored

from .context import Context, Works
from .downloads import CSV, XLSX, as_file, download
from .picks import grounds_for
from .uploads import JsonRoute, body_of, read_apart

router = APIRouter(prefix="/api", tags=["prove"], route_class=JsonRoute)


class RunTestsFor(RunTests):
    """The runs of a revision as they were tested."""

    revision: int


class TestsRead(Fact):
    """The edits that add the tests of a file, and what is wrong with lines that are left out."""

    edits: tuple[AddEntry, ...]
    left_out: tuple[str, ...]


def _told(works: Context, project_id: int) -> tuple[Stored, RunTests]:
    stored = works.projects.load(project_id)
    return stored, run_tests_of(stored.project, grounds_for(works, stored))


@router.get("/projects/{project_id}/prove/tests")
def run_tests_for(project_id: int, works: Works) -> RunTestsFor:
    """Every run: what it should show, what was measured last, and what that tells."""
    stored, told = _told(works, project_id)
    return RunTestsFor(revision=stored.revision, **{name: getattr(told, name) for name in RunTests.model_fields})


@router.post("/projects/{project_id}/prove/tests/read")
async def read_test_file(
    project_id: int, request: Request, works: Works, now: Annotated[datetime | None, Query()] = None
) -> TestsRead:
    """What a tester's CSV, XLSX or JSON file would add; nothing is changed.  ``now``: in the time of the place."""
    table = await read_apart(works, read_told_table, await body_of(request, MAX_BYTES))
    stored, told = await run_in_threadpool(_told, works, project_id)
    edits, left_out = read_tests(table, stored.project, told, (now or datetime.now()).replace(tzinfo=None))
    return TestsRead(edits=edits, left_out=left_out)


@router.get("/projects/{project_id}/prove/simulated-tester")
def simulated_tester(
    project_id: int, works: Works, seed: Annotated[int, Query(ge=0, le=10**9)] = 1,
    start: Annotated[datetime | None, Query()] = None,
) -> list[dict[str, Any]]:  # fmt: skip
    """What a simulated tester measures: the plan, with a few faults of the seed."""
    stored, told = _told(works, project_id)
    return measured_by(stored.project, told, seed, (start or datetime(2026, 1, 5, 8)).replace(tzinfo=None))


class TracingFor(Tracing):
    """What is traced of a revision."""

    revision: int


def _stacked(works: Context, project_id: int) -> tuple[Stored, Stack]:
    stored = works.projects.load(project_id)
    return stored, stack_of(stored.project, works.catalogues.of(stored.project), grounds_for(works, stored))


@router.get("/projects/{project_id}/prove/tracing")
def tracing_for(project_id: int, works: Works) -> TracingFor:
    """Every panel that is traced: where each jack may end, what to do next, the minutes that are left."""
    stored, stack = _stacked(works, project_id)
    return TracingFor(revision=stored.revision, panels=tracing_of(stored.project, stack).panels)


@router.get("/projects/{project_id}/prove/tracing.csv", response_class=Response, responses=as_file(CSV))
def tracing_csv(project_id: int, works: Works) -> Response:
    """Every jack that is traced as CSV."""
    stored, stack = _stacked(works, project_id)
    return download(
        write_tracing_csv(tracing_of(stored.project, stack)).encode("utf-8-sig"), CSV, f"tracing-{project_id}.csv"
    )


class AcceptanceFor(Acceptance):
    """What was promised, as of a revision."""

    revision: int


@router.get("/projects/{project_id}/prove/acceptance")
def acceptance_for(project_id: int, works: Works) -> AcceptanceFor:
    """Every check with its way, its pass level, what it showed before and after, and its verdict."""
    stored, stack = _stacked(works, project_id)
    told = acceptance_of(stored.project, stack)
    return AcceptanceFor(revision=stored.revision, **{name: getattr(told, name) for name in Acceptance.model_fields})


@router.get("/projects/{project_id}/prove/acceptance.csv", response_class=Response, responses=as_file(CSV))
def acceptance_csv(project_id: int, works: Works) -> Response:
    """Every check as CSV."""
    stored, stack = _stacked(works, project_id)
    text = write_acceptance_csv(acceptance_of(stored.project, stack))
    return download(text.encode("utf-8-sig"), CSV, f"acceptance-{project_id}.csv")


@router.get("/projects/{project_id}/prove/results.csv", response_class=Response, responses=as_file(CSV))
def results_csv(project_id: int, works: Works) -> Response:
    """Every result as CSV."""
    stored, stack = _stacked(works, project_id)
    text = write_results_csv(stored.project, acceptance_of(stored.project, stack))
    return download(text.encode("utf-8-sig"), CSV, f"results-{project_id}.csv")


@router.get("/projects/{project_id}/prove/acceptance.xlsx", response_class=Response, responses=as_file(XLSX))
def acceptance_xlsx(project_id: int, works: Works) -> Response:
    """Checks and results as an XLSX workbook."""
    stored, stack = _stacked(works, project_id)
    content = write_acceptance_xlsx(acceptance_of(stored.project, stack))
    return download(content, XLSX, f"acceptance-{project_id}.xlsx")


@router.get("/projects/{project_id}/prove/results.xlsx", response_class=Response, responses=as_file(XLSX))
def results_xlsx(project_id: int, works: Works) -> Response:
    """Every result as an XLSX workbook."""
    stored, stack = _stacked(works, project_id)
    content = write_results_xlsx(stored.project, acceptance_of(stored.project, stack))
    return download(content, XLSX, f"results-{project_id}.xlsx")


@router.get("/projects/{project_id}/prove/tests.csv", response_class=Response, responses=as_file(CSV))
def tests_csv(project_id: int, works: Works) -> Response:
    """Every run with its last test as CSV."""
    stored, told = _told(works, project_id)
    return download(write_tests_csv(stored.project, told).encode("utf-8-sig"), CSV, f"tests-{project_id}.csv")


@router.get("/projects/{project_id}/prove/tests.xlsx", response_class=Response, responses=as_file(XLSX))
def tests_xlsx(project_id: int, works: Works) -> Response:
    """Every run with its last test as an XLSX workbook."""
    stored, told = _told(works, project_id)
    return download(write_tests_xlsx(stored.project, told), XLSX, f"tests-{project_id}.xlsx")
