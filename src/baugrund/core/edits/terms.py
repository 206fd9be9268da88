"""Edits of the terms: the project's name, settings, closet, lines, growth, and what it says of models."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, Literal

from pydantic import Field

from ..drop_kinds import DROP_KINDS, KindKey
from ..facts import Fact, ModelKey, Name, Text
from ..poe import School
from ..project import (
    YEARS_AHEAD,
    Addition,
    Aim,
    Closet,
    GrowthRate,
    Id,
    InternetLine,
    Percent,
    Project,
    Settings,
    Stance,
)
from ..words import counted
from .rows import Changes, found, replaced


class SettingsChanges(Changes):
    """Fields of the settings."""

    horizon_years: Annotated[int, Field(ge=0, le=YEARS_AHEAD)] | None = None
    growth_percent: Percent | None = None
    school: School | None = None
    margin_percent: Percent | None = None
    jacks_live: Literal["every", "in_use"] | None = None
    separate_networks: bool | None = None
    chain_allowed: bool | None = None
    aim: Aim | None = None
    budget_minor: Annotated[int, Field(ge=1, le=1_000_000_000)] | None = None


class ClosetChanges(Changes):
    """Fields of the closet."""

    name: Name | None = None
    housing: Literal["shelf", "panel", "rack"] | None = None
    units: Annotated[int, Field(ge=1, le=60)] | None = None
    depth_mm: Annotated[int, Field(ge=50, le=1500)] | None = None
    load_kg: Annotated[float, Field(gt=0, le=2000)] | None = None
    sockets: Annotated[int, Field(ge=1, le=60)] | None = None
    ups_outlets: Annotated[int, Field(ge=0, le=60)] | None = None
    living_space: bool | None = None


class Rename(Fact):
    """Name the project and its site."""

    type: Literal["rename"] = "rename"
    name: Name
    site: Text = ""

    def apply(self, project: Project) -> Project:
        return replaced(project, name=self.name, site=self.site)

    def told(self, project: Project) -> str:
        return f"rename the project to {self.name}"


class ChangeSettings(Fact):
    """Change schools or terms of the pick."""

    type: Literal["change_settings"] = "change_settings"
    changes: SettingsChanges

    def apply(self, project: Project) -> Project:
        settings = Settings.model_validate({**project.settings.model_dump(), **self.changes.given()})
        return replaced(project, settings=settings)

    def told(self, project: Project) -> str:
        return f"change {' and '.join(sorted(f.replace('_', ' ') for f in self.changes.model_fields_set))}"


class ChangeCloset(Fact):
    """Change what the closet gives."""

    type: Literal["change_closet"] = "change_closet"
    id: Id
    changes: ClosetChanges

    def apply(self, project: Project) -> Project:
        closet = found(project.closets, self.id, "closet")
        changed = Closet.model_validate({**closet.model_dump(), **self.changes.given()})
        return replaced(project, closets=tuple(changed if c is closet else c for c in project.closets))

    def told(self, project: Project) -> str:
        return "change the closet"


class AddLine(Fact):
    """Add an internet line."""

    type: Literal["add_line"] = "add_line"
    name: Name
    down_mbit: Annotated[int, Field(ge=1, le=100_000)]
    up_mbit: Annotated[int, Field(ge=1, le=100_000)]
    standby: bool = False

    def apply(self, project: Project) -> Project:
        line = InternetLine(id=project.next_id, **self.model_dump(exclude={"type"}))
        return replaced(project, lines=(*project.lines, line), next_id=project.next_id + 1)

    def told(self, project: Project) -> str:
        return f"add the line {self.name}"


class LineChanges(Changes):
    """Fields of an internet line."""

    name: Name | None = None
    down_mbit: Annotated[int, Field(ge=1, le=100_000)] | None = None
    up_mbit: Annotated[int, Field(ge=1, le=100_000)] | None = None
    standby: bool | None = None


class ChangeLine(Fact):
    """Change fields of an internet line."""

    type: Literal["change_line"] = "change_line"
    id: Id
    changes: LineChanges

    def apply(self, project: Project) -> Project:
        line = found(project.lines, self.id, "line")
        changed = InternetLine.model_validate({**line.model_dump(), **self.changes.given()})
        return replaced(project, lines=tuple(changed if other is line else other for other in project.lines))

    def told(self, project: Project) -> str:
        return f"change the line {found(project.lines, self.id, 'line').name}"


class RemoveLine(Fact):
    """Remove an internet line."""

    type: Literal["remove_line"] = "remove_line"
    id: Id

    def apply(self, project: Project) -> Project:
        old = found(project.lines, self.id, "line")
        return replaced(project, lines=tuple(line for line in project.lines if line is not old))

    def told(self, project: Project) -> str:
        return f"remove the line {found(project.lines, self.id, 'line').name}"


class AddAddition(Fact):
    """Name growth: so many more of a kind, years from the start."""

    type: Literal["add_addition"] = "add_addition"
    kind: KindKey
    count: Annotated[int, Field(ge=1, le=500)]
    years: Annotated[int, Field(ge=1, le=YEARS_AHEAD)]

    def apply(self, project: Project) -> Project:
        addition = Addition(id=project.next_id, kind=self.kind, count=self.count, years=self.years)
        return replaced(project, additions=(*project.additions, addition), next_id=project.next_id + 1)

    def told(self, project: Project) -> str:
        row = DROP_KINDS[self.kind]
        year = project.settings.start_year + self.years
        return f"plan {counted(self.count, row.name.lower(), row.plural.lower())} for {year}"


class RemoveAddition(Fact):
    """Drop a named growth."""

    type: Literal["remove_addition"] = "remove_addition"
    id: Id

    def apply(self, project: Project) -> Project:
        old = found(project.additions, self.id, "addition")
        return replaced(project, additions=tuple(a for a in project.additions if a is not old))

    def told(self, project: Project) -> str:
        return "remove a planned addition"


class SetGrowth(Fact):
    """Give a kind its own yearly growth; None takes it back to the project's."""

    type: Literal["set_growth"] = "set_growth"
    kind: KindKey
    percent: Percent | None

    def apply(self, project: Project) -> Project:
        rates = tuple(rate for rate in project.growth_rates if rate.kind != self.kind)
        if self.percent is not None:
            rates += (GrowthRate(kind=self.kind, percent=self.percent),)
        return replaced(project, growth_rates=rates)

    def told(self, project: Project) -> str:
        return f"set the growth of {DROP_KINDS[self.kind].plural.lower()}"


class SetStance(Fact):
    """Say of a model: pinned so many, left out, owned so many."""

    type: Literal["set_stance"] = "set_stance"
    model: ModelKey
    pinned: Annotated[int, Field(ge=0, le=50)] | None = None
    excluded: bool | None = None
    owned: Annotated[int, Field(ge=0, le=50)] | None = None

    def apply(self, project: Project) -> Project:
        old = project.stances_by_model.get(self.model, Stance(model=self.model))
        given = self.model_dump(include={"pinned", "excluded", "owned"}, exclude_none=True)
        return with_stances(project, [old.model_copy(update=given)])

    def told(self, project: Project) -> str:
        words = []
        if self.pinned is not None:
            words.append(f"pin {self.pinned}" if self.pinned else "take out the pin")
        if self.excluded is not None:
            words.append("leave out" if self.excluded else "admit again")
        if self.owned is not None:
            words.append(f"own {self.owned}")
        return f"{' and '.join(words) or 'ask about'} {self.model}"


class Hold(Fact):
    """Hold these boxes and injectors (bought or promised): the ground stands on them.  None: follow the pick."""

    type: Literal["hold"] = "hold"
    models: Annotated[dict[ModelKey, Annotated[int, Field(ge=1, le=50)]], Field(max_length=50)]

    def apply(self, project: Project) -> Project:
        held = dict(self.models)
        stances = [s.model_copy(update={"held": held.pop(s.model, 0)}) for s in project.stances]
        stances += [Stance(model=model, held=count) for model, count in held.items()]
        return with_stances(project, stances)

    def told(self, project: Project) -> str:
        return "hold these boxes" if self.models else "let the held boxes go"


def with_stances(project: Project, changed: Sequence[Stance]) -> Project:
    """The project with these stances in place; one that says nothing is dropped."""
    stances = {stance.model: stance for stance in project.stances}
    stances.update({stance.model: stance for stance in changed})
    kept = tuple(s for s in stances.values() if s.pinned or s.excluded or s.owned or s.held)
    return replaced(project, stances=kept)
