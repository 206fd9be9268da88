"""Openings in their walls: doors, windows, gates and hatches from end to end."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from functools import lru_cache

from shapely import LineString
from shapely import Point as Spot

from ..facts.building import Point
from ..facts.fact import Fact
from ..facts.walls import Opening, OpeningKind
from ..standards.walls import Material
from .walls import ON_M, WallPiece

OPENING_NEAR_M = 0.5
"""An opening is in the nearest wall whose line is no further from its middle [m]."""


class PlacedOpening(Fact):
    """An opening in its wall, from end to end."""

    id: int
    floor_id: int
    kind: OpeningKind
    ground_m: float
    """Elevation of its floor; sill and head are over that."""
    start: Point
    end: Point
    fits: bool
    """Whether its wall is as wide as it is."""
    sill_m: float
    head_m: float
    see_through: bool
    material: Material
    """As typed, or usual for its kind."""


Cut = tuple[float, float, Opening]
"""From where to where along a piece an opening goes [m]."""


@lru_cache(maxsize=8)
def openings_in(
    pieces: tuple[WallPiece, ...], openings: tuple[Opening, ...], raised: tuple[tuple[int, float], ...]
) -> tuple[tuple[PlacedOpening, ...], Mapping[int, Sequence[Cut]]]:
    """Each opening in its wall, and all by the piece that they cut; those near no wall are nowhere.

    ``raised``: how high each floor lies, by its number.
    """
    cuts: dict[int, list[Cut]] = defaultdict(list)
    placed: list[PlacedOpening] = []
    ground = dict(raised)
    for opening in openings:
        here = [number for number, piece in enumerate(pieces) if piece.floor_id == opening.floor_id]
        spot = Spot(opening.x_m, opening.y_m)
        gaps = {number: LineString([pieces[number].start, pieces[number].end]).distance(spot) for number in here}
        nearest = min(gaps, key=lambda number: (gaps[number], number), default=None)
        if nearest is None or gaps[nearest] > OPENING_NEAR_M:
            continue
        wall = pieces[nearest]
        middle, half = wall.along((opening.x_m, opening.y_m)), opening.width_m / 2
        covered = 0.0
        for number in here:
            ends = [wall.along(end) for end in (pieces[number].start, pieces[number].end)]
            if not all(wall.off(end) <= ON_M for end in (pieces[number].start, pieces[number].end)):
                continue
            low, high = max(min(ends), middle - half), min(max(ends), middle + half)
            if high > low:
                covered += high - low
                own = sorted(pieces[number].along(wall.at(at)) for at in (low, high))
                cuts[number].append((own[0], own[1], opening))
        placed.append(
            PlacedOpening(
                id=opening.id,
                floor_id=opening.floor_id,
                kind=opening.kind,
                ground_m=ground[opening.floor_id],
                start=wall.at(middle - half),
                end=wall.at(middle + half),
                fits=covered >= opening.width_m - ON_M,
                sill_m=opening.sill,
                head_m=opening.head,
                see_through=opening.passes_view,
                material=opening.filling,
            )
        )
    return tuple(placed), cuts
