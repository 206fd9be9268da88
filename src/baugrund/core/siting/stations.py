"""Where access points meet all goals of Wi-Fi: the fewest, or the least price, and what one, two, three … reach.

Spots are the middles of drawn rooms, a triangular lattice under their ceilings, walls of houses towards yards and
gardens, walls of rooms where the project asks for them, and where access points stand now.
What each would be received at is followed to every cell that a goal is about.  CP-SAT proves the answers over the
spots and the access points of the price lists that are offered; the airtime of an answer is looked at afterwards, and
one that asks too much of an access point makes room for one more.
"""

from __future__ import annotations

import math
from collections.abc import Generator, Iterator, Sequence
from dataclasses import replace
from typing import Any, get_args

from pydantic import field_serializer

from ..edits import AddDrops, ChangeDrops, DropChanges, Edit, PlaceDrops, RemoveDrops, as_sent
from ..edits.drops import Placed as PutAt
from ..facts.brief import WIFI_GOALS, Goal
from ..facts.catalogue import Catalogue
from ..facts.drop import Drop
from ..facts.fact import Fact
from ..facts.lines.access_point import AccessPoint, AccessPointForm
from ..facts.project import Project
from ..places.layout import layout
from ..signal.airtime import airtime
from ..signal.field import Prediction, field_of, losses_of, predicted
from ..signal.goals import goal_lines
from ..standards.radio import AIRTIME_MOST
from ..watch import Share
from .choosing import (
    BESIDE_SECONDS,
    Chosen,
    Patterns,
    Start,
    StationWish,
    choose,
    greedy_choice,
    most_reached,
    patterns_of,
    smallest,
)
from .costs import NOT_BUILT, closet_for, prices_of_runs
from .reached import Cells, Column, Spot, can_be_met, cells_asked, columns_on, forms_of, lines_of, spots_of, station_on

PLACES: dict[AccessPointForm, str] = {"ceiling": "ceiling", "wall": "wall", "in_wall": "wall", "outdoor": "wall"}
TRIES = 4
"""Answers that are looked at for their airtime."""
WISHES: tuple[StationWish, ...] = get_args(StationWish)


class StationPlaced(Fact):
    """An access point of an answer."""

    room_id: int
    floor_id: int
    x_m: float
    y_m: float
    height_m: float
    on: AccessPointForm
    bearing_deg: float
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


def best_stations(project: Project, catalogue: Catalogue) -> Generator[Share, None, BestStations]:
    """The best places for the access points of a project.  Yields how far it is."""
    prediction = predicted(project, catalogue)
    asked = [goal for goal in project.goals if goal.kind in WIFI_GOALS]
    spots, lines = spots_of(project, prediction), lines_of(catalogue, forms_of(project))
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
        columns += columns_on(project, prediction, asked, number, spot, lines, priced[number][1])
    cells = cells_asked(project, prediction, asked)
    can, unmet = can_be_met(columns, cells, asked)
    patterns = patterns_of(columns, cells)
    answers = []
    start = smallest(columns, can, patterns)
    for place, aim in enumerate(WISHES):
        yield Share(0.8 + 0.05 * place, "choosing the fewest" if place == 0 else "choosing the least price")
        chosen = _with_time(project, prediction, spots, columns, can, aim, patterns, start)
        if chosen is not None:
            answers.append(_answer(project, spots, priced, chosen, aim))
    fewest = len(answers[0].stations) if answers else 0
    at_most = []
    greedy = greedy_choice(columns, can)
    for count in range(1, fewest + 1):
        yield Share(0.9 + 0.1 * count / fewest, f"what {count} of them would reach")
        share, proven = most_reached(columns, patterns, greedy, count, BESIDE_SECONDS / fewest)
        at_most.append(ReachedAtMost(stations=count, share=round(share, 4), proven=proven))
    return BestStations(answers=tuple(answers), at_most=tuple(at_most), unmet=unmet, spots=len(spots),
                        stations=stands, met_now=met)  # fmt: skip


def _nothing(asked: Sequence[Goal], spots: Sequence[Spot], lines: Sequence[AccessPoint], prediction: Prediction) -> str:
    if not asked:
        return "no goal of Wi-Fi is set: set one in Brief"
    if not prediction.fields or not spots:
        return "no room is drawn under whose ceiling an access point could hang"
    return "" if lines else "the price lists hold no access point in stock that could hang there"


def _run_prices(project: Project, spots: Sequence[Spot]) -> list[tuple[float, int]]:
    drops = tuple(
        Drop(
            id=project.next_id + number, room_id=spot.room_id, closet_id=closet_for(project, spot.room_id),
            kind="access_point", place=PLACES[spot.on], speed_mbit=1000, poe_class=4, x_m=spot.x_m, y_m=spot.y_m,
            height_m=spot.height_m, outdoor_jacket=spot.on == "outdoor",
        )
        for number, spot in enumerate(spots)
    )  # fmt: skip
    return prices_of_runs(project, drops)


def _with_time(
    project: Project, prediction: Prediction, spots: Sequence[Spot], columns: Sequence[Column], cells: Cells,
    aim: StationWish, patterns: Sequence[Patterns], start: Start,
) -> Chosen | None:  # fmt: skip
    """The choice whose access points have time for their own clients: one more as long as they have not."""
    least, chosen = 1, None
    for _ in range(TRIES):
        found = choose(columns, cells, aim, least, patterns, start)
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
    around = tuple(station_on(project, n, spots[column.spot], column.line) for n, column in enumerate(columns))
    losses = losses_of(project)
    fields = {
        key: field for key in prediction.fields
        if (field := field_of(project, around, key[0], key[1], prediction.step_m, losses)) is not None
    }  # fmt: skip
    told = airtime(project, replace(prediction, stations=around, fields=fields))
    return max((line.own for line in told.radios), default=None)


def _met_now(project: Project, prediction: Prediction, asked: Sequence[Goal]) -> Iterator[int]:
    wanted = {goal.id for goal in asked}
    return (line.goal_id for line in goal_lines(project, prediction) if line.met and line.goal_id in wanted)


def _answer(
    project: Project, spots: Sequence[Spot], priced: Sequence[tuple[float, int]], chosen: Chosen, aim: StationWish
) -> StationsAnswer:
    moved = _who_moves(project, [spots[column.spot] for column in chosen.columns])
    placed = []
    for column, drop_id in zip(chosen.columns, moved, strict=True):
        spot, (run_m, run_minor) = spots[column.spot], priced[column.spot]
        placed.append(
            StationPlaced(
                room_id=spot.room_id, floor_id=spot.floor_id, x_m=spot.x_m, y_m=spot.y_m, height_m=spot.height_m,
                on=spot.on, bearing_deg=spot.bearing_deg, model=column.line.key, name=column.line.name,
                station_minor=column.line.price_minor, run_m=run_m,
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
            "variant": one.on, "place": PLACES[one.on], "height_m": one.height_m, "poe_class": line.poe_class,
            "bearing_deg": one.bearing_deg,
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
