"""Where everything of a rack stands best: no rule broken, and the wishes met as far as can be.

OR-Tools CP-SAT places what has units on the rails, front or rear, and the rest on shelves.  Proven, or with its bound.
What is screwed in or pinned stays; what a better arrangement would move is told beside.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from itertools import combinations, pairwise
from typing import NamedTuple

from ortools.sat.python import cp_model

from ..facts.building import Closet
from ..facts.fact import Fact
from ..standards.stack import CORD_MM, SHELF_WIDTH_MM
from .cords import Cords
from .rules import BACKS, LEFT, RIGHT, Broken, Score, Weights, broken, depth_asked, heat_w, score
from .swapping import improved
from .things import Thing

SECONDS = 2.0
"""Deterministic time of a search."""
SCALE = 100
REAR_KINDS = ("strip", "fan", "other", "shelf", "manager")
"""What may be screwed to the rear rails, where somebody can work there."""


class Put(Fact):
    """Where an arrangement puts a thing."""

    thing: str
    unit: int | None
    """The lowest unit that it takes; None: on a shelf."""
    face: str
    on: str
    x_mm: int | None
    moves: bool
    """It stands elsewhere now."""


class Arrangement(Fact):
    """Everything of a rack in its place."""

    puts: tuple[Put, ...]
    left_out: tuple[str, ...]
    """Things for which there is no place."""
    score: Score
    bound: float
    """No arrangement that leaves no more out weighs less."""
    proven: bool


class Arranged(Fact):
    """How a rack stands, how best with what is fixed in its place, and how it would stand if all could move."""

    now: Score
    broken: tuple[Broken, ...]
    steady: Arrangement | None
    better: Arrangement | None
    """None: it is no better than the steady one."""


def arranged(closet: Closet, things: Sequence[Thing], cords: Sequence[Cords], weights: Weights) -> Arranged:
    """The best arrangement of a rack."""
    steady = arrange(closet, things, cords, weights)
    better = None
    if any(thing.fixed for thing in things):
        loose = [thing.model_copy(update={"fixed": False}) for thing in things]
        better = arrange(closet, loose, cords, weights)
        if steady and better and (len(better.left_out), better.score.total) >= (
            len(steady.left_out), steady.score.total - 1e-6,
        ):  # fmt: skip
            better = None
    return Arranged(now=score(things, cords, weights), broken=broken(closet, things), steady=steady, better=better)


def arrange(
    closet: Closet, things: Sequence[Thing], cords: Sequence[Cords], weights: Weights, seconds: float = SECONDS
) -> Arrangement | None:
    """The best places of everything; None: what is fixed contradicts itself."""
    model = _Rack(closet, things, cords, weights)
    found = model.solve(seconds)
    if found is None:
        return None
    placed = [_put_at(thing, found.places.get(thing.key)) for thing in things]
    left = tuple(thing.key for thing in things if thing.key not in found.places)
    if not found.proven:
        placed = improved(closet, placed, cords, weights)
    puts = tuple(
        Put(
            thing=after.key, unit=after.unit, face=after.face, on=after.on, x_mm=after.x_mm,
            moves=before.unit is not None and (before.unit, before.face, before.on) != (
                after.unit, after.face, after.on
            ),
        )
        for before, after in zip(things, placed, strict=True)
        if after.key in found.places
    )  # fmt: skip
    told = score(placed, cords, weights)
    bound = told.total if found.proven else min(told.total, found.bound)
    return Arrangement(puts=puts, left_out=left, score=told, bound=round(bound, 4), proven=found.proven)


class _Place(NamedTuple):
    unit: int | None
    face: str
    on: str
    x_mm: int | None


class _Found(NamedTuple):
    places: Mapping[str, _Place]
    bound: float
    proven: bool


def _put_at(thing: Thing, place: _Place | None) -> Thing:
    told = place._asdict() if place else {"unit": None, "face": "front", "on": "", "x_mm": None}
    return thing.model_copy(update=told)


class _Rack:
    """The model of a rack."""

    def __init__(self, closet: Closet, things: Sequence[Thing], cords: Sequence[Cords], weights: Weights) -> None:
        self.closet, self.things, self.model = closet, things, cp_model.CpModel()
        self.rails = [thing for thing in things if thing.units]
        self.loose = [thing for thing in things if not thing.units]
        self.shelves = [thing for thing in self.rails if thing.kind == "shelf"]
        top = 2 * closet.units
        self.there = {one.key: self.model.new_bool_var("") for one in things}
        self.start = {
            one.key: self.model.new_int_var(1, max(1, closet.units - one.units + 1), "") for one in self.rails
        }
        self.rear = {one.key: self.model.new_bool_var("") for one in self.rails}
        self.middle = {one.key: self.model.new_int_var(0, top, "") for one in things}
        """Twice the height of its middle in units."""
        self.on = {(one.key, shelf.key): self.model.new_bool_var("") for one in self.loose for shelf in self.shelves}
        self._rails()
        self._shelves()
        self._ups()
        self._free()
        self._air()
        self.cost = self._wishes(cords, weights)
        self._alike(cords)
        self._keep_fixed()

    def _rails(self) -> None:
        faces: dict[bool, list[cp_model.IntervalVar]] = {False: [], True: []}
        for one in self.rails:
            key = one.key
            may = one.kind in REAR_KINDS and bool(self.closet.both_sides)
            if not may and not (one.fixed and one.face == "rear"):
                self.model.add(self.rear[key] == 0)
            if one.units > self.closet.units or depth_asked(one) > self.closet.depth_mm:
                self.model.add(self.there[key] == 0)
            self.model.add(self.middle[key] == 2 * self.start[key] - 2 + one.units)
            for is_rear in (False, True):
                stands = self.model.new_bool_var("")
                chosen = self.rear[key] if is_rear else self.rear[key].negated()
                self.model.add_bool_and([self.there[key], chosen]).only_enforce_if(stands)
                self.model.add_bool_or([self.there[key].negated(), chosen.negated(), stands])
                faces[is_rear].append(
                    self.model.new_optional_fixed_size_interval_var(self.start[key], one.units, stands, "")
                )
        for intervals in faces.values():
            self.model.add_no_overlap(intervals)
        for one, other in combinations(self.rails, 2):
            deep = one.depth_mm + other.depth_mm + 2 * CORD_MM > self.closet.depth_mm
            ways = {BACKS.get(one.airflow or ""), BACKS.get(other.airflow or "")}
            if (deep or ways == {"in", "out"}) and self._may_face(one, other):
                self._apart(one, other)
        self.model.add(
            sum(round(one.mass_kg * 1000) * self.there[one.key] for one in self.things)
            <= round(self.closet.load_kg * 1000)
        )  # fmt: skip

    def _may_face(self, one: Thing, other: Thing) -> bool:
        """Whether the two may stand back to back at all."""
        return any(
            (one.kind in REAR_KINDS and self.closet.both_sides) or (one.fixed and one.face == "rear")
            for one in (one, other)
        )

    def _apart(self, one: Thing, other: Thing) -> None:
        """The two share no unit, whichever faces they are on."""
        over = self.model.new_bool_var("")
        both = [self.there[one.key], self.there[other.key]]
        a, b = self.start[one.key], self.start[other.key]
        self.model.add(a >= b + other.units).only_enforce_if([*both, over])
        self.model.add(b >= a + one.units).only_enforce_if([*both, over.negated()])

    def _shelves(self) -> None:
        for one in self.loose:
            mine = [self.on[one.key, shelf.key] for shelf in self.shelves]
            self.model.add(sum(mine) == self.there[one.key])
            for shelf, flag in zip(self.shelves, mine, strict=True):
                self.model.add_implication(flag, self.there[shelf.key])
                self.model.add(self.middle[one.key] == self.middle[shelf.key]).only_enforce_if(flag)
                if (shelf.clear_mm is not None and one.height_mm > shelf.clear_mm) or (
                    depth_asked(one) > self.closet.depth_mm
                ):
                    self.model.add(flag == 0)
        for shelf in self.shelves:
            flags = [(one, self.on[one.key, shelf.key]) for one in self.loose]
            self.model.add(sum(one.width_mm * flag for one, flag in flags) <= SHELF_WIDTH_MM)
            if shelf.carries_kg is not None:
                mass = sum(round(one.mass_kg * 1000) * flag for one, flag in flags)
                self.model.add(mass <= round(shelf.carries_kg * 1000))
            # two that blow at each other sideways never share a shelf
            for (one, flag), (other, beside) in combinations(flags, 2):
                sides = {RIGHT.get(one.airflow or ""), RIGHT.get(other.airflow or "")}
                if "in" in sides or "out" in sides:
                    ways = [(RIGHT.get(a.airflow or ""), LEFT.get(b.airflow or "")) for a, b in
                            ((one, other), (other, one))]  # fmt: skip
                    if all(set(way) == {"in", "out"} for way in ways):
                        self.model.add(flag + beside <= 1)

    def _ups(self) -> None:
        stands = [one for one in self.rails if one.kind == "ups"]
        for place, ups in enumerate(stands):
            if place == 0:
                self.model.add(self.start[ups.key] == 1).only_enforce_if(self.there[ups.key])
            above = self.start[ups.key] + ups.units
            self.model.add(above <= self.closet.units).only_enforce_if(self.there[ups.key])
            for other in self.rails:
                if other is not ups:
                    under = self.model.new_bool_var("")
                    both = [self.there[ups.key], self.there[other.key]]
                    self.model.add(self.start[other.key] + other.units <= above).only_enforce_if([*both, under])
                    self.model.add(self.start[other.key] >= above + 1).only_enforce_if([*both, under.negated()])

    def _free(self) -> None:
        """A unit that touches a panel, front and rear empty, and not the air over a UPS."""
        panels = [one for one in self.rails if one.kind == "panel"]
        if not self.closet.keep_free or not panels:
            return
        self.free = self.model.new_int_var(1, self.closet.units, "")
        touches = []
        for panel in panels:
            for at in (self.start[panel.key] - 1, self.start[panel.key] + panel.units):
                flag = self.model.new_bool_var("")
                self.model.add(self.free == at).only_enforce_if(flag)
                self.model.add_implication(flag, self.there[panel.key])
                touches.append(flag)
        some = [self.there[panel.key] for panel in panels]
        kept = self.model.new_bool_var("")
        for flag in some:
            self.model.add_implication(flag, kept)
        self.model.add_bool_or([*touches, kept.negated()])
        for one in self.rails:
            under = self.model.new_bool_var("")
            height = one.units + (one.kind == "ups")
            self.model.add(self.start[one.key] + height <= self.free).only_enforce_if(
                [self.there[one.key], under, kept]
            )
            self.model.add(self.start[one.key] >= self.free + 1).only_enforce_if(
                [self.there[one.key], under.negated(), kept]
            )

    def _air(self) -> None:
        for one in self.rails + self.loose:
            for side, way in (("right", RIGHT), ("left", LEFT)):
                if way.get(one.airflow or "") == "out" and self.closet.blocked in (side, "both"):
                    self.model.add(self.there[one.key] == 0)

    def _wishes(self, cords: Sequence[Cords], weights: Weights) -> cp_model.LinearExprT:
        """The weighed wishes in 1/SCALE, every length in half units."""
        terms: list[cp_model.LinearExprT] = []
        top = 2 * self.closet.units
        away: dict[tuple[str, str], cp_model.IntVar] = {}
        for cord in cords:
            if cord.one in self.middle and cord.other in self.middle and cord.one != cord.other:
                apart = self.model.new_int_var(0, top, "")
                both = [self.there[cord.one], self.there[cord.other]]
                difference = self.middle[cord.one] - self.middle[cord.other]
                self.model.add(apart >= difference).only_enforce_if(both)
                self.model.add(apart >= -difference).only_enforce_if(both)
                away[cord.one, cord.other] = apart
                terms.append(round(weights.cords * SCALE * cord.many / 2 * 10) * apart)
        self._stars(cords, away)
        for one, other in combinations(self.things, 2):
            up = self._costs(one, other, weights), self._costs(other, one, weights)
            if any(up):
                terms += self._ordered(one, other, *up)
        return sum(terms)

    def _stars(self, cords: Sequence[Cords], away: Mapping[tuple[str, str], cp_model.IntVar]) -> None:
        """Neighbours of one thing stand at no more than two places of each distance: what all of them are away at the
        least, for those with most cords first."""
        if self.closet.both_sides:
            return
        rails = {one.key: one for one in self.rails}
        for key, middle in rails.items():
            near = sorted(
                (c for c in cords if key in (c.one, c.other) and (c.one, c.other) in away), key=lambda c: -c.many
            )
            others = [(c, rails.get(c.other if c.one == key else c.one)) for c in near]
            if any(other is None for _, other in others):
                continue
            for count in range(1, len(others) + 1):
                some = [(cord, other) for cord, other in others[:count] if other is not None]
                least = _star_m(middle.units, sorted(other.units for _, other in some))
                there = [self.there[key], *(self.there[other.key] for _, other in some)]
                self.model.add(sum(away[cord.one, cord.other] for cord, _ in some) >= least).only_enforce_if(there)

    @staticmethod
    def _costs(low: Thing, high: Thing, weights: Weights) -> int:
        """What it weighs that one stands under another."""
        hot = max(0.0, heat_w(low) - heat_w(high)) * weights.hot
        heavy = max(0.0, high.mass_kg - low.mass_kg) * weights.heavy
        return round((hot + heavy) * SCALE * 10)

    def _ordered(self, one: Thing, other: Thing, under: int, over: int) -> list[cp_model.LinearExprT]:
        """Terms for which of two is lower; of two on the rails of one face exactly one is."""
        both = [self.there[one.key], self.there[other.key]]
        a, b = self.middle[one.key], self.middle[other.key]
        lower, higher = self.model.new_bool_var(""), self.model.new_bool_var("")
        self.model.add(a >= b).only_enforce_if([*both, lower.negated()])
        self.model.add(b >= a).only_enforce_if([*both, higher.negated()])
        rigid = one.key in self.start and other.key in self.start and not self.closet.both_sides
        if not rigid or one.fixed or other.fixed:
            return [under * lower, over * higher]
        # on one face exactly one is lower: the lesser weight is there in any case
        self.model.add_bool_or([lower, higher, both[0].negated(), both[1].negated()])
        self.model.add(self.start[one.key] + one.units <= self.start[other.key]).only_enforce_if(
            [*both, higher.negated()]
        )
        self.model.add(self.start[other.key] + other.units <= self.start[one.key]).only_enforce_if(
            [*both, lower.negated()]
        )
        return [under * lower, over * higher]

    def _alike(self, cords: Sequence[Cords]) -> None:
        """Things on the rails that are alike and have no cords stand in the order of the list: which is which changes
        nothing."""
        corded = {key for cord in cords for key in (cord.one, cord.other)}
        groups: dict[object, list[Thing]] = {}
        for one in self.rails:
            if one.key not in corded and not one.fixed and one.kind not in ("shelf", "panel", "ups"):
                alike = (one.kind, one.units, one.mass_kg, heat_w(one), one.depth_mm, one.hangs, one.airflow)
                groups.setdefault(alike, []).append(one)
        for some in groups.values():
            for one, other in pairwise(some):
                self.model.add_implication(self.there[other.key], self.there[one.key])
                self.model.add(self.start[one.key] <= self.start[other.key])

    def _keep_fixed(self) -> None:
        """What is fixed stands there or nowhere: where it breaks a rule it is left out, and told."""
        for one in self.things:
            there = self.there[one.key]
            if not one.fixed:
                continue
            if one.units and one.unit is not None:
                self.model.add(self.start[one.key] == one.unit).only_enforce_if(there)
                self.model.add(self.rear[one.key] == (one.face == "rear"))
            elif (one.key, one.on) in self.on:
                self.model.add(self.on[one.key, one.on] == 1).only_enforce_if(there)

    def solve(self, seconds: float) -> _Found | None:
        """As little left out as can be, then the least weight."""
        out = sum(flag.negated() for flag in self.there.values())
        for one in self.things:
            if one.unit is not None and one.units:
                self.model.add_hint(self.start[one.key], one.unit)
        self.model.minimize(out)
        solver = _solver(seconds / 4)
        if solver.solve(self.model) not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
            return None
        least = round(solver.objective_value)
        is_least = solver.best_objective_bound >= least - 1e-6
        self.model.clear_hints()  # type: ignore[no-untyped-call]
        for start in self.start.values():
            self.model.add_hint(start, solver.value(start))
        self.model.add(out <= least)
        self.model.minimize(self.cost)
        solver = _solver(seconds)
        state = solver.solve(self.model)
        if state not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
            return None
        places = {one.key: self._place(solver, one) for one in self.things if solver.value(self.there[one.key])}
        return _Found(
            _side_by_side(self.things, places), solver.best_objective_bound / SCALE / 10,
            is_least and state == cp_model.OPTIMAL,
        )  # fmt: skip

    def _place(self, solver: cp_model.CpSolver, one: Thing) -> _Place:
        if one.units:
            face = "rear" if solver.value(self.rear[one.key]) else "front"
            return _Place(solver.value(self.start[one.key]), face, "", None)
        on = next(shelf.key for shelf in self.shelves if solver.value(self.on[one.key, shelf.key]))
        return _Place(None, "front", on, None)


def _star_m(own: int, units: Sequence[int]) -> int:
    """What things of so many units, the least first, are away from one of ``own`` at the least, all together, in half
    units: they stand below and above it, one behind the other."""
    ends, total = [own, own], 0
    for size in units:
        ends.sort()
        total += ends[0] + size
        ends[0] += 2 * size
    return total


def _solver(seconds: float) -> cp_model.CpSolver:
    solver = cp_model.CpSolver()
    solver.parameters.num_workers = 1
    solver.parameters.linearization_level = 2
    solver.parameters.max_deterministic_time = seconds
    return solver


def _side_by_side(things: Sequence[Thing], places: Mapping[str, _Place]) -> dict[str, _Place]:
    """What shares a shelf from left to right: what blows right first, what blows left last."""
    found = dict(places)
    order = {"right_to_left": 0, "left_to_right": 2}
    for shelf in (one for one in things if one.kind == "shelf"):
        left = 0
        here = [one for one in things if one.key in places and places[one.key].on == shelf.key]
        for one in sorted(here, key=lambda one: (order.get(one.airflow or "", 1), one.key)):
            found[one.key] = places[one.key]._replace(x_mm=left)
            left += one.width_mm
    return found
