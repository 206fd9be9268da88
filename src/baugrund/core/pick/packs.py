"""What is sold by the pack: how many packs the whole site wants.

A piece is searched for at its share of a pack's price, so what is found costs no less than that.  Where the pieces of
it do not make whole packs, either no more packs are bought than so far, or one more is, and its pieces are there for
every closet as owned ones are: branch and bound over that, least sum first.
"""

from __future__ import annotations

import heapq
from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from itertools import count as counting

from ..facts.lines.injector import Injector
from ..facts.lines.module import Module
from .model.outcomes import Cost
from .model.problem import Problem, roots_of
from .model.seating import Seating
from .model.supply import InjectorType, ModuleType
from .site import Rank, Site, SiteFound, Solve, share, summed

NODES_MOST = 60
"""Numbers of packs that are looked at before the search gives up proving."""

Piece = InjectorType | ModuleType


@dataclass(frozen=True)
class _Packs:
    """How many packs of each line are paid for, and of which no more are bought."""

    paid: tuple[tuple[int, int], ...] = ()
    """(place in the catalogue, packs)."""
    closed: frozenset[int] = frozenset()
    hints: tuple[tuple[str, ...], ...] = field(default=(), compare=False)
    """The boxes of every closet that were best with fewer packs."""

    def with_one_more(self, index: int) -> _Packs:
        paid = dict(self.paid)
        paid[index] = paid.get(index, 0) + 1
        return replace(self, paid=tuple(sorted(paid.items())))

    def without_more(self, index: int) -> _Packs:
        return replace(self, closed=self.closed | {index})


def share_in_packs(
    site: Site, solve: Solve, rank: Rank, price_at: int = 0, enough: int | None = None
) -> tuple[SiteFound | None, bool]:
    """The least pick of a site, as ``share`` finds it, in whole packs.

    ``price_at``: where the price stands in the rank; ``enough``: any pick of no more than this price [minor] will do.
    """
    sold = sold_by_the_pack(site)
    if not sold:
        return share(site, solve, rank)
    ticket = counting()
    heap: list[tuple[Cost, int, _Packs]] = [((), next(ticket), _Packs())]
    best: tuple[Cost, SiteFound] | None = None
    bounds: list[int] = []
    proven = certain = True
    for _ in range(NODES_MOST):
        if not heap or (best and (heap[0][0] >= best[0] or best[1].price_minor <= (enough or -1))):
            break
        _, _, packs = heapq.heappop(heap)
        found, sure = share(_with(site, packs, sold), solve, rank)
        if found is None:
            certain &= sure
            continue
        proven &= found.proven
        paid = dict(packs.paid)
        fixed = sum(sold[index].price_minor * many for index, many in paid.items())
        bounds.append(found.bound + (fixed if price_at == 0 else 0))
        taken = _bought(found.seatings, sold)
        wanted = {index: sold[index].packs_of(many) for index, many in taken.items()}
        short = {index: wanted[index] * sold[index].price_minor - many * sold[index].share_minor
                 for index, many in taken.items()}  # fmt: skip
        least = _raised(summed(rank, found.seatings), price_at, fixed)
        true = _raised(least, price_at, sum(short.values()))
        if best is None or true < best[0]:
            bought = Counter(paid) + Counter(wanted)
            best = true, replace(found, packs=dict(bought), beside_minor=fixed + sum(short.values()))
        packs = replace(packs, hints=tuple(tuple(box.model.key for box in one.boxes) for one in found.seatings))
        index = next((index for index in sorted(short) if short[index]), None)
        if index is not None:
            for further in (packs.without_more(index), packs.with_one_more(index)):
                heapq.heappush(heap, (least, next(ticket), further))
    is_open = bool(heap) and (best is None or heap[0][0] < best[0])
    if best is None:
        return None, certain and not is_open
    proven &= certain and not is_open
    return replace(best[1], proven=proven, bound=best[0][0] if proven else min(bounds)), True


def sold_by_the_pack(site: Site) -> dict[int, Injector | Module]:
    """Lines that are bought in packs of several, by place in the catalogue."""
    return {kind.index: kind.model for problem in site.closets for kind in _pieces(problem)
            if kind.most is None and kind.model.pack > 1}  # fmt: skip


def owned_of(site: Site, sold: Mapping[int, Injector | Module]) -> Counter[int]:
    """How many pieces of them the site owns."""
    return Counter({kind.index: kind.most for problem in site.closets for kind in _pieces(problem)
                    if kind.most is not None and kind.index in sold})  # fmt: skip


def closets_minor(site: Site, found: SiteFound) -> list[int]:
    """What each closet costs: a pack where its first piece is taken, those that are owned taken first."""
    sold = sold_by_the_pack(site)
    owned = owned_of(site, sold)
    so_far: Counter[int] = Counter()
    prices = []
    for seating in found.seatings:
        price = seating.price_minor
        for kind, count in seating.taken.items():
            if kind.index in sold:
                before = sold[kind.index].packs_of(max(0, so_far[kind.index] - owned[kind.index]))
                so_far[kind.index] += count
                packs = sold[kind.index].packs_of(max(0, so_far[kind.index] - owned[kind.index])) - before
                price += packs * sold[kind.index].price_minor - count * kind.price_minor
        prices.append(price)
    return prices


def _pieces(problem: Problem) -> Iterable[Piece]:
    return (*problem.injectors, *problem.modules)


def _with(site: Site, packs: _Packs, sold: Mapping[int, Injector | Module]) -> Site:
    """The site with the pieces of packs that are paid for, and none of lines of which no more are bought."""
    paid = {index: many * sold[index].pack for index, many in packs.paid}
    if not paid and not packs.closed:
        return site

    def there(kinds: tuple[Piece, ...]) -> Iterable[Piece]:
        owned = {kind.index: kind.most for kind in kinds if kind.most is not None}
        for kind in kinds:
            if kind.index not in sold:
                yield kind
            elif kind.most is None:
                free = paid.get(kind.index, 0) + (owned.get(kind.index) or 0)
                if free:
                    yield replace(kind, price_minor=0, most=free)
                if kind.index not in packs.closed:
                    yield kind

    closets = []
    for problem, hint in zip(site.closets, packs.hints, strict=True):
        injectors = tuple(kind for kind in there(problem.injectors) if isinstance(kind, InjectorType))
        modules = tuple(kind for kind in there(problem.modules) if isinstance(kind, ModuleType))
        roots = problem.roots
        if problem.uplink is not None:
            roots = roots_of(problem.switches, modules, problem.uplink)
        closets.append(replace(problem, injectors=injectors, modules=modules, roots=roots, hint=hint))
    return replace(site, closets=tuple(closets))


def _bought(seatings: Iterable[Seating], sold: Mapping[int, Injector | Module]) -> Counter[int]:
    """Pieces that are paid for by their share of a pack."""
    taken: Counter[int] = Counter()
    for seating in seatings:
        for kind, count in seating.taken.items():
            if kind.index in sold and kind.most is None:
                taken[kind.index] += count
    return taken


def _raised(cost: Cost, place: int, more: int) -> Cost:
    return (*cost[:place], cost[place] + more, *cost[place + 1 :])
