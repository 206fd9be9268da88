"""The pick of a whole site: the best boxes of every closet together.

Links between closets are given, so closets would stand alone but for what they share: owned kit is there once, and a
pin asks for a box somewhere.  Every closet's best without regard to the others bounds the site; where together they
take more of an owned model than there is, one of them must do with less, and where a pin is not met, one must take
more: branch and bound over that, in the order of the sum.
"""

from __future__ import annotations

import heapq
from collections import Counter
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from contextlib import closing
from dataclasses import dataclass, field, replace
from fractions import Fraction
from functools import partial
from itertools import count as counting
from itertools import zip_longest

from ..demand.needs import Demands, Need
from ..demand.traffic import feeder
from ..facts.catalogue import Catalogue
from ..facts.project import Project
from ..watch import side_by_side
from .model.links import LinkTable, Trunk
from .model.outcomes import Cost, Found, Searched, cost_of
from .model.problem import Problem, build
from .model.seating import Seating
from .model.supply import BoxType, InjectorType, ModuleType

NODES_MOST = 400
"""Ways to share owned kit and pins that are looked at before the search gives up proving."""


@dataclass(frozen=True, eq=False)
class Site:
    """The problems of all closets that need boxes, the head end first, and what they share."""

    closets: tuple[Problem, ...]
    pins: Mapping[str, int]

    @property
    def head_end(self) -> Problem:
        return self.closets[0]


@dataclass(frozen=True, eq=False)
class SiteFound:
    """The best seating of every closet, whether it is proven, and what no pick can be under in the first aim."""

    seatings: tuple[Seating, ...]
    proven: bool
    bound: int
    packs: Mapping[int, int] = field(default_factory=dict)
    """Packs bought of what is sold by the pack, by place in the catalogue."""
    beside_minor: int = 0
    """What these cost beyond what their pieces are counted at in the seatings."""

    @property
    def price_minor(self) -> int:
        return sum(seating.price_minor for seating in self.seatings) + self.beside_minor

    @property
    def box_count(self) -> int:
        return sum(len(seating.boxes) for seating in self.seatings)

    def room(self, margin_percent: float) -> Fraction:
        """Least head-room over every box of the site."""
        return min(seating.room(margin_percent) for seating in self.seatings)


def hinted(site: Site, boxes: Mapping[int, Sequence[str]]) -> Site:
    """The site with the boxes that were best before, by closet and key, the root first: the search begins from them."""
    closets = (replace(problem, hint=tuple(boxes.get(problem.closet_id, ()))) for problem in site.closets)
    return replace(site, closets=tuple(closets))


def site_of(project: Project, catalogue: Catalogue, demands: Demands, trunks: Mapping[int, Trunk]) -> Site:
    """The pick of a project as a problem; closets with nothing in or behind them stay out."""
    problems = []
    for closet in project.closets:
        if closet is not project.head_end and closet.id not in trunks:
            continue
        needs = [asked.need for asked in demands[closet.id].all]
        fed = tuple(
            trunk for number, trunk in trunks.items() if feeder(project, project.closets_by_id[number]) == closet.id
        )
        problems.append(build(project, closet, needs, catalogue, fed, trunks.get(closet.id)))
    return Site(tuple(problems), {stance.model: stance.pinned for stance in project.stances if stance.pinned})


def asks_no_more(earlier: Site, later: Site) -> bool:
    """Whether every pick of the later site, without what came, is one of the earlier one, of the same project: each
    closet asks for no more and has no less.  With False it may be one still."""
    there = {problem.closet_id: problem for problem in later.closets}
    pairs = [(mine, there.get(mine.closet_id)) for mine in earlier.closets]
    return all(other is not None and _asks_no_more(mine, other) for mine, other in pairs)


def _asks_no_more(earlier: Problem, later: Problem) -> bool:
    links, others = ([one for one in (*p.trunks, p.uplink) if one] for p in (earlier, later))
    return (
        {box.model.key for box in later.boxes} <= {box.model.key for box in earlier.boxes}
        and all(there >= asked for there, asked in zip(earlier.capacities, later.capacities, strict=True))
        and len(links) == len(others)
        and all(mine == replace(its, traffic_kbit=mine.traffic_kbit) for mine, its in zip(links, others, strict=True))
        and all(mine.traffic_kbit <= its.traffic_kbit for mine, its in zip(links, others, strict=True))
        and covered(earlier.needs, later.needs)
    )


def covered(earlier: Iterable[tuple[Need, int]], later: Iterable[tuple[Need, int]]) -> bool:
    """Whether each earlier need has a later one of its own that asks for no less; with False there still may be."""
    left, unmatched = Counter(dict(later)), Counter(dict(earlier))
    same = left & unmatched
    left, unmatched = left - same, unmatched - same
    for need in sorted(unmatched.elements(), reverse=True):
        enough = [other for other in left if other.asks_no_less(need)]
        if not enough:
            return False
        # the least of those that are enough, so that the harder ones stay
        left -= Counter([min(enough)])
    return True


Solve = Callable[[Problem], Searched]
Rank = Callable[[Seating], Cost]


def summed(rank: Rank, seatings: Iterable[Seating]) -> Cost:
    """The rank of a site: those of its closets added up, figure by figure."""
    return tuple(map(sum, zip_longest(*map(rank, seatings), fillvalue=0)))


def share(site: Site, solve: Solve, rank: Rank) -> tuple[SiteFound | None, bool]:
    """The least pick of a site, given how to find the least of one closet and how seatings compare; with None, whether
    it is certain that there is none."""
    return _Sharing(site, solve, rank).run()


@dataclass(frozen=True)
class _Shares:
    """What is asked of each closet: at most so many of an owned stock, at least so many of a pinned model."""

    caps: tuple[tuple[int, int, int], ...] = ()
    """(closet, place in the catalogue, most)."""
    floors: tuple[tuple[int, str, int], ...] = ()
    """(closet, model, least)."""

    def of(self, closet: int) -> tuple[dict[int, int], dict[str, int]]:
        caps = {index: most for place, index, most in self.caps if place == closet}
        return caps, {key: least for place, key, least in self.floors if place == closet}

    def capped(self, closet: int, index: int, most: int) -> _Shares:
        rest = tuple(cap for cap in self.caps if cap[:2] != (closet, index))
        return replace(self, caps=tuple(sorted((*rest, (closet, index, most)))))

    def floored(self, closet: int, key: str, least: int) -> _Shares:
        rest = tuple(floor for floor in self.floors if floor[:2] != (closet, key))
        return replace(self, floors=tuple(sorted((*rest, (closet, key, least)))))


_Key = tuple[int, tuple[tuple[int, int], ...], tuple[tuple[str, int], ...]]
"""A closet, and what is asked of it."""


class _Sharing:
    def __init__(self, site: Site, solve: Solve, rank: Rank) -> None:
        self.site = site
        self.solve = solve
        self.rank = rank
        self.kept: dict[_Key, Searched] = {}
        self.stock = {
            kind.index: kind.most for problem in site.closets for kind in stocked(problem) if kind.most is not None
        }
        self.certain = True

    def run(self) -> tuple[SiteFound | None, bool]:
        """Best first over the shares; the first that break nothing are the least."""
        ticket = counting()
        start = self._start()
        heap: list[tuple[Cost, int, _Shares, tuple[Found, ...]]] = []
        seen = {start}

        def push(shares: _Shares) -> None:
            found = self._found(shares)
            if found is not None:
                heapq.heappush(heap, (summed(self.rank, (one.seating for one in found)), next(ticket), shares, found))

        push(start)
        least = sum(one.bound for one in heap[0][3]) if heap else 0
        for _ in range(NODES_MOST):
            if not heap:
                return None, self.certain
            _, _, shares, found = heapq.heappop(heap)
            further = list(self._further(shares, found))
            if not further:
                return self._told(found, least), True
            for one in further:
                if one not in seen:
                    seen.add(one)
                    push(one)
        return None, False

    def _told(self, found: tuple[Found, ...], least: int) -> SiteFound:
        """The least shares that break nothing; proven when every closet was, under these and all other shares that were
        looked at, else no more is sure than what all closets cost without regard to each other."""
        proven = self.certain and all(one.found.proven for one in self.kept.values() if one.found)
        bound = sum(one.bound for one in found) if proven else least
        return SiteFound(tuple(one.seating for one in found), proven, bound)

    def _start(self) -> _Shares:
        """A pin that only one closet can meet is that closet's from the start."""
        shares = _Shares()
        for key, wanted in self.site.pins.items():
            able = [n for n, p in enumerate(self.site.closets) if any(box.model.key == key for box in p.boxes)]
            if len(able) <= 1:
                shares = shares.floored(able[0] if able else 0, key, wanted)
        return shares

    def _found(self, shares: _Shares) -> tuple[Found, ...] | None:
        asked: dict[_Key, Problem] = {}
        for place, problem in enumerate(self.site.closets):
            caps, floors = shares.of(place)
            asked[place, tuple(sorted(caps.items())), tuple(sorted(floors.items()))] = _shared(problem, caps, floors)
        unknown = [key for key in asked if key not in self.kept]
        with closing(side_by_side([partial(self.solve, asked[key]) for key in unknown])) as searches:
            for key, searched in zip(unknown, searches, strict=True):
                self.kept[key] = searched
                if searched.found is None:
                    break
        known = [self.kept[key] for key in asked if key in self.kept]
        self.certain &= all(searched.certain for searched in known if searched.found is None)
        found = tuple(searched.found for searched in known if searched.found)
        return found if len(found) == len(asked) else None

    def _further(self, shares: _Shares, found: tuple[Found, ...]) -> Iterator[_Shares]:
        """Branches of a share that takes too much owned kit or too few pinned models; they hold every feasible pick."""
        taken = [_owned(one.seating) for one in found]
        for index, most in self.stock.items():
            if sum(counts[index] for counts in taken) > most:
                for place, counts in enumerate(taken):
                    if counts[index]:
                        yield shares.capped(place, index, counts[index] - 1)
                return
        models = [Counter(box.model.key for box in one.seating.boxes) for one in found]
        for key, wanted in self.site.pins.items():
            if sum(of[key] for of in models) < wanted:
                for place, of in enumerate(models):
                    if any(box.model.key == key for box in self.site.closets[place].boxes):
                        yield shares.floored(place, key, of[key] + 1)
                return


def stocked(problem: Problem) -> Iterator[BoxType | InjectorType | ModuleType]:
    """Everything that can be had in a closet."""
    yield from problem.boxes
    yield from problem.injectors
    yield from problem.modules


def _owned(seating: Seating) -> Counter[int]:
    """How many of each owned model a seating takes, by place in the catalogue."""
    taken: Counter[int] = Counter()
    for kind, count in seating.taken.items():
        if kind.most is not None:
            taken[kind.index] += count
    return taken


def _shared(problem: Problem, caps: Mapping[int, int], floors: Mapping[str, int]) -> Problem:
    """The problem of one closet with its share of what is owned and pinned."""
    if not caps and not floors:
        return problem

    def most(index: int, there: int | None) -> int | None:
        return there if there is None else min(there, caps.get(index, there))

    return replace(
        problem,
        roots=tuple(replace(b, most=most(b.index, b.most)) for b in problem.roots if most(b.index, b.most) != 0),
        switches=tuple(replace(b, most=most(b.index, b.most)) for b in problem.switches if most(b.index, b.most) != 0),
        injectors=tuple(
            replace(i, most=most(i.index, i.most)) for i in problem.injectors if most(i.index, i.most) != 0
        ),
        modules=tuple(replace(m, most=most(m.index, m.most)) for m in problem.modules if most(m.index, m.most) != 0),
        pins=dict(floors),
        # other modules, though for this once only
        table=LinkTable(problem.fill_percent) if caps else problem.table,
    )


def price_rank(seating: Seating) -> Cost:
    """Price, then fewer boxes, less own mains draw, catalogue order."""
    return cost_of(seating, "price")


def count_rank(seating: Seating) -> Cost:
    """Boxes, then as price."""
    return (len(seating.boxes), *cost_of(seating, "price"))


def power_rank(seating: Seating) -> Cost:
    """Mains draw with port watts, then as price."""
    return cost_of(seating, "power")
