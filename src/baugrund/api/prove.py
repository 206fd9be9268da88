"""Prove: the order of work, the bench, powering up, runs as they were tested, tracing, acceptance; files in and out."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal

from fastapi import APIRouter, Query, Request, Response
from fastapi.concurrency import run_in_threadpool

from baugrund.core.edits import AddEntry
from baugrund.core.facts.fact import Fact
from baugrund.core.prove.acceptance import Acceptance, acceptance_of
from baugrund.core.prove.bench import Bench, CodeRead, bench_of, read_code
from baugrund.core.prove.order.told import OrderOfWork, order_of
from baugrund.core.prove.power_up import PowerUp, power_up_of
from baugrund.core.prove.run_tests import RunTests, run_tests_of
from baugrund.core.prove.tracing.told import Tracing, tracing_of
from baugrund.core.signal.survey import survey_of
from baugrund.core.stack.told import Stack, stack_of
from baugrund.demo.tester import measured_by
from baugrund.exchange.acceptance_list import acceptance_table, results_table
from baugrund.exchange.order_list import bench_table, order_table
from baugrund.exchange.reading_list import readings_table
from baugrund.exchange.tables import MAX_BYTES, OutTable, read_told_table
from baugrund.exchange.tester_list import read_tests, table_of_tests
from baugrund.exchange.trace_list import tracing_table
from baugrund.store.states import Stored

from .context import Context, Works
from .downloads import CSV, XLSX, as_file, download
from .standing import grounds_for
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


class AcceptanceFor(Acceptance):
    """What was promised, as of a revision."""

    revision: int


@router.get("/projects/{project_id}/prove/acceptance")
def acceptance_for(project_id: int, works: Works) -> AcceptanceFor:
    """Every check with its way, its pass level, what it showed before and after, and its verdict."""
    stored, stack = _stacked(works, project_id)
    told = acceptance_of(stored.project, works.catalogues.of(stored.project), stack)
    return AcceptanceFor(revision=stored.revision, **{name: getattr(told, name) for name in Acceptance.model_fields})


class OrderFor(OrderOfWork):
    """The order of work of a revision."""

    revision: int


@router.get("/projects/{project_id}/prove/order")
def order_for(project_id: int, works: Works) -> OrderFor:
    """Every phase, stage and step with what is done of it, what it waits for, and what comes next."""
    stored, stack = _stacked(works, project_id)
    told = order_of(stored.project, works.catalogues.of(stored.project), grounds_for(works, stored), stack)
    return OrderFor(revision=stored.revision, **{name: getattr(told, name) for name in OrderOfWork.model_fields})


class BenchFor(Bench):
    """The devices of a revision."""

    revision: int


@router.get("/projects/{project_id}/prove/bench")
def bench_for(project_id: int, works: Works) -> BenchFor:
    """Every box and device with the name and address that it is given, and what is written down of it."""
    stored, stack = _stacked(works, project_id)
    told = bench_of(stored.project, grounds_for(works, stored), stack)
    return BenchFor(revision=stored.revision, **{name: getattr(told, name) for name in Bench.model_fields})


@router.get("/codes/read")
def code_read(text: Annotated[str, Query(max_length=2000)]) -> CodeRead:
    """The serial, hardware address or device that a code or a pasted text names."""
    return read_code(text)


class PowerUpFor(PowerUp):
    """The run-through of a revision."""

    revision: int


@router.get("/projects/{project_id}/prove/power-up")
def power_up_for(project_id: int, works: Works) -> PowerUpFor:
    """Everything that comes up in its order, how long each takes, what must be seen, and cabling that is wrong."""
    stored, stack = _stacked(works, project_id)
    told = power_up_of(stored.project, grounds_for(works, stored), stack)
    return PowerUpFor(revision=stored.revision, **{name: getattr(told, name) for name in PowerUp.model_fields})


FileName = Literal["order", "bench", "tests", "tracing", "acceptance", "results", "readings"]


def _table(works: Context, project_id: int, name: FileName) -> OutTable:
    """A list of Prove as it goes out."""
    stored, stack = _stacked(works, project_id)
    project, grounds = stored.project, grounds_for(works, stored)
    catalogue = works.catalogues.of(project)
    match name:
        case "order":
            return order_table(order_of(project, catalogue, grounds, stack))
        case "bench":
            return bench_table(bench_of(project, grounds, stack))
        case "tests":
            return table_of_tests(project, run_tests_of(project, grounds))
        case "tracing":
            return tracing_table(tracing_of(project, stack))
        case "acceptance":
            return acceptance_table(acceptance_of(project, catalogue, stack))
        case "results":
            return results_table(project, acceptance_of(project, catalogue, stack))
        case "readings":
            return readings_table(project, survey_of(project, catalogue))


@router.get("/projects/{project_id}/prove/{name}.csv", response_class=Response, responses=as_file(CSV))
def prove_csv(project_id: int, name: FileName, works: Works) -> Response:
    """A list of Prove as CSV: order of work, bench, tests of runs, tracing, checks, every result, or readings."""
    return download(_table(works, project_id, name).csv(), CSV, f"{name}-{project_id}.csv")


@router.get("/projects/{project_id}/prove/{name}.xlsx", response_class=Response, responses=as_file(XLSX))
def prove_xlsx(project_id: int, name: FileName, works: Works) -> Response:
    """The same as an XLSX workbook."""
    return download(_table(works, project_id, name).xlsx(), XLSX, f"{name}-{project_id}.xlsx")
