"""Edits of the terms: the project's name, settings, growth by kind, and what it says of models."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import count
from typing import Annotated, Literal

from pydantic import Field

from ..facts.drop_kinds import DROP_KINDS, KindKey
from ..facts.fact import Fact, Id, ModelKey, Name, Text
from ..facts.project import MAX_HOLDINGS, GrowthRate, Holding, Project, Stance
from ..facts.settings import Percent, Settings
from .rows import Values, replaced


class Rename(Fact):
    """Name the project and its site."""

    type: Literal["rename"] = "rename"
    name: Name
    site: Text = ""

    def apply(self, project: Project) -> Project:
        return replaced(project, name=self.name, site=self.site)

    def summary(self, project: Project) -> str:
        return f"rename the project to {self.name}"


class ChangeSettings(Fact):
    """Change schools or terms of the pick."""

    type: Literal["change_settings"] = "change_settings"
    changes: Values

    def apply(self, project: Project) -> Project:
        settings = Settings.model_validate({**project.settings.model_dump(mode="json"), **self.changes})
        return replaced(project, settings=settings)

    def summary(self, project: Project) -> str:
        return f"change {' and '.join(sorted(f.replace('_', ' ') for f in self.changes))}"


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

    def summary(self, project: Project) -> str:
        return f"set the growth of {DROP_KINDS[self.kind].plural.lower()}"


class SetStance(Fact):
    """Say of a model: pinned so many, left out."""

    type: Literal["set_stance"] = "set_stance"
    model: ModelKey
    pinned: Annotated[int, Field(ge=0, le=50)] | None = None
    excluded: bool | None = None

    def apply(self, project: Project) -> Project:
        old = project.stances_by_model.get(self.model, Stance(model=self.model))
        given = self.model_dump(include={"pinned", "excluded"}, exclude_none=True)
        return with_stances(project, [old.model_copy(update=given)])

    def summary(self, project: Project) -> str:
        words = []
        if self.pinned is not None:
            words.append(f"pin {self.pinned}" if self.pinned else "take out the pin")
        if self.excluded is not None:
            words.append("leave out" if self.excluded else "admit again")
        return f"{' and '.join(words) or 'ask about'} {self.model}"


class Held(Fact):
    """So many of one model for one closet."""

    closet_id: Id
    model: ModelKey
    count: Annotated[int, Field(ge=1, le=50)]


class Hold(Fact):
    """Keep these boxes, injectors and modules, bought or promised, whatever the pick says.  None: it follows the
    pick."""

    type: Literal["hold"] = "hold"
    models: Annotated[tuple[Held, ...], Field(max_length=MAX_HOLDINGS)]

    def apply(self, project: Project) -> Project:
        numbers = count(project.next_id)
        holdings = tuple(Holding(id=next(numbers), **held.model_dump()) for held in self.models)
        return replaced(project, holdings=holdings, next_id=project.next_id + len(holdings))

    def summary(self, project: Project) -> str:
        return "keep these boxes" if self.models else "follow the pick again"


def with_stances(project: Project, changed: Sequence[Stance]) -> Project:
    """The project with these stances in place; one that says nothing is dropped."""
    stances = {stance.model: stance for stance in project.stances}
    stances.update({stance.model: stance for stance in changed})
    kept = tuple(stance for stance in stances.values() if stance.pinned or stance.excluded)
    return replaced(project, stances=kept)
