"""Legs: the stretches of a way, along a path, up or down, or loose at right angles under the ceiling."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Annotated, Literal

from ..facts.fact import numbers
from ..facts.paths import Path
from .network import Anchor, Network, Piece

LOW_M = 1.0
HIGH_M = 0.5
"""A path lower than this over the floor, or higher than this under the ceiling, is reached at its own height; any other
by way of the ceiling."""

Corner = Annotated[tuple[float, float, float], numbers(3)]


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


def _loose_level(network: Network, floor_id: int, z: float) -> float:
    """The height at which one goes loose to a path at an elevation."""
    ceiling = network.ceiling[floor_id]
    return z if z - network.elevation[floor_id] < LOW_M or ceiling - HIGH_M <= z <= ceiling else ceiling


def loose_length(network: Network, floor_id: int, spot: Corner, on: Corner) -> float:
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


def loose_way(network: Network, start: Anchor, end: Anchor) -> tuple[Leg, ...]:
    """The way where nothing is drawn: up to the ceiling, through floors at the start, along at right angles, down."""
    here, there = network.ceiling[start.floor_id], network.ceiling[end.floor_id]
    x, y = start.x_m, start.y_m
    corners = [(x, y, start.z_m), (x, y, here), (x, y, there), (end.x_m, y, there), (end.x_m, end.y_m, there),
               spot_of(end)]  # fmt: skip
    return tuple(merged(straight_legs(end.floor_id, corners)))


def on_piece(piece: Piece, at: float) -> Corner:
    (ax, ay), (bx, by) = piece.from_spot, piece.to_spot
    return (ax + (bx - ax) * at, ay + (by - ay) * at, piece.z_m)


def spot_of(anchor: Anchor) -> Corner:
    return (anchor.x_m, anchor.y_m, anchor.z_m)


def part_of(piece: Piece, start: float, end: float) -> list[Leg]:
    """The part of a piece that is gone along, from one place on it to another (0 to 1)."""
    length = piece.length_m * abs(end - start)
    if length <= 1e-9:
        return []
    return [Leg("path", piece.path.floor_id, (on_piece(piece, start), on_piece(piece, end)), length, piece.path)]


def backwards(legs: Sequence[Leg]) -> list[Leg]:
    return [Leg(leg.kind, leg.floor_id, leg.corners[::-1], leg.length_m, leg.path) for leg in reversed(legs)]


def merged(legs: Iterable[Leg]) -> list[Leg]:
    """Stretches along the same path told as one."""
    told: list[Leg] = []
    for leg in legs:
        last = told[-1] if told else None
        if last and last.path is leg.path and (last.kind, last.floor_id) == (leg.kind, leg.floor_id):
            corners = last.corners + leg.corners[1:]
            told[-1] = Leg(leg.kind, leg.floor_id, corners, last.length_m + leg.length_m, leg.path)
        else:
            told.append(leg)
    return told


@dataclass(frozen=True)
class Line:
    """A way as one line: its corners from the start on, and the floor of each piece between two of them."""

    corners: tuple[Corner, ...] = ()
    floor_ids: tuple[int, ...] = ()


def line_of(legs: Iterable[Leg]) -> Line:
    """Legs joined to one line; corners that lie on one another are told once."""
    corners: list[Corner] = []
    floor_ids: list[int] = []
    for leg in legs:
        for corner in leg.corners:
            if not corners:
                corners.append(corner)
            elif corner != corners[-1]:
                corners.append(corner)
                floor_ids.append(leg.floor_id)
    return Line(tuple(corners), tuple(floor_ids))
