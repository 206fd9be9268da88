"""The best way to use a given set of boxes, exactly: a small constraint model of seats, links and flows."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import pairwise

from ortools.sat.python import cp_model

from .links import LinkOption, Trunk
from .problem import Problem
from .relaxation import Weight
from .seating import Link, Seat, Seating, TrunkSeat, seat_mains_mw
from .supply import BoxType, InjectorType, LinkEnd, ModuleType

TIME_LIMIT_S = 5.0
"""A set of boxes not settled by then counts as unproven, and the answer says so."""


@dataclass(frozen=True, eq=False)
class Packed:
    """Outcome for one set of boxes: the best seating or None, and whether that is certain."""

    seating: Seating | None
    proven: bool


def pack(problem: Problem, boxes: Sequence[BoxType], weight: Weight, ceiling: int | None = None) -> Packed:
    """Least (price, own mains draw) or (mains draw, price) of injectors, modules and seats for these boxes.

    ``ceiling`` bounds the first of the two for injectors, modules and seats: dearer packings count as none.
    """
    return _Packing(problem, tuple(boxes)).solve(weight, ceiling)


class _Packing:
    def __init__(self, problem: Problem, boxes: tuple[BoxType, ...]) -> None:
        self.problem = problem
        self.boxes = boxes
        self.model = cp_model.CpModel()
        self.seats: dict[tuple[int, int, int, InjectorType | None], cp_model.IntVar] = {}
        self.options: dict[tuple[int, int], list[tuple[LinkOption, cp_model.IntVar]]] = {}
        self.flow: dict[tuple[int, int], cp_model.IntVar] = {}
        self.trunks: list[tuple[Trunk, int, LinkEnd, cp_model.IntVar]] = []
        self._add_seats()
        self._add_tree()
        self._add_trunks()
        self._add_ports()
        self._add_power()
        self._add_flow()
        self._add_large_frames()
        self._add_sockets()
        self._break_symmetry()

    def _add_seats(self) -> None:
        for number, (need, count) in enumerate(self.problem.needs):
            ways = []
            for place, box in enumerate(self.boxes):
                if need.large_frames and not box.model.large_frames:
                    continue
                for group, port in enumerate(box.ports):
                    if port.speed_mbit < need.speed_mbit:
                        continue
                    feeds: list[InjectorType | None] = []
                    if port.poe_rank >= need.poe_rank:
                        feeds.append(None)
                    if need.poe_rank:
                        feeds += self.problem.injectors_for[need]
                    for feed in feeds:
                        seat = self.model.new_int_var(0, min(count, port.count), "")
                        self.seats[number, place, group, feed] = seat
                        ways.append(seat)
            self.model.add(sum(ways) == count)

    def _add_tree(self) -> None:
        count = len(self.boxes)
        model = self.model
        self.linked: dict[tuple[int, int], cp_model.IntVar] = {}
        for lower in range(1, count):
            for upper in range(count):
                if upper == lower:
                    continue
                options = self.problem.link_options(self.boxes[upper], self.boxes[lower])
                self.options[upper, lower] = [(option, model.new_bool_var("")) for option in options]
                linked = self.linked[upper, lower] = model.new_bool_var("")
                model.add(sum(chosen for _, chosen in self.options[upper, lower]) == linked)
            model.add(sum(linked for (_, below), linked in self.linked.items() if below == lower) == 1)
        if self.problem.chain_allowed:
            depth = [model.new_int_var(0, count - 1, "") for _ in range(count)]
            for (upper, lower), linked in self.linked.items():
                model.add(depth[lower] >= depth[upper] + 1 - count * (1 - linked))
        elif count > 1:
            hub = [model.new_bool_var("") for _ in range(count)]
            model.add_exactly_one(hub)
            for (upper, lower), linked in self.linked.items():
                model.add(linked <= (hub[upper] if upper else hub[0] + hub[lower]))

    def _add_trunks(self) -> None:
        """Each link to a fed closet ends at one box, on one port group or in one slot group."""
        for trunk in self.problem.trunks:
            ways = [
                (trunk, place, end, self.model.new_bool_var(""))
                for place, box in enumerate(self.boxes)
                for end in trunk.ends_at(self.problem.modules, box)
            ]
            self.model.add(sum(chosen for *_, chosen in ways) == 1)
            self.trunks += ways

    def _add_ports(self) -> None:
        for place, box in enumerate(self.boxes):
            taken_all: list[cp_model.LinearExprT] = []
            for group, port in enumerate(box.ports):
                seated = [v for (_, b, g, _), v in self.seats.items() if (b, g) == (place, group)]
                taken = [*seated, *self._ends_at(place, port=group)]
                self.model.add(sum(taken) <= port.count)
                taken_all += taken
            if box.ports_most < box.model.port_count:
                self.model.add(sum(taken_all) <= box.ports_most)
            for group, (count, _) in enumerate(box.slots):
                self.model.add(sum(self._ends_at(place, slot=group)) <= count)
        for module in self.problem.modules:
            if module.most is not None:
                self.model.add(self._used(module) <= module.most)

    def _used(self, module: ModuleType) -> cp_model.LinearExprT:
        """How many copies of a module all ends together take."""
        laid = [
            chosen
            for options in self.options.values()
            for option, chosen in options
            for end in (option.upper, option.lower)
            if end.module is module
        ]
        trunks = [trunk.ends * chosen for trunk, _, end, chosen in self.trunks if end.module is module]
        uplink = self.boxes[0].uplink
        return sum(laid) + sum(trunks) + (self.boxes[0].uplink_ends if uplink and uplink.module is module else 0)

    def _ends_at(self, place: int, port: int | None = None, slot: int | None = None) -> list[cp_model.LinearExprT]:
        ends: list[cp_model.LinearExprT] = []
        for (upper, lower), options in self.options.items():
            for option, chosen in options:
                for box, end in ((upper, option.upper), (lower, option.lower)):
                    if box == place and (end.port, end.slot) == (port, slot):
                        ends.append(chosen)
        for trunk, box, end, chosen in self.trunks:
            if box == place and (end.port, end.slot) == (port, slot):
                ends.append(trunk.ends * chosen)
        return ends

    def _add_power(self) -> None:
        for place, box in enumerate(self.boxes):
            fed = [
                (self.problem.needs[number][0], seat)
                for (number, b, _, injector), seat in self.seats.items()
                if b == place and injector is None and self.problem.needs[number][0].poe_rank
            ]
            self.model.add(sum(need.power_mw * seat for need, seat in fed) <= box.power_most_mw)
            if box.powered_most < box.model.powered_count:
                self.model.add(sum(seat for _, seat in fed) <= box.powered_most)

    def _add_flow(self) -> None:
        total = self.problem.traffic_kbit
        for (upper, lower), options in self.options.items():
            flow = self.model.new_int_var(0, total, "")
            self.flow[upper, lower] = flow
            self.model.add(flow <= sum(min(total, option.carries_kbit) * chosen for option, chosen in options))
        for place in range(1, len(self.boxes)):
            amounts = [need.traffic_kbit for need, _ in self.problem.needs]
            self._conserve(self.flow, place, amounts, lambda trunk: trunk.traffic_kbit)

    def _conserve(
        self,
        flow: dict[tuple[int, int], cp_model.IntVar],
        place: int,
        amounts: Sequence[int],
        of_trunk: Callable[[Trunk], int],
    ) -> None:
        """What leaves a box upwards is what sits on it and what comes from below."""
        here = [amounts[n] * seat for (n, b, _, _), seat in self.seats.items() if b == place and amounts[n]]
        here += [of_trunk(trunk) * chosen for trunk, b, _, chosen in self.trunks if b == place and of_trunk(trunk)]
        below = [v for (upper, _), v in flow.items() if upper == place]
        above = [v for (_, lower), v in flow.items() if lower == place]
        self.model.add(sum(above) == sum(here) + sum(below))

    def _add_large_frames(self) -> None:
        """A link that lies between two drops asking for large frames must join two boxes that pass them."""
        asks = [int(need.large_frames) for need, _ in self.problem.needs]
        total = sum(count for need, count in self.problem.needs if need.large_frames)
        total += sum(trunk.large_frames for trunk in self.problem.trunks)
        total += bool(self.problem.uplink and self.problem.uplink.large_frames)
        if total < 2:
            return
        below: dict[tuple[int, int], cp_model.IntVar] = {}
        for (upper, lower), linked in self.linked.items():
            below[upper, lower] = self.model.new_int_var(0, total, "")
            self.model.add(below[upper, lower] <= total * linked)
            if not (self.boxes[upper].model.large_frames and self.boxes[lower].model.large_frames):
                all_below = self.model.new_bool_var("")
                self.model.add(below[upper, lower] == total * all_below)
        for place in range(1, len(self.boxes)):
            self._conserve(below, place, asks, lambda trunk: int(trunk.large_frames))

    def _add_sockets(self) -> None:
        problem = self.problem
        used = [seat for (_, _, _, injector), seat in self.seats.items() if injector]
        self.model.add(sum(used) + sum(box.model.sockets for box in self.boxes) <= problem.sockets)
        if problem.ups_outlets is not None:
            self.model.add(sum(used) + len(self.boxes) <= problem.ups_outlets)
        for owned in problem.injectors:
            if owned.most is not None:
                mine = [seat for (_, _, _, injector), seat in self.seats.items() if injector is owned]
                self.model.add(sum(mine) <= owned.most)

    def _break_symmetry(self) -> None:
        """Equal boxes are ordered by how many drops sit on them."""
        for a, b in pairwise(range(1, len(self.boxes))):
            if self.boxes[a] is self.boxes[b]:
                on = [sum(v for (_, place, _, _), v in self.seats.items() if place == x) for x in (a, b)]
                self.model.add(on[0] >= on[1])

    def solve(self, weight: Weight, ceiling: int | None) -> Packed:
        price = [option.price_minor * chosen for options in self.options.values() for option, chosen in options]
        price += [trunk.ends * end.price_minor * chosen for trunk, _, end, chosen in self.trunks]
        price += [inj.price_minor * seat for (_, _, _, inj), seat in self.seats.items() if inj]
        own = [inj.own_mains_mw * seat for (_, _, _, inj), seat in self.seats.items() if inj]
        mains = own + [
            seat_mains_mw(self.problem.needs[number][0], injector or self.boxes[place]) * seat
            for (number, place, _, injector), seat in self.seats.items()
        ]
        first, second = (price, own) if weight == "price" else (mains, price)
        if ceiling is not None:
            self.model.add(sum(first) <= ceiling)
        self.model.minimize(sum(first) * self._step(weight) + sum(second))
        solver = cp_model.CpSolver()
        solver.parameters.num_workers = 1
        solver.parameters.random_seed = 1
        solver.parameters.cp_model_probing_level = 0
        solver.parameters.max_time_in_seconds = TIME_LIMIT_S
        status = solver.solve(self.model)
        if status == cp_model.INFEASIBLE:
            return Packed(None, True)
        if status not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
            return Packed(None, False)
        return Packed(self._read(solver), status == cp_model.OPTIMAL)

    def _step(self, weight: Weight) -> int:
        """One more than the most the second aim can come to, so that the first decides."""
        drops = self.problem.drops
        if weight == "price":
            return 1 + drops * max((i.own_mains_mw for i in self.problem.injectors), default=0)
        module = max((m.price_minor for m in self.problem.modules), default=0)
        injector = max((i.price_minor for i in self.problem.injectors), default=0)
        ends = 2 * len(self.boxes) + sum(trunk.ends for trunk in self.problem.trunks)
        return 1 + drops * injector + ends * module

    def _read(self, solver: cp_model.CpSolver) -> Seating:
        seats = tuple(
            Seat(self.problem.needs[number][0], place, group, injector, solver.value(seat))
            for (number, place, group, injector), seat in self.seats.items()
            if solver.value(seat)
        )
        links = tuple(
            Link(upper, lower, option, solver.value(self.flow[upper, lower]))
            for (upper, lower), options in self.options.items()
            for option, chosen in options
            if solver.value(chosen)
        )
        trunks = tuple(
            TrunkSeat(trunk, place, end) for trunk, place, end, chosen in self.trunks if solver.value(chosen)
        )
        return Seating(self.boxes, seats, links, trunks)
