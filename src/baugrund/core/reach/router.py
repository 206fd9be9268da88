"""The best way from a drop to its closet: along paths where they lead, at right angles under the ceiling where not.

One shortest-path problem over the network and the loose ground beside it.  By length a metre off the paths counts
``LOOSE_COUNTS`` times, so that a run goes to the path and along it, as it is pulled; by hours and by cost the rates of
the building say the same.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from itertools import pairwise
from typing import Annotated, Literal

import networkx as nx
import numpy as np
from numpy.typing import NDArray

from ..facts import numbers
from ..paths import Path
from .network import Anchor, By, FloorPieces, Network, Piece, Rates

LOOSE_COUNTS = 3.0
"""A metre with no path under it counts so many when ways are compared by length, *default*."""
LOW_M = 1.0
HIGH_M = 0.5
"""A path lower than this over the floor, or higher than this under the ceiling, is reached at its own height; any other
by way of the ceiling."""

Corner = Annotated[tuple[float, float, float], numbers(3)]
Avoid = frozenset[int]
PAIRS_AT_ONCE = 2_000_000
"""Pairs of a spot and a piece of path that are looked at in one go."""
REMEMBERED = 50_000
"""Ways that a router keeps at most."""
NOTHING: Avoid = frozenset()
START, END = -1, -2


@dataclass(frozen=True, eq=False)
class Leg:
    """One stretch of a way: along a path, up or down, or loose; its corners from the closet's side, length [m]."""

    kind: Literal["path", "riser", "vertical", "loose"]
    floor_id: int
    corners: tuple[Corner, ...]
    length_m: float
    path: Path | None = None


@dataclass(frozen=True, eq=False)
class Way:
    """A way from a closet to a spot; ``found``: paths lead there, or none are needed."""

    legs: tuple[Leg, ...]
    found: bool

    @property
    def length_m(self) -> float:
        return sum(leg.length_m for leg in self.legs)


@dataclass(frozen=True)
class Target:
    """Where a run ends, and what it is told by hand."""

    closet_id: int
    floor_id: int
    x_m: float
    y_m: float
    z_m: float
    avoid: Avoid = NOTHING
    via: int | None = None


@dataclass(frozen=True)
class Tree:
    """Best ways from one closet to every node: what each costs, the node before it, and the legs told so far."""

    costs: NDArray[np.float64]
    before: Mapping[int, int]
    legs: dict[int, tuple[Leg, ...]] = field(default_factory=dict)


@dataclass
class Router:
    """Finds ways in one network.  What it has found it remembers; a router is never changed."""

    network: Network
    closets: Mapping[int, Anchor]
    rates: Rates
    by: By
    _trees: dict[tuple[int, Avoid], Tree] = field(default_factory=dict)
    _known: dict[Target, Way] = field(default_factory=dict)
    _last_spots: dict[int, tuple[Corner, ...]] = field(default_factory=dict)
    _last_nearest: dict[int, tuple[NDArray[np.float64], NDArray[np.float64]]] = field(default_factory=dict)

    def ways(self, targets: Sequence[Target]) -> list[Way]:
        """The way to each target, in their order."""
        if len(self._known) > REMEMBERED:
            self._known.clear()
        fresh: dict[tuple[int, int, Avoid], list[Target]] = {}
        for target in dict.fromkeys(targets):
            if target in self._known:
                continue
            if target.via is not None:
                self._known[target] = self._forced(target)
            else:
                fresh.setdefault((target.closet_id, target.floor_id, target.avoid), []).append(target)
        for (_, floor_id, _), some in fresh.items():
            # as many at a time as stay within memory, however much is drawn
            pieces = len(self.network.floors[floor_id].pieces) if floor_id in self.network.floors else 1
            step = max(1, PAIRS_AT_ONCE // pieces)
            for start in range(0, len(some), step):
                part = some[start : start + step]
                self._known |= zip(part, self._many(part), strict=True)
        return [self._known[target] for target in targets]

    def _many(self, targets: Sequence[Target]) -> list[Way]:
        """Ways to spots of one floor from one closet."""
        access = self._access(targets)
        direct = self._direct_costs(targets)
        ways = []
        for number, target in enumerate(targets):
            if access.cost[number] < direct[number]:
                ways.append(self._along(target, access, number))
            else:
                # another floor, or loose ground all the way; lost where paths of the floor lead nowhere
                closet = self.closets[target.closet_id]
                known = target.floor_id == closet.floor_id or not access.drawn
                ways.append(Way(loose_way(self.network, closet, target), known))
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
        if not avoid:
            return self._graph
        gone = [(a, b) for a, b, data in self._graph.edges(data=True) if data["path"] and data["path"].id in avoid]
        rest = self._graph.copy()
        rest.remove_edges_from(gone)
        return rest

    def _tree(self, closet_id: int, avoid: Avoid) -> Tree:
        key = (closet_id, avoid)
        if key not in self._trees:
            graph = self._without(avoid).copy()
            closet = self.closets[closet_id]
            for number, cost in self._steps_on(closet.floor_id, (closet.x_m, closet.y_m, closet.z_m)):
                graph.add_edge(START, number, weight=cost)
            graph.add_node(START)
            before, costs = nx.dijkstra_predecessor_and_distance(graph, START)
            array = np.full(len(self.network.spots), np.inf)
            for node, cost in costs.items():
                if node != START:
                    array[node] = cost
            self._trees[key] = Tree(array, {node: some[0] for node, some in before.items() if some})
        return self._trees[key]

    def _steps_on(self, floor_id: int, spot: Corner) -> Iterable[tuple[int, float]]:
        """What it costs to get from a spot to each node of its floor."""
        for number, (floor, x, y, z) in enumerate(self.network.spots):
            if floor == floor_id:
                yield number, self._loose(_loose_length(self.network, floor_id, spot, (x, y, z)), floor_id)

    # ---- the last stretch: from the network to the spot

    def _access(self, targets: Sequence[Target]) -> Access:
        """For each target the best piece of path of its floor to leave, where on it, and the whole cost."""
        first = targets[0]
        tree = self._tree(first.closet_id, first.avoid)
        here = self.network.floors.get(first.floor_id)
        if here is None:
            nothing = np.zeros(len(targets))
            return Access(np.full(len(targets), np.inf), nothing.astype(int), nothing, here, drawn=False)
        at, away = self._nearest(first.floor_id, here, tuple((t.x_m, t.y_m, t.z_m) for t in targets))
        ends = np.array([(piece.first, piece.second) for piece in here.pieces])
        rates = np.array([self._weight(1.0, piece.path, first.floor_id) for piece in here.pieces])
        along = here.lengths * rates
        from_first = tree.costs[ends[:, 0]] + at * along
        from_second = tree.costs[ends[:, 1]] + (1.0 - at) * along
        whole = np.minimum(from_first, from_second) + away * self._loose(1.0, first.floor_id)
        kept = np.array([piece.path.id not in first.avoid for piece in here.pieces])
        whole[:, ~kept] = np.inf
        best = whole.argmin(axis=1)
        rows = np.arange(len(targets))
        return Access(whole[rows, best], best, at[rows, best], here, drawn=bool(kept.any()))

    def _nearest(
        self, floor_id: int, here: FloorPieces, spots: tuple[Corner, ...]
    ) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
        """Nearest points of the pieces of a floor; the last ones stay, for another closet asks for the same spots."""
        if self._last_spots.get(floor_id) != spots:
            level, ceiling = self.network.elevation[floor_id], self.network.ceiling[floor_id]
            self._last_spots[floor_id] = spots
            self._last_nearest[floor_id] = _nearest(here, np.array(spots), level, ceiling)
        return self._last_nearest[floor_id]

    def _direct_costs(self, targets: Sequence[Target]) -> NDArray[np.float64]:
        """Loose ground all the way, on the closet's own floor."""
        first = targets[0]
        closet = self.closets[first.closet_id]
        if closet.floor_id != first.floor_id:
            return np.full(len(targets), np.inf)
        ceiling = self.network.ceiling[first.floor_id]
        spots = np.array([(target.x_m, target.y_m, target.z_m) for target in targets])
        lengths = (
            np.abs(spots[:, 0] - closet.x_m)
            + np.abs(spots[:, 1] - closet.y_m)
            + np.abs(ceiling - spots[:, 2])
            + abs(ceiling - closet.z_m)
        )
        return np.asarray(lengths * self._loose(1.0, first.floor_id))

    # ---- telling a way

    def _along(self, target: Target, access: Access, number: int) -> Way:
        assert access.here is not None
        tree = self._tree(target.closet_id, target.avoid)
        piece = access.here.pieces[access.piece[number]]
        at = float(access.at[number])
        rate = self._weight(piece.length_m, piece.path, target.floor_id)
        by_first = tree.costs[piece.first] + at * rate <= tree.costs[piece.second] + (1 - at) * rate
        node = piece.first if by_first else piece.second
        legs = self._to_node(tree, node, target.closet_id)
        legs += _last_piece(piece, by_first, at)
        left = _on(piece, at)
        legs += loose_legs(self.network, target.floor_id, left, (target.x_m, target.y_m, target.z_m), left[2])
        return Way(tuple(_merged(legs)), True)

    def _to_node(self, tree: Tree, node: int, closet_id: int) -> list[Leg]:
        """Legs from the closet to a node; those of the nodes on the way are remembered."""
        chain = [node]
        while chain[-1] not in tree.legs and (previous := tree.before[chain[-1]]) != START:
            chain.append(previous)
        first = chain[-1]
        if first not in tree.legs:
            closet = self.closets[closet_id]
            floor_id, x, y, z = self.network.spots[first]
            start = (closet.x_m, closet.y_m, closet.z_m)
            tree.legs[first] = tuple(loose_legs(self.network, floor_id, start, (x, y, z), z))
        for before, after in pairwise(reversed(chain)):
            tree.legs[after] = tuple(_merged([*tree.legs[before], *self._through([before, after])]))
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
        """A way over a path that it is forced onto: the best of those that go along at least one piece of it."""
        graph = self._without(target.avoid).copy()
        spot = (target.x_m, target.y_m, target.z_m)
        for number, cost in self._steps_on(target.floor_id, spot):
            graph.add_edge(END, number, weight=cost)
        tree = self._tree(target.closet_id, target.avoid)
        if END not in graph:
            return self._unforced(target)
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
        if best is None:
            return self._unforced(target)
        _, first, second = best
        legs = self._to_node(tree, first, target.closet_id)
        rest = [node for node in reversed(routes[second]) if node != END]
        legs += self._through([first, *rest])
        floor_id, x, y, z = self.network.spots[rest[-1]]
        legs += loose_legs(self.network, floor_id, (x, y, z), spot, z)
        return Way(tuple(_merged(legs)), True)

    def _unforced(self, target: Target) -> Way:
        """The way that there is when the path forced on leads nowhere; it counts as not found."""
        plain = Target(target.closet_id, target.floor_id, target.x_m, target.y_m, target.z_m, target.avoid)
        return Way(self.ways([plain])[0].legs, False)


@dataclass(frozen=True)
class Access:
    """Per target: whole cost of the best way over the network, the piece that it leaves and where on it (0 to 1)."""

    cost: NDArray[np.float64]
    piece: NDArray[np.int_]
    at: NDArray[np.float64]
    here: FloorPieces | None
    drawn: bool
    """Whether the floor has any path that may be used."""


def _nearest(
    here: FloorPieces, spots: NDArray[np.float64], elevation: float, ceiling: float
) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
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


def _loose_level(network: Network, floor_id: int, z: float) -> float:
    """The height at which one goes loose to a path at an elevation."""
    ceiling = network.ceiling[floor_id]
    return z if z - network.elevation[floor_id] < LOW_M or ceiling - HIGH_M <= z <= ceiling else ceiling


def _loose_length(network: Network, floor_id: int, spot: Corner, on: Corner) -> float:
    level = _loose_level(network, floor_id, on[2])
    return abs(spot[0] - on[0]) + abs(spot[1] - on[1]) + abs(level - spot[2]) + abs(level - on[2])


def loose_legs(network: Network, floor_id: int, start: Corner, end: Corner, path_z: float) -> list[Leg]:
    """Up or down, sideways at right angles, up or down, between a spot and a path at an elevation."""
    level = _loose_level(network, floor_id, path_z)
    corners = [start, (*start[:2], level), (end[0], start[1], level), (*end[:2], level), end]
    return straight_legs(floor_id, corners)


def straight_legs(floor_id: int, corners: Sequence[Corner]) -> list[Leg]:
    """Legs along corners at right angles; those without length are left out."""
    legs = []
    for a, b in pairwise(corners):
        length = abs(a[0] - b[0]) + abs(a[1] - b[1]) + abs(a[2] - b[2])
        if length > 1e-9:
            legs.append(Leg("vertical" if a[:2] == b[:2] else "loose", floor_id, (a, b), length))
    return legs


def loose_way(network: Network, closet: Anchor, target: Target) -> tuple[Leg, ...]:
    """The way where nothing is drawn: up to the ceiling, through floors at the closet, along at right angles, down."""
    here, there = network.ceiling[closet.floor_id], network.ceiling[target.floor_id]
    x, y = closet.x_m, closet.y_m
    corners = [(x, y, closet.z_m), (x, y, here), (x, y, there), (target.x_m, y, there),
               (target.x_m, target.y_m, there), (target.x_m, target.y_m, target.z_m)]  # fmt: skip
    return tuple(_merged(straight_legs(target.floor_id, corners)))


def _on(piece: Piece, at: float) -> Corner:
    (ax, ay), (bx, by) = piece.from_spot, piece.to_spot
    return (ax + (bx - ax) * at, ay + (by - ay) * at, piece.z_m)


def _last_piece(piece: Piece, by_first: bool, at: float) -> list[Leg]:
    """The part of the last piece that is gone along."""
    length = piece.length_m * (at if by_first else 1.0 - at)
    start = (*(piece.from_spot if by_first else piece.to_spot), piece.z_m)
    if length <= 1e-9:
        return []
    return [Leg("path", piece.path.floor_id, (start, _on(piece, at)), length, piece.path)]


def _merged(legs: Iterable[Leg]) -> list[Leg]:
    """Stretches along the same path told as one."""
    merged: list[Leg] = []
    for leg in legs:
        last = merged[-1] if merged else None
        if last and last.path is leg.path and (last.kind, last.floor_id) == (leg.kind, leg.floor_id):
            corners = last.corners + leg.corners[1:]
            merged[-1] = Leg(leg.kind, leg.floor_id, corners, last.length_m + leg.length_m, leg.path)
        else:
            merged.append(leg)
    return merged
