"""Phases: each a working network, on boxes of which none is bought twice.

All boxes that are ever bought must bear the last phase, so no way to buy in phases costs less than the least pick of
the whole.  The boxes that stand for the whole are bought part by part: in each phase the cheapest part of them that
bears what is built until then, with those of earlier phases kept.  So where the pick of the whole is proven least, so
is the sum over all phases; and of all such parts each phase in its turn spends the least.  What sits on a port stays
there where that can be; how many have to move is told.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Generator, Sequence
from functools import partial
from operator import mul

from ..cabling.links import links
from ..explain.answers import Answer
from ..explain.years import Outlook, Prices, bought_minor, least_part, named_lines, taken_by
from ..facts.catalogue import Catalogue
from ..facts.fact import Fact
from ..facts.price import Phase
from ..facts.project import Project
from ..pick.model.places import Before, LinkEnds, Place, TrunkEnds, places_of
from ..pick.model.seating import Seating
from ..pick.standing import Boxes, Standing, given, seat_in
from ..price.costs import costs_of
from ..price.phasing import place_of, until_phase
from ..stack.told import stack_of
from ..standing.bearing import Capacity
from ..standing.ground import grounds_of
from ..watch import Share
from ..words import counted
from .picker import balance_on, standing_boxes


class PhaseGround(Fact):
    """A closet at the end of a phase."""

    closet_id: int
    name: str
    capacities: tuple[Capacity, ...]


class Ending(Fact):
    """Something that ends in a phase: a temporary measure with its owner, or kit with where it goes."""

    name: str
    who: str
    goes: str


class PhasePlan(Fact):
    """A phase, and the network that works at its end.  Money in minor units without tax."""

    phase_id: int
    name: str
    begins: str
    ends: str
    drops: int
    drop_ids: tuple[int, ...]
    bought: tuple[str, ...]
    """Boxes, injectors and modules that are bought in it."""
    boxes_minor: int
    one_off_minor: int
    """Parts and work that it adds, its boxes among them; what has no price is in no sum."""
    unpriced: int
    """Parts until its end whose price nobody knows."""
    budget_minor: int | None
    moved: int
    """Drops of earlier phases that sit on another port now."""
    breaks: tuple[str, ...]
    """What cannot work at its end, and what breaks at the end of the job as well left out."""
    breaks_anyway: int = 0
    """Findings that break at the end of the job as well."""
    strains: int
    closets: tuple[PhaseGround, ...]
    site: tuple[Capacity, ...]
    measures: tuple[Ending, ...]
    """Temporary measures that end in it."""
    displaced: tuple[Ending, ...]
    """Kit that goes in it."""


class Phases(Fact):
    """All phases of a job."""

    phases: tuple[PhasePlan, ...]
    boxes_minor: int
    """Of all phases together."""
    bound_minor: int
    """No way to buy them in phases costs less."""
    proven: bool
    why: str
    """What they are bought by; where that is nothing, why."""


def phases_of(
    project: Project, catalogue: Catalogue, followed: Answer | None
) -> Generator[Share, None, Phases]:  # fmt: skip
    """Every phase with what is bought in it, on the boxes that stand for the whole."""
    whole = standing_boxes(project, catalogue, followed.standing() if followed else None)
    if not project.phases or not whole:
        why = "Nothing stands yet for the whole: the pick comes first." if project.phases else "There are no phases."
        return Phases(phases=(), boxes_minor=0, bound_minor=0, proven=False, why=why)
    prices, there, told = _prices(catalogue, followed), dict[int, Boxes](), list[PhasePlan]()
    owned, bought, spent = Counter(project.owned), Counter[str](), 0
    for place, phase in enumerate(project.phases):
        yield Share(place / len(project.phases), phase.name)
        until = until_phase(project, place)
        before = dict(there)
        there, taken = _bought(until, catalogue, whole, before, prices, owned)
        new = taken - bought
        bought |= taken
        minor = bought_minor(bought, prices, owned)
        told.append(_phase(project, catalogue, until, phase, place, there, before, new, minor, told))
        spent = minor
        bound = followed.bound if followed and followed.aim == "least_price" and not project.held else 0
    proven = bool(followed and followed.proven and followed.aim == "least_price" and spent <= followed.price_minor
                  and not project.held)  # fmt: skip
    by = "the boxes that are held" if project.held else "the pick that the project follows"
    return Phases(phases=_of_its_own(told), boxes_minor=spent, bound_minor=bound, proven=proven, why=f"Parts of {by}.")


def _prices(catalogue: Catalogue, followed: Answer | None) -> Prices:
    """Prices by key; a box that the pick buys costs what it costs with what completes it."""
    complete = {box.model: box.price_minor for box in followed.boxes if not box.owned} if followed else {}
    return {
        line.key: partial(mul, complete[line.key]) if line.key in complete else line.price_of
        for line in catalogue.models
    }


def _bought(
    until: Project, catalogue: Catalogue, whole: Standing, before: Standing, prices: Prices, owned: Counter[str]
) -> tuple[dict[int, Boxes], Counter[str]]:
    """The boxes of every closet at the end of a phase with where everything sits, and all that they take."""
    outlook = Outlook(until, catalogue, links(until, catalogue))
    site, asked = outlook.site(until.settings.horizon_years)
    found: dict[int, Boxes] = {}
    seatings: list[Seating] = []
    for problem in site.closets:
        boxes = whole.get(problem.closet_id)
        if boxes is None or not boxes.boxes:
            continue
        stood = before.get(problem.closet_id)
        least = least_part(problem, boxes, prices, owned, stood.boxes if stood else ())
        keys = least[0] if least else boxes.boxes
        kept = stood.before if stood else None
        if kept and least:
            # links of the boxes that are new, and every drop on the port that it had
            linked = _before(least[1], ())
            live = tuple(one for one in kept.places if one.drop_id is not None)
            kept = Before(linked.links, live, linked.trunks)
        chosen = Boxes(keys, boxes.extras, kept, boxes.uplink)
        narrowed = given(problem, chosen)
        seating = seat_in(narrowed, chosen.before, asked[problem.closet_id]) if narrowed else None
        if seating is None:
            found[problem.closet_id] = chosen
            continue
        seatings.append(seating)
        places = places_of(seating, asked[problem.closet_id])
        found[problem.closet_id] = Boxes(keys, boxes.extras, _before(seating, places), boxes.uplink)
    return found, taken_by(seatings)


def _before(seating: Seating, places: tuple[Place, ...]) -> Before:
    """What the next phase keeps of a seating."""
    inside = tuple(
        LinkEnds(
            upper=link.upper, lower=link.lower, upper_port=link.option.upper.port, lower_port=link.option.lower.port,
            upper_module=link.option.upper.module.model.key if link.option.upper.module else None,
            lower_module=link.option.lower.module.model.key if link.option.lower.module else None,
        )
        for link in seating.links
    )  # fmt: skip
    trunks = tuple(
        TrunkEnds(seat.trunk.closet_id, seat.box, seat.end.port, seat.end.module.model.key if seat.end.module else None)
        for seat in seating.trunks
    )
    return Before(inside, places, trunks)


def _phase(
    project: Project, catalogue: Catalogue, until: Project, phase: Phase, place: int, there: Standing,
    before: Standing, new: Counter[str], minor: int, told: Sequence[PhasePlan],
) -> PhasePlan:  # fmt: skip
    grounds = grounds_of(until, catalogue, there)
    site = balance_on(until, catalogue, grounds)
    costs = costs_of(until, catalogue, grounds, stack_of(until, catalogue, grounds))
    mine = tuple(drop.id for drop in project.drops if place_of(project, drop) == place)
    return PhasePlan(
        phase_id=phase.id, name=phase.name, begins=str(phase.begins or ""), ends=str(phase.ends or ""),
        drops=len(mine), drop_ids=mine, bought=named_lines(catalogue, new),
        boxes_minor=minor - sum(one.boxes_minor for one in told),
        one_off_minor=costs.one_off.mean_minor - sum(one.one_off_minor for one in told),
        unpriced=len(costs.unpriced), budget_minor=phase.budget_minor, moved=_moved(there, before),
        breaks=tuple(f"{one.subject} {one.text}" for one in site.findings if one.weight == "breaks"),
        strains=sum(one.weight == "strains" for one in site.findings),
        closets=tuple(
            PhaseGround(closet_id=one.closet_id, name=one.name, capacities=one.capacities) for one in site.closets
        ),
        site=site.site,
        measures=tuple(
            Ending(name=one.name, who=one.owner, goes="") for one in project.measures
            if not one.ended and _is(one.phase, phase)
        ),
        displaced=tuple(
            Ending(name=f"{counted(one.count, 'piece')} of {one.name}" if one.count > 1 else one.name, who="",
                   goes=one.goes)
            for one in project.kit if one.fate != "kept" and _is(one.phase, phase)
        ),
    )  # fmt: skip


def _of_its_own(told: Sequence[PhasePlan]) -> tuple[PhasePlan, ...]:
    """The phases with only those breaks that the end of the job does not have, by what they are about."""
    at_the_end = set(told[-1].breaks)

    def own(one: PhasePlan) -> PhasePlan:
        mine = tuple(text for text in one.breaks if text not in at_the_end)
        return one.model_copy(update={"breaks": mine, "breaks_anyway": len(one.breaks) - len(mine)})

    return (*map(own, told[:-1]), told[-1])


def _is(named: str, phase: Phase) -> bool:
    return named.strip().casefold() == phase.name.casefold()


def _moved(there: Standing, before: Standing) -> int:
    """Drops that sat on a port before, and sit on another now."""
    moved = 0
    for closet_id, boxes in before.items():
        now = there.get(closet_id)
        if boxes.before is None or now is None or now.before is None:
            continue
        seats = {one.drop_id: (one.box, one.port) for one in now.before.places if one.drop_id is not None}
        moved += sum(
            one.drop_id in seats and seats[one.drop_id] != (one.box, one.port)
            for one in boxes.before.places
            if one.drop_id is not None
        )
    return moved
