"""What cameras of the price lists cover of the targets, from every mount, looking every way."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from ..facts.catalogue import Catalogue
from ..facts.lines.bracket import Bracket
from ..facts.lines.camera import Camera
from ..facts.project import Project
from ..physics.optics import Floats, Lens
from ..places.layout import elevations
from ..sight.lenses import LOOKS_ALONG
from ..sight.lines import CLEAR, hidden_by
from ..sight.models import Form, forms_of
from ..sight.mounts import Mount
from ..sight.scene import scene
from ..sight.targets import MEETS, in_space
from ..standards.detail import HANDLED_FORMS, HANDS_REACH_M, PX_PER_M

AIMS = 16
"""Ways that are looked from a mount at the most."""
COMPASS_DEG = 360 / AIMS
COMPASS_TILT_DEG = 20.0
"""Between two ways round the compass, and how far down they look [deg]."""


class Column(NamedTuple):
    """A camera on a mount that looks one way."""

    mount: int
    form: Form
    bearing_deg: float
    tilt_deg: float
    rows: frozenset[int]
    """What it covers: targets to be met by one camera, points of areas."""
    price_minor: int
    """Without the bracket, which others may share."""
    bracket: Bracket | None = None
    """None: it hangs by what it comes with."""


class Offer(NamedTuple):
    """What the price lists offer."""

    forms: tuple[Form, ...]
    brackets: tuple[Bracket, ...]


@dataclass(frozen=True)
class Rows:
    """What must be covered: targets that one camera meets, and single points of areas."""

    points: Floats
    """All points of all targets, x, y, z."""
    px_m: Floats
    """Detail wanted at each."""
    alone: Mapping[int, NDArray[np.int64]]
    """Points of each target that one camera meets, by the target's number."""
    areas: Mapping[int, NDArray[np.int64]]

    def of(self, seen: NDArray[np.bool_]) -> frozenset[int]:
        """Rows that a camera covers which sees these points: targets by −number, points of areas by their place."""
        whole = {-number for number, points in self.alone.items() if seen[points].all()}
        single = {int(point) for points in self.areas.values() for point in points[seen[points]]}
        return frozenset(whole | single)

    def wanted(self, target_id: int) -> frozenset[int]:
        """Rows of a target."""
        if target_id in self.alone:
            return frozenset((-target_id,))
        return frozenset(self.areas[target_id].tolist())


def cameras_of(catalogue: Catalogue) -> tuple[Form, ...]:
    """Cameras in stock, each at its widest and at its narrowest; those that a cheaper one replaces are left out."""
    found: list[Form] = []
    for form in sorted(forms_of(catalogue), key=lambda one: (one.price_minor, one.line.key)):
        if not any(_replaces(one, form) for one in found):
            found.append(form)
    return tuple(found)


def offer_of(catalogue: Catalogue) -> Offer:
    """Cameras and brackets in stock."""
    brackets = tuple(one for one in catalogue.models if isinstance(one, Bracket) and one.in_stock)
    return Offer(cameras_of(catalogue), brackets)


def _replaces(one: Form, other_form: Form) -> bool:
    """Whether a cheaper camera sees at least as wide, as high and as far, of the same projection and use."""
    other, line, frame = one.frame, other_form.line, other_form.frame
    return (
        other.projection == frame.projection and other.across_deg >= frame.across_deg
        and other.down_deg >= frame.down_deg and other.px_m >= frame.px_m
        and set(one.line.surfaces) >= set(line.surfaces)
        and (one.line.outdoor or not line.outdoor)
        and (one.line.camera_form not in HANDLED_FORMS or line.camera_form in HANDLED_FORMS)
    )  # fmt: skip


def rows_of(project: Project) -> Rows:
    raised = elevations(project.floors)
    points: list[Floats] = []
    wanted: list[Floats] = []
    alone: dict[int, NDArray[np.int64]] = {}
    areas: dict[int, NDArray[np.int64]] = {}
    start = 0
    for target in project.targets:
        here = in_space(target, raised[target.floor_id])
        places = np.arange(start, start + len(here))
        (areas if target.shape == "area" else alone)[target.id] = places
        points.append(here)
        wanted.append(np.full(len(here), PX_PER_M[target.detail]))
        start += len(here)
    empty = np.zeros((0, 3))
    return Rows(np.concatenate([empty, *points]), np.concatenate([np.zeros(0), *wanted]), alone, areas)


def columns_of(
    project: Project, number: int, mount: Mount, offer: Offer, rows: Rows, run_minor: int
) -> Iterator[Column]:
    """Every camera on a mount, by itself and by every bracket, looking every way, that no other one there replaces."""
    by_itself = [form for form in offer.forms if mount.surfaces & set(form.line.surfaces)]
    yield from undominated(columns_on(project, number, mount, by_itself, rows, run_minor))
    for bracket in offer.brackets:
        # a bracket for one camera that suits the place by itself only costs
        held = [
            form for form in offer.forms
            if form.line.camera_form in bracket.camera_forms and (bracket.holds > 1 or form not in by_itself)
        ]  # fmt: skip
        if held and mount.surfaces & set(bracket.surfaces):
            there = columns_on(project, number, mount.held_out(bracket.reach_m), held, rows, run_minor)
            yield from (column._replace(bracket=bracket) for column in undominated(there))


def columns_on(
    project: Project, number: int, mount: Mount, forms: Sequence[Form], rows: Rows, run_minor: int
) -> Iterator[Column]:
    """Every one of these cameras on a mount, looking every way, that covers something."""
    if not forms:
        return
    eye = np.array([mount.x_m, mount.y_m, mount.z_m])
    ways = rows.points - eye
    distance = np.maximum(np.sqrt((ways**2).sum(axis=1)), 1e-9)
    furthest = max(form.frame.px_m for form in forms)
    near = np.flatnonzero(furthest / distance >= rows.px_m * (1 - MEETS))
    if not len(near):
        return
    clear = np.zeros(len(distance), dtype=np.bool_)
    # its own wall hides what is behind it: nobody would fix it there to look through
    clear[near] = hidden_by(eye, None, rows.points[near], scene(project)) == CLEAR
    if not clear.any():
        return
    aims = [aim for aim in aims_from(project, mount, ways, clear, rows) if faces_away(project, mount, aim[0])]
    for form in forms:
        if not suits(form.line, mount):
            continue
        sharp = clear & (form.frame.px_m / distance >= rows.px_m * (1 - MEETS))
        if not sharp.any():
            continue
        places = np.flatnonzero(sharp)
        looked = [(0.0, 90.0)] if form.frame.projection == "round" else aims
        for bearing, tilt in looked:
            lens = Lens(mount.x_m, mount.y_m, mount.z_m, bearing, tilt, form.frame)
            seen = np.zeros(len(distance), dtype=np.bool_)
            seen[places] = lens.has_in_frame(ways[places])
            if seen.any() and (covered := rows.of(seen)):
                yield Column(number, form, bearing, tilt, covered, form.price_minor + run_minor)


def faces_away(project: Project, mount: Mount, bearing_deg: float) -> bool:
    """Whether a way to look leaves the wall that the mount is on."""
    if mount.fixed_to is None:
        return True
    x, y = scene(project).pieces[mount.fixed_to].nearest((mount.x_m, mount.y_m))
    off = math.hypot(mount.x_m - x, mount.y_m - y)
    if off == 0:
        return True
    bearing = math.radians(bearing_deg)
    return ((mount.x_m - x) * math.sin(bearing) - (mount.y_m - y) * math.cos(bearing)) / off > LOOKS_ALONG


def suits(line: Camera, mount: Mount) -> bool:
    """Whether a camera may hang there: outside only one that is made for it, no handle where hands reach."""
    if mount.is_outside and not line.outdoor:
        return False
    return line.camera_form not in HANDLED_FORMS or mount.height_m >= HANDS_REACH_M


def aims_from(
    project: Project, mount: Mount, ways: Floats, clear: NDArray[np.bool_], rows: Rows
) -> list[tuple[float, float]]:
    """Ways to look from a mount: at every target that it sees some of, then round the compass."""
    aims: dict[tuple[float, float], None] = {}
    for target in project.targets:
        points = rows.alone[target.id] if target.id in rows.alone else rows.areas[target.id]
        if clear[points].any():
            east, south, up = ways[points].mean(axis=0)
            tilt = math.degrees(math.atan2(-up, math.hypot(east, south)))
            aims[round(math.degrees(math.atan2(east, -south)) % 360, 1) % 360, round(tilt, 1)] = None
    for step in range(AIMS):
        if len(aims) >= AIMS:
            break
        aims[step * COMPASS_DEG, COMPASS_TILT_DEG] = None
    return list(aims)[:AIMS]


def undominated(columns: Iterator[Column]) -> list[Column]:
    """Those of one mount that no other one of it replaces: covering as much for no more money."""
    kept: list[Column] = []
    for column in sorted(columns, key=lambda one: (-len(one.rows), one.price_minor, one.bearing_deg, one.tilt_deg)):
        if not any(one.rows >= column.rows and one.price_minor <= column.price_minor for one in kept):
            kept.append(column)
    return kept
