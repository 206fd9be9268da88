"""Phases proposed by their budgets: what is most wanted is built first, as far as each budget reaches.

Phase by phase the drops are chosen that keep most within the budgets until then (``price/least_wanted.py``): first of
those that must be there, then of those that should, then of those that could.  The first choice counts all boxes in the
first phase; the phases that follow from it say which boxes wait, and a second choice gives their price to the phases
before.  Of both the last is taken that holds in truth: every phase with its own boxes, parts and work.
"""

from __future__ import annotations

from collections.abc import Generator, Sequence
from dataclasses import replace
from itertools import accumulate

from ..edits import ChangeDrops, DropChanges, apply_edits
from ..explain.answers import Answer
from ..facts.catalogue import Catalogue
from ..facts.fact import Fact
from ..facts.project import Project
from ..price.costs import net_budget
from ..price.least_wanted import Reckoning, by_want, choose, reckoning_of
from ..stack.told import stack_of
from ..standing.ground import grounds_of
from ..watch import Share
from ..words import counted, money
from .phases import Phases, phases_of
from .picker import standing_boxes

ROUNDS = 2


class PhaseProposed(Fact):
    """The drops proposed for a phase.  Money in minor units without tax."""

    phase_id: int
    name: str
    drop_ids: tuple[int, ...]
    one_off_minor: int
    """In truth: boxes, parts and work that it adds."""
    budget_minor: int | None
    sentence: str


class PhasesProposed(Fact):
    """Drops by phase; none where the budgets say too little."""

    phases: tuple[PhaseProposed, ...]
    fits: bool
    """Whether the phases up to each stay within the budgets up to it."""
    proven: bool
    """By the reckoning no choice builds more of what is most wanted in each phase in its turn."""
    why: str
    """Why nothing is proposed, or what does not fit."""


def phases_by_budget(
    project: Project, catalogue: Catalogue, followed: Answer | None
) -> Generator[Share, None, PhasesProposed]:  # fmt: skip
    """Which drops are built in which phase."""
    budgets = [phase.budget_minor for phase in project.phases[:-1]]
    known = [budget for budget in budgets if budget is not None]
    if len(known) < max(1, len(budgets)):
        why = "Every phase but the last needs a budget." if budgets else "There is one phase, or none."
        return PhasesProposed(phases=(), fits=False, proven=False, why=why)
    standing = standing_boxes(project, catalogue, followed.standing() if followed else None)
    if not standing:
        why = "Nothing stands yet for the whole: the pick comes first."
        return PhasesProposed(phases=(), fits=False, proven=False, why=why)
    grounds = grounds_of(project, catalogue, standing)
    made = reckoning_of(project, catalogue, grounds, stack_of(project, catalogue, grounds))
    reach, waits = list(accumulate(net_budget(project, budget) for budget in known)), [0] * len(known)
    found: PhasesProposed | None = None
    for count in range(ROUNDS):
        yield Share(count / ROUNDS, "what each budget reaches")
        places, proven = _chosen(project, made, [most + late for most, late in zip(reach, waits, strict=True)])
        phased = yield from phases_of(_with(project, places), catalogue, followed)
        told = _told(project, places, phased, reach, proven)
        if found is None or told.fits:
            found = told
        late = [sum(one.boxes_minor for one in phased.phases[place + 1 :]) for place in range(len(known))]
        if not told.fits or late == waits:
            break
        waits = late
    assert found is not None
    return found


def _chosen(project: Project, made: Reckoning, budgets: Sequence[int]) -> tuple[dict[int, int], bool]:
    """The phase of every drop, by its place, and whether no choice builds more in each phase in its turn."""
    places = {drop.id: len(budgets) for drop in project.drops}
    proven, left = True, by_want(project, ("must", "should", "could"))
    for place, most in enumerate(budgets):
        gone, sure = choose(replace(made, may_go=left), most)
        proven = proven and sure
        for level in left:
            places |= dict.fromkeys(level - gone, place)
        left = tuple(level & gone for level in left)
    return places, proven


def _with(project: Project, places: dict[int, int]) -> Project:
    """The project with its drops in these phases."""
    edits = [
        ChangeDrops(ids=some, changes=DropChanges(phase_id=phase.id))
        for place, phase in enumerate(project.phases)
        if (some := tuple(drop for drop, at in places.items() if at == place))
    ]
    return apply_edits(project, edits)


def _told(
    project: Project, places: dict[int, int], phased: Phases, reach: Sequence[int], proven: bool
) -> PhasesProposed:  # fmt: skip
    told, spent, over = [], 0, ""
    for place, one in enumerate(phased.phases):
        spent += one.one_off_minor
        said = money(one.one_off_minor, project.settings.currency)
        if place < len(reach):
            whole, most = (money(minor, project.settings.currency) for minor in (spent, reach[place]))
            said += f", with the phases before {whole} of {most}" if place else f" of {most}"
        if place < len(reach) and spent > reach[place] and not over:
            more = money(spent - reach[place], project.settings.currency)
            over = f"Until the end of {one.name} it is {more} over the budgets: boxes, closets and ways stay."
        if one.unpriced:
            said += f", without {counted(one.unpriced, 'part')} of unknown price"
        told.append(PhaseProposed(
            phase_id=one.phase_id, name=one.name, drop_ids=tuple(drop for drop, at in places.items() if at == place),
            one_off_minor=one.one_off_minor, budget_minor=project.phases[place].budget_minor, sentence=said,
        ))  # fmt: skip
    return PhasesProposed(phases=tuple(told), fits=not over, proven=proven, why=over)
