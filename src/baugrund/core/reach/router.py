"""The best way from a drop to its closet: along paths where they lead, at right angles under the ceiling where not.

One shortest-path problem over the network and the loose ground beside it.  By length a metre off the paths counts
``LOOSE_COUNTS`` times, so that a run goes to the path and along it, as it is pulled; by hours and by cost the rates of
the building say the same.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from itertools import pairwise
from typing import Literal

import networkx as nx
import numpy as np
from numpy.typing import NDArray

from ..facts.paths import Path
from .legs import (
    HIGH_M,
    LOW_M,
    Corner,
    Leg,
    Way,
    backwards,
    loose_legs,
    loose_length,
    loose_way,
    merged,
    on_piece,
    part_of,
    spot_of,
)
from .network import Anchor, By, FloorPieces, Network, Piece, Rates

LOOSE_COUNTS = 3.0
"""A metre with no path under it counts so many when ways are compared by length, *default*."""
Avoid = frozenset[int]
Spots = tuple[Corner, ...]
Nearest = tuple[NDArray[np.float64], NDArray[np.float64]]
"""Where on a piece a spot is nearest (0 to 1), and the loose length to there [m]: a row a spot, a column a piece."""
PAIRS_AT_ONCE = 2_000_000
"""Pairs of a spot and a piece of path that are looked at in one go."""
REMEMBERED = 50_000
"""Ways that a router keeps at most."""
NOTHING: Avoid = frozenset()
START, END = -1, -2
WITHIN = 2
TREES = 400
"""Trees that a router keeps at most."""


@dataclass(frozen=True)
class Target:
    """Where a run starts and ends, and what it is told by hand."""

    start: Anchor
    floor_id: int
    x_m: float
    y_m: float
    z_m: float
    avoid: Avoid = NOTHING
    via: int | None = None

    @property
    def spot(self) -> Corner:
        return (self.x_m, self.y_m, self.z_m)

    @property
    def end(self) -> Anchor:
        return Anchor(self.floor_id, *self.spot)


@dataclass(frozen=True)
class Step:
    """How one gets from a spot onto the network at a node: what it costs, and along which piece (None: loose)."""

    cost: float
    piece: int | None


@dataclass(frozen=True)
class Tree:
    """Best ways from one start to every node: what each costs, the node before it, how the first one is reached, where
    on each piece of its floor the start is nearest (0 to 1) and how far, and the legs told so far."""

    costs: NDArray[np.float64]
    before: Mapping[int, int]
    steps: Mapping[int, Step]
    at: NDArray[np.float64]
    away: NDArray[np.float64]
    legs: dict[int, tuple[Leg, ...]] = field(default_factory=dict)


@dataclass
class Router:
    """Finds ways in one network.  What it has found it remembers; a router is never changed.

    Threads share it: every value that it remembers is made whole before it is kept, and read once.
    """

    network: Network
    rates: Rates
    by: By
    _trees: dict[tuple[Anchor, Avoid], Tree] = field(default_factory=dict)
    _known: dict[Target, Way] = field(default_factory=dict)
    _nearest_by_floor: dict[int, tuple[Spots, Nearest]] = field(default_factory=dict)
    """The last spots of a floor with what is nearest to them."""

    def ways(self, targets: Sequence[Target]) -> list[Way]:
        """The way to each target, in their order."""
        if len(self._known) > REMEMBERED:
            self._known.clear()
        if len(self._trees) > TREES:
            self._trees.clear()
        found: dict[Target, Way] = {}
        fresh: dict[tuple[Anchor, int, Avoid], list[Target]] = {}
        for target in dict.fromkeys(targets):
            if known := self._known.get(target):
                found[target] = known
            elif target.via is not None:
                found[target] = self._forced(target)
            else:
                fresh.setdefault((target.start, target.floor_id, target.avoid), []).append(target)
        for (_, floor_id, _), some in fresh.items():
            # as many at a time as stay within memory, however much is drawn
            pieces = len(self.network.floors[floor_id].pieces) if floor_id in self.network.floors else 1
            step = max(1, PAIRS_AT_ONCE // pieces)
            for start in range(0, len(some), step):
                part = some[start : start + step]
                found |= zip(part, self._many(part), strict=True)
        self._known |= found
        return [found[target] for target in targets]

    def _many(self, targets: Sequence[Target]) -> list[Way]:
        """Ways to spots of one floor from one start."""
        access = self._access(targets)
        direct = self._direct_costs(targets)
        ways = []
        for number, target in enumerate(targets):
            if access.cost[number] < direct[number]:
                ways.append(self._along(target, access, number))
            else:
                # another floor, or loose ground all the way; lost where paths of the floor lead nowhere
                known = target.floor_id == target.start.floor_id or not access.drawn
                ways.append(Way(loose_way(self.network, target.start, target.end), known))
        return ways

    # ---- the trees

    def _weight(self, length_m: float, path: Path | None, floor_id: int) -> float:
        if path is not None:
            return self.rates.weight(self.by, length_m, self.rates.kinds[path.kind])
        return self._loose(length_m, floor_id)

    def _loose(self, length_m: float, floor_id: int) -> float:
        counted = length_m * LOOSE_COUNTS if self.by == "length" else length_m
        return self.rates.weight(self.by, counted, self.rates.loose[floor_id])

    @cached_property
    def _graph(self) -> nx.Graph[int]:
        graph: nx.Graph[int] = nx.Graph()
        graph.add_nodes_from(self.network.graph)
        for first, second, data in self.network.graph.edges(data=True):
            floor_id = self.network.spots[first][0]
            weight = self._weight(data["length_m"], data["path"], floor_id)
            graph.add_edge(first, second, weight=weight, path=data["path"], length_m=data["length_m"])
        return graph

    def _without(self, avoid: Avoid) -> nx.Graph[int]:
        """A graph of one's own without the paths kept off."""
        rest = self._graph.copy()
        if avoid:
            gone = [(a, b) for a, b, data in rest.edges(data=True) if data["path"] and data["path"].id in avoid]
            rest.remove_edges_from(gone)
        return rest

    def _tree(self, start: Anchor, avoid: Avoid) -> Tree:
        key = (start, avoid)
        tree = self._trees.get(key)
        if tree is None:
            graph = self._without(avoid)
            at, away = self._nearest_to(start)
            steps = self._steps_on(start.floor_id, spot_of(start), at, away, avoid)
            for number, step in steps.items():
                graph.add_edge(START, number, weight=step.cost)
            graph.add_node(START)
            before, costs = nx.dijkstra_predecessor_and_distance(graph, START)
            array = np.full(len(self.network.spots), np.inf)
            for node, cost in costs.items():
                if node != START:
                    array[node] = cost
            first = {node: some[0] for node, some in before.items() if some}
            tree = self._trees[key] = Tree(array, first, steps, at, away)
        return tree

    def _nearest_to(self, start: Anchor) -> Nearest:
        """Where on each piece of its floor a start is nearest (0 to 1), and the loose length to there [m]."""
        here = self.network.floors.get(start.floor_id)
        if here is None:
            return np.zeros(0), np.zeros(0)
        level, ceiling = self.network.elevation[start.floor_id], self.network.ceiling[start.floor_id]
        at, away = _nearest(here, np.array([spot_of(start)]), level, ceiling)
        return at[0], away[0]

    def _steps_on(
        self, floor_id: int, spot: Corner, at: NDArray[np.float64], away: NDArray[np.float64], avoid: Avoid
    ) -> dict[int, Step]:
        """The cheapest step from a spot onto the network at each node of its floor: loose all the way, or loose to the
        nearest point of a piece and along it."""
        steps = {
            number: Step(self._loose(loose_length(self.network, floor_id, spot, (x, y, z)), floor_id), None)
            for number, (floor, x, y, z) in enumerate(self.network.spots)
            if floor == floor_id
        }
        here = self.network.floors.get(floor_id)
        for number, piece in enumerate(here.pieces if here else ()):
            if piece.path.id in avoid:
                continue
            loose = self._loose(float(away[number]), floor_id)
            whole = self._weight(piece.length_m, piece.path, floor_id)
            for node, part in ((piece.first, at[number]), (piece.second, 1.0 - at[number])):
                cost = loose + whole * float(part)
                if cost < steps[node].cost - 1e-9:
                    steps[node] = Step(cost, number)
        return steps

    # ---- the last stretch: from the network to the spot

    def _access(self, targets: Sequence[Target], only: int | None = None) -> Access:
        """For each target the best piece of path of its floor to leave, where on it, and the whole cost.

        ``only``: pieces of this path alone, and some of it must be gone along.
        """
        first = targets[0]
        tree = self._tree(first.start, first.avoid)
        here = self.network.floors.get(first.floor_id)
        if here is None:
            nothing = np.zeros(len(targets))
            none = np.full(len(targets), np.inf)
            return Access(none, nothing.astype(int), nothing.astype(int), nothing, here, drawn=False)
        at, away = self._nearest(first.floor_id, here, tuple(target.spot for target in targets))
        ends = np.array([(piece.first, piece.second) for piece in here.pieces])
        rates = np.array([self._weight(1.0, piece.path, first.floor_id) for piece in here.pieces])
        along = here.lengths * rates
        loose = self._loose(1.0, first.floor_id)
        gone = [at, 1.0 - at]
        onto = [tree.costs[ends[:, 0]], tree.costs[ends[:, 1]]]
        if first.start.floor_id == first.floor_id:
            gone.append(np.abs(at - tree.at))
            onto.append(tree.away * loose)
        parts = np.stack([cost + part * along for cost, part in zip(onto, gone, strict=True)])
        kept = np.array([piece.path.id not in first.avoid for piece in here.pieces])
        if only is not None:
            kept &= np.array([piece.path.id == only for piece in here.pieces])
            parts = np.where(np.stack(gone) * here.lengths > 1e-9, parts, np.inf)
        how = parts.argmin(axis=0)
        whole = parts.min(axis=0) + away * loose
        whole[:, ~kept] = np.inf
        best = whole.argmin(axis=1)
        rows = np.arange(len(targets))
        return Access(whole[rows, best], best, how[rows, best], at[rows, best], here, drawn=bool(kept.any()))

    def _nearest(self, floor_id: int, here: FloorPieces, spots: Spots) -> Nearest:
        """Nearest points of the pieces of a floor; the last ones stay, for another closet asks for the same spots."""
        last = self._nearest_by_floor.get(floor_id)
        if last is None or last[0] != spots:
            level, ceiling = self.network.elevation[floor_id], self.network.ceiling[floor_id]
            last = self._nearest_by_floor[floor_id] = (spots, _nearest(here, np.array(spots), level, ceiling))
        return last[1]

    def _direct_costs(self, targets: Sequence[Target]) -> NDArray[np.float64]:
        """Loose ground all the way, on the floor of the start."""
        first = targets[0]
        start = first.start
        if start.floor_id != first.floor_id:
            return np.full(len(targets), np.inf)
        ceiling = self.network.ceiling[first.floor_id]
        spots = np.array([target.spot for target in targets])
        lengths = (
            np.abs(spots[:, 0] - start.x_m)
            + np.abs(spots[:, 1] - start.y_m)
            + np.abs(ceiling - spots[:, 2])
            + abs(ceiling - start.z_m)
        )
        return np.asarray(lengths * self._loose(1.0, first.floor_id))

    # ---- telling a way

    def _along(self, target: Target, access: Access, number: int) -> Way:
        assert access.here is not None
        tree = self._tree(target.start, target.avoid)
        place = int(access.piece[number])
        piece = access.here.pieces[place]
        at = float(access.at[number])
        if access.how[number] == WITHIN:
            legs = self._onto(target.start, piece, float(tree.at[place])) + part_of(piece, float(tree.at[place]), at)
        else:
            by_first = access.how[number] == 0
            legs = self._to_node(tree, piece.first if by_first else piece.second, target.start)
            legs += part_of(piece, 0.0 if by_first else 1.0, at)
        left = on_piece(piece, at)
        legs += loose_legs(self.network, target.floor_id, left, target.spot, left[2])
        return Way(tuple(merged(legs)), True)

    def _onto(self, start: Anchor, piece: Piece, at: float) -> list[Leg]:
        """Loose legs from a start onto a piece of path."""
        on = on_piece(piece, at)
        return loose_legs(self.network, start.floor_id, spot_of(start), on, on[2])

    def _first_legs(self, tree: Tree, node: int, start: Anchor) -> list[Leg]:
        """Legs from the start onto the network at a node."""
        step = tree.steps[node]
        if step.piece is None:
            floor_id, x, y, z = self.network.spots[node]
            return loose_legs(self.network, floor_id, spot_of(start), (x, y, z), z)
        piece = self.network.floors[start.floor_id].pieces[step.piece]
        at = float(tree.at[step.piece])
        return self._onto(start, piece, at) + part_of(piece, at, 0.0 if node == piece.first else 1.0)

    def _to_node(self, tree: Tree, node: int, start: Anchor) -> list[Leg]:
        """Legs from the start to a node; those of the nodes on the way are remembered."""
        chain = [node]
        while chain[-1] not in tree.legs and (previous := tree.before[chain[-1]]) != START:
            chain.append(previous)
        first = chain[-1]
        if first not in tree.legs:
            tree.legs[first] = tuple(merged(self._first_legs(tree, first, start)))
        for before, after in pairwise(reversed(chain)):
            tree.legs[after] = tuple(merged([*tree.legs[before], *self._through([before, after])]))
        return list(tree.legs[node])

    def _through(self, chain: Sequence[int]) -> list[Leg]:
        legs = []
        for first, second in pairwise(chain):
            data = self.network.graph.edges[first, second]
            a, b = self.network.spots[first], self.network.spots[second]
            kind: Literal["path", "riser", "vertical"] = "path"
            if data["path"] is None:
                kind = "vertical"
            elif a[0] != b[0]:
                kind = "riser"
            legs.append(Leg(kind, b[0], (a[1:], b[1:]), data["length_m"], data["path"]))
        return legs

    def _forced(self, target: Target) -> Way:
        """A way over a path that it is forced onto: the best of those that go along some of it."""
        tree = self._tree(target.start, target.avoid)
        graph = self._without(target.avoid)
        at, away = self._nearest_to(target.end)
        steps = self._steps_on(target.floor_id, target.spot, at, away, target.avoid)
        partly = self._access([target], only=target.via)
        if not steps:
            return self._unforced(target)
        for number, step in steps.items():
            graph.add_edge(END, number, weight=step.cost)
        ends = nx.single_source_dijkstra_path_length(graph, END)
        routes = nx.single_source_dijkstra_path(graph, END)
        best: tuple[float, int, int] | None = None
        for a, b, data in graph.edges(data=True):
            if data.get("path") is None or data["path"].id != target.via:
                continue
            for first, second in ((a, b), (b, a)):
                cost = tree.costs[first] + data["weight"] + ends.get(second, np.inf)
                if np.isfinite(cost) and (best is None or cost < best[0]):
                    best = (float(cost), first, second)
        if np.isfinite(partly.cost[0]) and (best is None or partly.cost[0] <= best[0]):
            return self._along(target, partly, 0)
        if best is None:
            return self._unforced(target)
        _, first, second = best
        legs = self._to_node(tree, first, target.start)
        rest = [node for node in reversed(routes[second]) if node != END]
        legs += self._through([first, *rest])
        from_end = Tree(tree.costs, {}, steps, at, away)
        legs += backwards(self._first_legs(from_end, rest[-1], target.end))
        return Way(tuple(merged(legs)), True)

    def _unforced(self, target: Target) -> Way:
        """The way that there is when the path forced on leads nowhere; it counts as not found."""
        plain = Target(target.start, target.floor_id, target.x_m, target.y_m, target.z_m, target.avoid)
        return Way(self.ways([plain])[0].legs, False)


@dataclass(frozen=True)
class Access:
    """Per target: whole cost of the best way over the network, the piece that it leaves, from which end of it it comes
    (``WITHIN``: it steps onto that very piece), and where it leaves it (0 to 1)."""

    cost: NDArray[np.float64]
    piece: NDArray[np.int_]
    how: NDArray[np.int_]
    at: NDArray[np.float64]
    here: FloorPieces | None
    drawn: bool
    """Whether the floor has any path that may be used."""


def _nearest(here: FloorPieces, spots: NDArray[np.float64], elevation: float, ceiling: float) -> Nearest:
    """For each spot and piece: where on the piece it is nearest at right angles (0 to 1), and the loose length."""
    start, step = here.ends[:, :2], here.ends[:, 2:] - here.ends[:, :2]
    offset = spots[:, None, :2] - start[None]
    with np.errstate(divide="ignore", invalid="ignore"):
        level = np.clip(np.nan_to_num(offset / step[None], nan=0.0), 0.0, 1.0)
    away = np.stack([np.abs(offset - level[..., axis, None] * step[None]).sum(axis=2) for axis in (0, 1)], axis=2)
    chosen = away.argmin(axis=2)
    at = np.take_along_axis(level, chosen[..., None], axis=2)[..., 0]
    sideways = np.take_along_axis(away, chosen[..., None], axis=2)[..., 0]
    level_with = (here.z_m - elevation < LOW_M) | ((here.z_m >= ceiling - HIGH_M) & (here.z_m <= ceiling))
    between = np.where(level_with, here.z_m, ceiling)
    upright = np.abs(between[None] - spots[:, 2, None]) + np.abs(between - here.z_m)[None]
    return at, sideways + upright
