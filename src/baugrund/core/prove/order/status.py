"""How far each subject of a stage is: ticked off, shown by what else is known, or opened again by a run that failed.

What other facts tell is not ticked: a run is pulled where Reach says so, tested where its last test passed, and a
device is through the bench once it was switched on, named and brought up to date.  A failed test opens the end that it
points to, and what took the run for good; that stays open until it is ticked after that test.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from functools import cached_property
from typing import Literal

from ...facts.order_of_work import Benched, Ticked, drop_of
from ...facts.project import Project
from ...facts.prove import RunTest
from ...places.labels import labels
from ...reach.runs import runs
from ...standards.order_of_work import AFTER_RUN, OF_CABLE, BuildStage
from ..run_tests import RunTests, TestedRun, expected_of, fault_at, judged

State = Literal["open", "done", "again"]


@dataclass(frozen=True)
class Standing:
    """How a subject stands in a stage, since when and by whom; ``why``: what opened it again."""

    state: State
    at: datetime | None = None
    by: str = ""
    why: str = ""


OPEN = Standing("open")


class Status:
    """How everything stands in every stage."""

    def __init__(self, project: Project, tests: RunTests) -> None:
        self.project = project
        self.runs = {run.drop_id: run for run in tests.runs}

    @cached_property
    def ticks(self) -> Mapping[tuple[str, str], Ticked]:
        """The last tick of every stage and subject."""
        return {(row.stage, subject): row for row in self.project.ticks for subject in row.subjects}

    @cached_property
    def benched(self) -> Mapping[str, Benched]:
        return {row.subject: row for row in self.project.benched}

    @cached_property
    def tests(self) -> Mapping[int, Sequence[RunTest]]:
        found: dict[int, list[RunTest]] = {}
        for test in self.project.run_tests:
            found.setdefault(test.drop_id, []).append(test)
        return found

    @cached_property
    def failed(self) -> Mapping[int, RunTest]:
        """The last test that failed of every run that ever did."""
        found = {}
        for number, tests in self.tests.items():
            if number not in self.runs:
                continue
            for test in reversed(tests):
                if self._judged(number, test).verdict == "failed":
                    found[number] = test
                    break
        return found

    def _judged(self, number: int, test: RunTest) -> TestedRun:
        run = self.runs[number]
        if run.test_id == test.id:
            return run
        drop = self.project.drops_by_id[number]
        return judged(self.project, drop, runs(self.project)[number], [test], run.expected.port_mbit)

    @cached_property
    def ends(self) -> Mapping[int, tuple[BuildStage, ...]]:
        """The stages that the last failed test of every run opens again, by where its wires are wrong."""
        found: dict[int, tuple[BuildStage, ...]] = {}
        for number, test in self.failed.items():
            if not self._judged(number, test).faults:
                continue
            drop, run = self.project.drops_by_id[number], runs(self.project)[number]
            at = fault_at(expected_of(self.project, drop, run, self.runs[number].expected.port_mbit), test)
            stages: dict[str, tuple[BuildStage, ...]] = {
                "closet": ("punch_down",), "place": ("terminate",), "cable": ("pull",),
            }  # fmt: skip
            found[number] = stages.get(at, ("terminate", "punch_down"))
        return found

    def of(self, stage: BuildStage, subject: str) -> Standing:
        """How a subject stands in a stage."""
        number = drop_of(subject)
        if stage == "test" and number is not None:
            return self._tested(number)
        if stage == "bench":
            return self._benched(subject)
        tick = self.ticks.get((stage, subject))
        if stage == "pull" and number is not None and self.project.drops_by_id[number].pulled:
            tick = tick or Ticked(id=1, stage="pull", subjects=(subject,))
        elif stage == "pull" and number is not None:
            return OPEN
        if tick is None or (number is not None and number not in self.project.drops_by_id):
            return OPEN
        if number is not None and (why := self._opened(stage, number, tick)):
            return Standing("again", tick.at, tick.by, why)
        return Standing("done", tick.at, tick.by)

    def _opened(self, stage: BuildStage, number: int, tick: Ticked) -> str:
        """Why a stage is open again for a drop; empty: it is not."""
        if stage in OF_CABLE and (elsewhere := self._elsewhere(number, tick)):
            return elsewhere
        if stage == "label":
            printed = next((row.text for row in self.project.printed if row.drop_id == number), "")
            now = labels(self.project).get(number, "")
            return f"printed as {printed}, and it is {now} now" if printed and printed != now else ""
        failed = self.failed.get(number)
        if failed is None or tick.id > failed.id:
            return ""
        if stage in AFTER_RUN or stage in self.ends.get(number, ()):
            on = f" on {failed.at:%Y-%m-%d}" if failed.at else ""
            return f"its run failed{on}"
        return ""

    def _elsewhere(self, number: int, tick: Ticked | None) -> str:
        """Says that the cable of a drop ended in another closet when it was ticked; empty: it did not."""
        if tick is None or tick.ended_in in (None, self.project.drops_by_id[number].closet_id):
            return ""
        there = self.project.closets_by_id.get(tick.ended_in or 0)
        return f"its cable ended in {there.name if there else 'a closet that is gone'} then"

    def _tested(self, number: int) -> Standing:
        run = self.runs.get(number)
        test = next((one for one in reversed(self.tests.get(number, ())) if run and one.id == run.test_id), None)
        if run is None or test is None:
            return OPEN
        if elsewhere := self._elsewhere(number, self.ticks.get(("pull", f"drop/{number}"))):
            return Standing("again", test.at, test.by, elsewhere)
        if run.verdict == "failed":
            why = next((one.text for one in run.diagnoses if one.weight == "breaks"), "")
            return Standing("again", test.at, test.by, why)
        if run.verdict == "open":
            return Standing("open", why=f"not measured: {', '.join(run.missing)}")
        return Standing("done", test.at, test.by)

    def _benched(self, subject: str) -> Standing:
        row = self.benched.get(subject)
        if row is None:
            return OPEN
        left = [word for word, done in (("switch on", row.powered), ("name", row.named), ("bring up to date",
                row.updated)) if not done]  # fmt: skip
        return Standing("open", why=f"left: {', '.join(left)}") if left else Standing("done", row.at, row.by)
