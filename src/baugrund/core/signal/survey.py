"""A survey laid beside the prediction: error by device and band, and the losses of this house that explain it.

The level of a reading is linear in the losses of the materials that its ray crosses, of its floors (as Lf), and in an
offset for every device but the first one.  Bounded least squares finds them [1]_; what the readings cannot tell stays
as it was: it is not estimable, or its standard error is over 3 dB.

References
----------
.. [1] Stark, Parker: Bounded-variable least squares, Computational Statistics 10 (1995); scipy.optimize.lsq_linear.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import lsq_linear

from ..facts.catalogue import Catalogue
from ..facts.fact import Fact
from ..facts.kept import kept_beside
from ..facts.project import Project
from ..facts.signal import Reading
from ..physics.radio import Floats
from ..places.layout import elevations
from ..standards.radio import BANDS, FLOOR_MAKES, GENERATIONS, Band
from ..standards.walls import MATERIALS
from .field import Losses, losses_of, received_dbm
from .obstructions import crossings, obstructions
from .radios import Sender, stations

LOSS_MOST_DB = 60.0
OFFSET_MOST_DB = 15.0
TELLS_DB = 3.0
"""A loss is told where its standard error is no more."""
ERRORS_95 = 1.98
"""So many standard errors to either side hold 95 %."""
SAME_SPOT_M = 0.05
"""Readings no further apart are of one spot."""


class ReadingLine(Fact):
    """A reading beside what is predicted there."""

    reading_id: int
    drop_id: int | None
    """The access point that answered, as it was said, else the strongest predicted; None: none sends in its band."""
    predicted_dbm: float | None
    error_db: float | None
    """Measured − predicted, the offset of its device counted."""
    is_guessed: bool
    """Nobody said which access point answered."""
    repeat: str
    """Why it ought to be measured again; empty: it need not."""


class DeviceError(Fact):
    """How far the readings of a device in a band are off."""

    device: str
    band: Band
    readings: int
    mean_db: float
    spread_db: float
    """Standard deviation."""


class LossTold(Fact):
    """A loss or an offset as the readings tell it."""

    what: str
    """A material, ``floor-`` and what it is made of, or a device."""
    kind: str
    """``wall``, ``floor`` or ``device``."""
    band: Band | None
    was_db: float
    db: float | None
    """None: the readings cannot tell."""
    error_db: float | None
    """Standard error; the loss lies within 1.98 of them with 95 %."""


class Correction(Fact):
    """What would bring the prediction nearer to the readings."""

    losses: tuple[LossTold, ...]
    readings: int
    before_db: float | None
    """Root of the mean square error as the losses are."""
    after_db: float | None
    apart_after_db: float | None
    """The same after, of readings whose spot was left out, one spot at a time; None: there is one spot."""


class Walk(Fact):
    """A survey walk."""

    name: str
    readings: int
    mean_db: float | None
    spread_db: float | None


class Survey(Fact):
    """Readings beside the prediction."""

    readings: tuple[ReadingLine, ...]
    devices: tuple[DeviceError, ...]
    walks: tuple[Walk, ...]
    correction: Correction


@dataclass(frozen=True)
class _Ray:
    """A reading with the sender it hears and what is between."""

    reading: Reading
    sender: Sender
    bare_dbm: float
    """What would be received with nothing in the way but what fills rooms."""
    walls: Floats
    """How many walls of each material."""
    floors: Floats
    """By what they are made of: the factor of each Lf."""

    def predicted(self, losses: Losses) -> float:
        number = BANDS.index(self.sender.band)
        taken = self.walls @ np.array(losses.walls[number]) + self.floors @ np.array(losses.floors[number])
        return self.bare_dbm - float(taken)


@kept_beside
def survey_of(project: Project, catalogue: Catalogue | None) -> Survey:
    """The readings of a project beside what is predicted, and what they tell of its losses."""
    rays = _rays(project, catalogue)
    losses = losses_of(project)
    offsets = {offset.device: offset.db for offset in project.offsets}
    errors = {
        ray.reading.id: ray.reading.dbm - ray.predicted(losses) - offsets.get(ray.reading.device, 0.0) for ray in rays
    }
    by_id = {ray.reading.id: ray for ray in rays}
    lines = []
    for reading in project.readings:
        ray = by_id.get(reading.id)
        lines.append(
            ReadingLine(
                reading_id=reading.id, drop_id=ray.sender.drop_id if ray else None,
                predicted_dbm=round(ray.predicted(losses), 2) if ray else None,
                error_db=round(errors[reading.id], 2) if ray else None,
                is_guessed=ray is not None and reading.drop_id is None,
                repeat=_repeat(project, reading, ray),
            )
        )  # fmt: skip
    return Survey(
        readings=tuple(lines), devices=tuple(_by_device(rays, errors)), walks=tuple(_walks(project, errors)),
        correction=_correction(project, rays, losses, offsets),
    )  # fmt: skip


def _rays(project: Project, catalogue: Catalogue | None) -> list[_Ray]:
    """Every reading whose access point sends in its band: the one that was said, else the strongest predicted."""
    losses, raised = losses_of(project), elevations(project.floors)
    senders = [sender for station in stations(project, catalogue) for sender in station.senders]
    points = np.array(
        [[r.x_m, r.y_m, raised[r.floor_id] + r.height_m] for r in project.readings], dtype=np.float64
    ).reshape(-1, 3)
    asks: dict[int, list[int]] = defaultdict(list)
    for place, reading in enumerate(project.readings):
        for number, sender in enumerate(senders):
            if sender.band == reading.band and reading.drop_id in (None, sender.drop_id):
                asks[number].append(place)
    found: dict[int, list[_Ray]] = defaultdict(list)
    for number, places in asks.items():
        for place, ray in zip(places, _followed(project, senders[number], places, points, losses), strict=True):
            found[place].append(ray)
    return [max(found[place], key=lambda ray: ray.predicted(losses)) for place in sorted(found)]


def _followed(
    project: Project, sender: Sender, places: Sequence[int], points: Floats, losses: Losses
) -> Iterator[_Ray]:
    """The readings at some places of the list as this sender's."""
    of, at = obstructions(project), points[places]
    crossed = crossings(of, sender.spot, at)
    number = BANDS.index(sender.band)
    walls = crossed.materials(of, np.array(losses.walls[number]))
    met = crossed.floors(of)
    count = met.sum(axis=1)
    factor = np.where(count > 0, np.maximum(count, 1) ** ((count + 2) / (count + 1) - 0.46), 0.0)
    floors = met / np.maximum(count, 1)[:, None] * factor[:, None]
    bare = received_dbm(sender, at, crossed.filled(of)[:, number])
    return (
        _Ray(project.readings[place], sender, float(bare[row]), walls[row], floors[row])
        for row, place in enumerate(places)
    )


def _repeat(project: Project, reading: Reading, ray: _Ray | None) -> str:
    """Why a reading ought to be measured again."""
    if ray is None:
        return "no access point that was said sends in this band"
    if reading.generation is None:
        return ""
    newest = GENERATIONS
    device = max(
        (newest.index(r.generation) for r in project.readings if r.device == reading.device and r.generation), default=0
    )
    both = min(device, newest.index(ray.sender.generation))
    spoken = newest.index(reading.generation)
    if spoken < both and not (reading.band == "2.4" and newest[both] == "802.11ac"):
        return f"it was joined by {reading.generation}; both ends can do {newest[both]}"
    return ""


def _by_device(rays: Sequence[_Ray], errors: dict[int, float]) -> list[DeviceError]:
    groups: dict[tuple[str, Band], list[float]] = defaultdict(list)
    for ray in rays:
        groups[ray.reading.device, ray.reading.band].append(errors[ray.reading.id])
    return [
        DeviceError(device=device, band=band, readings=len(some), mean_db=round(float(np.mean(some)), 2),
                    spread_db=round(float(np.std(some)), 2))
        for (device, band), some in sorted(groups.items())
    ]  # fmt: skip


def _walks(project: Project, errors: dict[int, float]) -> list[Walk]:
    groups: dict[str, list[Reading]] = defaultdict(list)
    for reading in project.readings:
        groups[reading.walk].append(reading)
    found = []
    for name, some in groups.items():
        known = [errors[reading.id] for reading in some if reading.id in errors]
        found.append(
            Walk(name=name, readings=len(some), mean_db=round(float(np.mean(known)), 2) if known else None,
                 spread_db=round(float(np.std(known)), 2) if known else None)
        )  # fmt: skip
    return found


@dataclass(frozen=True)
class _Columns:
    """What is asked of the readings: a loss a column, and an offset a device but the first."""

    losses: tuple[tuple[str, str, Band], ...]
    """Kind, what, band."""
    devices: tuple[str, ...]
    was: Floats

    @property
    def low(self) -> Floats:
        return np.array([0.0] * len(self.losses) + [-OFFSET_MOST_DB] * len(self.devices))

    @property
    def high(self) -> Floats:
        return np.array([LOSS_MOST_DB] * len(self.losses) + [OFFSET_MOST_DB] * len(self.devices))


def _columns(rays: Sequence[_Ray], losses: Losses, offsets: dict[str, float]) -> _Columns:
    asked: list[tuple[str, str, Band]] = []
    was: list[float] = []
    for band in BANDS:
        number = BANDS.index(band)
        here = [ray for ray in rays if ray.sender.band == band]
        for place, material in enumerate(MATERIALS):
            if any(ray.walls[place] for ray in here):
                asked.append(("wall", material, band))
                was.append(losses.walls[number][place])
        for place, make in enumerate(FLOOR_MAKES):
            if any(ray.floors[place] for ray in here):
                asked.append(("floor", f"floor-{make}", band))
                was.append(losses.floors[number][place])
    devices = tuple(dict.fromkeys(ray.reading.device for ray in rays))[1:]
    return _Columns(tuple(asked), devices, np.array(was + [offsets.get(device, 0.0) for device in devices]))


def _matrix(rays: Sequence[_Ray], columns: _Columns) -> Floats:
    """By how much the level of each reading (a row) rises with each column."""
    rows = np.zeros((len(rays), len(columns.was)))
    place = {name: number for number, name in enumerate(columns.losses)}
    for row, ray in enumerate(rays):
        band = ray.sender.band
        for number, material in enumerate(MATERIALS):
            if ray.walls[number]:
                rows[row, place["wall", material, band]] = -ray.walls[number]
        for number, make in enumerate(FLOOR_MAKES):
            if ray.floors[number]:
                rows[row, place["floor", f"floor-{make}", band]] = -ray.floors[number]
        if ray.reading.device in columns.devices:
            rows[row, len(columns.losses) + columns.devices.index(ray.reading.device)] = 1.0
    return rows


@dataclass(frozen=True)
class _Fit:
    values: Floats
    errors: Floats
    """Standard error of each; inf: not estimable."""


def _fit(matrix: Floats, levels: Floats, columns: _Columns, asked: NDArray[np.bool_] | None = None) -> _Fit:
    """The values of least squares within their bounds, those that cannot be told held as they were; ``asked``: those
    that may be told at all."""
    told = np.ones(len(columns.was), dtype=np.bool_) if asked is None else asked.copy()
    while True:
        values = _solved(matrix, levels, columns, told)
        errors = np.full(len(values), math.inf)
        if told.any():
            errors[told] = _standard_errors(matrix[:, told], levels - matrix @ values)
        untold = [n for n in np.flatnonzero(told) if errors[n] > TELLS_DB]
        if not untold:
            return _Fit(values, errors)
        told[max(untold, key=lambda n: (errors[n], -n))] = False


def _solved(matrix: Floats, levels: Floats, columns: _Columns, told: NDArray[np.bool_]) -> Floats:
    """The values of least squares within their bounds, of those that are told; the others as they were."""
    values = columns.was.copy()
    if not told.any():
        return values
    low, high = columns.low[told], columns.high[told]
    rest = levels - matrix[:, ~told] @ columns.was[~told]
    found = np.linalg.lstsq(matrix[:, told], rest)[0]
    if (found < low).any() or (found > high).any():
        found = lsq_linear(matrix[:, told], rest, (low, high), method="bvls").x
    values[told] = found
    return values


def _standard_errors(matrix: Floats, residuals: Floats) -> Floats:
    """Of each column; inf where what is asked cannot be told apart from others."""
    count, width = matrix.shape
    if count <= width:
        return np.full(width, math.inf)
    _, scales, right = np.linalg.svd(matrix, full_matrices=False)
    small = scales < scales.max(initial=0.0) * 1e-9
    variance = float(residuals @ residuals) / (count - width)
    weights = np.where(small, 0.0, 1 / np.where(small, 1.0, scales)) ** 2
    found = np.sqrt(variance * (weights @ right**2))
    return np.where((right[small] ** 2).sum(axis=0) > 1e-9, math.inf, found)


def _correction(project: Project, rays: Sequence[_Ray], losses: Losses, offsets: dict[str, float]) -> Correction:
    columns = _columns(rays, losses, offsets)
    if not rays:
        return Correction(losses=(), readings=0, before_db=None, after_db=None, apart_after_db=None)
    matrix = _matrix(rays, columns)
    levels = np.array([ray.reading.dbm - ray.bare_dbm for ray in rays])
    fit = _fit(matrix, levels, columns)
    told = []
    for number, (kind, what, band) in enumerate(columns.losses):
        told.append(_told(what, kind, band, number, columns, fit))
    for number, device in enumerate(columns.devices, len(columns.losses)):
        told.append(_told(device, "device", None, number, columns, fit))
    before, after = levels - matrix @ columns.was, levels - matrix @ fit.values
    apart = _left_out(rays, matrix, levels, columns, np.isfinite(fit.errors))
    return Correction(
        losses=tuple(told), readings=len(rays), before_db=_root(before), after_db=_root(after),
        apart_after_db=_root(apart) if apart is not None else None,
    )  # fmt: skip


def _told(what: str, kind: str, band: Band | None, number: int, columns: _Columns, fit: _Fit) -> LossTold:
    knows = math.isfinite(fit.errors[number])
    return LossTold(
        what=what, kind=kind, band=band, was_db=round(float(columns.was[number]), 2),
        db=round(float(fit.values[number]), 2) if knows else None,
        error_db=round(float(fit.errors[number]), 2) if knows else None,
    )  # fmt: skip


def _left_out(
    rays: Sequence[_Ray], matrix: Floats, levels: Floats, columns: _Columns, told: NDArray[np.bool_]
) -> Floats | None:
    """The error of every reading, by what the readings of other spots tell; None: there is one spot."""
    spots: list[list[int]] = []
    for row, ray in enumerate(rays):
        r = ray.reading
        for some in spots:
            other = rays[some[0]].reading
            if other.floor_id == r.floor_id and math.dist((other.x_m, other.y_m), (r.x_m, r.y_m)) <= SAME_SPOT_M:
                some.append(row)
                break
        else:
            spots.append([row])
    if len(spots) < 2:
        return None
    errors = np.zeros(len(rays))
    for some in spots:
        rest = np.setdiff1d(np.arange(len(rays)), some)
        values = _fit(matrix[rest], levels[rest], columns, told).values
        errors[some] = levels[some] - matrix[some] @ values
    return errors


def _root(errors: Floats) -> float:
    return round(float(np.sqrt(np.mean(errors**2))), 2)
