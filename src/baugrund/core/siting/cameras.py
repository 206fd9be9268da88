"""Where cameras meet all targets: the fewest of them, or the least price, and what one, two, three … would meet.

Every mount takes one camera, or as many as a bracket there holds.  It looks where a target is, or every `COMPASS_DEG`
where there are fewer than `AIMS`.  A camera is a line of the price lists with its own lens or one that fits it, as
wide as it is, or as narrow as it zooms.  OR-Tools CP-SAT proves the answers over the mounts, aims and cameras offered.
"""

from __future__ import annotations

import math
from collections.abc import Generator, Iterator, Sequence
from dataclasses import dataclass
from typing import Any, Literal, NamedTuple, get_args

from ortools.sat.python import cp_model
from pydantic import JsonValue, field_serializer

from ..edits import AddDrops, AddEntry, ChangeDrops, ChangeEntry, DropChanges, Edit, PlaceDrops, RemoveEntry, as_sent
from ..edits.drops import Placed as PutAt
from ..facts.catalogue import Catalogue
from ..facts.drop import Drop
from ..facts.fact import Fact
from ..facts.lines.bracket import Bracket
from ..facts.project import Project
from ..sight.lenses import lenses
from ..sight.models import Form
from ..sight.mounts import Mount, mounts_of
from ..sight.targets import targets_of
from ..watch import Share
from .costs import NOT_BUILT, closet_for, prices_of_runs
from .covering import Column, Offer, Rows, columns_of, offer_of, rows_of

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
    lens: str
    """The line of its lens; empty: its own."""
    bracket: str
    """The line of its bracket; empty: it hangs by what it comes with."""
    bracket_name: str
    camera_minor: int
    """With its lens."""
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
    """With brackets, each once."""
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


def best_views(project: Project, catalogue: Catalogue) -> Generator[Share, None, BestViews]:
    """The best places for the cameras of a project.  Yields how far it is."""
    mounts, offer, rows = mounts_of(project), offer_of(catalogue), rows_of(project)
    now = targets_of(project)
    stands = len({placed.drop.id for placed in lenses(project) if placed.placed and placed.drop.kind == "camera"})
    met = tuple(target.id for target in now if target.met)
    why_not = _nothing(project, mounts, offer)
    if why_not:
        return BestViews(answers=(), at_most=(), unmet=(), mounts=len(mounts), cameras=stands, met_now=met,
                         why_not=why_not)  # fmt: skip
    yield Share(0.0, "measuring the runs to every mount")
    priced = _run_prices(project, mounts)
    columns: list[Column] = []
    for number, mount in enumerate(mounts):
        yield Share(0.1 + 0.7 * number / len(mounts), f"looking from {project.rooms_by_id[mount.room_id].name}")
        columns += columns_of(project, number, mount, offer, rows, priced[number][1])
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


def _nothing(project: Project, mounts: Sequence[Mount], offer: Offer) -> str:
    if not project.targets:
        return "nothing is to be seen yet: draw a target"
    if not mounts:
        return "no room is drawn on whose walls or ceiling a camera could be fixed"
    return "" if offer.forms else "the price lists hold no camera in stock"


def _run_prices(project: Project, mounts: Sequence[Mount]) -> list[tuple[float, int]]:
    """Length of the run to a camera on every mount [m], and what its cable and hours cost [minor]."""
    drops = tuple(
        Drop(
            id=project.next_id + number, room_id=mount.room_id, closet_id=closet_for(project, mount.room_id),
            kind="camera", place=mount.on, speed_mbit=100, poe_class=3, x_m=mount.x_m, y_m=mount.y_m,
            height_m=mount.height_m, outdoor_jacket=mount.is_outside, surface="eaves" if mount.is_outside else "",
        )
        for number, mount in enumerate(mounts)
    )  # fmt: skip
    return prices_of_runs(project, drops)


class _Chosen(NamedTuple):
    columns: tuple[Column, ...]
    proven: bool


class _Model(NamedTuple):
    """A choice of columns: one a mount, or on one bracket there as many as it holds."""

    model: cp_model.CpModel
    taken: list[cp_model.IntVar]
    brackets: list[tuple[cp_model.IntVar, int]]
    """Whether each bracket is taken, and its price."""


def _model(columns: Sequence[Column]) -> _Model:
    model = cp_model.CpModel()
    taken = [model.new_bool_var("") for _ in columns]
    by_mount: dict[int, list[cp_model.IntVar]] = {}
    on_bracket: dict[tuple[int, str], list[cp_model.IntVar]] = {}
    lines: dict[str, Bracket] = {}
    for column, flag in zip(columns, taken, strict=True):
        if column.bracket is None:
            by_mount.setdefault(column.mount, []).append(flag)
        else:
            lines[column.bracket.key] = column.bracket
            on_bracket.setdefault((column.mount, column.bracket.key), []).append(flag)
    brackets: list[tuple[cp_model.IntVar, int]] = []
    for (mount, key), flags in on_bracket.items():
        there = model.new_bool_var("")
        model.add(sum(flags) <= lines[key].holds * there)
        by_mount.setdefault(mount, []).append(there)
        brackets.append((there, lines[key].price_minor))
    for flags in by_mount.values():
        model.add_at_most_one(flags)
    return _Model(model, taken, brackets)


def _covering(columns: Sequence[Column]) -> dict[int, tuple[int, ...]]:
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


def _chosen(columns: Sequence[Column], rows: Rows, can: Sequence[int], aim: Wish) -> _Chosen | None:
    """The columns that cover all that can be met: the fewest and of those the cheapest, or the other way round."""
    wanted = frozenset(row for target_id in can for row in rows.wanted(target_id))
    if not wanted:
        return None
    model, taken, brackets = _model(columns)
    covering = _covering(columns)
    for numbers in {covering[row] for row in wanted}:
        model.add(sum(taken[number] for number in numbers) >= 1)
    flags = [*taken, *(there for there, _ in brackets)]
    prices = [*(column.price_minor for column in columns), *(minor for _, minor in brackets)]
    count, price = sum(taken), cp_model.LinearExpr.weighted_sum(flags, prices)
    # the second wish weighs less than one of the first
    if aim == "fewest":
        model.minimize(count * (sum(sorted(prices)[-2 * len(wanted) :]) + 1) + price)
    else:
        model.minimize(price * (len(wanted) + 1) + count)
    solver, found, proven = _solve(model)
    if not found:
        return None
    return _Chosen(tuple(c for c, flag in zip(columns, taken, strict=True) if solver.value(flag)), proven)


def _at_most(columns: Sequence[Column], rows: Rows, can: Sequence[int], count: int) -> AtMost:
    """The most targets that so many cameras meet."""
    model, taken, _ = _model(columns)
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
    rows: Rows


def _answer(offered: _Offered, chosen: _Chosen, aim: Wish) -> ViewsAnswer:
    project, mounts, priced, rows = offered.project, offered.mounts, offered.priced, offered.rows
    hung = [
        mounts[column.mount].held_out(column.bracket.reach_m) if column.bracket else mounts[column.mount]
        for column in chosen.columns
    ]
    moved = _who_moves(project, hung)
    cameras: list[CameraPlaced] = []
    for column, drop_id in zip(chosen.columns, moved, strict=True):
        mount, (run_m, run_minor) = hung[len(cameras)], priced[column.mount]
        alone = tuple(target.id for target in project.targets if rows.wanted(target.id) <= column.rows)
        cameras.append(
            CameraPlaced(
                room_id=mount.room_id, floor_id=mount.floor_id, x_m=mount.x_m, y_m=mount.y_m, height_m=mount.height_m,
                on=mount.on, bearing_deg=column.bearing_deg, tilt_deg=column.tilt_deg,
                field_deg=column.form.frame.across_deg, model=column.form.line.key, name=column.form.name,
                lens=column.form.lens.key if column.form.lens else "",
                bracket=column.bracket.key if column.bracket else "",
                bracket_name=column.bracket.name if column.bracket else "",
                camera_minor=column.form.price_minor, run_m=run_m, run_minor=run_minor, target_ids=alone,
                drop_id=drop_id,
            )
        )  # fmt: skip
    forms = [(column.form, mount.reach_m) for column, mount in zip(chosen.columns, hung, strict=True)]
    shared = {(column.mount, column.bracket.key): column.bracket for column in chosen.columns if column.bracket}
    return ViewsAnswer(
        aim=aim, cameras=tuple(cameras), proven=chosen.proven,
        price_minor=sum(one.camera_minor + one.run_minor for one in cameras)
        + sum(bracket.price_minor for bracket in shared.values()),
        edits=tuple(_edits(project, cameras, forms)),
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


def _edits(project: Project, cameras: Sequence[CameraPlaced], forms: Sequence[tuple[Form, float]]) -> Iterator[Edit]:
    """What takes an answer, in one step: cameras are moved or made, each with its form and its view."""
    number = project.next_id
    for one, (form, reach_m) in zip(cameras, forms, strict=True):
        frame: dict[str, JsonValue] = {
            "bearing_deg": one.bearing_deg, "tilt_deg": one.tilt_deg, "bracket_m": reach_m, **form.view_fields(),
        }  # fmt: skip
        changes: dict[str, Any] = {
            **form.drop_fields(), "place": one.on, "height_m": one.height_m, "bracket_model": one.bracket or None,
            **NOT_BUILT,
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
