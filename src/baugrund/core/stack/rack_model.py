"""The rack as a model of OR-Tools CP-SAT: where something may hang behind, or more stands than subsets can be tried of.

Proven, or with its bound.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from itertools import combinations, pairwise
from typing import NamedTuple

from ortools.sat.python import cp_model

from ..facts.building import Closet
from ..standards.stack import CORD_MM, SHELF_WIDTH_MM
from .cords import Cords
from .rules import BACKS, REAR_KINDS, Weights, heat_w, rides, side_by_side, stands_nowhere, starts, under_weight
from .things import Thing

SCALE = 100


class Place(NamedTuple):
    unit: int | None
    face: str
    on: str
    x_mm: int | None


class Found(NamedTuple):
    places: Mapping[str, Place]
    bound: float
    proven: bool


class RackModel:
    """The model of a rack."""

    def __init__(self, closet: Closet, things: Sequence[Thing], cords: Sequence[Cords], weights: Weights) -> None:
        self.closet, self.things, self.model = closet, things, cp_model.CpModel()
        self.rails = [thing for thing in things if thing.units]
        self.loose = [thing for thing in things if not thing.units]
        self.shelves = [thing for thing in self.rails if thing.kind == "shelf"]
        top = 2 * closet.units
        self.there = {one.key: self.model.new_bool_var("") for one in things}
        ends = {one.key: starts(closet, one) for one in self.rails}
        self.start = {key: self.model.new_int_var(low, max(low, high), "") for key, (low, high) in ends.items()}
        self.rear = {one.key: self.model.new_bool_var("") for one in self.rails}
        self.middle = {one.key: self.model.new_int_var(0, top, "") for one in things}
        """Twice the height of its middle in units."""
        self.on = {(one.key, shelf.key): self.model.new_bool_var("") for one in self.loose for shelf in self.shelves}
        self._rails()
        self._shelves()
        self._ups()
        self._free()
        for one in things:
            if stands_nowhere(closet, one):
                self.model.add(self.there[one.key] == 0)
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
                if not rides(one, shelf):
                    self.model.add(flag == 0)
        for shelf in self.shelves:
            flags = [(one, self.on[one.key, shelf.key]) for one in self.loose]
            self.model.add(sum(one.width_mm * flag for one, flag in flags) <= SHELF_WIDTH_MM)
            if shelf.carries_kg is not None:
                mass = sum(round(one.mass_kg * 1000) * flag for one, flag in flags)
                self.model.add(mass <= round(shelf.carries_kg * 1000))
            # two that blow the same way sideways never share a shelf: whatever stands between them
            for (one, flag), (other, beside) in combinations(flags, 2):
                if side_by_side([one, other]) is None:
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

    def _wishes(self, cords: Sequence[Cords], weights: Weights) -> cp_model.LinearExprT:
        """The weighed wishes in 1/SCALE, every length in half units."""
        terms: list[cp_model.LinearExprT] = []
        top = 2 * self.closet.units
        for cord in cords:
            if cord.one in self.middle and cord.other in self.middle and cord.one != cord.other:
                apart = self.model.new_int_var(0, top, "")
                both = [self.there[cord.one], self.there[cord.other]]
                difference = self.middle[cord.one] - self.middle[cord.other]
                self.model.add(apart >= difference).only_enforce_if(both)
                self.model.add(apart >= -difference).only_enforce_if(both)
                terms.append(round(weights.cords * SCALE * cord.many / 2 * 10) * apart)
        for one, other in combinations(self.things, 2):
            up = [round(under_weight(low, high, weights) * SCALE * 10) for low, high in ((one, other), (other, one))]
            if any(up):
                terms += self._ordered(one, other, *up)
        return sum(terms)

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

    def solve(self, seconds: float) -> Found | None:
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
        return Found(places, solver.best_objective_bound / SCALE / 10, is_least and state == cp_model.OPTIMAL)

    def _place(self, solver: cp_model.CpSolver, one: Thing) -> Place:
        if one.units:
            face = "rear" if solver.value(self.rear[one.key]) else "front"
            return Place(solver.value(self.start[one.key]), face, "", None)
        on = next(shelf.key for shelf in self.shelves if solver.value(self.on[one.key, shelf.key]))
        return Place(None, "front", on, None)


def _solver(seconds: float) -> cp_model.CpSolver:
    solver = cp_model.CpSolver()
    solver.parameters.num_workers = 1
    solver.parameters.linearization_level = 2
    solver.parameters.max_deterministic_time = seconds
    return solver
