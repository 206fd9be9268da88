"""The network of paths: everything drawn, joined into one graph over floors and buildings.

Paths join where a corner or crossing of one lies within ``JOIN_M`` of another on the same floor.  Lengths in metres,
elevations above the ground.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from itertools import pairwise
from typing import Literal

import networkx as nx
import numpy as np
import shapely
from numpy.typing import NDArray

from ..facts.building import Floor
from ..facts.labour import Task, first_task
from ..facts.path_kinds import PATH_KINDS
from ..facts.paths import Path, PathRate

JOIN_M = 0.3
"""Paths that come this near to each other are joined."""
THROUGH_WALL_M = 0.3
"""Length of a path's step to a floor of the same height: through the wall between them."""
UNDER_CEILING_M = 0.1
OVER_FLOOR_M = 0.1
UNDER_GROUND_M = 0.6

By = Literal["length", "hours", "cost"]
Spot = tuple[float, float]
Line = tuple[tuple[float, float, float], ...]


@dataclass(frozen=True)
class Anchor:
    """A point from which ways start: a closet or a place for one; elevation above the ground [m]."""

    floor_id: int
    x_m: float
    y_m: float
    z_m: float


@dataclass(frozen=True)
class Rates:
    """What a metre costs: hours by path kind and where nothing is drawn (by floor), money by hour and for cable."""

    kinds: Mapping[str, float]
    loose: Mapping[int, float]
    hour_minor: float
    cable_minor_per_m: float

    def weight(self, by: By, length_m: float, hours_per_m: float) -> float:
        """A length in what ways are compared by."""
        if by == "length":
            return length_m
        hours = length_m * hours_per_m
        return hours if by == "hours" else hours * self.hour_minor + length_m * self.cable_minor_per_m


@dataclass(frozen=True)
class Piece:
    """A straight piece of path between two nodes of the graph, on one floor."""

    path: Path
    first: int
    second: int
    from_spot: Spot
    to_spot: Spot
    length_m: float
    z_m: float


@dataclass(frozen=True)
class Fault:
    """A path that does not do what a path should, and why."""

    path_id: int
    text: str
    is_harmless: bool = False
    """Runs are found all the same; it is only worth knowing."""


@dataclass(frozen=True)
class FloorPieces:
    """The pieces of one floor as arrays, for finding the nearest of them."""

    pieces: tuple[Piece, ...]
    ends: NDArray[np.float64]
    """Rows of x, y of the first and of the second end [m]."""
    z_m: NDArray[np.float64]
    lengths: NDArray[np.float64]


@dataclass
class Network:
    """Nodes, the graph over them, and the pieces by floor."""

    graph: nx.Graph[int]
    spots: list[tuple[int, float, float, float]] = field(default_factory=list)
    """Floor, x, y, elevation of every node."""
    floors: dict[int, FloorPieces] = field(default_factory=dict)
    faults: list[Fault] = field(default_factory=list)
    elevation: dict[int, float] = field(default_factory=dict)
    ceiling: dict[int, float] = field(default_factory=dict)


def height_of(path: Path, floor: Floor) -> float:
    """Height of a path above its floor [m]: as typed, or usual for its kind."""
    if path.height_m is not None:
        return path.height_m
    usual = {"ceiling": floor.height_m - UNDER_CEILING_M, "floor": OVER_FLOOR_M, "below": -UNDER_GROUND_M}
    return usual.get(path.row.place, floor.height_m + floor.slab_m / 2)


def lines_of(paths: Iterable[Path], floors: Mapping[int, Floor], elevation: Mapping[int, float]) -> dict[int, Line]:
    """Corners of every path by its number: x, y, elevation [m]; one that goes on to another floor ends there."""
    found = {}
    for path in paths:
        z = elevation[path.floor_id] + height_of(path, floors[path.floor_id])
        corners = [(x, y, z) for x, y in path.points]
        if path.to_floor_id is not None:
            there = floors[path.to_floor_id]
            corners.append((*path.points[-1], elevation[there.id] + height_of(path, there)))
        found[path.id] = tuple(corners)
    return found


def hours_of(rates: Iterable[PathRate], hours: Mapping[Task, float]) -> dict[str, float]:
    """Hours per metre of every kind of path: the project's own, else the default."""
    own = {rate.kind: rate.hours_per_m for rate in rates if rate.hours_per_m is not None}
    return {kind: own.get(row.key, hours[first_task(row.pull)]) for kind, row in PATH_KINDS.items()}


class _Builder:
    def __init__(self, floors: Mapping[int, Floor], elevation: Mapping[int, float]) -> None:
        self.network = Network(nx.Graph(), elevation=dict(elevation))
        self.network.ceiling = {number: elevation[number] + floor.height_m for number, floor in floors.items()}
        self.floors = floors
        self._cells: dict[tuple[int, int, int], list[int]] = defaultdict(list)

    def node(self, floor_id: int, x: float, y: float, z: float) -> int:
        """The node at a spot: one that is there already, within reach of it, or a new one."""
        cell = (floor_id, round(x / JOIN_M), round(y / JOIN_M))
        near = [
            number
            for dx in (-1, 0, 1)
            for dy in (-1, 0, 1)
            for number in self._cells.get((floor_id, cell[1] + dx, cell[2] + dy), ())
            if abs(self.network.spots[number][1] - x) + abs(self.network.spots[number][2] - y) <= JOIN_M + 1e-9
        ]
        for number in near:
            if abs(self.network.spots[number][3] - z) < 0.05:
                return number
        made = len(self.network.spots)
        self.network.spots.append((floor_id, x, y, z))
        self.network.graph.add_node(made)
        self._cells[cell].append(made)
        for number in near:
            # paths of different height that meet are joined by the step between them
            self._join(made, number, abs(self.network.spots[number][3] - z), None)
        return made

    def _join(self, first: int, second: int, length_m: float, path: Path | None) -> None:
        known = self.network.graph.get_edge_data(first, second)
        if first != second and (known is None or known["length_m"] > length_m):
            self.network.graph.add_edge(first, second, length_m=length_m, path=path)

    def lay(self, path: Path, corners: Sequence[Spot]) -> list[Piece]:
        """A path along its corners, those where others meet it among them."""
        z = self.network.elevation[path.floor_id] + height_of(path, self.floors[path.floor_id])
        numbers = [self.node(path.floor_id, x, y, z) for x, y in corners]
        pieces = []
        for (first, a), (second, b) in pairwise(zip(numbers, corners, strict=True)):
            length = float(np.hypot(b[0] - a[0], b[1] - a[1]))
            if first == second:
                continue
            self._join(first, second, length, path)
            pieces.append(Piece(path, first, second, a, b, length, z))
        return pieces

    def rise(self, path: Path, at: Spot) -> list[Piece]:
        """The step of a path to its other floor, at its last corner; its ends, for runs that leave it there."""
        assert path.to_floor_id is not None
        low = self.network.elevation[path.floor_id] + height_of(path, self.floors[path.floor_id])
        other = self.floors[path.to_floor_id]
        high = self.network.elevation[other.id] + height_of(path, other)
        length = max(abs(high - low), THROUGH_WALL_M)
        foot, head = self.node(path.floor_id, *at, low), self.node(other.id, *at, high)
        self._join(foot, head, length, path)
        return [Piece(path, foot, foot, at, at, 0.0, low), Piece(path, head, head, at, at, 0.0, high)]


def build(paths: Sequence[Path], floors: Mapping[int, Floor], elevation: Mapping[int, float]) -> Network:
    """The network of these paths, whatever starts or ends on them."""
    builder = _Builder(floors, elevation)
    by_floor: dict[int, list[Path]] = defaultdict(list)
    for path in paths:
        by_floor[path.floor_id].append(path)
    pieces: dict[int, list[Piece]] = defaultdict(list)
    for floor_id, some in by_floor.items():
        landings = [path.points[-1] for path in paths if path.to_floor_id == floor_id]
        for path, corners in _with_meetings(some, landings):
            laid = builder.lay(path, corners)
            pieces[floor_id] += laid
            if not laid and len(path.points) > 1:
                builder.network.faults.append(Fault(path.id, "has no length: its corners lie on one another"))
    for path in paths:
        if path.to_floor_id is not None:
            foot, head = builder.rise(path, path.points[-1])
            pieces[path.floor_id].append(foot)
            pieces[path.to_floor_id].append(head)
    network = builder.network
    for floor_id, some_pieces in pieces.items():
        network.floors[floor_id] = FloorPieces(
            tuple(some_pieces),
            np.array([[*piece.from_spot, *piece.to_spot] for piece in some_pieces]),
            np.array([piece.z_m for piece in some_pieces]),
            np.array([piece.length_m for piece in some_pieces]),
        )
    network.faults += [*_loose_ends(paths, network), *_loops(paths)]
    return network


def _with_meetings(paths: Sequence[Path], landings: Sequence[Spot]) -> list[tuple[Path, list[Spot]]]:
    """Corners of every path of a floor in order, with those where another path of the floor meets or crosses it, or
    lands from another floor."""
    lines = [
        shapely.LineString(path.points) if len(path.points) > 1 else shapely.Point(path.points[0]) for path in paths
    ]
    cuts: list[list[Spot]] = [[] for _ in paths]
    tree = shapely.STRtree(lines)
    for one, other in tree.query(lines, predicate="dwithin", distance=JOIN_M + 1e-9).T:
        if one < other:
            for spot in _meetings(lines[one], lines[other]):
                cuts[one].append(spot)
                cuts[other].append(spot)
    for x, y in landings:
        away = shapely.distance(lines, shapely.Point(x, y))
        for number in np.flatnonzero(away <= JOIN_M + 1e-9):
            cuts[number].append((x, y))
    return [(path, _in_order(path, line, cut)) for path, line, cut in zip(paths, lines, cuts, strict=True)]


def _meetings(one: shapely.Geometry, other: shapely.Geometry) -> list[Spot]:
    """Where two lines cross; else the corners of either that come near to the other, else where they are nearest."""
    crossing = shapely.get_coordinates(shapely.intersection(one, other))
    if len(crossing):
        return [(float(x), float(y)) for x, y in crossing]
    near = [
        (float(x), float(y))
        for line, far in ((one, other), (other, one))
        for x, y in shapely.get_coordinates(line)
        if shapely.distance(shapely.Point(x, y), far) <= JOIN_M + 1e-9
    ]
    return near or [(float(x), float(y)) for x, y in shapely.get_coordinates(shapely.shortest_line(one, other))[:1]]


def _in_order(path: Path, line: shapely.Geometry, cuts: Sequence[Spot]) -> list[Spot]:
    if not isinstance(line, shapely.LineString) or not cuts:
        return list(path.points)
    along = [(0.0, path.points[0])]
    for start, end in pairwise(path.points):
        along.append((along[-1][0] + float(np.hypot(end[0] - start[0], end[1] - start[1])), end))
    for x, y in cuts:
        at = line.project(shapely.Point(x, y))
        on = line.interpolate(at)
        along.append((float(at), (on.x, on.y)))
    return [spot for _, spot in sorted(along)]


def _loops(paths: Sequence[Path]) -> list[Fault]:
    """Paths that come back to where they start, or cross themselves."""
    found = []
    for path in paths:
        line = shapely.LineString(path.points) if len(path.points) > 2 else None
        if line is not None and line.is_ring:
            found.append(Fault(path.id, "comes back to where it starts: a loop; runs take its better side", True))
        elif line is not None and line.length > 0 and not line.is_simple:
            found.append(Fault(path.id, "crosses itself and is not joined there; draw two paths where it is", True))
    return found


def _loose_ends(paths: Sequence[Path], network: Network) -> list[Fault]:
    """Paths that join no other and go to no other floor, where there are several."""
    if len(paths) < 2:
        return []
    part_of: dict[int, int] = {}
    for number, nodes in enumerate(nx.connected_components(network.graph)):
        part_of |= dict.fromkeys(nodes, number)
    paths_in: dict[int, set[int]] = defaultdict(set)
    for first, _, data in network.graph.edges(data=True):
        if data["path"] is not None:
            paths_in[part_of[first]].add(data["path"].id)
    alone = {path_id for some in paths_in.values() if len(some) == 1 for path_id in some}
    return [
        Fault(path.id, f"joins no other path; paths join where they come within {JOIN_M:g} m of each other")
        for path in paths
        if path.id in alone and path.to_floor_id is None
    ]
