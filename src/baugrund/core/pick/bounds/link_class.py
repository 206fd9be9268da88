"""What a configuration can hold at most, without saying where each drop sits.

A box holds no more of an up-set than it has ports, powered ports and watts for, and no more than the traffic that its
own link carries.  A switch enters once for every way that its link may be made (`choices`).  Roots whose links reach
the same rate share a ``LinkClass``.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from ...demand.traffic import carried_kbit
from ..model.links import Trunk
from ..model.problem import Problem
from ..model.supply import BoxType, LinkEnd, mains_mw
from ..presolve.instance_dominance import StandIns
from .box_rows import BoxRows, Hung, Kept, Rows


def fastest_end_mbit(problem: Problem, box: BoxType) -> int:
    """Fastest way to end a link at a box [Mbit/s]."""
    return max((end.speed_mbit for end in problem.ends(box)), default=0)


def link_classes(problem: Problem) -> list[LinkClass]:
    """Roots grouped by the fastest rate that a link below them can have; those that cannot work are left out."""
    rows, stand_ins = BoxRows(problem), StandIns(problem)
    return [LinkClass(rows, roots, rate, stand_ins) for rate, roots in sorted(roots_by_rate(problem).items())]


def roots_by_rate(problem: Problem) -> dict[int, list[BoxType]]:
    """Roots by the fastest rate that a link below them can have [Mbit/s], but those that cannot work."""
    between = max((fastest_end_mbit(problem, box) for box in problem.switches), default=0)
    groups: dict[int, list[BoxType]] = {}
    for root in problem.roots:
        own = fastest_end_mbit(problem, root)
        crossing = problem.traffic_kbit - own_traffic_kbit(problem, root)
        rates = [own] if crossing <= _link_room_kbit(problem, root) else []
        centre_link = carried_kbit(min(own, between), problem.fill_percent)
        if problem.chain_allowed or crossing <= centre_link:
            rates.append(max(between, own))
        if rates:
            groups.setdefault(max(rates), []).append(root)
    return groups


def own_traffic_kbit(problem: Problem, box: BoxType) -> int:
    """Most traffic that sits on a box's own ports and slots [kbit/s]."""
    ends = box.ports_most + (box.slot_count if problem.trunks else 0)
    return sum(problem.traffics_down[: max(0, ends)])


def _link_room_kbit(problem: Problem, root: BoxType) -> int:
    ends = sum(port.count * port.speed_mbit for port in root.ports)
    if problem.modules:
        ends += sum(count * speed for count, speed in root.slots)
    return carried_kbit(ends, problem.fill_percent)


class LinkClass(Kept):
    """Roots whose links reach ``rate_mbit``, and every choice of box behind them."""

    def __init__(self, rows: BoxRows, roots: Sequence[BoxType], rate_mbit: int, stand_ins: StandIns) -> None:
        """``rows`` of the boxes of a problem, and where these need not be looked at under price."""
        super().__init__()
        self.problem = rows.problem
        self.rows = rows
        self.roots = tuple(roots)
        self.rate_mbit = rate_mbit
        self.stand_ins = stand_ins
        self.up_sets = rows.up_sets
        self.asked = np.array([up_set.count for up_set in self.up_sets])
        self.trunks = trunk_ends(self.problem)
        self.power_mw = sum(need.power_mw * count for need, count in self.problem.needs)
        self._uppers = self._upper_ends(roots)

    def _upper_ends(self, roots: Sequence[BoxType]) -> list[LinkEnd]:
        """The cheapest upper side of a link at any box, by medium, speed and whether it is a slot."""
        ends: dict[tuple[str, int, bool], LinkEnd] = {}
        for box in (*roots, *self.problem.switches):
            for end in self.problem.ends(box):
                key = (end.medium, end.speed_mbit, end.slot is not None)
                if key not in ends or end.price_minor < ends[key].price_minor:
                    ends[key] = end
        return list(ends.values())

    @property
    def hung_anyhow(self) -> Hung:
        """Switches with every link worth having, whatever it ends at."""
        return self.once("hung anyhow", self._hang_anyhow)

    def _hang_anyhow(self) -> Hung:
        problem, slots_are_asked = self.problem, bool(self.problem.trunks)
        ways = [
            problem.table.any_ways(self._uppers, problem.ends(box), self.rate_mbit, slots_are_asked)
            for box in self.rows.sorts
        ]
        return self.rows.hung_by(ways, any_port=True)

    @cached_property
    def groups(self) -> NDArray[np.float64]:
        """Boxes, roots first, that are counted together, a row of ones and zeros each: those that can hold some of each
        up-set, but for those that all can."""
        held = self.rows.all_hold((*self.roots, *self.problem.switches)) > 0
        able = {column.tobytes(): column for column in held.T}
        some = [column for column in able.values() if 1 < column.sum() < len(column)]
        return np.array(some, dtype=np.float64).reshape(len(some), len(self.roots) + len(self.problem.switches))

    @cached_property
    def curable(self) -> Rows:
        """Whether an injector takes a need (a column each) out of an up-set."""
        needs = range(len(self.problem.needs))
        cured = [[n in up_set.curable for n in needs] for up_set in self.up_sets]
        return np.array(cured, dtype=np.int64).reshape(len(cured), len(needs))

    @cached_property
    def limits(self) -> Limits:
        """What sets must keep to."""
        problem, trunks = self.problem, self.trunks
        # what no injector mends comes first, then the dearest cure
        prices = {up_set.cure_minor for up_set in self.up_sets}
        cures = sorted(prices, key=lambda price: (price is not None, -(price or 0)))
        cured_by = [cures.index(up_set.cure_minor) for up_set in self.up_sets]
        return Limits(
            bool(problem.trunks), problem.drops + trunks.on_ports, trunks.in_slots, trunks.may_move,
            trunks.least_minor, trunks.move_minor, problem.traffic_kbit, self.power_mw,
            np.array(problem.capacities, dtype=np.int64), np.array(problem.injector_takes, dtype=np.int64),
            min((injector.price_minor for injector in problem.injectors), default=-1),
            np.cumsum(np.array(problem.powers_down, dtype=np.int64)), np.array(self.asked, dtype=np.int64),
            np.array(cured_by, dtype=np.int64),
            np.array([-1 if price is None else price for price in cures], dtype=np.int64),
        )  # fmt: skip

    def least_price(self, sets: Rows) -> Rows:
        """Least price of each set with its injectors and modules [minor]; −1 where no assignment can exist."""
        from .link_prices import least_prices

        prices: Rows = least_prices(sets, self.limits)
        return prices


class Limits(NamedTuple):
    """What configurations must keep to, and what it costs to."""

    slots_are_asked: bool
    """Whether links to fed closets may take slots."""
    ends: int
    """Ports that drops and links to fed closets ask for."""
    in_slots: int
    """Slots that such links must have."""
    may_move: int
    """How many on ports may be in slots."""
    least_minor: int
    """Least price of the modules of those that must."""
    move_minor: int
    """Least price of a module that takes one from a port to a slot."""
    traffic_kbit: int
    power_mw: int
    """Of all drops."""
    capacities: Rows
    """Of each resource of the closet."""
    injector_takes: Rows
    """What an injector takes of each at least."""
    injector_minor: int
    """The cheapest; −1: there is none."""
    leaving_mw: Rows
    """Most watts that 1, 2, ... devices take away when they leave the boxes' budget."""
    asked: Rows
    """Drops of each up-set."""
    cured_by: Rows
    """Of each up-set the number of what mends a shortage."""
    cures_minor: Rows
    """Least prices of injectors that do, the dearest first; before them −1, where none does."""


@dataclass(frozen=True)
class EndsTaken:
    """Ends of links to fed closets together: those that must be in slots, those that may be on ports, and prices."""

    in_slots: int
    on_ports: int
    may_move: int
    """How many of those on ports could be in slots."""
    least_minor: int
    """Least price of the modules of those in slots."""
    move_minor: int
    """Least price of a module that takes one from a port to a slot."""


def trunk_ends(problem: Problem) -> EndsTaken:
    """The ends that links to fed closets take."""

    def module_minor(trunk: Trunk) -> int | None:
        slots = (LinkEnd(None, 0, module, module.model.medium, module.model.speed_mbit) for module in problem.modules)
        return min((end.price_minor for end in slots if trunk.takes(end)), default=None)

    fibre = [trunk for trunk in problem.trunks if trunk.medium != "copper"]
    copper = [(trunk, module_minor(trunk)) for trunk in problem.trunks if trunk.medium == "copper"]
    return EndsTaken(
        in_slots=sum(trunk.ends for trunk in fibre),
        on_ports=sum(trunk.ends for trunk, _ in copper),
        may_move=sum(trunk.ends for trunk, price in copper if price is not None),
        least_minor=sum(trunk.ends * (module_minor(trunk) or 0) for trunk in fibre),
        move_minor=min((price for _, price in copper if price is not None), default=0),
    )


def least_mains(problem: Problem, boxes: Sequence[BoxType]) -> int:
    """Least mains draw with port watts of a configuration [mW]: the thriftiest supplies give all they can first."""
    supplies = [(box.model.efficiency_percent, box.power_most_mw) for box in boxes if box.power_most_mw]
    supplies += [(injector.model.efficiency_percent, 10**12) for injector in problem.injectors]
    supplies.sort(reverse=True)
    own = sum(box.own_mains_mw for box in boxes)
    if not supplies:
        return own
    thriftiest = supplies[0][0]
    by_drop = sum(mains_mw(power, thriftiest) for power in problem.powers_down)
    left, by_watts = sum(problem.powers_down), 0
    for efficiency, power in supplies:
        given = min(left, power)
        by_watts += given * 100 // efficiency
        left -= given
    return own + max(by_drop, by_watts)
