"""A linear relaxation of the choice of boxes: what any pick with given boxes in it costs at least.

Aggregated: no copies, no seats.  The bound is recomputed from the duals, so it holds however inexact they are.

References
----------
.. [1] Nemhauser, Wolsey: Integer and Combinatorial Optimization, I.2 (duality bounds) and II.4 (branch and bound).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..model.arrays import NEVER, Counts, Flags
from ..model.problem import Weight
from ..model.seating import seat_mains_mw
from ..model.supply import BoxType
from .box_rows import CARRIES, ENDS, FREE, POWER, PRICE, SLOTS, TAKEN
from .columns import choices
from .linear import Floats, LinearProgram, Rows
from .link_bounds import LinkBounds
from .link_class import LinkClass

WHOLE_S = 0.3
"""Time that the search for one good set may take."""
WHOLE_GAP = 0.02
"""How much dearer than the least such a configuration may be."""
WHOLE_WITHIN = 0.02
"""How much dearer than the least a choice may make a configuration to be looked at for that."""


@dataclass(frozen=True, eq=False)
class Bound:
    """The least that any pick within given ranges costs, what one more of each box adds to that at least, and how many
    of each, and what parts, that would take."""

    least: float
    adds: Floats
    takes: Floats
    duals: Floats
    """What each row of the relaxation is worth."""


class Relaxation:
    """The relaxation of one link class over its boxes: roots first, then switches in the order of the problem.

    With ``centres`` (roots, or switches of which one copy is the centre; their ports have the same speeds) every
    link of the star ends at one of them, on as many ends as it has, and its links take ports from its drops;
    without, links end anywhere."""

    def __init__(
        self, group: LinkClass, weight: Weight, centres: Sequence[BoxType] = (), box_count: int | None = None
    ) -> None:
        self.group = group
        self.weight: Weight = weight
        self.centres = centres
        problem = group.problem
        roots = [root for root in group.roots if not centres or not centres[0].is_root or root in centres]
        self.boxes = (*roots, *problem.switches)
        self.first_switch = len(roots)
        self.choices = choices(group, roots, centres, weight)
        self.place = self.choices.place
        self.table: Floats = self.choices.table.astype(np.float64)
        self.trunks = group.trunks
        self.first_need = len(self.choices)
        self.moved = self.first_need + len(problem.needs)
        self.first_centre = self.moved + 1
        self.first_level = self.first_centre + (len(group.up_sets) if centres else 0)
        there = [self.boxes[place] for place in np.unique(self.place).tolist()]
        levels = sorted({box.model.efficiency_percent for box in there if box.power_most_mw})
        money = weight == "price"
        own = np.array([float(box.own_mains_mw) for box in self.boxes])
        costs = [*(self.table[:, PRICE] if money else own[self.place]).tolist()]
        costs += [self._injected_cost(number, weight) for number in range(len(problem.needs))]
        costs += [float(self.trunks.move_minor) if money else 0.0]
        costs += [0.0] * (self.first_level - self.first_centre)
        costs += [100.0 / level if weight == "power" else 0.0 for level in levels]
        at_once = float(problem.boxes_most)
        of_each = np.array([_most(at_once, box) for box in self.boxes])
        most = np.where(self.choices.is_centre, 1.0, of_each[self.place]).tolist()
        most += [float(count) if problem.injectors_for[need] else 0.0 for need, count in problem.needs]
        most += [float(self.trunks.may_move)]
        most += group.rows.all_hold(centres).max(axis=0).astype(float).tolist() if centres else []
        most += [float(group.power_mw)] * len(levels)
        mine = [*map(group.roots.index, roots), *range(len(group.roots), group.groups.shape[1])]
        self.groups: Floats = np.vstack([np.ones(len(self.boxes)), group.groups[:, mine]])
        """Boxes that are counted together, a row of ones and zeros each; all of them first."""
        self.most = np.append(of_each, [at_once] * len(self.groups))
        """How many of each box, and of each group of them, there can be."""
        self._link_bounds: dict[BoxType, LinkBounds] = {}
        self._rows = Rows(len(costs))
        self._add_box_rows(box_count)
        self._add_rows(levels)
        if centres:
            self._add_centre_rows(centres)
        self._costs, self._columns_most = np.array(costs), np.array(most)
        self.program = LinearProgram(self._costs, self._columns_most, self._rows)

    @property
    def base(self) -> Floats:
        """What is in from the start: the one centre, if it is a switch."""
        return self.ranged([float(box is self.centre and not box.is_root) for box in self.boxes])

    @property
    def centre(self) -> BoxType | None:
        """The one centre, if there is one."""
        return self.centres[0] if len(self.centres) == 1 else None

    def ranged(self, counts: Sequence[float]) -> Floats:
        """So many of each box at least, and no number of any group asked for."""
        return np.array([*counts, *[0.0] * len(self.groups)])

    def set_of(self, counts: Floats | Counts) -> tuple[BoxType, ...]:
        """A configuration written out one by one."""
        there = np.flatnonzero(counts[: len(self.boxes)] > 0.5)
        return tuple(self.boxes[place] for place in there for _ in range(round(float(counts[place]))))

    def bound(self, least: Floats, most: Floats) -> Bound | None:
        """The bound when there are at least and at most so many of each box; None when that cannot be."""
        self.program.set_ranges(least, most)
        solved = self.program.solve()
        if solved is None:
            return None
        adds = np.full(len(self.boxes), NEVER)
        np.minimum.at(adds, self.place, solved.reduced[: self.first_need])
        more = adds + np.maximum(solved.duals[: len(self.boxes)], 0.0)
        return Bound(solved.bound + self.constant, more, self._counted(solved.values), solved.duals)

    def _counted(self, values: Floats) -> Floats:
        """How many of each box, and of each group of them, the columns come to."""
        boxes = np.bincount(self.place, values[: self.first_need], len(self.boxes)).astype(np.float64)
        return np.concatenate([boxes, self.groups @ boxes])

    def whole(self, least: Floats, most: Floats) -> Floats | None:
        """A good whole-numbered set within ranges; None when none was found in time."""
        self.program.set_ranges(least, most)
        parts = self.program.solve()
        if parts is None:
            return None
        # choices that would make the set much dearer than the least are left out, but for those of boxes that are in
        dear = parts.reduced[: self.first_need] > WHOLE_WITHIN * parts.bound
        columns_most = self._columns_most.copy()
        columns_most[: self.first_need][dear & (least[self.place] < 1)] = 0.0
        program = LinearProgram(self._costs, columns_most, self._rows)
        program.set_ranges(least, most)
        solved = program.solve_whole(range(self.first_need, len(self._costs)), 0.5, WHOLE_S, WHOLE_GAP)
        if solved.values is None:
            return None
        return self._counted(solved.values)

    def link_bounds(self, centre: BoxType) -> LinkBounds:
        """Stars of its boxes around one of them."""
        if centre not in self._link_bounds:
            self._link_bounds[centre] = LinkBounds(self.group, self.boxes, centre)
        return self._link_bounds[centre]

    @property
    def constant(self) -> float:
        """The constant of the bound: cost beside boxes."""
        return float(self.trunks.least_minor) if self.weight == "price" else 0.0

    def _injected_cost(self, number: int, weight: Weight) -> float:
        need = self.group.problem.needs[number][0]
        able = self.group.problem.injectors_for[need]
        if weight == "price":
            return float(min((i.price_minor for i in able), default=0))
        return float(min((i.own_mains_mw + seat_mains_mw(need, i) for i in able), default=0))

    def _block(self, columns: Sequence[int], factor: float = 1.0) -> Floats:
        """A row for each of these figures of the choices."""
        rows = np.zeros((len(columns), self._rows.width))
        rows[:, : self.first_need] = self.table[:, columns].T * factor
        return rows

    def _over(self, which: Flags) -> dict[int, float]:
        """One of each of these choices."""
        return dict.fromkeys(np.flatnonzero(which).tolist(), 1.0)

    def _add_box_rows(self, box_count: int | None) -> None:
        """A row for the number of each box, whose range a bound sets; one root; the number of all of them; copies of
        one stock that may be root or not."""
        add = self._rows.add
        counted = np.zeros((len(self.most), self._rows.width))
        counted[self.place, np.arange(self.first_need)] = 1.0
        counted[len(self.boxes) :, : self.first_need] = self.groups[:, self.place]
        self._rows.add_all(counted, 0.0, 1.0)
        add(self._over(self.place < self.first_switch), 1.0, 1.0)
        if self.centres:
            add(self._over(self.choices.is_centre), 1.0, 1.0)
        count = (0.0, float(self.group.problem.boxes_most)) if box_count is None else (float(box_count),) * 2
        add({place: 1.0 for place in range(self.first_need)}, *count)
        for stock in {root.stock for root in self.boxes[: self.first_switch] if root.most is not None}:
            # those that need not be looked at have no choice
            same = self._over(np.array([box.stock == stock for box in self.boxes])[self.place])
            if same:
                add(same, 0.0, float(min(self.boxes[self.place[k]].most or 0 for k in same)))

    def _add_rows(self, levels: Sequence[int]) -> None:
        """What there is room for, then what sets must have so much of."""
        group, problem, rows, trunks = self.group, self.group.problem, self._rows, self.trunks
        powered = np.array([float(need.poe_rank > 0) for need, _ in problem.needs])
        needs = slice(self.first_need, self.moved)
        limits = self._block([TAKEN + number for number in problem.limited], -1.0)
        limits[:, needs] = -np.outer([problem.injector_takes[number] for number in problem.limited], powered)
        rows.add_all(limits, [-float(problem.capacities[number]) for number in problem.limited], np.inf)
        self.covering = [len(rows)]
        """Rows of what a configuration must have so much of, the ports in all first."""
        ends = self._block([FREE, SLOTS, *([ENDS] if problem.trunks else [])])
        ends[:, self.moved] = -1.0
        ends[0, self.moved] = 1.0
        asked = [float(problem.drops + trunks.on_ports), *[float(trunks.in_slots)] * (len(ends) - 1)]
        self.covering += range(len(rows) + 2, len(rows) + len(ends))
        rows.add_all(ends, asked, np.inf)
        sets = self._block(range(group.rows.held, group.rows.held + len(group.up_sets)))
        sets[:, needs] = group.curable * powered
        if self.centres:
            sets[:, self.first_centre : self.first_level] = np.eye(len(sets))
        self.covering += range(len(rows), len(rows) + len(sets) + bool(self.centres))
        rows.add_all(sets, group.asked.astype(np.float64), np.inf)
        rows.add_all(self._block([CARRIES], 0.001), problem.traffic_kbit / 1000, np.inf)
        self._add_power_rows(levels)

    def _add_centre_rows(self, centres: Sequence[BoxType]) -> None:
        """Links end on ports and in slots that the centre has; what they take, its drops do not find."""
        rates, in_slot = self.choices.ways.rate_mbit, self.choices.in_centre_slot
        chosen = np.flatnonzero(self.choices.is_centre).tolist()
        holds = self.group.rows.all_hold(centres)
        sets, width = holds.shape[1], self._rows.width
        if len(centres) > 1:
            held = np.zeros((sets, width))
            held[:, chosen], held[:, self.first_centre : self.first_level] = holds.T, -np.eye(sets)
            self._rows.add_all(held, 0.0, np.inf)
        for rate in np.unique(rates[in_slot & (rates > 0)]).tolist():
            links = np.zeros((1, width))
            links[0, : self.first_need] = np.where(in_slot & (rates >= rate), -1.0, 0.0)
            links[0, chosen] = [sum(count for count, speed in centre.slots if speed >= rate) for centre in centres]
            self._rows.add_all(links, 0.0, np.inf)
        for rate in np.unique(rates[~in_slot & (rates > 0)]).tolist():
            ports = np.array([centre.ports_with(rate, 0) for centre in centres])
            either = np.array([self.group.rows.ports_or_faster(centre, rate) for centre in centres])
            most = np.minimum(self.group.problem.boxes_most, ports)
            shorter = np.flatnonzero((holds + most[:, None] > either).any(axis=0))
            links = np.zeros((1 + len(shorter), width))
            links[:, : self.first_need] = np.where(~in_slot & (rates >= rate), -1.0, 0.0)
            links[0, chosen], links[1:, chosen] = ports, either[:, shorter].T
            links[1 + np.arange(len(shorter)), self.first_centre + shorter] = -1.0
            self._rows.add_all(links, 0.0, np.inf)

    def _add_power_rows(self, levels: Sequence[int]) -> None:
        """All watts together, and those that each level of supply efficiency gives."""
        group, needs = self.group, self.group.problem.needs
        watts = {self.first_need + n: need.power_mw / 1000 for n, (need, _) in enumerate(needs) if need.poe_rank}
        budgets = dict(enumerate((self.table[:, POWER] / 1000).tolist()))
        if group.power_mw:
            self.covering.append(len(self._rows))
        self._rows.add(budgets | watts, group.power_mw / 1000)
        if self.weight == "price":
            return
        drawn = dict(watts)
        for place, level in enumerate(levels):
            column = self.first_level + place
            drawn[column] = 0.001
            alike = np.array([box.model.efficiency_percent == level for box in self.boxes])[self.place]
            given = {k: budgets[k] for k in self._over(alike)}
            self._rows.add({**given, column: -0.001}, 0.0)
        self._rows.add(drawn, group.power_mw / 1000)


def _most(at_once: float, box: BoxType) -> float:
    if box.is_root:
        return 1.0
    return at_once if box.most is None else float(box.most)
