"""What was promised as it was tested, and every single result, as lists."""

from __future__ import annotations

from baugrund.core.facts.project import Project
from baugrund.core.prove.acceptance import Acceptance

from .cells import shown
from .tables import OutTable

HEAD = [
    "Check",
    "Way",
    "Wanted",
    "Unit",
    "Planned",
    "Before",
    "After",
    "Results",
    "Verdict",
    "Last",
    "What would change it",
]
RESULTS_HEAD = ["Check", "At", "By", "Value", "As it should be", "Before the work", "Over Wi-Fi", "Place", "Note"]


def _rows(told: Acceptance) -> list[list[str]]:
    return [
        [one.check.name, one.check.way, shown(one.check.wanted), one.check.unit, shown(one.check.planned),
         shown(one.before), shown(one.after), str(one.results), one.verdict,
         f"{one.on:%Y-%m-%d}" if one.on else "", one.text]
        for one in told.checks
    ]  # fmt: skip


def acceptance_table(told: Acceptance) -> OutTable:
    """A line a check; what nobody measured stays empty."""
    return OutTable("Acceptance", HEAD, _rows(told))


def _result_rows(project: Project, told: Acceptance) -> list[list[str]]:
    names = {one.check.key: one.check.name for one in told.checks}
    said = {True: "yes", False: "no", None: ""}
    return [
        [names.get(row.key, row.key), f"{row.at:%Y-%m-%d %H:%M}" if row.at else "", row.by, shown(row.value),
         said[row.met], said[row.before], said[row.over_air], row.place, row.note]
        for row in project.acceptance
    ]  # fmt: skip


def results_table(project: Project, told: Acceptance) -> OutTable:
    """A line a result, in the order in which they came."""
    return OutTable("Results", RESULTS_HEAD, _result_rows(project, told))
