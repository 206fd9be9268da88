"""Figures of Prove: a tester's file of 500 runs read and diagnosed, and the order of work of those runs."""

from __future__ import annotations

import json
from collections.abc import Callable
from datetime import datetime

from baugrund.core.edits import apply_edits
from baugrund.core.prove.order.told import order_of
from baugrund.core.prove.run_tests import RunTests, run_tests_of
from baugrund.core.stack.told import stack_of
from baugrund.core.standing.ground import grounds_of
from baugrund.demo.tester import measured_by
from baugrund.exchange.tables import read_told_table
from baugrund.exchange.tester_list import read_tests

from .bench_patch import site_of
from .bench_tracing import measure_tracing

RUNS = 510
START, READ = datetime(2026, 1, 5, 8), datetime(2026, 1, 9, 8)


def measure_prove(
    runs: int, median_ms: Callable[[int, Callable[[int], object]], float], line: Callable[[str, str, str], None]
) -> None:  # fmt: skip
    """The figures of runs, of the order of work, and of tracing."""
    project, catalogue, standing = site_of(10, RUNS, 4)
    grounds = grounds_of(project, catalogue, standing)
    told = run_tests_of(project, grounds)
    content = json.dumps(measured_by(project, told, 3, START)).encode()

    def diagnose(_: int) -> RunTests:
        edits, _left_out = read_tests(read_told_table(content), project, told, READ)
        return run_tests_of(apply_edits(project, edits), grounds)

    name = f"a tester's file of {len(told.runs)} runs read and diagnosed, {diagnose(0).failed} failed"
    line(name, f"{median_ms(runs, diagnose):.0f} ms", "asked: 1,000 ms")
    stack = stack_of(project, catalogue, grounds)
    took = median_ms(runs, lambda _: order_of(project.changed(), catalogue, grounds, stack))
    line(f"order of work of {len(told.runs)} runs", f"{took:.0f} ms", "")
    measure_tracing(runs, line)
