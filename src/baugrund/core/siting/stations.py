"""Where access points meet all goals of Wi-Fi: the fewest, or the least price, and what one, two, three … reach.

Spots are the middles of drawn rooms, a triangular lattice under their ceilings, and where access points stand now.
What each would be received at is followed to every cell that a goal is about.  CP-SAT proves the answers over the
spots and the access points of the price lists that are offered; the airtime of an answer is looked at afterwards, and
one that asks too much of an access point makes room for one more.
"""

from __future__ import annotations

import math
from collections.abc import Generator, Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Any, Literal, NamedTuple, get_args

import numpy as np
import shapely
from numpy.typing import NDArray
from ortools.sat.python import cp_model
from pydantic import field_serializer
from shapely import Polygon

from ..edits import AddDrops, ChangeDrops, DropChanges, Edit, PlaceDrops, RemoveDrops, as_sent
from ..edits.drops import Placed as PutAt
from ..facts.brief import AREA_SHARE_PERCENT, WIFI_GOALS, Goal
from ..facts.catalogue import Catalogue
from ..facts.drop import Drop
from ..facts.fact import Fact
from ..facts.lines.access_point import AccessPoint
from ..facts.project import Project
from ..places.layout import elevations, layout
from ..signal.airtime import airtime
from ..signal.field import Prediction, field_of, in_the_way_db, losses_of, predicted, received_dbm
from ..signal.goals import cells_of, goal_lines, level_of, rooms_of
from ..signal.obstructions import crossings, obstructions
from ..signal.radios import Station, senders_of
from ..standards.radio import AIRTIME_MOST, BANDS
from ..watch import Share
from .costs import NOT_BUILT, closet_for, prices_of_runs

LATTICE_M = 6.0
"""Between two spots of the lattice, *default* [m]."""
SPOTS_MOST = 200
FROM_WALL_M = 0.5
SECONDS, BESIDE_SECONDS = 2.5, 0.5
"""Deterministic time of a search, and of all that is asked beside it."""
LINES_MOST = 3
SEARCHED_MOST = 6
"""Of more access points the most that they reach is not searched for."""
TRIES = 4
"""Answers that are looked at for their airtime."""
StationWish = Literal["fewest", "least_price"]
WISHES: tuple[StationWish, ...] = get_args(StationWish)
Booleans = NDArray[np.bool_]


class StationPlaced(Fact):
    """An access point of an answer."""

    room_id: int
    floor_id: int
    x_m: float
    y_m: float
    height_m: float
    model: str
    name: str
    station_minor: int
    run_m: float
    run_minor: int
    """Cable and hours of its run, pulled alone."""
    drop_id: int | None
    """The access point on the list that would move there; None: it is a new one."""


class StationsAnswer(Fact):
    """Access points that meet all goals that can be met."""

    aim: StationWish
    stations: tuple[StationPlaced, ...]
    price_minor: int
    bound: int
    """No answer has fewer, or costs less [minor]."""
    proven: bool
    fullest: float | None
    """Share of its time that the own clients of the busiest take; None: no clients are known."""
    goes: tuple[int, ...]
    """Access points on the list that are not needed."""
    edits: tuple[Edit, ...]
    """What takes it."""

    @field_serializer("edits")
    def _send(self, edits: tuple[Edit, ...]) -> list[dict[str, Any]]:
        return [as_sent(edit) for edit in edits]


class ReachedAtMost(Fact):
    """What so many access points reach of the goals' cells at the most."""

    stations: int
    share: float
    proven: bool


class BestStations(Fact):
    """The best places for access points, beside what stands."""

    answers: tuple[StationsAnswer, ...]
    at_most: tuple[ReachedAtMost, ...]
    unmet: tuple[int, ...]
    """Goals that no access points meet from any spot."""
    spots: int
    stations: int
    """Access points that stand on the plan now."""
    met_now: tuple[int, ...]
    """Goals that they meet."""
    why_not: str = ""


class Spot(NamedTuple):
    """A place for an access point under a ceiling."""

    room_id: int
    floor_id: int
    x_m: float
    y_m: float
    height_m: float
    z_m: float


@dataclass(frozen=True)
class Column:
    """A model on a spot, and the cells that it reaches."""

    spot: int
    line: AccessPoint
    reaches: Booleans
    price_minor: int


@dataclass(frozen=True)
class Cells:
    """The cells of all goals, and how many of each goal must be reached."""

    of_goal: tuple[tuple[int, int], ...]
    """From which cell to which."""
    needed: tuple[int, ...]


def best_stations(project: Project, catalogue: Catalogue) -> Generator[Share, None, BestStations]:
    """The best places for the access points of a project.  Yields how far it is."""
    prediction = predicted(project, catalogue)
    asked = [goal for goal in project.goals if goal.kind in WIFI_GOALS]
    spots, lines = spots_of(project, prediction), lines_of(catalogue)
    met = tuple(_met_now(project, prediction, asked))
    stands = len(prediction.stations)
    why_not = _nothing(asked, spots, lines, prediction)
    if why_not:
        return BestStations(answers=(), at_most=(), unmet=(), spots=len(spots), stations=stands, met_now=met,
                            why_not=why_not)  # fmt: skip
    yield Share(0.0, "measuring the runs to every spot")
    priced = _run_prices(project, spots)
    columns: list[Column] = []
    for number, spot in enumerate(spots):
        yield Share(0.05 + 0.75 * number / len(spots), f"sending from {project.rooms_by_id[spot.room_id].name}")
        columns += _columns(project, prediction, asked, number, spot, lines, priced[number][1])
    cells = _cells(project, prediction, asked)
    can, unmet = _can_be_met(columns, cells, asked)
    patterns = patterns_of(columns, cells)
    answers = []
    for place, aim in enumerate(WISHES):
        yield Share(0.8 + 0.05 * place, "choosing the fewest" if place == 0 else "choosing the least price")
        chosen = _with_time(project, prediction, spots, columns, can, aim, patterns)
        if chosen is not None:
            answers.append(_answer(project, spots, priced, chosen, aim))
    fewest = len(answers[0].stations) if answers else 0
    at_most = []
    greedy = _greedy(columns, can)
    for count in range(1, fewest + 1):
        yield Share(0.9 + 0.1 * count / fewest, f"what {count} of them would reach")
        at_most.append(_at_most(columns, patterns, greedy, count, BESIDE_SECONDS / fewest))
    return BestStations(answers=tuple(answers), at_most=tuple(at_most), unmet=unmet, spots=len(spots),
                        stations=stands, met_now=met)  # fmt: skip


def _nothing(asked: Sequence[Goal], spots: Sequence[Spot], lines: Sequence[AccessPoint], prediction: Prediction) -> str:
    if not asked:
        return "no goal of Wi-Fi is set: set one in Brief"
    if not prediction.fields or not spots:
        return "no room is drawn under whose ceiling an access point could hang"
    return "" if lines else "the price lists hold no access point for a ceiling in stock"


def lines_of(catalogue: Catalogue) -> tuple[AccessPoint, ...]:
    """Access points for a ceiling in stock, the cheapest first; those that a cheaper one replaces are left out."""
    kept: list[AccessPoint] = []
    able = [
        one for one in catalogue.models if isinstance(one, AccessPoint) and one.in_stock and one.ap_form == "ceiling"
    ]
    for line in sorted(able, key=lambda one: (one.price_minor, one.key)):
        if not any(_replaces(one, line) for one in kept):
            kept.append(line)
    return tuple(kept[:LINES_MOST])


def _replaces(one: AccessPoint, other: AccessPoint) -> bool:
    """Whether one sends as much in every band that the other has, by the same antenna, with as many streams."""
    return one.patterns == other.patterns and all(
        getattr(one, f"streams_{band}") >= getattr(other, f"streams_{band}")
        and (
            not getattr(other, f"streams_{band}")
            or getattr(one, f"power_{band}_dbm") + getattr(one, f"gain_{band}_dbi")
            >= getattr(other, f"power_{band}_dbm") + getattr(other, f"gain_{band}_dbi")
        )
        for band in ("2", "5", "6")
    )


def spots_of(project: Project, prediction: Prediction) -> tuple[Spot, ...]:
    """Spots under the ceilings of drawn rooms: where access points stand, the middles of rooms, a triangular lattice;
    of too many the lattice is wider."""
    raised = elevations(project.floors)
    stand = [
        Spot(
            station.drop.room_id, station.floor_id, station.spot[0], station.spot[1], station.height_m, station.spot[2]
        )
        for station in prediction.stations
    ]
    rooms = [room for room in project.rooms if room.outline and not room.outside]
    step = LATTICE_M
    while True:
        found = dict.fromkeys(stand)
        for room in rooms:
            shape, floor = Polygon(room.outline), project.floors_by_id[room.floor_id]
            inner = shape.buffer(-FROM_WALL_M)
            middle = shape.centroid if shape.contains(shape.centroid) else shape.representative_point()
            for x, y in [(middle.x, middle.y), *_lattice(inner, step)]:
                spot = Spot(
                    room.id, floor.id, round(x, 2), round(y, 2), floor.height_m, raised[floor.id] + floor.height_m
                )
                found[spot] = None
        if len(found) <= SPOTS_MOST or step > 100:
            return tuple(found)[:SPOTS_MOST]
        step *= 1.25


def _lattice(shape: Any, step: float) -> Iterator[tuple[float, float]]:
    """Points of a triangular lattice inside a shape, row by row."""
    if shape.is_empty:
        return
    west, north, east, south = shape.bounds
    for row in range(math.floor(north / (step * math.sqrt(0.75))), math.ceil(south / (step * math.sqrt(0.75))) + 1):
        y = row * step * math.sqrt(0.75)
        for place in range(math.floor(west / step) - 1, math.ceil(east / step) + 1):
            x = (place + row % 2 / 2) * step
            if shapely.contains_xy(shape, x, y):
                yield x, y


def _run_prices(project: Project, spots: Sequence[Spot]) -> list[tuple[float, int]]:
    drops = tuple(
        Drop(
            id=project.next_id + number, room_id=spot.room_id, closet_id=closet_for(project, spot.room_id),
            kind="access_point", place="ceiling", speed_mbit=1000, poe_class=4, x_m=spot.x_m, y_m=spot.y_m,
            height_m=spot.height_m,
        )
        for number, spot in enumerate(spots)
    )  # fmt: skip
    return prices_of_runs(project, drops)


def _cells(project: Project, prediction: Prediction, asked: Sequence[Goal]) -> Cells:
    """All cells of all goals, one goal after another."""
    spans, needed, start = [], [], 0
    for goal in asked:
        count = sum(int(chosen.sum()) for _, chosen in _chosen_cells(project, prediction, goal))
        share = (AREA_SHARE_PERCENT if goal.share_percent is None else goal.share_percent) / 100
        spans.append((start, start + count))
        needed.append(math.ceil(share * count - 1e-9))
        start += count
    return Cells(tuple(spans), tuple(needed))


def _chosen_cells(project: Project, prediction: Prediction, goal: Goal) -> Iterator[tuple[int, Booleans]]:
    """The cells that a goal is about, floor by floor."""
    for floor_id in dict.fromkeys(floor for floor, _ in prediction.fields):
        chosen = cells_of(goal, rooms_of(project, goal), prediction.fields[floor_id, BANDS[0]])
        if chosen.any():
            yield floor_id, chosen


def _columns(
    project: Project, prediction: Prediction, asked: Sequence[Goal], number: int, spot: Spot,
    lines: Sequence[AccessPoint], run_minor: int,
) -> Iterator[Column]:  # fmt: skip
    """Every model on a spot with the cells that it reaches."""
    of, losses = obstructions(project), prediction.losses
    place = (spot.x_m, spot.y_m, spot.z_m)
    floors = dict.fromkeys(floor for goal in asked for floor, _ in _chosen_cells(project, prediction, goal))
    cells = {floor: prediction.fields[floor, BANDS[0]].cells for floor in floors}
    crossed = {floor: crossings(of, place, cells[floor].points) for floor in floors}
    for line in lines:
        senders = _station(project, 0, spot, line).senders
        levels = {
            (floor, sender.band): received_dbm(
                sender, cells[floor].points, in_the_way_db(of, crossed[floor], losses, sender.band)
            )
            for floor in floors
            for sender in senders
        }
        reached: list[Booleans] = []
        for goal in asked:
            for floor, chosen in _chosen_cells(project, prediction, goal):
                best = np.full(int(chosen.sum()), -math.inf)
                for sender in senders:
                    if goal.band in (None, sender.band):
                        best = np.maximum(best, levels[floor, sender.band][chosen])
                reached.append(best >= level_of(goal))
        yield Column(number, line, np.concatenate(reached or [np.zeros(0, np.bool_)]), line.price_minor + run_minor)


def _station(project: Project, number: int, spot: Spot, line: AccessPoint) -> Station:
    """An access point that nobody has listed yet, as its model sends."""
    drop = Drop(
        id=project.next_id + number, room_id=spot.room_id, closet_id=project.head_end.id, kind="access_point",
        speed_mbit=1000,
    )  # fmt: skip
    bare = Station(drop, line, True, spot.floor_id, (spot.x_m, spot.y_m, spot.z_m), spot.height_m, True, ())
    return replace(bare, senders=senders_of(bare, {}, project.settings.region))


def _can_be_met(columns: Sequence[Column], cells: Cells, asked: Sequence[Goal]) -> tuple[Cells, tuple[int, ...]]:
    """What must be reached of the goals that can be met, and the others."""
    every = np.any([column.reaches for column in columns], axis=0)
    meets = [
        int(every[start:end].sum()) >= needed for (start, end), needed in zip(cells.of_goal, cells.needed, strict=True)
    ]
    needed = tuple(n if met else 0 for n, met in zip(cells.needed, meets, strict=True))
    return replace(cells, needed=needed), tuple(goal.id for goal, met in zip(asked, meets, strict=True) if not met)


@dataclass(frozen=True)
class _Chosen:
    columns: tuple[Column, ...]
    bound: int
    proven: bool
    fullest: float | None


class Patterns(NamedTuple):
    """Cells of a goal by which columns reach them: those that the same columns reach are one."""

    reached_by: Booleans
    """A row a pattern, a column a column."""
    cells: NDArray[np.int64]
    """How many cells each is."""


def patterns_of(columns: Sequence[Column], cells: Cells) -> list[Patterns]:
    """The patterns of every goal."""
    reaches = np.array([column.reaches for column in columns]).T
    found = []
    for start, end in cells.of_goal:
        packed, place, count = np.unique(
            np.packbits(reaches[start:end], axis=1), axis=0, return_index=True, return_counts=True
        )
        assert len(packed) == len(place)
        found.append(Patterns(reaches[start:end][place], count))
    return found


class _Model:
    """A choice of columns, one a spot, and which cells they reach; cells that the same columns reach are one row."""

    def __init__(self, columns: Sequence[Column], patterns: Sequence[Patterns]) -> None:
        self.columns, self.model = columns, cp_model.CpModel()
        self.taken = [self.model.new_bool_var("") for _ in columns]
        by_spot: dict[int, list[cp_model.IntVar]] = {}
        for column, flag in zip(columns, self.taken, strict=True):
            by_spot.setdefault(column.spot, []).append(flag)
        for here in by_spot.values():
            self.model.add_at_most_one(here)
        self.counted: list[cp_model.LinearExprT] = []
        flags: dict[bytes, cp_model.IntVar] = {}
        for rows in patterns:
            terms = []
            for pattern, count in zip(rows.reached_by, rows.cells, strict=True):
                key = pattern.tobytes()
                if key not in flags:
                    flags[key] = self.model.new_bool_var("")
                    self.model.add(sum(self.taken[n] for n in np.flatnonzero(pattern)) >= flags[key])
                terms.append(int(count) * flags[key])
            self.counted.append(sum(terms))

    def hint(self, found: Sequence[Column]) -> None:
        """Begin from these columns."""
        self.model.clear_hints()  # type: ignore[no-untyped-call]
        chosen = {id(column) for column in found}
        for column, flag in zip(self.columns, self.taken, strict=True):
            self.model.add_hint(flag, id(column) in chosen)

    def solve(self, seconds: float = SECONDS) -> tuple[tuple[Column, ...] | None, int, bool]:
        """The columns taken, the bound of what was asked for, and whether it is proven; ``seconds``: deterministic."""
        solver = cp_model.CpSolver()
        solver.parameters.num_workers = 1
        solver.parameters.linearization_level = 2
        solver.parameters.max_deterministic_time = seconds
        state = solver.solve(self.model)
        if state not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
            return None, 0, state == cp_model.INFEASIBLE
        found = tuple(c for c, flag in zip(self.columns, self.taken, strict=True) if solver.value(flag))
        return found, math.ceil(solver.best_objective_bound - 1e-6), state == cp_model.OPTIMAL


def choose(
    columns: Sequence[Column], cells: Cells, aim: StationWish, least: int, patterns: Sequence[Patterns] | None = None
) -> _Chosen | None:
    """The columns that reach what every goal needs, ``least`` of them at the least: the fewest and of those the
    cheapest, or the other way round."""
    if not any(cells.needed):
        return None
    model = _Model(columns, patterns_of(columns, cells) if patterns is None else patterns)
    for counted, needed in zip(model.counted, cells.needed, strict=True):
        if needed:
            model.model.add(counted >= needed)
    count = sum(model.taken)
    price = cp_model.LinearExpr.weighted_sum(model.taken, [column.price_minor for column in columns])
    model.model.add(count >= least)
    if aim == "fewest":
        model.model.minimize(count)
    else:
        model.model.minimize(price)
    model.hint(_greedy(columns, cells))
    found, bound, proven = model.solve(SECONDS if aim == "fewest" else SECONDS / 2)
    if found is None:
        return None
    if aim == "fewest":
        model.model.add(count <= len(found))
        model.model.minimize(price)
    else:
        model.model.add(price <= sum(column.price_minor for column in found))
        model.model.minimize(count)
    model.hint(found)
    best, _, is_best = model.solve(BESIDE_SECONDS)
    return _Chosen(best or found, bound, proven and is_best, None)


def _greedy(columns: Sequence[Column], cells: Cells) -> list[Column]:
    """Columns one after another, each the one that reaches most of what goals still need."""
    reaches = np.array([column.reaches for column in columns], dtype=np.float64)
    left = np.ones(reaches.shape[1])
    needs = np.array(cells.needed, dtype=np.float64)
    spans = [slice(*span) for span in cells.of_goal]
    found: list[Column] = []
    while needs.max(initial=0) > 0:
        gain = np.zeros(len(columns))
        for span, need in zip(spans, needs, strict=True):
            gain += np.minimum(reaches[:, span] @ left[span], max(need, 0.0))
        best = int(np.argmax(gain))
        if gain[best] <= 0:
            break
        found.append(columns[best])
        for n, span in enumerate(spans):
            needs[n] -= float(reaches[best, span] @ left[span])
        left[reaches[best] > 0] = 0
    return found


def _with_time(
    project: Project, prediction: Prediction, spots: Sequence[Spot], columns: Sequence[Column], cells: Cells,
    aim: StationWish, patterns: Sequence[Patterns],
) -> _Chosen | None:  # fmt: skip
    """The choice whose access points have time for their own clients: one more as long as they have not."""
    least, chosen = 1, None
    for _ in range(TRIES):
        found = choose(columns, cells, aim, least, patterns)
        if found is None:
            return chosen
        fullest = _fullest(project, prediction, spots, found.columns) if project.clients else None
        chosen = replace(found, fullest=fullest)
        if fullest is None or fullest <= AIRTIME_MOST:
            return chosen
        least = len(found.columns) + 1
    return replace(chosen, proven=False) if chosen else None


def _fullest(
    project: Project, prediction: Prediction, spots: Sequence[Spot], columns: Sequence[Column]
) -> float | None:
    """Share of its time that the own clients of the busiest of these access points take."""
    around = tuple(_station(project, n, spots[column.spot], column.line) for n, column in enumerate(columns))
    losses = losses_of(project)
    fields = {
        key: field for key in prediction.fields
        if (field := field_of(project, around, key[0], key[1], prediction.step_m, losses)) is not None
    }  # fmt: skip
    told = airtime(project, replace(prediction, stations=around, fields=fields))
    return max((line.own for line in told.radios), default=None)


def _at_most(
    columns: Sequence[Column], patterns: Sequence[Patterns], greedy: Sequence[Column], count: int, seconds: float
) -> ReachedAtMost:
    """The most cells that so many access points reach; of many what is found one after another, not proven."""
    if count > SEARCHED_MOST:
        return ReachedAtMost(stations=count, share=round(_reached(greedy[:count]), 4), proven=False)
    model = _Model(columns, patterns)
    model.model.add(sum(model.taken) <= count)
    model.model.maximize(sum(model.counted))
    model.hint(greedy[:count])
    found, _, proven = model.solve(seconds)
    best = max((greedy[:count], found or ()), key=_reached)
    return ReachedAtMost(stations=count, share=round(_reached(best), 4), proven=proven and found is not None)


def _reached(columns: Sequence[Column]) -> float:
    """Share of all cells that some columns reach."""
    if not columns:
        return 0.0
    return float(np.any([column.reaches for column in columns], axis=0).mean())


def _met_now(project: Project, prediction: Prediction, asked: Sequence[Goal]) -> Iterator[int]:
    wanted = {goal.id for goal in asked}
    return (line.goal_id for line in goal_lines(project, prediction) if line.met and line.goal_id in wanted)


def _answer(
    project: Project, spots: Sequence[Spot], priced: Sequence[tuple[float, int]], chosen: _Chosen, aim: StationWish
) -> StationsAnswer:
    moved = _who_moves(project, [spots[column.spot] for column in chosen.columns])
    placed = []
    for column, drop_id in zip(chosen.columns, moved, strict=True):
        spot, (run_m, run_minor) = spots[column.spot], priced[column.spot]
        placed.append(
            StationPlaced(
                room_id=spot.room_id, floor_id=spot.floor_id, x_m=spot.x_m, y_m=spot.y_m, height_m=spot.height_m,
                model=column.line.key, name=column.line.name, station_minor=column.line.price_minor, run_m=run_m,
                run_minor=run_minor, drop_id=drop_id,
            )
        )  # fmt: skip
    listed = [drop.id for drop in project.drops if drop.kind == "access_point" and drop.in_use]
    goes = tuple(number for number in listed if number not in moved)
    lines = {column.line.key: column.line for column in chosen.columns}
    return StationsAnswer(
        aim=aim, stations=tuple(placed), price_minor=sum(one.station_minor + one.run_minor for one in placed),
        bound=chosen.bound, proven=chosen.proven, fullest=chosen.fullest, goes=goes,
        edits=tuple(_edits(placed, lines, goes)),
    )  # fmt: skip


def _who_moves(project: Project, spots: Sequence[Spot]) -> list[int | None]:
    """For every spot the access point on the list that is nearest to it on its floor, each once; None: a new one."""
    listed = {drop.id for drop in project.drops if drop.kind == "access_point" and drop.in_use}
    pairs = sorted(
        (math.dist((spot.x_m, spot.y_m), (at.x_m, at.y_m)), number, at.id)
        for number, spot in enumerate(spots)
        for at in layout(project).drops
        if at.id in listed and at.floor_id == spot.floor_id
    )
    moved: list[int | None] = [None] * len(spots)
    for _, number, drop_id in pairs:
        if moved[number] is None and drop_id not in moved:
            moved[number] = drop_id
    return moved


def _edits(placed: Sequence[StationPlaced], lines: dict[str, AccessPoint], goes: tuple[int, ...]) -> Iterator[Edit]:
    """What takes an answer, in one step: access points are moved or made, and those that are not needed go."""
    for one in placed:
        line = lines[one.model]
        changes: dict[str, Any] = {
            "variant": "ceiling", "place": "ceiling", "height_m": one.height_m, "poe_class": line.poe_class,
            "draw_w": line.draw_w, "speed_mbit": line.port_mbit, "model": line.key, **NOT_BUILT,
        }  # fmt: skip
        if one.drop_id is None:
            put = DropChanges.model_validate({**changes, "x_m": one.x_m, "y_m": one.y_m})
            yield AddDrops(room=one.room_id, kind="access_point", changes=put)
        else:
            yield PlaceDrops(places=(PutAt(id=one.drop_id, room_id=one.room_id, x_m=one.x_m, y_m=one.y_m),))
            yield ChangeDrops(ids=(one.drop_id,), changes=DropChanges.model_validate(changes))
    if goes:
        yield RemoveDrops(ids=goes)
