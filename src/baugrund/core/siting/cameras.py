"""Where cameras meet all targets: the fewest of them, or the least price, and what one, two, three … would meet.

Every mount takes one camera; it looks where a target is, or every `COMPASS_DEG` where there are fewer than `AIMS`.  A
camera is a line of the price lists as wide as it is, or as narrow as it zooms.  OR-Tools CP-SAT proves the answers
over the mounts, aims and cameras offered.
"""

from __future__ import annotations

import math
from collections.abc import Generator, Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal, NamedTuple, get_args

import numpy as np
from numpy.typing import NDArray
from ortools.sat.python import cp_model
from pydantic import JsonValue, field_serializer

from ..cabling.fill import cable_of
from ..edits import AddDrops, AddEntry, ChangeDrops, ChangeEntry, DropChanges, Edit, PlaceDrops, RemoveEntry, as_sent
from ..edits.listing import Placed as PutAt
from ..facts.catalogue import Catalogue
from ..facts.drop import Drop
from ..facts.fact import Fact
from ..facts.lines.camera import Camera
from ..facts.project import Project
from ..physics.optics import Floats, Frame, Lens, usual_projection
from ..places.layout import elevations
from ..reach.runs import runs
from ..sight.lenses import LOOKS_ALONG, lenses
from ..sight.lines import CLEAR, hidden_by
from ..sight.mounts import Mount, mounts_of
from ..sight.scene import scene
from ..sight.targets import MEETS, in_space, targets_of
from ..standards.detail import HANDLED_FORMS, HANDS_REACH_M, PX_PER_M
from ..watch import Share
from .costs import RunPrice

AIMS = 16
COMPASS_DEG = 360 / AIMS
COMPASS_TILT_DEG = 20.0
SECONDS = 3.0
Wish = Literal["fewest", "least_price"]
WISHES: tuple[Wish, ...] = get_args(Wish)


class CameraPlaced(Fact):
    """A camera of an answer: where it is, how it looks, what it is, and what it meets."""

    room_id: int
    floor_id: int
    x_m: float
    y_m: float
    height_m: float
    on: str
    bearing_deg: float
    tilt_deg: float
    field_deg: float
    model: str
    name: str
    camera_minor: int
    run_m: float
    run_minor: int
    """Cable and hours of its run, pulled alone."""
    target_ids: tuple[int, ...]
    """What it meets by itself."""
    drop_id: int | None
    """The camera on the list that would move there; None: it is a new one."""


class ViewsAnswer(Fact):
    """Cameras that meet all targets that can be met."""

    aim: Wish
    cameras: tuple[CameraPlaced, ...]
    price_minor: int
    proven: bool
    edits: tuple[Edit, ...]
    """What takes it: cameras move, or are made."""

    @field_serializer("edits")
    def _send(self, edits: tuple[Edit, ...]) -> list[dict[str, Any]]:
        return [as_sent(edit) for edit in edits]


class AtMost(Fact):
    """How many targets so many cameras meet at the most."""

    cameras: int
    targets: int
    proven: bool


class BestViews(Fact):
    """The best places for cameras, beside what stands."""

    answers: tuple[ViewsAnswer, ...]
    at_most: tuple[AtMost, ...]
    unmet: tuple[int, ...]
    """Targets that no camera meets from any mount."""
    mounts: int
    cameras: int
    """Cameras that stand on the plan now."""
    met_now: tuple[int, ...]
    """Targets that they meet."""
    why_not: str = ""


class _Form(NamedTuple):
    """A camera at one angle."""

    line: Camera
    frame: Frame


class _Column(NamedTuple):
    """A camera on a mount that looks one way."""

    mount: int
    form: _Form
    bearing_deg: float
    tilt_deg: float
    rows: frozenset[int]
    """What it covers: targets to be met by one camera, points of areas."""
    price_minor: int


@dataclass(frozen=True)
class _Rows:
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


def best_views(project: Project, catalogue: Catalogue) -> Generator[Share, None, BestViews]:
    """The best places for the cameras of a project.  Yields how far it is."""
    mounts, forms, rows = mounts_of(project), _forms(catalogue), _rows_of(project)
    now = targets_of(project)
    stands = len({placed.drop.id for placed in lenses(project) if placed.placed and placed.drop.kind == "camera"})
    met = tuple(target.id for target in now if target.met)
    why_not = _nothing(project, mounts, forms)
    if why_not:
        return BestViews(answers=(), at_most=(), unmet=(), mounts=len(mounts), cameras=stands, met_now=met,
                         why_not=why_not)  # fmt: skip
    yield Share(0.0, "measuring the runs to every mount")
    priced = _run_prices(project, mounts)
    columns: list[_Column] = []
    for number, mount in enumerate(mounts):
        yield Share(0.1 + 0.7 * number / len(mounts), f"looking from {project.rooms_by_id[mount.room_id].name}")
        columns += _undominated(_columns(project, number, mount, forms, rows, priced[number][1]))
    coverable = frozenset(row for column in columns for row in column.rows)
    can = tuple(target.id for target in project.targets if rows.wanted(target.id) <= coverable)
    unmet = tuple(target.id for target in project.targets if target.id not in can)
    answers: list[ViewsAnswer] = []
    offered = _Offered(project, mounts, priced, rows)
    for place, aim in enumerate(WISHES):
        yield Share(0.8 + 0.05 * place, "choosing the fewest cameras" if place == 0 else "choosing the least price")
        found = _chosen(columns, rows, can, aim)
        if found is not None:
            answers.append(_answer(offered, found, aim))
    fewest = len(answers[0].cameras) if answers else 0
    at_most: list[AtMost] = []
    for count in range(1, fewest):
        yield Share(0.9 + 0.1 * count / max(fewest, 1), f"what {count} of them would meet")
        at_most.append(_at_most(columns, rows, can, count))
    if fewest:
        at_most.append(AtMost(cameras=fewest, targets=len(can), proven=True))
    return BestViews(answers=tuple(answers), at_most=tuple(at_most), unmet=unmet, mounts=len(mounts), cameras=stands,
                     met_now=met)  # fmt: skip


def _nothing(project: Project, mounts: Sequence[Mount], forms: Sequence[_Form]) -> str:
    if not project.targets:
        return "nothing is to be seen yet: draw a target"
    if not mounts:
        return "no room is drawn on whose walls or ceiling a camera could be fixed"
    return "" if forms else "the price lists hold no camera in stock"


def _forms(catalogue: Catalogue) -> tuple[_Form, ...]:
    """Cameras in stock, each at its widest and at its narrowest; those that a cheaper one replaces are left out."""
    found: list[_Form] = []
    for line in sorted((one for one in catalogue.models if isinstance(one, Camera) and one.in_stock),
                       key=lambda one: (one.price_minor, one.key)):  # fmt: skip
        for field in dict.fromkeys((line.field_deg, line.narrowest_deg or line.field_deg)):
            frame = Frame(field, line.across_px, line.down_px, line.projection or usual_projection(field))
            if not any(_replaces(one, line, frame) for one in found):
                found.append(_Form(line, frame))
    return tuple(found)


def _replaces(one: _Form, line: Camera, frame: Frame) -> bool:
    """Whether a cheaper camera sees at least as wide, as high and as far, of the same projection and use."""
    other = one.frame
    return (
        other.projection == frame.projection and other.across_deg >= frame.across_deg
        and other.down_deg >= frame.down_deg and other.px_m >= frame.px_m
        and set(one.line.surfaces) >= set(line.surfaces)
        and (one.line.outdoor or not line.outdoor)
        and (one.line.camera_form not in HANDLED_FORMS or line.camera_form in HANDLED_FORMS)
    )  # fmt: skip


def _rows_of(project: Project) -> _Rows:
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
    return _Rows(np.concatenate([empty, *points]), np.concatenate([np.zeros(0), *wanted]), alone, areas)


def _columns(
    project: Project, number: int, mount: Mount, forms: Sequence[_Form], rows: _Rows, run_minor: int
) -> Iterator[_Column]:
    """Every camera on a mount, looking every way, that covers something."""
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
    aims = [aim for aim in _aims(project, mount, ways, clear, rows) if _faces_away(project, mount, aim[0])]
    for form in forms:
        if not _suits(form.line, mount):
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
                yield _Column(number, form, bearing, tilt, covered, form.line.price_minor + run_minor)


def _faces_away(project: Project, mount: Mount, bearing_deg: float) -> bool:
    """Whether a way to look leaves the wall that the mount is on."""
    if mount.fixed_to is None:
        return True
    x, y = scene(project).pieces[mount.fixed_to].nearest((mount.x_m, mount.y_m))
    off = math.hypot(mount.x_m - x, mount.y_m - y)
    if off == 0:
        return True
    bearing = math.radians(bearing_deg)
    return ((mount.x_m - x) * math.sin(bearing) - (mount.y_m - y) * math.cos(bearing)) / off > LOOKS_ALONG


def _suits(line: Camera, mount: Mount) -> bool:
    if mount.is_outside and not line.outdoor:
        return False
    if line.camera_form in HANDLED_FORMS and mount.height_m < HANDS_REACH_M:
        return False
    return mount.on in line.surfaces


def _aims(
    project: Project, mount: Mount, ways: Floats, clear: NDArray[np.bool_], rows: _Rows
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


def _undominated(columns: Iterator[_Column]) -> list[_Column]:
    """Those of one mount that no other one of it replaces: covering as much for no more money."""
    kept: list[_Column] = []
    for column in sorted(columns, key=lambda one: (-len(one.rows), one.price_minor, one.bearing_deg, one.tilt_deg)):
        if not any(one.rows >= column.rows and one.price_minor <= column.price_minor for one in kept):
            kept.append(column)
    return kept


def _run_prices(project: Project, mounts: Sequence[Mount]) -> list[tuple[float, int]]:
    """Length of the run to a camera on every mount [m], and what its cable and hours cost [minor]."""
    drops = tuple(
        Drop(
            id=project.next_id + number, room_id=mount.room_id, closet_id=_closet_for(project, mount), kind="camera",
            place=mount.on, speed_mbit=100, poe_class=3, x_m=mount.x_m, y_m=mount.y_m, height_m=mount.height_m,
            outdoor_jacket=mount.is_outside, surface="eaves" if mount.is_outside else "",
        )
        for number, mount in enumerate(mounts)
    )  # fmt: skip
    with_all = project.changed(drops=drops, views=(), next_id=project.next_id + len(drops))
    found, price = runs(with_all), RunPrice(project)
    priced: list[tuple[float, int]] = []
    for drop in drops:
        run = found[drop.id]
        closet = project.closets_by_id[drop.closet_id]
        hours = price.hours(drop, run, closet.room_id, 1)
        cable = round(run.length_m * cable_of(project, drop).minor_per_m)
        priced.append((run.length_m, cable + round(hours * price.hour_minor)))
    return priced


def _closet_for(project: Project, mount: Mount) -> int:
    """Where a camera of a room ends: with what is listed there, else at the head end."""
    last = next((drop for drop in reversed(project.drops) if drop.room_id == mount.room_id), None)
    return last.closet_id if last else project.head_end.id


class _Chosen(NamedTuple):
    columns: tuple[_Column, ...]
    proven: bool


def _model(columns: Sequence[_Column]) -> tuple[cp_model.CpModel, list[cp_model.IntVar]]:
    """A choice of columns, one a mount."""
    model = cp_model.CpModel()
    taken = [model.new_bool_var("") for _ in columns]
    by_mount: dict[int, list[cp_model.IntVar]] = {}
    for column, flag in zip(columns, taken, strict=True):
        by_mount.setdefault(column.mount, []).append(flag)
    for flags in by_mount.values():
        model.add_at_most_one(flags)
    return model, taken


def _covering(columns: Sequence[_Column]) -> dict[int, tuple[int, ...]]:
    """For every row the columns that cover it."""
    found: dict[int, list[int]] = {}
    for number, column in enumerate(columns):
        for row in column.rows:
            found.setdefault(row, []).append(number)
    return {row: tuple(numbers) for row, numbers in found.items()}


def _solve(model: cp_model.CpModel) -> tuple[cp_model.CpSolver, bool, bool]:
    """A solver that has run, whether it found something, and whether that is proven."""
    solver = cp_model.CpSolver()
    solver.parameters.num_workers = 1
    # covers are told by their linear relaxation
    solver.parameters.linearization_level = 2
    solver.parameters.max_deterministic_time = SECONDS
    state = solver.solve(model)
    return solver, state in (cp_model.OPTIMAL, cp_model.FEASIBLE), state == cp_model.OPTIMAL


def _chosen(columns: Sequence[_Column], rows: _Rows, can: Sequence[int], aim: Wish) -> _Chosen | None:
    """The columns that cover all that can be met: the fewest and of those the cheapest, or the other way round."""
    wanted = frozenset(row for target_id in can for row in rows.wanted(target_id))
    if not wanted:
        return None
    model, taken = _model(columns)
    covering = _covering(columns)
    for numbers in {covering[row] for row in wanted}:
        model.add(sum(taken[number] for number in numbers) >= 1)
    prices = [column.price_minor for column in columns]
    count, price = sum(taken), cp_model.LinearExpr.weighted_sum(taken, prices)
    # the second wish weighs less than one of the first
    if aim == "fewest":
        model.minimize(count * (sum(sorted(prices)[-len(wanted) :]) + 1) + price)
    else:
        model.minimize(price * (len(wanted) + 1) + count)
    solver, found, proven = _solve(model)
    if not found:
        return None
    return _Chosen(tuple(c for c, flag in zip(columns, taken, strict=True) if solver.value(flag)), proven)


def _at_most(columns: Sequence[_Column], rows: _Rows, can: Sequence[int], count: int) -> AtMost:
    """The most targets that so many cameras meet."""
    model, taken = _model(columns)
    covering = _covering(columns)
    model.add(sum(taken) <= count)
    met = [model.new_bool_var("") for _ in can]
    for target_id, flag in zip(can, met, strict=True):
        for numbers in {covering[row] for row in rows.wanted(target_id)}:
            model.add(sum(taken[number] for number in numbers) >= flag)
    model.maximize(sum(met))
    solver, _, proven = _solve(model)
    return AtMost(cameras=count, targets=sum(solver.value(flag) for flag in met), proven=proven)


@dataclass(frozen=True)
class _Offered:
    """What an answer is chosen from: mounts, the run to each and its price, and what must be covered."""

    project: Project
    mounts: Sequence[Mount]
    priced: Sequence[tuple[float, int]]
    rows: _Rows


def _answer(offered: _Offered, chosen: _Chosen, aim: Wish) -> ViewsAnswer:
    project, mounts, priced, rows = offered.project, offered.mounts, offered.priced, offered.rows
    moved = _who_moves(project, [mounts[column.mount] for column in chosen.columns])
    cameras: list[CameraPlaced] = []
    for column, drop_id in zip(chosen.columns, moved, strict=True):
        mount, (run_m, run_minor) = mounts[column.mount], priced[column.mount]
        alone = tuple(target.id for target in project.targets if rows.wanted(target.id) <= column.rows)
        cameras.append(
            CameraPlaced(
                room_id=mount.room_id, floor_id=mount.floor_id, x_m=mount.x_m, y_m=mount.y_m, height_m=mount.height_m,
                on=mount.on, bearing_deg=column.bearing_deg, tilt_deg=column.tilt_deg,
                field_deg=column.form.frame.across_deg, model=column.form.line.key, name=column.form.line.name,
                camera_minor=column.form.line.price_minor, run_m=run_m, run_minor=run_minor, target_ids=alone,
                drop_id=drop_id,
            )
        )  # fmt: skip
    lines = {column.form.line.key: column.form.line for column in chosen.columns}
    return ViewsAnswer(
        aim=aim, cameras=tuple(cameras), price_minor=sum(one.camera_minor + one.run_minor for one in cameras),
        proven=chosen.proven, edits=tuple(_edits(project, cameras, lines)),
    )  # fmt: skip


def _who_moves(project: Project, mounts: Sequence[Mount]) -> list[int | None]:
    """For every mount the camera on the list that is nearest to it, each once; None: a new one is made."""
    free = {placed.drop.id: placed for placed in reversed(lenses(project)) if placed.drop.kind == "camera"}
    pairs = sorted(
        (math.dist((mount.x_m, mount.y_m), (placed.lens.x_m, placed.lens.y_m)), number, drop_id)
        for number, mount in enumerate(mounts)
        for drop_id, placed in free.items()
        if placed.floor_id == mount.floor_id or not placed.placed
    )
    moved: list[int | None] = [None] * len(mounts)
    for _, number, drop_id in pairs:
        if moved[number] is None and drop_id not in moved:
            moved[number] = drop_id
    return moved


def _edits(project: Project, cameras: Sequence[CameraPlaced], lines: Mapping[str, Camera]) -> Iterator[Edit]:
    """What takes an answer, in one step: cameras are moved or made, each with its form and its view."""
    number = project.next_id
    for one in cameras:
        line = lines[one.model]
        frame: dict[str, JsonValue] = {
            "bearing_deg": one.bearing_deg, "tilt_deg": one.tilt_deg, "field_deg": one.field_deg,
            "across_px": line.across_px, "down_px": line.down_px, "projection": line.projection,
            "light_m": line.light_m,
        }  # fmt: skip
        changes: dict[str, Any] = {
            "variant": line.camera_form, "place": one.on, "height_m": one.height_m, "poe_class": line.poe_class,
            "draw_w": line.draw_w, "megapixels": round(line.across_px * line.down_px / 1e6, 1),
        }  # fmt: skip
        if one.drop_id is None:
            put = DropChanges.model_validate({**changes, "x_m": one.x_m, "y_m": one.y_m})
            yield AddDrops(room=one.room_id, kind="camera", changes=put)
            drop_id, number = number, number + 1
        else:
            drop_id = one.drop_id
            yield PlaceDrops(places=(PutAt(id=drop_id, room_id=one.room_id, x_m=one.x_m, y_m=one.y_m),))
            yield ChangeDrops(ids=(drop_id,), changes=DropChanges.model_validate(changes))
        rows = [view for view in project.views if view.drop_id == drop_id]
        if rows:
            yield ChangeEntry(list="views", id=rows[0].id, changes=frame)
            yield from (RemoveEntry(list="views", id=view.id) for view in rows[1:])
        else:
            yield AddEntry(list="views", values={"drop_id": drop_id, **frame})
            number += 1
