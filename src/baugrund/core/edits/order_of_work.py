"""Edits of the order of work: stages ticked off or opened again, and what is written down of a device at the bench."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field

from ..facts.fact import Fact, Text
from ..facts.order_of_work import MAX_SUBJECTS, Benched, SubjectKey, Ticked, drop_of
from ..facts.project import Project
from ..standards.order_of_work import STAGE_ROWS, BuildStage
from ..words import counted
from .rows import Values, replaced

Subjects = Annotated[tuple[SubjectKey, ...], Field(min_length=1, max_length=MAX_SUBJECTS)]


class TickWork(Fact):
    """A stage is done for so many things, a row for every closet that their cables end in.  A run that is ticked as
    pulled is pulled in Reach too."""

    type: Literal["tick_work"] = "tick_work"
    stage: BuildStage
    subjects: Subjects
    at: datetime | None = None
    by: Text = ""

    def apply(self, project: Project) -> Project:
        parts: dict[int | None, list[str]] = {}
        for one in self.subjects:
            drop = project.drops_by_id.get(drop_of(one) or 0)
            parts.setdefault(drop.closet_id if drop and drop.has_run else None, []).append(one)
        rows = [
            Ticked(id=project.next_id + place, stage=self.stage, subjects=tuple(some), at=self.at, by=self.by,
                   ended_in=closet)
            for place, (closet, some) in enumerate(parts.items())
        ]  # fmt: skip
        ticked = replaced(project, ticks=(*project.ticks, *rows), next_id=project.next_id + len(rows))
        return _pulled(ticked, self.subjects, True) if self.stage == "pull" else ticked

    def summary(self, project: Project) -> str:
        return f"tick off {STAGE_ROWS[self.stage].name} for {counted(len(self.subjects), 'thing')}"


class UntickWork(Fact):
    """A stage is open again for so many things."""

    type: Literal["untick_work"] = "untick_work"
    stage: BuildStage
    subjects: Subjects

    def apply(self, project: Project) -> Project:
        kept, gone = [], frozenset(self.subjects)
        for row in project.ticks:
            rest = tuple(one for one in row.subjects if row.stage != self.stage or one not in gone)
            if rest:
                kept.append(row if len(rest) == len(row.subjects) else row.model_copy(update={"subjects": rest}))
        opened = replaced(project, ticks=tuple(kept))
        return _pulled(opened, self.subjects, False) if self.stage == "pull" else opened

    def summary(self, project: Project) -> str:
        return f"open {STAGE_ROWS[self.stage].name} again for {counted(len(self.subjects), 'thing')}"


class WriteBench(Fact):
    """What is written down of a device at the bench: fields by name; what is not named stays."""

    type: Literal["write_bench"] = "write_bench"
    subject: SubjectKey
    changes: Values

    def apply(self, project: Project) -> Project:
        old = next((row for row in project.benched if row.subject == self.subject), None)
        known = old.model_dump(mode="json") if old else {"id": project.next_id}
        row = Benched.model_validate({**known, **self.changes, "id": known["id"], "subject": self.subject})
        if old:
            return replaced(project, benched=tuple(row if one is old else one for one in project.benched))
        return replaced(project, benched=(*project.benched, row), next_id=project.next_id + 1)

    def summary(self, project: Project) -> str:
        return "write down a device at the bench"


def _pulled(project: Project, subjects: tuple[str, ...], pulled: bool) -> Project:
    numbers = {drop_of(one) for one in subjects}
    drops = (
        drop.model_copy(update={"pulled": pulled}) if drop.id in numbers and drop.pulled != pulled else drop
        for drop in project.drops
    )
    return replaced(project, drops=tuple(drops))
