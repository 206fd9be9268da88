"""A simulated cable tester: it measures every run as it is planned, a few of them with faults, from a seed.

What it tells goes in through the same door as a file that somebody brings (`exchange/tester_list`).
"""

from __future__ import annotations

import random
from datetime import datetime, timedelta
from typing import Any

from baugrund.core.facts.project import Project
from baugrund.core.places.labels import labels
from baugrund.core.prove.run_tests import RunTests, TestedRun
from baugrund.core.standards.cabling import FIXED_OHM_PER_M

FAULTS = ("open", "reversed", "a_against_b", "split", "short", "coil", "copper_clad", "slow")
"""What runs have other than planned, each once where there are runs enough."""
ROUND_M, ROUND_OHM = 1, 2
CLAD = 1.6
LENGTH_SPREAD = 0.02
"""How far off a measured length is, the standard deviation over the length."""


def measured_by(
    project: Project, told: RunTests, seed: int, start: datetime, faults: tuple[str, ...] = FAULTS
) -> list[dict[str, Any]]:
    """A line for every run: its label and what was measured, four minutes after the one before."""
    draw = random.Random(f"tester {seed}")
    called = labels(project)
    bad = dict(zip(draw.sample(range(len(told.runs)), min(len(faults), len(told.runs))), faults, strict=False))
    rows = []
    for number, run in enumerate(told.runs):
        label = called.get(run.drop_id) or project.name_of(project.drops_by_id[run.drop_id])
        at = (start + timedelta(minutes=4 * number)).isoformat(" ", "minutes")
        row = {"label": label, "at": at, "tester": "simulated tester", **_measured(draw, run)}
        rows.append(_spoilt(draw, bad.get(number, ""), row, run))
    return rows


def _measured(draw: random.Random, run: TestedRun) -> dict[str, Any]:
    length = max(0.5, draw.gauss(run.expected.length_m, LENGTH_SPREAD * run.expected.length_m))
    row: dict[str, Any] = {
        "wire map": "12345678", "length": round(length, ROUND_M),
        "ohm": round(2 * FIXED_OHM_PER_M * length * draw.uniform(0.98, 1.02), ROUND_OHM),
        "speed": run.expected.speed_mbit,
    }  # fmt: skip
    if run.expected.powered and run.expected.least_v is not None:
        row |= {"volts": round(draw.uniform(run.expected.least_v + 3, 53), 1), "watts": round(run.expected.watts, 1)}
    return row


def _spoilt(draw: random.Random, fault: str, row: dict[str, Any], run: TestedRun) -> dict[str, Any]:
    at_end = {"fault": draw.choice((0.3, round(row["length"] - 0.3, 1)))}
    slow = {"speed": 100} if run.expected.speed_mbit > 100 else {}
    match fault:
        case "open":
            return row | {"wire map": "123x5678"} | slow | at_end
        case "reversed":
            return row | {"wire map": "21345678", "speed": 0} | at_end
        case "a_against_b":
            return row | {"wire map": "36145278"}
        case "split":
            return row | {"split": "3-6/4-5"} | slow
        case "short":
            return row | {"shorts": "7-8"} | slow | at_end
        case "coil":
            return row | {"length": round(row["length"] * 1.3 + 4, 1), "ohm": round(row["ohm"] * 1.3 + 0.8, 2)}
        case "copper_clad":
            return row | {"ohm": round(row["ohm"] * CLAD, 2)}
        case "slow":
            return row | slow
    return row
