"""Levels as a drawing: contour lines, the areas between them, and which access point answers where."""

from __future__ import annotations

from itertools import pairwise
from typing import Any, Literal

import numpy as np
from contourpy import FillType, LineType, contour_generator
from pydantic import Field as Limit

from ..facts.building import Point
from ..facts.fact import Fact
from ..physics.radio import Floats
from ..standards.radio import HEARD_DBM, Band
from .field import Field
from .goals import LEVELS_DBM
from .spot import uplink_dbm

Shown = Literal["strongest", "second", "answers", "unheard"]
"""The level of who answers; of the next after it; who answers; where a client hears and is not heard."""
Line = tuple[Point, ...]


class Contour(Fact):
    """Lines of one level on a floor [m]."""

    dbm: float
    lines: tuple[Line, ...]


class Area(Fact):
    """Cells between two levels, or of one access point: rings of corners, those inside others are holes."""

    from_dbm: float | None = None
    """None: from nothing."""
    to_dbm: float | None = None
    """None: up to the most."""
    drop_id: int | None = None
    rings: tuple[Line, ...] = Limit(default=())


class Picture(Fact):
    """What a floor hears in a band, as it is drawn."""

    floor_id: int
    band: Band
    shown: Shown
    step_m: float
    contours: tuple[Contour, ...]
    areas: tuple[Area, ...]


def picture(field: Field, shown: Shown) -> Picture:
    """The drawing of a band on a floor."""
    contours: tuple[Contour, ...] = ()
    if shown in ("strongest", "second"):
        levels = field.strongest if shown == "strongest" else field.second
        contours, areas = _levels(field, levels)
    elif shown == "answers":
        areas = tuple(
            Area(drop_id=sender.drop_id, rings=_where(field, field.answers == number))
            for number, sender in enumerate(field.senders)
        )
    else:
        areas = (Area(rings=_where(field, unheard(field))),)
    return Picture(
        floor_id=field.cells.floor_id, band=field.band, shown=shown, step_m=field.cells.step_m, contours=contours,
        areas=tuple(area for area in areas if area.rings),
    )  # fmt: skip


def unheard(field: Field) -> np.ndarray:
    """Cells in which a client hears the one that answers, which does not hear it."""
    if not field.senders:
        return np.zeros(len(field.cells.points), dtype=np.bool_)
    strongest, answers = field.strongest, field.answers
    up = np.array([uplink_dbm(field.senders[n], level) for n, level in zip(answers, strongest, strict=True)])
    return np.asarray((strongest >= HEARD_DBM) & (up < HEARD_DBM))


def _levels(field: Field, levels: Floats) -> tuple[tuple[Contour, ...], tuple[Area, ...]]:
    if not np.isfinite(levels).any():
        whole = _where(field, np.ones(len(levels), dtype=np.bool_))
        return (), (Area(to_dbm=LEVELS_DBM[-1], rings=whole),)
    drawn = _generator(field, levels)
    contours = tuple(Contour(dbm=level, lines=_rounded(drawn.lines(level))) for level in LEVELS_DBM)
    steps = (None, *reversed(LEVELS_DBM))
    areas = tuple(
        Area(from_dbm=low, to_dbm=high, rings=_rings(drawn.filled(-1e9 if low is None else low, high)))
        for low, high in zip(steps, reversed(LEVELS_DBM), strict=False)
    )
    return tuple(one for one in contours if one.lines), areas


def _where(field: Field, chosen: np.ndarray) -> tuple[Line, ...]:
    """The outline of cells."""
    if not chosen.any():
        return ()
    return _rings(_generator(field, chosen.astype(np.float64)).filled(0.5, 2.0))


def _generator(field: Field, values: Floats) -> Any:
    """Contours of values of cells, carried on by a cell beyond the rooms' edge, so that they reach the walls."""
    cells = field.cells
    whole = _carried_on(np.pad(cells.spread(values), 1, constant_values=np.nan))
    x = cells.left_m + (np.arange(-1, cells.columns + 1) + 0.5) * cells.step_m
    y = cells.top_m + (np.arange(-1, cells.rows + 1) + 0.5) * cells.step_m
    return contour_generator(
        x, y, np.ma.masked_invalid(whole), name="serial", line_type=LineType.Separate, fill_type=FillType.OuterOffset
    )  # fmt: skip


def _carried_on(values: Floats) -> Floats:
    """Values with those beside them where there are none."""
    missing = np.isnan(values)
    padded = np.pad(values, 1, constant_values=np.nan)
    rows, columns = values.shape
    around = np.stack([
        padded[1 + dy : 1 + dy + rows, 1 + dx : 1 + dx + columns]
        for dy in (-1, 0, 1) for dx in (-1, 0, 1) if (dy, dx) != (0, 0)
    ])  # fmt: skip
    known = ~np.isnan(around)
    total = np.where(known, around, 0.0).sum(axis=0)
    mean = total / np.maximum(known.sum(axis=0), 1)
    return np.where(missing & known.any(axis=0), mean, values)


def _rounded(lines: list[Floats]) -> tuple[Line, ...]:
    return tuple(tuple((round(float(x), 3), round(float(y), 3)) for x, y in line) for line in lines if len(line) > 1)


def _rings(filled: tuple[list[Floats], list[np.ndarray]]) -> tuple[Line, ...]:
    """Polygons with their holes as rings."""
    rings = [
        points[start:end] for points, offsets in zip(*filled, strict=True) for start, end in pairwise(offsets.tolist())
    ]
    return _rounded(rings)
