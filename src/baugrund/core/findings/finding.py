"""What a finding is, and what the checks look at."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any, Literal

from pydantic import field_serializer

from ..edits import Edit, as_sent
from ..facts.catalogue import Catalogue
from ..facts.fact import Fact
from ..facts.project import Project
from ..facts.verbs import Verb
from ..price.costs import JobCosts
from ..stack.told import Stack
from ..standing.bearing import Capacity
from ..standing.drill import Drill
from ..standing.ground import Ground
from ..standing.stranded import Stranded

Weight = Literal["breaks", "strains", "note"]


class Settle(Fact):
    """What would settle a finding: an edit to apply, or a verb to go to."""

    label: str
    edit: Edit | None = None
    verb: Verb | None = None

    @field_serializer("edit")
    def _send(self, edit: Edit | None) -> dict[str, Any] | None:
        return None if edit is None else as_sent(edit)


class Finding(Fact):
    """Something to know.  *breaks*: cannot work; *strains*: works, but; *note*."""

    key: str
    weight: Weight
    subject: str
    text: str
    verb: Verb
    drop_ids: tuple[int, ...] = ()
    path_id: int | None = None
    settle: Settle | None = None


@dataclass(frozen=True)
class SiteState:
    """What the checks look at."""

    project: Project
    capacities: Mapping[int, tuple[Capacity, ...]]
    """Of every closet by its number."""
    borne: Mapping[int, bool | None]
    """Whether the boxes that stand in a closet bear its drops by the horizon; None: nothing picked yet."""
    catalogue: Catalogue | None = None
    """What links between closets are made from; None: they are not looked at."""
    short: Mapping[int, str] = field(default_factory=dict)
    """What runs out first of the boxes of a closet that do not bear its drops."""
    drills: tuple[Drill, ...] = ()
    """The boxes that stand, coming up with the devices of today."""
    stranded: tuple[Stranded, ...] = ()
    """Fast ports of what stands without a fast partner."""
    of_site: tuple[Capacity, ...] = ()
    """Capacities of the whole site."""
    stack: Stack | None = None
    """What stands in the closets; None: it is not looked at."""
    grounds: tuple[Ground, ...] = ()
    """The boxes that stand."""
    costs: JobCosts | None = None
    """What the job costs; None: it is not looked at."""


def on_drops(project: Project, drop_ids: tuple[int, ...], key: str, weight: Weight, text: str) -> Finding:
    """A finding of Walk that points at drops; its subject is the first of them."""
    subject = project.name_of(project.drops_by_id[drop_ids[0]])
    return Finding(key=key, weight=weight, subject=subject, text=text, verb="walk", drop_ids=drop_ids)
