"""What is proven of one closet holds for every later state of it that asks no less and has no more to choose from.

A pick of the later state, without the drops that came, is a pick of the earlier one, and costs no more there: so the
best of before is a floor.  Where its boxes bear the later drops for the same, they are proven at once; most edits add
what fits.  The other way round, where less is asked, it is a ceiling: a pick of that cost there is, wherever it sits.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator
from dataclasses import fields, replace
from importlib.metadata import version
from operator import ge

from ..facts.fact import Fact, mark_of
from . import resources
from .links import Trunk
from .problem import Problem, Weight
from .supply import BoxType, InjectorType, ModuleType

VERSION = version("baugrund")

Needs = tuple[tuple[int, int, int, int, bool, int], ...]
"""Class, speed, power, traffic, large frames, and how many drops ask so."""


class SearchInput(Fact):
    """The input of one closet's search, comparable with that of another state."""

    version: str = VERSION
    """Of this program: another may count otherwise."""
    weight: Weight
    box_count: int | None
    capacities: dict[str, int]
    """How much of each resource the closet has: the more, the more may stand."""
    link_rules: tuple[int, int]
    """Whether chains may be, how full links may be [%]: the more, the more may stand."""
    pins: dict[str, int]
    supply: frozenset[str]
    """A mark for everything that may be had, made from all that is known of it."""
    links: tuple[str, ...]
    """Links to other closets, without what crosses them."""
    crossing: tuple[int, ...]
    """Traffic on each of them [kbit/s]."""
    needs: Needs

    def stands_for(self, later: SearchInput) -> bool:
        """Whether every pick of the later state, without what came, is one of this state."""
        return (
            (self.version, self.weight, self.box_count, self.links)
            == (later.version, later.weight, later.box_count, later.links)
            and later.supply <= self.supply
            and self.capacities.keys() == later.capacities.keys()
            and all(mine >= later.capacities[key] for key, mine in self.capacities.items())
            and all(mine >= other for mine, other in zip(self.link_rules, later.link_rules, strict=True))
            and all(mine <= other for mine, other in zip(self.crossing, later.crossing, strict=True))
            and all(later.pins.get(key, 0) >= count for key, count in self.pins.items())
            and covered(self.needs, later.needs)
        )


class Proof(Fact):
    """The cost of the best pick of a state; None: it has none."""

    asked: SearchInput
    cost: tuple[int, ...] | None


class Proofs:
    """Proofs kept from earlier states, and those found since."""

    def __init__(self, before: Iterable[Proof] = ()) -> None:
        self.before = tuple(before)
        self.found: list[Proof] = []

    def floor(self, asked: SearchInput) -> Proof | None:
        """What is proven of a state, before or since, that this one cannot be better than."""
        return next((proof for proof in (*self.found, *self.before) if proof.asked.stands_for(asked)), None)

    def ceiling(self, asked: SearchInput) -> int | None:
        """What the best pick of a state costs no more than: every pick of one that asks no less and has no more to
        choose from is one of this, without what went."""
        known = (proof for proof in (*self.found, *self.before) if proof.cost and asked.stands_for(proof.asked))
        return min((proof.cost[0] for proof in known if proof.cost), default=None)

    def keep(self, asked: SearchInput, cost: tuple[int, ...] | None) -> None:
        """Keep the proven cost of a state, or (None) that it is infeasible."""
        proof = Proof(asked=asked, cost=cost)
        if proof not in self.found:
            self.found.append(proof)


def asked_of(problem: Problem, weight: Weight, box_count: int | None) -> SearchInput:
    """The state of a closet; of all kinds of best, that under a weight, of so many boxes or (None) any."""
    kinds: tuple[BoxType | InjectorType | ModuleType, ...] = (*problem.boxes, *problem.injectors, *problem.modules)
    return SearchInput(
        weight=weight,
        box_count=box_count,
        capacities={one.key: there for one, there in zip(resources.RESOURCES, problem.capacities, strict=True)},
        link_rules=(int(problem.chain_allowed), problem.fill_percent),
        pins=dict(problem.pins),
        supply=frozenset(map(_mark, kinds)),
        links=tuple(mark_of(replace(trunk, traffic_kbit=0)) for trunk in _trunks(problem)),
        crossing=tuple(trunk.traffic_kbit for trunk in _trunks(problem)),
        needs=tuple(
            (need.poe_rank, need.speed_mbit, need.power_mw, need.traffic_kbit, need.large_frames, count)
            for need, count in problem.needs
        ),
    )


def leaves_no_tie(problem: Problem) -> bool:
    """Whether a drop less never is a pick of the same cost with fewer of something: catalogue order would tell them
    apart the wrong way."""
    return all(injector.price_minor or injector.own_mains_mw for injector in problem.injectors)


def covered(earlier: Needs, later: Needs) -> bool:
    """Whether each earlier drop has a later one of its own that asks no less; with False there still may be."""
    left: Counter[tuple[int, ...]] = Counter({need[:-1]: need[-1] for need in later})
    unmatched: Counter[tuple[int, ...]] = Counter({need[:-1]: need[-1] for need in earlier})
    same = left & unmatched
    left, unmatched = left - same, unmatched - same
    for need in sorted(unmatched.elements(), reverse=True):
        enough = [other for other in left if all(map(ge, other, need))]
        if not enough:
            return False
        # the least of those that are enough, so that the harder ones stay
        left -= Counter([min(enough)])
    return True


def _trunks(problem: Problem) -> Iterator[Trunk]:
    yield from problem.trunks
    if problem.uplink:
        yield problem.uplink


def _mark(kind: BoxType | InjectorType | ModuleType) -> str:
    """What stands for a kind and all that is known of it."""
    own = [getattr(kind, field.name) for field in fields(kind) if field.name != "model"]
    return mark_of([kind.model.mark, *own])
