"""What could go or wait so that the job fits its budget: the choice that keeps most of what is wanted.

Exact for this reckoning, solved as an integer program [1]_: each drop that *should* or *could* be there is kept or
left out, with what hangs behind it.  What a drop alone asks for (small parts, its device, its ends, its mount, a
further cable's metres) goes with it; parts are bought in whole packs with their spare; plates of a room, a box of cable
and what a pull takes once go with the last drop that needs them.  Boxes, closets, ways, tools and all other work stay.
What is left out in truth saves no less, since a pull whose longest cable goes, and boxes picked anew, only get cheaper;
the true sum is told beside.  Most is kept: first of those that should be there, then of those that could, then for the
least cost.

References
----------
.. [1] OR-Tools CP-SAT; L. A. Wolsey, *Integer Programming*, 2020, chapter 1 (knapsack with setups).
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from ortools.sat.python import cp_model

from ..cabling.cables import cable_list
from ..cabling.work import rates_of
from ..edits import RemoveDrops
from ..facts.catalogue import Catalogue
from ..facts.fact import Fact
from ..facts.price import Wanted
from ..facts.project import Project
from ..reach.runs import runs
from ..stack.told import Stack
from ..standing.ground import Ground
from ..words import counted, money
from .costs import net_budget, once_of, sum_of
from .labour import doers, hours_of, rate_minor, slowness
from .part_items import PartItem, part_items
from .parts import PricedPart
from .work_items import WorkItem

SECONDS = 2.0
"""Of the solver's deterministic time for each step, so that everybody is told the same [s]."""
COUNTS = 1000
"""Counts are looked at in thousandths."""


class Kept(Fact):
    """The drops that are kept within a budget, and those that go or wait."""

    budget_minor: int
    """Without tax."""
    before_minor: int
    """Mean of parts and work with all drops."""
    left_out: tuple[int, ...]
    should_kept: int
    could_kept: int
    reckoned_minor: int
    """By the reckoning: what is left costs no more."""
    true_minor: int
    """Parts and work without them, on the same boxes."""
    fits: bool
    """By the reckoning; the true sum may fit where this does not."""
    proven: bool
    unpriced: int
    """Parts of unknown price: they are in no sum."""
    sentence: str


@dataclass
class Reckoning:
    """What a choice of drops costs: a sum that stays, terms of single drops, groups that go with their last drop, and
    part lines in whole packs."""

    fixed: int = 0
    alone: dict[int, int] = field(default_factory=dict)
    groups: list[tuple[int, frozenset[int]]] = field(default_factory=list)
    """Cost, and the drops of which one at least needs it."""
    packed: list[Packed] = field(default_factory=list)
    unpriced: int = 0
    """Part lines whose price nobody knows."""
    parents: dict[int, int] = field(default_factory=dict)
    """What a drop hangs behind."""
    may_go: tuple[frozenset[int], ...] = ()
    """Drops that may go, the most wanted first; all others stay."""

    def cost(self, gone: frozenset[int]) -> int:
        """What the job costs without some drops [minor]."""
        total = self.fixed + sum(minor for drop, minor in self.alone.items() if drop not in gone)
        total += sum(minor for minor, drops in self.groups if not drops <= gone)
        return total + sum(line.cost(gone) for line in self.packed)


@dataclass(frozen=True)
class Packed:
    """A part line: thousandths that stay, by drop, by group of drops that share some, and how they are bought."""

    each_minor: int
    holds: int
    spare_percent: float
    spare: int
    there: int
    stays: int
    by_drop: Mapping[int, int]
    shared: tuple[tuple[int, frozenset[int]], ...]
    """Drops that one takes, and the drops: plates of a room, a bracket of several cameras."""

    def cost(self, gone: frozenset[int]) -> int:
        count = self.stays + sum(many for drop, many in self.by_drop.items() if drop not in gone)
        count += sum(COUNTS * math.ceil(len(drops - gone) / per) for per, drops in self.shared)
        spare = math.ceil(count * self.spare_percent / 100 / COUNTS - 1e-9) * COUNTS + self.spare
        return max(0, math.ceil((count + spare - self.there) / self.holds - 1e-9)) * self.each_minor


def reckoning_of(
    project: Project, catalogue: Catalogue, grounds: Sequence[Ground], stack: Stack
) -> Reckoning:  # fmt: skip
    """What every choice of drops costs."""
    once = once_of(project, catalogue, grounds, stack)
    items = part_items(project, catalogue, grounds, stack, once.work, merged=False)
    lines = {line.key: line for line in once.parts}
    made = Reckoning(
        parents={drop.id: drop.behind_id for drop in project.drops if drop.behind_id is not None},
        may_go=by_want(project, ("should", "could")),
    )
    made.unpriced = sum(line.total_minor is None for line in once.parts)
    _work(made, project, once.work)
    made.fixed += once.own.given.tools_minor
    by_key: dict[str, list[PartItem]] = defaultdict(list)
    for item in items:
        by_key[item.key].append(item)
    for key, some in by_key.items():
        line = lines[key]
        if line.each_minor is None:
            continue
        if line.group == "cable":
            continue
        made.packed.append(_packed(line, some))
    for cable in cable_list(project):
        name = f"{cable.name}, {cable.colour}" if cable.colour else cable.name
        line = lines[f"cable/{name}"]
        for number, box in enumerate(cable.boxes):
            if number < line.packs and line.each_minor:
                made.groups.append((line.each_minor, frozenset(one.drop_id for one in box.cuts)))
    return made


def by_want(project: Project, wants: Sequence[Wanted]) -> tuple[frozenset[int], ...]:
    """Drops by how much they are wanted."""
    return tuple(frozenset(drop.id for drop in project.drops if drop.wanted == want) for want in wants)


def _packed(line: PricedPart, some: Sequence[PartItem]) -> Packed:
    by_drop: dict[int, int] = defaultdict(int)
    shared, stays = [], 0
    for item in some:
        many = round(item.count * COUNTS)
        if item.per:
            shared.append((item.per, frozenset(item.drop_ids)))
        elif len(item.drop_ids) == 1:
            by_drop[item.drop_ids[0]] += many
        else:
            stays += many
    given = line.spare_percent is None
    return Packed(
        line.each_minor or 0, round(line.holds * COUNTS), 0.0 if given else line.spare_percent or 0.0,
        round(line.spare * COUNTS) if given else 0, round(line.there * COUNTS), stays, dict(by_drop), tuple(shared),
    )  # fmt: skip


def _work(made: Reckoning, project: Project, work: Sequence[WorkItem]) -> None:
    """Work of single drops goes with them; what a pull takes with its last drop, but for a further cable's metres."""
    doer = doers(project)
    pulls: dict[frozenset[int], int] = defaultdict(int)

    def minor(item: WorkItem) -> int:
        who = doer(item)
        return math.ceil(hours_of(item.hours * slowness(project, who)).mean_h * rate_minor(project, who) - 1e-9)

    for item in work:
        if len(item.drop_ids) == 1:
            made.alone[item.drop_ids[0]] = made.alone.get(item.drop_ids[0], 0) + minor(item)
        elif item.drop_ids and item.stage in ("pull", "close", "survey", "clear_away"):
            pulls[frozenset(item.drop_ids)] += minor(item)
        else:
            made.fixed += minor(item)
    found, rates = runs(project), rates_of(project)
    for drops, whole in pulls.items():
        further = {}
        for number in drops:
            drop = project.drops_by_id[number]
            if number in found and not drop.existing:
                metres = sum(one.length_m * one.further_h for one in rates.pieces(drop, found[number]))
                further[number] = math.floor(hours_of(metres).mean_h * rate_minor(project, "installer"))
        if sum(further.values()) >= whole or any(one.task for one in project.task_terms):
            # a survey of a room, or another rate than the installer's: all of it goes with the last drop
            made.groups.append((whole, drops))
            continue
        longest = max(further, key=lambda number: further[number], default=0)
        for number, saved in further.items():
            if number != longest:
                made.alone[number] = made.alone.get(number, 0) + saved
        alone = sum(further.values()) - further.get(longest, 0)
        made.groups.append((whole - alone, drops))


def keep_most(
    project: Project, catalogue: Catalogue, grounds: Sequence[Ground], stack: Stack, budget_minor: int | None = None
) -> Kept | None:
    """The choice that keeps most within the budget, both without tax; None: there is no budget."""
    if budget_minor is None:
        if project.settings.budget_minor is None:
            return None
        budget_minor = net_budget(project, project.settings.budget_minor)
    made = reckoning_of(project, catalogue, grounds, stack)
    before = sum_of(project, catalogue, grounds, stack)
    # the reckoning rounds every piece up: what all drops cost by it is no figure of its own
    gone, proven = choose(made, budget_minor)
    reckoned = made.cost(gone)
    rest = RemoveDrops(ids=tuple(sorted(gone))).apply(project) if gone else project
    true = sum_of(rest, catalogue, grounds, stack) if gone else before
    told = Kept(
        budget_minor=budget_minor, before_minor=before, left_out=tuple(sorted(gone)),
        should_kept=len(made.may_go[0] - gone), could_kept=len(made.may_go[1] - gone), reckoned_minor=reckoned,
        true_minor=true, fits=reckoned <= budget_minor, proven=proven,
        unpriced=made.unpriced, sentence="",
    )  # fmt: skip
    return told.model_copy(update={"sentence": _sentence(project, told)})


def _sentence(project: Project, kept: Kept) -> str:
    currency = project.settings.currency
    without = f", without {counted(kept.unpriced, 'part')} of unknown price" if kept.unpriced else ""
    if not kept.left_out:
        return f"Everything fits{without}." if kept.fits else "No drop may go: all of them must be there."
    what = f"{counted(len(kept.left_out), 'drop')} left out, {money(kept.true_minor, currency)} in all{without}"
    if kept.fits:
        return f"{what}: within {money(kept.budget_minor, currency)}."
    short = kept.true_minor - kept.budget_minor
    return f"{what}: still over by {money(short, currency)}." if short > 0 else f"{what}: that fits."


def choose(made: Reckoning, budget_minor: int) -> tuple[frozenset[int], bool]:
    """The drops that go, and whether no choice keeps more; all that may go where nothing fits."""
    free = sorted(frozenset[int]().union(*made.may_go))
    if made.cost(frozenset()) <= budget_minor:
        return frozenset(), True
    model = cp_model.CpModel()
    keep = {drop: model.new_bool_var(f"keep {drop}") for drop in free}
    for drop in free:
        above = made.parents.get(drop)
        if above in keep:
            model.add_implication(keep[drop], keep[above])
    for drop, above in made.parents.items():
        if drop not in keep and above in keep:
            model.add(keep[above] == 1)
    cost = made.fixed + sum(minor * keep.get(drop, 1) for drop, minor in made.alone.items())
    for minor, drops in made.groups:
        if drops <= keep.keys():
            needed = model.new_bool_var("")
            model.add_max_equality(needed, [keep[drop] for drop in sorted(drops)])
            cost += minor * needed
        else:
            cost += minor
    for line in made.packed:
        cost += line.each_minor * _packs(model, line, keep)
    model.add(cost <= budget_minor)
    worth, weight = dict[int, int](), 1
    for level in reversed(made.may_go):
        worth |= dict.fromkeys(level, weight)
        weight *= len(level) + 1
    kept = sum(worth[drop] * keep[drop] for drop in free)
    model.maximize(kept)
    solver = cp_model.CpSolver()
    solver.parameters.max_deterministic_time, solver.parameters.num_workers = SECONDS, 1
    status = solver.solve(model)
    if status not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        return _all_that_may(made, keep), status == cp_model.INFEASIBLE
    most, proven = round(solver.objective_value), status == cp_model.OPTIMAL
    best = {drop: solver.value(keep[drop]) for drop in free}
    model.add(kept == most)
    model.minimize(cost)
    for drop in free:
        model.add_hint(keep[drop], best[drop])
    status = solver.solve(model)
    if status in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        best = {drop: solver.value(keep[drop]) for drop in free}
    return frozenset(drop for drop in free if not best[drop]), proven and status == cp_model.OPTIMAL


def _all_that_may(made: Reckoning, keep: Mapping[int, object]) -> frozenset[int]:
    """Everything that is not asked for by something that must be there."""
    bound = {above for drop, above in made.parents.items() if drop not in keep}
    while more := {above for drop, above in made.parents.items() if drop in bound and above not in bound}:
        bound |= more
    return frozenset(drop for drop in keep if drop not in bound)


def _packs(
    model: cp_model.CpModel, line: Packed, keep: Mapping[int, cp_model.IntVar]
) -> cp_model.IntVar:  # fmt: skip
    """Whole packs of a part line for what is kept."""
    most = line.stays + sum(line.by_drop.values()) + COUNTS * sum(len(drops) for _, drops in line.shared)
    count = line.stays + sum(many * keep.get(drop, 1) for drop, many in line.by_drop.items())
    for per, drops in line.shared:
        some = model.new_int_var(0, len(drops), "")
        model.add(per * some >= sum(keep.get(drop, 1) for drop in sorted(drops)))
        count += COUNTS * some
    spare: cp_model.IntVar | int = 0
    if line.spare_percent:
        percent = round(line.spare_percent * 10)
        spare = model.new_int_var(0, math.ceil(most * line.spare_percent / 100 / COUNTS) + 1, "")
        model.add(1000 * COUNTS * spare >= percent * count)
    packs = model.new_int_var(0, 2 * math.ceil(most / line.holds) + math.ceil(line.spare / line.holds) + 2, "")
    model.add(line.holds * packs >= count + COUNTS * spare + line.spare - line.there)
    return packs
