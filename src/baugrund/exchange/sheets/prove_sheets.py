"""What is proven, on paper: every run as it was tested, and the worksheet of what is traced."""

from __future__ import annotations

from datetime import date
from html import escape
from pathlib import Path

from baugrund.core.facts.project import Project
from baugrund.core.prove.acceptance import Acceptance
from baugrund.core.prove.run_tests import RunTests, TestedRun
from baugrund.core.prove.tracing.told import JackTold, Tracing
from baugrund.core.words import speed

from .pages import sentences, table, tick, write_pdf

GROUPS = {"goals": "Goals", "lines": "Lines", "networks": "Who reaches whom", "closets": "Closets"}


def write_tests(project: Project, tests: RunTests, fonts: Path | None, made: date) -> bytes:
    """Every run: what it should show beside what was measured, and what that tells; blank where nobody has measured."""
    measured = {test.id: test for test in project.run_tests}
    body = [sentences([f"{tests.passed} passed, {tests.failed} failed, {tests.open} still to test."])]
    rows = []
    for run in tests.runs:
        test = measured.get(run.test_id or 0)
        pins = "" if test is None or test.pins is None else " ".join(map(str, test.pins))
        rows.append([
            f"<b>{escape(run.label)}</b><br>{escape(run.name) if run.name != run.label else ''}",
            f"{run.expected.length_m:g} m<br>{speed(run.expected.speed_mbit)}",
            pins, _figure(test.length_m, "m") if test else "",
            speed(test.speed_mbit) if test and test.speed_mbit else "", _figure(test.poe_v, "V") if test else "",
            _said(run), run.verdict, f"{test.at:%Y-%m-%d %H:%M}" if test and test.at else "",
        ])  # fmt: skip
    body.append(table(
        ["Run", "Planned", "Pins 1 to 8 end on", "Length", "Link", "Power", "What that tells", "Verdict", "When"], rows,
        right=frozenset({3, 4, 5}),
    ))  # fmt: skip
    return write_pdf(f"{project.name}: tests of runs", f"{project.site} ·", body, fonts, made)


def write_tracing(project: Project, tracing: Tracing, fonts: Path | None, made: date) -> bytes:
    """Every jack with where it may end, a line to write on, and the positions that are still free."""
    body = []
    if not tracing.panels:
        body.append(sentences(["No panel is traced in this project."]))
    for panel in tracing.panels:
        names = panel.positions
        told = [f"{panel.found} found, {panel.dead} dead, {panel.left} left."]
        told += [panel.problem] if panel.problem else []
        body += [f"<h2>{escape(panel.name)}</h2>", sentences(told), table(
            ["", "Jack", "Room", "Ends on", "Most likely", "Read so far"],
            [[tick(jack.state != "open"), escape(jack.name), escape(jack.room), _ends(jack, names),
              _likely(jack, names), escape("; ".join(jack.readings))] for jack in panel.jacks],
        ), sentences([f"Free: {', '.join(names[one - 1] for one in panel.free)}."] if panel.free else [])]  # fmt: skip
    return write_pdf(f"{project.name}: tracing", f"{project.site} ·", body, fonts, made)


def write_acceptance(project: Project, told: Acceptance, fonts: Path | None, made: date) -> bytes:
    """Every check with its way, pass level and what it showed; who accepted it, and a line to sign on."""
    body = [sentences([f"{told.passed} passed, {told.failed} failed, {told.open} not yet tested."])]
    for group, heading in GROUPS.items():
        some = [one for one in told.checks if one.check.group == group]
        if some:
            body += [f"<h2>{heading}</h2>", table(
                ["", "What was promised", "How it is tested", "Asked", "Before", "After", "Verdict", "On"],
                [[tick(one.verdict == "passed"), f"<b>{escape(one.check.name)}</b><br>{escape(one.text)}",
                  escape(one.check.way), _figure(one.check.wanted, one.check.unit), _figure(one.before, one.check.unit),
                  _figure(one.after, one.check.unit), one.verdict, f"{one.on:%Y-%m-%d}" if one.on else ""]
                 for one in some],
                right=frozenset({3, 4, 5}),
            )]  # fmt: skip
    signed = [
        f"{one.name}{f', {one.at:%Y-%m-%d}' if one.at else ''}: {one.passed} passed, {one.failed} failed,"
        f" {one.open} open.{' ' + one.note if one.note else ''}"
        for one in project.sign_offs
    ]
    body += ["<h2>Accepted</h2>", sentences(signed), table(["Name", "Day", "Signature"], [["<br><br>", "", ""]] * 2)]
    return write_pdf(f"{project.name}: acceptance", f"{project.site} ·", body, fonts, made)


def _ends(jack: JackTold, names: tuple[str, ...]) -> str:
    return names[jack.position - 1] if jack.position else "dead" if jack.state == "dead" else ""


def _likely(jack: JackTold, names: tuple[str, ...]) -> str:
    if jack.state != "open":
        return ""
    return ", ".join(f"{names[one.position - 1]} {one.chance:.0%}" for one in jack.likely[:3])


def _figure(value: float | None, unit: str) -> str:
    return "" if value is None else f"{value:g} {unit}"


def _said(run: TestedRun) -> str:
    return "<br>".join(escape(f"{one.text} {one.do}") for one in run.diagnoses)
