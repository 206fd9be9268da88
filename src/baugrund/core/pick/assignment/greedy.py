"""Quick seatings: good ones found greedily, or the one from before with what changed.  ``assignment`` finds the
best."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from itertools import product

from ...demand.needs import DropNeed, Need
from ..model.links import LinkOption
from ..model.places import Before, LinkEnds, Place, TrunkEnds
from ..model.problem import Problem
from ..model.seating import Link, Seat, Seating, TrunkSeat
from ..model.supply import BoxType, InjectorType, LinkEnd

UNLIMITED = 10**12


FIRSTS = ("price", "share", "power", "rate")
"""What links are laid by, see ``_Greedy``."""


def quick_seating(problem: Problem, boxes: Sequence[BoxType], firsts: Sequence[str] = FIRSTS) -> Seating | None:
    """A feasible star seating found greedily, around any centre; None when the greedy way finds none.  ``firsts``: what
    links are laid by."""
    centres = [place for place, box in enumerate(boxes) if box not in boxes[:place]]
    for tight, first, place in product((False, True), firsts, centres):
        seating = _Greedy(problem, boxes, place, first, tight).seat()
        if seating:
            return seating
    return None


def seating_as_before(
    problem: Problem, boxes: Sequence[BoxType], before: Before, asked: Sequence[DropNeed]
) -> Seating | None:
    """A star seating that keeps every drop where it was, as far as that still serves; None when it does not."""
    uppers = {link.upper for link in before.links if link.upper}
    if len(uppers) > 1:
        return None
    return _Greedy(problem, boxes, min(uppers, default=0), "price", tight=False).reseat(before, asked)


class _Greedy:
    """Links first, then the hardest drops first, each on the least port that serves it.

    Links first of all cost least, or carry the box's share of the traffic by its ports, or leave powered ports to the
    drops, or are fast (the fastest box choosing first).
    Powered drops go where most watts are left, or (``tight``) where least are.
    """

    def __init__(self, problem: Problem, boxes: Sequence[BoxType], centre: int, first: str, tight: bool) -> None:
        self.first = first
        self.tight = tight
        self.injectors_left = {i: i.most for i in problem.injectors if i.most is not None}
        self.modules_left = {m: m.most for m in problem.modules if m.most is not None}
        uplink = boxes[0].uplink
        if uplink and uplink.module in self.modules_left:
            self.modules_left[uplink.module] -= boxes[0].uplink_ends
        self.problem = problem
        self.boxes = tuple(boxes)
        self.centre = centre
        self.free = [[port.count for port in box.ports] for box in boxes]
        self.ports_left = [box.ports_most for box in boxes]
        self.slots_left = [[count for count, _ in box.slots] for box in boxes]
        self.powered_left = [box.powered_most for box in boxes]
        self.power_left = [box.power_most_mw for box in boxes]
        self.link_left = [UNLIMITED] * len(boxes)
        self.centre_link_left = UNLIMITED
        """Traffic that each switch's link, and the link from router to centre, still carries [kbit/s]."""
        self.seats: Counter[tuple[int, int, int, InjectorType | None]] = Counter()
        self.trunks: list[TrunkSeat] = []

    def seat(self) -> Seating | None:
        """Place the links, then seat every drop."""
        links = self._link()
        if links is None:
            return None
        self._open(links)
        if not self._seat_trunks(()):
            return None
        own = sum(self.problem.traffics_down[: self.ports_left[0] + len(self.trunks)])
        if self.centre and self.problem.traffic_kbit - own > self.centre_link_left:
            return None
        return self._finish(links, dict(enumerate(count for _, count in self.problem.needs)))

    def reseat(self, before: Before, asked: Sequence[DropNeed]) -> Seating | None:
        """Keep the links, and every drop on the port that it had where that still serves; seat the others."""
        links = self._keep_links(before.links)
        if links is None:
            return None
        self._open(links)
        if not self._seat_trunks(before.trunks):
            return None
        numbers = {need: number for number, (need, _) in enumerate(self.problem.needs)}
        left = dict(enumerate(count for _, count in self.problem.needs))
        had: dict[tuple[int | None, str], list[Place]] = {}
        for place in before.places:
            had.setdefault(_whose(place), []).append(place)
        injectors = {injector.model.key: injector for injector in self.problem.injectors}
        for one in asked:
            places = had.get(_whose(one), [])
            if places and self._keep(numbers[one.need], one.need, places.pop(), injectors):
                left[numbers[one.need]] -= 1
        return self._finish(links, left)

    def _keep_links(self, ends: Sequence[LinkEnds]) -> list[tuple[int, int, LinkOption]] | None:
        links = []
        for end in ends:
            if max(end.upper, end.lower) >= len(self.boxes) or self.centre not in (end.upper, end.lower):
                return None
            options = self.problem.link_options(self.boxes[end.upper], self.boxes[end.lower])
            same = [o for o in options if end.fits(o) and self._may_take(end.upper, end.lower, o)]
            if not same:
                return None
            self._take_end(end.upper, same[0].upper)
            self._take_end(end.lower, same[0].lower)
            links.append((end.upper, end.lower, same[0]))
        return links

    def _keep(self, number: int, need: Need, place: Place, injectors: Mapping[str, InjectorType]) -> bool:
        injector = injectors.get(place.injector) if place.injector else None
        if place.injector and (
            injector is None or not injector.serves(need) or not self.injectors_left.get(injector, 1)
        ):
            return False
        powered = bool(need.poe_rank) and injector is None
        if (place.box, place.port) not in self._places(need, powered):
            return False
        self._sit(number, need, place.box, place.port, injector)
        if injector in self.injectors_left:
            self.injectors_left[injector] -= 1
        return True

    def _open(self, links: Sequence[tuple[int, int, LinkOption]]) -> None:
        for upper, lower, option in links:
            if (upper, lower) == (0, self.centre):
                self.centre_link_left = option.carries_kbit
            else:
                self.link_left[lower] = option.carries_kbit

    def _finish(self, links: Sequence[tuple[int, int, LinkOption]], left: Mapping[int, int]) -> Seating | None:
        """Seat what is left over and check what only shows at the end."""
        if not self._seat_all(left) or not self._frames_pass() or not self._resources_suffice():
            return None
        behind = [0] * len(self.boxes)
        for (need, box, _, _), count in self.seats.items():
            behind[box] += self.problem.needs[need][0].traffic_kbit * count
        for seat in self.trunks:
            behind[seat.box] += seat.trunk.traffic_kbit
        total = sum(behind)
        flowing = tuple(
            Link(upper, lower, option, total - behind[0] if (upper, lower) == (0, self.centre) else behind[lower])
            for upper, lower, option in links
        )
        seats = tuple(
            Seat(self.problem.needs[need][0], box, port, injector, count)
            for (need, box, port, injector), count in self.seats.items()
        )
        return Seating(self.boxes, seats, flowing, tuple(self.trunks))

    def _link(self) -> list[tuple[int, int, LinkOption]] | None:
        pairs = [(0, self.centre)] if self.centre else []
        pairs += [(self.centre, place) for place in range(1, len(self.boxes)) if place != self.centre]
        if self.first == "share":
            pairs.sort(key=lambda pair: -self._share_kbit(pair[1]))
        if self.first == "rate":
            pairs.sort(key=lambda pair: -max((port.speed_mbit for port in self.boxes[pair[1]].ports), default=0))
        links = []
        for upper, lower in pairs:
            options = self.problem.link_options(self.boxes[upper], self.boxes[lower])
            free = [option for option in options if self._may_take(upper, lower, option)]
            if not free:
                return None
            option = min(free, key=lambda o: self._link_rank(upper, lower, o))
            self._take_end(upper, option.upper)
            self._take_end(lower, option.lower)
            links.append((upper, lower, option))
        return links

    def _seat_trunks(self, before: Sequence[TrunkEnds]) -> bool:
        """End the links to fed closets: where they were, else at the root or centre, without a module where that
        does."""
        had = {end.closet_id: end for end in before}
        for trunk in self.problem.trunks:
            ends = [
                (place, end)
                for place, box in enumerate(self.boxes)
                if self._link_room(place) >= trunk.traffic_kbit
                for end in trunk.ends_at(self.problem.modules, box)
                if self._is_free(place, end, trunk.ends) and self._modules_suffice(end, trunk.ends)
            ]
            if not ends:
                return False
            old = had.get(trunk.closet_id)

            def rank_of(place: int, end: LinkEnd, old: TrunkEnds | None = old) -> tuple[int, ...]:
                port = self.boxes[place].ports[end.port] if end.port is not None else None
                wasted = port.poe_rank if port else 0
                return (
                    0 if old and old.fits(place, end) else 1, end.price_minor, 0 if place in (0, self.centre) else 1,
                    wasted, port.speed_mbit if port else 0, place,
                )  # fmt: skip

            place, end = min(ends, key=lambda one: rank_of(*one))
            self._take_end(place, end, trunk.ends)
            self.link_left[place] -= trunk.traffic_kbit
            if place:
                self.centre_link_left -= trunk.traffic_kbit
            self.trunks.append(TrunkSeat(trunk, place, end))
        return True

    def _share_kbit(self, place: int) -> int:
        """A box's share of all traffic by its ports and their speeds [kbit/s]."""
        weights = [sum(port.count * port.speed_mbit for port in box.ports) for box in self.boxes]
        return self.problem.traffic_kbit * weights[place] // max(1, sum(weights))

    def _may_take(self, upper: int, lower: int, option: LinkOption) -> bool:
        """Whether both ends are free and modules for them are left."""
        ends = ((upper, option.upper), (lower, option.lower))
        wanted = Counter(end.module for _, end in ends if end.module)
        enough = all(self.modules_left.get(module, count) >= count for module, count in wanted.items())
        return enough and all(self._is_free(box, end) for box, end in ends)

    def _is_free(self, box: int, end: LinkEnd, ends: int = 1) -> bool:
        if end.port is not None:
            return self.free[box][end.port] >= ends and self.ports_left[box] >= ends
        return end.slot is not None and self.slots_left[box][end.slot] >= ends

    def _modules_suffice(self, end: LinkEnd, ends: int) -> bool:
        return end.module is None or self.modules_left.get(end.module, ends) >= ends

    def _take_end(self, box: int, end: LinkEnd, ends: int = 1) -> None:
        if end.port is not None:
            self.free[box][end.port] -= ends
            self.ports_left[box] -= ends
        elif end.slot is not None:
            self.slots_left[box][end.slot] -= ends
        if end.module in self.modules_left:
            self.modules_left[end.module] -= ends

    def _link_rank(self, upper: int, lower: int, option: LinkOption) -> tuple[int, ...]:
        ends = ((upper, option.upper.port), (lower, option.lower.port))
        wasted = sum(port is not None and self.boxes[box].ports[port].poe_rank > 0 for box, port in ends)
        ports = sum(port is not None for _, port in ends)
        if self.first == "share":
            share = self.problem.traffic_kbit if (upper, lower) == (0, self.centre) else self._share_kbit(lower)
            slow = max(0, share - option.carries_kbit)
            return slow, option.price_minor, wasted, -option.rate_mbit, ports
        if self.first == "rate":
            return -option.rate_mbit, option.price_minor, wasted, ports
        if self.first == "power":
            return wasted, option.price_minor, -option.rate_mbit, ports
        return option.price_minor, wasted, -option.rate_mbit, ports

    def _seat_all(self, left: Mapping[int, int]) -> bool:
        leftover: list[tuple[int, int]] = []
        for number, (need, _) in enumerate(self.problem.needs):
            rest = self._seat_some(number, need, left[number], None)
            if rest:
                leftover.append((number, rest))
        return all(self._inject(number, count) for number, count in leftover)

    def _inject(self, number: int, count: int) -> bool:
        """Seat drops through injectors, the cheapest that is left first."""
        need = self.problem.needs[number][0]
        for injector in self.problem.injectors_for[need]:
            some = min(count, self.injectors_left.get(injector, count))
            rest = self._seat_some(number, need, some, injector)
            if injector in self.injectors_left:
                self.injectors_left[injector] -= some - rest
            count -= some - rest
            if not count:
                return True
        return False

    def _seat_some(self, number: int, need: Need, count: int, injector: InjectorType | None) -> int:
        """Seat up to ``count`` drops; returns how many are left over."""
        powered = bool(need.poe_rank) and injector is None
        while count:
            places = list(self._places(need, powered))
            if not places:
                return count
            box, port = min(places, key=lambda place: self._rank(place, powered))
            self._sit(number, need, box, port, injector)
            count -= 1
        return 0

    def _sit(self, number: int, need: Need, box: int, port: int, injector: InjectorType | None) -> None:
        self.seats[number, box, port, injector] += 1
        self.free[box][port] -= 1
        self.ports_left[box] -= 1
        self.link_left[box] -= need.traffic_kbit
        if box:
            self.centre_link_left -= need.traffic_kbit
        if need.poe_rank and injector is None:
            self.powered_left[box] -= 1
            self.power_left[box] -= need.power_mw

    def _places(self, need: Need, powered: bool) -> Iterable[tuple[int, int]]:
        for place, box in enumerate(self.boxes):
            if self._link_room(place) < need.traffic_kbit:
                continue
            if not self.ports_left[place] or (need.large_frames and not box.model.large_frames):
                continue
            if powered and (not self.powered_left[place] or self.power_left[place] < need.power_mw):
                continue
            for group, port in enumerate(box.ports):
                strong = not powered or port.poe_rank >= need.poe_rank
                if strong and self.free[place][group] and port.speed_mbit >= need.speed_mbit:
                    yield place, group

    def _link_room(self, place: int) -> int:
        return min(self.link_left[place], self.centre_link_left) if place else UNLIMITED

    def _rank(self, place: tuple[int, int], powered: bool) -> tuple[int, ...]:
        """The least capable port first; then the box with most watts, or with most room on its link."""
        box, group = place
        port = self.boxes[box].ports[group]
        if not powered:
            return port.poe_rank, port.speed_mbit, -self._link_room(box), box
        return port.poe_rank, port.speed_mbit, self.power_left[box] if self.tight else -self.power_left[box], box

    def _frames_pass(self) -> bool:
        asking = {box for (need, box, _, _), _ in self.seats.items() if self.problem.needs[need][0].large_frames}
        asking |= {seat.box for seat in self.trunks if seat.trunk.large_frames}
        if self.problem.uplink and self.problem.uplink.large_frames:
            asking.add(0)
        return len(asking) < 2 or self.boxes[self.centre].model.large_frames

    def _resources_suffice(self) -> bool:
        injectors = [(injector, count) for (_, _, _, injector), count in self.seats.items() if injector]
        taken = (
            sum(box.takes[number] for box in self.boxes) + sum(one.takes[number] * count for one, count in injectors)
            for number in self.problem.limited
        )
        return all(some <= self.problem.capacities[n] for n, some in zip(self.problem.limited, taken, strict=True))


def _whose(one: Place | DropNeed) -> tuple[int | None, str]:
    """The identity of a drop across two states: its number, or for a drop in reserve its kind."""
    return one.drop_id, one.kind if one.in_reserve else ""
